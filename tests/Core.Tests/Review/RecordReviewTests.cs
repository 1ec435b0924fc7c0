using Osierwand.Core.Bench;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Records;
using Osierwand.Core.Review;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Shouldly;

namespace Osierwand.Core.Tests.Review;

/// <summary>What a lead is shown of a record before signing, and what nobody signs unseen.</summary>
public class RecordReviewTests
{
    private static readonly ReviewBeside Nothing = new(null, null, null, []);
    private static readonly InspectionRecord Good = Taking(OnTheBench.With(OnTheBench.Kettle).PassTheRest().Record(), 5);

    /// <summary>As if it had lain on the bench for so many minutes, and come in at once.</summary>
    private static InspectionRecord Taking(InspectionRecord record, double minutes) =>
        record with
        {
            Times = record.Times with
            {
                TakenTo = record.Times.TakenFrom.AddMinutes(minutes),
                ReceivedAt = record.Times.TakenFrom.AddMinutes(minutes),
            },
        };

    private static ReviewReason[] Reasons(InspectionRecord record, ReviewBeside? beside = null) =>
        [.. RecordReview.Of(record, beside ?? Nothing, Thresholds.Shipped).Select(it => it.Reason)];

    [Fact]
    public void A_good_record_asks_for_nothing() => Reasons(Good, Nothing with { Usual = TimeSpan.FromMinutes(5) }).ShouldBeEmpty();

    [Fact]
    public void A_failure_has_to_be_seen_and_says_what_failed()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle).LookGood();
        bench.Type("earthContinuity", "1.4");
        var finding = RecordReview.Of(bench.Record(EndKind.Fail), Nothing, Thresholds.Shipped)[0];
        (finding.Reason, finding.MustBeSeen).ShouldBe((ReviewReason.Failed, true));
        finding.Text.ShouldContain("1.4 Ω");
    }

    [Fact]
    public void What_a_person_decided_in_place_of_the_comparison_has_to_be_seen()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle, isLead: true).LookGood();
        var reading = bench.Type("earthContinuity", "1.4");
        bench.Override(reading, Status.Pass);
        bench.PassTheRest();
        var findings = RecordReview.Of(Taking(bench.Record(), 5), Nothing, Thresholds.Shipped);
        findings[0].Reason.ShouldBe(ReviewReason.Overridden);
        findings[0].MustBeSeen.ShouldBeTrue();
        findings[0].Text.ShouldContain("second instrument");
    }

    [Fact]
    public void A_longer_interval_has_to_be_seen_and_a_shorter_one_not()
    {
        InspectionRecord Choosing(double months) =>
            Good with
            {
                Next = Good.Next! with { Chosen = new(months, 12, "Maud", "kept in a drawer"), DecidedBy = DecidedBy.Person },
            };
        Reasons(Choosing(24)).ShouldBe([ReviewReason.LongerInterval]);
        Reasons(Choosing(6)).ShouldBeEmpty();
    }

    [Fact]
    public void A_drifted_instrument_has_to_be_seen_and_a_record_taken_back_says_that_alone()
    {
        Reasons(Good, Nothing with { Drift = "reads 4 % low" }).ShouldBe([ReviewReason.Drifted]);
        Reasons(Good with { Outcome = Outcome.Fail }, Nothing with { TakenBack = "taken back", Drift = "low" })
            .ShouldBe([ReviewReason.TakenBack]);
    }

    [Fact]
    public void A_pass_with_a_step_that_was_not_measured_has_to_be_seen_but_a_failure_stops_steps_as_a_matter_of_course()
    {
        var open = Good with
        {
            Steps = [.. Good.Steps.Take(1), .. Good.Steps.Skip(1).Select(it => it with { Standing = Standing.NotMeasured })],
        };
        Reasons(open).ShouldContain(ReviewReason.Undecided);
        Reasons(open with { Outcome = Outcome.Fail }).ShouldNotContain(ReviewReason.Undecided);
    }

    /// <summary>Five minutes are usual: a quarter of it and four times it still are.</summary>
    [Theory]
    [InlineData(1.25, false)]
    [InlineData(1.2, true)]
    [InlineData(20, false)]
    [InlineData(20.1, true)]
    [InlineData(-1, true)]
    public void Bench_time_far_from_the_usual_is_odd(double minutes, bool isOdd) =>
        Reasons(Taking(Good, minutes), Nothing with { Usual = TimeSpan.FromMinutes(5) }).Contains(ReviewReason.OddTime).ShouldBe(isOdd);

    [Fact]
    public void A_sheet_that_waited_for_hours_tells_nothing_of_bench_time() =>
        Reasons(Taking(Good, 121), Nothing with { Usual = TimeSpan.FromMinutes(5) }).ShouldBeEmpty();

    [Fact]
    public void What_came_in_days_later_or_lay_beside_another_is_odd()
    {
        var late = Good with { Times = Good.Times with { ReceivedAt = Good.Times.TakenTo.AddHours(24.1) } };
        RecordReview.Of(late, Nothing, Thresholds.Shipped).ShouldHaveSingleItem().Text.ShouldContain("24 h after");
        AtTheBench other = new(Guid.NewGuid(), "T-9", Good.Times.TakenFrom.AddMinutes(3), Good.Times.TakenTo.AddMinutes(9));
        RecordReview
            .Of(Good, Nothing with { Beside = [other] }, Thresholds.Shipped)
            .ShouldHaveSingleItem()
            .Text.ShouldBe("on the bench together with T-9 for 2 min");
        var own = other with { Record = Good.Id };
        Reasons(Good, Nothing with { Beside = [own, other with { From = Good.Times.TakenTo.AddSeconds(-60) }] }).ShouldBeEmpty();
    }

    [Fact]
    public void Typed_where_the_instrument_was_on_its_line_is_worth_a_look()
    {
        var typed = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser with { Connected = true }).PassTheRest();
        Reasons(Taking(typed.Record(), 5)).ShouldContain(ReviewReason.TypedWhileConnected);
        var offline = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser with { Connected = false }).PassTheRest();
        Reasons(Taking(offline.Record(), 5)).ShouldNotContain(ReviewReason.TypedWhileConnected);
    }

    [Fact]
    public void The_gravest_stands_first_and_every_reason_has_its_word()
    {
        var record = Good with { Outcome = Outcome.Fail, Readings = [Good.Readings[0] with { NearLimit = true }] };
        var reasons = Reasons(record, Nothing with { Drift = "low" });
        reasons.ShouldBe(reasons.Order());
        reasons[0].ShouldBe(ReviewReason.Failed);
        Enum.GetValues<ReviewReason>().Select(ReviewText.Of).Distinct().Count().ShouldBe(Enum.GetValues<ReviewReason>().Length);
    }

    /// <summary>Nothing but a lead in the review of a round that is done and seen to.</summary>
    [Fact]
    public void A_round_is_signed_in_review_alone_by_a_lead_when_nothing_is_left()
    {
        foreach (var state in Enum.GetValues<RoundState>())
        foreach (var isLead in new[] { true, false })
        foreach (var left in new[] { 0, 1, 2 })
        foreach (var toSee in new[] { 0, 1, 2 })
        foreach (var unseen in new[] { 0, 1, 2 })
        {
            var why = RoundMoves.WhyNotSigned(state, new(5, 5 - left, 0, left, toSee, left < 5), unseen, isLead);
            (why is null).ShouldBe(
                state == RoundState.Review && isLead && left + toSee + unseen == 0,
                $"{state} {isLead} {left} {toSee} {unseen}"
            );
        }
    }
}
