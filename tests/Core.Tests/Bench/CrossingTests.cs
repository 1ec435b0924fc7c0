using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;
using Xunit;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A value on its way to its limit, and when it would get there.</summary>
public sealed class CrossingTests
{
    private static readonly DateOnly Today = new(2026, 3, 2);

    /// <summary>A kettle whose leakage was read once a year; at 2.2 kW 1.65 mA are allowed.</summary>
    private static OnTheBench Leaking(string now, params (DateOnly On, double Milliampere)[] before)
    {
        var under = new Conditions.Leakage(LeakageKind.ProtectiveConductor);
        var ruling = OnTheBench.RulingFor(OnTheBench.Kettle, kit: OnTheBench.Analyser) with
        {
            History =
            [
                .. before.Select(it => new PastInspection(
                    it.On,
                    false,
                    [new Reading.Leakage(under, new(it.Milliampere, Unit.Milliampere)) { SwitchedOn = true }]
                )),
            ],
        };
        var bench = new OnTheBench(ruling).PassTheRest();
        var step = bench.State.Steps.First(it => it.Step is SheetStep.Measure { Plan.Test: Test.Leakage });
        bench.Void(step.Taken[^1]);
        bench.Type(step.Step.Key, now);
        return bench.PassTheRest();
    }

    [Fact]
    public void A_value_that_rises_evenly_gets_there_when_the_line_through_its_readings_does()
    {
        // A tenth of a milliampere a year: 1.25 now, 0.4 left, four years.
        var bench = Leaking("1.25mA", (new(2024, 3, 2), 1.05), (new(2025, 3, 2), 1.15));
        var crossing = Crossing.Of(bench.State, Today).ShouldNotBeNull();
        crossing.On.ShouldBeInRange(new(2030, 2, 20), new(2030, 3, 12));
        (crossing.Name, crossing.Now, Math.Round(crossing.Limit, 9)).ShouldBe(("Protective conductor current", "1.25 mA", 0.00165));
        crossing.Points.Select(it => it.Date).ShouldBe([new(2024, 3, 2), new(2025, 3, 2), Today]);
        crossing.Points[^1].Si.ShouldBe(0.00125, 1e-9);
    }

    /// <summary>Worked out from what is kept it is what was worked out at the save; a corrected fact is another limit.</summary>
    [Fact]
    public void What_is_kept_of_an_item_gives_the_same_and_follows_a_corrected_fact()
    {
        var bench = Leaking("1.25mA", (new(2024, 3, 2), 1.05), (new(2025, 3, 2), 1.15));
        var atSave = Crossing.Of(bench.State, Today).ShouldNotBeNull();
        var kept = bench.Ruling with
        {
            History =
            [
                .. bench.Ruling.History,
                new(
                    Today,
                    false,
                    [new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(1.25, Unit.Milliampere)) { SwitchedOn = true }]
                ),
                // A look afterwards measured nothing, and hides nothing.
                new(Today.AddDays(3), false, []),
            ],
        };
        var again = Crossing.OfPast(kept).ShouldNotBeNull();
        (again.On, again.Name, again.Now, again.Points.Count).ShouldBe((atSave.On, atSave.Name, atSave.Now, 3));
        again.Limit.ShouldBe(atSave.Limit, 1e-9);

        var stronger = kept.Item.Equipment with { RatedPower = new(3000) };
        var later = Crossing.OfPast(kept with { Item = kept.Item with { Equipment = stronger } }).ShouldNotBeNull();
        later.Limit.ShouldBeGreaterThan(atSave.Limit, "of what heats, leakage is allowed by its power");
        later.On.ShouldBeGreaterThan(atSave.On);
        Crossing.OfPast(bench.Ruling with { History = [] }).ShouldBeNull();
    }

    [Fact]
    public void What_falls_stands_still_or_was_read_too_seldom_has_none()
    {
        Crossing.Of(Leaking("0.2mA", (new(2024, 3, 2), 0.4), (new(2025, 3, 2), 0.3)).State, Today).ShouldBeNull();
        Crossing.Of(Leaking("0.3mA", (new(2024, 3, 2), 0.3), (new(2025, 3, 2), 0.3)).State, Today).ShouldBeNull();
        Crossing.Of(Leaking("0.5mA", (new(2025, 3, 2), 0.3)).State, Today).ShouldBeNull();
        Crossing.Of(Leaking("0.5mA").State, Today).ShouldBeNull();
    }

    [Fact]
    public void What_has_failed_is_at_its_limit_and_not_on_the_way()
    {
        var bench = Leaking("1.25mA", (new(2024, 3, 2), 1.05), (new(2025, 3, 2), 1.15));
        var step = bench.State.Steps.First(it => it.Step is SheetStep.Measure { Plan.Test: Test.Leakage });
        bench.Void(step.Taken[^1]);
        bench.Type(step.Step.Key, "1.9mA");
        Crossing.Of(bench.State, Today).ShouldBeNull();
    }

    [Theory]
    [InlineData("2026-06-01", "2026-05-02")]
    [InlineData("2026-03-20", "2026-03-02")]
    [InlineData("2026-03-02", "2026-03-02")]
    [InlineData("2020-01-01", "2026-03-02")]
    public void It_had_better_come_back_a_window_before_the_limit_and_never_in_the_past(string on, string by)
    {
        var crossing = new Crossing(DateOnly.Parse(on, null), "x", "", "", 1, "", false, []);
        crossing.ComeBackBy(Today, 30).ShouldBe(DateOnly.Parse(by, null));
        crossing.Says(Today, Today).ShouldStartWith(crossing.On < Today ? "perhaps beyond its limit since about " : "at its limit about ");
    }
}
