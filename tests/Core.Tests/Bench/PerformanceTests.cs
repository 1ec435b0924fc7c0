using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Papers;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A safety analyser and a performance analyser in one job, and what a defibrillator delivers.</summary>
public sealed class PerformanceTests
{
    private const string Pack = "iec-62353-2014";
    private const string PadPath = "padPath";
    private const string Energy = "defibEnergy/360 J";
    private const string Charge = "defibCharge";
    private const string Sync = "defibSync";
    private const string Before = SheetStep.Discharges.OwnKey;
    private static readonly Item Device = Pump with
    {
        AppliedParts = [new("paddles", AppliedPartType.BF, 2)],
        Defibrillator = new([50, 360], Synchronises: true, EcgSetMv: 1),
    };

    private static OnTheBench Laid(KitInHand? kit = null, Item? device = null) => With(device ?? Device, Pack, kit: kit ?? BothAnalysers);

    /// <summary>Looked at, safe, and changed over.</summary>
    private static OnTheBench ChangedOver(KitInHand? kit = null)
    {
        var bench = Laid(kit);
        bench.PassUntil(SheetStep.ChangeOver.OwnKey);
        bench.Confirm(SheetStep.ChangeOver.OwnKey);
        return bench;
    }

    [Fact]
    public void The_sheet_says_once_when_to_change_over_and_each_step_names_its_instrument()
    {
        var sheet = Laid().State.Sheet;
        var at = sheet.Steps.IndexOf(sheet.Steps.Single(step => step is SheetStep.ChangeOver));
        sheet.Steps[..at].ShouldNotContain(step => SheetStep.ChangeOver.IsOfPerformance(step));
        sheet.Steps[at + 1].Key.ShouldBe(PadPath);
        var cards = SheetCardsOf(Laid());
        cards.Single(card => card.Key == "earthContinuity").With!.Name.ShouldBe("Analyser");
        cards.Single(card => card.Key == Energy).With!.Name.ShouldBe("Performance analyser");
        SheetCardsOf(Laid(Analyser)).Single(card => card.Key == Energy).With.ShouldBeNull("nothing in hand measures it");
    }

    [Fact]
    public void Nothing_of_performance_starts_before_the_change_over()
    {
        var bench = Laid();
        bench.PassUntil(SheetStep.ChangeOver.OwnKey);
        bench.Step(PadPath).Start.WhyNot.ShouldBe("First: Change over.");
        bench.Step(Energy).Start.IsGiven.ShouldBeFalse();
        bench.Confirm(SheetStep.ChangeOver.OwnKey);
        bench.Step(PadPath).Start.IsGiven.ShouldBeTrue();
    }

    [Theory]
    [InlineData(Energy, StepAction.Hold)]
    [InlineData(Sync, StepAction.Hold)]
    [InlineData(Charge, StepAction.Hold)]
    [InlineData(Before, StepAction.Hold)]
    [InlineData(PadPath, StepAction.Press)]
    public void What_discharges_is_started_by_a_hold_and_by_its_own_instrument(string step, StepAction action)
    {
        ChangedOver().Step(step).Action.ShouldBe(action);
        // The safety analyser being connected is of no help where the other one is not.
        var typed = ChangedOver(Analyser with { Analyser = PerformanceAnalyser with { Connected = false } }).Step(step).Action;
        typed.ShouldBe(step == Before ? StepAction.Count : StepAction.Type);
    }

    [Fact]
    public void Insulation_that_failed_keeps_everything_that_discharges_from_being_done()
    {
        var bench = Laid();
        bench.PassUntil("earthContinuity");
        bench.Type("earthContinuity", "2");
        foreach (var step in (string[])[PadPath, Energy, Before, Charge, Sync])
            bench.Stands(step).ShouldBe(Standing.Stopped, step);
    }

    [Fact]
    public void A_charge_that_was_timed_before_the_fourteen_decides_nothing()
    {
        var bench = ChangedOver();
        bench.Discharge(13);
        bench.Step(Charge).Start.WhyNot.ShouldBe("First: 14 discharges at 360 J.");
        bench.Type(Charge, "8");
        bench.State.Readings[^1].Judgement!.Because.ShouldBe(Because.NotTired);
        bench.Stands(Charge).ShouldBe(Standing.Undecided);
        bench.Discharge(1);
        bench.Stands(Before).ShouldBe(Standing.Pass);
        bench.Type(Charge, "9");
        bench.Stands(Charge).ShouldBe(Standing.Pass);
    }

