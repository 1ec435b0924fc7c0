using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>Readings that cannot be, rule 7: what would pass and cannot be is refused where it is entered, with the unit that was probably
/// meant. A figure that fails is kept as a fail, however large.</summary>
public static class BeyondTheWorld
{
    /// <returns>Why there is no such reading, a sentence; null where there may be.</returns>
    public static string? Refusal(Reading reading, Thresholds rules) =>
        reading is Reading.Insulation { Shown: var shown, Void: null } && Comparison.Above(shown.Quantity.Si, rules.LargestInsulation.Value)
            ? $"{shown} cannot be: nothing insulates better than {QuantityText.Show(rules.LargestInsulation)}.{Meant(shown, rules)}"
            : null;

    /// <summary>The same figure in the largest unit in which it can be.</summary>
    private static string Meant(Measured shown, Thresholds rules) =>
        Unit
            .All.Where(unit =>
                unit.Dimension == shown.Unit.Dimension && !Comparison.Above(shown.Number * unit.Factor, rules.LargestInsulation.Value)
            )
            .MaxBy(unit => unit.Factor)
            is { } unit
            ? $" {shown with { Unit = unit }} was probably meant."
            : "";

    /// <summary>So far beyond its limit that its unit is in doubt; it fails all the same.</summary>
    public static bool IsUnitDoubted(Judgement judged, Thresholds rules) =>
        judged is { Status: Status.Fail, Limit.IsFloor: false, Use: { } use } && use > rules.UnitDoubted;
}
