using System.Text.Json;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>What the one key that goes on does, what may be measured beside, and what a lead may make of a reading: offered by the
/// engine, so that no screen decides it.</summary>
public class AheadTests
{
    private const string Earth = "earthContinuity";
    private const string Insulation = "insulation";

    private static Ahead Of(OnTheBench bench) => Ahead.Of(bench.State);

    [Fact]
    public void It_goes_step_by_step_and_saves_when_nothing_is_left()
    {
        var bench = With(Kettle);
        (Of(bench).Kind, Of(bench).Step).ShouldBe((AheadKind.Step, "visual"));
        bench.LookGood();
        (Of(bench).Kind, Of(bench).Step).ShouldBe((AheadKind.Step, Earth));
        bench.PassTheRest();
        (Of(bench).Kind, Of(bench).End).ShouldBe((AheadKind.End, EndKind.Pass));
    }

    [Fact]
    public void After_a_failure_it_decides_nothing()
    {
        var bench = With(Kettle).LookGood();
        bench.Type(Earth, "0.9");
        (Of(bench).Kind, Of(bench).Step, Of(bench).End).ShouldBe((AheadKind.Settle, null, null));
    }

    [Fact]
    public void Of_fault_finding_it_goes_on_after_a_failure_and_ends_with_findings()
    {
        var bench = new OnTheBench(RulingFor(Kettle) with { Scope = Scope.FaultFinding }).LookGood();
        bench.Type(Insulation, "0.2");
        Of(bench).Kind.ShouldBe(AheadKind.Step);
        bench.Type(Earth, "0.05");
        (Of(bench).Kind, Of(bench).End).ShouldBe((AheadKind.End, EndKind.Findings));
    }

    [Fact]
    public void Medical_equipment_is_evaluated_by_a_person_before_it_is_saved()
    {
        var bench = With(Pump, "iec-62353-2014");
        bench.PassUntil(null);
        Of(bench).Kind.ShouldBe(AheadKind.ConfirmEvaluation);
        bench.PassTheRest();
        (Of(bench).Kind, Of(bench).End).ShouldBe((AheadKind.End, EndKind.Pass));
    }

    [Fact]
    public void What_is_worth_telling_is_looked_at_before_the_evaluation_is_confirmed()
    {
        var bench = With(Pump, "iec-62353-2014");
        bench.PassUntil("leakage/equipment");
        bench.Type("leakage/equipment", "480");
        bench.PassUntil(null);
        (bench.State.Proposal!.Evaluation, Of(bench).Kind).ShouldBe((Evaluation.NoDirectRisk, AheadKind.Evaluate));
    }

    [Fact]
    public void One_more_point_is_taken_where_there_are_several_and_never_over_a_failure()
    {
        var bench = With(Kettle, kit: Analyser).LookGood();
        FurtherPoints.AreTaken(bench.Step(Earth)).ShouldBeFalse("the first point comes first");
        bench.Type(Earth, "0.05", at: "Case");
        FurtherPoints.AreTaken(bench.Step(Earth)).ShouldBeTrue();
        FurtherPoints.At(bench.State, bench.Step(Earth), "Handle").IsGiven.ShouldBeTrue();
        FurtherPoints.At(bench.State, bench.Step(Earth), "Case").IsGiven.ShouldBeFalse();
        var bad = bench.Type(Earth, "0.9", at: "Handle");
        FurtherPoints.At(bench.State, bench.Step(Earth), "Guard").IsGiven.ShouldBeFalse();
        bench.Void(bad);
        FurtherPoints.At(bench.State, bench.Step(Earth), "Handle").IsGiven.ShouldBeTrue("its failed reading was voided");
    }

    [Fact]
    public void A_step_that_names_its_own_spot_has_no_other()
    {
        var bench = With(Kettle with { EarthedParts = ["case", "tap"] }, kit: Analyser).LookGood();
        bench.Type("earthContinuity/case", "0.05");
        FurtherPoints.AreTaken(bench.Step("earthContinuity/case")).ShouldBeFalse();
    }

