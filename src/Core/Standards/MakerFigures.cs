using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>A maker's figures as they are held against a standard's: the tighter one counts.</summary>
public static class MakerFigures
{
    /// <summary>What is read for each test is an amount of this; good or bad has none.</summary>
    public static Dimension? DimensionOf(Test test) =>
        test switch
        {
            Test.EarthContinuity or Test.Insulation or Test.PadPath => Dimension.Resistance,
            Test.Leakage => Dimension.Current,
            Test.RcdTrip or Test.DefibCharge or Test.DefibSync => Dimension.Time,
            Test.DefibEnergy => Dimension.Energy,
            Test.EcgAmplitude => Dimension.Voltage,
            _ => null,
        };

    /// <summary>The word by which a maker's figure names what is measured: the test, of leakage with its kind.</summary>
    public static string WordOf(Conditions under) =>
        under is Conditions.Leakage leakage ? $"{Words.Of(leakage.Test)}/{Words.Of(leakage.Kind)}" : Words.Of(under.Test);

    /// <returns>The figure; null where its unit is not one of the test, or there is no such test.</returns>
    public static Quantity? Of(MakerLimit it)
    {
        var parts = it.Test.Split('/');
        if (Words.Find<Test>(parts[0]) is not { } test || DimensionOf(test) is not { } dimension)
            return null;
        var isWhole = test == Test.Leakage ? parts.Length == 2 && Words.Find<LeakageKind>(parts[1]) is not null : parts.Length == 1;
        return isWhole && Unit.Find(it.Unit) is { } unit && unit.Dimension == dimension && it.Value > 0 && double.IsFinite(it.Value)
            ? new Quantity(it.Value * unit.Factor, dimension)
            : null;
    }

    /// <summary>A standard's limit for a device whose maker may ask for more.</summary>
    /// <param name="limit">Of whatever standard judges; null where it has none, and a maker's figure alone makes none.</param>
    public static ResolvedLimit? Over(ResolvedLimit? limit, Item item, Conditions under) =>
        limit is null || For(item, under) is not { } own ? limit : limit.WithMaker(own);

    private static Quantity? For(Item item, Conditions under)
    {
        if (item.Maker is not { Limits: { IsEmpty: false } limits })
            return null;
        var word = WordOf(under);
        foreach (var limit in limits)
            if (limit.Test == word)
                return Of(limit);
        return null;
    }
}
