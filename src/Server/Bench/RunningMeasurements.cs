using System.Collections.Concurrent;
using Osierwand.Instruments;

namespace Osierwand.Server.Bench;

/// <summary>Which instrument each bench measures with now, so that a second call of the same bench can reach it.</summary>
public sealed class RunningMeasurements
{
    private readonly ConcurrentDictionary<string, IInstrument> byConnection = new();

    /// <returns>Null where that bench measures nothing.</returns>
    public IInstrument? Find(string connection) => byConnection.GetValueOrDefault(connection);

    /// <summary>Until what is given back is disposed.</summary>
    public IDisposable Keep(string connection, IInstrument instrument)
    {
        byConnection[connection] = instrument;
        return new Kept(this, connection);
    }

    private sealed class Kept(RunningMeasurements of, string connection) : IDisposable
    {
        public void Dispose() => of.byConnection.TryRemove(connection, out _);
    }
}
