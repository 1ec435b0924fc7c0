using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Osierwand.Bench.Shared;
using Osierwand.Core.Bench;

namespace Osierwand.Bench.Books;

/// <summary>Benches that save and save again until they know, while whatever is under them is killed.</summary>
internal static class Writing
{
    private static readonly SemaphoreSlim OnePen = new(1);

    public static async Task<int> RunAsync(Uri url, string file, int writers)
    {
        var (stored, repeated, unknown) = (0, 0, 0);
        await using var told = new StreamWriter(file) { AutoFlush = true };
        await Task.WhenAll(
            Enumerable
                .Range(0, writers)
                .Select(async n =>
                {
                    using var client = new HttpClient { BaseAddress = url, Timeout = TimeSpan.FromSeconds(15) };
                    var (item, round) = (Guid.Empty, Guid.Empty);
                    while (!File.Exists($"{file}.stop"))
                    {
                        try
                        {
                            if (item == Guid.Empty)
                                (item, round) = await BeginAsync(client, n);
                            var ruling = BenchJson.ReadRuling(await client.GetStringAsync($"/api/v1/bench/{item}?round={round}")).Value;
                            var events = Work.Good(ruling);
                            var body = new
                            {
                                id = Guid.NewGuid(),
                                roundId = round,
                                ruling = ruling.Fingerprint,
                                state = BenchState.Of(ruling, events).Fingerprint,
                                events = JsonDocument.Parse(BenchJson.Write(events)).RootElement,
                                end = "pass",
                            };
                            // As a bench does: the same save again until it is known.
                            for (var attempt = 0; attempt < 200; attempt++)
                            {
                                var status = await SaveAsync(client, item, body);
                                if (status == HttpStatusCode.OK)
                                {
                                    Interlocked.Increment(ref stored);
                                    if (attempt > 0)
                                        Interlocked.Increment(ref repeated);
                                    await OnePen.WaitAsync();
                                    await told.WriteLineAsync(body.id.ToString());
                                    OnePen.Release();
                                    break;
                                }
                                if (status is HttpStatusCode.Conflict or HttpStatusCode.UnprocessableEntity)
                                    break;
                                if (status == HttpStatusCode.Unauthorized)
                                    await SignInAsync(client, n);
                                Interlocked.Increment(ref unknown);
                                await Task.Delay(250);
                            }
                        }
                        catch (Exception away) when (away is HttpRequestException or TaskCanceledException or JsonException)
                        {
                            await Task.Delay(250);
                        }
                    }
                })
        );
        Console.WriteLine($"{stored} saves answered as stored, {repeated} of them after repeating, {unknown} answers lost or unknown");
        return stored > 0 ? 0 : 1;
    }

    private static async Task<HttpStatusCode?> SaveAsync(HttpClient client, Guid item, object body)
    {
        try
        {
            using var answer = await client.PostAsJsonAsync($"/api/v1/bench/{item}/inspections", body);
            return answer.StatusCode;
        }
        catch (Exception away) when (away is HttpRequestException or TaskCanceledException)
        {
            return null;
        }
    }

    private static async Task SignInAsync(HttpClient client, int n)
    {
        using var entered = await client.PostAsync($"/api/v1/people/demo-sign-in?userName={(n % 2 == 0 ? "ida" : "rufus")}", null);
    }

    /// <summary>Where nobody walks one: at the first client's first site.</summary>
    private static async Task OpenRoundAsync(HttpClient client, int n)
    {
        using var lead = await client.PostAsync("/api/v1/people/demo-sign-in?userName=maud", null);
        var form = await client.GetFromJsonAsync<JsonElement>("/api/v1/rounds/form");
        var owner = form.GetProperty("clients")[0];
        using var opened = await client.PostAsJsonAsync(
            "/api/v1/rounds",
            new
            {
                clientCode = owner.GetProperty("code").GetString(),
                clientName = owner.GetProperty("name").GetString(),
                site = owner.GetProperty("sites")[0].GetProperty("name").GetString(),
                name = "Load",
                standardId = form.GetProperty("standards")[0].GetProperty("id").GetString(),
                medicalStandardId = (string?)null,
                endsOn = DateTime.UtcNow.AddDays(3).ToString("yyyy-MM-dd"),
            }
        );
        opened.EnsureSuccessStatusCode();
        await SignInAsync(client, n);
    }

    /// <summary>What a house does that comes from a version without kit and competences: a lead takes an instrument in and says who is
    /// competent, everybody chooses a kit. Where it is so already nothing is done.</summary>
    private static async Task ReadyAsync(HttpClient client, int n)
    {
        if ((await client.GetFromJsonAsync<JsonElement>("/api/v1/kit")).GetProperty("until").ValueKind == JsonValueKind.String)
            return;
        using (await client.PostAsync("/api/v1/people/demo-sign-in?userName=maud", null))
        {
            var page = await client.GetFromJsonAsync<JsonElement>("/api/v1/people/competences");
            foreach (var person in page.GetProperty("people").EnumerateArray().Where(it => it.GetProperty("held").GetArrayLength() == 0))
            {
                var held = new[] { new { competence = "plugIn", evidence = "at work here before competences were kept" } };
                using var set = await client.PostAsJsonAsync(
                    $"/api/v1/people/{person.GetProperty("personId").GetString()}/competences",
                    new { held }
                );
                set.EnsureSuccessStatusCode();
            }
            // Another bench may have taken it in a moment before: then the name is known, and that is as good.
            using var taken = await client.PostAsJsonAsync("/api/v1/kit", Tester);
        }
        await SignInAsync(client, n);
        var kit = (await client.GetFromJsonAsync<JsonElement>("/api/v1/kit")).GetProperty("items").EnumerateArray();
        var tester = kit.First(it => it.GetProperty("name").GetString() == TesterName).GetProperty("id").GetGuid();
        using var chosen = await client.PostAsJsonAsync("/api/v1/kit/today", new { items = new[] { tester } });
        chosen.EnsureSuccessStatusCode();
    }

    private const string TesterName = "Tester of the load";

    private static readonly object Tester = new
    {
        kind = "instrument",
        name = TesterName,
        calibrationDue = "2099-01-01",
        nullsItself = true,
        accuracies = Array.Empty<object>(),
        statedValues = Array.Empty<object>(),
    };

    private static async Task<(Guid Item, Guid Round)> BeginAsync(HttpClient client, int n)
    {
        await SignInAsync(client, n);
        await ReadyAsync(client, n);
        var rounds = (await client.GetFromJsonAsync<JsonElement>("/api/v1/rounds/today")).GetProperty("rounds");
        if (rounds.GetArrayLength() == 0)
        {
            await OpenRoundAsync(client, n);
            rounds = (await client.GetFromJsonAsync<JsonElement>("/api/v1/rounds/today")).GetProperty("rounds");
        }
        var round = rounds[n % rounds.GetArrayLength()].GetProperty("id").GetGuid();
        using var made = await client.PostAsJsonAsync("/api/v1/register", Work.NewKettle(round, $"KILL-{Guid.NewGuid():N}"[..16]));
        return ((await made.EnsureSuccessStatusCode().Content.ReadFromJsonAsync<JsonElement>()).GetProperty("itemId").GetGuid(), round);
    }
}
