using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>An item that was found elsewhere: moved by one confirmation, its dates never later for it.</summary>
[Collection(RegisterHouse.Name)]
public sealed class MovingTests(World world)
{
    private sealed record Tested(Kettle Kettle, int Revision, string Due, string Path);

    private async Task<Tested> Kettle_that_was_tested()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn("ida"));
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        var page = await kettle.Page();
        return new(kettle, page.GetProperty("revision").GetInt32(), page.Text("due"), $"/api/v1/register/{kettle.Item}/move");
    }

    private static object To(int revision, string room, string? place, bool wasKnocked = false) =>
        new
        {
            revision,
            room,
            place,
            wasKnocked,
        };

    [Fact]
    public async Task To_a_harder_place_it_is_due_earlier_and_to_an_easier_one_only_its_next_test_earns_more()
    {
        var it = await Kettle_that_was_tested();
        var (status, moved) = await it.Kettle.Client.Post(it.Path, To(it.Revision, "Attic office", "office"));
        status.ShouldBe(200);
        moved.Text("due").ShouldBe(it.Due);
        moved.GetProperty("because").GetRawText().ShouldContain("from its next test");
        (await it.Kettle.Client.Post(it.Path, To(it.Revision, "Yard", null))).Status.ShouldBe(409, "by then it is another revision");
        var (_, harder) = await it.Kettle.Client.Post(it.Path, To(it.Revision + 1, "Yard", "construction"));
        string.CompareOrdinal(harder.Text("due"), it.Due).ShouldBeLessThan(0);
        var changes = (await it.Kettle.Page()).GetProperty("changes").GetRawText();
        changes.ShouldContain("Attic office");
        changes.ShouldContain("Due: ");
    }

    [Fact]
    public async Task What_was_knocked_is_due_at_once_and_the_books_hold()
    {
        var it = await Kettle_that_was_tested();
        (await it.Kettle.Client.Post(it.Path, To(it.Revision, " ", null))).Status.ShouldBe(422);
        (await it.Kettle.Client.Post(it.Path, To(it.Revision, "A\u0007room", null))).Status.ShouldBe(400);
        var (_, knocked) = await it.Kettle.Client.Post(it.Path, To(it.Revision, "Counter", null, wasKnocked: true));
        knocked.Text("due").ShouldBe((await it.Kettle.Lay()).Today.ToString("yyyy-MM-dd", null));
        knocked.GetProperty("because").GetRawText().ShouldContain("knocked");
        using var lead = await world.App.SignedIn("maud");
        (await lead.Post("/api/v1/trust/verify", new { })).Body.GetRawText().ShouldNotContain(it.Kettle.Tag);
        (await it.Kettle.Save(await it.Kettle.GoodWork())).Status.ShouldBe(200);
        string.CompareOrdinal((await it.Kettle.Page()).Text("due"), it.Due)
            .ShouldBeGreaterThanOrEqualTo(0, "it was tested, and has its months again");
    }

    [Fact]
    public async Task A_corrected_fact_that_makes_its_interval_shorter_counts_at_once_and_another_changes_no_date()
    {
        var it = await Kettle_that_was_tested();
        Task<(int Status, System.Text.Json.JsonElement Body)> Correct(int revision, object changes) =>
            it.Kettle.Client.Post(
                $"/api/v1/register/{it.Kettle.Item}/facts",
                new
                {
                    revision,
                    changes,
                    reason = "Read off the plate",
                }
            );
        (await Correct(it.Revision, new { serial = "B-2" })).Status.ShouldBe(204);
        (await it.Kettle.Page()).Text("due").ShouldBe(it.Due);
        (await Correct(it.Revision + 1, new { madeIn = 2001, lifeYears = 10 })).Status.ShouldBe(204);
        var page = await it.Kettle.Page();
        string.CompareOrdinal(page.Text("due"), it.Due).ShouldBeLessThan(0);
        page.GetProperty("because").GetRawText().ShouldContain("at the end of its expected life, or past it");
        page.GetProperty("changes")[0].GetRawText().ShouldContain("Due: ");
        using var lead = await world.App.SignedIn("maud");
        (await lead.Post("/api/v1/trust/verify", new { })).Body.GetRawText().ShouldNotContain(it.Kettle.Tag);
        (await Correct(it.Revision + 2, new { madeIn = 1800 })).Status.ShouldBe(422);
    }

    [Fact]
    public async Task What_was_never_tested_stays_due_for_its_first_test()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn("ida"));
        var (status, moved) = await kettle.Client.Post($"/api/v1/register/{kettle.Item}/move", To(0, "Yard", "construction", true));
        status.ShouldBe(200);
        moved.GetProperty("due").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
    }

    [Fact]
    public async Task A_new_item_of_every_kind_is_registered_from_its_plate_with_what_only_its_kind_has()
    {
        using var client = await world.App.SignedIn("ida");
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        object New(string kind, string evidence, object more, double? watts = null, double? rcdMa = null) =>
            new
            {
                roundId = round,
                tag = $"T-{Guid.NewGuid():N}"[..12],
                name = "Thing",
                kind,
                evidence,
                use = "portable",
                place = "kitchen",
                room = "Counter",
                ratedVoltageV = 230,
                ratedPowerW = watts,
                heating = false,
                surgeProtected = false,
                allInsulated = false,
                hardWired = false,
                plug = "moulded",
                outlets = 1,
                rcdMa,
                usage = "normal",
                moved = "sometimes",
                users = "trained",
                more,
            };
        object More(object[]? plates = null, object[]? parts = null, int phases = 1) =>
            new
            {
                phases,
                detachable = true,
                mainsSwitch = "electronic",
                startUpSeconds = 12,
                access = "removableFixings",
                care = new[] { "water" },
                partPlates = plates ?? [],
                appliedParts = parts ?? [],
                earthedParts = Array.Empty<string>(),
                unearthedParts = new[] { "tap" },
            };
        async Task<string> Facts(object sent)
        {
            var (status, made) = await client.Post("/api/v1/register", sent);
            status.ShouldBe(201, made.GetRawText());
            return (await client.Get($"/api/v1/register/{made.GetProperty("itemId").GetGuid()}")).GetProperty("facts").GetRawText();
        }
        var lampFan = await Facts(
            New("appliance", "squareWithinSquare", More([new { name = "fan", powerW = 60 }, new { name = "lamp", powerW = 28 }]))
        );
        lampFan.ShouldContain("88 W");
        lampFan.ShouldContain("behind a few fixings");
        (await Facts(New("appliance", "earthSymbolOrPinMetalReachable", More(phases: 3), 6000))).ShouldContain("three-phase");
        object[] cf =
        [
            new
            {
                name = "drip",
                type = "CF",
                connections = 2,
                joined = true,
            },
        ];
        (await Facts(New("medicalDevice", "earthSymbolOrPinMetalReachable", More(parts: cf)))).ShouldContain("drip CF");
        (await client.Post("/api/v1/register", New("appliance", "squareWithinSquare", More(parts: cf)))).Status.ShouldBe(422);
        (await client.Post("/api/v1/register", New("appliance", "squareWithinSquare", More(phases: 2)))).Status.ShouldBe(422);
    }
}
