using System.Globalization;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Mvc;

namespace Osierwand.Server.Hosting;

/// <summary>How often and how much: what one address may ask of the server in a minute, and how long a body may be.</summary>
internal static class Limits
{
    public const string SignIn = "sign-in";

    /// <summary>What reads a great deal: a whole book, every record.</summary>
    public const string Heavy = "heavy";

    /// <summary>What nobody is signed in for.</summary>
    public const string Public = "public";
    private const int PublicPerMinute = 30;
    private const int SignInsPerMinute = 20;
    private const int HeavyPerMinute = 10;

    /// <summary>Of a body, unless an endpoint says otherwise: a form's worth.</summary>
    public const int Body = 64 * 1024;

    /// <summary>A run sheet goes along with every save and every start of the instrument; the largest has some hundred events.</summary>
    public const int SheetBody = 512 * 1024;

    /// <summary>Requests of the contract, several thousand at once.</summary>
    public const int ContractBody = 4 * 1024 * 1024;

    public static void AddLimits(this IServiceCollection services, IConfiguration configuration) =>
        services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.OnRejected = async (rejected, cancel) =>
            {
                var wait = rejected.Lease.TryGetMetadata(MetadataName.RetryAfter, out var after) ? after : TimeSpan.FromMinutes(1);
                var seconds = Math.Max(1, Math.Ceiling(wait.TotalSeconds));
                rejected.HttpContext.Response.Headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
                await rejected
                    .HttpContext.RequestServices.GetRequiredService<IProblemDetailsService>()
                    .TryWriteAsync(
                        new()
                        {
                            HttpContext = rejected.HttpContext,
                            ProblemDetails = new ProblemDetails
                            {
                                Status = StatusCodes.Status429TooManyRequests,
                                Title = "Too many at once.",
                                Detail = $"Try again in {seconds:0} seconds. What you entered is kept on this screen.",
                            },
                        }
                    );
            };
            limits.AddPolicy(SignIn, http => PerAddress(http, configuration.GetValue("SignIn:PerMinute", SignInsPerMinute)));
            limits.AddPolicy(Public, http => PerAddress(http, configuration.GetValue("Public:PerMinute", PublicPerMinute)));
            limits.AddPolicy(Heavy, http => PerAddress(http, configuration.GetValue("Heavy:PerMinute", HeavyPerMinute)));
        });

    private static RateLimitPartition<string> PerAddress(HttpContext http, int perMinute) =>
        RateLimitPartition.GetFixedWindowLimiter(
            http.Connection.RemoteIpAddress?.ToString() ?? "unknown",
            _ => new() { PermitLimit = perMinute, Window = TimeSpan.FromMinutes(1) }
        );

    /// <summary>Lets an endpoint take a longer body than a form's.</summary>
    public static TBuilder TakesUpTo<TBuilder>(this TBuilder endpoint, int bytes)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new RequestSizeLimitAttribute(bytes));
}
