using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>Finds where a pack contradicts itself: a row that can never be used, a limit that compares the wrong way, a requirement that
/// nothing can meet.</summary>
internal static class PackCheck
{
    /// <returns>The first contradiction with its place in the file, or null.</returns>
    public static Fault? Contradiction(RulePack pack)
    {
        if (pack.Limits.IsEmpty)
            return new Fault("limits", "must hold at least one limit");
        if (pack.Series.IsEmpty)
            return new Fault("series", "must hold at least one series");
        for (var i = 0; i < pack.Limits.Length; i++)
            if (OfLimit(pack, i) is { } fault)
                return fault;
        for (var i = 0; i < pack.Series.Length; i++)
            if (OfSeries(pack, pack.Series[i]) is { } why)
                return new Fault($"series[{i}]", why);
        for (var i = 1; i < pack.Flex.Length; i++)
        {
            var (thin, thick) = (pack.Flex[i - 1], pack.Flex[i]);
            if (thin.Size == thick.Size)
                return new Fault("flex", $"{thin.Size.Value} mm² stands twice");
            if (thick.OhmPerMetre.Value >= thin.OhmPerMetre.Value || thick.Carries?.Value < thin.Carries?.Value)
                return new Fault("flex", $"{thick.Size.Value} mm² resists more or carries less than {thin.Size.Value} mm²");
        }
        return null;
    }

    private static Fault? OfLimit(RulePack pack, int at)
    {
        var (rule, place) = (pack.Limits[at], $"limits[{at}]");
        if (Expected(rule.Test) is not { } expected)
            return new Fault($"{place}.test", $"{Words.Of(rule.Test)} is answered good or bad and has no limit");
        if (rule.Dimension != expected.Dimension)
            return new Fault($"{place}.unit", $"is not a unit of {Words.Of(rule.Test)}");
        if (!expected.Comparators.Contains(rule.Comparator))
            return new Fault($"{place}.comparator", $"compares {Words.Of(rule.Test)} the wrong way round");
        if (rule.Formula is Formula.Deviation != (rule.Comparator == Comparator.Within))
            return new Fault($"{place}.comparator", "“within” goes with the formula “within”, and only with it");
        if (rule.Formula is Formula.NoTrip && rule.Test != Test.RcdTrip)
            return new Fault($"{place}.noTripWithin", "is for RCDs");
        if (rule.OwnUpTo is { } most && !(rule is { Test: Test.RcdTrip, Formula: Formula.Fixed own } && most.Si >= own.Value.Si))
            return new Fault($"{place}.ownUpTo", "is for an RCD's trip time, and no less than its value");
        if (rule.Formula is Formula.PlusConductor && pack.Flex.IsEmpty)
            return new Fault(place, "allows for the conductor, but the pack has no flex table");
        if (rule.Formula is Formula.ByLength length && length.Ceiling.Value < length.Base.Value)
            return new Fault($"{place}.perLength", "the ceiling lies below the base");
        if (rule.Formula is Formula.PerKilowatt power && power.Ceiling.Si < (power.Floor?.Si ?? 0))
            return new Fault($"{place}.perKilowatt", "the ceiling lies below the floor");
        for (var earlier = 0; earlier < at; earlier++)
        {
            var other = pack.Limits[earlier];
            if (other.Id == rule.Id)
                return new Fault($"{place}.id", $"“{rule.Id}” stands twice");
            if (other.Test == rule.Test && other.Item.Covers(rule.Item) && other.Reading.Covers(rule.Reading))
                return new Fault(place, $"“{rule.Id}” would never be used: “{other.Id}” before it already speaks of all it speaks of");
        }
        return null;
    }

    private static string? OfSeries(RulePack pack, Series series)
    {
        if (Expected(series.Test) is null)
            return null;
        return pack.Limits.Any(rule => rule.Test == series.Test && rule.Reading.Kinds.Overlaps(series.Accepts.Kinds))
            ? null
            : $"asks for {Words.Of(series.Test)}, which no limit judges, so that nothing could ever settle it";
    }

    private static (Dimension Dimension, Comparator[] Comparators)? Expected(Test test) =>
        test switch
        {
            Test.EarthContinuity or Test.PadPath => (Dimension.Resistance, [Comparator.NotMoreThan, Comparator.Below]),
            Test.Insulation => (Dimension.Resistance, [Comparator.NotLessThan]),
            Test.Leakage => (Dimension.Current, [Comparator.NotMoreThan, Comparator.Below]),
            Test.RcdTrip or Test.DefibCharge or Test.DefibSync => (Dimension.Time, [Comparator.NotMoreThan, Comparator.Below]),
            Test.DefibEnergy => (Dimension.Energy, [Comparator.Within]),
            Test.EcgAmplitude => (Dimension.Voltage, [Comparator.Within]),
            _ => null,
        };
}
