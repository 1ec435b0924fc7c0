using CsCheck;
using Osierwand.Core.Kit;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>Kit before it is used: the look at leads and probes, the daily check and its drift, and what bars a thing.</summary>
public class KitTests
{
    private static readonly Thresholds Rules = Thresholds.Shipped;
    private static readonly DateOnly Today = new(2026, 3, 2);
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private static readonly StatedValue[] Box =
    [
        new("earth", Test.EarthContinuity, "Earth path", 0.2, "ohm", 0.02),
        new("insulation", Test.Insulation, "Insulation", 1, "Mohm", 0.05),
        new("leakage", Test.Leakage, "Leakage", 0.5, "mA", 0.03),
        new("trip", Test.RcdTrip, "Trip time", 30, "ms", 1),
    ];

    private static readonly SetOf<Test> Tester = SetOf<Test>.Of(Test.EarthContinuity, Test.Insulation, Test.Leakage);

    private static Dictionary<string, string> Read(string earth = "0.2", string insulation = "1.0", string leakage = "0.5") =>
        new()
        {
            ["earth"] = earth,
            ["insulation"] = insulation,
            ["leakage"] = leakage,
        };

    private static KitAnswer[] AllGood(KitKind kind, double? tip = 2) =>
        [.. BeforeUse.PointsOf(kind).Select(it => new KitAnswer(it.Point, true, TipMm: it.TakesLength ? tip : null))];

    private static KitAnswer[] But(KitKind kind, KitPoint point, string words = "worn") =>
        [.. AllGood(kind).Select(it => it.Point == point ? it with { IsGood = false, Words = words } : it)];

    [Theory]
    [InlineData(KitKind.Probes)]
    [InlineData(KitKind.TestLead)]
    [InlineData(KitKind.Clip)]
    [InlineData(KitKind.VoltageIndicator)]
    [InlineData(KitKind.ProvingUnit)]
    [InlineData(KitKind.Adapter)]
    public void One_failed_point_bars_it_and_only_what_matters_near_a_supply_may_be_kept_for_dead_work(KitKind kind)
    {
        BeforeUse.Judge(kind, AllGood(kind), true, Rules).Value.Fitness.ShouldBe(KitFitness.Fit);
        foreach (var point in BeforeUse.PointsOf(kind))
        {
            var isIndicator = kind is KitKind.VoltageIndicator or KitKind.ProvingUnit;
            BeforeUse.Judge(kind, But(kind, point.Point), false, Rules).Value.Fitness.ShouldBe(KitFitness.Barred);
            BeforeUse
                .Judge(kind, But(kind, point.Point), true, Rules)
                .Value.Fitness.ShouldBe(point.IsForLiveWork && !isIndicator ? KitFitness.DeadWorkOnly : KitFitness.Barred);
            BeforeUse.Judge(kind, But(kind, point.Point, " "), false, Rules).Fault.ShouldNotBeNull("words are asked for");
            var without = AllGood(kind).Where(it => it.Point != point.Point).ToArray();
            BeforeUse.Judge(kind, without, false, Rules).Fault!.Message.ShouldStartWith("Not answered");
        }
    }

    [Theory]
    [InlineData(2.0, KitFitness.Fit, 0)]
    [InlineData(2.1, KitFitness.Fit, 1)]
    [InlineData(4.0, KitFitness.Fit, 1)]
    [InlineData(4.1, KitFitness.Barred, 1)]
    [InlineData(19.0, KitFitness.Barred, 1)]
    public void A_bare_tip_is_measured(double mm, KitFitness fitness, int lines)
    {
        var look = BeforeUse.Judge(KitKind.Probes, AllGood(KitKind.Probes, mm), false, Rules).Value;
        (look.Fitness, look.Lines.Length).ShouldBe((fitness, lines));
    }

    [Fact]
    public void A_sprung_sheath_needs_no_length_and_a_tip_without_either_is_not_answered()
    {
        var sprung = AllGood(KitKind.Probes, null).Select(it => it.Point == KitPoint.Tip ? it with { IsSprung = true } : it).ToArray();
        BeforeUse.Judge(KitKind.Probes, sprung, false, Rules).Value.Fitness.ShouldBe(KitFitness.Fit);
        foreach (var tip in new double?[] { null, -1, double.NaN, 900 })
            BeforeUse.Judge(KitKind.Probes, AllGood(KitKind.Probes, tip), false, Rules).Fault!.Path.ShouldBe("tipMm");
    }

