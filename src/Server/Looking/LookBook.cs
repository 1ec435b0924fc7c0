using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Looking;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Looking;

/// <summary>The house's list to look at, as it stands.</summary>
internal static class LookBook
{
    /// <returns>Null where the house changed nothing.</returns>
    public static async Task<HouseLook?> StandingAsync(OsierwandDb db, CancellationToken cancel) =>
        Standing(await db.LookChanges.AsNoTracking().OrderBy(it => it.Revision).ToListAsync(cancel));

    public static HouseLook? Standing(IReadOnlyList<LookChange> changes)
    {
        if (changes.Count == 0)
            return null;
        var standing = InForce(changes).ToArray();
        return new(
            changes[^1].Revision,
            [.. standing.Where(it => it.Kind == LookChangeKind.Add).Select(Added)],
            [.. standing.Where(it => it.Kind == LookChangeKind.Drop).Select(Dropped)]
        );
    }

    public static IEnumerable<LookChange> InForce(IReadOnlyList<LookChange> changes)
    {
        var takenBack = changes.Select(it => it.Target).OfType<int>().ToHashSet();
        return changes.Where(it => it.Kind != LookChangeKind.TakeBack && !takenBack.Contains(it.Revision));
    }

    public static AddedPoint Added(LookChange it) =>
        new($"house/{it.Revision}", it.Where ?? "", it.Text ?? "", [.. it.Phrases], ReachOf(it));

    public static DroppedPoint Dropped(LookChange it) => new(it.PointId ?? "", ReachOf(it), it.Reason);

    public static LookReach ReachOf(LookChange it) => new([.. it.Kinds], [.. it.Classes], [.. it.Plugs], [.. it.Packs]);
}
