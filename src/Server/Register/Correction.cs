using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;

namespace Osierwand.Server.Register;

/// <param name="Revision">Of the item as the page knew it.</param>
public sealed record CorrectItem(int Revision, FactChanges Changes, string Reason);

/// <summary>Corrects an item's facts from its page; what they were stays in the item's history.</summary>
internal static class Correction
{
    public static async Task<Results<NoContent, ProblemHttpResult>> Correct(
        Guid itemId,
        CorrectItem sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > BenchState.LongestText)
            return Refusals.Invalid("Not changed.", new Fault("reason", "Say in a few words why the facts change."));
        var item = await db.Items.Include(it => it.Client).Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return Refusals.NotFound("item");
        var (before, basis) = (ItemStory.OnBench(item), ItemStory.Basis(item));
        var made = Facts.Apply(before, sent.Changes);
        if (made.Fault is { } fault)
            return Refusals.Invalid("Not changed.", fault);
        var (after, place) = (made.Value, sent.Changes.Place ?? item.Place);
        var lines = FactLines.Between(before, basis, after, basis with { Place = place }).ToArray();
        if (lines.Length == 0)
            return TypedResults.NoContent();

        return
            await new ItemEdit(db, trail, user, time).KeepAsync(
                item,
                sent.Revision,
                row =>
                    row.SetProperty(it => it.Name, after.Name)
                        .SetProperty(it => it.Maker, after.Maker)
                        .SetProperty(it => it.Model, after.Model)
                        .SetProperty(it => it.Serial, after.Serial)
                        .SetProperty(it => it.Room, after.Room)
                        .SetProperty(it => it.Place, place)
                        .SetProperty(it => it.Evidence, after.Evidence)
                        .SetProperty(it => it.Equipment, after.Equipment),
                sent.Reason.Trim(),
                lines,
                "item's facts corrected",
                "Not changed.",
                cancel
            )
                is { } refused
            ? refused
            : TypedResults.NoContent();
    }
}