    [Fact]
    public void After_a_rest_the_battery_has_recovered_and_the_discharges_are_made_anew()
    {
        var bench = Laid();
        bench.PassUntil(Before);
        bench.Discharge(14);
        Guid Timed(TimeSpan later) =>
            bench.Happens(next => new ReadingTaken
            {
                Id = next.Id,
                At = next.At + later,
                Step = Charge,
                Source = ReadingSource.Typed,
                Text = "8",
            });
        var rest = bench.Ruling.Pack.Thresholds.DischargesRest;
        var late = Timed(rest);
        bench.State.Readings[^1].Judgement!.Because.ShouldBe(Because.NotTired);
        bench.State.Readings[^1].Judgement!.Working[^1].ShouldContain("not timed right after");
        bench.Stands(Before).ShouldBe(Standing.Open);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        // Typed by a slip, it is taken back and the fourteen stand.
        bench.Void(late, "typed at the wrong time");
        bench.Stands(Before).ShouldBe(Standing.Pass);
        Timed(TimeSpan.Zero);
        bench.Stands(Charge).ShouldBe(Standing.Pass);
    }

    /// <summary>Fourteen by the count, thirteen in truth: the charge that was timed after them is timed again.</summary>
    [Fact]
    public void A_discharge_taken_back_takes_the_charge_after_it_along()
    {
        var bench = ChangedOver();
        bench.Discharge(14);
        var last = bench.Events[^1].Id;
        bench.Type(Charge, "8");
        bench.Stands(Charge).ShouldBe(Standing.Pass);
        bench.Void(last, "counted by mistake");
        bench.Stands(Charge).ShouldBe(Standing.Undecided);
        bench.Stands(Before).ShouldBe(Standing.Open);
        bench.Discharge(1);
        bench.Stands(Charge).ShouldBe(Standing.Undecided);
        bench.Type(Charge, "8");
        bench.Stands(Charge).ShouldBe(Standing.Pass);
    }

    [Fact]
    public void A_figure_that_nothing_in_the_kit_could_show_settles_nothing()
    {
        var bench = Laid(Analyser);
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
        bench.Type(Energy, "355");
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("not in today's kit");
    }

    /// <summary>A procedure may go to and fro: each change is told, and holds up what it is for.</summary>
    [Fact]
    public void Every_change_of_instruments_is_told()
    {
        var plan = ProcedureRules.From(
            Planner.Of(PackLibrary.Find(Pack)!, Device, Policy.Usual),
            "Defibrillator on the bench",
            Guid.NewGuid()
        );
        var energy = plan.Steps.Where(step => step is ProcedureStep.Measure { Step: Energy }).ToArray();
        var rest = plan.Steps.Except(energy).ToArray();
        var earth = rest.TakeWhile(step => step is ProcedureStep.Measure { Step: "earthContinuity" }).Count();
        var swapped = plan with { Steps = [.. rest[..earth], .. energy, .. rest[earth..]] };
        var bench = new OnTheBench(RulingFor(Device, Pack, kit: BothAnalysers) with { Procedure = swapped });
        var changes = bench.State.Sheet.Steps.OfType<SheetStep.ChangeOver>().ToArray();
        changes.Select(step => step.Name).ShouldBe(["Change over", "Change back", "Change over"]);
        changes.Select(step => step.Key).Distinct().Count().ShouldBe(3);
        bench.PassUntil("change-over/2");
        bench.Step("leakage/equipment").Start.WhyNot.ShouldBe("First: Change back.");
        bench.Confirm("change-over/2");
        bench.Step("leakage/equipment").Start.IsGiven.ShouldBeTrue();
        bench.Step(PadPath).Start.WhyNot.ShouldBe("First: Change over.");
    }

