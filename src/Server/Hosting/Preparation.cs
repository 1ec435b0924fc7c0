using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Osierwand.Store;

namespace Osierwand.Server.Hosting;

/// <summary>Demo mode: invented people and data, offered on the sign-in page.</summary>
public sealed class DemoOptions
{
    public bool Enabled { get; set; }
}

/// <summary>The invented world of the demo; src/Demo brings it, and the server alone has none.</summary>
public interface IDemoWorld
{
    /// <summary>Loads it into a database that holds no client yet.</summary>
    Task LoadAsync(IServiceProvider services);
}

/// <summary>The build runs the program once to describe its interface; then there is no database to prepare.</summary>
internal static class BuildTime
{
    public static bool IsDescribing => Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
}

/// <summary>Before the first request: is the database as this version wants it; and the demo world, where it was asked for.</summary>
internal static class Preparation
{
    public const string Verb = "prepare";

    /// <summary>"prepare": makes roles, database, tables and rights, with the means of the cluster's superuser.</summary>
    public static async Task PrepareAsync(IConfiguration configuration) =>
        await DatabaseSetup.PrepareAsync(
            configuration.GetConnectionString("Admin") ?? throw new InvalidOperationException("ConnectionStrings__Admin is missing."),
            configuration.GetConnectionString("Osierwand")
                ?? throw new InvalidOperationException("ConnectionStrings__Osierwand is missing."),
            CancellationToken.None
        );

    public static async Task RunAsync(WebApplication app)
    {
        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<OsierwandDb>();
        db.Sight.VisibleTo(house: true, []);
        // The server's own role cannot change tables: whoever starts it prepares them first, as their owner.
        var waiting = (await db.Database.GetPendingMigrationsAsync()).ToArray();
        if (waiting.Length > 0)
            throw new InvalidOperationException(
                $"The database is not prepared for this version ({waiting.Length} steps are missing). Run the server with “prepare” first."
            );
        if (scope.ServiceProvider.GetRequiredService<IOptions<DemoOptions>>().Value.Enabled)
            await scope.ServiceProvider.GetRequiredService<IDemoWorld>().LoadAsync(scope.ServiceProvider);
    }
}
