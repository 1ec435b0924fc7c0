using Microsoft.Extensions.Options;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Server.Bench;
using Osierwand.Server.Kit;
using Osierwand.Simulator;

namespace Osierwand.Demo;

/// <summary>Where the simulator is told what lies on its benches. Port 0: the instruments are real, and people's hands do it.</summary>
public sealed class SimulatorOptions
{
    public string Host { get; set; } = "127.0.0.1";
    public int ControlPort { get; set; }
}

/// <summary>Stands in for the hands that plug an item in and reset its RCD, where the instruments are simulated. A real one never hears
/// of it.</summary>
public sealed class SimulatedBenches(IOptionsMonitor<SimulatorOptions> options, InstrumentLines lines, TimeProvider time) : IBenchHands
{
    /// <exception cref="InstrumentException">The simulator does not answer.</exception>
    public async Task PlugInAsync(Laid laid, string serial, Test test, ProbeOn? probe, CancellationToken cancel)
    {
        var at = options.CurrentValue;
        if (at.ControlPort <= 0 || lines.NumberOf(serial) is not { } bench)
            return;
        using var hands = await SimulatedHands.ConnectAsync(at.Host, at.ControlPort, cancel);
        await hands.PlaceAsync(
            laid.Item.Tag,
            laid.Ruling.Item.Equipment,
            laid.Item.RegisteredOn,
            DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime),
            DemoFaults.For(laid.Item, time),
            cancel,
            bench
        );
        // Whoever starts a trip test has been asked to reset the device first.
        if (test == Test.RcdTrip || probe is not null)
            await hands.OrderAsync(new("hands", bench, ResetsRcd: test == Test.RcdTrip, ProbeOn: probe), cancel);
    }
}
