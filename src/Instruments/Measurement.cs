using System.Collections.Immutable;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Outlets;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Instruments;

/// <summary>One measurement as asked of an instrument.</summary>
/// <param name="Under">What is measured, between what, under which condition.</param>
/// <param name="Supply">What the item is meant to run on; leakage and trip times are measured with it.</param>
/// <param name="Hertz">Of the supply: 50 or 60.</param>
/// <param name="TestVolts">Of an insulation test.</param>
/// <param name="Seconds">How long the reading is held before it counts, from 0 to 600.</param>
/// <param name="RcdAmperes">Rated residual current of what is tripped; null for every other test.</param>
public sealed record MeasurementRequest(
    Conditions Under,
    OutletSupply Supply,
    double Hertz = 50,
    double TestVolts = 500,
    double Seconds = 1,
    double? RcdAmperes = null
)
{
    /// <summary>So many discharges are watched and counted; 0 where one is measured.</summary>
    public int Count { get; init; }

    /// <summary>Before anything is put on the item: the probe must find no path to earth, as what it lies on should be insulated.</summary>
    public bool GuardsProbe { get; init; }

    public Test Test => Under.Test;
}

/// <summary>What an instrument shows: a value with its unit, or good or bad.</summary>
/// <param name="Mains">Volts supplied while measuring; null for dead tests.</param>
/// <param name="LoadAmperes">Drawn by the item while it is powered; null for dead tests.</param>
public sealed record InstrumentReading(
    Test Test,
    Measured? Value,
    bool? Ok = null,
    bool? Tripped = null,
    double? Mains = null,
    double? LoadAmperes = null
)
{
    /// <summary>What is wrong with a lead's conductors; null where nothing is, or where it was not asked.</summary>
    public ConductorFault? Found { get; init; }

    /// <summary>In a dead test with the mains pins joined: whether anything is connected between L and N at all. Null where the
    /// instrument did not look.</summary>
    public bool? PathSeen { get; init; }

    /// <summary>The smallest and the largest since the start, where an instrument keeps them: an earth path while its flex is
    /// moved.</summary>
    public Measured? Least { get; init; }

    public Measured? Most { get; init; }

    /// <summary>Of a current between connections, which cycles through all of them: where the largest flows, "connection 1 to
    /// connection 3". Null where there is but one place.</summary>
    public string? Spot { get; init; }

    /// <summary>Of discharges that are watched: how many were seen. Null where none is counted.</summary>
    public int? Counted { get; init; }

    /// <summary>What it shows beside the figure, in words: "charging", "the first phase is negative".</summary>
    public string? Said { get; init; }

    /// <summary>What it drew, once and with the reading; null where it draws nothing.</summary>
    public Waveform? Waveform { get; init; }
}

/// <summary>What comes from a running measurement: the display as it moves, and once, last, the reading.</summary>
/// <param name="Reading">Null while the value still moves.</param>
/// <param name="Elapsed">Seconds since the start.</param>
/// <param name="IsSettled">The display has come to rest: a capacitor is charged, a start-up is over.</param>
/// <param name="At">When the instrument showed it, by its own clock; null where it does not say.</param>
public sealed record InstrumentReport(
    InstrumentReading Showing,
    InstrumentReading? Reading,
    double Elapsed,
    bool IsSettled = true,
    DateTimeOffset? At = null
);

/// <summary>One range of one test, as the instrument states it.</summary>
/// <param name="From">Smaller values are shown as a bound. In the range's own unit.</param>
/// <param name="To">Larger values are shown in the next range, or as a bound.</param>
/// <param name="Step">One count of the display.</param>
/// <param name="Percent">Of the reading.</param>
/// <param name="Digits">Counts of the last digit.</param>
/// <param name="TestAmperes">Of an earth test: what it drives through a short.</param>
public sealed record InstrumentRange(
    Test Test,
    double From,
    double To,
    double Step,
    Unit Unit,
    double Percent,
    double Digits,
    double? TestAmperes = null
);

/// <summary>Who an instrument says it is.</summary>
/// <param name="Functions">The tests it can measure, by their contract words; leakage with its kind: "leakage/touch".</param>
/// <param name="Ranges">Empty where it does not say.</param>
public sealed record InstrumentIdentity(
    string Name,
    string Serial,
    string Firmware,
    ImmutableArray<string> Functions,
    ImmutableArray<InstrumentRange> Ranges
);
