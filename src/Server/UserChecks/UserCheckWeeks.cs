using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Intervals;
using Osierwand.Server.Hosting;
using Osierwand.Server.Schedule;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.UserChecks;

/// <summary>What the users of items are to look at, week by week.</summary>
/// <param name="Weeks">Their Mondays. What is over lies in the first.</param>
/// <param name="AtUse">Looked at before each use or at each issue: no date belongs to them.</param>
/// <param name="Dated">Looked at by date.</param>
/// <param name="Late">Of these, past their date.</param>
public sealed record UserCheckBoard(
    IReadOnlyList<DateOnly> Weeks,
    IReadOnlyList<UserCheckRow> Rows,
    int AtUse,
    int Dated,
    int Late,
    IReadOnlyList<ScheduleClient> Clients
);

/// <summary>One site.</summary>
/// <param name="Under">Whose it is.</param>
/// <param name="Piles">Looks of each week; one item may have several.</param>
public sealed record UserCheckRow(Guid SiteId, string Name, string Under, int AtUse, IReadOnlyList<UserCheckPile> Piles);

public sealed record UserCheckPile(int Looks, int Late);

/// <summary>An item that is looked at by date.</summary>
/// <param name="Last">When it was last looked at, by a user or a tester; null where nobody did.</param>
/// <param name="SaidOn">When one of its users last said so.</param>
internal sealed record UserCheckDue(
    Guid Id,
    string Tag,
    string Name,
    string Room,
    UserRhythm Looks,
    DateOnly Due,
    DateOnly? Last,
    DateOnly? SaidOn
)
{
    public string Rhythm => Looks.Words;

    public IEnumerable<DateOnly> Days(DateOnly today, DateOnly until) => Looks.Days(Last, today, until);
}

/// <summary>What is to be looked at at a site until the end of this week, the latest first.</summary>
/// <param name="Total">Of them all; the list holds the first.</param>
public sealed record UserCheckList(int Total, IReadOnlyList<UserCheckToDo> Items);

/// <param name="Rhythm">"weekly".</param>
/// <param name="Due">The last day on which it is in time.</param>
/// <param name="LastOn">When it was last looked at, by a user or a tester; null where nobody did.</param>
/// <param name="SaidOn">When one of its users last said so.</param>
public sealed record UserCheckToDo(
    Guid ItemId,
    string Tag,
    string Name,
    string Room,
    string Rhythm,
    DateOnly Due,
    bool IsLate,
    DateOnly? LastOn,
    DateOnly? SaidOn
);

/// <summary>The first of the three tiers in the schedule. It takes no bench time: the users look, and say so by the item's code or
/// here.</summary>
internal static class UserCheckWeeks
{
    private const int MostListed = 60;

