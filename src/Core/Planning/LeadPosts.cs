using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>One electrode lead and the post it goes on, in both schools of colours (IEC 60601-2-25 and 60601-2-27, codes 1 and 2): what is
/// red in one is white in the other, and a lead on the wrong post measures another connection.</summary>
/// <param name="Post">Counted from 1.</param>
public sealed record LeadPost(int Post, string Iec, string IecColour, string Aha, string AhaColour)
{
    private static readonly ImmutableArray<LeadPost> Limbs =
    [
        new(1, "R", "red", "RA", "white"),
        new(2, "L", "yellow", "LA", "black"),
        new(3, "F", "green", "LL", "red"),
        new(4, "N", "black", "RL", "green"),
    ];

    private static readonly ImmutableArray<(string Iec, string Aha)> Chest =
    [
        ("white and red", "brown and red"),
        ("white and yellow", "brown and yellow"),
        ("white and green", "brown and green"),
        ("white and brown", "brown and blue"),
        ("white and black", "brown and orange"),
        ("white and violet", "brown and violet"),
    ];

    /// <summary>Three leads are R, L, F; five are the limbs and one of the chest; ten the limbs and six of the chest.</summary>
    /// <returns>Empty for a part that is no set of electrode leads, or of a number that no set has.</returns>
    public static ImmutableArray<LeadPost> Of(Item item, Conditions under) =>
        item.AppliedParts.FirstOrDefault(part => part.Name == under.AppliedPart) is not { } part || !IsElectrodes(part) ? []
        : part.Connections is 3 or 4 ? Limbs[..part.Connections]
        : part.Connections == 5 ? [.. Limbs, new(5, "C", "white", "V", "brown")]
        : part.Connections == 10 ? [.. Limbs, .. Chest.Select((it, n) => new LeadPost(5 + n, $"C{n + 1}", it.Iec, $"V{n + 1}", it.Aha))]
        : [];

    private static bool IsElectrodes(AppliedPart part) =>
        part.Name.Contains("ECG", StringComparison.OrdinalIgnoreCase) || part.Name.Contains("EKG", StringComparison.OrdinalIgnoreCase);
}
