using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Looking;

/// <summary>One point of the look.</summary>
/// <param name="Id">Stable, kept in records.</param>
/// <param name="Where">Plug, flex, case ...</param>
/// <param name="Text">What good looks like.</param>
/// <param name="Phrases">Offered words for what is bad, or only worth telling: that is for whoever looks at it to say.</param>
public sealed record LookPoint(string Id, string Where, string Text, ImmutableArray<string> Phrases)
{
    /// <summary>Offered words for what is always bad, and never passes as advice.</summary>
    public ImmutableArray<string> Fails
    {
        get => fails.IsDefault ? [] : fails;
        init => fails = value;
    }

    private readonly ImmutableArray<string> fails;

    /// <summary>All that is offered for a bad answer, what must fail first.</summary>
    [JsonIgnore]
    public ImmutableArray<string> ForBad => [.. Fails, .. Phrases];

    /// <returns>What these words say that must fail; null where they say nothing of the kind.</returns>
    public string? FailingIn(string words) => Fails.FirstOrDefault(phrase => words.Contains(phrase, StringComparison.OrdinalIgnoreCase));

    [JsonInclude]
    internal ItemPattern? Item { get; init; }

    /// <summary>Plugs that have it; any where the point is not of the plug.</summary>
    [JsonInclude, JsonPropertyName("plug")]
    internal SetOf<PlugType>? Plugs { get; init; }

    /// <summary>Asked only where plugs carry fuses: the pack has a rule for them.</summary>
    [JsonInclude, JsonPropertyName("fusedPlug")]
    internal bool NeedsFusedPlug { get; init; }

    /// <summary>What of it can be measured, in ohm: the plug's fuse. Null where there is nothing to measure.</summary>
    [JsonInclude, JsonPropertyName("measured")]
    public string? Measured { get; init; }

    /// <summary>For which items it is asked, in words; empty for all.</summary>
    [JsonIgnore]
    public string For =>
        Joined(
            Item?.Kinds is { IsAny: false } kinds
                ? string.Join(", ", Enum.GetValues<ItemKind>().Where(kinds.Has).Select(EquipmentText.Kind))
                : "",
            Item?.HardWired switch
            {
                true => "hard-wired",
                false => "plugged in",
                _ => "",
            },
            Plugs is { IsAny: false } plugs ? PlugText(Enum.GetValues<PlugType>().Where(plugs.Has)) : "",
            NeedsFusedPlug ? "where plugs have fuses" : "",
            NeedsFlex ? "with a flex" : ""
        );

    internal static string PlugText(IEnumerable<PlugType> plugs) =>
        string.Join(", ", plugs.Select(Words.Of)) is { Length: > 0 } names ? $"{names} plug" : "";

    internal static string Joined(params string[] parts) => string.Join("; ", parts.Where(part => part.Length > 0));

    /// <summary>An RCD in a plug has no flex, nor has what runs on its own battery.</summary>
    [JsonInclude, JsonPropertyName("flex")]
    internal bool NeedsFlex { get; init; }
}

public enum LookAnswer
{
    Good,
    Bad,
    DoesNotApply,

    /// <summary>Worth telling, and no reason to condemn it: a missing plate, a daisy chain.</summary>
    Advice,
}

/// <param name="Words">What is bad or worth telling, in words; such an answer without words is refused.</param>
public sealed record LookFinding(
    [property: JsonRequired] string PointId,
    // Required, for an answer that is not there must never be read as the first of them, which is good.
    [property: JsonRequired] LookAnswer Answer,
    string? Words,
    // In ohm, where the point can be measured: a fuse taken out of its plug.
    double? Ohm = null
);

/// <summary>
/// Most faults are found by eye and hand: the list to look at, by kind, class, plug and pack. A lead has no switch; a hard-wired heater
/// has no
/// plug but a connection unit; a moulded plug has no terminals to see.
/// </summary>
public static class LookList
{
    private static readonly Lazy<ImmutableArray<LookPoint>> Points = new(Load);

    /// <summary>As it ships, for every kind, class and plug.</summary>
    public static ImmutableArray<LookPoint> Shipped => Points.Value;

    /// <summary>The points asked of an item, with what the house adds and without what it drops. Where everything would be dropped the
    /// shipped points stand: a look looks at something.</summary>
    public static ImmutableArray<LookPoint> For(Item item, RulePack pack, HouseLook? house = null)
    {
        var shipped = Points.Value.Where(point => IsAsked(point, item, pack)).Select(point => Named(point, item)).ToImmutableArray();
        if (house is null)
            return shipped;
        var kept = shipped.Where(point => DroppedFor(point, item, pack, house) is null);
        var added = house.Added.Where(it => it.For.Reaches(item, pack)).Select(it => new LookPoint(it.Id, it.Where, it.Text, it.Phrases));
        ImmutableArray<LookPoint> asked = [.. kept, .. added];
        return asked.IsEmpty ? shipped : asked;
    }

