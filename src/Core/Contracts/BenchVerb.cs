using System.Text.Json;
using Osierwand.Core.Bench;
using Osierwand.Core.Json;

namespace Osierwand.Core.Contracts;

/// <summary>Ruling and events in, the state of the bench out: the engine as the server and the browser run it.</summary>
internal static class BenchVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        string? ruling = null,
            events = "[]";
        JsonWalk.Properties(
            request,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        break;
                    case "ruling":
                        ruling = value.GetRawText();
                        break;
                    case "events":
                        events = value.GetRawText();
                        break;
                    default:
                        throw JsonWalk.Unknown(name);
                }
            }
        );
        var laid = Read(BenchJson.ReadRuling(ruling ?? throw JsonWalk.Missing("ruling")), "ruling");
        if (laid.Refusal() is { } refusal)
            throw new FaultException("ruling", refusal);
        var view = new BenchSession(laid, Read(BenchJson.ReadEvents(events), "events")).View();
        return writer =>
        {
            writer.WritePropertyName("view");
            writer.WriteRawValue(BenchJson.Write(view));
        };
    }

    private static T Read<T>(Result<T> result, string path) =>
        result.Fault is { } fault
            ? throw new FaultException(fault.Path.Length == 0 ? path : $"{path}{fault.Path.TrimStart('$')}", fault.Message)
            : result.Value;
}
