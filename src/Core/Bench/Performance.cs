using System.Collections.Immutable;
using Osierwand.Core.Kit;

namespace Osierwand.Core.Bench;

/// <summary>What a defibrillator delivers, beside how safe it is: measured in the same job, or owed.</summary>
internal static class Performance
{
    /// <summary>A device can pass for its safety alone; then its performance stays due, and the paper says so.</summary>
    /// <returns>Null where nothing of it is owed.</returns>
    public static string? NotMeasured(ImmutableArray<StepState> steps)
    {
        var open = Steps(steps).Where(step => !IsRead(step)).Select(step => step.Step.Name).Distinct().ToArray();
        return open.Length == 0 ? null : $"Performance not measured: {string.Join(", ", open)}. It stays due for that.";
    }

    /// <summary>All that a defibrillator is to deliver was read.</summary>
    public static bool IsMeasured(BenchState state) => Steps(state.Steps).All(IsRead);

    private static IEnumerable<StepState> Steps(ImmutableArray<StepState> steps) =>
        steps.Where(step => step.Step is SheetStep.Measure { Plan.Test: var test } && Instrumentation.OfPerformance.Has(test));

    private static bool IsRead(StepState step) => step.Standing is Standing.Pass or Standing.Advice or Standing.Fail or Standing.Overridden;
}
