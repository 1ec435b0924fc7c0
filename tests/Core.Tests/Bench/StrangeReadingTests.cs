using Osierwand.Core.Bench;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>What an instrument tells beside its figure, and what a technician says of a strange one.</summary>
public class StrangeReadingTests
{
    private const string Insulation = "insulation";

    private static OnTheBench Kettle() => OnTheBench.With(OnTheBench.Kettle, kit: OnTheBench.Analyser).LookGood();

    internal static Guid Measured(
        OnTheBench sheet,
        string step,
        double number,
        string unit,
        Func<ReadingTaken, ReadingTaken>? with = null
    ) =>
        sheet.Happens(next =>
            (with ?? (it => it))(
                new()
                {
                    Id = next.Id,
                    At = next.At,
                    Step = step,
                    Source = ReadingSource.Instrument,
                    Number = number,
                    Unit = unit,
                    Seal = "measured",
                }
            )
        );

    [Fact]
    public void What_the_flex_moved_by_is_told_though_the_largest_passes()
    {
        var sheet = Kettle();
        Measured(sheet, "earthContinuity", 0.15, "ohm", it => it with { Lowest = 0.08, NullOhm = 0.04 });
        var reading = sheet.View.Readings[^1];
        (reading.Status, reading.Swing).ShouldBe((Status.Pass, "flexed: 0.04 Ω to 0.11 Ω"));
        sheet.View.Advice.ShouldContain(line => line.StartsWith("Earth continuity moved by 0.07 Ω"));
        sheet.View.Telling.ShouldContain(it => it.Id == "earth-moves");
    }

    [Theory]
    [InlineData(0.15, false)] // above the reading itself: it is not believed
    [InlineData(double.NaN, false)]
    [InlineData(0.09, false)] // moved by 0.02 ohm: nothing to tell
    [InlineData(0.03, true)]
    public void Only_a_lowest_below_the_reading_counts(double lowest, bool isTold)
    {
        var sheet = Kettle();
        Measured(sheet, "earthContinuity", 0.11, "ohm", it => it with { Lowest = lowest, NullOhm = 0.04 });
        sheet.View.Advice.Any(line => line.StartsWith("Earth continuity moved")).ShouldBe(isTold);
    }

    [Fact]
    public void A_typed_reading_knows_no_lowest_and_no_path()
    {
        var sheet = Kettle();
        sheet.Type("earthContinuity", "0.1");
        Measured(sheet, Insulation, 200, "Mohm", it => it with { PathSeen = false, Seal = null });
        sheet.View.Readings[^1].Status.ShouldBe(Status.Pass, "what no instrument of ours measured is typed, and says nothing of L and N");
    }

    [Fact]
    public void L_and_N_seen_open_decide_nothing_until_somebody_says_why()
    {
        var sheet = Kettle();
        Measured(sheet, "earthContinuity", 0.1, "ohm");
        var open = Measured(sheet, Insulation, 200, "Mohm", it => it with { PathSeen = false });
        sheet.View.Readings[^1].ShouldSatisfyAllConditions(it => it.Status.ShouldBe(Status.Undecided), it => it.PathOpen.ShouldBe(true));
        sheet.View.Telling.ShouldContain(it => it.Id == "no-load");
        sheet.Stands(Insulation).ShouldNotBe(Standing.Pass);

        sheet.Happens(next => new PathExplained
        {
            Id = next.Id,
            At = next.At,
            Target = open,
            Words = "soft starter",
        });
        sheet.Stands(Insulation).ShouldBe(Standing.Pass);
        sheet.View.Readings[^1].PathOpen.ShouldBeNull();
        sheet.View.Telling.ShouldNotContain(it => it.Id == "no-load");
        sheet.PassTheRest();
        sheet.State.Outcome.ShouldBe(Outcome.PassWithAdvice);
        var record = sheet.Record();
        record.Advice.ShouldContain(line => line.Contains("soft starter") && line.Contains("not exercised"));
        InspectionRecordsReadBack(record);
    }

    /// <summary>Powered, a load that does not flow is no soft starter's: the current that was measured was not the running item's.</summary>
    [Fact]
    public void A_load_that_does_not_flow_on_mains_cannot_be_explained_away()
    {
        var sheet = Kettle();
        Measured(sheet, "earthContinuity", 0.1, "ohm");
        Measured(sheet, Insulation, 200, "Mohm");
        sheet.CheckOutlet();
        var dead = Measured(sheet, "leakage/protectiveConductor", 0.1, "mA", it => it with { LoadA = 0, Mains = 230 });
        sheet.Happens(next => new PathExplained
        {
            Id = next.Id,
            At = next.At,
            Target = dead,
            Words = "soft starter",
        });
        sheet.State.Refused.ShouldContain(it => it.Why.Contains("L and N open"));
        sheet.View.Readings[^1].Status.ShouldBe(Status.Undecided);
    }

