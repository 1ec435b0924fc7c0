using System.Collections.Immutable;
using Osierwand.Core.Installation;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Bench;

/// <summary>What everything on one circuit leaks, held against half its RCD: it may trip by the sum alone, with nothing wrong.</summary>
/// <param name="Explains">The sum alone may trip it.</param>
/// <param name="Working">Lines that a person can redo.</param>
public sealed record CircuitSum(
    double RcdMa,
    ImmutableArray<CircuitLeakage> Items,
    double SumMa,
    bool Explains,
    ImmutableArray<string> Working
)
{
    private const int MostItems = 60;
    private const double MostMa = 1000;

    /// <returns>The sum, or why it is none: no item, a figure that no leakage has, an RCD that no circuit has.</returns>
    public static Result<CircuitSum> Of(CircuitSummed it)
    {
        if (it.Items.Count is 0 or > MostItems)
            return new Fault("items", $"Name what hangs on the circuit: one thing at least, {MostItems} at most.");
        if (it.RcdMa is not (>= 5 and <= MostMa))
            return new Fault("rcdMa", "An RCD is rated from 5 mA to 1000 mA.");
        if (it.Items.FirstOrDefault(item => item.Ma is not (>= 0 and <= MostMa)) is { } odd)
            return new Fault("ma", $"{odd.Name}: a leakage lies from 0 to {MostMa} mA.");
        if (it.Items.Any(item => string.IsNullOrWhiteSpace(item.Name) || item.Name.Length > BenchState.LongestText))
            return new Fault("name", "Say in a few words what each thing is.");
        var sum = LeakageSum.Of(
            [.. it.Items.Select(item => new Amperes(item.Ma / 1000))],
            new(it.RcdMa / 1000),
            InstallationLimits.Shipped
        );
        return new CircuitSum(it.RcdMa, [.. it.Items], sum.Sum.Value * 1000, sum.Explains, sum.Working);
    }
}
