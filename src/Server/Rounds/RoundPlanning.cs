using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Core.Standards;
using Osierwand.Server.Bench;
using Osierwand.Server.Kit;
using Osierwand.Server.Outlets;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <summary>Works a round out: its items room by room, their bench time, who does them when, what is brought.</summary>
public sealed class RoundPlanning(OsierwandDb db, KitAtHand hand, OutletBook outlets, TimeProvider time)
{
    /// <summary>A round of more is several.</summary>
    private const int MostItems = 3_000;

    internal sealed record Planned(RegisterItem Item, RoundItem? Row, Outcome? Saved, BenchTime Time)
    {
        public bool IsLook => Row is { IsLook: true };
    }

    internal async Task<RoundPage?> PageAsync(Guid roundId, bool isLead, CancellationToken cancel)
    {
        var round = await db.Rounds.AsNoTracking().Include(it => it.Site.Client).FirstOrDefaultAsync(it => it.Id == roundId, cancel);
        if (round is null)
            return null;
        var (client, site, house) = (round.Site.Client, round.Site, await HousePacks.AllAsync(db, cancel));
        Thresholds rules = new(HouseRuling.Table(house, Thresholds.Id)!);
        var today = site.DayOf(time.GetUtcNow());
        var policy = RoundPolicy.Of(round, client);
        var (planned, seen) = await ItemsAsync(round, rules, today, cancel);
        var inIt = planned.Where(it => it.Row?.ExcludedWhy is null).ToArray();
        var open = inIt.Where(it => it.Saved is null).ToArray();
        var people = await CompetenceBook.PeopleAsync(db, cancel);
        var days = await DaysAsync(round, people, cancel);
        var plan = DayPlan.Of(
            days,
            [.. Rooms(round, open).SelectMany(room => room).Select(Work)],
            [.. people.Select(it => (it.Name, it.Held))]
        );
        var packs = new[] { round.StandardId, round.MedicalStandardId }
            .OfType<string>()
            .Distinct()
            .ToDictionary(id => id, id => At(site, HouseRuling.Pack(house, id)));
        var sheets = Sheets(round, policy, packs, open);
        var tally = await TallyAsync(round, inIt, cancel);
        return new(
            round.Id,
            round.Name,
            client.Name,
            site.Name,
            round.State,
            round.StartsOn,
            round.EndsOn,
            round.StandardId,
            round.MedicalStandardId,
            Judged(round),
            (packs[round.StandardId] ?? PackLibrary.All.First()).Supply,
            round.IsPlanned,
            round.ScopeWords,
            policy,
            RoundPolicy.InWords(policy, client.LabelSchool, client.CapMonths),
            round.OwnPolicy is not null,
            round.PolicyReason,
            tally,
            Card(BenchTime.Sum([.. open.Select(it => it.Time)])),
            Basis(open, seen),
            [.. Rooms(round, inIt).Select(room => RoomOf(room.Key, [.. room], days, today))],
            [
                .. planned
                    .Where(it => it.Row?.ExcludedWhy is not null)
                    .Select(it => new LeftOut(
                        it.Item.Id,
                        it.Item.Tag,
                        it.Item.Name,
                        it.Item.Room,
                        it.Row!.ExcludedWhy!,
                        it.Row.TestedBy ?? ""
                    )),
            ],
            [.. plan.Days.Select(DayOf)],
            plan.NotPlaced.Length,
            plan.Remarks,
            [
                .. (await outlets.FoundWrongAsync(round.SiteId, round.StartsOn, cancel)).Select(it => new WrongOutletCard(
                    it.Room,
                    it.Name,
                    it.Says,
                    it.Person,
                    it.At
                )),
            ],
            await PackingAsync(sheets, rules, cancel),
            [
                .. Enum.GetValues<RoundState>()
                    .Where(to => IsMove(round.State, to))
                    .Select(to => new RoundMove(to, MoveText(round.State, to), RoundMoves.Refusal(round.State, to, tally, isLead))),
            ],
            [.. people.Select(it => new PersonChoice(it.Id, it.Name))],
            round.State is RoundState.Planned or RoundState.Open ? await OffersAsync(round, rules, today, cancel) : [],
            await db
                .Rounds.Where(it => it.SiteId == round.SiteId && it.Id != round.Id && it.State != RoundState.Closed && it.IsPlanned)
                .OrderBy(it => it.StartsOn)
                .Select(it => new OtherRound(it.Id, it.Name, it.State))
                .ToListAsync(cancel)
        );
    }

    private static bool IsMove(RoundState from, RoundState to) =>
        (from, to)
            is
                (RoundState.Planned, RoundState.Open)
                or
                (RoundState.Open, RoundState.Planned)
                or
                (RoundState.Open, RoundState.Review)
                or
                (RoundState.Review, RoundState.Open);

