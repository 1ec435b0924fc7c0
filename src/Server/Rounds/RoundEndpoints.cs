using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Standards;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <param name="Standard">Title and edition, for appliances.</param>
/// <param name="Done">Items inspected since the round began; those that were not tested do not count.</param>
/// <param name="NotTested">Items saved as not tested and not inspected since.</param>
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
    int Items,
    int Done,
    int NotTested,
    int Due,
    int Overdue
);

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

/// <param name="Rooms">What is due in the chosen round, room by room, in walking order.</param>
public sealed record TodayPage(IReadOnlyList<RoundCard> Rounds, Guid? RoundId, IReadOnlyList<RoomOfItems> Rooms);

/// <summary>Today: the open rounds and what is due in them.</summary>
internal static class RoundEndpoints
{
    public static void MapRounds(this RouteGroupBuilder api)
    {
        var rounds = api.MapGroup("/rounds").WithTags("Rounds");
        rounds.MapGet("/today", Today).For(Access.Worker);
        rounds.MapGet("/form", OpenRound.Form).For(Access.Lead);
        rounds.MapPost("/", OpenRound.Open).For(Access.Lead);
    }

    private static async Task<Ok<TodayPage>> Today(Guid? round, OsierwandDb db, TimeProvider time, CancellationToken cancel)
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var horizon = today.AddDays((await HousePacks.RulesAsync(db, cancel)).DueWindow);
        var open = await db
            .Rounds.Where(it => it.ClosedOn == null && it.StartsOn <= today)
            .OrderBy(it => it.EndsOn)
            .ThenBy(it => it.Name)
            .Select(it => new
            {
                Round = it,
                Client = it.Site.Client.Name,
                it.Site.Client.Code,
                Site = it.Site.Name,
                Items = db.Items.Count(item => item.SiteId == it.SiteId && item.State != ItemState.Scrapped),
                Done = db.Standing()
                    .Where(done => done.RoundId == it.Id && done.Outcome != Outcome.NotTested && done.Outcome != Outcome.Findings)
                    .Select(done => done.ItemId)
                    .Distinct()
                    .Count(),
                NotTested = db.Standing()
                    .Where(open =>
                        open.RoundId == it.Id
                        && open.Outcome == Outcome.NotTested
                        && !db.Standing()
                            .Any(done =>
                                done.RoundId == it.Id
                                && done.ItemId == open.ItemId
                                && done.Outcome != Outcome.NotTested
                                && done.Outcome != Outcome.Findings
                            )
                    )
                    .Select(open => open.ItemId)
                    .Distinct()
                    .Count(),
                Due = db.Items.Count(item =>
                    item.SiteId == it.SiteId && item.State == ItemState.InService && (item.Due == null || item.Due <= horizon)
                ),
                Overdue = db.Items.Count(item => item.SiteId == it.SiteId && item.State == ItemState.InService && item.Due < today),
            })
            .ToListAsync(cancel);
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
                it.Items,
                it.Done,
                it.NotTested,
                it.Due,
                it.Overdue
            ))
            .ToList();

        var chosen = open.FirstOrDefault(it => it.Round.Id == round) ?? open.FirstOrDefault();
        if (chosen is null)
            return TypedResults.Ok(new TodayPage([], null, []));
        var due = await db
            .Items.Where(item =>
                item.SiteId == chosen.Round.SiteId
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
        var rooms = due.GroupBy(item => item.Room)
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
        return TypedResults.Ok(new TodayPage(cards, chosen.Round.Id, [.. rooms]));
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
