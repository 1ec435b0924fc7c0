using System.Text.Json;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>Readings that cannot be: what would pass by its number and contradicts what is known is undecided, and says what was to be
/// expected.</summary>
public class DoubtTests
{
    private const string Lead = """{"kind":"extensionLead","class":"I","plugFuseA":13,"cord":{"lengthM":30,"conductorMm2":1.25}}""";
    private const string LeadsRest =
        """{"test":"insulation","value":200,"unit":"Mohm"},{"test":"polarity","ok":true},{"test":"functional","ok":true}""";

    private static JsonElement OfLead(string earth, string item = Lead) =>
        Ask.Assess($$"""{"standard":"uk-cop-5","item":{{item}},"visual":"pass","readings":[{{earth}},{{LeadsRest}}]}""");

    private static string Verdict(JsonElement it) => it.GetProperty("verdict").GetString()!;

    private static string[] Advice(JsonElement it) => [.. it.GetProperty("advice").EnumerateArray().Select(line => line.GetString()!)];

    /// <summary>30 m of 1.25 mm² are 0.468 ohm; four fifths of it less 0.04 ohm are 0.334.</summary>
    [Theory]
    [InlineData(0.02, "", "", "undecided")]
    [InlineData(0.33, "", "", "undecided")]
    [InlineData(0.34, "", "", "pass")]
    [InlineData(0.48, "", "", "pass")]
    [InlineData(0.35, "", ""","nullOhm":0.1""", "undecided")] // nulled it is 0.25
    [InlineData(0.05, "<", "", "undecided")]
    [InlineData(0.48, "", ""","path":"loop" """, "undecided")] // out and back it is twice as much
    [InlineData(0.95, "", ""","path":"loop" """, "pass")]
    [InlineData(2, "", "", "fail")] // a fail stays a fail
    public void An_earth_below_its_own_copper_is_undecided(double ohm, string qualifier, string more, string status)
    {
        var answer = OfLead(
            FormattableString.Invariant($$"""{"test":"earthContinuity","value":{{ohm}},"qualifier":"{{qualifier}}","unit":"ohm"{{more}}}""")
        );
        var earth = answer.GetProperty("results")[0];
        earth.GetProperty("status").GetString().ShouldBe(status);
        if (status == "undecided")
        {
            earth.GetProperty("expected").GetString()!.ShouldContain("30 m of 1.25 mm²");
            Verdict(answer).ShouldBe("incomplete");
        }
        else
            earth.TryGetProperty("expected", out _).ShouldBeFalse();
    }

    [Theory]
    [InlineData("""{"kind":"extensionLead","plugFuseA":13,"cord":{"lengthM":30}}""")]
    [InlineData("""{"kind":"extensionLead","plugFuseA":13}""")]
    [InlineData("""{"kind":"extensionLead","plugFuseA":13,"cord":{"lengthM":2,"conductorMm2":1.25}}""")] // 0.031 ohm: nothing to tell
    public void Where_the_copper_is_not_known_or_short_nothing_is_doubted(string item) =>
        Verdict(OfLead("""{"test":"earthContinuity","value":0.01,"unit":"ohm"}""", item)).ShouldNotBe("incomplete");

    private static JsonElement OfMonitor(string ecg, string spo2, string? wasEcg = null, string? wasSpo2 = null)
    {
        string Part(string name, string rest) =>
            $$"""{"test":"leakage","kind":"appliedPart","appliedPart":"{{name}}","unit":"uA",{{rest}}}""";
        var history = wasEcg is null
            ? ""
            : $$""","testDate":"2026-12-01","history":[{"date":"2025-11-01","readings":[{{Part("ECG", wasEcg)}},{{Part("SpO2", wasSpo2!)}}]}]""";
        return Ask.Assess(
            $$"""
            {"standard":"iec-62353-2014","item":{"kind":"medicalDevice","appliedParts":[{"name":"ECG","type":"CF"},{"name":"SpO2","type":"BF"}]},
            "visual":"pass","readings":[{"test":"earthContinuity","value":0.08,"unit":"ohm"},
            {"test":"leakage","kind":"equipment","value":110,"unit":"uA"},{"test":"leakage","kind":"equipment","polarity":"reversed","value":110,"unit":"uA"},
            {{Part("ECG", ecg)}},{{Part("SpO2", spo2)}},{"test":"functional","ok":true}]{{history}}}
            """
        );
    }

