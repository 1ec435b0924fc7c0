using System.Collections.Immutable;
using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Papers;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Core.Tests.Bench;
using Shouldly;

namespace Osierwand.Core.Tests.Papers;

/// <summary>A round's paper says of every item how it stands now, and never that an untested one is good.</summary>
public class RoundReportTests
{
    private static readonly InspectionRecord Good = OnTheBench.With(OnTheBench.Kettle).PassTheRest().Record();

    private static readonly InspectionRecord Bad = Failed();

    private static readonly ReportedRound Round = new(
        "March round",
        "Client",
        "CLT",
        "Site",
        new(2026, 3, 1),
        new(2026, 3, 31),
        true,
        "",
        null,
        [],
        [],
        [],
        [],
        [],
        [],
        new("Maud", new(2026, 4, 1), 1_000, 3, false, ""),
        []
    );

    private static InspectionRecord Failed()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle).LookGood();
        bench.Type("earthContinuity", "1.4");
        return bench.Record(EndKind.Fail);
    }

    /// <summary>A pass after repair.</summary>
    private static readonly InspectionRecord Mended = Good with { Rules = Good.Rules with { Scope = Scope.AfterRepair } };

    private static Guid ItemOf(int number) => new(number, 0, 0, new byte[8]);

    private static InspectionRecord Of(InspectionRecord record, int item, Outcome outcome) =>
        record with
        {
            Id = Guid.NewGuid(),
            Item = record.Item with { Id = ItemOf(item), Tag = $"T-{item:00}", Room = item % 2 == 0 ? "Hall" : "Kitchen" },
            Outcome = outcome,
            OutcomeText = Words.Of(outcome),
            NotTested = outcome == Outcome.NotTested ? new(NotTestedReason.InUse, "In use") : null,
            Next = outcome is Outcome.Pass or Outcome.PassWithAdvice ? record.Next : null,
        };

    private static Provenance At(long number, params LaterRecord[] later) => new(number, $"hash{number}", [.. later]);

    private static RoundReport Report(ReportedRound round, params (InspectionRecord Record, Provenance From)[] records)
    {
        var writer = new RoundReportWriter();
        foreach (var (record, from) in records)
            writer.Add(record, from);
        return writer.Of(round);
    }

    private static IEnumerable<string> Acts(RoundReport report) => report.Act.Select(act => act.Text);

    [Fact]
    public void What_failed_and_passed_after_repair_is_listed_as_mended_and_counted_as_passed()
    {
        var report = Report(Round, (Of(Bad, 1, Outcome.Fail), At(1)), (Of(Mended, 1, Outcome.Pass), At(2)));
        report.Tally.ShouldBe(new(1, 1, 0, 0, 1, 0, 0));
        var failure = report.Failed.ShouldHaveSingleItem();
        failure.IsOut.ShouldBeFalse();
        failure.State.ShouldBe("back in use");
        failure.Done.ShouldHaveSingleItem().ShouldContain("record 2");
        Acts(report).ShouldContain("One item failed and passed after repair: nothing is left to do about it.");
        Acts(report).ShouldNotContain(line => line.StartsWith("Do not use"));
    }

    [Fact]
    public void Not_tested_never_stands_over_a_failure_of_the_same_round()
    {
        var report = Report(Round, (Of(Bad, 1, Outcome.Fail), At(1)), (Of(Good, 1, Outcome.NotTested), At(2)));
        report.Tally.Failed.ShouldBe(1);
        report.Tally.NotTested.ShouldBe(0);
        report.Failed.ShouldHaveSingleItem().IsOut.ShouldBeTrue();
        report.Act[0].Text.ShouldStartWith("Do not use T-01 Thing, Kitchen: ");
        report.Act[0].IsLoud.ShouldBeTrue();
    }

    /// <summary>Its repair was taken back, and a routine pass was made while it seemed mended.</summary>
    [Fact]
    public void A_pass_that_is_none_after_repair_does_not_put_a_failed_item_back()
    {
        var later = new LaterRecord(4, new(2026, 3, 4), "Maud", "wrong item");
        var report = Report(
            Round,
            (Of(Bad, 1, Outcome.Fail), At(1)),
            (Of(Mended, 1, Outcome.Pass), At(2, later)),
            (Of(Good, 1, Outcome.Pass), At(3))
        );
        report.Tally.Failed.ShouldBe(1);
        var failure = report.Failed.ShouldHaveSingleItem();
        (failure.IsOut, failure.Number).ShouldBe((true, 1));
        report.Act[0].Text.ShouldStartWith("Do not use T-01");
    }

    [Fact]
    public void What_went_out_of_use_since_is_told_though_it_passed_here()
    {
        var report = Report(Round with { HeldElsewhere = [new("T-01 Kettle, Kitchen", "sparks")] }, (Of(Good, 1, Outcome.Pass), At(1)));
        report.Act[0].ShouldBe(new("Do not use T-01 Kettle, Kitchen: sparks", true));
        Acts(report).ShouldNotContain(line => line.StartsWith("Everything"));
    }

    [Fact]
    public void A_record_that_was_taken_back_counts_no_more_and_is_said()
    {
        var later = new LaterRecord(5, new(2026, 3, 4), "Maud", "wrong item on the bench");
        var report = Report(
            Round,
            (Of(Good, 1, Outcome.Pass), At(1, later)),
            (Of(Good, 1, Outcome.Withdrawn), At(5)),
            (Of(Good, 2, Outcome.Pass), At(2))
        );
        report.Tally.Passed.ShouldBe(1);
        report.Rooms.ShouldHaveSingleItem().Lines.ShouldHaveSingleItem().Tag.ShouldBe("T-02");
        report.TakenBack.ShouldHaveSingleItem().Text.ShouldContain("wrong item on the bench");
        report.Origin[1].ShouldContain("numbers 1 to 2, 5 in the book of CLT, the last chained as hash5");
    }

    [Fact]
    public void What_nobody_reached_stands_beside_what_was_not_tested_and_neither_looks_safe()
    {
        var round = Round with
        {
            Untouched =
            [
                new("T-07", "Fan", "Attic", "not reached", false),
                new("T-08", "Lift", "Yard", "hired; tested by its owner", true),
            ],
        };
        var report = Report(round, (Of(Good, 1, Outcome.NotTested), At(1)), (Of(Good, 2, Outcome.Pass), At(2)));
        report.Tally.ShouldBe(new(3, 1, 0, 0, 0, 1, 1));
        report
            .NotTested.Select(it => $"{it.Tag} {it.Words[0]}")
            .ShouldBe(["T-01 In use", "T-07 not reached", "T-08 hired; tested by its owner"]);
        Acts(report).ShouldContain("2 items were not tested and stay due. Nothing here says that they are safe.");
        Acts(report).ShouldContain("One item was left to somebody else by agreement: see that it is tested.");
        Acts(report).ShouldContain("Everything else may go on being used.");
    }

    [Fact]
    public void A_round_that_is_not_over_or_not_signed_or_went_on_after_the_signature_says_so_first()
    {
        Report(
            Round with
            {
                IsOver = false,
                Untouched = [new("T-07", "Fan", "Attic", "still to do", false)],
            },
            (Of(Good, 1, Outcome.Pass), At(1))
        )
            .Notices.ShouldHaveSingleItem()
            .ShouldStartWith("This round is not over yet: one item of 2 still to do.");
        Report(Round with { Signature = null }).Notices.ShouldBe(["Nobody has reviewed and signed this round yet."]);
        Report(Round with { Signature = Round.Signature! with { Number = 3 } }, (Of(Good, 1, Outcome.Pass), At(4)))
            .Notices.ShouldHaveSingleItem()
            .ShouldStartWith("Record 4 (T-01, ");
        Report(Round, (Of(Good, 1, Outcome.Pass), At(4))).Notices.ShouldBeEmpty();
    }

    [Fact]
    public void What_is_held_says_how_it_stands_and_what_was_done_and_another_hold_is_not_taken_for_it()
    {
        var failed = Of(Bad, 1, Outcome.Fail);
        HeldSince held = new(failed.Id, true, "in repair", ["3 March 2026, Ida: plug cut off"]);
        var report = Report(Round with { Held = Round.Held.Add(failed.Item.Id, held) }, (failed, At(1)));
        report.Failed[0].State.ShouldBe("in repair");
        report.Failed[0].Done.ShouldBe(["3 March 2026, Ida: plug cut off"]);
        report.Failed[0].IsOut.ShouldBeTrue();
        var other = Report(
            Round with
            {
                Held = Round.Held.Add(failed.Item.Id, held with { Cause = Guid.NewGuid(), IsOut = false }),
            },
            (failed, At(1))
        );
        other.Failed[0].IsOut.ShouldBeTrue("what is known is of another failure");
    }

    [Fact]
    public void Of_an_items_values_the_one_nearest_its_limit_stands_on_the_paper_and_a_failed_one_before_it()
    {
        Report(Round, (Of(Good, 1, Outcome.Pass), At(1))).Rooms[0].Lines[0].Nearest.ShouldNotBeNull();
        var bad = Report(Round, (Of(Bad, 1, Outcome.Fail), At(1))).Rooms[0].Lines[0].Nearest!;
        (bad.Value, bad.Status).ShouldBe(("1.4 Ω", Status.Fail));
        bad.Rail.ShouldNotBeNull();
        // The same, though by itself it uses less of its limit than another.
        var reading = Bad.Readings.Single(it => it.Status == Status.Fail);
        var bound = Bad with
        {
            Readings = [reading with { Use = null }, reading with { Status = Status.Pass, Use = 0.99, Text = "0.1 Ω" }],
        };
        Report(Round, (Of(bound, 1, Outcome.Fail), At(1))).Rooms[0].Lines[0].Nearest!.Status.ShouldBe(Status.Fail);
    }

    [Fact]
    public void A_wrong_outlet_is_told_under_what_to_do() =>
        Acts(Report(Round with { Outlets = [new("outlet left, Kitchen", "no earth")] }))
            .ShouldContain("Have outlet left, Kitchen put right before anything is plugged in there: no earth");

    /// <summary>Whatever happened in a round, in whatever order it is read: every item counts once, none that failed is called usable
    /// before a pass that came later, and none is left out.</summary>
    [Fact]
    public void Every_item_counts_once_and_a_failure_is_over_only_by_a_later_pass()
    {
        Outcome[] outcomes = [Outcome.Pass, Outcome.PassWithAdvice, Outcome.Fail, Outcome.NotTested];
        var outcome = Gen.Int[0, 3].Select(at => outcomes[at]);
        Gen.Select(Gen.Int[1, 5], outcome, Gen.Bool, Gen.Bool)
            .Array[0, 14]
            .Sample(done =>
            {
                var records = done.Select(
                        (it, at) =>
                            (
                                Of(
                                    it.Item2 == Outcome.Fail ? Bad
                                        : it.Item4 ? Mended
                                        : Good,
                                    it.Item1,
                                    it.Item2
                                ),
                                At(at + 1, it.Item3 && at % 3 == 0 ? [new(100 + at, new(2026, 3, 5), "Maud", "odd")] : [])
                            )
                    )
                    .ToArray();
                var report = Report(Round, records);
                var tally = report.Tally;
                tally.Items.ShouldBe(tally.Passed + tally.Advised + tally.Failed + tally.NotTested + tally.NotReached);
                var standing = done.Select(
                        (it, at) => (it.Item1, it.Item2, IsMended: it.Item4, Number: at + 1, Stands: records[at].Item2.Corrections.IsEmpty)
                    )
                    .Where(it => it.Stands)
                    .ToArray();
                tally.Items.ShouldBe(standing.Select(it => it.Item1).Distinct().Count());
                foreach (var item in standing.GroupBy(it => it.Item1))
                {
                    var tag = $"T-{item.Key:00}";
                    var isOut = false;
                    foreach (var it in item.OrderBy(it => it.Number))
                        isOut = it.Item2 == Outcome.Fail || (isOut && !(it.IsMended && it.Item2 is Outcome.Pass or Outcome.PassWithAdvice));
                    report.Failed.Count(it => it.Tag == tag && it.IsOut).ShouldBe(isOut ? 1 : 0);
                    report.NotTested.Any(it => it.Tag == tag).ShouldBe(item.All(it => it.Item2 == Outcome.NotTested));
                }
                var backward = Report(Round, [.. records.Reverse()]);
                backward.Act.ShouldBe(report.Act);
                backward.Tally.ShouldBe(report.Tally);
            });
    }
}
