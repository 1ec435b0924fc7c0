using System.Text.Json;
using Osierwand.Core.Contracts;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Intervals;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>Class, evidence, installation, cords, diagnosis and sheets, asked as the command line asks them.</summary>
public class HelperTests
{
    [Theory]
    [InlineData("""{"mark":"squareWithinSquare","cores":2,"metalReachable":true}""", "II", false)]
    [InlineData("""{"mark":"squareWithinSquare","cores":3}""", "undecided", true)]
    [InlineData("""{"mark":"squareWithinSquare","cores":3,"functionalEarth":true}""", "II-functionalEarth", false)]
    [InlineData("""{"mark":"squareWithinSquare","bonded":true}""", "I", false)] // a bonded case is class I, whatever the mark
    [InlineData("""{"mark":"squareWithinSquare","markOn":"component","metalReachable":true}""", "undecided", true)]
    [InlineData("""{"mark":"squareWithinSquare","markOn":"component","bonded":true}""", "I", false)]
    [InlineData(
        """{"mark":"squareWithinSquare","markOn":"component","cores":3,"earthPin":true,"metalReachable":false}""",
        "I-noAccessibleMetal",
        false
    )]
    [InlineData("""{"mark":"romanThreeInDiamond","extraLowVoltage":true}""", "III", false)]
    [InlineData("""{"mark":"romanThreeInDiamond","cores":3}""", "undecided", true)]
    [InlineData("""{"mark":"romanThreeInDiamond","extraLowVoltage":false}""", "undecided", true)]
    [InlineData("""{"cores":3,"earthPin":true,"metalReachable":true}""", "I", false)]
    [InlineData("""{"cores":3,"earthPin":true}""", "I", true)] // settled but for the clip's point
    [InlineData("""{"cores":3,"metalReachable":true,"bonded":false}""", "undecided", true)]
    [InlineData("""{"cores":3}""", "undecided", true)] // three cores without an earth pin are no evidence
    [InlineData("""{"cores":3,"earthPin":false,"metalReachable":true}""", "undecided", true)]
    [InlineData("""{"mark":"squareWithinSquare","markOn":"component","bonded":false}""", "II", false)]
    [InlineData("""{"mark":"squareWithinSquare","cores":3,"earthPin":true,"bonded":false}""", "II", false)]
    [InlineData("""{"mark":"squareWithinSquare","functionalEarth":true,"bonded":true}""", "undecided", true)]
    [InlineData("""{"cores":3,"earthPin":true,"functionalEarth":true,"bonded":true}""", "undecided", true)]
    [InlineData("""{"mark":"earthSymbol","cores":2}""", "undecided", true)]
    [InlineData("""{"cores":2}""", "undecided", true)]
    [InlineData("""{"metalReachable":true}""", "undecided", true)] // a metal case proves nothing
    public void The_class_follows_from_plate_and_build(string seen, string found, bool asks)
    {
        var answer = Ask.One("class", seen);
        answer.GetProperty("class").GetString().ShouldBe(found);
        (answer.GetProperty("ask").ValueKind == JsonValueKind.String).ShouldBe(asks);
        answer.GetProperty("because").GetArrayLength().ShouldBeGreaterThan(0);
        answer.GetProperty("testAs").GetString()!.Contains("stricter", StringComparison.Ordinal).ShouldBe(found == "undecided");
    }

    // Quantiles of Beta(k + 0.5, n - k + 0.5), computed independently.
    [Theory]
    [InlineData(40, 5, 12, 0.0588603697, 0.2298422394, "shorter", 6)]
    [InlineData(300, 0, 12, 6.548086e-6, 0.0063766775, "longer", 24)]
    [InlineData(50, 0, 12, 3.912452e-5, 0.0375011351, "keep", 12)]
    [InlineData(300, 0, 60, 6.548086e-6, 0.0063766775, "keep", 60)] // the ladder ends
    [InlineData(0, 0, 12, 0.0061558297, 0.9938441703, "keep", 12)] // nothing known yet
    public void The_evidence_of_a_group_speaks_for_its_interval(
        int inspections,
        int failures,
        double months,
        double low,
        double high,
        string suggestion,
        double suggested
    )
    {
        var answer = Ask.One("evidence", $$"""{"inspections":{{inspections}},"failures":{{failures}},"intervalMonths":{{months}}}""");
        answer.GetProperty("low").GetDouble().ShouldBe(low, low * 1e-5);
        answer.GetProperty("high").GetDouble().ShouldBe(high, high * 1e-5);
        answer.GetProperty("suggestion").GetString().ShouldBe(suggestion);
        answer.GetProperty("months").GetDouble().ShouldBe(suggested);
    }

