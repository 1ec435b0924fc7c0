using Osierwand.Core.Bench;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A test after repair closes the failure it points at, and says what was mended.</summary>
public sealed class RepairTests
{
    private static readonly RepairSaid Mended = new("loose core", "rewired", "plug", "Rufus");

    private static OnTheBench Laid(RepairSaid? told, ItemState state = ItemState.Quarantined)
    {
        var ruling = RulingFor(Kettle, state: state);
        return new(ruling with { Item = ruling.Item with { Held = new(Guid.NewGuid(), "Earth: 0.8 above 0.13", new(2026, 2, 20), told) } });
    }

    private static Guid Tell(OnTheBench bench, string found = "loose core", string done = "rewired", string by = "Rufus") =>
        bench.Happens(next => new RepairTold
        {
            Id = next.Id,
            At = next.At,
            Found = found,
            Done = done,
            RepairedBy = by,
        });

    [Fact]
    public void Told_on_the_board_it_passes_and_the_record_points_at_the_failure()
    {
        var bench = Laid(Mended).LookGood().PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
        var record = bench.Record();
        record.Closes.ShouldBe(bench.Ruling.Item.Held);
        var paper = Papers.PaperTests.Paper(record);
        paper
            .Basis.Single(it => it.Label == "Closes")
            .Text.ShouldBe(
                "the failure of 20 February 2026: Earth: 0.8 above 0.13. Since then repaired by Rufus: found loose core; rewired; parts: plug"
            );
        InspectionRecord.Read(record.ToJson()).Value.Closes.ShouldBe(record.Closes);
    }

    [Fact]
    public void Untold_it_does_not_pass_before_it_is_said_and_the_key_asks_for_it()
    {
        var bench = Laid(null).LookGood().PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.View.Ahead.Kind.ShouldBe(AheadKind.TellRepair);
        bench.View.LacksRepair.ShouldBeTrue();
        Tell(bench, by: " ");
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("by whom");
        Tell(bench);
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
        bench.Record().Closes!.Repair.ShouldBe(new("loose core", "rewired", null, "Rufus"));
    }

    [Fact]
    public void A_failure_and_a_look_alone_ask_for_no_repair()
    {
        var failed = Laid(null).LookGood();
        failed.Type("earthContinuity", "9");
        failed.IsOpen(EndKind.Fail).ShouldBeTrue();
        failed.View.Ahead.Kind.ShouldBe(AheadKind.Settle);
        failed.Record(EndKind.Fail).Closes.ShouldBeNull();
    }

    [Fact]
    public void In_service_there_is_nothing_that_a_repair_would_close()
    {
        var bench = With(Kettle);
        Tell(bench);
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("in service");
        bench.LookGood().PassTheRest();
        bench.Record().Closes.ShouldBeNull();
    }
}
