using System.Net;
using System.Net.Sockets;
using System.Text;
using CsCheck;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Protocol;
using Osierwand.Instruments.Simulation;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>The line protocol against the simulator, and against everything that goes wrong on a line.</summary>
public class LineTests
{
    private static readonly TimeSpan Patience = TimeSpan.FromMilliseconds(400);
    private static readonly MeasurementRequest Earth = new(new Conditions.EarthContinuity(), Seconds: 0.2);
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_item_is_measured_from_plugging_in_to_the_reading()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        var serving = SimulatorServer.RunAsync(listener, 1, stop.Token);
        await using var instrument = await LineInstrument.ConnectAsync("127.0.0.1", Port(listener), Cancel);
        (await instrument.IdentifyAsync(Cancel)).Functions.ShouldContain("earthContinuity");
        (await instrument.NullAsync(Cancel)).Value.ShouldBeInRange(0.03, 0.05);

        var nothing = await Should.ThrowAsync<InstrumentException>(() => Measure(instrument, Earth));
        nothing.Trouble.ShouldBe(LineTrouble.Refused);

        var kettle = new Item { Kind = ItemKind.Appliance, Cord = new(new(1.5), new(1.0)) };
        await instrument.PlaceAsync("K 1", kettle, new(2024, 1, 1), new(2026, 1, 1), Defect.OpenEarth, Cancel);
        var reports = await Measure(instrument, Earth);
        reports.Count.ShouldBeGreaterThan(1);
        reports[^1].Reading!.Value!.Value.ToString().ShouldBe(">25 Ω");
        await stop.CancelAsync();
        await serving;
    }

    [Theory]
    [InlineData("1 READING test=insulation value=5 unit=Mohm\n", LineTrouble.WrongTest)]
    [InlineData("1 READING test=earthContinuity value=0.0", LineTrouble.Lost)] // half a line, then the line drops
    [InlineData("1 READING test=earthContinuity\n", LineTrouble.Garbled)]
    [InlineData("1 READING test=earthContinuity value=5 unit=furlong\n", LineTrouble.Garbled)]
    [InlineData("\u0001\u0002\u0003 %%%\n", LineTrouble.Garbled)]
    [InlineData("1 FAULT code=lead text=\"the lead is open\"\n", LineTrouble.Refused)]
    [InlineData("7 READING test=earthContinuity value=5 unit=ohm\n", LineTrouble.Garbled)] // an answer from the future
    [InlineData("", LineTrouble.Lost)]
    public async Task Trouble_on_the_line_never_becomes_a_reading(string said, LineTrouble trouble)
    {
        await using var line = await Fake(async stream => await stream.WriteAsync(Encoding.UTF8.GetBytes(said), Cancel), hangUp: true);
        (await Should.ThrowAsync<InstrumentException>(() => Measure(line.Instrument, Earth))).Trouble.ShouldBe(trouble);
    }

    [Fact]
    public async Task Silence_and_an_endless_line_are_noticed()
    {
        await using (var silent = await Fake(_ => Task.CompletedTask, hangUp: false))
            (await Should.ThrowAsync<InstrumentException>(() => Measure(silent.Instrument, Earth))).Trouble.ShouldBe(LineTrouble.Silent);
        await using var endless = await Fake(
            async stream =>
                await stream.WriteAsync(
                    new byte[5000]
                        .Select(_ => (byte)'x')
                        .ToArray(),
                    Cancel
                ),
            hangUp: false
        );
        (await Should.ThrowAsync<InstrumentException>(() => Measure(endless.Instrument, Earth))).Trouble.ShouldBe(LineTrouble.Garbled);
    }

    [Fact]
    public async Task Nobody_there_is_told_at_once()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var port = Port(listener);
        listener.Stop();
        (await Should.ThrowAsync<InstrumentException>(() => LineInstrument.ConnectAsync("127.0.0.1", port, Cancel))).Trouble.ShouldBe(
            LineTrouble.Unreachable
        );
    }

    [Fact]
    public void Messages_read_back_as_they_were_written() =>
        Gen.Select(Gen.Int[0, 99999], Gen.String[Gen.Char[' ', '~'], 0, 20])
            .Sample(
                (number, text) =>
                {
                    var message = Message.Of(number, "OK", ("text", text.Replace('"', '\'')));
                    Message.Parse(message.ToString())!.Text("text").ShouldBe(message.Text("text"));
                }
            );

    [Fact]
    public void No_line_makes_the_parser_throw() => Gen.String.Sample(line => Message.Parse(line) is null or { Number: >= 0 });

    private static async Task<List<InstrumentReport>> Measure(LineInstrument instrument, MeasurementRequest request)
    {
        var reports = new List<InstrumentReport>();
        await foreach (var report in instrument.MeasureAsync(request, Cancel))
            reports.Add(report);
        return reports;
    }

    private static int Port(TcpListener listener) => ((IPEndPoint)listener.LocalEndpoint).Port;

    private sealed record FakeLine(LineInstrument Instrument, TcpListener Listener, TcpClient Server) : IAsyncDisposable
    {
        public async ValueTask DisposeAsync()
        {
            await Instrument.DisposeAsync();
            Server.Dispose();
            Listener.Dispose();
        }
    }

    /// <summary>An instrument that waits for one question, says what it is told to, and hangs up or not.</summary>
    private static async Task<FakeLine> Fake(Func<NetworkStream, Task> say, bool hangUp)
    {
        var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var accepting = listener.AcceptTcpClientAsync(Cancel);
        var instrument = await LineInstrument.ConnectAsync("127.0.0.1", Port(listener), Cancel, Patience);
        var server = await accepting;
        _ = Task.Run(
            async () =>
            {
                await server.GetStream().ReadAtLeastAsync(new byte[1], 1, cancellationToken: Cancel);
                await say(server.GetStream());
                if (hangUp)
                    server.Client.Shutdown(SocketShutdown.Send);
            },
            Cancel
        );
        return new(instrument, listener, server);
    }
}
