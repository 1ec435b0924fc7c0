using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Cords;
using Osierwand.Core.Judging;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Shouldly;
using UglyToad.PdfPig;

namespace Osierwand.Server.Tests;

[Collection(RegisterHouse.Name)]
public class RegisterTests(World world)
{
    [Fact]
    public async Task The_demo_world_is_five_clients_four_hundred_items_and_three_years()
    {
        var client = await world.App.SignedIn();
        var page = await client.Get("/api/v1/register?pageSize=1");
        page.GetProperty("clients")
            .EnumerateArray()
            .Select(it => it.Text("code"))
            .Intersect(["LMR", "SVH", "KRD", "JBD", "MTH"])
            .Count()
            .ShouldBe(5);
        page.GetProperty("total").GetInt32().ShouldBeGreaterThan(380);
        var inspections = await world.InDatabase(db =>
            db.Inspections.GroupBy(it => it.Outcome).ToDictionaryAsync(it => it.Key, it => it.Count())
        );
        foreach (var outcome in new[] { Outcome.Pass, Outcome.PassWithAdvice, Outcome.Fail, Outcome.NotTested })
            inspections.Keys.ShouldContain(outcome);
        (await world.InDatabase(db => db.Inspections.MinAsync(it => it.TestedAt))).ShouldBeLessThan(DateTimeOffset.Now.AddMonths(-30));
        (await world.InDatabase(db => db.Inspections.CountAsync(it => it.NearLimit))).ShouldBeGreaterThan(0);
        (await world.InDatabase(db => db.Inspections.CountAsync(it => it.Rising))).ShouldBeGreaterThan(0);
    }

    [Fact]
    public async Task Every_record_of_the_demo_world_follows_the_published_schema_and_reads_back_to_the_letter()
    {
        var schema = await NJsonSchema.JsonSchema.FromJsonAsync(InspectionRecord.Schema(), TestContext.Current.CancellationToken);
        var records = await world.InDatabase(db =>
            db.Inspections.Where(it => it.BookNumber % 7 == 0).Select(it => it.Record).ToListAsync()
        );
        records.Count.ShouldBeGreaterThan(50);
        foreach (var text in records)
        {
            schema.Validate(text).Select(error => error.ToString()).ShouldBeEmpty();
            InspectionRecord.Read(text).Value.ToJson().ShouldBe(text);
        }
        foreach (var spoil in Spoilings)
        {
            var spoilt = JsonNode.Parse(records[0])!.AsObject();
            spoil(spoilt);
            schema.Validate(spoilt.ToJsonString()).ShouldNotBeEmpty(spoilt.ToJsonString()[..200]);
            InspectionRecord.Read(spoilt.ToJsonString()).Fault.ShouldNotBeNull();
        }
    }

    private static readonly Action<JsonObject>[] Spoilings =
    [
        record => record["outcome"] = "fine",
        record => record.Remove("readings"),
        record => record["nearby"] = true,
        record => record["times"]!.AsObject().Remove("date"),
        record => record["item"]!["revision"] = "first",
    ];

    [Fact]
    public async Task The_register_searches_filters_sorts_and_pages()
    {
        var client = await world.App.SignedIn();
        var urns = await client.Get("/api/v1/register?search=tea urn&client=LMR");
        urns.GetProperty("rows")
            .EnumerateArray()
            .ShouldAllBe(row => row.GetProperty("name").GetString() == "Tea urn" && row.GetProperty("clientCode").GetString() == "LMR");
        var overdue = await client.Get("/api/v1/register?due=overdue&order=due&pageSize=5");
        var days = overdue.GetProperty("rows").EnumerateArray().Select(row => row.GetProperty("daysOver").GetInt32()).ToArray();
        days.ShouldAllBe(over => over > 0);
        days.ShouldBe(days.OrderDescending());
        var first = await client.Get("/api/v1/register?order=tag&pageSize=3&page=0");
        var second = await client.Get("/api/v1/register?order=tag&pageSize=3&page=1");
        string.CompareOrdinal(
                first.GetProperty("rows")[2].GetProperty("tag").GetString(),
                second.GetProperty("rows")[0].GetProperty("tag").GetString()
            )
            .ShouldBeLessThan(0);
        (await client.Get("/api/v1/register?search=100%25_")).GetProperty("total").GetInt32().ShouldBe(0);
    }

