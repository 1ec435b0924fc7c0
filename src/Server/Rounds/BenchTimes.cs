using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Equipment;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <summary>How long items are expected on the bench: by what their own inspections took, or those of their kind.</summary>
internal sealed class BenchTimes
{
    /// <summary>For the bench time of a kind.</summary>
    private const int KindLooksBack = 2_000;

    private readonly ILookup<Guid, TimeSpan> own;
    private readonly ILookup<object, TimeSpan> kinds;
    private readonly Thresholds rules;

    private BenchTimes(ILookup<Guid, TimeSpan> own, ILookup<object, TimeSpan> kinds, int seen, Thresholds rules) =>
        (this.own, this.kinds, Seen, this.rules) = (own, kinds, seen, rules);

    /// <summary>Inspections that the times of kinds come from.</summary>
    public int Seen { get; }

    /// <param name="ofTests">False: of formal visuals.</param>
    /// <param name="clientId">Null takes those of every client.</param>
    public static async Task<BenchTimes> OfAsync(
        OsierwandDb db,
        Guid[] items,
        bool ofTests,
        Guid? clientId,
        Thresholds rules,
        CancellationToken cancel
    )
    {
        var inspections = db.Inspections.AsNoTracking().Where(it => it.BenchSeconds != null && it.IsTest == ofTests);
        var own = await inspections
            .Where(it => items.Contains(it.ItemId))
            .Select(it => new { it.ItemId, Seconds = it.BenchSeconds!.Value })
            .ToListAsync(cancel);
        var last = clientId is { } client
            ? inspections.Where(it => it.ClientId == client).OrderByDescending(it => it.BookNumber)
            : inspections.OrderByDescending(it => it.TestedAt);
        var recent = await (
            from it in last.Take(KindLooksBack)
            join item in db.Items on it.ItemId equals item.Id
            select new { item.Equipment, Seconds = it.BenchSeconds!.Value }
        ).ToListAsync(cancel);
        return new(
            own.ToLookup(it => it.ItemId, it => TimeSpan.FromSeconds(it.Seconds)),
            recent.ToLookup(it => KindOf(it.Equipment), it => TimeSpan.FromSeconds(it.Seconds)),
            recent.Count,
            rules
        );
    }

    /// <param name="unknown">Where nothing of its kind is known.</param>
    public BenchTime Of(RegisterItem item, TimeSpan? unknown = null) =>
        BenchTime.Of(own[item.Id], kinds[KindOf(item.Equipment)], rules, unknown);

    /// <summary>What takes about as long: kind, class, and how it is connected.</summary>
    private static object KindOf(Item it) => (it.Kind, it.Class, it.IsHardWired, it.Phases, it.AppliedParts.IsEmpty);
}
