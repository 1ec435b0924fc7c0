using Osierwand.Core.Standards;

namespace Osierwand.Core.Rounds;

/// <summary>Where an expected bench time comes from.</summary>
public enum TimeBasis
{
    /// <summary>The item's own inspections.</summary>
    Own,

    /// <summary>Others of its kind.</summary>
    Kind,

    /// <summary>Nothing of its kind was inspected yet.</summary>
    Unknown,
}

/// <summary>How long an item is expected to lie on the bench.</summary>
/// <param name="Low">A quarter of its runs were shorter.</param>
/// <param name="High">A quarter of them were longer.</param>
public sealed record BenchTime(TimeSpan Median, TimeSpan Low, TimeSpan High, TimeBasis Basis, int Runs)
{
    /// <param name="own">What the item's inspections took.</param>
    /// <param name="kind">What those of its kind took.</param>
    /// <param name="unknown">Where neither is known.</param>
    public static BenchTime Of(IEnumerable<TimeSpan> own, IEnumerable<TimeSpan> kind, Thresholds rules, TimeSpan unknown)
    {
        var mine = Usable(own, rules);
        if (mine.Length >= rules.BenchFew)
            return From(mine, TimeBasis.Own);
        var others = Usable(kind, rules);
        return others.Length > 0 ? From(others, TimeBasis.Kind)
            : mine.Length > 0 ? From(mine, TimeBasis.Own)
            : new(unknown, unknown, unknown, TimeBasis.Unknown, 0);
    }

    /// <summary>Several items one after the other. Their spreads are reckoned as independent: quarter points move by the root of the sum
    /// of squares.</summary>
    public static BenchTime Sum(IReadOnlyCollection<BenchTime> all)
    {
        var median = all.Sum(it => it.Median.TotalSeconds);
        var under = Math.Sqrt(all.Sum(it => Math.Pow((it.Median - it.Low).TotalSeconds, 2)));
        var over = Math.Sqrt(all.Sum(it => Math.Pow((it.High - it.Median).TotalSeconds, 2)));
        return new(
            TimeSpan.FromSeconds(median),
            TimeSpan.FromSeconds(median - under),
            TimeSpan.FromSeconds(median + over),
            all.Count == 0 ? TimeBasis.Unknown : all.Max(it => it.Basis),
            all.Sum(it => it.Runs)
        );
    }

    private static TimeSpan[] Usable(IEnumerable<TimeSpan> runs, Thresholds rules) =>
        [.. runs.Where(it => it > TimeSpan.Zero && it <= rules.BenchLongest).Order()];

    private static BenchTime From(TimeSpan[] sorted, TimeBasis basis) =>
        new(At(sorted, 0.5), At(sorted, 0.25), At(sorted, 0.75), basis, sorted.Length);

    /// <summary>Between the two runs that a quantile lies between.</summary>
    private static TimeSpan At(TimeSpan[] sorted, double share)
    {
        var place = share * (sorted.Length - 1);
        var (below, rest) = ((int)place, place - (int)place);
        var above = Math.Min(below + 1, sorted.Length - 1);
        return sorted[below] + rest * (sorted[above] - sorted[below]);
    }
}
