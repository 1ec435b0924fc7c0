using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Query;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>Changes an item's row from its page: by its revision, with what it was in its history and in the trail, all or
/// nothing.</summary>
internal sealed class ItemEdit(OsierwandDb db, Trail trail, ClaimsPrincipal user, TimeProvider time)
{
    /// <param name="revision">Of the item as the page knew it.</param>
    /// <param name="set">What of the row changes; its revision rises by itself.</param>
    /// <param name="lines">What it was and what it is, a line each.</param>
    /// <param name="title">Where it is refused: "Not changed."</param>
    /// <param name="also">What else changes with it, in the same transaction; says why it does not.</param>
    /// <returns>Why nothing was changed, or null.</returns>
    public async Task<ProblemHttpResult?> KeepAsync(
        RegisterItem item,
        int revision,
        Action<UpdateSettersBuilder<RegisterItem>> set,
        string reason,
        string[] lines,
        string what,
        string title,
        CancellationToken cancel,
        Func<Task<string?>>? also = null
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await db
            .Items.Where(it => it.Id == item.Id && it.Revision == revision)
            .ExecuteUpdateAsync(
                row =>
                {
                    set(row);
                    row.SetProperty(it => it.Revision, it => it.Revision + 1);
                },
                cancel
            );
        if (rows == 0)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                title,
                "Somebody changed or inspected this item meanwhile. Look at it again; what you entered is kept on this screen."
            );
        if (also is not null && await also() is { } why)
            return Refusals.Of(StatusCodes.Status409Conflict, title, why);
        db.ItemChanges.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                ItemId = item.Id,
                At = time.GetUtcNow(),
                By = user.DisplayName(),
                Reason = reason,
                Lines = lines,
            }
        );
        trail.Add(what, item.Tag, item.Id, after: new { reason, lines });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }
}
