using System.Diagnostics.Metrics;
using Npgsql;
using OpenTelemetry.Metrics;
using OpenTelemetry.Resources;
using OpenTelemetry.Trace;

namespace Osierwand.Server.Hosting;

/// <summary>
/// What the operator's instruments read: a page of figures for Prometheus on a port of its own, which only the machine itself reaches, and
/// traces to wherever OTEL_EXPORTER_OTLP_ENDPOINT says. Without the settings there is neither.
/// </summary>
internal static class Telemetry
{
    private const string Page = "/metrics";
    private static readonly Meter Own = new("Osierwand");

    public static readonly Counter<long> Saved = Own.CreateCounter<long>(
        "osierwand.inspections.saved",
        description: "Records stored, by outcome"
    );
    public static readonly Counter<long> RefusedSignIns = Own.CreateCounter<long>("osierwand.sign_ins.refused");
    public static readonly Gauge<long> Breaks = Own.CreateGauge<long>(
        "osierwand.books.breaks",
        description: "Found by the last verification; anything above 0 wants a lead at once"
    );

    private static int PortOf(IConfiguration configuration) => configuration.GetValue("Metrics:Port", 0);

    public static void AddTelemetry(this WebApplicationBuilder builder)
    {
        var telemetry = builder.Services.AddOpenTelemetry().ConfigureResource(it => it.AddService("osierwand"));
        if (PortOf(builder.Configuration) > 0)
            telemetry.WithMetrics(it =>
                it.AddMeter("Osierwand", "Microsoft.AspNetCore.Hosting", "Microsoft.AspNetCore.Server.Kestrel", "System.Runtime", "Npgsql")
                    .AddPrometheusExporter()
            );
        if (builder.Configuration["OTEL_EXPORTER_OTLP_ENDPOINT"] is not null)
            telemetry.WithTracing(it => it.AddSource("Microsoft.AspNetCore").AddNpgsql().AddOtlpExporter());
    }

    /// <summary>The port of the figures is a door to nothing else, and the figures stand behind no other door.</summary>
    public static void UseTelemetry(this WebApplication app)
    {
        if (PortOf(app.Configuration) is not (> 0 and var port))
            return;
        foreach (var url in (app.Configuration["urls"] ?? "http://127.0.0.1:5180").Split(';'))
            app.Urls.Add(url);
        app.Urls.Add($"http://127.0.0.1:{port}");
        app.UseOpenTelemetryPrometheusScrapingEndpoint(http => http.Connection.LocalPort == port && http.Request.Path == Page);
        app.Use(
            (http, next) =>
            {
                if (http.Connection.LocalPort != port)
                    return next(http);
                http.Response.StatusCode = StatusCodes.Status404NotFound;
                return Task.CompletedTask;
            }
        );
    }
}
