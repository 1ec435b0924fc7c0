using System.Text.Json;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>What a person may add to a comparison, and what a plan says to whoever works by it.</summary>
public class JudgingTests
{
    private const string Insulated = """{"test":"insulation","value":20,"unit":"Mohm"},""";

    [Theory]
    [InlineData("lead", "confirmed twice", null)]
    [InlineData("technician", "confirmed twice", "readings[0].override.role")]
    [InlineData("lead", " ", "readings[0].override.reason")]
    public void Only_a_lead_overrides_and_only_with_a_reason(string role, string reason, string? refused)
    {
        var answer = Ask.Assess(
            Ask.Kettle(
                $$"""{"test":"earthContinuity","value":0.2,"unit":"ohm","override":{"status":"pass","by":"M. Tarrant","role":"{{role}}","reason":"{{reason}}"} },{{Insulated}}"""
            )
        );
        if (refused is not null)
        {
            answer.GetProperty("error").GetProperty("path").GetString().ShouldBe(refused);
            return;
        }
        answer.GetProperty("verdict").GetString().ShouldBe("pass");
        answer.GetProperty("results")[0].GetProperty("overridden").GetProperty("from").GetString().ShouldBe("fail");
        answer.GetProperty("results")[0].GetProperty("working").EnumerateArray().Last().GetString()!.ShouldContain("M. Tarrant");
        answer.GetProperty("advice")[0].GetString()!.ShouldContain("overridden");
    }

    [Fact]
    public void Medical_leakage_is_never_overridden() =>
        Ask.Assess(
                """
                {"standard":"iec-62353-2014","item":{"kind":"medicalDevice"},"readings":[{"test":"leakage","kind":"equipment","value":600,"unit":"uA","override":{"status":"pass","by":"x","role":"lead","reason":"y"}}]}
                """
            )
            .GetProperty("error")
            .GetProperty("message")
            .GetString()!
            .ShouldContain("never overridden");

    [Theory]
    [InlineData("""{"test":"defibSync","value":41,"unit":"ms"}""", "pass", 0.060)]
    [InlineData("""{"test":"defibSync","value":41,"unit":"ms","trigger":"external"}""", "fail", 0.025)]
    [InlineData("""{"test":"defibSync","value":41,"unit":"ms","makerLimit":40}""", "fail", 0.040)] // the maker's figure is tighter
    [InlineData("""{"test":"defibCharge","value":12,"unit":"s","makerLimit":20}""", "pass", 15)] // and here it is not
    [InlineData("""{"test":"ecgAmplitude","value":1.11,"unit":"mV","setMv":1}""", "fail", 1e-4)]
    [InlineData("""{"test":"padPath","value":0.5,"unit":"ohm"}""", "pass", 0.5)]
    public void A_defibrillator_is_held_to_the_tighter_figure(string reading, string status, double limit)
    {
        var judged = Ask.Assess($$"""{"standard":"iec-62353-2014","item":{"kind":"medicalDevice"},"readings":[{{reading}}]}""")
            .GetProperty("results")[0];
        judged.GetProperty("status").GetString().ShouldBe(status);
        judged.GetProperty("limit").GetDouble().ShouldBe(limit, 1e-9);
    }

    [Theory]
    [InlineData("pass", "", "noDeficiency")]
    [InlineData("pass", ""","nullOhm":0.02,"accuracy":{"percent":1,"digits":1,"resolution":0.1}""", "noDirectRisk")] // advice: too coarse a meter
    [InlineData("fail", "", "outOfUse")]
    public void The_evaluation_is_proposed_from_what_was_found(string visual, string more, string proposal)
    {
        var answer = Ask.Assess(
            $$"""
            {"standard":"iec-62353-2014","visual":"{{visual}}","item":{"kind":"medicalDevice","class":"I"},"readings":[{"test":"earthContinuity","value":0.1,"unit":"ohm"{{more}}},
             {"test":"leakage","kind":"equipment","value":100,"unit":"uA"},{"test":"leakage","kind":"equipment","value":100,"unit":"uA","polarity":"reversed"},{"test":"functional","ok":true}]}
            """
        );
        answer.GetProperty("evaluation").GetProperty("proposal").GetString().ShouldBe(proposal);
    }

    [Fact]
    public void What_fails_again_after_repair_does_not_meet_the_requirements() =>
        Ask.Assess(
                """
                {"standard":"iec-62353-2014","visual":"pass","scope":"afterRepair","item":{"kind":"medicalDevice","class":"I"},"readings":[{"test":"earthContinuity","value":0.4,"unit":"ohm"}],
                 "history":[{"date":"2026-01-01","readings":[{"test":"earthContinuity","value":0.5,"unit":"ohm"}]}],"testDate":"2026-02-01"}
                """
            )
            .GetProperty("evaluation")
            .GetProperty("proposal")
            .GetString()
            .ShouldBe("doesNotMeet");

