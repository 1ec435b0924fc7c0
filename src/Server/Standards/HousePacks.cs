using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Standards;

/// <summary>
/// The organisation's limits as they stand, read from the database each time: a ruling names their revision, and two servers must agree
/// on it.
/// The table is a handful of rows.
/// </summary>
internal static class HousePacks
{
    /// <returns>The pack with the house limits over it; null when there is no such pack.</returns>
    public static async Task<RulePack?> FindAsync(OsierwandDb db, string id, CancellationToken cancel)
    {
        if (PackLibrary.Find(id) is not { } pack)
            return null;
        var changes = await db.HouseChanges.AsNoTracking().Where(it => it.PackId == id).OrderBy(it => it.Revision).ToListAsync(cancel);
        return changes.Count == 0 ? pack : HouseLimits.Apply(pack, Standing(changes, pack), changes[^1].Revision).Value;
    }

    /// <summary>Of every pack that has any, so that a borrowed standard is as strict as on its own rounds.</summary>
    public static async Task<ImmutableArray<HouseRuling>> AllAsync(OsierwandDb db, CancellationToken cancel)
    {
        var changes = await db.HouseChanges.AsNoTracking().OrderBy(it => it.PackId).ThenBy(it => it.Revision).ToListAsync(cancel);
        return [.. changes.GroupBy(it => it.PackId).Select(OfPack).OfType<HouseRuling>()];
    }

    private static HouseRuling? OfPack(IGrouping<string, HouseChange> changes)
    {
        if (PackLibrary.Find(changes.Key) is not { } pack)
            return null;
        var standing = Standing(changes, pack);
        return standing.Count == 0
            ? null
            : new(
                pack.Id,
                changes.Max(it => it.Revision),
                [.. standing.Select(limit => new HouseRow(limit.RuleId, limit.Value, limit.Unit.Symbol, limit.Reason))]
            );
    }

    /// <summary>
    /// The newest change of each row, where it was not lifted. A newer version of the pack may have caught up with a house limit: the
    /// standard
    /// is then the stricter one and stands alone.
    /// </summary>
    internal static IReadOnlyList<HouseLimit> Standing(IEnumerable<HouseChange> changes, RulePack pack) =>
        [
            .. changes
                .GroupBy(it => it.RuleId)
                .Select(row => row.MaxBy(it => it.Revision)!)
                .Where(it => it.Value is not null)
                .Select(Limit)
                .Where(limit => Still(pack, limit)),
        ];

    internal static HouseLimit Limit(HouseChange it) => new(it.RuleId, it.Value!.Value, Unit.Find(it.Unit!)!, it.Reason);

    private static bool Still(RulePack pack, HouseLimit limit) =>
        pack.Limits.FirstOrDefault(rule => rule.Id == limit.RuleId) is { } rule && HouseLimits.Refusal(rule, limit) is null;
}
