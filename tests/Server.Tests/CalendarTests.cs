using System.Net;
using System.Text;
using Ical.Net;
using Ical.Net.DataTypes;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Rounds;
using Osierwand.Store;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Dates for other programs: by a link nobody guesses, for what its maker may see, until it is taken back.</summary>
[Collection(ScheduleHouse.Name)]
public sealed class CalendarTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;
    private static DateOnly Today => DateOnly.FromDateTime(DateTimeOffset.Now.DateTime);

    private static async Task<(Guid Id, string Path)> Made(HttpClient client, Guid? clientId)
    {
        var (status, made) = await client.Post("/api/v1/schedule/calendars", new { clientId });
        status.ShouldBe(200);
        return (made.GetProperty("id").GetGuid(), made.Text("path"));
    }

    private async Task<(HttpResponseMessage Answer, string Text)> Read(string path, string? knows = null)
    {
        using var nobody = world.App.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Get, new Uri(path, UriKind.Relative));
        if (knows is not null)
            request.Headers.TryAddWithoutValidation("If-None-Match", knows);
        var answer = await nobody.SendAsync(request, Cancel);
        return (answer, await answer.Content.ReadAsStringAsync(Cancel));
    }

    /// <param name="name">Of the site; whatever somebody may call one.</param>
    private Task<(Guid Client, Guid Site)> StandsAsync(string name, params DateOnly?[] due) =>
        world.InDatabase(async db =>
        {
            var code = $"C{Guid.NewGuid():N}"[..9].ToUpperInvariant();
            var client = new Client
            {
                Id = Guid.CreateVersion7(),
                Code = code,
                Name = $"Readers {code}",
            };
            var site = new Site
            {
                Id = Guid.CreateVersion7(),
                ClientId = client.Id,
                Name = name,
            };
            db.AddRange(client, site);
            db.AddRange(
                due.Select(
                    (day, at) =>
                        new RegisterItem
                        {
                            Id = Guid.CreateVersion7(),
                            ClientId = client.Id,
                            SiteId = site.Id,
                            Room = "Store",
                            Tag = $"{code}-{at:00}",
                            Name = "Thing",
                            Equipment = new() { Kind = ItemKind.Appliance, Class = ProtectionClass.II },
                            RegisteredOn = Today,
                            Due = day,
                            VisualDue = day,
                        }
                )
            );
            await db.SaveChangesAsync(Cancel);
            return (client.Id, site.Id);
        });

    [Fact]
    public async Task A_clients_calendar_has_a_day_for_what_falls_due_and_today_for_what_is_over()
    {
        DateOnly soon = Today.AddDays(20);
        var monday = Today.AddDays(-(((int)Today.DayOfWeek + 6) % 7));
        var (client, site) = await StandsAsync("Yard; a, b\\c\n\"ß 漢字\"", soon, soon, Today.AddDays(-3), null, Today.AddMonths(13));
        await world.InDatabase(async db =>
        {
            db.Rounds.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    SiteId = site,
                    Name = "Spring round",
                    StandardId = "uk-cop-5",
                    StartsOn = soon,
                    EndsOn = soon.AddDays(2),
                    State = RoundState.Planned,
                    IsPlanned = true,
                }
            );
            return await db.SaveChangesAsync(Cancel);
        });
        using var lead = await world.App.SignedIn("maud");
        var (_, path) = await Made(lead, client);
        var (answer, text) = await Read(path);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        answer.Content.Headers.ContentType!.ToString().ShouldBe("text/calendar; charset=utf-8");

        var calendar = Calendar.Load(text).ShouldNotBeNull();
        var events = calendar.Events.OrderBy(it => it.Start!.Value).ThenBy(it => it.Summary, StringComparer.Ordinal).ToArray();
        events
            .Select(it => (it.Summary!.Split(": ")[^1], DateOnly.FromDateTime(it.Start!.Value), DateOnly.FromDateTime(it.End!.Value)))
            .ShouldBe([
                ("users look over 5 items", monday, monday.AddDays(1)),
                ("2 items past due", Today, Today.AddDays(1)),
                ("2 items due", soon, soon.AddDays(1)),
                ("testers come", soon, soon.AddDays(3)),
            ]);
        // A look of every week comes every week, and what is tested comes once.
        events[0].RecurrenceRule!.Frequency.ShouldBe(FrequencyType.Weekly);
        events[0].Description!.ShouldContain("Thing, Store: weekly");
        var ahead = new CalDateTime(monday.AddDays(30));
        events[0]
            .GetOccurrences(new CalDateTime(monday))
            .TakeWhile(it => it.Period.StartTime.LessThan(ahead))
            .Select(it => it.Period.StartTime.Date)
            .ShouldBe([.. new[] { 0, 7, 14, 21, 28 }.Select(days => monday.AddDays(days))]);
        events[1..].ShouldAllBe(it => it.RecurrenceRule == null);
        events.ShouldAllBe(it => it.IsAllDay && it.Summary!.StartsWith("Yard; a, b\\c\n\"ß 漢字\""));
        events.Select(it => it.Uid).Distinct().Count().ShouldBe(4);
        events[2].Description!.ShouldContain("Thing, Store: inspection and test");
        // What the format itself asks: lines of at most 75 octets that end in CR and LF, nothing empty, no bare control character.
        text.Split("\r\n").ShouldAllBe(line => Encoding.UTF8.GetByteCount(line) <= 75);
        text.Replace("\r\n", "").ShouldNotContain("\n");
    }

    [Fact]
    public async Task Somebody_who_asks_every_minute_is_told_that_nothing_changed()
    {
        var (client, _) = await StandsAsync("Yard", Today.AddDays(5));
        using var lead = await world.App.SignedIn("maud");
        var (_, path) = await Made(lead, client);
        var (first, text) = await Read(path);
        var tag = first.Headers.ETag!.ToString();
        (await Read(path)).Text.ShouldBe(text);
        var (second, nothing) = await Read(path, tag);
        (second.StatusCode, nothing).ShouldBe((HttpStatusCode.NotModified, ""));
        await world.InDatabase(db =>
            db.Items.Where(it => it.ClientId == client).ExecuteUpdateAsync(row => row.SetProperty(it => it.Due, Today.AddDays(6)), Cancel)
        );
        // It is due by its look on the day before still; moved as well, it is another day.
        await world.InDatabase(db =>
            db.Items.Where(it => it.ClientId == client)
                .ExecuteUpdateAsync(row => row.SetProperty(it => it.VisualDue, Today.AddDays(6)), Cancel)
        );
        (await Read(path, tag)).Answer.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_link_that_was_taken_back_leads_nowhere_and_neither_does_one_that_was_guessed()
    {
        var (client, _) = await StandsAsync("Yard", Today.AddDays(5));
        using var lead = await world.App.SignedIn("maud");
        var (id, path) = await Made(lead, client);
        using var technician = await world.App.SignedIn("ida");
        (await technician.Post($"/api/v1/schedule/calendars/{id}/revoke", new { })).Status.ShouldBe(404);
        (await Read(path)).Answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await lead.Post($"/api/v1/schedule/calendars/{id}/revoke", new { })).Status.ShouldBe(204);
        (await Read(path)).Answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        foreach (var guess in new[] { "x", new string('A', 32), new string('A', 5000), "..%2Fsecret" })
            (await Read($"/api/v1/calendars/{guess}.ics")).Answer.StatusCode.ShouldBeOneOf(
                HttpStatusCode.NotFound,
                HttpStatusCode.BadRequest,
                HttpStatusCode.RequestUriTooLong
            );
        // The house keeps no link that could be read off its database.
        var token = path.Split('/')[^1][..^4];
        (await world.InDatabase(db => db.CalendarLinks.IgnoreQueryFilters().ToListAsync(Cancel))).ShouldAllBe(it =>
            !Encoding.UTF8.GetString(it.TokenHash).Contains(token)
        );
    }

    [Fact]
    public async Task A_viewers_calendar_is_of_their_client_alone_and_ends_when_they_may_see_it_no_more()
    {
        var (other, _) = await StandsAsync("Yard", Today.AddDays(5));
        using var viewer = await world.App.SignedIn("wilf");
        var own = await world.InDatabase(db => db.Clients.Where(it => it.Code == "SVH").Select(it => it.Id).SingleAsync(Cancel));
        (await viewer.Post("/api/v1/schedule/calendars", new { clientId = other })).Status.ShouldBe(404);
        (await viewer.Post("/api/v1/schedule/calendars", new { clientId = (Guid?)null })).Status.ShouldBe(422);
        var (_, path) = await Made(viewer, own);
        var (answer, text) = await Read(path);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        Calendar.Load(text)!.Events.ShouldNotBeEmpty();
        text.ShouldNotContain("LMR-");
        (await viewer.Get("/api/v1/schedule/calendars")).GetProperty("calendars").GetArrayLength().ShouldBeGreaterThan(0);

        var wilf = (await world.InDatabase(db => db.Users.SingleAsync(it => it.UserName == "wilf", Cancel))).Id;
        await world.InDatabase(db => db.PersonClients.Where(it => it.PersonId == wilf).ExecuteDeleteAsync(Cancel));
        try
        {
            (await Read(path)).Answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        }
        finally
        {
            await world.InDatabase(async db =>
            {
                db.PersonClients.Add(new() { PersonId = wilf, ClientId = own });
                return await db.SaveChangesAsync(Cancel);
            });
        }
    }

    [Fact]
    public async Task A_persons_calendar_has_their_bench_days_and_nobody_elses()
    {
        using var technician = await world.App.SignedIn("ida");
        (
            await technician.Post(
                "/api/v1/schedule/calendars",
                new { clientId = await world.InDatabase(db => db.Clients.Select(it => it.Id).FirstAsync(Cancel)) }
            )
        ).Status.ShouldBe(422);
        var (_, path) = await Made(technician, null);
        var (_, text) = await Read(path);
        var mine = await world.InDatabase(db =>
            db.RoundDays.CountAsync(
                day => db.Users.Any(it => it.Id == day.PersonId && it.UserName == "ida") && day.Day >= Today.AddDays(-30),
                Cancel
            )
        );
        mine.ShouldBeGreaterThan(0);
        var events = Calendar.Load(text)!.Events;
        events.Count.ShouldBe(mine);
        events.ShouldContain(it => it.Summary == "Track gang store: Track gangs, before the thaw");
    }
}
