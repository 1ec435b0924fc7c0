using System.Collections.Immutable;

namespace Osierwand.Core.Schedule;

/// <summary>
/// The least that a plan can be paid with, in travel and in bench time that comes early, where every site is reckoned for itself and a
/// day has room for whatever is wanted; a site whose work fills more than one longest day is visited as often as that takes.
/// </summary>
internal static class PlanBound
{
    /// <param name="counts">By work: whether it is to be in time. What is not is left out, so that the bound holds for a plan in which it
    /// is late.</param>
    public static TimeSpan Of(PlanSetting setting, bool[] counts)
    {
        var days = DaysOf(setting);
        return TimeSpan.FromTicks(
            Enumerable
                .Range(0, setting.Sites.Length)
                .Sum(site => OfSite(setting, site, [.. WorkAt(setting, site).Where(work => counts[work])], days).Least.Ticks)
        );
    }

    /// <summary>The days on which a site would best be visited, had each day room for everything; empty where nothing is due at
    /// it.</summary>
    public static DateOnly[] BestDays(PlanSetting setting, int site) =>
        OfSite(setting, site, [.. WorkAt(setting, site)], DaysOf(setting)).Days;

    private static DateOnly[] DaysOf(PlanSetting setting) => [.. setting.Days.Select(it => it.Day).Distinct().Order()];

    internal static IEnumerable<int> WorkAt(PlanSetting setting, int site) =>
        Enumerable.Range(0, setting.Work.Length).Where(work => setting.SiteOf[work] == site);

    private static (TimeSpan Least, DateOnly[] Days) OfSite(PlanSetting setting, int site, ImmutableArray<int> work, DateOnly[] days)
    {
        if (work.IsEmpty || days.Length == 0)
            return (TimeSpan.Zero, []);
        var travel = setting.Sites[site].Travel;
        var longest = setting.Days.Max(it => it.Time) - travel;
        if (longest <= TimeSpan.Zero)
            return (TimeSpan.Zero, []);
        var needed = (int)Math.Ceiling(work.Sum(it => setting.Work[it].Time.Ticks) / (double)longest.Ticks - 1e-9);
        var wasted = Wasted(setting, work, days);
        var last = work.Min(it => LastDayOf(setting, it, days));

        // By the number of visits from a day on: the least that is wasted by what is due from that day on, and where the next one is.
        var best = new double[days.Length + 1, days.Length];
        var next = new int[days.Length + 1, days.Length];
        for (var at = 0; at < days.Length; at++)
            best[1, at] = wasted[at, days.Length];
        var (least, visits, from) = (double.PositiveInfinity, 0, 0);
        for (var count = 1; count <= days.Length; count++)
        {
            for (var at = 0; at < days.Length && count > 1; at++)
            {
                best[count, at] = double.PositiveInfinity;
                for (var after = at + 1; after < days.Length; after++)
                    if (wasted[at, after] + best[count - 1, after] is var sum && sum < best[count, at])
                        (best[count, at], next[count, at]) = (sum, after);
            }
            // More visits than this are paid with more travel than all that they could save.
            var paid = travel.Ticks * (double)Math.Max(count, needed);
            if (paid >= least)
                break;
            for (var at = 0; at <= last; at++)
                if (paid + best[count, at] < least)
                    (least, visits, from) = (paid + best[count, at], count, at);
        }
        var on = new List<DateOnly>();
        for (var at = from; visits > 0; at = next[visits, at], visits--)
            on.Add(days[at]);
        return (TimeSpan.FromTicks((long)least), [.. on]);
    }

    /// <summary>By two days: what is wasted on the first by all that is due from it on and before the second.</summary>
    private static double[,] Wasted(PlanSetting setting, ImmutableArray<int> work, DateOnly[] days)
    {
        var dueOn = work.ToLookup(it => LastDayOf(setting, it, days));
        var wasted = new double[days.Length, days.Length + 1];
        for (var at = 0; at < days.Length; at++)
        for (var to = at; to < days.Length; to++)
            wasted[at, to + 1] = wasted[at, to] + dueOn[to].Sum(it => (double)setting.Wasted(it, days[at]).Ticks);
        return wasted;
    }

    /// <summary>The last of the days on which it is in time; the first day where there is none.</summary>
    private static int LastDayOf(PlanSetting setting, int work, DateOnly[] days)
    {
        var at = Array.BinarySearch(days, setting.InTime[work]);
        return Math.Max(0, at >= 0 ? at : ~at - 1);
    }
}
