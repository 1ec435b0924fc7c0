using System.Text.Json;
using Osierwand.Core.Bench;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Who is competent for what, and what becomes of an item that is not theirs to test.</summary>
[Collection(KitHouse.Name)]
public sealed class CompetenceTests(World world)
{
    private static async Task<JsonElement> Of(HttpClient client, string name) =>
        (await client.Get("/api/v1/people/competences")).GetProperty("people").EnumerateArray().Single(it => it.Text("name") == name);

    private static Task<(int Status, JsonElement Body)> Set(HttpClient lead, JsonElement person, params object[] held) =>
        lead.Post($"/api/v1/people/{person.Text("personId")}/competences", new { held });

    private static object Holding(string competence, string? expiresOn = null, string evidence = "assessed") =>
        new
        {
            competence,
            expiresOn,
            evidence,
        };

    [Fact]
    public async Task Hard_wired_is_looked_at_not_tested_by_who_is_not_competent_and_handed_to_who_is()
    {
        using var rufus = await world.App.SignedIn("rufus");
        var rail = await Kettle.Register(rufus, hardWired: true);
        var ruling = await rail.Lay();
        ruling.MayOnlyLook.ShouldNotBeNull().ShouldContain("hard-wired equipment");
        ruling.HeldBy.ShouldContain("Ida Fennimore");
        var work = await Kettle.Looked(rail);
        var passed = await rail.Save([.. work, Kettle.Typed("earthContinuity", "0.05")], EndKind.Pass);
        passed.Status.ShouldBe(422);
        passed.Body.Text("detail").ShouldContain("may look and not test");

        var page = await rail.Page();
        var (due, visual) = (page.GetProperty("due").ToString(), page.GetProperty("visualDue").ToString());
        (await rail.Save(work, EndKind.Looked, notTested: NotTestedReason.NoCompetence)).Status.ShouldBe(200);
        var after = await rail.Page();
        after.GetProperty("due").ToString().ShouldBe(due, "the test stays as due as it was");
        after.GetProperty("visualDue").ToString().ShouldNotBe(visual, "the look counts");
        var story = after.GetProperty("history")[0];
        (story.Text("outcome"), story.Text("kind")).ShouldBe(("notTested", "formal visual, not tested"));
    }

    [Fact]
    public async Task A_lead_says_who_is_competent_by_what_evidence_and_until_when()
    {
        using var maud = await world.App.SignedIn("maud");
        using var rufus = await world.App.SignedIn("rufus");
        var person = await Of(maud, "Rufus Oakhanger");
        var before = person
            .GetProperty("held")
            .EnumerateArray()
            .Select(it => Holding(it.Text("competence"), it.GetProperty("expiresOn").GetString(), it.Text("evidence")))
            .ToArray();
        try
        {
            (await Set(rufus, person, Holding("hardWired"))).Status.ShouldBe(403);
            (await Set(maud, person, Holding("plugIn", evidence: " "))).Status.ShouldBe(422);
            (await Set(maud, person, Holding("plugIn"), Holding("plugIn"))).Status.ShouldBe(422);
            (await Set(maud, person, Holding("plugIn", "2026-01-31"))).Status.ShouldBe(204);
            var kettle = await Kettle.Register(rufus);
            (await kettle.Lay()).MayOnlyLook.ShouldNotBeNull().ShouldContain("lapsed after 2026-01-31");
            (await Of(rufus, "Rufus Oakhanger")).GetProperty("held")[0].GetProperty("hasLapsed").GetBoolean().ShouldBeTrue();
            (await Set(maud, person, Holding("plugIn", "2099-01-31"))).Status.ShouldBe(204);
            (await kettle.Lay()).MayOnlyLook.ShouldBeNull();
            (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        }
        finally
        {
            (await Set(maud, person, before)).Status.ShouldBe(204);
        }
        var trail = (await maud.Get("/api/v1/trust/trail")).GetRawText();
        trail.ShouldContain("competences set");
    }

    [Fact]
    public async Task A_viewer_is_competent_for_nothing()
    {
        using var maud = await world.App.SignedIn("maud");
        (await maud.Get("/api/v1/people/competences")).GetRawText().ShouldNotContain("Wilf Sandering");
        var viewer = (await maud.Get("/api/v1/people"))
            .GetProperty("people")
            .EnumerateArray()
            .Single(it => it.Text("displayName") == "Wilf Sandering");
        var (status, _) = await maud.Post($"/api/v1/people/{viewer.Text("id")}/competences", new { held = new[] { Holding("plugIn") } });
        status.ShouldBe(404);
    }
}
