using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>A maker's figures as they are held against a standard's: the tighter one counts.</summary>
public static class MakerFigures
{
    /// <returns>The figure; null where its unit is not one of the test, or there is no such test.</returns>
    public static Quantity? Of(MakerLimit it)
    {
        var parts = it.Test.Split('/');
        if (Words.Find<Test>(parts[0]) is not { } test || TestFigure.DimensionOf(test) is not { } dimension)
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
        var word = TestFigure.WordOf(under);
        foreach (var limit in limits)
            if (limit.Test == word)
                return Of(limit);
        return null;
    }
}
