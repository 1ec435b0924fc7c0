using System.Diagnostics;
using System.Net.Sockets;
using System.Text;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Instruments.Line;

namespace Osierwand.Simulator;

/// <summary>One conversation over the line protocol with a simulated instrument.</summary>
/// <param name="pace">How much faster than life: 1 holds a reading for as many seconds as the plan says, 0 answers at once.</param>
internal sealed class LineSession(SimulatedBench bench, TcpClient client, double pace) : IDisposable
{
    private static readonly TimeSpan Frame = TimeSpan.FromMilliseconds(80);
    private readonly SemaphoreSlim writing = new(1);
    private readonly StreamWriter writer = new(client.GetStream(), new UTF8Encoding(false)) { AutoFlush = true, NewLine = "\n" };
    private CancellationTokenSource? running;

    private double Pace => bench.Pace ?? pace;
    private Task measuring = Task.CompletedTask;
    private int current;
    private volatile bool isHeldEnough;

    public async Task RunAsync(CancellationToken stop)
    {
        void Break() => client.Close();
        bench.Unplugged += Break;
        using var reader = new StreamReader(client.GetStream(), new UTF8Encoding(false), false, 1024, leaveOpen: true);
        try
        {
            while (bench.Line != LineState.Unplugged && await LineText.NextAsync(reader, stop) is { } line)
                await Handle(line, stop);
        }
        catch (Exception ended) when (ended is IOException or OperationCanceledException or ObjectDisposedException or InvalidDataException)
        { }
        finally
        {
            bench.Unplugged -= Break;
            // A lost line switches the item off.
            await StopMeasuring();
        }
    }

    public void Dispose()
    {
        running?.Dispose();
        writing.Dispose();
        client.Dispose();
    }

    private async Task Handle(string line, CancellationToken stop)
    {
        if (Message.Parse(line) is not { } message)
        {
            await Say(Message.Of(0, "FAULT", ("code", "garbled"), ("text", "not a message of this protocol")));
            return;
        }
        switch (message.Word)
        {
            case "IDENTIFY":
                foreach (var part in bench.Identity(message.Number))
                    await Say(part);
                break;
            case "SELFTEST":
                await Say(bench.Truth.Illness is { } illness ? Fault(message, "unwell", illness) : Message.Of(message.Number, "OK"));
                break;
            case "NULL":
                await Say(Message.Of(message.Number, "OK", ("ohm", bench.NullOhms())));
                break;
            case "START":
                await Start(message, stop);
                break;
            case "FINISH":
                isHeldEnough |= message.Number == current;
                break;
            case "ABORT":
                await StopMeasuring();
                await Say(Message.Of(message.Number, "ABORTED"));
                break;
            default:
                await Say(Fault(message, "unknown", $"no such command: {message.Word}"));
                break;
        }
    }

    private async Task StopMeasuring()
    {
        if (running is { } it)
            await it.CancelAsync();
        await measuring;
        bench.GiveBack(this);
    }

    private async Task Start(Message message, CancellationToken stop)
    {
        await StopMeasuring();
        if (Wire.Request(message) is not { } request || !bench.Can(request.Under))
            await Say(Fault(message, "function", "this instrument does not have that function"));
        else if (bench.Item is not { } item)
            await Say(Fault(message, "empty", "nothing is plugged in"));
        else if (!bench.Take(this))
            await Say(Fault(message, "busy", "another bench measures with this instrument"));
        else
        {
            (current, isHeldEnough) = (message.Number, false);
            running = CancellationTokenSource.CreateLinkedTokenSource(stop);
            measuring = Measure(message.Number, item, request, running.Token);
        }
    }

    private async Task Measure(int number, PluggedIn item, MeasurementRequest request, CancellationToken cancel)
    {
        try
        {
            var run = bench.Begin(request);
            if (run.Guard() is { } refused)
            {
                bench.GiveBack(this);
                await Say(Ended(number, refused, 0));
                return;
            }
            item.LiveVolts = run.LiveVolts;
            if (Pace <= 0)
                await SayEnd(number, AtOnce(run, request), request.Seconds);
            else
                await AsItGoes(number, run, request, cancel);
        }
        catch (Exception ended) when (ended is OperationCanceledException or IOException or ObjectDisposedException) { }
        finally
        {
            bench.GiveBack(this);
        }
    }

