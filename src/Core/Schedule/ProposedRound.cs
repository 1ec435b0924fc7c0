using System.Collections.Immutable;
using System.Globalization;
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

    /// <summary>What of it comes after its date; null where nothing does.</summary>
    public string? LateText => Late == 0 ? null : $"{Items(Late)} after {(Late == 1 ? "its" : "their")} date: no earlier day has room.";

    /// <summary>What comes so early that it is worth saying; null where nothing does.</summary>
    public string? EarlyText
    {
        get
        {
            var early = Visits
                .SelectMany(visit => visit.Work.Select(it => it.By.DayNumber - visit.Day.Day.DayNumber))
                .Where(days => days >= EarlyIsSaid)
                .ToArray();
            return early.Length == 0 ? null : $"{Items(early.Length)} up to {early.Max()} days early, so that nobody comes twice.";
        }
    }

    private const int EarlyIsSaid = 7;

    public static string Items(int count) => count == 1 ? "1 item" : string.Create(CultureInfo.InvariantCulture, $"{count} items");
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
                    $"{ProposedRound.Items(group.Count())} {(group.Count() == 1 ? "asks" : "ask")} for {group.Key}, which nobody with bench time holds.",
                    [
                        .. others
                            .Where(it => group.All(work => work.Asks.All(asked => CompetenceFor.Holds(it.Held, asked, day))))
                            .Select(it => it.Name)
                            .Order(),
                    ]
                )
            );
        }
        var tooMuch = left.Except(nobodys).ToArray();
        if (tooMuch.Length > 0)
            remarks.Add(
                new(
                    $"{Where(setting, tooMuch)} ({Time(tooMuch)}) {(tooMuch.Length == 1 ? "has" : "have")} no day in these weeks: add bench time, or plan more weeks.",
                    []
                )
            );
        var late = plan.Late.ToArray();
        if (late.Length > 0)
            remarks.Add(
                new(
                    $"{Where(setting, late)} ({Time(late)}) {(late.Length == 1 ? "comes after its" : "come after their")} date: no earlier day has room.",
                    []
                )
            );
        return remarks.ToImmutable();
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
                .Select(site => $"{ProposedRound.Items(site.Count())} at {setting.Sites.First(it => it.Id == site.Key).Name}")
        );
}
