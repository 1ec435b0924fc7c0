using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>At the bench, what would pass and cannot be stays open; each has a way on.</summary>
public class ContradictedReadingTests
{
    private const string Earth = "earthContinuity";
    private const string OfTheDrip = "leakage/appliedPart/part drip";

    private static Guid Proves(OnTheBench sheet, Guid reading, string words = "its trace stands on the screen") =>
        sheet.Happens(next => new ConnectionProved
        {
            Id = next.Id,
            At = next.At,
            Target = reading,
            Words = words,
        });

    [Fact]
    public void An_earth_below_its_own_copper_is_measured_again_or_its_length_is_put_right()
    {
        var sheet = OnTheBench.With(OnTheBench.Reel with { Cord = new(new(30), new(1.25)), Outlets = 1 }).LookGood();
        sheet.Type(Earth, "0.02");
        sheet.Stands(Earth).ShouldBe(Standing.Undecided);
        sheet
            .View.Readings[^1]
            .Doubt.ShouldNotBeNull()
            .ShouldSatisfyAllConditions(
                it => it.Expected.ShouldContain("30 m of 1.25 mm²"),
                it => it.CheckFirst.ShouldStartWith("clip on the plug"),
                it => it.AsksProof.ShouldBeFalse("words do not make copper")
            );
        sheet.Type(Earth, "0.03");
        sheet.Stands(Earth).ShouldBe(Standing.Undecided, "however often it is read");
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();

        sheet.Change(new() { FlexLengthM = 2 });
        sheet.Stands(Earth).ShouldBe(Standing.Pass);
        sheet.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void Nothing_through_an_applied_part_passes_by_a_second_reading_and_what_was_seen()
    {
        var sheet = OnTheBench.With(OnTheBench.Pump, "iec-62353-2014").LookGood();
        sheet.PassUntil(OfTheDrip);
        var first = sheet.Type(OfTheDrip, "0u");
        sheet.Stands(OfTheDrip).ShouldBe(Standing.Undecided);
        sheet.View.Readings[^1].Doubt.ShouldNotBeNull().MayProve.ShouldBeFalse();
        Proves(sheet, first);
        sheet.State.Refused[^1].Why.ShouldContain("measure once more first");

        var second = sheet.Type(OfTheDrip, "0u");
        sheet.Stands(OfTheDrip).ShouldBe(Standing.Undecided);
        sheet.View.Readings[^1].Doubt.ShouldNotBeNull().MayProve.ShouldBeTrue();
        Proves(sheet, second, " ");
        sheet.Stands(OfTheDrip).ShouldBe(Standing.Undecided);
        Proves(sheet, second);
        sheet.Stands(OfTheDrip).ShouldBe(Standing.Pass);
        sheet.PassTheRest().Record().Readings.ShouldContain(it => it.Note == "connected: its trace stands on the screen");
    }

    [Fact]
    public void A_fuse_that_is_not_made_for_the_plug_fails_the_look()
    {
        var sheet = OnTheBench.With(OnTheBench.Kettle with { PlugFuse = new(16) }).LookGood();
        sheet.State.Look.Outcome.ShouldBe(Core.Looking.Look.Fail);
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Theory]
    [InlineData("26m", 0.026)]
    [InlineData("26ms", 0.026)]
    [InlineData("26", 0.026)]
    [InlineData("0.026s", 0.026)]
    public void A_bare_prefix_is_that_of_the_unit_of_the_test(string typed, double seconds) =>
        Core.Quantities.ReadingEntry.Parse(typed, Core.Quantities.Unit.Millisecond).Value.Quantity.Si.ShouldBe(seconds, 1e-12);
}
