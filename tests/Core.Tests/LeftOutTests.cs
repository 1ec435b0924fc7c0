using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>What was left out, taken off or made void is told, whatever the verdict; and two tests of one day are one.</summary>
public class LeftOutTests
{
    private const string Kettle =
        """{"kind":"appliance","class":"I","heating":true,"ratedPowerW":2200,"plugFuseA":13,"cord":{"lengthM":2,"conductorMm2":1.25}}""";

    private static string Pump(string cord) =>
        $$"""{"kind":"medicalDevice","class":"I","cord":{{cord}},"appliedParts":[{"name":"drip","type":"CF"}]}""";

    private static JsonElement Assess(string standard, string item, string readings) =>
        Ask.Assess(
            $$"""{"standard":"{{standard}}","item":{{item}},"visual":"pass","readings":[{{readings}},{"test":"functional","ok":true}]}"""
        );

    private static string[] Lines(JsonElement answer, string name) =>
        [.. answer.GetProperty(name).EnumerateArray().Select(line => line.ToString())];

    private static string Equipment(string more = "") => $$"""{"test":"leakage","kind":"equipment","value":30,"unit":"uA"{{more}}}""";

    [Fact]
    public void Half_the_conditions_are_named_and_the_verdict_stays()
    {
        var answer = Assess(
            "iec-62353-2014",
            Pump("""{"lengthM":2,"conductorMm2":1}"""),
            $$"""
            {"test":"earthContinuity","value":0.08,"unit":"ohm"},{{Equipment()}},{{Equipment(""","polarity":"reversed" """)}},
            {"test":"leakage","kind":"appliedPart","appliedPart":"drip","value":5,"unit":"uA"}
            """
        );
        answer.GetProperty("verdict").GetString().ShouldBe("pass");
        var left = answer.GetProperty("notRead").EnumerateArray().ShouldHaveSingleItem();
        left.GetProperty("kind").GetString().ShouldBe("appliedPart");
        left.GetProperty("detail").GetString().ShouldBe("Applied part leakage drip, reversed polarity");
    }

    [Theory]
    [InlineData("", 2)] // neither polarity: what is required is missing, and named there alone
    [InlineData(""","method":"alternative" """, 0)] // it has no polarity
    public void What_is_missing_is_not_said_twice(string method, int missing)
    {
        var leakage = method.Length == 0 ? "" : $",{Equipment(method)}";
        var answer = Assess(
            "iec-62353-2014",
            """{"kind":"medicalDevice","class":"I","cord":{"lengthM":2,"conductorMm2":1}}""",
            $$"""{"test":"earthContinuity","value":0.08,"unit":"ohm"}{{leakage}}"""
        );
        answer.GetProperty("missing").GetArrayLength().ShouldBe(missing, answer.GetProperty("missing").ToString());
        answer.GetProperty("notRead").GetArrayLength().ShouldBe(0, answer.GetProperty("notRead").ToString());
    }

    [Theory]
    [InlineData("deviceAlone", "", true)]
    [InlineData("deviceAlone", """,{"test":"earthContinuity","part":"cordAlone","value":0.05,"unit":"ohm"}""", false)]
    [InlineData("deviceWithCord", "", false)]
    public void A_detachable_lead_that_nobody_measured_is_named(string part, string more, bool isTold)
    {
        var earth = $$"""{"test":"earthContinuity","part":"{{part}}","value":0.05,"unit":"ohm"}""";
        string[] Of(string detachable) =>
            Lines(
                Assess(
                    "iec-62353-2014",
                    Pump($$"""{"lengthM":2,"conductorMm2":1,"detachable":{{detachable}}}"""),
                    $"{earth}{more},{Equipment()}"
                ),
                "advice"
            );
        Of("true").Any(line => line.Contains("detachable lead was left out")).ShouldBe(isTold);
        Of("false").ShouldNotContain(line => line.Contains("detachable lead was left out"));
    }

    [Theory]
    [InlineData("0.3", "0.21", true)]
    [InlineData("0.25", "0.2", true)] // above the limit of 0.13 ohm
    [InlineData("0.2", "0.13", false)]
    [InlineData("0.2", "0.05", false)]
    public void A_null_as_large_as_a_bad_earth_is_told(string value, string taken, bool isTold) =>
        Lines(
                Assess(
                    "uk-cop-5",
                    Kettle,
                    $$"""{"test":"earthContinuity","value":{{value}},"unit":"ohm","nullOhm":{{taken}}},{"test":"insulation","value":200,"unit":"Mohm"}"""
                ),
                "advice"
            )
            .Any(line => line.Contains("test lead’s own"))
            .ShouldBe(isTold);

