using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Looking;

/// <summary>Which items a change of the list speaks of; an empty list leaves that open.</summary>
/// <param name="Packs">Numbers of standards.</param>
public sealed record LookReach(
    ImmutableArray<ItemKind> Kinds,
    ImmutableArray<ProtectionClass> Classes,
    ImmutableArray<PlugType> Plugs,
    ImmutableArray<string> Packs
)
{
    public static readonly LookReach All = new([], [], [], []);

    public bool Reaches(Item item, RulePack pack) =>
        IsIn(Kinds, item.Kind)
        && IsIn(Classes, item.Class)
        && (Plugs.IsEmpty || (!item.IsHardWired && item.Class != ProtectionClass.Internal && Plugs.Contains(item.Plug)))
        && IsIn(Packs, pack.Id);

    /// <summary>In words; empty where it reaches all.</summary>
    public string Text =>
        LookPoint.Joined(
            string.Join(", ", Kinds.Select(EquipmentText.Kind)),
            Classes.IsEmpty ? "" : $"class {string.Join(", ", Classes.Select(EquipmentText.Class))}",
            LookPoint.PlugText(Plugs),
            string.Join(", ", Packs.Select(id => PackLibrary.Find(id)?.ShortName ?? id))
        );

    private static bool IsIn<T>(ImmutableArray<T> wanted, T it) => wanted.IsEmpty || wanted.Contains(it);
}

/// <summary>A point that the house asks beside the shipped ones.</summary>
/// <param name="Id">"house/3": it came with the third change.</param>
public sealed record AddedPoint(string Id, string Where, string Text, ImmutableArray<string> Phrases, LookReach For);

/// <summary>A point that the house does not ask, of these items, and why.</summary>
public sealed record DroppedPoint(string PointId, LookReach For, string Reason);

/// <summary>The house's own changes of the list to look at, as they stand.</summary>
/// <param name="Revision">Counts the changes; kept with every record.</param>
public sealed record HouseLook(int Revision, ImmutableArray<AddedPoint> Added, ImmutableArray<DroppedPoint> Dropped)
{
    private const int LongestText = 200;
    private const int MostPhrases = 12;

    /// <returns>Why such a point is not added, or null.</returns>
    public static Fault? Refusal(AddedPoint it) =>
        IsBlank(it.Where) ? new("where", "Say where it is looked at: plug, case, marks.")
        : IsBlank(it.Text) ? new("text", "Say what good looks like.")
        : it.Phrases.Length > MostPhrases ? new("phrases", $"At most {MostPhrases} phrases are offered.")
        : it.Phrases.Any(IsBlank) ? new("phrases", "A phrase is empty, or longer than it can be read.")
        : null;

    /// <returns>Why a point is not dropped, or null: it is dropped for a reason, and never the last one that a thing is looked at
    /// by.</returns>
    public static Fault? Refusal(DroppedPoint it) =>
        LookList.Shipped.All(point => point.Id != it.PointId) ? new("pointId", "There is no such point on the shipped list.")
        : IsBlank(it.Reason) ? new("reason", "Say in a few words why it is not looked at.")
        : null;

    private static bool IsBlank(string text) => string.IsNullOrWhiteSpace(text) || text.Length > LongestText || text.Any(char.IsControl);
}
