using System.Collections.Frozen;
using System.Text.Json;
using Osierwand.Core.Json;

namespace Osierwand.Core.Contracts;

/// <summary>
/// The exchange contract: one JSON request in, one JSON answer out. The command line and <c>POST /api/v1/VERB</c> both speak it;
/// docs/contract.md describes it.
/// </summary>
public static class Contract
{
    /// <summary>Reads a request and gives back what writes its answer. Reading and computing come first, so that a fault leaves nothing
    /// half-written.</summary>
    private delegate Action<Utf8JsonWriter> Verb(JsonElement request);

    private static readonly FrozenDictionary<string, Verb> ByName = new Dictionary<string, Verb>
    {
        ["assess"] = AssessVerb.Answer,
        ["plan"] = PlanVerb.Answer,
        ["interval"] = IntervalVerb.Answer,
        ["diagnose"] = DiagnoseVerb.Answer,
        ["class"] = ClassVerb.Answer,
        ["evidence"] = EvidenceVerb.Answer,
        ["cord"] = CordVerb.Answer,
        ["installation"] = InstallationVerb.Answer,
        ["bench"] = BenchVerb.Answer,
    }.ToFrozenDictionary();

    public static IReadOnlyList<string> Verbs { get; } =
    ["assess", "plan", "interval", "diagnose", "class", "evidence", "cord", "installation", "bench"];

    /// <summary>
    /// Answers one request. A request that is not understood is answered with <c>{"id", "error": {"path", "message"}}</c>, naming the first
    /// offending place in document order.
    /// </summary>
    /// <param name="verb">One of <see cref="Verbs"/>.</param>
    /// <returns>False when the request was not understood.</returns>
    public static bool Answer(string verb, JsonElement request, Utf8JsonWriter writer)
    {
        if (!ByName.TryGetValue(verb, out var its))
            throw new ArgumentException($"There is no verb “{verb}”.", nameof(verb));
        Action<Utf8JsonWriter> write;
        var understood = true;
        try
        {
            write = its(request);
        }
        catch (FaultException fault)
        {
            (understood, write) = (false, error => Write(fault.Path, fault.Message, error));
        }
        catch (Exception unforeseen) when (unforeseen is ArithmeticException or ArgumentException or InvalidOperationException)
        {
            // Whatever is wrong with one request, the others of its batch are answered.
            (understood, write) = (false, error => Write("", "this request could not be worked out; the others are answered", error));
        }
        writer.WriteStartObject();
        writer.WritePropertyName("id");
        if (IsWhole(request, out var id))
            id.WriteTo(writer);
        else
            writer.WriteNullValue();
        write(writer);
        writer.WriteEndObject();
        return understood;
    }

    private static void Write(string path, string message, Utf8JsonWriter writer)
    {
        writer.WriteStartObject("error");
        writer.WriteString("path", path);
        writer.WriteString("message", message);
        writer.WriteEndObject();
    }

    /// <summary>An id that can be sent back: half a character cannot.</summary>
    private static bool IsWhole(JsonElement request, out JsonElement id)
    {
        id = default;
        if (request.ValueKind != JsonValueKind.Object || !request.TryGetProperty("id", out id))
            return false;
        try
        {
            return id.ValueKind != JsonValueKind.String || id.GetString() is not null;
        }
        catch (InvalidOperationException)
        {
            return false;
        }
    }
}