    public static async Task<Ok<UserCheckBoard>> Board(
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel,
        int weeks = 8,
        string? client = null
    )
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var monday = DueWeeks.MondayOf(today);
        var count = Math.Clamp(weeks, DueWeeks.FewestWeeks, DueWeeks.MostWeeks);
        var until = monday.AddDays(count * DueItems.DaysInAWeek - 1);
        var rhythms = await Rhythms.OfSitesAsync(db, cancel);
        var items = db.Items.AsQueryable();
        if (!string.IsNullOrEmpty(client))
            items = items.Where(it => it.Client.Code == client);
        var groups = (await CountedAsync(items, LongAgo(today), cancel)).ConvertAll(it =>
            (Group: it, Rhythm: rhythms.Of(it.SiteId, it.Place, it.Use, it.Kind))
        );
        var sites = await db
            .Sites.Select(it => new
            {
                it.Id,
                it.Name,
                Client = it.Client.Name,
            })
            .ToDictionaryAsync(it => it.Id, cancel);
        var rows = new List<UserCheckRow>();
        foreach (var site in groups.Where(it => it.Rhythm.IsAsked).GroupBy(it => it.Group.SiteId))
        {
            var (looks, late) = (new int[count], 0);
            foreach (var (group, rhythm) in site)
            {
                foreach (var day in rhythm.Days(group.Last, today, until))
                    looks[(day.DayNumber - monday.DayNumber) / DueItems.DaysInAWeek] += group.Items;
                late += rhythm.Due(group.Last, today) < today ? group.Items : 0;
            }
            rows.Add(
                new(
                    site.Key,
                    sites[site.Key].Name,
                    sites[site.Key].Client,
                    site.Where(it => it.Rhythm.Every is null).Sum(it => it.Group.Items),
                    [.. looks.Select((all, week) => new UserCheckPile(all, week == 0 ? late : 0))]
                )
            );
        }
        return TypedResults.Ok(
            new UserCheckBoard(
                [.. Enumerable.Range(0, count).Select(week => monday.AddDays(week * DueItems.DaysInAWeek))],
                [.. rows.OrderBy(it => it.Under).ThenBy(it => it.Name)],
                rows.Sum(it => it.AtUse),
                groups.Where(it => it.Rhythm.Every is not null).Sum(it => it.Group.Items),
                rows.Sum(it => it.Piles[0].Late),
                await db.Clients.OrderBy(it => it.Name).Select(it => new ScheduleClient(it.Code, it.Name)).ToListAsync(cancel)
            )
        );
    }

    public static async Task<Results<Ok<UserCheckList>, ProblemHttpResult>> OfSite(
        Guid siteId,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await db.Sites.AsNoTracking().FirstOrDefaultAsync(it => it.Id == siteId, cancel) is not { } site)
            return Refusals.NotFound("site");
        var today = site.DayOf(time.GetUtcNow());
        var all = await DatedAsync(db, siteId, today, cancel);
        var due = all.Where(it => it.Due <= DueWeeks.MondayOf(today).AddDays(DueItems.DaysInAWeek - 1))
            .OrderBy(it => it.Due)
            .ThenBy(it => it.Room)
            .ThenBy(it => it.Tag, StringComparer.Ordinal)
            .ToArray();
        return TypedResults.Ok(
            new UserCheckList(
                due.Length,
                [
                    .. due.Take(MostListed)
                        .Select(it => new UserCheckToDo(
                            it.Id,
                            it.Tag,
                            it.Name,
                            it.Room,
                            it.Rhythm,
                            it.Due,
                            it.Due < today,
                            it.Last,
                            it.SaidOn
                        )),
                ]
            )
        );
    }

    /// <summary>What of a site is in service and looked at by date.</summary>
    public static async Task<List<UserCheckDue>> DatedAsync(OsierwandDb db, Guid site, DateOnly today, CancellationToken cancel)
    {
        var rhythms = await Rhythms.OfSitesAsync(db, cancel, site);
        var rows = await Seen(db.Items.Where(it => it.SiteId == site)).ToListAsync(cancel);
        return
        [
            .. from it in rows
            let rhythm = rhythms.Of(site, it.Place, it.Use, it.Kind)
            let due = rhythm.Due(it.Last, today)
            where due is not null
            select new UserCheckDue(it.Id, it.Tag, it.Name, it.Room, rhythm, due.Value, it.Last, it.SaidOn),
        ];
    }

    private sealed record SeenItem
    {
        public required Guid Id { get; init; }
        public required Guid SiteId { get; init; }
        public required string Tag { get; init; }
        public required string Name { get; init; }
        public required string Room { get; init; }
        public required Core.Equipment.Place Place { get; init; }
        public required string Use { get; init; }
        public required string Kind { get; init; }
        public required DateOnly? SaidOn { get; init; }

        /// <summary>When it was last looked at: a look by a tester is a look too.</summary>
        public required DateOnly? Last { get; init; }
    }

    /// <summary>By its members, not by a constructor: what is grouped by them is grouped in the database.</summary>
    private static IQueryable<SeenItem> Seen(IQueryable<RegisterItem> items) =>
        items
            .AsNoTracking()
            .Where(it => it.State == ItemState.InService)
            .Select(it => new SeenItem
            {
                Id = it.Id,
                SiteId = it.SiteId,
                Tag = it.Tag,
                Name = it.Name,
                Room = it.Room,
                Place = it.Place,
                Use = it.UseWord,
                Kind = it.KindWord,
                SaidOn = it.LastUserCheckOn,
                Last = it.LastUserCheckOn == null || it.LastLookedOn > it.LastUserCheckOn ? it.LastLookedOn : it.LastUserCheckOn,
            });

    private sealed record Group(Guid SiteId, Core.Equipment.Place Place, string Use, string Kind, DateOnly? Last, int Items);

    /// <param name="longAgo">What was looked at before it is over under every rhythm, and counted as one.</param>
    private static Task<List<Group>> CountedAsync(IQueryable<RegisterItem> items, DateOnly longAgo, CancellationToken cancel) =>
        Seen(items)
            .GroupBy(it => new
            {
                it.SiteId,
                it.Place,
                it.Use,
                it.Kind,
                Last = it.Last < longAgo ? longAgo : it.Last,
            })
            .Select(it => new Group(it.Key.SiteId, it.Key.Place, it.Key.Use, it.Key.Kind, it.Key.Last, it.Count()))
            .ToListAsync(cancel);

    private static DateOnly LongAgo(DateOnly today) =>
        today.AddMonths(-(int)Math.Ceiling(Core.Intervals.UserChecks.Longest.Months)).AddDays(-DueItems.DaysInAWeek);
}
