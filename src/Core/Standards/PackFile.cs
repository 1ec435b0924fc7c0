using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>A pack as it stands in its file. What it means is <see cref="RulePack"/>; see <see cref="PackReader"/>.</summary>
/// <param name="Version">Of this file, not of the standard.</param>
/// <param name="ScaleTo">Leakage is scaled to nominal mains times this.</param>
/// <param name="PowerOffIsACondition">"Device off" is a condition of its own, powered at the outlet.</param>
/// <param name="Includes">Names of shared tables; their rows come after the pack's own.</param>
/// <param name="Words">The trade's words where the standard is at home: ours, in small letters, to theirs.</param>
internal sealed record PackFile(
    string Id,
    string Version,
    string Title,
    string ShortName,
    string Edition,
    string Country,
    PackScope Scope,
    double NominalMainsV,
    double MainsHz,
    IReadOnlyList<LimitRow> Limits,
    IReadOnlyList<SeriesRow> Series,
    double ScaleTo = 1,
    bool PowerOffIsACondition = false,
    IReadOnlyList<string>? Includes = null,
    IReadOnlyList<FlexRow>? Flex = null,
    double? ShortFlexM = null,
    IReadOnlyList<LeadLengthRow>? LeadLengths = null,
    FuseRow? Fuse = null,
    EarthCurrentRow? EarthCurrent = null,
    string? FlexedAt = null,
    IReadOnlyDictionary<Place, Period>? CombinedMonthsByPlace = null,
    RcdIntervalRows? RcdIntervals = null,
    IReadOnlyDictionary<string, string>? Words = null,
    [property: JsonPropertyName("$schema")] string? Schema = null
);

/// <summary>What several packs share.</summary>
internal sealed record SharedTable(
    IReadOnlyList<LimitRow>? Limits = null,
    IReadOnlyList<SeriesRow>? Series = null,
    IReadOnlyList<FlexRow>? Flex = null,
    double? ShortFlexM = null
);

/// <summary>One limit. Its numbers are in its unit; it has either a value or one formula.</summary>
/// <param name="OwnUpTo">Of an RCD's trip time: as far as the device's own product standard may allow more.</param>
/// <param name="PlusConductor">The value plus the resistance of the flex's protective conductor.</param>
/// <param name="NoTripWithin">The RCD must stay closed for this long.</param>
internal sealed record LimitRow(
    string Id,
    string What,
    Test Test,
    [property: JsonConverter(typeof(ComparatorConverter))] Comparator Comparator,
    [property: JsonConverter(typeof(UnitConverter))] Unit Unit,
    string Clause,
    ItemPattern? Item = null,
    ReadingPattern? Reading = null,
    double? Value = null,
    double? OwnUpTo = null,
    bool PlusConductor = false,
    PerLengthRow? PerLength = null,
    PerKilowattRow? PerKilowatt = null,
    WithinRow? Within = null,
    double? NoTripWithin = null,
    string? Remark = null
);

/// <summary>A base up to a length, a step more for each further stretch begun, and a ceiling.</summary>
internal sealed record PerLengthRow(double Base, double UpToM, double StretchM, double Step, double Ceiling);

/// <summary>So much per kilowatt of rated power, with a floor and a ceiling.</summary>
internal sealed record PerKilowattRow(double Value, double Ceiling, double? Floor = null);

/// <summary>Within the greater of an amount and a fraction of the set value.</summary>
internal sealed record WithinRow(double Floor, double Fraction);

/// <summary>One run of measurements; see <see cref="Standards.Series"/>.</summary>
internal sealed record SeriesRow(
    Test Test,
    ItemPattern? Item = null,
    ReadingPattern? Reading = null,
    ReadingPattern? Accepts = null,
    IReadOnlyList<ReadingPattern>? Each = null,
    ReadingPattern? Satisfied = null,
    Need Need = Need.Required,
    string? Group = null,
    Repeat Repeat = Repeat.Once,
    bool Planned = true,
    bool Powered = false,
    AskedBy AskedBy = AskedBy.Pack
);

internal sealed record FlexRow(double Mm2, double MilliohmPerMetre, double? CarriesA = null, double? CarriesShortA = null);

