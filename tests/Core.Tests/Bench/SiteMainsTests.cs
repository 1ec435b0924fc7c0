using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A site's own mains: what is scaled to it, what it cannot drive, and that every sheet says it.</summary>
public class SiteMainsTests
{
    private static readonly Item Drill = new()
    {
        Kind = ItemKind.Appliance,
        Class = ProtectionClass.I,
        Cord = new(new(2), new(1)),
    };

    private static RulePack At(string pack, double? volts, double? hertz) => new SiteMains(volts, hertz).At(PackLibrary.Find(pack)!);

    [Fact]
    public void Leakage_is_scaled_to_the_sites_nominal_where_no_plate_says_another()
    {
        var reading = new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(0.5, Unit.Milliampere)) { Mains = new(105) };
        var site = At("uk-cop-5", 110, 60);
        Judge.Of(site, Drill, reading).Value!.Value.Si.ShouldBe(0.5e-3 * 110 / 105, 1e-9);
        Judge.Of(PackLibrary.Find("uk-cop-5")!, Drill, reading).Status.ShouldBe(Status.Undecided, "105 V is no 230 V mains");
        Judge.Of(site, Drill with { RatedVoltage = new(230) }, reading).Status.ShouldBe(Status.Undecided);
        var touch = new Reading.Leakage(new(LeakageKind.Touch), new(0.5, Unit.Milliampere)) { Mains = new(120) };
        Judge.Of(At("iec-60601-1-2012", 120, 60), Device, touch).Value!.Value.Si.ShouldBe(0.5e-3 * 1.1, 1e-9, "110 % of the site's own");
    }

    private static readonly Item Device = new() { Kind = ItemKind.MedicalDevice, Class = ProtectionClass.I };

    [Theory]
    [InlineData(230.0, 50.0, "230 V, 50 Hz")]
    [InlineData(110.0, 60.0, "110 V, 60 Hz")]
    [InlineData(110.0, 0.0, "110 V d.c.")]
    public void Mains_are_told_in_words(double volts, double hertz, string said) => At("uk-cop-5", volts, hertz).Supply.ShouldBe(said);

    [Theory]
    [InlineData("uk-cop-5", null)]
    [InlineData("as-nzs-3760-2022", null)]
    [InlineData("en-50699-2020", ScopeOf.NoMains)] // it asks for the current itself
    public void Direct_current_leaves_insulation_alone_or_refuses(string id, string? refusal)
    {
        var pack = At(id, 110, 0);
        ScopeOf.Refusal(pack, Drill, Scope.Combined, Policy.Usual).ShouldBe(refusal);
        var plan = Planner.Of(pack, Drill, Policy.Usual);
        if (refusal is not null)
            return;
        plan.Steps.ShouldNotContain(step => step.Test == Test.Leakage);
        plan.Steps.ShouldContain(step => step.Test == Test.Insulation);
        plan.Remarks.ShouldContain(remark => remark.Contains("direct current", StringComparison.Ordinal));
    }

    [Fact]
    public void What_only_a_current_decides_and_what_only_mains_trip_is_refused_on_direct_current()
    {
        var pack = At("uk-cop-5", 110, 0);
        var electronic = Drill with { MainsSwitch = MainsSwitch.Electronic };
        ScopeOf.Refusal(pack, electronic, Scope.Combined, Policy.Usual).ShouldBe(ScopeOf.NoMains);
        var rcd = new Item { Kind = ItemKind.PortableRcd, Rcd = new(0.03) };
        ScopeOf.Refusal(pack, rcd, Scope.Combined, Policy.Usual).ShouldBe(ScopeOf.NoMains);
        ScopeOf.Refusal(At("iec-62353-2014", 110, 0), Device, Scope.Combined, Policy.Usual).ShouldBe(ScopeOf.NoMains);
        // A look needs no mains; the alternative method brings its own.
        ScopeOf.Refusal(pack, rcd, Scope.FormalVisual, Policy.Usual).ShouldBeNull();
        var alternative = Policy.Usual with { MedicalMethod = LeakageMethod.Alternative };
        ScopeOf.Refusal(At("iec-62353-2014", 110, 0), Device, Scope.Combined, alternative).ShouldBeNull();
    }

    /// <summary>On direct current a filter leaks nothing: a powered leakage step there would be a pass of what was never tried.</summary>
    [Fact]
    public void No_pack_and_no_policy_plans_on_direct_current_what_only_mains_can_make()
    {
        var device = Device with { AppliedParts = [new("ECG", AppliedPartType.CF, 3)] };
        foreach (var id in PackLibrary.Ids)
        foreach (var item in new[] { Drill, device, Drill with { MainsSwitch = MainsSwitch.Electronic } })
        foreach (var method in Enum.GetValues<LeakageMethod>())
        foreach (var leakage in Enum.GetValues<LeakagePolicy>())
        {
            if (item.IsMedical && PackLibrary.Find(id)!.Scope == PackScope.Appliances)
                continue;
            var (pack, policy) = (At(id, 110, 0), Policy.Usual with { MedicalMethod = method, Leakage = leakage });
            var planned = Planner.Of(pack, item, policy).Steps.Select(step => step.Under).ToArray();
            planned.ShouldNotContain(under => under is Conditions.RcdTrip, id);
            planned
                .OfType<Conditions.Leakage>()
                .ShouldAllBe(under => under.Method == LeakageMethod.Alternative, $"{id} {item.Kind} {method} {leakage}");
        }
        // This standard has no limits for the alternative method: the policy changes nothing.
        var wanted = Policy.Usual with
        {
            MedicalMethod = LeakageMethod.Alternative,
        };
        ScopeOf.Refusal(At("iec-60601-1-2012", 110, 0), device, Scope.Combined, wanted).ShouldBe(ScopeOf.NoMains);
    }

    [Theory]
    [InlineData(110.0, 60.0, null)]
    [InlineData(null, null, null)]
    [InlineData(5.0, null, "nominalV")]
    [InlineData(double.NaN, null, "nominalV")]
    [InlineData(230.0, 400.0, "mainsHz")]
    public void Mains_that_no_site_has_are_refused(double? volts, double? hertz, string? path) =>
        (new SiteMains(volts, hertz).Refusal()?.Path).ShouldBe(path);

    [Fact]
    public void A_sheet_says_the_supply_and_a_ruling_goes_through_json_with_it()
    {
        var ruling = OnTheBench.RulingFor(Drill);
        var there = ruling with { Round = ruling.Round with { Mains = new(110, 60) } };
        var read = BenchJson.ReadRuling(BenchJson.Write(there)).Value;
        read.Pack.Supply.ShouldBe("110 V, 60 Hz");
        new BenchSession(read, []).View().Sheet!.Supply.ShouldBe("110 V, 60 Hz");
        read.Fingerprint.ShouldBe(there.Fingerprint);
        read.Fingerprint.ShouldNotBe(ruling.Fingerprint);
        Ruling.Differences(ruling, there).ShouldContain("The site's supply is 110 V, 60 Hz now.");
    }
}