    [Theory]
    [InlineData(Insulation, ">200M")]
    [InlineData("leakage/protectiveConductor", "0.3")]
    public void No_other_test_has_further_points(string step, string reading)
    {
        var bench = With(Kettle, kit: Analyser).LookGood();
        bench.Type(Earth, "0.05");
        bench.Type(Insulation, ">200M");
        bench.Type("leakage/protectiveConductor", "0.3");
        bench.Stands(step).ShouldBe(Standing.Pass, reading);
        FurtherPoints.AreTaken(bench.Step(step)).ShouldBeFalse();
    }

    [Theory]
    [InlineData(true, "0.9", Status.Pass)]
    [InlineData(true, "0.05", Status.Fail)]
    [InlineData(false, "0.9", null)]
    public void A_lead_is_offered_the_other_verdict_and_a_technician_none(bool isLead, string reading, Status? offered)
    {
        var bench = With(Kettle, isLead: isLead).LookGood();
        var id = bench.Type(Earth, reading);
        new BenchSession(bench.Ruling, bench.Events).View().Now.Readings.Single(it => it.Id == id).OverrideTo.ShouldBe(offered);
    }

    [Fact]
    public void What_was_voided_overridden_or_is_medical_leakage_is_offered_none()
    {
        var bench = With(Kettle, isLead: true).LookGood();
        var id = bench.Type(Earth, "0.9");
        Offered(bench, id).ShouldBe(Status.Pass);
        bench.Override(id, Status.Pass);
        Offered(bench, id).ShouldBeNull();
        var again = bench.Type(Earth, "0.8");
        bench.Void(again);
        Offered(bench, again).ShouldBeNull();
        var pump = With(Pump, "iec-62353-2014", isLead: true).LookGood();
        var leak = pump.Type("leakage/equipment", "900");
        Offered(pump, leak).ShouldBeNull();
    }

    private static Status? Offered(OnTheBench bench, Guid id) =>
        new BenchSession(bench.Ruling, bench.Events).View().Now.Readings.Single(it => it.Id == id).OverrideTo;

    [Fact]
    public void All_good_answers_what_nobody_answered_and_changes_nothing_else()
    {
        var bench = With(Kettle);
        var points = bench.State.Sheet.Steps.OfType<SheetStep.Look>().Single().Points.Select(point => point.Id).ToArray();
        AllGood.Of(bench.State).Points.ShouldBe(points);
        bench.LookAs(LookAnswer.DoesNotApply, point: points[1]);
        AllGood.Of(bench.State).Points.ShouldBe(points.Where(id => id != points[1]));
        foreach (var point in points)
            bench.LookAs(LookAnswer.DoesNotApply, point: point);
        AllGood.Of(bench.State).Points.ShouldBeEmpty();
        AllGood.Of(bench.State).WhyNot.ShouldNotBeNull().ShouldContain("something must have been looked at");
    }

    /// <summary>What is said of a failure somebody else left is not said to whoever has that very sheet, and to nobody less.</summary>
    [Fact]
    public void A_failure_left_open_warns_everybody_but_whoever_goes_on_with_it()
    {
        var handOver = Guid.NewGuid();
        var ruling = RulingFor(Kettle);
        var bench = new OnTheBench(ruling with { Item = ruling.Item with { LeftFailure = new("Ida left a failure", handOver) } });
        Warning(bench).ShouldBe("Ida left a failure");
        TakesOver(bench, Guid.NewGuid());
        Warning(bench).ShouldBe("Ida left a failure", "it was another sheet");
        TakesOver(bench, handOver);
        Warning(bench).ShouldBeNull();
    }

    private static string? Warning(OnTheBench bench) => new BenchSession(bench.Ruling, bench.Events).View().Now.Warning;

    private static void TakesOver(OnTheBench bench, Guid handOver) =>
        bench.Happens(next => new TakenOver
        {
            Id = next.Id,
            At = next.At,
            HandOver = handOver,
            From = "Ida",
        });

    [Fact]
    public void Whoever_takes_a_sheet_over_is_told_whose_work_it_was()
    {
        var bench = With(Kettle).LookGood();
        TakesOver(bench, Guid.NewGuid());
        bench.PassTheRest();
        new BenchSession(bench.Ruling, bench.Events).View().Now.Advice.ShouldContain("Begun by Ida, who handed the sheet over.");
        bench.State.Outcome.ShouldBe(Outcome.Pass, "by whom it was done is no advice to the client");
    }

