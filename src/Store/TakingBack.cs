using Osierwand.Core.Bench;
using Osierwand.Core.Judging;

namespace Osierwand.Store;

/// <summary>A row of an item's book: what it found, and how the item stood before and after it.</summary>
/// <param name="Stands">It counts: neither taken back nor a record that takes one back.</param>
/// <param name="After">Null in rows of an earlier version; then how the next row found it.</param>
public sealed record PastRow(Guid Id, bool Stands, Outcome Outcome, bool IsTest, ItemStanding Before, ItemStanding? After);

/// <summary>How an item stands by the records that count, whatever others said of it and whatever happened to it between them.</summary>
public static class TakingBack
{
    /// <summary>
    /// Walks through all rows of an item, the oldest first. Each that counts decides what it decided then; one that does not decides
    /// nothing, also where a later one built on it. What other hands did between two rows stays: of a date that they moved the earlier
    /// stands, so that nothing falls due later by it, and what was reported or recalled is held until something that counts frees it.
    /// </summary>
    /// <remarks>A failure that stands is over by a pass after repair that stands, and by nothing else: a later routine pass was made while
    /// it seemed to be over.</remarks>
    /// <param name="rows">Of one item, in the order of its book; at least one.</param>
    /// <param name="now">As its row in the register has it.</param>
    public static ItemStanding Replay(IReadOnlyList<PastRow> rows, ItemStanding now)
    {
        var standing = rows[0].Before;
        ItemStanding? left = null;
        for (var at = 0; at < rows.Count; at++)
        {
            var row = rows[at];
            if (left is not null)
                standing = Between(standing, left, row.Before);
            left = row.After ?? (at + 1 < rows.Count ? rows[at + 1].Before : now);
            if (row.Stands)
                standing = Decided(standing, row, left);
        }
        standing = Between(standing, left!, now);
        var state = Enum.Parse<ItemState>(now.State);
        return standing with
        {
            State = $"{(standing.Held is not null ? ItemState.Quarantined : Scopes.IsHeld(state) ? ItemState.InService : state)}",
            // A lock hangs where it hangs.
            LockLeft = now.LockLeft,
        };
    }

    /// <summary>What other hands did: a knock, a move, a test brought forward, a group's decision, a report, a recall.</summary>
    private static ItemStanding Between(ItemStanding standing, ItemStanding from, ItemStanding to) =>
        standing with
        {
            Due = to.Due == from.Due ? standing.Due : Earlier(standing.Due, to.Due),
            VisualDue = to.VisualDue == from.VisualDue ? standing.VisualDue : Earlier(standing.VisualDue, to.VisualDue),
            IntervalMonths = to.IntervalMonths == from.IntervalMonths ? standing.IntervalMonths : to.IntervalMonths,
            Because = to.Because.SequenceEqual(from.Because) ? standing.Because : to.Because,
            Held = to.Held is { } held && held.Cause != from.Held?.Cause ? held : standing.Held,
        };

    /// <summary>What an inspection decides (see the server's ItemDates): only a test moves the date of the test.</summary>
    private static ItemStanding Decided(ItemStanding standing, PastRow row, ItemStanding after)
    {
        var hasLooked = row.Outcome != Outcome.Findings && after.LastLookedOn != row.Before.LastLookedOn;
        if (row.Outcome is not (Outcome.Pass or Outcome.PassWithAdvice or Outcome.Fail))
            return hasLooked ? standing with { LastLookedOn = after.LastLookedOn, VisualDue = after.VisualDue } : standing;
        standing = standing with { LastLookedOn = after.LastLookedOn, LastOutcome = after.LastOutcome };
        if (row.IsTest)
            standing = standing with
            {
                LastTestedOn = after.LastTestedOn,
                ReferenceValues = after.ReferenceValues,
                CrossesOn = after.CrossesOn,
                Crossing = after.Crossing,
            };
        if (row.Outcome == Outcome.Fail)
            return standing with { Held = after.Held };
        if (row.IsTest || after.Due != row.Before.Due)
            standing = standing with { Due = after.Due, IntervalMonths = after.IntervalMonths, Because = after.Because };
        return standing with
        {
            VisualDue = after.VisualDue,
            Held = row.Before.Held is not null && after.Held is null ? null : standing.Held,
        };
    }

    /// <summary>Never tested is due at once: no date is the earliest.</summary>
    private static DateOnly? Earlier(DateOnly? one, DateOnly? other) =>
        one is null || other is null ? null
        : one < other ? one
        : other;
}