    private static string MoveText(RoundState from, RoundState to) =>
        (from, to) switch
        {
            (RoundState.Planned, _) => "Open the round",
            (RoundState.Open, RoundState.Planned) => "Back to planning",
            (RoundState.Open, _) => "Walked: to review",
            _ => "Back to open",
        };

    internal static string[] Judged(Round round) =>
        [
            RoundEndpoints.NameOf(round.StandardId),
            .. round.MedicalStandardId is { } medical && medical != round.StandardId ? new[] { RoundEndpoints.NameOf(medical) } : [],
        ];

    private static RulePack? At(Site site, RulePack? pack) =>
        pack is not null && Rulings.MainsOf(site) is { } mains ? mains.At(pack) : pack;

    /// <summary>What was chosen, also what was left out again; of a round without a choice what is due at its site until it is
    /// closed.</summary>
    /// <param name="touched">Items that belong to it whatever was chosen.</param>
    internal static IQueryable<RegisterItem> Belonging(OsierwandDb db, Round round, DateOnly horizon, Guid[] touched)
    {
        var (isByDate, site) = (!round.IsPlanned && round.State != RoundState.Closed, round.SiteId);
        return db.Items.Where(item =>
            touched.Contains(item.Id)
            || db.RoundItems.Any(it => it.RoundId == round.Id && it.ItemId == item.Id)
            || (
                isByDate
                && item.SiteId == site
                && item.State != ItemState.Scrapped
                && item.State != ItemState.Lost
                && (item.Due == null || item.Due <= horizon || item.State != ItemState.InService)
            )
        );
    }

    /// <summary>The items that were chosen; of a round without a choice what is due at its site, and what was saved in it.</summary>
    private async Task<(Planned[] Items, int Seen)> ItemsAsync(Round round, Thresholds rules, DateOnly today, CancellationToken cancel)
    {
        var horizon = today.AddDays(rules.DueWindow);
        var rows = await db.RoundItems.AsNoTracking().Where(it => it.RoundId == round.Id).ToDictionaryAsync(it => it.ItemId, cancel);
        var saved = await SavedAsync(round.Id, cancel);
        var items = await Belonging(db, round, horizon, saved.Keys.ToArray())
            .AsNoTracking()
            .OrderBy(item => item.Room)
            .ThenBy(item => item.Tag)
            .Take(MostItems)
            .ToListAsync(cancel);
        var times = await BenchTimes.OfAsync(db, items, rules, cancel);
        return (
            [
                .. items.Select(item =>
                {
                    var row = rows.GetValueOrDefault(item.Id);
                    return new Planned(
                        item,
                        row,
                        saved.TryGetValue(item.Id, out var outcome) ? outcome : null,
                        times.Of(item, row is { IsLook: true } ? DueTier.Visual : DueTier.Combined)
                    );
                }),
            ],
            times.Seen
        );
    }

    /// <summary>By item the last that was saved in the round, a done one before a not tested one.</summary>
    internal async Task<Dictionary<Guid, Outcome>> SavedAsync(Guid roundId, CancellationToken cancel)
    {
        var saved = await db.Settling()
            .Where(record => record.RoundId == roundId)
            .OrderBy(it => it.TestedAt)
            .Select(it => new { it.ItemId, it.Outcome })
            .ToListAsync(cancel);
        var last = new Dictionary<Guid, Outcome>();
        foreach (var it in saved)
            if (it.Outcome != Outcome.NotTested || !last.TryGetValue(it.ItemId, out var known) || known == Outcome.NotTested)
                last[it.ItemId] = it.Outcome;
        return last;
    }

    internal async Task<RoundTally> TallyAsync(Round round, IReadOnlyCollection<Planned> inIt, CancellationToken cancel) =>
        new(
            inIt.Count,
            inIt.Count(it => it.Saved is not (null or Outcome.NotTested)),
            inIt.Count(it => it.Saved == Outcome.NotTested),
            inIt.Count(it => it.Saved is null),
            await db.DiscardedSheets.CountAsync(it => it.RoundId == round.Id && it.HoldsFailure && it.SeenBy == null, cancel)
                + await FailuresLeft.CountAsync(db, round.Id, cancel),
            await RoundStory.IsAnyAsync(db, round.Id, cancel)
        );

    /// <summary>For a change of state alone.</summary>
    internal async Task<RoundTally> TallyAsync(Round round, CancellationToken cancel)
    {
        var rules = await HousePacks.RulesAsync(db, cancel);
        var (items, _) = await ItemsAsync(round, rules, round.Site.DayOf(time.GetUtcNow()), cancel);
        return await TallyAsync(round, [.. items.Where(it => it.Row?.ExcludedWhy is null)], cancel);
    }