    /// <summary>A technician's sheet may hold an override that counts for nothing; in a lead's hands it must not come to count.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void An_override_made_before_a_sheet_was_handed_over_lapses_and_can_be_made_anew(bool isLead)
    {
        var bench = With(Kettle, isLead: isLead).LookGood();
        var failed = bench.Type(Earth, "0.9");
        bench.Override(failed, Status.Pass);
        bench.State.HasFailed.ShouldBe(!isLead);
        TakesOver(bench, Guid.NewGuid());
        var taken = new OnTheBench(RulingFor(Kettle, isLead: true));
        taken.Events.AddRange(bench.Events);
        taken.State.HasFailed.ShouldBeTrue("nobody who has the sheet now decided it");
        taken.IsOpen(EndKind.Pass).ShouldBeFalse();
        taken.Override(failed, Status.Pass);
        taken.State.HasFailed.ShouldBeFalse();
    }

    /// <summary>A screen compares words: a choice that went out as a number would be none it knows.</summary>
    [Fact]
    public void Every_choice_in_a_view_or_a_ruling_goes_out_as_a_word()
    {
        var seen = new HashSet<Type>();
        foreach (var (item, pack) in new[] { (Kettle, "uk-cop-5"), (Reel, "uk-cop-5"), (Pump, "iec-62353-2014"), (Pump, "nfpa-99-2012") })
        {
            var bench = With(item, pack, isLead: true, kit: Analyser).PassTheRest();
            using var view = JsonDocument.Parse(BenchJson.Write(new BenchSession(bench.Ruling, bench.Events).View()));
            Walk(typeof(BenchView), view.RootElement, "", seen);
            using var ruling = JsonDocument.Parse(BenchJson.Write(bench.Ruling));
            Walk(typeof(Ruling), ruling.RootElement, "ruling", seen);
        }
        seen.ShouldContain(typeof(AheadKind));
        seen.Count.ShouldBeGreaterThan(8);
    }

    private static void Walk(Type declared, JsonElement it, string path, HashSet<Type> seen)
    {
        var type = Nullable.GetUnderlyingType(declared) ?? declared;
        if (it.ValueKind == JsonValueKind.Null)
            return;
        if (type.IsEnum)
        {
            seen.Add(type);
            it.ValueKind.ShouldBe(JsonValueKind.String, $"{path} is a {type.Name}");
        }
        else if (it.ValueKind == JsonValueKind.Array)
        {
            var element = type.IsArray ? type.GetElementType()! : type.GetGenericArguments()[0];
            foreach (var entry in it.EnumerateArray())
                Walk(element, entry, $"{path}[]", seen);
        }
        else if (it.ValueKind == JsonValueKind.Object)
        {
            foreach (var property in type.GetProperties())
                if (it.TryGetProperty(JsonNamingPolicy.CamelCase.ConvertName(property.Name), out var value))
                    Walk(property.PropertyType, value, $"{path}.{property.Name}", seen);
        }
    }

    /// <summary>Only where something runs on mains that has a job of its own, and only while nobody has answered.</summary>
    [Theory]
    [InlineData("kettle", "leakage/protectiveConductor", "functional")]
    [InlineData("kettle", "insulation", null)]
    [InlineData("kettle", "earthContinuity", null)]
    [InlineData("pump", "leakage/earth", "functional")]
    [InlineData("pump", "leakage/earth/neutralOpen", null)]
    public void Whether_it_runs_is_answered_along_with_what_powers_it(string thing, string step, string? along)
    {
        var sheet = thing == "kettle" ? OnTheBench.With(OnTheBench.Kettle) : OnTheBench.With(OnTheBench.Pump, "iec-60601-1-2012");
        string? Along() => sheet.View.Steps.Single(it => it.Key == step).Along;
        Along().ShouldBe(along);
        sheet.Answer("functional", true);
        Along().ShouldBeNull();
    }

