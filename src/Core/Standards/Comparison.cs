namespace Osierwand.Core.Standards;

/// <summary>
/// Every comparison of the program: unrounded, with a relative tolerance in favour of equality for the noise of binary arithmetic.
/// 0.1 + 0.2 is at most 0.3; 0.3 is not below 0.1 + 0.2.
/// </summary>
public static class Comparison
{
    private static readonly double Tolerance = Thresholds.Shipped.ComparisonTolerance;

    /// <summary>Not more than.</summary>
    public static bool AtMost(double value, double limit) => value <= limit + Slack(limit);

    /// <summary>Not less than.</summary>
    public static bool AtLeast(double value, double limit) => value >= limit - Slack(limit);

    /// <summary>Strictly: equality does not do.</summary>
    public static bool Below(double value, double limit) => value < limit - Slack(limit);

    /// <summary>Strictly: equality does not do.</summary>
    public static bool Above(double value, double limit) => value > limit + Slack(limit);

    /// <summary>A value, or its distance from what was set, against a limit in the same unit.</summary>
    public static bool Meets(double value, double limit, Comparator comparator) =>
        comparator switch
        {
            Comparator.NotLessThan => AtLeast(value, limit),
            Comparator.Below => Below(value, limit),
            _ => AtMost(value, limit),
        };

    private static double Slack(double limit) => Math.Abs(limit) * Tolerance;
}
