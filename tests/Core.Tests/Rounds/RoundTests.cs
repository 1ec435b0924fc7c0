using System.Collections.Immutable;
using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Shouldly;

namespace Osierwand.Core.Tests.Rounds;

/// <summary>Planning a round: how long it takes, who does it when, what is brought, and when it may close.</summary>
public class RoundTests
{
    private static readonly Thresholds Rules = Thresholds.Shipped;
    private static readonly DateOnly Tuesday = new(2026, 3, 3);

    private static TimeSpan[] Runs(params double[] minutes) => [.. minutes.Select(TimeSpan.FromMinutes)];

    [Fact]
    public void Bench_time_is_the_median_of_an_items_own_runs_else_of_its_kind()
    {
        var own = BenchTime.Of(Runs(4, 5, 12), Runs(20, 20), Rules, Rules.BenchUnknown);
        (own.Median, own.Basis, own.Runs).ShouldBe((TimeSpan.FromMinutes(5), TimeBasis.Own, 3));
        (own.Low, own.High).ShouldBe((TimeSpan.FromMinutes(4.5), TimeSpan.FromMinutes(8.5)));
        BenchTime
            .Of(Runs(4, 5), Runs(20, 22), Rules, Rules.BenchUnknown)
            .Median.ShouldBe(TimeSpan.FromMinutes(21), "two runs of its own are too few");
        BenchTime.Of(Runs(4, 5), [], Rules, Rules.BenchUnknown).Basis.ShouldBe(TimeBasis.Own, "and better than none");
        BenchTime
            .Of([], [], Rules, Rules.BenchUnknown)
            .ShouldBe(new(Rules.BenchUnknown, Rules.BenchUnknown, Rules.BenchUnknown, TimeBasis.Unknown, 0));
    }

    [Fact]
    public void A_sheet_that_lay_open_over_lunch_tells_nothing() =>
        BenchTime.Of(Runs(5, 6, 7, 600, 0, -3), [], Rules, Rules.BenchUnknown).Runs.ShouldBe(3);

    [Fact]
    public void A_sum_lies_within_its_spread_and_never_below_nothing() =>
        Gen.Double[0.5, 100]
            .Array[1, 12]
            .Array[0, 30]
            .Sample(items =>
            {
                var times = items.Select(it => BenchTime.Of(Runs(it), [], Rules, Rules.BenchUnknown)).ToArray();
                var sum = BenchTime.Sum(times);
                sum.Median.TotalSeconds.ShouldBe(times.Sum(it => it.Median.TotalSeconds), 1e-3);
                sum.Low.ShouldBeLessThanOrEqualTo(sum.Median);
                sum.High.ShouldBeGreaterThanOrEqualTo(sum.Median);
                sum.Low.ShouldBeGreaterThanOrEqualTo(TimeSpan.Zero);
            });

