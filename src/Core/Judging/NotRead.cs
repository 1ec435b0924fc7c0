using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>Readings that cannot be, rule 11: what the plan asks and does not require, and nobody read. The verdict stays; whoever reads it
/// sees that half the conditions are not there.</summary>
public static class NotRead
{
    /// <returns>In the order of the plan; what is required stands among <see cref="Assessment.Missing"/> and is not said twice.</returns>
    public static ImmutableArray<MissingStep> Of(InspectionFacts facts, Assessment assessment)
    {
        if (facts.Scope == Scope.FaultFinding || facts.Look == Looking.Look.Fail)
            return [];
        var plan = Planner.Of(facts.Pack, facts.Item, facts.Policy, facts.Scope);
        var waiting = assessment.Missing.Concat(assessment.Unsettled).Select(step => (step.Test, step.Kind)).ToHashSet();
        var read = facts.Readings.Where(reading => reading is { Void: null, Borrowed: null }).Select(reading => reading.Under).ToArray();
        return
        [
            .. plan
                .Steps.OfType<PlanStep.Measure>()
                .Where(step => step.Need != Need.Required && !facts.LeftOut.Contains(step.Under))
                .Where(step =>
                    !waiting.Contains((step.Test, KindOf(step.Under))) && !Array.Exists(read, under => Answers(facts.Item, under, step))
                )
                .Select(step => new MissingStep(step.Test, KindOf(step.Under), Words(step.Under)))
                .Distinct(),
        ];
    }

    private static LeakageKind? KindOf(Conditions under) => (under as Conditions.Leakage)?.Kind;

    /// <summary>By the alternative method there is but one condition, and what a meter tells of insulation names no points.</summary>
    private static bool Answers(Item item, Conditions read, PlanStep.Measure step)
    {
        if (read.Test != step.Test || (step.Under.At is { } spot && read.At != spot))
            return false;
        return (read, step.Under) switch
        {
            (Conditions.Leakage given, Conditions.Leakage asked) => given.Kind == asked.Kind
                && IsPart(item, given, asked)
                && (
                    given.Method == LeakageMethod.Alternative
                    || given with { Method = asked.Method, AppliedPart = asked.AppliedPart, At = asked.At } == asked
                ),
            (Conditions.Insulation given, Conditions.Insulation asked) => given.Part == asked.Part && IsPart(item, given, asked),
            (Conditions.RcdTrip given, Conditions.RcdTrip asked) => (given.Multiple, given.PhaseDeg) == (asked.Multiple, asked.PhaseDeg),
            _ => (read with { At = null }) == (step.Under with { At = null }),
        };
    }

    private static bool IsPart(Item item, Conditions given, Conditions asked) =>
        given.AppliedPart == asked.AppliedPart || (given.AppliedPart is null && item.AppliedParts.Length == 1);

    private static string Words(Conditions under)
    {
        if (under is not Conditions.Leakage { Method: not LeakageMethod.Alternative } leakage)
            return StepNames.Of(under);
        var usual = leakage.Polarity == MainsPolarity.Normal ? ["normal polarity"] : Array.Empty<string>();
        return string.Join(", ", [StepNames.Of(under), .. usual, .. StepNames.Unusual(leakage)]);
    }
}
