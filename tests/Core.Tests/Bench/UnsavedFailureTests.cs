using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Review;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>What an instrument failed and nobody saved stands on every sheet of the item; and what failed before the facts were corrected
/// beside the sheet is known on it.</summary>
public class UnsavedFailureTests
{
    private const string Earth = "earthContinuity";

    private static readonly UnsavedFailure Dead = new(
        Guid.Parse("90000000-0000-0000-0000-000000000001"),
        Earth,
        null,
        ProtectionClass.I,
        "Earth continuity",
        "12.3 Ω",
        "Tom",
        new(2026, 3, 2)
    );

    private static OnTheBench Fresh(UnsavedFailure failure, Item? item = null, bool isLead = false) =>
        new(OnTheBench.RulingFor(item ?? OnTheBench.Kettle, isLead: isLead, kit: OnTheBench.Analyser) with { UnsavedFailures = [failure] });

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Typed_on_a_fresh_sheet_it_decides_nothing_and_nothing_live_starts(bool isLead)
    {
        var sheet = Fresh(Dead, isLead: isLead).LookGood();
        sheet.State.Outcome.ShouldBe(Outcome.Fail, "it stands from the start");
        sheet.Type(Earth, "0.02");
        sheet.Stands(Earth).ShouldBe(Standing.Undecided);
        sheet.Step("insulation").Start.IsGiven.ShouldBeFalse();
        sheet.PassTheRest();
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
        sheet.State.EndOf(EndKind.Pass).Why.ShouldContain("12.3 Ω failed on 2026-03-02 (Tom, with the instrument)");
        sheet.IsOpen(EndKind.NotTested).ShouldBeFalse();
        sheet.IsOpen(EndKind.Looked).ShouldBeFalse();
        sheet.Record(EndKind.Fail).Reasons.ShouldContain(reason => reason.Contains("12.3 Ω"));
    }

    [Fact]
    public void Measured_again_by_the_instrument_at_the_same_place_it_passes_with_advice_and_comes_first_in_the_review()
    {
        var sheet = Fresh(Dead).LookGood();
        sheet.Type(Earth, "0.02");
        sheet.Flex(0.05);
        sheet.Stands(Earth).ShouldBe(Standing.Pass);
        var record = sheet.PassTheRest().Record();
        record.Outcome.ShouldBe(Outcome.PassWithAdvice);
        record.Advice.ShouldContain(line => line.Contains("12.3 Ω failed on an earlier run sheet that nobody saved (Tom, 2026-03-02)"));
        record.Taken.ShouldHaveSingleItem().IsClean.ShouldBeFalse();
        RecordReview.Of(record, new(null, null, null, []), Thresholds.Shipped)[0].Reason.ShouldBe(ReviewReason.FailureSetAside);
    }

    [Fact]
    public void At_another_place_it_was_not_measured_again()
    {
        var sheet = Fresh(Dead with { Point = "Handle" }).LookGood();
        sheet.Flex(0.05);
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void A_look_does_not_end_it()
    {
        var sheet = Fresh(Dead);
        sheet.Choose(Planning.Scope.FormalVisual);
        sheet.LookGood();
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void On_the_sheet_that_measured_it_the_reading_itself_is_the_failure_and_is_told_once()
    {
        var ruling = OnTheBench.RulingFor(OnTheBench.Kettle, kit: OnTheBench.Analyser);
        var bench = new OnTheBench(ruling).LookGood();
        var failed = bench.Flex(12.3);
        var read = bench.Events[^1];
        var known = UnsavedFailure.Of(bench.State, read).ShouldNotBeNull();
        (known.Id, known.Step, known.Name, known.Class).ShouldBe((failed, Earth, "Earth continuity", ProtectionClass.I));
        var own = new OnTheBench(ruling with { UnsavedFailures = [known] });
        own.Events.AddRange(bench.Events);
        own.State.Fingerprint.ShouldBe(bench.State.Fingerprint, "what the page has not been told of changes nothing");
        own.State.Unsaved.ShouldBeEmpty();
        own.Void(failed, "the clip was off", cause: VoidCause.Clip);
        own.Flex(0.05);
        own.PassTheRest().Record().Advice.Count(line => line.Contains("12.3")).ShouldBe(1);
    }

    [Fact]
    public void What_passed_is_no_failure()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser).LookGood();
        bench.Flex(0.05);
        UnsavedFailure.Of(bench.State, bench.Events[^1]).ShouldBeNull();
        UnsavedFailure.Of(bench.State, bench.Events[0]).ShouldBeNull();
    }

    public static TheoryData<bool, bool> Known =>
        new()
        {
            { true, false },
            { false, true },
            { true, true },
        };

