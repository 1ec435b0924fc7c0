using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <param name="Changes">As made to the one item.</param>
public sealed record AskAlike(FactChanges Changes);

/// <summary>Others of a model to which a correction may hold as well.</summary>
/// <param name="Changes">What of the correction belongs to the model; null where nothing does.</param>
public sealed record AlikeItems(FactChanges? Changes, IReadOnlyList<AlikeItem> Items);

/// <param name="Lines">What it would change: "Parts: ECG BF → ECG CF".</param>
public sealed record AlikeItem(Guid Id, int Revision, string Tag, string Where, IReadOnlyList<string> Lines);

/// <summary>A model's correction offers itself to its other devices; each is corrected by a person, with its own line in its
/// history.</summary>
internal static class AlikeEndpoints
{
    /// <summary>More nobody looks through at once.</summary>
    private const int Most = 200;

    public static async Task<Results<Ok<AlikeItems>, ProblemHttpResult>> Alike(
        Guid itemId,
        AskAlike sent,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        var own = await db.Items.AsNoTracking().FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (own is null)
            return Refusals.NotFound("item");
        if (ModelFacts.Of(sent.Changes) is not { } changes || own.Maker is not { } maker || own.Model is not { } model)
            return TypedResults.Ok(new AlikeItems(null, []));
        var others = await db
            .Items.AsNoTracking()
            .Include(it => it.Client)
            .Include(it => it.Site)
            .OfModel(maker, model)
            .Where(it => it.ClientId == own.ClientId && it.Id != itemId && it.State != ItemState.Scrapped)
            .OrderBy(it => it.Tag)
            .Take(Most)
            .ToListAsync(cancel);
        return TypedResults.Ok(new AlikeItems(changes, [.. others.Select(it => Changed(it, changes)).OfType<AlikeItem>()]));
    }

    /// <returns>Null where it is so already, or cannot be so.</returns>
    private static AlikeItem? Changed(RegisterItem it, FactChanges changes)
    {
        var (before, basis) = (ItemStory.OnBench(it), ItemStory.Basis(it));
        if (!Facts.Apply(before, changes).TryGet(out var after))
            return null;
        var lines = FactLines.Between(before, basis, after, basis).ToArray();
        return lines.Length == 0 ? null : new(it.Id, it.Revision, it.Tag, $"{it.Site.Name}, {it.Room}", lines);
    }
}
