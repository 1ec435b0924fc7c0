using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Review;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Whatever happens, in whatever order, to whatever lies on the bench: what must hold, holds.</summary>
public class InvariantTests
{
    [Fact]
    public void Nothing_takes_mains_from_an_outlet_that_is_not_known_good_whatever_the_order() =>
        Holds(
            (_, state) =>
            {
                if (state.Outlet is null or { InUse: not null })
                    return;
                state.Steps.ShouldNotContain(step => step.Step.Powers && step.Start.IsGiven);
                state.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
            }
        );

    [Fact]
    public void Nothing_passes_by_what_was_powered_from_an_outlet_that_nobody_knew() =>
        Holds(
            (_, state) =>
            {
                if (state.Readings.Any(it => it.Void is null && state.FromNoGoodOutlet.Contains(it.Event.Id)))
                    state.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
            }
        );

    [Fact]
    public void No_pass_of_what_nothing_in_hand_may_measure() =>
        Holds(
            (_, state) =>
            {
                if (!state.EndOf(EndKind.Pass).IsOpen)
                    return;
                foreach (var read in state.Readings.Where(read => read is { Void: null, Judgement.Reading: Reading.Numeric }))
                {
                    var under = read.Judgement!.Reading.Under;
                    state.Ruling.LacksFor(under).ShouldBeNull();
                    state.Ruling.BarredFor(under).ShouldBeNull();
                }
            }
        );

    [Fact]
    public void What_was_shut_for_the_test_can_always_be_opened_again() =>
        Holds(
            (_, state) =>
            {
                var isCaredFor = state.Steps.Any(step => step is { Step.Key: SheetStep.Confirm.Care, Standing: Standing.Pass });
                if (
                    isCaredFor
                    && state.Steps.FirstOrDefault(step => step.Step.Key == SheetStep.Confirm.CareBack) is { IsDecided: false } back
                )
                    back.Start.IsGiven.ShouldBeTrue(back.Start.WhyNot);
            }
        );

    private static void Holds(Action<OnTheBench, BenchState> claim) => Script.Hold(claim);

    [Fact]
    public void Every_kind_of_event_happens_in_the_scripts() =>
        typeof(BenchEvent)
            .Assembly.GetTypes()
            .Where(type => type.IsSubclassOf(typeof(BenchEvent)))
            .Except(Script.All.SelectMany(played => played.Events).Select(e => e.GetType()))
            .ShouldBeEmpty();

    [Fact]
    public void Nothing_live_may_start_unless_everything_that_could_stop_it_is_decided_and_did_not_fail() =>
        Holds(
            (_, state) =>
            {
                for (var at = 0; at < state.Steps.Length; at++)
                {
                    var step = state.Steps[at];
                    if (!step.Start.IsGiven || !step.Step.IsLive)
                        continue;
                    var before = state.Steps.Take(at).Where(earlier => earlier.Step.CanStop(step.Step)).ToArray();
                    before.ShouldNotContain(earlier => earlier.Standing == Standing.Fail, step.Step.Key);
                    if (state.Ruling.Scope == Scope.FaultFinding)
                        continue;
                    before.ShouldNotContain(
                        earlier => earlier.Standing == Standing.Undecided || earlier.Standing == Standing.Void,
                        step.Step.Key
                    );
                    before.ShouldNotContain(earlier => earlier.Step is SheetStep.Look && earlier.Standing == Standing.Open, step.Step.Key);
                }
            }
        );

    [Fact]
    public void Once_anything_failed_the_only_ends_are_fail_and_findings() =>
        Holds(
            (bench, _) =>
            {
                var state = Unlocked(bench);
                var bad =
                    state.Look.Answers.Any(it => it.Answer == LookAnswer.Bad)
                    || state.Readings.Any(it => it is { Void: null, Judgement.Status: Status.Fail })
                    || !state.EarthsFound.IsEmpty;
                if (!bad)
                    return;
                state.EndOf(EndKind.Fail).IsOpen.ShouldBeTrue();
                state.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
                state.EndOf(EndKind.NotTested).IsOpen.ShouldBeFalse();
                if (state.EndOf(EndKind.Findings).IsOpen)
                    state.Ruling.Scope.ShouldBe(Scope.FaultFinding);
            }
        );

