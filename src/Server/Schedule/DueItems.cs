using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Schedule;

/// <summary>Which items fall due, and for what.</summary>
internal static class DueItems
{
    /// <summary>In service, and due for a test or a look by that day; what was never tested is due at once.</summary>
    public static IQueryable<RegisterItem> By(OsierwandDb db, DateOnly until) =>
        db.Items.Where(it => it.State == ItemState.InService && (it.Due == null || it.Due <= until || it.VisualDue <= until));

    /// <summary>The tier that it falls due for. A test is a look too: one that falls due within the window after the look is done with
    /// it.</summary>
    public static DueTier TierOf(DateOnly? due, DateOnly? visualDue, int window) =>
        visualDue is { } look && due is { } test && look.AddDays(window) < test ? DueTier.Visual : DueTier.Combined;

    /// <summary>The last day on which it is in time; null where it was never tested.</summary>
    public static DateOnly? LastDay(DateOnly? due, DateOnly? visualDue) =>
        due is null || visualDue is null || due <= visualDue ? due : visualDue;

    /// <summary>Items that are in a round which is not over, and were not saved in it. What was not reached comes back by itself: it was
    /// saved with its reason.</summary>
    public static IQueryable<Guid> InRounds(OsierwandDb db, DateOnly today)
    {
        var standing = db.Rounds.Where(it => it.State != RoundState.Closed && it.EndsOn >= today);
        var chosen =
            from row in db.RoundItems
            join round in standing on row.RoundId equals round.Id
            where row.ExcludedWhy == null && !db.Inspections.Any(it => it.RoundId == round.Id && it.ItemId == row.ItemId)
            select row.ItemId;
        // A round without a choice of its own takes whatever is due at its site.
        var whole =
            from item in db.Items
            join round in standing.Where(it => !it.IsPlanned) on item.SiteId equals round.SiteId
            where
                (item.Due == null || item.Due <= round.EndsOn) && !db.Inspections.Any(it => it.RoundId == round.Id && it.ItemId == item.Id)
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
        db
            .Inspections.Where(seen =>
                seen.Outcome == Outcome.NotTested
                && !db.Inspections.Any(later => later.ItemId == seen.ItemId && later.TestedAt > seen.TestedAt)
            )
            .Select(it => it.ItemId);
}
