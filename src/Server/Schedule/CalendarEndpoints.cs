using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using Microsoft.Net.Http.Headers;
using Osierwand.Core;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Schedule;

/// <summary>Calendars by secret links: made, read by whoever has the link, taken back.</summary>
internal static class CalendarEndpoints
{
    private const int TokenBytes = 24;
    private const int LongestToken = 64;

    /// <summary>Of one person: more than these are forgotten ones.</summary>
    private const int MostLinks = 20;
    private const string NotMade = "No calendar was made.";

    public static void MapCalendars(this RouteGroupBuilder api)
    {
        api.MapGet("/calendars/{token}.ics", Read).WithTags("Calendars").For(Access.Anyone).RequireRateLimiting(Limits.Public);
        var links = api.MapGroup("/schedule/calendars").WithTags("Calendars");
        links.MapGet("/", Page).For(Access.Reader);
        links.MapPost("/", Make).For(Access.Reader);
        links.MapPost("/{linkId:guid}/revoke", Revoke).For(Access.Reader);
    }

    /// <summary>One's own, and a lead's everybody's.</summary>
    private static IQueryable<CalendarLink> SeenBy(OsierwandDb db, ClaimsPrincipal user)
    {
        var (me, all) = (user.Id(), user.IsInRole(Person.Lead));
        return db.CalendarLinks.Where(it => it.RevokedAt == null && (all || it.PersonId == me));
    }

    private static async Task<Ok<CalendarsPage>> Page(OsierwandDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        var links = await (
            from link in SeenBy(db, user)
            join person in db.Users on link.PersonId equals person.Id
            orderby link.MadeAt descending
            select new CalendarCard(
                link.Id,
                db.Clients.Where(it => it.Id == link.ClientId).Select(it => it.Name + ": due dates and rounds").FirstOrDefault()
                    ?? "bench days of " + person.DisplayName,
                person.DisplayName,
                link.MadeAt,
                link.ReadAt
            )
        ).ToListAsync(cancel);
        var clients = user.IsInRole(Person.Technician)
            ? []
            : await db
                .Clients.OrderBy(it => it.Name)
                .Select(it => new CalendarChoice(it.Id, it.Name + ": due dates and rounds"))
                .ToListAsync(cancel);
        return TypedResults.Ok(
            new CalendarsPage(links, user.IsInRole(Person.Viewer) ? clients : [new CalendarChoice(null, "my bench days"), .. clients])
        );
    }

    private static async Task<Results<Ok<MadeCalendar>, ProblemHttpResult>> Make(
        MakeCalendar sent,
        OsierwandDb db,
        ClaimsPrincipal user,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (sent.ClientId is null && user.IsInRole(Person.Viewer))
            return Refusals.Invalid(NotMade, new Fault("clientId", "Choose whose dates it holds."));
        if (sent.ClientId is not null && user.IsInRole(Person.Technician))
            return Refusals.Invalid(NotMade, new Fault("clientId", "A client’s calendar is made by a lead, or by the client."));
        var client = sent.ClientId is { } id ? await db.Clients.FirstOrDefaultAsync(it => it.Id == id, cancel) : null;
        if (sent.ClientId is not null && client is null)
            return Refusals.NotFound("client");
        var me = user.Id();
        if (await db.CalendarLinks.CountAsync(it => it.PersonId == me && it.RevokedAt == null, cancel) >= MostLinks)
            return Refusals.Invalid(NotMade, new Fault("clientId", $"You have {MostLinks} calendars. Take back what nobody reads."));
        var token = WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(TokenBytes));
        var link = new CalendarLink
        {
            Id = Guid.CreateVersion7(),
            TokenHash = PasswordLinks.Digest(token),
            PersonId = me,
            ClientId = client?.Id,
            MadeAt = time.GetUtcNow(),
        };
        db.CalendarLinks.Add(link);
        trail.Add("calendar link made", client?.Name ?? user.DisplayName(), link.Id);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new MadeCalendar(link.Id, $"/api/v1/calendars/{token}.ics"));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Revoke(
        Guid linkId,
        OsierwandDb db,
        ClaimsPrincipal user,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await SeenBy(db, user).FirstOrDefaultAsync(it => it.Id == linkId, cancel) is not { } link)
            return Refusals.NotFound("calendar");
        link.RevokedAt = time.GetUtcNow();
        trail.Add("calendar link taken back", user.DisplayName(), link.Id);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static ProblemHttpResult NoSuchCalendar() =>
        Refusals.Of(
            StatusCodes.Status404NotFound,
            "This calendar leads nowhere.",
            "Its link may have been taken back. Ask the test house for another, and take this one out of your calendar."
        );

    /// <summary>For whoever has the link, as long as whoever made it may see what it holds.</summary>
    private static async Task<Results<FileContentHttpResult, StatusCodeHttpResult, ProblemHttpResult>> Read(
        string token,
        HttpContext http,
        OsierwandDb db,
        CalendarFeeds feeds,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (token.Length > LongestToken)
            return NoSuchCalendar();
        var hash = PasswordLinks.Digest(token);
        var link = await db
            .CalendarLinks.IgnoreQueryFilters()
            .AsNoTracking()
            .FirstOrDefaultAsync(it => it.TokenHash == hash && it.RevokedAt == null, cancel);
        if (link is null || !await MayStillAsync(db, link, cancel))
            return NoSuchCalendar();
        db.Sight.VisibleTo(house: link.ClientId is null, link.ClientId is { } only ? [only] : []);
        var (name, entries) = link.ClientId is { } client
            ? (
                await db.Clients.Where(it => it.Id == client).Select(it => it.Name).FirstAsync(cancel),
                await feeds.OfClientAsync(client, cancel)
            )
            : ("Bench days", await feeds.OfPersonAsync(link.PersonId, cancel));
        var text = feeds.Write(name, entries);
        var tag = CalendarFeeds.TagOf(text);
        // To the hour: a program that asks every minute writes nothing.
        var now = time.GetUtcNow();
        await db
            .CalendarLinks.IgnoreQueryFilters()
            .Where(it => it.Id == link.Id && (it.ReadAt == null || it.ReadAt < now.AddHours(-1)))
            .ExecuteUpdateAsync(row => row.SetProperty(it => it.ReadAt, (DateTimeOffset?)now), cancel);
        http.Response.Headers.CacheControl = "private, max-age=300";
        http.Response.Headers.ETag = tag;
        return http.Request.GetTypedHeaders().IfNoneMatch.Any(it => it.Compare(new EntityTagHeaderValue(tag), useStrongComparison: false))
            ? TypedResults.StatusCode(StatusCodes.Status304NotModified)
            : TypedResults.File(text, "text/calendar; charset=utf-8");
    }

    /// <summary>Whoever made it has an open account, and sees that client still.</summary>
    private static async Task<bool> MayStillAsync(OsierwandDb db, CalendarLink link, CancellationToken cancel) =>
        await CompetenceBook.Working(db).AnyAsync(it => it.Id == link.PersonId, cancel)
        || (
            link.ClientId is { } client
            && await db.PersonClients.IgnoreQueryFilters().AnyAsync(it => it.PersonId == link.PersonId && it.ClientId == client, cancel)
            && await db.Users.AnyAsync(it => it.Id == link.PersonId && it.ClosedAt == null, cancel)
        );
}