    [Fact]
    public void A_pass_hides_nothing_every_failure_was_measured_again_overridden_by_a_lead_or_settled_by_a_fact() =>
        Holds(
            (bench, state) =>
            {
                if (!state.EndOf(EndKind.Pass).IsOpen)
                    return;
                state.Look.Outcome.ShouldBe(Look.Pass);
                state.Readings.ShouldAllBe(it => it.Void != null || it.Judgement == null || it.Judgement.Status != Status.Fail);
                foreach (var hidden in state.Readings.Where(it => it.HidesFailure && !it.OffSheet))
                    state.Readings.ShouldContain(it =>
                        it.Void == null && it.Judgement != null && it.StepKey == hidden.StepKey && it.Event.Point == hidden.Event.Point
                    );
                if (state.Readings.Any(it => it.OverriddenBy is not null))
                    bench.Ruling.Technician.IsLead.ShouldBeTrue();
                if (state.Sheet.IsMeasured && state.Ruling.Item.Equipment.Class != ProtectionClass.Internal)
                    state.Readings.ShouldContain(it =>
                        it.Void == null && it.Judgement != null && it.Judgement.Settles && it.Judgement.Reading.Test != Test.Functional
                    );
            }
        );

    [Fact]
    public void Whatever_failed_on_the_way_the_end_is_a_failure_or_the_lead_reads_of_it_first() =>
        Holds(
            (bench, state) =>
            {
                // Where the item was corrected beside the sheet, what stands before has been judged by other facts: the next claim.
                if (!bench.Events.Exists(e => e is FactsMoved) && EverFailed(bench) is { Length: > 0 } failed)
                    IsAnsweredFor(bench, state, failed);
            }
        );

    [Fact]
    public void Whatever_failed_before_the_item_was_corrected_beside_the_sheet_is_answered_for_as_well() =>
        Holds(
            (bench, _) =>
            {
                var was = bench.Ruling.Item.Equipment;
                bench.Events.RemoveAll(e => e is FactsMoved);
                if (was.IsMedical || EverFailed(bench) is not { Length: > 0 } failed)
                    return;
                var now = was with { Class = was.Class == ProtectionClass.II ? ProtectionClass.I : ProtectionClass.II };
                var after = new OnTheBench(bench.Ruling with { Item = bench.Ruling.Item with { Equipment = now } });
                after.Events.AddRange(bench.Events);
                after.Happens(next => new FactsMoved
                {
                    Id = next.Id,
                    At = next.At,
                    Was = was,
                });
                after.LookGood();
                IsAnsweredFor(after, after.State, failed);
            }
        );

    [Fact]
    public void What_an_instrument_failed_elsewhere_ends_in_no_pass_before_an_instrument_measured_it_again() =>
        Holds(
            (bench, state) =>
            {
                if (state.Steps.FirstOrDefault(step => step.Step is SheetStep.Measure) is not { Step.Key: var key })
                    return;
                var failure = new UnsavedFailure(
                    Guid.NewGuid(),
                    key,
                    null,
                    ProtectionClass.I,
                    "Elsewhere",
                    "9 Ω",
                    "Tom",
                    state.Ruling.Today
                );
                var told = BenchState.Of(bench.Ruling with { UnsavedFailures = [failure] }, bench.Events);
                var isMeasured = told.Readings.Any(read =>
                    read
                        is {
                            StepKey: var at,
                            Event: { Source: ReadingSource.Instrument, Point: null },
                            Void: null,
                            Judgement.Status: Status.Pass
                        }
                    && at == key
                );
                told.Unsaved.IsEmpty.ShouldBe(isMeasured);
                if (!isMeasured)
                    told.Ends.ShouldNotContain(end => end.IsOpen && (end.Kind == EndKind.Pass || end.Kind == EndKind.NotTested));
                else
                    told.Assessment.IsClean.ShouldBeFalse();
            }
        );

    private static void IsAnsweredFor(OnTheBench bench, BenchState state, string[] failed)
    {
        foreach (var end in state.Ends.Where(end => end.IsOpen && end.Kind is EndKind.Pass or EndKind.Looked or EndKind.NotTested))
        {
            var record = Recorded(bench, end.Kind);
            var findings = RecordReview.Of(record, new(null, null, null, []), Thresholds.Shipped);
            foreach (var name in failed)
                findings
                    .Where(finding => finding.Reason is ReviewReason.FailureSetAside or ReviewReason.TakenAgain or ReviewReason.Overridden)
                    .ShouldContain(finding => finding.Text.Contains(name), $"{name}, {end.Kind}: {BenchJson.Write(bench.Events)}");
            if (findings[0].MustBeSeen && end.Kind == EndKind.Pass)
                record.Outcome.ShouldBe(Outcome.PassWithAdvice);
        }
    }

