using System.Text.Json;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Equipment;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>What has no plug is measured where it is; and small answers of the command line that were once wrong.</summary>
public class HardWiredAndWordsTests
{
    private const string HardWired = "\"kind\":\"appliance\",\"use\":\"fixed\",\"cord\":{\"permanent\":true}";

    private static JsonElement Plan(string standard, string item) =>
        Ask.One("plan", $$$"""{"id":"p","standard":"{{{standard}}}","item":{ {{{item}}} }}""");

    private static string[] Needs(JsonElement step) => [.. step.GetProperty("needs").EnumerateArray().Select(need => need.GetString()!)];

    [Theory]
    [InlineData("uk-cop-5", HardWired)]
    [InlineData("as-nzs-3760-2022", HardWired)]
    [InlineData("en-50699-2020", HardWired)]
    [InlineData("iec-62353-2014", "\"kind\":\"medicalDevice\",\"class\":\"I\",\"cord\":{\"permanent\":true}")]
    [InlineData("nfpa-99-2012", "\"kind\":\"medicalDevice\",\"class\":\"I\",\"cord\":{\"permanent\":true}")]
    [InlineData("iec-60601-1-2012", "\"kind\":\"medicalDevice\",\"class\":\"II\",\"cord\":{\"permanent\":true}")]
    public void What_has_no_plug_is_powered_by_its_own_supply_and_by_no_outlet(string standard, string item)
    {
        var powered = Plan(standard, item)
            .GetProperty("steps")
            .EnumerateArray()
            .Where(step => step.GetProperty("test").GetString() == "leakage")
            .ToArray();
        powered.ShouldNotBeEmpty();
        foreach (var step in powered)
        {
            Needs(step)[0].ShouldBe("Supply restored, voltages as expected");
            Needs(step).ShouldNotContain("Outlet checked");
            if (step.GetProperty("kind").GetString() is "protectiveConductor" or "equipment")
            {
                step.GetProperty("method").GetString().ShouldBe("differential");
                Needs(step).ShouldContain(need => need.StartsWith("Leakage clamp round L and N together"));
            }
        }
    }

    [Theory]
    [InlineData(School.ApplianceTester)]
    [InlineData(School.Meter)]
    public void The_clamp_is_drawn_round_L_and_N_and_the_earth_is_left_outside(School school)
    {
        var item = new Item
        {
            Kind = ItemKind.Appliance,
            Class = ProtectionClass.I,
            Use = UseOf.Fixed,
            Cord = new(Permanent: true),
        };
        var under = new Conditions.Leakage(LeakageKind.ProtectiveConductor) { Method = LeakageMethod.Differential };
        var joining = Joining.Of(item, under, school).ShouldNotBeNull();
        joining.Far.ShouldBe(FarEnd.Clamp);
        joining.Text.ShouldBe("Drawing: a leakage clamp round L, N of the connection unit together, the earth left outside.");
        Joining.Of(item with { Cord = null }, under, school)!.Far.ShouldBe(FarEnd.Supply, "a plug-in item is measured in the instrument");
    }

    [Theory]
    [InlineData("nfpa-99-2012", "Flex moved at both strain reliefs while reading")]
    [InlineData("iec-62353-2014", "Flex moved along its length while reading")]
    public void The_flex_is_moved_where_the_standard_says(string standard, string need) =>
        Needs(Plan(standard, "\"kind\":\"medicalDevice\",\"class\":\"I\"").GetProperty("steps")[1]).ShouldContain(need);

    [Theory]
    [InlineData(40, 1.5, "", "40 m of 1.5 mm² is longer than 15 m: use it through a 30 mA RCD.")]
    [InlineData(40, 1.5, ""","rcd":{"ratedResidualMa":30}""", null)]
    [InlineData(15, 1.5, "", null)]
    public void A_lead_longer_than_the_table_allows_says_so_in_its_plan(double metres, double mm2, string more, string? remark) =>
        Plan("uk-cop-5", $$$"""  "kind":"extensionLead","cord":{ "lengthM":{{{metres}}},"conductorMm2":{{{mm2}}} }{{{more}}}  """)
            .GetProperty("remarks")
            .EnumerateArray()
            .Select(line => line.GetString())
            .SingleOrDefault(line => line!.Contains("longer than"))
            .ShouldBe(remark);

    [Theory]
    [InlineData(ClassMark.EarthSymbol, null, null)]
    [InlineData(ClassMark.EarthSymbol, 3, null)]
    [InlineData(ClassMark.EarthSymbol, null, true)]
    [InlineData(ClassMark.None, 3, true)]
    public void An_earth_without_an_earth_pin_is_a_contradiction_that_says_what_settles_it(ClassMark mark, int? cores, bool? bonded)
    {
        var seen = new ClassFacts
        {
            Mark = mark,
            MarkOn = MarkPlace.Plate,
            EarthPin = false,
            Cores = cores,
            Bonded = bonded,
            MetalReachable = true,
        };
        var found = ClassHelper.Of(seen);
        ClassDecisions.From(found.Evidence).Class.ShouldBe(ProtectionClass.Undecided);
        found.Ask.ShouldNotBeNull().ShouldContain("plug was replaced");
        var withPin = ClassHelper.Of(seen with { EarthPin = true });
        ClassDecisions.From(withPin.Evidence).Class.ShouldBe(ProtectionClass.I);
    }

    [Theory]
    [InlineData("uk-cop-5")]
    [InlineData("as-nzs-3760-2022")]
    public void A_fleets_look_only_item_is_seen_to_at_each_issue(string standard)
    {
        var answer = Ask.One(
            "interval",
            $$"""{"id":"i","standard":"{{standard}}","testDate":"2026-03-01","place":"hire","class":"II","allInsulated":true,"policy":{"classII":"lookOnly"} }"""
        );
        (answer.GetProperty("visualMonths").GetDouble(), answer.GetProperty("combinedMonths").GetDouble()).ShouldBe((3, 3));
        answer.GetProperty("because")[0].GetString().ShouldBe("hire: a look at each issue, never above 3 months");
        answer.GetProperty("due").GetString().ShouldBe("2026-06-01");
    }

    [Theory]
    [InlineData("appliance", 60)]
    [InlineData("extensionLead", 36)]
    [InlineData("cordSet", 36)]
    [InlineData("multiwayAdapter", 36)]
    public void Class_II_lengthens_an_appliances_interval_and_never_a_leads(string kind, double months) =>
        Ask.One(
                "interval",
                $$"""{"id":"i","standard":"uk-cop-5","testDate":"2026-03-01","place":"office","kind":"{{kind}}","use":"movable","class":"II","allInsulated":true}"""
            )
            .GetProperty("combinedMonths")
            .GetDouble()
            .ShouldBe(months);

    [Theory]
    [InlineData("short circuit", "lead-short")]
    [InlineData("it shows a short circuit", "lead-short")]
    [InlineData("circuit short", "lead-short")]
    [InlineData("short between N and L", "lead-short")]
    [InlineData("open circuit", "earth-open")]
    [InlineData("open", "lead-open")]
    [InlineData("a value below nothing", "negative")]
    [InlineData("less than zero", "negative")]
    [InlineData("nothing below", "negative")]
    [InlineData("minus value", "negative")]
    public void What_a_display_says_is_found_whatever_the_order_of_its_words(string say, string first) =>
        Signature.Search(say)[0].Id.ShouldBe(first);
}
