using System.Collections.Immutable;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Kit;

/// <summary>How a technician works: the same plan is worded for either.</summary>
public enum School
{
    /// <summary>An appliance tester or medical safety analyser with an outlet for the item.</summary>
    ApplianceTester,

    /// <summary>A multifunction or insulation tester with two probes.</summary>
    Meter,
}

/// <summary>One thing an instrument measures.</summary>
/// <param name="Resolution">One count of its display at the limit, in SI; null when it is not known.</param>
/// <param name="TestCurrent">Of an earth test; null when it is not known.</param>
public sealed record InstrumentFunction(Test Test, Quantity? Resolution = null, Amperes? TestCurrent = null);

/// <summary>What a technician measures with, as far as it decides wording and what is possible.</summary>
/// <param name="Functions">Empty: everything its school can do.</param>
public sealed record Instrumentation(School School, ImmutableArray<InstrumentFunction> Functions)
{
    /// <summary>An appliance tester that does everything.</summary>
    public static readonly Instrumentation Tester = new(School.ApplianceTester, []);

    public static readonly Instrumentation Meter = new(School.Meter, []);

    /// <summary>What a device delivers, not how safe it is: where two instruments serve one job, these are the performance
    /// analyser's.</summary>
    public static readonly SetOf<Test> OfPerformance = SetOf<Test>.Of(
        Test.PadPath,
        Test.DefibEnergy,
        Test.DefibCharge,
        Test.DefibSync,
        Test.EcgAmplitude
    );

    private static readonly SetOf<Test> BeyondAMeter = SetOf<Test>.Of(
        Test.Leakage,
        Test.RcdTrip,
        Test.DefibEnergy,
        Test.DefibCharge,
        Test.DefibSync,
        Test.EcgAmplitude
    );

    public InstrumentFunction? Of(Test test)
    {
        foreach (var function in Functions)
            if (function.Test == test)
                return function;
        return null;
    }

    /// <summary>Why it cannot measure this: then the step is recorded as not measured, never silently passed. Null when it can.</summary>
    /// <param name="isByClamp">A leakage clamp reads it, whatever else is in hand.</param>
    public string? Lacks(Test test, bool isByClamp = false)
    {
        if (!test.HasFigure())
            return null;
        if (!Functions.IsEmpty)
            return Of(test) is null ? "not measured: the instrument has no such function" : null;
        return School == School.Meter && !isByClamp && BeyondAMeter.Has(test)
            ? "not measured: beyond an insulation or multifunction tester"
            : null;
    }
}

/// <summary>What is answered and what is read.</summary>
public static class TestKinds
{
    /// <summary>An instrument reads a figure; of the others eye and hand say good or bad.</summary>
    public static bool HasFigure(this Test test) => test is not (Test.Polarity or Test.Wiring or Test.Functional);
}

/// <summary>Whether an instrument is fine enough, and drives enough current, for the limit it is to be held against.</summary>
public static class Suitability
{
    /// <param name="rated">Of the item, where it is known.</param>
    /// <returns>What is wrong, or null. Told before it is used.</returns>
    public static string? Trouble(InstrumentFunction function, ResolvedLimit? limit, RulePack pack, Amperes? rated = null) =>
        Trouble(function, limit?.Value, pack, rated);

    /// <inheritdoc cref="Trouble(InstrumentFunction, ResolvedLimit?, RulePack, Amperes?)"/>
    public static string? Trouble(InstrumentFunction function, Quantity? limit, RulePack pack, Amperes? rated = null)
    {
        if (
            function is { Test: Test.EarthContinuity, TestCurrent: { } current }
            && pack.EarthCurrent?.NotReached(current, rated) is { Asked: var asked }
        )
            return $"tests with {QuantityText.Show(current)}; {pack.ShortName} asks for at least {QuantityText.Show(asked)}";
        return function.Resolution is { } resolution && limit is { } value && TooCoarse(resolution, value, pack.Thresholds)
            ? $"reads in steps of {resolution}, too coarse for a limit of {value}"
            : null;
    }

    /// <summary>Resolution worse than a tenth of the limit.</summary>
    public static bool TooCoarse(Quantity resolution, Quantity limit, Thresholds rules) =>
        Comparison.Above(resolution.Si, rules.InstrumentStep * limit.Si);
}
