using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>The first of the three tiers in the schedule: what users look over by date, who tells of it, and what that does.</summary>
[Collection(ScheduleHouse.Name)]
public sealed class UserCheckWeekTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;
    private static DateOnly Today => DateOnly.FromDateTime(DateTimeOffset.Now.DateTime);
    private static DateOnly Monday => Today.AddDays(-(((int)Today.DayOfWeek + 6) % 7));

    private sealed record Site(Guid Client, Guid Id, string Code, Guid[] Items);

    /// <summary>A site of its own; each item with its place, and how many days ago a tester and a user looked.</summary>
    private Task<Site> StandsAsync(params (Place Place, UseOf Use, int? Tester, int? User)[] items) =>
        world.InDatabase(async db =>
        {
            var code = $"U{Guid.NewGuid():N}"[..9].ToUpperInvariant();
            var client = new Client
            {
                Id = Guid.CreateVersion7(),
                Code = code,
                Name = $"Users {code}",
            };
            var site = new Store.Entities.Site
            {
                Id = Guid.CreateVersion7(),
                ClientId = client.Id,
                Name = $"Yard {code}",
                TimeZone = "UTC",
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
                            Equipment = new() { Kind = ItemKind.Appliance, Use = it.Use },
                            Place = it.Place,
                            RegisteredOn = Today.AddYears(-1),
                            LastLookedOn = it.Tester is { } tested ? Today.AddDays(-tested) : null,
                            LastUserCheckOn = it.User is { } said ? Today.AddDays(-said) : null,
                        }
                )
                .ToArray();
            db.AddRange(stands);
            await db.SaveChangesAsync(Cancel);
            return new Site(client.Id, site.Id, code, [.. stands.Select(it => it.Id)]);
        });

    private static async Task<JsonElement> Board(HttpClient who, Site at, int weeks = 4) =>
        await who.Get($"/api/v1/user-checks/weeks?weeks={weeks}&client={at.Code}");

    private static async Task<(string Tag, bool IsLate, string Due)[]> ToDo(HttpClient who, Site at) =>
        [
            .. (await who.Get($"/api/v1/user-checks/sites/{at.Id}"))
                .GetProperty("items")
                .EnumerateArray()
                .Select(it => (it.Text("tag"), it.GetProperty("isLate").GetBoolean(), it.Text("due"))),
        ];

    private static Task<(int Status, JsonElement Body)> Tell(
        HttpClient who,
        Guid item,
        string report = "allGood",
        string words = "",
        Guid? id = null
    ) =>
        who.Post(
            $"/api/v1/register/{item}/user-checks",
            new
            {
                id = id ?? Guid.NewGuid(),
                report,
                words,
                name = "",
            }
        );

    [Fact]
    public async Task Each_is_counted_by_its_rhythm_and_a_testers_look_is_a_look_too()
    {
        var at = await StandsAsync(
            (Place.Office, UseOf.Portable, 400, 10), // weekly, three days late
            (Place.Office, UseOf.Portable, 400, 1), // weekly, told of yesterday
            (Place.Office, UseOf.Portable, 1, 400), // a tester looked yesterday
            (Place.Office, UseOf.Portable, null, null), // nobody ever looked
            (Place.Office, UseOf.Handheld, 400, null), // before use
            (Place.Hire, UseOf.Portable, 1, null), // at each issue
            (Place.Office, UseOf.It, 400, null) // none
        );
        using var lead = await world.App.SignedIn("maud");
        var board = await Board(lead, at);
        (board.GetProperty("dated").GetInt32(), board.GetProperty("late").GetInt32(), board.GetProperty("atUse").GetInt32()).ShouldBe(
            (4, 1, 2)
        );
        var row = board.GetProperty("rows").EnumerateArray().Single();
        var looks = row.GetProperty("piles").EnumerateArray().Select(it => it.GetProperty("looks").GetInt32()).ToArray();
        // Two are to be looked at today; the two of yesterday six days from now, which may still lie in this week on a Monday.
        var sixAhead = Today.AddDays(6) <= Monday.AddDays(6) ? 2 : 0;
        looks[0].ShouldBe(2 + sixAhead);
        looks[1..].ShouldAllBe(count => count == 4);
        (await ToDo(lead, at))
            .Where(it => DateOnly.Parse(it.Due, null) <= Today)
            .ShouldBe([($"{at.Code}-0", true, $"{Today.AddDays(-3):yyyy-MM-dd}"), ($"{at.Code}-3", false, $"{Today:yyyy-MM-dd}")]);
    }

    [Fact]
    public async Task A_look_that_is_told_of_moves_the_next_one_and_is_kept_once()
    {
        var at = await StandsAsync((Place.Office, UseOf.Portable, 400, 10));
        using var technician = await world.App.SignedIn("ida");
        var id = Guid.NewGuid();
        (await Tell(technician, at.Items[0], id: id)).Status.ShouldBe(200);
        (await Tell(technician, at.Items[0], id: id)).Status.ShouldBe(200, "the same look, sent twice");
        (await ToDo(technician, at)).ShouldNotContain(it => it.IsLate);
        (await Board(technician, at)).GetProperty("late").GetInt32().ShouldBe(0);
        var kept = await world.InDatabase(db => db.UserChecks.Where(it => it.ItemId == at.Items[0]).ToListAsync(Cancel));
        kept.Single().Name.ShouldNotBeEmpty("who is signed in looked, whatever name was sent");
        var page = await technician.Get($"/api/v1/register/{at.Items[0]}");
        (page.Text("usersAsked"), page.Text("userCheckedOn")).ShouldBe(("Its users look it over every week.", $"{Today:yyyy-MM-dd}"));
        (await world.InDatabase(db => db.Items.SingleAsync(it => it.Id == at.Items[0], Cancel))).LastLookedOn.ShouldBe(
            Today.AddDays(-400),
            "a user's look moves no date of the testers"
        );
    }

    /// <summary>An answer was lost, and somebody looked again before they sent again: what is dangerous is never taken for kept.</summary>
    [Fact]
    public async Task What_is_said_otherwise_under_the_same_number_is_refused_and_not_swallowed()
    {
        var at = await StandsAsync((Place.Office, UseOf.Portable, 400, 10));
        using var technician = await world.App.SignedIn("ida");
        var id = Guid.NewGuid();
        (await Tell(technician, at.Items[0], id: id)).Status.ShouldBe(200);
        (await Tell(technician, at.Items[0], "dangerous", "bare wire", id)).Status.ShouldBe(409);
        (await Tell(technician, at.Items[0], "damaged", "a crack", id)).Status.ShouldBe(409);
        (await Tell(technician, at.Items[0], "dangerous", "bare wire")).Body.GetProperty("tookOutOfUse").GetBoolean().ShouldBeTrue();
    }

    [Fact]
    public async Task Whoever_has_the_longest_name_is_heard_too()
    {
        var at = await StandsAsync((Place.Office, UseOf.Portable, 400, 10));
        var (_, _, newcomer) = await SessionTests.Newcomer(world.App, name: new string('N', 100));
        (await Tell(newcomer, at.Items[0])).Status.ShouldBe(200);
        var kept = await world.InDatabase(db => db.UserChecks.SingleAsync(it => it.ItemId == at.Items[0], Cancel));
        kept.Name.ShouldBe(new string('N', UserCheck.LongestName - 1) + "…");
        newcomer.Dispose();
    }

    [Fact]
    public async Task What_is_dangerous_is_out_of_use_and_asked_of_nobody_any_more()
    {
        var at = await StandsAsync((Place.Office, UseOf.Portable, 400, 10), (Place.Office, UseOf.Portable, 400, 10));
        using var technician = await world.App.SignedIn("ida");
        (await Tell(technician, at.Items[0], "dangerous")).Status.ShouldBe(422, "what is wrong is said in words");
        var (status, kept) = await Tell(technician, at.Items[0], "dangerous", "bare wire at the plug");
        (status, kept.GetProperty("tookOutOfUse").GetBoolean()).ShouldBe((200, true));
        (await ToDo(technician, at)).Select(it => it.Tag).ShouldBe([$"{at.Code}-1"]);
        (await Tell(technician, at.Items[1], "damaged", "a crack")).Body.GetProperty("tookOutOfUse").GetBoolean().ShouldBeFalse();
        (await technician.Get("/api/v1/user-checks")).EnumerateArray().ShouldContain(it => it.Text("words") == "a crack");
        (await world.InDatabase(db => db.Items.SingleAsync(it => it.Id == at.Items[0], Cancel))).State.ShouldBe(ItemState.Quarantined);
        // Good is said of what is out of use by nobody's leave: it stays out.
        (await Tell(technician, at.Items[0])).Status.ShouldBe(200);
        (await world.InDatabase(db => db.Items.SingleAsync(it => it.Id == at.Items[0], Cancel))).State.ShouldBe(ItemState.Quarantined);
    }

    [Fact]
    public async Task A_reader_tells_of_their_own_clients_items_and_sees_no_other()
    {
        var other = await StandsAsync((Place.Office, UseOf.Portable, 400, 10));
        using var viewer = await world.App.SignedIn("wilf");
        (await viewer.Get("/api/v1/user-checks/weeks"))
            .GetProperty("rows")
            .EnumerateArray()
            .ShouldNotContain(it => it.GetProperty("siteId").GetGuid() == other.Id);
        (await viewer.GetAsync(new Uri($"/api/v1/user-checks/sites/{other.Id}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.NotFound
        );
        (await Tell(viewer, other.Items[0])).Status.ShouldBe(404);
        (await world.InDatabase(db => db.UserChecks.CountAsync(it => it.ItemId == other.Items[0], Cancel))).ShouldBe(0);

        var own = await world.InDatabase(db =>
            db.Items.Where(it => it.Client.Code == "SVH" && it.State == ItemState.InService).OrderBy(it => it.Tag).LastAsync(Cancel)
        );
        var id = Guid.NewGuid();
        (await Tell(viewer, own.Id, id: id)).Status.ShouldBe(200);
        (await world.InDatabase(db => db.UserChecks.SingleAsync(it => it.Id == id, Cancel))).Name.ShouldBe("Wilf Sandering");
    }
}