    [Fact]
    public void A_flex_is_moved_where_there_is_one_and_a_probe_is_guarded_where_it_should_find_no_earth()
    {
        static Planning.PlanStep.Measure Step(Equipment.Item item, string key) =>
            ((SheetStep.Measure)OnTheBench.With(item).State.Sheet.Find(key)!).Plan;
        Step(OnTheBench.Kettle, "earthContinuity").MayBeHeld.ShouldBeTrue();
        Step(OnTheBench.Kettle with { PlugFuse = null, Cord = new(Permanent: true) }, "earthContinuity").MayBeHeld.ShouldBeFalse();
        Step(OnTheBench.Kettle, "insulation")
            .ShouldSatisfyAllConditions(it => it.MayBeHeld.ShouldBeFalse(), it => it.GuardsProbe.ShouldBeFalse());
        Step(OnTheBench.Drill, "insulation/mainsToAccessible").GuardsProbe.ShouldBeTrue();
        Step(OnTheBench.Drill, "leakage/touch").GuardsProbe.ShouldBeTrue();
        // Undecided it may be class I: an earth is what decides it, and no reason to stop.
        Step(OnTheBench.Kettle with { Class = Equipment.ProtectionClass.Undecided }, "insulation/mainsToAccessible")
            .GuardsProbe.ShouldBeFalse();
    }

    [Fact]
    public void The_tips_that_prove_dead_and_those_at_the_outlet_are_drawn_with_their_order()
    {
        var rail = OnTheBench.Kettle with { PlugFuse = null, Use = UseOf.Fixed, Cord = new(Permanent: true) };
        var heater = Cards(OnTheBench.RulingFor(rail));
        var dead = heater.Where(it => it.Family == StepFamily.Dead).Select(it => it.Joining.ShouldNotBeNull()).ToArray();
        dead.Select(it => (it.End, it.FarName, it.Instrument))
            .ShouldBe([("connection unit", "supply side", "indicator"), ("connection unit", "load side", "indicator")]);
        dead.ShouldAllBe(it => it.Text.EndsWith("earth or neutral first, line last."));
        Cards(OnTheBench.RulingFor(rail with { Phases = 3, RatedVoltage = new(400) }))
            .First(it => it.Family == StepFamily.Dead)
            .Joining!.Pins.ShouldBe(["L1", "L2", "L3", "N", "E"]);
        Cards(OnTheBench.RulingFor(OnTheBench.Kettle))
            .Single(it => it.Family == StepFamily.Outlet)
            .Joining!.Text.ShouldStartWith("Drawing: both tips of the meter on L, N, E of the outlet");
    }

    private static IReadOnlyList<StepCard> Cards(Ruling ruling) => new BenchSession(ruling, []).View().Sheet!.Steps;

    /// <summary>Its capacitances are what they were: a leakage is expected near the last one, a bound tells nothing.</summary>
    [Theory]
    [InlineData(Qualifier.Exact, "load near 9.57 A; near 0.12 mA as on 2 Mar 2025, carried by its capacitances")]
    [InlineData(Qualifier.Below, "load near 9.57 A")]
    public void A_leakage_is_expected_near_the_last_one(Qualifier qualifier, string expected)
    {
        var ruling = OnTheBench.RulingFor(OnTheBench.Kettle);
        var step = Cards(ruling).First(it => it.Test == Test.Leakage);
        var under = new Conditions.Leakage(LeakageKind.ProtectiveConductor);
        var past = new PastInspection(
            new(2025, 3, 2),
            false,
            [new Reading.Leakage(under, new(0.12, Unit.Milliampere, qualifier)) { SwitchedOn = true }]
        );
        step.Expected.ShouldBe("load near 9.57 A");
        Cards(ruling with { History = [past] }).Single(it => it.Key == step.Key).Expected.ShouldBe(expected);
    }

    [Fact]
    public void An_american_drawing_speaks_of_ground()
    {
        var sheet = OnTheBench.With(OnTheBench.Pump, "nfpa-99-2012");
        var drawn = new BenchSession(sheet.Ruling, []).View().Sheet!.Steps.Select(it => it.Joining?.Text).OfType<string>().ToArray();
        drawn.ShouldNotBeEmpty();
        drawn.ShouldContain(it => it.Contains("ground open"));
        drawn.ShouldAllBe(it => !it.Contains("earth"));
        Cards(sheet.Ruling).SelectMany(it => it.Joining?.Order ?? []).ShouldContain("ground or neutral first");
    }
}
