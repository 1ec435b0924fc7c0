using System.Net;
using System.Net.Sockets;
using System.Text;
using CsCheck;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Line;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>The line protocol against the simulator, and against everything that goes wrong on a line.</summary>
public class LineTests
{
    private static readonly TimeSpan Patience = TimeSpan.FromMilliseconds(400);
    private static readonly MeasurementRequest Earth = Workshop.Asking(new Conditions.EarthContinuity(), 0.3);
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_item_is_measured_from_plugging_in_to_the_reading()
    {
        await using var shop = await Workshop.OpenAsync(pace: 1);
        var identity = await shop.Instrument.IdentifyAsync(Cancel);
        identity.Functions.ShouldContain("earthContinuity");
        identity.Ranges.ShouldBe(Ranges.Of(InstrumentRole.Safety));
        (await shop.Instrument.SelfTestAsync(Cancel)).ShouldBeNull();
        (await shop.Instrument.NullAsync(Cancel)).Value.ShouldBeInRange(0.03, 0.05);
        (await Should.ThrowAsync<InstrumentException>(() => shop.Measure(Earth))).Trouble.ShouldBe(LineTrouble.Refused);

        await shop.Place(Things.Kettle, Fault.OpenEarth);
        var reports = await shop.Reports(Earth);
        reports.Count.ShouldBeGreaterThan(1);
        reports[^1].Reading!.Value!.Value.ToString().ShouldBe(">24 Ω");
        (await shop.Hands.OrderAsync(new("look"), Cancel)).LiveVolts.ShouldBe(0);
        await shop.Order(new("instrument", Illness: "the fan stands still"));
        (await shop.Instrument.SelfTestAsync(Cancel)).ShouldBe("the fan stands still");
    }

    [Theory]
    [InlineData(LineState.Silent, LineTrouble.Silent)]
    [InlineData(LineState.Garbage, LineTrouble.Garbled)]
    [InlineData(LineState.HalfALine, LineTrouble.Lost)]
    [InlineData(LineState.Flood, LineTrouble.Garbled)]
    [InlineData(LineState.WrongTest, LineTrouble.WrongTest)]
    [InlineData(LineState.WrongUnit, LineTrouble.WrongTest)]
    [InlineData(LineState.Unplugged, LineTrouble.Lost)]
    public async Task A_line_that_goes_bad_in_mid_step_leaves_the_item_dead(LineState bad, LineTrouble trouble)
    {
        await using var shop = await Workshop.OpenAsync(pace: 1);
        await shop.Place(Things.Kettle);
        var powered = Workshop.Asking(new Conditions.Leakage(LeakageKind.ProtectiveConductor), 20);
        var wasLive = false;
        var failure = await Should.ThrowAsync<InstrumentException>(async () =>
        {
            await foreach (var report in shop.Instrument.MeasureAsync(powered, Cancel))
            {
                report.Reading.ShouldBeNull();
                wasLive |= (await shop.Hands.OrderAsync(new("look"), Cancel)).LiveVolts > 200;
                await shop.Order(new("line", Line: bad));
            }
        });
        (failure.Trouble, wasLive).ShouldBe((trouble, true));
        await shop.Instrument.DisposeAsync();
        for (var n = 0; n < 40 && shop.Benches[0].Item!.LiveVolts > 0; n++)
            await Task.Delay(50, Cancel);
        shop.Benches[0].Item!.LiveVolts.ShouldBe(0);
        // Mended, it goes on.
        await shop.Order(new("line", Line: LineState.Whole));
        await using var again = await shop.LineAsync();
        (await again.IdentifyAsync(Cancel)).Serial.ShouldBe("OW-SIM-2");
    }

    [Fact]
    public async Task Cancelled_or_left_early_it_is_off_before_the_caller_goes_on()
    {
        await using var shop = await Workshop.OpenAsync(pace: 1);
        await shop.Place(Things.Kettle);
        var powered = Workshop.Asking(new Conditions.Leakage(LeakageKind.ProtectiveConductor), 20);
        await foreach (var _ in shop.Instrument.MeasureAsync(powered, Cancel))
            break;
        shop.Benches[0].Item!.LiveVolts.ShouldBe(0);
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        await Should.ThrowAsync<OperationCanceledException>(async () =>
        {
            await foreach (var _ in shop.Instrument.MeasureAsync(powered, stop.Token))
                await stop.CancelAsync();
        });
        shop.Benches[0].Item!.LiveVolts.ShouldBe(0);
        (await shop.Measure(Earth)).Value.ShouldNotBeNull();
    }

