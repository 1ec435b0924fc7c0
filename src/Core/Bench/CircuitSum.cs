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

    /// <summary>Of the devices that circuits stand behind.</summary>
    public static readonly ImmutableArray<double> UsualRcdsMa = [10, 30, 100, 300];

    /// <param name="limits">With the house's own over them.</param>
    /// <returns>The sum, or why it is none: no item, a name that is missing, a figure that is not understood or only a bound.</returns>
    public static Result<CircuitSum> Of(CircuitSummed it, InstallationLimits limits)
    {
        if (it.Items.Count is 0 or > MostItems)
            return new Fault("items", $"Name what hangs on the circuit: one thing at least, {MostItems} at most.");
        if (!UsualRcdsMa.Contains(it.RcdMa))
            return new Fault("rcdMa", $"Say which RCD it stands behind: {string.Join(", ", UsualRcdsMa)} mA.");
        var leaks = new List<Amperes>();
        foreach (var item in it.Items)
        {
            if (string.IsNullOrWhiteSpace(item.Name) || item.Name.Length > BenchState.LongestText)
                return new Fault("name", "Say in a few words what each thing is.");
            var read = ReadingEntry.Parse(item.Leaks, Unit.Milliampere);
            if (read.Fault is { } fault)
                return new Fault("leaks", $"{item.Name}: {fault.Message}");
            if (read.Value is not { IsBound: false, Number: >= 0 } leak)
                return new Fault("leaks", $"{item.Name}: a sum wants a value, neither a bound nor less than nothing.");
            leaks.Add(new(leak.Quantity.Si));
        }
        var sum = LeakageSum.Of(leaks, new(it.RcdMa / 1000), limits);
        return new CircuitSum(it.RcdMa, [.. it.Items], sum.Sum.Value * 1000, sum.Explains, sum.Working);
    }
}
