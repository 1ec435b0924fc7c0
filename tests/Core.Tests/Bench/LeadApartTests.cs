using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A device that came without its detachable lead is measured without it, and the lead has a step of its own: left out, it is
/// told.</summary>
public class LeadApartTests
{
    private const string Device = "earthContinuity/deviceAlone";
    private const string Lead = "earthContinuity/cordAlone";

    private static OnTheBench Parted(Item? item = null, bool isApart = true)
    {
        var bench = With(item ?? Pump, "iec-62353-2014", kit: Analyser);
        bench.Happens(next => new LeadParted
        {
            Id = next.Id,
            At = next.At,
            IsApart = isApart,
        });
        return bench;
    }

    [Fact]
    public void Each_has_a_step_and_a_limit_of_its_own()
    {
        var bench = Parted();
        double? Limit(string step) => ((SheetStep.Measure)bench.State.Sheet.Find(step)!).Plan.Limit?.Value?.Si;
        (Limit(Device), Limit(Lead)).ShouldBe((0.2, 0.1));
        bench.State.Sheet.Find("earthContinuity").ShouldBeNull();
        Parted(isApart: false).State.Sheet.Find("earthContinuity").ShouldNotBeNull();
        var parts = Parted(Pump with { EarthedParts = ["rail", "stud"] });
        parts
            .State.Sheet.Steps.Where(step => step.Key.StartsWith("earthContinuity"))
            .Select(step => step.Name)
            .ShouldBe([
                "Earth continuity without its lead, rail",
                "Earth continuity without its lead, stud",
                "Earth continuity of the mains lead",
            ]);
    }

    [Fact]
    public void A_lead_that_nobody_measured_is_advice_that_names_it()
    {
        var bench = Parted();
        bench.PassUntil(Lead);
        foreach (var step in bench.State.Sheet.Steps.SkipWhile(step => step.Key != Lead).Skip(1))
            switch (step)
            {
                case SheetStep.Outlet:
                    bench.CheckOutlet();
                    break;
                case SheetStep.Measure measured:
                    bench.Type(step.Key, measured.Plan.Test == Test.Leakage ? "20u" : ">500M");
                    break;
                case SheetStep.Function:
                    bench.Answer(step.Key, true);
                    break;
            }
        bench.EvaluateAsProposed();
        var record = bench.Record();
        record.Outcome.ShouldBe(Outcome.PassWithAdvice);
        record.Advice.ShouldContain(line => line.StartsWith("Its detachable lead was left out"));
    }

    [Theory]
    [InlineData("0.05", true)]
    [InlineData("0.15", false)]
    public void The_lead_is_judged_by_its_own_limit(string ohm, bool passes)
    {
        var bench = Parted();
        bench.PassUntil(Lead);
        bench.Type(Lead, ohm);
        bench.State.EndOf(EndKind.Fail).IsOpen.ShouldBe(!passes);
        bench.State.Assessment.Advice.ShouldNotContain(line => line.Contains("lead was left out"));
    }

    [Fact]
    public void What_was_measured_with_the_lead_stays_when_the_two_are_parted()
    {
        var bench = With(Pump, "iec-62353-2014", kit: Analyser);
        bench.LookGood();
        bench.Type("earthContinuity", "0.9");
        bench.Happens(next => new LeadParted
        {
            Id = next.Id,
            At = next.At,
            IsApart = true,
        });
        bench.State.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
        bench.State.HasFailed.ShouldBeTrue("a failure stays one");
    }

    [Fact]
    public void Only_where_the_standard_judges_both_by_themselves()
    {
        Parted(Pump with { Cord = Pump.Cord! with { Detachable = false } }).State.Sheet.Find("earthContinuity").ShouldNotBeNull();
        var kettle = With(Kettle with { Cord = Kettle.Cord! with { Detachable = true } }, kit: Analyser);
        new BenchSession(kettle.Ruling, []).View().Sheet!.IsLeadApart.ShouldBeNull("its lead is an item of its own");
        new BenchSession(With(Pump, "iec-62353-2014").Ruling, []).View().Sheet!.IsLeadApart.ShouldBe(false);
    }
}
