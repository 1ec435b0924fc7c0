using System.Collections.Immutable;
using BenchmarkDotNet.Attributes;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>The rules core on the ordinary item: a heating class I appliance with earth, insulation, current and functional
/// check.</summary>
[MemoryDiagnoser]
public class PlanAndAssess
{
    private readonly RulePack pack = PackLibrary.Find("uk-cop-5")!;
    private InspectionFacts facts = null!;

    [GlobalSetup]
    public void Setup() =>
        facts = new()
        {
            Pack = pack,
            Item = new()
            {
                Kind = ItemKind.Appliance,
                Heating = true,
                RatedPower = new(2400),
                RatedVoltage = new(230),
                PlugFuse = new(13),
                Cord = new(new(2), new(1.25)),
            },
            Look = Look.Pass,
            Readings = ImmutableArray.Create<Reading>(
                new Reading.EarthContinuity(new(), new(0.16, Unit.Ohm)) { Null = new(0.05) },
                new Reading.Insulation(new(), new(500, Unit.Megohm, Qualifier.Above)),
                new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(0.42, Unit.Milliampere)) { Mains = new(234) },
                new Reading.Functional(true)
            ),
        };

    /// <summary>Judgement, requirements, advice; workings are written only when they are read.</summary>
    [Benchmark(Baseline = true)]
    public Verdict Assess() => Assessment.Of(facts).Verdict;

    /// <summary>With every line of working written out, as the command line does.</summary>
    [Benchmark]
    public int AssessWithWorking() => Assessment.Of(facts).Results.Sum(it => it.Working.Count);

    /// <summary>What opening an item and judging it costs: the goal is 5 microseconds.</summary>
    [Benchmark]
    public int PlanThenAssess() => Planner.Of(pack, facts.Item, Policy.Usual).Steps.Length + Assessment.Of(facts).Results.Length;

    [Benchmark]
    public int PlanOnly() => Planner.Of(pack, facts.Item, Policy.Usual).Steps.Length;
}
