using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>How long a sign-in lasts.</summary>
public sealed class SignInSpan
{
    /// <summary>Without a request. Long enough for a drive between two sites with the tablet in the bag.</summary>
    public int IdleMinutes { get; set; } = 240;

    /// <summary>However busy: the longest working day.</summary>
    public int LongestHours { get; set; } = 16;
}

/// <summary>
/// Keeps sign-ins as rows. The cookie carries a row's number and nothing else; who that is, in which role and for which clients is asked
/// at every request, so that a sign-out, a closed account or another role takes effect with the next one, on every server.
/// </summary>
public sealed class Sessions(IDbContextFactory<OsierwandDb> dbs, TimeProvider time, IOptions<SignInSpan> span)
{
    /// <summary>A new session with a number of its own for this browser; the one it had before is ended.</summary>
    internal async Task BeginAsync(HttpContext http, Guid personId, CancellationToken cancel)
    {
        var now = time.GetUtcNow();
        await using var db = await dbs.CreateDbContextAsync(cancel);
        if (http.User.FindFirstValue(SignedIn.SessionClaim) is not null)
        {
            var before = http.User.SessionId();
            await db.Sessions.Where(it => it.Id == before).EndAsync(now, cancel);
        }
        var session = new Session
        {
            Id = Guid.NewGuid(),
            PersonId = personId,
            StartedAt = now,
            SeenAt = now,
            EndsAt = now.AddHours(span.Value.LongestHours),
            Address = Caller.Address(http),
            Browser = Caller.Browser(http),
        };
        db.Sessions.Add(session);
        await db.SaveChangesAsync(cancel);
        var number = new ClaimsIdentity([new(SignedIn.SessionClaim, session.Id.ToString("D"))], IdentityConstants.ApplicationScheme);
        await http.SignInAsync(IdentityConstants.ApplicationScheme, new(number), new() { IsPersistent = true });
    }

    internal async Task EndAsync(HttpContext http, CancellationToken cancel)
    {
        var id = http.User.SessionId();
        await using var db = await dbs.CreateDbContextAsync(cancel);
        await db.Sessions.Where(it => it.Id == id).EndAsync(time.GetUtcNow(), cancel);
        await http.SignOutAsync(IdentityConstants.ApplicationScheme);
    }

    /// <summary>On what a page asks by itself, so that a device left lying does not keep its session alive.</summary>
    public const string UnattendedHeader = "Osierwand-Unattended";

    /// <param name="isUse">Somebody is there: the session is seen.</param>
    /// <returns>Who the session's person is at this moment; null when it does not stand any more.</returns>
    private async Task<ClaimsPrincipal?> WhoAsync(ClaimsPrincipal cookie, bool isUse, CancellationToken cancel)
    {
        if (!Guid.TryParse(cookie.FindFirstValue(SignedIn.SessionClaim), out var id))
            return null;
        var now = time.GetUtcNow();
        await using var db = await dbs.CreateDbContextAsync(cancel);
        var known = await (
            from session in db.Sessions
            join person in db.Users on session.PersonId equals person.Id
            join link in db.UserRoles on person.Id equals link.UserId
            join role in db.Roles on link.RoleId equals role.Id
            where session.Id == id && session.EndedAt == null && session.EndsAt > now && person.ClosedAt == null
            select new
            {
                session.SeenAt,
                person.Id,
                person.UserName,
                person.DisplayName,
                person.Initials,
                Role = role.Name!,
            }
        ).FirstOrDefaultAsync(cancel);
        if (known is null || now - known.SeenAt > TimeSpan.FromMinutes(span.Value.IdleMinutes))
            return null;
        if (isUse && now - known.SeenAt > TimeSpan.FromMinutes(1))
            await db.Sessions.Where(it => it.Id == id).ExecuteUpdateAsync(set => set.SetProperty(it => it.SeenAt, now), cancel);
        var claims = new List<Claim>
        {
            new(ClaimTypes.NameIdentifier, known.Id.ToString("D")),
            new(ClaimTypes.Name, known.UserName ?? ""),
            new(ClaimTypes.Role, known.Role),
            new(SignedIn.DisplayNameClaim, known.DisplayName),
            new(SignedIn.InitialsClaim, known.Initials),
            new(SignedIn.SessionClaim, id.ToString("D")),
        };
        if (known.Role == Person.Viewer)
            claims.AddRange(
                (await db.PersonClients.Where(it => it.PersonId == known.Id).Select(it => it.ClientId).ToListAsync(cancel)).Select(
                    client => new Claim(SignedIn.ClientClaim, client.ToString("D"))
                )
            );
        return new(new ClaimsIdentity(claims, IdentityConstants.ApplicationScheme));
    }

    /// <summary>Whether a session that something long runs for still stands.</summary>
    internal async Task<bool> StandsAsync(ClaimsPrincipal user) => await WhoAsync(user, isUse: true, CancellationToken.None) is not null;

    private static bool IsAsked(PathString path) =>
        path.StartsWithSegments("/api") || path.StartsWithSegments("/hubs") || path.StartsWithSegments("/openapi");

    /// <summary>At every request: the cookie's number is exchanged for the person, or the request is nobody's.</summary>
    internal async Task ExchangeAsync(CookieValidatePrincipalContext cookie)
    {
        // The page itself is everybody's, and must open while the database is away: the sheets on the device are in it.
        if (!IsAsked(cookie.HttpContext.Request.Path))
        {
            cookie.RejectPrincipal();
            return;
        }
        var isUse = !cookie.HttpContext.Request.Headers.ContainsKey(UnattendedHeader);
        if (await WhoAsync(cookie.Principal!, isUse, cookie.HttpContext.RequestAborted) is { } who)
            cookie.ReplacePrincipal(who);
        else
            cookie.RejectPrincipal();
    }
}

internal static class SessionRows
{
    public static Task<int> EndAsync(this IQueryable<Session> sessions, DateTimeOffset now, CancellationToken cancel)
    {
        DateTimeOffset? at = now;
        return sessions.Where(it => it.EndedAt == null).ExecuteUpdateAsync(set => set.SetProperty(it => it.EndedAt, at), cancel);
    }
}

/// <summary>Where a request comes from.</summary>
internal static class Caller
{
    private const int LongestBrowser = 300;

    public static string Address(HttpContext? http) => http?.Connection.RemoteIpAddress?.ToString() ?? "";

    public static string Browser(HttpContext? http)
    {
        var said = new string([.. (http?.Request.Headers.UserAgent.ToString() ?? "").Where(it => it is >= ' ' and <= '~')]);
        return said.Length > LongestBrowser ? said[..LongestBrowser] : said;
    }
}
