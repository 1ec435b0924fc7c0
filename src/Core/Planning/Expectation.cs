using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>What a reading can be expected to be before it is taken, where plate and flex say it. Never a limit: a reading far from it asks
/// why.</summary>
public static class Expectation
{
    /// <returns>A short line: "its copper alone: 0.0156 Ω"; null where nothing can be worked out.</returns>
    public static string? Of(RulePack pack, Item item, Conditions under) =>
        under switch
        {
            Conditions.EarthContinuity { Part: EarthPart.DeviceWithCord or EarthPart.CordAlone } earth => Copper(pack, item, earth),
            Conditions.Leakage { Method: not LeakageMethod.Alternative, Power: PowerState.On, Neutral: ConductorState.Closed } => LoadOf(
                item
            )
                is { } load
                ? $"load near {QuantityText.Show(load)}"
                : null,
            _ => null,
        };

    /// <summary>25 m of 1.5 mm² are 0.3325 Ω one way, 0.665 Ω out by the line and back by the protective conductor.</summary>
    private static string? Copper(RulePack pack, Item item, Conditions.EarthContinuity under)
    {
        if (ConductorResistance.Of(item.Cord, pack)?.Value is not { } conductor)
            return null;
        return under.Path == EarthPath.Loop
            ? $"its copper alone, out and back: {QuantityText.Show(2 * conductor)}"
            : $"its copper alone: {QuantityText.Show(conductor)}";
    }

    /// <summary>By the plate: amperes as they stand, or watts by volts; of three phases in each line.</summary>
    public static Amperes? LoadOf(Item item) =>
        !HasLoad(item) ? null
        : item.RatedCurrent is { } amperes ? amperes
        : item is { RatedPower: { Value: > 0 } power, RatedVoltage: { Value: > 0 } volts }
            ? new(power.Value / volts.Value / (item.Phases == 3 ? Math.Sqrt(3) : 1))
        : null;

    /// <summary>A lead and an RCD draw nothing by themselves.</summary>
    public static bool HasLoad(Item item) => !item.IsCord && item.Kind != ItemKind.PortableRcd;
}
