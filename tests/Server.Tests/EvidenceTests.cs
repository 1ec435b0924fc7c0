using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>What tests found decides nothing by itself: a lead does, for the whole group, once, with the figures kept.</summary>
[Collection(ScheduleHouse.Name)]
public sealed class EvidenceTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<Kettle> At(string place, string usage = "normal")
    {
        var lead = await world.App.SignedIn("maud");
        var round = (await lead.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var tag = $"E-{Guid.NewGuid():N}"[..12];
        var body = JsonSerializer.SerializeToNode(Kettle.New(round, tag))!;
        (body["place"], body["usage"]) = (place, usage);
        var (status, made) = await lead.Post("/api/v1/register", body);
        status.ShouldBe(201, made.ToString());
        return new(lead, made.GetProperty("itemId").GetGuid(), round, tag);
    }

    private static async Task PassAsync(Kettle kettle)
    {
        var (status, body) = await kettle.Save(await kettle.GoodWork());
        status.ShouldBe(200, body.ToString());
    }

    private static async Task FailAsync(Kettle kettle)
    {
        var (status, body) = await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9")), EndKind.Fail);
        status.ShouldBe(200, body.ToString());
    }

    private async Task<RegisterItem> Item(Kettle kettle) =>
        await world.InDatabase(db => db.Items.AsNoTracking().SingleAsync(it => it.Id == kettle.Item, Cancel));

    private static Task<JsonElement> Group(HttpClient client, string place) => client.Get($"/api/v1/evidence/appliance/{place}");

    private static Task<(int Status, JsonElement Body)> Decide(
        HttpClient client,
        string place,
        int step,
        int decided,
        string reason = "figures",
        Guid? id = null
    ) =>
        client.Post(
            $"/api/v1/evidence/appliance/{place}/decisions",
            new
            {
                id = id ?? Guid.NewGuid(),
                step,
                reason,
                decided,
            }
        );

    /// <summary>Two kettles stand at a rented home with one test each; a third failed at its second test.</summary>
    [Fact]
    public async Task A_lead_makes_a_group_shorter_and_its_dates_come_earlier_and_an_undoing_brings_the_rule_back()
    {
        var (one, two, bad) = (await At("home"), await At("home"), await At("home"));
        foreach (var kettle in new[] { one, two, bad })
            await PassAsync(kettle);
        await FailAsync(bad);
        var before = await Item(one);
        before.IntervalMonths.ShouldBe(24);

        var page = await one.Client.Get("/api/v1/evidence");
        var listed = page.GetProperty("groups").EnumerateArray().Single(it => it.Text("name") == "Appliance, home");
        (
            listed.GetProperty("inspections").GetInt32(),
            listed.GetProperty("failures").GetInt32(),
            listed.GetProperty("atIt").GetInt32()
        ).ShouldBe((1, 1, 2), "a first test tells nothing of an interval");
        listed.Text("suggestion").ShouldBe("shorter");
        var detail = await Group(one.Client, "home");
        detail.GetProperty("causes")[0].Text("name").ShouldBe("Earth continuity");
        var lead = detail.GetProperty("leads").EnumerateArray().ShouldHaveSingleItem();
        // The lower end is the 5 % quantile of Beta(1.5, 0.5).
        (lead.Text("name"), lead.GetProperty("failures").GetInt32(), lead.Text("between")).ShouldBe(
            ("its lead is fixed", 1, "23 % to 100 %")
        );
        detail.GetProperty("curve").GetArrayLength().ShouldBeGreaterThan(20);
        foreach (
            var (cord, name) in new (Cord, string)[]
            {
                (new(new(0.8), Detachable: true), "its lead unplugs"),
                (new(new(0.8), Detachable: true, Inlet: InletType.C13), "its lead unplugs, C13 coupler"),
                (new(Permanent: true), "hard-wired"),
            }
        )
        {
            await world.InDatabase(async db =>
            {
                var item = await db.Items.SingleAsync(it => it.Id == bad.Item, Cancel);
                item.Equipment = item.Equipment with { Cord = cord };
                return await db.SaveChangesAsync(Cancel);
            });
            (await Group(one.Client, "home")).GetProperty("leads")[0].Text("name").ShouldBe(name);
        }

        using (var ida = await world.App.SignedIn())
            (await Decide(ida, "home", -1, 0)).Status.ShouldBe(403);
        (await Decide(one.Client, "home", 1, 0)).Body.Text("detail").ShouldContain("does not carry it");
        (await Decide(one.Client, "home", -2, 0)).Status.ShouldBe(422);
        (await Decide(one.Client, "home", -1, 0, " ")).Status.ShouldBe(422);
        (await Decide(one.Client, "home", -1, 3)).Status.ShouldBe(409, "somebody decided meanwhile, as far as the page can know");

        var id = Guid.NewGuid();
        var answers = await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => Decide(one.Client, "home", -1, 0)));
        answers.Count(it => it.Status == 200).ShouldBe(1, string.Join(' ', answers.Select(it => it.Status)));
        var decided = (await Group(one.Client, "home")).GetProperty("decisions")[0];
        decided.Text("text").ShouldBe("one step shorter, 2 due earlier");
        decided.Text("figures").ShouldStartWith("1 of 1 failed at 24 months");
        var after = await Item(one);
        (after.Due, after.IntervalMonths).ShouldBe((before.LastTestedOn!.Value.AddMonths(12), 12));
        after.Because[^1].ShouldContain("decided by Maud Tarrant");
        after.Revision.ShouldBe(before.Revision + 1);
        (await Item(bad)).Revision.ShouldBe((await Item(bad)).Revision);
        (await one.Lay()).Basis.Group!.Steps.ShouldBe(-1);
        // The next test counts it in.
        await PassAsync(two);
        var next = await Item(two);
        next.IntervalMonths.ShouldBe(12, "tested twice in a day is tested once");
        next.Because.ShouldContain(line => line.Contains("decided by Maud Tarrant") && line.EndsWith("one step shorter"));

        var decision = decided.GetProperty("id").GetGuid();
        (await one.Client.Post($"/api/v1/evidence/decisions/{decision}/undo", new { id, reason = "a bad batch" })).Status.ShouldBe(200);
        (await one.Client.Post($"/api/v1/evidence/decisions/{decision}/undo", new { id, reason = "a bad batch" })).Status.ShouldBe(200);
        (await one.Client.Post($"/api/v1/evidence/decisions/{decision}/undo", new { id = Guid.NewGuid(), reason = "again" }))
            .Body.Text("detail")
            .ShouldBe("It was undone already.");
        (await one.Lay()).Basis.Group.ShouldBeNull();
        (await Item(one)).Due.ShouldBe(after.Due, "what fell due earlier stays so until its next test");
    }

    [Fact]
    public async Task Where_intervals_follow_from_something_else_nothing_is_decided()
    {
        using var lead = await world.App.SignedIn("maud");
        (await Decide(lead, "hire", -1, 0)).Body.Text("detail").ShouldBe("Hire goes by its issues.");
        (await lead.Get("/api/v1/evidence/medicalDevice/medical"))
            .GetProperty("group")
            .Text("whyNot")
            .ShouldContain("its maker and its risk");
        (await Decide(lead, "nowhere", -1, 0)).Status.ShouldBe(400);
    }
}
