using System.Text.Json;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>Worked examples: each could be redone with a pencil from the limits and the arithmetic.</summary>
public class AssessTests
{
    private const string Earth = """{"test":"earthContinuity","value":0.05,"unit":"ohm"},""";
    private const string Insulation = """{"test":"insulation","value":20,"unit":"Mohm"},""";

    [Theory]
    [InlineData("""{"test":"earthContinuity","value":0.129,"unit":"ohm"},""", "pass", 0.12925)] // 0.1 + 1.5 x 0.0195
    [InlineData("""{"test":"earthContinuity","value":0.12925,"unit":"ohm"},""", "pass", 0.12925)] // equality passes
    [InlineData("""{"test":"earthContinuity","value":0.13,"unit":"ohm"},""", "fail", 0.12925)]
    [InlineData("""{"test":"earthContinuity","value":0.17,"nullOhm":0.05,"unit":"ohm"},""", "pass", 0.12925)]
    [InlineData("""{"test":"earthContinuity","value":30,"nullOhm":0.06,"unit":"mohm"},""", "undecided", 0.12925)] // -0.03: stale null
    [InlineData("""{"test":"earthContinuity","value":0.04,"nullOhm":0.06,"unit":"ohm"},""", "pass", 0.12925)] // -0.02 is nothing
    [InlineData("""{"test":"earthContinuity","value":0.15,"unit":"ohm","path":"loop"},""", "pass", 0.1585)] // plus 1.5 x 0.0195
    public void Earth_is_judged_after_the_null_with_the_flex_allowed(string reading, string status, double limit)
    {
        var first = Ask.Assess(Ask.Kettle(reading + Insulation)).GetProperty("results")[0];
        first.GetProperty("status").GetString().ShouldBe(status);
        first.GetProperty("limit").GetDouble().ShouldBe(limit, 1e-9);
    }