    [Fact]
    public void Every_named_earth_part_wants_a_reading_and_the_worst_is_marked()
    {
        const string item = ""","earthedParts":["lid","base","handle"]""";
        var answer = Ask.Assess(
            Ask.Kettle(
                """{"test":"earthContinuity","value":0.05,"unit":"ohm","point":"base"},{"test":"earthContinuity","value":0.11,"unit":"ohm","point":"lid"},"""
                    + Insulated,
                item
            )
        );
        answer.GetProperty("verdict").GetString().ShouldBe("incomplete");
        answer.GetProperty("missing")[0].GetProperty("detail").GetString()!.ShouldContain("handle");
        answer.GetProperty("results")[1].GetProperty("worst").GetBoolean().ShouldBeTrue();
        answer.GetProperty("results")[0].TryGetProperty("worst", out _).ShouldBeFalse();
        Plan("uk-cop-5", $$"""{"kind":"appliance"{{item}}}""")
            .Count(step => step.GetProperty("test").GetString() == "earthContinuity")
            .ShouldBe(3);
    }

    [Fact]
    public void An_RCD_is_guarded_like_everything_else() =>
        Ask.Assess(
                """
                {"standard":"uk-cop-5","decisionRule":"guarded","item":{"kind":"portableRcd","rcd":{"ratedResidualMa":30}},
                 "readings":[{"test":"rcdTrip","multiple":1,"phaseDeg":0,"tripped":true,"value":198,"unit":"ms","accuracy":{"percent":2,"digits":0,"resolution":1}}]}
                """
            )
            .GetProperty("results")[0]
            .GetProperty("status")
            .GetString()
            .ShouldBe("undecided");

    private static JsonElement[] Plan(string standard, string item, string more = "") =>
        [.. Ask.One("plan", $$"""{"standard":"{{standard}}","item":{{item}}{{more}}}""").GetProperty("steps").EnumerateArray()];

    [Fact]
    public void Whoever_has_a_meter_is_told_what_cannot_be_measured()
    {
        var steps = Plan("uk-cop-5", """{"kind":"appliance","class":"I"}""", ""","meter":{"school":"meter"}""");
        steps
            .Single(step => step.GetProperty("test").GetString() == "leakage")
            .GetProperty("notMeasured")
            .GetString()!
            .ShouldContain("beyond");
        steps
            .Single(step => step.GetProperty("test").GetString() == "insulation")
            .GetProperty("terminals")
            .GetString()!
            .ShouldContain("Link L and N");
    }

    [Theory]
    [InlineData("""{"test":"earthContinuity","resolution":0.1,"unit":"ohm"}""", true)] // a tenth of 0.3 is 0.03
    [InlineData("""{"test":"earthContinuity","resolution":0.01,"unit":"ohm"}""", false)]
    [InlineData("""{"test":"earthContinuity","resolution":0.01,"unit":"ohm","testCurrentA":0.1}""", true)]
    public void An_unsuitable_meter_is_flagged_before_it_is_used(string function, bool flagged) =>
        Plan("iec-62353-2014", """{"kind":"medicalDevice"}""", $$""","meter":{"school":"applianceTester","functions":[{{function}}]}""")
            .First(step => step.GetProperty("test").GetString() == "earthContinuity")
            .TryGetProperty("unsuitable", out _)
            .ShouldBe(flagged);

    [Theory]
    [InlineData("""{"medicalInsulation":"yes"}""", 3)]
    [InlineData("""{"medicalInsulation":"no"}""", 0)]
    public void Medical_insulation_is_the_clients_choice(string policy, int insulations) =>
        Plan(
                "iec-62353-2014",
                """{"kind":"medicalDevice","appliedParts":[{"name":"a","type":"BF"},{"name":"b","type":"CF"}]}""",
                $$""","policy":{{policy}}"""
            )
            .Count(step => step.GetProperty("test").GetString() == "insulation")
            .ShouldBe(insulations);

    [Fact]
    public void A_defibrillator_adds_its_performance_behind_the_electrical_steps()
    {
        var steps = Plan(
            "iec-62353-2014",
            """{"kind":"medicalDevice","appliedParts":[{"name":"pads","type":"BF"}],"startUpS":20,"defibrillator":{"settingsJ":[10,200],"synchronises":true}}"""
        );
        string.Join(' ', steps.Select(step => step.GetProperty("test").GetString()))
            .ShouldBe(
                "visual earthContinuity leakage leakage leakage leakage padPath defibEnergy defibEnergy defibCharge defibSync functional"
            );
        steps
            .Where(step => step.GetProperty("test").GetString() == "defibEnergy")
            .Select(step => (step.GetProperty("setJ").GetDouble(), step.GetProperty("limit").GetDouble()))
            .ShouldBe([(10, 3), (200, 30)]);
        steps[2].GetProperty("seconds").GetInt32().ShouldBe(25);
        steps[2]
            .GetProperty("needs")
            .EnumerateArray()
            .Select(it => it.GetString())
            .ShouldContain("Running for 20 s before the reading counts");
        steps.Select(step => step.GetProperty("key").GetString()).ShouldBeUnique();
    }

    [Theory]
    [InlineData("""{"kind":"appliance","outlets":1e9}""", "item.outlets")]
    [InlineData("""{"kind":"appliance","phases":2}""", "item.phases")]
    [InlineData("""{"kind":"appliance","class":"II","earthedParts":["case"]}""", "item.earthedParts")]
    [InlineData("""{"kind":"appliance","defibrillator":{"settingsJ":[10]}}""", "item.defibrillator")]
    public void An_item_that_cannot_be_is_refused_where_it_stands(string item, string path) =>
        Ask.One("plan", $$"""{"standard":"uk-cop-5","item":{{item}}}""")
            .GetProperty("error")
            .GetProperty("path")
            .GetString()
            .ShouldBe(path);
}
