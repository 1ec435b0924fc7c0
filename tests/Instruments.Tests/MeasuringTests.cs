using CsCheck;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>What the instrument says of every kind of item, sound and not, through the real protocol.</summary>
public class MeasuringTests
{
    private static readonly Conditions.EarthContinuity Earth = new();
    private static readonly Conditions.Leakage Current = new(LeakageKind.ProtectiveConductor);

    public static TheoryData<string> Packs =>
        ["uk-cop-5", "as-nzs-3760-2022", "en-50699-2020", "iec-62353-2014", "iec-60601-1-2012", "nfpa-99-2012"];

    /// <summary>Every step that any standard plans for any kind of item is measured, and a sound item passes it.</summary>
    [Theory]
    [MemberData(nameof(Packs))]
    public async Task A_sound_item_of_every_kind_passes_every_step_of_its_plan(string pack)
    {
        await using var shop = await Workshop.OpenAsync();
        foreach (var item in Things.All)
        {
            if (Planning(item, pack) is not { } sheet)
                continue;
            await shop.Place(item, tag: $"sound {item.Kind} {item.Class} {item.Phases}");
            foreach (var step in sheet.State.Sheet.Steps.OfType<Core.Bench.SheetStep.Measure>())
            {
                await shop.Order(new("hands", ResetsRcd: true));
                if (step.Plan.AsksProbe && sheet.State.Probe is null)
                    sheet.PlaceProbe();
                var shown = await shop.Measure(sheet, step.Key);
                var judged = sheet.State.Readings[^1];
                var told =
                    $"{pack}, {item.Kind} {item.Phases} {item.Use} {item.MainsSwitch} class {item.Class}: {step.Key} {shown.Value} {shown.Ok} {shown.Tripped}";
                (judged.Fault, told).ShouldBe((null, told));
                judged.Judgement!.Status.ShouldBe(Status.Pass, $"{told}: {judged.Judgement.Because}");
            }
        }
    }

    private static OnTheBench? Planning(Item item, string pack)
    {
        var isMedical = PackLibrary.Find(pack)!.Scope == PackScope.Medical;
        if (item.IsMedical != isMedical || item.IsHardWired)
            return null;
        var ruling = OnTheBench.RulingFor(item, pack, kit: OnTheBench.Analyser with { Functions = Measuring.Functions });
        return new(ruling);
    }