    [Fact]
    public async Task A_lead_opens_a_round_at_a_new_client_and_a_technician_may_not()
    {
        var code = $"N{Random.Shared.Next(1_000_000, 9_999_999)}";
        object Round(string standard) =>
            new
            {
                clientCode = code,
                clientName = "New client",
                site = "Barn",
                name = "First visit",
                standardId = standard,
                medicalStandardId = (string?)null,
                endsOn = DateOnly.FromDateTime(DateTime.Now).AddDays(7),
            };
        (await (await world.App.SignedIn()).Post("/api/v1/rounds", Round("uk-cop-5"))).Status.ShouldBe(403);
        var lead = await world.App.SignedIn("maud");
        (await lead.Post("/api/v1/rounds", Round("none"))).Body.GetProperty("faults")[0].Text("path").ShouldBe("standardId");
        var (status, opened) = await lead.Post("/api/v1/rounds", Round("as-nzs-3760-2022"));
        status.ShouldBe(201);
        var (_, made) = await lead.Post("/api/v1/register", Kettle.New(opened.GetProperty("id").GetGuid(), "1"));
        var kettle = new Kettle(lead, made.GetProperty("itemId").GetGuid(), opened.GetProperty("id").GetGuid(), "1");
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        (await lead.Get($"/api/v1/register/{kettle.Item}")).GetProperty("history")[0].GetProperty("bookNumber").GetInt32().ShouldBe(1);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("%01%02AB", "cannot be printed")]
    public async Task A_tag_that_is_none_is_refused_with_what_to_do(string tag, string why)
    {
        using var answer = await (await world.App.SignedIn()).GetAsync(
            new Uri($"/api/v1/register/scan?tag={tag}", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain(why);
    }

    [Fact]
    public async Task A_tag_is_found_in_any_case_registered_once_and_never_too_long()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        (await kettle.Client.Get($"/api/v1/register/scan?tag={kettle.Tag.ToLowerInvariant()}"))
            .GetProperty("item")
            .GetProperty("itemId")
            .GetGuid()
            .ShouldBe(kettle.Item);
        var (status, clash) = await kettle.Client.Post("/api/v1/register", Kettle.New(kettle.Round, kettle.Tag.ToUpperInvariant()));
        status.ShouldBe(409);
        clash.Text("detail").ShouldContain("already has an item");
        (await kettle.Client.Post("/api/v1/register", Kettle.New(kettle.Round, new string('x', 300))))
            .Body.Text("detail")
            .ShouldContain("300 characters are too many");
    }

    [Theory]
    [InlineData("withoutNextDate", false)]
    [InlineData("withNextDate", true)]
    public async Task A_label_has_its_true_size_and_says_what_its_school_says(string school, bool next)
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var (_, saved) = await kettle.Save(await kettle.GoodWork());
        var path = $"/api/v1/papers/labels/{saved.Text("id")}?school={school}";
        using var pdf = PdfDocument.Open(
            await kettle.Client.GetByteArrayAsync(new Uri(path + "&format=pdf", UriKind.Relative), TestContext.Current.CancellationToken)
        );
        var page = pdf.GetPage(1);
        (page.Width * 25.4 / 72).ShouldBe(50, 0.15);
        (page.Height * 25.4 / 72).ShouldBe(25, 0.15);
        var words = string.Concat(page.Letters.Select(letter => letter.Value));
        words.ShouldContain(kettle.Tag);
        words.ShouldContain("PASS");
        words.ShouldContain("IF");
        words.Contains("next", StringComparison.Ordinal).ShouldBe(next);
        var png = await kettle.Client.GetByteArrayAsync(
            new Uri(path + "&format=png", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        png[..4].ShouldBe([0x89, 0x50, 0x4E, 0x47]);
    }

    /// <summary>What hides in a demo item is a fault of wear or use, never one that its own plate gives away on every one of its
    /// kind.</summary>
    [Fact]
    public async Task No_demo_item_is_condemned_by_its_own_plate()
    {
        var items = await world.InDatabase(db =>
            db.Items.AsNoTracking().Where(it => !it.Tag.StartsWith("T-")).ToListAsync(TestContext.Current.CancellationToken)
        );
        items.Count.ShouldBeGreaterThan(390);
        var condemned = items.Where(it =>
            FuseAndFlex
                .Check(it.Equipment, PackLibrary.Find(it.Equipment.IsMedical ? "iec-62353-2014" : "uk-cop-5")!)
                .Any(found => found.IsFault)
        );
        condemned.Select(it => it.Name).Distinct().ShouldBeEmpty();
    }

    [Theory]
    [InlineData("T-0201 Wasserkocher, Büro", null)]
    [InlineData("Crème brûlée, Straße, ñandú", null)]
    [InlineData("Čajník", "Č")] // the letters that ship are those of western Europe
    [InlineData("T-0201 検査済み", "検")]
    [InlineData("a plug 🔌", "🔌")]
    public void A_label_says_which_letters_it_cannot_print(string text, string? lacks)
    {
        var said = Papers.LabelDrawing.Lacks(text);
        if (lacks is null)
            said.ShouldBeNull();
        else
            said.ShouldNotBeNull().ShouldContain(lacks);
    }

    [Theory]
    [InlineData("LMR-%E2%80%AE0201")] // the digits behind it would read backwards
    [InlineData("LMR-0201%E2%80%8B")] // looks like LMR-0201
    [InlineData("%EF%BB%BFLMR-0201%EF%BB%BFx")]
    public async Task A_tag_with_characters_that_nobody_sees_is_refused_with_the_reason(string tag)
    {
        using var client = await world.App.SignedIn();
        using var answer = await client.GetAsync(
            new Uri($"/api/v1/register/scan?tag={tag}", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        ((int)answer.StatusCode).ShouldBe(422);
        (await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("cannot be seen");
    }

    [Fact]
    public async Task The_second_of_a_model_takes_the_facts_of_the_one_before_and_nothing_that_is_its_own()
    {
        using var client = await world.App.SignedIn();
        var kettle = await Kettle.Register(client);
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == kettle.Item)
                .ExecuteUpdateAsync(set =>
                    set.SetProperty(it => it.Maker, "Alder & Rush").SetProperty(it => it.Model, "K%9").SetProperty(it => it.Serial, "77")
                )
        );
        var same = await client.Get("/api/v1/register/same-model?maker=%20alder%20%26%20rush&model=k%259");
        (same.Text("tag"), same.GetProperty("count").GetInt32(), same.Text("kind")).ShouldBe((kettle.Tag, 1, "appliance"));
        var facts = same.GetProperty("facts");
        (facts.GetProperty("ratedPowerW").GetDouble(), facts.GetProperty("heating").GetBoolean()).ShouldBe((2200, true));
        // Signs that mean something to the database are letters like any other in a search.
        (await client.Get("/api/v1/register?search=k%259"))
            .GetProperty("total")
            .GetInt32()
            .ShouldBe(1);
        (await client.Get("/api/v1/register?search=k_9")).GetProperty("total").GetInt32().ShouldBe(0);
        facts.TryGetProperty("serial", out var serial).ShouldBe(serial.ValueKind == JsonValueKind.Null);
        facts.TryGetProperty("room", out var room).ShouldBe(room.ValueKind == JsonValueKind.Null);
        foreach (var none in new[] { "maker=Alder%20%26%20Rush&model=K", "maker=&model=K%259", "maker=%25&model=%25" })
            (
                await client.GetAsync(
                    new Uri($"/api/v1/register/same-model?{none}", UriKind.Relative),
                    TestContext.Current.CancellationToken
                )
            ).StatusCode.ShouldBe(HttpStatusCode.NoContent);
    }

    /// <summary>Two of one model and one of another, registered by one client.</summary>
    private static async Task<(HttpClient Client, Guid[] Items)> OfOneModel(World world)
    {
        var client = await world.App.SignedIn();
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var model = $"M{Guid.NewGuid():N}"[..10];
        var items = new List<Guid>();
        foreach (var own in new[] { model, model, model.ToLowerInvariant(), $"{model}x" })
        {
            var plate = System.Text.Json.JsonSerializer.SerializeToNode(Kettle.New(round, $"T-{Guid.NewGuid():N}"[..12]))!.AsObject();
            (plate["maker"], plate["model"]) = ("Bramblewick", own);
            items.Add((await client.Post("/api/v1/register", plate)).Body.GetProperty("itemId").GetGuid());
        }
        return (client, [.. items]);
    }

    [Fact]
    public async Task A_correction_of_a_model_is_offered_to_its_other_devices_and_to_no_other_model()
    {
        var (client, items) = await OfOneModel(world);
        var changes = new
        {
            ratedPowerW = 3000,
            startUpSeconds = 20,
            serial = "A-1",
        };
        var (status, alike) = await client.Post($"/api/v1/register/{items[0]}/alike", new { changes });
        status.ShouldBe(200, alike.ToString());
        alike.GetProperty("items").EnumerateArray().Select(it => it.GetProperty("id").GetGuid()).ShouldBe(items[1..3], ignoreOrder: true);
        alike
            .GetProperty("changes")
            .GetProperty("serial")
            .ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null, "a serial is each item's own");

        var first = alike.GetProperty("items")[0];
        var corrected = await client.Post(
            $"/api/v1/register/{first.Text("id")}/facts",
            new
            {
                revision = first.GetProperty("revision").GetInt32(),
                changes = alike.GetProperty("changes"),
                reason = "As on the other: read off the plate",
            }
        );
        corrected.Status.ShouldBe(204);
        var again = (await client.Post($"/api/v1/register/{items[0]}/alike", new { changes })).Body;
        again.GetProperty("items").GetArrayLength().ShouldBe(1, "what says so already is not asked");
    }

    [Fact]
    public async Task What_is_each_items_own_is_offered_to_nobody()
    {
        var (client, items) = await OfOneModel(world);
        var (_, alike) = await client.Post($"/api/v1/register/{items[0]}/alike", new { changes = new { serial = "A-1", flexLengthM = 3 } });
        alike.GetProperty("changes").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        alike.GetProperty("items").GetArrayLength().ShouldBe(0);
    }
}
