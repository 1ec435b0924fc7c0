using System.Text.Json;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>Fuse, flex and three phases; places of portable RCDs; and one bad request among good ones.</summary>
public class SecondReadingTests
{
    private static Item Heater(double watts, double mm2, double? metres, double fuse, int phases = 1, double volts = 230) =>
        new()
        {
            Kind = ItemKind.Appliance,
            RatedPower = new(watts),
            RatedVoltage = new(volts),
            PlugFuse = new(fuse),
            Phases = phases,
            // No larger one is made for the other.
            Plug = fuse > 13 ? PlugType.Industrial : PlugType.Moulded,
            Cord = new(metres is { } length ? new(length) : null, new(mm2)),
        };

    private static string[] Faults(Item item) =>
        [.. FuseAndFlex.Check(item, PackLibrary.Find("uk-cop-5")!).Where(finding => finding.IsFault).Select(finding => finding.Text)];

    [Theory]
    [InlineData(3000, 1.25, 1.5, 13, 0)] // 13.04 A: a plate's watts are rounded
    [InlineData(2200, 0.75, 1.5, 13, 0)] // a short flex of its own carries 10 A
    [InlineData(2200, 0.75, 2.5, 13, 1)] // a longer one 6 A
    [InlineData(2200, 0.75, null, 13, 1)] // and one whose length nobody knows
    [InlineData(3600, 1.0, 2.0, 16, 0)]
    [InlineData(4000, 1.5, 1.0, 16, 2)] // 17.4 A: too much for flex and fuse alike
    public void A_short_flex_carries_more_and_rounded_watts_are_no_fault(
        double watts,
        double mm2,
        double? metres,
        double fuse,
        int faults
    ) => Faults(Heater(watts, mm2, metres, fuse)).Length.ShouldBe(faults);

    [Fact]
    public void A_load_is_told_with_the_digits_that_make_it_more()
    {
        var fault = Faults(Heater(3150, 1.5, 1, 13)).ShouldHaveSingleItem();
        fault.ShouldBe("The fuse of 13 A is below the load of 13.7 A.");
        FuseAndFlex.Facts(Heater(600, 0.5, 1, 3), PackLibrary.Find("uk-cop-5")!).Recommended!.Value.Value.ShouldBe(3);
        FuseAndFlex
            .Facts(Heater(900, 0.5, 1, 3), PackLibrary.Find("uk-cop-5")!)
            .Recommended!.Value.Value.ShouldBe(3, "never 13 A behind 0.5 mm²");
    }

    [Theory]
    [InlineData(11_000, 400.0, 15.877)]
    [InlineData(11_000, null, 15.942)] // without a plate voltage three times the nominal
    public void Three_phases_share_the_load(double watts, double? volts, double amperes)
    {
        var item = Heater(watts, 2.5, 2, 16, phases: 3) with { RatedVoltage = volts is { } plate ? new(plate) : null };
        FuseAndFlex.Facts(item, PackLibrary.Find("uk-cop-5")!).Load!.Value.Value.ShouldBe(amperes, 0.001);
    }

    [Fact]
    public void Three_phase_leakage_is_scaled_to_the_voltage_to_neutral()
    {
        var pack = PackLibrary.Find("uk-cop-5")!;
        pack.NominalFor(Heater(11_000, 2.5, 2, 16, phases: 3, volts: 400)).Value.ShouldBe(230.94, 0.01);
        pack.NominalFor(Heater(11_000, 2.5, 2, 16, phases: 3, volts: 400) with { NominalMains = new(240) }).Value.ShouldBe(240);
    }

    [Theory]
    [InlineData("construction", 3, "push-button before use or daily")]
    [InlineData("kitchen", 6, "push-button before use or daily")]
    [InlineData("workshop", 12, "push-button before use or daily")]
    [InlineData("school", 12, "push-button every 3 months")]
    [InlineData("office", 24, "push-button every 3 months")]
    [InlineData("home", 24, "push-button every 3 months")]
    public void A_portable_rcd_is_tried_by_place(string place, double months, string button)
    {
        var answer = Ask.One(
            "interval",
            $$"""{"standard":"as-nzs-3760-2022","kind":"portableRcd","place":"{{place}}","testDate":"2026-01-10"}"""
        );
        answer.GetProperty("userCheck").GetString().ShouldBe(button);
        answer
            .GetProperty("because")
            .EnumerateArray()
            .Select(line => line.GetString()!)
            .ShouldContain(line => line.Contains($"{months} months"));
    }

    [Fact]
    public void Emergency_transport_and_scopes_of_earlier_tests_count()
    {
        var ambulance = Ask.One(
            "interval",
            """{"standard":"iec-62353-2014","place":"medical","emergencyTransport":true,"testDate":"2026-01-10"}"""
        );
        ambulance.GetProperty("combinedMonths").GetDouble().ShouldBe(12);
        string Of(string scope) =>
            Ask.One(
                    "interval",
                    $$"""{"standard":"uk-cop-5","place":"office","testDate":"2026-01-10","history":[{"date":"2024-01-01","verdict":"pass","scope":"{{scope}}"},{"date":"2025-01-01","verdict":"pass"}]}"""
                )
                .GetProperty("combinedMonths")
                .ToString();
        Of("formalVisual").ShouldBe("24", "one clean test is not two");
        Of("combined").ShouldBe("36");
    }

