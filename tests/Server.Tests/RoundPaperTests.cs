using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Papers;
using Osierwand.Store.Entities;
using Shouldly;
using UglyToad.PdfPig;

namespace Osierwand.Server.Tests;

/// <summary>The papers of a round: what they say, how they are made and kept, and what they say when a record changed since.</summary>
[Collection(RoundHouse.Name)]
public sealed class RoundPaperTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string Page(Guid round, string paper = "report") => $"/api/v1/papers/rounds/{round}?paper={paper}";

    private static async Task<JsonElement> AskAsync(Planned it, string paper = "report")
    {
        var id = Guid.NewGuid();
        var (status, asked) = await it.Lead.Post(
            "/api/v1/papers/kept",
            new
            {
                id,
                roundId = it.Round,
                paper,
            }
        );
        status.ShouldBe(200, asked.ToString());
        return await it.Lead.PaperMade(id);
    }

    [Fact]
    public async Task An_open_round_says_that_it_is_open_what_failed_and_what_nobody_reached()
    {
        var it = await Planned.OpenAsync(world);
        await it.FailAsync(0);
        await it.PassAsync(1);
        var page = await it.Lead.GetStringAsync(Page(it.Round), Cancel);
        page.ShouldContain("Interim report of a round");
        page.ShouldContain("This round is not over yet: one item of 3 still to do.");
        page.ShouldContain("Nobody has reviewed and signed this round yet.");
        page.ShouldContain("Do not use P-");
        page.ShouldContain("hard-wired; tested by site electrician");
        page.ShouldNotContain("<script");
        var failures = await it.Lead.GetStringAsync(Page(it.Round, "failures"), Cancel);
        failures.ShouldContain("Earth continuity: 0.9 ");
        failures.ShouldNotContain("Everything that was inspected");
        (await it.Lead.GetStringAsync(Page(it.Round, "notTested"), Cancel)).ShouldContain("still to do");
    }

    [Fact]
    public async Task It_is_made_in_the_background_once_however_often_it_is_asked_for_and_read_back_as_a_tagged_PDF()
    {
        var it = await Planned.OpenAsync(world);
        await it.FailAsync(0);
        await it.PassAsync(1);
        var body = new
        {
            id = Guid.NewGuid(),
            roundId = it.Round,
            paper = "report",
        };
        var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => it.Lead.Post("/api/v1/papers/kept", body)));
        answers.ShouldAllBe(answer => answer.Status == 200);
        var card = await it.Lead.PaperMade(body.id);
        card.Text("state").ShouldBe("ready", card.ToString());
        (card.GetProperty("done").GetInt32(), card.GetProperty("total").GetInt32()).ShouldBe((2, 2));
        (await it.Lead.Get($"/api/v1/papers/kept?round={it.Round}")).GetProperty("papers").GetArrayLength().ShouldBe(1);
        (
            await it.Lead.Post(
                "/api/v1/papers/kept",
                new
                {
                    body.id,
                    body.roundId,
                    paper = "failures",
                }
            )
        ).Status.ShouldBe(409);
        using var pdf = PdfDocument.Open(await it.Lead.GetByteArrayAsync($"/api/v1/papers/kept/{body.id}/file", Cancel));
        var words = string.Join(' ', pdf.GetPages().SelectMany(page => page.GetWords()).Select(word => word.Text));
        words.ShouldContain("Interim report of a round");
        words.ShouldContain($"1 of {pdf.NumberOfPages}");
        words.ShouldContain("numbers ");
        pdf.Structure.Catalog.CatalogDictionary.Data.Keys.ShouldContain("StructTreeRoot");
    }

    [Fact]
    public async Task A_kept_paper_says_what_was_corrected_or_came_since()
    {
        var it = await Planned.OpenAsync(world);
        var failed = await it.FailAsync(0);
        var card = await AskAsync(it);
        card.GetProperty("since").GetArrayLength().ShouldBe(0);
        await it.PassAsync(1);
        (
            await it.Lead.Post(
                $"/api/v1/bench/inspections/{failed}/withdraw",
                new { id = Guid.NewGuid(), reason = "it was another kettle" }
            )
        ).Status.ShouldBe(200);
        var now = await it.Lead.Get($"/api/v1/papers/kept/{card.GetProperty("id").GetGuid()}");
        now.GetProperty("since")
            .EnumerateArray()
            .Select(line => line.GetString())
            .ShouldBe(["Record 1 was corrected since. Make the paper again.", "Records came into the round since. Make the paper again."]);
        var page = await it.Lead.GetStringAsync(Page(it.Round), Cancel);
        page.ShouldContain("it was another kettle");
        page.ShouldNotContain("Do not use P-");
        (await AskAsync(it)).GetProperty("since").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task A_client_gets_the_papers_of_signed_rounds_of_its_own_and_no_other()
    {
        var it = await Planned.OpenAsync(world);
        var failed = await it.FailAsync(0);
        await it.PassAsync(1);
        await it.PassAsync(2);
        var early = (await AskAsync(it)).GetProperty("id").GetGuid();
        await it.To("review");
        await it.Do($"review/records/{failed}", new { words = "" });
        (await it.Sign()).Status.ShouldBe(200);
        var signed = (await AskAsync(it)).GetProperty("id").GetGuid();
        using (var stranger = await world.App.SignedIn("wilf"))
            (await stranger.GetAsync($"/api/v1/papers/kept/{signed}/file", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await world.InDatabase(async db =>
        {
            var client = await db.Rounds.Where(row => row.Id == it.Round).Select(row => row.Site.ClientId).SingleAsync(Cancel);
            var wilf = await db.Users.SingleAsync(row => row.UserName == "wilf", Cancel);
            db.PersonClients.Add(new() { PersonId = wilf.Id, ClientId = client });
            return await db.SaveChangesAsync(Cancel);
        });
        try
        {
            using var viewer = await world.App.SignedIn("wilf");
            var listed = (await viewer.Get("/api/v1/papers/kept"))
                .GetProperty("papers")
                .EnumerateArray()
                .Select(one => one.GetProperty("id").GetGuid());
            listed.ShouldContain(signed);
            listed.ShouldNotContain(early);
            (await viewer.GetAsync($"/api/v1/papers/kept/{signed}/file", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
            (await viewer.GetAsync($"/api/v1/papers/kept/{early}/file", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        }
        finally
        {
            // Others look through the same eyes.
            var client = await world.InDatabase(db =>
                db.Rounds.Where(row => row.Id == it.Round).Select(row => row.Site.ClientId).SingleAsync(Cancel)
            );
            await world.InDatabase(db => db.PersonClients.Where(row => row.ClientId == client).ExecuteDeleteAsync(Cancel));
        }
    }

    [Fact]
    public async Task What_a_server_left_half_made_is_made_by_the_next_once_and_then_said_to_have_failed()
    {
        var it = await Planned.OpenAsync(world);
        await it.PassAsync(1);
        async Task<Guid> LeftAsync(int tries, DateTimeOffset beat)
        {
            var id = Guid.NewGuid();
            await world.InDatabase(async db =>
            {
                var client = await db.Rounds.Where(row => row.Id == it.Round).Select(row => row.Site.ClientId).SingleAsync(Cancel);
                db.KeptPapers.Add(
                    new()
                    {
                        Id = id,
                        RoundId = it.Round,
                        ClientId = client,
                        Paper = LongPaper.Report,
                        Title = "Report",
                        AskedBy = "Maud",
                        AskedAt = DateTimeOffset.UtcNow,
                        State = PaperState.Making,
                        Tries = tries,
                        BeatAt = beat,
                    }
                );
                return await db.SaveChangesAsync(Cancel);
            });
            return id;
        }
        var longAgo = DateTimeOffset.UtcNow.AddMinutes(-5);
        var (once, twice) = (await LeftAsync(1, longAgo), await LeftAsync(2, longAgo));
        var beating = await LeftAsync(1, DateTimeOffset.UtcNow.AddMinutes(30));
        await AskAsync(it);
        (await it.Lead.PaperMade(once)).Text("state").ShouldBe("ready");
        var lost = await it.Lead.PaperMade(twice);
        (lost.Text("state"), lost.Text("says")).ShouldBe(("failed", "The server stopped twice while it was made. Ask for it again."));
        // Somebody else makes this one: it is called off, and nothing is kept of it.
        (await it.Lead.Get($"/api/v1/papers/kept/{beating}"))
            .Text("state")
            .ShouldBe("making");
        (await it.Lead.Post($"/api/v1/papers/kept/{beating}/cancel", new { })).Body.Text("state").ShouldBe("cancelled");
        (await it.Lead.Post($"/api/v1/papers/kept/{beating}/cancel", new { })).Status.ShouldBe(200);
        (await it.Lead.GetAsync($"/api/v1/papers/kept/{beating}/file", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await it.Lead.Post($"/api/v1/papers/kept/{once}/cancel", new { })).Status.ShouldBe(409);
    }

    [Fact]
    public async Task A_server_without_a_browser_says_so_and_leaves_what_waits_to_one_that_has_one()
    {
        var it = await Planned.OpenAsync(world);
        await using var none = new Host(
            world.Connection,
            settings: new Dictionary<string, string> { ["Printer:Browser"] = "/nowhere/chromium" }
        );
        using var lead = await none.SignedIn("maud");
        var (status, body) = await lead.Post(
            "/api/v1/papers/kept",
            new
            {
                id = Guid.NewGuid(),
                roundId = it.Round,
                paper = "report",
            }
        );
        status.ShouldBe(503);
        body.Text("detail").ShouldContain("no Chromium on this server");
        (await lead.GetStringAsync(Page(it.Round), Cancel)).ShouldContain("3 items were not tested and stay due.");
        (await AskAsync(it)).Text("state").ShouldBe("ready");
    }

    [Fact]
    public async Task Names_of_any_length_and_script_stay_names_and_stay_on_the_sheet()
    {
        var it = await Planned.OpenAsync(world);
        var name = "<b>чайник</b> " + new string('W', 60);
        await world.InDatabase(db =>
            db.Items.Where(row => row.Id == it.Items[1]).ExecuteUpdateAsync(row => row.SetProperty(one => one.Name, name), Cancel)
        );
        await it.PassAsync(1);
        var page = await it.Lead.GetStringAsync(Page(it.Round), Cancel);
        page.ShouldContain("&lt;b&gt;");
        page.ShouldNotContain("<b>чайник");
        var card = await AskAsync(it);
        using var pdf = PdfDocument.Open(
            await it.Lead.GetByteArrayAsync($"/api/v1/papers/kept/{card.GetProperty("id").GetGuid()}/file", Cancel)
        );
        foreach (var sheet in pdf.GetPages())
            sheet.GetWords().ShouldAllBe(word => word.BoundingBox.Right <= sheet.Width, "a word runs off the sheet");
    }
}