    [Fact]
    public void An_explanation_wants_words_and_saves_no_failure()
    {
        var sheet = Kettle();
        Measured(sheet, "earthContinuity", 0.1, "ohm");
        var open = Measured(sheet, Insulation, 0.1, "Mohm", it => it with { PathSeen = false });
        sheet.Happens(next => new PathExplained
        {
            Id = next.Id,
            At = next.At,
            Target = open,
            Words = " ",
        });
        sheet.View.Readings[^1].Status.ShouldBe(Status.Undecided);
        sheet.Happens(next => new PathExplained
        {
            Id = next.Id,
            At = next.At,
            Target = open,
            Words = "relay",
        });
        sheet.View.Readings[^1].Status.ShouldBe(Status.Fail);
    }

    [Fact]
    public void With_the_neutral_open_no_load_is_expected()
    {
        var sheet = OnTheBench.With(OnTheBench.Pump, "iec-60601-1-2012", kit: OnTheBench.Analyser);
        Measured(sheet, "leakage/earth/neutralOpen", 40, "uA", it => it with { LoadA = 0, Mains = 230 });
        sheet.View.Readings[^1].Status.ShouldBe(Status.Pass);
        Measured(sheet, "leakage/earth", 40, "uA", it => it with { LoadA = 0, Mains = 230 });
        sheet.View.Readings[^1].Status.ShouldBe(Status.Undecided);
    }

    [Fact]
    public void What_was_tried_is_kept_with_its_sign_and_stands_in_the_record()
    {
        var sheet = Kettle();
        var over = sheet.Type("earthContinuity", ">24");
        sheet.Happens(next => new CauseTried
        {
            Id = next.Id,
            At = next.At,
            Signature = "earth-open",
            Words = "Coating under the clip",
        });
        sheet.Happens(next => new CauseTried
        {
            Id = next.Id,
            At = next.At,
            Signature = "no such sign",
            Words = "x",
        });
        sheet.Void(over);
        sheet.View.Tried.Select(it => (it.Sign, it.Words)).ShouldBe([("earth-open", "Coating under the clip")]);
        sheet.PassTheRest();
        var record = sheet.Record();
        record.Tried.ShouldNotBeNull().Count.ShouldBe(1);
        InspectionRecordsReadBack(record);
    }

    [Fact]
    public void The_buildings_rcd_is_told_where_something_was_powered()
    {
        var sheet = Kettle();
        sheet.Happens(next => new MainsLost
        {
            Id = next.Id,
            At = next.At,
            Step = "earthContinuity",
        });
        sheet.View.Telling.ShouldNotContain(it => it.Id == "building-rcd");
        sheet.Happens(next => new MainsLost
        {
            Id = next.Id,
            At = next.At,
            Step = "leakage/protectiveConductor",
        });
        sheet.View.Telling.ShouldContain(it => it.Id == "building-rcd");
    }

    [Fact]
    public void Without_mains_at_hand_leakage_is_measured_by_the_alternative_method_and_the_record_says_why()
    {
        var sheet = Kettle();
        sheet.Happens(next => Choosing(next.Id, next.At, LeakagePolicy.Alternative, "No mains at hand"));
        sheet.State.Sheet.Find("leakage/protectiveConductor/alternative").ShouldNotBeNull();
        sheet.State.Sheet.Find("leakage/protectiveConductor").ShouldBeNull();
        sheet.PassTheRest();
        sheet.Record().LeakageReason.ShouldBe("No mains at hand");
        InspectionRecordsReadBack(sheet.Record());
    }

