using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Papers;
using Osierwand.Core.Records;
using Osierwand.Core.Tests.Bench;
using Shouldly;

namespace Osierwand.Core.Tests.Papers;

/// <summary>What a client reads is what the record says, the gravest first.</summary>
public class PaperTests
{
    private static readonly Provenance First = new(7, "00ff", []);

    private static OnTheBench Pump() => OnTheBench.With(OnTheBench.Pump, "iec-62353-2014");

    private static InspectionRecord Saved(OnTheBench bench, EndKind end, NotTestedReason? notTested = null) =>
        RecordWriter
            .Write(
                bench.State,
                bench.Events,
                new(end, notTested),
                Guid.Parse("00000000-0000-0000-0000-00000000000f"),
                new(2026, 3, 2, 10, 0, 0, TimeSpan.Zero),
                TimeZoneInfo.Utc,
                new(2026, 1, 1)
            )
            .Value;

    internal static ItemPaper Paper(InspectionRecord record, params InspectionRecord[] before) =>
        PaperWriter.Of(record, First, before, TimeZoneInfo.Utc);

    private static void Happens(OnTheBench bench, Func<Guid, DateTimeOffset, BenchEvent> made) =>
        bench.Happens(next => made(next.Id, next.At));

    [Fact]
    public void A_medical_protocol_says_what_the_standard_asks_of_documentation()
    {
        var bench = Pump();
        Happens(
            bench,
            (id, at) =>
                new WorkOrderTold
                {
                    Id = id,
                    At = at,
                    Number = "WO-118",
                    Fault = "alarm does not sound",
                }
        );
        bench.PassTheRest();
        Happens(
            bench,
            (id, at) =>
                new StickerSaid
                {
                    Id = id,
                    At = at,
                    IsFitted = true,
                }
        );
        var paper = Paper(Saved(bench, EndKind.Pass));
        paper.Title.ShouldBe("Test protocol of a medical device");
        paper.Basis.Single(it => it.Label == "Work order").Text.ShouldBe("WO-118");
        paper.Basis.Single(it => it.Label == "Reported fault").Text.ShouldBe("alarm does not sound");
        paper.Signatures.Single(it => it.Label == "Sticker").Text.ShouldBe("fitted");
        paper.Evaluation[0].ShouldContain("confirmed by Ida");
        paper.Look.Outcome.ShouldBe(Look.Pass);
        paper.Look.Points.ShouldNotBeEmpty();
        var leakage = paper.Readings.First(it => it.Name == "Equipment leakage");
        (leakage.Limit, leakage.Status).ShouldBe(("≤ 0.5 mA", Status.Pass));
        leakage.Clause.ShouldContain("Table 2");
        leakage.Rail!.Value.ShouldBeLessThan(leakage.Rail.Limit);
        paper.Origin[1].ShouldBe("number 7 in the book of CLT, chained as 00ff");
    }

    [Fact]
    public void A_sticker_that_nobody_spoke_of_is_not_said_to_be_fitted()
    {
        var paper = Paper(Saved(Pump().PassTheRest(), EndKind.Pass));
        paper.Signatures.Single(it => it.Label == "Sticker").Text.ShouldBe("not said");
    }

