using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Outlets;

/// <summary>What the voltages of an outlet say, and that nothing is powered before they were seen.</summary>
public class OutletTests
{
    private static readonly RulePack Uk = PackLibrary.Find("uk-cop-5")!;
    private static readonly OutletSupply Mains = new(230);

    private static OutletFinding Found(OutletSupply supply, params (string Pair, double Volts)[] voltages) =>
        OutletFinding.Of(supply, [.. voltages.Select(it => new OutletVoltage(it.Pair, it.Volts))], Uk.Thresholds).Value;

    [Theory]
    [InlineData(231, 230.5, 0.6, true, "polarity right, earth present")]
    [InlineData(231, 0.5, 231, false, "Line and neutral are crossed")]
    [InlineData(231, 96, 118, false, "Earth is missing")]
    [InlineData(231, 0, 0, false, "No earth")]
    [InlineData(0, 231, 231, false, "Neutral is open, or both contacts are live")]
    [InlineData(0, 231, 0, false, "Neutral is open")]
    [InlineData(231, 230, 18, false, "Neutral stands above earth")]
    [InlineData(0, 0, 0, false, "No voltage anywhere")]
    [InlineData(180, 180, 0.5, false, "")]
    [InlineData(260, 260, 0.5, false, "out of its range")]
    public void Three_figures_tell_polarity_earth_and_voltage(double ln, double le, double ne, bool isGood, string says)
    {
        var found = Found(Mains, ("L-N", ln), ("L-E", le), ("N-E", ne));
        found.IsGood.ShouldBe(isGood, found.Says);
        found.Says.ShouldContain(says);
    }

    [Fact]
    public void The_window_is_that_of_scaling_and_its_ends_belong_to_it()
    {
        bool IsGood(double volts) => Found(Mains, ("L-N", volts), ("L-E", volts), ("N-E", 0)).IsGood;
        IsGood(230 * 0.85).ShouldBeTrue();
        IsGood(230 * 1.1).ShouldBeTrue();
        IsGood(195.4).ShouldBeFalse();
        IsGood(253.1).ShouldBeFalse();
        Found(Mains, ("L-N", 230), ("L-E", 230), ("N-E", 11.5)).IsGood.ShouldBeTrue();
        Found(Mains, ("L-N", 230), ("L-E", 230), ("N-E", 11.6)).IsGood.ShouldBeFalse();
    }

    [Fact]
    public void A_site_transformer_gives_half_to_earth_from_each_line_and_all_of_it_from_one_is_no_such_supply()
    {
        var site = new OutletSupply(110, 1, true);
        Found(site, ("L-N", 112), ("L-E", 56), ("N-E", 56)).IsGood.ShouldBeTrue();
        Found(site, ("L-N", 112), ("L-E", 112), ("N-E", 0)).IsGood.ShouldBeFalse();
    }

    [Fact]
    public void Three_phases_are_ten_pairs_and_one_line_lost_is_seen()
    {
        var supply = new OutletSupply(230, 3);
        supply.Pairs.Length.ShouldBe(10);
        var good = GoodVoltages(supply);
        OutletFinding.Of(supply, good, Uk.Thresholds).Value.IsGood.ShouldBeTrue();
        var lost = good.Select(it => it.Pair == "L2-N" ? it with { Volts = 20 } : it).ToArray();
        var found = OutletFinding.Of(supply, lost, Uk.Thresholds).Value;
        found.IsGood.ShouldBeFalse();
        found.Says.ShouldContain("L2-N");
    }

