using Osierwand.Core.Diagnosis;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>The part of the view that every event may change.</summary>
internal static class StateCards
{
    /// <param name="kept">Readings put into words before: their judgement has not changed, so neither have the words.</param>
    public static StateView Of(BenchState state, Dictionary<Guid, (TakenReading Of, ReadingView View)>? kept = null)
    {
        var say = state.Ruling.Pack.Dialect;
        var outcome = state.Outcome;
        return new(
            state.Current,
            Ahead.Of(state) is var ahead ? ahead with { Why = say.Say(ahead.Why) } : ahead,
            [.. state.Steps.Select(step => Step(step, state, say))],
            state.Look.Answers,
            AllGood.Of(state),
            state.Look.Outcome,
            [.. state.Readings.Select(reading => Kept(reading, state, say, kept))],
            [.. state.Ends.Select(end => new EndView(end.Kind, end.IsOpen, Text(end.Kind, state), say.Say(end.Why)))],
            outcome,
            outcome is { } it ? PhrasesOnOffer.Text(it) + (IsLookOnly(state, it) ? ", formal visual" : "") : "Incomplete",
            say.Say(Reasons(state)),
            say.Say(Advice(state)),
            say.Say(state.Assessment.Missing.Concat(state.Assessment.Unsettled).Select(step => step.Detail)),
            [.. Failures(state).Select(failure => failure with { Text = say.Say(failure.Text) })],
            Telling(state, say),
            Evaluation(state, say),
            state.Ruling.Item.IsLoose ? null : NextDates.Of(state),
            [.. state.Refused.Select(refused => refused with { Why = say.Say(refused.Why) })],
            state.IsParked,
            Warning(state),
            state.Isolation.Story.IsEmpty && !state.Sheet.Steps.Any(step => step is SheetStep.Prove)
                ? null
                : Isolation(state.Isolation, say),
            state.Outlet is { } outlet ? Outlet(outlet, state.Ruling.Item.Room, state.Ruling.Technician.Id, say) : null,
            [.. state.Photos.Select(photo => new PhotoView(photo.Photo, photo.Id, photo.Of))],
            [.. state.Tried.Select(it => new TriedView(it.Signature, it.Words, it.At))],
            Complaint(state, say),
            state.Circuit,
            state.Sheet.IsMeasured ? Ahead.MayOnlyLook(state.Ruling) : null,
            state.RunsFrom,
            state.Ends.Any(end => end is { LacksTag: true, Kind: EndKind.Pass or EndKind.Fail or EndKind.Findings }),
            state.WorkOrder,
            state.Sticker,
            state.Repair is { } repair ? say.Say(repair.Text) : null,
            state.LacksRepair,
            IntervalChoice.Card(state),
            [.. state.Assessment.SetAside.Select(failure => failure with { Name = say.Say(failure.Name), Why = say.Say(failure.Why) })],
            state.AsksForMark,
            state.Probe,
            state.AsksProbeTried
        );
    }

    private static OutletView Outlet(OutletStanding it, string room, Guid person, Dialect say) =>
        new(
            say.Say(it.Supply.Text),
            it.Supply.Pairs,
            it.InUse is { } inUse ? say.Say($"{Named(inUse)}, {inUse.By}: {Figures(inUse)}") : null,
            it.Trouble is { } trouble ? say.Say(trouble) : null,
            [
                .. it.Offered.Select(outlet => new OfferedOutlet(
                    outlet.Id,
                    outlet.PersonId == person ? Named(outlet) : $"{Named(outlet)} ({outlet.By})"
                )),
            ],
            room
        );

    private static string Named(OutletOfTheDay it) => it.IsWorkbench ? it.Name : $"{it.Name}, {it.Room}";

    private static string Figures(OutletOfTheDay it) =>
        string.Join(", ", it.Voltages.Select(volts => $"{volts.Pair} {QuantityText.Number(volts.Volts, 4)} V"));

    private static IsolationView Isolation(SafeIsolation it, Dialect say) =>
        new(
            say.Say(it.Says),
            it.SaysOfLock,
            it.Pairs,
            it.Dead,
            it.Indicator,
            it.IsLocked,
            it.Setback is { } why ? say.Say(why) : null,
            it.Story
        );

    /// <summary>A failure that nobody has ended, but not to whoever goes on with that very sheet: they have it before their
    /// eyes.</summary>
    private static string? Warning(BenchState state) =>
        state.Ruling.Item.LeftFailure is { } left && state.TakenOver.All(taken => taken.HandOver != left.HandOver) ? left.Text
        : state.Unsaved.IsEmpty ? null
        : $"{string.Join("; ", state.Unsaved.Select(failure => failure.Text))}. Measure it again with the instrument.";

