using System.Text.Json;
using System.Text.Json.Serialization;

namespace Osierwand.Core.Json;

/// <summary>An enumeration by its contract word.</summary>
public sealed class WordConverter<T> : JsonConverter<T>
    where T : struct, Enum
{
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.String && Words.Find<T>(reader.GetString()!) is { } value
            ? value
            : throw new JsonException($"must be one of {Words.AllOf<T>()}");

    public override T ReadAsPropertyName(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        Words.Find<T>(reader.GetString()!) ?? throw new JsonException($"must be one of {Words.AllOf<T>()}");

    public override void WriteAsPropertyName(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
        writer.WritePropertyName(Words.Of(value));

    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteStringValue(Words.Of(value));
}