    private const string Accessories = "accessories";

    /// <summary>Each accessory by its name: nobody has to remember what belongs to a device.</summary>
    private static LookPoint Named(LookPoint point, Item item) =>
        point.Id == Accessories && !item.Accessories.IsEmpty
            ? point with
            {
                Text = $"{point.Text}: {string.Join(", ", item.Accessories)}",
                Phrases = [.. item.Accessories.Select(name => $"Missing: {name}"), .. point.Phrases],
            }
            : point;

    /// <summary>What the house leaves out of an item's look, in words with the reason: it stands on the sheet and on the record.</summary>
    public static IEnumerable<string> LeftOut(Item item, RulePack pack, HouseLook? house) =>
        house is null
            ? []
            : Points
                .Value.Where(point => IsAsked(point, item, pack))
                .Select(point => (point, Dropped: DroppedFor(point, item, pack, house)))
                .Where(it => it.Dropped is not null)
                .Select(it => $"Not looked at, by the house's list: {it.point.Where}, {it.point.Text}. {it.Dropped!.Reason}");

    private static DroppedPoint? DroppedFor(LookPoint point, Item item, RulePack pack, HouseLook house) =>
        house.Dropped.FirstOrDefault(it => it.PointId == point.Id && it.For.Reaches(item, pack));

    /// <returns>Why this answer contradicts what was measured, or null: a fuse that is open or bad is not good.</returns>
    public static string? Contradiction(LookFinding it, Thresholds rules) =>
        it.Ohm is not { } ohm ? null
        : !double.IsFinite(ohm) || ohm < 0 ? "A resistance is 0 ohm or more."
        : it.Answer == LookAnswer.Good && ohm > rules.LargestFuse.Value
            ? $"A fuse of {QuantityText.Number(ohm, 3)} ohm is not good: open, corroded or badly held."
        : null;

    /// <summary>
    /// The look's outcome. Every point of the list must be answered, and something must have been looked at: a list of "does not apply"
    /// is no
    /// look. One that is bad fails the item, as does a fault of fuse or flex.
    /// </summary>
    /// <returns>A fault for an unknown point, and for bad or advice without words.</returns>
    public static Result<Looking.Look> Judge(Item item, RulePack pack, IReadOnlyCollection<LookFinding> findings)
    {
        var asked = For(item, pack);
        foreach (var finding in findings)
        {
            if (asked.All(point => point.Id != finding.PointId))
                return new Fault($"look.{finding.PointId}", "is not on the list for this item");
            if (WantsWords(finding.Answer) && string.IsNullOrWhiteSpace(finding.Words))
                return new Fault($"look.{finding.PointId}", "say in words what is bad");
        }
        return Outcome(asked, FuseAndFlex.Check(item, pack).Any(finding => finding.IsFault), findings);
    }

    /// <param name="cordIsFaulty">Fuse or flex are certain to be wrong.</param>
    internal static Looking.Look Outcome(ImmutableArray<LookPoint> asked, bool cordIsFaulty, IReadOnlyCollection<LookFinding> findings)
    {
        if (cordIsFaulty || findings.Any(finding => finding.Answer == LookAnswer.Bad))
            return Looking.Look.Fail;
        var answered = asked.All(point => findings.Any(finding => finding.PointId == point.Id));
        return answered && findings.Any(finding => finding.Answer is LookAnswer.Good or LookAnswer.Advice)
            ? Looking.Look.Pass
            : Looking.Look.NotDone;
    }

    internal static bool WantsWords(LookAnswer answer) => answer is LookAnswer.Bad or LookAnswer.Advice;

    private static bool IsAsked(LookPoint point, Item item, RulePack pack)
    {
        if (point.Item?.Matches(item, item.Class) == false)
            return false;
        var runsOnBattery = item.Class == ProtectionClass.Internal;
        if (point.Plugs is { } plugs && (runsOnBattery || !plugs.Has(item.Plug)))
            return false;
        if (point.NeedsFusedPlug && pack.Fuse is null)
            return false;
        var hasNoFlex = runsOnBattery || (item.Kind == ItemKind.PortableRcd && item.Cord is null);
        return !(point.NeedsFlex && hasNoFlex);
    }

    private static ImmutableArray<LookPoint> Load() =>
        [.. JsonSerializer.Deserialize(Embedded.Text("look.json")!, JsonRules.File.Of<LookFile>())!.Points];
}

internal sealed record LookFile(IReadOnlyList<LookPoint> Points);
