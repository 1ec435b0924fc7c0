using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Standards;

/// <summary>
/// The packs with the organisation's limits laid over them. Kept in memory, as the bench asks after every reading; a change drops the pack
/// and the next question reads it anew.
/// </summary>
public sealed class HousePacks
{
    private readonly ConcurrentDictionary<string, RulePack> tightened = new();
    private readonly Lock keeping = new();
    private int changed;

    /// <returns>Null when there is no such pack.</returns>
    internal async ValueTask<RulePack?> FindAsync(OsierwandDb db, string id, CancellationToken cancel)
    {
        if (tightened.TryGetValue(id, out var known)) return known;
        if (PackLibrary.Find(id) is not { } pack) return null;
        var asOf = Volatile.Read(ref changed);
        var changes = await db.HouseChanges.AsNoTracking().Where(it => it.PackId == id).OrderBy(it => it.Revision).ToListAsync(cancel);
        var house = HouseLimits.Apply(pack, Standing(changes), changes.Count == 0 ? 0 : changes[^1].Revision);
        // A newer version of the pack may have caught up with a house limit: the standard is then the stricter one and stands alone.
        var its = house.TryGet(out var laid) ? laid : HouseLimits.Apply(pack, [.. Standing(changes).Where(limit => Still(pack, limit))], changes[^1].Revision).Value;
        // What was read before a change is answered but not kept: it would else stand until the next change.
        lock (keeping)
        {
            if (asOf == changed) tightened[id] = its;
        }
        return its;
    }

    internal void Forget(string id)
    {
        lock (keeping)
        {
            changed++;
            tightened.TryRemove(id, out _);
        }
    }

    /// <summary>The newest change of each row, where it was not lifted.</summary>
    internal static IReadOnlyList<HouseLimit> Standing(IEnumerable<HouseChange> changes) =>
        [.. changes.GroupBy(it => it.RuleId).Select(row => row.MaxBy(it => it.Revision)!).Where(it => it.Value is not null).Select(Limit)];

    internal static HouseLimit Limit(HouseChange it) => new(it.RuleId, it.Value!.Value, Unit.Find(it.Unit!)!, it.Reason);

    private static bool Still(RulePack pack, HouseLimit limit) =>
        pack.Limits.FirstOrDefault(rule => rule.Id == limit.RuleId) is { } rule && HouseLimits.Refusal(rule, limit) is null;
}
