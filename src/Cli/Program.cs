using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using Osierwand.Core.Contracts;

namespace Osierwand.Cli;

/// <summary>osierwand VERB: reads a JSON array of requests on standard input, writes a JSON array of answers in the same order.</summary>
internal static class Program
{
    private const int Understood = 0;
    private const int NotUnderstood = 2;

    private static async Task<int> Main(string[] args)
    {
        if (args is ["assess", "--csv", var file]) return await SheetCommand.Run(file);
        if (args is not [var verb] || !Contract.Verbs.Contains(verb))
        {
            await Console.Error.WriteLineAsync($"usage: osierwand {string.Join('|', Contract.Verbs)} < requests.json > answers.json\n       osierwand assess --csv READINGS.csv > VERDICTS.csv");
            return NotUnderstood;
        }
        await using var output = new BufferedStream(Console.OpenStandardOutput(), 1 << 16);
        await using var input = Console.OpenStandardInput();
        return await Answer(verb, input, output);
    }

    /// <summary>Streams: one request is held at a time, whatever the length of the array.</summary>
    private static async Task<int> Answer(string verb, Stream input, Stream output)
    {
        // Signs such as Ω and ≤ stay readable; nothing here ends up in HTML.
        await using var writer = new Utf8JsonWriter(output, new JsonWriterOptions { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping });
        var (exit, count) = (Understood, 0);
        writer.WriteStartArray();
        try
        {
            await foreach (var request in JsonSerializer.DeserializeAsyncEnumerable(input, RequestJson.Default.JsonElement))
            {
                if (!Contract.Answer(verb, request, writer)) exit = NotUnderstood;
                count++;
                if (writer.BytesPending > 1 << 15) await writer.FlushAsync();
            }
        }
        catch (JsonException broken)
        {
            // What was understood has been answered; the rest cannot be told apart.
            writer.WriteStartObject();
            writer.WriteNull("id");
            writer.WriteStartObject("error");
            writer.WriteString("path", $"[{count}]");
            writer.WriteString("message", $"the input is not a JSON array of requests from here on: {broken.Message}");
            writer.WriteEndObject();
            writer.WriteEndObject();
            exit = NotUnderstood;
        }
        writer.WriteEndArray();
        await writer.FlushAsync();
        await output.WriteAsync("\n"u8.ToArray());
        return exit;
    }
}

[JsonSerializable(typeof(JsonElement))]
internal sealed partial class RequestJson : JsonSerializerContext;
