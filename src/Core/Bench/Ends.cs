using System.Collections.Immutable;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>How a run sheet may end. Once anything failed the only ends are "fail" and, of fault-finding, "findings".</summary>
internal static class Ends
{
    public static ImmutableArray<End> Of(BenchState state) =>
        [.. Unlocked(state).Select(end => Locked(state, end)).Select(end => Untagged(state, end))];

    /// <summary>No record without an item that can be found again: a failed one must be out of use under its own tag.</summary>
    private static End Untagged(BenchState state, End end) =>
        end is { IsOpen: true, Kind: not EndKind.Discard } && state.Ruling.Item.IsLoose
            ? end with
            {
                IsOpen = false,
                LacksTag = true,
                Why = Naming.NoTagYet,
            }
            : end;

    /// <summary>No sheet ends with a lock on that nobody answers for.</summary>
    private static End Locked(BenchState state, End end) =>
        end.IsOpen && state.Isolation.IsLocked
            ? end with
            {
                IsOpen = false,
                Why = "A lock is on. Restore the supply, or say how the lock is left.",
            }
            : end;

    private static ImmutableArray<End> Unlocked(BenchState state) =>
        [
            Pass(state),
            state.HasFailed || state.IsFailureUnanswered
                ? new(EndKind.Fail, true, "It is out of use now: red tag, plug made unusable or locked away.")
                : new(EndKind.Fail, false, "Nothing has failed."),
            NotTestedOf(state),
            Looked(state),
            Findings(state),
            new(
                EndKind.Discard,
                true,
                HoldsFailure(state)
                    ? "A run sheet with a failure is kept whole, marks the item and stands in the lead's review."
                    : "Nothing is kept but that it was discarded, and why."
            ),
        ];

    internal const string RepairFirst = "It was out of use: say what was found and mended first.";

    private static End Pass(BenchState state)
    {
        End Closed(string why) => new(EndKind.Pass, false, why);
        if (state.Ruling.Scope == Scope.FaultFinding)
            return Closed("Fault-finding ends with findings, never with a pass.");
        if (state.HasFailed)
            return Closed("Something failed.");
        if (Unanswered(state) is { } unanswered)
            return Closed(unanswered);
        if (state.Sheet.IsMeasured && state.Ruling.MayOnlyLook is { } competence)
            return Closed(competence);
        if (state.Sheet.IsMeasured && state.Ruling.ProcedureTrouble is { } unfit)
            return Closed($"The procedure “{state.Ruling.Procedure!.Title}” does not fit this device. {unfit} Choose another, or none.");
        if (state.Steps.FirstOrDefault(step => step.Standing == Standing.Void) is { } owed)
            return Closed(
                $"{owed.Step.Name} was voided: it must be measured again{(owed.Owed is [{ Length: > 0 } point, ..] ? $" at {point}" : "")}."
            );
        if (Hidden(state) is { } hidden)
            return Closed($"{StepKey.InWords(hidden)} failed and was voided: it is not left out before it was measured again.");
        if ((Doubt(state) ?? Barred(state) ?? FromNoGoodOutlet(state)) is { } doubt)
            return Closed(doubt);
        if (
            state.Steps.FirstOrDefault(step =>
                step is { Step: SheetStep.Confirm or SheetStep.Prove or SheetStep.Dead, Standing: Standing.Open }
            ) is
            { } open
        )
            return Closed($"{open.Step.Name} is not confirmed.");
        if (state.Steps.Any(step => step is { Step: SheetStep.Outlet, Standing: Standing.Open }))
            return Closed(state.Outlet?.Trouble ?? "The outlet that powers it is not checked.");
        var missing = state.Assessment.Missing.Concat(state.Assessment.Unsettled).Select(step => step.Detail).ToArray();
        if (missing.Length > 0 || state.Assessment.Verdict != Verdict.Pass)
            return Closed($"Still open: {string.Join("; ", missing)}.");
        // A look is decided by the look; a test has measured something, but for what runs on a battery and touches nobody.
        if (state.Sheet.IsMeasured && !HasMeasured(state) && !ScopeOf.IsNothingAsked(state.Ruling.Item.Equipment, state.Ruling.Pack))
            return Closed("Nothing was measured, so it cannot pass as tested.");
        if (state.LacksRepair)
            return Closed(RepairFirst);
        if (state.Proposal is not null && state.Evaluation is null)
            return Closed("Confirm the evaluation first.");
        return new(
            EndKind.Pass,
            true,
            state.Sheet.IsMeasured
                ? "Every required step is done and within its limit."
                : "Looked at and found good; it is not called tested."
        );
    }

