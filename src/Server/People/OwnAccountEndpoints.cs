using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Server.Hosting;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <param name="IsThis">The one that asks.</param>
public sealed record SessionCard(Guid Id, DateTimeOffset StartedAt, DateTimeOffset SeenAt, string Address, string Browser, bool IsThis);

public sealed record OwnAccount(
    bool HasPassword,
    bool HasTwoStep,
    int SpareCodes,
    IReadOnlyList<PasskeyCard> Passkeys,
    IReadOnlyList<SessionCard> Sessions
);

public sealed record ChangePassword(string Current, string Next);

/// <param name="Secret">To type into the app where its camera cannot be used.</param>
/// <param name="Address">For the app, as text and as a picture of squares: "otpauth://…".</param>
public sealed record TwoStepOffer(string Secret, string Address, string Picture);

public sealed record Code(string Text);

public sealed record SpareCodes(IReadOnlyList<string> Codes);

public sealed record OwnPassword(string Password);

public sealed record LinkToken(string Token);

public sealed record LinkPage(string UserName, string DisplayName);

public sealed record TakeLink(string Token, string Password);

/// <summary>What everybody does with their own account: sessions, password, the second step; and taking up an invitation.</summary>
internal static class OwnAccountEndpoints
{
    private const string NotChanged = "Not changed.";

    public static void MapOwnAccount(this RouteGroupBuilder api)
    {
        var me = api.MapGroup("/people/me").WithTags("People");
        me.MapGet("/account", Account).For(Access.Reader);
        me.MapPost("/sessions/{sessionId:guid}/end", EndOne).For(Access.Reader);
        me.MapPost("/password", Password).For(Access.Reader).RequireRateLimiting(Limits.SignIn);
        me.MapPost("/two-step", Offer).For(Access.Reader);
        me.MapPost("/two-step/confirm", Confirm).For(Access.Reader).RequireRateLimiting(Limits.SignIn);
        me.MapPost("/two-step/off", Off).For(Access.Reader).RequireRateLimiting(Limits.SignIn);
        var link = api.MapGroup("/people/link").WithTags("People");
        link.MapPost("/look", PasswordLinks.Look).For(Access.Anyone).RequireRateLimiting(Limits.SignIn);
        link.MapPost("/", PasswordLinks.Take).For(Access.Anyone).RequireRateLimiting(Limits.SignIn);
    }