    [Fact]
    public void An_instrument_and_a_check_box_are_checked_by_figures_alone()
    {
        BeforeUse.PointsOf(KitKind.Instrument).ShouldBeEmpty();
        BeforeUse.Judge(KitKind.CheckBox, [], false, Rules).Fault.ShouldNotBeNull();
        BeforeUse.Judge(KitKind.Clip, [.. AllGood(KitKind.Clip), new(KitPoint.Works, true)], false, Rules).Fault.ShouldNotBeNull();
    }

    [Theory]
    [InlineData("0.2", true, false)]
    [InlineData("0.215", true, true)]
    [InlineData("0.22", true, true)]
    [InlineData("0.221", false, false)]
    [InlineData("0.18", true, true)]
    [InlineData("0.179", false, false)]
    public void A_line_is_good_up_to_and_with_its_tolerance(string earth, bool isGood, bool isNear)
    {
        var result = DailyCheck.Judge(Box, Tester, Read(earth), Rules).Value;
        result.Lines.Length.ShouldBe(3, "nobody asks a tester for a trip time that it does not measure");
        (result.IsGood, result.Lines[0].IsGood, result.Lines[0].IsNear).ShouldBe((isGood, isGood, isNear));
        if (!isGood)
            result.Trouble.ShouldContain($"Earth path read {earth} Ω");
    }

    [Fact]
    public void A_check_is_whole_or_none()
    {
        DailyCheck.Judge(Box, Tester, Read(leakage: " "), Rules).Fault!.Path.ShouldBe("leakage");
        DailyCheck.Judge(Box, Tester, Read(insulation: ">500"), Rules).Fault!.Message.ShouldContain("off the scale");
        DailyCheck.Judge(Box, Tester, Read(earth: "about 0.2"), Rules).Fault!.Path.ShouldBe("earth");
        DailyCheck.Judge(Box, SetOf<Test>.Of(Test.DefibEnergy), Read(), Rules).Fault!.Path.ShouldBe("checkBox");
        // Typed in another unit it is the same reading.
        DailyCheck.Judge(Box, Tester, Read(insulation: "1000k", leakage: "500u"), Rules).Value.IsGood.ShouldBeTrue();
    }

    [Fact]
    public void A_line_that_moves_steadily_outward_is_warned_of_before_it_is_out()
    {
        (DateOnly, double)[] Moving(double from, double perDay, int days) =>
            [.. Enumerable.Range(0, days).Select(day => (Today.AddDays(day - days + 1), from + perDay * day))];

        var drift = DailyCheck.DriftOf("earth", "Earth path", Moving(0.1, 0.02, 20), Rules);
        drift.Reaches.ShouldBe(Today.AddDays(26));
        drift.Warning!.ShouldContain("drifts");
        DailyCheck.DriftOf("earth", "Earth path", Moving(-0.1, -0.02, 20), Rules).Reaches.ShouldBe(Today.AddDays(26));
        DailyCheck.DriftOf("earth", "Earth path", Moving(0.1, 0.002, 20), Rules).Warning.ShouldBeNull("nobody looks a year ahead");
        DailyCheck.DriftOf("earth", "Earth path", Moving(0.1, 0.02, 4), Rules).Reaches.ShouldBeNull("four points are no line");
        DailyCheck.DriftOf("earth", "Earth path", Moving(-0.5, 0.01, 20), Rules).Reaches.ShouldBeNull("it moves to the middle");
        DailyCheck.DriftOf("earth", "Earth path", [(Today, 0.8)], Rules).Warning!.ShouldContain("80 %");
        DailyCheck.DriftOf("earth", "Earth path", [], Rules).Warning.ShouldBeNull();
    }

