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

/// <summary>Opens conversations with the connected instrument. The one thing a server holds for itself: whose turn it is at the
/// instrument.</summary>
public sealed class InstrumentLine(IOptionsMonitor<SimulatorOptions> options, TimeProvider time)
{
    /// <summary>Who it said it was is believed for so long: every ruling asks.</summary>
    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(5);

    private readonly Lock turns = new();
    private (InstrumentIdentity? Identity, long At)? asked;

    public bool IsConfigured => options.CurrentValue.Port > 0;

    /// <summary>Who measures now; null when it is free.</summary>
    public string? InUseBy { get; private set; }

    /// <summary>One measurement at a time: two benches on one instrument would read each other's item.</summary>
    /// <returns>Null while somebody measures; disposing it gives the turn back.</returns>
    public IDisposable? TakeTurn(string by)
    {
        lock (turns)
        {
            if (InUseBy is not null)
                return null;
            InUseBy = by;
            return new Turn(this);
        }
    }

    /// <returns>Null when nothing answers.</returns>
    public async Task<InstrumentIdentity?> IdentityAsync(CancellationToken cancel)
    {
        if (!IsConfigured)
            return null;
        if (asked is { } known && time.GetElapsedTime(known.At) < Believed)
            return known.Identity;
        InstrumentIdentity? identity = null;
        try
        {
            await using var conversation = await OpenAsync(cancel);
            identity = await conversation.IdentifyAsync(cancel);
        }
        catch (InstrumentException)
        {
            // Nothing answers: readings are typed.
        }
        asked = (identity, time.GetTimestamp());
        return identity;
    }

    /// <exception cref="InstrumentException">It does not answer.</exception>
    public async Task<LineInstrument> OpenAsync(CancellationToken cancel) =>
        IsConfigured
            ? await LineInstrument.ConnectAsync(options.CurrentValue.Host, options.CurrentValue.Port, cancel)
            : throw new InstrumentException(LineTrouble.Unreachable, "No instrument is connected. Readings can be typed.");

    /// <summary>A conversation with this item plugged in: what a technician's hands do at a real tester.</summary>
    /// <param name="made">When it was new: only a simulated one is aged by it.</param>
    public async Task<LineInstrument> OpenWithAsync(string tag, Item item, DateOnly made, Defect defect, CancellationToken cancel)
    {
        var instrument = await OpenAsync(cancel);
        await instrument.PlaceAsync(tag, item, made, DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime), defect, cancel);
        return instrument;
    }

    private sealed class Turn(InstrumentLine of) : IDisposable
    {
        public void Dispose() => of.InUseBy = null;
    }
}
