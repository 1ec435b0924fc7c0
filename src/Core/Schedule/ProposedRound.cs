using System.Collections.Immutable;
using Osierwand.Core.Competences;
using Osierwand.Core.Rounds;

namespace Osierwand.Core.Schedule;

/// <summary>Visits of a plan that are one round: the same site, on days that follow each other.</summary>
public sealed record ProposedRound(PlanSite Site, ImmutableArray<Visit> Visits)
{
    /// <summary>A weekend between two days does not end a round; more does.</summary>
    private const int LongestGap = 4;

    public DateOnly From => Visits[0].Day.Day;
    public DateOnly To => Visits[^1].Day.Day;
    public int Late => Visits.Sum(it => it.Late);
    public IEnumerable<DueWork> Work => Visits.SelectMany(it => it.Work);
    public TimeSpan Bench => Sum(it => it.Bench);
    public TimeSpan Travel => Site.Travel * Visits.Length;
    public TimeSpan Wasted => Sum(it => it.Wasted);

    private TimeSpan Sum(Func<Visit, TimeSpan> of) => TimeSpan.FromTicks(Visits.Sum(it => of(it).Ticks));

    /// <summary>Bench time that its round asks of a day. A round lays its rooms into its days anew: where there are several, each has room
    /// for its longest item more, so that whatever order they are walked in, everything finds a day.</summary>
    public TimeSpan DayTime(Visit visit) => visit.Bench + (Visits.Length == 1 ? TimeSpan.Zero : Work.Max(it => it.Time));

    /// <summary>By their first day.</summary>
    public static ImmutableArray<ProposedRound> Of(VisitPlan plan)
    {
        var rounds = new List<ProposedRound>();
        foreach (var site in plan.Visits.GroupBy(it => it.Site.Id))
        {
            var part = new List<Visit>();
            foreach (var visit in site.OrderBy(it => it.Day.Day).ThenBy(it => it.Day.Person, StringComparer.Ordinal))
            {
                if (part.Count > 0 && visit.Day.Day.DayNumber - part[^1].Day.Day.DayNumber > LongestGap)
                {
                    rounds.Add(new(part[0].Site, [.. part]));
                    part = [];
                }
                part.Add(visit);
            }
            rounds.Add(new(part[0].Site, [.. part]));
        }
        return [.. rounds.OrderBy(it => it.From).ThenBy(it => it.Site.Name, StringComparer.Ordinal)];
    }

    /// <summary>What of it comes after its date; null where nothing does. Why, the plan's remarks say.</summary>
    public string? LateText => Late == 0 ? null : $"{PlanText.Items(Late)} after {(Late == 1 ? "its" : "their")} date.";

    /// <summary>What comes so early that it is worth saying; null where nothing does.</summary>
    public string? EarlyText
    {
        get
        {
            var early = Visits
                .SelectMany(visit => visit.Work.Select(it => it.By.DayNumber - visit.Day.Day.DayNumber))
                .Where(days => days >= EarlyIsSaid)
                .ToArray();
            return early.Length == 0 ? null : $"{PlanText.Items(early.Length)} up to {early.Max()} days early, so that nobody comes twice.";
        }
    }

    private const int EarlyIsSaid = 7;
}

/// <summary>What a plan cannot do, and what would mend it.</summary>
public static class PlanRemarks
{
    /// <param name="others">Everybody of the house with what they hold, to say who could be asked.</param>
    public static ImmutableArray<RoundRemark> Of(VisitPlan plan, IReadOnlyList<(string Name, ImmutableArray<HeldCompetence> Held)> others)
    {
        var (setting, remarks) = (plan.Setting, ImmutableArray.CreateBuilder<RoundRemark>());
        var left = plan.NotPlaced.ToArray();
        if (setting.Days.IsEmpty)
            return left.Length == 0 ? [] : [new("Nobody has bench time in these weeks: enter it under Bench hours.", [])];
        var nobodys = left.Where(work =>
                setting.Find(work.ItemId) is { } at && !Enumerable.Range(0, setting.Days.Length).Any(day => setting.May(day, at))
            )
            .ToArray();
        foreach (var group in nobodys.GroupBy(it => string.Join(" and ", Lacking(setting, it).Select(CompetenceFor.NameOf))))
        {
            var day = setting.Days[^1].Day;
            remarks.Add(
                new(
                    $"{PlanText.Items(group.Count())} {(group.Count() == 1 ? "asks" : "ask")} for {group.Key}, which nobody with bench time holds.",
                    [
                        .. others
                            .Where(it => group.All(work => work.Asks.All(asked => CompetenceFor.Holds(it.Held, asked, day))))
                            .Select(it => it.Name)
                            .Order(),
                    ]
                )
            );
        }
        var (byHand, tooMuch) = Parted(plan, left.Except(nobodys));
        Say(tooMuch, "has", "have", "no day in these weeks: add bench time, or plan more weeks.");
        Say(byHand, "was", "were", "taken out by hand, though a day has room.");
        var (moved, late) = Parted(plan, plan.Late);
        Say(late, "comes after its", "come after their", "date: no earlier day has room.");
        Say(moved, "was moved past its", "were moved past their", "date by hand, though a day in time has room.");
        return remarks.ToImmutable();

        void Say(DueWork[] work, string one, string many, string what)
        {
            if (work.Length > 0)
                remarks.Add(new($"{Where(setting, work)} ({Time(work)}) {(work.Length == 1 ? one : many)} {what}", []));
        }
    }

    /// <summary>What somebody moved, and what the days force.</summary>
    private static (DueWork[] ByHand, DueWork[] Forced) Parted(VisitPlan plan, IEnumerable<DueWork> work)
    {
        var parts = work.ToLookup(plan.IsByHand);
        return ([.. parts[true]], [.. parts[false]]);
    }

    /// <summary>What is lacking for it with whoever lacks least.</summary>
    private static Competence[] Lacking(PlanSetting setting, DueWork work) =>
        setting
            .Days.Select(day => work.Asks.Where(asked => !CompetenceFor.Holds(day.Competences, asked, day.Day)).ToArray())
            .MinBy(it => it.Length)!;

    private static string Time(DueWork[] work) => DayPlan.Minutes(TimeSpan.FromTicks(work.Sum(it => it.Time.Ticks)));

    private static string Where(PlanSetting setting, DueWork[] work) =>
        string.Join(
            ", ",
            work.GroupBy(it => it.SiteId)
                .OrderByDescending(it => it.Count())
                .Select(site => $"{PlanText.Items(site.Count())} at {setting.Sites.First(it => it.Id == site.Key).Name}")
        );
}
