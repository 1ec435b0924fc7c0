using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Server.Evidence;
using Osierwand.Server.Kit;
using Osierwand.Server.Looking;
using Osierwand.Server.Outlets;
using Osierwand.Server.People;
using Osierwand.Server.Procedures;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Register;
using Osierwand.Server.Rounds;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>What was laid on the bench, with the rows it came from.</summary>
public sealed record Laid(Ruling Ruling, RegisterItem Item, Round Round, Client Client);

/// <summary>Gathers everything that decides, once, when an item goes on the bench; and again when it is saved, to see that nothing
/// moved.</summary>
public sealed class Rulings(OsierwandDb db, KitAtHand kit, CompetenceBook competences, OutletBook outlets, TimeProvider time)
{
    /// <summary>How many earlier inspections the trend and the rail look back on.</summary>
    private const int LookBack = 12;

    /// <returns>The ruling, or why this item is not laid on the bench in this round. The fault's path is "notFound" where there is no
    /// such thing.</returns>
    internal async Task<Result<Laid>> LayAsync(Guid itemId, Guid roundId, Worker technician, CancellationToken cancel)
    {
        var known = await Laying(itemId, roundId).Where(it => it.Round.SiteId == it.Item.SiteId).FirstOrDefaultAsync(cancel);
        if (known is not { Item: var item, Round: var round })
            return new Fault("notFound", "There is no such item in this round.");
        if (item.NamedAs is { } named)
            return new Fault("item", $"It got its tag meanwhile: it is {await TagOfAsync(named, cancel)}. Open that item.");
        if (round.ClosedOn is { } closed)
            return new Fault("round", $"This round was closed on {closed:yyyy-MM-dd}. Open the item in a round that is open.");
        if (round.State is RoundState.Planned or RoundState.Review)
            return new Fault(
                "round",
                round.State == RoundState.Planned
                    ? "This round is planned and not open yet. A lead opens it."
                    : "This round is in review. Take it back to open, and inspect the item then."
            );
        if (known.Excluded is { } excluded)
            return new Fault("round", $"It is left out of this round: {excluded}. A lead takes it back in.");
        if (item.State == ItemState.Scrapped)
            return new Fault("item", $"{item.Tag} is scrapped. It is not inspected again; register what replaces it.");
        if (round.PackIdFor(item.Equipment) is not { } packId)
            return new Fault(
                "standard",
                "This round has no standard for medical devices, and none is taken for granted. A lead opens a round with one."
            );
        return await HandableAsync(await RuleAsync(known, packId, technician, cancel), cancel);
    }

    private Task<string?> TagOfAsync(Guid itemId, CancellationToken cancel) =>
        db.Items.Where(it => it.Id == itemId).Select(it => it.Tag).FirstOrDefaultAsync(cancel);

    /// <summary>With the names of those who may test what this person may not.</summary>
    private async Task<Laid> HandableAsync(Laid laid, CancellationToken cancel) =>
        laid.Ruling.MayOnlyLook is null || laid.Ruling.Item.NotWhole is not null
            ? laid
            : laid with
            {
                Ruling = laid.Ruling with { HeldBy = await competences.WhoMayTestAsync(laid.Ruling, cancel) },
            };

    /// <summary>For the item's page: by an open round, or the last one it was inspected in.</summary>
    internal async Task<Laid?> LookBackAsync(RegisterItem item, Round round, CancellationToken cancel) =>
        round.PackIdFor(item.Equipment) is { } packId
            ? await RuleAsync(await Laying(item.Id, round.Id).FirstAsync(cancel), packId, new(Guid.Empty, "", "", false, []), cancel)
            : null;

    private sealed record LaidRows
    {
        public required RegisterItem Item { get; init; }
        public required Client Client { get; init; }
        public required Site Site { get; init; }
        public required Round Round { get; init; }

        /// <summary>Why the item is left out of the round, and who tests it; null where it is not.</summary>
        public string? Excluded { get; init; }

        /// <summary>The round was planned with its formal visual alone.</summary>
        public bool IsLook { get; init; }
    }