    [Theory]
    [InlineData("interval", """{"id":"a","standard":"uk-cop-5","place":"office","testDate":"9999-12-31"}""", "testDate")]
    [InlineData("interval", """{"id":"a","standard":"uk-cop-5","place":"office","testDate":"2026-01-01","capMonths":1e300}""", "capMonths")]
    [InlineData("interval", """{"id":"a","standard":"uk-cop-5","testDate":"2026-01-01","place":"office","place":"heavy"}""", "place")]
    [InlineData("interval", """{"standard":"uk\ud800","place":"office","testDate":"2026-01-01"}""", "standard")]
    [InlineData("interval", """{"id":"a\ud800","standard":"uk-cop-5","place":"office","testDate":"2026-01-01"}""", "id")]
    [InlineData("interval", """{"pl\ud800ce":1}""", "")]
    [InlineData("interval", """{"place":"\ud800"}""", "place")]
    [InlineData("assess", """{"standard":"uk-cop-5","item":{"kind":"appliance","ratedPowerW":1e30}}""", "item.ratedPowerW")]
    [InlineData("diagnose", """{"standard":"uk-cop-5","item":{"kind":"appliance"},"history":[{}]}""", "history[0].date")]
    public void A_bad_request_is_answered_with_its_place_and_nothing_breaks(string verb, string request, string path) =>
        Ask.One(verb, request).GetProperty("error").GetProperty("path").GetString().ShouldBe(path);

    [Fact]
    public void A_request_has_an_end()
    {
        var reading = """{"test":"functional","ok":true}""";
        var many = string.Join(',', Enumerable.Repeat(reading, 2001));
        var error = Ask.One("assess", $$"""{"standard":"uk-cop-5","item":{"kind":"appliance"},"readings":[{{many}}]}""")
            .GetProperty("error");
        error.GetProperty("path").GetString().ShouldBe("readings");
        error.GetProperty("message").GetString().ShouldBe("has 2001 entries, and one request may have 2000: send several");
        var long1 = new string('a', 1001);
        Ask.One("diagnose", $$"""{"say":"{{long1}}"}""").GetProperty("error").GetProperty("path").GetString().ShouldBe("say");
    }

    /// <summary>A trip time at its rating under a standard, of a 30 mA RCD whose own standard allows so much.</summary>
    private static (string Status, string Line) Trip(string pack, double tripped, string own, int multiple = 1)
    {
        var judged = Ask.Assess(
                $$$"""
                {"standard":"{{{pack}}}","visual":"pass","item":{"kind":"portableRcd","rcd":{"ratedResidualMa":30{{{own}}}}},
                 "readings":[{"test":"rcdTrip","multiple":{{{multiple}}},"tripped":true,"value":{{{tripped}}},"unit":"ms"}]}
                """
            )
            .GetProperty("results")[0];
        return (judged.GetProperty("status").GetString()!, judged.GetProperty("working")[0].GetString()!);
    }

    [Theory]
    [InlineData("uk-cop-5", 250, "", "fail")]
    [InlineData("uk-cop-5", 250, ",\"ownTripMs\":300", "pass")]
    [InlineData("uk-cop-5", 300, ",\"ownTripMs\":300", "pass")]
    [InlineData("uk-cop-5", 310, ",\"ownTripMs\":500", "fail")] // never beyond what the row lets it
    [InlineData("uk-cop-5", 150, ",\"ownTripMs\":130", "fail")] // a stricter own standard wins
    [InlineData("en-50699-2020", 310, ",\"ownTripMs\":500", "fail")] // no allowance: the pack is the last word
    [InlineData("en-50699-2020", 250, ",\"ownTripMs\":200", "fail")]
    [InlineData("as-nzs-3760-2022", 250, ",\"ownTripMs\":300", "pass")]
    public void An_rcd_trips_within_what_its_own_standard_allows(string pack, double tripped, string own, string status) =>
        Trip(pack, tripped, own).Status.ShouldBe(status);

    [Fact]
    public void The_own_standard_speaks_at_the_rating_alone_and_is_named()
    {
        Trip("uk-cop-5", 250, ",\"ownTripMs\":300").Line.ShouldBe("limit not more than 300 ms, by the device's own standard");
        Trip("uk-cop-5", 250, ",\"ownTripMs\":200").Line.ShouldBe("limit not more than 200 ms");
        Trip("uk-cop-5", 60, ",\"ownTripMs\":300", multiple: 5).Status.ShouldBe("fail");
    }

    [Fact]
    public void A_house_limit_is_stricter_than_an_own_standard()
    {
        var pack = HouseLimits
            .Apply(PackLibrary.Find("uk-cop-5")!, [new("rcd-30", 180, Quantities.Unit.Millisecond, "quicker here")])
            .Value;
        var item = new Item
        {
            Kind = ItemKind.PortableRcd,
            Rcd = new(0.03),
            RcdOwnTrip = new(0.3),
        };
        pack.LimitFor(item, new Conditions.RcdTrip())!.Value!.Value.Si.ShouldBe(0.18);
    }
}