    [Fact]
    public void The_clean_inspections_asked_for_are_just_enough()
    {
        var needed = GroupEvidence.Of(GroupHistory.Of(60, 1, 12).Value, Thresholds.Shipped).CleanNeeded!.Value;
        GroupEvidence.Of(GroupHistory.Of(60 + needed, 1, 12).Value, Thresholds.Shipped).Suggestion.ShouldBe(Suggestion.Longer);
        GroupEvidence.Of(GroupHistory.Of(60 + needed - 1, 1, 12).Value, Thresholds.Shipped).Suggestion.ShouldBe(Suggestion.Keep);
        GroupHistory.Of(3, 4, 12).Fault!.Path.ShouldBe("failures");
    }

    [Theory]
    [InlineData("""{"loop":{"zsOhm":1.36,"breakerType":"B","breakerA":32}}""", "pass")] // 0.95 x 230 / 160 = 1.3656
    [InlineData("""{"loop":{"zsOhm":1.37,"breakerType":"B","breakerA":32}}""", "fail")]
    [InlineData("""{"loop":{"zsOhm":0.7,"breakerType":"C","breakerA":32}}""", "fail")]
    [InlineData("""{"electrode":{"at52Ohm":4.0,"at62Ohm":4.1,"at72Ohm":4.2}}""", "pass")]
    [InlineData("""{"electrode":{"at52Ohm":4.0,"at62Ohm":4.1,"at72Ohm":4.8}}""", "undecided")] // 11 % from the mean
    [InlineData("""{"electrode":{"at52Ohm":6,"at62Ohm":6,"at72Ohm":6}}""", "pass")] // the house's target is advice
    [InlineData("""{"insulation":{"value":1,"unit":"Mohm"}}""", "pass")]
    [InlineData("""{"insulation":{"value":0.5,"unit":"Mohm","qualifier":">"}}""", "undecided")]
    public void Installation_checks_show_their_working(string request, string status)
    {
        var answer = Ask.One("installation", request);
        answer.GetProperty("status").GetString().ShouldBe(status);
        answer.GetProperty("working").GetArrayLength().ShouldBeGreaterThan(0);
    }

    [Theory]
    [InlineData(0.9, "similarPart", "none")]
    [InlineData(3, "similarPart", "possible")]
    [InlineData(3.1, "similarPart", "probable")]
    [InlineData(15.1, "similarPart", "major")]
    [InlineData(20, "ambient", "probable")]
    [InlineData(40, "ambient", "asSoonAsPossible")]
    [InlineData(41, "ambient", "major")]
    public void A_warm_spot_has_its_grade(double kelvin, string against, string grade) =>
        Ask.One("installation", FormattableString.Invariant($$"""{"thermal":{"differenceK":{{kelvin}},"against":"{{against}}"} }"""))
            .GetProperty("grade")
            .GetString()
            .ShouldBe(grade);

    [Fact]
    public void A_cord_tells_what_it_carries_and_loses()
    {
        var answer = Ask.One(
            "cord",
            """{"standard":"uk-cop-5","item":{"kind":"appliance","ratedPowerW":2300,"ratedVoltageV":230,"plugFuseA":3,"cord":{"lengthM":10,"conductorMm2":1.0}}}"""
        );
        answer.GetProperty("loadA").GetDouble().ShouldBe(10);
        answer.GetProperty("voltageDropV").GetDouble().ShouldBe(2 * 10 * 0.0195 * 10, 1e-9);
        answer.GetProperty("findings")[0].GetProperty("text").GetString()!.ShouldContain("below the load");
    }

