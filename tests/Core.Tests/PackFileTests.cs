using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>Packs as files: the published schema says what the reader takes, and house limits only ever tighten.</summary>
public class PackFileTests
{
    [Fact]
    public async Task Shipped_packs_follow_the_schema_that_is_published()
    {
        var schema = await NJsonSchema.JsonSchema.FromJsonAsync(PackLibrary.Schema, TestContext.Current.CancellationToken);
        foreach (var id in PackLibrary.Ids)
            schema.Validate(PackLibrary.Source(id)!).ShouldBeEmpty(id);
    }

    /// <summary>What the reader refuses for its shape, the schema refuses too.</summary>
    [Theory]
    [InlineData("\"test\": \"insulation\"", "\"test\": \"insolation\"")]
    [InlineData("\"unit\": \"Mohm\"", "\"unit\": \"MOhm\"")]
    [InlineData("\"comparator\": \">=\"", "\"comparator\": \"=>\"")]
    [InlineData("\"classes\": [\"I\"", "\"classes\": [\"IV\"")]
    [InlineData("\"scope\": \"appliances\"", "\"scope\": \"toys\"")]
    [InlineData("\"mainsHz\": 50", "\"mainsHz\": \"50\"")]
    [InlineData("\"edition\": \"5th edition\",", "")]
    [InlineData("\"edition\":", "\"edition2\": \"x\", \"edition\":")]
    public async Task Schema_and_reader_refuse_alike(string good, string bad)
    {
        var source = PackLibrary.Source("uk-cop-5")!;
        source.ShouldContain(good);
        var broken = source.Replace(good, bad, StringComparison.Ordinal);
        var schema = await NJsonSchema.JsonSchema.FromJsonAsync(PackLibrary.Schema, TestContext.Current.CancellationToken);
        schema.Validate(broken).ShouldNotBeEmpty();
        var fault = PackReader.Read(broken, PackLibrary.SharedTable).Fault.ShouldNotBeNull();
        fault.Message.ShouldNotContain("Osierwand");
        fault.Message.ShouldNotContain(".NET");
    }

    [Theory]
    [InlineData("current-portable", 0.5, "mA", null)]
    [InlineData("current-portable", 0.75, "mA", "value")] // the standard's own
    [InlineData("current-portable", 1, "mA", "value")]
    [InlineData("insulation-I", 5, "Mohm", null)]
    [InlineData("insulation-I", 0.5, "Mohm", "value")]
    [InlineData("current-heating", 4, "mA", null)] // caps what the row gives
    [InlineData("current-heating", 6, "mA", "value")]
    [InlineData("earth-flex", 0.08, "ohm", null)]
    [InlineData("earth-flex", 0.08, "mA", "unit")]
    [InlineData("rcd-half", 1, "s", "limit")]
    [InlineData("nothing", 1, "s", "limit")]
    public void A_house_limit_tightens_or_is_refused_with_its_place(string rule, double value, string unit, string? refused)
    {
        var made = HouseLimits.Apply(PackLibrary.Find("uk-cop-5")!, [new(rule, value, Unit.Find(unit)!, "because")]);
        made.Fault?.Path.ShouldBe($"[0].{refused}");
        (made.Fault is null).ShouldBe(refused is null);
    }

    [Fact]
    public void A_house_limit_replaces_the_plain_value_and_keeps_the_allowance()
    {
        var answer = Ask.Assess(
            Ask.Kettle(
                """{"test":"earthContinuity","value":0.115,"unit":"ohm"},{"test":"insulation","value":20,"unit":"Mohm"},""",
                more: ""","house":[{"limit":"earth-flex","value":0.08,"unit":"ohm","reason":"new flexes are better"}]"""
            )
        );
        var judged = answer.GetProperty("results")[0];
        judged.GetProperty("limit").GetDouble().ShouldBe(0.08 + 1.5 * 0.0195, 1e-9); // 0.129 by the standard, where 0.115 would have passed
        judged.GetProperty("status").GetString().ShouldBe("fail");
        judged.GetProperty("clause").GetString()!.ShouldEndWith("house limit");
        judged
            .GetProperty("working")[0]
            .GetString()
            .ShouldBe(
                "house limit not more than 0.109 Ω = 0.08 Ω + 1.5 m × 19.5 mΩ/m (1 mm²), tighter than the standard's 0.129 Ω: new flexes are better"
            );
    }

    [Fact]
    public void Where_the_standard_is_already_stricter_it_stands()
    {
        var tightened = HouseLimits.Apply(PackLibrary.Find("uk-cop-5")!, [new("current-heating", 4, Unit.Milliampere, "house")]).Value;
        ResolvedLimit Of(double watts) =>
            tightened.LimitFor(
                new()
                {
                    Kind = ItemKind.Appliance,
                    Heating = true,
                    RatedPower = new(watts),
                },
                new Conditions.Leakage(LeakageKind.ProtectiveConductor)
            )!;
        (Of(2000).Value!.Value.Si, Of(2000).Standard).ShouldBe((0.0015, null));
        (Of(6000).Value!.Value.Si, Of(6000).Standard!.Value.Si).ShouldBe((0.004, 0.0045));
        tightened.FullVersion.ShouldBe($"{PackLibrary.Find("uk-cop-5")!.Version}+house.1");
    }
}
