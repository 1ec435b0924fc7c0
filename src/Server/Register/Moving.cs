using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Server.Bench;
using Osierwand.Server.Evidence;
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
        var item = await db.Items.Include(it => it.Client).Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return Refusals.NotFound("item");
        var (before, basis) = (ItemStory.OnBench(item), ItemStory.Basis(item));
        var made = Facts.Apply(before, new() { Room = sent.Room });
        if (made.Fault is { } fault)
            return Refusals.Invalid("Not moved.", fault);
        var (after, place) = (made.Value, sent.Place ?? item.Place);
        if (after.Room == item.Room && place == item.Place && !sent.WasKnocked)
            return TypedResults.Ok(new MovedItem(item.Room, item.Due, item.Because));
        var laid = await RoundOfAsync(db, item, cancel) is { } round ? await rulings.LookBackAsync(item, round, cancel) : null;
        var next = NextDates.AfterMove(
            laid is null
                ? null
                : laid.Ruling with
                {
                    Item = after,
                    Basis = laid.Ruling.Basis with
                    {
                        Place = place,
                        Group = await EvidenceBook.StepOfAsync(db, after.Equipment.Kind, place, cancel),
                    },
                },
            basis,
            new(item.LastTestedOn, item.LastLookedOn, item.Because),
            sent.WasKnocked ? item.Site.DayOf(time.GetUtcNow()) : null
        );
        string[] lines =
        [
            .. FactLines.Between(before, basis, after, basis with { Place = place }),
            .. next.Due == item.Due ? (string[])[] : [$"Due: {item.Due:yyyy-MM-dd} → {next.Due:yyyy-MM-dd}"],
        ];
        return
            await new ItemEdit(db, trail, user, time).KeepAsync(
                item,
                sent.Revision,
                row =>
                    row.SetProperty(it => it.Room, after.Room)
                        .SetProperty(it => it.Place, place)
                        .SetProperty(it => it.Due, next.Due)
                        .SetProperty(it => it.VisualDue, next.VisualDue)
                        .SetProperty(it => it.IntervalMonths, next.Months)
                        .SetProperty(it => it.Because, [.. next.Because]),
                sent.WasKnocked ? "knocked, dropped or wet" : "found elsewhere",
                lines,
                "item moved",
                "Not moved.",
                cancel
            )
                is { } refused
            ? refused
            : TypedResults.Ok(new MovedItem(after.Room, next.Due, next.Because));
    }

    /// <summary>By whose standard the dates are reckoned: an open round at its site, else the last one that was there.</summary>
    internal static Task<Round?> RoundOfAsync(OsierwandDb db, RegisterItem item, CancellationToken cancel) =>
        db
            .Rounds.AsNoTracking()
            .Include(it => it.Site)
            .Where(it => it.SiteId == item.SiteId)
            .OrderBy(it => it.ClosedOn != null)
            .ThenByDescending(it => it.StartsOn)
            .FirstOrDefaultAsync(cancel);
}
