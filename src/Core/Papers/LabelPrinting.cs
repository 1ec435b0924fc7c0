using System.Collections.Immutable;

namespace Osierwand.Core.Papers;

/// <summary>A label is printed once; once more it says why.</summary>
public static class LabelPrinting
{
    /// <summary>On offer for printing once more.</summary>
    public static ImmutableArray<string> Reasons { get; } = ["Damaged", "Lost", "Printer failed", "Wrong paper in the printer"];

    /// <param name="again">How many of the labels were printed before.</param>
    /// <returns>Why they are not printed, or null.</returns>
    public static string? Refusal(int again, string? reason) =>
        again == 0 || !string.IsNullOrWhiteSpace(reason)
            ? null
            : $"{(again == 1 ? "One label was" : $"{again} labels were")} printed before: say why once more. Two labels of one item are one too "
                + "many.";
}