    private async Task<RoundDay[]> DaysAsync(Round round, WorkingPerson[] people, CancellationToken cancel)
    {
        var rows = await db.RoundDays.AsNoTracking().Where(it => it.RoundId == round.Id).OrderBy(it => it.Day).ToListAsync(cancel);
        return
        [
            .. rows.Select(row =>
            {
                var person = Array.Find(people, it => it.Id == row.PersonId);
                return new RoundDay(
                    row.Day,
                    row.PersonId,
                    person?.Name ?? "somebody who left",
                    TimeSpan.FromMinutes(row.Minutes),
                    person?.Held ?? []
                );
            }),
        ];
    }

    private static RoundWork Work(Planned it) =>
        new(it.Item.Id, it.Item.Tag, it.Item.Name, it.Item.Room, it.Item.Equipment, it.Time.Median, it.IsLook);

    private static IEnumerable<IGrouping<string, Planned>> Rooms(Round round, IEnumerable<Planned> items) =>
        items
            .OrderBy(it => Array.IndexOf(round.RoomOrder, it.Item.Room) is >= 0 and var at ? at : int.MaxValue)
            .ThenBy(it => it.Item.Room, StringComparer.OrdinalIgnoreCase)
            .ThenBy(it => it.Item.Tag, StringComparer.OrdinalIgnoreCase)
            .GroupBy(it => it.Item.Room);

    private static RoundRoom RoomOf(string room, Planned[] items, RoundDay[] days, DateOnly today) =>
        new(
            room,
            About(items),
            Card(BenchTime.Sum([.. items.Where(it => it.Saved is null).Select(it => it.Time)])),
            [
                .. items.Select(it => new RoundItemCard(
                    it.Item.Id,
                    it.Item.Tag,
                    it.Item.Name,
                    EquipmentText.Class(it.Item.Equipment.Class),
                    it.Item.Due,
                    it.Item.Due is { } due ? today.DayNumber - due.DayNumber : null,
                    it.Saved,
                    (int)Math.Round(it.Time.Median.TotalMinutes),
                    it.Time.Basis,
                    it.IsLook,
                    Trouble(it, days),
                    it.Item.Revision
                )),
            ]
        );

    private static string? Trouble(Planned it, RoundDay[] days) =>
        it.Saved is not null
        || it.IsLook
        || days.Length == 0
        || days.Any(day => CompetenceFor.Lacking(it.Item.Equipment, day.Competences, day.Day).IsEmpty)
            ? null
            : $"asks for {string.Join(" and ", CompetenceFor.Testing(it.Item.Equipment).Select(CompetenceFor.NameOf))}";

    /// <summary>"6 class I, 3 leads, 1 hard-wired".</summary>
    private static string About(Planned[] items)
    {
        static string Of(Item it) =>
            it.IsHardWired ? "hard-wired"
            : it.IsMedical ? "medical"
            : it.IsCord ? "leads"
            : it.Kind == ItemKind.PortableRcd ? "RCDs"
            : it.Phases == 3 ? "three-phase"
            : $"class {EquipmentText.Class(it.Class).Split([',', ':'])[0]}";
        static string One(string many) => many is "leads" or "RCDs" ? many[..^1] : many;
        return string.Join(
            ", ",
            items
                .GroupBy(it => Of(it.Item.Equipment))
                .OrderByDescending(it => it.Count())
                .ThenBy(it => it.Key)
                .Select(it => $"{it.Count()} {(it.Count() == 1 ? One(it.Key) : it.Key)}")
        );
    }

    private static TimeCard Card(BenchTime it) =>
        new(
            (int)Math.Round(it.Median.TotalMinutes),
            (int)Math.Round(it.Low.TotalMinutes),
            (int)Math.Round(it.High.TotalMinutes),
            DayPlan.Minutes(it.Median)
        );

    private static string Basis(Planned[] open, int seen)
    {
        var unknown = open.Count(it => it.Time.Basis == TimeBasis.Unknown);
        var own = open.Count(it => it.Time.Basis == TimeBasis.Own);
        return open.Length == 0
            ? "Nothing is left to do."
            : $"Bench time from {own} items' own history, the rest from this client's last {seen} inspections of their kind"
                + (unknown == 0 ? "." : $"; of {unknown} nothing is known yet.");
    }

    private static DayCard DayOf(FilledDay it) =>
        new(
            it.Day.Day,
            it.Day.PersonId,
            it.Day.Person,
            (int)it.Day.Time.TotalMinutes,
            (int)Math.Round(it.Taken.TotalMinutes),
            $"{DayPlan.Minutes(it.Taken)} of {DayPlan.Minutes(it.Day.Time)}",
            [.. it.Rooms.Select(room => room.Room)]
        );

