using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Server.Papers;
using Osierwand.Store.Entities;
using Shouldly;
using UglyToad.PdfPig;

namespace Osierwand.Server.Tests;

/// <summary>Labels at true size, printed once or with a reason, and codes that a bench understands.</summary>
[Collection(RoundHouse.Name)]
public sealed class LabelTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static LabelText Text(int number) =>
        new($"T-{number:0000}", "Kettle", Outcome.Pass, new(2026, 3, 2), new(2027, 3, 2), "IF", "Client", "");

    public static TheoryData<LabelMedium> Media => [.. Enum.GetValues<LabelMedium>()];

    [Theory]
    [MemberData(nameof(Media))]
    public void Every_label_stands_whole_on_its_page_at_true_size(LabelMedium medium)
    {
        var paper = LabelPaper.Of(medium);
        (paper.LeftMm >= 0 && paper.TopMm >= 0).ShouldBeTrue("the labels are wider than their sheet");
        const int Count = 60;
        var used = Math.Min(3, paper.Places - 1);
        using var pdf = PdfDocument.Open(LabelDrawing.Pdf([.. Enumerable.Range(1, Count).Select(Text)], paper, used));
        pdf.NumberOfPages.ShouldBe((Count + used + paper.Places - 1) / paper.Places);
        var tags = new List<string>();
        foreach (var page in pdf.GetPages())
        {
            // A page is of whole points, a third of a millimetre each; what stands on it is not rounded.
            (page.Width / 72 * 25.4).ShouldBe(paper.WidthMm, 0.36);
            (page.Height / 72 * 25.4).ShouldBe(paper.HeightMm, 0.36);
            foreach (var word in page.GetWords().Where(it => it.Text.StartsWith("T-", StringComparison.Ordinal)))
            {
                tags.Add(word.Text);
                // From the top left of its own label, in shares of it: the same on every place of every paper.
                var (x, y) = (
                    word.BoundingBox.Left / 72 * 25.4 - paper.LeftMm,
                    (page.Height - word.BoundingBox.Bottom) / 72 * 25.4 - paper.TopMm
                );
                (x / paper.LabelWidthMm % 1).ShouldBe(17 / 50.0, 0.02, word.Text);
                (y / paper.LabelHeightMm % 1).ShouldBe(5.2 / 25, 0.03, word.Text);
            }
        }
        tags.Order().ShouldBe(Enumerable.Range(1, Count).Select(it => $"T-{it:0000}"));
    }

    private static async Task<Guid> Inspected(Kettle kettle, bool isGood = true)
    {
        var (status, body) = isGood
            ? await kettle.Save(await kettle.GoodWork())
            : await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9")), EndKind.Fail);
        status.ShouldBe(200, body.ToString());
        return body.GetProperty("id").GetGuid();
    }

    private static async Task<(int Status, string Said)> Print(
        HttpClient client,
        Guid id,
        Guid[] inspections,
        string? reason = null,
        int used = 0
    )
    {
        using var answer = await client.PostAsJsonAsync(
            new Uri("/api/v1/papers/labels/print", UriKind.Relative),
            new
            {
                id,
                inspections,
                medium = "sheet44",
                used,
                reason,
            },
            Cancel
        );
        var bytes = await answer.Content.ReadAsByteArrayAsync(Cancel);
        if (!answer.IsSuccessStatusCode)
            return ((int)answer.StatusCode, JsonDocument.Parse(bytes).RootElement.Text("detail"));
        using var pdf = PdfDocument.Open(bytes);
        return (200, string.Join(' ', pdf.GetPages().SelectMany(page => page.GetWords()).Select(word => word.Text)));
    }

    private static async Task<(Guid[] Waiting, Guid[] Printed)> Queue(HttpClient client, string tag = "")
    {
        var page = await client.Get($"/api/v1/papers/labels?tag={tag}");
        Guid[] Of(string name) => [.. page.GetProperty(name).EnumerateArray().Select(it => it.GetProperty("inspectionId").GetGuid())];
        return (Of("waiting"), Of("printed"));
    }

    [Fact]
    public async Task What_was_saved_waits_is_printed_once_and_again_only_with_a_reason()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var first = await Inspected(kettle);
        (await Queue(kettle.Client)).Waiting.ShouldContain(first);
        var batch = Guid.NewGuid();
        var printed = await Print(kettle.Client, batch, [first]);
        printed.Status.ShouldBe(200, printed.Said);
        printed.Said.ShouldContain(kettle.Tag);
        (await Print(kettle.Client, batch, [first])).Status.ShouldBe(200, "an answer that got lost is asked for again");
        (await world.InDatabase(db => db.LabelPrints.CountAsync(it => it.InspectionId == first, Cancel))).ShouldBe(1);
        var queue = await Queue(kettle.Client);
        (queue.Waiting.Contains(first), queue.Printed.Contains(first)).ShouldBe((false, true));

        var again = await Print(kettle.Client, Guid.NewGuid(), [first]);
        (again.Status, again.Said).ShouldBe(
            (422, "One label was printed before: say why once more. Two labels of one item are one too many.")
        );
        (await Print(kettle.Client, Guid.NewGuid(), [first], "Damaged")).Status.ShouldBe(200);
        // A second label slipped into a press that was answered is no repeat of it.
        var second = await Kettle.Register(kettle.Client);
        var other = await Inspected(second);
        (await Print(kettle.Client, batch, [first, other])).Status.ShouldBe(200);
        (await Queue(kettle.Client)).Waiting.ShouldNotContain(other);
        (await world.InDatabase(db => db.LabelPrints.CountAsync(it => it.InspectionId == first, Cancel))).ShouldBe(2);
    }

    [Fact]
    public async Task A_later_inspection_takes_the_labels_place_and_what_was_taken_back_has_none()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var passed = await Inspected(kettle);
        var failed = await Inspected(kettle, isGood: false);
        var queue = await Queue(kettle.Client);
        (queue.Waiting.Contains(passed), queue.Waiting.Contains(failed)).ShouldBe((false, true), "a pass label beside a failed item");
        var beside = await Print(kettle.Client, Guid.NewGuid(), [passed]);
        (beside.Status, beside.Said).ShouldBe((409, $"{kettle.Tag} is out of use: this label does not go on it."));
        using var lead = await world.App.SignedIn("maud");
        (
            await lead.Post($"/api/v1/inspections/{failed}/take-back", new { id = Guid.NewGuid(), reason = "another kettle" })
        ).Status.ShouldBe(200);
        var refused = await Print(kettle.Client, Guid.NewGuid(), [failed]);
        (refused.Status, refused.Said.Contains("was taken back")).ShouldBe((409, true));
        queue = await Queue(kettle.Client);
        (queue.Waiting.Contains(passed), queue.Waiting.Contains(failed)).ShouldBe((true, false));
        (await Queue(kettle.Client, kettle.Tag)).Printed.ShouldBe([passed], "found by its tag, printed or not");
    }

    [Fact]
    public async Task What_cannot_be_printed_is_refused_in_words()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var inspection = await Inspected(kettle);
        (await Print(kettle.Client, Guid.NewGuid(), [])).Said.ShouldBe("Choose at least one label.");
        (await Print(kettle.Client, Guid.NewGuid(), [inspection], used: 44)).Said.ShouldBe("Between 0 and 43 places of the first sheet.");
        (await Print(kettle.Client, Guid.NewGuid(), [inspection], used: -1)).Status.ShouldBe(422);
        (await Print(kettle.Client, Guid.NewGuid(), [inspection, Guid.NewGuid()])).Status.ShouldBe(409);
        (await Print(kettle.Client, Guid.NewGuid(), [inspection], new string('x', 201))).Status.ShouldBe(422);
        (await Print(kettle.Client, Guid.NewGuid(), [.. Enumerable.Range(0, 501).Select(_ => Guid.NewGuid())])).Status.ShouldBe(422);
        (await Queue(kettle.Client)).Waiting.ShouldContain(inspection, "nothing of it counted as printed");
    }

    [Fact]
    public async Task A_public_pages_code_is_the_items_tag_to_a_bench_until_it_is_taken_back()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var token = new string('k', 6) + Guid.NewGuid().ToString("N");
        await world.InDatabase(async db =>
        {
            db.PublicLinks.Add(
                new()
                {
                    Token = token,
                    ItemId = kettle.Item,
                    MadeAt = DateTimeOffset.UtcNow,
                }
            );
            return await db.SaveChangesAsync(Cancel);
        });
        var address = Uri.EscapeDataString($"https://house.example/u/{token}");
        var found = await kettle.Client.Get($"/api/v1/register/scan?tag={address}");
        found.TryGetProperty("item", out _).ShouldBeTrue(found.ToString());
        found.GetProperty("item").GetProperty("itemId").GetGuid().ShouldBe(kettle.Item);
        found.Text("tag").ShouldBe(kettle.Tag);
        await world.InDatabase(db =>
            db.PublicLinks.Where(it => it.Token == token)
                .ExecuteUpdateAsync(it => it.SetProperty(row => row.RevokedAt, (DateTimeOffset?)DateTimeOffset.UtcNow), Cancel)
        );
        using var refused = await kettle.Client.GetAsync(new Uri($"/api/v1/register/scan?tag={address}", UriKind.Relative), Cancel);
        (await refused.Content.ReadAsStringAsync(Cancel)).ShouldContain("This code leads to no item.");
    }

    [Fact]
    public async Task A_client_whose_labels_name_a_date_is_warned_when_it_is_over()
    {
        var it = await Planned.MakeAsync(world);
        var client = await world.InDatabase(db =>
            db.Items.Where(row => row.Id == it.Items[0]).Select(row => row.ClientId).SingleAsync(Cancel)
        );
        var overdue = DateOnly.FromDateTime(DateTime.UtcNow).AddDays(-40);
        await world.InDatabase(db =>
            db.Items.Where(row => row.Id == it.Items[0]).ExecuteUpdateAsync(row => row.SetProperty(one => one.Due, overdue), Cancel)
        );
        var code = await world.InDatabase(db => db.Clients.Where(row => row.Id == client).Select(row => row.Code).SingleAsync(Cancel));
        async Task<JsonElement[]> Warned() =>
            [.. (await it.Lead.Get("/api/v1/papers/labels/expired")).EnumerateArray().Where(one => one.Text("clientCode") == code)];
        (await Warned()).ShouldBeEmpty("their labels name no date");
        await world.InDatabase(db =>
            db.Clients.Where(row => row.Id == client)
                .ExecuteUpdateAsync(row => row.SetProperty(one => one.LabelSchool, LabelSchool.WithNextDate), Cancel)
        );
        var warned = (await Warned()).ShouldHaveSingleItem();
        (warned.GetProperty("count").GetInt32(), warned.Text("oldest")).ShouldBe((1, $"{overdue:yyyy-MM-dd}"));
    }
}
