using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>What is measured and what was read, over every kind of it.</summary>
public class ReadingTests
{
    private static readonly RulePack Iec = PackLibrary.Find("iec-62353-2014")!;
    private static readonly RulePack Uk = PackLibrary.Find("uk-cop-5")!;

    /// <summary>Something of which everything can be read.</summary>
    private static readonly Item Everything = new()
    {
        Kind = ItemKind.MedicalDevice,
        Rcd = new(0.03),
        AppliedParts = [new("ECG", AppliedPartType.CF, 3), new("cuff", AppliedPartType.BF, 1)],
    };

    private static Gen<T> OneOf<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(at => values[at]);

    private static readonly Gen<Spot?> Spots = Gen.OneOf(
        OneOf<Spot?>([null]),
        Gen.Int[1, 12].Select(Spot? (n) => new Spot.Outlet(n)),
        OneOf("handle", "outlet", "outlet 01", "Outlet 2", "outlet two").Select(Spot? (name) => Spot.Of(name))
    );

    private static readonly Gen<string?> Parts = OneOf<string?>("ECG", "cuff");

    private static readonly Gen<Conditions.Leakage> Leakages = Gen.Select(
        Gen.Enum<LeakageKind>(),
        Gen.Enum<LeakageMethod>(),
        Gen.Enum<CurrentType>(),
        Gen.Enum<MainsPolarity>(),
        Gen.Int[0, 2],
        Gen.Enum<PowerState>(),
        Parts,
        (kind, method, current, polarity, open, power, part) =>
            new Conditions.Leakage(kind)
            {
                Method = method,
                Current = current,
                Polarity = polarity,
                // Neutral and earth are never both open.
                Neutral = open == 1 ? ConductorState.Open : ConductorState.Closed,
                Earth = open == 2 ? ConductorState.Open : ConductorState.Closed,
                Power = power,
                AppliedPart = part,
            }
    );

    private static readonly Gen<Conditions> Measurands = Gen.Select(
        Gen.OneOf(
            Gen.Select(
                Gen.Enum<EarthPath>(),
                Gen.Enum<EarthPart>(),
                Conditions (path, part) => new Conditions.EarthContinuity { Path = path, Part = part }
            ),
            Gen.Select(
                Gen.Enum<Between>(),
                OneOf<double?>(null, 250, 500),
                Parts,
                Conditions (between, volts, part) =>
                    new Conditions.Insulation(between, volts is { } it ? new Volts(it) : null) { AppliedPart = part }
            ),
            Leakages.Select(Conditions (it) => it),
            Gen.Select(OneOf(0.5, 1.0, 5.0), OneOf(0, 180), Conditions (multiple, phase) => new Conditions.RcdTrip(multiple, phase)),
            Gen.Enum<SyncTrigger>().Select(Conditions (trigger) => new Conditions.DefibSync(trigger)),
            Gen.Int[1, 400].Select(Conditions (joules) => new Conditions.DefibEnergy(new(joules, Dimension.Energy))),
            Gen.Int[1, 20].Select(Conditions (millivolt) => new Conditions.EcgAmplitude(new(millivolt / 1000.0, Dimension.Voltage))),
            OneOf<Conditions>(new Conditions.Polarity(), new Conditions.Wiring(), new Conditions.DefibCharge(), new Conditions.PadPath())
        ),
        Spots,
        (under, spot) => under with { At = spot }
    );

    private static Unit UnitOf(Conditions under) =>
        under switch
        {
            Conditions.Insulation => Unit.Megohm,
            Conditions.Leakage => Unit.Microampere,
            Conditions.RcdTrip or Conditions.DefibSync => Unit.Millisecond,
            Conditions.DefibCharge => Unit.Second,
            Conditions.DefibEnergy => Unit.Joule,
            Conditions.EcgAmplitude => Unit.Millivolt,
            _ => Unit.Ohm,
        };

