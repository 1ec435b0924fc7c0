using Osierwand.Core.Planning;

namespace Osierwand.Core.Judging;

/// <summary>Whether a day's readings show that the probe lead is whole.</summary>
public static class ProbeLead
{
    /// <returns>The reading through the probe that was not nothing, in words: "earth continuity 0.08 Ω". Null where there is
    /// none.</returns>
    public static string? ShownBy(PastInspection past) =>
        past.Readings.OfType<Reading.Numeric>().FirstOrDefault(reading => past.Item is { } item && IsShown(item, reading)) is { } shown
            ? $"{shown.Name} {shown.Shown}"
            : null;

    private static bool IsShown(Equipment.Item item, Reading.Numeric reading) =>
        reading is { Void: null, Shown: { IsBound: false, Number: > 0 } }
        && (reading is Reading.EarthContinuity ? !item.IsCord : Probing.IsProbed(item, reading.Under));
}
