using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Osierwand.Server.Hosting;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

public sealed record SignIn(string UserName, string Password);

/// <param name="Role">"technician" or "lead".</param>
public sealed record PersonCard(Guid Id, string UserName, string DisplayName, string Initials, string Role);

/// <param name="DemoPeople">Empty unless this is a demo.</param>
/// <param name="NeedsFirstPerson">Nobody has an account yet: whoever sets the house up makes the first lead.</param>
public sealed record SignInPage(bool Demo, bool NeedsFirstPerson, IReadOnlyList<PersonCard> DemoPeople);

public sealed record FirstPerson(string UserName, string DisplayName, string Initials, string Password);

/// <summary>Signing in and out, and who is signed in.</summary>
internal static class PeopleEndpoints
{
    public static void MapPeople(this RouteGroupBuilder api)
    {
        var people = api.MapGroup("/people").WithTags("People");
        people.MapGet("/me", Me);
        people.MapGet("/sign-in", Page).AllowAnonymous();
        people.MapPost("/sign-in", In).AllowAnonymous().RequireRateLimiting(Setup.SignInLimit);
        people.MapPost("/demo-sign-in", InAsDemo).AllowAnonymous().RequireRateLimiting(Setup.SignInLimit);
        people.MapPost("/first", First).AllowAnonymous().RequireRateLimiting(Setup.SignInLimit);
        people.MapPost("/sign-out", Out);
    }

    private static async Task<Results<Ok<PersonCard>, UnauthorizedHttpResult>> Me(ClaimsPrincipal user, UserManager<Person> people) =>
        await people.GetUserAsync(user) is { } person ? TypedResults.Ok(await Card(person, people)) : TypedResults.Unauthorized();

    private static async Task<Ok<SignInPage>> Page(UserManager<Person> people, IOptions<DemoOptions> demo)
    {
        if (!demo.Value.Enabled)
            return TypedResults.Ok(new SignInPage(false, !await people.Users.AnyAsync(), []));
        var cards = new List<PersonCard>();
        foreach (var person in await people.Users.OrderBy(it => it.DisplayName).ToListAsync())
            cards.Add(await Card(person, people));
        return TypedResults.Ok(new SignInPage(true, false, cards));
    }

    private static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> In(
        SignIn sent,
        SignInManager<Person> signIn,
        UserManager<Person> people
    )
    {
        var result = await signIn.PasswordSignInAsync(sent.UserName, sent.Password, isPersistent: true, lockoutOnFailure: true);
        if (result.Succeeded)
            return TypedResults.Ok(await Card((await people.FindByNameAsync(sent.UserName))!, people));
        return Refusals.Of(
            StatusCodes.Status401Unauthorized,
            "Not signed in.",
            result.IsLockedOut ? "Too many attempts; try again in five minutes." : "Name and password do not fit together."
        );
    }

    private static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> InAsDemo(
        string userName,
        SignInManager<Person> signIn,
        UserManager<Person> people,
        IOptions<DemoOptions> demo
    )
    {
        if (!demo.Value.Enabled || await people.FindByNameAsync(userName) is not { } person)
            return Refusals.NotFound("demo person");
        await signIn.SignInAsync(person, isPersistent: true);
        return TypedResults.Ok(await Card(person, people));
    }

    /// <summary>Makes the first lead of an empty house; refused as soon as anybody has an account.</summary>
    private static async Task<Results<Ok<PersonCard>, ProblemHttpResult>> First(
        FirstPerson sent,
        SignInManager<Person> signIn,
        UserManager<Person> people,
        RoleManager<IdentityRole<Guid>> roles,
        IOptions<DemoOptions> demo
    )
    {
        if (demo.Value.Enabled || await people.Users.AnyAsync())
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "Not set up.",
                "Somebody has an account already; sign in, or ask a lead for one."
            );
        if (
            string.IsNullOrWhiteSpace(sent.DisplayName)
            || sent.DisplayName.Length > 100
            || string.IsNullOrWhiteSpace(sent.Initials)
            || sent.Initials.Length > 5
        )
            return Refusals.Invalid(
                "Not set up.",
                new Core.Fault(
                    "displayName",
                    "A name of up to 100 characters and initials of up to five are needed; labels carry the initials."
                )
            );
        foreach (var role in new[] { Person.Technician, Person.Lead })
            if (!await roles.RoleExistsAsync(role))
                await roles.CreateAsync(new(role));
        var person = new Person
        {
            UserName = sent.UserName.Trim(),
            DisplayName = sent.DisplayName.Trim(),
            Initials = sent.Initials.Trim(),
        };
        var made = await people.CreateAsync(person, sent.Password);
        if (!made.Succeeded)
            return Refusals.Invalid("Not set up.", [.. made.Errors.Select(it => new Core.Fault("password", it.Description))]);
        await people.AddToRoleAsync(person, Person.Lead);
        await signIn.SignInAsync(person, isPersistent: true);
        return TypedResults.Ok(await Card(person, people));
    }

    private static async Task<NoContent> Out(SignInManager<Person> signIn)
    {
        await signIn.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<PersonCard> Card(Person person, UserManager<Person> people) =>
        new(
            person.Id,
            person.UserName!,
            person.DisplayName,
            person.Initials,
            (await people.GetRolesAsync(person)).Order().FirstOrDefault() ?? Person.Technician
        );
}
