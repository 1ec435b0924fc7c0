using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Schedule;

/// <param name="IsNever">Tested never, and due at once.</param>
internal sealed record DueCount(Guid SiteId, string Kind, DueTier Tier, bool IsNever, bool IsOver, int Week, int Items);

/// <summary>Which items fall due, and for what.</summary>
internal static class DueItems
{
    /// <summary>In service, and due for a test or a look by that day; what was never tested is due at once.</summary>
    public static IQueryable<RegisterItem> By(OsierwandDb db, DateOnly until) =>
        db.Items.Where(it => it.State == ItemState.InService && it.FallsOn <= until);

    public static Falling Of(RegisterItem it, int window) => Falling.Of(it.Due, it.VisualDue, it.LastTestedOn, it.LastLookedOn, window);

    /// <summary>Counted by site, kind, tier and week. The database counts, so that a hundred thousand items are a few hundred lines; what
    /// it counts by is <see cref="Falling.Of"/> in its words, and a test holds the two together.</summary>
    /// <param name="monday">Of the first week; what is over lies in it.</param>
    public static Task<List<DueCount>> CountedAsync(
        IQueryable<RegisterItem> due,
        DateOnly monday,
        DateOnly today,
        int window,
        CancellationToken cancel
    ) =>
        due.Select(it => new
            {
                it.SiteId,
                it.KindWord,
                IsLook = it.Due != null && it.VisualDue != null && it.VisualDue.Value.AddDays(window) < it.Due.Value,
                IsNever = it.Due == null,
                it.FallsOn,
            })
            .Select(it => new
            {
                it.SiteId,
                it.KindWord,
                it.IsLook,
                it.IsNever,
                IsOver = it.FallsOn < today,
                Week = it.FallsOn < monday ? 0 : (it.FallsOn.DayNumber - monday.DayNumber) / DaysInAWeek,
            })
            .GroupBy(it => it)
            .Select(it => new DueCount(
                it.Key.SiteId,
                it.Key.KindWord,
                it.Key.IsLook ? DueTier.Visual : DueTier.Combined,
                it.Key.IsNever,
                it.Key.IsOver,
                it.Key.Week,
                it.Count()
            ))
            .ToListAsync(cancel);

    public const int DaysInAWeek = 7;

    /// <summary>Items that are in a round which is not over, and were not saved in it. What was not reached comes back by itself: it was
    /// saved with its reason.</summary>
    public static IQueryable<Guid> InRounds(OsierwandDb db, DateOnly today)
    {
        var standing = db.Rounds.Where(it => it.State != RoundState.Closed && it.EndsOn >= today);
        var chosen =
            from row in db.RoundItems
            join round in standing on row.RoundId equals round.Id
            where row.ExcludedWhy == null && !db.Settling().Any(seen => seen.RoundId == round.Id && seen.ItemId == row.ItemId)
            select row.ItemId;
        // A round without a choice of its own takes whatever is due at its site.
        var whole =
            from item in db.Items
            join round in standing.Where(it => !it.IsPlanned) on item.SiteId equals round.SiteId
            where
                (item.Due == null || item.Due <= round.EndsOn)
                && !db.Settling().Any(seen => seen.RoundId == round.Id && seen.ItemId == item.Id)
            select item.Id;
        return chosen.Union(whole);
    }

    /// <summary>Left out of the last round that named them, because somebody else tests them.</summary>
    public static IQueryable<Guid> TestedByOthers(OsierwandDb db) =>
        from row in db.RoundItems
        join round in db.Rounds on row.RoundId equals round.Id
        where
            row.ExcludedWhy != null
            && !db.RoundItems.Any(later =>
                later.ItemId == row.ItemId
                && later.ExcludedWhy == null
                && db.Rounds.Any(other => other.Id == later.RoundId && other.StartsOn > round.StartsOn)
            )
        select row.ItemId;

    /// <summary>Not tested when they were last to be.</summary>
    public static IQueryable<Guid> NotReached(OsierwandDb db) =>
        db.Standing()
            .Where(seen =>
                seen.Outcome == Outcome.NotTested
                && !db.Standing().Any(later => later.ItemId == seen.ItemId && later.TestedAt > seen.TestedAt)
            )
            .Select(it => it.ItemId);
}
