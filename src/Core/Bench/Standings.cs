using System.Collections.Immutable;
using Osierwand.Core.Cords;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>How every step stands, what it stops, and whether it may start. The one place that decides what may happen next.</summary>
internal static class Standings
{
    public static ImmutableArray<StepState> Of(
        Ruling ruling,
        RunSheet sheet,
        TakenReading[] taken,
        LookState look,
        IReadOnlyCollection<string> confirmed,
        ImmutableArray<EarthFound> earths,
        ImmutableArray<Guid> discharges,
        bool isProbePlaced
    )
    {
        var steps = sheet.Steps.Select(step => OwnStanding(ruling, step, taken, look, confirmed, discharges)).ToArray();
        Stop(ruling, steps, earths);
        for (var at = 0; at < steps.Length; at++)
            steps[at] = steps[at] with
            {
                Action = ActionOf(ruling, steps[at], isProbePlaced),
                Start = MayStart(ruling, sheet.IsMeasured, steps, at, confirmed),
            };
        return [.. steps];
    }

    /// <summary>By what was done at the step itself.</summary>
    private static StepState OwnStanding(
        Ruling ruling,
        SheetStep step,
        TakenReading[] taken,
        LookState look,
        IReadOnlyCollection<string> confirmed,
        ImmutableArray<Guid> discharges
    ) =>
        step switch
        {
            SheetStep.Look looked => Bare(step, LookStanding(looked, look)),
            SheetStep.FuseAndFlex fuse => Bare(
                step,
                fuse.Findings.Any(finding => finding.IsFault) ? Standing.Fail
                    : !fuse.Findings.IsEmpty ? Standing.Advice
                    // What nobody entered was not found good.
                    : FuseAndFlex.NotEntered(ruling.Item.Equipment, ruling.Pack) is not null ? Standing.NotMeasured
                    : Standing.Pass
            ),
            SheetStep.Confirm or SheetStep.Pause or SheetStep.Prove or SheetStep.Dead or SheetStep.Outlet or SheetStep.ChangeOver => Bare(
                step,
                confirmed.Contains(step.Key) ? Standing.Pass : Standing.Open
            ),
            SheetStep.Discharges needed => Bare(step, DischargesStanding(ruling, needed, discharges.Length)) with { Taken = discharges },
            _ => Measured(ruling, step, [.. taken.Where(it => it.StepKey == step.Key)]),
        };

    private static Standing DischargesStanding(Ruling ruling, SheetStep.Discharges step, int made) =>
        made >= step.Needed ? Standing.Pass
        : ruling.LacksForDischarges() is not null ? Standing.NotMeasured
        : Standing.Open;

    private static StepState Bare(SheetStep step, Standing standing) => new(step, standing, [], null, StepAction.None, May.Given, null, []);

    private static Standing LookStanding(SheetStep.Look step, LookState look)
    {
        // Its fuse and flex have a line of their own; here stands what eye and hand found.
        if (look.Answers.Any(answer => answer.Answer == LookAnswer.Bad))
            return Standing.Fail;
        var answered = step.Points.All(point => look.Answers.Any(answer => answer.PointId == point.Id));
        var looked = look.Answers.Any(answer => answer.Answer is LookAnswer.Good or LookAnswer.Advice);
        if (!answered || !looked)
            return Standing.Open;
        return look.Answers.Any(answer => answer.Answer == LookAnswer.Advice) ? Standing.Advice : Standing.Pass;
    }

