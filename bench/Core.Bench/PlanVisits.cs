using BenchmarkDotNet.Attributes;
using Osierwand.Core.Competences;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;

namespace Osierwand.Core.Bench;

/// <summary>Laying what falls due into people's days: 40 sites, 4 people, 60 days. How far it is from the least there could be is
/// printed beside the times.</summary>
[MemoryDiagnoser]
public class PlanVisits
{
    private static readonly DateOnly Monday = new(2026, 3, 2);
    private PlanSetting setting = null!;

    [Params(500, 5_000)]
    public int Items { get; set; }

    [GlobalSetup]
    public void Setup()
    {
        var dice = new Random(7);
        Guid Id() => new(dice.Next(), 0, 0, new byte[8]);
        PlanSite[] sites =
        [
            .. Enumerable.Range(0, 40).Select(at => new PlanSite(Id(), $"site {at}", TimeSpan.FromMinutes(dice.Next(10, 90)))),
        ];
        Guid[] people = [Id(), Id(), Id(), Id()];
        var days =
            from day in Enumerable.Range(0, 60)
            where Monday.AddDays(day).DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday)
            from person in Enumerable.Range(0, 4)
            select new RoundDay(
                Monday.AddDays(day),
                people[person],
                $"person {person}",
                TimeSpan.FromMinutes(360),
                [.. CompetenceFor.All.Take(person % 2 == 0 ? 8 : 2).Select(it => new HeldCompetence(it, null, "assessed"))]
            );
        // What was tested in one round falls due together; a tenth was bought or repaired between.
        int[][] rounds = [.. sites.Select(_ => Enumerable.Range(0, dice.Next(1, 4)).Select(_ => dice.Next(3, 57)).ToArray())];
        int DueAt(int site) => dice.Next(10) == 0 ? dice.Next(-1, 60) : rounds[site][dice.Next(rounds[site].Length)] + dice.Next(-3, 4);
        int[] months = [3, 6, 12, 24];
        DueWork[] work =
        [
            .. Enumerable
                .Range(0, Items)
                .Select(_ => dice.Next(40))
                .Select(site => new DueWork(
                    Id(),
                    sites[site].Id,
                    Monday.AddDays(DueAt(site)),
                    DueTier.Combined,
                    TimeSpan.FromMinutes(3 + dice.NextDouble() * 6),
                    Monday.AddMonths(-months[dice.Next(4)]),
                    [dice.Next(5) == 0 ? Competence.HardWired : Competence.PlugIn]
                )),
        ];
        setting = PlanSetting.Of(days, sites, work).Value;
    }

    [GlobalCleanup]
    public void Said()
    {
        var plan = Planner.Plan(setting);
        Console.WriteLine(
            $"// {Items} items: {plan.Visits.Length} visits, {plan.Cost}; paid {plan.Cost.Paid.TotalHours:F1} h, at least {plan.LeastPaid.TotalHours:F1} h"
        );
    }

    [Benchmark]
    public VisitPlan Planned() => Planner.Plan(setting);

    [Benchmark(Baseline = true)]
    public TimeSpan BoundAlone() => PlanOfNothing.LeastPaid;

    private VisitPlan PlanOfNothing => field ??= Planner.Plan(setting);
}