    private static Shown AtOnce(IMeasuring run, MeasurementRequest request)
    {
        // A measurement of ten minutes is as good in a hundred steps.
        var step = Math.Max(Frame.TotalSeconds, request.Seconds / 100);
        for (var left = request.Seconds; left > step; left -= step)
            if (run.Advance(step) is var shown && (shown.Trouble is not null || shown.IsOver))
                return shown;
        return run.Advance(step, isLast: true);
    }

    private async Task AsItGoes(int number, IMeasuring run, MeasurementRequest request, CancellationToken cancel)
    {
        var clock = Stopwatch.StartNew();
        var elapsed = 0.0;
        while (true)
        {
            await Task.Delay(Frame, cancel);
            var now = clock.Elapsed.TotalSeconds * Pace;
            var isLast = isHeldEnough || now >= request.Seconds;
            var shown = run.Advance(Math.Max(now - elapsed, 0.001), isLast);
            elapsed = now;
            if (isLast || shown.Trouble is not null || shown.IsOver)
            {
                // Off before the reading is told: whoever reads it may reach for the item.
                bench.GiveBack(this);
                await SayEnd(number, shown, elapsed);
                return;
            }
            await Say(Wire.Value(number, "PROGRESS", shown.Reading, elapsed, shown.IsSettled, DateTimeOffset.UtcNow));
        }
    }

    /// <summary>What it drew goes before the reading, in parts that fit a line.</summary>
    private async Task SayEnd(int number, Shown shown, double elapsed)
    {
        if (shown is { Trouble: null, Reading.Waveform: { } wave })
            foreach (var part in Wire.Waves(number, wave))
                await Say(part);
        await Say(Ended(number, shown, elapsed));
    }

    private static Message Ended(int number, Shown shown, double elapsed) =>
        shown.Trouble is not { } trouble
            ? Wire.Value(number, "READING", shown.Reading, elapsed, true, DateTimeOffset.UtcNow)
            : Message.Of(
                number,
                "FAULT",
                (
                    "code",
                    trouble.Trouble switch
                    {
                        LineTrouble.SupplyLost => "supply",
                        LineTrouble.NeedsReset => "reset",
                        LineTrouble.ProbeEarthed => "earthed",
                        _ => "refused",
                    }
                ),
                ("text", trouble.Text)
            );

    private static Message Fault(Message to, string code, string text) => Message.Of(to.Number, "FAULT", ("code", code), ("text", text));

    private async Task Say(Message message)
    {
        await writing.WaitAsync();
        try
        {
            switch (bench.Line)
            {
                case LineState.Silent:
                    return;
                case LineState.Unplugged:
                    client.Close();
                    return;
                case LineState.Garbage:
                    await writer.WriteLineAsync("\u0007\u0002~#(" + message.Number + "@@@");
                    return;
                case LineState.HalfALine:
                    var whole = message.ToString();
                    await writer.WriteAsync(whole.AsMemory(0, whole.Length / 2));
                    client.Close();
                    return;
                case LineState.Flood:
                    for (var n = 0; n < 2000; n++)
                        await writer.WriteLineAsync(message.ToString());
                    return;
                case LineState.WrongTest or LineState.WrongUnit when message.Word is "PROGRESS" or "READING":
                    await writer.WriteLineAsync(Wrong(message).ToString());
                    return;
                default:
                    await writer.WriteLineAsync(message.ToString());
                    return;
            }
        }
        finally
        {
            writing.Release();
        }
    }

    private Message Wrong(Message message)
    {
        var isEarth = message.Text("test") == Osierwand.Core.Words.Of(Test.EarthContinuity);
        return bench.Line == LineState.WrongUnit
            ? message with
            {
                Values = new Dictionary<string, string>(message.Values) { ["unit"] = Unit.Volt.Symbol },
            }
            : Wire.Value(
                message.Number,
                message.Word,
                isEarth ? new(Test.Insulation, new(100, Unit.Megohm)) : new(Test.EarthContinuity, new(0.05, Unit.Ohm)),
                0,
                true
            );
    }
}