    private static readonly Item Rail = OnTheBench.Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null };
    private static readonly ImmutableArray<HeldCompetence> PlugIn = [new(Competence.PlugIn, null, "assessed")];

    private static RoundWork Work(string tag, string room, double minutes, Item? item = null) =>
        new(Guid.NewGuid(), tag, "Thing", room, item ?? OnTheBench.Kettle, TimeSpan.FromMinutes(minutes));

    private static RoundDay Day(int day, string person, double minutes, ImmutableArray<HeldCompetence>? held = null) =>
        new(Tuesday.AddDays(day), Guid.NewGuid(), person, TimeSpan.FromMinutes(minutes), held ?? OnTheBench.Competent);

    [Fact]
    public void Rooms_fill_the_days_whole_and_in_walking_order()
    {
        var plan = DayPlan.Of(
            [Day(1, "Ida", 60), Day(0, "Ida", 60)],
            [Work("A", "Hall", 30), Work("B", "Hall", 20), Work("C", "Bar", 40), Work("D", "Loft", 10)],
            []
        );
        plan.Days.Select(it => string.Join(' ', it.Rooms.Select(room => room.Room))).ShouldBe(["Hall Loft", "Bar"]);
        plan.NotPlaced.ShouldBeEmpty();
        plan.Remarks.ShouldBeEmpty();
    }

    [Fact]
    public void What_does_not_fit_is_said_in_time_and_rooms()
    {
        var plan = DayPlan.Of([Day(0, "Ida", 60)], [Work("A", "Hall", 50), Work("B", "Bar", 45)], []);
        plan.NotPlaced.ShouldHaveSingleItem().Tag.ShouldBe("B");
        plan.Remarks.ShouldHaveSingleItem().Text.ShouldStartWith("45 min too much for these days: B Thing in Bar.");
        DayPlan.Of([], [Work("A", "Hall", 50)], []).Remarks.ShouldBeEmpty("no days are planned yet");
    }

    [Fact]
    public void An_item_falls_on_somebody_who_may_test_it_or_it_is_said_who_could()
    {
        var work = new[] { Work("A", "Hall", 10), Work("R", "Bath", 10, Rail) };
        var both = DayPlan.Of([Day(0, "Rufus", 100, PlugIn), Day(1, "Ida", 100)], work, []);
        both.Days[1].Work.ShouldHaveSingleItem().Tag.ShouldBe("R");
        var alone = DayPlan.Of([Day(0, "Rufus", 100, PlugIn)], work, [("Maud", OnTheBench.Competent), ("Wilf", [])]);
        var remark = alone.Remarks.ShouldHaveSingleItem();
        remark.Text.ShouldBe("R Thing asks for hard-wired equipment, which nobody on this round holds.");
        remark.HeldBy.ShouldBe(["Maud"]);
    }

    [Fact]
    public void Every_item_is_placed_once_or_told_and_no_day_is_overfilled() =>
        Gen.Select(Gen.Int[1, 120].Array[0, 6], Gen.Select(Gen.Int[0, 4], Gen.Int[1, 40], Gen.Bool).Array[0, 40])
            .Sample(
                (slots, items) =>
                {
                    var days = slots.Select((minutes, at) => Day(at / 2, $"P{at}", minutes, at % 2 == 0 ? null : PlugIn)).ToArray();
                    var work = items.Select((it, at) => Work($"T{at}", $"R{it.Item1}", it.Item2, it.Item3 ? Rail : null)).ToArray();
                    var plan = DayPlan.Of(days, work, []);
                    plan.Days.SelectMany(it => it.Work)
                        .Concat(plan.NotPlaced)
                        .Select(it => it.Tag)
                        .Order()
                        .ShouldBe(work.Select(it => it.Tag).Order());
                    plan.Days.ShouldAllBe(it => it.Left >= TimeSpan.Zero);
                    plan.Days.ShouldAllBe(it =>
                        it.Work.All(one => CompetenceFor.Lacking(one.Equipment, it.Day.Competences, it.Day.Day).IsEmpty)
                    );
                    if (days.Length > 0)
                        plan.Remarks.IsEmpty.ShouldBe(plan.NotPlaced.IsEmpty, "whatever is left over is said");
                },
                iter: 300
            );

    private static (Item, RunSheet) Sheet(Item item, string pack = "uk-cop-5", Scope scope = Scope.Combined) =>
        (item, RunSheet.Of(OnTheBench.RulingFor(item, pack) with { Scope = scope }));

    private static string Bring(params (Item, RunSheet)[] items) =>
        string.Join('\n', PackingList.Of(items).Select(it => $"{it.What}: {it.For}"));

    [Fact]
    public void The_packing_list_follows_from_the_run_sheets()
    {
        var list = Bring(
            Sheet(OnTheBench.Kettle),
            Sheet(OnTheBench.Kettle with { RatedVoltage = new(110), Plug = PlugType.Industrial, PlugFuse = null }),
            Sheet(OnTheBench.Drill with { AllInsulated = true }),
            Sheet(OnTheBench.Reel with { Rcd = new(0.03) }),
            Sheet(Rail),
            Sheet(OnTheBench.Pump, "iec-62353-2014")
        );
        list.ShouldContain("110 V transformer and adapter: 1 tool");
        list.ShouldContain("Isolating adapter: 1 RCD");
        list.ShouldContain("Lock-off set, voltage indicator, proving unit: 1 hard-wired item");
        list.ShouldContain("Foil or mesh: 1 class II case without metal");
        list.ShouldContain("Applied-part leads: 1 medical device");
        list.ShouldContain("Spare fuses 13 A: 2, for 3 fitted");
        list.ShouldContain("Labels: 6 and 2 for fails");
        list.ShouldContain("Instrument: RCD trip times: 1 item");
    }

    [Fact]
    public void Nothing_is_brought_that_no_sheet_asks_for()
    {
        Bring().ShouldBe("");
        var look = Bring(Sheet(Rail, scope: Scope.FormalVisual));
        look.ShouldNotContain("Instrument");
        look.ShouldNotContain("Lock-off");
        Bring(Sheet(OnTheBench.Drill)).ShouldNotContain("Foil");
    }

    private static RoundTally Tally(int planned = 3, int done = 3, int notTested = 0, int left = 0, int toSee = 0, bool hasStory = false) =>
        new(planned, done, notTested, left, toSee, hasStory);

    [Fact]
    public void A_round_goes_from_planned_to_closed_by_the_steps_there_are()
    {
        var allowed =
            from one in Enum.GetValues<RoundState>()
            from other in Enum.GetValues<RoundState>()
            where RoundMoves.Refusal(one, other, Tally(), isLead: true) is null
            select $"{one} {other}";
        allowed.ShouldBe(["Planned Open", "Open Planned", "Open Review", "Review Open"]);
        RoundMoves
            .Refusal(RoundState.Open, RoundState.Planned, Tally(done: 0, hasStory: true), true)!
            .ShouldContain("cannot be planned any more");
        RoundMoves.Refusal(RoundState.Planned, RoundState.Open, Tally(planned: 0), true)!.ShouldContain("Nothing is planned");
        RoundMoves.Refusal(RoundState.Closed, RoundState.Open, Tally(), true)!.ShouldContain("stays closed");
    }

    [Theory]
    [InlineData(1, 0, "One item is neither done")]
    [InlineData(4, 0, "4 items are neither done")]
    [InlineData(0, 2, "failures that were not saved wait for a lead")]
    public void It_closes_when_every_item_is_done_not_tested_or_moved(int left, int toSee, string why) =>
        RoundMoves.WhyNotSigned(RoundState.Review, Tally(left: left, toSee: toSee), 0, true)!.ShouldContain(why);

    [Fact]
    public void Leads_open_and_close_and_whoever_walked_it_gives_it_to_review()
    {
        RoundMoves.Refusal(RoundState.Planned, RoundState.Open, Tally(), false).ShouldNotBeNull();
        RoundMoves.Refusal(RoundState.Review, RoundState.Closed, Tally(), true)!.ShouldContain("signing");
        RoundMoves.Refusal(RoundState.Open, RoundState.Review, Tally(left: 2), false).ShouldBeNull();
    }
}
