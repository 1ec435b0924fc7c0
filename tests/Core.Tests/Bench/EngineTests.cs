using System.Text.Json.Nodes;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>The bench cannot be led astray: each way to a wrong pass, a live item or a dead end that was once open.</summary>
public class EngineTests
{
    private const string Earth = "earthContinuity";
    private const string Insulation = "insulation";
    private const string Current = "leakage/protectiveConductor";
    private const string Clamped = "leakage/protectiveConductor/differential";
    private const string Function = "functional";

    [Fact]
    public void A_good_kettle_goes_from_the_look_to_a_pass_step_by_step()
    {
        var bench = With(Kettle, kit: Analyser);
        bench.State.Current.ShouldBe("visual");
        bench.LookGood();
        bench.State.Current.ShouldBe(Earth);
        bench.Step(Earth).Action.ShouldBe(StepAction.Press);
        bench.Type(Earth, "0.05");
        bench.Type(Insulation, ">200M");
        bench.Type(Current, "0.3");
        bench.Step(Function).Start.IsGiven.ShouldBeTrue();
        bench.Answer(Function, true);
        bench.State.Current.ShouldBeNull();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
        bench.State.Outcome.ShouldBe(Outcome.Pass);
    }

    [Theory]
    [InlineData(Earth)]
    [InlineData(Insulation)]
    [InlineData(Current)]
    [InlineData(Function)]
    public void Nothing_starts_before_the_look(string step) =>
        With(Kettle, kit: Analyser).Step(step).Start.WhyNot.ShouldNotBeNull().ShouldContain("Look first");

    [Fact]
    public void A_failed_earth_stops_everything_after_it_and_the_only_end_is_fail()
    {
        var bench = With(Kettle, kit: Analyser).LookGood();
        bench.Type(Earth, "0.9");
        foreach (var step in new[] { Insulation, Current, Function })
            bench.Stands(step).ShouldBe(Standing.Stopped);
        bench.State.Ends.Where(end => end.IsOpen).Select(end => end.Kind).ShouldBe([EndKind.Fail, EndKind.Discard]);
        bench.State.Current.ShouldBeNull();
    }

    [Fact]
    public void An_undecided_earth_keeps_whatever_is_live_from_starting()
    {
        var bench = With(Kettle, kit: Analyser).LookGood();
        bench.Type(Earth, ">0.1");
        bench.Stands(Earth).ShouldBe(Standing.Undecided);
        bench.Step(Insulation).Start.WhyNot.ShouldNotBeNull().ShouldContain("undecided");
        bench.Type(Earth, "0.05");
        bench.Stands(Earth).ShouldBe(Standing.Pass);
        bench.State.Readings[0].Void.ShouldBe("undecided, measured again");
    }

    [Theory]
    [InlineData(Insulation, "0.2")]
    [InlineData(Current, "30")]
    public void Whatever_powers_the_item_after_a_failed_step_is_stopped_and_the_fail_may_be_saved_at_once(string step, string bad)
    {
        var bench = With(Kettle, kit: Analyser).LookGood();
        bench.Type(Earth, "0.05");
        if (step == Current)
            bench.Type(Insulation, ">200M");
        bench.Type(step, bad);
        bench.Stands(Function).ShouldBe(Standing.Stopped);
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
        bench.IsOpen(EndKind.NotTested).ShouldBeFalse();
    }

    [Fact]
    public void A_crossed_lead_is_not_powered_any_more()
    {
        var bench = With(Reel, kit: Analyser).LookGood();
        bench.Type("earthContinuity/outlet 1", "0.1");
        bench.Answer("polarity/outlet 1", false);
        bench.Stands(Function).ShouldBe(Standing.Stopped);
        bench.Stands("earthContinuity/outlet 2").ShouldBe(Standing.Open, "it has no voltage on it");
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
    }

    [Fact]
    public void Each_outlet_is_plugged_once_earth_and_polarity_together()
    {
        var keys = With(Reel)
            .State.Sheet.Steps.Select(step => step.Key)
            .Where(key => key.Contains("/outlet", StringComparison.Ordinal))
            .ToArray();
        keys.ShouldBe([
            "earthContinuity/outlet 1",
            "polarity/outlet 1",
            "earthContinuity/outlet 2",
            "polarity/outlet 2",
            "earthContinuity/outlet 3",
            "polarity/outlet 3",
        ]);
    }

