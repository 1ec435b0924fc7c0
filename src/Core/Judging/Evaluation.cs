using System.Collections.Immutable;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>How IEC 62353 has the state of medical equipment put into words.</summary>
public enum Evaluation
{
    /// <summary>No safety or functional deficiency.</summary>
    NoDeficiency,

    /// <summary>No direct risk; the deficiency can be mended soon.</summary>
    NoDirectRisk,

    /// <summary>Out of use until it is mended.</summary>
    OutOfUse,

    /// <summary>It does not meet the requirements: modify, replace or withdraw.</summary>
    DoesNotMeet,
}

/// <summary>A proposal for the evaluation. A person confirms it or chooses another; Osierwand never decides it.</summary>
/// <param name="Because">Why, the gravest first.</param>
public sealed record EvaluationProposal(Evaluation Evaluation, ImmutableArray<string> Because)
{
    /// <returns>Null for an appliance pack, and while the inspection is incomplete.</returns>
    public static EvaluationProposal? Of(InspectionFacts facts, Assessment assessment)
    {
        if (facts.Pack.Scope != PackScope.Medical || assessment.Verdict == Verdict.Incomplete)
            return null;
        var failed = assessment.Results.Where(it => it.Status == Status.Fail).ToArray();
        var again = failed.Where(it => FailedBeforeRepair(facts, it)).Select(it => $"{it.Reading.Name} fails again after repair").ToArray();
        if (again.Length > 0)
            return new(Evaluation.DoesNotMeet, [.. again]);
        var grave = failed.Select(it => $"{it.Reading.Name}: {it.Working[^1]}").ToList();
        if (facts.Look == Look.Fail)
            grave.Insert(0, "the look failed");
        if (grave.Count > 0)
            return new(Evaluation.OutOfUse, [.. grave]);
        return assessment.Advice.IsEmpty
            ? new(Evaluation.NoDeficiency, ["every required step is within its limit and nothing else was found"])
            : new(Evaluation.NoDirectRisk, [.. assessment.Advice]);
    }

    /// <summary>The same measurement was already over its limit when it was last inspected, and mending has not helped.</summary>
    private static bool FailedBeforeRepair(InspectionFacts facts, Judgement now)
    {
        if (facts.Scope != Planning.Scope.AfterRepair || facts.History.IsEmpty)
            return false;
        var key = StepKey.Of(now.Reading.Under);
        return facts
            .History[^1]
            .Readings.Any(it =>
                it.Void is null
                && StepKey.Of(it.Under) == key
                && Judge.Of(facts.Pack, facts.Item, it, facts.DecisionRule).Status == Status.Fail
            );
    }
}
