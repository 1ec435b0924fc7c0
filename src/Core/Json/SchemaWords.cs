using System.Text.Json.Nodes;

namespace Osierwand.Core.Json;

/// <summary>Lists of words in a JSON schema, where a converter hides them from the exporter.</summary>
internal static class SchemaWords
{
    public static JsonObject Of(IEnumerable<string> words) =>
        new() { ["enum"] = new JsonArray([.. words.Select(word => (JsonNode)JsonValue.Create(word))]) };
}