    [Theory]
    [InlineData("\"value\":0", "\"value\":7.8", "undecided")]
    [InlineData("\"value\":0.49", "\"value\":7.8", "undecided")]
    [InlineData("\"value\":0.5", "\"value\":7.8", "pass")]
    [InlineData("\"value\":0", "\"value\":0.9", "pass")] // it never leaked more
    [InlineData("\"value\":0", null, "undecided")] // nothing says that it leaks so little
    [InlineData("\"value\":0,\"proof\":\"its trace stands on the screen\"", "\"value\":7.8", "pass")]
    [InlineData("\"value\":0,\"method\":\"differential\"", "\"value\":7.8", "pass")] // of the whole device: not the part alone
    public void Nothing_through_an_applied_part_is_undecided_until_it_is_proved(string ecg, string? was, string status) =>
        OfMonitor(ecg, "\"value\":12", was, "\"value\":12").GetProperty("results")[3].GetProperty("status").GetString().ShouldBe(status);

    [Theory]
    [InlineData(0, 0.4, 111, "incomplete")]
    [InlineData(0.9, 0.4, 10, "incomplete")]
    [InlineData(0, 0.4, 9.9, "pass")]
    [InlineData(1, 0.4, 111, "pass")]
    [InlineData(0, null, 111, "pass")] // whether it ran is not known here
    public void Nothing_where_something_flowed_while_the_device_runs_is_undecided(double now, double? load, double was, string verdict)
    {
        static string Leaks(double microamperes, string more) =>
            FormattableString.Invariant($$"""{"test":"leakage","kind":"equipment","value":{{microamperes}},"unit":"uA"{{more}}}""");
        var loaded = load is { } amperes ? FormattableString.Invariant($",\"loadA\":{amperes}") : "";
        Verdict(
                Ask.Assess(
                    $$"""
                    {"standard":"iec-62353-2014","item":{"kind":"medicalDevice"},"visual":"pass","testDate":"2026-12-01",
                    "readings":[{"test":"earthContinuity","value":0.08,"unit":"ohm"},{{Leaks(now, loaded)}},
                    {{Leaks(was, loaded + ",\"polarity\":\"reversed\"")}},{"test":"functional","ok":true}],
                    "history":[{"date":"2025-11-01","readings":[{{Leaks(was, "")}}]}]}
                    """
                )
            )
            .ShouldBe(verdict);
    }

    [Theory]
    [InlineData(24, 8, false)]
    [InlineData(25, 8, true)]
    [InlineData(9.9, 3, false)] // below ten microamperes a ratio says nothing
    public void Three_times_its_reference_is_told_whatever_the_limit(double now, double was, bool isTold) =>
        Advice(
                OfMonitor(
                    FormattableString.Invariant($"\"value\":{now}"),
                    "\"value\":12",
                    FormattableString.Invariant($"\"value\":{was}"),
                    "\"value\":12"
                )
            )
            .Any(line => line.Contains("accessory added?", StringComparison.Ordinal))
            .ShouldBe(isTold);

    [Theory]
    [InlineData(30, 10, 10, 30, true)]
    [InlineData(26, 11, 10, 30, true)]
    [InlineData(10, 30, 10, 30, false)]
    [InlineData(19, 10, 10, 19, false)] // not twice apart: they are not told from one another
    public void Two_parts_that_each_read_what_the_other_did_are_told(double ecg, double spo2, double wasEcg, double wasSpo2, bool isTold)
    {
        static string Value(double it) => FormattableString.Invariant($"\"value\":{it}");
        Advice(OfMonitor(Value(ecg), Value(spo2), Value(wasEcg), Value(wasSpo2)))
            .Any(line => line.Contains("leads exchanged?", StringComparison.Ordinal))
            .ShouldBe(isTold);
    }