    /// <summary>One scene for every signature of the table: what is read, and what it must tell.</summary>
    public static TheoryData<string, string, string, string> Scenes { get; } =
        new()
        {
            { "no-load", Appliance, """{"test":"functional","ok":false,"loadA":0}""", "" },
            { "earth-open", Appliance, """{"test":"earthContinuity","value":19.9,"unit":"ohm","qualifier":">"}""", "" },
            { "earth-open-lead", Lead, """{"test":"earthContinuity","value":19.9,"unit":"ohm","qualifier":">"}""", "" },
            {
                "earth-lead-or-reel",
                Lead + ",\"cord\":{\"lengthM\":10,\"conductorMm2\":1.25}",
                """{"test":"earthContinuity","value":0.28,"unit":"ohm"}""",
                ""
            },
            { "earth-flex", Appliance, """{"test":"earthContinuity","value":0.3,"unit":"ohm"}""", "" },
            {
                "earth-moves",
                Appliance,
                """{"test":"earthContinuity","value":0.05,"unit":"ohm"},{"test":"earthContinuity","value":0.11,"unit":"ohm"}""",
                ""
            },
            { "class-ii-earth", "\"kind\":\"appliance\",\"class\":\"II\"", """{"test":"earthContinuity","value":0.1,"unit":"ohm"}""", "" },
            {
                "surge-500",
                "\"kind\":\"multiwayAdapter\",\"surgeProtected\":true",
                """{"test":"insulation","value":0.2,"unit":"Mohm","testVoltageV":500}""",
                ""
            },
            { "insulation-heating", "\"kind\":\"appliance\",\"heating\":true", """{"test":"insulation","value":0.2,"unit":"Mohm"}""", "" },
            { "insulation-low", Appliance, """{"test":"insulation","value":0.2,"unit":"Mohm"}""", "" },
            {
                "nothing-to-probe",
                "\"kind\":\"appliance\",\"class\":\"II\",\"allInsulated\":true",
                """{"test":"insulation","value":500,"unit":"Mohm","qualifier":">"}""",
                ""
            },
            { "lead-short", Lead, """{"test":"wiring","ok":false,"found":"short"}""", "" },
            { "crossed", Lead, """{"test":"polarity","ok":false}""", "" },
            { "lead-open", Lead, """{"test":"wiring","ok":false,"found":"open"}""", "" },
            {
                "falls-earth-open",
                Device,
                """{"test":"leakage","kind":"touch","value":40,"unit":"uA"},{"test":"leakage","kind":"touch","value":10,"unit":"uA","earth":"open"}""",
                ""
            },
            {
                "one-polarity",
                Device,
                """{"test":"leakage","kind":"touch","value":10,"unit":"uA"},{"test":"leakage","kind":"touch","value":40,"unit":"uA","polarity":"reversed"}""",
                ""
            },
            {
                "jumps-earth-open",
                Device,
                """{"test":"leakage","kind":"touch","value":10,"unit":"uA"},{"test":"leakage","kind":"touch","value":200,"unit":"uA","earth":"open"}""",
                ""
            },
            {
                "leakage-grew",
                Appliance,
                """{"test":"insulation","value":100,"unit":"Mohm"},{"test":"leakage","kind":"protectiveConductor","value":0.6,"unit":"mA"}""",
                ""","history":[{"date":"2025-01-01","readings":[{"test":"insulation","value":100,"unit":"Mohm"},{"test":"leakage","kind":"protectiveConductor","value":0.2,"unit":"mA"}]}],"testDate":"2026-01-01" """
            },
            {
                "patient-zero",
                Device,
                """{"test":"leakage","kind":"patient","value":0,"unit":"uA"},{"test":"leakage","kind":"patient","value":0,"unit":"uA","earth":"open"}""",
                ""
            },
            { "building-rcd", Appliance, "", ""","session":{"buildingRcdTripped":true}""" },
            { "negative", Appliance, """{"test":"earthContinuity","value":0.02,"unit":"ohm","nullOhm":0.1}""", "" },
            { "same-offset", Appliance, "", ""","session":{"earthOffsetsOhm":[0.11,0.12,0.115]}""" },
        };

    private const string Appliance = "\"kind\":\"appliance\"";
    private const string Lead = "\"kind\":\"extensionLead\"";
    private const string Device = "\"kind\":\"medicalDevice\",\"appliedParts\":[{\"name\":\"ECG\",\"type\":\"CF\"}]";

    [Theory]
    [MemberData(nameof(Scenes))]
    public void Every_signature_shows_in_its_own_scene_and_nowhere_in_a_healthy_one(string id, string item, string readings, string more)
    {
        var standard = item == Device ? "iec-60601-1-2012" : "uk-cop-5";
        string[] Told(string what, string beside) =>
            [
                .. Ask.One(
                        "diagnose",
                        $$"""{"standard":"{{standard}}","visual":"pass","item":{ {{item}} },"readings":[{{what}}]{{beside}}}"""
                    )
                    .GetProperty("findings")
                    .EnumerateArray()
                    .Select(it => it.GetProperty("signature").GetString()!),
            ];
        Told(readings, more).ShouldContain(id);
        Told("", "").ShouldBeEmpty();
    }

    [Fact]
    public void No_signature_is_without_a_scene() =>
        Scenes.Select(scene => scene.Data.Item1).ShouldBe(Signature.All.Select(it => it.Id), ignoreOrder: true);

    [Theory]
    [InlineData("short", "lead-short")]
    [InlineData("L-N open", "no-load")]
    [InlineData("negative", "negative")]
    [InlineData("RCD", "building-rcd")]
    [InlineData("line open", "lead-open")]
    [InlineData("the neutral is open", "lead-open")]
    [InlineData("L/N reversed", "crossed")]
    [InlineData("negative ohms", "negative")]
    [InlineData("OL", "earth-open")]
    [InlineData("Flashing earth", "earth-open")]
    public void A_display_in_plain_words_finds_its_meaning(string say, string first) => Signature.Search(say)[0].Id.ShouldBe(first);

