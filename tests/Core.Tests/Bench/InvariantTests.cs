using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Whatever happens, in whatever order, to whatever lies on the bench: what must hold, holds.</summary>
public class InvariantTests
{
    private const int Sheets = 1500;

    private static readonly (Item Item, string Pack)[] Things =
    [
        (Kettle, "uk-cop-5"),
        (Kettle, "as-nzs-3760-2022"),
        (Kettle, "en-50699-2020"),
        (Kettle with { EarthedParts = ["case", "tap"] }, "uk-cop-5"),
        (Kettle with { Class = ProtectionClass.Undecided }, "uk-cop-5"),
        (Kettle with { Class = ProtectionClass.INoAccessibleMetal }, "en-50699-2020"),
        (Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null }, "uk-cop-5"),
        (Kettle with { SurgeProtected = true }, "uk-cop-5"),
        (Kettle with { MainsSwitch = MainsSwitch.Electronic }, "uk-cop-5"),
        (Kettle with { Access = AccessLevel.RemovableFixings, Care = [CareNeed.Water] }, "uk-cop-5"),
        (Drill, "uk-cop-5"),
        (Drill, "as-nzs-3760-2022"),
        (Drill with { AllInsulated = true, Use = UseOf.Portable }, "uk-cop-5"),
        (new() { Kind = ItemKind.Appliance, Class = ProtectionClass.III }, "uk-cop-5"),
        (Reel, "uk-cop-5"),
        (Reel with { Rcd = new(0.03) }, "en-50699-2020"),
        (new() { Kind = ItemKind.CordSet, Cord = new(new(2), new(0.75)) }, "uk-cop-5"),
        (new() { Kind = ItemKind.PortableRcd, Rcd = new(0.03) }, "uk-cop-5"),
        (new() { Kind = ItemKind.PortableRcd, Rcd = new(0.1) }, "as-nzs-3760-2022"),
        (Pump, "iec-62353-2014"),
        (Pump, "iec-60601-1-2012"),
        (Pump with { RatedVoltage = new(120), StartUpSeconds = 20 }, "nfpa-99-2012"),
        (Pump with { Class = ProtectionClass.II }, "iec-62353-2014"),
        (Pump with { Class = ProtectionClass.Internal }, "iec-62353-2014"),
    ];

    private static readonly string[] Typed =
    [
        "0.01",
        "0.05",
        "0.2",
        "0.9",
        "5",
        "40",
        "900",
        "30000",
        ">25",
        ">200M",
        "<0.01",
        "-0.01",
        "-0.5",
        "0",
        "nonsense",
        "1,500",
    ];

    /// <summary>A script of numbers, read as things that happen: any script is possible, so that shrinking finds the shortest.</summary>
    private static readonly Gen<(int Thing, int State, bool Lead, bool LookOnly, int[] Script)> Scripts = Gen.Select(
        Gen.Int[0, Things.Length - 1],
        Gen.Int[0, 2],
        Gen.Bool,
        Gen.Bool,
        Gen.Int[0, 999_999].Array[0, 28]
    );

    private static OnTheBench Play((int Thing, int State, bool Lead, bool LookOnly, int[] Script) it)
    {
        var (item, pack) = Things[it.Thing];
        var ruling = RulingFor(item, pack, it.Lead, (ItemState)it.State, Analyser);
        if (it.LookOnly)
            ruling = ruling with { Policy = new() { ClassII = ClassIIPolicy.LookOnly } };
        // Half of them know no outlet yet.
        if ((it.State + it.Script.Length) % 2 == 0)
            ruling = ruling with { Outlets = [] };
        var bench = new OnTheBench(ruling);
        foreach (var number in it.Script)
            Happen(bench, number);
        return bench;
    }

    private static void Happen(OnTheBench bench, int number)
    {
        var (kind, more) = (number % 24, number / 24);
        var state = bench.State;
        var step = state.Sheet.Steps[more % state.Sheet.Steps.Length];
        var earlier = bench.Events.Count == 0 ? Guid.NewGuid() : bench.Events[more % bench.Events.Count].Id;
        var point = state.Sheet.Steps.OfType<SheetStep.Look>().First().Points is var points ? points[more % points.Length].Id : "";
        switch (kind)
        {
            case 0:
                bench.LookGood();
                break;
            case 1:
                bench.LookAs((LookAnswer)(more % 4), more % 3 == 0 ? null : "words", point);
                break;
            case 2 or 3 or 4:
                bench.Type(step.Key, Typed[more % Typed.Length]);
                break;
            case 5:
                bench.Type(step.Key, Typed[more % Typed.Length], at: more % 2 == 0 ? "handle" : "tap");
                break;
            case 6:
                bench.Answer(step.Key, more % 3 != 0);
                break;
            case 7:
                bench.Void(earlier, more % 5 == 0 ? "" : "clip was off", more % 4 == 0 ? point : null);
                break;
            case 8:
                bench.Choose((Scope)(more % 5));
                break;
            case 9:
                bench.Override(earlier, more % 2 == 0 ? Status.Pass : Status.Fail);
                break;
            case 10:
                bench.Confirm(step.Key);
                break;
            case 11:
                bench.Change(new() { Evidence = (ClassEvidence)(more % 7), FlexLengthM = more % 9 });
                break;
            case 12:
                bench.Happens(next => new Borrowed
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                    PackId = PackLibrary.Ids[more % PackLibrary.Ids.Count],
                });
                break;
            case 13:
                bench.Happens(next => new Evaluated
                {
                    Id = next.Id,
                    At = next.At,
                    Evaluation = (Evaluation)(more % 4),
                });
                break;
            case 14:
                bench.Happens(next => new EarthFound
                {
                    Id = next.Id,
                    At = next.At,
                    Step = step.Key,
                    Words = "case",
                });
                break;
            case 15:
                bench.Happens(next => new Withdrawn
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                });
                break;
            case 17 when state.Outlet is { } outlet:
                bench.CheckOutlet(voltages: [.. GoodVoltages(outlet.Supply).Select(it => more % 2 == 0 ? it : it with { Volts = 100 })]);
                break;
            case 18 when state.Outlet is { Offered: { IsEmpty: false } offered }:
                bench.KeepOutlet(offered[0].Id);
                break;
            case 16:
                IsolationTests.Happen(bench, more);
                break;
            case 20:
                StrangeReadingTests.Measured(
                    bench,
                    step.Key,
                    (more % 7) * 0.3,
                    more % 3 == 0 ? "ohm"
                        : more % 3 == 1 ? "Mohm"
                        : "uA",
                    it =>
                        it with
                        {
                            PathSeen = more % 2 == 0,
                            LoadA = more % 5 == 0 ? 0 : null,
                            Lowest = (more % 4) * 0.2,
                            Mains = more % 6 == 0 ? 230 : null,
                        }
                );
                break;
            case 21:
                bench.Happens(next => new PathExplained
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                    Words = more % 5 == 0 ? "" : "soft starter",
                });
                break;
            case 22 when more % 2 == 0:
                bench.Happens(next => new LeakageMethodChosen
                {
                    Id = next.Id,
                    At = next.At,
                    Leakage = (LeakagePolicy)(more / 2 % 3),
                    Reason = "no mains at hand",
                });
                break;
            case 22:
                bench.Happens(next => new CauseTried
                {
                    Id = next.Id,
                    At = next.At,
                    Signature = "earth-open",
                    Words = "clip moved",
                });
                break;
            case 23:
                bench.Happens(next => new MainsLost
                {
                    Id = next.Id,
                    At = next.At,
                    Step = step.Key,
                });
                break;
            default:
                bench.PassTheRest();
                break;
        }
    }

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

    private static void Holds(Action<OnTheBench, BenchState> claim) =>
        Scripts.Sample(
            it =>
            {
                var bench = Play(it);
                claim(bench, bench.State);
            },
            iter: Sheets
        );

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
                var session = new BenchSession(bench.Ruling, []);
                foreach (var it in bench.Events)
                {
                    session.Append(it);
                    _ = session.State;
                }
                session.State.Fingerprint.ShouldBe(state.Fingerprint);
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

    [Fact]
    public void Every_thing_can_be_brought_to_a_pass_by_good_work()
    {
        foreach (var (item, pack) in Things)
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