    private static StepState Measured(Ruling ruling, SheetStep step, TakenReading[] own)
    {
        var ids = own.Select(it => it.Event.Id).ToImmutableArray();
        var counting = own.Where(it => it is { Void: null, Judgement: not null }).ToArray();
        var owed = own.Where(it => it.HidesFailure && !counting.Any(now => BenchState.IsSamePlace(now, it)))
            .Select(it => it.Event.Point ?? "")
            .Distinct()
            .ToImmutableArray();
        var gravest =
            counting.Length == 0
                ? null
                : counting.Aggregate(
                    (worst, it) => Gravity(it) > Gravity(worst) || (Gravity(it) == Gravity(worst) && UseOf(it) >= UseOf(worst)) ? it : worst
                );
        var left = Left(step, counting);
        var standing =
            gravest is null ? (owed.IsEmpty ? NotMeasured(ruling, step) : Standing.Void)
            : !owed.IsEmpty && Gravity(gravest) < 3 ? Standing.Void
            // One connection after the other: a failure among them is one at once, a pass waits for the last.
            : !left.IsEmpty && Gravity(gravest) < 2 ? Standing.Open
            : StandingOf(gravest);
        return new(step, standing, ids, gravest?.Event.Id, StepAction.None, May.Given, null, owed) { Left = left };
    }

    private static ImmutableArray<string> Left(SheetStep step, TakenReading[] counting) =>
        step is SheetStep.Measure { Plan.Spots: { IsEmpty: false } spots }
            // Those that nobody has read before those whose reading decided nothing: round once, then back to what was silent.
            ?
            [
                .. spots
                    .Where(spot => !counting.Any(it => it.Event.Point == spot && it.Judgement!.Settles))
                    .OrderBy(spot => counting.Any(it => it.Event.Point == spot)),
            ]
            : [];

    /// <summary>What a procedure asks for waits for its instrument; what nobody asks for is said not to have been measured.</summary>
    private static Standing NotMeasured(Ruling ruling, SheetStep step) =>
        step is SheetStep.Measure { Plan: var plan }
        && (plan.NotMeasured ?? (plan.IsAskedByProcedure || plan.Need == Need.Required ? null : ruling.LacksFor(plan.Under))) is not null
            ? Standing.NotMeasured
            : Standing.Open;

    private static Standing StandingOf(TakenReading it) =>
        it.Judgement!.Status switch
        {
            Status.Fail => Standing.Fail,
            Status.Undecided => Standing.Undecided,
            _ when it.OverriddenBy is not null => Standing.Overridden,
            _ => it.Judgement.NearLimit ? Standing.Advice : Standing.Pass,
        };

    private static int Gravity(TakenReading it) =>
        StandingOf(it) switch
        {
            Standing.Fail => 3,
            Standing.Undecided => 2,
            Standing.Overridden or Standing.Advice => 1,
            _ => 0,
        };

    private static double UseOf(TakenReading it) => it.Judgement!.Use ?? 0;

    /// <summary>A failed look or earth path ends the job; any other failure stops whatever powers the item. An earth found on insulated
    /// metal stops everything.</summary>
    private static void Stop(Ruling ruling, StepState[] steps, ImmutableArray<EarthFound> earths)
    {
        for (var at = 0; at < steps.Length; at++)
        {
            var failed = steps[at];
            if (failed.Standing != Standing.Fail)
                continue;
            for (var later = at + 1; later < steps.Length; later++)
                if (failed.Step.CanStop(steps[later].Step))
                    StopOne(steps, later, Why(failed.Step));
        }
        foreach (var earth in earths)
            for (var at = Math.Max(0, Array.FindIndex(steps, step => step.Step.Key == earth.Step)); at < steps.Length; at++)
                if (steps[at].Step is not SheetStep.Confirm { IsPuttingBack: true })
                    StopOne(
                        steps,
                        at,
                        $"A path to earth was found on metal that should be insulated: stop, isolate it, inspect. {earth.Words}"
                    );
    }

    /// <summary>What has been read stays as it was read; only what is still open is stopped.</summary>
    private static void StopOne(StepState[] steps, int at, string why)
    {
        var step = steps[at];
        if (step.WhyStopped is not null)
            return;
        var isOpen = step.Standing is Standing.Open or Standing.NotMeasured or Standing.Void or Standing.Undecided;
        steps[at] = step with { WhyStopped = why, Standing = isOpen ? Standing.Stopped : step.Standing };
    }

