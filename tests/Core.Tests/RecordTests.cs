using Osierwand.Core.Contracts;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

public class RecordTests
{
    private static readonly RulePack Uk = PackLibrary.Find("uk-cop-5")!;
    private static readonly Item Urn = new()
    {
        Kind = ItemKind.Appliance,
        Heating = true,
        RatedPower = new(2400),
        RatedVoltage = new(230),
        PlugFuse = new(13),
        Cord = new(new(2), new(1.25)),
        MainsSwitch = MainsSwitch.Electronic,
        Outlets = 1,
    };

    [Fact]
    public void A_record_read_back_gives_the_readings_it_was_made_of()
    {
        Reading[] readings =
        [
            new() { Test = Test.EarthContinuity, Value = new(0.16, Unit.Ohm), Null = new(0.05), Under = new() { Point = "tap" } },
            new() { Test = Test.Insulation, Value = new(299, Unit.Megohm, Qualifier.Above), TestVoltage = new(500) },
            new() { Test = Test.Leakage, Value = new(0.42, Unit.Milliampere), Mains = new(234), Load = new(10.3), Under = new() { Polarity = MainsPolarity.Reversed } },
            new() { Test = Test.Leakage, Value = new(9, Unit.Milliampere), Void = "clip was off" },
            new() { Test = Test.Functional, Ok = true },
        ];
        var record = Record([.. readings]);
        InspectionRecord.ReadTaken(record.TakenJson()).Value.Readings.ShouldBe(readings);
        ItemJson.Read(ItemJson.Write(Urn)).Value.ShouldBe(Urn);
    }

    [Fact]
    public void An_altered_missing_or_exchanged_record_breaks_the_chain()
    {
        var book = new List<(string Record, byte[] Hash)>();
        foreach (var text in new[] { "one", "two", "three" }) book.Add((text, RecordChain.Next(book.Count == 0 ? RecordChain.Start : book[^1].Hash, text)));
        RecordChain.FirstBreak(book).ShouldBeNull();
        RecordChain.FirstBreak([book[0], (book[1].Record + " ", book[1].Hash), book[2]]).ShouldBe(1);
        RecordChain.FirstBreak([book[0], book[2]]).ShouldBe(1);
        RecordChain.FirstBreak([book[1], book[0], book[2]]).ShouldBe(0);
    }

    [Fact]
    public void A_bad_point_needs_words_and_fails_the_look()
    {
        var good = LookList.For(Urn).Select(point => new LookFinding(point.Id, LookAnswer.Good, null)).ToArray();
        LookList.Judge(Urn, Uk, good).Value.ShouldBe(Look.Pass);
        LookList.Judge(Urn, Uk, good[..^1]).Value.ShouldBe(Look.NotDone);
        LookList.Judge(Urn, Uk, [new("flex", LookAnswer.Bad, "Cut in the sheath")]).Value.ShouldBe(Look.Fail);
        LookList.Judge(Urn, Uk, [new("flex", LookAnswer.Bad, " ")]).Fault.ShouldNotBeNull().Path.ShouldBe("look.flex");
        LookList.For(new() { Kind = ItemKind.CordSet }).ShouldNotContain(point => point.Where == "Case");
        LookList.For(Urn with { Cord = new(Permanent: true) }).ShouldNotContain(point => point.Where == "Plug");
    }

    [Theory]
    [InlineData(3, 1.0, 13, 3000, true)] // 13.04 A through a 10 A flex and a 13 A fuse
    [InlineData(2, 0.5, 13, 400, true)] // thin flex behind a large fuse
    [InlineData(2, 1.0, 13, 600, false)] // 3 A recommended
    public void Fuse_and_flex_faults_are_told_from_advice(double length, double size, double fuse, double power, bool fault)
    {
        var findings = FuseAndFlex.Check(new() { Kind = ItemKind.Appliance, RatedPower = new(power), PlugFuse = new(fuse), Cord = new(new(length), new(size)) }, Uk);
        findings.ShouldNotBeEmpty();
        findings.Any(finding => finding.IsFault).ShouldBe(fault);
    }

    [Fact]
    public void A_rising_earth_is_told_before_it_fails()
    {
        Reading At(double ohms) => new() { Test = Test.EarthContinuity, Value = new(ohms, Unit.Ohm) };
        var facts = new InspectionFacts
        {
            Pack = Uk,
            Item = Urn,
            Look = Look.Pass,
            History = [new(new(2023, 1, 1), false, [At(0.05)]), new(new(2024, 1, 1), false, [At(0.075)]), new(new(2025, 1, 1), false, [At(0.1)])],
            Readings = [At(0.115)],
            TestDate = new(2026, 1, 1),
            DueDate = new(2027, 1, 1),
            IntervalMonths = 12,
        };
        Assessment.Of(facts).Advice.ShouldContain(line => line.Contains("on its way to its limit"));
        // After a repair the old values count no longer.
        var repaired = facts with { History = facts.History.SetItem(2, facts.History[2] with { AfterRepair = true }) };
        Assessment.Of(repaired).Advice.ShouldNotContain(line => line.Contains("on its way"));
    }

    private static InspectionRecord Record(System.Collections.Immutable.ImmutableArray<Reading> readings)
    {
        var facts = new InspectionFacts { Pack = Uk, Item = Urn, Look = Look.Pass, Readings = readings };
        var assessment = Assessment.Of(facts);
        return new()
        {
            Id = Guid.Empty,
            Tag = "LMR-0214",
            ItemName = "Tea urn",
            Facts = facts,
            Assessment = assessment,
            Outcome = Outcome.Pass,
            Look = [],
            Readings = [.. assessment.Results.Select(it => new RecordedReading(it, ReadingSource.Typed, DateTimeOffset.UnixEpoch))],
            TestedAt = DateTimeOffset.UnixEpoch,
            Technician = "Ida Fennimore",
            Round = "Summit café",
        };
    }
}
