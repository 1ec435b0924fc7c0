using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

public class IntervalTests
{
    [Theory]
    [InlineData("""  "place":"office","use":"it","moved":"never" """, 60, "2031-03-31", "computed")]
    [InlineData("""  "place":"office","use":"it","capMonths":12 """, 12, "2027-03-31", "cap")]
    [InlineData("""  "place":"kitchen","use":"handheld","usage":"constant","moved":"daily" """, 6, "2026-09-30", "computed")]
    [InlineData("""  "place":"construction","use":"handheld","users":"unknown" """, 0.25, "2026-04-07", "computed")] // a week
    [InlineData(
        """  "place":"office","use":"stationary","class":"II","allInsulated":true,"usage":"rare","moved":"never" """,
        60,
        "2031-03-31",
        "computed"
    )] // the ladder ends
    [InlineData(
        """  "place":"school","use":"portable","history":[{"date":"2024-01-01","verdict":"fail"},{"date":"2025-01-01","verdict":"pass","nearLimit":true}],"users":"unknown" """,
        3,
        "2026-06-30",
        "computed"
    )] // -3 held to -2
    [InlineData("""  "place":"hire","usage":"constant" """, 3, "2026-06-30", "computed")]
    [InlineData("""  "place":"office","harshEvent":true """, 24, "2026-03-31", "event")]
    public void The_next_date_follows_place_use_and_history(string facts, double months, string due, string by)
    {
        var answer = Ask.One("interval", $$"""{"id":"i","standard":"uk-cop-5","testDate":"2026-03-31",{{facts}}}""");
        answer.GetProperty("combinedMonths").GetDouble().ShouldBe(months);
        answer.GetProperty("due").GetString().ShouldBe(due);
        answer.GetProperty("decidedBy").GetString().ShouldBe(by);
        answer.GetProperty("because").GetArrayLength().ShouldBeGreaterThan(0);
    }

    /// <summary>What a lead decided for the group is a step like others: it has its because-line, and no sum goes beyond two.</summary>
    [Theory]
    [InlineData(0, 12, false)]
    [InlineData(-1, 6, true)]
    [InlineData(1, 24, true)]
    [InlineData(-3, 3, true)]
    [InlineData(3, 36, true)]
    public void A_groups_decision_is_a_step_on_the_ladder(int steps, double months, bool isSaid)
    {
        var interval = IntervalRule.Of(
            new()
            {
                Pack = PackLibrary.Find("uk-cop-5")!,
                Place = Place.Kitchen,
                TestDate = new(2026, 3, 31),
                Group = new(steps, "evidence of 80 inspections, decided by Maud"),
            }
        );
        interval.Combined!.Value.Months.ShouldBe(months);
        interval.Because.Any(line => line.StartsWith("evidence of 80 inspections, decided by Maud: ")).ShouldBe(isSaid);
    }

    /// <summary>Tested on the last of January, twelve months: a step shorter is six.</summary>
    [Theory]
    [InlineData(-1, DecidedBy.Computed, "2026-07-31")]
    [InlineData(-1, null, "2026-07-31")]
    [InlineData(-1, DecidedBy.Cap, null)]
    [InlineData(-1, DecidedBy.Maker, null)]
    [InlineData(-1, DecidedBy.Person, null)]
    [InlineData(0, DecidedBy.Computed, null)]
    [InlineData(1, DecidedBy.Computed, null)]
    public void A_shorter_interval_of_a_group_counts_at_once_and_a_longer_one_is_earned(int step, DecidedBy? by, string? due)
    {
        var moved = GroupRule.Forward(new(new(12), new(2026, 1, 31), new(2027, 1, 31), by), step);
        (moved is { } to ? $"{to.Due:yyyy-MM-dd}" : null).ShouldBe(due);
    }

    /// <summary>Whatever is decided, nothing falls due later by it, and what was brought forward before stays so.</summary>
    [Fact]
    public void A_groups_decision_makes_nothing_due_later()
    {
        foreach (var months in IntervalTable.Shipped.LadderMonths.Select(it => it.Months))
        foreach (var step in new[] { -1, 0, 1 })
        foreach (var daysOff in new[] { -400, -1, 0, 40 })
        {
            var due = new Period(months).After(new(2024, 2, 29)).AddDays(daysOff);
            if (GroupRule.Forward(new(new(months), new(2024, 2, 29), due, DecidedBy.Computed), step) is not { } to)
                continue;
            to.Due.ShouldBeLessThan(due);
            to.Interval.Months.ShouldBeLessThan(months);
        }
        GroupRule.Forward(new(new(12), new(2026, 1, 31), new(2026, 3, 1), DecidedBy.Computed), -1).ShouldBeNull("it is due sooner already");
        GroupRule.Forward(new(new(12), new(2026, 1, 31), null, DecidedBy.Computed), -1).ShouldBeNull("never tested it is due at once");
    }

    [Fact]
    public void Hire_and_medical_equipment_take_no_groups_step()
    {
        foreach (var place in new[] { Place.Hire, Place.Medical })
        {
            var plain = new IntervalFacts
            {
                Pack = PackLibrary.Find("uk-cop-5")!,
                Place = place,
                TestDate = new(2026, 3, 31),
            };
            var (with, without) = (IntervalRule.Of(plain with { Group = new(1, "decided") }), IntervalRule.Of(plain));
            (with.Combined, with.Due).ShouldBe((without.Combined, without.Due));
        }
    }

