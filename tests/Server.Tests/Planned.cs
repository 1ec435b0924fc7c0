using System.Text.Json;
using System.Text.Json.Nodes;
using Osierwand.Core.Bench;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A site of its own with three kettles in two rooms and a hard-wired rail, and a planned round for it.</summary>
internal sealed record Planned(HttpClient Lead, string Code, Guid Open, Guid Round, Guid[] Items)
{
    public Task<JsonElement> Page() => Lead.Get($"/api/v1/rounds/{Round}");

    public Task<(int Status, JsonElement Body)> Do(string what, object body) => Lead.Post($"/api/v1/rounds/{Round}/{what}", body);

    public Task<(int Status, JsonElement Body)> To(string state) => Do("state", new { to = state });

    public Kettle Kettle(int at, HttpClient? who = null) => new(who ?? Lead, Items[at], Round, "");

    /// <summary>Signs what the review shows now.</summary>
    public async Task<(int Status, JsonElement Body)> Sign(string words = "")
    {
        var review = await Review();
        return await Do(
            "review/signature",
            new
            {
                records = review.GetProperty("total").GetInt32(),
                lastNumber = review.GetProperty("lastNumber").GetInt64(),
                words,
            }
        );
    }

    /// <summary>With its three kettles in it and the hard-wired rail left out, open.</summary>
    public static async Task<Planned> OpenAsync(World world)
    {
        var it = await MakeAsync(world);
        await it.Do("items", new { by = "everything" });
        var left = new
        {
            items = new[] { it.Items[3] },
            why = "hard-wired",
            testedBy = "site electrician",
        };
        await it.Do("leave-out", left);
        (await it.To("open")).Status.ShouldBe(204);
        return it;
    }

    /// <returns>Id of the record.</returns>
    public async Task<Guid> FailAsync(int at)
    {
        var kettle = Kettle(at);
        var (status, saved) = await kettle.Save(
            await Tests.Kettle.Looked(kettle, Tests.Kettle.Typed("earthContinuity", "0.9")),
            EndKind.Fail
        );
        status.ShouldBe(200, saved.ToString());
        return saved.GetProperty("id").GetGuid();
    }

    public async Task PassAsync(int at)
    {
        var kettle = Kettle(at);
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
    }

    public Task<JsonElement> Review() => Lead.Get($"/api/v1/rounds/{Round}/review");

    public static string Day(int from) => DateOnly.FromDateTime(DateTime.UtcNow).AddDays(from).ToString("yyyy-MM-dd");

    public static object NewRound(string code, string name, bool isPlanned) =>
        new
        {
            clientCode = code,
            clientName = "Planned Ltd",
            site = "Yard",
            name,
            standardId = "uk-cop-5",
            endsOn = Day(5),
            isPlanned,
        };

    public static async Task<Planned> MakeAsync(World world)
    {
        var lead = await world.App.SignedIn("maud");
        var code = $"P{Guid.NewGuid():N}"[..8].ToUpperInvariant();
        var open = (await lead.Post("/api/v1/rounds", NewRound(code, "Walk in", false))).Body.GetProperty("id").GetGuid();
        var items = new List<Guid>();
        foreach (var (room, hardWired) in new[] { ("Hall", false), ("Hall", false), ("Bar", false), ("Bath", true) })
        {
            var body = JsonSerializer.SerializeToNode(Tests.Kettle.New(open, $"P-{Guid.NewGuid():N}"[..12], hardWired))!;
            body["room"] = room;
            items.Add((await lead.Post("/api/v1/register", body)).Body.GetProperty("itemId").GetGuid());
        }
        var round = (await lead.Post("/api/v1/rounds", NewRound(code, "Spring round", true))).Body.GetProperty("id").GetGuid();
        return new(lead, code, open, round, [.. items]);
    }
}
