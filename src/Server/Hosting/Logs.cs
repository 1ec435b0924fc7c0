using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Diagnostics;
using Serilog;
using Serilog.AspNetCore;
using Serilog.Events;

namespace Osierwand.Server.Hosting;

/// <summary>What the operator can read afterwards: a file a day for a month, never a tag, a name or an address with either in it.</summary>
internal static class Logs
{
    private const int DaysKept = 31;
    private const long LargestFile = 50L * 1024 * 1024;

    public static void Configure(IConfiguration configuration, LoggerConfiguration log)
    {
        log.ReadFrom.Configuration(configuration);
        if (configuration["Logs:Folder"] is not { } folder)
        {
            log.WriteTo.Console(formatProvider: CultureInfo.InvariantCulture);
            return;
        }
        log.WriteTo.File(
            Path.Combine(folder, "server-.log"),
            formatProvider: CultureInfo.InvariantCulture,
            rollingInterval: RollingInterval.Day,
            retainedFileCountLimit: DaysKept,
            fileSizeLimitBytes: LargestFile,
            rollOnFileSizeLimit: true,
            shared: true
        );
        // Whoever started it in a terminal sees what needs them.
        log.WriteTo.Console(restrictedToMinimumLevel: LogEventLevel.Warning, formatProvider: CultureInfo.InvariantCulture);
    }

    public static void Requests(RequestLoggingOptions log)
    {
        log.MessageTemplate = "{RequestMethod} {Route} answered {StatusCode} in {Elapsed:0} ms to {Actor}";
        log.EnrichDiagnosticContext = (context, http) =>
        {
            // Route patterns, not paths, and a person's number, not their name.
            var endpoint = http.GetEndpoint() ?? http.Features.Get<IExceptionHandlerFeature>()?.Endpoint;
            context.Set("Route", (endpoint as RouteEndpoint)?.RoutePattern.RawText ?? "(static)");
            context.Set("Actor", http.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? "nobody");
        };
    }
}