    [Theory]
    [InlineData(Scope.FormalVisual)]
    [InlineData(Scope.NewItem)]
    [InlineData(Scope.Combined)]
    public void A_quarantined_item_is_not_freed_by_anything_lighter_than_after_repair(Scope scope)
    {
        var bench = With(Kettle, state: ItemState.Quarantined);
        bench.Choose(scope);
        bench.State.Ruling.Scope.ShouldBe(Scope.AfterRepair);
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("after repair");
        ItemAfter.StateOf(ItemState.Quarantined, Outcome.Pass, scope).ShouldBe(ItemState.Quarantined);
        ItemAfter.StateOf(ItemState.Quarantined, Outcome.Pass, Scope.AfterRepair).ShouldBe(ItemState.InService);
    }

    [Theory]
    [InlineData(Scope.FormalVisual)]
    [InlineData(Scope.NewItem)]
    [InlineData(Scope.AfterRepair)]
    [InlineData(Scope.Combined)]
    public void A_lighter_scope_hides_no_failure(Scope scope)
    {
        var bench = With(Kettle).LookGood();
        bench.Type(Earth, "0.9");
        bench.Choose(scope);
        bench.Answer(Function, true);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.IsOpen(EndKind.NotTested).ShouldBeFalse();
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
    }

    [Fact]
    public void A_formal_visual_moves_only_the_date_of_the_look()
    {
        var bench = With(Kettle);
        bench.Choose(Scope.FormalVisual);
        bench.PassTheRest();
        var next = NextDates.Of(bench.State).ShouldNotBeNull();
        next.Due.ShouldBe(bench.Ruling.Basis.Due);
        next.VisualDue.ShouldBeGreaterThan(bench.Ruling.Today);
        bench.State.Sheet.IsMeasured.ShouldBeFalse();
    }

    [Fact]
    public void Voiding_a_failed_point_leaves_that_point_to_be_measured_again()
    {
        var bench = With(Kettle).LookGood();
        bench.Type(Earth, "0.05");
        var handle = bench.Type(Earth, "0.9", at: "handle");
        bench.Void(handle);
        bench.Step(Earth).Owed.ShouldBe(["handle"]);
        bench.Stands(Earth).ShouldBe(Standing.Void);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.Type(Earth, "0.06", at: "handle");
        bench.Stands(Earth).ShouldBe(Standing.Pass);
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Theory]
    [InlineData("")]
    [InlineData("  ")]
    public void Nothing_is_voided_without_a_reason(string reason)
    {
        var bench = With(Kettle).LookGood();
        bench.Void(bench.Type(Earth, "0.9"), reason);
        bench.Stands(Earth).ShouldBe(Standing.Fail);
        bench.State.Refused.ShouldHaveSingleItem();
    }

    [Fact]
    public void A_bad_look_is_taken_back_only_with_a_reason_and_is_then_answered_again()
    {
        var bench = With(Kettle);
        var bad = bench.LookAs(LookAnswer.Bad, "cut", "flex");
        bench.LookAs(LookAnswer.Good, point: "flex");
        bench.State.Look.Outcome.ShouldBe(Look.Fail, "a second answer does not write over a bad one");
        bench.Void(bad, "it was a shadow", "flex");
        bench.State.Look.Outcome.ShouldBe(Look.NotDone);
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void Advice_passes_and_is_told_and_a_list_of_does_not_apply_is_no_look()
    {
        var bench = With(Kettle);
        bench.LookAs(LookAnswer.DoesNotApply);
        bench.Stands("visual").ShouldBe(Standing.Open);
        bench.LookAs(LookAnswer.Good);
        bench.LookAs(LookAnswer.Advice, "plate hard to read", "marks");
        bench.PassTheRest().State.Outcome.ShouldBe(Outcome.PassWithAdvice);
        bench.LookAs(LookAnswer.Advice, " ", "marks");
        bench.State.Refused.ShouldHaveSingleItem();
    }

    [Fact]
    public void A_typed_rcd_can_pass_and_a_watch_that_was_too_short_says_nothing()
    {
        var rcd = new Item { Kind = ItemKind.PortableRcd, Rcd = new(0.03) };
        var bench = With(rcd).PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);

        var watched = With(rcd).LookGood();
        watched.Type("rcdTrip/0.5x/0", ">500");
        watched.State.Readings[0].Fault.ShouldNotBeNull().ShouldContain("2 s are needed");
        watched.Type("rcdTrip/0.5x/0", ">2000");
        watched.Stands("rcdTrip/0.5x/0").ShouldBe(Standing.Pass);
        watched.Type("rcdTrip/0.5x/180", "900");
        watched.Stands("rcdTrip/0.5x/180").ShouldBe(Standing.Fail, "it tripped where it must not");
    }

