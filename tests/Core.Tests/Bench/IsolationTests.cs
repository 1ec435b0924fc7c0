using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Hard-wired equipment: nobody's hand on it before two proofs stand around the dead readings, and no lock forgotten.</summary>
public class IsolationTests
{
    private static readonly Item Rail = Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null };

    private static OnTheBench Bench(int phases = 1) => With(Rail with { Phases = phases }, kit: Analyser);

    private static OnTheBench Isolated()
    {
        var bench = Bench();
        bench.PassUntil("visual");
        bench.State.Isolation.IsIsolated.ShouldBeTrue();
        return bench;
    }

    /// <summary>One deed of isolation by a number, sensible or not.</summary>
    internal static void Happen(OnTheBench bench, int number)
    {
        var (kind, more) = (number % 12, number / 12);
        var pairs = bench.State.Isolation.Pairs;
        switch (kind)
        {
            case < 4:
                // Mostly what comes next, so that scripts get far enough to be worth breaking.
                if (bench.State.Current is { } next && SafeIsolation.Order.Contains(next))
                    Next(bench, next, more);
                break;
            case 4 or 5:
                bench.Confirm(SafeIsolation.Order[more % SafeIsolation.Order.Length]);
                break;
            case 6:
                bench.Prove(works: more % 4 != 0, indicator: $"V-{more % 2}", type: (IndicatorKind)(more % 5 == 0 ? 1 : 0));
                break;
            case 7 or 8:
                bench.TestDead((Side)(more % 2), pairs[more % pairs.Length], more % 9 == 0 ? 231 : 0);
                break;
            case 9 when more % 3 == 0:
                bench.BeginIsolationAgain();
                break;
            case 10 when more % 3 == 0:
                bench.LeaveLock(more % 2 == 0, "key with the lead");
                break;
            case 11 when more % 3 == 0:
                bench.Happens(next => new Parked { Id = next.Id, At = next.At });
                bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
                break;
        }
    }

    private static void Next(OnTheBench bench, string step, int more)
    {
        switch (step)
        {
            case SafeIsolation.Prove or SafeIsolation.ProveAgain:
                bench.Prove(indicator: $"V-{more % 2}");
                break;
            case SafeIsolation.DeadAtSupply or SafeIsolation.DeadAtLoad:
                foreach (var pair in bench.State.Isolation.Pairs)
                    bench.TestDead(step == SafeIsolation.DeadAtSupply ? Side.Supply : Side.Load, pair);
                break;
            default:
                bench.Confirm(step);
                break;
        }
    }

    /// <summary>Told from the bare list of what counted, without the machine that decided it.</summary>
    [Fact]
    public void No_order_of_events_reaches_disconnect_without_both_proofs_around_the_dead_readings()
    {
        var reached = 0;
        Gen.Select(Gen.Int[0, 1], Gen.Int[0, 99_999].Array[5, 45])
            .Sample(
                (three, script) =>
                {
                    var bench = Bench(three == 1 ? 3 : 1);
                    foreach (var number in script)
                    {
                        Happen(bench, number);
                        var state = bench.State;
                        if (state.Isolation.IsIsolated || state.Steps.Any(it => it.Step.Key == "visual" && it.Start.IsGiven))
                        {
                            Interlocked.Increment(ref reached);
                            Proved(state, bench.Events).ShouldBeNull();
                        }
                    }
                },
                iter: 150
            );
        reached.ShouldBeGreaterThan(25, "the scripts do not get there");
    }

    private static string? Proved(BenchState state, IReadOnlyList<BenchEvent> all)
    {
        var refused = state.Refused.Select(it => it.Id).ToHashSet();
        var counted = all.Where(it => !refused.Contains(it.Id)).ToList();
        var disconnected = counted.FindLastIndex(it => it is Confirmed { Step: SafeIsolation.Disconnect });
        var second = disconnected < 0 ? -1 : counted.FindLastIndex(disconnected, it => it is IndicatorProved { Works: true });
        var first = second < 1 ? -1 : counted.FindLastIndex(second - 1, it => it is IndicatorProved { Works: true });
        if (first < 0)
            return "no two proofs before it was disconnected";
        var between = counted[first..second].OfType<DeadTested>().Where(it => it.Volts == 0).Select(it => (it.Side, it.Pair)).ToHashSet();
        if (between.Count != 2 * state.Isolation.Pairs.Length)
            return $"{between.Count} dead readings between the proofs";
        if (((IndicatorProved)counted[first]).Indicator != ((IndicatorProved)counted[second]).Indicator)
            return "two indicators";
        if (counted.FindLastIndex(first, it => it is Confirmed { Step: SafeIsolation.Lock }) < 0)
            return "no lock";
        // Unlocked, it is nobody's isolation any more: what is restored stays restored, and nothing dead is measured on it.
        var unlocked = counted.FindIndex(disconnected, it => it is Confirmed { Step: SafeIsolation.Unlock });
        return counted
            .Take(unlocked < 0 ? counted.Count : unlocked)
            .Skip(first)
            .FirstOrDefault(it =>
                it
                    is DeadTested { Volts: > 0 }
                        or IndicatorProved { Works: false }
                        or IsolationBegunAgain
                        or LockLeft
                        or Resumed
                        or TakenOver
            )
            ?.GetType()
            .Name;
    }

    [Fact]
    public void A_second_proof_that_fails_voids_what_came_before_it()
    {
        var bench = Bench();
        bench.PassUntil(SafeIsolation.ProveAgain);
        bench.Prove(works: false);
        bench.State.Current.ShouldBe(SafeIsolation.Prove);
        bench.State.Isolation.Dead.ShouldBeEmpty();
        bench.State.Isolation.Setback.ShouldNotBeNull().ShouldContain("counts for nothing");
        bench.Confirm(SafeIsolation.Disconnect);
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("First: Indicator proved");
        bench.PassUntil("visual");
        bench.State.Isolation.IsIsolated.ShouldBeTrue("another indicator, and everything once more");
    }

    [Theory]
    [InlineData(SafeIsolation.Identify, "counts as live")]
    [InlineData(SafeIsolation.Disconnect, "counts as live")]
    [InlineData("visual", "Proved dead")]
    [InlineData(SafeIsolation.Unlock, "counts as live")]
    [InlineData("leakage/protectiveConductor/differential", "energised")]
    public void Whether_it_counts_as_live_is_said_at_every_step(string step, string says)
    {
        var bench = Bench();
        bench.PassUntil(step);
        bench.State.Isolation.Says.ShouldContain(says);
    }

    [Theory]
    [InlineData(Side.Supply, "N-E", 12)]
    [InlineData(Side.Load, "L-N", 231)]
    [InlineData(Side.Load, "L-E", 0.4)]
    public void Any_voltage_stops_the_job_and_it_begins_from_the_first_step(Side side, string pair, double volts)
    {
        var bench = Bench();
        bench.PassUntil(side == Side.Supply ? SafeIsolation.DeadAtSupply : SafeIsolation.DeadAtLoad);
        bench.TestDead(side, pair, volts);
        bench.State.Current.ShouldBe(SafeIsolation.Identify);
        bench.State.Isolation.IsLocked.ShouldBeTrue("the lock is where it is");
        bench.State.Isolation.Setback.ShouldNotBeNull().ShouldContain("the job stops here");
        bench.State.Steps.Where(it => it.Step is SheetStep.Measure or SheetStep.Look).ShouldAllBe(it => !it.Start.IsGiven);
        bench.IsOpen(EndKind.NotTested).ShouldBeFalse();
        bench.LeaveLock(stays: false, "cover on, lock off, the electrician is called");
        bench.IsOpen(EndKind.NotTested).ShouldBeTrue();
    }

    [Theory]
    [InlineData(IndicatorKind.Multimeter, ProvingSource.ProvingUnit, null, "never accepted")]
    [InlineData(IndicatorKind.ProximityDetector, ProvingSource.ProvingUnit, null, "never proves dead")]
    [InlineData(IndicatorKind.TwoPole, ProvingSource.KnownLiveSource, null, "say why")]
    [InlineData(IndicatorKind.TwoPole, ProvingSource.KnownLiveSource, " ", "say why")]
    [InlineData(IndicatorKind.TwoPole, ProvingSource.KnownLiveSource, "the unit's battery is flat", null)]
    public void What_dead_is_proved_with(IndicatorKind kind, ProvingSource on, string? reason, string? refusal)
    {
        var bench = Bench();
        bench.PassUntil(SafeIsolation.Prove);
        bench.Happens(next => new IndicatorProved
        {
            Id = next.Id,
            At = next.At,
            Indicator = "V-1",
            Type = kind,
            On = on,
            Reason = reason,
            Works = true,
        });
        if (refusal is null)
            bench.State.Current.ShouldBe(SafeIsolation.DeadAtSupply);
        else
            bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain(refusal);
    }

    [Fact]
    public void Only_the_indicator_that_was_tested_with_is_proved_again()
    {
        var bench = Bench();
        bench.PassUntil(SafeIsolation.ProveAgain);
        bench.Prove(indicator: "V-2");
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("V-1");
        bench.Prove(indicator: "v-1");
        bench.State.Current.ShouldBe(SafeIsolation.Disconnect);
    }

    [Fact]
    public void Three_phases_have_ten_pairs_on_either_side_and_line_comes_last()
    {
        var bench = Bench(phases: 3);
        bench.PassUntil(SafeIsolation.DeadAtLoad);
        bench.State.Isolation.Dead.Length.ShouldBe(10);
        bench.State.Isolation.Pairs[0].ShouldBe("N-E");
        foreach (var pair in bench.State.Isolation.Pairs.Skip(1))
            bench.TestDead(Side.Load, pair);
        bench.State.Current.ShouldBe(SafeIsolation.DeadAtLoad, "one pair is missing");
        bench.TestDead(Side.Load, "L-N");
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("The pairs are");
    }

    [Fact]
    public void Who_leaves_it_or_hands_it_on_proves_it_dead_again()
    {
        var bench = Isolated();
        bench.Happens(next => new Parked { Id = next.Id, At = next.At });
        bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
        bench.State.Current.ShouldBe(SafeIsolation.Prove);
        bench.PassUntil("visual");
        bench.Happens(next => new TakenOver
        {
            Id = next.Id,
            At = next.At,
            HandOver = next.Id,
            From = "Rufus",
        });
        bench.State.Current.ShouldBe(SafeIsolation.Identify);
        bench.State.Isolation.Setback.ShouldNotBeNull().ShouldContain("Rufus isolated it");
    }

    [Fact]
    public void No_sheet_ends_with_a_lock_on_that_nobody_answers_for()
    {
        var bench = Isolated();
        bench.State.Ends.ShouldAllBe(end => !end.IsOpen);
        bench.LeaveLock(stays: true, "");
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("whose lock");
        bench.LeaveLock(stays: true, "mine; the key is in the site office");
        bench.IsOpen(EndKind.NotTested).ShouldBeTrue();
        new BenchSession(bench.Ruling, bench.Events)
            .View()
            .Now.Advice.ShouldContain("A lock stays on it: mine; the key is in the site office");
        bench.Step("earthContinuity").Start.IsGiven.ShouldBeFalse("nothing is isolated by whoever left");
    }

    [Fact]
    public void What_is_connected_again_is_isolated_anew_before_it_is_measured()
    {
        var bench = Bench();
        bench.PassUntil("leakage/protectiveConductor/differential");
        bench.Void(bench.Step("insulation").Taken[0]);
        bench.Step("insulation").Start.WhyNot.ShouldNotBeNull().ShouldContain("isolate it anew");
        bench.Confirm(SafeIsolation.Identify);
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("begin from the first step with a reason");
        bench.BeginIsolationAgain();
        bench.State.Current.ShouldBe(SafeIsolation.Identify);
        bench.Step("leakage/protectiveConductor/differential").Start.IsGiven.ShouldBeFalse();
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void What_is_only_looked_at_is_not_taken_off_its_supply()
    {
        var bench = Bench();
        bench.Choose(Scope.FormalVisual);
        bench.State.Current.ShouldBe("visual");
        bench.State.Sheet.Steps.ShouldAllBe(step => !step.Key.StartsWith("isolation") && !step.Key.StartsWith("restore"));
        new BenchSession(bench.Ruling, bench.Events).View().Now.Isolation.ShouldBeNull();
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();

        // A lock that is on is answered for, whatever the scope has become.
        var begun = Isolated();
        begun.Choose(Scope.FormalVisual);
        begun.PassTheRest();
        begun.State.Ends.ShouldAllBe(end => !end.IsOpen);
        new BenchSession(begun.Ruling, begun.Events).View().Now.Isolation.ShouldNotBeNull().SaysOfLock.ShouldBe("A lock is on.");
        begun.LeaveLock(stays: false, "connected again by the electrician, cover on");
        begun.IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void What_has_a_plug_is_not_isolated_here()
    {
        var bench = With(Kettle, kit: Analyser);
        bench.Prove();
        bench.TestDead(Side.Supply, "L-N");
        bench.LeaveLock(true, "mine");
        bench.Confirm(SafeIsolation.Off);
        bench.State.Refused.Length.ShouldBe(4);
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void The_record_tells_the_isolation_deed_by_deed_and_reads_back()
    {
        var bench = Bench();
        bench.PassTheRest();
        var record = RecordWriter
            .Write(
                bench.State,
                bench.Events,
                new(EndKind.Pass),
                Guid.NewGuid(),
                new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero),
                TimeZoneInfo.Utc,
                new(2026, 1, 1)
            )
            .Value;
        var told = record.Isolation.ShouldNotBeNull().Select(it => it.Text).ToArray();
        told[0].ShouldContain("ring 3");
        told.Count(it => it == "V-1 proved on the proving unit").ShouldBe(2);
        told.Count(it => it.StartsWith("Dead on the ", StringComparison.Ordinal)).ShouldBe(6);
        told[^1].ShouldBe("Supply restored");
        record.Isolation!.Select(it => it.At).ShouldBeInOrder();
        InspectionRecord.Read(record.ToJson()).Value.ToJson().ShouldBe(record.ToJson());
    }
}
