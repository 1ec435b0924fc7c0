using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Forms;

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

/// <summary>An earlier inspection: date, item as it was, and readings in the contract's words.</summary>
public sealed class PastInspectionConverter : JsonConverter<PastInspection>
{
    public override PastInspection Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        using var document = JsonDocument.ParseValue(ref reader);
        try
        {
            return One(document.RootElement);
        }
        catch (FaultException fault)
        {
            throw new JsonException(fault.Fault.ToString());
        }
    }

    /// <summary>A null in a list of them is refused by the reader, not passed over.</summary>
    public override bool HandleNull => true;

    private static PastInspection One(JsonElement element)
    {
        var (date, afterRepair, isClean, item) = (default(DateOnly), false, true, default(Item));
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
                    case "clean":
                        isClean = JsonWalk.Boolean(value);
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
        return new(date, afterRepair, readings) { Item = item, IsClean = isClean };
    }

    public override void Write(Utf8JsonWriter writer, PastInspection value, JsonSerializerOptions options)
    {
        writer.WriteStartObject();
        writer.WriteString("date", value.Date.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture));
        writer.WriteBoolean("afterRepair", value.AfterRepair);
        if (!value.IsClean)
            writer.WriteBoolean("clean", false);
        if (value.Item is { } item)
        {
            writer.WritePropertyName("item");
            ItemJson.Write(item, writer);
        }
        writer.WriteStartArray("readings");
        foreach (var reading in value.Readings)
            ReadingJson.Write(reading, writer);
        writer.WriteEndArray();
        writer.WriteEndObject();
    }
}