    [Fact]
    public void One_that_was_too_slow_fails_however_few_came_before_it()
    {
        var bench = ChangedOver();
        bench.Type(Charge, "15.1");
        bench.Stands(Charge).ShouldBe(Standing.Fail);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void A_key_struck_twice_counts_once_and_one_too_many_is_taken_back()
    {
        var bench = ChangedOver();
        bench.Discharge(2);
        var last = (Discharged)bench.Events[^1];
        bench.Events.Add(last with { Id = Guid.NewGuid(), At = last.At.AddSeconds(1) });
        bench.Step(Before).Taken.Length.ShouldBe(2);
        bench.State.Refused[^1].Why.ShouldContain("counted once");
        bench.Void(last.Id, "counted by mistake");
        bench.Step(Before).Taken.Length.ShouldBe(1);
    }

    /// <summary>What an analyser sees may come faster than hands: its clock runs with the simulator.</summary>
    [Fact]
    public void Discharges_that_an_analyser_saw_all_count()
    {
        var bench = ChangedOver();
        var at = bench.Events[^1].At;
        for (var n = 0; n < 14; n++)
            bench.Events.Add(
                new Discharged
                {
                    Id = Guid.NewGuid(),
                    At = at.AddSeconds(n * 0.3),
                    Step = Before,
                    Source = ReadingSource.Instrument,
                }
            );
        bench.Stands(Before).ShouldBe(Standing.Pass);
    }

    [Theory]
    [InlineData("306", Standing.Advice)]
    [InlineData("305.9", Standing.Fail)]
    [InlineData("414", Standing.Advice)]
    [InlineData("414.1", Standing.Fail)]
    public void Of_360_J_54_less_or_more_are_allowed(string read, Standing stands)
    {
        // 15 % of 360 J are 54 J: from 306 J to 414 J.
        var bench = ChangedOver();
        bench.Type(Energy, read);
        bench.Stands(Energy).ShouldBe(stands);
    }

    [Fact]
    public void Without_an_analyser_its_safety_may_pass_and_its_performance_stays_due()
    {
        var bench = Laid(Analyser);
        bench.PassTheRest();
        bench.Stands(Energy).ShouldBe(Standing.NotMeasured);
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
        bench.State.Outcome.ShouldBe(Outcome.PassWithAdvice);
        bench.State.Assessment.Advice.ShouldContain(line => line.StartsWith("Performance not measured"));
        var record = bench.Record();
        record.Next!.Due.ShouldBe(new DateOnly(2026, 4, 1));
        record.Next.Because[^1].ShouldBe("its performance was not measured: it stays due for that");
        record.Instrument!.Analyser.ShouldBeNull();
    }

    [Fact]
    public void With_all_of_it_measured_it_comes_back_for_its_performance_and_both_instruments_stand_on_paper()
    {
        var bench = Laid();
        bench.PassTheRest();
        var record = bench.Record();
        record.Outcome.ShouldBe(Outcome.Pass);
        record.Next!.Due.ShouldBe(bench.Ruling.Today.AddMonths(6));
        record.Instrument!.Analyser!.Name.ShouldBe("Performance analyser");
        var paper = PaperWriter.Of(record, new(1, "00", []), [], TimeZoneInfo.Utc);
        paper.Kit.ShouldContain(fact => fact.Label == "Performance analyser" && fact.Text.Contains("serial 2"));
        // A record is read back as it was written, second instrument and all.
        InspectionRecord.Read(record.ToJson()).Value.Instrument!.Analyser!.Serial.ShouldBe("2");
    }

    [Fact]
    public void One_setting_left_out_is_owed_by_name()
    {
        var bench = Laid();
        bench.PassUntil(Energy);
        bench.Stands("defibEnergy/50 J").ShouldBe(Standing.Pass);
        // While there is still something to do nothing is told yet.
        bench.State.Assessment.Advice.ShouldBeEmpty();
        bench.Answer("functional", true);
        var owed = bench.State.Assessment.Advice.ShouldHaveSingleItem();
        owed.ShouldContain("Delivered energy, 360 J");
        owed.ShouldNotContain("50 J");
        bench.State.EndOf(EndKind.Pass).Why.ShouldBe("Confirm the evaluation first.");
    }

    /// <summary>A step that nothing requires may stay open: what is owed is said all the same.</summary>
    [Fact]
    public void It_is_told_though_something_optional_is_still_open()
    {
        var bench = Laid(Analyser);
        bench.PassUntil("leakage/appliedPart/part paddles");
        bench.Type("leakage/appliedPart/part paddles", "20u");
        bench.Answer("functional", true);
        bench.State.Steps.ShouldContain(step => step.Standing == Standing.Open);
        bench.State.Assessment.Advice.ShouldContain(line => line.StartsWith("Performance not measured"));
    }

    [Fact]
    public void What_a_procedure_asks_waits_for_its_instrument()
    {
        var bench = Laid(Analyser);
        var plan = bench.State.Sheet.Steps.OfType<SheetStep.Measure>().Single(step => step.Key == Energy).Plan;
        plan.Need.ShouldBe(Need.Optional);
        var asked = bench.Ruling.LacksFor(plan.Under).ShouldNotBeNull();
        asked.ShouldStartWith("not measured");
        bench.Step(Energy).Start.WhyNot!.ShouldEndWith("Choose one under Kit.");
    }

    [Fact]
    public void A_reading_of_an_analyser_that_is_not_todays_settles_nothing()
    {
        var bench = ChangedOver();
        bench.Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = Energy,
            Text = "360",
            With = Analyser.Id,
        });
        bench.PassTheRest();
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("not today's any more");
        var barred = With(Device, Pack, kit: Analyser with { Analyser = PerformanceAnalyser with { Trouble = "Calibration ran out." } });
        barred.PassTheRest();
        barred.State.EndOf(EndKind.Pass).Why.ShouldContain("Performance analyser may not be used");
    }

    [Fact]
    public void What_is_typed_may_draw_nothing()
    {
        var bench = ChangedOver();
        var wave = new Waveform("current into 50 Ω", 0.1, "ms", "A", [0, 40, 10]);
        ReadingTaken Read(Guid id, DateTimeOffset at, Waveform drawn) =>
            new()
            {
                Id = id,
                At = at,
                Step = Energy,
                Source = ReadingSource.Instrument,
                Number = 355,
                Unit = "J",
                Waveform = drawn,
                Seal = "sealed",
            };
        bench.Happens(next => Read(next.Id, next.At, wave));
        bench.View.Readings[^1].Waveform.ShouldNotBeNull().Values.Count.ShouldBe(3);
        // Nobody's seal, or what is no curve: the figure stays, the drawing goes.
        bench.Happens(next => Read(next.Id, next.At, wave) with { Seal = null });
        bench.View.Readings[^1].Waveform.ShouldBeNull();
        bench.Happens(next => Read(next.Id, next.At, wave with { Values = [1, double.NaN] }));
        bench.View.Readings[^1].Waveform.ShouldBeNull();
        bench.View.Readings[^1].Text.ShouldBe("355 J");
    }

    [Theory]
    [InlineData("{\"settingsJ\":[]}", null)]
    [InlineData("{\"settingsJ\":[360,50,360],\"synchronises\":true}", "50, 360 J; synchronised")]
    [InlineData("{\"settingsJ\":[200],\"ecgSetMv\":1}", "200 J; trace 1 mV")]
    public void A_device_is_described_by_what_it_delivers(string fact, string? text)
    {
        var changes = BenchJson.ReadEvents(
            $$$"""[{"kind":"factsChanged","id":"{{{Guid.NewGuid()}}}","at":"2026-03-02T09:00:00Z","reason":"plate","changes":{"defibrillator":{{{fact}}} }}]"""
        );
        var item = Facts.Apply(Laid().Ruling.Item, ((FactsChanged)changes.Value[0]).Changes).Value;
        ItemText.Facts(item, PackLibrary.Find(Pack)!.Dialect).FirstOrDefault(line => line.Label == "Delivers")?.Value.ShouldBe(text);
        (item.Equipment.Defibrillator is null).ShouldBe(text is null);
    }

    [Theory]
    [InlineData(0.0)]
    [InlineData(-5.0)]
    [InlineData(1001.0)]
    [InlineData(double.NaN)]
    public void An_energy_that_cannot_be_is_refused(double joule) =>
        Facts.Apply(Laid().Ruling.Item, new() { Defibrillator = new([joule]) }).Fault.ShouldNotBeNull().Path.ShouldBe("defibrillator");

    [Fact]
    public void A_kettle_delivers_no_shock() =>
        Facts
            .Apply(RulingFor(Kettle).Item, new() { Defibrillator = new([50]) })
            .Fault.ShouldNotBeNull()
            .Message.ShouldBe("Only medical devices deliver a shock.");

    [Fact]
    public void Two_hosts_agree_whatever_the_lines_do()
    {
        var ruling = RulingFor(Device, Pack, kit: BothAnalysers);
        // One that does not answer does not say either what it can measure.
        var silent = Analyser with
        {
            Connected = false,
            Functions = [],
            Analyser = PerformanceAnalyser with { Connected = false, Functions = [] },
        };
        (ruling with { Kit = silent }).Fingerprint.ShouldBe(ruling.Fingerprint);
        (ruling with { Kit = Analyser }).Fingerprint.ShouldNotBe(ruling.Fingerprint);
        Ruling.Differences(ruling, ruling with { Kit = Analyser }).ShouldBe(["No performance analyser is chosen now."]);
    }

    private static IReadOnlyList<StepCard> SheetCardsOf(OnTheBench bench) => new BenchSession(bench.Ruling, []).View(null).Sheet!.Steps;
}