    [Fact]
    public void Drift_never_throws_and_never_lies_in_the_past() =>
        Gen.Double[-3, 3]
            .Array[0, 40]
            .Sample(deviations =>
            {
                var drift = DailyCheck.DriftOf("k", "Line", [.. deviations.Select((it, day) => (Today.AddDays(day / 2), it))], Rules);
                if (drift.Reaches is { } day)
                    day.ShouldBeGreaterThanOrEqualTo(Today.AddDays((deviations.Length - 1) / 2));
            });

    private static KitFacts Facts(KitKind kind = KitKind.Instrument) => new(kind, new(2026, 6, 1), false, null, null, []);

    private static string? Checked(string earth) =>
        DailyCheck.Judge(Box, Tester, Read(earth), Rules).Value is { IsGood: false } bad ? bad.Trouble : null;

    [Fact]
    public void What_bars_a_thing_says_why()
    {
        string? Trouble(KitFacts it) => KitStanding.Of(it, Now, Today, Rules).Trouble;
        Trouble(Facts()).ShouldBeNull();
        Trouble(Facts() with { CalibrationDue = Today }).ShouldBeNull("until and including the day");
        Trouble(Facts() with { CalibrationDue = Today.AddDays(-1) })!.ShouldContain("2026-03-01");
        Trouble(Facts() with { CalibrationDue = null })!.ShouldContain("No calibration");
        Trouble(Facts(KitKind.Probes) with { CalibrationDue = null }).ShouldBeNull();
        Trouble(Facts() with { IsRetired = true }).ShouldNotBeNull();
        Trouble(Facts() with { LastCheck = (Now.AddDays(-40), Checked("0.3")) })!.ShouldContain("Earth path read 0.3 Ω");
        Trouble(Facts() with { LastCheck = (Now.AddDays(-40), Checked("0.2")) }).ShouldBeNull();
        Trouble(Facts(KitKind.Probes) with { LastLook = (Now, new(KitFitness.Barred, ["Tape on it"])) })!.ShouldContain("Tape on it");
    }

    [Fact]
    public void What_may_be_used_tells_what_is_worth_telling()
    {
        KitStanding Of(KitFacts it) => KitStanding.Of(it, Now, Today, Rules);
        Of(Facts()).Warnings.ShouldHaveSingleItem().ShouldContain("Not checked today");
        Of(Facts() with { LastCheck = (Now.AddHours(-15), Checked("0.2")) }).Warnings.ShouldBeEmpty();
        Of(Facts() with { LastCheck = (Now.AddHours(-17), Checked("0.2")) }).Warnings.Length.ShouldBe(1, "a day's check is over");
        Of(Facts() with { CalibrationDue = Today.AddDays(30) }).Warnings[0].ShouldContain("due on");
        var probes = Of(Facts(KitKind.Probes) with { LastLook = (Now.AddHours(-1), new(KitFitness.DeadWorkOnly, ["no mark"])) });
        (probes.Fitness, probes.IsLookedAt, probes.Trouble).ShouldBe((KitFitness.DeadWorkOnly, true, null));
        Of(Facts(KitKind.Probes)).IsLookedAt.ShouldBeFalse();
    }

    [Theory]
    [InlineData(0.04, 0.06, false)]
    [InlineData(0.04, 0.061, true)]
    [InlineData(0.06, 0.03, true)]
    public void A_repeated_null_tells_of_a_stale_one(double before, double after, bool differs) =>
        new TestLeadNull(new(after), Now).Differs(new(new(before), Now.AddDays(-1)), Rules).ShouldBe(differs);

    [Theory]
    [InlineData("", "earth", 0.2, "ohm", 0.02, "name")]
    [InlineData("a", "Earth", 0, "ohm", 0.02, "value")]
    [InlineData("a", "Earth", 0.2, "ohms", 0.02, "unit")]
    [InlineData("a", "Earth", 0.2, "ohm", 0.2, "tolerance")]
    [InlineData("a", "Earth", 0.2, "ohm", -1, "tolerance")]
    public void A_stated_value_is_sensible(string key, string name, double value, string unit, double tolerance, string path) =>
        new StatedValue(key, Test.EarthContinuity, name, value, unit, tolerance).Refusal()!.Path.ShouldBe(path);
}
