using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Instruments.Simulation;

/// <summary>An edit of the healthy circuit.</summary>
public enum Defect
{
    None,
    OpenEarth,
    HighBond,
    DampInsulation,
    SwitchOff,
    BlownFuse,
    OpenLine,
    OpenNeutral,
    CrossedLineAndNeutral,
    LineNeutralShort,
    CaseTouchesEarth,
    AgedFilter,
    SlowRcd,
}

/// <summary>What is true inside one item, in ohm, farad and watt. A tester sees only what flows through the circuit made of it.</summary>
public sealed record HiddenState
{
    private const double OldestYears = 4.5;

    /// <summary>A joint that works loose settles, mostly short of a failure: whatever the day, some items stand near their limit.</summary>
    private const double SettledOhm = 0.07;

    public required Item Item { get; init; }
    public double FlexOhmPerConductor { get; init; }

    /// <summary>From the end of the flex's earth conductor to the accessible metal.</summary>
    public double BondOhm { get; init; } = 0.01;
    public double InsulationOhm { get; init; } = 500e6;
    public double FilterLineFarad { get; init; }
    public double FilterNeutralFarad { get; init; }

    /// <summary>Capacitance from live parts to the accessible metal across double insulation.</summary>
    public double CaseFarad { get; init; } = 30e-12;
    public double RatedWatt { get; init; }

    /// <summary>Trip time in seconds at the rated residual current.</summary>
    public double RcdSeconds { get; init; } = 0.026;
    public Defect Defect { get; init; }

    /// <summary>
    /// The item as made and as aged until a day: the same tag on the same day is always the same item. A share of items has a joint that
    /// works loose, damp insulation or an ageing filter, so that histories hold trends.
    /// </summary>
    /// <param name="made">When it was new.</param>
    /// <param name="day">Whose wear it shows; a day before it was made shows none.</param>
    public static HiddenState Of(Item item, string tag, DateOnly made, DateOnly day)
    {
        var dice = new Random(Seed(tag));
        var power = item.RatedPower?.Value ?? (item.RatedCurrent?.Value ?? 0.3) * (item.RatedVoltage?.Value ?? 230);
        var filtered = !item.Heating && item.Use is UseOf.It or UseOf.Stationary or UseOf.Movable;
        var filter = filtered ? 0.5e-9 + 2e-9 * dice.NextDouble() : 0.05e-9 + 0.25e-9 * dice.NextDouble();
        // Mineral-filled elements leak a little more for every kilowatt.
        if (item.Heating)
            filter += 0.8e-9 * power / 1000;
        // An item that old has been replaced by one like it: the demo must not wear out as a whole.
        var years = Math.Clamp((day.DayNumber - made.DayNumber) / 365.25, 0, OldestYears);
        var loosening = dice.NextDouble() < 0.14 ? 0.012 + 0.018 * dice.NextDouble() : 0.0008 * dice.NextDouble();
        var damping = dice.NextDouble() < 0.08 ? 0.4 : 0.97;
        var ageing = dice.NextDouble() < 0.06 ? 0.25 : 0.01;
        var state = new HiddenState
        {
            Item = item,
            RatedWatt = power,
            FlexOhmPerConductor = Flex(item),
            BondOhm = 0.006 + 0.02 * dice.NextDouble() + Math.Min(loosening * years, SettledOhm),
            InsulationOhm = Math.Exp(Math.Log(15e6) + dice.NextDouble() * Math.Log(60)) * Math.Pow(damping, years),
            FilterLineFarad = filter * (1 + ageing * years),
            FilterNeutralFarad = filter * (0.9 + 0.2 * dice.NextDouble()),
            CaseFarad = 20e-12 + 120e-12 * dice.NextDouble(),
            RcdSeconds = 0.018 + 0.014 * dice.NextDouble(),
        };
        return state;
    }

    /// <summary>With one thing wrong.</summary>
    public HiddenState With(Defect defect) =>
        defect switch
        {
            Defect.HighBond => this with { Defect = defect, BondOhm = 0.35 + 10 * FlexOhmPerConductor },
            Defect.DampInsulation => this with { Defect = defect, InsulationOhm = 0.18e6 },
            Defect.AgedFilter => this with { Defect = defect, FilterLineFarad = 60e-9 },
            Defect.SlowRcd => this with { Defect = defect, RcdSeconds = 0.36 },
            _ => this with { Defect = defect },
        };

    private static double Flex(Item item) => ConductorResistance.Of(item.Cord, PackLibrary.Find("uk-cop-5")!)?.Value.Value ?? 0.02;

    /// <summary>The framework's string hash changes with every process; this one does not.</summary>
    private static int Seed(string text) => text.Aggregate(17, (hash, character) => unchecked(hash * 31 + character));
}
