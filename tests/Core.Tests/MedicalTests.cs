using System.Text.Json;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>The medical packs: each value by its own method, kind and condition, and the plans that ask for them.</summary>
public class MedicalTests
{
    private static JsonElement Monitor(
        string readings,
        string standard = "iec-62353-2014",
        string item = "",
        string parts = """[{"name":"ECG","type":"CF","connections":5},{"name":"SpO2","type":"BF"}]"""
    ) =>
        Ask.Assess(
            $$"""
            {"id":"m","standard":"{{standard}}","visual":"pass","item":{"kind":"medicalDevice","class":"I","cord":{"lengthM":2.5,"conductorMm2":1,"detachable":true},"appliedParts":{{parts}}{{item}}},
             "readings":[{{readings}}{"test":"functional","ok":true}]}
            """
        );

    [Theory]
    [InlineData("""{"test":"earthContinuity","value":0.25,"unit":"ohm"},""", "pass", 0.3)]
    [InlineData("""{"test":"earthContinuity","value":0.25,"unit":"ohm","part":"deviceAlone"},""", "fail", 0.2)]
    [InlineData("""{"test":"earthContinuity","value":0.09,"unit":"ohm","part":"cordAlone"},""", "pass", 0.1)]
    [InlineData("""{"test":"leakage","kind":"equipment","value":600,"unit":"uA","method":"differential"},""", "fail", 500e-6)]
    [InlineData("""{"test":"leakage","kind":"equipment","value":600,"unit":"uA","method":"alternative"},""", "pass", 1000e-6)]
    [InlineData("""{"test":"leakage","kind":"appliedPart","appliedPart":"ECG","value":60,"unit":"uA"},""", "fail", 50e-6)]
    [InlineData(
        """{"test":"leakage","kind":"appliedPart","appliedPart":"ECG","value":60,"unit":"uA","method":"alternative"},""",
        "pass",
        100e-6
    )]
    [InlineData("""{"test":"leakage","kind":"appliedPart","appliedPart":"SpO2","value":60,"unit":"uA"},""", "pass", 5000e-6)]
    [InlineData("""{"test":"insulation","between":"mainsToAppliedPart","appliedPart":"ECG","value":60,"unit":"Mohm"},""", "fail", 70e6)]
    [InlineData("""{"test":"insulation","between":"mainsToAppliedPart","appliedPart":"SpO2","value":2,"unit":"Mohm"},""", "pass", 2e6)]
    public void A_value_is_judged_by_the_limit_of_its_own_kind(string reading, string status, double limit)
    {
        var judged = Monitor(reading).GetProperty("results")[0];
        judged.GetProperty("status").GetString().ShouldBe(status);
        judged.GetProperty("limit").GetDouble().ShouldBe(limit, limit * 1e-9);
    }

    [Theory]
    [InlineData("iec-62353-2014", """{"test":"leakage","kind":"equipment","value":1,"unit":"uA","current":"dc"},""")] // d.c. belongs to another standard
    [InlineData("iec-62353-2014", """{"test":"leakage","kind":"touch","value":1,"unit":"uA"},""")]
    [InlineData("nfpa-99-2012", """{"test":"leakage","kind":"touch","value":1,"unit":"uA","polarity":"reversed"},""")]
    [InlineData("nfpa-99-2012", """{"test":"leakage","kind":"touch","value":1,"unit":"uA","method":"alternative"},""")]
    public void What_a_pack_has_no_limit_for_is_noted_and_satisfies_nothing(string standard, string reading)
    {
        var answer = Monitor(reading, standard);
        answer.GetProperty("results")[0].GetProperty("status").GetString().ShouldBe("pass");
        answer.GetProperty("results")[0].GetProperty("limit").ValueKind.ShouldBe(JsonValueKind.Null);
        answer.GetProperty("advice").EnumerateArray().ShouldContain(line => line.GetString()!.Contains("has no limit"));
        answer.GetProperty("verdict").GetString().ShouldBe("incomplete");
    }

    [Fact]
    public void Every_part_and_both_polarities_are_asked_for()
    {
        var missing = Monitor(
                """{"test":"earthContinuity","value":0.1,"unit":"ohm"},{"test":"leakage","kind":"equipment","value":90,"unit":"uA"},{"test":"leakage","kind":"appliedPart","appliedPart":"ECG","value":3,"unit":"uA"},"""
            )
            .GetProperty("missing");
        missing
            .EnumerateArray()
            .Select(step => step.GetProperty("detail").GetString())
            .ShouldBe(["Equipment leakage, reversed polarity", "Applied part leakage, SpO2"]);
    }

    [Fact]
    public void Single_fault_has_its_own_limit_and_leakage_is_scaled_to_a_tenth_above_nominal()
    {
        var answer = Monitor(
            """{"test":"leakage","kind":"patient","appliedPart":"ECG","value":10,"unit":"uA","mainsVoltageV":230},{"test":"leakage","kind":"patient","appliedPart":"ECG","value":40,"unit":"uA","earth":"open"},{"test":"leakage","kind":"patient","appliedPart":"ECG","value":10,"unit":"uA","current":"dc"},""",
            "iec-60601-1-2012"
        );
        var results = answer.GetProperty("results");
        results[0].GetProperty("judgedValue").GetDouble().ShouldBe(11e-6, 1e-12);
        results[0].GetProperty("status").GetString().ShouldBe("fail");
        results[1].GetProperty("limit").GetDouble().ShouldBe(50e-6, 1e-12);
        results[2].GetProperty("limit").GetDouble().ShouldBe(10e-6, 1e-12);
    }

