using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Planning;
using Shouldly;
using SkiaSharp;

namespace Osierwand.Server.Tests;

/// <summary>The page behind an item's code: what it tells, what it takes, and what nobody gets out of it or into it.</summary>
[Collection(ScheduleHouse.Name)]
public sealed class UserCheckTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private sealed record Linked(HttpClient Lead, Kettle Kettle, string Token);

    private async Task<Linked> Link()
    {
        var lead = await world.App.SignedIn("maud");
        var kettle = await Kettle.Register(lead);
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        var (status, made) = await lead.Post($"/api/v1/register/{kettle.Item}/link", new { });
        status.ShouldBe(200);
        return new(lead, kettle, made.Text("path")["/u/".Length..]);
    }

    /// <summary>Nobody is signed in; each test comes from an address of its own, as the throttle counts by it.</summary>
    private HttpClient Somebody(string address)
    {
        var client = world.App.CreateClient();
        client.DefaultRequestHeaders.Add(Host.AddressHeader, address);
        return client;
    }

    private static object Report(string report, string words = "cracked case", Guid? id = null) =>
        new
        {
            id = id ?? Guid.NewGuid(),
            report,
            words,
            name = "Fern",
        };

    [Fact]
    public async Task It_tells_when_the_item_was_checked_and_nothing_more()
    {
        var it = await Link();
        var page = await Somebody("10.1.0.1").Get($"/api/v1/public/{it.Token}");
        page.EnumerateObject()
            .Select(one => one.Name)
            .ShouldBe(["tag", "name", "condition", "isOutOfUse", "lastCheck", "lastCheckedOn", "due", "isOverdue", "asks", "saidOn"]);
        (page.Text("tag"), page.Text("condition"), page.Text("lastCheck")).ShouldBe((it.Kettle.Tag, "in service", "pass"));
    }

    [Fact]
    public async Task Damage_stands_on_today_until_somebody_says_what_becomes_of_it()
    {
        var it = await Link();
        var user = Somebody("10.1.0.2");
        (await user.Post($"/api/v1/public/{it.Token}/checks", Report("damaged", " "))).Status.ShouldBe(422);
        var id = Guid.NewGuid();
        var sent = Report("damaged", "<script>alert(1)</script> loose plug", id);
        (await user.Post($"/api/v1/public/{it.Token}/checks", sent)).Body.GetProperty("tookOutOfUse").GetBoolean().ShouldBeFalse();
        (await user.Post($"/api/v1/public/{it.Token}/checks", sent)).Status.ShouldBe(200, "sent twice it is stored once");
        var mine = (await it.Lead.Get("/api/v1/user-checks")).EnumerateArray().Where(one => one.Text("tag") == it.Kettle.Tag).ToArray();
        mine.ShouldHaveSingleItem().Text("words").ShouldBe("<script>alert(1)</script> loose plug", "as it was typed, and shown as text");
        (await it.Kettle.Page()).Text("state").ShouldBe("inService");
        (await it.Lead.Post($"/api/v1/user-checks/{id}/seen", new { decision = "" })).Status.ShouldBe(422);
        (await it.Lead.Post($"/api/v1/user-checks/{id}/seen", new { decision = "plug tightened" })).Status.ShouldBe(204);
        (await it.Lead.Get("/api/v1/user-checks")).GetRawText().ShouldNotContain(it.Kettle.Tag);
        (await user.Post($"/api/v1/public/{it.Token}/checks", Report("allGood", ""))).Status.ShouldBe(200);
        (await it.Lead.Get("/api/v1/user-checks"))
            .GetRawText()
            .ShouldNotContain(it.Kettle.Tag, Case.Sensitive, "a good look bothers nobody");
    }

    [Fact]
    public async Task What_is_dangerous_is_out_of_use_at_once_and_only_an_inspection_after_repair_frees_it()
    {
        var it = await Link();
        var ruling = await it.Kettle.Lay();
        var work = await it.Kettle.GoodWork();
        (await Somebody("10.1.0.3").Post($"/api/v1/public/{it.Token}/checks", Report("dangerous", "it gave me a shock")))
            .Body.GetProperty("tookOutOfUse")
            .GetBoolean()
            .ShouldBeTrue();
        (await it.Kettle.Page()).Text("state").ShouldBe("quarantined");
        (await Somebody("10.1.0.3").Get($"/api/v1/public/{it.Token}")).Text("condition").ShouldBe("out of use");
        // A bench that had it open is told, and a simple test does not free it.
        (await it.Kettle.Save(work, ruling: ruling, state: BenchState.Of(ruling, work).Fingerprint)).Status.ShouldBe(409);
        (await it.Kettle.Lay()).Scope.ShouldBe(Scope.AfterRepair);
        (await it.Lead.Post("/api/v1/trust/verify", new { }))
            .Body.GetRawText()
            .ShouldNotContain(it.Kettle.Tag, Case.Sensitive, "stricter is no break");
        (await it.Kettle.Save(work)).Status.ShouldBe(422, "nobody said what was mended");
        (await it.Kettle.Save([.. work, Kettle.Mended()])).Status.ShouldBe(200);
        (await it.Kettle.Page()).Text("state").ShouldBe("inService");
    }

    [Fact]
    public async Task A_link_that_is_taken_back_or_guessed_leads_nowhere_and_guessing_is_slowed()
    {
        var it = await Link();
        it.Token.Length.ShouldBeGreaterThanOrEqualTo(22);
        var again = (await it.Lead.Post($"/api/v1/register/{it.Kettle.Item}/link", new { })).Body.Text("path");
        again.ShouldNotContain(it.Token);
        await using var strict = new Host(world.Connection, settings: new Dictionary<string, string> { ["Public:PerMinute"] = "5" });
        using var guesser = strict.CreateClient();
        guesser.DefaultRequestHeaders.Add(Host.AddressHeader, "10.1.0.9");
        var answers = new List<HttpStatusCode>();
        foreach (var token in new[] { it.Token, "x", new string('a', 400), "AAAAAAAAAAAAAAAAAAAAAA", "B", "C", "D" })
            answers.Add((await guesser.GetAsync(new Uri($"/api/v1/public/{token}", UriKind.Relative), Cancel)).StatusCode);
        answers.Take(5).ShouldAllBe(one => one == HttpStatusCode.NotFound || one == HttpStatusCode.BadRequest);
        answers.Skip(5).ShouldAllBe(one => one == HttpStatusCode.TooManyRequests);
        (await it.Lead.Post($"/api/v1/register/{it.Kettle.Item}/link/revoke", new { })).Status.ShouldBe(204);
        var gone = await Somebody("10.1.0.4").GetAsync(new Uri($"/api/v1/public/{again["/u/".Length..]}", UriKind.Relative), Cancel);
        gone.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var code = await it.Lead.GetAsync(new Uri($"/api/v1/register/{it.Kettle.Item}/link/code", UriKind.Relative), Cancel);
        code.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    private static byte[] Picture(int width, int height, SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(width, height);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.Teal);
        using var encoded = bitmap.Encode(format, 90);
        return encoded.ToArray();
    }

    private static async Task<(HttpStatusCode Status, JsonElement Body)> Send(HttpClient client, string path, byte[] body)
    {
        using var content = new ByteArrayContent(body);
        content.Headers.ContentType = new MediaTypeHeaderValue("image/jpeg");
        using var answer = await client.PostAsync(new Uri(path, UriKind.Relative), content, Cancel);
        var text = await answer.Content.ReadAsStringAsync(Cancel);
        return (answer.StatusCode, text.StartsWith('{') ? JsonDocument.Parse(text).RootElement.Clone() : default);
    }

    [Fact]
    public async Task A_photo_is_made_anew_small_and_without_what_it_does_not_show()
    {
        var it = await Link();
        var user = Somebody("10.1.0.5");
        var id = Guid.NewGuid();
        await user.Post($"/api/v1/public/{it.Token}/checks", Report("damaged", id: id));
        // A camera's own data behind the start of the file: where it was taken.
        var jpeg = Picture(4000, 3000, SKEncodedImageFormat.Jpeg);
        var place = Encoding.ASCII.GetBytes("Exif\0\0GPS 54.1 N 2.7 W");
        byte[] marked = [0xFF, 0xD8, 0xFF, 0xE1, 0, (byte)(place.Length + 2), .. place, .. jpeg[2..]];
        var (status, kept) = await Send(user, $"/api/v1/public/{it.Token}/checks/{id}/photo", marked);
        status.ShouldBe(HttpStatusCode.OK);
        (await Send(user, $"/api/v1/public/{it.Token}/checks/{id}/photo", marked))
            .Body.Text("id")
            .ShouldBe(kept.Text("id"), "one photo a report");
        var picture = await it.Lead.GetByteArrayAsync(new Uri($"/api/v1/photos/{kept.Text("id")}", UriKind.Relative), Cancel);
        Encoding.Latin1.GetString(picture).ShouldNotContain("GPS");
        using var read = SKBitmap.Decode(picture);
        (read.Width, read.Height).ShouldBe((1600, 1200));
        using var small = SKBitmap.Decode(
            await it.Lead.GetByteArrayAsync(new Uri($"/api/v1/photos/{kept.Text("id")}?thumbnail=true", UriKind.Relative), Cancel)
        );
        small.Width.ShouldBe(240);
        (await user.GetAsync(new Uri($"/api/v1/photos/{kept.Text("id")}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Unauthorized
        );
    }

    [Fact]
    public async Task What_is_no_photo_or_too_large_a_one_is_refused_by_its_content()
    {
        var it = await Link();
        var path = $"/api/v1/register/{it.Kettle.Item}/photos?of=plate";
        foreach (var format in new[] { SKEncodedImageFormat.Png, SKEncodedImageFormat.Webp })
            (await Send(it.Lead, path, Picture(30, 20, format))).Status.ShouldBe(HttpStatusCode.OK);
        (await Send(it.Lead, path, Encoding.UTF8.GetBytes("I am called plate.jpg and am none")))
            .Body.Text("detail")
            .ShouldContain("This is no photo");
        (await Send(it.Lead, path, [])).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var whole = Picture(300, 200, SKEncodedImageFormat.Png);
        (await Send(it.Lead, path, Huge())).Body.Text("detail").ShouldContain("too large a picture");
        (await Send(it.Lead, path, whole[..(whole.Length / 3)])).Status.ShouldBeOneOf(
            HttpStatusCode.UnprocessableEntity,
            HttpStatusCode.OK
        );
        (await Send(it.Lead, path, new byte[13 * 1024 * 1024])).Body.Text("detail").ShouldContain("at most 12 MB");
        (await it.Lead.Get($"/api/v1/register/{it.Kettle.Item}/photos")).GetArrayLength().ShouldBeInRange(2, 3);
    }

    [Fact]
    public async Task A_good_earth_point_is_found_again_at_its_step()
    {
        var it = await Link();
        var photos = $"/api/v1/register/{it.Kettle.Item}/photos";
        var picture = Picture(30, 20, SKEncodedImageFormat.Png);
        (await Send(it.Lead, $"{photos}?of=earthPoint&step=earthContinuity%2Fdocking%20rail", picture)).Status.ShouldBe(HttpStatusCode.OK);
        (await Send(it.Lead, $"{photos}?of=plate&step=earthContinuity", picture)).Status.ShouldBe(HttpStatusCode.OK);
        (await Send(it.Lead, $"{photos}?of=earthPoint&step={new string('x', 301)}", picture))
            .Body.Text("detail")
            .ShouldContain("no such step");
        var kept = (await it.Lead.Get(photos)).EnumerateArray().ToArray();
        kept.Length.ShouldBe(2);
        // A plate is of no step, whatever was sent with it.
        kept[0].GetProperty("step").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        kept[1].Text("step").ShouldBe("earthContinuity/docking rail");
        kept[1].Text("shows").ShouldBe("Earth continuity, docking rail");
    }

    /// <summary>The head of a PNG that says 30,000 by 30,000; nothing of it is unpacked.</summary>
    private static byte[] Huge()
    {
        var png = Picture(8, 8, SKEncodedImageFormat.Png);
        var size = new byte[] { 0, 0, 0x75, 0x30, 0, 0, 0x75, 0x30 };
        size.CopyTo(png, 16);
        var crc = ~png[12..29]
            .Aggregate(
                0xFFFFFFFFu,
                (sum, one) =>
                {
                    sum ^= one;
                    for (var bit = 0; bit < 8; bit++)
                        sum = (sum & 1) != 0 ? (sum >> 1) ^ 0xEDB88320u : sum >> 1;
                    return sum;
                }
            );
        BitConverter.GetBytes(crc).Reverse().ToArray().CopyTo(png, 29);
        return png;
    }

    [Fact]
    public async Task A_viewer_sees_the_photos_of_their_own_client_alone()
    {
        var it = await Link();
        var (_, kept) = await Send(
            it.Lead,
            $"/api/v1/register/{it.Kettle.Item}/photos?of=damage",
            Picture(40, 40, SKEncodedImageFormat.Jpeg)
        );
        using var viewer = await world.App.SignedIn("wilf");
        (await viewer.GetAsync(new Uri($"/api/v1/photos/{kept.Text("id")}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await world.InDatabase(db => db.Photos.CountAsync(photo => photo.ItemId == it.Kettle.Item, Cancel))).ShouldBe(1);
    }
}
