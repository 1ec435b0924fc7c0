using System.Collections.Immutable;
using Osierwand.Core.Competences;
using Osierwand.Core.Rounds;

namespace Osierwand.Core.Schedule;

/// <summary>What one person does at one site on one day.</summary>
/// <param name="Late">Of its items come after their date.</param>
/// <param name="Wasted">By what comes early.</param>
public sealed record Visit(RoundDay Day, PlanSite Site, ImmutableArray<DueWork> Work, int Late, TimeSpan Wasted)
{
    public TimeSpan Bench => TimeSpan.FromTicks(Work.Sum(it => it.Time.Ticks));
}

/// <summary>What a plan costs. What is late counts before what is dear.</summary>
/// <param name="LateDays">Of all that is late together.</param>
/// <param name="Travel">Each visit's.</param>
/// <param name="Wasted">Bench time that comes before it is due, by the share of the interval it throws away.</param>
public readonly record struct PlanCost(int NotPlaced, int Late, int LateDays, TimeSpan Travel, TimeSpan Wasted)
{
    public TimeSpan Paid => Travel + Wasted;
}

/// <summary>
/// Who does what on which day. A value: moving something gives another plan, and moving it back gives the first again. No day holds more
/// than its bench time, travel taken off, and nobody does what they may not.
/// </summary>
public sealed class VisitPlan : IEquatable<VisitPlan>
{
    internal const int Nowhere = -1;

    private readonly int[] places;

    internal VisitPlan(PlanSetting setting, int[] places)
    {
        (Setting, this.places) = (setting, places);
        Visits =
        [
            .. Enumerable
                .Range(0, places.Length)
                .Where(work => places[work] != Nowhere)
                .GroupBy(work => (Day: places[work], Site: setting.SiteOf[work]))
                .OrderBy(it => it.Key.Day)
                .ThenBy(it => it.Key.Site)
                .Select(it => new Visit(
                    setting.Days[it.Key.Day],
                    setting.Sites[it.Key.Site],
                    [.. it.Select(work => setting.Work[work])],
                    it.Count(work => IsLate(work)),
                    TimeSpan.FromTicks(it.Sum(work => setting.Wasted(work, setting.Days[it.Key.Day].Day).Ticks))
                )),
        ];
        var late = Enumerable.Range(0, places.Length).Where(IsLate).ToArray();
        Cost = new(
            places.Count(it => it == Nowhere),
            late.Length,
            late.Sum(work => setting.Days[places[work]].Day.DayNumber - setting.InTime[work].DayNumber),
            TimeSpan.FromTicks(Visits.Sum(it => it.Site.Travel.Ticks)),
            TimeSpan.FromTicks(Visits.Sum(it => it.Wasted.Ticks))
        );
    }

    public PlanSetting Setting { get; }

    /// <summary>By day, person and site.</summary>
    public ImmutableArray<Visit> Visits { get; }
    public PlanCost Cost { get; }

    public IEnumerable<DueWork> NotPlaced => Setting.Work.Where((_, work) => places[work] == Nowhere);

    /// <summary>What is planned after its date.</summary>
    public IEnumerable<DueWork> Late => Setting.Work.Where((_, work) => IsLate(work));

    /// <returns>Null where it is planned nowhere.</returns>
    public RoundDay? DayOf(Guid item) => Setting.Find(item) is { } work && places[work] != Nowhere ? Setting.Days[places[work]] : null;

    /// <summary>What is left of a day, travel taken off.</summary>
    public TimeSpan LeftOn(RoundDay day) =>
        day.Time - Visits.Where(it => it.Day == day).Aggregate(TimeSpan.Zero, (sum, it) => sum + it.Bench + it.Site.Travel);

    /// <summary>No plan that has in time what this one has in time is paid with less: by relaxed capacity, each site for itself.</summary>
    public TimeSpan LeastPaid => PlanBound.Of(Setting, [.. places.Select((day, work) => day != Nowhere && !IsLate(work))]);

    /// <summary>Whether that day has room for it beside what it holds: time, with the journey where nobody goes there yet, and somebody who
    /// may do it.</summary>
    public bool HasRoom(RoundDay day, DueWork work)
    {
        var isThere = Visits.Any(it => it.Day == day && it.Site.Id == work.SiteId);
        var travel = isThere ? TimeSpan.Zero : Setting.Sites.First(it => it.Id == work.SiteId).Travel;
        return Setting.Find(work.ItemId) is { } at && Setting.May(Setting.Days.IndexOf(day), at) && LeftOn(day) >= work.Time + travel;
    }

    /// <summary>A day has room for what is late or nowhere, better than where it is: it was moved by hand.</summary>
    public bool IsByHand(DueWork work) =>
        Setting.Find(work.ItemId) is { } at
        && Setting.Days.Any(day => (places[at] == Nowhere || day.Day <= Setting.InTime[at]) && HasRoom(day, work));

    private bool IsLate(int work) => places[work] != Nowhere && Setting.Days[places[work]].Day > Setting.InTime[work];

    /// <summary>With these items on another day, or with another person.</summary>
    /// <param name="to">Null takes them out of the plan.</param>
    /// <returns>The other plan; a fault where an item or a day is not of this plan, somebody may not do it, or the day has no
    /// room.</returns>
    public Result<VisitPlan> With(IReadOnlyCollection<Guid> items, (DateOnly Day, Guid PersonId)? to)
    {
        var (moved, day) = ((int[])places.Clone(), Nowhere);
        if (to is { } wanted && (day = IndexOf(wanted)) == Nowhere)
            return new Fault("to", "Nobody has bench time on that day.");
        foreach (var item in items)
        {
            if (Setting.Find(item) is not { } work)
                return new Fault("items", "An item is not part of this plan: it was planned otherwise, or is not due any more.");
            if (day != Nowhere && !Setting.May(day, work))
                return new Fault(
                    "items",
                    $"{Setting.Days[day].Person} does not hold {string.Join(" and ", LackingOn(day, work).Select(CompetenceFor.NameOf))}."
                );
            moved[work] = day;
        }
        var next = new VisitPlan(Setting, moved);
        if (day != Nowhere && next.LeftOn(Setting.Days[day]) is var left && left < TimeSpan.Zero)
            return new Fault(
                "to",
                $"{Setting.Days[day].Person} would be {DayPlan.Minutes(-left)} over on {Setting.Days[day].Day:yyyy-MM-dd}, travel counted."
            );
        return next;
    }

    private IEnumerable<Competence> LackingOn(int day, int work) =>
        Setting.Work[work].Asks.Where(it => !CompetenceFor.Holds(Setting.Days[day].Competences, it, Setting.Days[day].Day));

    private int IndexOf((DateOnly Day, Guid PersonId) wanted)
    {
        for (var at = 0; at < Setting.Days.Length; at++)
            if (Setting.Days[at].Day == wanted.Day && Setting.Days[at].PersonId == wanted.PersonId)
                return at;
        return Nowhere;
    }

    public bool Equals(VisitPlan? other) =>
        other is not null && ReferenceEquals(Setting, other.Setting) && places.AsSpan().SequenceEqual(other.places);

    public override bool Equals(object? obj) => Equals(obj as VisitPlan);

    public override int GetHashCode()
    {
        var hash = new HashCode();
        foreach (var day in places)
            hash.Add(day);
        return hash.ToHashCode();
    }
}
