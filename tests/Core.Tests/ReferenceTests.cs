using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>The reference of a measurement is a fact that is kept, however many inspections follow it.</summary>
public class ReferenceTests
{
    private static readonly RulePack Uk = PackLibrary.Find("uk-cop-5")!;

    private static readonly Item Drill = new()
    {
        Kind = ItemKind.Appliance,
        Class = ProtectionClass.I,
        Cord = new(new(2), new(1)),
    };

    private static Reading.Leakage Current(double milliamperes) =>
        new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(milliamperes, Unit.Milliampere));

    private static Reading.EarthContinuity Earth(double ohms) => new Reading.EarthContinuity(new(), new(ohms, Unit.Ohm));

    private static PastInspection On(int year, params Reading[] readings) => new(new(year, 3, 1), false, [.. readings]) { Item = Drill };

    [Fact]
    public void The_first_decided_reading_of_each_measurement_is_kept_and_later_ones_are_not()
    {
        var kept = References.Of([On(2020, Current(0.1)), On(2021, Current(0.2), Earth(0.05)), On(2022, Current(0.3), Earth(0.06))], Uk);
        kept.Select(past => past.Date.Year).ShouldBe([2020, 2021]);
        kept[0].Readings.ShouldHaveSingleItem().ShouldBe(Current(0.1));
        kept[1].Readings.ShouldHaveSingleItem().ShouldBe(Earth(0.05));
    }

    [Fact]
    public void A_void_a_bound_and_a_reading_taken_switched_off_are_no_references()
    {
        Reading[] none =
        [
            Current(0.1) with
            {
                Void = "clip was off",
            },
            new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(0.1, Unit.Milliampere, Qualifier.Below)),
            new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(0.1, Unit.Milliampere)) { SwitchedOn = false },
            new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(0.1, Unit.Milliampere)) { Mains = new(150) },
        ];
        foreach (var reading in none)
            References.Of([On(2020, reading)], Uk).ShouldBeEmpty(reading.ToString());
        References.Of([On(2020, none), On(2021, Current(0.2))], Uk).ShouldHaveSingleItem().Date.Year.ShouldBe(2021);
    }

    [Fact]
    public void A_repair_begins_anew()
    {
        var repaired = On(2022, Current(0.2)) with { AfterRepair = true };
        var kept = References.Of([On(2020, Current(0.1), Earth(0.05)), repaired, On(2023, Earth(0.07))], Uk);
        kept.Select(past => past.Date.Year).ShouldBe([2022, 2023]);
    }

    /// <summary>Twelve inspections on, the reference is out of sight of the history and holds all the same.</summary>
    [Fact]
    public void A_slow_rise_is_told_against_a_reference_that_the_history_no_longer_reaches()
    {
        var years = Enumerable.Range(0, 14).Select(n => On(2010 + n, Current(0.05 + 0.02 * n))).ToArray();
        InspectionFacts Facts(ImmutableArray<PastInspection> references) =>
            new()
            {
                Pack = Uk,
                Item = Drill,
                Readings = [Current(0.5)],
                History = [.. years[^3..]],
                References = references,
                TestDate = new(2024, 3, 1),
            };
        var now = Judge.Of(Uk, Drill, Current(0.5));
        Trend.For(Facts([]), now, new(2024, 3, 1))!.SinceReference.Si.ShouldBe(0.5e-3 - 0.27e-3, 1e-9);
        var kept = References.Of(years, Uk);
        Trend.For(Facts(kept), now, new(2024, 3, 1))!.SinceReference.Si.ShouldBe(0.45e-3, 1e-9);
        Trend.Of(Facts(kept), [now]).ShouldHaveSingleItem().Advice!.ShouldContain("since its reference");
        Trend.Of(Facts([]), [now]).ShouldBeEmpty();
    }

    /// <summary>0.02 mA more each year, with a limit of 0.75 mA: from 0.45 mA it is there in (0.75 - 0.45) / 0.02 = 15 years, from
    /// 0.3 mA in 22.5, which nobody plans for.</summary>
    [Theory]
    [InlineData(0.45, 2040)]
    [InlineData(0.3, null)]
    public void What_moves_towards_its_limit_says_when_it_would_be_there(double now, int? year)
    {
        var history = Enumerable.Range(0, 5).Select(n => On(2020 + n, Current(now - 0.02 * (5 - n)))).ToImmutableArray();
        var facts = new InspectionFacts
        {
            Pack = Uk,
            Item = Drill,
            History = history,
            TestDate = new(2025, 1, 1),
        };
        var trend = Trend.For(facts, Judge.Of(Uk, Drill, Current(now)), history[^1].Date.AddYears(1)).ShouldNotBeNull();
        trend.ReferenceOn.ShouldBe(history[0].Date);
        trend.Reference.Si.ShouldBe((now - 0.1) / 1000, 1e-12);
        trend.Crosses?.Year.ShouldBe(year!.Value);
        (trend.Crosses is null).ShouldBe(year is null);
    }

    [Fact]
    public void What_falls_or_stays_never_crosses()
    {
        foreach (var step in (double[])[0, -0.01])
        {
            var history = Enumerable.Range(0, 5).Select(n => On(2020 + n, Current(0.3 + step * n))).ToImmutableArray();
            var facts = new InspectionFacts
            {
                Pack = Uk,
                Item = Drill,
                History = history,
            };
            Trend.For(facts, Judge.Of(Uk, Drill, Current(0.3 + step * 5)), new(2025, 3, 1)).ShouldNotBeNull().Crosses.ShouldBeNull();
        }
    }

    [Fact]
    public void An_items_page_says_how_each_value_has_moved_since_its_reference()
    {
        var history = Enumerable.Range(0, 4).Select(n => On(2022 + n, Current(0.1 + 0.05 * n)) with { Item = Drill }).ToImmutableArray();
        var ruling = Bench.OnTheBench.RulingFor(Drill) with { History = history };
        var card = Core.Bench.Trends.Of(ruling).Single(card => card.Points.Count == 4);
        card.Since.ShouldNotBeNull().ShouldStartWith($"Reference 0.1 mA of {history[0].Date:d MMM yyyy}; 0.15 mA more since, ");
        card.Since.ShouldContain("a year: at this rate at its limit about ");
        // What an instrument's own noise moves is no movement.
        var still = history.Select((past, n) => past with { Readings = [Current(0.1 + 0.001 * n)] }).ToImmutableArray();
        Core.Bench.Trends.Of(ruling with { History = still })
            .Single(it => it.Key == card.Key)
            .Since!.ShouldEndWith("; much the same since");
    }

    [Fact]
    public void A_reference_from_before_a_repair_that_the_history_shows_counts_no_more()
    {
        var repaired = On(2022, Current(0.4)) with { AfterRepair = true };
        var facts = new InspectionFacts
        {
            Pack = Uk,
            Item = Drill,
            History = [On(2021, Current(0.3)), repaired],
            References = [On(2015, Current(0.1))],
            TestDate = new(2024, 3, 1),
        };
        var now = Judge.Of(Uk, Drill, Current(0.5));
        Trend.For(facts, now, new(2024, 3, 1))!.SinceReference.Si.ShouldBe(0.1e-3, 1e-9);
    }

    /// <summary>Of a flexing set the worst counts: the joint is one, and so is what is told of it.</summary>
    [Fact]
    public void The_trend_of_a_flexing_set_is_told_once_by_its_worst()
    {
        var facts = new InspectionFacts
        {
            Pack = Uk,
            Item = Drill,
            Readings = [Earth(0.1), Earth(0.13), Earth(0.11)],
            History = [On(2024, Earth(0.02)), On(2025, Earth(0.02))],
            TestDate = new(2026, 3, 1),
        };
        var told = Assessment.Of(facts).Advice.Where(line => line.Contains("since its reference", StringComparison.Ordinal)).ToArray();
        told.ShouldHaveSingleItem().ShouldContain("79");
    }
}
