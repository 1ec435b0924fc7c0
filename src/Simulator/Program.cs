using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Runtime.InteropServices;
using Osierwand.Simulator;

// Simulated analysers as a process of their own: --port N [--benches N] [--performance N] [--control N] [--pace X] [--seed N].
// Bench n listens on port + n - 1, or on a free one each where the port is 0. It stops with the signal that ends it.
var options = args.Chunk(2).Where(pair => pair.Length == 2).ToDictionary(pair => pair[0], pair => pair[1]);
int Whole(string name, int usual) => options.TryGetValue(name, out var text) ? int.Parse(text, CultureInfo.InvariantCulture) : usual;
var port = Whole("--port", 0);
var pace = double.Parse(options.GetValueOrDefault("--pace", "1"), CultureInfo.InvariantCulture);
int? seed = options.ContainsKey("--seed") ? Whole("--seed", 0) : null;

TcpListener Listen(int at)
{
    var listener = new TcpListener(IPAddress.Loopback, at);
    listener.Start();
    return listener;
}

static int PortOf(TcpListener listener) => ((IPEndPoint)listener.LocalEndpoint).Port;

var benches = Enumerable
    .Range(1, Whole("--benches", 1))
    .Select(n => (Bench: new SimulatedBench(n, seed + n), Line: Listen(port == 0 ? 0 : port + n - 1)))
    .ToList();

// A performance analyser is the last bench, on a port of its own.
if (options.ContainsKey("--performance"))
    benches.Add(
        (new SimulatedBench(benches.Count + 1, seed + benches.Count + 1, InstrumentRole.Performance), Listen(Whole("--performance", 0)))
    );
var control = Listen(Whole("--control", 0));
foreach (var (bench, line) in benches)
    Console.WriteLine($"{bench.Name} on port {PortOf(line)}");
Console.WriteLine($"Control channel, which no real tester has: {PortOf(control)}");

using var stop = new CancellationTokenSource();
Console.CancelKeyPress += (_, pressed) =>
{
    pressed.Cancel = true;
    stop.Cancel();
};
using var terminated = PosixSignalRegistration.Create(
    PosixSignal.SIGTERM,
    context =>
    {
        context.Cancel = true;
        stop.Cancel();
    }
);
await SimulatorServer.RunAsync(benches, control, pace, stop.Token);
