using System.Net.Sockets;
using System.Text;
using Osierwand.Core;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Protocol;
using Osierwand.Instruments.Simulation;

namespace Osierwand.Instruments;

/// <summary>Answers the line protocol in place of a real tester. Each connection has a bench of its own, with at most one item on
/// it.</summary>
public static class SimulatorServer
{
    private const string Functions =
        "earthContinuity,insulation,leakage/protectiveConductor,leakage/touch,leakage/equipment,leakage/earth,polarity,wiring,rcdTrip";
    private static readonly TimeSpan Tick = TimeSpan.FromMilliseconds(120);

    /// <param name="pace">How much faster than life: 1 holds a reading for as many seconds as the plan says, 0 answers at once.</param>
    public static async Task RunAsync(TcpListener listener, double pace, CancellationToken stop)
    {
        try
        {
            while (true)
            {
                var client = await listener.AcceptTcpClientAsync(stop);
                _ = ServeAsync(client, pace, stop);
            }
        }
        catch (OperationCanceledException) { }
    }

    private static async Task ServeAsync(TcpClient client, double pace, CancellationToken stop)
    {
        using var _ = client;
        client.NoDelay = true;
        using var reader = new StreamReader(client.GetStream(), new UTF8Encoding(false));
        await using var writer = new StreamWriter(client.GetStream(), new UTF8Encoding(false)) { AutoFlush = true, NewLine = "\n" };
        using var session = new Session(writer, pace);
        try
        {
            while (await reader.ReadLineAsync(stop) is { } line)
                await session.Handle(line, stop);
        }
        catch (Exception ended) when (ended is IOException or OperationCanceledException or ObjectDisposedException) { }
        finally
        {
            // A lost line switches the item off.
            await session.StopMeasuring();
        }
    }

    private sealed class Session(StreamWriter writer, double pace) : IDisposable
    {
        private readonly Analyser analyser = new(new Random());
        private readonly SemaphoreSlim writing = new(1);
        private HiddenState? onBench;
        private CancellationTokenSource? running;
        private Task measuring = Task.CompletedTask;

        public async Task Handle(string line, CancellationToken stop)
        {
            if (Message.Parse(line) is not { } message)
            {
                await Say(Message.Of(0, "FAULT", ("code", "garbled"), ("text", "not a message of this protocol")));
                return;
            }
            switch (message.Word)
            {
                case "IDENTIFY":
                    await Say(
                        Message.Of(
                            message.Number,
                            "OK",
                            ("name", "Bench analyser 2"),
                            ("serial", "OW-SIM-2"),
                            ("firmware", "1.0"),
                            ("functions", Functions)
                        )
                    );
                    break;
                case "SELFTEST":
                    await Say(Message.Of(message.Number, "OK"));
                    break;
                case "NULL":
                    await Say(Message.Of(message.Number, "OK", ("ohm", analyser.NullOhms())));
                    break;
                case "PLACE":
                    onBench = Wire.Placed(message);
                    await Say(
                        onBench is null ? Fault(message, "item", "not an item that can be simulated") : Message.Of(message.Number, "OK")
                    );
                    break;
                case "START":
                    await Start(message, stop);
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

        public void Dispose()
        {
            running?.Dispose();
            writing.Dispose();
        }

        public async Task StopMeasuring()
        {
            if (running is { } it)
                await it.CancelAsync();
            await measuring;
        }

        private static bool Has(MeasurementRequest request)
        {
            var word = Words.Of(request.Test);
            return Functions.Split(',').Contains(request.Under is Conditions.Leakage leakage ? $"{word}/{Words.Of(leakage.Kind)}" : word);
        }

        private async Task Start(Message message, CancellationToken stop)
        {
            await StopMeasuring();
            if (Wire.Request(message) is not { } request || !Has(request))
                await Say(Fault(message, "function", "this instrument does not have that function"));
            else if (onBench is null)
                await Say(Fault(message, "empty", "nothing is plugged in"));
            else
            {
                running = CancellationTokenSource.CreateLinkedTokenSource(stop);
                measuring = Measure(message.Number, onBench, request, running.Token);
            }
        }

        private async Task Measure(int number, HiddenState state, MeasurementRequest request, CancellationToken cancel)
        {
            try
            {
                var seconds = pace <= 0 ? 0 : request.Seconds / pace;
                for (var elapsed = TimeSpan.Zero; elapsed.TotalSeconds < seconds; elapsed += Tick)
                {
                    var showing = Wire.Value(number, "PROGRESS", analyser.Measure(state, request));
                    await Say(With(showing, elapsed));
                    await Task.Delay(Tick, cancel);
                }
                await Say(With(Wire.Value(number, "READING", analyser.Measure(state, request)), TimeSpan.FromSeconds(seconds)));
            }
            catch (Exception ended) when (ended is OperationCanceledException or IOException or ObjectDisposedException) { }
        }

        private static Message With(Message message, TimeSpan elapsed) =>
            message with
            {
                Values = new Dictionary<string, string>(message.Values)
                {
                    ["elapsed"] = elapsed.TotalSeconds.ToString("0.0", System.Globalization.CultureInfo.InvariantCulture),
                },
            };

        private static Message Fault(Message to, string code, string text) =>
            Message.Of(to.Number, "FAULT", ("code", code), ("text", text));

        private async Task Say(Message message)
        {
            await writing.WaitAsync();
            try
            {
                await writer.WriteLineAsync(message.ToString());
            }
            finally
            {
                writing.Release();
            }
        }
    }
}
