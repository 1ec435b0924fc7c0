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
public sealed class SessionTickets(
    IDbContextFactory<OsierwandDb> dbs,
    IHttpContextAccessor http,
    TimeProvider time,
    IOptions<SignInSpan> options
) : ITicketStore
{
    public async Task<string> StoreAsync(AuthenticationTicket ticket)
    {
        var now = time.GetUtcNow();
        var session = new Session
        {
            Id = Guid.NewGuid(),
            PersonId = ticket.Principal.Id(),
            StartedAt = now,
            SeenAt = now,
            EndsAt = now.AddHours(options.Value.LongestHours),
            Address = Caller.Address(http.HttpContext),
            Browser = Caller.Browser(http.HttpContext),
        };
        await using var db = await dbs.CreateDbContextAsync();
        db.Sessions.Add(session);
        await db.SaveChangesAsync();
        return session.Id.ToString("D");
    }

    public async Task<AuthenticationTicket?> RetrieveAsync(string key)
    {
        if (!Guid.TryParse(key, out var id))
            return null;
        var now = time.GetUtcNow();
        await using var db = await dbs.CreateDbContextAsync();
        var known = await (
            from session in db.Sessions
            join person in db.Users on session.PersonId equals person.Id
            join link in db.UserRoles on person.Id equals link.UserId
            join role in db.Roles on link.RoleId equals role.Id
            where session.Id == id && session.EndedAt == null && session.EndsAt > now && person.ClosedAt == null
            select new
            {
                session.SeenAt,
                session.EndsAt,
                session.StartedAt,
                person.Id,
                person.UserName,
                person.DisplayName,
                person.Initials,
                Role = role.Name!,
            }
        ).FirstOrDefaultAsync();
        if (known is null || now - known.SeenAt > TimeSpan.FromMinutes(options.Value.IdleMinutes))
            return null;
        if (now - known.SeenAt > TimeSpan.FromMinutes(1))
            await db.Sessions.Where(it => it.Id == id).ExecuteUpdateAsync(set => set.SetProperty(it => it.SeenAt, now));
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
                (await db.PersonClients.Where(it => it.PersonId == known.Id).Select(it => it.ClientId).ToListAsync()).Select(
                    client => new Claim(SignedIn.ClientClaim, client.ToString("D"))
                )
            );
        return new(
            new(new ClaimsIdentity(claims, IdentityConstants.ApplicationScheme)),
            new()
            {
                IsPersistent = true,
                IssuedUtc = known.StartedAt,
                ExpiresUtc = known.EndsAt,
            },
            IdentityConstants.ApplicationScheme
        );
    }

    /// <summary>Nothing to renew: rows know when they were last seen.</summary>
    public Task RenewAsync(string key, AuthenticationTicket ticket) => Task.CompletedTask;

    public async Task RemoveAsync(string key)
    {
        if (!Guid.TryParse(key, out var id))
            return;
        await using var db = await dbs.CreateDbContextAsync();
        await db.Sessions.Where(it => it.Id == id).EndAsync(time.GetUtcNow(), CancellationToken.None);
    }

    /// <summary>Whether a session that something long runs for still stands.</summary>
    public async Task<bool> StandsAsync(ClaimsPrincipal user) => await RetrieveAsync(user.SessionId().ToString("D")) is not null;
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
