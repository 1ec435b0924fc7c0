using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <param name="Standard">Title and edition, for appliances.</param>
/// <param name="Due">Items due now or within the planning window.</param>
public sealed record RoundCard(
    Guid Id,
    string Name,
    string Client,
    string ClientCode,
    string Site,
    DateOnly StartsOn,
    DateOnly EndsOn,
    string Standard,
    string StandardShort,
    string? MedicalStandard,
    int Due,
    int Overdue
);

/// <summary>How far the round in hand has come.</summary>
/// <param name="Items">At its site, but for what was scrapped.</param>
/// <param name="Done">Items inspected since the round began; those that were not tested do not count.</param>
/// <param name="NotTested">Items saved as not tested and not inspected since.</param>
public sealed record RoundProgress(int Items, int Done, int NotTested);

/// <summary>A lock that somebody left on an item's supply.</summary>
public sealed record LockCard(Guid ItemId, string Tag, string Name, string Place, string Words);

public sealed record DueItem(
    Guid Id,
    string Tag,
    string Name,
    string Room,
    DateOnly? Due,
    int? DaysOver,
    Outcome? LastOutcome,
    ItemState State
);

public sealed record RoomOfItems(string Room, IReadOnlyList<DueItem> Items);

/// <param name="Progress">Of the chosen round; null where none is open.</param>
/// <param name="Rooms">What is due in the chosen round, room by room, in walking order.</param>
/// <param name="Locks">Left on, wherever they are.</param>
/// <param name="MoreRounds">Open ones that are not listed: those that end first are, and the one in hand.</param>
public sealed record TodayPage(
    IReadOnlyList<RoundCard> Rounds,
    Guid? RoundId,
    RoundProgress? Progress,
    IReadOnlyList<RoomOfItems> Rooms,
    IReadOnlyList<LockCard> Locks,
    int MoreRounds
);

/// <summary>Today: the open rounds and what is due in them.</summary>
internal static class RoundEndpoints
{
    /// <summary>More than these would be no list but a habit.</summary>
    private const int MostLocks = 50;

    /// <summary>Nobody has more in hand; all of them stand under Rounds.</summary>
    private const int MostRounds = 60;

