using System.Collections.Immutable;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>By which method the leakage of one item may be measured.</summary>
public static class LeakageChoice
{
    /// <summary>Powered or alternative; a client's choice to do without is not made at the bench.</summary>
    private static readonly ImmutableArray<LeakagePolicy> OnOffer = [LeakagePolicy.Powered, LeakagePolicy.Alternative];

    /// <returns>Null where there is nothing to choose: no leakage of its mains is asked for.</returns>
    public static LeakagePolicy? Of(Ruling ruling) =>
        ruling.Pack.Scope == PackScope.Appliances
        && Planner
            .Of(ruling.Pack, ruling.Item.Equipment, ruling.Policy with { Leakage = LeakagePolicy.Powered }, ruling.Scope)
            .Steps.Any(step => step.Test == Test.Leakage)
            ? ruling.Policy.Leakage
            : null;

    public static string? Refusal(Ruling ruling, LeakagePolicy to) =>
        Of(ruling) is null ? "No leakage is measured of this item."
        : !OnOffer.Contains(to) ? "That is the client's choice."
        : to == LeakagePolicy.Alternative && ruling.Item.Equipment.SwitchHidesMains
            ? "Behind an electronic switch the alternative method does not reach the mains part: it is measured powered."
        : null;
}
