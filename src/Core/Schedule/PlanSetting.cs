using System.Collections.Immutable;
using Osierwand.Core.Competences;
using Osierwand.Core.Rounds;

namespace Osierwand.Core.Schedule;

/// <summary>Something that falls due, as far as it decides who does it when.</summary>
/// <param name="By">The last day on which it is in time; a past one where it is over.</param>
/// <param name="Time">Expected on the bench.</param>
/// <param name="Since">When it was done last: what comes early wastes a share of the time between; null where it never was.</param>
/// <param name="Asks">Competences; none for a look.</param>
public sealed record DueWork(
    Guid ItemId,
    Guid SiteId,
    DateOnly By,
    DueTier Tier,
    TimeSpan Time,
    DateOnly? Since,
    ImmutableArray<Competence> Asks
);

/// <summary>Where items stand.</summary>
/// <param name="Travel">There and back, off each day that somebody visits it.</param>
public sealed record PlanSite(Guid Id, string Name, TimeSpan Travel);

/// <summary>
/// What a plan is made of: the work, the sites and the days that people have. Everything in it has a number, by its place in its list.
/// </summary>
public sealed class PlanSetting
{
    private readonly Dictionary<Guid, int> workOf;
    private readonly uint[] holds;
    private readonly uint[] asks;

    private PlanSetting(ImmutableArray<RoundDay> days, ImmutableArray<PlanSite> sites, ImmutableArray<DueWork> work)
    {
        (Days, Sites, Work) = (days, sites, work);
        var siteOf = sites.Index().ToDictionary(it => it.Item.Id, it => it.Index);
        workOf = work.Index().ToDictionary(it => it.Item.ItemId, it => it.Index);
        SiteOf = [.. work.Select(it => siteOf[it.SiteId])];
        holds = [.. days.Select(day => MaskOf(CompetenceFor.All.Where(needed => CompetenceFor.Holds(day.Competences, needed, day.Day))))];
        asks = [.. work.Select(it => MaskOf(it.Asks))];
        // What is over is in time on the first day: earlier than that nobody can come.
        var first = days.IsEmpty ? DateOnly.MinValue : days[0].Day;
        InTime = [.. work.Select(it => it.By < first ? first : it.By)];
    }

    /// <summary>Earliest first.</summary>
    public ImmutableArray<RoundDay> Days { get; }
    public ImmutableArray<PlanSite> Sites { get; }

    /// <summary>What is due earliest first.</summary>
    public ImmutableArray<DueWork> Work { get; }

    /// <summary>By work: its site.</summary>
    internal int[] SiteOf { get; }

    /// <summary>By work: the last day that is not late.</summary>
    internal DateOnly[] InTime { get; }

    /// <returns>A fault where work names a site that is none, takes no time, or stands there twice; where travel is negative or a day is
    /// there twice for one person.</returns>
    public static Result<PlanSetting> Of(IEnumerable<RoundDay> days, IReadOnlyCollection<PlanSite> sites, IReadOnlyCollection<DueWork> work)
    {
        ImmutableArray<RoundDay> ordered =
        [
            .. days.OrderBy(it => it.Day).ThenBy(it => it.Person, StringComparer.Ordinal).ThenBy(it => it.PersonId),
        ];
        if (ordered.DistinctBy(it => (it.Day, it.PersonId)).Count() != ordered.Length)
            return new Fault("days", "A person has each day once.");
        if (ordered.Any(it => it.Time < TimeSpan.Zero))
            return new Fault("days", "Bench time is not negative.");
        if (sites.Any(it => it.Travel < TimeSpan.Zero))
            return new Fault("sites", "Travel is not negative.");
        var known = sites.Select(it => it.Id).ToHashSet();
        if (known.Count != sites.Count)
            return new Fault("sites", "A site stands there twice.");
        if (work.Any(it => !known.Contains(it.SiteId)))
            return new Fault("work", "Something stands at a site that is not known.");
        if (work.Any(it => it.Time <= TimeSpan.Zero))
            return new Fault("work", "Something takes no time.");
        return work.DistinctBy(it => it.ItemId).Count() != work.Count
            ? new Fault("work", "An item stands there twice.")
            : new PlanSetting(
                ordered,
                [.. sites.OrderBy(it => it.Name, StringComparer.Ordinal).ThenBy(it => it.Id)],
                [.. work.OrderBy(it => it.By).ThenBy(it => it.ItemId)]
            );
    }

    /// <returns>Null where it is not part of this.</returns>
    public int? Find(Guid item) => workOf.TryGetValue(item, out var at) ? at : null;

    /// <summary>Whoever has that day may do that work.</summary>
    public bool May(int day, int work) => (asks[work] & ~holds[day]) == 0;

    /// <summary>What is thrown away by coming that early: of its bench time the share of its interval that is not used.</summary>
    internal TimeSpan Wasted(int work, DateOnly on)
    {
        var it = Work[work];
        var early = it.By.DayNumber - on.DayNumber;
        return early <= 0 || it.Since is not { } since || since >= it.By
            ? TimeSpan.Zero
            : it.Time * Math.Min(1, early / (double)(it.By.DayNumber - since.DayNumber));
    }

    private static uint MaskOf(IEnumerable<Competence> all) => all.Aggregate(0u, (mask, it) => mask | (1u << (int)it));
}
