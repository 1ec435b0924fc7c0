using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>What touches the patient is a fact of every medical device: its applied parts, or that somebody looked and there are
/// none.</summary>
public class PatientSideTests
{
    private const string Pack = "iec-62353-2014";
    private const string Earth = "earthContinuity";
    private static readonly Item Unknown = Pump with { AppliedParts = [] };

    [Fact]
    public void Before_it_is_known_nothing_is_started_and_nothing_passes()
    {
        var bench = With(Unknown, Pack, kit: Analyser).LookGood();
        bench
            .State.Steps.Where(step => step.Step is SheetStep.Measure && step.Standing == Standing.Open)
            .ShouldAllBe(step => step.Action == StepAction.NameParts);
        bench.Type(Earth, "0.05");
        bench.Stands(Earth).ShouldBe(Standing.Pass, "what was read is kept and judged");
        bench.State.Assessment.Missing.ShouldContain(missing => missing.Detail.Contains("touches the patient"));
    }

    [Fact]
    public void That_there_are_none_is_said_at_the_bench_and_stands_in_the_record()
    {
        var bench = With(Unknown, Pack, kit: Analyser).LookGood();
        bench.Change(new() { NoAppliedParts = true });
        bench.Step(Earth).Action.ShouldBe(StepAction.Press);
        bench.PassTheRest();
        bench.State.Outcome.ShouldBe(Outcome.Pass);
        ItemJson.Write(bench.Record().Item.Equipment).ShouldContain("\"noAppliedParts\":true");
    }

    [Fact]
    public void Naming_one_at_the_bench_asks_for_its_leakage()
    {
        var bench = With(Unknown, Pack, kit: Analyser).LookGood();
        bench.Change(new() { AppliedParts = [new("drip", AppliedPartType.CF, 1, true)] });
        bench.State.Sheet.Steps.ShouldContain(step => step.Name.Contains("pplied part leakage"));
        bench.State.Ruling.Item.Equipment.IsPatientSideKnown.ShouldBeTrue();
    }

    [Fact]
    public void A_formal_visual_waits_for_nothing_of_it()
    {
        var bench = With(Unknown, Pack).LookGood();
        bench.Choose(Scope.FormalVisual);
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
    }

    [Theory]
    [InlineData(ItemKind.MedicalDevice, 0, false, false)]
    [InlineData(ItemKind.MedicalDevice, 0, true, true)]
    [InlineData(ItemKind.MedicalDevice, 1, false, true)]
    [InlineData(ItemKind.Appliance, 0, false, true)]
    [InlineData(ItemKind.CordSet, 0, false, true)]
    public void What_is_known(ItemKind kind, int parts, bool none, bool isKnown) =>
        new Item
        {
            Kind = kind,
            AppliedParts = [.. Enumerable.Range(0, parts).Select(n => new AppliedPart($"part {n}", AppliedPartType.BF))],
            NoAppliedParts = none,
        }.IsPatientSideKnown.ShouldBe(isKnown);

    [Fact]
    public void Of_a_system_every_member_is_asked()
    {
        var socket = new Item { Kind = ItemKind.MedicalSystem };
        SystemMember Member(Item item) => new("D-1", "Pump", item);
        MedicalSystem.Of(socket, [Member(Pump), Member(Unknown)]).IsPatientSideKnown.ShouldBeFalse();
        MedicalSystem.Of(socket, [Member(Pump)]).IsPatientSideKnown.ShouldBeTrue();
        // Said at the member, and till then the system is looked at and not tested: nothing of it could be answered there.
        MedicalSystem.Trouble(MedicalSystem.Of(socket, [Member(Unknown)])).ShouldNotBeNull().ShouldContain("not known");
    }

    [Theory]
    [InlineData("""{"kind":"medicalDevice","noAppliedParts":true,"appliedParts":[{"name":"a","type":"CF"}]}""")]
    [InlineData("""{"kind":"appliance","noAppliedParts":true}""")]
    public void It_contradicts_a_part_and_is_kept_of_nothing_else(string json) =>
        ItemJson.Read(json).Fault!.Path.ShouldBe("noAppliedParts");

    [Fact]
    public void A_part_that_is_named_takes_it_back_and_beside_one_it_is_refused()
    {
        var none = RulingFor(Unknown with { NoAppliedParts = true }, Pack).Item;
        var named = Facts.Apply(none, new() { AppliedParts = [new("drip", AppliedPartType.CF, 1, true)] }).Value;
        named.Equipment.NoAppliedParts.ShouldBeFalse();
        Facts.Apply(named, new() { NoAppliedParts = true }).Fault!.Path.ShouldBe("noAppliedParts");
        Facts.Apply(RulingFor(Kettle).Item, new() { NoAppliedParts = true }).Fault!.Path.ShouldBe("noAppliedParts");
    }

    /// <summary>What failed at a part does not go by saying afterwards that there is none.</summary>
    [Fact]
    public void A_failed_part_is_not_said_away()
    {
        var bench = With(Pump, Pack, kit: Analyser);
        const string step = "leakage/appliedPart/part drip";
        bench.PassUntil(step);
        bench.Type(step, "900");
        bench.Stands(step).ShouldBe(Standing.Fail);
        bench.Change(new() { AppliedParts = [], NoAppliedParts = true });
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
    }

    /// <summary>Without a bench nobody can look: what is given is judged as given.</summary>
    [Fact]
    public void An_assessment_of_what_is_given_asks_nothing() =>
        new Item { Kind = ItemKind.MedicalDevice, Class = ProtectionClass.II }.ShouldSatisfyAllConditions(item =>
            Assessment
                .Of(
                    new()
                    {
                        Pack = RulingFor(Pump, Pack).Pack,
                        Item = item,
                        Look = Core.Looking.Look.Pass,
                    }
                )
                .Missing.ShouldNotContain(missing => missing.Detail.Contains("touches the patient"))
        );
}
