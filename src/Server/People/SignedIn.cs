using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Osierwand.Core.Bench;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>What the cookie says of who is signed in.</summary>
internal static class SignedIn
{
    public const string DisplayNameClaim = "display_name";
    public const string InitialsClaim = "initials";

    public static Guid Id(this ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!);

    /// <summary>Who works at the bench. Competences are empty until they are kept.</summary>
    public static Worker Worker(this ClaimsPrincipal user) =>
        new(user.Id(), user.DisplayName(), user.FindFirstValue(InitialsClaim) ?? "", user.IsInRole(Person.Lead), []);

    /// <summary>The name that stands on records and papers.</summary>
    public static string DisplayName(this ClaimsPrincipal user) =>
        user.FindFirstValue(DisplayNameClaim) ?? user.FindFirstValue(ClaimTypes.Name) ?? "";
}

/// <summary>Puts the display name into the cookie, so that a save need not ask the database for it.</summary>
internal sealed class PersonClaims(UserManager<Person> people, RoleManager<IdentityRole<Guid>> roles, IOptions<IdentityOptions> options)
    : UserClaimsPrincipalFactory<Person, IdentityRole<Guid>>(people, roles, options)
{
    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Person user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new(SignedIn.DisplayNameClaim, user.DisplayName));
        identity.AddClaim(new(SignedIn.InitialsClaim, user.Initials));
        return identity;
    }
}