    [Theory]
    [InlineData("probe", "0.5", "", true)]
    [InlineData("other", "0.5", "", true)]
    [InlineData("probe", "5", "", false)] // it had not failed
    public void A_failure_that_was_made_void_is_told(string cause, string value, string more, bool isTold)
    {
        var answer = Assess(
            "uk-cop-5",
            Kettle,
            $$"""
            {"test":"earthContinuity","value":0.08,"unit":"ohm"},
            {"test":"insulation","value":{{value}},"unit":"Mohm","void":"it had slipped","cause":"{{cause}}"{{more}}},
            {"test":"insulation","value":200,"unit":"Mohm"}
            """
        );
        answer.GetProperty("verdict").GetString().ShouldBe("pass");
        Lines(answer, "advice").Any(line => line.Contains("was read and failed; made void: it had slipped")).ShouldBe(isTold);
    }

    [Theory]
    [InlineData(2, false)]
    [InlineData(1, true)]
    public void The_daily_clip_is_told_only_where_it_was_not_measured_twice_afterwards(int after, bool isTold)
    {
        const string good = """,{"test":"earthContinuity","value":0.08,"unit":"ohm"}""";
        var answer = Assess(
            "uk-cop-5",
            Kettle,
            $$"""
            {"test":"earthContinuity","value":25,"qualifier":">","unit":"ohm","void":"clip was off","cause":"clip"}
            {{string.Concat(Enumerable.Repeat(good, after))}},{"test":"insulation","value":200,"unit":"Mohm"}
            """
        );
        (Lines(answer, "advice").Length > 0).ShouldBe(isTold);
    }

    [Fact]
    public void A_cause_without_a_word_is_refused() =>
        Assess("uk-cop-5", Kettle, """{"test":"insulation","value":0.5,"unit":"Mohm","cause":"probe"}""")
            .GetProperty("error")
            .GetProperty("path")
            .GetString()
            .ShouldBe("readings[0].cause");

    private static Interval Next(params PastTest[] history) =>
        IntervalRule.Of(
            new()
            {
                Pack = PackLibrary.Find("uk-cop-5")!,
                Place = Place.Office,
                Class = ProtectionClass.I,
                TestDate = history[^1].Date,
                History = [.. history],
            }
        );

    private static PastTest On(string date, Verdict verdict = Verdict.Pass) => new(DateOnly.Parse(date, null), verdict);

    /// <summary>An office has 24 months: half of it less 30 days lie between two tests that are two.</summary>
    [Theory]
    [InlineData("2025-03-01", "2026-03-01", true)]
    [InlineData("2025-03-31", "2026-03-01", true)] // 12 months less 30 days
    [InlineData("2025-04-02", "2026-03-01", false)]
    [InlineData("2026-03-01", "2026-03-01", false)]
    public void Two_clean_tests_make_it_longer_only_where_they_lie_apart(string first, string second, bool isLonger) =>
        Next(On(first), On(second)).Because.Any(line => line.StartsWith("last two tests clean")).ShouldBe(isLonger);

    [Fact]
    public void Of_tests_that_are_one_the_worst_counts()
    {
        Next(On("2024-03-01"), On("2026-03-01", Verdict.Fail), On("2026-03-02"))
            .Because.ShouldContain(line => line.StartsWith("a failure"));
        Next(On("2024-03-01"), On("2026-03-01") with { IsClean = false }, On("2026-03-02"))
            .Because.ShouldNotContain(line => line.StartsWith("last two tests clean"));
    }

    [Fact]
    public void Testing_more_often_never_makes_an_interval_longer()
    {
        var dice = new Random(27);
        for (var n = 0; n < 500; n++)
        {
            var days = Enumerable.Range(0, dice.Next(1, 6)).Select(_ => dice.Next(1500)).Order().ToArray();
            PastTest At(int day) => new(new DateOnly(2020, 1, 1).AddDays(day), Verdict.Pass);
            var once = days.Select(At).ToArray();
            var twice = days.SelectMany(day => new[] { At(day), At(day) }).ToArray();
            Next(twice).Combined.ShouldBe(Next(once).Combined, string.Join(' ', days));
        }
    }
}
