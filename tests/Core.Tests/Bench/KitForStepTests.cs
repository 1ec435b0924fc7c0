using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Papers;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Each step has the instrument it needs: what is not in hand measures nothing, what is barred neither, and the record names what
/// did.</summary>
public class KitForStepTests
{
    private const string Earth = "earthContinuity";
    private static readonly Item Rail = Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null };
    private static readonly KitInHand WithMeter = Analyser with { Meter = Meter };

    private static OnTheBench Worded(School school, KitInHand kit, Item? item = null, string pack = "uk-cop-5")
    {
        var bench = new OnTheBench(RulingFor(item ?? Kettle, pack, kit: kit) with { School = school });
        bench.LookGood();
        return bench;
    }

    private static StepCard Card(OnTheBench bench, string step) =>
        new BenchSession(bench.Ruling, bench.Events).View().Sheet!.Steps.First(card => card.Key.StartsWith(step));

    [Fact]
    public void Worded_for_a_meter_the_analyser_starts_nothing()
    {
        var bench = Worded(School.Meter, Analyser);
        var earth = bench.Step(Earth);
        earth.Action.ShouldBe(StepAction.Type);
        earth.Start.WhyNot.ShouldBe("Not measured: no meter is chosen for today. Choose one under Kit.");
        Card(bench, Earth).With.ShouldBeNull("nothing in hand measures it");
        Worded(School.ApplianceTester, Analyser).Step(Earth).Action.ShouldBe(StepAction.Press);
    }

    [Fact]
    public void The_steps_are_shown_for_what_is_in_hand_and_for_nothing_else()
    {
        static School Chosen(KitInHand kit, School school)
        {
            var bench = With(Kettle, kit: kit);
            bench.Happens(next => new SchoolChosen
            {
                Id = next.Id,
                At = next.At,
                School = school,
            });
            var offered = PhrasesOnOffer.Of(bench.Ruling).Schools.Single(choice => choice.Value == Words.Of(school));
            (offered.WhyNot is null).ShouldBe(bench.State.Ruling.School == school);
            return bench.State.Ruling.School;
        }
        Chosen(Analyser, School.Meter).ShouldBe(School.ApplianceTester);
        Chosen(WithMeter, School.Meter).ShouldBe(School.Meter);
        Chosen(WithMeter, School.ApplianceTester).ShouldBe(School.ApplianceTester);
    }

    [Fact]
    public void With_both_in_hand_the_wording_decides_which_measures_and_the_record_names_that_one()
    {
        var bench = Worded(School.Meter, WithMeter);
        bench.Step(Earth).Start.IsGiven.ShouldBeTrue();
        bench.Step(Earth).Action.ShouldBe(StepAction.Type, "the meter is on no line");
        Card(bench, Earth).With!.Name.ShouldBe("Meter");
        bench.Type(Earth, "0.05");
        bench.Type("insulation", ">500M");
        bench.Answer("functional", true);
        var record = bench.Record();
        record.Instrument!.Name.ShouldBe("Meter");
        record.Instrument.All.ShouldHaveSingleItem();
        record.Instrument.Pieces.ShouldNotBeEmpty("what else was in hand stands with it");
        PaperWriter.Of(record, new(1, "00", []), [], TimeZoneInfo.Utc).Kit.ShouldNotContain(fact => fact.Text.Contains("Analyser"));
        Worded(School.ApplianceTester, WithMeter).LookGood().Step(Earth).Action.ShouldBe(StepAction.Press);
    }

    [Fact]
    public void A_meter_alone_measures_nothing_that_is_worded_for_a_tester()
    {
        var bench = Worded(School.ApplianceTester, Meter);
        bench.Step(Earth).Start.WhyNot!.ShouldContain("no tester or safety analyser is chosen");
        bench.Type(Earth, "0.05");
        bench.Type("insulation", ">500M");
        bench.Answer("functional", true);
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("not in today's kit");
    }

    [Fact]
    public void What_no_plug_feeds_is_read_by_a_clamp_or_not_at_all()
    {
        var clamped = With(Rail, "en-50699-2020", kit: Analyser);
        var leakage = clamped.State.Sheet.Steps.OfType<SheetStep.Measure>().First(step => step.Plan.Test == Test.Leakage).Key;
        Card(clamped, leakage).With!.Name.ShouldBe("Clamp");
        clamped.PassTheRest();
        var record = clamped.Record();
        record.Instrument!.All.Select(kit => kit.Name).ShouldBe(["Analyser", "Clamp"]);
        PaperWriter
            .Of(record, new(1, "00", []), [], TimeZoneInfo.Utc)
            .Kit.ShouldContain(fact => fact.Label == "Leakage clamp" && fact.Text.StartsWith("Clamp"));

        var without = With(Rail, "en-50699-2020", kit: Analyser with { Clamp = null });
        without.Step(leakage).Start.WhyNot!.ShouldContain("no leakage clamp is chosen for today");
        // Where the pack lets insulation stand for the current, nothing waits for the clamp.
        var free = With(Rail, kit: Analyser with { Clamp = null });
        free.Stands(leakage).ShouldBe(Standing.NotMeasured);
        free.PassTheRest();
        free.State.EndOf(EndKind.Pass).IsOpen.ShouldBeTrue();
    }

    [Fact]
    public void A_figure_of_what_the_instrument_cannot_measure_passes_nothing()
    {
        var earthAlone = Analyser with { Functions = [], Accuracies = [new(Test.EarthContinuity, 2, 2, 0.01, "ohm")], Connected = false };
        var bench = Worded(School.ApplianceTester, earthAlone, pack: "en-50699-2020");
        bench.Type(Earth, "0.05");
        bench.Step("insulation").Start.WhyNot.ShouldBe("Not measured: Analyser has no such function. Choose one under Kit.");
        bench.Type("insulation", ">500M");
        bench.Type("leakage", "0.2");
        bench.Answer("functional", true);
        bench.State.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
        // One of which nobody has said what it measures measures all.
        var unknown = Worded(School.ApplianceTester, earthAlone with { Accuracies = [] });
        unknown.Step(Earth).Start.IsGiven.ShouldBeTrue();
    }

    public static TheoryData<KitKind, KitFitness, School, string, bool> Pieces =>
        new()
        {
            { KitKind.TestLead, KitFitness.Barred, School.ApplianceTester, Earth, false },
            { KitKind.Clip, KitFitness.Barred, School.ApplianceTester, Earth, false },
            { KitKind.TestLead, KitFitness.DeadWorkOnly, School.ApplianceTester, Earth, true },
            { KitKind.Probes, KitFitness.Barred, School.ApplianceTester, Earth, true },
            { KitKind.Probes, KitFitness.Barred, School.Meter, Earth, false },
            { KitKind.Probes, KitFitness.DeadWorkOnly, School.Meter, Earth, true },
            { KitKind.Adapter, KitFitness.Barred, School.ApplianceTester, Earth, true },
        };

    [Theory]
    [MemberData(nameof(Pieces))]
    public void What_a_step_is_measured_through_bars_it(KitKind kind, KitFitness fitness, School school, string step, bool mayStart)
    {
        var bad = Piece(kind, "Old 1", fitness: fitness, trouble: "Bare tip of 12 mm.");
        var kit = WithMeter with { Pieces = [bad] };
        var bench = Worded(school, kit);
        bench.Step(step).Start.IsGiven.ShouldBe(mayStart);
        if (!mayStart)
            bench.Step(step).Start.WhyNot.ShouldBe("Old 1 may not be used. Bare tip of 12 mm. Choose others under Kit.");
        // A sound one beside it is the one that is used.
        Worded(school, kit with { Pieces = [bad, Piece(kind, "New 2")] }).Step(step).Start.IsGiven.ShouldBeTrue();
    }

    [Fact]
    public void Probes_for_dead_work_read_insulation_of_class_II_and_no_touch_current()
    {
        var kit = Analyser with { Pieces = [Piece(KitKind.Probes, "Old 1", fitness: KitFitness.DeadWorkOnly)] };
        var bench = With(Drill, kit: kit);
        string Key(Test test) => bench.State.Sheet.Steps.OfType<SheetStep.Measure>().First(step => step.Plan.Test == test).Key;
        bench.PassUntil(Key(Test.Insulation));
        bench.Step(Key(Test.Insulation)).Start.IsGiven.ShouldBeTrue();
        bench.Type(Key(Test.Insulation), ">500M");
        bench.Step(Key(Test.Leakage)).Start.WhyNot!.ShouldContain("for dead work only");
    }

    [Fact]
    public void Read_through_barred_probes_nothing_passes_and_a_failure_stays_one()
    {
        var kit = WithMeter with { Pieces = [Piece(KitKind.Probes, "Old 1", fitness: KitFitness.Barred, trouble: "Taped.")] };
        var bench = Worded(School.Meter, kit);
        bench.Type(Earth, "0.05");
        bench.Type("insulation", ">500M");
        bench.Answer("functional", true);
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("Old 1 may not be used. Taped. Choose others");
        var failing = Worded(School.Meter, kit);
        failing.Type(Earth, "0.9");
        failing.State.EndOf(EndKind.Fail).IsOpen.ShouldBeTrue();
    }

    [Theory]
    [InlineData(0.1, "0.1", Status.Undecided)]
    [InlineData(0.1, "0.0", Status.Pass)]
    [InlineData(0.01, "0.1", Status.Pass)]
    [InlineData(0.1, "0.2", Status.Fail)]
    public void A_figure_typed_off_a_coarse_meter_is_judged_by_its_steps(double step, string typed, Status status)
    {
        var coarse = Meter with { Accuracies = [new(Test.EarthContinuity, 2, 3, step, "ohm"), .. Meter.Accuracies.Skip(1)] };
        var bench = Worded(School.Meter, coarse, Kettle);
        bench.Type(Earth, typed);
        var reading = bench.State.Readings.Single();
        reading.Judgement!.Status.ShouldBe(status);
        if (status == Status.Pass)
            bench.State.Assessment.Advice.Any(line => line.Contains("read in steps of")).ShouldBe(step > 0.05);
    }

    [Theory]
    [InlineData(0.2, Status.Pass)]
    [InlineData(0.1, Status.Undecided)]
    public void A_figure_typed_off_a_meter_is_judged_by_the_current_it_drives(double amperes, Status status)
    {
        var weak = Meter with
        {
            Accuracies = [new(Test.EarthContinuity, 2, 3, 0.001, "ohm", TestCurrentA: amperes), .. Meter.Accuracies.Skip(1)],
        };
        var bench = Worded(School.Meter, weak, pack: "en-50699-2020");
        bench.Type(Earth, "0.05");
        bench.State.Readings.Single().Judgement!.Status.ShouldBe(status);
    }

    /// <summary>Whatever is in hand and however the sheet is worded: what passed was measured by what measures that.</summary>
    [Fact]
    public void A_pass_names_for_each_figure_an_instrument_in_hand_that_measures_it()
    {
        var kits =
            from main in Gen.OneOf(Gen.Const(Analyser), Gen.Const(Meter))
            from meter in Gen.Bool
            from clamp in Gen.Bool
            select main with
            {
                Clamp = clamp ? Clamp : null,
                Meter = meter && main != Meter ? Meter : null,
            };
        Gen.Select(
                kits,
                Gen.OneOf(Gen.Const(Kettle), Gen.Const(Rail), Gen.Const(Drill)),
                Gen.Enum<School>(),
                Gen.OneOf(Gen.Const("uk-cop-5"), Gen.Const("en-50699-2020"))
            )
            .Sample(
                (kit, item, school, pack) =>
                {
                    var bench = Worded(school, kit, item, pack);
                    bench.PassTheRest();
                    if (!bench.State.EndOf(EndKind.Pass).IsOpen)
                        return;
                    var record = bench.Record();
                    foreach (var read in bench.State.Readings.Where(read => read.Judgement is { Reading: Reading.Numeric }))
                    {
                        var own = bench.State.Ruling.KitFor(read.Judgement!.Reading.Under).ShouldNotBeNull();
                        own.IsKnownToLack(read.Judgement.Reading.Test).ShouldBeFalse();
                        record.Instrument!.All.ShouldContain(named => named.Id == own.Id);
                    }
                },
                iter: 200
            );
    }

    [Fact]
    public void One_more_point_is_started_with_no_kit_that_was_barred_meanwhile()
    {
        var bench = Worded(School.ApplianceTester, Analyser);
        bench.Type(Earth, "0.05", at: "handle");
        FurtherPoints.At(bench.State, bench.Step(Earth), "lid").IsGiven.ShouldBeTrue();
        var barred = Piece(KitKind.TestLead, "Lead B", fitness: KitFitness.Barred, trouble: "Taped.");
        var state = BenchState.Of(bench.Ruling with { Kit = Analyser with { Pieces = [barred] } }, bench.Events);
        var step = state.Steps.First(one => one.Step.Key == Earth);
        FurtherPoints.At(state, step, "lid").WhyNot.ShouldBe("Lead B may not be used. Taped. Choose others under Kit.");
    }

    [Fact]
    public void What_the_tester_read_stays_its_own_when_the_steps_are_shown_for_a_meter()
    {
        var bench = Worded(School.ApplianceTester, WithMeter with { Accuracies = [new(Test.EarthContinuity, 2, 2, 0.001, "ohm")] });
        bench.Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = Earth,
            Source = ReadingSource.Typed,
            Text = "0.05",
            With = Analyser.Id,
        });
        bench.Happens(next => new SchoolChosen
        {
            Id = next.Id,
            At = next.At,
            School = School.Meter,
        });
        bench.Type("insulation", ">500M");
        bench.Answer("functional", true);
        bench.State.EndOf(EndKind.Pass).IsOpen.ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
        ((Reading.Numeric)bench.State.Readings[0].Judgement!.Reading).Accuracy!.Value.Resolution.ShouldBe(0.001);
        bench.Record().Instrument!.All.Select(kit => kit.Name).ShouldBe(["Analyser", "Meter"]);
    }
}
