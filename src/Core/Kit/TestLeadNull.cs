using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Kit;

/// <summary>The measured resistance of a test lead, subtracted from earth readings.</summary>
public readonly record struct TestLeadNull(Ohms Value, DateTimeOffset At)
{
    /// <summary>A larger null is not accepted: it hides a bad lead.</summary>
    public bool IsAccepted(Thresholds rules) => Comparison.AtMost(Value.Value, rules.LargestNull.Value);

    /// <summary>After thirty days, or what the house says, a null is taken again.</summary>
    public bool IsStale(DateTimeOffset now, Thresholds rules) => now - At > rules.NullKeeps;

    /// <summary>It differs so much from the one taken before that the one before was stale.</summary>
    public bool Differs(TestLeadNull before, Thresholds rules) =>
        Comparison.Above(Math.Abs(Value.Value - before.Value.Value), rules.NullRepeat.Value);
}

/// <summary>Whether an instrument may be used, by its calibration.</summary>
public static class Calibration
{
    /// <summary>Usable until and including the day it is due.</summary>
    public static bool IsOut(DateOnly due, DateOnly today) => due < today;

    public static bool IsSoon(DateOnly due, DateOnly today, Thresholds rules) => due <= today.AddDays(rules.CalibrationWarning);
}
