using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>What a sheet may do depends on whose hands are on it, and on what they hold.</summary>
public class KitInHandTests
{
    private static readonly Item Rail = Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null };

    private static OnTheBench HeldBy(Item item, params Competence[] held)
    {
        var ruling = RulingFor(item, item.IsMedical ? "iec-62353-2014" : "uk-cop-5", kit: Analyser);
        return new(
            ruling with
            {
                Technician = ruling.Technician with { Competences = [.. held.Select(it => new HeldCompetence(it, null, "assessed"))] },
                HeldBy = ["Maud"],
            }
        );
    }

    [Fact]
    public void What_an_item_asks_for_follows_from_its_kind_and_connection()
    {
        CompetenceFor.Testing(Kettle).ShouldBe([Competence.PlugIn]);
        CompetenceFor.Testing(Rail).ShouldBe([Competence.PlugIn, Competence.HardWired]);
        CompetenceFor.Testing(Kettle with { Phases = 3 }).ShouldBe([Competence.PlugIn, Competence.ThreePhase]);
        CompetenceFor.Testing(Reel with { Rcd = new(0.03) }).ShouldBe([Competence.PlugIn, Competence.PortableRcd]);
        CompetenceFor.Testing(Pump).ShouldBe([Competence.AppliedParts]);
        CompetenceFor.Testing(Pump with { AppliedParts = [] }).ShouldBe([Competence.Medical]);
        CompetenceFor
            .Testing(Pump with { Defibrillator = new([150]) })
            .ShouldBe([Competence.AppliedParts, Competence.DefibrillatorPerformance]);
    }

    [Fact]
    public void A_competence_holds_to_its_last_day_and_applied_parts_serve_for_devices_without()
    {
        var day = new DateOnly(2026, 3, 2);
        HeldCompetence[] lapsing = [new(Competence.PlugIn, day, "course")];
        CompetenceFor.Lacking(Kettle, lapsing, day).ShouldBeEmpty();
        CompetenceFor.Lacking(Kettle, lapsing, day.AddDays(1)).ShouldBe(["plug-in appliances and cords (lapsed after 2026-03-02)"]);
        CompetenceFor.Lacking(Kettle, [.. lapsing, new(Competence.PlugIn, null, "renewed")], day.AddDays(1)).ShouldBeEmpty();
        CompetenceFor.Lacking(Pump with { AppliedParts = [] }, [new(Competence.AppliedParts, null, "course")], day).ShouldBeEmpty();
        CompetenceFor.Lacking(Pump, [new(Competence.Medical, null, "course")], day).ShouldNotBeEmpty();
    }

    [Fact]
    public void Who_lacks_the_competence_looks_and_does_not_test()
    {
        var bench = HeldBy(Rail with { Cord = Kettle.Cord }, Competence.Medical);
        bench.State.Steps[0].Start.IsGiven.ShouldBeTrue("anybody may look");
        bench.LookGood();
        bench.State.Steps.Where(it => it.Step.Family != StepFamily.Look).ShouldAllBe(it => !it.Start.IsGiven);
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("Ida may look and not test");
        Ahead.Of(bench.State).Why.ShouldContain("Hand it over to Maud");
        bench.State.EndOf(EndKind.Looked).IsOpen.ShouldBeTrue();
        bench.Choose(Scope.FormalVisual);
        bench.Answer("functional", true);
        bench.State.EndOf(EndKind.Pass).IsOpen.ShouldBeTrue("a formal visual is a look");
    }

    [Fact]
    public void Nobody_isolates_what_is_not_theirs_and_anybody_may_say_how_a_lock_is_left()
    {
        var bench = HeldBy(Rail, Competence.PlugIn);
        bench.Confirm("isolation/identify", "circuit 4");
        bench.Prove();
        bench.TestDead(Osierwand.Core.Isolation.Side.Supply, "L-N");
        bench.State.Refused.Length.ShouldBe(3);
        bench.State.Isolation.Story.ShouldBeEmpty();
        // What can be seen without isolating is looked at all the same.
        bench.State.Current.ShouldBe("visual");
        bench.State.Steps.Single(it => it.Step.Key == "visual").Start.IsGiven.ShouldBeTrue();
        bench.LookGood();
        bench.State.EndOf(EndKind.Looked).IsOpen.ShouldBeTrue();
        bench.State.Steps.ShouldAllBe(it => !it.Start.IsGiven);
    }

    [Fact]
    public void No_order_of_events_passes_or_isolates_a_test_that_is_not_theirs() =>
        Gen.Int[0, 99_999]
            .Array[5, 40]
            .Sample(
                script =>
                {
                    var bench = HeldBy(Rail, Competence.PlugIn, Competence.Medical);
                    foreach (var number in script)
                    {
                        if (number % 3 == 0)
                            IsolationTests.Happen(bench, number / 3);
                        else if (number % 3 == 1)
                            bench.LookGood();
                        else
                            bench.Type("earthContinuity", "0.05");
                        var state = bench.State;
                        state.Isolation.Done.ShouldBeEmpty();
                        state.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
                    }
                },
                iter: 100
            );

    [Fact]
    public void Looked_at_not_tested_moves_the_date_of_the_look_alone()
    {
        var bench = With(Kettle, kit: Analyser);
        bench.State.EndOf(EndKind.Looked).IsOpen.ShouldBeFalse("nobody has looked");
        bench.LookGood();
        var record = Written(bench, new(EndKind.Looked, NotTestedReason.Pipe)).Value;
        (record.Outcome, record.IsTest, record.KindOfInspection).ShouldBe((Outcome.NotTested, false, InspectionRecord.LookedNotTested));
        record.NotTested!.Text.ShouldBe("Plumbed in, or on a pipe");
        record.Next!.Due.ShouldBe(bench.Ruling.Basis.Due, "the test stays as due as it was");
        record.Next.VisualDue.ShouldBeGreaterThan(bench.Ruling.Today);
        Written(bench, new(EndKind.Looked)).Fault!.Path.ShouldBe("notTested");
        Written(bench, new(EndKind.NotTested, NotTestedReason.InUse)).Value.Next.ShouldBeNull();
    }

    [Fact]
    public void A_bad_look_a_failure_or_a_quarantine_is_never_looked_at_not_tested()
    {
        var bad = With(Kettle, kit: Analyser);
        bad.LookGood();
        bad.Type("earthContinuity", "0.9");
        bad.State.EndOf(EndKind.Looked).IsOpen.ShouldBeFalse();
        var held = With(Kettle, state: ItemState.Quarantined, kit: Analyser);
        held.LookGood();
        held.State.EndOf(EndKind.Looked).IsOpen.ShouldBeFalse();
        var visual = With(Kettle, kit: Analyser);
        visual.Choose(Scope.FormalVisual);
        visual.LookGood();
        visual.State.EndOf(EndKind.Looked).IsOpen.ShouldBeFalse();
    }

    private static Result<InspectionRecord> Written(OnTheBench bench, Ending ending) =>
        RecordWriter.Write(bench.State, bench.Events, ending, Guid.NewGuid(), bench.Start.AddHours(1), TimeZoneInfo.Utc, new(2026, 3, 1));

    private static OnTheBench Passed(KitInHand? kit)
    {
        var bench = With(Kettle, kit: kit);
        bench.LookGood();
        bench.Type("earthContinuity", "0.05");
        bench.Type("insulation", ">500M");
        bench.Type("leakage", "0.2");
        bench.Answer("functional", true);
        return bench;
    }

    [Fact]
    public void A_figure_needs_an_instrument_that_may_be_used()
    {
        Passed(Analyser).State.EndOf(EndKind.Pass).IsOpen.ShouldBeTrue();
        Passed(KitInHand.NotChosen).State.EndOf(EndKind.Pass).Why.ShouldContain("No kit is chosen");
        Passed(Analyser with { Trouble = "It failed its daily check." }).State.EndOf(EndKind.Pass).Why.ShouldContain("may not be used");
        // A failure that a doubtful instrument showed counts all the same.
        var failed = With(Kettle, kit: KitInHand.NotChosen);
        failed.LookGood();
        failed.Type("earthContinuity", "0.9");
        failed.State.EndOf(EndKind.Fail).IsOpen.ShouldBeTrue();
        // A look alone needs none.
        var look = With(Kettle, kit: KitInHand.NotChosen);
        look.Choose(Scope.FormalVisual);
        look.LookGood();
        look.Answer("functional", true);
        look.State.EndOf(EndKind.Pass).IsOpen.ShouldBeTrue();
    }

    [Fact]
    public void What_another_instrument_showed_is_measured_again()
    {
        var bench = Passed(Analyser);
        var reading = bench.Events.OfType<ReadingTaken>().First(it => it.Step == "earthContinuity");
        bench.Events[bench.Events.IndexOf(reading)] = reading with { With = Guid.NewGuid() };
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("not today's any more");
        bench.Void(reading.Id, "other instrument");
        bench.Type("earthContinuity", "0.06");
        bench.State.EndOf(EndKind.Pass).IsOpen.ShouldBeTrue();
    }

    [Fact]
    public void An_instrument_that_does_not_null_itself_shows_raw_figures_and_they_are_nulled_here()
    {
        var raw = Analyser with { NullsItself = false, NullOhm = 0.04 };
        static ReadingView Earth(KitInHand kit) =>
            new BenchSession(With(Kettle).Ruling with { Kit = kit }, Passed(kit).Events)
                .View()
                .Now.Readings.First(it => it.Step == "earthContinuity");
        Earth(Analyser).Si.ShouldBe(0.05);
        Earth(raw).Si!.Value.ShouldBe(0.01, 1e-9);
        Earth(raw).Raw.ShouldNotBeNull("the raw figure stands beside it");
    }

    [Fact]
    public void The_range_that_a_value_lies_in_gives_its_accuracy_and_a_coarse_one_is_told_before_use()
    {
        var kit = Analyser with
        {
            Accuracies = [new(Test.EarthContinuity, 3, 2, 0.001, "ohm", 0, 0.2), new(Test.EarthContinuity, 5, 5, 0.1, "ohm", 0.2, 20)],
        };
        var fine = new BenchSession(RulingFor(Kettle, kit: kit), []).View().Sheet!.Steps.First(it => it.Key == "earthContinuity");
        fine.Needs.ShouldNotContain(it => it.Contains("too coarse"));
        var coarse = new BenchSession(RulingFor(Kettle, kit: kit with { Accuracies = [kit.Accuracies[1] with { From = 0 }] }), [])
            .View()
            .Sheet!.Steps.First(it => it.Key == "earthContinuity");
        coarse.Needs.ShouldContain(it => it.Contains("too coarse"));
    }

    [Theory]
    [InlineData("V-9", null, KitFitness.Fit, InstallationCategory.IV, "not among today's")]
    [InlineData("V-1", "Not looked at today.", KitFitness.Fit, InstallationCategory.IV, "may not be used")]
    [InlineData("V-1", null, KitFitness.DeadWorkOnly, InstallationCategory.IV, "dead work only")]
    [InlineData("V-1", null, KitFitness.Fit, InstallationCategory.II, "category II")]
    [InlineData("v-1 ", null, KitFitness.Fit, InstallationCategory.III, null)]
    public void Dead_is_proved_with_an_indicator_of_the_day(
        string name,
        string? trouble,
        KitFitness fitness,
        InstallationCategory category,
        string? why
    )
    {
        var kit = Analyser with
        {
            Pieces = [Piece(KitKind.VoltageIndicator, "V-1", category, fitness, trouble), Piece(KitKind.ProvingUnit, "P-1")],
        };
        var bench = With(Rail, kit: kit);
        bench.PassUntil("isolation/prove");
        var id = bench.Prove(indicator: name);
        var refused = bench.State.Refused.FirstOrDefault(it => it.Id == id);
        if (why is null)
            refused.ShouldBeNull();
        else
            refused!.Why.ShouldContain(why);
    }

    [Fact]
    public void A_proof_needs_a_unit_of_the_day_or_a_reason_without()
    {
        var bench = With(Rail, kit: Analyser with { Pieces = [Piece(KitKind.VoltageIndicator, "V-1")] });
        bench.PassUntil("isolation/prove");
        bench.Prove();
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain("No proving unit");
    }
}