    /// <summary>In one question, by plain joins: every save asks it while others wait.</summary>
    private IQueryable<LaidRows> Laying(Guid itemId, Guid roundId) =>
        from item in OsierwandDb.WithLoose(db.Items).AsNoTracking()
        from round in db.Rounds
        where item.Id == itemId && round.Id == roundId
        select new LaidRows
        {
            Item = item,
            Client = item.Client,
            Site = item.Site,
            Round = round,
            Excluded = db
                .RoundItems.Where(it => it.RoundId == round.Id && it.ItemId == item.Id && it.ExcludedWhy != null)
                .Select(it => it.ExcludedWhy + "; " + it.TestedBy + " tests it")
                .FirstOrDefault(),
            IsLook = db.RoundItems.Any(it => it.RoundId == round.Id && it.ItemId == item.Id && it.IsLook),
        };

    private async Task<Laid> RuleAsync(LaidRows laid, string packId, Worker technician, CancellationToken cancel)
    {
        var (item, client, site, round) = (laid.Item, laid.Client, laid.Site, laid.Round);
        (item.Client, item.Site) = (client, site);
        var held = await Systems.JoinAsync(db, item, cancel);
        var history = await db.Standing()
            .AsNoTracking()
            .Where(it => it.ItemId == item.Id)
            .OrderByDescending(it => it.TestedAt)
            .Take(LookBack)
            .Select(it => new
            {
                it.Day,
                it.Outcome,
                it.IsTest,
                it.NearLimit,
                it.Rising,
                it.Taken,
            })
            .ToListAsync(cancel);
        history.Reverse();
        var taken = history.Select(row => BenchJson.ReadPast(row.Taken).TryGet(out var past) ? past : []).ToArray();
        var house = await HousePacks.AllAsync(db, cancel);
        var inHand = technician.Id == Guid.Empty ? null : await kit.InHandAsync(technician.Id, house, cancel);
        var procedures = await ProcedureBook.ForAsync(db, item, packId, time.GetUtcNow(), cancel);
        var ruling = new Ruling
        {
            Item = new(
                item.Id,
                item.Tag,
                item.Name,
                item.Maker,
                item.Model,
                item.Serial,
                site.Name,
                item.Room,
                item.Evidence,
                item.State,
                item.Revision,
                item.Equipment,
                await FailuresLeft.OfSheetsAsync(db, item.Id, cancel),
                item.IsLoose
            )
            {
                MembersHeld = held,
                Held = Scopes.IsHeld(item.State) ? await Holds.OnBenchAsync(db, item, cancel) : null,
            },
            Round = new(round.Id, round.Name, client.Id, client.Name, client.Code, site.TimeZone, MainsOf(site)),
            PackId = packId,
            PackVersion = PackLibrary.Find(packId)?.Version ?? "",
            RulesVersion = Thresholds.Shipped.Table.Version,
            House = house,
            Look = await LookBook.StandingAsync(db, cancel),
            Policy = RoundPolicy.Of(round, client),
            DecisionRule = client.DecisionRule,
            Procedure = procedures.Usual,
            Procedures = procedures.Offered,
            EarlierProcedures = procedures.Earlier,
            Scope = Scopes.Usual(item.State, laid.IsLook),
            Kit = inHand,
            // Whoever has a meter alone is told its steps.
            School = inHand?.Kind == KitKind.Meter ? School.Meter : School.ApplianceTester,
            Technician = technician with { Competences = await competences.HeldByAsync(technician.Id, cancel) },
            History = [.. history.Zip(taken).Where(past => past.First.Outcome is not Outcome.NotTested).SelectMany(past => past.Second)],
            Outlets =
                technician.Id == Guid.Empty ? [] : await outlets.OfTodayAsync(site.Id, site.DayOf(time.GetUtcNow()), technician.Id, cancel),
            UnsavedFailures = await FailuresLeft.OfItemAsync(db, item.Id, cancel),
            References = await ReferencesAsync(item, HouseRuling.Pack(house, packId), cancel),
            Basis = new(
                item.Place,
                item.Usage,
                item.Moved,
                item.Users,
                client.CapMonths,
                item.Due,
                item.VisualDue,
                item.IntervalMonths,
                client.LabelSchool == LabelSchool.WithNextDate,
                [
                    .. history
                        .Zip(taken)
                        .Where(it => it.First.IsTest && it.First.Outcome is Outcome.Pass or Outcome.PassWithAdvice or Outcome.Fail)
                        .Select(it => new PastTest(
                            it.First.Day,
                            it.First.Outcome == Outcome.Fail ? Verdict.Fail : Verdict.Pass,
                            it.First.NearLimit,
                            it.First.Rising,
                            it.Second.All(past => past.IsClean)
                        )),
                ],
                history.Count
            )
            {
                Group = await EvidenceBook.StepOfAsync(db, item.Equipment.Kind, item.Place, cancel),
            },
            Today = site.DayOf(time.GetUtcNow()),
        };
        return new(await WithTheDayAsync(ruling, cancel), item, round, client);
    }

