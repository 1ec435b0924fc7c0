using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Osierwand.Core;
using Osierwand.Server.Hosting;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <param name="Code">From the app on the phone, where the account asks for one; or one of the spare codes.</param>
public sealed record SignIn(string UserName, string Password, string? Code = null);

/// <param name="Role">"technician", "lead" or "viewer".</param>
public sealed record PersonCard(Guid Id, string UserName, string DisplayName, string Initials, string Role);

/// <param name="DemoPeople">Empty unless this is a demo.</param>
/// <param name="NeedsFirstPerson">Nobody has an account yet: whoever sets the house up makes the first lead.</param>
public sealed record SignInPage(bool Demo, bool NeedsFirstPerson, IReadOnlyList<PersonCard> DemoPeople);

/// <param name="Token">Printed where the house was started.</param>
public sealed record FirstPerson(string Token, string UserName, string DisplayName, string Initials, string Password);

/// <summary>The token that sets up an empty house; without one nobody does.</summary>
public sealed class SetUpOptions
{
    public string? Token { get; set; }
}

/// <summary>Signing in and out, and who is signed in.</summary>
internal static class SignInEndpoints
{
    private const string NotIn = "Not signed in.";

    public static void MapSignIn(this RouteGroupBuilder api)
    {
        var people = api.MapGroup("/people").WithTags("People");
        people.MapGet("/me", Me).For(Access.Reader);
        people.MapGet("/sign-in", Page).For(Access.Anyone);
        people.MapPost("/sign-in", In).For(Access.Anyone).RequireRateLimiting(Limits.SignIn);
        people.MapPost("/first", First).For(Access.Anyone).RequireRateLimiting(Limits.SignIn);
        people.MapPost("/sign-out", Out).For(Access.Reader);
        // Without demo data there is no such door, locked or not.
        if (
            BuildTime.IsDescribing || ((IEndpointRouteBuilder)api).ServiceProvider.GetRequiredService<IOptions<DemoOptions>>().Value.Enabled
        )
            people.MapPost("/demo-sign-in", InAsDemo).For(Access.Anyone).RequireRateLimiting(Limits.SignIn);
    }

    private static Ok<PersonCard> Me(ClaimsPrincipal user) =>
        TypedResults.Ok(
            new PersonCard(
                user.Id(),
                user.FindFirstValue(ClaimTypes.Name)!,
                user.DisplayName(),
                user.FindFirstValue(SignedIn.InitialsClaim)!,
                user.FindFirstValue(ClaimTypes.Role)!
            )
        );

    private static async Task<Ok<SignInPage>> Page(OsierwandDb db, IOptions<DemoOptions> demo, CancellationToken cancel)
    {
        if (!demo.Value.Enabled)
            return TypedResults.Ok(new SignInPage(false, !await db.Users.AnyAsync(cancel), []));
        var cards = await (
            from person in db.Users
            join link in db.UserRoles on person.Id equals link.UserId
            join role in db.Roles on link.RoleId equals role.Id
            where person.IsDemo && person.ClosedAt == null
            orderby person.DisplayName
            select new PersonCard(person.Id, person.UserName!, person.DisplayName, person.Initials, role.Name!)
        ).ToListAsync(cancel);
        return TypedResults.Ok(new SignInPage(true, false, cards));
    }

