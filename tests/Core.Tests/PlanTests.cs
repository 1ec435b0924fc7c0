using System.Text.Json;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>The run sheet of every kind of item under every pack that applies: which steps, in which order, under which
/// conditions.</summary>
public class PlanTests
{
    private static JsonElement[] Steps(string standard, string item, string policy = "{}") =>
        [
            .. Ask.One("plan", $$"""{"standard":"{{standard}}","item":{{{item}}},"policy":{{policy}}}""")
                .GetProperty("steps")
                .EnumerateArray(),
        ];

    private static string Told(JsonElement step)
    {
        string? Word(string name) => step.TryGetProperty(name, out var value) ? value.ToString() : null;
        var test = Word("test")!;
        if (test == "rcdTrip")
            return $"trip {Word("multiple")}x{Word("phaseDeg")}";
        if (test == "insulation")
            return $"insulation {Word("testVoltageV")}"
                + (Word("between") == "mainsToEarth" ? "" : $" {Word("between")}")
                + (Word("point") is { } at ? $" @{at}" : "");
        if (test != "leakage")
            return test;
        string?[] words =
        [
            Word("kind"),
            Word("method") == "direct" ? null : Word("method"),
            Word("polarity") == "reversed" ? "reversed" : null,
            Word("neutral") == "open" ? "neutral open" : null,
            Word("earth") == "open" ? "earth open" : null,
            Word("power") == "off" ? "off" : null,
            Word("current") == "dc" ? "dc" : null,
            Word("appliedPart"),
            Word("point") is { } point ? $"@{point}" : null,
        ];
        return string.Join(' ', words.OfType<string>());
    }

