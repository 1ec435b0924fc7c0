using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Equipment;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Core.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <summary>How long items are expected on the bench: by what their own inspections took, or those of their kind at their client. A round
/// and the plan that it was taken from reckon alike.</summary>
internal sealed class BenchTimes
{
    /// <summary>Of a client, for the bench time of a kind.</summary>
    private const int KindLooksBack = 1_000;

    private sealed record Took(Guid ItemId, Guid ClientId, bool IsTest, int Seconds, Item? Equipment);

    private readonly ILookup<(Guid Item, bool IsTest), TimeSpan> own;
    private readonly ILookup<(Guid Client, bool IsTest, object Kind), TimeSpan> kinds;
    private readonly Thresholds rules;

    private BenchTimes(List<Took> own, List<Took> recent, Thresholds rules)
    {
        this.own = own.ToLookup(it => (it.ItemId, it.IsTest), it => TimeSpan.FromSeconds(it.Seconds));
        kinds = recent.ToLookup(it => (it.ClientId, it.IsTest, KindOf(it.Equipment!)), it => TimeSpan.FromSeconds(it.Seconds));
        (Seen, this.rules) = (recent.Count, rules);
    }

    /// <summary>Inspections that the times of kinds come from.</summary>
    public int Seen { get; }

    public static async Task<BenchTimes> OfAsync(
        OsierwandDb db,
        IReadOnlyCollection<RegisterItem> items,
        Thresholds rules,
        CancellationToken cancel
    )
    {
        var ids = items.Select(it => it.Id).ToArray();
        var inspections = db.Inspections.AsNoTracking().Where(it => it.BenchSeconds != null);
        var own = await inspections
            .Where(it => ids.Contains(it.ItemId))
            .Select(it => new Took(it.ItemId, it.ClientId, it.IsTest, it.BenchSeconds!.Value, null))
            .ToListAsync(cancel);
        var recent = new List<Took>();
        foreach (var client in items.Select(it => it.ClientId).Distinct())
            recent.AddRange(
                await (
                    from it in inspections.Where(it => it.ClientId == client).OrderByDescending(it => it.BookNumber).Take(KindLooksBack)
                    join item in db.Items on it.ItemId equals item.Id
                    select new Took(it.ItemId, it.ClientId, it.IsTest, it.BenchSeconds!.Value, item.Equipment)
                ).ToListAsync(cancel)
            );
        return new(own, recent, rules);
    }

    public BenchTime Of(RegisterItem item, DueTier tier)
    {
        var isTest = tier == DueTier.Combined;
        return BenchTime.Of(
            own[(item.Id, isTest)],
            kinds[(item.ClientId, isTest, KindOf(item.Equipment))],
            rules,
            isTest ? rules.BenchUnknown : rules.LookUnknown
        );
    }

    /// <summary>What takes about as long: kind, class, and how it is connected.</summary>
    private static object KindOf(Item it) => (it.Kind, it.Class, it.IsHardWired, it.Phases, it.AppliedParts.IsEmpty);
}
