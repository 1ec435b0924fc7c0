using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Intervals;
using Osierwand.Core.Isolation;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>An item in the exchange contract's own words.</summary>
public sealed class ItemConverter : JsonConverter<Item>
{
    public override Item Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        using var document = JsonDocument.ParseValue(ref reader);
        try
        {
            return ItemReader.Read(document.RootElement);
        }
        catch (FaultException fault)
        {
            throw new JsonException(fault.Fault.ToString());
        }
    }

    public override void Write(Utf8JsonWriter writer, Item value, JsonSerializerOptions options) => ItemJson.Write(value, writer);
}

/// <summary>Earlier inspections: date, item as it was, and readings in the contract's words.</summary>
public sealed class HistoryConverter : JsonConverter<ImmutableArray<PastInspection>>
{
    public override ImmutableArray<PastInspection> Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        using var document = JsonDocument.ParseValue(ref reader);
        try
        {
            return JsonWalk.List(document.RootElement, One);
        }
        catch (FaultException fault)
        {
            throw new JsonException(fault.Fault.ToString());
        }
    }

    private static PastInspection One(JsonElement element)
    {
        var (date, afterRepair, item) = (default(DateOnly), false, default(Item));
        ImmutableArray<Reading> readings = [];
        JsonWalk.Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "date":
                        date = JsonWalk.Date(value);
                        break;
                    case "afterRepair":
                        afterRepair = JsonWalk.Boolean(value);
                        break;
                    case "item":
                        item = ItemReader.Read(value);
                        break;
                    case "readings":
                        readings = JsonWalk.List(value, reading => ReadingReader.Read(reading, item));
                        break;
                    default:
                        throw JsonWalk.Unknown(name);
                }
            }
        );
        return new(date, afterRepair, readings) { Item = item };
    }

    public override void Write(Utf8JsonWriter writer, ImmutableArray<PastInspection> value, JsonSerializerOptions options)
    {
        writer.WriteStartArray();
        foreach (var past in value)
        {
            writer.WriteStartObject();
            writer.WriteString("date", past.Date.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture));
            writer.WriteBoolean("afterRepair", past.AfterRepair);
            if (past.Item is { } item)
            {
                writer.WritePropertyName("item");
                ItemJson.Write(item, writer);
            }
            writer.WriteStartArray("readings");
            foreach (var reading in past.Readings)
                ReadingJson.Write(reading, writer);
            writer.WriteEndArray();
            writer.WriteEndObject();
        }
        writer.WriteEndArray();
    }
}

/// <summary>The bench at its border, the same on every host: generated, so that it also runs trimmed in the browser.</summary>
[JsonSourceGenerationOptions(
    GenerationMode = JsonSourceGenerationMode.Metadata,
    PropertyNamingPolicy = JsonKnownNamingPolicy.CamelCase,
    UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    AllowOutOfOrderMetadataProperties = true,
    RespectNullableAnnotations = true,
    Converters = [
        typeof(WordConverter<ReadingSource>),
        typeof(WordConverter<NotTestedReason>),
        typeof(WordConverter<ItemState>),
        typeof(WordConverter<ClassEvidence>),
        typeof(WordConverter<Test>),
        typeof(WordConverter<Scope>),
        typeof(WordConverter<School>),
        typeof(WordConverter<DecisionRule>),
        typeof(WordConverter<ClassIIPolicy>),
        typeof(WordConverter<NewItemPolicy>),
        typeof(WordConverter<LeakagePolicy>),
        typeof(WordConverter<LeakageMethod>),
        typeof(WordConverter<MedicalInsulationPolicy>),
        typeof(WordConverter<HardWiredPolicy>),
        typeof(WordConverter<FixingsPolicy>),
        typeof(WordConverter<AccessLevel>),
        typeof(WordConverter<InletType>),
        typeof(WordConverter<CareNeed>),
        typeof(WordConverter<AppliedPartType>),
        typeof(WordConverter<KitKind>),
        typeof(WordConverter<KitFitness>),
        typeof(WordConverter<InstallationCategory>),
        typeof(WordConverter<Competence>),
        typeof(WordConverter<Side>),
        typeof(WordConverter<IndicatorKind>),
        typeof(WordConverter<ProvingSource>),
        typeof(WordConverter<PermanentLeakagePolicy>),
        typeof(WordConverter<Place>),
        typeof(WordConverter<Usage>),
        typeof(WordConverter<Moved>),
        typeof(WordConverter<Users>),
        typeof(WordConverter<Verdict>),
        typeof(WordConverter<LookAnswer>),
        typeof(WordConverter<ConductorFault>),
        typeof(WordConverter<Status>),
        typeof(WordConverter<Evaluation>),
        typeof(WordConverter<UseOf>),
        typeof(WordConverter<PlugType>),
        typeof(WordConverter<MainsSwitch>),
        typeof(WordConverter<StepFamily>),
        typeof(WordConverter<Standing>),
        typeof(WordConverter<StepAction>),
        typeof(WordConverter<AheadKind>),
        typeof(WordConverter<HazardKind>),
        typeof(WordConverter<FarEnd>),
        typeof(WordConverter<Doing>),
        typeof(WordConverter<EndKind>),
        typeof(WordConverter<DecidedBy>),
        typeof(WordConverter<Outcome>),
        typeof(WordConverter<Look>),
        typeof(WordConverter<ItemKind>),
        typeof(WordConverter<ProtectionClass>),
    ]
)]
[JsonSerializable(typeof(Ruling))]
[JsonSerializable(typeof(ImmutableArray<HouseRuling>))]
[JsonSerializable(typeof(List<BenchEvent>))]
[JsonSerializable(typeof(BenchEvent))]
[JsonSerializable(typeof(BenchView))]
[JsonSerializable(typeof(BenchState.Digest))]
internal sealed partial class BenchContext : JsonSerializerContext;