    [Fact]
    public void A_probe_that_finds_an_earth_on_class_II_stops_the_job_until_the_class_is_settled()
    {
        var bench = With(Drill).LookGood();
        bench.Happens(next => new EarthFound
        {
            Id = next.Id,
            At = next.At,
            Step = "insulation/mainsToAccessible",
            Words = "gear case",
        });
        bench
            .State.Steps.Where(step => step.Step is SheetStep.Measure or SheetStep.Function)
            .ShouldAllBe(step => step.Standing == Standing.Stopped);
        bench.State.Ends.Where(end => end.IsOpen).Select(end => end.Kind).ShouldBe([EndKind.Fail, EndKind.Discard]);
        bench.Change(new() { Evidence = ClassEvidence.EarthSymbolOrPinMetalReachable });
        bench.State.Ruling.Item.Equipment.Class.ShouldBe(ProtectionClass.I);
        bench.Stands(Earth).ShouldBe(Standing.Open);
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse("a path to earth is not explained away by one person");
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
    }

    [Fact]
    public void An_undecided_class_with_an_open_earth_ends_well_once_it_is_settled()
    {
        var bench = With(Kettle with { Class = ProtectionClass.Undecided }).LookGood();
        bench.Type(Earth, ">25");
        bench.Stands(Earth).ShouldBe(Standing.Undecided);
        bench.Step(Insulation).Start.IsGiven.ShouldBeFalse();
        bench.Change(new() { Evidence = ClassEvidence.SquareWithinSquare });
        bench.State.Sheet.Find(Earth).ShouldBeNull("the sheet follows");
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
    }

    [Fact]
    public void Of_an_undecided_class_every_insulation_comes_before_whatever_powers_it()
    {
        var steps = With(Kettle with { Class = ProtectionClass.Undecided }).State.Sheet.Steps;
        var lastDead = steps.ToList().FindLastIndex(step => step is SheetStep.Measure { Powers: false });
        steps.ToList().FindIndex(step => step.Powers).ShouldBeGreaterThan(lastDead);
    }

    [Fact]
    public void A_bad_earth_is_no_open_earth_and_a_settled_class_does_not_hide_it()
    {
        var bench = With(Kettle with { Class = ProtectionClass.Undecided }).LookGood();
        bench.Type(Earth, "4");
        bench.Stands(Earth).ShouldBe(Standing.Fail);
        bench.Change(new() { Evidence = ClassEvidence.SquareWithinSquare });
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("settle its class");
    }

    [Fact]
    public void Facts_entered_on_the_bench_make_a_new_ruling_under_which_all_is_judged_again()
    {
        var bench = With(Kettle with { Cord = null }).LookGood();
        bench.Type(Earth, "0.12");
        bench.Stands(Earth).ShouldBe(Standing.Fail);
        bench.Change(new() { FlexLengthM = 2, FlexMm2 = 1 });
        bench.Stands(Earth).ShouldBe(Standing.Pass, "the flex may have its copper");
        bench.Ruling.Item.Equipment.Cord.ShouldBeNull("what it was before is kept");
    }

    [Theory]
    [InlineData(false, Status.Fail)]
    [InlineData(true, Status.Pass)]
    public void Only_a_lead_overrides_and_it_shows_and_can_be_withdrawn(bool isLead, Status status)
    {
        var bench = With(Kettle, isLead: isLead).LookGood();
        var by = bench.Override(bench.Type(Earth, "0.2"), Status.Pass);
        bench.State.Readings[0].Judgement!.Status.ShouldBe(status);
        if (!isLead)
            return;
        bench.Stands(Earth).ShouldBe(Standing.Overridden);
        bench.PassTheRest().State.Outcome.ShouldBe(Outcome.PassWithAdvice);
        bench.Happens(next => new Withdrawn
        {
            Id = next.Id,
            At = next.At,
            Target = by,
        });
        bench.Stands(Earth).ShouldBe(Standing.Fail);
    }

    [Fact]
    public void An_override_belongs_to_its_reading_and_medical_leakage_has_none()
    {
        var bench = With(Kettle, isLead: true).LookGood();
        var first = bench.Type(Earth, "0.2");
        bench.Override(first, Status.Pass);
        bench.Void(first);
        bench.Type(Earth, "0.3");
        bench.Stands(Earth).ShouldBe(Standing.Fail);

        var pump = With(Pump, "iec-62353-2014", isLead: true).LookGood();
        pump.Type(Earth, "0.08");
        var leak = pump.Type("leakage/equipment", "900u");
        pump.Override(leak, Status.Pass);
        pump.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("never overridden");
    }

