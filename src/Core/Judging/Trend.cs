using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Osierwand.Core.Forms;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>An earlier inspection of the same item.</summary>
/// <param name="AfterRepair">A repair starts a new reference.</param>
[JsonConverter(typeof(PastInspectionConverter))]
public sealed record PastInspection(DateOnly Date, bool AfterRepair, ImmutableArray<Reading> Readings)
{
    /// <summary>As it was that day; null where only the readings were handed over.</summary>
    public Equipment.Item? Item { get; init; }

    /// <summary>No failure of it was made void or explained by corrected facts: it may count towards a longer interval.</summary>
    public bool IsClean { get; init; } = true;

    /// <summary>What each reading is a reading of, worked out once: the trend asks after every event at the bench.</summary>
    internal string[] Keys => keys is { } known && known.Length == Readings.Length ? known : keys = [.. Readings.Select(Key)];

    private string[]? keys;

    private static string Key(Reading reading) => StepKey.Of(reading.Under);
}

/// <summary>How one measurement moves over the years.</summary>
/// <param name="Key">Test, method, point and condition; a value by one method is never compared with another's.</param>
/// <param name="PerYear">Robust slope in SI per year: the median of all pairwise slopes; null under three readings.</param>
/// <param name="SinceReference">Change since the first reading, or the first after the last repair.</param>
/// <param name="Advice">What to say; null when the movement is harmless.</param>
public sealed record Trend(string Key, Quantity SinceReference, double? PerYear, string? Advice)
{
    /// <summary>The first reading, or the first after the last repair; of a value that is to lie near what was set, how far it lay from
    /// it.</summary>
    public required Quantity Reference { get; init; }
    public required DateOnly ReferenceOn { get; init; }

    /// <summary>When it would reach its limit if it went on as it has; null where it does not move towards it, or not within
    /// <see cref="Foreseen"/> years.</summary>
    public DateOnly? Crosses { get; init; }

    /// <summary>Nobody plans further ahead: 20 years.</summary>
    public const int Foreseen = 20;

    private const double DaysPerYear = 365.25;

    /// <summary>Every pair is compared, so the newest so many: more than a reading a week for ten years.</summary>
    private const int MostForSlope = 600;

    /// <summary>Trends of an inspection's readings that call for advice, against its history.</summary>
    public static IEnumerable<Trend> Of(InspectionFacts facts, ImmutableArray<Judgement> results)
    {
        if (facts.History.IsEmpty && facts.References.IsEmpty)
            yield break;
        // Without a date of its own the newest inspection counts as the day after the last: the change since the reference needs no date.
        var today = facts.TestDate ?? (facts.History.IsEmpty ? facts.References : facts.History)[^1].Date.AddDays(1);
        // A borrowed limit counts for itself: the reading's trend is told once, against its own pack. Of one flexing set the worst counts.
        var measurements = results
            .Where(it => it.Status == Status.Pass && it.Reading.Borrowed is null && it.Limit?.Value is not null && it.Value is not null)
            .GroupBy(it => StepKey.Of(it.Reading.Under));
        foreach (var measurement in measurements)
            if (For(facts, measurement.MaxBy(it => it.Use ?? 0)!, today) is { Advice: not null } trend)
                yield return trend;
    }

    /// <summary>The trend of one judged reading, or null without an earlier reading of the same kind.</summary>
    public static Trend? For(InspectionFacts facts, Judgement now, DateOnly today)
    {
        if (now.Value is not { } value || now.Limit?.Value is not { } limit)
            return null;
        var key = StepKey.Of(now.Reading.Under);
        var points = Earlier(facts, key);
        if (points.Count == 0 || now.Reading.Value is { IsBound: true })
            return null;
        points.Add((today.DayNumber, Compared(now)));

        var change = Compared(now) - points[0].Value;
        var slope = points.Count >= facts.Pack.Thresholds.TrendReadings ? TheilSen(points[^Math.Min(points.Count, MostForSlope)..]) : null;
        return new(key, value with { Si = change }, slope * DaysPerYear, AdviceOf(now, limit, change, slope, facts, today))
        {
            Reference = value with { Si = points[0].Value },
            ReferenceOn = DateOnly.FromDayNumber((int)points[0].Days),
            Crosses = CrossingOf(now, limit, slope, today),
        };
    }

