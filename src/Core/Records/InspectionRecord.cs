using System.Collections.Immutable;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;

namespace Osierwand.Core.Records;

/// <summary>
/// Everything that is kept of one inspection, version 2. Written once; it explains itself in five years without the program, the register
/// or the packs: screens, labels and papers about the past read this and nothing else.
/// </summary>
public sealed record InspectionRecord
{
    public const string Version = "osierwand-inspection/2";

    /// <summary>The kind of an inspection whose look was whole and whose test could not be made.</summary>
    public const string LookedNotTested = "formal visual, not tested";

    [JsonPropertyOrder(-1)]
    public string Format { get; init; } = Version;
    public required Guid Id { get; init; }

    /// <summary>The record this one corrects, and why; null for an inspection of its own.</summary>
    public Correction? Corrects { get; init; }

    /// <summary>The whole item as it was that day.</summary>
    public required RecordedItem Item { get; init; }
    public required RoundRules Round { get; init; }
    public required RecordedRules Rules { get; init; }
    public required Worker Technician { get; init; }

    /// <summary>Null where nothing was measured with an instrument.</summary>
    public KitInHand? Instrument { get; init; }
    public required RecordedTimes Times { get; init; }

    /// <summary>What kind of inspection it was, in words: "inspection and test", "formal visual".</summary>
    public required string KindOfInspection { get; init; }

    /// <summary>Something was measured, so that it may be called tested.</summary>
    public required bool IsTest { get; init; }

    /// <summary>Everything that happened, as it happened.</summary>
    public required IReadOnlyList<BenchEvent> Events { get; init; }
    public required RecordedLook Look { get; init; }

    /// <summary>The safe isolation of hard-wired equipment and its restoration, deed by deed; null where none was.</summary>
    public IReadOnlyList<IsolationLine>? Isolation { get; init; }

    /// <summary>What somebody said was wrong with it; null where nobody complained.</summary>
    public string? Complaint { get; init; }

    /// <summary>The procedure that it was inspected by, whole; null where it was the standard's own plan.</summary>
    public Procedure? Procedure { get; init; }

    /// <summary>Required steps that the procedure left out, each with its reason; null where none was.</summary>
    public IReadOnlyList<RecordedLeftOut>? LeftOut { get; init; }

    /// <summary>The client's order that it was inspected under; null where there was none.</summary>
    public WorkOrder? WorkOrder { get; init; }

    /// <summary>Whether a medical device's sticker was fitted; null where nobody said.</summary>
    public bool? Sticker { get; init; }

    /// <summary>The failure that this inspection after repair closes, and what was mended; null where it closes none.</summary>
    public HeldOn? Closes { get; init; }

    /// <summary>Whether whoever measured said that the device stood isolated from any other earth; null where nobody did.</summary>
    public bool? StoodIsolated { get; init; }

    /// <summary>What its circuit leaked, held against half its RCD; null where it was not summed.</summary>
    public CircuitSum? Circuit { get; init; }

    /// <summary>Why leakage was measured otherwise than the client has it; null where it was not.</summary>
    public string? LeakageReason { get; init; }

    /// <summary>Which likely causes of strange readings were looked at; null where none was.</summary>
    public IReadOnlyList<TriedView>? Tried { get; init; }

    /// <summary>Photos taken of it then, by number; null where none was.</summary>
    public IReadOnlyList<RecordedPhoto>? Photos { get; init; }

    /// <summary>The outlet that powered it, with what was measured there; null where none did.</summary>
    public OutletOfTheDay? Outlet { get; init; }

    /// <summary>Every reading as judged that day, voided ones too.</summary>
    public required IReadOnlyList<ReadingView> Readings { get; init; }

    /// <summary>Every step with its limit and how it stood.</summary>
    public required IReadOnlyList<RecordedStep> Steps { get; init; }

    /// <summary>What strange readings were said to mean.</summary>
    public required IReadOnlyList<TellingCard> Diagnosis { get; init; }
    public required Outcome Outcome { get; init; }
    public required string OutcomeText { get; init; }
    public required IReadOnlyList<string> Reasons { get; init; }
    public required IReadOnlyList<string> Advice { get; init; }

    /// <summary>Failures that were made void, or that corrected facts took out of the judgement; null where none was.</summary>
    public IReadOnlyList<SetAside>? SetAside { get; init; }

    /// <summary>Some judged value lies from 90 % of its limit to the limit.</summary>
    public required bool NearLimit { get; init; }

    /// <summary>Some value is on its way to its limit.</summary>
    public required bool Rising { get; init; }
    public RecordedNotTested? NotTested { get; init; }
    public string? Remarks { get; init; }
    public RecordedEvaluation? Evaluation { get; init; }

    /// <summary>Null when nothing moved the dates: an item that failed or was not tested keeps them.</summary>
    public NextCard? Next { get; init; }

    /// <summary>What its label says; null where there is none.</summary>
    public RecordedLabel? Label { get; init; }

    /// <summary>The readings in the contract's words, for the trend.</summary>
    public ImmutableArray<PastInspection> Taken { get; init; } = [];

    /// <summary>The record as JSON, stable to the letter: the chain's hash runs over exactly these characters.</summary>
    public string ToJson() => JsonSerializer.Serialize(this, Written);

    /// <returns>The record, or why this version cannot read it; never a guess.</returns>
    public static Result<InspectionRecord> Read(string json)
    {
        try
        {
            var read = JsonSerializer.Deserialize(json, Written);
            return read is null ? new Fault("", "is null")
                : read.Format == Version ? read
                : new Fault("format", $"“{read.Format}” is not {Version}");
        }
        catch (JsonException broken)
        {
            return new Fault(broken.Path ?? "", broken.Message);
        }
    }