    /// <summary>Names of what failed at any moment of the sheet, while its class was known.</summary>
    private static string[] EverFailed(OnTheBench bench)
    {
        var session = new BenchSession(bench.Ruling, []);
        var names = new HashSet<string>();
        foreach (var e in bench.Events)
        {
            session.Append(e);
            if (session.State.Ruling.Item.Equipment.Class == ProtectionClass.Undecided)
                continue;
            foreach (var borrow in session.State.Readings.SelectMany(read => read.Borrowed))
                if (borrow.Judgement.Status == Status.Fail)
                    names.Add($"{borrow.Judgement.Reading.Name} by {borrow.PackId}");
            foreach (var read in session.State.Readings)
                if (read is { Void: null, Judgement: { Status: Status.Fail, Overridden: null } judged })
                    names.Add(StepNames.Of(judged.Reading.Under with { At = null }));
        }
        return [.. bench.Ruling.Pack.Dialect.Say(names)];
    }

    private static Records.InspectionRecord Recorded(OnTheBench bench, EndKind end) =>
        Records
            .RecordWriter.Write(
                bench.State,
                bench.Events,
                new(end, end == EndKind.Pass ? null : NotTestedReason.Pipe),
                Guid.NewGuid(),
                bench.Start.AddHours(8),
                TimeZoneInfo.Utc,
                DateOnly.FromDateTime(bench.Start.UtcDateTime)
            )
            .Value;

    [Fact]
    public void A_look_never_counts_as_a_test() =>
        Holds(
            (bench, state) =>
            {
                if (state.Sheet.IsMeasured || NextDates.Of(state) is not { } next)
                    return;
                var movesTest =
                    state.Ruling.Scope == Scope.NewItem
                    || ScopeOf.LooksOnly(state.Ruling.Policy, state.Ruling.Item.Equipment, state.Ruling.Pack);
                if (!movesTest)
                    next.Due.ShouldBe(bench.Ruling.Basis.Due);
                Scopes.IsHeld(bench.Ruling.Item.State).ShouldBeFalse("what is held is measured");
            }
        );

    [Fact]
    public void State_is_a_function_on_every_host_with_or_without_memory_and_after_a_round_trip() =>
        Holds(
            (bench, state) =>
            {
                var ruling = BenchJson.ReadRuling(BenchJson.Write(bench.Ruling)).Value;
                var events = BenchJson.ReadEvents(BenchJson.Write(bench.Events)).Value;
                ruling.Fingerprint.ShouldBe(bench.Ruling.Fingerprint);
                BenchState.Of(ruling, events).Fingerprint.ShouldBe(state.Fingerprint);
                // One event after the other, as they happen, shows what is shown after a reload: to the letter, not by fingerprint alone.
                var session = new BenchSession(bench.Ruling, []);
                foreach (var e in bench.Events)
                {
                    session.Append(e);
                    _ = session.View();
                }
                var reloaded = new BenchSession(ruling, events);
                FirstDifference(BenchJson.Write(session.View()), BenchJson.Write(reloaded.View())).ShouldBeNull();
            }
        );

    [Fact]
    public void The_key_that_goes_on_never_saves_a_fail_and_never_starts_what_may_not_start() =>
        Holds(
            (_, state) =>
            {
                var ahead = Ahead.Of(state);
                switch (ahead.Kind)
                {
                    case AheadKind.End:
                        state.EndOf(ahead.End!.Value).IsOpen.ShouldBeTrue();
                        ahead.End.ShouldNotBe(EndKind.Fail);
                        break;
                    case AheadKind.Step:
                        state.Steps.Single(step => step.Step.Key == ahead.Step).IsOver.ShouldBeFalse();
                        break;
                    case AheadKind.Settle:
                        state.HasFailed.ShouldBeTrue();
                        break;
                }
                if (state.HasFailed && state.Ruling.Scope != Scope.FaultFinding)
                    ahead.Kind.ShouldBe(AheadKind.Settle);
                foreach (var step in state.Steps.Where(FurtherPoints.AreTaken))
                    (step.WhyStopped, step.Standing == Standing.Fail).ShouldBe((null, false));
            }
        );

    [Fact]
    public void A_repeated_event_counts_once() =>
        Holds((bench, state) => BenchState.Of(bench.Ruling, [.. bench.Events, .. bench.Events]).Fingerprint.ShouldBe(state.Fingerprint));

    [Fact]
    public void From_everywhere_an_end_can_be_reached() =>
        Holds(
            (bench, _) =>
                Unlocked(bench)
                    .Ends.Count(end => end.IsOpen && end.Kind != EndKind.Discard)
                    .ShouldBeGreaterThan(0, string.Join("; ", bench.State.Ends.Select(end => end.Why)))
        );

    /// <summary>A lock that is on keeps every end closed, and is answered for by one sentence.</summary>
    private static BenchState Unlocked(OnTheBench bench)
    {
        if (!bench.State.Isolation.IsLocked)
            return bench.State;
        bench.State.Ends.ShouldAllBe(end => !end.IsOpen);
        bench.LeaveLock(stays: true, "mine; the key is with the lead");
        return bench.State;
    }