    /// <summary>So many items tell a drift; a day's worth of them tells no more.</summary>
    private const int OffsetItems = 8;

    /// <summary>With what the instrument in hand read today, whoever measured with it.</summary>
    private async Task<Ruling> WithTheDayAsync(Ruling ruling, CancellationToken cancel)
    {
        if (ruling.Kit?.Chosen is not { } kit)
            return ruling;
        // The day is as long as a choice of kit holds.
        var since = time.GetUtcNow() - ruling.Pack.Thresholds.KitKeeps;
        var pairs = await db.Standing()
            .AsNoTracking()
            .Where(it => it.InstrumentId == kit.Id && it.TestedAt > since && it.IsTest)
            .OrderByDescending(it => it.TestedAt)
            .Take(OffsetItems)
            .Select(it => new
            {
                it.Item.Tag,
                it.Taken,
                Before = db.Standing()
                    .Where(before => before.ItemId == it.ItemId && before.TestedAt < it.TestedAt && before.IsTest)
                    .OrderByDescending(before => before.TestedAt)
                    .Select(before => before.Taken)
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        return ruling with
        {
            EarthOffsets = DayOffsets.Of(
                pairs
                    .Where(visit => visit.Before is not null)
                    .Select(visit => (Today: Last(visit.Taken), Before: Last(visit.Before!)))
                    .Where(pair => pair is { Today: not null, Before: not null })
                    .Select(pair => (pair.Today!, pair.Before!))
            ),
            ProbeSeen = pairs
                .Select(visit => Last(visit.Taken) is { } past && ProbeLead.ShownBy(past) is { } shown ? $"{shown} at {visit.Tag}" : null)
                .FirstOrDefault(shown => shown is not null),
        };

        static PastInspection? Last(string taken) => BenchJson.ReadPast(taken).TryGet(out var past) ? past.LastOrDefault() : null;
    }

    internal static SiteMains? MainsOf(Site site) =>
        site.NominalV is null && site.MainsHz is null ? null : new SiteMains(site.NominalV, site.MainsHz);

    /// <summary>As they are kept with the item. After a correction, and for items older than them, they are gathered from every
    /// record.</summary>
    private async Task<ImmutableArray<PastInspection>> ReferencesAsync(RegisterItem item, RulePack? pack, CancellationToken cancel)
    {
        if (item.ReferenceValues is { } kept && BenchJson.ReadPast(kept).TryGet(out var known))
            return known;
        if (pack is null || item.LastLookedOn is null)
            return [];
        var taken = await db.Standing()
            .AsNoTracking()
            .Where(it => it.ItemId == item.Id && it.Outcome != Outcome.NotTested && it.Outcome != Outcome.Findings)
            .OrderBy(it => it.TestedAt)
            .Select(it => it.Taken)
            .ToListAsync(cancel);
        return References.Of(taken.SelectMany(it => BenchJson.ReadPast(it).TryGet(out var past) ? past : []), pack);
    }
}
