using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Review;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A failure is not made nothing by words: what was made void, and what corrected facts explain.</summary>
public class SetAsideTests
{
    private const string Earth = "earthContinuity";
    private const string Insulation = "insulation";

    private static readonly FactChanges ClassII = new() { Evidence = ClassEvidence.SquareWithinSquare };

    private static ReviewFinding First(Core.Records.InspectionRecord record) =>
        RecordReview.Of(record, new(null, null, null, []), Thresholds.Shipped)[0];

    [Theory]
    [InlineData(VoidCause.Probe)]
    [InlineData(VoidCause.WrongEnd)]
    [InlineData(VoidCause.Other)]
    [InlineData(null)]
    public void A_voided_failure_is_told_on_the_paper_comes_first_in_the_review_and_makes_no_clean_test(VoidCause? cause)
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        var failed = sheet.Type(Insulation, "0.5");
        sheet.Void(failed, "the probe had slipped", cause: cause);
        sheet.Type(Insulation, ">500");
        var record = sheet.PassTheRest().Record();
        record.Outcome.ShouldBe(Outcome.PassWithAdvice);
        record.Advice.ShouldContain(line => line.Contains("0.5 MΩ was read and failed; made void: the probe had slipped"));
        First(record).Reason.ShouldBe(ReviewReason.FailureSetAside);
        First(record).MustBeSeen.ShouldBeTrue();
        record.Taken.ShouldHaveSingleItem().IsClean.ShouldBeFalse();
    }

    [Fact]
    public void An_earth_off_the_scale_by_the_clip_and_two_readings_of_the_instrument_after_it_pass_and_are_listed()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser).LookGood();
        var off = sheet.Type(Earth, ">25");
        sheet.Void(off, cause: VoidCause.Clip);
        sheet.Flex(0.08);
        sheet.Flex(0.09);
        var record = sheet.PassTheRest().Record();
        record.Outcome.ShouldBe(Outcome.Pass);
        record.Taken.ShouldHaveSingleItem().IsClean.ShouldBeTrue();
        First(record).Reason.ShouldBe(ReviewReason.TakenAgain);
        First(record).MustBeSeen.ShouldBeFalse();
    }

    [Theory]
    [InlineData(VoidCause.Clip, ">25", 1, "one reading alone")]
    [InlineData(VoidCause.Probe, ">25", 2, "another cause")]
    [InlineData(VoidCause.Clip, "0.9", 2, "a value that the item showed")]
    public void Nothing_else_is_the_daily_clip(VoidCause cause, string shown, int after, string why)
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser).LookGood();
        sheet.Void(sheet.Type(Earth, shown), cause: cause);
        for (var n = 0; n < after; n++)
            sheet.Flex(0.08);
        sheet.PassTheRest().State.Outcome.ShouldBe(Outcome.PassWithAdvice, why);
    }

    [Fact]
    public void Typed_readings_after_the_clip_are_nobodys_flexing()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser).LookGood();
        sheet.Void(sheet.Type(Earth, ">25"), cause: VoidCause.Clip);
        sheet.Type(Earth, "0.08");
        sheet.Type(Earth, "0.09");
        sheet.PassTheRest().State.Outcome.ShouldBe(Outcome.PassWithAdvice);
    }

    [Fact]
    public void A_class_settled_after_an_open_earth_is_saved_by_a_technician_as_the_failure_that_it_was()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        sheet.Type(Earth, ">25");
        sheet.Change(ClassII);
        sheet.PassTheRest();
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
        sheet.State.EndOf(EndKind.Pass).Why.ShouldContain("Photograph");
        sheet.IsOpen(EndKind.NotTested).ShouldBeFalse();
        sheet.IsOpen(EndKind.Looked).ShouldBeFalse();
        sheet.Photograph(PhotoTaken.OfMark);
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
        sheet.State.EndOf(EndKind.Pass).Why.ShouldContain("Only a lead");
        var record = sheet.Record(EndKind.Fail);
        record.Reasons.ShouldContain(reason => reason.Contains("the facts were corrected afterwards"));
        First(record).Reason.ShouldBe(ReviewReason.Failed);
    }

    [Fact]
    public void A_lead_with_a_photo_of_the_mark_saves_it_with_advice_and_the_review_has_it_first()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle, isLead: true).LookGood();
        sheet.Type(Earth, ">25");
        sheet.Change(ClassII);
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse("nothing was photographed");
        sheet.Photograph("insulation");
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse("of something else");
        var photo = sheet.Photograph(PhotoTaken.OfMark);
        var record = sheet.Record();
        record.Outcome.ShouldBe(Outcome.PassWithAdvice);
        First(record).Reason.ShouldBe(ReviewReason.FailureSetAside);
        sheet.IsOpen(EndKind.Fail).ShouldBeFalse();
        sheet.Void(photo, "of the wrong item");
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void A_medical_failure_that_corrected_facts_explain_is_proposed_for_no_use()
    {
        var sheet = OnTheBench.With(OnTheBench.Pump, "iec-62353-2014").LookGood();
        sheet.Type(Earth, ">25");
        sheet.Change(ClassII);
        sheet.PassTheRest();
        sheet.State.Proposal.ShouldBeNull();
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
        sheet.Record(EndKind.Fail).Evaluation.ShouldBeNull();
    }

    [Fact]
    public void Made_void_first_and_the_class_changed_then_is_no_way_round()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        sheet.Void(sheet.Type(Earth, ">25"));
        sheet.Change(ClassII);
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void Nor_is_a_class_that_is_asked_for_in_between()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        sheet.Type(Earth, ">25");
        sheet.Change(new() { Evidence = ClassEvidence.NoneLegible });
        sheet.Change(ClassII);
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void A_class_that_was_undecided_when_it_was_measured_is_settled_by_anybody()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle with { Class = ProtectionClass.Undecided }).LookGood();
        sheet.Type(Earth, ">25");
        sheet.Change(ClassII);
        sheet.PassTheRest().State.Outcome.ShouldBe(Outcome.Pass);
    }

    [Fact]
    public void A_flex_that_nobody_had_entered_passes_with_advice_once_it_is_measured_again()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle with { Cord = null }).LookGood();
        sheet.Type(Earth, "0.15");
        sheet.Stands(Earth).ShouldBe(Standing.Fail);
        sheet.Change(new() { FlexLengthM = 10, FlexMm2 = 1 });
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse("not measured again");
        sheet.Type(Earth, "0.21");
        sheet.State.Outcome.ShouldBe(Outcome.PassWithAdvice);
    }

    [Fact]
    public void A_flex_that_was_entered_is_made_longer_by_a_lead_with_the_photo()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        sheet.Type(Earth, "0.25");
        sheet.Stands(Earth).ShouldBe(Standing.Fail);
        sheet.Change(new() { FlexLengthM = 10 });
        sheet.Type(Earth, "0.25");
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse();
        sheet.IsOpen(EndKind.Fail).ShouldBeTrue();
    }

    [Fact]
    public void A_failure_made_void_stays_one_for_whoever_reads_the_discarded_sheet()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        sheet.Void(sheet.Type(Insulation, "0.5"), "wrong item");
        sheet.State.EndOf(EndKind.Discard).Why.ShouldContain("kept whole");
    }

    [Fact]
    public void A_bad_answer_taken_back_is_listed()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        var point = sheet.View.Look[0].PointId;
        var bad = sheet.LookAs(LookAnswer.Bad, "cracked", point);
        sheet.Void(bad, "wrong point pressed", point);
        sheet.LookAs(LookAnswer.Good, null, point);
        var record = sheet.PassTheRest().Record();
        record.Outcome.ShouldBe(Outcome.Pass);
        First(record)
            .ShouldSatisfyAllConditions(
                finding => finding.Reason.ShouldBe(ReviewReason.TakenAgain),
                finding => finding.Text.ShouldContain("cracked")
            );
    }

    /// <summary>Of every point of every kind: what must fail cannot be advised, in any spelling.</summary>
    [Fact]
    public void What_must_fail_is_never_advice()
    {
        var dangers = LookList.Shipped.SelectMany(point => point.Fails.Select(words => (Point: point.Id, Words: words))).ToArray();
        dangers.Length.ShouldBeGreaterThan(40);
        foreach (var item in new[] { OnTheBench.Kettle, OnTheBench.Reel, OnTheBench.Drill })
        foreach (var (point, words) in dangers)
        {
            var sheet = OnTheBench.With(item).LookGood();
            if (sheet.View.Look.All(answer => answer.PointId != point))
                continue;
            sheet.LookAs(LookAnswer.Advice, $"a bit of {words.ToLowerInvariant()} by the plug", point);
            sheet.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("bad, never advice");
            sheet.LookAs(LookAnswer.Bad, words, point);
            sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
        }
    }

    [Fact]
    public void What_is_only_worth_telling_passes_with_advice()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        sheet.LookAs(LookAnswer.Advice, "Pins bent", "plug");
        sheet.PassTheRest().State.Outcome.ShouldBe(Outcome.PassWithAdvice);
    }

    [Fact]
    public void Made_void_and_measured_again_before_the_facts_change_it_wants_no_lead()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle).LookGood();
        sheet.Void(sheet.Type(Earth, "0.14"), "wrong end", cause: VoidCause.WrongEnd);
        sheet.Type(Earth, "0.08");
        sheet.Change(new() { FlexLengthM = 3 });
        sheet.PassTheRest().State.Outcome.ShouldBe(Outcome.PassWithAdvice);
    }

    [Fact]
    public void What_fails_whatever_the_class_is_not_settled_by_deciding_the_class()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle with { Class = ProtectionClass.Undecided }).LookGood();
        sheet.Type(Earth, "0.25");
        sheet.Change(new() { FlexLengthM = 10, Evidence = ClassEvidence.EarthSymbolOrPinMetalReachable });
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeFalse("the length made it pass, not the class");
    }

    [Theory]
    [InlineData("iec-62353-2014", Status.Fail)] // 0.3 ohm
    [InlineData("en-50699-2020", Status.Pass)] // 0.5 ohm
    public void A_second_standard_by_which_it_failed_is_not_taken_back_unseen(string pack, Status status)
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle with { Cord = new(new(20), new(1)) }).LookGood();
        var earth = sheet.Type(Earth, "0.4");
        var borrowed = sheet.Happens(next => new Borrowed
        {
            Id = next.Id,
            At = next.At,
            Target = earth,
            PackId = pack,
        });
        sheet.State.Readings[0].Borrowed[0].Judgement.Status.ShouldBe(status);
        sheet.Happens(next => new Withdrawn
        {
            Id = next.Id,
            At = next.At,
            Target = borrowed,
        });
        var record = sheet.PassTheRest().Record();
        record.Outcome.ShouldBe(status == Status.Fail ? Outcome.PassWithAdvice : Outcome.Pass);
        (record.SetAside?.Count ?? 0).ShouldBe(status == Status.Fail ? 1 : 0);
    }
}
