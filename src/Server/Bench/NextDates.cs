using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>What an inspection does to an item: when it is next due, and where it stands.</summary>
internal static class NextDates
{
    /// <param name="history">Earlier inspections, oldest first; those that were not tested do not count.</param>
    /// <param name="today">This inspection's own outcome, the newest of the history.</param>
    public static Interval Of(RegisterItem item, Client client, RulePack pack, IEnumerable<LookedBack> history, PastTest today) => IntervalRule.Of(new()
    {
        Pack = pack,
        Place = item.Place,
        Use = item.Equipment.Use,
        Class = item.Equipment.Class,
        Kind = item.Equipment.Kind,
        AllInsulated = item.Equipment.AllInsulated,
        Usage = item.Usage,
        Moved = item.Moved,
        Users = item.Users,
        ClassII = client.ClassII,
        CapMonths = client.CapMonths,
        TestDate = today.Date,
        AppliedPart = item.Equipment.AppliedParts.Select(part => (AppliedPartType?)part.Type).Max(),
        PatientContact = !item.Equipment.AppliedParts.IsEmpty,
        History = [.. history.Where(it => it.Outcome is not (Outcome.NotTested or Outcome.Findings)).Select(Past), today],
    });

    /// <summary>Moves the item. One that was not tested, or only searched for a fault, stays where and as due as it was; a failed one keeps its dates until it is back.</summary>
    public static void Move(RegisterItem item, Outcome outcome, Interval? next, DateOnly day)
    {
        if (outcome is Outcome.NotTested or Outcome.Findings) return;
        (item.LastOutcome, item.LastTestedOn) = (outcome, day);
        item.State = outcome == Outcome.Fail ? ItemState.Quarantined : ItemState.InService;
        if (next is null) return;
        (item.Due, item.VisualDue, item.IntervalMonths, item.Because) = (next.Due, next.VisualDue, next.CombinedMonths ?? next.VisualMonths, [.. next.Because]);
    }

    private static PastTest Past(LookedBack it) =>
        new(it.Date, it.Outcome == Outcome.Fail ? Verdict.Fail : Verdict.Pass, it.NearLimit, it.Rising);
}
