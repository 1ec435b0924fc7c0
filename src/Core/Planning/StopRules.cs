using System.Collections.Immutable;
using Osierwand.Core.Judging;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>
/// What an outcome stops: a failed look or earth path stops everything after it, failed insulation stops whatever powers the item.
/// A voided reading and one that was repeated and passed stop nothing.
/// </summary>
public static class StopRules
{
    /// <returns>For each stopped step of the plan its key and why.</returns>
    public static ImmutableDictionary<string, string> Stopped(Plan plan, Look look, IReadOnlyCollection<Judgement> results)
    {
        var stopped = ImmutableDictionary.CreateBuilder<string, string>();
        for (var at = 0; at < plan.Steps.Length; at++)
        {
            var step = plan.Steps[at];
            var why = Failure(step, look, results);
            if (why is null) continue;
            foreach (var later in plan.Steps.Skip(at + 1).Where(later => step.Stops.Contains(later.Test)))
                stopped.TryAdd(later.Key, why);
        }
        return stopped.ToImmutable();
    }

    private static string? Failure(PlanStep step, Look look, IReadOnlyCollection<Judgement> results)
    {
        if (step.Test == Test.Visual) return look == Look.Fail ? "The look failed: nothing is tested on visibly dangerous equipment." : null;
        if (step.Stops.IsEmpty || !results.Any(it => it.Reading.Test == step.Test && it.Status == Status.Fail)) return null;
        return step.Test switch
        {
            Test.EarthContinuity => "The earth path failed: nothing after it is done.",
            Test.Insulation => "The insulation failed: the item is not powered.",
            _ => null,
        };
    }
}