    /// <summary>A step that failed, was voided and is not on the sheet any more because a procedure leaves it out.</summary>
    /// <returns>Its key, or null.</returns>
    private static string? Hidden(BenchState state) =>
        state
            .Readings.FirstOrDefault(it =>
                it.HidesFailure
                && state.Sheet.LeftOut.Any(left => left.Plan.Key == it.StepKey)
                && !state.Readings.Any(now => now is { Void: null, Judgement.Settles: true } && BenchState.IsSamePlace(now, it))
            )
            ?.StepKey;

    /// <summary>What nobody saved is measured again or explained. A class that is settled after a failure is settled by two: whoever
    /// measured, and a lead who sees the mark.</summary>
    private static string? Unanswered(BenchState state)
    {
        if (state.Unsaved is [var unsaved, ..])
            return $"{unsaved.Text}. Measure it again with the instrument. Or a lead explains it under Today.";
        if (!state.IsFailureUnanswered)
            return null;
        var failure = state.Assessment.SetAside.First(failure => failure.WantsLead);
        var failed = $"{failure.Name} failed ({failure.Value}) before the facts were corrected";
        return !state.HasPhotoOfMark
            ? $"{failed}. Photograph the class mark or the plate; a lead then decides. Or save the failure."
            : $"{failed}. Only a lead saves it as a pass: hand the sheet over, or save the failure.";
    }

    /// <summary>Made void or explained, it is one for whoever reads a discarded sheet.</summary>
    private static bool HoldsFailure(BenchState state) => state.HasFailed || !state.Unsaved.IsEmpty || !state.Assessment.IsClean;

    private static bool HasMeasured(BenchState state) =>
        state.Readings.Any(it => it is { Void: null, Judgement: { Settles: true, Reading.Test: not Test.Functional } });

    /// <summary>A figure to earth on an item that is said to have no protective earth.</summary>
    private static string? Doubt(BenchState state) =>
        state.Readings.Any(it =>
            it is { Void: null, Judgement: { Because: Because.ClassInDoubt, Reading.Value.Qualifier: not Quantities.Qualifier.Above } }
        )
            ? "An earth was measured on a class II item: settle its class."
            : null;

    /// <summary>What an instrument measured that may not be used settles nothing, whenever it came out. A failure it showed still
    /// counts.</summary>
    private static string? Barred(BenchState state)
    {
        if (state.Ruling.Kit is not { } inHand || !state.Readings.Any(IsFigure))
            return null;
        return inHand.Chosen is null
            ? inHand.Trouble
            : state.Readings.Where(IsFigure).Select(it => Barred(state.Ruling, inHand, it)).FirstOrDefault(why => why is not null);
    }

    /// <summary>Of a job with two instruments each reading is held against the one that its step needs.</summary>
    private static string? Barred(Ruling ruling, KitInHand inHand, TakenReading it)
    {
        var under = it.Judgement?.Reading.Under;
        var kit = under is null ? inHand : ruling.KitOf(it.Event, under);
        if (under is not null && kit?.IsKnownToLack(under.Test) != false && ruling.LacksFor(under) is { } lacks)
            return $"{StepNames.Of(under)} was read off something that is not in today's kit. {Words.Sentence(lacks)} Choose it under Kit, or void "
                + "the reading.";
        if (under is not null && ruling.BarredFor(under) is { } barred)
            return $"{StepNames.Of(under)}: {barred} Choose others under Kit, and measure again with them.";
        kit ??= inHand;
        if (kit.Trouble is { } trouble)
            return $"{kit.Name} may not be used. {trouble} Void what it measured, and measure with another.";
        return it.Event.With is { } with && with != kit.Id
            ? $"{it.Judgement?.Reading.Name ?? it.StepKey} was measured with an instrument that is not today's any more: "
                + $"void it, and measure it with {kit.Name}."
            : null;
    }