    private static bool IsLookOnly(BenchState state, Outcome outcome) =>
        outcome is Outcome.Pass or Outcome.PassWithAdvice && !state.Sheet.IsMeasured;

    private static string Text(EndKind kind, BenchState state) =>
        kind switch
        {
            EndKind.Pass => IsLookOnly(state, Outcome.Pass) ? "Save the formal visual" : "Save",
            EndKind.Fail => "Save the fail",
            EndKind.NotTested => "Not tested",
            EndKind.Looked => "Looked at, not tested",
            EndKind.Findings => "Save the findings",
            _ => "Discard",
        };

    private static StepView Step(StepState it, BenchState state, Dialect say) =>
        new(
            it.Step.Key,
            it.Standing,
            it.Action,
            it.Start.IsGiven,
            it.Start.WhyNot is { } why ? say.Say(why) : null,
            FurtherPoints.AreTaken(it),
            it.WhyStopped is { } stopped ? say.Say(stopped) : null,
            it.Stands,
            it.Taken,
            state.Readings.Count(reading => reading.StepKey == it.Step.Key && reading.Void is not null),
            it.Owed,
            AnsweredAlong.With(state, it),
            it.Left,
            IsolatedStanding.IsAsked(state, it.Step),
            IsolatedStanding.IsByDifference(state, it.Step)
        );

    private static ReadingView Kept(
        TakenReading it,
        BenchState state,
        Dialect say,
        Dictionary<Guid, (TakenReading Of, ReadingView View)>? kept
    )
    {
        if (kept is null)
            return ViewOf(it, state, say);
        if (kept.TryGetValue(it.Event.Id, out var known) && IsSame(known.Of, it))
            return known.View;
        var view = ViewOf(it, state, say);
        kept[it.Event.Id] = (it, view);
        return view;
    }

    private static bool IsSame(TakenReading a, TakenReading b) =>
        ReferenceEquals(a.Judgement, b.Judgement)
        && a.Fault == b.Fault
        && a.Void == b.Void
        && ReferenceEquals(a.OverriddenBy, b.OverriddenBy)
        && a.Event.Source == b.Event.Source
        && a.IsReadAgain == b.IsReadAgain
        && a.Borrowed.Select(it => it.Judgement).SequenceEqual(b.Borrowed.Select(it => it.Judgement), ReferenceEqualityComparer.Instance);

    private static ReadingView ViewOf(TakenReading it, BenchState state, Dialect say)
    {
        var (taken, judged) = (it.Event, it.Judgement);
        var name = judged is null ? taken.Step : say.Say(StepNames.Of(judged.Reading.Under with { At = null }));
        if (judged is null)
            return new(
                taken.Id,
                it.StepKey,
                name,
                taken.Point,
                it.Fault,
                null,
                taken.Text ?? "",
                null,
                null,
                false,
                null,
                null,
                false,
                null,
                [],
                null,
                it.Void,
                taken.Source,
                taken.At,
                null,
                null,
                [],
                taken.Note,
                null,
                null,
                null
            );
        var isBound = judged.Reading.Value is { IsBound: true };
        var text = Shown(judged, state);
        return new(
            taken.Id,
            it.StepKey,
            name,
            taken.Point,
            null,
            judged.Status,
            text,
            Raw(judged),
            judged.Value?.Si,
            isBound,
            judged.Reading.Value?.Qualifier switch
            {
                Qualifier.Above => ">",
                Qualifier.Below => "<",
                _ => null,
            },
            judged.Use,
            judged.NearLimit,
            Margin(judged) is { } margin ? say.Say(margin) : null,
            say.Say(judged.Working),
            judged.Limit?.Clause,
            it.Void,
            taken.Source,
            taken.At,
            judged.Overridden is { } was && it.OverriddenBy is { } by
                ? new(by.Id, was, judged.Status, state.Ruling.Technician.Name, by.Reason)
                : null,
            OverrideOffer.Of(judged, state.Ruling),
            [.. it.Borrowed.Select(borrow => Borrow(borrow, say))],
            judged.Reading.Note,
            Swing(judged) is { } swing ? say.Say(swing) : null,
            taken.PathSeen == false && judged is { Because: Because.SwitchedOff, Reading.Load: not null } ? true : null,
            judged.Doubt is { } doubt
                ? new(Words.Sentence(say.Say(doubt.Expected)), say.Say(doubt.CheckFirst), doubt.Proves, it.IsReadAgain, doubt.AsksProbe)
                : null,
            taken.Waveform,
            taken.With
        );
    }

