using System.Collections.Immutable;
using Osierwand.Core.Equipment;

namespace Osierwand.Core.Planning;

/// <summary>Care for the client's property, and how far an item is reached: what is seen to before hands are on it, and put back
/// afterwards.</summary>
public static class Care
{
    /// <summary>Asked only where the client has fixings taken out.</summary>
    public const string FixingsOut = "Fixings out, as the client allows; counted and kept together";

    /// <summary>Before the look; empty where nothing is asked.</summary>
    public static ImmutableArray<string> Before(Item item, Policy policy) =>
        [
            .. item.Access switch
            {
                AccessLevel.RemovableFixings when policy.Fixings == FixingsPolicy.TakeOut => (string[])[FixingsOut],
                AccessLevel.RemovableFixings =>
                [
                    "The fixings stay in, as the client wishes: what is behind them is said to be out of reach",
                ],
                AccessLevel.SealedIn => ["Sealed in or plumbed: never forced. What cannot be reached without damage is not tested"],
                _ => [],
            },
            .. item.Care.SelectMany(Before),
        ];

    /// <summary>After the functional check; empty where nothing was moved or shut.</summary>
    public static ImmutableArray<string> After(Item item, Policy policy) =>
        [
            .. item is { Access: AccessLevel.RemovableFixings } && policy.Fixings == FixingsPolicy.TakeOut
                ? (string[])["Fixings back in, all that were counted"]
                : [],
            .. item.Care.SelectMany(After),
        ];

    private static string[] Before(CareNeed it) =>
        it switch
        {
            CareNeed.Water => ["Water shut; hoses slack, a cloth under them"],
            CareNeed.Heavy => ["Floor protected before it is moved; two people where it is heavy"],
            CareNeed.Contents => ["Contents out, as agreed with the client"],
            CareNeed.Pressure => ["Valves shut, and no pressure left behind them"],
            _ => ["Data saved and shut down by whoever uses it"],
        };

    private static string[] After(CareNeed it) =>
        it switch
        {
            CareNeed.Water => ["Water open again; no hose kinked, nothing drips"],
            CareNeed.Heavy => ["Back in its place and level; the flex not trapped"],
            CareNeed.Contents => ["Contents back"],
            CareNeed.Pressure => ["Valves as they were found"],
            _ => ["Running again as it was found"],
        };
}
