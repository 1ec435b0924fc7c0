using Osierwand.Simulator;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>Which simulated items have a fault today, so that a demo round finds some. A real instrument never hears of it.</summary>
internal static class DemoFaults
{
    private const int OneIn = 19;
    private const int QuietDays = 20;

    public static Fault For(RegisterItem item, TimeProvider time)
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var lately = item.LastTestedOn is { } last && today.DayNumber - last.DayNumber < QuietDays;
        var dice = item.Tag.Aggregate(7, (hash, character) => unchecked(hash * 37 + character)) & int.MaxValue;
        // What was never tested is as it was made: no history could tell of a fault.
        return item.LastTestedOn is null || lately || dice % OneIn != 0 ? Fault.None : Suited(item.Equipment, dice / OneIn);
    }

    /// <summary>A fault that this kind of item can have.</summary>
    public static Fault Suited(Core.Equipment.Item item, int dice)
    {
        Fault[] faults = item switch
        {
            { Kind: Core.Equipment.ItemKind.PortableRcd } => [Fault.SlowRcd],
            { IsCord: true } => [Fault.OpenEarth, Fault.CrossedLineAndNeutral, Fault.HighBond, Fault.DampInsulation],
            { Class: Core.Equipment.ProtectionClass.I } => [Fault.HighBond, Fault.OpenEarth, Fault.DampInsulation],
            _ => [Fault.DampInsulation],
        };
        return faults[dice % faults.Length];
    }
}