    private static string? Swing(Judgement it) =>
        it is { Reading: Reading.EarthContinuity { Lowest: not null }, Value: { } most }
            ? $"flexed: {QuantityText.Show(new Ohms(Assessment.LowestOf(it)))} to {QuantityText.Show(most)}"
            : null;

    /// <summary>One unit a step, so that today's value lines up with the earlier ones.</summary>
    private static string Shown(Judgement it, BenchState state)
    {
        switch (it.Reading)
        {
            case Reading.Conductors { Ok: var ok }:
                return ok ? "good" : "bad";
            case Reading.Functional { Figure: { } figure }:
                return figure;
            case Reading.Functional { Ok: var works }:
                return works ? "good" : "bad";
            case Reading.RcdDidNotTrip:
                return "no trip";
            case Reading.Numeric { Shown: { IsBound: true } bound }:
                return bound.ToString();
        }
        if (it.Value is not { } value)
            return "";
        var step = state.Sheet.Steps.OfType<SheetStep.Measure>().FirstOrDefault(measure => measure.Plan.Test == it.Reading.Test);
        var unit = step is null ? null : ReadingOf.UsualUnit(step.Plan, state.Ruling.Pack);
        return unit is null ? value.ToString() : QuantityText.ShowNear(value, unit);
    }

    private static string? Raw(Judgement it) =>
        it.Reading is Reading.Numeric { Shown: { IsBound: false } raw } reading
        && (reading is Reading.EarthContinuity { Null.Value: not 0 } || it.ScaledFrom is not null)
            ? raw.ToString()
            : null;

    private static BorrowedView Borrow(BorrowedJudgement it, Dialect say)
    {
        var judged = it.Judgement;
        return new(
            it.EventId,
            PackLibrary.Find(it.PackId)?.ShortName ?? it.PackId,
            judged.Status,
            say.Say(judged.Working[^1]),
            judged.Limit is not null
        );
    }

    /// <summary>How far from its limit, always read as room that is left: "39 % of the limit", "200 times what is asked", "a fifth of
    /// what is asked".</summary>
    public static string? Margin(Judgement it)
    {
        if (it.Use is not { } use || it.Limit is null)
            return null;
        if (!it.Limit.IsFloor)
            return use <= 2 ? $"{QuantityText.Number(use * 100, use > 1 ? 3 : 2)} % of the limit"
                : use <= WorkingText.LargestShare ? $"{QuantityText.Number(use, 2)} times the limit"
                : "over 10 times the limit";
        var times = 1 / use;
        return times >= 2 ? $"{QuantityText.Number(times, 2)} times what is asked"
            : times >= 0.1 ? $"{QuantityText.Number(times * 100, 3)} % of what is asked"
            : "a tenth of what is asked, or less";
    }

    /// <summary>Why the verdict is what it is, the gravest first.</summary>
    private static List<string> Reasons(BenchState state)
    {
        var reasons = Failures(state).Select(failure => failure.Text).ToList();
        // What is asked of the probe stands with the closed end, beside its two answers.
        reasons.AddRange(
            state.Assessment.Unsettled.Where(step => step.Detail != ProbeDoubts.Unproved).Select(step => $"Undecided: {step.Detail}")
        );
        if (state.Outcome is { } outcome && reasons.Count == 0)
            reasons.Add(
                outcome == Outcome.Findings
                    ? "Nothing that was measured failed. Fault-finding never ends with a pass: the item stays as due as it was."
                    : state.EndOf(EndKind.Pass).Why
            );
        return reasons;
    }

    public static IEnumerable<FailureView> Failures(BenchState state)
    {
        foreach (var earth in state.EarthsFound)
            yield return new($"A path to earth where none should be: {earth.Words}", earth.Id, null, earth.Step);
        foreach (var answer in state.Look.Answers.Where(answer => answer.Answer == LookAnswer.Bad))
            yield return new($"Look: {answer.Words}", answer.EventId, answer.PointId, "visual");
        foreach (var finding in state.Sheet.Steps.OfType<SheetStep.Look>().First().CordFindings.Where(finding => finding.IsFault))
            yield return new(finding.Text, null, null, "fuse");
        foreach (var it in state.Readings.Where(it => it is { Void: null, Judgement.Status: Status.Fail }))
            yield return new(
                $"{it.Judgement!.Reading.Name}: {(it.Event.Note is { Length: > 0 } note ? note : it.Judgement.Working[^1])}",
                it.Event.Id,
                null,
                it.StepKey
            );
        foreach (var borrow in state.Readings.SelectMany(it => it.Borrowed).Where(borrow => borrow.Judgement.Status == Status.Fail))
            yield return new($"By {borrow.PackId}: {borrow.Judgement.Working[^1]}", null, null, null);
        if (state.IsFailureUnanswered)
            foreach (var failure in state.Assessment.SetAside.Where(failure => failure.WantsLead))
                yield return new(failure.Text, null, null, null);
        foreach (var failure in state.Unsaved)
            yield return new($"{failure.Text}.", null, null, failure.Step);
    }

