using System.Net;
using System.Net.Sockets;
using Microsoft.Extensions.DependencyInjection;
using Osierwand.Server.Kit;
using Osierwand.Simulator;

namespace Osierwand.Server.Tests;

/// <summary>One simulated instrument and the server that speaks to it, for all tests of a class: each finds the bench at rest.</summary>
public sealed class HubBench(World world) : IAsyncLifetime
{
    /// <summary>Fast enough for a test, slow enough that something can happen while it runs.</summary>
    private const double Pace = 10;

    private readonly TcpListener instrument = new(IPAddress.Loopback, 0);
    private readonly TcpListener control = new(IPAddress.Loopback, 0);
    private readonly CancellationTokenSource stop = new();
    private readonly SimulatedBench bench = new(1);

    internal Host App { get; private set; } = null!;
    internal int ControlPort => ((IPEndPoint)control.LocalEndpoint).Port;

    public ValueTask InitializeAsync()
    {
        instrument.Start();
        control.Start();
        _ = SimulatorServer.RunAsync([(bench, instrument)], control, Pace, stop.Token);
        StartServer();
        return ValueTask.CompletedTask;
    }

    /// <summary>A server on the house's database; what ran before has to be gone.</summary>
    internal void StartServer() => App = new Host(world.Connection, ((IPEndPoint)instrument.LocalEndpoint).Port, ControlPort);

    /// <summary>Nothing plugged in, nothing wrong with instrument, mains or line; and the server knows of the line, whatever was wrong
    /// with it a moment ago.</summary>
    public async Task ComeToRest()
    {
        bench.Item = null;
        (bench.Hands, bench.Mains, bench.Truth, bench.Pace, bench.Line) = (new(), new(), new(), null, LineState.Whole);
        var lines = App.Services.GetRequiredService<InstrumentLines>();
        while ((await lines.ConnectedAsync(TestContext.Current.CancellationToken)).IsEmpty)
            await Task.Delay(100, TestContext.Current.CancellationToken);
    }

    public async ValueTask DisposeAsync()
    {
        await stop.CancelAsync();
        await App.DisposeAsync();
        instrument.Dispose();
        control.Dispose();
        stop.Dispose();
    }
}
