using System.Text.Json;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>
/// A worked example of every medical pack and method, each with its sum, as a technician would do it on the back of the sheet: what was
/// read, what becomes of it, what it is held against.
/// </summary>
public class WorkedMedicalTests
{
    private const string ClassI = """{"kind":"medicalDevice","class":"I","appliedParts":[{"name":"ECG","type":"CF","connections":5}]}""";
    private const string ClassIBf = """{"kind":"medicalDevice","class":"I","appliedParts":[{"name":"cuff","type":"BF","connections":2}]}""";
    private const string ClassII = """{"kind":"medicalDevice","class":"II","appliedParts":[{"name":"cuff","type":"BF"}]}""";
    private const string Xray = """{"kind":"medicalDevice","class":"I","mobileXray":true}""";
    private const string Battery = """{"kind":"medicalDevice","class":"internal","appliedParts":[{"name":"probe","type":"CF"}]}""";
    private const string Shocks =
        """{"kind":"medicalDevice","class":"I","defibrillator":{"settingsJ":[10,200],"synchronises":true,"ecgSetMv":1}}""";

    // --- IEC 62353: scaled to nominal 230 V, each method with its own limit ---
    [Theory]
    [InlineData("direct: 480 x 230 / 220 = 501.8, above 500", ClassI, "equipment", "direct", 480, 220, "fail", 501.818)]
    [InlineData("direct: 480 x 230 / 225 = 490.7, within 500", ClassI, "equipment", "direct", 480, 225, "pass", 490.667)]
    [InlineData("direct: 520 x 230 / 240 = 498.3, within 500", ClassI, "equipment", "direct", 520, 240, "pass", 498.333)]
    [InlineData("differential: the same limit, 510 x 230 / 230", ClassI, "equipment", "differential", 510, 230, "fail", 510)]
    [InlineData("alternative: 1000 is the limit, and equality passes", ClassI, "equipment", "alternative", 1000, 230, "pass", 1000)]
    [InlineData("alternative: 1010 x 230 / 230", ClassI, "equipment", "alternative", 1010, 230, "fail", 1010)]
    [InlineData("class II direct: 98 x 230 / 225 = 100.2, above 100", ClassII, "equipment", "direct", 98, 225, "fail", 100.178)]
    [InlineData("class II alternative: 490 x 230 / 230, within 500", ClassII, "equipment", "alternative", 490, 230, "pass", 490)]
    [InlineData("mobile X-ray direct: 1900 x 230 / 225 = 1942, within 2000", Xray, "equipment", "direct", 1900, 225, "pass", 1942.222)]
    [InlineData("mobile X-ray alternative: 5100, above 5000", Xray, "equipment", "alternative", 5100, 230, "fail", 5100)]
    public void Equipment_leakage_is_scaled_and_held_against_its_methods_limit(
        string sum,
        string item,
        string kind,
        string method,
        double read,
        double mains,
        string status,
        double judged
    ) =>
        Judged(
            sum,
            "iec-62353-2014",
            item,
            $$"""{"test":"leakage","kind":"{{kind}}","method":"{{method}}","value":{{read}},"unit":"uA","mainsVoltageV":{{mains}}}""",
            status,
            judged * 1e-6
        );

    [Theory]
    [InlineData("CF direct: 48 x 230 / 220 = 50.2, above 50", ClassI, "ECG", "direct", 48, 220, "fail", 50.182)]
    [InlineData("CF alternative: 95 x 230 / 220 = 99.3, within 100", ClassI, "ECG", "alternative", 95, 220, "pass", 99.318)]
    [InlineData("BF direct: 4900 x 230 / 230, within 5000", ClassIBf, "cuff", "direct", 4900, 230, "pass", 4900)]
    [InlineData("BF alternative: 5000 has the same limit, 5050 is above", ClassIBf, "cuff", "alternative", 5050, 230, "fail", 5050)]
    [InlineData("battery, CF direct: 40 x 230 / 230, within 50", Battery, "probe", "direct", 40, 230, "pass", 40)]
    public void Applied_part_leakage_is_held_against_its_parts_type(
        string sum,
        string item,
        string part,
        string method,
        double read,
        double mains,
        string status,
        double judged
    ) =>
        Judged(
            sum,
            "iec-62353-2014",
            item,
            $$"""{"test":"leakage","kind":"appliedPart","appliedPart":"{{part}}","method":"{{method}}","value":{{read}},"unit":"uA","mainsVoltageV":{{mains}}}""",
            status,
            judged * 1e-6
        );

    [Theory]
    [InlineData("device with its lead: 0.31 - 0.04 = 0.27, within 0.3", "deviceWithCord", 0.31, "pass", 0.27)]
    [InlineData("device alone: 0.31 - 0.04 = 0.27, above 0.2", "deviceAlone", 0.31, "fail", 0.27)]
    [InlineData("lead alone: 0.13 - 0.04 = 0.09, within 0.1", "cordAlone", 0.13, "pass", 0.09)]
    public void An_earth_path_is_what_is_left_after_the_null(string sum, string part, double read, string status, double judged) =>
        Judged(
            sum,
            "iec-62353-2014",
            """{"kind":"medicalDevice","class":"I","cord":{"lengthM":2,"conductorMm2":1,"detachable":true}}""",
            $$"""{"test":"earthContinuity","part":"{{part}}","value":{{read}},"unit":"ohm","nullOhm":0.04}""",
            status,
            judged
        );