    [Fact]
    public async Task An_earth_path_is_read_until_it_has_been_held_long_enough()
    {
        await using var shop = await Workshop.OpenAsync(pace: 4);
        await shop.Place(Things.Kettle, Fault.BrokenStrands);
        await shop.Instrument.FinishAsync(Cancel);
        InstrumentReading? held = null;
        await foreach (var report in shop.Instrument.MeasureAsync(Workshop.Asking(new Conditions.EarthContinuity(), 120), Cancel))
        {
            held = report.Reading ?? held;
            if (report.Elapsed > 4)
                await shop.Instrument.FinishAsync(Cancel);
        }
        held.ShouldNotBeNull().Most!.Value.Number.ShouldBeGreaterThan(0.3);
        (await shop.Measure(Earth)).Value.ShouldNotBeNull();
    }

    [Fact]
    public async Task Two_benches_on_one_instrument_do_not_read_each_others_item()
    {
        await using var shop = await Workshop.OpenAsync(pace: 1, benches: 2);
        await shop.Place(Things.Kettle, tag: "here");
        await shop.Place(Things.Drill, tag: "there", bench: 2);
        var powered = Workshop.Asking(new Conditions.Leakage(LeakageKind.ProtectiveConductor), 20);
        await using var second = await shop.LineAsync();
        await foreach (var _ in shop.Instrument.MeasureAsync(powered, Cancel))
        {
            // The other conversation may ask who it is, and no more.
            (await second.IdentifyAsync(Cancel)).Serial.ShouldBe("OW-SIM-2");
            (await Should.ThrowAsync<InstrumentException>(() => Measure(second, Earth))).Trouble.ShouldBe(LineTrouble.Busy);
            break;
        }
        (await Measure(second, Earth)).Count.ShouldBeGreaterThan(0);
        await using var elsewhere = await shop.LineAsync(bench: 2);
        (await elsewhere.IdentifyAsync(Cancel)).Serial.ShouldBe("OW-SIM-3");
        (await Measure(elsewhere, Earth))[^1].Reading!.Value!.Value.IsBound.ShouldBeTrue("a drill has no earth");
    }

