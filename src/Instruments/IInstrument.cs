using Osierwand.Core.Quantities;

namespace Osierwand.Instruments;

/// <summary>What went wrong between the bench and an instrument. None of it ever becomes a reading.</summary>
public enum LineTrouble
{
    /// <summary>Nobody answers there.</summary>
    Unreachable,

    /// <summary>The line broke in the middle of something.</summary>
    Lost,

    /// <summary>The line stands and says nothing.</summary>
    Silent,

    /// <summary>What came is no message, half a message, or far too much of it.</summary>
    Garbled,

    /// <summary>A reading for another test, or in a unit that this test does not have.</summary>
    WrongTest,

    /// <summary>The instrument will not: no such function, nothing plugged in, its lead open.</summary>
    Refused,

    /// <summary>Another bench measures with it.</summary>
    Busy,

    /// <summary>The mains went away while the item was powered: the building's residual-current device tripped.</summary>
    SupplyLost,

    /// <summary>The RCD under test is open since its last trip.</summary>
    NeedsReset,

    /// <summary>The probe found a path to earth where none should be. Nothing was put on the item.</summary>
    ProbeEarthed,
}

/// <summary>An instrument could not deliver. The message is for the technician: what happened and what to do.</summary>
public sealed class InstrumentException(LineTrouble trouble, string message, Exception? inner = null) : Exception(message, inner)
{
    public LineTrouble Trouble { get; } = trouble;
}

/// <summary>
/// One tester. The analyser on the line protocol is the first (<see cref="Line.LineInstrument"/>), a plain meter that only says its value
/// the second (<see cref="Meters.PlainMeter"/>); a driver for another takes its place behind the same members.
/// </summary>
public interface IInstrument : IAsyncDisposable
{
    /// <exception cref="InstrumentException">Nothing answered as an instrument would.</exception>
    Task<InstrumentIdentity> IdentifyAsync(CancellationToken cancel);

    /// <summary>Asks it whether it is well.</summary>
    /// <returns>What it says is wrong; null when it is well, or has no test of itself.</returns>
    Task<string?> SelfTestAsync(CancellationToken cancel);

    /// <summary>Measures the shorted test lead.</summary>
    Task<Ohms> NullAsync(CancellationToken cancel);

    /// <summary>Runs one measurement. Cancelling aborts it on the instrument: what it switched on is switched off before the caller
    /// goes on, or the line is gone, and then the instrument does so by itself.</summary>
    /// <exception cref="InstrumentException">The line failed; no reading was taken.</exception>
    IAsyncEnumerable<InstrumentReport> MeasureAsync(MeasurementRequest request, CancellationToken cancel);

    /// <summary>What is being measured has been held long enough: the value it has now is the reading. From another call than the one
    /// that measures; nothing happens where nothing is measured.</summary>
    Task FinishAsync(CancellationToken cancel);
}
