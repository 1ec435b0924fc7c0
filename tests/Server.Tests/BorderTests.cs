using System.Net;
using System.Text;
using System.Text.Json;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>What a careless or hostile client sends to every address that takes a body: a clear refusal, never a failure of ours.</summary>
[Collection(KitHouse.Name)]
public class BorderTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Every address that takes JSON, with the names of what it takes; read from the server's own description.</summary>
    private static IEnumerable<(HttpMethod Method, string Path, string[] Members)> Addresses(JsonElement openApi)
    {
        var schemas = openApi.GetProperty("components").GetProperty("schemas");
        foreach (var path in openApi.GetProperty("paths").EnumerateObject())
        foreach (var operation in path.Value.EnumerateObject().Where(it => it.Name is "post" or "put" or "patch"))
        {
            if (!operation.Value.TryGetProperty("requestBody", out var body))
                continue;
            var schema = body.GetProperty("content").EnumerateObject().First().Value.GetProperty("schema");
            if (schema.TryGetProperty("$ref", out var reference))
                schema = schemas.GetProperty(reference.GetString()!.Split('/')[^1]);
            var members = schema.TryGetProperty("properties", out var properties)
                ? properties.EnumerateObject().Select(property => property.Name).ToArray()
                : [];
            yield return (new HttpMethod(operation.Name.ToUpperInvariant()), path.Name, members);
        }
    }

    /// <summary>Ids that nobody has, so that a body which is understood after all meets nothing.</summary>
    private static Uri Filled(string path) =>
        new(
            System.Text.RegularExpressions.Regex.Replace(
                path,
                "\\{[^}]+\\}",
                it => it.Value.Contains("Id", StringComparison.Ordinal) ? Guid.NewGuid().ToString() : "nobody"
            ),
            UriKind.Relative
        );

    private static IEnumerable<string> Bodies(string[] members)
    {
        yield return "";
        yield return "null";
        yield return "[]";
        yield return "7";
        yield return "{}";
        yield return "{\"nobodyKnowsThis\":1}";
        yield return "{\"a\":";
        yield return $"{{{string.Join(',', members.Select(name => $"\"{name}\":null"))}}}";
        yield return $"{{{string.Join(',', members.Select(name => $"\"{name}\":[null]"))}}}";
        yield return $"{{{string.Join(',', members.Select(name => $"\"{name}\":{{}}"))}}}";
        yield return $"{{{string.Join(',', members.Select(name => $"\"{name}\":\"\\ud800\""))}}}";
        foreach (var name in members)
            yield return $"{{\"{name}\":1,\"{name}\":1}}";
    }

    [Fact]
    public async Task No_body_whatever_makes_the_server_fail()
    {
        using var lead = await world.App.SignedIn("maud");
        var openApi = await lead.Get("/openapi/v1.json");
        var addresses = Addresses(openApi).ToArray();
        addresses.Length.ShouldBeGreaterThan(15);
        foreach (var (method, path, members) in addresses)
        foreach (var body in Bodies(members))
        {
            using var request = new HttpRequestMessage(method, Filled(path));
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
            using var answer = await lead.SendAsync(request, Cancel);
            var said = await answer.Content.ReadAsStringAsync(Cancel);
            ((int)answer.StatusCode).ShouldBeLessThan(500, $"{method} {path} {body}: {said}");
            if (members.Length > 0 && body is "" or "null" or "7")
                answer.IsSuccessStatusCode.ShouldBeFalse($"{method} {path} took {body}");
        }
    }

    /// <summary>A kind left out must not become the first kind of the list: the item would be planned as what it is not.</summary>
    [Theory]
    [InlineData("\"tr\u00edee\"")]
    [InlineData("{\"name\":\"tr\u00edee\"}")]
    public async Task A_file_in_another_encoding_is_refused_and_not_failed_on(string latin)
    {
        using var lead = await world.App.SignedIn("maud");
        using var body = new ByteArrayContent(Encoding.Latin1.GetBytes(latin));
        body.Headers.ContentType = new("application/json");
        using var answer = await lead.PostAsync("/api/v1/procedures/read", body, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await answer.Content.ReadAsStringAsync(Cancel)).ShouldContain("no UTF-8");
    }

    [Theory]
    [InlineData("/api/v1/schedule/proposal", """{"weeks":4,"moves":[null]}""", "moves")]
    [InlineData("/api/v1/rounds/0194f3c0-0000-7000-8000-000000000000/days", """{"days":[null]}""", "days")]
    [InlineData("/api/v1/rounds/0194f3c0-0000-7000-8000-000000000000/rooms", """{"rooms":["Hall",null]}""", "rooms")]
    public async Task A_list_with_an_empty_place_is_refused_before_anything_is_done(string path, string body, string names)
    {
        using var lead = await world.App.SignedIn("maud");
        using var content = new StringContent(body, Encoding.UTF8, "application/json");
        var answer = await lead.PostAsync(new Uri(path, UriKind.Relative), content, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await answer.Content.ReadAsStringAsync(Cancel)).ShouldContain($"{names} holds a null where a value belongs");
    }

    [Theory]
    [InlineData("kind")]
    [InlineData("evidence")]
    [InlineData("hardWired")]
    [InlineData("outlets")]
    public async Task A_fact_that_is_left_out_is_asked_for(string left)
    {
        using var client = await world.App.SignedIn();
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var all = JsonSerializer.SerializeToNode(Kettle.New(round, $"T-{Guid.NewGuid():N}"[..12]), Http.Json)!.AsObject();
        all.Remove(left).ShouldBeTrue();
        var (status, body) = await client.Post("/api/v1/register", all);
        status.ShouldBe((int)HttpStatusCode.BadRequest);
        body.Text("detail").ShouldContain(left);
    }
}