    [Fact]
    public void A_borrowed_standard_counts_for_itself_and_never_settles_a_step()
    {
        var bench = With(Kettle).LookGood();
        bench.Type(Earth, "0.05");
        var low = bench.Type(Insulation, "0.5");
        bench.Happens(next => new Borrowed
        {
            Id = next.Id,
            At = next.At,
            Target = low,
            PackId = "nfpa-99-2012",
        });
        bench.Stands(Insulation).ShouldBe(Standing.Fail, "no limit settles nothing");
        bench.Happens(next => new Borrowed
        {
            Id = next.Id,
            At = next.At,
            Target = low,
            PackId = "uk-cop-5",
        });
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("own standard");
    }

    [Theory]
    [InlineData(Evaluation.NoDeficiency, false)]
    [InlineData(Evaluation.NoDirectRisk, false)]
    [InlineData(Evaluation.OutOfUse, true)]
    public void An_evaluation_that_the_figures_contradict_is_refused(Evaluation evaluation, bool stands)
    {
        var bench = With(Pump, "iec-62353-2014").LookGood();
        bench.Type(Earth, "0.08");
        bench.Type("leakage/equipment", "900u");
        bench.Happens(next => new Evaluated
        {
            Id = next.Id,
            At = next.At,
            Evaluation = evaluation,
        });
        (bench.State.Evaluation is not null).ShouldBe(stands);
    }

