using System.Reflection;
using System.Text.Json;
using CsCheck;
using NJsonSchema;
using Osierwand.Core.Installation;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>The figures that are no limit of a test: every one stands in a table, is read from it, and the house may only tighten
/// it.</summary>
public class ThresholdTests
{
    public static TheoryData<string, string> Rows() =>
        new(ThresholdLibrary.All.SelectMany(table => table.Thresholds.Select(row => (table.Id, row.Id))));

    [Fact]
    public async Task Shipped_tables_follow_the_schema_that_is_published()
    {
        var schema = await JsonSchema.FromJsonAsync(ThresholdTable.Schema(), TestContext.Current.CancellationToken);
        ThresholdLibrary.All.Count.ShouldBe(3);
        foreach (var table in ThresholdLibrary.All)
        {
            schema.Validate(ThresholdLibrary.Source(table.Id)!).ShouldBeEmpty(table.Id);
            table.Check.ShouldNotBeEmpty();
            table.Thresholds.ShouldAllBe(row => row.Clause.Length > 0 && row.What.Length > 0);
        }
        var broken = ThresholdLibrary
            .Source(Thresholds.Id)!
            .Replace("\"unit\": \"ohm\"", "\"unit\": \"furlong\"", StringComparison.Ordinal);
        schema.Validate(broken).ShouldNotBeEmpty();
    }

    [Theory]
    [InlineData("\"clause\": \"c\"", "\"clause\": null")]
    [InlineData(", \"clause\": \"c\"", "")]
    [InlineData("\"clause\": \"c\"", "\"clause\": \"c\", \"colour\": \"red\"")]
    [InlineData("\"clause\": \"c\"", "\"clause\": \"c\", \"clause\": \"d\"")]
    [InlineData("\"unit\": \"ohm\"", "\"unit\": \"Ohm\"")]
    [InlineData("\"tightens\": \"down\"", "\"tightens\": \"sideways\"")]
    [InlineData("\"value\": 1", "\"value\": \"1\"")]
    public void A_table_that_says_too_little_or_too_much_does_not_load(string good, string bad)
    {
        const string table =
            """{"id":"t","version":"1","title":"T","edition":"1st","country":"all","check":"c","thresholds":[{"id": "a", "group": "g", "what": "w", "value": 1, "unit": "ohm", "tightens": "down", "clause": "c"}]}""";
        ThresholdTable.Read(table).Fault.ShouldBeNull();
        ThresholdTable.Read(table.Replace(good, bad, StringComparison.Ordinal)).Fault.ShouldNotBeNull();
    }

    /// <summary>A row that nothing reads would be a promise on the screen that the program does not keep.</summary>
    [Fact]
    public void Every_row_of_the_common_rules_is_read_into_a_property_of_its_own()
    {
        var properties = typeof(Thresholds)
            .GetProperties(BindingFlags.Public | BindingFlags.Instance)
            .Where(property => property.Name != nameof(Thresholds.Table))
            .ToArray();
        var plain = properties.ToDictionary(property => property.Name, property => property.GetValue(Thresholds.Shipped));
        var moved = new HashSet<string>();
        foreach (var row in Thresholds.Shipped.Table.Thresholds)
        {
            var table = Thresholds.Shipped.Table;
            var other = new Thresholds(table with { Thresholds = table.Thresholds.Replace(row, row with { Value = row.Value * 3 }) });
            moved
                .Add(properties.Single(property => !Equals(property.GetValue(other), plain[property.Name])).Name)
                .ShouldBeTrue($"{row.Id} shares its property");
        }
        moved.Count.ShouldBe(properties.Length);
    }

