using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Osierwand.Server.Demo;
using Osierwand.Store;

namespace Osierwand.Server.Hosting;

/// <summary>Demo mode: invented people and data, offered on the sign-in page.</summary>
public sealed class DemoOptions
{
    public bool Enabled { get; set; }
}

/// <summary>The build runs the program once to describe its interface; then there is no database to prepare.</summary>
internal static class BuildTime
{
    public static bool IsDescribing => Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
}

/// <summary>Before the first request: migrations, and the demo world where it was asked for and is not there yet.</summary>
internal static class Preparation
{
    public static async Task RunAsync(WebApplication app)
    {
        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<OsierwandDb>();
        await db.Database.MigrateAsync();
        if (scope.ServiceProvider.GetRequiredService<IOptions<DemoOptions>>().Value.Enabled)
            await DemoWorld.LoadAsync(scope.ServiceProvider);
    }
}
