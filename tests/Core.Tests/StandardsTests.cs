using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

public class StandardsTests
{
    private const string Seventh = """
        {"id":"house-7","version":"1","title":"Seventh","shortName":"7th","edition":"2026","country":"Nowhere","scope":"appliances","nominalMainsV":200,"mainsHz":50,
         "limits":[{"id":"earth","what":"Earth","test":"earthContinuity","comparator":"<","unit":"mohm","value":250,"clause":"7.1"}],
         "series":[{"test":"earthContinuity","item":{"classes":["I"]}}]}
        """;

    [Fact]
    public void Every_shipped_pack_loads_and_names_its_clauses()
    {
        PackLibrary.All.Select(pack => pack.Id).ShouldBe(PackLibrary.Ids);
        PackLibrary.All.SelectMany(pack => pack.Limits).ShouldAllBe(rule => rule.Clause.Length > 3);
    }

    [Fact]
    public void A_seventh_pack_needs_nothing_but_its_file()
    {
        var pack = PackReader.Read(Seventh, _ => null).Value;
        var kettle = new Item { Kind = ItemKind.Appliance };
        Planner
            .Of(pack, kettle, Policy.Usual)
            .Steps.Select(step => step.Test)
            .ShouldBe([Test.Visual, Test.Fuse, Test.EarthContinuity, Test.Functional]);
        var facts = new InspectionFacts
        {
            Pack = pack,
            Item = kettle,
            Look = Look.Pass,
            Readings = [new Reading.EarthContinuity(new(), new(0.25, Unit.Ohm)), new Reading.Functional(true)],
        };
        Assessment.Of(facts).Verdict.ShouldBe(Verdict.Fail); // below is strict
        Assessment.Of(facts with { Readings = [facts.Readings[1]] }).Missing.ShouldHaveSingleItem().Test.ShouldBe(Test.EarthContinuity);
    }

    [Theory]
    [InlineData("\"nominalMainsV\":200,", "", "nominalMainsV")]
    [InlineData("\"value\":250", "\"value\":-1", "limits[0].value")]
    [InlineData("\"value\":250", "\"value\":250,\"noTripWithin\":2", "limits[0].value")]
    [InlineData("\"mohm\"", "\"furlong\"", "limits[0].unit")]
    [InlineData("\"classes\":[\"I\"]", "\"classes\":[\"IV\"]", "series[0].item.classes")]
    [InlineData("\"value\":250", "\"value\":250,\"value\":251", "limits[0].value")]
    [InlineData("\"value\":250", "\"value\":250,\"colour\":1", "limits[0].colour")]
    [InlineData("\"value\":250,", "\"value\":\"250\",", "limits[0].value")]
    [InlineData("\"clause\":\"7.1\"", "\"remark\":\"none\"", "limits[0].clause")]
    [InlineData("\"item\":{\"classes\":[\"I\"]}", "\"item\":{\"powerW\":{}}", "series[0].item.powerW")]
    [InlineData("\"item\":{\"classes\":[\"I\"]}", "\"item\":{\"classes\":[]}", "series[0].item.classes")]
    [InlineData(
        "\"clause\":\"7.1\"}]",
        "\"clause\":\"7.1\"},{\"id\":\"twin\",\"what\":\"Twin\",\"test\":\"earthContinuity\",\"comparator\":\"<=\",\"unit\":\"ohm\",\"value\":1,\"clause\":\"7.2\"}]",
        "limits[1]"
    )]
    [InlineData("\"value\":250", "\"value\":250,\"plusConductor\":true", "limits[0]")]
    public void A_pack_that_contradicts_itself_does_not_load(string good, string bad, string path) =>
        PackReader.Read(Seventh.Replace(good, bad), _ => null).Fault.ShouldNotBeNull().Path.ShouldBe(path);

    [Theory]
    [InlineData(ProtectionClass.I, "visual fuse earthContinuity insulation leakage functional")]
    [InlineData(ProtectionClass.INoAccessibleMetal, "visual fuse insulation leakage functional")]
    [InlineData(ProtectionClass.II, "visual fuse insulation leakage functional")]
    [InlineData(ProtectionClass.III, "visual insulation functional")]
    [InlineData(ProtectionClass.Undecided, "visual fuse earthContinuity insulation insulation leakage leakage functional")]
    public void The_plan_follows_the_class(ProtectionClass itemClass, string tests)
    {
        var plan = Planner.Of(PackLibrary.Find("uk-cop-5")!, new() { Kind = ItemKind.Appliance, Class = itemClass }, Policy.Usual);
        string.Join(' ', plan.Steps.Select(step => Words.Of(step.Test))).ShouldBe(tests);
        plan.Steps.Select(step => step.Key).ShouldBeUnique();
    }
}
