using Microsoft.Extensions.Options;
using Osierwand.Core.Equipment;
using Osierwand.Instruments;
using Osierwand.Instruments.Simulation;

namespace Osierwand.Server.Kit;

/// <summary>Where the instrument listens. Port 0: none is connected.</summary>
public sealed class SimulatorOptions
{
    public string Host { get; set; } = "127.0.0.1";
    public int Port { get; set; }
}

/// <summary>Opens conversations with the connected instrument.</summary>
public sealed class InstrumentLine(IOptionsMonitor<SimulatorOptions> options, TimeProvider time)
{
    public bool IsConfigured => options.CurrentValue.Port > 0;

    /// <exception cref="InstrumentException">It does not answer.</exception>
    public async Task<LineInstrument> OpenAsync(CancellationToken cancel) =>
        IsConfigured ? await LineInstrument.ConnectAsync(options.CurrentValue.Host, options.CurrentValue.Port, cancel)
        : throw new InstrumentException(LineTrouble.Unreachable, "No instrument is connected. Readings can be typed.");

    /// <summary>A conversation with this item plugged in: what a technician's hands do at a real tester.</summary>
    public async Task<LineInstrument> OpenWithAsync(string tag, Item item, Defect defect, CancellationToken cancel)
    {
        var instrument = await OpenAsync(cancel);
        await instrument.PlaceAsync(tag, item, DateOnly.FromDateTime(time.GetLocalNow().DateTime), defect, cancel);
        return instrument;
    }
}