    /// <summary>Quantiles of Beta(k + 0.5, n - k + 0.5); of a part that never failed only the upper end says anything.</summary>
    [Theory]
    [InlineData(1, 1, "23 % to 100 %")]
    [InlineData(8, 0, "up to 21 %")]
    [InlineData(76, 5, "3.1 % to 12 %")]
    public void A_part_of_a_group_says_what_so_many_inspections_allow_to_be_said(int inspections, int failures, string says) =>
        GroupEvidence.Between(inspections, failures, Thresholds.Shipped).ShouldBe(says);

    /// <summary>The curve is drawn from left to right, its highest point is 1, and it spreads over what the quantiles say.</summary>
    [Theory]
    [InlineData(0, 0)]
    [InlineData(0, 30)]
    [InlineData(1, 2)]
    [InlineData(30, 30)]
    [InlineData(12, 5_000)]
    public void The_curve_of_a_group_is_a_curve(int failures, int inspections)
    {
        var group = GroupHistory.Of(inspections, failures, 12).Value;
        var curve = GroupEvidence.Curve(group, Thresholds.Shipped);
        curve.Length.ShouldBeGreaterThan(20);
        curve.Select(it => it.Rate).ShouldBeInOrder();
        curve.Max(it => it.Height).ShouldBe(1);
        curve.ShouldAllBe(it => it.Height >= 0 && it.Rate > 0 && it.Rate <= 1);
        curve[^1].Rate.ShouldBeGreaterThanOrEqualTo(Math.Min(1, 2 * Thresholds.Shipped.EvidenceTarget) - 1e-12);
        var evidence = GroupEvidence.Of(group, Thresholds.Shipped);
        curve.Count(it => it.Rate >= evidence.Low && it.Rate <= evidence.High).ShouldBeGreaterThan(2);
    }

    [Fact]
    public void All_insulated_class_II_that_is_only_looked_at_is_carried_by_its_visual()
    {
        var answer = Ask.One(
            "interval",
            """{"id":"i","standard":"uk-cop-5","testDate":"2026-01-31","place":"office","use":"portable","class":"II","allInsulated":true,"policy":{"classII":"lookOnly"}}"""
        );
        answer.GetProperty("combinedMonths").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        answer.GetProperty("due").GetString().ShouldBe(answer.GetProperty("visualDue").GetString());
    }

    [Fact]
    public void A_medical_value_near_its_limit_halves_the_interval()
    {
        var answer = Ask.One(
            "interval",
            """{"id":"i","standard":"iec-62353-2014","place":"medical","testDate":"2026-01-31","appliedPartType":"CF","history":[{"date":"2026-01-31","verdict":"pass","nearLimit":true}]}"""
        );
        answer.GetProperty("combinedMonths").GetDouble().ShouldBe(6);
    }

    [Theory]
    [InlineData("as-nzs-3760-2022", "\"place\":\"office\"", 60, 12)] // the visual is the appliances table's
    [InlineData("as-nzs-3760-2022", "\"place\":\"construction\"", 3, 1)]
    [InlineData("as-nzs-3760-2022", "\"place\":\"workshop\",\"kind\":\"portableRcd\"", 12, 3)] // trip time, not the place's six months
    [InlineData("as-nzs-3760-2022", "\"place\":\"construction\",\"kind\":\"portableRcd\"", 3, 1)]
    [InlineData("iec-62353-2014", "\"place\":\"medical\",\"appliedPartType\":\"BF\"", 12, 12)]
    [InlineData("iec-62353-2014", "\"place\":\"medical\",\"appliedPartType\":\"BF\",\"class\":\"II\"", 24, 24)]
    [InlineData("iec-62353-2014", "\"place\":\"medical\"", 36, 36)]
    [InlineData("iec-62353-2014", "\"place\":\"medical\",\"patientContact\":true", 24, 24)]
    [InlineData("iec-62353-2014", "\"place\":\"medical\",\"lifeSupporting\":true", 12, 12)]
    [InlineData("iec-62353-2014", "\"place\":\"medical\",\"appliedPartType\":\"CF\",\"makerMonths\":18", 18, 18)] // the maker first
    [InlineData(
        "iec-62353-2014",
        "\"place\":\"medical\",\"makerMonths\":18,\"history\":[{\"date\":\"2026-01-01\",\"verdict\":\"pass\",\"rising\":true}]",
        6,
        6
    )] // 9, then the next shorter step
    [InlineData(
        "iec-62353-2014",
        "\"place\":\"medical\",\"history\":[{\"date\":\"2026-01-01\",\"verdict\":\"pass\",\"nearLimit\":true}]",
        12,
        12
    )] // 36 to 12
    public void Standards_have_their_own_months(string standard, string facts, double combined, double visual)
    {
        var answer = Ask.One("interval", $$"""{"standard":"{{standard}}","testDate":"2026-03-31",{{facts}}}""");
        (answer.GetProperty("combinedMonths").GetDouble(), answer.GetProperty("visualMonths").GetDouble()).ShouldBe((combined, visual));
    }

    [Fact]
    public void A_repaired_defibrillator_is_due_now_and_performs_every_six_months()
    {
        var answer = Ask.One(
            "interval",
            """{"standard":"iec-62353-2014","place":"medical","testDate":"2026-03-31","appliedPartType":"CF","defibrillator":true,"repaired":true}"""
        );
        answer.GetProperty("performanceMonths").GetDouble().ShouldBe(6);
        answer.GetProperty("due").GetString().ShouldBe("2026-03-31");
        answer
            .GetProperty("because")
            .EnumerateArray()
            .Select(line => line.GetString())
            .ShouldContain("repaired: tested before it returns to use, always");
    }
}
