using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
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
    /// <summary>The common rules with the house's figures over them.</summary>
    public static async Task<Thresholds> RulesAsync(OsierwandDb db, CancellationToken cancel) =>
        new(HouseRuling.Table(await AllAsync(db, cancel), Thresholds.Id)!);

    /// <summary>Of every pack and table that has any, so that a borrowed standard is as strict as on its own rounds.</summary>
    public static async Task<ImmutableArray<HouseRuling>> AllAsync(OsierwandDb db, CancellationToken cancel)
    {
        var changes = await db.HouseChanges.AsNoTracking().OrderBy(it => it.PackId).ThenBy(it => it.Revision).ToListAsync(cancel);
        return [.. changes.GroupBy(it => it.PackId).Select(OfPack).OfType<HouseRuling>()];
    }

    private static HouseRuling? OfPack(IGrouping<string, HouseChange> changes)
    {
        var standing = Standing(changes);
        return standing.Count == 0
            ? null
            : new(
                changes.Key,
                changes.Max(it => it.Revision),
                [.. standing.Select(limit => new HouseRow(limit.RuleId, limit.Value, limit.Unit.Symbol, limit.Reason))]
            );
    }

    /// <summary>
    /// The newest change of each row, where it was not lifted. A newer version of the pack may have caught up with a house limit: the
    /// standard
    /// is then the stricter one and stands alone.
    /// </summary>
    private static IReadOnlyList<HouseLimit> Standing(IGrouping<string, HouseChange> changes) =>
        [
            .. changes
                .GroupBy(it => it.RuleId)
                .Select(row => row.MaxBy(it => it.Revision)!)
                .Where(it => it.Value is not null)
                .Select(Limit)
                .Where(limit => Refusal(changes.Key, limit) is null),
        ];

    internal static HouseLimit Limit(HouseChange it) => new(it.RuleId, it.Value!.Value, Unit.Find(it.Unit!)!, it.Reason);

    /// <returns>Why a house limit may not stand in a pack or table, or null; a fault at "notFound" where there is no such row.</returns>
    internal static Fault? Refusal(string id, HouseLimit limit) =>
        PackLibrary.Find(id)?.Limits.FirstOrDefault(rule => rule.Id == limit.RuleId) is { } rule ? HouseLimits.Refusal(rule, limit)
        : ThresholdLibrary.Find(id)?.Find(limit.RuleId) is { } row ? row.Refusal(limit)
        : new Fault("notFound", "There is no such limit.");
}