    [Fact]
    public void Nothing_is_lost_every_reading_is_still_there() =>
        Holds(
            (bench, state) =>
            {
                var taken = bench.Events.OfType<ReadingTaken>().Select(it => it.Id).ToHashSet();
                state.Readings.Select(it => it.Event.Id).ToHashSet().SetEquals(taken).ShouldBeTrue();
            }
        );

    [Fact]
    public void What_may_end_can_be_written_and_what_may_not_is_refused() =>
        Holds(
            (bench, state) =>
            {
                foreach (var end in state.Ends.Where(end => end.Kind is not (EndKind.NotTested or EndKind.Discard)))
                {
                    var written = Records.RecordWriter.Write(
                        state,
                        bench.Events,
                        new(end.Kind, end.Kind == EndKind.Looked ? NotTestedReason.Pipe : null),
                        Guid.NewGuid(),
                        bench.Start.AddHours(8),
                        TimeZoneInfo.Utc,
                        DateOnly.FromDateTime(bench.Start.UtcDateTime)
                    );
                    (written.Fault is null).ShouldBe(end.IsOpen, end.Why);
                    if (!end.IsOpen)
                        continue;
                    var text = written.Value.ToJson();
                    FirstDifference(text, Records.InspectionRecord.Read(text).Value.ToJson()).ShouldBeNull();
                }
            }
        );

    /// <summary>Where two long texts part, with what stands around; null where they do not.</summary>
    private static string? FirstDifference(string one, string other)
    {
        var at = one.AsSpan().CommonPrefixLength(other);
        string Around(string it) => it[Math.Max(0, at - 120)..Math.Min(it.Length, at + 80)];
        return at == one.Length && at == other.Length ? null : $"{Around(one)}\n{Around(other)}";
    }

    /// <summary>A probe in the air reads what a sound item reads.</summary>
    [Fact]
    public void No_pass_without_knowing_where_the_probe_of_class_II_lay() =>
        Holds(
            (bench, _) =>
            {
                // Whatever was done so far: somebody who says nothing more, and somebody whose probe shows nothing more, goes on.
                foreach (var (says, shows) in new[] { (true, true), (false, true), (true, false) })
                    HoldsOfProbe(GoneOn(bench, says, shows).State);
            }
        );

    private static OnTheBench GoneOn(OnTheBench bench, bool says, bool shows)
    {
        var after = new OnTheBench(bench.Ruling) { Says = says, Shows = shows };
        after.Events.AddRange(bench.Events);
        return after.PassTheRest();
    }

    private static void HoldsOfProbe(BenchState state)
    {
        if (!state.EndOf(EndKind.Pass).IsOpen || !state.Sheet.IsMeasured)
            return;
        var probed = state
            .Readings.Where(taken => taken is { Void: null, Judgement.Settles: true })
            .Select(taken => taken.Judgement!)
            .Where(judged => Probing.IsProbed(state.Ruling.Item.Equipment, judged.Reading.Under) && judged.Reading is Reading.Numeric)
            .ToArray();
        probed.ShouldAllBe(judged => ((Reading.Numeric)judged.Reading).Probe != null);
        if (probed.Length == 0 || probed.Any(judged => judged.Reading.Value is { IsBound: false, Number: > 0 }))
            return;
        probed.ShouldAllBe(judged => ((Reading.Numeric)judged.Reading).Probe!.On != ProbeOn.Metal || IsProved(judged));
    }

    [Fact]
    public void No_device_passes_of_which_nobody_said_what_touches_the_patient() =>
        Holds(
            (bench, _) =>
            {
                var state = GoneOn(bench, says: false, shows: true).State;
                if (state.Sheet.IsMeasured && !state.Ruling.Item.Equipment.IsPatientSideKnown)
                    state.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
            }
        );

    private static bool IsProved(Judgement it) => ((Reading.Numeric)it.Reading).Probe!.ProvedBy is not null;

    [Fact]
    public void Every_thing_can_be_brought_to_a_pass_by_good_work()
    {
        foreach (var (item, pack) in Script.Things)
        {
            if (item.Class == ProtectionClass.III && pack != "uk-cop-5")
                continue;
            var bench = With(item, pack, kit: Analyser).PassTheRest();
            bench
                .IsOpen(EndKind.Pass)
                .ShouldBeTrue($"{Words.Of(item.Kind)} {Words.Of(item.Class)} under {pack}: {bench.State.EndOf(EndKind.Pass).Why}");
        }
    }
}
