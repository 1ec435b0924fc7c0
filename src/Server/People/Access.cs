using Microsoft.AspNetCore.Authorization;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>Who may call an endpoint at all. What of it they see is the database context's (<see cref="Store.Sight"/>).</summary>
public enum Access
{
    /// <summary>Nobody needs to be signed in.</summary>
    Anyone,

    /// <summary>Everybody with an account, a client's viewer too: what they read is theirs.</summary>
    Reader,

    /// <summary>Technicians and leads.</summary>
    Worker,
    Lead,
}

/// <summary>What an endpoint said.</summary>
internal sealed record AccessMark(Access Access);

/// <summary>The one way by which an endpoint says who may call it.</summary>
internal static class AccessRules
{
    public static void AddAccess(this IServiceCollection services) =>
        services
            .AddAuthorizationBuilder()
            .AddPolicy(nameof(Access.Reader), policy => policy.RequireRole(Person.Roles))
            .AddPolicy(nameof(Access.Worker), policy => policy.RequireRole(Person.Technician, Person.Lead))
            .AddPolicy(nameof(Access.Lead), policy => policy.RequireRole(Person.Lead));

    public static TBuilder For<TBuilder>(this TBuilder endpoint, Access access)
        where TBuilder : IEndpointConventionBuilder
    {
        endpoint.WithMetadata(new AccessMark(access));
        return access == Access.Anyone ? endpoint.AllowAnonymous() : endpoint.RequireAuthorization(access.ToString());
    }

    /// <summary>Refuses to start with an endpoint that nobody thought about.</summary>
    public static void EveryEndpointSays(IEndpointRouteBuilder app)
    {
        var silent = app
            .DataSources.SelectMany(source => source.Endpoints)
            .OfType<RouteEndpoint>()
            .Where(it => it.RoutePattern.RawText is { } path && (path.StartsWith("/api", StringComparison.Ordinal) || IsOurs(path)))
            .Where(it => it.Metadata.GetMetadata<AccessMark>() is null)
            .Select(it => it.DisplayName)
            .ToArray();
        if (silent.Length > 0)
            throw new InvalidOperationException($"These endpoints do not say who may call them: {string.Join("; ", silent)}");
    }

    private static bool IsOurs(string path) =>
        path.StartsWith("/hubs", StringComparison.Ordinal) || path.StartsWith("/openapi", StringComparison.Ordinal);
}