    /// <summary>Without an earth at the outlet a leakage reads nothing at all: what was powered from an outlet that nobody knew, or that
    /// turned out wrong, settles nothing. A failure it showed still counts.</summary>
    private static string? FromNoGoodOutlet(BenchState state) =>
        state.Readings.FirstOrDefault(it => it.Void is null && state.FromNoGoodOutlet.Contains(it.Event.Id)) is { } taken
            ? $"{taken.Judgement?.Reading.Name ?? taken.StepKey} was taken before its outlet was known good, or from one that was found wrong: "
                + "void it, and take it again."
            : null;

    /// <summary>Something that an instrument showed; what eye and hand say of a lead's cores needs none.</summary>
    private static bool IsFigure(TakenReading it) =>
        it is { Void: null, Judgement.Reading.Test: not (Test.Functional or Test.Polarity or Test.Wiring) }
        || it is { Void: null, Event.Source: ReadingSource.Instrument };

    private static End NotTestedOf(BenchState state) =>
        state.HasFailed || state.IsFailureUnanswered
            ? new(EndKind.NotTested, false, "Something failed: an item that failed is never saved as not tested.")
            : new(EndKind.NotTested, true, "It stays due and stands on the client's paper.");

    /// <summary>The look is whole and good, and the test could not be made: the look counts as a formal visual, the test stays
    /// due.</summary>
    private static End Looked(BenchState state)
    {
        End Closed(string why) => new(EndKind.Looked, false, why);
        if (state.HasFailed || state.IsFailureUnanswered)
            return Closed("Something failed: an item that failed is never saved as not tested.");
        if (!state.Sheet.IsMeasured || state.Ruling.Scope == Scope.FaultFinding)
            return Closed("Nothing is tested under this scope.");
        if (Scopes.IsHeld(state.Ruling.Item.State))
            return Closed("It is quarantined: a look moves nothing of it.");
        return state.Steps.All(it =>
            it.Step.Family is not (StepFamily.Look or StepFamily.FuseAndFlex)
            || it.Standing is Standing.Pass or Standing.Advice
            // Of fuse and flex that nobody entered there is nothing to put in order.
            || (it.Step.Family == StepFamily.FuseAndFlex && it.Standing == Standing.NotMeasured)
        )
            ? new(EndKind.Looked, true, "The look counts as a formal visual; the test stays due.")
            : Closed("The look is not whole: every point answered, fuse and flex in order.");
    }

    /// <returns>Why this reason cannot be given, or null.</returns>
    public static string? Refusal(BenchState state, EndKind kind, NotTestedReason reason)
    {
        var end = state.EndOf(kind);
        if (!end.IsOpen)
            return end.Why;
        var wasHere = !state.Readings.IsEmpty || !state.Look.Answers.IsEmpty;
        return reason == NotTestedReason.NotFound && wasHere ? "It was looked at or measured, so it was found." : null;
    }

    private static End Findings(BenchState state)
    {
        if (state.Ruling.Scope != Scope.FaultFinding)
            return new(EndKind.Findings, false, "Only fault-finding ends with findings.");
        return state.Look.Answers.IsEmpty && state.Readings.IsEmpty && state.EarthsFound.IsEmpty
            ? new(EndKind.Findings, false, "Nothing was looked at or measured yet.")
            : new(EndKind.Findings, true, "No pass: the item stays as due as it was.");
    }
}

/// <summary>Which evaluation fits the readings. A person decides, and nothing that the figures contradict.</summary>
public static class Evaluations
{
    public static string? Refusal(BenchState state, Evaluation evaluation)
    {
        if (state.Ruling.Pack.Scope != PackScope.Medical)
            return "Only medical equipment is evaluated.";
        if (state.Proposal is null)
            return "It is not decided yet.";
        var isUsable = evaluation is Evaluation.NoDeficiency or Evaluation.NoDirectRisk;
        if (state.HasFailed && isUsable)
            return "Something failed: the device goes out of use or does not meet the requirements.";
        if (!state.HasFailed && !isUsable)
            return "Everything passed. If it must go out of use, say at the look or the functional check what is bad.";
        return null;
    }
}
