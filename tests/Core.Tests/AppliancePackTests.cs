using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>The appliance packs side by side: one item, three standards, three answers. Judging one country's equipment by another's
/// limits is the classic mistake.</summary>
public class AppliancePackTests
{
    private static System.Text.Json.JsonElement Reel(string standard, double length, double size, string readings) =>
        Ask.Assess(
            $$"""
            {"id":"r","standard":"{{standard}}","visual":"pass","item":{"kind":"extensionLead","cord":{"lengthM":{{length}},"conductorMm2":{{size}} } },"readings":[{{readings}}]}
            """
        );

    [Theory]
    [InlineData("uk-cop-5", 20, 1.5, 0.366)] // 0.1 + 20 x 0.0133
    [InlineData("as-nzs-3760-2022", 20, 1.5, 1.0)] // flat
    [InlineData("en-50699-2020", 5, 1.5, 0.3)]
    [InlineData("en-50699-2020", 5.01, 1.5, 0.4)] // a stretch begun counts whole
    [InlineData("en-50699-2020", 12.5, 1.5, 0.4)] // exactly one
    [InlineData("en-50699-2020", 200, 1.5, 1.0)] // never above
    [InlineData("en-50699-2020", 20, 2.5, 0.2596)] // 0.1 + 20 x 0.00798
    [InlineData("uk-cop-5", 20, 1.4, 0.366)] // between two sizes the thicker allows less
    [InlineData("uk-cop-5", 10, 12, 0.1165)] // beyond the table by area: 0.1 + 10 x 0.0033 x 6 / 12
    public void Earth_limits_follow_length_and_size(string standard, double length, double size, double limit) =>
        Reel(standard, length, size, """{"test":"earthContinuity","value":0.01,"unit":"ohm"}""")
            .GetProperty("results")[0]
            .GetProperty("limit")
            .GetDouble()
            .ShouldBe(limit, 1e-9);

    [Fact]
    public void A_warm_conductor_is_allowed_more() =>
        Ask.Assess(
                """{"id":"w","standard":"uk-cop-5","item":{"kind":"cordSet","cord":{"lengthM":10,"conductorMm2":1,"temperatureC":45}},"readings":[{"test":"earthContinuity","value":0.1,"unit":"ohm"}]}"""
            )
            .GetProperty("results")[0]
            .GetProperty("limit")
            .GetDouble()
            .ShouldBe(0.1 + 10 * 0.0195 * 1.1, 1e-9);

    [Theory]
    [InlineData("uk-cop-5", "handheld", 0, 0.75)]
    [InlineData("uk-cop-5", "stationary", 0, 3.5)]
    [InlineData("uk-cop-5", "stationary", 500, 0.75)] // heating wins over "other", and has its floor
    [InlineData("uk-cop-5", "portable", 9000, 5)] // and its ceiling
    [InlineData("as-nzs-3760-2022", "handheld", 0, 5)]
    [InlineData("en-50699-2020", "portable", 3500, 3.5)] // "above" is strict
    [InlineData("en-50699-2020", "portable", 12000, 10)]
    public void The_protective_conductor_current_follows_use_and_kilowatts(
        string standard,
        string use,
        double heatingWatts,
        double milliampere
    )
    {
        var heating = heatingWatts > 0 ? $$""","heating":true,"ratedPowerW":{{heatingWatts}}""" : "";
        Ask.Assess(
                $$"""{"id":"c","standard":"{{standard}}","item":{"kind":"appliance","class":"I","use":"{{use}}"{{heating}}},"readings":[{"test":"leakage","kind":"protectiveConductor","value":0.1,"unit":"mA"}]}"""
            )
            .GetProperty("results")[0]
            .GetProperty("limit")
            .GetDouble()
            .ShouldBe(milliampere / 1000, 1e-12);
    }

    [Theory]
    [InlineData("uk-cop-5", 30, 1, 200)]
    [InlineData("uk-cop-5", 30, 5, 40)]
    [InlineData("uk-cop-5", 100, 1, 300)]
    [InlineData("as-nzs-3760-2022", 10, 1, 40)]
    [InlineData("as-nzs-3760-2022", 30, 1, 300)]
    [InlineData("en-50699-2020", 10, 1, 300)]
    public void Trip_times_follow_the_rating(string standard, double rating, double multiple, double milliseconds)
    {
        string Trip(double ms) =>
            $$"""{"id":"t","standard":"{{standard}}","visual":"pass","item":{"kind":"portableRcd","rcd":{"ratedResidualMa":{{rating}} } },"readings":[{"test":"rcdTrip","multiple":{{multiple}},"value":{{ms}},"unit":"ms"}]}""";
        Ask.Assess(Trip(milliseconds)).GetProperty("results")[0].GetProperty("status").GetString().ShouldBe("pass");
        Ask.Assess(Trip(milliseconds + 1)).GetProperty("results")[0].GetProperty("status").GetString().ShouldBe("fail");
        Ask.Assess(Trip(milliseconds).Replace($"\"value\":{milliseconds},\"unit\":\"ms\"", "\"tripped\":false"))
            .GetProperty("verdict")
            .GetString()
            .ShouldBe("fail");
    }