    [Fact]
    public async Task An_outlet_of_an_adaptor_is_found_by_its_number()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Order(new("fault", Tag: "six", Fault: Fault.OutletWithoutEarth, Outlet: 3));
        await shop.Order(new("fault", Tag: "six", Fault: Fault.OutletCrossed, Outlet: 5));
        await shop.Place(Things.SixWay, tag: "six");
        for (var n = 1; n <= 6; n++)
        {
            var earth = await shop.Measure(Earth with { At = new Spot.Outlet(n) });
            (n, earth.Value!.Value.IsBound).ShouldBe((n, n == 3));
            var polarity = await shop.Measure(new Conditions.Polarity { At = new Spot.Outlet(n) });
            (n, polarity.Ok, polarity.Found).ShouldBe((n, n != 5, n == 5 ? ConductorFault.Crossed : null));
        }
        (await shop.Measure(new Conditions.Wiring())).Ok.ShouldBe(true, "crossed conductors are whole");
        await shop.Order(new("mend", Tag: "six"));
        await shop.Place(Things.SixWay, Fault.LineNeutralShort, "six");
        var shorted = await shop.Measure(new Conditions.Wiring());
        (shorted.Ok, shorted.Found).ShouldBe((false, ConductorFault.ShortCircuit));
    }

    [Fact]
    public async Task An_rcd_trips_by_its_mechanism_and_wants_its_reset()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.RcdAdaptor);
        Conditions.RcdTrip At(double multiple, int phase = 0) => new(multiple, phase);
        (await shop.Measure(At(0.5))).Tripped.ShouldBe(false);
        var once = await shop.Measure(At(1));
        once.Tripped.ShouldBe(true);
        once.Value!.Value.Quantity.Si.ShouldBeInRange(0.01, 0.2);
        // Open since: nothing is measured until it is reset.
        (await Should.ThrowAsync<InstrumentException>(() => shop.Measure(At(5)))).Trouble.ShouldBe(LineTrouble.NeedsReset);
        await shop.Order(new("hands", ResetsRcd: true));
        (await shop.Measure(At(5, 180))).Value!.Value.Quantity.Si.ShouldBeLessThan(once.Value!.Value.Quantity.Si);
    }

    [Fact]
    public async Task A_tired_rcd_is_slow_dead_or_deaf_to_one_half_wave()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.RcdAdaptor, Fault.SlowRcd, "slow");
        (await shop.Measure(new Conditions.RcdTrip(1, 0))).Value!.Value.Quantity.Si.ShouldBeGreaterThan(0.3);
        await shop.Place(Things.RcdAdaptor, Fault.DeadRcd, "dead");
        (await shop.Measure(new Conditions.RcdTrip(5, 0))).Tripped.ShouldBe(false);
        await shop.Place(Things.RcdAdaptor, Fault.OneHalfWaveRcd, "deaf");
        async Task<double> Seconds(int phase)
        {
            await shop.Order(new("hands", ResetsRcd: true));
            return (await shop.Measure(new Conditions.RcdTrip(5, phase))).Value!.Value.Quantity.Si;
        }
        // Begun with the half-wave it does not hear, it opens one half-wave later.
        ((await Seconds(180)) - (await Seconds(0))).ShouldBeInRange(0.008, 0.012);
        await shop.Place(Things.RcdAdaptor, Fault.BlownFuse, "blown");
        (await Should.ThrowAsync<InstrumentException>(() => shop.Measure(new Conditions.RcdTrip(1, 0)))).Trouble.ShouldBe(
            LineTrouble.NeedsReset
        );
    }

    [Theory]
    [InlineData(Fault.None, true)]
    [InlineData(Fault.DeadRcdButton, false)]
    [InlineData(Fault.DeadRcd, false)]
    [InlineData(Fault.OpenLine, false)] // nothing is live behind it
    public async Task Its_button_opens_a_sound_rcd_and_no_other(Fault fault, bool opens)
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.RcdAdaptor, fault);
        var pressed = await shop.Hands.OrderAsync(new("hands", PressesButton: true), TestContext.Current.CancellationToken);
        (pressed.Opened, shop.Benches[0].Item!.IsRcdClosed).ShouldBe((opens, !opens));
    }

    [Fact]
    public void More_current_trips_sooner_and_less_than_the_pickup_never() =>
        Gen.Select(Gen.Double[0.55, 0.9], Gen.Double[0.01, 0.05], Gen.Double[0.2, 6], Gen.Bool, Gen.Bool)
            .Sample(
                (pickup, gathers, multiple, isNegative, isAmerican) =>
                {
                    var (phase, hertz) = (isNegative ? 180 : 0, isAmerican ? 60 : 50);
                    var rcd = new RcdBuild(0.03, pickup, pickup, gathers, 0.008, 0);
                    double? Opens(double times) => RcdMechanism.OpensAfter(rcd, times * 0.03, phase, hertz, 2);
                    var (now, more) = (Opens(multiple), Opens(multiple * 1.5));
                    if (multiple < pickup * 0.85)
                        now.ShouldBeNull();
                    if (multiple > pickup * 1.02)
                        now.ShouldNotBeNull();
                    if (now is { } time)
                        more.ShouldNotBeNull().ShouldBeLessThanOrEqualTo(time);
                }
            );

    [Fact]
    public async Task The_flex_is_moved_and_its_least_and_most_are_kept()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.Kettle, Fault.BrokenStrands);
        var moved = await shop.Measure(Earth, 6);
        (moved.Most!.Value.Number - moved.Least!.Value.Number).ShouldBeGreaterThan(0.2);
        await shop.Order(new("hands", MovesFlex: false));
        var still = await shop.Measure(Earth, 6);
        (still.Most!.Value.Number - still.Least!.Value.Number).ShouldBeLessThan(0.01);
    }

    [Fact]
    public async Task A_damp_element_dries_while_it_runs()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.Kettle, Fault.DampElement);
        var insulation = new Conditions.Insulation(TestVoltage: new(500));
        var cold = (await shop.Measure(insulation, 5)).Value!.Value.Quantity.Si;
        var current = await shop.Measure(Current, 60);
        current.LoadAmperes.ShouldNotBeNull().ShouldBeGreaterThan(9);
        var warm = (await shop.Measure(insulation, 5)).Value!.Value.Quantity.Si;
        (cold < 0.3e6, warm > 5 * cold).ShouldBe((true, true), $"{cold:0} ohm cold, {warm:0} ohm warm");
    }

    [Fact]
    public async Task A_soft_starter_looks_open_until_it_runs()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.Pc, Fault.SoftStarter);
        (await shop.Measure(new Conditions.Insulation(TestVoltage: new(500)), 5)).PathSeen.ShouldBe(false);
        (await shop.Measure(Current, 1)).LoadAmperes.ShouldBe(0);
        (await shop.Measure(Current, 5)).LoadAmperes.ShouldNotBeNull().ShouldBeGreaterThan(1);
        await shop.Place(Things.Pc, tag: "plain");
        (await shop.Measure(new Conditions.Insulation(TestVoltage: new(500)), 5)).PathSeen.ShouldBe(true);
    }

    [Theory]
    [InlineData(Fault.CaseTouchesEarth)]
    [InlineData(Fault.CaseIsBonded)]
    public async Task A_probe_that_finds_an_earth_puts_nothing_on_the_item(Fault fault)
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.Drill, fault);
        var guarded = Workshop.Asking(new Conditions.Insulation(Between.MainsToAccessible, new(500)), 5) with { GuardsProbe = true };
        var stopped = await Should.ThrowAsync<InstrumentException>(() => shop.Measure(guarded));
        (stopped.Trouble, shop.Benches[0].Item!.LiveVolts).ShouldBe((LineTrouble.ProbeEarthed, 0));
        stopped.Message.ShouldContain("Ω");
        await shop.Place(Things.Drill, tag: "sound");
        (await shop.Measure(guarded)).Value!.Value.Quantity.Si.ShouldBeGreaterThan(2e6);
    }

    [Fact]
    public async Task The_buildings_rcd_goes_where_nothing_isolates_the_bench()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Order(new("mains", Isolated: false, StandingAmperes: 0.021));
        await shop.Place(Things.Pc, Fault.AgedFilter);
        (await Should.ThrowAsync<InstrumentException>(() => shop.Measure(Current))).Trouble.ShouldBe(LineTrouble.SupplyLost);
        await shop.Order(new("mains", Isolated: true));
        (await shop.Measure(Current)).Value!.Value.Quantity.Si.ShouldBeGreaterThan(3.5e-3);
    }

    [Fact]
    public void Off_the_scale_is_a_bound_on_either_side()
    {
        Ranges.Show(Test.EarthContinuity, double.PositiveInfinity).ToString().ShouldBe(">24 Ω");
        Ranges.Show(Test.EarthContinuity, -0.03).ToString().ShouldBe("-0.03 Ω");
        Ranges.Show(Test.EarthContinuity, 3.004).ToString().ShouldBe("3 Ω");
        Ranges.Show(Test.Insulation, double.PositiveInfinity).ToString().ShouldBe(">640 MΩ");
        Ranges.Show(Test.Insulation, 3e3).ToString().ShouldBe("<0.01 MΩ");
        Ranges.Show(Test.Leakage, 0.4e-6).ToString().ShouldBe("0 µA");
        Ranges.Show(Test.Leakage, 1.234e-3).ToString().ShouldBe("1.23 mA");
        Ranges.Show(Test.Leakage, 1).ToString().ShouldBe(">18 mA");
    }

    [Fact]
    public void The_same_seed_makes_the_same_noise() =>
        Gen.Int.Sample(seed =>
        {
            var build = ItemMaking.Of(Things.Kettle, "N-1", Workshop.Today, Workshop.Today);
            Shown Once() => Measuring.Whole(Workshop.Asking(Earth), new("N-1", build), new(seed));
            Once().ShouldBe(Once());
        });
}
