using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Server.Kit;
using Osierwand.Server.Rounds;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>What the bench needs of an earlier inspection.</summary>
internal sealed record LookedBack(Guid Id, DateTimeOffset TestedAt, Outcome Outcome, bool NearLimit, bool Rising, string Taken)
{
    public static LookedBack Of(Inspection it) => new(it.Id, it.TestedAt, it.Outcome, it.NearLimit, it.Rising, it.Taken);

    public DateOnly Date => DateOnly.FromDateTime(TestedAt.LocalDateTime);
}

/// <summary>An item on the bench with the rules of its round and its history: what sheet, judgement and save all start from.</summary>
internal sealed record OnBench(RegisterItem Item, Round Round, RulePack Pack, Client Client, IReadOnlyList<LookedBack> History)
{
    private readonly Lazy<ImmutableArray<PastInspection>> past = new(() => Past(History));

    /// <summary>Earlier readings, oldest first.</summary>
    public ImmutableArray<PastInspection> PastReadings => past.Value;

    /// <summary>After a repair the inspection starts again from the look; a quarantined item is never simply "tested again".</summary>
    public Scope UsualScope => Item.State is ItemState.Quarantined or ItemState.InRepair ? Scope.AfterRepair : Scope.Combined;

    private static ImmutableArray<PastInspection> Past(IEnumerable<LookedBack> history)
    {
        var past = ImmutableArray.CreateBuilder<PastInspection>();
        foreach (var inspection in history)
            if (InspectionRecord.ReadTaken(inspection.Taken).TryGet(out var read)) past.Add(read);
        return past.ToImmutable();
    }
}

/// <summary>Loads what lies on the bench and computes its run sheet.</summary>
public sealed class Sheets(OsierwandDb db, InstrumentLine line, HousePacks packs, TimeProvider time)
{
    /// <summary>How many earlier inspections the trend and the rail look back on.</summary>
    private const int LookBack = 12;

    private DateOnly Today => DateOnly.FromDateTime(time.GetLocalNow().DateTime);

    /// <returns>Null when there is no such item or round, or they belong to different sites.</returns>
    internal async Task<OnBench?> FindAsync(Guid itemId, Guid roundId, CancellationToken cancel)
    {
        // One question to the database: the bench asks it after every reading.
        var found = await db.Items.AsNoTracking().Where(it => it.Id == itemId).Select(it => new
        {
            Item = it,
            it.Client,
            it.Site,
            Round = db.Rounds.FirstOrDefault(round => round.Id == roundId && round.SiteId == it.SiteId),
            History = db.Inspections.Where(past => past.ItemId == itemId).OrderByDescending(past => past.TestedAt).Take(LookBack)
                .Select(past => new LookedBack(past.Id, past.TestedAt, past.Outcome, past.NearLimit, past.Rising, past.Taken)).ToList(),
        }).FirstOrDefaultAsync(cancel);
        if (found is not { Round: { } round } || await packs.FindAsync(db, round.PackIdFor(found.Item.Equipment.Kind), cancel) is not { } pack) return null;
        (found.Item.Client, found.Item.Site) = (found.Client, found.Site);
        found.History.Reverse();
        return new(found.Item, round, pack, found.Client, found.History);
    }

    /// <param name="school">Words the steps for an appliance tester or for two probes of a meter.</param>
    internal async Task<BenchSheet> SheetAsync(OnBench bench, Scope scope, School school, bool mayOverride, CancellationToken cancel)
    {
        var plan = Planner.Of(bench.Pack, bench.Item.Equipment, bench.Client.Policy, scope, school == School.Meter ? Instrumentation.Meter : Instrumentation.Tester);
        var instrument = await KitEndpoints.CardAsync(db, line, time, cancel);
        var lead = await db.Instruments.OrderBy(it => it.Name).Select(it => it.NullOhm).FirstOrDefaultAsync(cancel);
        return new(
            Card(bench), new(bench.Round.Id, bench.Round.Name, bench.Client.Name, bench.Pack.Id, RoundEndpoints.NameOf(bench.Pack.Id), bench.Pack.ShortName,
                StandardsEndpoints.CheckNote),
            scope, school, [.. plan.Steps.Select(step => StepCards.Of(step, bench, school == School.Meter ? null : instrument))], plan.Remarks,
            [.. LookList.For(bench.Item.Equipment).Select(point => new LookCard(point.Id, point.Where, point.Text, point.Phrases))],
            FuseOf(bench), instrument, lead ?? 0,
            [.. bench.History.Select(it => new PastCard(it.Id, it.Date, it.Outcome))], bench.Pack.Scope == PackScope.Medical, mayOverride);
    }

    private BenchItem Card(OnBench bench)
    {
        var item = bench.Item;
        return new(item.Id, item.Tag, item.Name, $"{item.Site.Name}, {item.Room}", ItemText.Class(item.Equipment.Class), ClassDecisions.From(item.Evidence).Seen,
            ItemText.Facts(item), item.Due, item.Due is { } due ? Today.DayNumber - due.DayNumber : null, item.State, item.Revision);
    }

    private static FuseCard FuseOf(OnBench bench) => new(
        FuseAndFlex.Facts(bench.Item.Equipment, bench.Pack).Summary(bench.Item.Equipment),
        [.. FuseAndFlex.Check(bench.Item.Equipment, bench.Pack).Select(finding => new FuseLine(finding.IsFault, finding.Text))]);

    /// <summary>When the item is next due if this inspection is saved today.</summary>
    internal Interval NextOf(OnBench bench, Assessment assessment, bool? rising = null) => NextDates.Of(bench.Item, bench.Client, bench.Pack, bench.History,
        new PastTest(Today, assessment.Verdict, assessment.Results.Any(it => it.NearLimit), rising ?? IsRising(bench, assessment)));

    /// <summary>A value on its way to its limit.</summary>
    internal bool IsRising(OnBench bench, Assessment assessment) => Trend.Of(Facts(bench, Look.Pass, [.. assessment.Results.Select(it => it.Reading)], Scope.Combined), assessment.Results).Any();

    internal InspectionFacts Facts(OnBench bench, Look look, ImmutableArray<Reading> readings, Scope scope) => new()
    {
        Pack = bench.Pack,
        Item = bench.Item.Equipment,
        Look = look,
        Readings = readings,
        DecisionRule = bench.Client.DecisionRule,
        Scope = scope,
        Policy = bench.Client.Policy,
        History = bench.PastReadings,
        TestDate = Today,
        DueDate = Today.AddMonths((int)(bench.Item.IntervalMonths ?? 12)),
        IntervalMonths = bench.Item.IntervalMonths ?? 12,
    };
}