    [Theory]
    [MemberData(nameof(Rows))]
    public void The_house_may_tighten_and_never_loosen(string tableId, string rowId)
    {
        var row = ThresholdLibrary.Find(tableId)!.Find(rowId)!;
        Fault? Refused(double times) => row.Refusal(new(rowId, row.Value * times, row.Unit, "a house of its own"));
        if (row.Tightens == Tightening.Never)
        {
            Refused(0.9)!.Path.ShouldBe("limit");
            Refused(1.1)!.Path.ShouldBe("limit");
            return;
        }
        var (stricter, looser) = row.Tightens == Tightening.Down ? (0.9, 1.1) : (1.1, 0.9);
        Refused(stricter).ShouldBeNull();
        Refused(looser)!.Message.ShouldContain("loosen");
        Refused(1)!.Message.ShouldContain("must be stricter");
        row.Refusal(new(rowId, row.Value, row.Unit, " "))!.Path.ShouldBe("reason");
        row.Refusal(new(rowId, row.Value * stricter, row.Unit == Unit.Volt ? Unit.Ohm : Unit.Volt, "r"))!.Path.ShouldBe("unit");
        row.Refusal(new(rowId, double.NaN, row.Unit, "r"))!.Path.ShouldBe("value");
    }

    private static JsonElement Judged(string reading, string limit, double value, string unit, string item = "") =>
        Ask.Assess(
            Ask.Kettle(
                reading + ",",
                item,
                $$""","house":[{"limit":"{{limit}}","value":{{value.ToString(System.Globalization.CultureInfo.InvariantCulture)}},"unit":"{{unit}}","reason":"our house"}]"""
            )
        );

    private static string Status(JsonElement answer) => answer.GetProperty("results")[0].GetProperty("status").GetString()!;

    [Theory]
    [InlineData(0.5, "pass")]
    [InlineData(0.4, "pass")]
    public void Without_a_house_figure_nothing_changes(double milliamperes, string status) =>
        Status(
                Ask.Assess(
                    Ask.Kettle(
                        $$"""{"test":"leakage","kind":"protectiveConductor","value":{{milliamperes.ToString(System.Globalization.CultureInfo.InvariantCulture)}},"unit":"mA","mainsVoltageV":200},"""
                    )
                )
            )
            .ShouldBe(status);

    [Fact]
    public void A_narrower_mains_window_leaves_a_reading_undecided_and_says_its_own_window()
    {
        var answer = Judged(
            """{"test":"leakage","kind":"protectiveConductor","value":0.4,"unit":"mA","mainsVoltageV":200}""",
            "mains-lowest",
            90,
            "%"
        );
        Status(answer).ShouldBe("undecided");
        answer.GetProperty("advice")[0].GetString()!.ShouldContain("200 V lies outside 90 % to 110 % of 230 V");
    }

    [Fact]
    public void A_stricter_null_makes_a_small_overshoot_stale() =>
        Status(Judged("""{"test":"earthContinuity","value":0.02,"nullOhm":0.035,"unit":"ohm"}""", "null-overshoot", 0.01, "ohm"))
            .ShouldBe("undecided");

    [Fact]
    public void A_house_counts_values_as_near_from_where_it_says()
    {
        const string reading = """{"test":"insulation","value":1.2,"unit":"Mohm"}"""; // 83 % of its limit used
        Judged(reading, "near-limit", 80, "%").GetProperty("results")[0].GetProperty("nearLimit").GetBoolean().ShouldBeTrue();
        Judged(reading, "near-limit", 85, "%").GetProperty("results")[0].GetProperty("nearLimit").GetBoolean().ShouldBeFalse();
    }

    [Theory]
    [InlineData("flex-spread", 0.01, "ohm", true)]
    [InlineData("flex-spread", 0.04, "ohm", false)]
    public void A_joint_is_failing_from_the_houses_spread_on(string limit, double value, string unit, bool told) =>
        Judged(
                """{"test":"earthContinuity","value":0.05,"unit":"ohm"},{"test":"earthContinuity","value":0.08,"unit":"ohm"}""",
                limit,
                value,
                unit
            )
            .GetProperty("advice")
            .EnumerateArray()
            .Any(it => it.GetString()!.Contains("a joint is failing", StringComparison.Ordinal))
            .ShouldBe(told);

