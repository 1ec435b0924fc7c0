using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Papers;
using Shouldly;
using Xunit;

namespace Osierwand.Core.Tests.Bench;

public sealed class IntervalChoiceTests
{
    private static readonly double?[] Caps = [null, 0.25, 6, 12, 18, 36];
    private static readonly Place[] Places = [Place.Office, Place.Kitchen, Place.Hire];

    /// <summary>In a kitchen: looked at every six months, tested every twelve.</summary>
    private static OnTheBench Passed(bool isLead = false, Func<Ruling, Ruling>? with = null)
    {
        var ruling = OnTheBench.RulingFor(OnTheBench.Kettle, isLead: isLead, kit: OnTheBench.Analyser);
        return new OnTheBench(with?.Invoke(ruling) ?? ruling).PassTheRest();
    }

    private static Guid Choose(OnTheBench bench, double? months, string? reason = "rough place") =>
        bench.Happens(next => new IntervalChosen
        {
            Id = next.Id,
            At = next.At,
            Months = months,
            Reason = reason,
        });

    private static string? WhyNot(OnTheBench bench, Guid choice) => bench.State.Refused.SingleOrDefault(it => it.Id == choice)?.Why;

    [Fact]
    public void Shorter_is_chosen_by_anybody_with_a_reason_that_stays_on_the_record_and_its_paper()
    {
        var bench = Passed();
        bench.View.Next!.Months.ShouldBe(12);
        WhyNot(bench, Choose(bench, 3)).ShouldBeNull();

        var next = bench.Record().Next!;

        (next.Months, next.Due, next.DecidedBy).ShouldBe((3, new DateOnly(2026, 6, 2), DecidedBy.Person));
        next.Chosen.ShouldBe(new(3, 12, "Ida", "rough place"));
        next.Because[^1].ShouldBe("computed 12 months; Ida made it 3 months: rough place");
        InspectionRecord.Read(bench.Record().ToJson()).Value.Next!.Chosen.ShouldBe(next.Chosen);
        PaperTests
            .Paper(bench.Record())
            .Next.ShouldContain(line => line.Contains("Ida made it 3 months: rough place", StringComparison.Ordinal));
    }

    [Fact]
    public void The_formal_visual_is_never_longer_than_the_test_that_was_chosen()
    {
        var bench = Passed();
        Choose(bench, 3);
        bench.View.Next!.VisualMonths.ShouldBe(3);
        Choose(bench, 6);
        bench.View.Next!.VisualMonths.ShouldBe(6);
    }

    [Theory]
    [InlineData(3, "")]
    [InlineData(3, "  ")]
    [InlineData(5, "why not")]
    [InlineData(0, "why not")]
    [InlineData(-3, "why not")]
    [InlineData(double.NaN, "why not")]
    [InlineData(double.PositiveInfinity, "why not")]
    public void Without_a_reason_or_off_the_ladder_nothing_moves(double months, string reason)
    {
        foreach (var isLead in new[] { false, true })
        {
            var bench = Passed(isLead);
            WhyNot(bench, Choose(bench, months, reason)).ShouldNotBeNull();
            (bench.View.Next!.Months, bench.View.Next!.Chosen).ShouldBe((12, null));
        }
    }

    [Fact]
    public void Longer_is_a_leads_to_decide()
    {
        var bench = Passed();
        WhyNot(bench, Choose(bench, 24)).ShouldBe("Longer than the computed 12 months is a lead’s to decide.");
        bench.View.Next!.Months.ShouldBe(12);

        var lead = Passed(isLead: true);
        WhyNot(lead, Choose(lead, 24)).ShouldBeNull();
        lead.View.Next!.Due.ShouldBe(new(2028, 3, 2));
        lead.View.Next!.Because[^1].ShouldEndWith("(longer, by a lead)");
        lead.View.Next!.VisualMonths.ShouldBe(6);
    }

    [Fact]
    public void Not_even_a_lead_goes_beyond_what_the_client_a_hire_fleet_or_the_maker_fixes()
    {
        var capped = Passed(isLead: true, it => it with { Basis = it.Basis with { CapMonths = 12 } });
        WhyNot(capped, Choose(capped, 24)).ShouldBe("The client’s fixed 12 months is the longest here.");

        var hired = Passed(isLead: true, it => it with { Basis = it.Basis with { Place = Place.Hire } });
        WhyNot(hired, Choose(hired, 6)).ShouldBe("For hire 3 months is the longest here.");

        var pump = OnTheBench.RulingFor(
            OnTheBench.Pump with
            {
                Maker = new(6, [], []),
            },
            "iec-62353-2014",
            isLead: true,
            kit: OnTheBench.Analyser
        );
        var medical = new OnTheBench(pump with { Basis = pump.Basis with { Place = Place.Medical } }).PassTheRest();
        WhyNot(medical, Choose(medical, 12)).ShouldBe("The maker’s 6 months is the longest here.");
    }