    [Fact]
    public void A_null_from_the_page_moves_nothing_and_an_instrument_needs_the_servers_seal()
    {
        var bench = With(Kettle, kit: Analyser).LookGood();
        bench.Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = Earth,
            Source = ReadingSource.Instrument,
            Number = 5.05,
            Unit = "ohm",
            NullOhm = 5,
        });
        bench.Stands(Earth).ShouldBe(Standing.Fail);
        bench.State.Readings[0].Event.Source.ShouldBe(ReadingSource.Typed);
    }

    [Fact]
    public void The_guarded_decision_uses_what_the_maker_of_the_instrument_states()
    {
        var stated = Analyser with { Accuracies = [new(Core.Standards.Test.EarthContinuity, 3, 2, 0.01, "ohm")] };
        var bench = new OnTheBench(RulingFor(Kettle, kit: stated) with { DecisionRule = DecisionRule.Guarded }).LookGood();
        bench.Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = Earth,
            Source = ReadingSource.Instrument,
            Number = 0.125,
            Unit = "ohm",
            Seal = "sealed",
        });
        bench.Stands(Earth).ShouldBe(Standing.Undecided);
        bench.State.Readings[0].Judgement!.Because.ShouldBe(Because.TooCloseForInstrument);
    }

    [Fact]
    public void Mains_on_patient_parts_is_started_by_a_hold()
    {
        var kit = Analyser with { Functions = [.. Analyser.Functions, "leakage/appliedPart"] };
        var step = With(Pump, "iec-62353-2014", kit: kit)
            .State.Steps.First(it => it.Step is SheetStep.Measure { Plan.HazardKind: HazardKind.MainsOnPatient });
        step.Action.ShouldBe(StepAction.Hold);
    }

    [Theory]
    [InlineData(false, null)]
    [InlineData(true, "Calibration ran out")]
    public void An_instrument_that_does_not_answer_or_is_out_of_calibration_starts_nothing(bool connected, string? trouble) =>
        With(Kettle, kit: Analyser with { Connected = connected, Trouble = trouble })
            .LookGood()
            .Step(Earth)
            .Action.ShouldBe(StepAction.Type);

    [Fact]
    public void Hard_wired_is_isolated_first_and_restored_before_power()
    {
        var bench = With(Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null }, kit: Analyser);
        bench.State.Current.ShouldBe(SafeIsolation.Identify);
        bench.Step("visual").Start.IsGiven.ShouldBeFalse();
        bench.PassUntil("visual");
        bench.State.Isolation.IsIsolated.ShouldBeTrue();
        bench.LookGood();
        bench.Type(Earth, "0.05");
        bench.Type(Insulation, ">200M");
        bench.State.Current.ShouldBe(SafeIsolation.Reconnect);
        bench.Step(Clamped).Start.IsGiven.ShouldBeFalse();
        bench.Confirm(SafeIsolation.Reconnect);
        bench.Confirm(SafeIsolation.Unlock);
        bench.Step(Clamped).Start.IsGiven.ShouldBeFalse();
        bench.Confirm(SafeIsolation.Energise);
        bench.Step(Clamped).Start.IsGiven.ShouldBeTrue();
        bench.Step(Clamped).Action.ShouldBe(StepAction.Type, "no outlet of the tester powers what has no plug");
        bench
            .Step(Clamped)
            .Step.ShouldBeOfType<SheetStep.Measure>()
            .Plan.Terminals.ShouldBe("Clamp round L+N together at the connection unit");
    }

    [Fact]
    public void Fault_finding_relaxes_the_order_never_the_stop_and_never_passes()
    {
        var bench = With(Kettle, kit: Analyser);
        bench.Choose(Scope.FaultFinding);
        bench.Step(Insulation).Start.IsGiven.ShouldBeTrue();
        bench.Type(Insulation, "0.1");
        bench.Step(Current).Start.WhyNot.ShouldNotBeNull().ShouldContain("not powered");
        bench.IsOpen(EndKind.Findings).ShouldBeTrue();
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void A_defibrillator_comes_back_for_its_performance()
    {
        var defibrillator = Pump with { Defibrillator = new([200]), AppliedParts = [new("pads", AppliedPartType.BF)] };
        var bench = With(defibrillator, "iec-62353-2014").PassTheRest();
        NextDates.Of(bench.State).ShouldNotBeNull().Due.ShouldBe(bench.Ruling.Today.AddMonths(6));
    }

    [Fact]
    public void Words_are_those_of_the_standards_own_country()
    {
        var view = new BenchSession(RulingFor(Pump with { RatedVoltage = new(120) }, "nfpa-99-2012"), []).View();
        var said = BenchJson.Write(view);
        said.ShouldContain("Ground continuity");
        said.ShouldNotContain(" flex ", Case.Sensitive);
        view.Sheet.ShouldNotBeNull().Steps.ShouldContain(step => step.Family == StepFamily.Pause);
    }

    [Theory]
    [InlineData("good", true)]
    [InlineData("splendid", false)]
    [InlineData(null, false)]
    public void An_answer_of_the_look_that_is_missing_is_never_read_as_good(string? answer, bool stands)
    {
        var bench = With(Kettle).LookGood();
        var events = JsonNode.Parse(BenchJson.Write(bench.Events))!;
        var point = events[0]!["points"]![0]!.AsObject();
        point.Remove("answer");
        if (answer is not null)
            point["answer"] = answer;
        (BenchJson.ReadEvents(events.ToJsonString()).Fault is null).ShouldBe(stands);
        point.Remove("pointId");
        BenchJson.ReadEvents(events.ToJsonString()).Fault.ShouldNotBeNull();
    }

    [Fact]
    public void A_null_among_events_or_points_is_a_fault_that_says_where()
    {
        BenchJson.ReadEvents("[null]").Fault.ShouldNotBeNull().Path.ShouldBe("$[0]");
        var events = JsonNode.Parse(BenchJson.Write(With(Kettle).LookGood().Events))!;
        events[0]!["points"]!.AsArray().Add(null);
        BenchJson.ReadEvents(events.ToJsonString()).Fault.ShouldNotBeNull().Path.ShouldBe("$[0]");
    }

    [Fact]
    public void An_item_with_applied_parts_that_is_not_medical_does_not_construct() =>
        Should.Throw<ArgumentException>(() => new Item { Kind = ItemKind.Appliance, AppliedParts = [new("x", AppliedPartType.B)] });

    [Fact]
    public void A_named_earth_part_wants_its_own_name()
    {
        var bench = With(Kettle with { EarthedParts = ["case", "tap"] }).LookGood();
        bench.Type("earthContinuity/case", "0.05");
        bench.Type("earthContinuity/case", "0.05", at: "somewhere");
        bench.State.Assessment.Missing.ShouldContain(step => step.Detail.Contains("tap"));
    }

    [Theory]
    [InlineData("0.05", "0.06", false)]
    [InlineData("0.05", "0.05", true)]
    [InlineData("0.130", "0.132", false)]
    public void Whoever_saves_and_whoever_stores_agree_on_values_not_on_standings_alone(string shown, string stored, bool isSame)
    {
        static string Typed(string ohm)
        {
            var bench = With(Kettle).LookGood();
            bench.Type(Earth, ohm);
            return bench.State.Fingerprint;
        }
        (Typed(shown) == Typed(stored)).ShouldBe(isSame);
    }

    [Fact]
    public void What_an_instrument_says_of_itself_is_no_part_of_the_fingerprint()
    {
        var kit = Analyser with { Meter = Meter with { Connected = true, Functions = ["insulation"] } };
        RulingFor(Kettle, kit: kit).Fingerprint.ShouldBe(RulingFor(Kettle, kit: Analyser with { Meter = Meter }).Fingerprint);
    }
}
