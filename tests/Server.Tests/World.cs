using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Osierwand.Store;
using Shouldly;
using Xunit.Sdk;
using Xunit.v3;

// Each collection has a house of its own, so that collections run beside one another: a test that sets a house limit changes the ruling of
// every sheet in its house, and of no other's. One more than there are cores, as a test waits for the database half of its time.
[assembly: Parallelization(Mode = ParallelMode.Collections, MaxThreads = 3)]

namespace Osierwand.Server.Tests;

/// <summary>One house with the demo's data, in a database of its own on the PostgreSQL that ./test starts. The tests of a collection share
/// it and keep to items of their own.</summary>
public sealed class World : IAsyncLifetime
{
    public static string Server { get; } =
        Environment.GetEnvironmentVariable("OSIERWAND_TEST_PG")
        ?? throw new InvalidOperationException(
            "These tests need a PostgreSQL: run ./test, or set OSIERWAND_TEST_PG to a connection string without a database."
        );

    private OwnDatabase database = null!;

    /// <summary>The server's own role: it owns nothing.</summary>
    public string Connection => database.Connection;
    internal Host App { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        database = await OwnDatabase.WithDemoAsync();
        App = new Host(Connection);
        await App.ReadyAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await App.DisposeAsync();
        await database.DisposeAsync();
    }

    /// <summary>What somebody with the cluster's own password could try.</summary>
    public Task AsAdmin(string sql) => database.AsAdmin(sql);

    public async Task<T> InDatabase<T>(Func<OsierwandDb, Task<T>> ask)
    {
        await using var scope = App.Services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<Sight>().VisibleTo(house: true, []);
        return await ask(scope.ServiceProvider.GetRequiredService<OsierwandDb>());
    }
}

/// <summary>A database of its own, gone afterwards.</summary>
internal sealed class OwnDatabase : IAsyncDisposable
{
    /// <summary>Roles belong to the whole cluster: one at a time makes them.</summary>
    private static readonly SemaphoreSlim Cluster = new(1);

    /// <summary>A database with the demo's data that is copied and never opened: ./test names the one it made, else it is made here
    /// once.</summary>
    private static readonly Lazy<Task<string>> Template = new(MakeTemplateAsync);

    private OwnDatabase(string name) => Connection = Of(name);

    private static string Of(string database) =>
        new NpgsqlConnectionStringBuilder(World.Server)
        {
            Username = "osierwand_server",
            Password = "of-the-tests",
            Database = database,
        }.ConnectionString;

    private static string NewName() => $"osierwand_{Guid.NewGuid():N}";

    public string Connection { get; }

    public string Admin => new NpgsqlConnectionStringBuilder(World.Server) { Database = Name, Pooling = false }.ConnectionString;

    private string Name => new NpgsqlConnectionStringBuilder(Connection).Database!;

    /// <summary>Prepared, and nothing in it.</summary>
    public static async Task<OwnDatabase> EmptyAsync()
    {
        var made = new OwnDatabase(NewName());
        await PrepareAsync(made.Connection);
        return made;
    }

    /// <summary>With the demo's data, in a fraction of the time that loading it takes.</summary>
    public static async Task<OwnDatabase> WithDemoAsync()
    {
        var template = await Template.Value;
        var made = new OwnDatabase(NewName());
        await InClusterAsync(
            $"CREATE DATABASE {made.Name} TEMPLATE {template} OWNER {DatabaseSetup.Owner}",
            // What a database allows is not copied with it.
            $"REVOKE ALL ON DATABASE {made.Name} FROM PUBLIC",
            $"GRANT CONNECT ON DATABASE {made.Name} TO osierwand_server"
        );
        return made;
    }

    private static async Task<string> MakeTemplateAsync()
    {
        if (Environment.GetEnvironmentVariable("OSIERWAND_TEST_TEMPLATE") is { Length: > 0 } made)
            return made;
        var name = NewName();
        await PrepareAsync(Of(name));
        await using (var loading = new Host(Of(name)))
            await loading.ReadyAsync();
        NpgsqlConnection.ClearAllPools();
        return name;
    }

    /// <summary>As at each start of a house.</summary>
    public Task PrepareAgainAsync() => PrepareAsync(Connection);

    private static async Task PrepareAsync(string connection)
    {
        await Cluster.WaitAsync();
        try
        {
            await DatabaseSetup.PrepareAsync(World.Server, connection, CancellationToken.None);
        }
        finally
        {
            Cluster.Release();
        }
    }

    private static async Task InClusterAsync(params string[] orders)
    {
        await using var cluster = new NpgsqlConnection($"{World.Server};Database=postgres;Pooling=false");
        await cluster.OpenAsync();
        foreach (var order in orders)
        {
            await using var command = new NpgsqlCommand(order, cluster);
            await command.ExecuteNonQueryAsync();
        }
    }

    public async Task AsAdmin(string sql)
    {
        await using var connection = new NpgsqlConnection(Admin);
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync();
    }

    public async ValueTask DisposeAsync() => await InClusterAsync($"DROP DATABASE {Name} WITH (FORCE)");
}

[CollectionDefinition(BenchHouse.Name)]
public sealed class BenchHouse : ICollectionFixture<World>
{
    public const string Name = "Bench";
}

[CollectionDefinition(InstrumentHouse.Name)]
public sealed class InstrumentHouse : ICollectionFixture<World>
{
    public const string Name = "Instrument";
}

[CollectionDefinition(KitHouse.Name)]
public sealed class KitHouse : ICollectionFixture<World>
{
    public const string Name = "Kit";
}

[CollectionDefinition(PeopleHouse.Name)]
public sealed class PeopleHouse : ICollectionFixture<World>
{
    public const string Name = "People";
}

[CollectionDefinition(TrustHouse.Name)]
public sealed class TrustHouse : ICollectionFixture<World>
{
    public const string Name = "Trust";
}

[CollectionDefinition(RegisterHouse.Name)]
public sealed class RegisterHouse : ICollectionFixture<World>
{
    public const string Name = "Register";
}

[CollectionDefinition(RoundHouse.Name)]
public sealed class RoundHouse : ICollectionFixture<World>
{
    public const string Name = "Round";
}

[CollectionDefinition(ScheduleHouse.Name)]
public sealed class ScheduleHouse : ICollectionFixture<World>
{
    public const string Name = "Schedule";
}