    private static (Item, RunSheet)[] Sheets(Round round, Policy policy, Dictionary<string, RulePack?> packs, Planned[] open) =>
        [
            .. open.Where(it => round.PackIdFor(it.Item.Equipment) is { } id && packs[id] is not null)
                .Select(it =>
                    (
                        it.Item.Equipment,
                        RunSheet.Of(
                            packs[round.PackIdFor(it.Item.Equipment)!]!,
                            it.Item.Equipment,
                            policy,
                            Scopes.Usual(it.Item.State, it.IsLook),
                            School.ApplianceTester
                        )
                    )
                ),
        ];

    /// <summary>With the instrument of the house that would measure it, and what is to be said of that.</summary>
    private async Task<IReadOnlyList<PackingCard>> PackingAsync((Item, RunSheet)[] sheets, Thresholds rules, CancellationToken cancel)
    {
        var instruments = await db
            .Kit.AsNoTracking()
            .Where(item => KitText.Measuring.Contains(item.Kind) && item.RetiredAt == null)
            .OrderBy(it => it.Name)
            .ToListAsync(cancel);
        return [.. PackingList.Of(sheets).Select(line => Held(line, instruments, rules))];
    }

    private PackingCard Held(PackingLine line, List<KitItem> instruments, Thresholds rules)
    {
        if (line.Test is not { } test)
            return new(line.What, line.For, null, null);
        var able = instruments
            .Where(it => KitAtHand.AccuraciesOf(it).Any(stated => stated.Test == test))
            .Select(it => (Item: it, Standing: hand.StandingOf(it, rules)))
            .OrderBy(it => it.Standing.Trouble is not null)
            .ThenBy(it =>
                KitAtHand.AccuraciesOf(it.Item).Where(stated => stated.Test == test).Min(stated => stated.AsFunction().Resolution?.Si)
            )
            .FirstOrDefault();
        return able.Item is null ? new(line.What, line.For, null, "No instrument of the kit measures it.")
            : able.Standing.Trouble is { } trouble ? new(line.What, line.For, null, $"{able.Item.Name} is barred. {trouble}")
            : new(
                line.What,
                line.For,
                able.Item.Name,
                able.Item.CalibrationDue is { } due && Calibration.IsSoon(due, DateOnly.FromDateTime(time.GetLocalNow().DateTime), rules)
                    ? $"calibration due on {due:yyyy-MM-dd}"
                    : null
            );
    }

    /// <summary>What could be added, each with how many of it are not in the round.</summary>
    private async Task<IReadOnlyList<OfferedItems>> OffersAsync(Round round, Thresholds rules, DateOnly today, CancellationToken cancel)
    {
        var offers = new List<OfferedItems>();
        foreach (
            var (by, text) in new[]
            {
                (AddBy.Overdue, "Overdue"),
                (AddBy.Due, "Due by its end"),
                (AddBy.NeverSeen, "Never inspected"),
                (AddBy.New, "New in the register"),
                (AddBy.NotReached, "Not reached last time"),
                (AddBy.Everything, "Everything at the site"),
            }
        )
            offers.Add(new(by, null, text, await Addable(round, by, null, rules, today).CountAsync(cancel)));
        var rest = await Addable(round, AddBy.Everything, null, rules, today)
            .Select(it => new { it.Room, it.Equipment })
            .ToListAsync(cancel);
        offers.AddRange(
            rest.GroupBy(it => it.Room).OrderBy(it => it.Key).Select(room => new OfferedItems(AddBy.Room, room.Key, room.Key, room.Count()))
        );
        offers.AddRange(
            rest.GroupBy(it => it.Equipment.Kind)
                .OrderBy(it => it.Key)
                .Select(kind => new OfferedItems(AddBy.Kind, Words.Of(kind.Key), EquipmentText.Kind(kind.Key), kind.Count()))
        );
        return offers;
    }

    /// <summary>Items of the site that could be added by this rule and are not in the round yet.</summary>
    internal IQueryable<RegisterItem> Addable(Round round, AddBy by, string? value, Thresholds rules, DateOnly today)
    {
        var items = db.Items.Where(it =>
            it.SiteId == round.SiteId && !it.IsGone && !db.RoundItems.Any(row => row.RoundId == round.Id && row.ItemId == it.Id)
        );
        var (ends, recently) = (round.EndsOn, today.AddDays(-rules.DueWindow));
        return by switch
        {
            AddBy.Overdue => items.Where(it => it.Due < today),
            AddBy.Due => items.Where(it => it.Due == null || it.Due <= ends),
            AddBy.NeverSeen => items.Where(it => it.LastLookedOn == null),
            AddBy.New => items.Where(it => it.RegisteredOn >= recently),
            AddBy.NotReached => items.Where(item => Schedule.DueItems.NotReached(db).Contains(item.Id)),
            AddBy.Room => items.Where(it => it.Room == value),
            _ => items,
        };
    }
}
