using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;

namespace Osierwand.Core.Records;

/// <summary>How a run sheet is to be ended, as asked for by the bench.</summary>
/// <param name="NotTested">With the ends "not tested" and "looked at, not tested".</param>
public sealed record Ending(EndKind Kind, NotTestedReason? NotTested = null, string? Remarks = null);

/// <summary>Makes the record of a run sheet that ends. The last state shown is what is written.</summary>
public static class RecordWriter
{
    public const int LongestRemark = 2000;

    private static readonly TimeSpan ClockForgiven = TimeSpan.FromMinutes(10);

    /// <summary>Pre-dated benches are believed for so long; a clock that runs ahead is held to the server's.</summary>
    private static readonly TimeSpan OldestBelieved = TimeSpan.FromDays(31);

    /// <param name="receivedAt">By the server's clock.</param>
    /// <param name="zone">Of the site.</param>
    /// <param name="roundBegan">The first day of the round, at the site.</param>
    /// <returns>The record, or why the sheet cannot end so.</returns>
    public static Result<InspectionRecord> Write(
        BenchState state,
        IReadOnlyList<BenchEvent> events,
        Ending ending,
        Guid id,
        DateTimeOffset receivedAt,
        TimeZoneInfo zone,
        DateOnly roundBegan
    )
    {
        if ((Refusal(state, ending) ?? Untimely(events, receivedAt, zone, roundBegan)) is { } refused)
            return refused;
        var (ruling, say) = (state.Ruling, state.Ruling.Pack.Dialect);
        var (sheet, now) = (SheetCards.Of(state), StateCards.Of(state));
        var times = TimesOf(events, receivedAt, zone, ruling.Round.TimeZone);
        var outcome = OutcomeOf(state, ending);
        var isPass = outcome is Outcome.Pass or Outcome.PassWithAdvice;
        var next =
            isPass ? NextDates.Of(state, times.Date)
            : ending.Kind == EndKind.Looked ? NextDates.OfLook(state, times.Date)
            : null;
        var isTest = state.Sheet.IsMeasured && ruling.Scope != Planning.Scope.FaultFinding && ending.Kind != EndKind.Looked;
        return new InspectionRecord
        {
            Id = id,
            Item = new(
                ruling.Item.Id,
                ruling.Item.Tag,
                ruling.Item.Name,
                ruling.Item.Maker,
                ruling.Item.Model,
                ruling.Item.Serial,
                ruling.Item.Site,
                ruling.Item.Room,
                sheet.ClassText,
                sheet.Evidence,
                sheet.Facts,
                ruling.Item.State,
                ruling.Item.Revision,
                ruling.Item.Equipment
            ),
            Round = ruling.Round,
            Rules = new(
                ruling.Fingerprint,
                ruling.PackId,
                ruling.Pack.FullVersion,
                ruling.Pack.FullName,
                ruling.House,
                ruling.Policy,
                ruling.DecisionRule,
                ruling.Scope,
                ruling.School,
                state.Sheet.IsMeasured ? ruling.Procedure?.Title : null,
                ruling.Pack.Thresholds.Table.FullVersion,
                ruling.Look?.Revision
            ),
            Technician = ruling.Technician,
            Instrument = state.Readings.IsEmpty && state.Isolation.Story.IsEmpty ? null : Used(state, ruling.Kit?.Chosen),
            Times = times,
            KindOfInspection =
                ending.Kind == EndKind.Looked
                    ? InspectionRecord.LookedNotTested
                    : InspectionRecord.ScopeName(ruling.Scope, state.Sheet.IsMeasured),
            IsTest = isTest,
            Events = events,
            Look = new(
                now.LookOutcome,
                [.. sheet.Look.Select(point => Point(point, now))],
                sheet.Fuse.Summary,
                [.. sheet.Fuse.Findings.Select(finding => finding.Text)]
            ),
            Complaint = state.Complaint,
            Procedure = state.Sheet.IsMeasured ? ruling.Procedure : null,
            LeftOut = state.Sheet.LeftOut.IsEmpty
                ? null
                :
                [
                    .. state.Sheet.LeftOut.Select(left => new RecordedLeftOut(
                        say.Say(left.Plan.Name),
                        say.Say(SheetCards.Detail(left.Plan)),
                        left.Reason
                    )),
                ],
            WorkOrder = state.WorkOrder,
            Sticker = state.Sticker,
            StoodIsolated = state.StandsIsolated,
            Closes = isPass && ruling.Scope == Planning.Scope.AfterRepair ? Closed(ruling.Item.Held, state.Repair) : null,
            Circuit = state.Circuit,
            LeakageReason = ruling.LeakageReason,
            Tried = now.Tried is { Count: > 0 } tried ? tried : null,
            Photos = state.Photos.IsEmpty ? null : [.. state.Photos.Select(photo => new RecordedPhoto(photo.Photo, photo.Of))],
            Outlet = state.Outlet?.InUse is { } outlet && state.Readings.Length > 0 ? outlet : null,
            Isolation = state.Isolation.Story is { IsEmpty: false } story ? story : null,
            Readings = now.Readings,
            Steps =
            [
                .. sheet.Steps.Zip(
                    now.Steps,
                    (card, step) => new RecordedStep(card.Key, card.Name, Conditions(card), step.Standing, card.Limit, step.Stopped)
                ),
            ],
            Diagnosis = now.Telling,
            Outcome = outcome,
            OutcomeText = PhrasesOnOffer.Text(outcome),
            Reasons = now.Reasons,
            Advice = state.HasFailed ? now.Advice : [.. now.Advice, .. say.Say(StateCards.NotPutBack(state))],
            SetAside = now.SetAside is { Count: > 0 } failures ? failures : null,
            NearLimit = NextDates.IsNear(state),
            Rising = NextDates.IsRising(state),
            NotTested = ending.NotTested is { } reason && outcome == Outcome.NotTested ? new(reason, PhrasesOnOffer.Text(reason)) : null,
            Remarks = string.IsNullOrWhiteSpace(ending.Remarks) ? null : ending.Remarks.Trim(),
            Evaluation =
                now.Evaluation is { } evaluation && outcome != Outcome.NotTested
                    ? new(evaluation.Proposal, evaluation.Confirmed, evaluation.Because)
                    : null,
            Next = next,
            Label =
                outcome == Outcome.Findings
                    ? null
                    : new(
                        ruling.Item.Tag,
                        ruling.Item.Name,
                        ruling.Round.Client,
                        times.Date,
                        outcome,
                        isTest || ending.Kind == EndKind.NotTested ? "" : "visual",
                        ruling.Technician.Initials,
                        ruling.Basis.LabelWithNextDate ? next?.Due : null
                    ),
            Taken =
            [
                new(
                    times.Date,
                    ruling.Scope == Planning.Scope.AfterRepair,
                    [.. state.Readings.Where(it => it is { Judgement: not null, OffSheet: false }).Select(it => it.Judgement!.Reading)]
                )
                {
                    Item = ruling.Item.Equipment,
                    IsClean = state.Assessment.IsClean,
                },
            ],
        };
    }

