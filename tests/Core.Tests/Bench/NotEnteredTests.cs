using Osierwand.Core.Bench;
using Osierwand.Core.Contracts;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Readings that cannot be, rule 6: what nobody entered is not found good.</summary>
public class NotEnteredTests
{
    private static readonly Item Bare = new() { Kind = ItemKind.Appliance, Class = ProtectionClass.I };

    public static TheoryData<string, Item, string, string> Missing =>
        new()
        {
            { "nothing", Bare, "uk-cop-5", "plate (W or A), plug fuse, size of the flex" },
            { "plate", OnTheBench.Kettle with { RatedPower = null, RatedCurrent = null }, "uk-cop-5", "plate (W or A)" },
            { "fuse", OnTheBench.Kettle with { PlugFuse = null }, "uk-cop-5", "plug fuse" },
            { "flex", OnTheBench.Kettle with { Cord = null }, "uk-cop-5", "size of the flex" },
            { "elsewhere no plug has a fuse", Bare, "as-nzs-3760-2022", "plate (W or A), size of the flex" },
            {
                "a lead that comes off is an item of its own",
                Bare with
                {
                    Cord = new(Detachable: true),
                },
                "en-50699-2020",
                "plate (W or A)"
            },
            { "industrial", Bare with { Plug = PlugType.Industrial }, "uk-cop-5", "plate (W or A), size of the flex" },
        };

    [Theory]
    [MemberData(nameof(Missing))]
    public void What_was_not_entered_of_plate_fuse_and_flex_passes_with_advice_that_names_it(
        string what,
        Item item,
        string pack,
        string missing
    )
    {
        var sheet = OnTheBench.With(item, pack).LookGood();
        sheet.Stands("fuse").ShouldBe(Standing.NotMeasured, what);
        var record = sheet.PassTheRest().Record();
        record.Outcome.ShouldBe(Outcome.PassWithAdvice);
        record.Advice.ShouldContain($"Not entered: {missing}. Load, fuse and flex were not checked against one another.");
    }

    public static TheoryData<string, Item> Exempt =>
        new()
        {
            { "entered", OnTheBench.Kettle },
            { "extra-low voltage", Bare with { Class = ProtectionClass.III } },
            { "no plug", Bare with { Cord = new(Permanent: true), Use = UseOf.Fixed } },
            { "a lead", OnTheBench.Reel },
        };

    [Theory]
    [MemberData(nameof(Exempt))]
    public void What_has_none_of_it_or_all_of_it_passes_plainly(string what, Item item)
    {
        var record = OnTheBench.With(item).LookGood().PassTheRest().Record();
        record.Advice.ShouldNotContain(line => line.StartsWith("Not entered"), what);
    }

    [Fact]
    public void What_is_only_looked_at_is_exempt_and_its_look_is_whole_all_the_same()
    {
        var looked = OnTheBench.With(Bare);
        looked.IsOpen(EndKind.Looked).ShouldBeFalse();
        looked.LookGood();
        looked.IsOpen(EndKind.Looked).ShouldBeTrue();
        var visual = OnTheBench.With(Bare);
        visual.Choose(Scope.FormalVisual);
        visual.LookGood().PassTheRest().Record().Outcome.ShouldBe(Outcome.Pass);
    }

    public static TheoryData<Dictionary<string, string>, string?> Sheets =>
        new()
        {
            { [], "Not entered: plate (W or A), plug fuse, size of the flex." },
            {
                new() { ["ratedPowerW"] = "2200", ["plugFuseA"] = "13" },
                "Not entered: size of the flex."
            },
            {
                new()
                {
                    ["ratedPowerW"] = "2200",
                    ["plugFuseA"] = "13",
                    ["flexMm2"] = "1",
                },
                null
            },
        };

    [Theory]
    [MemberData(nameof(Sheets))]
    public void A_spreadsheet_says_what_its_columns_left_out(Dictionary<string, string> more, string? told)
    {
        var cells = new Dictionary<string, string>
        {
            ["tag"] = "A1",
            ["standard"] = "uk-cop-5",
            ["kind"] = "appliance",
            ["class"] = "I",
            ["visual"] = "pass",
            ["earth"] = "0.05",
            ["insulation"] = ">200",
            ["functional"] = "good",
        };
        foreach (var (column, cell) in more)
            cells[column] = cell;
        var answer = Sheet.Judge([new(2, cells)]).Single();
        answer.Verdict.ShouldBe(Verdict.Pass, answer.Fault?.Message);
        if (told is null)
            answer.Advice.ShouldNotContain("Not entered");
        else
            answer.Advice.ShouldContain(told);
    }

    [Fact]
    public void A_bare_request_is_judged_by_what_it_gives() =>
        Ask.One(
                "assess",
                """
                {"id":"a","standard":"uk-cop-5","item":{"kind":"appliance"},"visual":"pass","readings":[
                {"test":"earthContinuity","value":0.05,"unit":"ohm"},{"test":"insulation","value":200,"qualifier":">","unit":"Mohm"},{"test":"functional","ok":true}]}
                """
            )
            .GetProperty("advice")
            .GetArrayLength()
            .ShouldBe(0);
}
