using System.Diagnostics;
using System.Net;
using Osierwand.Core.Bench;
using Shouldly;
using UglyToad.PdfPig;

namespace Osierwand.Server.Tests;

/// <summary>The paper of an inspection, as a page and as a PDF, read back.</summary>
[Collection(RoundHouse.Name)]
public class PaperTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Uri Paper(Guid id, string format = "html") => new($"/api/v1/papers/inspections/{id}?format={format}", UriKind.Relative);

    private async Task<(Kettle Kettle, Guid Id)> Saved(string name = "Paper kettle")
    {
        var kettle = await Kettle.Register(await world.App.SignedIn(), name: name);
        var (status, saved) = await kettle.Save(await kettle.GoodWork());
        status.ShouldBe(200, saved.ToString());
        return (kettle, saved.GetProperty("id").GetGuid());
    }

    private static string Words(PdfDocument pdf) =>
        string.Join(" ", pdf.GetPages().SelectMany(page => page.GetWords()).Select(it => it.Text));

    [Fact]
    public async Task It_is_a_page_that_runs_nothing_and_fetches_nothing()
    {
        var (kettle, id) = await Saved();
        var answer = await kettle.Client.GetAsync(Paper(id), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("text/html");
        answer.Headers.GetValues("Content-Security-Policy").ShouldHaveSingleItem().ShouldStartWith("default-src 'none'");
        var page = await answer.Content.ReadAsStringAsync(Cancel);
        page.ShouldContain("Certificate of inspection and test");
        page.ShouldContain("number ");
        page.ShouldNotContain("<script");
        page.ShouldNotContain("http://");
        page.ShouldNotContain("https://");
    }

    [Fact]
    public async Task Whatever_an_item_is_called_stays_a_name()
    {
        var (kettle, id) = await Saved("<img src=x onerror=alert(1)> & чайник " + new string('W', 60));
        var page = await kettle.Client.GetStringAsync(Paper(id), Cancel);
        page.ShouldNotContain("<img");
        page.ShouldContain("&lt;img src=x onerror=alert(1)&gt; &amp; ");
        using var pdf = PdfDocument.Open(await kettle.Client.GetByteArrayAsync(Paper(id, "pdf"), Cancel));
        pdf.GetPage(1).GetWords().ShouldAllBe(word => word.BoundingBox.Right <= pdf.GetPage(1).Width, "a word runs off the sheet");
    }

    [Fact]
    public async Task The_PDF_says_what_the_page_says_is_tagged_and_numbers_its_pages()
    {
        var (kettle, id) = await Saved();
        var bytes = await kettle.Client.GetByteArrayAsync(Paper(id, "pdf"), Cancel);
        using var pdf = PdfDocument.Open(bytes);
        var words = Words(pdf);
        foreach (
            var said in new[]
            {
                "Certificate",
                "Earth",
                "continuity",
                "500",
                "Insulation",
                "Signature",
                $"of {pdf.NumberOfPages}",
                kettle.Tag,
            }
        )
            words.ShouldContain(said);
        pdf.Structure.Catalog.CatalogDictionary.Data.Keys.ShouldContain("StructTreeRoot");
        var size = pdf.GetPage(1);
        (Math.Round(size.Width / 72 * 25.4), Math.Round(size.Height / 72 * 25.4)).ShouldBe((210, 297));
    }

    [Fact]
    public async Task A_record_taken_back_says_so_on_its_paper()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var (_, saved) = await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9")), EndKind.Fail);
        var id = saved.GetProperty("id").GetGuid();
        (await kettle.Client.GetStringAsync(Paper(id), Cancel)).ShouldContain("Do not use it.");
        (
            await kettle.Client.Post(
                $"/api/v1/bench/inspections/{id}/withdraw",
                new { id = Guid.NewGuid(), reason = "it was another kettle" }
            )
        ).Status.ShouldBe(200);
        (await kettle.Client.GetStringAsync(Paper(id), Cancel)).ShouldContain("it was another kettle");
    }

    [Fact]
    public async Task A_browser_that_died_is_started_again()
    {
        var (kettle, id) = await Saved();
        (await kettle.Client.GetAsync(Paper(id, "pdf"), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var own = Environment.ProcessId;
        var killed = 0;
        foreach (var browser in Process.GetProcesses().Where(it => ParentOf(it.Id) == own && it.ProcessName.Contains("chrom")))
        {
            browser.Kill(entireProcessTree: true);
            killed++;
        }
        killed.ShouldBeGreaterThan(0, "no browser of this process was found");
        (await kettle.Client.GetAsync(Paper(id, "pdf"), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Without_a_browser_the_page_is_there_and_the_PDF_is_refused_in_words()
    {
        var settings = new Dictionary<string, string> { ["Printer:Browser"] = "/nowhere/chromium" };
        await using var none = new Host(world.Connection, settings: settings);
        var (_, id) = await Saved();
        var client = await none.SignedIn();
        (await client.GetAsync(Paper(id), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var refused = await client.GetAsync(Paper(id, "pdf"), Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        (await refused.Content.ReadAsStringAsync(Cancel)).ShouldContain("can be read and printed");
    }

    private static int ParentOf(int process)
    {
        try
        {
            // "123 (name) S 45": the name may hold anything, so what follows its last bracket counts.
            var stat = File.ReadAllText($"/proc/{process}/stat");
            return int.Parse(stat[(stat.LastIndexOf(')') + 2)..].Split(' ')[1], System.Globalization.CultureInfo.InvariantCulture);
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            return -1;
        }
    }
}
