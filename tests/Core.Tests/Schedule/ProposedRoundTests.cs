using Osierwand.Core.Competences;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Shouldly;
using Xunit;

namespace Osierwand.Core.Tests.Schedule;

/// <summary>What a plan says of itself to whoever takes its rounds.</summary>
public sealed class ProposedRoundTests
{
    private static readonly DateOnly Monday = new(2026, 3, 2);
    private static readonly Guid Site = new(1, 0, 0, new byte[8]);
    private static readonly Guid Person = new(2, 0, 0, new byte[8]);

    private static VisitPlan Plan(int[] days, int travel, params (int By, int Minutes, Competence Asks)[] work) =>
        Planner.Plan(
            PlanSetting
                .Of(
                    days.Select(day => new RoundDay(
                        Monday.AddDays(day),
                        Person,
                        "Ida",
                        TimeSpan.FromMinutes(100),
                        [new(Competence.PlugIn, null, "")]
                    )),
                    [new(Site, "Yard", TimeSpan.FromMinutes(travel))],
                    [
                        .. work.Select(
                            (it, at) =>
                                new DueWork(
                                    new(100 + at, 0, 0, new byte[8]),
                                    Site,
                                    Monday.AddDays(it.By),
                                    DueTier.Combined,
                                    TimeSpan.FromMinutes(it.Minutes),
                                    Monday.AddDays(it.By).AddMonths(-12),
                                    [it.Asks]
                                )
                        ),
                    ]
                )
                .Value
        );

    [Fact]
    public void Days_that_follow_each_other_are_one_round_over_a_weekend_too_and_a_gap_begins_another()
    {
        // Each day holds one of them.
        var plan = Plan([0, 4, 20], 10, (0, 80, Competence.PlugIn), (4, 80, Competence.PlugIn), (20, 80, Competence.PlugIn));
        ProposedRound
            .Of(plan)
            .Select(it => (it.From, it.To))
            .ShouldBe([(Monday, Monday.AddDays(4)), (Monday.AddDays(20), Monday.AddDays(20))]);
        ProposedRound.Of(plan)[0].Travel.ShouldBe(TimeSpan.FromMinutes(20));
    }

    [Fact]
    public void It_says_what_is_late_and_what_comes_a_week_early_and_nothing_of_what_is_neither()
    {
        var late = ProposedRound.Of(Plan([5], 0, (0, 10, Competence.PlugIn), (5, 10, Competence.PlugIn))).ShouldHaveSingleItem();
        // The first day there is: what was due before it is not late by the plan.
        (late.LateText, late.EarlyText).ShouldBe((null, null));
        var crowded = Plan([0, 1], 0, (0, 90, Competence.PlugIn), (0, 90, Competence.PlugIn));
        ProposedRound.Of(crowded)[0].LateText.ShouldBe("1 item after its date.");
        ProposedRound
            .Of(Plan([0], 0, (6, 10, Competence.PlugIn), (7, 10, Competence.PlugIn), (30, 10, Competence.PlugIn)))[0]
            .EarlyText.ShouldBe("2 items up to 30 days early, so that nobody comes twice.");
    }

    [Fact]
    public void What_the_plan_cannot_do_is_said_with_who_could_be_asked_or_what_would_mend_it()
    {
        (string, System.Collections.Immutable.ImmutableArray<HeldCompetence>)[] house =
        [
            ("Maud", [new(Competence.HardWired, null, "")]),
            ("Ida", [new(Competence.PlugIn, null, "")]),
            ("Rufus", [new(Competence.HardWired, Monday, "lapses before")]),
        ];
        var remarks = PlanRemarks.Of(
            Plan([0, 9], 0, (0, 10, Competence.HardWired), (0, 99, Competence.PlugIn), (0, 99, Competence.PlugIn)),
            house
        );
        remarks
            .Select(it => it.Text)
            .ShouldBe([
                "1 item asks for hard-wired equipment, which nobody with bench time holds.",
                "1 item at Yard (1 h 39) comes after its date: no earlier day has room.",
            ]);
        remarks[0].HeldBy.ShouldBe(["Maud"]);
        PlanRemarks
            .Of(Plan([0], 0, (0, 99, Competence.PlugIn), (0, 99, Competence.PlugIn)), house)
            .ShouldHaveSingleItem()
            .Text.ShouldBe("1 item at Yard (1 h 39) has no day in these weeks: add bench time, or plan more weeks.");
        PlanRemarks
            .Of(Plan([], 0, (0, 99, Competence.PlugIn)), house)
            .ShouldHaveSingleItem()
            .Text.ShouldBe("Nobody has bench time in these weeks: enter it under Bench hours.");
        PlanRemarks.Of(Plan([0], 0), house).ShouldBeEmpty();
    }

    [Fact]
    public void What_was_moved_by_hand_is_said_to_be_and_no_lack_of_room_is_made_up_for_it()
    {
        var plan = Plan([0, 5, 9], 10, (5, 20, Competence.PlugIn), (9, 30, Competence.PlugIn));
        var first = plan.Setting.Work[0].ItemId;
        string[] Says(VisitPlan it) => [.. PlanRemarks.Of(it, []).Select(remark => remark.Text)];
        Says(plan).ShouldBeEmpty();
        var late = plan.With([first], (Monday.AddDays(9), Person)).Value;
        Says(late).ShouldBe(["1 item at Yard (20 min) was moved past its date by hand, though a day in time has room."]);
        Says(plan.With([first], null).Value).ShouldBe(["1 item at Yard (20 min) was taken out by hand, though a day has room."]);
        PlanText.Price(plan.Cost, late.Cost).ShouldContain("1 more after their date");
        PlanText.Price(late.Cost, plan.Cost).ShouldContain("1 fewer after their date");
        PlanText.Price(plan.Cost, plan.Cost).ShouldBe("costs nothing");
    }

    [Fact]
    public void A_plan_says_what_it_holds_what_it_is_paid_with_and_how_near_that_is_to_the_least()
    {
        var plan = Plan([0, 5], 15, (5, 20, Competence.PlugIn));
        PlanText
            .Summary(plan, 1)
            .ShouldBe("1 round with 1 item, none after its date. 15 min on the road, 0 min of bench time thrown away by coming early.");
        PlanText.Bound(plan).ShouldBe("No plan with the same in time is paid with less.");
        var dearer = plan.With([plan.Setting.Work[0].ItemId], (Monday, Person)).Value;
        PlanText.Price(ProposedRound.Of(plan)[0]).ShouldBe("20 min at the bench, 15 min on the road");
        dearer.Cost.Paid.ShouldBeGreaterThan(plan.Cost.Paid);
    }
}
