namespace Osierwand.Store;

/// <summary>What was inspected of an item after the record that is taken back, and stands.</summary>
/// <param name="LastOutcome">Of the last inspection that stands without the record, before or after it; null where none does.</param>
public sealed record InspectedSince(bool Tested, bool Looked, string? LastOutcome);

/// <summary>How an item stands when a record of it counts no more, whatever happened to the item since.</summary>
public static class TakingBack
{
    /// <summary>
    /// What the record decided goes back to what stood before it, where nothing decided it anew. Where somebody else moved a date since
    /// (a knock, a move, a test brought forward), the earlier of the two stands: what is taken back makes nothing due later.
    /// </summary>
    /// <param name="now">As it stands.</param>
    /// <param name="before">As it stood before the record.</param>
    /// <param name="after">As the record left it.</param>
    /// <param name="record">Its id: a hold that it caused is over; every other hold stays.</param>
    public static ItemStanding Without(this ItemStanding now, ItemStanding before, ItemStanding after, Guid record, InspectedSince since)
    {
        var held = StateWithout(now, before, after, record);
        // Only what still stands as the record left it is the record's: an earlier one may have been taken back since.
        var dates = since.Tested
            ? now
            : now with
            {
                Due = Day(now.Due, before.Due, after.Due),
                IntervalMonths = Restored(now.IntervalMonths, before.IntervalMonths, after.IntervalMonths),
                Because = now.Because.SequenceEqual(after.Because) ? before.Because : now.Because,
                LastTestedOn = Restored(now.LastTestedOn, before.LastTestedOn, after.LastTestedOn),
                ReferenceValues = Restored(now.ReferenceValues, before.ReferenceValues, after.ReferenceValues),
                CrossesOn = Restored(now.CrossesOn, before.CrossesOn, after.CrossesOn),
                Crossing = Restored(now.Crossing, before.Crossing, after.Crossing),
            };
        return dates with
        {
            VisualDue = since.Tested || since.Looked ? now.VisualDue : Day(now.VisualDue, before.VisualDue, after.VisualDue),
            LastLookedOn =
                since.Tested || since.Looked ? now.LastLookedOn : Restored(now.LastLookedOn, before.LastLookedOn, after.LastLookedOn),
            LastOutcome = since.LastOutcome,
            State = held.State,
            Held = held.Held,
        };
    }

    /// <summary>A hold that the record ended comes back, also where it was inspected since: only a pass after repair ends one.</summary>
    private static (string State, HeldFor? Held) StateWithout(ItemStanding now, ItemStanding before, ItemStanding after, Guid record)
    {
        var isOwn = now.Held?.Cause == record;
        if (now.Held is not null && !isOwn)
            return (now.State, now.Held);
        var isUntouched = now.State == after.State && now.Held is null && after.Held is null;
        return isOwn || isUntouched ? (before.State, before.Held) : (now.State, now.Held);
    }

    private static T Restored<T>(T now, T before, T after) => EqualityComparer<T>.Default.Equals(now, after) ? before : now;

    /// <summary>Never tested is due at once: no date is the earliest.</summary>
    private static DateOnly? Day(DateOnly? now, DateOnly? before, DateOnly? after) =>
        now == after ? before
        : now is null || before is null ? null
        : now < before ? now
        : before;
}
