using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using Osierwand.Core.Json;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>Which way a house may move a figure, if at all.</summary>
public enum Tightening
{
    /// <summary>It is no matter of strictness.</summary>
    Never,
    Down,
    Up,
}

/// <summary>A figure that judging, scheduling or a check reckons with and that is no limit of a test.</summary>
/// <param name="Group">Heading under which it is shown.</param>
/// <param name="Unit">Of <paramref name="Value"/>, by its contract symbol.</param>
/// <param name="Clause">Where it comes from; "house rule" where no standard asks for it.</param>
/// <param name="Says">What a finding that reaches it is told; null where it is no finding of its own.</param>
public sealed record Threshold(
    string Id,
    string Group,
    string What,
    double Value,
    [property: JsonConverter(typeof(UnitConverter))] Unit Unit,
    string Clause,
    string? Remark = null,
    Tightening Tightens = Tightening.Never,
    string? Says = null
)
{
    /// <summary>As it ships.</summary>
    [JsonIgnore]
    public Quantity Shipped => new(Value * Unit.Factor, Unit.Dimension);

    /// <summary>The organisation's own, stricter one; null where it has none.</summary>
    [JsonIgnore]
    public HouseLimit? House { get; init; }

    [JsonIgnore]
    public Quantity InForce => House?.Bound ?? Shipped;

    /// <returns>Why a house figure may not stand here, or null when it tightens it.</returns>
    public Fault? Refusal(HouseLimit limit)
    {
        if (string.IsNullOrWhiteSpace(limit.Reason))
            return new Fault("reason", "say why the house is stricter");
        if (Tightens == Tightening.Never)
            return new Fault("limit", $"“{What}” is no matter of strictness; it stands as it is");
        if (!double.IsFinite(limit.Value) || limit.Value <= 0)
            return new Fault("value", "must be greater than 0");
        if (limit.Unit.Dimension != Unit.Dimension)
            return new Fault("unit", $"“{limit.Unit.Symbol}” does not measure “{What}”");
        var (own, theirs) = (Shipped, limit.Bound);
        if (Tightens == Tightening.Down ? theirs.Si < own.Si : theirs.Si > own.Si)
            return null;
        var (house, shipped) = (QuantityText.Show(theirs, Unit), QuantityText.Show(own, Unit));
        return new Fault(
            "value",
            theirs.Si == own.Si
                ? $"{house} is the rule as it stands; a house figure must be stricter"
                : $"{house} would loosen {shipped}; a house figure may only tighten"
        );
    }
}

/// <summary>A versioned set of <see cref="Threshold"/>s: read-only like a pack, tightened like a pack.</summary>
/// <param name="Check">The caution that stands over it.</param>
public sealed record ThresholdTable(
    string Id,
    string Version,
    string Title,
    string Edition,
    string Country,
    string Check,
    ImmutableArray<Threshold> Thresholds
)
{
    /// <summary>Counts the changes of the organisation's figures; 0 where none apply.</summary>
    [JsonIgnore]
    public int HouseRevision { get; init; }

    /// <summary>"1.0.0", "1.0.0+house.3".</summary>
    [JsonIgnore]
    public string FullVersion => HouseRevision == 0 ? Version : $"{Version}+house.{HouseRevision}";

    [JsonIgnore]
    public string FullName => $"{Title}, {Edition}";

    /// <summary>The row with exactly this id, or null.</summary>
    public Threshold? Find(string id) => Thresholds.FirstOrDefault(row => row.Id == id);

    /// <summary>The figure in force. A missing row, or one that measures something else, is a fault of the shipped file and
    /// throws.</summary>
    internal Quantity Of(string id, Dimension dimension) =>
        Find(id) is { } row && row.InForce.Dimension == dimension
            ? row.InForce
            : throw new InvalidOperationException($"{Id} {Version} has no figure “{id}” in {dimension}.");

    /// <returns>The table with one row tightened, or why not.</returns>
    public Result<ThresholdTable> Tighten(HouseLimit limit)
    {
        if (Find(limit.RuleId) is not { } row)
            return new Fault("limit", $"{Id} has no figure “{limit.RuleId}”");
        if (row.House is not null)
            return new Fault("limit", $"“{limit.RuleId}” is tightened twice");
        return row.Refusal(limit) is { } refused ? refused : this with { Thresholds = Thresholds.Replace(row, row with { House = limit }) };
    }

    /// <returns>The table, or the first thing that is wrong with the text.</returns>
    public static Result<ThresholdTable> Read(string json)
    {
        try
        {
            var table = JsonSerializer.Deserialize(json, JsonRules.File.Of<ThresholdTable>());
            if (table is null || table.Thresholds.IsDefaultOrEmpty)
                return new Fault("thresholds", "must hold at least one figure");
            var twice = table.Thresholds.GroupBy(row => row.Id).FirstOrDefault(rows => rows.Count() > 1);
            return twice is null ? table : new Fault("thresholds", $"“{twice.Key}” stands twice");
        }
        catch (JsonException broken)
        {
            return JsonFault.Of(broken);
        }
    }

    /// <summary>The JSON schema that the files follow, worked out from these types.</summary>
    public static string Schema() =>
        JsonRules
            .File.GetJsonSchemaAsNode(
                typeof(ThresholdTable),
                new() { TreatNullObliviousAsNonNullable = true, TransformSchemaNode = Described }
            )
            .ToJsonString();

    /// <summary>The exporter cannot look into converters.</summary>
    private static JsonNode Described(JsonSchemaExporterContext context, JsonNode made) =>
        context.TypeInfo.Type == typeof(Unit) ? SchemaWords.Of(Unit.All.Select(unit => unit.Symbol))
        : context.TypeInfo.Type == typeof(Tightening) ? SchemaWords.Of(Words.Listed(typeof(Tightening)))
        : made;
}

/// <summary>A unit by its contract symbol.</summary>
public sealed class UnitConverter : JsonConverter<Unit>
{
    public override Unit Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.String && Unit.Find(reader.GetString()!) is { } unit
            ? unit
            : throw new JsonException("is not a unit");

    public override void Write(Utf8JsonWriter writer, Unit value, JsonSerializerOptions options) => writer.WriteStringValue(value.Symbol);
}
