using System.Text.Json;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Where the probe lies on class II: said before a reading counts, and proved once where metal shows nothing.</summary>
public class ProbeTests
{
    private const string Insulation = "insulation/mainsToAccessible";
    private const string Touch = "leakage/touch";
    private static readonly Item Plastic = Drill with { AllInsulated = true };

    private static OnTheBench Laid(Item? item = null, string pack = "uk-cop-5", string? seen = null) =>
        new OnTheBench(RulingFor(item ?? Drill, pack, kit: Analyser) with { ProbeSeen = seen }).LookGood();

    [Fact]
    public void Nothing_starts_before_it_is_said_and_what_is_typed_waits_for_it()
    {
        var bench = Laid();
        bench.Step(Insulation).Action.ShouldBe(StepAction.PlaceProbe);
        bench.Type(Insulation, ">500");
        bench.Stands(Insulation).ShouldBe(Standing.Undecided);
        bench.View.Readings[0].Doubt.ShouldNotBeNull().AsksProbe.ShouldBeTrue();
        bench.Step(Touch).Start.IsGiven.ShouldBeFalse("what powers it waits");
        bench.PlaceProbe(ProbeOn.Foil);
        bench.Stands(Insulation).ShouldBe(Standing.Pass);
        bench.View.Readings[0].Note.ShouldBe("probe on foil");
        bench.Step(Touch).Action.ShouldBe(StepAction.Hold);
    }

    [Theory]
    [InlineData(false, ProbeOn.Metal, true)]
    [InlineData(false, ProbeOn.Foil, true)]
    [InlineData(false, ProbeOn.Mesh, true)]
    [InlineData(false, ProbeOn.Nothing, false)]
    [InlineData(true, ProbeOn.Metal, false)]
    [InlineData(true, ProbeOn.Foil, true)]
    [InlineData(true, ProbeOn.Mesh, true)]
    [InlineData(true, ProbeOn.Nothing, true)]
    public void The_facts_say_what_it_may_lie_on(bool allInsulated, ProbeOn on, bool isTaken)
    {
        var bench = Laid(allInsulated ? Plastic : Drill);
        bench.PlaceProbe(on);
        bench.State.Refused.IsEmpty.ShouldBe(isTaken);
        Probing.Offered(bench.Ruling.Item.Equipment).Contains(on).ShouldBe(isTaken);
    }

    [Theory]
    [InlineData(ProbeOn.Metal, ">500", "0", true)]
    [InlineData(ProbeOn.Metal, ">500", "<0.01", true)]
    [InlineData(ProbeOn.Metal, ">500", "0.02", false)]
    [InlineData(ProbeOn.Metal, "80", "0", false)]
    [InlineData(ProbeOn.Foil, ">500", "0", false)]
    [InlineData(ProbeOn.Mesh, ">500", "0", false)]
    public void Metal_that_shows_nothing_anywhere_wants_the_lead_proved(ProbeOn on, string insulation, string touch, bool isAsked)
    {
        var bench = Worked(Laid(), on, insulation, touch);
        bench.State.AsksProbeTried.ShouldBe(isAsked);
        bench.IsOpen(EndKind.Pass).ShouldBe(!isAsked);
        if (!isAsked)
            return;
        Ahead.Of(bench.State).Kind.ShouldBe(AheadKind.TryProbe);
        bench.TryProbe(works: true);
        bench.State.Outcome.ShouldBe(Outcome.Pass);
        var kept = (Reading.Numeric)bench.State.Facts.Readings[0];
        kept.Probe.ShouldNotBeNull().Text.ShouldBe("probe on metal, proved by the instrument’s own check point");
    }

    [Fact]
    public void A_reading_of_the_day_through_the_same_lead_is_proof_and_no_part_of_the_fingerprint()
    {
        var bench = Worked(Laid(seen: "earth continuity 0.08 Ω at KR-0412"), ProbeOn.Metal, ">500", "0");
        bench.State.Outcome.ShouldBe(Outcome.Pass);
        bench.Ruling.Fingerprint.ShouldBe((bench.Ruling with { ProbeSeen = null }).Fingerprint);
    }

    [Fact]
    public void With_the_insulation_alone_it_is_asked_too()
    {
        var bench = Laid();
        bench.PlaceProbe();
        bench.Type(Insulation, ">500");
        bench.Answer("functional", true);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.Step(Touch).Start.IsGiven.ShouldBeTrue("the touch current may still show something");
        bench.Type(Touch, "0.03");
        bench.IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
    }

    [Fact]
    public void A_lead_that_shows_nothing_at_the_check_point_either_showed_nothing_of_the_item()
    {
        var bench = Worked(Laid(), ProbeOn.Metal, ">500", "0");
        bench.TryProbe(works: false);
        bench.State.Readings.Count(taken => taken.Void is { } why && why.Contains("check point")).ShouldBe(2);
        bench.Stands(Insulation).ShouldBe(Standing.Open);
        // Said again, it does not come to life for what was read before.
        bench.TryProbe(works: true);
        bench.Stands(Insulation).ShouldBe(Standing.Open);
        bench.Type(Insulation, ">500");
        bench.Type(Touch, "0");
        bench.State.Outcome.ShouldBe(Outcome.Pass);
    }

