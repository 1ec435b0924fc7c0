using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Records;
using Osierwand.Store;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Measured first, named later: what has no tag is nowhere but on its bench, and goes with all that was done to the item that its
/// tag is on.</summary>
[Collection(BenchHouse.Name)]
public class LooseItemTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static object Seen(
        Guid round,
        string kind = "appliance",
        string evidence = "earthSymbolOrPinMetalReachable",
        bool heating = true,
        double? rcdMa = null
    ) =>
        new
        {
            roundId = round,
            kind,
            evidence,
            use = "portable",
            heating,
            surgeProtected = false,
            allInsulated = false,
            hardWired = false,
            ratedVoltageV = (double?)null,
            ratedPowerW = (double?)2200,
            flexLengthM = (double?)1.5,
            flexMm2 = (double?)1.0,
            plug = "rewirable",
            outlets = 1,
            rcdMa,
        };

    internal static async Task<Kettle> Laid(HttpClient client, string evidence = "earthSymbolOrPinMetalReachable")
    {
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var (status, made) = await client.Post("/api/v1/bench/loose", Seen(round, evidence: evidence));
        status.ShouldBe(201, made.ToString());
        return new(client, made.GetProperty("itemId").GetGuid(), round, made.Text("tag"));
    }

    private static JsonElement Sent(IReadOnlyList<BenchEvent> events) => JsonDocument.Parse(BenchJson.Write(events)).RootElement;

    private static Task<(int Status, JsonElement Body)> LookUp(Kettle loose, string tag, IReadOnlyList<BenchEvent> events) =>
        loose.Client.Post(
            $"/api/v1/bench/{loose.Item}/tag",
            new
            {
                roundId = loose.Round,
                tag,
                events = Sent(events),
            }
        );

    internal static Task<(int Status, JsonElement Body)> Name(
        Kettle loose,
        string tag,
        IReadOnlyList<BenchEvent> events,
        Guid? known = null,
        string? facts = null,
        object? register = null
    ) =>
        loose.Client.Post(
            $"/api/v1/bench/{loose.Item}/name",
            new
            {
                roundId = loose.Round,
                tag,
                events = Sent(events),
                known,
                facts,
                register,
            }
        );

    private static object AsNew(string room = "Counter") =>
        new
        {
            name = "Found kettle",
            room,
            place = "kitchen",
            usage = "normal",
            moved = "sometimes",
            users = "trained",
            maker = "Alder",
            model = (string?)null,
            serial = (string?)null,
        };

    private static string NewTag() => $"L-{Guid.NewGuid():N}"[..12];

    internal static List<BenchEvent> Events(JsonElement answer) => BenchJson.ReadEvents(answer.GetProperty("events").GetRawText()).Value;

    [Fact]
    public async Task Without_a_tag_it_stands_nowhere_but_on_the_bench_and_is_saved_by_nothing()
    {
        var loose = await Laid(await world.App.SignedIn());
        (await loose.Lay()).Item.IsLoose.ShouldBeTrue();
        (await loose.Client.Get($"/api/v1/register?search={Uri.EscapeDataString(loose.Tag)}")).GetProperty("total").GetInt32().ShouldBe(0);
        var scan = await loose.Client.Get($"/api/v1/register/scan?tag={Uri.EscapeDataString(loose.Tag)}");
        scan.GetProperty("item").ValueKind.ShouldBe(JsonValueKind.Null);
        scan.GetProperty("elsewhere").GetArrayLength().ShouldBe(0);
        using var page = await loose.Client.GetAsync(new Uri($"/api/v1/register/{loose.Item}", UriKind.Relative), Cancel);
        ((int)page.StatusCode).ShouldBe(404);
        var round = (await loose.Client.Get($"/api/v1/rounds/{loose.Round}")).GetRawText();
        round.ShouldNotContain(loose.Tag);
        (await loose.Save(await loose.GoodWork())).Body.Text("detail").ShouldBe(Naming.NoTagYet);
        (await loose.Save([], EndKind.NotTested, notTested: NotTestedReason.InUse)).Body.Text("detail").ShouldBe(Naming.NoTagYet);
    }

    [Fact]
    public async Task A_new_tag_registers_it_and_the_record_says_that_it_was_measured_before()
    {
        var loose = await Laid(await world.App.SignedIn());
        var work = await loose.GoodWork();
        var tag = NewTag();
        (await LookUp(loose, tag, work)).Body.GetProperty("known").ValueKind.ShouldBe(JsonValueKind.Null);
        (await Name(loose, tag, work)).Status.ShouldBe(422, "nobody said what it is");
        (await Name(loose, tag, work, register: AsNew(room: " "))).Body.ToString().ShouldContain("The room is missing");
        var (status, named) = await Name(loose, $" {tag} ", work, register: AsNew());
        status.ShouldBe(200, named.ToString());
        named.GetProperty("itemId").GetGuid().ShouldBe(loose.Item);
        // The answer that got lost is the same when it is asked for again.
        Events((await Name(loose, tag, work, register: AsNew())).Body).Select(it => it.Id).ShouldBe(Events(named).Select(it => it.Id));
        (await loose.Lay()).Item.IsLoose.ShouldBeFalse();
        var (saved, body) = await loose.Save(Events(named));
        saved.ShouldBe(200, body.ToString());
        var record = await RecordOf(body);
        (record.Item.Tag, record.Item.Name, record.Item.Maker).ShouldBe((tag, "Found kettle", "Alder"));
        record.Advice.ShouldContain($"Measured before it had its tag, as appliance, class I; then registered as {tag}.");
        (await loose.Client.Get($"/api/v1/register/scan?tag={tag}"))
            .GetProperty("item")
            .GetProperty("itemId")
            .GetGuid()
            .ShouldBe(loose.Item);
    }

    [Fact]
    public async Task A_known_tag_makes_it_that_items_sheet_and_its_history_goes_on()
    {
        var client = await world.App.SignedIn();
        var known = await Kettle.Register(client);
        (await known.Save(await known.GoodWork())).Status.ShouldBe(200);
        var loose = await Laid(client);
        var work = await loose.GoodWork();
        var card = (await LookUp(loose, known.Tag.ToLowerInvariant(), work)).Body.GetProperty("known");
        (card.GetProperty("itemId").GetGuid(), card.Text("name")).ShouldBe((known.Item, "Test kettle"));
        card.GetProperty("contradicted").GetArrayLength().ShouldBe(0);
        card.GetProperty("refusal").ValueKind.ShouldBe(JsonValueKind.Null);
        (await Name(loose, known.Tag, work)).Status.ShouldBe(409, "the page showed nobody this item");
        var (status, named) = await Name(loose, known.Tag, work, known.Item);
        status.ShouldBe(200, named.ToString());
        // The answer that got lost is the same when it is asked for again.
        Events((await Name(loose, known.Tag, work, known.Item)).Body).Select(it => it.Id).ShouldBe(Events(named).Select(it => it.Id));
        (await Name(loose, NewTag(), work, register: AsNew())).Status.ShouldBe(409, "it has a tag");
        using var gone = await client.GetAsync(new Uri($"/api/v1/bench/{loose.Item}?round={loose.Round}", UriKind.Relative), Cancel);
        (await gone.Content.ReadAsStringAsync(Cancel)).ShouldContain($"it is {known.Tag}");

        var (saved, body) = await known.Save(Events(named));
        saved.ShouldBe(200, body.ToString());
        (await RecordOf(body)).Advice.ShouldContain(
            $"Measured before it had its tag, as appliance, class I; then found to be {known.Tag}."
        );
        (await known.Lay()).Basis.Inspections.ShouldBe(2);
    }

    [Fact]
    public async Task What_the_register_has_otherwise_is_decided_by_a_person()
    {
        var client = await world.App.SignedIn();
        var known = await Kettle.Register(client);
        var loose = await Laid(client, "squareWithinSquare");
        var work = await Kettle.Looked(loose);
        (await LookUp(loose, known.Tag, work))
            .Body.GetProperty("known")
            .GetProperty("contradicted")
            .EnumerateArray()
            .Select(line => line.GetString())
            .ShouldBe(["Class: I in the register, II as seen"]);
        (await Name(loose, known.Tag, work, known.Item)).Status.ShouldBe(422);
        var (status, named) = await Name(loose, known.Tag, work, known.Item, "seen");
        status.ShouldBe(200);
        var state = BenchState.Of(await known.Lay(), Events(named));
        state.Refused.ShouldBeEmpty();
        state.Ruling.Item.Equipment.Class.ShouldBe(Core.Equipment.ProtectionClass.II);
    }

    [Fact]
    public async Task A_tag_of_something_else_or_of_nothing_is_refused_and_the_sheet_stays()
    {
        var client = await world.App.SignedIn();
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var (_, lead) = await client.Post("/api/v1/bench/loose", Seen(round, "extensionLead", "squareWithinSquare", heating: false));
        var loose = new Kettle(client, lead.GetProperty("itemId").GetGuid(), round, "");
        var known = await Kettle.Register(client);
        var work = await Kettle.Looked(loose);
        var refusal = (await LookUp(loose, known.Tag, work)).Body.GetProperty("known").Text("refusal");
        refusal.ShouldContain("Look at the tag again");
        (await Name(loose, known.Tag, work, known.Item, "seen")).Status.ShouldBe(422);
        (await LookUp(loose, "\u0001", work)).Status.ShouldBe(400);
        (await LookUp(known, "X", work)).Status.ShouldBe(404, "what was registered first has its tag");
        (await loose.Lay()).Item.IsLoose.ShouldBeTrue();
        (await client.Post("/api/v1/bench/loose", Seen(round, "portableRcd"))).Body.ToString().ShouldContain("rating in milliampere");
        (await client.Post("/api/v1/bench/loose", Seen(round, "medicalDevice"))).Status.ShouldBe(422, "no standard for it here");
    }

    [Fact]
    public async Task Said_by_the_page_alone_nothing_was_ever_named()
    {
        var client = await world.App.SignedIn();
        var (kettle, other) = (await Kettle.Register(client), await Laid(client));
        var forged = new Named
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Loose = other.Item,
            Tag = kettle.Tag,
            SeenAs = "appliance, class I",
            WasKnown = true,
        };
        (await kettle.Save([.. await kettle.GoodWork(), forged])).Body.Text("detail").ShouldContain("the server knows nothing of it");
    }

    [Fact]
    public async Task A_discarded_failure_without_a_tag_stands_in_the_leads_review()
    {
        var loose = await Laid(await world.App.SignedIn());
        var failing = await Kettle.Looked(loose, Kettle.Typed("earthContinuity", "5"));
        var (status, _) = await loose.Client.Post(
            $"/api/v1/bench/{loose.Item}/discard",
            new
            {
                id = Guid.NewGuid(),
                roundId = loose.Round,
                events = Sent(failing),
                reason = "the owner took it away",
            }
        );
        status.ShouldBe(200);
        var lead = await world.App.SignedIn("maud");
        (await lead.Get("/api/v1/bench/discarded")).EnumerateArray().Select(it => it.Text("tag")).ShouldContain(loose.Tag);
    }

    [Fact]
    public async Task Handed_over_without_a_tag_it_is_named_by_whoever_took_it()
    {
        var giver = await Laid(await world.App.SignedIn());
        var known = await Kettle.Register(giver.Client);
        var sheet = Guid.NewGuid();
        var (status, _) = await giver.Client.Post(
            $"/api/v1/bench/{giver.Item}/hand-over",
            new
            {
                id = sheet,
                roundId = giver.Round,
                events = Sent(await Kettle.Looked(giver, Kettle.Typed("earthContinuity", "5"))),
                words = "no tag, and it failed",
            }
        );
        status.ShouldBe(204);
        var taker = giver with { Client = await world.App.SignedIn("rufus") };
        (await taker.Client.Get("/api/v1/bench/handed-over")).EnumerateArray().Select(it => it.Text("tag")).ShouldContain(giver.Tag);
        var events = Events((await taker.Client.Post($"/api/v1/bench/handed-over/{sheet}/take", new { })).Body);
        var named = await Name(taker, known.Tag, events, known.Item);
        named.Status.ShouldBe(200, named.Body.ToString());
        // Until it is ended the failure marks the item that it turned out to be.
        (await known.Lay())
            .Item.LeftFailure.ShouldNotBeNull()
            .Text.ShouldContain("Rufus Oakhanger has it");
        var theirs = known with { Client = taker.Client };
        (await theirs.Save(Events(named.Body), EndKind.Fail)).Status.ShouldBe(200);
        (await known.Lay()).Item.LeftFailure.ShouldBeNull();
    }

    private Task<InspectionRecord> RecordOf(JsonElement saved) =>
        world.InDatabase(async db =>
            InspectionRecord.Read((await db.Inspections.FindAsync([saved.GetProperty("id").GetGuid()], Cancel))!.Record).Value
        );
}
