using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Core.Standards;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Looking;

/// <summary>One point of the look.</summary>
/// <param name="Id">Stable, kept in records.</param>
/// <param name="Where">Plug, flex, case ...</param>
/// <param name="Text">What good looks like.</param>
/// <param name="Phrases">Offered words for what is bad.</param>
public sealed record LookPoint(string Id, string Where, string Text, ImmutableArray<string> Phrases)
{
    internal ItemPattern Item { get; init; } = ItemPattern.Any;
    internal bool NeedsPlug { get; init; }
}

public enum LookAnswer
{
    Good,
    Bad,
    DoesNotApply,
}

/// <param name="Words">What is bad, in words; a bad answer without words is refused.</param>
public sealed record LookFinding(string PointId, LookAnswer Answer, string? Words);

/// <summary>Most faults are found by eye and hand: the list to look at, by kind and class. A lead has no case; a hard-wired heater has no plug but a connection unit.</summary>
public static class LookList
{
    private static readonly Lazy<ImmutableArray<LookPoint>> Points = new(Load);

    public static ImmutableArray<LookPoint> For(Item item) =>
        [.. Points.Value.Where(point => point.Item.Matches(item, item.Class) && (!point.NeedsPlug || item.Class != ProtectionClass.Internal))];

    /// <summary>The look's outcome. Every point of the list must be answered; one that is bad fails the item, as does a fuse or flex fault.</summary>
    /// <returns>A fault for an unknown or unanswered point and for bad without words.</returns>
    public static Result<Judging.Look> Judge(Item item, RulePack pack, IReadOnlyCollection<LookFinding> findings)
    {
        var asked = For(item);
        foreach (var finding in findings)
        {
            if (asked.All(point => point.Id != finding.PointId)) return new Fault($"look.{finding.PointId}", "is not on the list for this item");
            if (finding.Answer == LookAnswer.Bad && string.IsNullOrWhiteSpace(finding.Words)) return new Fault($"look.{finding.PointId}", "say in words what is bad");
        }
        var bad = findings.Any(finding => finding.Answer == LookAnswer.Bad);
        if (bad || FuseAndFlex.Check(item, pack).Any(finding => finding.IsFault)) return Judging.Look.Fail;
        return asked.All(point => findings.Any(finding => finding.PointId == point.Id)) ? Judging.Look.Pass : Judging.Look.NotDone;
    }

    private static ImmutableArray<LookPoint> Load()
    {
        using var document = JsonDocument.Parse(Embedded.Text("look.json")!);
        return List(document.RootElement.GetProperty("points"), Point);
    }

    private static LookPoint Point(JsonElement element)
    {
        var point = new LookPoint("", "", "", []);
        Properties(element, (name, value) => point = name switch
        {
            "id" => point with { Id = NonEmptyText(value) },
            "where" => point with { Where = NonEmptyText(value) },
            "text" => point with { Text = NonEmptyText(value) },
            "phrases" => point with { Phrases = List(value, NonEmptyText) },
            "item" => point with { Item = PatternReader.Item(value) },
            "plug" => point with { NeedsPlug = Boolean(value) },
            _ => throw Unknown(name),
        });
        return point;
    }
}
