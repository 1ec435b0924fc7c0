using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Shouldly;
using UglyToad.PdfPig;

namespace Osierwand.Server.Tests;

/// <summary>Papers of a client and of the house: the register, an inspector's answer, the packing list.</summary>
[Collection(RoundHouse.Name)]
public sealed class ClientPaperTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_register_on_paper_holds_every_item_with_how_it_stands_and_says_what_came_since()
    {
        var it = await Planned.OpenAsync(world);
        await it.FailAsync(0);
        await it.PassAsync(1);
        var page = await it.Lead.GetStringAsync($"/api/v1/papers/register?client={it.Code}", Cancel);
        page.ShouldContain("One is out of use");
        page.ShouldContain("due at once", customMessage: "the third kettle was never inspected");
        var tags = await world.InDatabase(db =>
            db.Items.Where(row => row.Client.Code == it.Code).Select(row => row.Tag).ToListAsync(Cancel)
        );
        tags.Count.ShouldBe(4);
        foreach (var tag in tags)
            page.ShouldContain(tag);

        var id = Guid.NewGuid();
        var asked = new { id, client = it.Code };
        var answers = await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => it.Lead.Post("/api/v1/papers/kept/register", asked)));
        answers.ShouldAllBe(answer => answer.Status == 200);
        (await it.Lead.Post("/api/v1/papers/kept/register", new { id, client = "LMR" })).Status.ShouldBe(409, "another client's number");
        var made = await it.Lead.PaperMade(id);
        (made.Text("state"), made.Text("title").StartsWith("Register: ", StringComparison.Ordinal)).ShouldBe(
            ("ready", true),
            made.ToString()
        );
        made.GetProperty("since").GetArrayLength().ShouldBe(0);
        using var pdf = PdfDocument.Open(await it.Lead.GetByteArrayAsync($"/api/v1/papers/kept/{id}/file", Cancel));
        var words = string.Join(' ', pdf.GetPages().SelectMany(sheet => sheet.GetWords()).Select(word => word.Text));
        foreach (var tag in tags)
            words.ShouldContain(tag);
        words.ShouldContain("up to record 2,");
        pdf.Structure.Catalog.CatalogDictionary.Data.Keys.ShouldContain("StructTreeRoot");

        await it.PassAsync(2);
        (await it.Lead.Get($"/api/v1/papers/kept/{id}"))
            .GetProperty("since")[0]
            .GetString()
            .ShouldBe("One record came into the client's book since. Make the paper again.");
    }

    [Fact]
    public async Task A_clients_reader_has_its_own_register_and_no_other()
    {
        using var wilf = await world.App.SignedIn("wilf");
        (await wilf.GetStringAsync("/api/v1/papers/register?client=SVH", Cancel)).ShouldContain("Sorrel Valley");
        ((int)(await wilf.GetAsync(new Uri("/api/v1/papers/register?client=LMR", UriKind.Relative), Cancel)).StatusCode).ShouldBe(404);
        (await wilf.Post("/api/v1/papers/kept/register", new { id = Guid.NewGuid(), client = "LMR" })).Status.ShouldBe(404);
        var id = Guid.NewGuid();
        (await wilf.Post("/api/v1/papers/kept/register", new { id, client = "SVH" })).Status.ShouldBe(200);
        (await wilf.PaperMade(id)).Text("state").ShouldBe("ready");
        (await wilf.GetByteArrayAsync($"/api/v1/papers/kept/{id}/file", Cancel)).Length.ShouldBeGreaterThan(5_000);
        (
            await wilf.Post(
                "/api/v1/papers/kept",
                new
                {
                    id = Guid.NewGuid(),
                    roundId = Guid.NewGuid(),
                    paper = "register",
                }
            )
        ).Status.ShouldBe(403);
        using var lead = await world.App.SignedIn("maud");
        (
            await lead.Post(
                "/api/v1/papers/kept",
                new
                {
                    id = Guid.NewGuid(),
                    roundId = Guid.NewGuid(),
                    paper = "register",
                }
            )
        ).Status.ShouldBe(422);
    }

    [Fact]
    public async Task An_inspectors_question_is_answered_on_one_sheet()
    {
        var it = await Planned.OpenAsync(world);
        Task<string> Answer(int at) => it.Lead.GetStringAsync($"/api/v1/papers/items/{it.Items[at]}", Cancel);
        (await Answer(0)).ShouldContain("It was never inspected. Nothing here says that it is safe.");
        await it.PassAsync(0);
        var good = await Answer(0);
        good.ShouldContain("in service");
        good.ShouldContain("record 1, ");
        good.ShouldNotContain("Nobody may use it");
        (await it.Kettle(1).Save([], EndKind.NotTested, notTested: NotTestedReason.InUse)).Status.ShouldBe(200);
        (await Answer(1)).ShouldContain("It was never inspected.", customMessage: "what was not tested is no check");
        await it.FailAsync(2);
        var bad = await Answer(2);
        bad.ShouldContain("Nobody may use it.");
        bad.ShouldContain("out of use");
        using var pdf = PdfDocument.Open(await it.Lead.GetByteArrayAsync($"/api/v1/papers/items/{it.Items[2]}?format=pdf", Cancel));
        pdf.NumberOfPages.ShouldBe(1);
        using var wilf = await world.App.SignedIn("wilf");
        ((int)(await wilf.GetAsync(new Uri($"/api/v1/papers/items/{it.Items[0]}", UriKind.Relative), Cancel)).StatusCode).ShouldBe(404);
    }

    [Fact]
    public async Task A_packing_list_follows_from_what_is_still_to_do_and_is_for_the_house()
    {
        var it = await Planned.OpenAsync(world);
        var address = $"/api/v1/papers/rounds/{it.Round}?paper=packing";
        var page = await it.Lead.GetStringAsync(address, Cancel);
        page.ShouldContain("Instrument: earth continuity");
        page.ShouldContain("3 items");
        page.ShouldContain("Spare fuses 13 A");
        await it.PassAsync(0);
        (await it.Lead.GetStringAsync(address, Cancel)).ShouldContain("2 items");
        var id = Guid.NewGuid();
        (
            await it.Lead.Post(
                "/api/v1/papers/kept",
                new
                {
                    id,
                    roundId = it.Round,
                    paper = "packing",
                }
            )
        ).Status.ShouldBe(200);
        var made = await it.Lead.PaperMade(id);
        (made.Text("state"), made.Text("says"), made.GetProperty("isForClient").GetBoolean()).ShouldBe(
            ("ready", "for the house alone", false)
        );
        await it.PassAsync(1);
        (await it.Lead.Get($"/api/v1/papers/kept/{id}")).GetProperty("since").GetArrayLength().ShouldBe(0, "it rests on no record");
        (
            (int)(await it.Lead.GetAsync(new Uri($"/api/v1/papers/rounds/{it.Round}?paper=register", UriKind.Relative), Cancel)).StatusCode
        ).ShouldBe(404);
    }
}
