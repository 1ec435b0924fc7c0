using Osierwand.Core.Quantities;

namespace Osierwand.Core.Kit;

/// <summary>The measured resistance of a test lead, subtracted from earth readings.</summary>
public readonly record struct TestLeadNull(Ohms Value, DateTimeOffset At)
{
    /// <summary>A larger null is not accepted without a reason: it hides a bad lead.</summary>
    public static readonly Ohms LargestAccepted = new(0.5);

    private static readonly TimeSpan Keeps = TimeSpan.FromDays(30);

    public bool IsAccepted => Value.Value <= LargestAccepted.Value;

    /// <summary>After thirty days a null is taken again.</summary>
    public bool IsStale(DateTimeOffset now) => now - At > Keeps;
}

/// <summary>Whether an instrument may be used, by its calibration.</summary>
public static class Calibration
{
    private const int WarningDays = 30;

    /// <summary>Usable until and including the day it is due.</summary>
    public static bool IsOut(DateOnly due, DateOnly today) => due < today;

    public static bool IsSoon(DateOnly due, DateOnly today) => due <= today.AddDays(WarningDays);
}
