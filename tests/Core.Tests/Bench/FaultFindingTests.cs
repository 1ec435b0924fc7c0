using Osierwand.Core.Bench;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>From a complaint in somebody's words to findings: any order, any part of it, and never a pass.</summary>
public class FaultFindingTests
{
    private static OnTheBench Begun(string? complaint = null)
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser);
        sheet.Choose(Scope.FaultFinding);
        if (complaint is not null)
            Told(sheet, complaint);
        return sheet;
    }

    private static void Told(OnTheBench sheet, string words) =>
        sheet.Happens(next => new ComplaintTold
        {
            Id = next.Id,
            At = next.At,
            Words = words,
        });

    private static void Summed(OnTheBench sheet, double rcdMa, params CircuitLeakage[] items) =>
        sheet.Happens(next => new CircuitSummed
        {
            Id = next.Id,
            At = next.At,
            RcdMa = rcdMa,
            Items = items,
        });

    [Theory]
    [InlineData("It trips the RCD in the kitchen", "trips")]
    [InlineData("I got a TINGLE from the tap", "tingle")]
    [InlineData("does not start", "dead")]
    [InlineData("the plug is hot and smells", "hot")]
    [InlineData("cuts out sometimes", "intermittent")]
    [InlineData("blows the fuse", "blows")]
    [InlineData("got wet in the rain", "wet")]
    [InlineData("it was shot at", null)] // "hot" is no part of "shot"
    [InlineData("", null)]
    public void A_complaint_in_plain_words_is_understood(string words, string? id) =>
        (Complaint.In(words).FirstOrDefault()?.Id).ShouldBe(id, words);

    [Fact]
    public void Every_complaint_begins_with_tests_that_a_kettles_sheet_has()
    {
        foreach (var complaint in Complaint.All)
        {
            var means = Begun(complaint.Says[0]).View.Complaint.ShouldNotBeNull().Means;
            means.ShouldContain(it => it.Seen == complaint.Seen);
            means.First(it => it.Seen == complaint.Seen).Steps.ShouldNotBeEmpty(complaint.Id);
        }
    }

    [Fact]
    public void It_ends_with_findings_that_say_what_was_complained_of_and_never_with_a_pass()
    {
        var sheet = Begun("trips the RCD when hot");
        sheet.Type("insulation", "200M");
        Summed(sheet, 30, new("kettle", "800u"), new("fryer", "4,6"), new("urn", "3.1 mA"), new("dishwasher", "8"));
        sheet.PassTheRest();
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
        var record = sheet.Record(EndKind.Findings);
        (record.IsTest, record.Complaint).ShouldBe((false, "trips the RCD when hot"));
        record
            .Circuit.ShouldNotBeNull()
            .ShouldSatisfyAllConditions(
                it => it.SumMa.ShouldBe(16.5, 1e-9),
                it => it.Explains.ShouldBeTrue(),
                it => it.Working[0].ShouldContain("16.5 mA")
            );
        InspectionRecord.Read(record.ToJson()).Value.ToJson().ShouldBe(record.ToJson());
    }

    [Fact]
    public void A_sum_below_half_the_rating_explains_nothing_and_just_half_does()
    {
        var sheet = Begun();
        Summed(sheet, 30, new CircuitLeakage("kettle", "14.9"));
        sheet.View.Circuit!.Explains.ShouldBeFalse();
        Summed(sheet, 30, new CircuitLeakage("kettle", "15"));
        sheet.View.Circuit!.Explains.ShouldBeTrue();
    }

    [Theory]
    [InlineData(30, "-1", "kettle")]
    [InlineData(30, "1,500", "kettle")] // one and a half, or fifteen hundred
    [InlineData(30, ">18", "kettle")]
    [InlineData(30, "0.8 ohm", "kettle")]
    [InlineData(30, "", "kettle")]
    [InlineData(31, "1", "kettle")]
    [InlineData(double.NaN, "1", "kettle")]
    [InlineData(30, "1", " ")]
    public void What_no_circuit_has_is_refused_and_the_last_good_sum_stands(double rcd, string leaks, string name)
    {
        var sheet = Begun();
        Summed(sheet, 30, new CircuitLeakage("urn", "2"));
        Summed(sheet, rcd, new CircuitLeakage(name, leaks));
        sheet.View.Circuit!.SumMa.ShouldBe(2);
        sheet.State.Refused.ShouldNotBeEmpty();
        Summed(sheet, 30);
        sheet.View.Circuit!.SumMa.ShouldBe(2, "an empty list sums nothing");
    }

    /// <summary>The order is free; what failed stops what it would stop.</summary>
    [Fact]
    public void A_failed_earth_powers_nothing_however_the_order_is_chosen()
    {
        var sheet = Begun("does not heat");
        sheet.Type("earthContinuity", ">24");
        sheet.Step("leakage/protectiveConductor").Start.IsGiven.ShouldBeFalse();
        sheet.IsOpen(EndKind.Findings).ShouldBeTrue();
    }
}