    [Fact]
    public void Device_off_is_a_condition_of_its_own_only_where_the_standard_says_so()
    {
        const string Off = """{"test":"leakage","kind":"touch","value":20,"unit":"uA","power":"off","loadA":0},""";
        Monitor(Off, "nfpa-99-2012").GetProperty("results")[0].GetProperty("status").GetString().ShouldBe("pass");
        Monitor(Off, "iec-60601-1-2012").GetProperty("results")[0].GetProperty("status").GetString().ShouldBe("undecided");
    }

    [Fact]
    public void A_part_must_be_named_where_there_are_several()
    {
        Monitor("""{"test":"leakage","kind":"appliedPart","value":1,"unit":"uA"},""")
            .GetProperty("error")
            .GetProperty("path")
            .GetString()
            .ShouldBe("readings[0].appliedPart");
        Monitor("""{"test":"leakage","kind":"appliedPart","appliedPart":"NIBP","value":1,"unit":"uA"},""")
            .GetProperty("error")
            .GetProperty("path")
            .GetString()
            .ShouldBe("readings[0].appliedPart");
        Monitor("""{"test":"leakage","kind":"appliedPart","value":1,"unit":"uA"},""", parts: """[{"name":"ECG","type":"CF"}]""")
            .GetProperty("results")[0]
            .GetProperty("limit")
            .GetDouble()
            .ShouldBe(50e-6, 1e-12);
    }

    [Theory]
    [InlineData("direct", """ ,"mainsSwitch":"mechanical" """, "direct", 2)]
    [InlineData("alternative", """ ,"mainsSwitch":"mechanical" """, "alternative", 1)]
    [InlineData("alternative", """ ,"mainsSwitch":"electronic" """, "direct", 2)] // without power an electronic switch hides the mains part
    public void The_plan_uses_the_method_that_can_see_the_mains_part(string policy, string item, string method, int equipmentSteps)
    {
        var steps = Ask.One(
                "plan",
                $$"""{"id":"p","standard":"iec-62353-2014","policy":{"medicalMethod":"{{policy}}"},"item":{"kind":"medicalDevice","class":"I"{{item}},"appliedParts":[{"name":"ECG","type":"CF"}]} }"""
            )
            .GetProperty("steps")
            .EnumerateArray()
            .ToArray();
        var equipment = steps.Where(step => step.TryGetProperty("kind", out var kind) && kind.GetString() == "equipment").ToArray();
        equipment.Length.ShouldBe(equipmentSteps);
        equipment.ShouldAllBe(step => step.GetProperty("method").GetString() == method);
        steps
            .Last(step => step.TryGetProperty("kind", out var kind) && kind.GetString() == "appliedPart")
            .TryGetProperty("hazard", out _)
            .ShouldBe(method == "direct");
    }

    [Fact]
    public void Sixty_six_hundred_and_one_asks_for_every_condition()
    {
        var steps = Ask.One(
                "plan",
                """{"id":"p","standard":"iec-60601-1-2012","item":{"kind":"medicalDevice","class":"I","appliedParts":[{"name":"ECG","type":"CF","connections":3}]}}"""
            )
            .GetProperty("steps")
            .EnumerateArray()
            .ToArray();
        int Of(string kind) => steps.Count(step => step.TryGetProperty("kind", out var it) && it.GetString() == kind);
        (Of("earth"), Of("touch"), Of("patient"), Of("patientAuxiliary"), Of("mainsOnAppliedPart")).ShouldBe((4, 6, 6, 6, 2));
        steps
            .Where(step => step.TryGetProperty("kind", out _))
            .ShouldAllBe(step => step.GetProperty("limit").ValueKind == JsonValueKind.Number);
        steps.Select(step => step.GetProperty("key").GetString()).ShouldBeUnique();
    }

    [Theory]
    [InlineData("""{"test":"defibEnergy","setJ":10,"value":12.9,"unit":"J"},""", "pass", 3)]
    [InlineData("""{"test":"defibEnergy","setJ":10,"value":6.9,"unit":"J"},""", "fail", 3)]
    [InlineData("""{"test":"defibEnergy","setJ":200,"value":231,"unit":"J"},""", "fail", 30)]
    [InlineData("""{"test":"ecgAmplitude","setMv":1,"value":1.1,"unit":"mV"},""", "pass", 0.0001)]
    [InlineData("""{"test":"padPath","value":0.51,"unit":"ohm"},""", "fail", 0.5)]
    public void A_defibrillator_is_judged_by_its_deviation(string reading, string status, double limit)
    {
        var judged = Monitor(reading).GetProperty("results")[0];
        judged.GetProperty("status").GetString().ShouldBe(status);
        judged.GetProperty("limit").GetDouble().ShouldBe(limit, 1e-9);
    }
}