    /// <param name="number">Also chooses among what a kind may or may not carry.</param>
    private static Reading Of(Conditions under, int number, Qualifier qualifier)
    {
        var (shown, flag) = (new Measured(number / 8.0, UnitOf(under), qualifier), number % 2 == 0);
        Accuracy? accuracy = number % 3 == 0 ? new(2, 3, 0.01) : null;
        Reading reading = under switch
        {
            Conditions.EarthContinuity it => new Reading.EarthContinuity(it, shown)
            {
                Null = new(number % 5 / 100.0),
                TestCurrent = flag ? new(0.2) : null,
                Accuracy = accuracy,
            },
            Conditions.Insulation it => new Reading.Insulation(it, shown) { SwitchedOn = flag, Accuracy = accuracy },
            Conditions.Leakage it => new Reading.Leakage(it, shown)
            {
                SwitchedOn = flag,
                Mains = number % 4 == 0 ? null : new(231.5),
                Accuracy = accuracy,
            },
            Conditions.RcdTrip it => (number % 3) switch
            {
                0 => new Reading.RcdDidNotTrip(it),
                1 when it.Multiple < 1 => new Reading.RcdTrippedUntimed(it),
                _ => new Reading.RcdTripped(it, shown),
            },
            Conditions.Performance it => new Reading.Performance(it, shown) { MakerLimit = flag ? new(2, shown.Unit.Dimension) : null },
            Conditions.Conductors it => new Reading.Conductors(it, flag) { Found = flag ? null : ConductorFault.Crossed },
            _ => new Reading.Functional(flag),
        };
        return reading with
        {
            Load = number % 7 == 0 ? new(1.5) : null,
            Void = number % 11 == 0 ? "clip was off" : null,
            Note = number % 13 == 0 ? "by the window" : null,
        };
    }

    private static readonly Gen<Reading> Readings = Gen.Select(Measurands, Gen.Int[0, 4000], Gen.Enum<Qualifier>(), Of);

    [Fact]
    public void Every_kind_of_reading_is_read_as_it_was_written() =>
        Readings.Sample(
            it =>
            {
                var past = new PastInspection(new(2026, 3, 2), false, [it]) { Item = Everything };
                var text = BenchJson.Write([past]);
                var back = BenchJson.ReadPast(text).Value.ShouldHaveSingleItem();
                back.Readings.ShouldHaveSingleItem().ShouldBe(it);
                BenchJson.Write([back]).ShouldBe(text);
            },
            iter: 5000
        );

    [Fact]
    public void A_spot_is_read_as_it_was_written_whatever_it_is_called() => Gen.String.Sample(text => Spot.Of(text).Text == text);

    [Theory]
    [InlineData("outlet 3", true)]
    [InlineData("outlet 03", false)]
    [InlineData("outlet -1", false)]
    [InlineData("outlet 99999999999", false)]
    [InlineData("Outlet 3", false)]
    [InlineData("handle", false)]
    public void An_outlet_is_told_from_where_a_probe_sat(string text, bool isOutlet) => (Spot.Of(text) is Spot.Outlet).ShouldBe(isOutlet);

    [Fact]
    public void Two_measurements_share_a_key_only_if_they_are_the_same_but_for_the_test_voltage() =>
        Gen.Select(Measurands, Measurands)
            .Sample(
                (a, b) =>
                {
                    static Conditions Bare(Conditions it) => it is Conditions.Insulation own ? own with { TestVoltage = null } : it;
                    (StepKey.Of(a) == StepKey.Of(b)).ShouldBe(Bare(a) == Bare(b), $"{a} and {b}");
                },
                iter: 20_000
            );

    [Fact]
    public void The_spot_alone_tells_points_of_one_measurement_apart() =>
        Gen.Select(Measurands, Spots, Spots)
            .Sample(
                (it, here, there) =>
                {
                    (it with { At = here }).IsSameButForSpot(it with { At = there }).ShouldBeTrue();
                    var other = it is Conditions.PadPath ? (Conditions)new Conditions.DefibCharge() : new Conditions.PadPath();
                    it.IsSameButForSpot(other with { At = it.At }).ShouldBeFalse();
                }
            );

    [Fact]
    public void An_override_is_a_leads_has_a_reason_and_never_touches_medical_leakage() =>
        Gen.Select(Readings, OneOf(Status.Pass, Status.Fail), Gen.Bool)
            .Sample(
                (reading, to, isLead) =>
                {
                    var made = reading.Overridden(Iec, Everything, to, "Maud", isLead, "second instrument");
                    (made.Fault is null).ShouldBe(isLead && reading is not Reading.Leakage);
                    reading.Overridden(Iec, Everything, to, "Maud", true, " ").Fault.ShouldNotBeNull();
                    if (!made.TryGet(out var decided))
                        return;
                    decided.Override.ShouldNotBeNull().By.ShouldBe("Maud");
                    reading.Override.ShouldBeNull("the reading it was made for is left as it was");
                    var judged = Judge.Of(Iec, Everything, decided);
                    judged.Status.ShouldBe(reading.Void is null ? to : Status.Void);
                    if (reading.Void is null)
                        judged.Overridden.ShouldBe(Judge.Of(Iec, Everything, reading).Status);
                }
            );

