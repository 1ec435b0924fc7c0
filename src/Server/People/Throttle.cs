using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>
/// Slows the guessing of passwords without letting a stranger lock anybody out: failures count for a name at one address, and for a name
/// from everywhere; a browser on which the account was signed in before has a count of its own. Names that nobody has are treated alike.
/// The counts are in the database, so that several servers share them.
/// </summary>
public sealed class Throttle(OsierwandDb db, IDataProtectionProvider protection, TimeProvider time)
{
    private const string Cookie = "osierwand-known";
    private const int MostAtOneAddress = 8;
    private const int MostAnywhere = 60;
    private const int MostOnAKnownBrowser = 12;
    private static readonly TimeSpan Window = TimeSpan.FromMinutes(15);
    private static readonly TimeSpan Remembered = TimeSpan.FromDays(180);
    private readonly ITimeLimitedDataProtector protector = protection
        .CreateProtector("Osierwand.People.KnownBrowser.v1")
        .ToTimeLimitedDataProtector();

    internal static byte[] Digest(string name) => SHA256.HashData(Encoding.UTF8.GetBytes(name.Trim().ToUpperInvariant()));

    /// <returns>How long to wait before the next try counts at all; null when it may be tried now.</returns>
    internal async Task<TimeSpan?> RefusalAsync(string name, HttpContext http, CancellationToken cancel)
    {
        var (digest, address, since) = (Digest(name), Caller.Address(http), time.GetUtcNow() - Window);
        var isKnown = IsKnown(name, http);
        var failed = db.SignInAttempts.Where(it => it.Name == digest && it.At > since && !it.Succeeded);
        var counted = isKnown
            ? [await TimesAsync(failed.Where(it => it.IsKnownBrowser), MostOnAKnownBrowser, cancel)]
            : new[]
            {
                await TimesAsync(failed.Where(it => !it.IsKnownBrowser && it.Address == address), MostAtOneAddress, cancel),
                await TimesAsync(failed.Where(it => !it.IsKnownBrowser), MostAnywhere, cancel),
            };
        return counted.Max() is { } oldest ? oldest + Window - time.GetUtcNow() : null;
    }

    internal async Task NoteAsync(string name, bool succeeded, HttpContext http, CancellationToken cancel)
    {
        db.SignInAttempts.Add(
            new()
            {
                At = time.GetUtcNow(),
                Name = Digest(name),
                Address = Caller.Address(http),
                IsKnownBrowser = IsKnown(name, http),
                Succeeded = succeeded,
            }
        );
        await db.SaveChangesAsync(cancel);
        if (succeeded)
            http.Response.Cookies.Append(
                Cookie,
                protector.Protect(Convert.ToHexString(Digest(name)), Remembered),
                new()
                {
                    HttpOnly = true,
                    SameSite = SameSiteMode.Strict,
                    Secure = http.Request.IsHttps,
                    MaxAge = Remembered,
                    Path = "/api/v1/people",
                }
            );
    }

    /// <returns>When the oldest of the failures that fill the allowance was; null while there is room.</returns>
    private static async Task<DateTimeOffset?> TimesAsync(IQueryable<SignInAttempt> failed, int most, CancellationToken cancel)
    {
        var latest = await failed.OrderByDescending(it => it.At).Select(it => it.At).Take(most).ToListAsync(cancel);
        return latest.Count < most ? null : latest[^1];
    }

    private bool IsKnown(string name, HttpContext http)
    {
        if (http.Request.Cookies[Cookie] is not { } cookie)
            return false;
        try
        {
            return protector.Unprotect(cookie) == Convert.ToHexString(Digest(name));
        }
        catch (CryptographicException)
        {
            return false;
        }
    }
}
