using Osierwand.Core.Bench;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Records;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Schedule;

/// <summary>What an inspection does to an item's dates in the register. The dates themselves are Core's
/// (<see cref="NextDates"/>).</summary>
internal static class ItemDates
{
    /// <summary>A look moves the date of the look; only a test moves the date of the test.</summary>
    public static ItemStanding After(ItemStanding before, ItemState stateBefore, BenchState state, InspectionRecord record)
    {
        var left = before with { LockLeft = LockAfter(before.LockLeft, state.Isolation, record) };
        if (record is { Outcome: Outcome.NotTested, Next: { } look })
            return left with { LastLookedOn = record.Times.Date, VisualDue = look.VisualDue };
        if (record.Outcome is Outcome.NotTested or Outcome.Findings)
            return left;
        var after = left with
        {
            Held = HeldAfter(before, stateBefore, state, record),
            State = ItemAfter.StateOf(stateBefore, record.Outcome, state.Ruling.Scope).ToString(),
            LastLookedOn = record.Times.Date,
            LastOutcome = record.Outcome.ToString(),
            ReferenceValues = BenchJson.Write(
                record.Taken.Aggregate(state.Ruling.References, (kept, taken) => References.After(kept, taken, state.Ruling.Pack))
            ),
        };
        if (record.IsTest)
        {
            var crossing = Crossing.Of(state, record.Times.Date);
            after = after with
            {
                LastTestedOn = record.Times.Date,
                CrossesOn = crossing?.On,
                Crossing = crossing is null ? null : NearLimits.Write(crossing),
            };
        }
        return record.Next is not { } next
            ? after
            : after with
            {
                Due = next.Due,
                VisualDue = next.VisualDue,
                IntervalMonths = next.Months ?? next.VisualMonths,
                Because = [.. next.Because],
            };
    }

    /// <summary>A fail is a cause of its own, also where another was there before; what is freed is held for nothing any more.</summary>
    private static HeldFor? HeldAfter(ItemStanding before, ItemState stateBefore, BenchState state, InspectionRecord record) =>
        record.Outcome == Outcome.Fail
            ? new(
                record.Id,
                nameof(HeldBy.FailedInspection),
                Cut(string.Join("; ", record.Reasons)),
                record.Times.ReceivedAt,
                record.Technician.Name,
                nameof(Stage.NotSafe)
            )
        : ItemAfter.StateOf(stateBefore, record.Outcome, state.Ruling.Scope) == ItemState.InService ? null
        : before.Held;

    private static string Cut(string text) => text.Length <= RegisterItem.LongestWhy ? text : $"{text[..(RegisterItem.LongestWhy - 1)]}…";

    /// <summary>A lock that was left stands until the supply was restored on some later sheet.</summary>
    private static string? LockAfter(string? before, SafeIsolation isolation, InspectionRecord record) =>
        isolation.LockStays is { } words ? $"{record.Technician.Name}, {record.Times.Date:yyyy-MM-dd}: {words}"
        : isolation.Done.Contains(SafeIsolation.Unlock) ? null
        : before;
}
