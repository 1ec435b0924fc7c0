using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Direct leakage is too small where something else earths the device: whoever measures is asked, and may measure
/// otherwise.</summary>
public sealed class StandingTests
{
    private const string Pack = "iec-62353-2014";
    private const string Direct = "leakage/equipment";

    private static Guid Say(OnTheBench bench, bool isIsolated, string? by = null) =>
        bench.Happens(next => new StandingSaid
        {
            Id = next.Id,
            At = next.At,
            IsIsolated = isIsolated,
            By = by,
        });

    private static bool IsAsked(OnTheBench bench, string step) => bench.View.Steps.Single(it => it.Key == step).AsksStanding;

    [Fact]
    public void It_is_asked_with_every_direct_equipment_leakage_until_it_was_said_and_then_stands_on_record_and_paper()
    {
        var bench = With(Pump, Pack);
        bench.View.Steps.Where(it => it.AsksStanding).Select(it => it.Key).ShouldBe([Direct, $"{Direct}/reversed"]);
        Say(bench, true);
        bench.View.Steps.ShouldAllBe(it => !it.AsksStanding);
        bench.LookGood().PassTheRest();
        var record = bench.Record();
        record.StoodIsolated.ShouldBe(true);
        Papers.PaperTests.Paper(record).Basis.ShouldContain(it => it.Label == "Standing" && it.Text.Contains("isolated"));
    }

    [Theory]
    [InlineData("uk-cop-5")]
    [InlineData("nfpa-99-2012")]
    public void No_other_method_and_no_other_standard_asks(string pack) =>
        With(pack == "uk-cop-5" ? Kettle : Pump, pack).View.Steps.ShouldAllBe(it => !it.AsksStanding);

    [Fact]
    public void A_battery_device_has_no_earth_to_stand_isolated_from() =>
        With(Pump with { Class = ProtectionClass.Internal, Cord = null }, Pack).View.Steps.ShouldAllBe(it => !it.AsksStanding);

    [Fact]
    public void Earthed_by_something_else_it_is_measured_by_difference_and_the_paper_says_why()
    {
        var bench = With(Pump, Pack);
        Say(bench, false, "bolted to the ceiling rail");
        bench
            .State.Sheet.Steps.OfType<SheetStep.Measure>()
            .Select(it => it.Plan.Under)
            .OfType<Conditions.Leakage>()
            .Where(it => it.Kind == LeakageKind.Equipment)
            .ShouldAllBe(it => it.Method == LeakageMethod.Differential);
        bench.View.Steps.ShouldAllBe(it => !it.AsksStanding);
        bench.State.Sheet.Remarks.ShouldContain(it => it.Contains("differential. it does not stand isolated: bolted"));
        bench.LookGood().PassTheRest();
        var record = bench.Record();
        record.StoodIsolated.ShouldBe(false);
        Papers.PaperTests.Paper(record).Notices.ShouldContain(it => it.Contains("bolted to the ceiling rail"));
    }

    [Fact]
    public void Said_by_a_slip_it_is_measured_direct_after_all()
    {
        var bench = With(Pump, Pack);
        Say(bench, false, "a video cable");
        Say(bench, true);
        bench.State.Refused.ShouldBeEmpty();
        bench.State.Sheet.Find(Direct).ShouldNotBeNull();
        bench.LookGood().PassTheRest();
        var record = bench.Record();
        (record.StoodIsolated, record.LeakageReason).ShouldBe((true, null));
    }

    [Fact]
    public void Taken_back_it_is_measured_as_the_client_has_it()
    {
        // By the alternative method where a mechanical switch allows it; here an electronic one makes it direct.
        var ruling = RulingFor(Pump with { MainsSwitch = MainsSwitch.Electronic }, Pack);
        var bench = new OnTheBench(ruling with { Policy = ruling.Policy with { MedicalMethod = LeakageMethod.Alternative } });
        Say(bench, false, "a video cable");
        bench.View.Steps.Count(it => it.IsByDifference).ShouldBe(2);
        Say(bench, true);
        bench.State.Ruling.Policy.MedicalMethod.ShouldBe(LeakageMethod.Alternative);
        bench.State.Ruling.LeakageReason.ShouldBeNull();
        bench.View.Steps.ShouldAllBe(it => !it.IsByDifference);
    }

    [Fact]
    public void Set_aside_and_plugged_in_again_it_is_asked_anew()
    {
        var bench = With(Pump, Pack);
        Say(bench, true);
        bench.Happens(next => new Parked { Id = next.Id, At = next.At });
        bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
        IsAsked(bench, Direct).ShouldBeTrue();
        // What was said before stays on the record; what else earths a device goes with it.
        bench.State.StandsIsolated.ShouldBe(true);
        Say(bench, false, "a video cable");
        bench.Happens(next => new Parked { Id = next.Id, At = next.At });
        bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
        bench.View.Steps.Count(it => it.IsByDifference).ShouldBe(2);
    }

    [Fact]
    public void A_failure_read_before_does_not_go_with_the_method()
    {
        var bench = With(Pump, Pack).LookGood();
        bench.PassUntil(Direct);
        bench.Type(Direct, "0.6mA");
        bench.State.HasFailed.ShouldBeTrue();
        Say(bench, false, "a video cable");
        bench.State.HasFailed.ShouldBeTrue();
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void A_reading_taken_before_counts_for_no_step_of_another_method()
    {
        var bench = With(Pump, Pack).LookGood();
        bench.PassUntil(Direct);
        bench.Type(Direct, "0.1mA");
        Say(bench, false, "a video cable");
        bench
            .State.Steps.Where(it => it.Step is SheetStep.Measure { Plan.Test: Test.Leakage })
            .ShouldAllBe(it => it.Standing == Standing.Open);
    }

    [Theory]
    [InlineData("", "what else earths it")]
    [InlineData(null, "what else earths it")]
    public void Without_saying_what_earths_it_the_method_stays(string? by, string why)
    {
        var bench = With(Pump, Pack);
        Say(bench, false, by);
        bench.State.Refused.Single().Why.ShouldContain(why);
        bench.State.Sheet.Find(Direct).ShouldNotBeNull();
    }

    [Fact]
    public void Where_nothing_is_measured_direct_it_is_not_taken()
    {
        var bench = With(Kettle);
        Say(bench, true);
        bench.State.Refused.Single().Why.ShouldContain("direct method");
        bench.State.StandsIsolated.ShouldBeNull();
    }
}
