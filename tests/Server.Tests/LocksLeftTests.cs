using System.Text.Json;
using Osierwand.Core.Bench;
using Osierwand.Core.Tests.Bench;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A lock that somebody left on is nobody's secret.</summary>
[Collection(BenchHouse.Name)]
public class LocksLeftTests(World world)
{
    private static async Task<string[]> Locks(HttpClient client) =>
        [
            .. (await client.Get("/api/v1/rounds/today"))
                .GetProperty("locks")
                .EnumerateArray()
                .Select(it => $"{it.Text("tag")} {it.Text("words")}"),
        ];

    [Fact]
    public async Task It_stands_on_today_until_the_supply_is_restored_on_a_later_sheet()
    {
        using var client = await world.App.SignedIn();
        var rail = await Kettle.Register(client, hardWired: true);
        var first = new OnTheBench(await rail.Lay()) { Start = DateTimeOffset.UtcNow.AddHours(-2) };
        first.PassUntil("visual");
        var refused = await rail.Save(first.Events, EndKind.NotTested, notTested: NotTestedReason.InUse);
        refused.Status.ShouldBe(422);
        refused.Body.Text("detail").ShouldContain("A lock is on");
        var discarded = await client.Post(
            $"/api/v1/bench/{rail.Item}/discard",
            new
            {
                id = Guid.NewGuid(),
                roundId = rail.Round,
                events = JsonDocument.Parse(BenchJson.Write(first.Events)).RootElement,
                reason = "wrong item",
            }
        );
        discarded.Status.ShouldBe(422);
        discarded.Body.Text("detail").ShouldContain("A lock is on");
        first.LeaveLock(stays: true, "mine; the key is in the site office");
        (await rail.Save(first.Events, EndKind.NotTested, notTested: NotTestedReason.InUse)).Status.ShouldBe(200);
        (await Locks(client)).ShouldContain(it =>
            it.StartsWith($"{rail.Tag} Ida Fennimore") && it.EndsWith("the key is in the site office")
        );

        // Somebody looks at it once more and does not isolate it: the lock is still there.
        (await rail.Save([], EndKind.NotTested, notTested: NotTestedReason.NotReachable)).Status.ShouldBe(200);
        (await Locks(client)).ShouldContain(it => it.StartsWith(rail.Tag));

        var last = new OnTheBench(await rail.Lay()) { Start = DateTimeOffset.UtcNow.AddHours(-1) }.PassTheRest();
        (await rail.Save(last.Events)).Status.ShouldBe(200);
        (await Locks(client)).ShouldNotContain(it => it.StartsWith(rail.Tag));
        var story = (await client.Get($"/api/v1/register/{rail.Item}")).GetProperty("history");
        story[0]
            .GetProperty("isolation")
            .EnumerateArray()
            .Select(it => it.GetString())
            .ShouldContain(it => it!.EndsWith("Supply restored"));
        story[1].GetProperty("isolation").GetArrayLength().ShouldBe(0);
        story[2].GetProperty("isolation").EnumerateArray().Last().GetString().ShouldNotBeNull().ShouldContain("The lock stays on");
    }

    [Fact]
    public async Task How_far_a_round_has_come_counts_each_item_once()
    {
        using var client = await world.App.SignedIn("maud");
        var (status, opened) = await client.Post(
            "/api/v1/rounds",
            new
            {
                clientCode = $"C{Guid.NewGuid():N}"[..8],
                clientName = "Counted",
                site = "Yard",
                name = "Round to count",
                standardId = "uk-cop-5",
                medicalStandardId = (string?)null,
                endsOn = DateOnly.FromDateTime(DateTime.Now).AddDays(7),
            }
        );
        status.ShouldBe(201);
        var round = opened.GetProperty("id").GetGuid();
        async Task<JsonElement> Page() => await client.Get($"/api/v1/rounds/today?round={round}");
        (await Page()).GetProperty("progress").GetProperty("done").GetInt32().ShouldBe(0);
        var kettles = new List<Kettle>();
        for (var n = 0; n < 3; n++)
        {
            var tag = $"C-{n}";
            var (made, body) = await client.Post("/api/v1/register", Kettle.New(round, tag));
            made.ShouldBe(201);
            kettles.Add(new(client, body.GetProperty("itemId").GetGuid(), round, tag));
        }
        (await kettles[0].Save(await kettles[0].GoodWork())).Status.ShouldBe(200);
        (await kettles[0].Save(await kettles[0].GoodWork())).Status.ShouldBe(200);
        (await kettles[1].Save([], EndKind.NotTested, notTested: NotTestedReason.InUse)).Status.ShouldBe(200);
        (await kettles[1].Save([], EndKind.NotTested, notTested: NotTestedReason.InUse)).Status.ShouldBe(200);
        (await kettles[2].Save([], EndKind.NotTested, notTested: NotTestedReason.InUse)).Status.ShouldBe(200);
        (await kettles[2].Save(await kettles[2].GoodWork())).Status.ShouldBe(200);
        var page = await Page();
        page.GetProperty("progress").GetProperty("done").GetInt32().ShouldBe(2);
        page.GetProperty("progress").GetProperty("notTested").GetInt32().ShouldBe(1);
        var card = page.GetProperty("rounds").EnumerateArray().Single(it => it.GetProperty("id").GetGuid() == round);
        page.GetProperty("progress").GetProperty("items").GetInt32().ShouldBe(3);
        card.GetProperty("due").GetInt32().ShouldBe(1);
    }
}
