using Osierwand.Core.Quantities;
using Osierwand.Instruments.Simulation;

namespace Osierwand.Instruments;

/// <summary>Who an instrument says it is.</summary>
/// <param name="Functions">The tests it can measure, by their contract words.</param>
public sealed record InstrumentIdentity(string Name, string Serial, string Firmware, IReadOnlyList<string> Functions);

/// <summary>What comes from a running measurement: the display as it moves, and once, last, the reading.</summary>
/// <param name="Reading">Null while the value still moves.</param>
/// <param name="Elapsed">Seconds since the start.</param>
public sealed record InstrumentReport(InstrumentReading Showing, InstrumentReading? Reading, double Elapsed);

/// <summary>What went wrong on the line. None of it ever becomes a reading.</summary>
public enum LineTrouble
{
    Unreachable,
    Lost,
    Silent,
    Garbled,
    WrongTest,
    Refused,
}

/// <summary>An instrument could not deliver. The message is for the technician: what happened and what to do.</summary>
public sealed class InstrumentException(LineTrouble trouble, string message, Exception? inner = null) : Exception(message, inner)
{
    public LineTrouble Trouble { get; } = trouble;
}

/// <summary>One tester on a line. The simulated analyser is the first; a driver for a real one takes its place behind the same
/// members.</summary>
public interface IInstrument : IAsyncDisposable
{
    /// <exception cref="InstrumentException">Nothing answered as an instrument would.</exception>
    Task<InstrumentIdentity> IdentifyAsync(CancellationToken cancel);

    /// <summary>Measures the shorted test lead.</summary>
    Task<Ohms> NullAsync(CancellationToken cancel);

    /// <summary>Runs one measurement. Cancelling aborts it on the instrument: what it switched on is switched off.</summary>
    /// <exception cref="InstrumentException">The line failed; no reading was taken.</exception>
    IAsyncEnumerable<InstrumentReport> MeasureAsync(MeasurementRequest request, CancellationToken cancel);
}