    /// <param name="byServer">The server measured it and says so.</param>
    /// <param name="byPage">The page had judged by other facts and says so.</param>
    [Theory]
    [MemberData(nameof(Known))]
    public void Corrected_with_the_item_while_the_sheet_is_under_way_the_failure_asks_for_a_lead_and_the_mark(bool byServer, bool byPage)
    {
        var before = new OnTheBench(OnTheBench.RulingFor(OnTheBench.Kettle, kit: OnTheBench.Analyser)).LookGood();
        before.Flex(12.3);
        var known = UnsavedFailure.Of(before.State, before.Events[^1]).ShouldNotBeNull();
        foreach (var isVoid in new[] { false, true })
        {
            var after = new OnTheBench(
                OnTheBench.RulingFor(OnTheBench.Kettle with { Class = ProtectionClass.II }, isLead: true, kit: OnTheBench.Analyser) with
                {
                    UnsavedFailures = byServer ? [known] : [],
                }
            );
            after.Events.AddRange(before.Events);
            if (isVoid)
                after.Void(known.Id, "the clip was off", cause: VoidCause.Clip);
            if (byPage && !isVoid)
                // A figure to earth on an item of class II: that is made void before anything else.
                continue;
            if (byPage)
                after.Happens(next => new FactsMoved
                {
                    Id = next.Id,
                    At = next.At,
                    Was = OnTheBench.Kettle,
                });
            after.LookGood();
            after.PassTheRest();
            after.IsOpen(EndKind.Pass).ShouldBeFalse($"void: {isVoid}");
            after.State.EndOf(EndKind.Pass).Why.ShouldContain("Earth continuity failed (12.3 Ω)");
            after.Photograph(PhotoTaken.OfMark);
            var record = after.Record();
            record.Outcome.ShouldBe(Outcome.PassWithAdvice);
            record.Advice.Count(line => line.Contains("12.3")).ShouldBe(1);
        }
    }

    [Fact]
    public void A_class_that_was_undecided_when_it_was_measured_and_is_decided_with_the_item_asks_for_nobody()
    {
        var own = Fresh(Dead with { Class = ProtectionClass.Undecided }, OnTheBench.Kettle with { Class = ProtectionClass.II });
        own.Events.Add(
            new ReadingTaken
            {
                Id = Dead.Id,
                At = own.Start,
                Step = Earth,
                Number = 12.3,
                Unit = "ohm",
                Source = ReadingSource.Instrument,
                Seal = "s",
            }
        );
        own.LookGood();
        own.State.Assessment.SetAside.ShouldBeEmpty();
    }

    [Fact]
    public void What_turned_out_not_to_be_the_instruments_is_judged_again_as_typed()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser).LookGood();
        var session = new BenchSession(sheet.Ruling, sheet.Events);
        var read = new ReadingTaken
        {
            Id = Guid.NewGuid(),
            At = sheet.Start,
            Step = Earth,
            Number = 0.4,
            Unit = "ohm",
            NullOhm = 0.35,
            Source = ReadingSource.Instrument,
            Seal = "s",
        };
        session.Append(read);
        session.State.Readings[0].Judgement!.Status.ShouldBe(Status.Pass);
        session.Append(
            new Unproved
            {
                Id = Guid.NewGuid(),
                At = sheet.Start,
                Target = read.Id,
            }
        );
        session.State.Readings[0].Judgement!.Value!.Value.Si.ShouldBe(0.4, "the null was the instrument's to say");
        session.State.Readings[0].Judgement!.Status.ShouldBe(Status.Fail);
    }

    [Theory]
    [InlineData(Outcome.Fail, true, ItemState.InService, true)]
    [InlineData(Outcome.Fail, false, ItemState.InService, true)]
    [InlineData(Outcome.Pass, true, ItemState.InService, true)]
    [InlineData(Outcome.PassWithAdvice, true, ItemState.Quarantined, true)]
    [InlineData(Outcome.Pass, false, ItemState.InService, false)]
    [InlineData(Outcome.NotTested, false, ItemState.InService, false)]
    [InlineData(Outcome.Findings, true, ItemState.InService, false)]
    [InlineData(Outcome.Findings, true, ItemState.InRepair, true)]
    public void A_record_answers_for_it_where_it_tested_or_failed_and_findings_only_of_what_is_out_of_use(
        Outcome outcome,
        bool isTest,
        ItemState state,
        bool settles
    ) =>
        UnsavedFailure
            .SettledBy(OnTheBench.RulingFor(OnTheBench.Kettle, state: state) with { UnsavedFailures = [Dead] }, outcome, isTest)
            .ShouldBe(settles ? [Dead.Id] : []);
}