    /// <summary>What measured stands in the record, and nothing beside it: the first of them with the pieces of the kit. Where nothing
    /// did, what was in hand.</summary>
    private static KitInHand? Used(BenchState state, KitInHand? kit)
    {
        if (kit is null)
            return null;
        var used = state.Readings.Select(With).ToHashSet();
        Guid With(TakenReading taken) =>
            (taken.Judgement is { } judged ? state.Ruling.KitOf(taken.Event, judged.Reading.Under) : null)?.Id ?? kit.Id;
        KitInHand? IfUsed(KitInHand? one) => one is not null && used.Contains(one.Id) ? one : null;
        var first = kit.All.FirstOrDefault(one => used.Contains(one.Id)) ?? kit;
        return first with
        {
            Pieces = kit.Pieces,
            Meter = first == kit ? IfUsed(kit.Meter) : null,
            Clamp = first == kit.Clamp ? null : IfUsed(kit.Clamp),
            Analyser = first == kit.Analyser ? null : IfUsed(kit.Analyser),
        };
    }

    /// <summary>Of a confirmation: what was confirmed.</summary>
    private static string Conditions(StepCard card) =>
        card.Family == StepFamily.Confirm && card.Lines.Count > 0 ? string.Join("; ", card.Lines) : card.Detail;