/// <summary>Rulings, events and views as JSON.</summary>
public static class BenchJson
{
    /// <summary>Earlier inspections with their readings, in the contract's words.</summary>
    public static string Write(ImmutableArray<PastInspection> past)
    {
        using var buffer = new MemoryStream(1024);
        using (var writer = new Utf8JsonWriter(buffer))
            new HistoryConverter().Write(writer, past, BenchContext.Default.Options);
        return System.Text.Encoding.UTF8.GetString(buffer.GetBuffer(), 0, (int)buffer.Length);
    }

    /// <returns>What <see cref="Write(ImmutableArray{PastInspection})"/> wrote. What this version cannot read gives a fault, never a
    /// guess.</returns>
    public static Result<ImmutableArray<PastInspection>> ReadPast(string json)
    {
        try
        {
            var reader = new Utf8JsonReader(System.Text.Encoding.UTF8.GetBytes(json));
            reader.Read();
            return new HistoryConverter().Read(ref reader, typeof(ImmutableArray<PastInspection>), BenchContext.Default.Options);
        }
        catch (JsonException broken)
        {
            return new Fault(broken.Path ?? "", broken.Message);
        }
    }

    public static string Write(BenchEvent it) => JsonSerializer.Serialize(it, BenchContext.Default.BenchEvent);

    internal static byte[] Bytes(Ruling ruling) => JsonSerializer.SerializeToUtf8Bytes(ruling, BenchContext.Default.Ruling);

    internal static byte[] Bytes(ImmutableArray<HouseRuling> house) =>
        JsonSerializer.SerializeToUtf8Bytes(house, BenchContext.Default.ImmutableArrayHouseRuling);

    internal static byte[] Bytes(BenchState.Digest digest) => JsonSerializer.SerializeToUtf8Bytes(digest, BenchContext.Default.Digest);

    public static string Write(Ruling ruling) => JsonSerializer.Serialize(ruling, BenchContext.Default.Ruling);

    public static string Write(IReadOnlyList<BenchEvent> events) =>
        JsonSerializer.Serialize([.. events], BenchContext.Default.ListBenchEvent);

    public static string Write(BenchView view) => JsonSerializer.Serialize(view, BenchContext.Default.BenchView);

    /// <returns>The ruling, or what is wrong with the text.</returns>
    public static Result<Ruling> ReadRuling(string json) => Understood(() => JsonSerializer.Deserialize(json, BenchContext.Default.Ruling));

    /// <returns>The events, or what is wrong with the text. Unknown kinds and properties are refused, and so is a null in a list.</returns>
    public static Result<List<BenchEvent>> ReadEvents(string json)
    {
        var read = Understood(() => JsonSerializer.Deserialize(json, BenchContext.Default.ListBenchEvent));
        if (read.Fault is not null)
            return read;
        var at = read.Value.FindIndex(HasNull);
        return at < 0 ? read : new Fault($"$[{at}]", "holds a null where a value belongs");
    }

    private static bool HasNull(BenchEvent? it) =>
        it switch
        {
            null => true,
            Looked look => look.Points.Contains(null!),
            OutletChecked outlet => outlet.Voltages.Contains(null!),
            CircuitSummed circuit => circuit.Items.Contains(null!),
            FactsChanged { Changes: var facts } => (facts.EarthedParts ?? []).Contains(null!)
                || (facts.UnearthedParts ?? []).Contains(null!)
                || (facts.PartPlates ?? []).Contains(null!)
                || (facts.AppliedParts ?? []).Contains(null!)
                || (facts.Accessories ?? []).Contains(null!)
                || facts.Defibrillator is { SettingsJ: null }
                || facts.MakerAsks is { Limits: null }
                || facts.MakerAsks is { Checks: null }
                || (facts.MakerAsks?.Limits ?? []).Contains(null!)
                || (facts.MakerAsks?.Checks ?? []).Contains(null!),
            ReadingTaken { Waveform: { } wave } => wave.Values is null || wave.Of is null || wave.Unit is null || wave.EveryUnit is null,
            _ => false,
        };

    private static Result<T> Understood<T>(Func<T?> read)
        where T : class
    {
        try
        {
            return read() is { } value ? value : new Fault("", "is null");
        }
        catch (JsonException broken)
        {
            return new Fault(broken.Path ?? "", broken.Message);
        }
        catch (NotSupportedException unknown)
        {
            return new Fault("", unknown.Message);
        }
    }
}