    [Fact]
    public void A_failure_stays_one_whatever_is_said_of_the_probe()
    {
        var bench = Laid();
        bench.Type(Insulation, "0.4");
        bench.Stands(Insulation).ShouldBe(Standing.Fail);
        bench.TryProbe(works: false);
        bench.Stands(Insulation).ShouldBe(Standing.Fail);
    }

    [Fact]
    public void Facts_that_turn_out_otherwise_ask_again_and_what_was_read_is_doubted()
    {
        var bench = Worked(Laid(Plastic), ProbeOn.Nothing, ">500", "0");
        bench.State.Outcome.ShouldBe(Outcome.Pass);
        bench.Change(new() { AllInsulated = false });
        bench.State.Probe.ShouldBeNull();
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.PlaceProbe(ProbeOn.Foil);
        bench.Stands(Insulation).ShouldBe(Standing.Undecided, "it was read with nothing round it");
        bench.Type(Insulation, ">500");
        bench.Type(Touch, "0");
        bench.IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
    }

    [Fact]
    public void After_a_break_and_in_other_hands_it_is_laid_anew()
    {
        var bench = Laid();
        bench.PlaceProbe();
        bench.State.Probe.ShouldBe(ProbeOn.Metal);
        bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
        bench.State.Probe.ShouldBeNull();
    }

    /// <summary>Whoever has it now did not see where the probe lay then.</summary>
    [Fact]
    public void What_was_read_before_a_break_without_a_word_is_read_again()
    {
        var bench = Laid();
        bench.Type(Insulation, ">500");
        bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
        bench.PlaceProbe(ProbeOn.Foil);
        bench.Stands(Insulation).ShouldBe(Standing.Undecided);
        bench.Type(Insulation, ">500");
        bench.Stands(Insulation).ShouldBe(Standing.Pass);
    }

    /// <summary>A reading that shows something proves the lead for what was silent before it.</summary>
    [Theory]
    [InlineData("earthContinuity", "0.08", null)]
    [InlineData("leakage/touch", "0.03", null)]
    [InlineData("leakage/touch", "0", "")]
    [InlineData("earthContinuity", ">25", "")]
    public void A_day_s_reading_proves_the_lead_where_it_is_not_nothing(string step, string text, string? none)
    {
        var bench = Laid(step == "earthContinuity" ? Kettle : Drill);
        if (step != "earthContinuity")
            bench.PlaceProbe();
        bench.Type(step, text);
        var past = new PastInspection(new(2026, 3, 2), false, bench.State.Facts.Readings) { Item = bench.Ruling.Item.Equipment };
        (ProbeLead.ShownBy(past) is null).ShouldBe(none is not null);
    }

    /// <summary>An enumeration without its converter would stand as a number in records.</summary>
    [Fact]
    public void Every_enumeration_of_an_event_is_written_as_its_word()
    {
        var rules = (JsonSerializerOptions)
            typeof(BenchEvent).Assembly.GetTypes().Single(type => type.Name == "JsonRules").GetField("Record")!.GetValue(null)!;
        var kinds = typeof(BenchEvent)
            .Assembly.GetTypes()
            .Where(type => type.IsSubclassOf(typeof(BenchEvent)) || type == typeof(FactChanges))
            .SelectMany(type => type.GetProperties())
            .Select(property => Nullable.GetUnderlyingType(property.PropertyType) ?? property.PropertyType)
            .Where(type => type.IsEnum)
            .Distinct()
            .ToArray();
        kinds.ShouldContain(typeof(ProbeOn));
        foreach (var kind in kinds)
            JsonSerializer.Serialize(Enum.GetValues(kind).GetValue(0), kind, rules).ShouldStartWith("\"", Case.Sensitive, kind.Name);
    }

    [Theory]
    [InlineData("iec-62353-2014", "leakage/equipment")]
    [InlineData("nfpa-99-2012", Touch)]
    [InlineData("iec-60601-1-2012", Touch)]
    public void Medical_class_II_is_read_through_a_probe_as_well(string pack, string first)
    {
        var bench = Laid(Pump with { Class = ProtectionClass.II }, pack);
        bench.State.Steps.First(step => step.Step is SheetStep.Measure { Plan.AsksProbe: true }).Step.Key.ShouldStartWith(first);
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
    }

    [Fact]
    public void A_part_with_a_name_says_by_its_name_where_the_probe_lies()
    {
        var item = Pump with { Class = ProtectionClass.II, UnearthedParts = ["pole clamp"] };
        var bench = Laid(item, "nfpa-99-2012");
        var named = bench.State.Steps.First(step => step.Step is SheetStep.Measure { Plan.Under.At: not null });
        named.Action.ShouldNotBe(StepAction.PlaceProbe);
    }

    [Fact]
    public void Classes_with_an_earth_and_leads_are_asked_nothing() =>
        new[] { Kettle, Kettle with { Class = ProtectionClass.Undecided }, Reel with { Class = ProtectionClass.II } }
            .SelectMany(item => Laid(item).State.Steps)
            .ShouldAllBe(step => step.Action != StepAction.PlaceProbe);

    /// <summary>Everything read and answered after the look.</summary>
    private static OnTheBench Worked(OnTheBench bench, ProbeOn on, string insulation, string touch)
    {
        bench.PlaceProbe(on);
        bench.Type(Insulation, insulation);
        bench.Type(Touch, touch);
        bench.Answer("functional", true);
        return bench;
    }
}