    [Theory]
    [InlineData(230, null, 1, "uk-cop-5", 230, false)]
    [InlineData(240, null, 1, "uk-cop-5", 230, false)]
    [InlineData(110, null, 1, "uk-cop-5", 110, true)]
    [InlineData(230, 110.0, 1, "uk-cop-5", 110, true)]
    [InlineData(110, null, 1, "nfpa-99-2012", 120, false)]
    [InlineData(400, null, 3, "uk-cop-5", 230, false)]
    public void The_supply_is_the_sites_unless_the_plate_asks_for_another(
        double plate,
        double? nominal,
        int phases,
        string pack,
        double volts,
        bool centre
    )
    {
        var item = Kettle with { RatedVoltage = new(plate), NominalMains = nominal is { } it ? new(it) : null, Phases = phases };
        OutletSupply.For(item, PackLibrary.Find(pack)!).ShouldBe(new(volts, phases, centre));
    }

    [Fact]
    public void Figures_that_are_missing_twice_negative_or_no_numbers_are_no_check()
    {
        Result<OutletFinding> Of(params (string, double)[] it) =>
            OutletFinding.Of(Mains, [.. it.Select(one => new OutletVoltage(one.Item1, one.Item2))], Uk.Thresholds);
        Of(("L-N", 230), ("L-E", 230)).Fault!.Message.ShouldContain("N-E is missing");
        Of(("L-N", 230), ("L-N", 230), ("L-E", 230), ("N-E", 0)).Fault!.Message.ShouldContain("twice");
        Of(("L-N", -230), ("L-E", 230), ("N-E", 0)).Fault!.Message.ShouldContain("0 or more");
        Of(("L-N", double.NaN), ("L-E", 230), ("N-E", 0)).Fault.ShouldNotBeNull();
        Of(("L-N", double.PositiveInfinity), ("L-E", 230), ("N-E", 0)).Fault.ShouldNotBeNull();
    }

    private static readonly Gen<(double, double, double)> Figures = Gen.Select(Gen.Double[0, 300], Gen.Double[0, 300], Gen.Double[0, 300]);

    [Fact]
    public void Whatever_is_measured_a_good_outlet_has_line_and_earth_where_they_belong() =>
        Figures.Sample(
            it =>
            {
                var found = Found(Mains, ("L-N", it.Item1), ("L-E", it.Item2), ("N-E", it.Item3));
                var isRight = it.Item1 is >= 195.5 and <= 253 && it.Item2 is >= 195.5 and <= 253 && it.Item3 <= 11.5;
                found.IsGood.ShouldBe(isRight, found.Says);
            },
            iter: 20_000
        );

    private static OnTheBench Without(Item item, string pack = "uk-cop-5") => new(RulingFor(item, pack) with { Outlets = [] });

