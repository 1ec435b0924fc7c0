using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>What the one key that goes on does now.</summary>
public enum AheadKind
{
    /// <summary>Something failed: choose between measuring again and saving the fail. The key itself decides neither.</summary>
    Settle,

    /// <summary>Do the step in hand.</summary>
    Step,

    /// <summary>A person looks at the evaluation, and confirms or chooses.</summary>
    Evaluate,

    /// <summary>Nothing is deficient: the key confirms the evaluation as it is proposed.</summary>
    ConfirmEvaluation,

    /// <summary>Save.</summary>
    End,

    /// <summary>All is done but that the item has no tag: scan it, or register it.</summary>
    Name,

    /// <summary>All is done but that nobody said what was mended.</summary>
    TellRepair,

    /// <summary>All is done but that the probe showed nothing anywhere: its lead is tried.</summary>
    TryProbe,

    /// <summary>Nothing is left that the key could do; the words say what is open.</summary>
    Nothing,
}

/// <param name="Step">With <see cref="AheadKind.Step"/>: its key.</param>
/// <param name="End">With <see cref="AheadKind.End"/>: how it is saved; never a fail, which is a press of its own.</param>
/// <param name="Why">In words for the technician.</param>
public sealed record Ahead(AheadKind Kind, string? Step, EndKind? End, string Why)
{
    public static Ahead Of(BenchState state)
    {
        if (state.HasFailed && state.Ruling.Scope != Scope.FaultFinding)
            return new(AheadKind.Settle, null, null, "Something failed: measure again with a reason, or save the fail.");
        if (
            state.Sheet.IsMeasured
            && MayOnlyLook(state.Ruling) is { } theirs
            && state.Steps.FirstOrDefault(it => it.Step.Key == state.Current) is { Step: not SheetStep.Look }
        )
            return new(AheadKind.Nothing, null, null, theirs);
        if (state.Current is { } step)
            return new(AheadKind.Step, step, null, state.Sheet.Find(step)!.Name);
        if (state.AsksProbeTried)
            return new(AheadKind.TryProbe, null, null, ProbeDoubts.Unproved);
        if (state.LacksRepair && !state.HasFailed)
            return new(AheadKind.TellRepair, null, null, Ends.RepairFirst);
        var (pass, findings) = (state.EndOf(EndKind.Pass), state.EndOf(EndKind.Findings));
        if (state.Proposal is not null && state.Evaluation is null)
            return new(
                state.Proposal.Evaluation == Evaluation.NoDeficiency ? AheadKind.ConfirmEvaluation : AheadKind.Evaluate,
                null,
                null,
                pass.Why
            );
        if (pass.LacksTag || findings.LacksTag)
            return new(AheadKind.Name, null, null, Naming.NoTagYet);
        var open = pass.IsOpen ? pass : findings;
        return open.IsOpen
            ? new(AheadKind.End, null, open.Kind, open.Why)
            : new(AheadKind.Nothing, null, null, state.Ruling.Scope == Scope.FaultFinding ? findings.Why : pass.Why);
    }

    /// <summary>Why this person does not test the item, and what becomes of it; null where they may.</summary>
    public static string? MayOnlyLook(Ruling ruling) => ruling.MayOnlyLook is { } why ? $"{why} {HandItOn(ruling)}" : null;

    private static string HandItOn(Ruling ruling) =>
        ruling.HeldBy.IsEmpty
            ? "Save it as looked at, not tested."
            : $"Hand it over to {string.Join(" or ", ruling.HeldBy)}, or save it as looked at, not tested.";
}

/// <summary>What "all good" at the look says.</summary>
/// <param name="Points">The points that nobody answered yet: they are called good, and no answer is changed.</param>
/// <param name="WhyNot">In words, where it would say nothing; else null.</param>
public sealed record AllGood(IReadOnlyList<string> Points, string? WhyNot)
{
    public static AllGood Of(BenchState state)
    {
        var answered = state.Look.Answers.Select(answer => answer.PointId).ToHashSet();
        var points = state
            .Sheet.Steps.OfType<SheetStep.Look>()
            .SelectMany(look => look.Points)
            .Select(point => point.Id)
            .Where(id => !answered.Contains(id))
            .ToArray();
        return new(
            points,
            points.Length > 0 ? null
                : state.Look.Outcome == Looking.Look.NotDone ? "Every point says “does not apply”: something must have been looked at."
                : "Every point is answered."
        );
    }
}

/// <summary>What is answered in the same breath, because the item runs anyway.</summary>
public static class AnsweredAlong
{
    /// <summary>The functional check, while leakage is measured with the item on mains, on and with its neutral closed. Whether it runs is
    /// seen by its load. Of leads and RCDs the check is another: they are tried with something, or pressed.</summary>
    /// <returns>Its key; null where it is answered already, was stopped, or nothing runs.</returns>
    public static string? With(BenchState state, StepState step) =>
        step.Step
            is SheetStep.Measure
            {
                Plan:
                { HazardKind: HazardKind.ItemLive, Under: Conditions.Leakage { Power: PowerState.On, Neutral: ConductorState.Closed } }
            }
        && Expectation.HasLoad(state.Ruling.Item.Equipment)
        && state.Steps.FirstOrDefault(it => it.Step is SheetStep.Function) is { Standing: Standing.Open } function
            ? function.Step.Key
            : null;
}

/// <summary>Readings beside the first at one step.</summary>
public static class FurtherPoints
{
    /// <summary>Whether a step may be measured at one more point, which is a reading of its own. A failed one is voided first; a step that
    /// names its own spot has no other.</summary>
    public static May At(BenchState state, StepState step, string point)
    {
        if (step.Start.IsGiven)
            return step.Start;
        if (!AreTaken(step))
            return step.Start;
        // The kit may have been barred since the first point.
        if (state.Ruling.KitRefusal(step.Step) is { } kit)
            return May.Refused(kit);
        return state.Readings.Any(it => it.StepKey == step.Step.Key && it.Void is null && it.Event.Point == point)
            ? May.Refused($"{point} was measured already: measure it again with a reason.")
            : May.Given;
    }

    /// <summary>Whether one more point would be taken now.</summary>
    public static bool AreTaken(StepState step) =>
        step is { IsDecided: true, Standing: not (Standing.Fail or Standing.NotMeasured), WhyStopped: null }
        && step.Step
            is SheetStep.Measure
            {
                Plan.Under: { At: null } and (Conditions.EarthContinuity or Conditions.Leakage { Kind: LeakageKind.Touch })
            };
}

/// <summary>What a lead may make of a reading.</summary>
internal static class OverrideOffer
{
    /// <returns>Pass or fail; null where this reading cannot be overridden, or the person is no lead.</returns>
    public static Status? Of(Judgement it, Ruling ruling)
    {
        if (it.Status == Status.Void || it.Overridden is not null)
            return null;
        var refusal = Override.Refusal(ruling.Pack, ruling.Item.Equipment, it.Reading.Test, ruling.Technician.IsLead);
        return refusal is not null ? null
            : it.Status == Status.Pass ? Status.Fail
            : Status.Pass;
    }
}