    [Theory]
    [InlineData("uk-cop-5", "\"kind\":\"appliance\"", "visual, fuse, earthContinuity, insulation 500, protectiveConductor, functional")]
    [InlineData(
        "as-nzs-3760-2022",
        "\"kind\":\"appliance\"",
        "visual, fuse, earthContinuity, insulation 500, protectiveConductor, functional"
    )]
    [InlineData(
        "en-50699-2020",
        "\"kind\":\"appliance\"",
        "visual, fuse, earthContinuity, insulation 500, protectiveConductor, functional"
    )]
    [InlineData(
        "en-50699-2020",
        "\"kind\":\"appliance\",\"mainsSwitch\":\"electronic\"",
        "visual, fuse, earthContinuity, protectiveConductor, functional"
    )]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\",\"class\":\"I-noAccessibleMetal\"",
        "visual, fuse, insulation 500, protectiveConductor, functional"
    )]
    [InlineData("uk-cop-5", "\"kind\":\"appliance\",\"class\":\"II\"", "visual, fuse, insulation 500 mainsToAccessible, touch, functional")]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\",\"class\":\"II-functionalEarth\"",
        "visual, fuse, insulation 500 mainsToAccessible, touch, functional"
    )]
    [InlineData("uk-cop-5", "\"kind\":\"appliance\",\"class\":\"III\"", "visual, insulation 250 mainsToAccessible, functional")]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\",\"class\":\"undecided\"",
        "visual, fuse, earthContinuity, insulation 500, insulation 500 mainsToAccessible, protectiveConductor, touch, functional"
    )]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\",\"use\":\"fixed\",\"cord\":{\"permanent\":true}",
        "visual, earthContinuity, insulation 500, restore, protectiveConductor differential, functional"
    )]
    [InlineData("uk-cop-5", "\"kind\":\"cordSet\"", "visual, earthContinuity, insulation 500, polarity, wiring, functional")]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"multiwayAdapter\",\"surgeProtected\":true,\"outlets\":2",
        "visual, earthContinuity, earthContinuity, insulation 250, polarity, polarity, wiring, functional"
    )]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"extensionLead\",\"rcd\":{\"ratedResidualMa\":100}",
        "visual, earthContinuity, insulation 500, polarity, wiring, trip 0.5x0, trip 0.5x180, trip 1x0, trip 1x180, functional"
    )]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"portableRcd\",\"rcd\":{\"ratedResidualMa\":30}",
        "visual, trip 0.5x0, trip 0.5x180, trip 1x0, trip 1x180, trip 5x0, trip 5x180, functional"
    )]
    [InlineData(
        "as-nzs-3760-2022",
        "\"kind\":\"portableRcd\",\"rcd\":{\"ratedResidualMa\":30}",
        "visual, trip 1x0, trip 1x180, functional"
    )]
    [InlineData("en-50699-2020", "\"kind\":\"portableRcd\",\"rcd\":{\"ratedResidualMa\":30}", "visual, trip 1x0, trip 1x180, functional")]
    [InlineData(
        "iec-62353-2014",
        "\"kind\":\"medicalDevice\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"CF\"},{\"name\":\"b\",\"type\":\"B\"}]",
        "visual, earthContinuity, equipment, equipment reversed, appliedPart a, appliedPart reversed a, functional"
    )]
    [InlineData(
        "iec-62353-2014",
        "\"kind\":\"medicalDevice\",\"class\":\"internal\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"BF\"}]",
        "visual, appliedPart a, functional"
    )]
    [InlineData(
        "nfpa-99-2012",
        "\"kind\":\"medicalDevice\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"CF\"}]",
        "visual, earthContinuity, touch off, touch, touch earth open off, touch earth open, leadToGround off, leadToGround, leadToGround earth open off, leadToGround earth open, functional"
    )]
    [InlineData("nfpa-99-2012", "\"kind\":\"medicalDevice\",\"class\":\"II\"", "visual, touch off, touch, functional")]
    [InlineData(
        "nfpa-99-2012",
        "\"kind\":\"medicalDevice\",\"class\":\"II\",\"unearthedParts\":[\"knob\"],\"appliedParts\":[{\"name\":\"a\",\"type\":\"CF\",\"connections\":2},{\"name\":\"b\",\"type\":\"CF\"}]",
        "visual, touch off, touch, touch off @knob, touch @knob, leadToGround off, leadToGround, leadToLead off a, leadToLead a, functional"
    )]
    [InlineData(
        "iec-60601-1-2012",
        "\"kind\":\"medicalDevice\",\"class\":\"internal\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"BF\",\"connections\":2},{\"name\":\"b\",\"type\":\"BF\"}]",
        "visual, touch, patient a, patient b, patientAuxiliary a, totalPatient a, totalPatient dc a, mainsOnAppliedPart a, mainsOnAppliedPart b, functional"
    )]
    [InlineData(
        "iec-60601-1-2012",
        "\"kind\":\"medicalDevice\",\"class\":\"I-noAccessibleMetal\"",
        "visual, earth, earth reversed, earth neutral open, earth reversed neutral open, touch, touch reversed, touch neutral open, touch reversed neutral open, touch earth open, touch reversed earth open, functional"
    )]
    [InlineData(
        "en-50699-2020",
        "\"kind\":\"appliance\",\"unearthedParts\":[\"knob\"]",
        "visual, fuse, earthContinuity, insulation 500, insulation 500 mainsToAccessible @knob, protectiveConductor, touch @knob, functional"
    )]
    [InlineData(
        "iec-60601-1-2012",
        "\"kind\":\"medicalDevice\",\"class\":\"II\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"BF\"}]",
        "visual, touch, touch reversed, touch neutral open, touch reversed neutral open, patient a, patient reversed a, patient neutral open a, patient reversed neutral open a, mainsOnAppliedPart a, mainsOnAppliedPart reversed a, functional"
    )]
    public void Every_item_has_its_steps(string standard, string item, string steps) =>
        string.Join(", ", Steps(standard, item).Select(Told)).ShouldBe(steps);

    [Theory]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\"",
        """{"leakage":"none"}""",
        "visual, fuse, earthContinuity, insulation 500, functional"
    )]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\"",
        """{"leakage":"alternative"}""",
        "visual, fuse, earthContinuity, insulation 500, protectiveConductor alternative, functional"
    )]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\",\"class\":\"II\",\"allInsulated\":true",
        """{"classII":"lookOnly"}""",
        "visual, fuse, functional"
    )]
    [InlineData(
        "uk-cop-5",
        "\"kind\":\"appliance\",\"class\":\"II\",\"allInsulated\":true,\"use\":\"handheld\"",
        """{"classII":"lookOnly"}""",
        "visual, fuse, insulation 500 mainsToAccessible, touch, functional"
    )]
    [InlineData(
        "iec-62353-2014",
        "\"kind\":\"medicalDevice\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"CF\"}]",
        """{"medicalMethod":"alternative"}""",
        "visual, earthContinuity, equipment alternative, appliedPart alternative a, functional"
    )]
    [InlineData(
        "iec-62353-2014",
        "\"kind\":\"medicalDevice\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"CF\"}]",
        """{"medicalMethod":"differential"}""",
        "visual, earthContinuity, equipment differential, equipment differential reversed, appliedPart a, appliedPart reversed a, functional"
    )]
    [InlineData(
        "iec-62353-2014",
        "\"kind\":\"medicalDevice\",\"mainsSwitch\":\"electronic\"",
        """{"medicalMethod":"alternative"}""",
        "visual, earthContinuity, equipment, equipment reversed, functional"
    )]
    public void The_clients_choices_change_them(string standard, string item, string policy, string steps) =>
        string.Join(", ", Steps(standard, item, policy).Select(Told)).ShouldBe(steps);

    [Fact]
    public void What_puts_mains_on_the_patient_warns_and_everything_powered_says_so()
    {
        foreach (
            var step in Steps("iec-60601-1-2012", "\"kind\":\"medicalDevice\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"CF\"}]")
                .Where(step => step.GetProperty("test").GetString() == "leakage")
        )
        {
            var onPatient = step.GetProperty("kind").GetString() == "mainsOnAppliedPart";
            step.GetProperty("hazard").GetString()!.Contains("patient connections", StringComparison.Ordinal).ShouldBe(onPatient);
            step.GetProperty("terminals").GetString().ShouldNotBeNullOrEmpty();
            step.GetProperty("source").GetString().ShouldNotBeNullOrEmpty();
        }
    }

    [Fact]
    public void Site_equipment_scales_to_its_own_nominal() =>
        Ask.Assess(
                """
                {"standard":"uk-cop-5","item":{"kind":"appliance","ratedVoltageV":110},"readings":[{"test":"leakage","kind":"protectiveConductor","value":0.5,"unit":"mA","mainsVoltageV":115}]}
                """
            )
            .GetProperty("results")[0]
            .GetProperty("judgedValue")
            .GetDouble()
            .ShouldBe(0.5e-3 * 110 / 115, 1e-9);
}
