using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using Microsoft.Extensions.Options;
using Npgsql;
using Osierwand.Server.Kit;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Which instruments answer, and what one that hangs costs everybody else.</summary>
[Collection(InstrumentHouse.Name)]
public class InstrumentLinesTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task One_that_takes_the_call_and_says_nothing_holds_nobody_up_twice()
    {
        using var hangs = new TcpListener(IPAddress.Loopback, 0);
        hangs.Start();
        await using var database = NpgsqlDataSource.Create(World.Server);
        var options = new InstrumentOptions { Lines = { new() { Port = ((IPEndPoint)hangs.LocalEndpoint).Port } } };
        var clock = new Later();
        var lines = new InstrumentLines(new Fixed(options), database, clock);
        var first = Stopwatch.StartNew();
        (await lines.ConnectedAsync(Cancel)).ShouldBeEmpty();
        var patience = first.Elapsed;
        clock.By(TimeSpan.FromMinutes(1));
        var again = Stopwatch.StartNew();
        (await lines.ConnectedAsync(Cancel)).ShouldBeEmpty();
        again.Elapsed.ShouldBeLessThan(patience / 2);
        // Two who ask at once ask once.
        (await Task.WhenAll(lines.ConnectedAsync(Cancel), lines.ConnectedAsync(Cancel))).ShouldAllBe(it => it.IsEmpty);
        var calls = 0;
        while (hangs.Pending())
        {
            using var call = await hangs.AcceptTcpClientAsync(Cancel);
            calls++;
        }
        calls.ShouldBe(2);
    }

    /// <summary>A clock that is set forward; its timers run as ever.</summary>
    private sealed class Later : TimeProvider
    {
        private long ahead;

        public void By(TimeSpan time) => ahead += (long)(time.TotalSeconds * TimestampFrequency);

        public override long GetTimestamp() => base.GetTimestamp() + ahead;
    }

    private sealed class Fixed(InstrumentOptions options) : IOptionsMonitor<InstrumentOptions>
    {
        public InstrumentOptions CurrentValue => options;

        public InstrumentOptions Get(string? name) => options;

        public IDisposable? OnChange(Action<InstrumentOptions, string?> listener) => null;
    }
}
