using System.Text.Encodings.Web;
using System.Text.Json;
using Osierwand.Core.Contracts;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;

namespace Osierwand.Server.Exchange;

/// <summary>The command line's contract over HTTP: a JSON array of requests in, the answers in the same order out.</summary>
internal static class ContractEndpoints
{
    private const int MostRequests = 10_000;

    public static void MapContract(this RouteGroupBuilder api)
    {
        foreach (var verb in Contract.Verbs)
        {
            api.MapPost(
                    $"/{verb}",
                    (JsonElement requests, HttpResponse response, CancellationToken cancel) => Answer(verb, requests, response, cancel)
                )
                .For(Access.Worker)
                .TakesUpTo(Limits.ContractBody)
                .WithTags("Contract")
                .WithName(verb)
                .Produces<JsonElement[]>()
                .ProducesProblem(StatusCodes.Status400BadRequest);
        }
    }

    /// <summary>Always 200 for an array: a request that was not understood has its error in its own answer, the others are
    /// answered.</summary>
    private static async Task Answer(string verb, JsonElement requests, HttpResponse response, CancellationToken cancel)
    {
        if (requests.ValueKind != JsonValueKind.Array || requests.GetArrayLength() > MostRequests)
        {
            await Refusals
                .Of(
                    StatusCodes.Status400BadRequest,
                    "The request was not understood.",
                    $"Send a JSON array of at most {MostRequests} requests."
                )
                .ExecuteAsync(response.HttpContext);
            return;
        }
        response.ContentType = "application/json";
        await using var writer = new Utf8JsonWriter(response.BodyWriter, new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping });
        writer.WriteStartArray();
        foreach (var request in requests.EnumerateArray())
        {
            // Whoever has gone away is not worked for.
            cancel.ThrowIfCancellationRequested();
            Contract.Answer(verb, request, writer);
        }
        writer.WriteEndArray();
        await writer.FlushAsync(cancel);
    }
}