    private static DateOnly? CrossingOf(Judgement now, Quantity limit, double? perDay, DateOnly today)
    {
        var left = limit.Si - Compared(now);
        return perDay is { } slope && slope * left > 0 && left / slope <= Foreseen * DaysPerYear
            ? today.AddDays((int)Math.Ceiling(left / slope))
            : null;
    }

    /// <summary>Earlier decided values of what a reading measured, since the last repair, oldest first; the first is its
    /// reference.</summary>
    internal static List<(double Days, double Value)> Earlier(InspectionFacts facts, Judgement it) =>
        facts.History.IsEmpty && facts.References.IsEmpty ? [] : Earlier(facts, StepKey.Of(it.Reading.Under));

    /// <summary>The readings of one measurement since the last repair, oldest first; the first is the reference.</summary>
    private static List<(double Days, double Value)> Earlier(InspectionFacts facts, string key)
    {
        var points = new List<(double Days, double Value)>();
        var (repaired, seenFrom) = (DateOnly.MinValue, facts.History.IsEmpty ? DateOnly.MaxValue : facts.History[0].Date);
        foreach (var past in facts.History)
            if (past.AfterRepair)
                (repaired, seenFrom) = (past.Date, past.Date);
        foreach (var (past, at) in facts.EarlierOf(key))
            if (References.Of(facts.Pack, facts.Item, past.Readings[at]) is { } judged)
                points.Add((past.Date.DayNumber, Compared(judged)));
        // What was kept as a fact lies before all that is still looked at, unless a repair took it away.
        var kept = facts.References.Where(past => past.Date < seenFrom && past.Date >= repaired);
        points.InsertRange(0, kept.SelectMany(past => PointsOf(past, facts, key)));
        return points;
    }

    private static IEnumerable<(double Days, double Value)> PointsOf(PastInspection past, InspectionFacts facts, string key)
    {
        for (var at = 0; at < past.Readings.Length; at++)
            if (past.Keys[at] == key && References.Of(facts.Pack, facts.Item, past.Readings[at]) is { } judged)
                yield return (past.Date.DayNumber, Compared(judged));
    }

    /// <summary>What is held against the limit: the value, or for energy and ECG its distance from what was set.</summary>
    private static double Compared(Judgement it) =>
        it.Limit?.Comparator == Comparator.Within ? Math.Abs(it.Value!.Value.Si - (it.Reading.Under.Set?.Si ?? 0)) : it.Value!.Value.Si;

    private static string? AdviceOf(Judgement now, Quantity limit, double change, double? perDay, InspectionFacts facts, DateOnly today)
    {
        if (now.Status != Status.Pass)
            return null;
        var worse = now.Limit!.IsFloor ? -1 : 1;
        var name = now.Reading.Name;
        var due = facts.DueDate ?? facts.Interval?.After(today);
        if (perDay * worse > 0 && facts.TestDate is not null && due is { } next)
        {
            var until =
                next.DayNumber - today.DayNumber + (facts.Interval?.Months ?? 0) * facts.Pack.Thresholds.TrendBeyond * DaysPerYear / 12;
            var then = Compared(now) + perDay!.Value * until;
            if (then * worse > limit.Si * worse)
                return $"{name} is on its way to its limit before the next inspection: {QuantityText.Show(limit with { Si = Compared(now) })} now, {QuantityText.Show(limit with { Si = Math.Abs(perDay.Value) * DaysPerYear })} a year.";
        }
        // The use of a floor is limit / value, so a fall of insulation from 200 to 20 Mohm is no rise by half of a 1 Mohm limit.
        var reference = Compared(now) - change;
        var rise = now.Limit.IsFloor ? limit.Si / Compared(now) - limit.Si / reference : change / limit.Si;
        return rise > facts.Pack.Thresholds.TrendRise
            ? $"{name} has used up {QuantityText.Number(rise * 100)} % more of its limit since its reference."
            : null;
    }

    private static double? TheilSen(List<(double Days, double Value)> points)
    {
        var slopes = new List<double>();
        for (var i = 0; i < points.Count; i++)
        {
            for (var j = i + 1; j < points.Count; j++)
                if (points[j].Days > points[i].Days)
                    slopes.Add((points[j].Value - points[i].Value) / (points[j].Days - points[i].Days));
        }
        if (slopes.Count == 0)
            return null;
        slopes.Sort();
        var middle = slopes.Count / 2;
        return slopes.Count % 2 == 1 ? slopes[middle] : (slopes[middle - 1] + slopes[middle]) / 2;
    }
}