    /// <summary>A record that takes another one back: the item stands as it stood before it.</summary>
    public static InspectionRecord Withdrawal(InspectionRecord taken, Guid id, string reason, Worker by, DateTimeOffset receivedAt) =>
        taken with
        {
            Id = id,
            Corrects = new(taken.Id, reason),
            Technician = by,
            Times = taken.Times with { ReceivedAt = receivedAt },
            Outcome = Outcome.Withdrawn,
            OutcomeText = PhrasesOnOffer.Text(Outcome.Withdrawn),
            IsTest = false,
            Reasons = [$"Record {taken.Id} is taken back: {reason}"],
            Advice = [],
            Next = null,
            Label = null,
        };

    private static Fault? Refusal(BenchState state, Ending ending)
    {
        if (ending.Remarks?.Length > LongestRemark)
            return new Fault("remarks", $"The remark is longer than {LongestRemark} characters.");
        if (ending.Kind == EndKind.Discard)
            return new Fault("kind", "A discarded sheet makes no record of an inspection.");
        var end = state.EndOf(ending.Kind);
        if (!end.IsOpen)
            return new Fault("kind", end.Why);
        if (ending.Kind is not (EndKind.NotTested or EndKind.Looked))
            return null;
        if (ending.NotTested is not { } reason)
            return new Fault("notTested", "Say why it was not tested.");
        return Ends.Refusal(state, ending.Kind, reason) is { } why ? new Fault("notTested", why) : null;
    }

    /// <summary>Nothing was done in the future, nor before anybody had come. A bench corrects its clock by the server's; what little
    /// remains is forgiven.</summary>
    private static Fault? Untimely(IReadOnlyList<BenchEvent> events, DateTimeOffset receivedAt, TimeZoneInfo zone, DateOnly roundBegan)
    {
        if (events.Any(it => it.At > receivedAt + ClockForgiven))
            return new Fault(
                "events",
                "Something on this sheet has a time that is still to come: the clock of this device is ahead. Set it right; what was done is kept."
            );
        var first = TimeZoneInfo.ConvertTime(events.Select(it => it.At).DefaultIfEmpty(receivedAt).Min(), zone);
        return DateOnly.FromDateTime(first.DateTime) < roundBegan
            ? new Fault(
                "events",
                $"Something on this sheet was done on {first:yyyy-MM-dd}, before this round began on {roundBegan:yyyy-MM-dd}: it belongs to no visit. "
                    + "Discard the sheet with this as the reason, and look anew."
            )
            : null;
    }

    private static Outcome OutcomeOf(BenchState state, Ending ending) =>
        ending.Kind switch
        {
            EndKind.NotTested or EndKind.Looked => Outcome.NotTested,
            EndKind.Findings => Outcome.Findings,
            EndKind.Fail => Outcome.Fail,
            _ => state.Outcome!.Value,
        };

    private static HeldOn? Closed(HeldOn? held, RepairSaid? repair) => held is null ? null : held with { Repair = repair };

    private static RecordedPoint Point(LookCard card, StateView now)
    {
        var answer = now.Look.LastOrDefault(it => it.PointId == card.Id);
        return new(
            card.Id,
            card.Where,
            card.Text,
            answer?.Answer ?? LookAnswer.DoesNotApply,
            answer is null ? "not answered" : answer.Words,
            answer?.Ohm
        );
    }

    private static RecordedTimes TimesOf(IReadOnlyList<BenchEvent> events, DateTimeOffset receivedAt, TimeZoneInfo zone, string zoneId)
    {
        var from = events.Count == 0 ? receivedAt : events.Min(it => it.At);
        var to = events.Count == 0 ? receivedAt : events.Max(it => it.At);
        var believed = to > receivedAt || receivedAt - to > OldestBelieved ? receivedAt : to;
        return new(from, to, receivedAt, DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(believed, zone).DateTime), zoneId);
    }
}
