using System.Security.Claims;
using Osierwand.Core.Bench;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>Who is signed in, as the session's row and the person's say it at this request.</summary>
internal static class SignedIn
{
    public const string DisplayNameClaim = "display_name";
    public const string InitialsClaim = "initials";
    public const string SessionClaim = "session";
    public const string ClientClaim = "client";

    public static Guid Id(this ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!);

    public static Guid SessionId(this ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(SessionClaim)!);

    /// <summary>Who works at the bench. Competences are empty until they are kept.</summary>
    public static Worker Worker(this ClaimsPrincipal user) =>
        new(user.Id(), user.DisplayName(), user.FindFirstValue(InitialsClaim) ?? "", user.IsInRole(Person.Lead), []);

    /// <summary>The name that stands on records and papers.</summary>
    public static string DisplayName(this ClaimsPrincipal user) =>
        user.FindFirstValue(DisplayNameClaim) ?? user.FindFirstValue(ClaimTypes.Name) ?? "";

    /// <summary>From here on the request's database context sees what this person may see.</summary>
    public static void See(this Sight sight, ClaimsPrincipal? user) =>
        sight.VisibleTo(
            user?.IsInRole(Person.Technician) == true || user?.IsInRole(Person.Lead) == true,
            [.. user?.FindAll(ClientClaim).Select(it => Guid.Parse(it.Value)) ?? []]
        );
}