    private static string Why(SheetStep failed) =>
        failed switch
        {
            SheetStep.Look => "The look failed: nothing is tested on visibly dangerous equipment.",
            SheetStep.FuseAndFlex => "Fuse or flex are wrong: nothing is tested before that is mended.",
            SheetStep.Measure { Plan.Test: Test.EarthContinuity } => "The earth path failed: nothing after it is done.",
            SheetStep.Measure { Plan.Test: Test.Insulation } => "The insulation failed: the item is not powered.",
            _ => $"{failed.Name} failed: the item is not powered.",
        };

    private static StepAction ActionOf(Ruling ruling, StepState step, bool isProbePlaced) =>
        step.Step switch
        {
            _ when step.Standing is Standing.Stopped or Standing.NotMeasured => StepAction.None,
            SheetStep.Look => StepAction.AllGood,
            SheetStep.Confirm or SheetStep.Pause or SheetStep.ChangeOver => StepAction.Confirm,
            SheetStep.Discharges => CanWatch(ruling.KitForDischarges()) ? StepAction.Hold : StepAction.Count,
            SheetStep.Outlet => StepAction.CheckOutlet,
            SheetStep.Prove => StepAction.Prove,
            SheetStep.Dead => StepAction.TestDead,
            SheetStep.Function => StepAction.Answer,
            SheetStep.Check check => check.Plan.Target is null ? StepAction.Answer : StepAction.Type,
            SheetStep.Measure when !ruling.Item.Equipment.IsPatientSideKnown => StepAction.NameParts,
            SheetStep.Measure { Plan.AsksProbe: true } when !isProbePlaced => StepAction.PlaceProbe,
            SheetStep.Measure measure when CanMeasure(ruling.KitFor(measure.Plan.Under), measure.Plan) => measure.Plan.HazardKind
            is HazardKind.None
                ? StepAction.Press
                : StepAction.Hold,
            SheetStep.Measure measure => ReadingOf.UsualUnit(measure.Plan, ruling.Pack) is null ? StepAction.Answer : StepAction.Type,
            _ => StepAction.None,
        };

    /// <summary>It sees each discharge into its load and counts it.</summary>
    private static bool CanWatch(KitInHand? kit) =>
        kit is { Connected: true, Trouble: null } && kit.Functions.Contains(Words.Of(Test.DefibEnergy));

    /// <summary>The instrument in hand is connected, in calibration and has the function.</summary>
    public static bool CanMeasure(KitInHand? kit, PlanStep.Measure plan)
    {
        if (kit is not { Connected: true, Trouble: null } || plan.StaysOnSupply)
            return false;
        return kit.Functions.Contains(TestFigure.WordOf(plan.Under));
    }

    private static May MayStart(Ruling ruling, bool isMeasured, StepState[] steps, int at, IReadOnlyCollection<string> confirmed)
    {
        var step = steps[at];
        if (step.WhyStopped is { } stopped)
            return May.Refused(stopped);
        if (step.Step is SheetStep.FuseAndFlex)
            return May.Refused("It is computed from plate, fuse and flex.");
        if (isMeasured && !IsOfTheLook(step.Step) && ruling.MayOnlyLook is { } competence)
            return May.Refused(competence);
        if (step.Step is SheetStep.Measure { Plan.NotMeasured: { } cannot })
            return May.Refused(cannot);
        if (ruling.KitRefusal(step.Step) is { } kit)
            return May.Refused(kit);
        if (step.Standing == Standing.Fail)
            return May.Refused(
                step.Step is SheetStep.Look
                    ? "Take back what was found bad first, with the reason."
                    : "It failed. To measure again, say why this reading does not count."
            );
        if (step is { Step: SheetStep.Outlet, IsDecided: true })
            return May.Refused("It is checked today. At another outlet that one is measured here.");
        if (step.IsDecided)
            return May.Refused("It is done. Measure again with a reason, or at another point.");
        if (
            ruling.Item.Equipment.IsHardWired
            && confirmed.Contains(SafeIsolation.Reconnect)
            && step.Step is SheetStep.Measure { Powers: false }
        )
            return May.Refused("It is connected again: isolate it anew before this is measured.");
        // Whoever does not isolate it looks at what can be seen without.
        if (isMeasured && ruling.MayOnlyLook is not null)
            return May.Given;
        return Blocker(ruling, steps, at) is { } before ? May.Refused(Settle(before)) : May.Given;
    }

