using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Server.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>An item was found elsewhere, or something happened to it.</summary>
/// <param name="Revision">Of the item as the page knew it.</param>
/// <param name="Place">What kind of place the room is; null leaves it as it was.</param>
/// <param name="WasKnocked">It was knocked, dropped or got wet: it is due at once.</param>
public sealed record MoveItem(int Revision, string Room, Place? Place, bool WasKnocked);

/// <param name="Due">Null where it was never tested.</param>
/// <param name="Because">Why the date is what it is.</param>
public sealed record MovedItem(string Room, DateOnly? Due, IReadOnlyList<string> Because);

/// <summary>One confirmation: the item moves, and its dates follow from where it is now.</summary>
internal static class Moving
{
    private const int LongestRoom = 120;

    public static async Task<Results<Ok<MovedItem>, ProblemHttpResult>> Move(
        Guid itemId,
        MoveItem sent,
        OsierwandDb db,
        Rulings rulings,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var room = sent.Room.Trim();
        if (room.Length is 0 or > LongestRoom || room.Any(char.IsControl))
            return Refusals.Invalid("Not moved.", new Fault("room", "Say in which room it is."));
        var item = await db.Items.Include(it => it.Client).Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return Refusals.NotFound("item");
        var place = sent.Place ?? item.Place;
        if (room == item.Room && place == item.Place && !sent.WasKnocked)
            return TypedResults.Ok(new MovedItem(item.Room, item.Due, item.Because));
        var round = await RoundOfAsync(db, item, cancel);
        var laid = round is null ? null : await rulings.LookBackAsync(item, round, cancel);
        var next = laid is null
            ? null
            : NextDates.AfterMove(
                laid.Ruling with
                {
                    Item = laid.Ruling.Item with { Room = room },
                    Basis = laid.Ruling.Basis with { Place = place },
                },
                item.LastTestedOn,
                item.LastLookedOn,
                sent.WasKnocked
            );
        // Of a client without any round nothing is known to reckon with: what was knocked is due all the same.
        var today = item.Site.DayOf(time.GetUtcNow());
        var due = next?.Due ?? (sent.WasKnocked && item.LastTestedOn is not null ? today : item.Due);
        var visual = next?.VisualDue ?? (sent.WasKnocked ? today : item.VisualDue);
        string[] because = next is null ? item.Because : [.. next.Because];
        var (before, basis) = (ItemStory.OnBench(item), ItemStory.Basis(item));
        string[] lines =
        [
            .. FactLines.Between(before, basis, before with { Room = room }, basis with { Place = place }),
            .. due == item.Due ? (string[])[] : [$"Due: {item.Due:yyyy-MM-dd} → {due:yyyy-MM-dd}"],
        ];
        var reason = sent.WasKnocked ? "knocked, dropped or wet" : "found elsewhere";
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await db
            .Items.Where(it => it.Id == itemId && it.Revision == sent.Revision)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(it => it.Room, room)
                        .SetProperty(it => it.Place, place)
                        .SetProperty(it => it.Due, due)
                        .SetProperty(it => it.VisualDue, visual)
                        .SetProperty(it => it.IntervalMonths, next == null ? item.IntervalMonths : next.Months ?? next.VisualMonths)
                        .SetProperty(it => it.Because, because)
                        .SetProperty(it => it.Revision, it => it.Revision + 1),
                cancel
            );
        if (rows == 0)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "Not moved.",
                "Somebody changed or inspected this item meanwhile. Look at it again.",
                []
            );
        db.ItemChanges.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                ItemId = itemId,
                At = time.GetUtcNow(),
                By = user.DisplayName(),
                Reason = reason,
                Lines = lines,
            }
        );
        trail.Add("item moved", item.Tag, itemId, after: new { reason, lines });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new MovedItem(room, due, because));
    }

    /// <summary>By whose standard the dates are reckoned: an open round at its site, else the last one that was there.</summary>
    private static Task<Round?> RoundOfAsync(OsierwandDb db, RegisterItem item, CancellationToken cancel) =>
        db
            .Rounds.AsNoTracking()
            .Include(it => it.Site)
            .Where(it => it.SiteId == item.SiteId)
            .OrderBy(it => it.ClosedOn != null)
            .ThenByDescending(it => it.StartsOn)
            .FirstOrDefaultAsync(cancel);
}