    [Fact]
    public void Nothing_is_powered_and_nothing_passes_before_the_outlet_is_known()
    {
        var bench = Without(Kettle);
        bench.PassUntil("outlet");
        bench.State.Current.ShouldBe("outlet");
        var powered = bench.State.Steps.Where(step => step.Step.Powers).ToArray();
        powered.ShouldNotBeEmpty();
        powered.ShouldAllBe(step => !step.Start.IsGiven && step.Start.WhyNot!.Contains("outlet", StringComparison.OrdinalIgnoreCase));
        // What was done all the same is a fact; it passes nothing, also not when the outlet is known afterwards.
        var leakage = bench.Type("leakage/protectiveConductor", "0.2");
        var works = bench.Answer("functional", true);
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("outlet");
        bench.CheckOutlet();
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("before its outlet was known good");
        bench.Void(leakage);
        bench.Type("leakage/protectiveConductor", "0.2");
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.Void(works);
        bench.Answer("functional", true);
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void What_was_powered_from_an_outlet_that_turns_out_wrong_settles_nothing_and_a_failure_stays()
    {
        var bench = Without(Kettle);
        bench.PassUntil("outlet");
        bench.CheckOutlet("by the sink");
        var taken = bench.Type("leakage/protectiveConductor", "0.01");
        bench.Answer("functional", true);
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
        // No earth after all: that is why nothing flowed.
        bench.CheckOutlet("by the sink", false, new("L-N", 231), new("L-E", 90), new("N-E", 120));
        bench.CheckOutlet("by the door");
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("found wrong");
        bench.Void(taken);
        bench.Type("leakage/protectiveConductor", "9");
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
        bench.CheckOutlet("by the door", false, new("L-N", 0), new("L-E", 0), new("N-E", 0));
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
    }

    [Fact]
    public void After_a_hand_over_what_was_powered_before_counts_by_the_outlet_of_whoever_took_it()
    {
        var theirs = Workbench(Kettle) with { PersonId = Guid.NewGuid(), By = "Rufus", Name = "bench, right" };
        OnTheBench Handed(params OutletOfTheDay[] ofTheDay)
        {
            var bench = new OnTheBench(RulingFor(Kettle) with { Outlets = [.. ofTheDay] });
            bench.LookGood();
            bench.Type("earthContinuity", "0.05");
            bench.Type("insulation", ">200M");
            bench.Type("leakage/protectiveConductor", "0.2");
            bench.Answer("functional", true);
            bench.Happens(next => new TakenOver
            {
                Id = next.Id,
                At = next.At,
                HandOver = Guid.NewGuid(),
                From = "Rufus",
            });
            bench.CheckOutlet();
            return bench;
        }
        Handed(theirs, Workbench(Kettle)).IsOpen(EndKind.Pass).ShouldBeTrue();
        Handed(Workbench(Kettle)).IsOpen(EndKind.Pass).ShouldBeFalse("Ida's outlet is not where Rufus measured");
        Handed(theirs with { At = theirs.At.AddDays(1) }).IsOpen(EndKind.Pass).ShouldBeFalse("it was measured afterwards");
    }

    [Fact]
    public void Mended_and_measured_again_an_outlet_is_told_no_more()
    {
        var bench = Without(Kettle);
        bench.CheckOutlet("by the sink", false, new("L-N", 23), new("L-E", 230), new("N-E", 0.4));
        bench.State.Outlet!.FoundWrong.ShouldHaveSingleItem();
        bench.CheckOutlet("By the sink");
        bench.State.Outlet!.FoundWrong.ShouldBeEmpty();
        bench.State.Outlet.Measured.Length.ShouldBe(2);
    }

    [Fact]
    public void A_wrong_outlet_judges_no_item_and_powers_none_until_a_good_one_is_found()
    {
        var bench = Without(Kettle);
        bench.PassUntil("outlet");
        bench.CheckOutlet("by the sink", false, new("L-N", 231), new("L-E", 0.4), new("N-E", 231));
        bench.State.HasFailed.ShouldBeFalse();
        bench.State.Outlet!.Trouble!.ShouldContain("crossed");
        bench.Step("leakage/protectiveConductor").Start.IsGiven.ShouldBeFalse();
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("crossed");
        bench.CheckOutlet("by the door");
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
        // The item's paper tells of the other one.
        bench.View.Advice.ShouldContain(line => line.Contains("by the sink", StringComparison.Ordinal));
        bench.State.Outcome.ShouldBe(Judging.Outcome.Pass);
    }

    [Fact]
    public void After_a_wrong_one_no_other_is_taken_for_granted()
    {
        var bench = With(Kettle);
        bench.Stands("outlet").ShouldBe(Standing.Pass, "the workbench was checked this morning");
        bench.CheckOutlet("by the sink", false, new("L-N", 231), new("L-E", 90), new("N-E", 120));
        bench.Stands("outlet").ShouldBe(Standing.Open);
        bench.KeepOutlet(bench.Ruling.Outlets[0].Id);
        bench.Stands("outlet").ShouldBe(Standing.Pass);
        bench.KeepOutlet(Guid.NewGuid());
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("measure it");
    }

    [Fact]
    public void The_workbench_measured_again_and_found_wrong_is_no_more_on_offer()
    {
        var known = Workbench(Kettle);
        var bench = new OnTheBench(RulingFor(Kettle) with { Outlets = [known with { Name = "by the sink", Room = "Room" }] });
        bench.CheckOutlet("By the sink", false, new("L-N", 0), new("L-E", 0), new("N-E", 0));
        bench.State.Outlet!.Offered.ShouldBeEmpty();
        bench.CheckOutlet("by the sink");
        bench.State.Outlet!.InUse!.Name.ShouldBe("by the sink");
    }

    [Fact]
    public void Another_room_or_another_persons_outlet_is_offered_and_not_supposed()
    {
        var mine = Workbench(Kettle) with { IsWorkbench = false, Room = "Kitchen" };
        var theirs = Workbench(Kettle) with { PersonId = Guid.NewGuid() };
        var bench = new OnTheBench(RulingFor(Kettle) with { Outlets = [mine, theirs] });
        bench.Stands("outlet").ShouldBe(Standing.Open);
        bench.State.Outlet!.Offered.Length.ShouldBe(2);
        var same = new OnTheBench(RulingFor(Kettle) with { Outlets = [mine with { Room = " room " }] });
        same.Stands("outlet").ShouldBe(Standing.Pass);
    }

    [Fact]
    public void An_outlet_of_another_supply_powers_nothing_and_a_corrected_plate_asks_anew()
    {
        var bench = With(Kettle with { RatedPower = new(400) });
        bench.Stands("outlet").ShouldBe(Standing.Pass);
        bench.Change(new() { RatedVoltageV = 110 });
        bench.Stands("outlet").ShouldBe(Standing.Open);
        bench.State.Outlet!.Supply.IsCentreEarthed.ShouldBeTrue();
        bench.CheckOutlet();
        bench.Stands("outlet").ShouldBe(Standing.Pass);
    }

    [Fact]
    public void Whoever_takes_a_sheet_over_says_which_outlet_theirs_is()
    {
        var bench = Without(Kettle);
        bench.PassUntil("outlet");
        bench.CheckOutlet();
        bench.Happens(next => new TakenOver
        {
            Id = next.Id,
            At = next.At,
            HandOver = Guid.NewGuid(),
            From = "Rufus",
        });
        bench.Stands("outlet").ShouldBe(Standing.Open);
        var measured = bench.State.Outlet!.Measured.ShouldHaveSingleItem().Outlet;
        (measured.By, measured.PersonId).ShouldBe(("Rufus", Guid.Empty), "what Rufus measured is not Ida's");
    }

    [Fact]
    public void What_takes_no_mains_from_an_outlet_is_asked_for_none()
    {
        bool Asks(Item item, string pack = "uk-cop-5") => With(item, pack).State.Sheet.Find("outlet") is not null;
        Asks(Kettle).ShouldBeTrue();
        Asks(Reel).ShouldBeTrue();
        Asks(Kettle with { Class = ProtectionClass.III }).ShouldBeFalse();
        Asks(Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed }).ShouldBeFalse("its supply is restored and measured");
        Asks(Pump with { Class = ProtectionClass.Internal }, "iec-62353-2014").ShouldBeFalse();
        // Looked at only, it is plugged in all the same to see that it works.
        var look = With(Kettle);
        look.Choose(Scope.FormalVisual);
        look.State.Sheet.Find("outlet").ShouldNotBeNull();
    }

    [Fact]
    public void Fault_finding_goes_in_any_order_and_from_a_known_outlet()
    {
        var bench = Without(Kettle);
        bench.Choose(Scope.FaultFinding);
        bench.LookGood();
        bench.Step("leakage/protectiveConductor").Start.IsGiven.ShouldBeFalse();
        bench.CheckOutlet();
        bench.Step("leakage/protectiveConductor").Start.IsGiven.ShouldBeTrue();
    }

    [Fact]
    public void The_record_names_the_outlet_and_keeps_its_figures()
    {
        var bench = Without(Kettle).LookGood();
        bench.PassTheRest();
        var record = bench.Record();
        record.Outlet!.Name.ShouldBe("by the door");
        record.Outlet.Voltages.Length.ShouldBe(3);
        Records.InspectionRecord.Read(record.ToJson()).Value.Outlet!.Voltages[0].ShouldBe(record.Outlet.Voltages[0]);
    }
}