    [Fact]
    public void A_sticker_belongs_to_a_medical_device()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle);
        Happens(
            bench,
            (id, at) =>
                new StickerSaid
                {
                    Id = id,
                    At = at,
                    IsFitted = true,
                }
        );
        bench.State.Sticker.ShouldBeNull();
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("medical");
    }

    [Fact]
    public void A_failed_item_is_out_of_use_before_anything_else_is_said()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle).LookGood();
        bench.Type("earthContinuity", "1.4");
        var paper = Paper(Saved(bench, EndKind.Fail));
        paper.Act.ShouldStartWith("Do not use it.");
        paper.Title.ShouldBe("Report of a failed inspection and test");
        paper.Worth.ShouldContain(it => it.Contains("1.4"));
        var earth = paper.Readings.ShouldHaveSingleItem();
        (earth.Status, earth.IsTyped).ShouldBe((Status.Fail, true));
        earth.Rail!.Value.ShouldBeGreaterThan(earth.Rail.Limit);
        paper.NotMeasured.ShouldContain(it =>
            it.Label.StartsWith("Insulation", StringComparison.Ordinal) && it.Text.StartsWith("not done")
        );
    }

    [Fact]
    public void Not_tested_is_no_certificate()
    {
        var paper = Paper(Saved(OnTheBench.With(OnTheBench.Kettle), EndKind.NotTested, NotTestedReason.InUse));
        paper.Title.ShouldBe("Not tested");
        paper.Act.ShouldContain("no statement that it is safe");
        paper.Readings.ShouldBeEmpty();
        paper.Next.ShouldHaveSingleItem().ShouldContain("stays as due");
    }

    [Fact]
    public void A_look_is_never_called_a_test()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle);
        Happens(
            bench,
            (id, at) =>
                new ScopeChosen
                {
                    Id = id,
                    At = at,
                    Scope = Planning.Scope.FormalVisual,
                }
        );
        var paper = Paper(Saved(bench.PassTheRest(), EndKind.Pass));
        paper.Title.ShouldBe("Record of a formal visual inspection");
        paper.Signatures[0].Label.ShouldBe("Inspected by");
        paper.Basis.Single(it => it.Label == "Kind").Text.ShouldBe("formal visual");
    }

    [Fact]
    public void A_voided_reading_stands_apart_with_its_reason_and_on_no_rail()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle).LookGood();
        bench.Void(bench.Type("earthContinuity", "1.4"), "clip was on paint");
        var paper = Paper(Saved(bench.PassTheRest(), EndKind.Pass));
        var apart = paper.NotCounted.ShouldHaveSingleItem();
        (apart.Label, apart.Text).ShouldBe(("Earth continuity: 1.4 Ω", "clip was on paint"));
        paper.Readings.ShouldNotContain(it => it.Value == "1.4 Ω");
    }

    [Fact]
    public void A_record_that_was_taken_back_says_so_first()
    {
        var record = Saved(OnTheBench.With(OnTheBench.Kettle).PassTheRest(), EndKind.Pass);
        var later = new LaterRecord(9, new(2026, 3, 4), "Maud", "it was another kettle");
        var paper = PaperWriter.Of(record, First with { Corrections = [later] }, [], TimeZoneInfo.Utc);
        paper.Notices[0].ShouldStartWith("Taken back on 4 March 2026 by Maud (record 9): it was another kettle");
    }

    [Fact]
    public void What_was_measured_before_stands_beside_by_the_same_step_alone()
    {
        var before = Saved(OnTheBench.With(OnTheBench.Kettle).PassTheRest(), EndKind.Pass);
        var dated = before with { Times = before.Times with { Date = new(2025, 3, 2) } };
        var paper = Paper(Saved(OnTheBench.With(OnTheBench.Kettle).PassTheRest(), EndKind.Pass), dated);
        var earth = paper.Readings.Single(it => it.Name == "Earth continuity");
        earth.Last.ShouldEndWith("Mar 2025");
        earth.Rail!.Earlier.ShouldHaveSingleItem();
        var other = Saved(OnTheBench.With(OnTheBench.Drill).PassTheRest(), EndKind.Pass);
        Paper(Saved(OnTheBench.With(OnTheBench.Kettle).PassTheRest(), EndKind.Pass), other)
            .Readings.Single(it => it.Name == "Earth continuity")
            .Last.ShouldBeEmpty();
    }

    [Fact]
    public void What_is_off_the_scale_points_where_it_lies()
    {
        var paper = Paper(Saved(OnTheBench.With(OnTheBench.Kettle).PassTheRest(), EndKind.Pass));
        var bounds = paper.Readings.Where(it => it.Value.StartsWith('>')).ToArray();
        bounds.ShouldNotBeEmpty();
        bounds.ShouldAllBe(it => it.Rail!.BoundTowards == 1 && it.Rail.IsFloor);
    }
}
