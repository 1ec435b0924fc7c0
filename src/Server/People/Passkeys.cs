using System.Security.Claims;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Server.Hosting;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <param name="Id">Of the credential, in base64url.</param>
public sealed record PasskeyCard(string Id, string Name, DateTimeOffset MadeAt);

/// <param name="Options">What the browser's "navigator.credentials" asks for.</param>
/// <param name="State">Sealed; goes back with what the browser answers, within five minutes.</param>
public sealed record PasskeyOffer(JsonElement Options, string State);

/// <param name="Name">By which its owner tells it from others: "blue tablet".</param>
/// <param name="Credential">What the browser made, as its own toJSON writes it.</param>
public sealed record NewPasskey(string State, string Name, JsonElement Credential);

public sealed record PasskeySignIn(string State, JsonElement Credential);

/// <summary>
/// Passkeys: a key that a device keeps for this house and opens by finger, face or its own code. It stands for password and second step
/// together, and for no name that could be tried out.
/// </summary>
internal static class Passkeys
{
    private const int LongestName = 60;

    /// <summary>More are a mistake or a flood.</summary>
    private const int Most = 10;
    private static readonly TimeSpan OfferLasts = TimeSpan.FromMinutes(5);
    private static readonly Fault Stale = new("state", "That took too long, or belongs to another sign-in. Begin again.");

    public static void MapPasskeys(this RouteGroupBuilder api)
    {
        var me = api.MapGroup("/people/me/passkeys").WithTags("People");
        me.MapPost("/offer", OfferNew).For(Access.Reader).RequireRateLimiting(Limits.SignIn);
        me.MapPost("/", Add).For(Access.Reader).RequireRateLimiting(Limits.SignIn);
        me.MapPost("/{passkeyId}/remove", Remove).For(Access.Reader);
        var door = api.MapGroup("/people/passkey").WithTags("People");
        door.MapPost("/offer", OfferSignIn).For(Access.Anyone).RequireRateLimiting(Limits.SignIn);
        door.MapPost("/", In).For(Access.Anyone).RequireRateLimiting(Limits.SignIn);
    }

    public static async Task<IReadOnlyList<PasskeyCard>> OfAsync(OsierwandDb db, Guid personId, CancellationToken cancel) =>
        [
            .. (await db.UserPasskeys.AsNoTracking().Where(it => it.UserId == personId).ToListAsync(cancel))
                .OrderBy(it => it.Data.CreatedAt)
                .Select(it => new PasskeyCard(WebEncoders.Base64UrlEncode(it.CredentialId), it.Data.Name ?? "", it.Data.CreatedAt)),
        ];

    /// <summary>When an account's password is taken away or its phone is lost, what the old device keeps opens nothing any more.</summary>
    public static Task<int> DropAsync(OsierwandDb db, Guid personId, CancellationToken cancel) =>
        db.UserPasskeys.Where(it => it.UserId == personId).ExecuteDeleteAsync(cancel);