    private static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> In(
        SignIn sent,
        Passwords passwords,
        Throttle throttle,
        OneTimeCodes codes,
        OsierwandDb db,
        Trail trail,
        Sessions sessions,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await throttle.RefusalAsync(sent.UserName, http, cancel) is { } wait)
        {
            http.Response.Headers.RetryAfter = Math.Ceiling(wait.TotalSeconds).ToString(System.Globalization.CultureInfo.InvariantCulture);
            return Refusals.Of(
                StatusCodes.Status429TooManyRequests,
                NotIn,
                $"Too many attempts with this name. Try again in {Math.Ceiling(wait.TotalMinutes):0} minutes, or ask a lead for a new link."
            );
        }
        var person = await passwords.FitsAsync(sent.UserName, sent.Password, cancel);
        if (person is { TwoFactorEnabled: true } && string.IsNullOrWhiteSpace(sent.Code))
            return TypedResults.Problem(
                statusCode: StatusCodes.Status401Unauthorized,
                title: NotIn,
                detail: "This account asks for a code from its phone as well.",
                extensions: new Dictionary<string, object?> { ["needs"] = "code" }
            );
        if (person is { TwoFactorEnabled: true } && !await codes.TakeAsync(person, sent.Code!, cancel))
            person = null;
        if (person is not null)
            trail.Add("signed in", person.DisplayName, person.Id, by: person);
        await throttle.NoteAsync(sent.UserName, person is not null, http, cancel);
        if (person is null)
        {
            Telemetry.RefusedSignIns.Add(1);
            return Refusals.Of(StatusCodes.Status401Unauthorized, NotIn, "Name and password do not fit together.");
        }
        return TypedResults.Ok(await StartAsync(http, sessions, db, person, cancel));
    }

    private static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> InAsDemo(
        string userName,
        OsierwandDb db,
        Trail trail,
        Sessions sessions,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var name = userName.ToUpperInvariant();
        var person = await db.Users.FirstOrDefaultAsync(it => it.NormalizedUserName == name && it.IsDemo && it.ClosedAt == null, cancel);
        if (person is null)
            return Refusals.NotFound("demo person");
        trail.Add("signed in", person.DisplayName, person.Id, by: person);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(await StartAsync(http, sessions, db, person, cancel));
    }

    /// <summary>Makes the first lead of an empty house: by the token that its start printed, once, whoever else tries at the same
    /// moment.</summary>
    private static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> First(
        FirstPerson sent,
        UserManager<Person> people,
        IOptions<SetUpOptions> setUp,
        OsierwandDb db,
        Trail trail,
        Sessions sessions,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var isRight =
            setUp.Value.Token is { Length: > 0 } token
            && CryptographicOperations.FixedTimeEquals(
                SHA256.HashData(Encoding.UTF8.GetBytes(token)),
                SHA256.HashData(Encoding.UTF8.GetBytes(sent.Token.Trim()))
            );
        if (!isRight)
            return Refusals.Of(
                StatusCodes.Status403Forbidden,
                "Not set up.",
                "This is not the token that the start of this house printed. It stands beside the address there."
            );
        if (Accounts.Wrong(sent.UserName, sent.DisplayName, sent.Initials) is { } fault)
            return Refusals.Invalid("Not set up.", fault);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Accounts.OneAtATimeAsync(db, cancel);
        if (await db.Users.AnyAsync(cancel))
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "Not set up.",
                "Somebody has an account already; sign in, or ask a lead for one."
            );
        var person = Accounts.New(sent.UserName, sent.DisplayName, sent.Initials);
        var made = await people.CreateAsync(person, sent.Password);
        if (!made.Succeeded)
            return Refusals.Invalid("Not set up.", Accounts.Faults(made));
        await Accounts.GiveRoleAsync(db, person.Id, Person.Lead, cancel);
        trail.Add("house set up", person.DisplayName, person.Id, by: person);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(await StartAsync(http, sessions, db, person, cancel));
    }

    private static async Task<NoContent> Out(HttpContext http, Sessions sessions, OsierwandDb db, Trail trail, CancellationToken cancel)
    {
        trail.Add("signed out", http.User.DisplayName(), http.User.Id());
        await db.SaveChangesAsync(cancel);
        await sessions.EndAsync(http, cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<PersonCard> StartAsync(
        HttpContext http,
        Sessions sessions,
        OsierwandDb db,
        Person person,
        CancellationToken cancel
    )
    {
        await sessions.BeginAsync(http, person.Id, cancel);
        var role = await Accounts.RoleAsync(db, person.Id, cancel);
        return new(person.Id, person.UserName!, person.DisplayName, person.Initials, role);
    }
}
