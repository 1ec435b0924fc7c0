using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Looking;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Looking;

/// <summary>The house's own list: what it adds is asked, what it drops stands with its reason, and nothing is looked at by
/// nothing.</summary>
public class HouseLookTests
{
    private static readonly RulePack Uk = PackLibrary.Find("uk-cop-5")!;

    private static HouseLook List(AddedPoint[]? added = null, DroppedPoint[]? dropped = null) =>
        new(4, [.. added ?? []], [.. dropped ?? []]);

    private static readonly AddedPoint Guard = new(
        "house/3",
        "Guards",
        "Mesh guard whole",
        ["Guard bent"],
        LookReach.All with
        {
            Kinds = [ItemKind.Appliance],
        }
    );

    [Fact]
    public void An_added_point_is_asked_of_whom_it_is_for_and_waited_for()
    {
        var bench = new OnTheBench(RulingFor(Kettle) with { Look = List([Guard]) });
        bench.State.Sheet.Steps.OfType<SheetStep.Look>().Single().Points[^1].Id.ShouldBe("house/3");
        LookList.For(Reel, Uk, List([Guard])).ShouldNotContain(point => point.Id == "house/3");
        foreach (var point in LookList.For(Kettle, Uk))
            bench.LookAs(LookAnswer.Good, point: point.Id);
        bench.Stands("visual").ShouldBe(Standing.Open);
        bench.LookAs(LookAnswer.Bad, "Guard bent", "house/3");
        bench.Stands("visual").ShouldBe(Standing.Fail);
    }

    [Fact]
    public void A_dropped_point_is_told_with_its_reason_on_the_sheet()
    {
        var dropped = new DroppedPoint("chain", LookReach.All, "hire counter: nothing is plugged in there");
        LookList.For(Kettle, Uk, List(dropped: [dropped])).ShouldNotContain(point => point.Id == "chain");
        var bench = new OnTheBench(RulingFor(Kettle) with { Look = List(dropped: [dropped]) });
        bench.State.Sheet.Remarks.ShouldContain(line => line.Contains("hire counter", StringComparison.Ordinal));
        bench.LookGood().Stands("visual").ShouldBe(Standing.Pass);
        bench.PassTheRest().Record().Rules.LookRevision.ShouldBe(4);
    }

    [Fact]
    public void A_bad_answer_stays_bad_though_its_point_was_dropped()
    {
        var bench = With(Kettle);
        bench.LookAs(LookAnswer.Bad, "Daisy-chained", "chain");
        var later = new OnTheBench(bench.Ruling with { Look = List(dropped: [new("chain", LookReach.All, "no")]) });
        later.Events.AddRange(bench.Events);
        later.State.HasFailed.ShouldBeTrue();
    }

    [Fact]
    public void Where_everything_would_be_dropped_the_shipped_list_stands()
    {
        var all = LookList.Shipped.Select(point => new DroppedPoint(point.Id, LookReach.All, "no time")).ToArray();
        LookList.For(Kettle, Uk, List(dropped: all)).ShouldBe(LookList.For(Kettle, Uk));
    }

    [Theory]
    [InlineData("", "Text", "where")]
    [InlineData("Plug", " ", "text")]
    public void A_point_says_where_and_what(string where, string text, string path) =>
        HouseLook.Refusal(Guard with { Where = where, Text = text })!.Path.ShouldBe(path);

    [Fact]
    public void A_point_is_dropped_for_a_reason_and_must_be_there()
    {
        HouseLook.Refusal(new DroppedPoint("chain", LookReach.All, " "))!.Path.ShouldBe("reason");
        HouseLook.Refusal(new DroppedPoint("nonsense", LookReach.All, "no"))!.Path.ShouldBe("pointId");
        HouseLook.Refusal(new DroppedPoint("chain", LookReach.All, "no")).ShouldBeNull();
    }

    [Fact]
    public void The_reach_is_by_kind_class_plug_and_standard()
    {
        var reach = new LookReach([ItemKind.Appliance], [ProtectionClass.II], [PlugType.Moulded], ["uk-cop-5"]);
        var moulded = Drill with { Plug = PlugType.Moulded };
        reach.Reaches(moulded, Uk).ShouldBeTrue();
        reach.Reaches(Drill, Uk).ShouldBeFalse();
        reach.Reaches(moulded with { Class = ProtectionClass.I }, Uk).ShouldBeFalse();
        reach.Reaches(moulded, PackLibrary.Find("en-50699-2020")!).ShouldBeFalse();
        reach.Reaches(moulded with { Cord = new(Permanent: true) }, Uk).ShouldBeFalse("hard-wired equipment has no plug");
    }

    [Theory]
    [InlineData(0.08, LookAnswer.Good, true)]
    [InlineData(1, LookAnswer.Good, true)]
    [InlineData(1.2, LookAnswer.Good, false)]
    [InlineData(1.2, LookAnswer.Bad, true)]
    [InlineData(-1, LookAnswer.Bad, false)]
    public void A_fuse_that_is_open_is_never_called_good(double ohm, LookAnswer answer, bool counts)
    {
        var bench = With(Kettle);
        bench.Happens(next => new Looked
        {
            Id = next.Id,
            At = next.At,
            Points = [new("fuse", answer, answer == LookAnswer.Bad ? "open" : null, ohm)],
        });
        bench.State.Refused.IsEmpty.ShouldBe(counts);
        bench.State.Look.Answers.Any(it => it.Ohm == ohm).ShouldBe(counts);
    }
}