    private static IEnumerable<string> Advice(BenchState state) =>
        state
            .Look.Answers.Where(answer => answer.Answer == LookAnswer.Advice)
            .Select(answer => $"Look: {answer.Words}.")
            .Concat(state.Assessment.Advice)
            .Concat(state.Isolation.LockStays is { } stays ? [$"A lock stays on it: {stays}"] : [])
            .Concat(
                state.Outlet?.FoundWrong.Select(wrong => $"Outlet {wrong.Outlet.Name}, {wrong.Outlet.Room}: {wrong.Finding.Says}") ?? []
            )
            .Concat(state.HasFailed ? NotPutBack(state) : [])
            .Concat(state.Named is { } named ? [Naming.Says(named)] : [])
            .Concat(state.TakenOver.Select(taken => taken.From).Distinct().Select(name => $"Begun by {name}, who handed the sheet over."))
            .Concat(
                state
                    .Readings.Where(it => it.Fault is not null && it.Void is null)
                    .Select(it => $"“{it.Event.Text}” was not understood and counts for nothing: {it.Fault}")
            );

    /// <summary>What was moved or shut for the test and not put back: an end that is no pass waits for nobody.</summary>
    internal static IEnumerable<string> NotPutBack(BenchState state) =>
        state.Steps.Any(step => step is { Step: SheetStep.Confirm { Key: SheetStep.Confirm.Care }, Standing: Standing.Pass })
            ? state
                .Steps.Where(step => step is { Step: SheetStep.Confirm { IsPuttingBack: true }, Standing: Standing.Open })
                .Select(step => $"Not yet put back: {string.Join("; ", ((SheetStep.Confirm)step.Step).Lines)}.")
            : [];

    private static IReadOnlyList<TellingCard> Telling(BenchState state, Dialect say)
    {
        var places = state
            .Readings.Where(it => it.Judgement is not null)
            .SelectMany(it => Enumerable.Repeat(it.StepKey, 1 + it.Borrowed.Length))
            .ToArray();
        return
        [
            .. Diagnose
                .Of(state.Facts, state.Assessment, state.Session)
                .Select(it => new TellingCard(
                    it.Signature.Id,
                    say.Say(it.Signature.Seen),
                    [.. it.Readings.Select(at => places[at]).Distinct()],
                    say.Say(it.Signature.Causes),
                    say.Say(it.Signature.Next)
                )),
        ];
    }

    private static ComplaintView? Complaint(BenchState state, Dialect say) =>
        state.Complaint is not { } words
            ? null
            : new(
                words,
                [
                    .. Diagnosis
                        .Complaint.In(words)
                        .Select(it => new ComplaintMeaning(
                            say.Say(it.Seen),
                            say.Say(it.Why),
                            [
                                .. it
                                    .Begin.SelectMany(test => StepsOf(state, test))
                                    .Select(step => new ComplaintStep(step.Key, say.Say(step.Name))),
                            ]
                        )),
                ]
            );

    private static IEnumerable<SheetStep> StepsOf(BenchState state, Test test) =>
        state.Sheet.Steps.Where(step =>
            step switch
            {
                SheetStep.Look => test == Test.Visual,
                SheetStep.FuseAndFlex => test == Test.Fuse,
                SheetStep.Function => test == Test.Functional,
                SheetStep.Measure measure => measure.Plan.Test == test,
                _ => false,
            }
        );

    private static EvaluationCard? Evaluation(BenchState state, Dialect say) =>
        state.Proposal is not { } proposal
            ? null
            : new(
                proposal.Evaluation,
                PhrasesOnOffer.Text(proposal.Evaluation),
                say.Say(proposal.Because),
                state.Evaluation?.Evaluation,
                state.Evaluation?.Id,
                [
                    .. Enum.GetValues<Evaluation>()
                        .Select(it => new Choice(Words.Of(it), PhrasesOnOffer.Text(it), Evaluations.Refusal(state, it))),
                ]
            );
}
