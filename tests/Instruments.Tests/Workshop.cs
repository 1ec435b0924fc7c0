using System.Net;
using System.Net.Sockets;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Outlets;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Osierwand.Instruments.Line;
using Osierwand.Simulator;

namespace Osierwand.Instruments.Tests;

/// <summary>A simulator of its own with as many benches as a test wants: a line to the first, and hands.</summary>
internal sealed class Workshop : IAsyncDisposable
{
    public static readonly DateOnly Today = new(2026, 11, 26);
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);
    private readonly CancellationTokenSource stop = new();
    private readonly TcpListener[] lines;
    private readonly TcpListener control = Listening();
    private readonly Task serving;

    private Workshop(double pace, int benches, InstrumentRole role)
    {
        lines = [.. Enumerable.Range(0, benches).Select(_ => Listening())];
        Benches = [.. Enumerable.Range(1, benches).Select(n => new SimulatedBench(n, 1000 + n, role))];
        serving = SimulatorServer.RunAsync([.. Benches.Zip(lines)], control, pace, stop.Token);
    }

    public SimulatedBench[] Benches { get; }
    public LineInstrument Instrument { get; private set; } = null!;
    public SimulatedHands Hands { get; private set; } = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <param name="pace">0 answers at once.</param>
    public static async Task<Workshop> OpenAsync(double pace = 0, int benches = 1, InstrumentRole role = InstrumentRole.Safety)
    {
        var it = new Workshop(pace, benches, role);
        it.Instrument = await it.LineAsync();
        it.Hands = await SimulatedHands.ConnectAsync("127.0.0.1", PortOf(it.control), Cancel);
        return it;
    }

    public Task<LineInstrument> LineAsync(int bench = 1) =>
        LineInstrument.ConnectAsync("127.0.0.1", PortOf(lines[bench - 1]), Cancel, Patience);

    public int PortOfBench(int bench = 1) => PortOf(lines[bench - 1]);

    /// <summary>A new item, or one with something wrong, plugged in.</summary>
    public Task Place(Item item, Fault fault = Fault.None, string tag = "T-1", int bench = 1) =>
        Hands.PlaceAsync(tag, item, Today, Today, fault, Cancel, bench);

    public Task Order(ControlOrder order) => Hands.OrderAsync(order, Cancel);

    public static MeasurementRequest Asking(Conditions under, double seconds = 3, double volts = 230) =>
        new(under, new OutletSupply(volts), TestVolts: (under as Conditions.Insulation)?.TestVoltage?.Value ?? 500, Seconds: seconds);

    public async Task<InstrumentReading> Measure(MeasurementRequest request) => (await Reports(request))[^1].Reading!;

    public Task<InstrumentReading> Measure(Conditions under, double seconds = 3) => Measure(Asking(under, seconds));

    public async Task<List<InstrumentReport>> Reports(MeasurementRequest request)
    {
        var reports = new List<InstrumentReport>();
        await foreach (var report in Instrument.MeasureAsync(request, Cancel))
            reports.Add(report);
        return reports;
    }

    /// <summary>Measures one step of a sheet and puts the reading on it, as the hub would.</summary>
    public async Task<InstrumentReading> Measure(OnTheBench sheet, string step, double? nullOhm = 0.04)
    {
        var measure = (SheetStep.Measure)sheet.State.Sheet.Find(step)!;
        var point = sheet.Step(step).Left.FirstOrDefault();
        var shown = await Measure(sheet.State.Ruling.RequestFor(measure.Plan, point));
        sheet.Happens(next => shown.AsTaken(measure.Plan, next.Id, next.At, nullOhm, point) with { Seal = "measured" });
        return shown;
    }

    public async ValueTask DisposeAsync()
    {
        await Instrument.DisposeAsync();
        Hands.Dispose();
        await stop.CancelAsync();
        await serving;
        foreach (var listener in lines.Append(control))
            listener.Dispose();
        stop.Dispose();
    }

    private static TcpListener Listening()
    {
        var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return listener;
    }

    private static int PortOf(TcpListener listener) => ((IPEndPoint)listener.LocalEndpoint).Port;
}