    /// <summary>The published JSON schema that every record follows.</summary>
    public static string Schema() =>
        JsonRules
            .Record.GetJsonSchemaAsNode(
                typeof(InspectionRecord),
                new() { TreatNullObliviousAsNonNullable = true, TransformSchemaNode = Described }
            )
            .ToJsonString();

    /// <summary>The exporter cannot look into converters: words are listed, and what the exchange contract describes is named an object
    /// or a list. What is null is not written, so nothing that may be null is required.</summary>
    private static JsonNode Described(JsonSchemaExporterContext context, JsonNode made)
    {
        if (context.TypeInfo.Type == typeof(Item))
            return new JsonObject { ["type"] = "object", ["description"] = "An item in the words of the exchange contract." };
        if (context.TypeInfo.Type == typeof(ImmutableArray<PastInspection>))
            return new JsonObject
            {
                ["type"] = "array",
                ["description"] = "Date, item and readings in the words of the exchange contract.",
            };
        var type = Nullable.GetUnderlyingType(context.TypeInfo.Type) ?? context.TypeInfo.Type;
        if (type.IsEnum)
        {
            var words = new JsonArray([.. Words.Listed(type).Select(word => (JsonNode)word)]);
            if (type != context.TypeInfo.Type)
                words.Add(null);
            return new JsonObject { ["enum"] = words };
        }
        if (made.GetValueKind() == JsonValueKind.True)
            return new JsonObject();
        if (made["required"] is JsonArray required)
            foreach (var name in context.TypeInfo.Properties.Where(property => property.IsGetNullable).Select(property => property.Name))
                if (required.FirstOrDefault(entry => (string?)entry == name) is { } nullable)
                    required.Remove(nullable);
        return made;
    }

    /// <summary>A value that is missing and cannot be null is a fault, never a zero or the first day of the calendar.</summary>
    private static readonly JsonTypeInfo<InspectionRecord> Written = new JsonSerializerOptions(JsonRules.Record)
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        TypeInfoResolver = WrittenTypes.Default.WithAddedModifier(type =>
        {
            foreach (var property in type.Properties)
                property.IsRequired = !property.IsGetNullable && property.Get is not null && property.Set is not null;
        }),
    }.Of<InspectionRecord>();

    /// <summary>A look is never called a test.</summary>
    public static string ScopeName(Scope scope, bool measured) =>
        scope switch
        {
            Scope.FormalVisual => "formal visual",
            Scope.NewItem when !measured => "formal visual of a new item",
            Scope.AfterRepair => "inspection and test after repair",
            Scope.FaultFinding => "fault-finding",
            _ => measured ? "inspection and test" : "formal visual",
        };
}

/// <param name="Record">Id of the corrected record.</param>
public sealed record Correction(Guid Record, string Reason);

/// <summary>The item with every fact, in words and in the contract's own.</summary>
public sealed record RecordedItem(
    Guid Id,
    string Tag,
    string Name,
    string? Maker,
    string? Model,
    string? Serial,
    string Site,
    string Room,
    string ClassText,
    string ClassEvidence,
    IReadOnlyList<FactLine> Facts,
    ItemState StateBefore,
    int Revision,
    Item Equipment
);

/// <summary>By what it was judged.</summary>
/// <param name="Ruling">Fingerprint of the ruling in force at the end.</param>
/// <param name="Procedure">Name and version of the procedure; null until there are any.</param>
/// <param name="LookRevision">Of the house's changes of the list to look at; null where it has none.</param>
/// <param name="CommonRules">Version of the rules that all standards share, house figures counted; null in records older than
/// them.</param>
public sealed record RecordedRules(
    string Ruling,
    string PackId,
    string PackVersion,
    string Standard,
    IReadOnlyList<HouseRuling> House,
    Policy Policy,
    DecisionRule DecisionRule,
    Scope Scope,
    School School,
    string? Procedure,
    string? CommonRules = null,
    int? LookRevision = null
);

/// <summary>When it was taken at the bench, by the bench's clock, and when the server received it: two facts.</summary>
/// <param name="Date">At the site, in its own time zone: what dates are counted from.</param>
public sealed record RecordedTimes(
    DateTimeOffset TakenFrom,
    DateTimeOffset TakenTo,
    DateTimeOffset ReceivedAt,
    DateOnly Date,
    string TimeZone
);

public sealed record RecordedLook(Look Outcome, IReadOnlyList<RecordedPoint> Points, string Fuse, IReadOnlyList<string> FuseFindings);

public sealed record RecordedPoint(string Point, string Where, string Text, LookAnswer Answer, string? Words, double? Ohm = null);

/// <param name="Of">Point of the look, or key of the step.</param>
public sealed record RecordedPhoto(Guid Id, string Of);

public sealed record RecordedStep(string Key, string Name, string Detail, Standing Standing, LimitCard? Limit, string? Stopped);

public sealed record RecordedLeftOut(string Name, string Detail, string Reason);

public sealed record RecordedNotTested(NotTestedReason Reason, string Text);

/// <param name="Confirmed">By the technician; null where nobody did.</param>
public sealed record RecordedEvaluation(Evaluation Proposed, Evaluation? Confirmed, IReadOnlyList<string> Because);

/// <param name="Kind">"visual" on the label of what was looked at only; empty for a test.</param>
public sealed record RecordedLabel(
    string Tag,
    string Name,
    string Client,
    DateOnly Date,
    Outcome Outcome,
    string Kind,
    string Initials,
    DateOnly? Next
);
