using System.Globalization;
using System.Net;
using System.Net.Sockets;
using Osierwand.Instruments;

// The simulated analyser as its own process: osierwand-simulator --port N [--pace X]. It stops with the signal that ends it.
var options = args.Chunk(2).Where(pair => pair.Length == 2).ToDictionary(pair => pair[0], pair => pair[1]);
var port = int.Parse(options.GetValueOrDefault("--port", "0"), CultureInfo.InvariantCulture);
var pace = double.Parse(options.GetValueOrDefault("--pace", "1"), CultureInfo.InvariantCulture);

using var listener = new TcpListener(IPAddress.Loopback, port);
listener.Start();
Console.WriteLine($"Simulated analyser on port {((IPEndPoint)listener.LocalEndpoint).Port}");
using var stop = new CancellationTokenSource();
Console.CancelKeyPress += (_, pressed) =>
{
    pressed.Cancel = true;
    stop.Cancel();
};
using var terminated = System.Runtime.InteropServices.PosixSignalRegistration.Create(
    System.Runtime.InteropServices.PosixSignal.SIGTERM,
    context =>
    {
        context.Cancel = true;
        stop.Cancel();
    }
);
await SimulatorServer.RunAsync(listener, pace, stop.Token);
