using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Care for the client's property: before hands are on the item, and put back whatever came of it.</summary>
public class CareTests
{
    private static readonly Item Dishwasher = Kettle with
    {
        Use = UseOf.Stationary,
        Access = AccessLevel.RemovableFixings,
        Care = [CareNeed.Water, CareNeed.Heavy],
    };

    [Fact]
    public void Care_comes_before_the_look_and_the_water_is_opened_again_before_a_pass()
    {
        var bench = With(Dishwasher);
        bench.State.Current.ShouldBe("care");
        bench.Step("visual").Start.IsGiven.ShouldBeFalse();
        bench.PassUntil("care/back");
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("Put back");
        bench.Confirm("care/back");
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void Whatever_failed_what_was_shut_can_be_opened_and_a_fail_waits_for_nobody()
    {
        var bench = With(Dishwasher);
        bench.Confirm("care");
        bench.LookAs(LookAnswer.Bad, "door cracked", "case");
        bench.Stands("earthContinuity").ShouldBe(Standing.Stopped);
        bench.Step("care/back").Start.IsGiven.ShouldBeTrue();
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
        bench.View.Advice.ShouldContain(line => line.StartsWith("Not yet put back", StringComparison.Ordinal));
        bench.Confirm("care/back");
        bench.View.Advice.ShouldNotContain(line => line.StartsWith("Not yet put back", StringComparison.Ordinal));
        bench.Record(EndKind.Fail).Steps.Single(step => step.Key == "care").Detail.ShouldContain("Water shut");
    }

    [Fact]
    public void Nothing_is_put_back_before_anything_was_moved()
    {
        var bench = With(Dishwasher);
        bench.Step("care/back").Start.IsGiven.ShouldBeFalse();
        bench.View.Advice.ShouldNotContain(line => line.StartsWith("Not yet put back", StringComparison.Ordinal));
    }

    [Fact]
    public void Fixings_come_out_only_where_the_client_allows_it_and_what_is_sealed_is_never_forced()
    {
        string Before(Item item, FixingsPolicy fixings) => string.Join(" ", Care.Before(item, new() { Fixings = fixings }));
        Before(Dishwasher, FixingsPolicy.TakeOut).ShouldContain("Fixings out");
        Before(Dishwasher, FixingsPolicy.LeaveIn).ShouldContain("stay in");
        Care.After(Dishwasher, Policy.Usual).ShouldNotContain(line => line.Contains("Fixings", StringComparison.Ordinal));
        Before(Dishwasher with { Access = AccessLevel.SealedIn }, FixingsPolicy.TakeOut).ShouldContain("never forced");
        Care.Before(Kettle, Policy.Usual).ShouldBeEmpty();
    }

    [Fact]
    public void Whoever_may_only_look_takes_care_too()
    {
        var bench = new OnTheBench(RulingFor(Dishwasher) with { Technician = new(Guid.NewGuid(), "Nele", "NE", false, []) });
        bench.Step("care").Start.IsGiven.ShouldBeTrue();
        bench.Confirm("care");
        bench.LookGood();
        bench.Step("care/back").Start.IsGiven.ShouldBeTrue();
        bench.Step("earthContinuity").Start.IsGiven.ShouldBeFalse();
    }

    [Fact]
    public void The_load_of_a_combined_appliance_is_the_sum_of_its_plates_and_one_plate_said_anew_takes_their_place()
    {
        var fan = RulingFor(Drill).Item;
        var both = Facts.Apply(fan, new() { PartPlates = [new("fan", 60), new("lamp", 28)] }).Value;
        both.Equipment.RatedPower!.Value.Value.ShouldBe(88);
        both.Equipment.PartPlates.Length.ShouldBe(2);
        var again = Facts.Apply(both, new() { Room = "Hall" }).Value;
        again.Equipment.RatedPower!.Value.Value.ShouldBe(88);
        var one = Facts.Apply(both, new() { RatedPowerW = 75 }).Value;
        one.Equipment.PartPlates.ShouldBeEmpty();
        one.Equipment.RatedPower!.Value.Value.ShouldBe(75);
        Facts.Apply(fan, new() { PartPlates = [new("fan", 0)] }).Fault!.Path.ShouldBe("partPlates");
        Facts.Apply(fan, new() { PartPlates = [new("fan", 5), new("Fan", 5)] }).Fault.ShouldNotBeNull();
        Facts.Apply(fan, new() { AppliedParts = [new("drip", AppliedPartType.CF, 1, true)] }).Fault!.Path.ShouldBe("appliedParts");
        Facts.Apply(fan, new() { Phases = 2 }).Fault!.Path.ShouldBe("phases");
    }
}
