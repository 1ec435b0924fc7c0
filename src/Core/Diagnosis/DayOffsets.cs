using System.Collections.Immutable;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Diagnosis;

/// <summary>How much today's earth readings lie off what the same items read before: when all lie off by the same, no item has changed, but
/// the test lead or the instrument has.</summary>
public static class DayOffsets
{
    /// <param name="pairs">An item's inspection of today, and the one before it.</param>
    /// <returns>In ohm, of each item the first place that was measured both times; items without one are left out.</returns>
    public static ImmutableArray<double> Of(IEnumerable<(PastInspection Today, PastInspection Before)> pairs) =>
        [.. pairs.Select(pair => Offset(pair.Today, pair.Before)).OfType<double>()];

    private static double? Offset(PastInspection today, PastInspection before)
    {
        foreach (var reading in today.Readings.OfType<Reading.EarthContinuity>().Where(Counts))
            if (before.Readings.OfType<Reading.EarthContinuity>().LastOrDefault(it => Counts(it) && it.Under == reading.Under) is { } was)
                return Nulled(reading) - Nulled(was);
        return null;
    }

    private static bool Counts(Reading.EarthContinuity it) => it is { Void: null, Shown.IsBound: false };

    private static double Nulled(Reading.EarthContinuity it) => it.Shown.Quantity.Si - it.Null.Value;
}
