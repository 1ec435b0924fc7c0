using System.Collections.Immutable;
using MathNet.Numerics.Distributions;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Intervals;

/// <summary>What was found in one group (kind and place, model, or lead type) over the last three years at the interval in force.</summary>
public sealed record GroupHistory
{
    private GroupHistory(int inspections, int failures, Period interval) =>
        (Inspections, Failures, Interval) = (inspections, failures, interval);

    public int Inspections { get; }
    public int Failures { get; }

    /// <summary>The combined interval in force.</summary>
    public Period Interval { get; }

    /// <returns>A fault for negative counts, more failures than inspections, or an interval that is none.</returns>
    public static Result<GroupHistory> Of(int inspections, int failures, double months) =>
        inspections < 0 ? new Fault("inspections", "must not be negative")
        : failures < 0 ? new Fault("failures", "must not be negative")
        : failures > inspections ? new Fault("failures", $"there cannot be more failures than the {inspections} inspections")
        : !(months > 0) || !double.IsFinite(months) ? new Fault("intervalMonths", "must be greater than 0")
        : new GroupHistory(inspections, failures, new(months));
}

public enum Suggestion
{
    Keep,
    Shorter,
    Longer,
}

/// <summary>What the evidence says of a group's interval. A lead decides, for the whole group; the figures are kept with the
/// decision.</summary>
/// <param name="Low">5 % quantile of the failure rate per interval.</param>
/// <param name="Median">50 % quantile.</param>
/// <param name="High">95 % quantile.</param>
/// <param name="Interval">The interval suggested; the one in force for <see cref="Suggestion.Keep"/>.</param>
/// <param name="CleanNeeded">How many more clean inspections would allow a longer one; 0 when it is suggested already, null when the
/// ladder ends here.</param>
public sealed record GroupEvidence(
    double Low,
    double Median,
    double High,
    Suggestion Suggestion,
    Period Interval,
    int? CleanNeeded,
    ImmutableArray<string> Because
)
{
    private const double Prior = 0.5;
    private const int MostAsked = 100_000;

    /// <summary>With a Jeffreys prior the failure rate per interval is Beta(k + 0.5, n − k + 0.5).</summary>
    public static GroupEvidence Of(GroupHistory group, Thresholds rules)
    {
        var (n, k) = (group.Inspections, group.Failures);
        var (target, clear) = (rules.EvidenceTarget, rules.EvidenceTarget * rules.EvidenceLonger);
        var (low, median, high) = (Quantile(n, k, rules.EvidenceLow), Quantile(n, k, 0.5), Quantile(n, k, rules.EvidenceHigh));
        var (shorter, longer) = (IntervalTable.Shipped.Step(group.Interval, -1), IntervalTable.Shipped.Step(group.Interval, +1));
        var suggestion =
            low > target && shorter < group.Interval ? Suggestion.Shorter
            : high < clear && longer > group.Interval ? Suggestion.Longer
            : Suggestion.Keep;
        var months = suggestion switch
        {
            Suggestion.Shorter => shorter,
            Suggestion.Longer => longer,
            _ => group.Interval,
        };
        int? needed =
            longer <= group.Interval ? null
            : high < clear ? 0
            : CleanNeededFor(n, k, clear, rules.EvidenceHigh);
        var because = new List<string>
        {
            $"{k} of {n} inspections of the last {rules.EvidenceWindow} found a failure: between {Percent(low)} and {Percent(high)} of the items fail in {group.Interval}, most likely near {Percent(median)}; {Percent(target)} is accepted",
        };
        if (suggestion == Suggestion.Shorter)
            because.Add($"even the low end lies above {Percent(target)}: one step shorter, {months}");
        else if (low > target)
            because.Add($"even the low end lies above {Percent(target)}, but there is no shorter step");
        else if (suggestion == Suggestion.Longer)
            because.Add($"even the high end lies below {Percent(clear)}: one step longer, {months}");
        else
            because.Add(
                needed switch
                {
                    null => "there is no longer step",
                    MostAsked => $"too many failures for a longer interval: not even {MostAsked} clean inspections would allow it",
                    { } clean => $"keep; {clean} more clean inspections would allow a longer one",
                }
            );
        return new(low, median, high, suggestion, months, needed, [.. because]);
    }

    /// <summary>In which share of the items fail, for a part of a group: "1.2 % to 8 %"; of a part without a failure only how many it may
    /// be at most: "up to 21 %".</summary>
    public static string Between(int inspections, int failures, Thresholds rules)
    {
        var high = Percent(Quantile(inspections, failures, rules.EvidenceHigh));
        return failures == 0 ? $"up to {high}" : $"{Percent(Quantile(inspections, failures, rules.EvidenceLow))} to {high}";
    }

    /// <summary>Beyond this nobody waits for clean inspections: it would take decades.</summary>
    private const int WorthNaming = 10_000;

    /// <summary>The suggestion in a few words.</summary>
    public string InShort =>
        Suggestion switch
        {
            Suggestion.Shorter => $"one step shorter: {Interval}",
            Suggestion.Longer => $"one step longer: {Interval}",
            _ => CleanNeeded switch
            {
                null => "keep; there is no longer step",
                > WorthNaming => "keep; too many failures for a longer one",
                { } clean => $"keep; {clean} more clean for a longer one",
            },
        };

    private const int CurvePoints = 80;

    /// <summary>How likely each failure rate is, from 0 to a little beyond what matters: rates and heights, the highest 1.</summary>
    /// <returns>Points from left to right; where the density grows without bound at 0 it is held to the first point beside it.</returns>
    public static ImmutableArray<(double Rate, double Height)> Curve(GroupHistory group, Thresholds rules)
    {
        var (n, k) = (group.Inspections, group.Failures);
        var end = Math.Min(1, Math.Max(2 * rules.EvidenceTarget, 1.2 * Quantile(n, k, rules.EvidenceHigh)));
        var points = Enumerable
            .Range(1, CurvePoints)
            .Select(at => end * at / CurvePoints)
            .Select(rate => (Rate: rate, Height: Beta.PDF(k + Prior, n - k + Prior, rate)))
            .Where(it => double.IsFinite(it.Height))
            .ToArray();
        var highest = points.Max(it => it.Height);
        return [.. points.Select(it => (it.Rate, highest > 0 ? it.Height / highest : 0))];
    }

    private static double Quantile(int n, int k, double p) => Beta.InvCDF(k + Prior, n - k + Prior, p);

    /// <summary>The high end falls with every clean inspection, so the least number is found by halving.</summary>
    private static int CleanNeededFor(int n, int k, double clear, double p)
    {
        var (no, yes) = (0, 1);
        while (yes < MostAsked && Quantile(n + yes, k, p) >= clear)
            (no, yes) = (yes, yes * 2);
        if (yes >= MostAsked)
            return MostAsked;
        while (yes - no > 1)
        {
            var middle = (no + yes) / 2;
            if (Quantile(n + middle, k, p) < clear)
                yes = middle;
            else
                no = middle;
        }
        return yes;
    }

    private static string Percent(double rate) => $"{QuantityText.Number(rate * 100, 2)} %";
}
