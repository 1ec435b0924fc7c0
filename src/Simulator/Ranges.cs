using System.Collections.Immutable;
using Osierwand.Core.Kit;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments;

namespace Osierwand.Simulator;

/// <summary>What the simulated instruments can show: its ranges, with their steps and stated accuracy, and its ends.</summary>
public static class Ranges
{
    public static readonly ImmutableArray<InstrumentRange> All =
    [
        new(Test.EarthContinuity, 0, 3, 0.001, Unit.Ohm, 3, 2, TestAmperes: 0.2),
        new(Test.EarthContinuity, 3, 24, 0.01, Unit.Ohm, 3, 2, TestAmperes: 0.2),
        new(Test.Insulation, 0.01, 60, 0.01, Unit.Megohm, 5, 2),
        new(Test.Insulation, 60, 640, 1, Unit.Megohm, 10, 2),
        new(Test.Leakage, 0, 900, 1, Unit.Microampere, 3, 2),
        new(Test.Leakage, 0.9, 18, 0.01, Unit.Milliampere, 3, 2),
        new(Test.RcdTrip, 1, 2000, 1, Unit.Millisecond, 1, 2),
        new(Test.PadPath, 0, 20, 0.01, Unit.Ohm, 2, 2),
        new(Test.DefibEnergy, 0, 640, 0.1, Unit.Joule, 1, 3),
        new(Test.DefibCharge, 0, 90, 0.1, Unit.Second, 0.1, 1),
        new(Test.DefibSync, 0, 480, 1, Unit.Millisecond, 0.5, 1),
        new(Test.EcgAmplitude, 0, 12, 0.01, Unit.Millivolt, 1, 1),
    ];

    /// <summary>Those of one instrument.</summary>
    public static ImmutableArray<InstrumentRange> Of(InstrumentRole role) =>
        [.. All.Where(range => Instrumentation.OfPerformance.Has(range.Test) == (role == InstrumentRole.Performance))];

    /// <summary>As the display shows it: in the first range that holds it, or as a bound where none does.</summary>
    /// <param name="si">In the SI unit; a resistance may be a little below nothing, and infinite.</param>
    public static Measured Show(Test test, double si)
    {
        InstrumentRange? last = null;
        foreach (var range in All)
        {
            if (range.Test != test)
                continue;
            var value = si / range.Unit.Factor;
            if (last is null && value < range.From && range.From > 0)
                return new(range.From, range.Unit, Qualifier.Below);
            if (value <= range.To)
                return new(Math.Round(Math.Round(value / range.Step) * range.Step, 6), range.Unit);
            last = range;
        }
        return last is null
            ? throw new ArgumentOutOfRangeException(nameof(test), test, "It has no range.")
            : new(last.To, last.Unit, Qualifier.Above);
    }
}