    // --- IEC 60601-1: scaled to a tenth above nominal, 253 V ---
    [Theory]
    [InlineData("touch, normal: 92 x 253 / 230 = 101.2, above 100", "touch", "closed", "closed", 92, "fail", 101.2)]
    [InlineData("touch, earth open: 92 x 253 / 230 = 101.2, within 500", "touch", "closed", "open", 92, "pass", 101.2)]
    [InlineData("earth, normal: 4600 x 253 / 230 = 5060, above 5000", "earth", "closed", "closed", 4600, "fail", 5060)]
    [InlineData("earth, neutral open: 4600 x 253 / 230 = 5060, within 10000", "earth", "open", "closed", 4600, "pass", 5060)]
    [InlineData("patient, CF normal: 9 x 253 / 230 = 9.9, within 10", "patient", "closed", "closed", 9, "pass", 9.9)]
    [InlineData("patient, CF earth open: 46 x 253 / 230 = 50.6, above 50", "patient", "closed", "open", 46, "fail", 50.6)]
    public void Sixty_six_hundred_and_one_scales_to_a_tenth_above_nominal(
        string sum,
        string kind,
        string neutral,
        string earth,
        double read,
        string status,
        double judged
    ) =>
        Judged(
            sum,
            "iec-60601-1-2012",
            ClassI,
            $$"""{"test":"leakage","kind":"{{kind}}"{{(kind == "patient" ? ",\"appliedPart\":\"ECG\"" : "")}},"neutral":"{{neutral}}","earth":"{{earth}}","value":{{read}},"unit":"uA","mainsVoltageV":230}""",
            status,
            judged * 1e-6
        );

    // --- NFPA 99: nominal 120 V; ground resistance is strictly below its limit ---
    [Theory]
    [InlineData("touch, ground closed: 99 x 120 / 117 = 101.5, above 100", "closed", 99, 117, "fail", 101.538)]
    [InlineData("touch, ground closed: 99 x 120 / 121 = 98.2, within 100", "closed", 99, 121, "pass", 98.182)]
    [InlineData("touch, ground open: 480 x 120 / 117 = 492.3, within 500", "open", 480, 117, "pass", 492.308)]
    public void Nfpa_scales_to_120_volts(string sum, string ground, double read, double mains, string status, double judged) =>
        Judged(
            sum,
            "nfpa-99-2012",
            ClassI,
            $$"""{"test":"leakage","kind":"touch","earth":"{{ground}}","value":{{read}},"unit":"uA","mainsVoltageV":{{mains}}}""",
            status,
            judged * 1e-6
        );

    [Theory]
    [InlineData("0.54 - 0.04 = 0.5 is not below 0.5", 0.54, "fail", 0.5)]
    [InlineData("0.53 - 0.04 = 0.49 is", 0.53, "pass", 0.49)]
    public void Ground_resistance_is_strictly_below_its_limit(string sum, double read, string status, double judged) =>
        Judged(
            sum,
            "nfpa-99-2012",
            ClassI,
            $$"""{"test":"earthContinuity","value":{{read}},"unit":"ohm","nullOhm":0.04}""",
            status,
            judged
        );

    // --- Defibrillators, with any of them: within the greater of 3 J and 15 % of what is set ---
    [Theory]
    [InlineData("10 J: 15 % are 1.5 J, so 3 J count; 7.1 is off by 2.9", 10, 7.1, "pass")]
    [InlineData("10 J: 6.9 is off by 3.1", 10, 6.9, "fail")]
    [InlineData("200 J: 15 % are 30 J; 171 is off by 29", 200, 171, "pass")]
    [InlineData("200 J: 231 is off by 31", 200, 231, "fail")]
    public void A_shock_may_be_off_by_three_joule_or_by_a_share(string sum, double set, double read, string status)
    {
        foreach (var pack in (string[])["iec-62353-2014", "iec-60601-1-2012", "nfpa-99-2012"])
            Judged(sum, pack, Shocks, $$"""{"test":"defibEnergy","setJ":{{set}},"value":{{read}},"unit":"J"}""", status, read);
    }

    private static void Judged(string sum, string standard, string item, string reading, string status, double judged)
    {
        var answer = Ask.Assess(
            $$"""{"id":"w","standard":"{{standard}}","visual":"pass","item":{{item}},"readings":[{{reading}},{"test":"functional","ok":true}]}"""
        );
        answer.TryGetProperty("results", out var results).ShouldBeTrue($"{sum}: {answer}");
        var first = results[0];
        first.GetProperty("status").GetString().ShouldBe(status, sum);
        first.GetProperty("judgedValue").GetDouble().ShouldBe(judged, Math.Abs(judged) * 1e-5, sum);
    }
}