    [Fact]
    public void What_was_chosen_lapses_when_a_later_reading_makes_the_computed_one_shorter()
    {
        var bench = Passed(with: it =>
            it with
            {
                Basis = it.Basis with { Past = [new(new(2024, 3, 1), Verdict.Pass), new(new(2025, 3, 1), Verdict.Pass)] },
            }
        );
        bench.View.Next!.Months.ShouldBe(24);
        var choice = Choose(bench, 12, "as before");
        bench.View.Next!.Chosen.ShouldNotBeNull();
        // Of all earth paths the last: close to its limit.
        var earth = bench.State.Steps.First(step => step.Step is SheetStep.Measure { Plan.Test: Test.EarthContinuity });
        bench.Void(earth.Taken[^1]);
        bench.Type(earth.Step.Key, "0.125");
        bench.PassTheRest();

        bench.View.Next!.Months.ShouldBe(6);
        bench.View.Next!.Chosen.ShouldBeNull();
        WhyNot(bench, choice).ShouldBe("Longer than the computed 6 months is a lead’s to decide.");
    }

    [Fact]
    public void It_is_taken_back_and_the_computed_one_stands_again()
    {
        var bench = Passed();
        var computed = bench.View.Next;
        Choose(bench, 3);
        Choose(bench, null, null);
        bench.View.Next!.Due.ShouldBe(computed!.Due);
        bench.View.Next!.Chosen.ShouldBeNull();
    }

    [Fact]
    public void Of_a_formal_visual_the_date_of_the_look_is_chosen_and_that_of_the_test_stays()
    {
        var bench = new OnTheBench(OnTheBench.RulingFor(OnTheBench.Kettle, kit: OnTheBench.Analyser));
        bench.Choose(Scope.FormalVisual);
        bench.PassTheRest();
        bench.View.Interval!.Tier.ShouldBe("Look again");
        Choose(bench, 1);
        (bench.View.Next!.Due, bench.View.Next!.VisualDue).ShouldBe((new DateOnly(2026, 4, 1), new DateOnly(2026, 4, 2)));
    }

    [Fact]
    public void What_failed_has_no_date_to_choose_and_one_that_was_chosen_before_saves_none()
    {
        var bench = Passed();
        Choose(bench, 3);
        var earth = bench.State.Steps.First(step => step.Step is SheetStep.Measure { Plan.Test: Test.EarthContinuity });
        bench.Void(earth.Taken[^1]);
        bench.Type(earth.Step.Key, "8");
        bench.View.Interval.ShouldBeNull();
        bench.Record(EndKind.Fail).Next.ShouldBeNull();
    }

    [Fact]
    public void The_steps_on_offer_are_those_that_would_stand()
    {
        Gen.Select(Gen.Bool, Gen.Int[0, Caps.Length - 1], Gen.Int[0, Places.Length - 1])
            .Sample(
                it =>
                {
                    var (isLead, cap, place) = (it.Item1, Caps[it.Item2], Places[it.Item3]);
                    var bench = Passed(isLead, ruling => ruling with { Basis = ruling.Basis with { CapMonths = cap, Place = place } });
                    var card = bench.View.Interval!;
                    card.Steps.Single(step => step.Months == card.ComputedMonths).WhyNot.ShouldBeNull();
                    foreach (var step in card.Steps)
                    {
                        var choice = Choose(bench, step.Months);
                        WhyNot(bench, choice).ShouldBe(step.WhyNot);
                        var months = bench.View.Next!.Months!.Value;
                        months.ShouldBe(step.WhyNot is null ? step.Months : card.ComputedMonths);
                        months.ShouldBeLessThanOrEqualTo(isLead ? cap ?? 60 : card.ComputedMonths);
                        bench.View.Next!.VisualDue.ShouldBeLessThanOrEqualTo(bench.View.Next!.Due!.Value);
                    }
                },
                iter: 60
            );
    }
}
