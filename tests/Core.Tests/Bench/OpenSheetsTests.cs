using Osierwand.Core.Bench;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Sheets of several pages in one engine: what one of them is answered comes from its own sheet.</summary>
public class OpenSheetsTests
{
    private static BenchSession SheetOf(Equipment.Item item) => new(RulingFor(item, "uk-cop-5"), []);

    [Fact]
    public void A_reading_on_one_handle_is_judged_on_that_handles_item_alone()
    {
        var sheets = new OpenSheets(4);
        sheets.Open("kettle", SheetOf(Kettle));
        sheets.Open("drill", SheetOf(Drill));
        var before = BenchJson.Write(sheets.Find("drill").ShouldNotBeNull().View());
        sheets
            .Find("kettle")
            .ShouldNotBeNull()
            .Append(
                new ReadingTaken
                {
                    Id = Guid.NewGuid(),
                    At = DateTimeOffset.UnixEpoch,
                    Step = "earthContinuity",
                    Source = ReadingSource.Typed,
                    Text = "0.9",
                }
            );
        sheets.Find("kettle").ShouldNotBeNull().State.HasFailed.ShouldBeTrue();
        BenchJson.Write(sheets.Find("drill").ShouldNotBeNull().View()).ShouldBe(before);
    }

    [Fact]
    public void A_sheet_that_was_closed_answers_nothing_and_closing_twice_does_nothing()
    {
        var sheets = new OpenSheets(4);
        sheets.Open("kettle", SheetOf(Kettle));
        sheets.Close("kettle");
        sheets.Close("kettle");
        sheets.Find("kettle").ShouldBeNull();
        sheets.Count.ShouldBe(0);
    }

    [Fact]
    public void A_handle_that_is_opened_again_has_the_new_sheet()
    {
        var sheets = new OpenSheets(4);
        var (first, second) = (SheetOf(Kettle), SheetOf(Kettle));
        sheets.Open("kettle", first);
        sheets.Open("kettle", second);
        sheets.Find("kettle").ShouldBeSameAs(second);
        sheets.Count.ShouldBe(1);
    }

    [Fact]
    public void Beyond_its_room_the_sheet_that_was_asked_for_least_recently_is_gone()
    {
        var sheets = new OpenSheets(2);
        sheets.Open("first", SheetOf(Kettle));
        sheets.Open("second", SheetOf(Kettle));
        sheets.Find("first").ShouldNotBeNull();
        sheets.Open("third", SheetOf(Kettle));
        (sheets.Find("first") is null, sheets.Find("second") is null, sheets.Find("third") is null).ShouldBe((false, true, false));
    }
}