internal sealed record LeadLengthRow(double Mm2, double UpToM, string? Remark = null);

internal sealed record FuseRow(
    double SmallUpToW,
    double SmallA,
    double LargeA,
    double ThinFlexMm2,
    double ThinFlexMostA,
    double LargestMadeA
);

internal sealed record EarthCurrentRow(
    double? DecidesFromA = null,
    double? AdvisedFromA = null,
    double? TimesRated = null,
    double? OpenAtMostV = null
);

internal sealed record RcdIntervalRows(RcdInterval Usual, IReadOnlyDictionary<Place, RcdInterval> ByPlace);

/// <summary>"&lt;=", "&gt;=", "&lt;" or "within".</summary>
internal sealed class ComparatorConverter : JsonConverter<Comparator>
{
    internal static readonly string[] Written = ["<=", ">=", "<", "within"];

    public override Comparator Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.String && Array.IndexOf(Written, reader.GetString()) is >= 0 and var at
            ? (Comparator)at
            : throw new JsonException($"must be one of {string.Join(" | ", Written)}");

    public override void Write(Utf8JsonWriter writer, Comparator value, JsonSerializerOptions options) =>
        writer.WriteStringValue(Written[(int)value]);
}

/// <summary>A list of words of one enumeration; at least one, as an empty list would match everything.</summary>
internal sealed class WordSetConverter<T> : JsonConverter<SetOf<T>>
    where T : struct, Enum
{
    public override SetOf<T> Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.StartArray)
            throw new JsonException("must be a list");
        var values = new List<T>();
        while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
        {
            var word = reader.TokenType == JsonTokenType.String ? reader.GetString()! : throw new JsonException("must hold words alone");
            values.Add(Words.Find<T>(word) ?? throw new JsonException($"“{word}” is not one of {Words.AllOf<T>()}"));
        }
        return values.Count > 0 ? SetOf<T>.Of([.. values]) : throw new JsonException("must name at least one");
    }

    public override void Write(Utf8JsonWriter writer, SetOf<T> value, JsonSerializerOptions options)
    {
        writer.WriteStartArray();
        foreach (var each in Enum.GetValues<T>())
            if (!value.IsAny && value.Has(each))
                writer.WriteStringValue(Words.Of(each));
        writer.WriteEndArray();
    }
}

/// <summary>The JSON schema of pack files, worked out from the types that read them.</summary>
internal static class PackSchema
{
    public static string Text() =>
        JsonRules
            .File.GetJsonSchemaAsNode(typeof(PackFile), new() { TreatNullObliviousAsNonNullable = true, TransformSchemaNode = Described })
            .ToJsonString();

    /// <summary>The exporter cannot look into converters.</summary>
    private static JsonNode Described(JsonSchemaExporterContext context, JsonNode made)
    {
        var type = Nullable.GetUnderlyingType(context.TypeInfo.Type) ?? context.TypeInfo.Type;
        if (context.Path.IsEmpty && made is JsonObject root)
        {
            root.Insert(0, "title", "Osierwand rule pack");
            root.Insert(1, "description", Promise);
        }
        if (type == typeof(Unit))
            return SchemaWords.Of(Unit.All.Select(unit => unit.Symbol));
        if (type == typeof(Comparator))
            return SchemaWords.Of(ComparatorConverter.Written);
        if (type == typeof(Period))
            return new JsonObject { ["type"] = "number", ["exclusiveMinimum"] = 0 };
        if (type.IsEnum)
            return SchemaWords.Of(Core.Words.Listed(type));
        return type.IsGenericType && type.GetGenericTypeDefinition() == typeof(SetOf<>)
            ? new JsonObject
            {
                ["type"] = "array",
                ["minItems"] = 1,
                ["items"] = SchemaWords.Of(Core.Words.Listed(type.GetGenericArguments()[0])),
            }
            : made;
    }

    private const string Promise =
        "One standard as data. A pack that misses a member, names something unknown or contradicts itself does not load; the message "
        + "names the place. Beyond this schema rows are refused that could never be used, limits that compare the wrong way round, and "
        + "requirements that no limit judges.";
}