    [Fact]
    public void A_loosened_rule_is_refused_with_its_place()
    {
        var error = Judged("""{"test":"insulation","value":5,"unit":"Mohm"}""", "mains-highest", 120, "%").GetProperty("error");
        error.GetProperty("path").GetString().ShouldBe("house[0].value");
        error.GetProperty("message").GetString().ShouldBe("120 % would loosen 110 %; a house figure may only tighten");
    }

    [Fact]
    public void Medical_months_and_the_evidence_target_are_the_houses_where_it_is_stricter()
    {
        var table = HouseLimits
            .Apply(
                Thresholds.Shipped.Table,
                [new("medical-usual", 18, Unit.Month, "short lives"), new("evidence-target", 1, Unit.Percent, "fewer failures")],
                revision: 4
            )
            .Value;
        table.FullVersion.ShouldBe($"{Thresholds.Shipped.Table.Version}+house.4");
        var rules = new Thresholds(table);
        var months = IntervalRule
            .Of(
                new()
                {
                    Pack = PackLibrary.Find("iec-62353-2014")! with { Thresholds = rules },
                    Place = Equipment.Place.Medical,
                    TestDate = new(2026, 3, 1),
                    PatientContact = true,
                }
            )
            .Combined;
        months.ShouldBe(new Period(18));
        var group = GroupHistory.Of(250, 8, 12).Value;
        GroupEvidence.Of(group, Thresholds.Shipped).Suggestion.ShouldBe(Suggestion.Keep);
        GroupEvidence.Of(group, rules).Suggestion.ShouldBe(Suggestion.Shorter);
    }

    [Theory]
    [InlineData("""{"thermal":{"differenceK":2}}""", "grade", "possible", "probable", "thermal-similar-probable", 1.5, "K")]
    [InlineData("""{"insulation":{"value":1.5,"unit":"Mohm"}}""", "status", "pass", "fail", "circuit-insulation", 2, "Mohm")]
    [InlineData("""{"loop":{"zsOhm":1.3,"breakerA":32,"breakerType":"B"}}""", "status", "pass", "fail", "loop-supply", 80, "%")]
    public void An_installation_check_is_judged_by_its_table_and_names_it(
        string request,
        string property,
        string shipped,
        string tightened,
        string limit,
        double value,
        string unit
    )
    {
        var plain = Ask.One("installation", request);
        plain.GetProperty(property).GetString().ShouldBe(shipped);
        plain.GetProperty("standard").GetString().ShouldBe(InstallationLimits.Id);
        plain.GetProperty("version").GetString().ShouldBe("1.0.0");
        plain.GetProperty("clause").GetString()!.ShouldNotBeEmpty();
        var house =
            $$"""{"house":[{"limit":"{{limit}}","value":{{value.ToString(System.Globalization.CultureInfo.InvariantCulture)}},"unit":"{{unit}}","reason":"r"}],{{request[1..]}}""";
        var strict = Ask.One("installation", house);
        strict.GetProperty(property).GetString().ShouldBe(tightened);
        strict.GetProperty("version").GetString().ShouldBe("1.0.0+house.1");
    }

    [Fact]
    public void Comparisons_favour_equality_by_no_more_than_the_noise_of_arithmetic()
    {
        Comparison.AtMost(0.1 + 0.2, 0.3).ShouldBeTrue();
        Comparison.Below(0.3, 0.1 + 0.2).ShouldBeFalse();
        Comparison.Above(0.1 + 0.2, 0.3).ShouldBeFalse();
        Gen.Select(Gen.Double[1e-9, 1e9], Gen.Double[0.5, 2])
            .Sample(
                (limit, share) =>
                {
                    var value = limit * share;
                    Comparison.AtMost(value, limit).ShouldBe(!Comparison.Above(value, limit));
                    Comparison.AtLeast(value, limit).ShouldBe(!Comparison.Below(value, limit));
                    if (Math.Abs(share - 1) > 1e-8)
                        Comparison.AtMost(value, limit).ShouldBe(share < 1);
                }
            );
    }
}
