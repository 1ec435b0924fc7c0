using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>The same steps for whoever works with a multifunction or insulation tester and no appliance tester: which terminals to join,
/// where the probes go.</summary>
internal static class MeterSchool
{
    private const string NotPossible = "Not possible with a meter: record it as not measured";

    public static string Terminals(Item item, Conditions under) =>
        under switch
        {
            Conditions.EarthContinuity when item.IsCord =>
                $"Low ohms: one probe on the plug's earth pin, the other in the earth contact of {FarEnd(under)}",
            Conditions.EarthContinuity when item.IsHardWired =>
                "Low ohms: one probe on bare exposed metal, the other on the connection unit's earth terminal",
            Conditions.EarthContinuity =>
                $"Low ohms: one probe on the plug's earth pin, the other on {under.At?.Text ?? "bare earthed metal"}, pressed hard",
            Conditions.Insulation { Between: Between.MainsToAccessible } =>
                "Link L and N of the plug with a clip; line terminal to the link, earth terminal to a probe on metal or foil",
            Conditions.Insulation { Between: Between.MainsToAppliedPart } =>
                $"Link L and N of the plug with a clip; line terminal to the link, earth terminal to {under.AppliedPart} with its connections joined",
            Conditions.Insulation => item.Phases == 3
                ? "Link L1, L2, L3 and N with clips; line terminal to the link, earth terminal to the earth pin"
                : "Link L and N of the plug with a clip; line terminal to the link, earth terminal to the earth pin",
            Conditions.Polarity => $"Continuity: L pin to L contact of {FarEnd(under)}, N pin to N contact; nothing between L and N",
            Conditions.Wiring => "Continuity: L and N each end to end; open between them",
            Conditions.PadPath => "Low ohms: paddle or pad to its connector",
            _ => NotPossible,
        };

    /// <summary>There is no clip: a probe is held.</summary>
    public static ImmutableArray<string> Needs(ImmutableArray<string> needs) =>
        [.. needs.Select(line => line == Preparation.ClipOnMetal ? "Probe pressed hard on bare earthed metal" : line)];

    private static string FarEnd(Conditions under) => under.At?.Text ?? "the far end";
}
