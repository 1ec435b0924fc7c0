using System.Collections.Immutable;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Kit;

/// <summary>Whether an instrument is fine enough for a standard's limits, told before it is used.</summary>
public static class SuitedTo
{
    /// <returns>A line for each test that one of its functions is too coarse, or drives too little current, for; the gravest limit of the
    /// test.</returns>
    public static ImmutableArray<string> Of(RulePack pack, ImmutableArray<InstrumentFunction> functions)
    {
        var lines = ImmutableArray.CreateBuilder<string>();
        foreach (var test in functions.GroupBy(it => it.Test))
        {
            // The finest of its ranges is the one that a small limit is held against.
            var finest = test.MinBy(it => it.Resolution?.Si ?? double.PositiveInfinity)!;
            var smallest = pack
                .Limits.Where(it => it.Test == test.Key)
                .Select(it => AtLeast(it.Formula))
                .OfType<Quantity>()
                .OrderBy(it => it.Si)
                .Cast<Quantity?>()
                .FirstOrDefault();
            if (smallest is { } limit && Suitability.Trouble(finest, limit, pack) is { } trouble)
                lines.Add($"{NameOf(test.Key)} {trouble}");
        }
        return lines.ToImmutable();
    }

    /// <summary>The smallest limit that a row can come to; null where it has none in the test's own dimension.</summary>
    private static Quantity? AtLeast(Formula formula) =>
        formula switch
        {
            Formula.Fixed it => it.Value,
            Formula.PlusConductor it => it.Base,
            Formula.ByLength it => it.Base,
            Formula.PerKilowatt it => it.Floor ?? it.PerKw,
            Formula.Deviation it => it.Floor,
            _ => null,
        };

    private static string NameOf(Test test) =>
        test switch
        {
            Test.EarthContinuity => "earth",
            Test.Insulation => "insulation",
            Test.Leakage => "leakage",
            Test.RcdTrip => "trip time",
            _ => Words.Of(test),
        };
}
