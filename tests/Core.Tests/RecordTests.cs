using Osierwand.Core.Bench;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
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
    public void Readings_written_for_the_trend_read_back_as_they_were()
    {
        Reading[] readings =
        [
            new Reading.EarthContinuity(new() { At = new Spot.Probe("tap") }, new(0.16, Unit.Ohm)) { Null = new(0.05) },
            new Reading.Insulation(new(TestVoltage: new(500)), new(500, Unit.Megohm, Qualifier.Above)),
            new Reading.Leakage(new(LeakageKind.ProtectiveConductor) { Polarity = MainsPolarity.Reversed }, new(0.42, Unit.Milliampere))
            {
                Mains = new(234),
                Load = new(10.3),
            },
            new Reading.Leakage(new(LeakageKind.Touch), new(9, Unit.Milliampere)) { Void = "clip was off" },
            new Reading.Conductors(new Conditions.Polarity { At = new Spot.Outlet(3) }, false) { Found = ConductorFault.Crossed },
            new Reading.RcdTripped(new(1, 180), new(24, Unit.Millisecond)),
            new Reading.RcdTrippedUntimed(new(0.5)),
            new Reading.RcdDidNotTrip(new(0.5, 180)),
            new Reading.Functional(true),
            new Reading.EarthContinuity(new(), new(0.2, Unit.Ohm))
                .Overridden(null, Urn, Status.Pass, "Maud", true, "second instrument")
                .Value,
        ];
        var carrier = Urn with { Rcd = new(0.03) };
        var past = new PastInspection(new(2026, 3, 2), true, [.. readings]) { Item = carrier };
        var back = BenchJson.ReadPast(BenchJson.Write([past])).Value.ShouldHaveSingleItem();
        (back.Date, back.AfterRepair, back.Item).ShouldBe((past.Date, true, carrier));
        back.Readings.ShouldBe(readings);
    }

    [Theory]
    [InlineData("null")]
    [InlineData("[null]")]
    [InlineData("{}")]
    [InlineData("[{}, null]")]
    [InlineData("[{\"date\":\"2026-03-01\",\"afterRepair\":false,\"readings\":[],\"guess\":1}]")]
    [InlineData("[] and more")]
    public void A_history_that_is_none_is_a_fault_and_never_an_empty_one(string json) => BenchJson.ReadPast(json).Fault.ShouldNotBeNull();

    [Fact]
    public void A_record_explains_itself_reads_back_to_the_letter_and_follows_its_schema()
    {
        var bench = OnTheBench.With(OnTheBench.Kettle).PassTheRest();
        var record = RecordWriter
            .Write(
                bench.State,
                bench.Events,
                new(EndKind.Pass, Remarks: "by the window"),
                Guid.NewGuid(),
                new(2026, 3, 2, 10, 0, 0, TimeSpan.Zero),
                TimeZoneInfo.Utc,
                new(2026, 1, 1)
            )
            .Value;
        var text = record.ToJson();
        InspectionRecord.Read(text).Value.ToJson().ShouldBe(text);
        foreach (
            var said in new[]
            {
                "osierwand-inspection/2",
                "T-1",
                "0.1 Ω + 1.5 m",
                "earth continuity, item with flex",
                "by the window",
                "\"taken\"",
            }
        )
            text.ShouldContain(said, Case.Insensitive);
        (record.IsTest, record.Times.Date, record.Label!.Kind).ShouldBe((true, new DateOnly(2026, 3, 2), ""));
        InspectionRecord
            .Read(text.Replace("inspection/2", "inspection/9", StringComparison.Ordinal))
            .Fault.ShouldNotBeNull()
            .Path.ShouldBe("format");
        InspectionRecord.Read("{}").Fault.ShouldNotBeNull();
    }

    [Theory]
    [InlineData(EndKind.Fail)]
    [InlineData(EndKind.NotTested)]
    [InlineData(EndKind.Discard)]
    public void A_record_is_not_written_for_an_end_that_is_closed(EndKind end)
    {
        var bench = OnTheBench.With(OnTheBench.Kettle).PassTheRest();
        RecordWriter
            .Write(bench.State, bench.Events, new(end), Guid.NewGuid(), DateTimeOffset.UtcNow, TimeZoneInfo.Utc, new(2026, 1, 1))
            .Fault.ShouldNotBeNull();
    }

    [Fact]
    public void A_clock_that_runs_a_little_ahead_is_held_to_the_servers_and_both_are_kept()
    {
        // The last thing happens at 23:32 by the bench's clock.
        var bench = new OnTheBench(OnTheBench.With(OnTheBench.Kettle).Ruling) { Start = Instant(28, 23, 29) }.PassTheRest();
        var received = Instant(28, 23, 25);
        var brisbane = TimeZoneInfo.FindSystemTimeZoneById("Australia/Brisbane");
        var times = Written(bench, received, brisbane).Value.Times;
        times.Date.ShouldBe(new DateOnly(2026, 3, 1), "the day at the site, by the server's clock");
        (times.TakenTo > times.ReceivedAt).ShouldBeTrue();
    }

    [Theory]
    [InlineData(9, true)]
    [InlineData(12, false)]
    public void What_is_still_to_come_is_refused(int minutesAhead, bool isForgiven)
    {
        var bench = new OnTheBench(OnTheBench.With(OnTheBench.Kettle).Ruling) { Start = Instant(28, 12, 0) }.PassTheRest();
        var received = bench.Events.Max(it => it.At).AddMinutes(-minutesAhead);
        var written = Written(bench, received, TimeZoneInfo.Utc);
        (written.Fault is null).ShouldBe(isForgiven);
        if (!isForgiven)
            written.Fault!.Message.ShouldContain("kept");
    }

    [Fact]
    public void What_was_done_before_the_round_began_is_no_visits()
    {
        var bench = new OnTheBench(OnTheBench.With(OnTheBench.Kettle).Ruling) { Start = Instant(27, 23, 30) }.PassTheRest();
        var london = TimeZoneInfo.FindSystemTimeZoneById("Europe/London");
        var paris = TimeZoneInfo.FindSystemTimeZoneById("Europe/Paris");
        var began = new DateOnly(2026, 2, 28);
        Written(bench, Instant(28, 9, 0), london, began).Fault.ShouldNotBeNull().Message.ShouldContain("2026-02-27");
        // At a site in Paris it was half past midnight: the round's first day.
        Written(bench, Instant(28, 9, 0), paris, began).Fault.ShouldBeNull();
    }

    private static DateTimeOffset Instant(int day, int hour, int minute) => new(2026, 2, day, hour, minute, 0, TimeSpan.Zero);

    private static Result<InspectionRecord> Written(OnTheBench bench, DateTimeOffset received, TimeZoneInfo zone, DateOnly? began = null) =>
        RecordWriter.Write(bench.State, bench.Events, new(EndKind.Pass), Guid.NewGuid(), received, zone, began ?? new(2026, 1, 1));

    [Fact]
    public void A_bad_point_needs_words_and_fails_the_look()
    {
        var good = LookList.For(Urn, Uk).Select(point => new LookFinding(point.Id, LookAnswer.Good, null)).ToArray();
        LookList.Judge(Urn, Uk, good).Value.ShouldBe(Look.Pass);
        LookList.Judge(Urn, Uk, good[..^1]).Value.ShouldBe(Look.NotDone);
        LookList.Judge(Urn, Uk, [new("flex", LookAnswer.Bad, "Cut in the sheath")]).Value.ShouldBe(Look.Fail);
        LookList.Judge(Urn, Uk, [new("flex", LookAnswer.Bad, " ")]).Fault.ShouldNotBeNull().Path.ShouldBe("look.flex");
        LookList.For(new() { Kind = ItemKind.CordSet }, Uk).ShouldNotContain(point => point.Where == "Case");
        LookList.For(Urn with { Cord = new(Permanent: true) }, Uk).ShouldNotContain(point => point.Where == "Plug");
    }

    [Theory]
    [InlineData(3, 1.0, 13, 3000, true)] // 13.04 A through a 10 A flex
    [InlineData(3, 1.5, 5, 3000, true)] // 13.04 A behind 5 A
    [InlineData(2, 0.5, 13, 400, true)] // thin flex behind a large fuse
    [InlineData(2, 1.0, 13, 600, false)] // 3 A recommended
    public void Fuse_and_flex_faults_are_told_from_advice(double length, double size, double fuse, double power, bool fault)
    {
        var findings = FuseAndFlex.Check(
            new()
            {
                Kind = ItemKind.Appliance,
                RatedPower = new(power),
                PlugFuse = new(fuse),
                Cord = new(new(length), new(size)),
            },
            Uk
        );
        findings.ShouldNotBeEmpty();
        findings.Any(finding => finding.IsFault).ShouldBe(fault);
    }

    [Fact]
    public void A_rising_earth_is_told_before_it_fails()
    {
        Reading At(double ohms) => new Reading.EarthContinuity(new(), new(ohms, Unit.Ohm));
        var facts = new InspectionFacts
        {
            Pack = Uk,
            Item = Urn,
            Look = Look.Pass,
            History =
            [
                new(new(2023, 1, 1), false, [At(0.05)]),
                new(new(2024, 1, 1), false, [At(0.075)]),
                new(new(2025, 1, 1), false, [At(0.1)]),
            ],
            Readings = [At(0.115)],
            TestDate = new(2026, 1, 1),
            DueDate = new(2027, 1, 1),
            Interval = new(12),
        };
        Assessment.Of(facts).Advice.ShouldContain(line => line.Contains("on its way to its limit"));
        // After a repair the old values count no longer.
        var repaired = facts with
        {
            History = facts.History.SetItem(2, facts.History[2] with { AfterRepair = true }),
        };
        Assessment.Of(repaired).Advice.ShouldNotContain(line => line.Contains("on its way"));
    }
}
