using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Store;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>What falls due by week, the rounds that the planner makes of it, and what becomes of those.</summary>
[Collection(ScheduleHouse.Name)]
public sealed class ScheduleTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;
    private static DateOnly Today => DateOnly.FromDateTime(DateTimeOffset.Now.DateTime);

    private static readonly Item Appliance = new()
    {
        Kind = ItemKind.Appliance,
        Class = ProtectionClass.I,
        Cord = new(new Metres(1.5), new SquareMillimetres(1)),
    };
    private static readonly Item Hardwired = Appliance with { Cord = new(new Metres(1), new SquareMillimetres(1), Permanent: true) };
    private static readonly Item Device = new() { Kind = ItemKind.MedicalDevice, Class = ProtectionClass.I };

    /// <summary>A client of its own, with one site and what stands there.</summary>
    private sealed record Place(Guid Site, string Code, Guid[] Items);

    /// <param name="items">What each is, and in how many days it falls due; null where it was never tested.</param>
    private Task<Place> StandsAsync(params (Item Equipment, int? DueIn)[] items) =>
        StandsAsync([.. items.Select(it => (it.Equipment, it.DueIn, it.DueIn))]);

    private Task<Place> StandsAsync(params (Item Equipment, int? DueIn, int? LookIn)[] items) =>
        world.InDatabase(async db =>
        {
            var code = $"T{Guid.NewGuid():N}"[..9].ToUpperInvariant();
            var client = new Client
            {
                Id = Guid.CreateVersion7(),
                Code = code,
                Name = $"Testers {code}",
            };
            var site = new Site
            {
                Id = Guid.CreateVersion7(),
                ClientId = client.Id,
                Name = $"Yard {code}",
                TravelMinutes = 10,
            };
            db.AddRange(client, site);
            var stands = items
                .Select(
                    (it, at) =>
                        new RegisterItem
                        {
                            Id = Guid.CreateVersion7(),
                            ClientId = client.Id,
                            SiteId = site.Id,
                            Room = "Store",
                            Tag = $"{code}-{at}",
                            Name = "Thing",
                            Equipment = it.Equipment,
                            RegisteredOn = Today.AddYears(-1),
                            Due = it.DueIn is { } days ? Today.AddDays(days) : null,
                            VisualDue = it.LookIn is { } look ? Today.AddDays(look) : null,
                            LastTestedOn = it.DueIn is null ? null : Today.AddMonths(-12),
                            LastLookedOn = it.DueIn is null ? null : Today.AddMonths(-12),
                            IntervalMonths = 12,
                            Place = Osierwand.Core.Equipment.Place.Workshop,
                        }
                )
                .ToArray();
            db.AddRange(stands);
            await db.SaveChangesAsync(Cancel);
            return new Place(site.Id, code, [.. stands.Select(it => it.Id)]);
        });

    private static async Task<JsonElement> Proposed(HttpClient client, params object[] moves)
    {
        var (status, plan) = await client.Post("/api/v1/schedule/proposal", new { weeks = 8, moves });
        status.ShouldBe(200);
        return plan;
    }

    private static JsonElement[] RoundsAt(JsonElement plan, Guid site) =>
        [.. plan.GetProperty("rounds").EnumerateArray().Where(it => it.GetProperty("siteId").GetGuid() == site)];

    private static JsonElement[] ItemsOf(JsonElement round) =>
        [.. round.GetProperty("visits").EnumerateArray().SelectMany(it => it.GetProperty("items").EnumerateArray())];

    private static Guid[] Ids(IEnumerable<JsonElement> items) => [.. items.Select(it => it.GetProperty("id").GetGuid())];

    private static object Taken(
        JsonElement round,
        Guid? id = null,
        string? standard = "uk-cop-5",
        string? medical = null,
        Guid[]? items = null
    ) =>
        new
        {
            id = id ?? Guid.NewGuid(),
            siteId = round.GetProperty("siteId").GetGuid(),
            name = "Taken from the plan",
            standardId = standard,
            medicalStandardId = medical,
            days = round
                .GetProperty("visits")
                .EnumerateArray()
                .Select(it => new
                {
                    day = it.Text("day"),
                    personId = it.GetProperty("personId").GetGuid(),
                    minutes = it.GetProperty("dayMinutes").GetInt32(),
                })
                .ToArray(),
            items = items ?? Ids(ItemsOf(round)),
        };

    [Fact]
    public async Task The_board_lays_what_falls_due_into_its_weeks_and_what_is_over_into_the_first()
    {
        var place = await StandsAsync((Appliance, -20), (Appliance, null), (Appliance, 20), (Device, 21), (Appliance, 300));
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == place.Items[2])
                .ExecuteUpdateAsync(row => row.SetProperty(it => it.State, ItemState.Quarantined), Cancel)
        );
        using var lead = await world.App.SignedIn("maud");
        var board = await lead.Get($"/api/v1/schedule?weeks=8&client={place.Code}");
        (
            board.GetProperty("items").GetInt32(),
            board.GetProperty("over").GetInt32(),
            board.GetProperty("neverTested").GetInt32(),
            board.GetProperty("outOfUse").GetInt32()
        ).ShouldBe((3, 2, 1, 1));
        var piles = board.GetProperty("rows").EnumerateArray().Single().GetProperty("piles").EnumerateArray().ToArray();
        piles.Length.ShouldBe(8);
        piles[0].GetProperty("items").GetInt32().ShouldBe(2);
        piles[0].GetProperty("over").GetInt32().ShouldBe(2);
        var monday = DateOnly.Parse(board.GetProperty("weeks")[0].GetString()!, System.Globalization.CultureInfo.InvariantCulture);
        monday.DayOfWeek.ShouldBe(DayOfWeek.Monday);
        piles[(Today.AddDays(21).DayNumber - monday.DayNumber) / 7].GetProperty("items").GetInt32().ShouldBe(1);
        piles.Sum(it => it.GetProperty("minutes").GetInt32()).ShouldBeGreaterThan(0);
        (await lead.Get($"/api/v1/schedule?weeks=8&by=kind&client={place.Code}"))
            .GetProperty("rows")
            .EnumerateArray()
            .Select(it => it.Text("key"))
            .Order()
            .ShouldBe(["appliance", "medicalDevice"]);
    }

    [Fact]
    public async Task A_viewer_sees_their_own_dates_and_nobodys_hours()
    {
        var place = await StandsAsync((Appliance, 10));
        using var viewer = await world.App.SignedIn("wilf");
        var board = await viewer.Get("/api/v1/schedule?weeks=26");
        board.GetProperty("rows").EnumerateArray().ShouldNotBeEmpty();
        board.GetProperty("rows").EnumerateArray().ShouldAllBe(it => it.Text("under").StartsWith("Sorrel Valley"));
        board.GetProperty("hours").ValueKind.ShouldBe(JsonValueKind.Null);
        (await viewer.Get($"/api/v1/schedule?weeks=26&client={place.Code}")).GetProperty("items").GetInt32().ShouldBe(0);
    }

    [Fact]
    public async Task A_round_is_proposed_before_the_date_taken_once_and_not_proposed_again()
    {
        var place = await StandsAsync((Appliance, 25), (Appliance, 30));
        using var lead = await world.App.SignedIn("maud");
        var round = RoundsAt(await Proposed(lead), place.Site).ShouldHaveSingleItem();
        round.GetProperty("late").GetInt32().ShouldBe(0);
        Ids(ItemsOf(round)).Order().ShouldBe(place.Items.Order());
        DateOnly
            .Parse(round.Text("to"), System.Globalization.CultureInfo.InvariantCulture)
            .ShouldBeInRange(Today.AddDays(1), Today.AddDays(30));

        var taken = Taken(round);
        var (status, made) = await lead.Post("/api/v1/schedule/rounds", taken);
        (status, made.GetProperty("items").GetInt32()).ShouldBe((200, 2));
        (await lead.Post("/api/v1/schedule/rounds", taken)).Body.GetProperty("id").ShouldNotBe(default);
        await world.InDatabase(async db =>
        {
            var kept = await db.Rounds.SingleAsync(it => it.SiteId == place.Site, Cancel);
            (kept.State, kept.StandardId, kept.IsPlanned).ShouldBe((RoundState.Planned, "uk-cop-5", true));
            (await db.RoundItems.CountAsync(it => it.RoundId == kept.Id, Cancel)).ShouldBe(2);
            (await db.RoundDays.CountAsync(it => it.RoundId == kept.Id, Cancel)).ShouldBe(round.GetProperty("visits").GetArrayLength());
            return 0;
        });
        RoundsAt(await Proposed(lead), place.Site).ShouldBeEmpty();
        (await Proposed(lead)).GetProperty("inRounds").GetInt32().ShouldBeGreaterThanOrEqualTo(2);
    }

    [Fact]
    public async Task A_standard_is_chosen_for_every_round_and_one_for_medical_devices_where_it_holds_any()
    {
        var place = await StandsAsync((Appliance, 25), (Device, 25));
        using var lead = await world.App.SignedIn("maud");
        var round = RoundsAt(await Proposed(lead), place.Site).ShouldHaveSingleItem();
        (round.GetProperty("needsStandard").GetBoolean(), round.GetProperty("needsMedical").GetBoolean()).ShouldBe((true, true));
        foreach (
            var (standard, medical) in new[] { ("", null), ("uk-cop-5", null), ("uk-cop-5", "uk-cop-5"), ("nonsense", "iec-62353-2014") }
        )
            (await lead.Post("/api/v1/schedule/rounds", Taken(round, standard: standard, medical: medical))).Status.ShouldBe(422);
        (await lead.Post("/api/v1/schedule/rounds", Taken(round, medical: "iec-62353-2014"))).Status.ShouldBe(200);
    }

    [Fact]
    public async Task What_another_round_took_meanwhile_stays_there_and_a_foreign_item_goes_into_none()
    {
        var place = await StandsAsync((Appliance, 25), (Appliance, 26));
        var foreign = await StandsAsync((Appliance, 25));
        using var lead = await world.App.SignedIn("maud");
        var round = RoundsAt(await Proposed(lead), place.Site).ShouldHaveSingleItem();
        (await lead.Post("/api/v1/schedule/rounds", Taken(round, items: [place.Items[0]]))).Status.ShouldBe(200);
        var (_, made) = await lead.Post("/api/v1/schedule/rounds", Taken(round, items: [.. place.Items, foreign.Items[0]]));
        (made.GetProperty("items").GetInt32(), made.GetProperty("left").GetInt32()).ShouldBe((1, 2));
        // More than a form's worth: a round of some thousand items is one.
        var many = Enumerable.Range(0, 5_000).Select(_ => Guid.NewGuid()).ToArray();
        var (status, refused) = await lead.Post("/api/v1/schedule/rounds", Taken(round, items: [.. place.Items, .. many]));
        status.ShouldBe(422);
        refused.ToString().ShouldContain("another round by now");
    }

    [Fact]
    public async Task What_was_not_reached_comes_back_by_itself_and_says_so_and_what_others_test_does_not()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        // The open round at its site has it: it is not proposed beside it.
        Guid[] All(JsonElement plan) => Ids(plan.GetProperty("rounds").EnumerateArray().SelectMany(ItemsOf));
        All(await Proposed(kettle.Client)).ShouldNotContain(kettle.Item);
        (await kettle.Save([], EndKind.NotTested, notTested: NotTestedReason.NotFound)).Status.ShouldBe(200);
        var plan = await Proposed(kettle.Client);
        plan.GetProperty("rounds")
            .EnumerateArray()
            .SelectMany(ItemsOf)
            .Single(it => it.GetProperty("id").GetGuid() == kettle.Item)
            .Text("note")
            .ShouldContain("not reached last time");
        await world.InDatabase(async db =>
        {
            db.RoundItems.Add(
                new()
                {
                    RoundId = kettle.Round,
                    ItemId = kettle.Item,
                    ExcludedWhy = "on loan",
                    TestedBy = "its lender",
                }
            );
            return await db.SaveChangesAsync(Cancel);
        });
        var without = await Proposed(kettle.Client);
        All(without).ShouldNotContain(kettle.Item);
        without.Text("basis").ShouldContain("left to another tester");
    }

    [Fact]
    public async Task A_move_by_hand_says_what_it_costs_and_is_refused_without_room_competence_or_a_day()
    {
        var place = await StandsAsync((Appliance, 30), (Hardwired, 30));
        using var lead = await world.App.SignedIn("maud");
        var plan = await Proposed(lead);
        var days = plan.GetProperty("days").EnumerateArray().ToArray();
        var visit = RoundsAt(plan, place.Site)[0].GetProperty("visits")[0];
        var other = days.First(it =>
            it.Text("day") != visit.Text("day")
            && it.Text("person") == visit.Text("person")
            && it.GetProperty("minutes").GetInt32() - it.GetProperty("taken").GetInt32() > 60
        );
        object Move(Guid item, string? day, Guid? person) =>
            new
            {
                items = new[] { item },
                day,
                personId = person,
            };
        var item = visit.GetProperty("items")[0].GetProperty("id").GetGuid();
        var (there, back) = (
            Move(item, other.Text("day"), other.GetProperty("personId").GetGuid()),
            Move(item, visit.Text("day"), visit.GetProperty("personId").GetGuid())
        );

        var moved = await Proposed(lead, there);
        moved.GetProperty("moves")[0].GetProperty("isMade").GetBoolean().ShouldBeTrue();
        moved
            .GetProperty("rounds")
            .EnumerateArray()
            .SelectMany(it => it.GetProperty("visits").EnumerateArray())
            .ShouldContain(it => it.Text("day") == other.Text("day") && Ids(it.GetProperty("items").EnumerateArray()).Contains(item));
        var returned = await Proposed(lead, there, back);
        returned.GetProperty("moves").EnumerateArray().ShouldAllBe(it => it.GetProperty("isMade").GetBoolean());
        RoundsAt(returned, place.Site).Select(it => it.ToString()).ShouldBe(RoundsAt(plan, place.Site).Select(it => it.ToString()));

        var wrong = await Proposed(
            lead,
            Move(item, "2020-01-01", other.GetProperty("personId").GetGuid()),
            Move(Guid.NewGuid(), other.Text("day"), other.GetProperty("personId").GetGuid()),
            Move(item, null, null)
        );
        wrong.GetProperty("moves").EnumerateArray().Select(it => it.GetProperty("isMade").GetBoolean()).ShouldBe([false, false, true]);
        Ids(wrong.GetProperty("notPlaced").EnumerateArray()).ShouldContain(item);
    }

    [Fact]
    public async Task Bench_hours_are_a_leads_to_set_within_a_days_length_and_a_day_off_takes_its_work_elsewhere()
    {
        using var lead = await world.App.SignedIn("maud");
        using var technician = await world.App.SignedIn("rufus");
        var maud = (await lead.Get("/api/v1/schedule/hours"))
            .GetProperty("people")
            .EnumerateArray()
            .Single(it => it.Text("name") == "Maud Tarrant");
        var path = $"/api/v1/schedule/hours/{maud.GetProperty("personId").GetGuid()}";
        int[] full = [60, 60, 60, 60, 60, 60, 60];
        (await technician.Put(path, new { minutes = full, daysOff = Array.Empty<string>() })).Status.ShouldBe(403);
        foreach (var minutes in new int[][] { [60], [.. full, 60], [-1, 0, 0, 0, 0, 0, 0], [2000, 0, 0, 0, 0, 0, 0] })
            (await lead.Put(path, new { minutes, daysOff = Array.Empty<string>() })).Status.ShouldBe(422);
        (await lead.Put(path, new { minutes = full })).Status.ShouldBe(400);
        var off = Today.AddDays(3);
        (await lead.Put(path, new { minutes = full, daysOff = new[] { off, off } })).Status.ShouldBe(204);
        var days = (await Proposed(lead)).GetProperty("days").EnumerateArray().Where(it => it.Text("person") == "Maud Tarrant").ToArray();
        days.Length.ShouldBe(8 * 7 - 1);
        days.ShouldAllBe(it => it.Text("day") != off.ToString("O"));
        (await lead.Put(path, new { minutes = new int[7], daysOff = Array.Empty<string>() })).Status.ShouldBe(204);
        (
            await lead.Put($"/api/v1/schedule/hours/{Guid.NewGuid()}", new { minutes = full, daysOff = Array.Empty<string>() })
        ).Status.ShouldBe(404);
    }

    [Fact]
    public async Task Travel_comes_off_the_day_and_a_site_too_far_for_any_day_is_said()
    {
        var place = await StandsAsync((Appliance, 20));
        using var lead = await world.App.SignedIn("maud");
        var path = $"/api/v1/schedule/sites/{place.Site}/travel";
        (await lead.Put(path, new { minutes = -1 })).Status.ShouldBe(422);
        (await lead.Put(path, new { minutes = 900 })).Status.ShouldBe(204);
        var plan = await Proposed(lead);
        RoundsAt(plan, place.Site).ShouldBeEmpty();
        plan.GetProperty("remarks").EnumerateArray().ShouldContain(it => it.Text("text").Contains($"1 item at Yard {place.Code}"));
        (await lead.Put(path, new { minutes = 40 })).Status.ShouldBe(204);
        RoundsAt(await Proposed(lead), place.Site).Length.ShouldBe(1);
    }

    /// <summary>What the database counts by is what Core says of each item.</summary>
    [Fact]
    public async Task The_board_has_every_item_in_the_tier_and_week_that_the_rule_gives_it()
    {
        int?[] days = [null, -40, -1, 0, 1, 6, 13, 29, 30, 31, 50];
        var all = days.SelectMany(_ => days, (due, look) => (Appliance, due, look)).ToArray();
        var place = await StandsAsync(all);
        using var lead = await world.App.SignedIn("maud");
        var board = await lead.Get($"/api/v1/schedule?weeks=8&by=tier&client={place.Code}");
        var monday = DateOnly.Parse(board.GetProperty("weeks")[0].GetString()!, System.Globalization.CultureInfo.InvariantCulture);
        var until = monday.AddDays(8 * 7 - 1);
        DateOnly? On(int? days) => days is { } some ? Today.AddDays(some) : null;
        var expected = all.Where(it => it.due is null || On(it.due) <= until || On(it.look) <= until)
            .Select(it => Falling.Of(On(it.due), On(it.look), null, null, 30))
            .GroupBy(it => (it.Tier, Week: it.By is { } by && by > monday ? (by.DayNumber - monday.DayNumber) / 7 : 0))
            .ToDictionary(it => it.Key, it => (it.Count(), it.Count(one => !(one.By >= Today))));
        foreach (var row in board.GetProperty("rows").EnumerateArray())
        {
            var tier = row.Text("key") == "visual" ? DueTier.Visual : DueTier.Combined;
            foreach (var (week, pile) in row.GetProperty("piles").EnumerateArray().Index())
                (pile.GetProperty("items").GetInt32(), pile.GetProperty("over").GetInt32()).ShouldBe(
                    expected.GetValueOrDefault((tier, week)),
                    $"{tier}, week {week}"
                );
        }
        board.GetProperty("items").GetInt32().ShouldBe(expected.Values.Sum(it => it.Item1));
    }

    [Fact]
    public async Task What_is_due_for_its_look_alone_is_planned_so_and_opens_so_on_the_bench_and_the_rounds_days_hold_what_was_planned()
    {
        var place = await StandsAsync((Appliance, 300, 20), (Appliance, 20, 20), (Hardwired, 300, 20));
        using var lead = await world.App.SignedIn("maud");
        var round = RoundsAt(await Proposed(lead), place.Site).ShouldHaveSingleItem();
        ItemsOf(round).OrderBy(it => it.Text("tag")).Select(it => it.Text("tier")).ShouldBe(["visual", "combined", "visual"]);
        var id = Guid.NewGuid();
        (await lead.Post("/api/v1/schedule/rounds", Taken(round, id))).Status.ShouldBe(200);

        var page = await lead.Get($"/api/v1/rounds/{id}");
        // The round reckons as the plan did: nothing is left over, and a look asks for no competence.
        page.GetProperty("notPlaced").GetInt32().ShouldBe(0);
        page.GetProperty("remarks").GetArrayLength().ShouldBe(0);
        var items = page.GetProperty("rooms").EnumerateArray().SelectMany(it => it.GetProperty("items").EnumerateArray()).ToArray();
        items
            .Where(it => it.GetProperty("isLook").GetBoolean())
            .Select(it => it.Text("tag"))
            .Order()
            .ShouldBe([$"{place.Code}-0", $"{place.Code}-2"]);

        (await lead.Post($"/api/v1/rounds/{id}/state", new { to = "open" })).Status.ShouldBe(204);
        using var technician = await world.App.SignedIn();
        async Task<Osierwand.Core.Planning.Scope> Opens(Guid item) => (await new Kettle(technician, item, id, "").Lay()).Scope;
        (await Opens(place.Items[0])).ShouldBe(Osierwand.Core.Planning.Scope.FormalVisual);
        (await Opens(place.Items[1])).ShouldBe(Osierwand.Core.Planning.Scope.Combined);
        // What fails meanwhile is no look any more.
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == place.Items[0])
                .ExecuteUpdateAsync(row => row.SetProperty(it => it.State, ItemState.Quarantined), Cancel)
        );
        (await Opens(place.Items[0])).ShouldBe(Osierwand.Core.Planning.Scope.AfterRepair);
    }

    [Fact]
    public async Task Two_leads_who_take_the_same_items_at_once_have_them_in_one_round()
    {
        var place = await StandsAsync((Appliance, 20), (Appliance, 20), (Appliance, 20));
        using var lead = await world.App.SignedIn("maud");
        var round = RoundsAt(await Proposed(lead), place.Site).ShouldHaveSingleItem();
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => lead.Post("/api/v1/schedule/rounds", Taken(round))));
        answers.Select(it => it.Status).Order().ShouldBe([200, 422, 422, 422, 422, 422]);
        (await world.InDatabase(db => db.RoundItems.CountAsync(it => place.Items.Contains(it.ItemId), Cancel))).ShouldBe(3);
    }

    [Fact]
    public async Task A_rounds_number_that_another_round_has_makes_none_and_a_round_of_devices_alone_needs_their_standard_alone()
    {
        var (place, other) = (await StandsAsync((Device, 20)), await StandsAsync((Appliance, 20)));
        using var lead = await world.App.SignedIn("maud");
        var plan = await Proposed(lead);
        var (devices, appliances) = (RoundsAt(plan, place.Site)[0], RoundsAt(plan, other.Site)[0]);
        devices.GetProperty("needsStandard").GetBoolean().ShouldBeFalse();
        var id = Guid.NewGuid();
        (await lead.Post("/api/v1/schedule/rounds", Taken(devices, id, standard: null))).Status.ShouldBe(422);
        (await lead.Post("/api/v1/schedule/rounds", Taken(devices, id, standard: null, medical: "iec-62353-2014"))).Status.ShouldBe(200);
        (await lead.Post("/api/v1/schedule/rounds", Taken(appliances, id))).Status.ShouldBe(409);
        (await lead.Post("/api/v1/schedule/rounds", Taken(appliances, standard: null, medical: "iec-62353-2014"))).Status.ShouldBe(422);
        RoundsAt(await Proposed(lead), other.Site).Length.ShouldBe(1);
    }

    private static readonly Crossing Rising = new(
        Today.AddDays(200),
        "Insulation",
        "",
        "12 MΩ",
        1e6,
        "≥ 1 MΩ",
        true,
        [new(Today.AddDays(-400), 4e7, "40 MΩ", false, false), new(Today, 1.2e7, "12 MΩ", false, false)]
    );

    private Task<int> CrossesAsync(Guid item, DateOnly on) =>
        world.InDatabase(db =>
            db.Items.Where(it => it.Id == item)
                .ExecuteUpdateAsync(
                    row =>
                        row.SetProperty(it => it.CrossesOn, (DateOnly?)on)
                            .SetProperty(it => it.Crossing, JsonSerializer.Serialize(Rising with { On = on }, JsonSerializerOptions.Web)),
                    Cancel
                )
        );

    [Fact]
    public async Task What_would_reach_its_limit_before_its_test_is_listed_the_first_on_top_and_brought_forward_with_its_reason()
    {
        var place = await StandsAsync((Appliance, 300), (Appliance, 300), (Appliance, 300), (Appliance, 300));
        foreach (var (item, days) in new[] { (0, 250), (1, 200), (2, 310), (3, 100) })
            await CrossesAsync(place.Items[item], Today.AddDays(days));
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == place.Items[3])
                .ExecuteUpdateAsync(row => row.SetProperty(it => it.State, ItemState.Scrapped), Cancel)
        );
        using var technician = await world.App.SignedIn("ida");
        async Task<JsonElement[]> Near() =>
            [.. (await technician.Get($"/api/v1/schedule/near?client={place.Code}")).GetProperty("items").EnumerateArray()];
        var near = await Near();
        near.Select(it => it.GetProperty("itemId").GetGuid()).ShouldBe([place.Items[1], place.Items[0]]);
        near[0].Text("comeBackBy").ShouldBe(Today.AddDays(170).ToString("O"));
        near[0].GetProperty("crossing").GetProperty("points").GetArrayLength().ShouldBe(2);

        var path = $"/api/v1/schedule/near/{place.Items[1]}/forward";
        (await technician.Post(path, new { revision = 99 })).Status.ShouldBe(409);
        var (status, brought) = await technician.Post(path, new { revision = near[0].GetProperty("revision").GetInt32() });
        (status, brought.Text("due")).ShouldBe((200, Today.AddDays(170).ToString("O")));
        (await Near()).Length.ShouldBe(1);
        var page = await technician.Get($"/api/v1/register/{place.Items[1]}");
        page.GetProperty("because")
            .EnumerateArray()
            .Select(it => it.GetString())
            .ShouldContain(line => line!.StartsWith("brought forward by Ida Fennimore: Insulation would reach its limit"));
        page.GetProperty("changes")[0].GetProperty("lines")[0].GetString()!.ShouldContain($"→ {Today.AddDays(170):yyyy-MM-dd}");
        // Once more changes nothing: a date only comes sooner.
        (await technician.Post(path, new { revision = page.GetProperty("revision").GetInt32() }))
            .Body.Text("due")
            .ShouldBe(Today.AddDays(170).ToString("O"));
        using var viewer = await world.App.SignedIn("wilf");
        (await viewer.Get($"/api/v1/schedule/near?client={place.Code}")).GetProperty("total").GetInt32().ShouldBe(0);
        (await technician.Post($"/api/v1/schedule/near/{Guid.NewGuid()}/forward", new { revision = 1 })).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_saved_test_says_when_its_value_gets_to_its_limit()
    {
        var saved = await world.InDatabase(db =>
            db.Items.Where(it => it.CrossesOn != null && it.Crossing != null && it.LastTestedOn != null)
                .OrderBy(it => it.Tag)
                .Take(20)
                .ToListAsync(Cancel)
        );
        saved.ShouldNotBeEmpty();
        foreach (var it in saved)
        {
            var crossing = JsonSerializer.Deserialize<Crossing>(it.Crossing!, JsonSerializerOptions.Web)!;
            crossing.On.ShouldBe(it.CrossesOn!.Value);
            crossing.Points.Count.ShouldBeGreaterThanOrEqualTo(3);
            var (first, last) = (crossing.Points[0].Si, crossing.Points[^1].Si);
            (crossing.IsFloor ? last >= crossing.Limit : last <= crossing.Limit).ShouldBeTrue($"{it.Tag}: {crossing.Name} {first} {last}");
        }
    }

    [Theory]
    [InlineData(0)]
    [InlineData(14)]
    [InlineData(-3)]
    [InlineData(int.MaxValue)]
    public async Task A_plan_of_no_weeks_or_of_a_year_is_none(int weeks)
    {
        using var lead = await world.App.SignedIn("maud");
        (await lead.Post("/api/v1/schedule/proposal", new { weeks, moves = Array.Empty<object>() })).Status.ShouldBe(422);
        (await lead.Post("/api/v1/schedule/proposal", new { weeks = 4 })).Status.ShouldBe(400);
        (await lead.Post("/api/v1/schedule/proposal", new { weeks = 4, moves = new object?[] { null } })).Status.ShouldBe(400);
        (await lead.Get($"/api/v1/schedule?weeks={weeks}")).GetProperty("weeks").GetArrayLength().ShouldBeInRange(2, 26);
    }
}