    [Theory]
    [InlineData("uk-cop-5", "insulation")] // either will do, the insulation is named
    [InlineData("as-nzs-3760-2022", "insulation")]
    [InlineData("en-50699-2020", "insulation leakage")] // both
    public void What_a_verdict_needs_differs(string standard, string missing)
    {
        var answer = Ask.Assess(
            $$"""{"id":"n","standard":"{{standard}}","visual":"pass","item":{"kind":"appliance","class":"I"},"readings":[{"test":"earthContinuity","value":0.05,"unit":"ohm"},{"test":"functional","ok":true}]}"""
        );
        string.Join(' ', answer.GetProperty("missing").EnumerateArray().Select(step => step.GetProperty("test").GetString()))
            .ShouldBe(missing);
    }

    [Theory]
    [InlineData("formalVisual", "", "pass")]
    [InlineData("newItem", "", "pass")]
    [InlineData("newItem", ""","policy":{"newItem":"full"}""", "incomplete")]
    [InlineData("afterRepair", "", "incomplete")]
    [InlineData("faultFinding", "", "incomplete")] // findings, never a pass
    public void The_scope_says_what_is_needed(string scope, string policy, string verdict) =>
        Ask.Assess(Ask.Kettle("", more: $$""","scope":"{{scope}}"{{policy}}""")).GetProperty("verdict").GetString().ShouldBe(verdict);

    [Fact]
    public void A_borrowed_limit_counts_for_itself_and_for_no_step_of_the_main_standard()
    {
        var answer = Ask.Assess(
            Ask.Kettle(
                """{"test":"earthContinuity","value":0.9,"unit":"ohm","standard":"as-nzs-3760-2022"},{"test":"insulation","value":20,"unit":"Mohm"},"""
            )
        );
        answer.GetProperty("results")[0].GetProperty("clause").GetString().ShouldStartWith("as-nzs-3760-2022");
        answer.GetProperty("results")[0].GetProperty("status").GetString().ShouldBe("pass");
        answer.GetProperty("missing")[0].GetProperty("test").GetString().ShouldBe("earthContinuity");
    }

    [Fact]
    public void A_flexing_joint_and_a_doubtful_class_are_told()
    {
        var flexing = Ask.Assess(
            Ask.Kettle(
                """{"test":"earthContinuity","value":0.03,"unit":"ohm","point":"case"},{"test":"earthContinuity","value":0.11,"unit":"ohm","point":"case"},{"test":"insulation","value":20,"unit":"Mohm"},"""
            )
        );
        flexing.GetProperty("verdict").GetString().ShouldBe("pass");
        flexing.GetProperty("advice").EnumerateArray().ShouldContain(line => line.GetString()!.Contains("a joint is failing"));
        var doubtful = Ask.Assess(
            """{"id":"d","standard":"uk-cop-5","visual":"pass","item":{"kind":"appliance","class":"II"},"readings":[{"test":"earthContinuity","value":0.1,"unit":"ohm"}]}"""
        );
        doubtful.GetProperty("results")[0].GetProperty("status").GetString().ShouldBe("undecided");
    }

    [Theory]
    [InlineData(2.0, "pass")]
    [InlineData(2.1, "undecided")] // 2.1 +- (5 % + 2 x 0.01) reaches beyond 2.2
    [InlineData(2.3, "undecided")]
    [InlineData(2.4, "fail")]
    public void A_guarded_decision_leaves_room_for_the_instrument(double milliampere, string status)
    {
        var reading =
            $$"""{"test":"leakage","kind":"protectiveConductor","value":{{milliampere}},"unit":"mA","accuracy":{"percent":5,"digits":2,"resolution":0.01} },""";
        Ask.Assess(Ask.Kettle(reading, ""","heating":true,"ratedPowerW":2933.3333333333335""", ""","decisionRule":"guarded" """))
            .GetProperty("results")[0]
            .GetProperty("status")
            .GetString()
            .ShouldBe(status);
    }
}