    private static async Task<Results<Ok<PasskeyOffer>, ProblemHttpResult>> OfferNew(
        OwnPassword sent,
        OsierwandDb db,
        Passwords passwords,
        Throttle throttle,
        IPasskeyHandler<Person> keys,
        IDataProtectionProvider protection,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var fits = await OwnAccountEndpoints.FitsAsync(sent.Password, db, passwords, throttle, http, cancel);
        if (fits.Fault is { } fault)
            return Refusals.Invalid("Not set up.", fault with { Path = "password" });
        var person = fits.Value;
        if (await db.UserPasskeys.CountAsync(it => it.UserId == person.Id, cancel) >= Most)
            return Refusals.Invalid("Not set up.", new Fault("passkeys", $"An account has at most {Most} passkeys; remove one first."));
        var entity = new PasskeyUserEntity
        {
            Id = person.Id.ToString("D"),
            Name = person.UserName!,
            DisplayName = person.DisplayName,
        };
        var made = await keys.MakeCreationOptionsAsync(entity, http);
        return TypedResults.Ok(Offer(made.CreationOptionsJson, made.AttestationState, Own(protection, http.User)));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Add(
        NewPasskey sent,
        OsierwandDb db,
        UserManager<Person> people,
        IPasskeyHandler<Person> keys,
        IDataProtectionProvider protection,
        Trail trail,
        ILoggerFactory logs,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var name = sent.Name.Trim();
        if (name.Length is 0 or > LongestName || KeptText.Unseen(name) is not null)
            return Refusals.Invalid("Not set up.", new Fault("name", $"Name the device in 1 to {LongestName} printable characters."));
        if (Unsealed(Own(protection, http.User), sent.State) is not { } state)
            return Refusals.Invalid("Not set up.", Stale);
        var made = await keys.PerformAttestationAsync(
            new()
            {
                HttpContext = http,
                CredentialJson = sent.Credential.GetRawText(),
                AttestationState = state,
            }
        );
        if (!made.Succeeded)
        {
            Log(logs).LogWarning("A passkey was not added: {Why}", made.Failure.Message);
            return Refusals.Invalid("Not set up.", new Fault("credential", "The device's answer does not fit what it was asked."));
        }
        var id = http.User.Id();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var person = await db.Users.FirstAsync(it => it.Id == id, cancel);
        made.Passkey.Name = name;
        if (!(await people.AddOrUpdatePasskeyAsync(person, made.Passkey)).Succeeded)
            return Refusals.Of(StatusCodes.Status409Conflict, "Not set up.", "Your account was changed at the same moment. Begin again.");
        trail.Add("passkey added", person.DisplayName, id, after: new { name });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        string passkeyId,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        byte[] key;
        try
        {
            key = WebEncoders.Base64UrlDecode(passkeyId);
        }
        catch (FormatException)
        {
            return Refusals.NotFound("passkey of yours");
        }
        var id = user.Id();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.UserPasskeys.Where(it => it.UserId == id && it.CredentialId == key).ExecuteDeleteAsync(cancel) == 0)
            return Refusals.NotFound("passkey of yours");
        trail.Add("passkey removed", user.DisplayName(), id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>For whoever stands before the door: the device knows whose key it keeps, so no name is asked for.</summary>
    private static async Task<Ok<PasskeyOffer>> OfferSignIn(
        IPasskeyHandler<Person> keys,
        IDataProtectionProvider protection,
        HttpContext http
    )
    {
        var made = await keys.MakeRequestOptionsAsync(null, http);
        return TypedResults.Ok(Offer(made.RequestOptionsJson, made.AssertionState, Door(protection)));
    }

    private static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> In(
        PasskeySignIn sent,
        OsierwandDb db,
        IPasskeyHandler<Person> keys,
        IDataProtectionProvider protection,
        Trail trail,
        Sessions sessions,
        ILoggerFactory logs,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (Unsealed(Door(protection), sent.State) is not { } state)
            return Refusals.Of(StatusCodes.Status401Unauthorized, "Not signed in.", Stale.Message);
        var shown = await keys.PerformAssertionAsync(
            new()
            {
                HttpContext = http,
                CredentialJson = sent.Credential.GetRawText(),
                AssertionState = state,
            }
        );
        if (!shown.Succeeded || shown.User is not { ClosedAt: null, IsDemo: false } person)
        {
            Telemetry.RefusedSignIns.Add(1);
            Log(logs).LogWarning("A passkey opened nothing: {Why}", shown.Failure?.Message ?? "the account is closed");
            return Refusals.Of(
                StatusCodes.Status401Unauthorized,
                "Not signed in.",
                "This passkey opens no account here. Sign in with name and password, or ask a lead for a link."
            );
        }
        // The device counts its uses: a copy of the key would show by a count that goes back. Written here, and not by Identity, which
        // would write the person back whole beside it.
        var key = await db.UserPasskeys.FirstAsync(it => it.CredentialId == shown.Passkey.CredentialId, cancel);
        (key.Data.SignCount, key.Data.IsBackedUp, key.Data.IsUserVerified) = (
            shown.Passkey.SignCount,
            shown.Passkey.IsBackedUp,
            shown.Passkey.IsUserVerified
        );
        trail.Add("signed in", person.DisplayName, person.Id, after: new { passkey = shown.Passkey.Name }, by: person);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(await SignInEndpoints.StartAsync(http, sessions, db, person, cancel));
    }

    /// <summary>Whoever stands before the door is told that it stays shut; why, stands in the log.</summary>
    private static ILogger Log(ILoggerFactory logs) => logs.CreateLogger("Osierwand.Passkeys");

    private static PasskeyOffer Offer(string optionsJson, string? state, ITimeLimitedDataProtector seal)
    {
        using var options = JsonDocument.Parse(optionsJson);
        return new(options.RootElement.Clone(), seal.Protect(state ?? "", OfferLasts));
    }

    private static ITimeLimitedDataProtector Door(IDataProtectionProvider protection) =>
        protection.CreateProtector("passkey", "sign-in").ToTimeLimitedDataProtector();

    /// <summary>What was offered in one session is worth nothing in another.</summary>
    private static ITimeLimitedDataProtector Own(IDataProtectionProvider protection, ClaimsPrincipal user) =>
        protection.CreateProtector("passkey", "new", user.SessionId().ToString("D")).ToTimeLimitedDataProtector();

    private static string? Unsealed(ITimeLimitedDataProtector seal, string state)
    {
        try
        {
            return seal.Unprotect(state);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