    public static void MapRounds(this RouteGroupBuilder api)
    {
        var rounds = api.MapGroup("/rounds").WithTags("Rounds");
        rounds.MapGet("/today", Today).For(Access.Worker);
        rounds.MapGet("/form", OpenRound.Form).For(Access.Lead);
        rounds.MapPost("/", OpenRound.Open).For(Access.Lead);
        rounds.MapGet("/", All).For(Access.Worker);
        rounds.MapGet("/{roundId:guid}", One).For(Access.Worker);
        rounds.MapPost("/{roundId:guid}/items", RoundEditing.Add).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/take-out", RoundEditing.TakeOut).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/leave-out", RoundEditing.LeaveThemOut).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/take-back", RoundEditing.TakeBackIn).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/move", RoundEditing.Move).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/details", RoundEditing.Details).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/days", RoundEditing.Days).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/rooms", RoundEditing.Rooms).For(Access.Worker);
        rounds.MapPost("/{roundId:guid}/state", RoundEditing.State).For(Access.Worker);
        rounds.MapPost("/{roundId:guid}/split", RoundEditing.Split).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/merge", RoundEditing.Merge).For(Access.Lead);
        rounds.MapPost("/{roundId:guid}/duplicate", RoundEditing.Duplicate).For(Access.Lead);
    }

    /// <summary>Closed ones that are still listed.</summary>
    private const int ClosedShown = 20;

    private static async Task<Ok<IReadOnlyList<RoundLine>>> All(OsierwandDb db, CancellationToken cancel)
    {
        var rounds = db.Rounds.AsNoTracking();
        var closed = rounds
            .Where(it => it.State == RoundState.Closed)
            .OrderByDescending(it => it.ClosedOn)
            .Take(ClosedShown)
            .Select(it => it.Id);
        var listed = await rounds
            .Where(it => it.State != RoundState.Closed || closed.Contains(it.Id))
            .OrderBy(it => it.StartsOn)
            .Select(it => new
            {
                Round = it,
                Client = it.Site.Client.Name,
                Site = it.Site.Name,
                Items = db.RoundItems.Count(item => item.RoundId == it.Id && item.ExcludedWhy == null),
            })
            .ToListAsync(cancel);
        var ids = listed.Select(it => it.Round.Id).ToArray();
        var saved = await db.Standing()
            .Where(it => ids.Contains(it.RoundId) && it.Outcome != Outcome.Findings)
            .GroupBy(it => new { it.RoundId, IsDone = it.Outcome != Outcome.NotTested })
            .Select(it => new
            {
                it.Key.RoundId,
                it.Key.IsDone,
                Count = it.Select(one => one.ItemId).Distinct().Count(),
            })
            .ToListAsync(cancel);
        return TypedResults.Ok<IReadOnlyList<RoundLine>>([
            .. listed.Select(it => new RoundLine(
                it.Round.Id,
                it.Round.Name,
                it.Client,
                it.Site,
                it.Round.State,
                RoundMoves.Text(it.Round.State),
                it.Round.StartsOn,
                it.Round.EndsOn,
                ShortNameOf(it.Round),
                it.Items,
                saved.FirstOrDefault(one => one.RoundId == it.Round.Id && one.IsDone)?.Count ?? 0,
                saved.FirstOrDefault(one => one.RoundId == it.Round.Id && !one.IsDone)?.Count ?? 0
            )),
        ]);
    }

    private static async Task<Results<Ok<RoundPage>, ProblemHttpResult>> One(
        Guid roundId,
        RoundPlanning planning,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        await planning.PageAsync(roundId, user.IsInRole(Person.Lead), cancel) is { } page
            ? TypedResults.Ok(page)
            : Refusals.NotFound("round");

    private static async Task<Ok<TodayPage>> Today(Guid? round, OsierwandDb db, TimeProvider time, CancellationToken cancel)
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var horizon = today.AddDays((await HousePacks.RulesAsync(db, cancel)).DueWindow);
        var begun = db.Rounds.Where(it => it.State == RoundState.Open && it.StartsOn <= today);
        var open = await begun
            .OrderByDescending(it => it.Id == round)
            .ThenBy(it => it.EndsOn)
            .ThenBy(it => it.Name)
            .Take(MostRounds)
            .Select(it => new
            {
                Round = it,
                Client = it.Site.Client.Name,
                it.Site.Client.Code,
                Site = it.Site.Name,
            })
            .ToListAsync(cancel);
        // The one in hand was taken first so that it is never cut off; listed are all by when they end.
        open = [.. open.OrderBy(it => it.Round.EndsOn).ThenBy(it => it.Round.Name, StringComparer.Ordinal)];
        var more = open.Count < MostRounds ? 0 : await begun.CountAsync(cancel) - open.Count;
        var sites = open.Select(it => it.Round.SiteId).Distinct().ToArray();
        // From an index, for these sites at once; how far a round has come is asked of the one in hand alone.
        var inService = db.Items.Where(item => item.State == ItemState.InService && sites.Contains(item.SiteId));
        var counts = await inService
            .Where(item => item.Due <= horizon)
            .GroupBy(item => item.SiteId)
            .Select(site => new
            {
                site.Key,
                Due = site.Count(),
                Overdue = site.Count(item => item.Due < today),
            })
            .ToDictionaryAsync(it => it.Key, cancel);
        var untested = await inService
            .Where(item => item.Due == null)
            .GroupBy(item => item.SiteId)
            .Select(site => new { site.Key, Count = site.Count() })
            .ToDictionaryAsync(it => it.Key, it => it.Count, cancel);
        var listed = open.Where(it => it.Round.IsPlanned).Select(it => it.Round.Id).ToArray();
        var planned = await db
            .RoundItems.Where(it =>
                it.ExcludedWhy == null
                && listed.Contains(it.RoundId)
                && !db.Settling().Any(seen => seen.RoundId == it.RoundId && seen.ItemId == it.ItemId && seen.Outcome != Outcome.NotTested)
            )
            .GroupBy(it => it.RoundId)
            .Select(round => new
            {
                round.Key,
                Left = round.Count(),
                Overdue = round.Count(it => it.Item.Due < today),
            })
            .ToDictionaryAsync(it => it.Key, cancel);
        var cards = open.Select(it => new RoundCard(
                it.Round.Id,
                it.Round.Name,
                it.Client,
                it.Code,
                it.Site,
                it.Round.StartsOn,
                it.Round.EndsOn,
                NameOf(it.Round.StandardId),
                ShortNameOf(it.Round),
                it.Round.MedicalStandardId is { } medical ? NameOf(medical) : null,
                it.Round.IsPlanned
                    ? planned.GetValueOrDefault(it.Round.Id)?.Left ?? 0
                    : (counts.GetValueOrDefault(it.Round.SiteId)?.Due ?? 0) + untested.GetValueOrDefault(it.Round.SiteId),
                it.Round.IsPlanned
                    ? planned.GetValueOrDefault(it.Round.Id)?.Overdue ?? 0
                    : counts.GetValueOrDefault(it.Round.SiteId)?.Overdue ?? 0
            ))
            .ToList();

        var locks = await db
            .Items.Where(item => item.LockLeft != null)
            .OrderBy(item => item.Tag)
            .Select(item => new LockCard(item.Id, item.Tag, item.Name, $"{item.Site.Name}, {item.Room}", item.LockLeft!))
            .Take(MostLocks)
            .ToListAsync(cancel);
        var chosen = open.FirstOrDefault(it => it.Round.Id == round) ?? open.FirstOrDefault();
        if (chosen is null)
            return TypedResults.Ok(new TodayPage([], null, null, [], locks, 0));
        var due = await db
            .Items.Where(item =>
                chosen.Round.IsPlanned
                    ? db.RoundItems.Any(it => it.RoundId == chosen.Round.Id && it.ItemId == item.Id && it.ExcludedWhy == null)
                        && !db.Settling()
                            .Any(seen => seen.RoundId == chosen.Round.Id && seen.ItemId == item.Id && seen.Outcome != Outcome.NotTested)
                    : item.SiteId == chosen.Round.SiteId
                        && item.State != ItemState.Scrapped
                        && item.State != ItemState.Lost
                        && (item.Due == null || item.Due <= horizon || item.State != ItemState.InService)
            )
            .OrderBy(item => item.Room)
            .ThenBy(item => item.Due)
            .ThenBy(item => item.Tag)
            .Select(item => new
            {
                item.Id,
                item.Tag,
                item.Name,
                item.Room,
                item.Due,
                item.LastOutcome,
                item.State,
            })
            .ToListAsync(cancel);
        var order = chosen.Round.RoomOrder;
        var rooms = due.GroupBy(item => item.Room)
            .OrderBy(room => Array.IndexOf(order, room.Key) is >= 0 and var at ? at : int.MaxValue)
            .Select(room => new RoomOfItems(
                room.Key,
                [
                    .. room.Select(item => new DueItem(
                        item.Id,
                        item.Tag,
                        item.Name,
                        item.Room,
                        item.Due,
                        item.Due is { } date ? today.DayNumber - date.DayNumber : null,
                        item.LastOutcome,
                        item.State
                    )),
                ]
            ));
        return TypedResults.Ok(
            new TodayPage(cards, chosen.Round.Id, await ProgressAsync(db, chosen.Round, cancel), [.. rooms], locks, more)
        );
    }

    private static async Task<RoundProgress> ProgressAsync(OsierwandDb db, Round round, CancellationToken cancel)
    {
        var saved = await db.Standing().Where(it => it.RoundId == round.Id).Select(it => new { it.ItemId, it.Outcome }).ToListAsync(cancel);
        var done = saved.Where(it => it.Outcome is not (Outcome.NotTested or Outcome.Findings)).Select(it => it.ItemId).ToHashSet();
        var open = saved.Where(it => it.Outcome == Outcome.NotTested).Select(it => it.ItemId).ToHashSet();
        var items = round.IsPlanned
            ? await db.RoundItems.CountAsync(it => it.RoundId == round.Id && it.ExcludedWhy == null, cancel)
            : await db.Items.CountAsync(item => item.SiteId == round.SiteId && item.State != ItemState.Scrapped, cancel);
        return new(items, done.Count, open.Except(done).Count());
    }

    private static string ShortNameOf(Round round) =>
        string.Join(
            " · ",
            new[] { round.StandardId, round.MedicalStandardId }
                .OfType<string>()
                .Distinct()
                .Select(id => PackLibrary.Find(id)?.ShortName ?? id)
        );

    /// <summary>Title and edition of a pack; its id where this version does not ship it.</summary>
    internal static string NameOf(string packId) => PackLibrary.Find(packId)?.FullName ?? packId;
}