    [Fact]
    public void A_method_that_does_not_reach_the_mains_part_is_refused_and_no_failure_goes_with_a_method()
    {
        var electronic = OnTheBench.With(OnTheBench.Kettle with { MainsSwitch = Equipment.MainsSwitch.Electronic });
        electronic.Happens(next => Choosing(next.Id, next.At, LeakagePolicy.Alternative, "No mains at hand"));
        electronic.State.Refused.ShouldContain(it => it.Why.Contains("electronic switch"));
        var failed = Kettle();
        failed.Type("leakage/protectiveConductor", "9mA");
        failed.Happens(next => Choosing(next.Id, next.At, LeakagePolicy.Alternative, "It must not be started here"));
        failed.State.HasFailed.ShouldBeTrue();
        failed.Happens(next => Choosing(next.Id, next.At, LeakagePolicy.None, "I would rather not"));
        failed.State.Refused.ShouldContain(it => it.Why.Contains("client's choice"));
    }

    [Fact]
    public void Where_nothing_is_measured_there_is_no_method_to_choose()
    {
        LeakageChoice.Of(Kettle().Ruling).ShouldBe(LeakagePolicy.Powered);
        var lookedAt = OnTheBench.RulingFor(OnTheBench.Drill with { AllInsulated = true, Use = Equipment.UseOf.Portable });
        LeakageChoice.Of(lookedAt with { Policy = new() { ClassII = ClassIIPolicy.LookOnly } }).ShouldBeNull();
        LeakageChoice.Of(Kettle().Ruling with { Scope = Scope.FormalVisual }).ShouldBeNull();
        LeakageChoice.Of(OnTheBench.RulingFor(OnTheBench.Reel)).ShouldBeNull();
    }

    private static LeakageMethodChosen Choosing(Guid id, DateTimeOffset at, LeakagePolicy to, string reason) =>
        new()
        {
            Id = id,
            At = at,
            Leakage = to,
            Reason = reason,
        };

    [Fact]
    public void The_same_offset_on_every_item_is_told_and_changes_no_ruling()
    {
        var plain = OnTheBench.RulingFor(OnTheBench.Kettle);
        var drifted = plain with { EarthOffsets = [0.08, 0.082, 0.079] };
        drifted.Fingerprint.ShouldBe(plain.Fingerprint);
        new OnTheBench(drifted).View.Telling.ShouldContain(it => it.Id == "same-offset");
        new OnTheBench(plain with { EarthOffsets = [0.08, 0.082] }).View.Telling.ShouldBeEmpty("two items are no pattern");
    }

    /// <summary>An instrument's upper range has coarse steps: that is no fault of it where the limit is far away.</summary>
    [Theory]
    [InlineData(640, ">", false)]
    [InlineData(100, null, false)]
    [InlineData(3, null, true)] // 1 Mohm above its limit, in steps of 1 Mohm
    public void Coarse_steps_are_told_where_they_could_decide(double megohm, string? qualifier, bool isTold)
    {
        var coarse = OnTheBench.Analyser with { Accuracies = [new(Test.Insulation, 5, 2, 1, "Mohm", 0, 640)] };
        var sheet = OnTheBench.With(OnTheBench.Drill, kit: coarse).LookGood();
        sheet.PlaceProbe();
        Measured(sheet, "insulation/mainsToAccessible", megohm, "Mohm", it => it with { Qualifier = qualifier });
        sheet.View.Advice.Any(line => line.Contains("unsuitable")).ShouldBe(isTold);
    }

    [Fact]
    public void An_offset_is_todays_reading_less_the_last_one_at_the_same_place()
    {
        static PastInspection Of(params Reading[] readings) => new(new(2026, 3, 2), false, [.. readings]);
        static Reading.EarthContinuity Earth(double ohm, double nullOhm = 0.04, string? at = null) =>
            new(new() { At = at is null ? null : new Spot.Probe(at) }, new(ohm, Quantities.Unit.Ohm)) { Null = new(nullOhm) };
        DayOffsets
            .Of([
                (Of(Earth(0.15)), Of(Earth(0.07))),
                // Nulled anew between the two: what counts is what was left.
                (Of(Earth(0.20, 0.09)), Of(Earth(0.06))),
                // Another place, a bound, a voided one: no pair.
                (Of(Earth(0.15, at: "handle")), Of(Earth(0.07))),
                (Of(Earth(0.15)), Of(Earth(0.07) with { Void = "clip was off" })),
                (Of(new Reading.EarthContinuity(new(), new(24, Quantities.Unit.Ohm, Quantities.Qualifier.Above))), Of(Earth(0.07))),
            ])
            .ShouldBe([0.08, 0.09], 1e-9);
    }

    private static void InspectionRecordsReadBack(Core.Records.InspectionRecord record) =>
        Core.Records.InspectionRecord.Read(record.ToJson()).Value.ToJson().ShouldBe(record.ToJson());
}