    private static async Task<Ok<OwnAccount>> Account(
        OsierwandDb db,
        UserManager<Person> people,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var (id, session, now) = (user.Id(), user.SessionId(), time.GetUtcNow());
        var person = await db.Users.FirstAsync(it => it.Id == id, cancel);
        return TypedResults.Ok(
            new OwnAccount(
                person.PasswordHash is not null,
                person.TwoFactorEnabled,
                person.TwoFactorEnabled ? await people.CountRecoveryCodesAsync(person) : 0,
                await Passkeys.OfAsync(db, id, cancel),
                await db
                    .Sessions.Where(it => it.PersonId == id && it.EndedAt == null && it.EndsAt > now)
                    .OrderByDescending(it => it.SeenAt)
                    .Select(it => new SessionCard(it.Id, it.StartedAt, it.SeenAt, it.Address, it.Browser, it.Id == session))
                    .ToListAsync(cancel)
            )
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> EndOne(
        Guid sessionId,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var id = user.Id();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.Sessions.Where(it => it.Id == sessionId && it.PersonId == id).EndAsync(time.GetUtcNow(), cancel) == 0)
            return Refusals.NotFound("open session of yours");
        trail.Add("session ended", user.DisplayName(), sessionId);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Ends every other session: whoever knew the old one is out.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> Password(
        ChangePassword sent,
        OsierwandDb db,
        UserManager<Person> people,
        Passwords passwords,
        Throttle throttle,
        Trail trail,
        HttpContext http,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var fits = await FitsAsync(sent.Current, db, passwords, throttle, http, cancel);
        if (fits.Fault is { } fault)
            return Refusals.Invalid(NotChanged, fault with { Path = "current" });
        var person = fits.Value;
        if (PasswordRules.Refusal(sent.Next, person) is { } why)
            return Refusals.Invalid(NotChanged, new Fault("next", why));
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        person.PasswordHash = people.PasswordHasher.HashPassword(person, sent.Next);
        var session = http.User.SessionId();
        await db.Sessions.Where(it => it.PersonId == person.Id && it.Id != session).EndAsync(time.GetUtcNow(), cancel);
        trail.Add("password changed", person.DisplayName, person.Id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<TwoStepOffer>, ProblemHttpResult>> Offer(
        OsierwandDb db,
        UserManager<Person> people,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var id = user.Id();
        var person = await db.Users.FirstAsync(it => it.Id == id, cancel);
        if (person.TwoFactorEnabled || person.IsDemo)
            return Refusals.Invalid(
                NotChanged,
                new Fault("twoStep", person.IsDemo ? "Invented people of a demo have no password." : "The second step is on already.")
            );
        await people.ResetAuthenticatorKeyAsync(person);
        var secret = (await people.GetAuthenticatorKeyAsync(person))!;
        var address = $"otpauth://totp/Osierwand:{Uri.EscapeDataString(person.UserName!)}?secret={secret}&issuer=Osierwand&digits=6";
        using var generator = new QRCoder.QRCodeGenerator();
        using var squares = generator.CreateQrCode(address, QRCoder.QRCodeGenerator.ECCLevel.M);
        using var picture = new QRCoder.PngByteQRCode(squares);
        return TypedResults.Ok(new TwoStepOffer(secret, address, $"data:image/png;base64,{Convert.ToBase64String(picture.GetGraphic(6))}"));
    }

    private static async Task<Results<Ok<SpareCodes>, ProblemHttpResult>> Confirm(
        Code sent,
        OsierwandDb db,
        UserManager<Person> people,
        OneTimeCodes codes,
        Trail trail,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var id = user.Id();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var person = await db.Users.FirstAsync(it => it.Id == id, cancel);
        if (
            person.TwoFactorEnabled
            || await people.GetAuthenticatorKeyAsync(person) is null
            || !await codes.TakeAsync(person, sent.Text, cancel)
        )
            return Refusals.Invalid(NotChanged, new Fault("text", "This is not the code that the app shows now."));
        await people.SetTwoFactorEnabledAsync(person, true);
        var spare = await people.GenerateNewTwoFactorRecoveryCodesAsync(person, 8);
        trail.Add("two-step sign-in set up", person.DisplayName, id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new SpareCodes([.. spare!]));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Off(
        OwnPassword sent,
        OsierwandDb db,
        UserManager<Person> people,
        Passwords passwords,
        Throttle throttle,
        Trail trail,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var fits = await FitsAsync(sent.Password, db, passwords, throttle, http, cancel);
        if (fits.Fault is { } fault)
            return Refusals.Invalid(NotChanged, fault with { Path = "password" });
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await people.SetTwoFactorEnabledAsync(fits.Value, false);
        trail.Add("two-step sign-in taken off", fits.Value.DisplayName, fits.Value.Id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>A session left open on a bench must not be enough to take an account over.</summary>
    internal static async Task<Result<Person>> FitsAsync(
        string password,
        OsierwandDb db,
        Passwords passwords,
        Throttle throttle,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var id = http.User.Id();
        var name = await db.Users.Where(it => it.Id == id).Select(it => it.UserName!).FirstAsync(cancel);
        if (await throttle.RefusalAsync(name, http, cancel) is not null)
            return new Fault("", "Too many attempts; try again in a quarter of an hour.");
        var person = await passwords.FitsAsync(name, password, cancel);
        await throttle.NoteAsync(name, person is not null, http, cancel);
        return person is null ? new Fault("", "This is not your password.") : person;
    }
}

/// <summary>Links by which a person sets a password once.</summary>
internal static class PasswordLinks
{
    public static byte[] Digest(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));

    public static async Task<Results<Ok<LinkPage>, ProblemHttpResult>> Look(
        LinkToken sent,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    ) =>
        await FindAsync(sent.Token, db, time, cancel) is { } found
            ? TypedResults.Ok(new LinkPage(found.Person.UserName!, found.Person.DisplayName))
            : Over();

    public static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> Take(
        TakeLink sent,
        OsierwandDb db,
        UserManager<Person> people,
        Trail trail,
        Sessions sessions,
        HttpContext http,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await FindAsync(sent.Token, db, time, cancel) is not { } found)
            return Over();
        if (PasswordRules.Refusal(sent.Password, found.Person) is { } why)
            return Refusals.Invalid("Not set.", new Fault("password", why));
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        DateTimeOffset? now = time.GetUtcNow();
        var (hash, personId) = (found.Link.TokenHash, found.Person.Id);
        // Whoever of two takes it first has it.
        var taken = await db
            .PasswordLinks.Where(it => it.TokenHash == hash && it.UsedAt == null)
            .ExecuteUpdateAsync(set => set.SetProperty(it => it.UsedAt, now), cancel);
        if (taken == 0)
            return Over();
        var person = await db.Users.FirstAsync(it => it.Id == personId, cancel);
        person.PasswordHash = people.PasswordHasher.HashPassword(person, sent.Password);
        await db.Sessions.Where(it => it.PersonId == personId).EndAsync(now.Value, cancel);
        trail.Add("password set by link", person.DisplayName, personId, by: person);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        // With a second step set up, the link alone opens nothing: they sign in as always.
        return person.TwoFactorEnabled
            ? Refusals.Of(StatusCodes.Status401Unauthorized, "The password is set.", "Sign in with it, and with the code from your phone.")
            : TypedResults.Ok(await SignInEndpoints.StartAsync(http, sessions, db, person, cancel));
    }

    private static async Task<(PasswordLink Link, Person Person)?> FindAsync(
        string token,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var (hash, now) = (Digest(token), time.GetUtcNow());
        var found = await (
            from link in db.PasswordLinks.AsNoTracking()
            join person in db.Users.AsNoTracking() on link.PersonId equals person.Id
            where link.TokenHash == hash && link.UsedAt == null && link.EndsAt > now && person.ClosedAt == null
            select new { link, person }
        ).FirstOrDefaultAsync(cancel);
        return found is null ? null : (found.link, found.person);
    }

    private static ProblemHttpResult Over() =>
        Refusals.Of(StatusCodes.Status404NotFound, "This link is over.", "It was used, or too old. A lead makes a new one.");
}
