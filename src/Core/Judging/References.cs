using System.Collections.Immutable;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>
/// What later readings are held against: of every measurement the first that decided something, or the first after the last repair. Kept
/// with the item, however many inspections follow.
/// </summary>
public static class References
{
    /// <summary>The references after one more inspection.</summary>
    /// <param name="kept">As they stood, oldest first; each entry holds those of its readings that are references.</param>
    /// <returns>Unchanged where the inspection measured nothing for the first time. A repair takes all earlier ones away: an item that is
    /// inspected in 2024, repaired and inspected in 2026 has its references of 2026 alone.</returns>
    public static ImmutableArray<PastInspection> After(ImmutableArray<PastInspection> kept, PastInspection newest, RulePack pack)
    {
        if (newest.AfterRepair)
            kept = [];
        var known = kept.SelectMany(past => past.Keys).ToHashSet(StringComparer.Ordinal);
        var first = newest.Readings.Where(reading => Decides(reading, newest, pack) && known.Add(StepKey.Of(reading.Under))).ToArray();
        return first.Length == 0 ? kept : kept.Add(newest with { Readings = [.. first] });
    }

    /// <summary>Of a whole history, oldest first.</summary>
    public static ImmutableArray<PastInspection> Of(IEnumerable<PastInspection> history, RulePack pack) =>
        history.Aggregate(ImmutableArray<PastInspection>.Empty, (kept, past) => After(kept, past, pack));

    private static bool Decides(Reading reading, PastInspection past, RulePack pack) =>
        past.Item is { } item && Of(pack, item, reading) is not null;

    /// <returns>The reading as judged today, or null where it is no reference: a void, a bound, one taken with the item switched off, or
    /// one that decided nothing.</returns>
    internal static Judgement? Of(RulePack pack, Equipment.Item item, Reading reading)
    {
        if (reading.Void is not null || reading is Reading.Insulation { SwitchedOn: false } or Reading.Leakage { SwitchedOn: false })
            return null;
        var judged = Judge.Of(pack, item, reading);
        return judged is { Status: Status.Pass or Status.Fail, Value: not null, Reading.Value: { IsBound: false } } ? judged : null;
    }
}