    [Theory]
    [InlineData(6, 1)]
    [InlineData(4, 0)]
    public void An_electrode_that_misses_the_houses_target_is_advice(double ohms, int advice) =>
        Ask.One("installation", $$$"""{"electrode":{"at52Ohm":{{{ohms}}},"at62Ohm":{{{ohms}}},"at72Ohm":{{{ohms}}}}}""")
            .GetProperty("advice")
            .GetArrayLength()
            .ShouldBe(advice);

    [Theory]
    [InlineData("OL", "crossed")]
    [InlineData("OL", "one-polarity")]
    public void And_no_part_of_another_word_is_a_meaning(string say, string not) =>
        Signature.Search(say).Select(it => it.Id).ShouldNotContain(not);

    [Fact]
    public void A_low_insulation_at_250_V_is_told_of_a_surge_protected_item_too() =>
        Findings($"{Appliance},\"surgeProtected\":true", """{"test":"insulation","value":0.2,"unit":"Mohm","testVoltageV":250}""")
            .ShouldBe(["insulation-low"]);

    [Theory]
    [InlineData("", "earth-flex")]
    [InlineData(""","cord":{"lengthM":10,"conductorMm2":1.25}""", "earth-lead-or-reel")]
    public void A_reel_whose_length_is_entered_is_not_told_that_it_is_not(string cord, string told) =>
        Findings($"\"kind\":\"extensionLead\"{cord}", """{"test":"earthContinuity","value":0.28,"unit":"ohm"}""").ShouldContain(told);

    private static string[] Findings(string item, string reading) =>
        [
            .. Ask.One("diagnose", $$"""{"standard":"uk-cop-5","visual":"pass","item":{ {{item}} },"readings":[{{reading}}]}""")
                .GetProperty("findings")
                .EnumerateArray()
                .Select(it => it.GetProperty("signature").GetString()!),
        ];

    [Fact]
    public void A_sheet_is_judged_item_by_item_and_a_bad_line_names_its_cell()
    {
        static SheetLine Line(int at, params string[] cells) =>
            new(at, cells.Select(cell => cell.Split('=', 2)).ToDictionary(it => it[0], it => it[1]));
        string[] kettle =
        [
            "standard=uk-cop-5",
            "kind=appliance",
            "class=I",
            "flexLengthM=2",
            "flexMm2=1.25",
            "visual=pass",
            "insulation=>500",
            "functional=good",
        ];
        var answers = Sheet
            .Judge([
                Line(2, [.. kettle, "tag=A", "earth=0.16", "earthNull=0.05"]),
                Line(3, [.. kettle, "tag=B", "earth=0.05", "earthPoint=case"]),
                Line(4, "tag=B", "earth=150m", "earthPoint=base"),
                Line(5, [.. kettle, "tag=C", "earth=0.x"]),
                Line(6, "tag=D", "standard=uk-cop-5", "kind=kettle"),
                Line(7, [.. kettle, "tag=E", "earth=0.05", "ratedPowerW=3,000"]),
                Line(8, [.. kettle, "tag=", "earth=0.05"]),
                Line(9, [.. kettle, "tag= ", "earth=0.05"]),
                Line(10, "tag=F", "standard=iec-62353-2014", "kind=portableRcd", "visual=pass", "functional=good", "rcdMa=30"),
            ])
            .ToArray();
        answers
            .Select(it => (it.Tag, it.Verdict))
            .ShouldBe([
                ("A", Judging.Verdict.Pass),
                ("B", Judging.Verdict.Fail),
                ("C", null),
                ("D", null),
                ("E", null),
                ("", null),
                ("", null),
                ("F", null),
            ]);
        answers[1].Reasons.ShouldContain("Earth continuity, base");
        answers[2].Fault!.Path.ShouldBe("line 5, column “earth”");
        answers[3].Fault!.Path.ShouldBe("line 6, column “kind”");
        answers[4].Fault!.Path.ShouldBe("line 7, column “ratedPowerW”");
        answers[4].Fault!.Message.ShouldBe("“3,000” could be 3.000 or 3000; write it with a point");
        answers[5].Fault!.Path.ShouldBe("line 8, column “tag”");
        answers[6].Fault!.Path.ShouldBe("line 9, column “tag”", "two items without a tag are not one");
        answers[7].Fault!.Path.ShouldBe("line 10, column “standard”");
        Sheet.Header(["tag", "standard", "kind", "earht"])!.Path.ShouldBe("column “earht”");
        Sheet.Header([.. Sheet.Columns.Select(column => column.Name)]).ShouldBeNull();
    }
}
