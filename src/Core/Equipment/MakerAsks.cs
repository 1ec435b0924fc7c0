using System.Collections.Immutable;

namespace Osierwand.Core.Equipment;

/// <summary>What a device's maker asks in its papers, beside the standard. Its figures count where they are the tighter ones.</summary>
/// <param name="IntervalMonths">Until the next test; null where the papers name none.</param>
/// <param name="Checks">What is to be seen to work, each a good-or-bad answer of its own.</param>
public sealed record MakerAsks(double? IntervalMonths, ImmutableArray<MakerLimit> Limits, ImmutableArray<string> Checks)
{
    public static readonly MakerAsks Nothing = new(null, [], []);

    public bool IsEmpty => IntervalMonths is null && Limits.IsEmpty && Checks.IsEmpty;
}

/// <summary>One figure of the maker's.</summary>
/// <param name="Test">The test by its contract word, of leakage with its kind: "leakage/equipment". It holds under every
/// condition.</param>
/// <param name="Unit">Symbol of the contract: "uA".</param>
public sealed record MakerLimit(string Test, double Value, string Unit);