    [Theory]
    [InlineData("1 READING test=insulation value=5 unit=Mohm\n", LineTrouble.WrongTest)]
    [InlineData("1 READING test=earthContinuity value=0.0", LineTrouble.Lost)] // half a line, then the line drops
    [InlineData("1 READING test=earthContinuity\n", LineTrouble.Garbled)]
    [InlineData("1 READING test=earthContinuity value=5 unit=furlong\n", LineTrouble.Garbled)]
    [InlineData("1 READING test=earthContinuity value=5 unit=uA\n", LineTrouble.WrongTest)]
    [InlineData("1 READING test=earthContinuity value=NaN unit=ohm\n", LineTrouble.Garbled)]
    [InlineData("1 READING test=earthContinuity value=0.05 unit=ohm qualifier=?\n", LineTrouble.Garbled)]
    [InlineData("1 READING test=earthContinuity value=0.05 value=9 unit=ohm\n", LineTrouble.Garbled)]
    [InlineData("1 READING test=earthContinuity value=0.05 unit=ohm1 READING test=earthContinuity value=9 unit=ohm\n", LineTrouble.Garbled)]
    [InlineData("\u0001\u0002\u0003 %%%\n", LineTrouble.Garbled)]
    [InlineData("1 FAULT code=lead text=\"the lead is open\"\n", LineTrouble.Refused)]
    [InlineData("7 READING test=earthContinuity value=5 unit=ohm\n", LineTrouble.Garbled)] // an answer from the future
    [InlineData("", LineTrouble.Lost)]
    public async Task Trouble_on_the_line_never_becomes_a_reading(string said, LineTrouble trouble)
    {
        // What is whole has a right check: the trouble is in what it says.
        var sent = said.EndsWith('\n') ? Message.Checked(said.TrimEnd('\n')) + "\n" : said;
        await using var line = await Fake(async stream => await stream.WriteAsync(Encoding.UTF8.GetBytes(sent), Cancel), hangUp: true);
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

    /// <summary>Whatever a line says, a reading comes out of it only where a whole reading of this test went in.</summary>
    [Fact]
    public async Task Ten_thousand_random_exchanges_crash_nothing_hang_nothing_and_invent_no_reading()
    {
        var dice = new Random(20261126);
        var readings = 0;
        for (var n = 0; n < 10_000; n++)
        {
            var said = RandomLines(dice);
            await using var line = new LineInstrument(new Spoken(said), Patience);
            try
            {
                await foreach (var report in line.MeasureAsync(Earth, Cancel))
                {
                    if (report.Reading is null)
                        continue;
                    readings++;
                    // To the letter one of the two that are whole: no digit was changed on the way.
                    WholeReadings.ShouldContain(report.Reading.Value.ToString(), string.Join(" | ", said));
                }
            }
            catch (InstrumentException) { }
        }
        // The check could fail: among the noise some were good.
        readings.ShouldBeGreaterThan(500);
    }

    private static readonly string[] WholeReadings = ["0.09 Ω", ">24 Ω"];

    private static string[] RandomLines(Random dice)
    {
        string[] whole =
        [
            "1 PROGRESS test=earthContinuity value=0.08 unit=ohm settled=no elapsed=0.1",
            "1 READING test=earthContinuity value=0.09 unit=ohm least=0.08 most=0.11 elapsed=3",
            "1 READING test=insulation value=120 unit=Mohm",
            "1 READING test=earthContinuity value=24 unit=ohm qualifier=>",
            "1 FAULT code=lead text=\"the lead is open\"",
            "2 ABORTED",
            "0 READING test=earthContinuity value=0.01 unit=ohm",
            "1 PROGRESS test=earthContinuity",
        ];
        return
        [
            .. Enumerable
                .Range(0, dice.Next(1, 6))
                .Select(_ =>
                {
                    var line = Message.Checked(whole[dice.Next(whole.Length)]).ToCharArray().ToList();
                    for (var edits = dice.Next(0, 4); edits > 0 && line.Count > 0; edits--)
                    {
                        var at = dice.Next(line.Count);
                        switch (dice.Next(4))
                        {
                            case 0:
                                line.RemoveAt(at);
                                break;
                            case 1:
                                line.Insert(at, (char)dice.Next(1, 300));
                                break;
                            case 2:
                                line[at] = "0123456789 =.\"->"[dice.Next(16)];
                                break;
                            default:
                                line.RemoveRange(at, line.Count - at);
                                break;
                        }
                    }
                    return new string([.. line]);
                }),
        ];
    }

    /// <summary>Says what it is told to and hangs up.</summary>
    private sealed class Spoken(IEnumerable<string> lines) : ILineTransport
    {
        private readonly Queue<string> left = new(lines);

        public Task SendAsync(string line, CancellationToken cancel) => Task.CompletedTask;

        public Task<string?> ReceiveAsync(CancellationToken cancel) => Task.FromResult(left.TryDequeue(out var line) ? line : null);

        public ValueTask DisposeAsync() => ValueTask.CompletedTask;
    }

    /// <summary>The other side as well: whatever is sent to it, the simulator answers or passes over, and goes on.</summary>
    [Fact]
    public async Task No_line_stops_the_simulator()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.Kettle);
        var dice = new Random(7);
        using var client = new TcpClient();
        await client.ConnectAsync(IPAddress.Loopback, shop.PortOfBench(), Cancel);
        var stream = client.GetStream();
        var answers = Task.Run(() => stream.CopyToAsync(Stream.Null, Cancel), Cancel);
        string[] words =
        [
            "START test=leakage kind=touch seconds=1e9",
            "START test=rcdTrip multiple=-1",
            "ABORT",
            "NULL x",
            "START",
            "PLACE",
        ];
        for (var n = 0; n < 2_000; n++)
        {
            var line = Encoding.UTF8.GetBytes(Message.Checked($"{dice.Next(-2, 9)} {words[dice.Next(words.Length)]}"));
            if (dice.Next(2) == 0)
                line[dice.Next(line.Length)] = (byte)dice.Next(256);
            await stream.WriteAsync((byte[])[.. line, (byte)'\n'], Cancel);
        }
        // It hangs up only after the last line was answered: until then the bench is this one's, and another is told so.
        client.Client.Shutdown(SocketShutdown.Send);
        await answers;
        shop.Benches[0].Item!.LiveVolts.ShouldBe(0);
        (await shop.Measure(Earth)).Value.ShouldNotBeNull();
        foreach (
            var order in (string[])
                ["", "{", "null", "[]", "{\"do\":\"place\"}", "{\"do\":\"line\",\"bench\":9}", "{\"do\":\"fly\"}", "{\"do\":3}"]
        )
            new ControlChannel(shop.Benches).Answer(order).Ok.ShouldBeFalse(order);
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
    public void No_line_makes_the_parser_throw() =>
        Gen.String.Sample(line => Message.Parse(line) is null && Message.Parse(Message.Checked(line)) is null or { Number: >= 0 });

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