    [Theory]
    [InlineData("iec-62353-2014", "medicalDevice", 0.1, "undecided")]
    [InlineData("iec-62353-2014", "medicalDevice", 0.2, "pass")]
    [InlineData("en-50699-2020", "appliance", 0.1, "undecided")]
    [InlineData("uk-cop-5", "appliance", 0.01, "undecided")]
    [InlineData("uk-cop-5", "appliance", 0.02, "pass")]
    [InlineData("nfpa-99-2012", "medicalDevice", 0.001, "pass")] // names none
    [InlineData("iec-60601-1-2012", "medicalDevice", 10, "pass")] // and is advice there
    public void An_earth_is_judged_with_the_current_that_its_standard_names(string pack, string kind, double ampere, string status)
    {
        var answer = Ask.Assess(
            FormattableString.Invariant(
                $$"""{"standard":"{{pack}}","item":{"kind":"{{kind}}"},"readings":[{"test":"earthContinuity","value":0.08,"unit":"ohm","testCurrentA":{{ampere}}}]}"""
            )
        );
        answer.GetProperty("results")[0].GetProperty("status").GetString().ShouldBe(status);
        Advice(answer).Any(line => line.Contains("at least 25 A", StringComparison.Ordinal)).ShouldBe(pack == "iec-60601-1-2012");
    }

    [Theory]
    [InlineData(0.1, 0.1, "undecided")] // 0.2 would be too much
    [InlineData(0.01, 0.1, "pass")]
    [InlineData(0.1, 0.01, "pass")]
    public void A_step_of_the_display_beyond_the_limit_is_undecided(double ohm, double step, string status)
    {
        var answer = Ask.Assess(
            FormattableString.Invariant(
                $$$"""
                {"standard":"uk-cop-5","item":{"kind":"appliance","cord":{"lengthM":2,"conductorMm2":0.75}},
                "readings":[{"test":"earthContinuity","value":{{{ohm}}},"unit":"ohm","accuracy":{"resolution":{{{step}}}}}]}
                """
            )
        );
        answer.GetProperty("results")[0].GetProperty("status").GetString().ShouldBe(status);
        Advice(answer)
            .Any(line => line.Contains("more than a fifth of its limit", StringComparison.Ordinal))
            .ShouldBe(status == "pass" && step > 0.05);
    }

    [Theory]
    [InlineData("0.5", false)]
    [InlineData("0.51", true)]
    [InlineData("19.9", true)]
    public void A_null_that_would_take_away_what_is_measured_is_refused(string ohm, bool isRefused)
    {
        var answer = OfLead($$"""{"test":"earthContinuity","value":20,"unit":"ohm","nullOhm":{{ohm}}}""");
        answer.TryGetProperty("error", out var error).ShouldBe(isRefused);
        if (isRefused)
            error.GetProperty("path").GetString().ShouldBe("readings[0].nullOhm");
    }

    [Theory]
    [InlineData(16, "moulded", true)]
    [InlineData(30, "rewirable", true)]
    [InlineData(13, "moulded", false)]
    [InlineData(16, "industrial", false)]
    public void A_fuse_that_is_not_made_for_the_plug_is_a_fault(double fuse, string plug, bool isFault)
    {
        var item = new Core.Equipment.Item
        {
            Kind = Core.Equipment.ItemKind.Appliance,
            PlugFuse = new(fuse),
            Plug = Enum.Parse<Core.Equipment.PlugType>(plug, ignoreCase: true),
        };
        var findings = Core.Cords.FuseAndFlex.Check(item, Core.Standards.PackLibrary.Find("uk-cop-5")!);
        findings.Any(it => it.IsFault && it.Text.Contains($"{fuse} A", StringComparison.Ordinal)).ShouldBe(isFault);
    }
}
