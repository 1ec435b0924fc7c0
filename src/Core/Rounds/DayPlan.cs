using System.Collections.Immutable;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;

namespace Osierwand.Core.Rounds;

/// <summary>One person's bench time on one day.</summary>
public sealed record RoundDay(DateOnly Day, Guid PersonId, string Person, TimeSpan Time, ImmutableArray<HeldCompetence> Competences);

/// <summary>An item of a round, as far as it decides who does it when.</summary>
/// <param name="IsLook">It is looked at alone: that anybody may do.</param>
public sealed record RoundWork(Guid ItemId, string Tag, string Name, string Room, Item Equipment, TimeSpan Expected, bool IsLook = false);

/// <summary>What falls on one person's day.</summary>
public sealed record FilledDay(RoundDay Day, ImmutableArray<RoundWork> Work)
{
    public TimeSpan Taken => TimeSpan.FromTicks(Work.Sum(it => it.Expected.Ticks));
    public TimeSpan Left => Day.Time - Taken;
    public IEnumerable<(string Room, int Items)> Rooms => Work.GroupBy(it => it.Room).Select(room => (room.Key, room.Count()));
}

/// <summary>What a plan wants said, with what would mend it.</summary>
/// <param name="HeldBy">People of the house who hold what nobody on the round holds.</param>
public sealed record RoundRemark(string Text, ImmutableArray<string> HeldBy);

/// <summary>A round laid into its days: room by room in walking order, each room whole where it can be, each item with somebody who may
/// test it.</summary>
public sealed record DayPlan(ImmutableArray<FilledDay> Days, ImmutableArray<RoundWork> NotPlaced, ImmutableArray<RoundRemark> Remarks)
{
    /// <param name="work">In walking order.</param>
    /// <param name="others">Everybody of the house with what they hold, to say who could be asked.</param>
    public static DayPlan Of(
        IReadOnlyList<RoundDay> days,
        IReadOnlyList<RoundWork> work,
        IReadOnlyList<(string Name, ImmutableArray<HeldCompetence> Held)> others
    )
    {
        var slots = days.OrderBy(it => it.Day).ThenBy(it => it.Person).Select(it => new Slot(it)).ToArray();
        var left = new List<RoundWork>();
        foreach (var room in work.GroupBy(it => it.Room))
        {
            RoundWork[] whole = [.. room];
            var need = Total(whole);
            if (Array.Find(slots, it => it.Left >= need && whole.All(it.MayTest)) is { } slot)
                slot.Add(whole);
            else
                foreach (var one in whole)
                    if (Array.Find(slots, it => it.Left >= one.Expected && it.MayTest(one)) is { } part)
                        part.Add([one]);
                    else
                        left.Add(one);
        }
        return new(
            [.. slots.Select(it => new FilledDay(it.Day, [.. it.Work]))],
            [.. left],
            days.Count == 0 ? [] : RemarksOn(slots, left, others)
        );
    }

    private static ImmutableArray<RoundRemark> RemarksOn(
        Slot[] slots,
        List<RoundWork> left,
        IReadOnlyList<(string Name, ImmutableArray<HeldCompetence> Held)> others
    )
    {
        var remarks = ImmutableArray.CreateBuilder<RoundRemark>();
        var nobodys = left.Where(it => !slots.Any(slot => slot.MayTest(it))).ToArray();
        var day = slots[^1].Day.Day;
        foreach (var group in nobodys.GroupBy(it => string.Join(" and ", Lacking(it, slots, day))))
        {
            var holders = others.Where(it => group.All(one => CompetenceFor.Lacking(one.Equipment, it.Held, day).IsEmpty));
            remarks.Add(
                new(
                    $"{Count([.. group])} {(group.Count() == 1 ? "asks" : "ask")} for {group.Key}, which nobody on this round holds.",
                    [.. holders.Select(it => it.Name).Order()]
                )
            );
        }
        var tooMuch = left.Except(nobodys).ToArray();
        if (tooMuch.Length > 0)
            remarks.Add(
                new(
                    $"{Minutes(Total(tooMuch))} too much for these days: {Count(tooMuch)} in {string.Join(", ", tooMuch.Select(it => it.Room).Distinct())}. "
                        + "Add a day or a person, or take something out.",
                    []
                )
            );
        return remarks.ToImmutable();
    }

    /// <summary>What is lacking for it with whoever lacks least.</summary>
    private static ImmutableArray<string> Lacking(RoundWork it, Slot[] slots, DateOnly day) =>
        slots.Select(slot => CompetenceFor.Lacking(it.Equipment, slot.Day.Competences, day)).MinBy(lacking => lacking.Length);

    private static string Count(RoundWork[] work) => work.Length == 1 ? $"{work[0].Tag} {work[0].Name}" : $"{work.Length} items";

    /// <summary>"2 h 20", "55 min".</summary>
    public static string Minutes(TimeSpan time)
    {
        var minutes = (int)Math.Ceiling(time.TotalMinutes - 1e-9);
        return minutes < 60 ? $"{minutes} min" : $"{minutes / 60} h {minutes % 60:00}";
    }

    private static TimeSpan Total(RoundWork[] work) => TimeSpan.FromTicks(work.Sum(it => it.Expected.Ticks));

    private sealed class Slot(RoundDay day)
    {
        public RoundDay Day => day;
        public List<RoundWork> Work { get; } = [];
        public TimeSpan Left { get; private set; } = day.Time;

        public bool MayTest(RoundWork it) => it.IsLook || CompetenceFor.Lacking(it.Equipment, day.Competences, day.Day).IsEmpty;

        public void Add(RoundWork[] work)
        {
            Work.AddRange(work);
            Left -= Total(work);
        }
    }
}