    [Theory]
    [InlineData(">", 2, "pass")] // more than enough
    [InlineData(">", 0.5, "undecided")] // says nothing about 1 Mohm
    [InlineData("<", 0.5, "fail")]
    [InlineData("<", 5, "undecided")]
    public void An_off_scale_reading_is_a_bound_and_not_a_value(string sign, double value, string status)
    {
        var answer = Ask.Assess(Ask.Kettle(Earth + $$"""{"test":"insulation","value":{{value}},"unit":"Mohm","qualifier":"{{sign}}"},"""));
        answer.GetProperty("results")[1].GetProperty("status").GetString().ShouldBe(status);
        answer.GetProperty("results")[1].GetProperty("use").ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public void Leakage_is_scaled_to_nominal_mains_and_heating_is_allowed_its_kilowatts()
    {
        var answer = Ask.Assess(
            Ask.Kettle(
                Earth + """{"test":"leakage","kind":"protectiveConductor","value":1.7,"unit":"mA","mainsVoltageV":240},""",
                ""","heating":true,"ratedPowerW":2400"""
            )
        );
        var leakage = answer.GetProperty("results")[1];
        leakage.GetProperty("judgedValue").GetDouble().ShouldBe(1.7e-3 * 230 / 240, 1e-9);
        leakage.GetProperty("limit").GetDouble().ShouldBe(1.8e-3, 1e-12);
        answer.GetProperty("verdict").GetString().ShouldBe("pass");
        leakage.GetProperty("working").EnumerateArray().Select(line => line.GetString()).ShouldContain("1.7 mA × 230 V / 240 V = 1.63 mA");
    }

    [Fact]
    public void A_reading_that_was_no_reading_leaves_its_step_open()
    {
        var off = Ask.Assess(Ask.Kettle(Earth + """{"test":"insulation","value":500,"unit":"Mohm","switchedOn":false},"""));
        off.GetProperty("verdict").GetString().ShouldBe("incomplete");
        off.GetProperty("missing").GetArrayLength().ShouldBe(0);
        off.GetProperty("unsettled")[0].GetProperty("test").GetString().ShouldBe("insulation");

        var dead = Ask.Assess(Ask.Kettle(Earth + Insulation, ""","mainsSwitch":"electronic" """));
        dead.GetProperty("results")[1].GetProperty("status").GetString().ShouldBe("pass");
        dead.GetProperty("verdict").GetString().ShouldBe("incomplete");
    }

    [Fact]
    public void A_lead_needs_every_outlet()
    {
        var answer = Ask.Assess(
            """
            {"id":"l","standard":"uk-cop-5","visual":"pass","item":{"kind":"extensionLead","outlets":3,"cord":{"lengthM":20,"conductorMm2":1.25}},"readings":[
             {"test":"earthContinuity","value":0.3,"unit":"ohm","point":"1"},{"test":"earthContinuity","value":0.31,"unit":"ohm","point":"2"},{"test":"earthContinuity","value":0.3,"unit":"ohm","point":"2"},
             {"test":"insulation","value":200,"unit":"Mohm"},{"test":"polarity","ok":true},{"test":"polarity","ok":true},{"test":"polarity","ok":true},{"test":"functional","ok":true}]}
            """
        );
        answer.GetProperty("verdict").GetString().ShouldBe("incomplete");
        answer.GetProperty("missing").GetArrayLength().ShouldBe(1);
        answer.GetProperty("missing")[0].GetProperty("detail").GetString().ShouldBe("outlet 3 of 3");
        answer.GetProperty("advice").EnumerateArray().ShouldContain(line => line.GetString()!.Contains("30 mA RCD"));
    }

    [Fact]
    public void An_undecided_class_keeps_the_stricter_limit_and_asks_for_both_classes()
    {
        var answer = Ask.Assess(
            """
            {"id":"u","standard":"uk-cop-5","visual":"pass","item":{"kind":"appliance","class":"undecided","cord":{"lengthM":2,"conductorMm2":1}},
             "readings":[{"test":"insulation","value":1.5,"unit":"Mohm"},{"test":"functional","ok":true}]}
            """
        );
        answer.GetProperty("results")[0].GetProperty("limit").GetDouble().ShouldBe(2e6);
        answer.GetProperty("verdict").GetString().ShouldBe("fail");
        answer.GetProperty("missing").EnumerateArray().Select(step => step.GetProperty("test").GetString()).ShouldBe(["earthContinuity"]);
    }

    [Theory]
    [InlineData("""{"test":"insulation","value":1,"unit":"mA"},""", "readings[0].unit")]
    [InlineData("""{"test":"insulation","value":-1,"unit":"Mohm"},""", "readings[0].value")]
    [InlineData("""{"test":"insulation","value":1,"unit":"Mohm","nullOhm":0.1},""", "readings[0].nullOhm")]
    [InlineData("""{"test":"leakage","kind":"touch","value":1,"unit":"mA","neutral":"open","earth":"open"},""", "readings[0].earth")]
    [InlineData("""{"value":1,"unit":"ohm","test":"earthContinuity","colour":"red"},""", "readings[0].colour")]
    [InlineData("""{"test":"leakage","kind":"patient","value":1,"unit":"uA"},""", "readings[0].kind")]
    [InlineData("""{"test":"earthContinuity","value":1e999,"unit":"ohm"},""", "readings[0].value")]
    [InlineData("""{"test":"rcdTrip","tripped":false},""", "readings[0].test")]
    public void What_is_not_understood_is_named_by_its_place(string reading, string path) =>
        Ask.Assess(Ask.Kettle(reading)).GetProperty("error").GetProperty("path").GetString().ShouldBe(path);

    [Fact]
    public void The_first_fault_in_the_document_is_the_one_reported()
    {
        var error = Ask.Assess("""{"id":7,"readings":[{"test":"nothing"}],"item":{"kind":"teapot"}}""").GetProperty("error");
        error.GetProperty("path").GetString().ShouldBe("id");
        Ask.Assess("""{"id":"x","readings":[{"test":"polarity","ok":true,"unit":"ohm"}],"item":{"kind":"teapot"}}""")
            .GetProperty("error")
            .GetProperty("path")
            .GetString()
            .ShouldBe("readings[0].unit");
        Ask.Assess("""{"id":"x","item":{"kind":"appliance","class":"internal"},"standard":"none"}""")
            .GetProperty("error")
            .GetProperty("path")
            .GetString()
            .ShouldBe("item.class");
    }
}