    /// <summary>What anybody may do who looks: the look itself, and care for the client's property round it.</summary>
    private static bool IsOfTheLook(SheetStep step) =>
        step is SheetStep.Look or SheetStep.Confirm { Key: SheetStep.Confirm.Care or SheetStep.Confirm.CareBack };

    /// <summary>
    /// The first earlier step that could stop this one and is not decided. Nothing live starts before everything that could stop it is
    /// known;
    /// fault-finding relaxes the order, never the isolation and never the stop.
    /// </summary>
    private static StepState? Blocker(Ruling ruling, StepState[] steps, int at)
    {
        var isFree = ruling.Scope == Scope.FaultFinding;
        for (var earlier = 0; earlier < at; earlier++)
        {
            var before = steps[earlier];
            if (!before.Step.CanStop(steps[at].Step))
                continue;
            if (
                isFree
                && before.Step is not (SheetStep.Confirm or SheetStep.Prove or SheetStep.Dead or SheetStep.Outlet or SheetStep.ChangeOver)
            )
                continue;
            if (IsWaitedFor(before, steps, earlier, at))
                return before;
        }
        return null;
    }

    private static bool IsWaitedFor(StepState before, StepState[] steps, int at, int asking) =>
        before.Standing switch
        {
            Standing.Undecided or Standing.Void => true,
            // Of several pauses only the nearest matters: what was switched on and off before is past.
            Standing.Open when before.Step is SheetStep.Pause => !steps[(at + 1)..asking].Any(step => step.Step is SheetStep.Pause),
            Standing.Open => before.Step is not SheetStep.Measure measure || IsNeeded(measure.Plan, steps),
            _ => false,
        };

    /// <summary>A step that no verdict waits for is not waited for here either.</summary>
    private static bool IsNeeded(PlanStep.Measure plan, StepState[] steps) =>
        plan.Need switch
        {
            Need.Optional => false,
            Need.OneOfGroup => !Others(steps, it => it.Group == plan.Group),
            Need.AnyCondition => !Others(
                steps,
                it => it.Test == plan.Test && KindOf(it) == KindOf(plan) && it.Under.AppliedPart == plan.Under.AppliedPart
            ),
            _ => true,
        };

    private static LeakageKind? KindOf(PlanStep plan) => (plan.Under as Conditions.Leakage)?.Kind;

    private static bool Others(StepState[] steps, Func<PlanStep.Measure, bool> matches) =>
        steps.Any(step =>
            step.Step is SheetStep.Measure other
            && matches(other.Plan)
            && step.Standing is Standing.Pass or Standing.Advice or Standing.Overridden
        );

    private static string Settle(StepState before) =>
        before.Standing switch
        {
            Standing.Undecided => $"{before.Step.Name} is undecided: settle it first.",
            Standing.Void => $"{before.Step.Name} was voided: measure it again first.",
            _ => before.Step switch
            {
                SheetStep.Look => "Look first: whole flex through the hand, every point answered.",
                SheetStep.Outlet => "The outlet first: its voltages tell polarity and earth before anything is powered from it.",
                SheetStep.Confirm or SheetStep.Pause or SheetStep.Prove or SheetStep.Dead or SheetStep.ChangeOver or SheetStep.Discharges =>
                    $"First: {before.Step.Name}.",
                _ => $"{before.Step.Name} comes first: it decides whether this may be done.",
            },
        };
}