    [Fact]
    public void Nobody_overrides_with_anything_but_pass_or_fail()
    {
        var reading = new Reading.EarthContinuity(new(), new(0.5, Unit.Ohm));
        foreach (var status in new[] { Status.Undecided, Status.Void })
            reading.Overridden(Uk, Everything, status, "Maud", true, "because").Fault.ShouldNotBeNull();
    }

    [Theory]
    [InlineData(0.5, null, Status.Pass)]
    [InlineData(0.5, 12.0, Status.Fail)]
    [InlineData(1.0, null, Status.Fail)]
    [InlineData(1.0, 40.0, Status.Pass)]
    [InlineData(1.0, 900.0, Status.Fail)]
    [InlineData(5.0, null, Status.Fail)]
    [InlineData(5.0, 39.0, Status.Pass)]
    public void An_rcd_stays_closed_at_half_its_rating_and_opens_at_it_in_time(double multiple, double? milliseconds, Status expected)
    {
        var rcd = new Item { Kind = ItemKind.PortableRcd, Rcd = new(0.03) };
        Reading reading = milliseconds is { } time
            ? new Reading.RcdTripped(new(multiple), new(time, Unit.Millisecond))
            : new Reading.RcdDidNotTrip(new(multiple));
        Judge.Of(Uk, rcd, reading).Status.ShouldBe(expected);
    }

    [Fact]
    public void An_rcd_that_opened_at_half_its_rating_fails_also_without_a_time() =>
        Judge
            .Of(Uk, new() { Kind = ItemKind.PortableRcd, Rcd = new(0.03) }, new Reading.RcdTrippedUntimed(new(0.5)))
            .Status.ShouldBe(Status.Fail);

    [Fact]
    public void Energies_are_compared_with_their_own_setting_and_with_no_other()
    {
        var device = Everything with { Defibrillator = new([5, 200], false, null) };
        Reading Energy(double set, double shown) =>
            new Reading.Performance(new Conditions.DefibEnergy(new(set, Dimension.Energy)), new(shown, Unit.Joule));
        var facts = new InspectionFacts
        {
            Pack = Iec,
            Item = device,
            TestDate = new(2026, 3, 1),
            Interval = new(6),
            History = [new(new(2025, 9, 1), false, [Energy(5, 5), Energy(200, 201)])],
        };
        var now = Judge.Of(Iec, device, Energy(5, 5.5));
        Trend.For(facts, now, new(2026, 3, 1)).ShouldNotBeNull().SinceReference.Si.ShouldBe(0.5, 1e-9);
        Trend.For(facts with { History = [new(new(2025, 9, 1), false, [Energy(200, 201)])] }, now, new(2026, 3, 1)).ShouldBeNull();
    }

    [Fact]
    public void A_plan_tries_every_setting_of_a_defibrillator_and_no_ecg_that_is_not_set()
    {
        var device = Everything with { Defibrillator = new([5, 200, 360], true, null) };
        var planned = Planner.Of(Iec, device, Policy.Usual).Steps.Select(step => step.Under).ToArray();
        planned.OfType<Conditions.DefibEnergy>().Select(it => it.Joules.Si).ShouldBe([5.0, 200, 360]);
        planned.OfType<Conditions.EcgAmplitude>().ShouldBeEmpty();
        var shows = Everything with { Defibrillator = new([5], true, 1) };
        Planner
            .Of(Iec, shows, Policy.Usual)
            .Steps.Select(step => step.Under)
            .OfType<Conditions.EcgAmplitude>()
            .Single()
            .Volts.Si.ShouldBe(0.001);
    }

    [Fact]
    public void Every_step_that_is_measured_has_a_name_terminals_and_a_key_of_its_own()
    {
        foreach (var pack in PackLibrary.All)
        foreach (var kind in Enum.GetValues<ItemKind>())
        {
            var item = new Item
            {
                Kind = kind,
                Rcd = kind == ItemKind.PortableRcd ? new(0.03) : null,
                Outlets = 3,
            };
            var plan = Planner.Of(pack, item, Policy.Usual);
            foreach (var step in plan.Steps.OfType<PlanStep.Measure>())
            {
                step.Name.ShouldNotBeEmpty();
                step.Terminals.ShouldNotBeEmpty($"{pack.Id} {step.Key}");
                (step.Hazard is null).ShouldBe(step.HazardKind == HazardKind.None);
            }
            plan.Steps.Where(step => step is not PlanStep.Measure).ShouldAllBe(step => step.Under.At == null);
        }
    }
}
