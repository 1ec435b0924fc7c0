using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Server.Bench;

/// <summary>The hands that plug an item into the instrument before it measures.</summary>
public interface IBenchHands
{
    /// <summary>Has the item at the instrument that measures it.</summary>
    /// <param name="serial">Of the instrument.</param>
    /// <param name="probe">What its probe lies on; null where nobody said.</param>
    /// <exception cref="Instruments.InstrumentException">The instrument's stand-in does not answer.</exception>
    Task PlugInAsync(Laid laid, string serial, Test test, ProbeOn? probe, CancellationToken cancel);
}

/// <summary>People plug in real items themselves: nothing is to be done.</summary>
internal sealed class PeoplesHands : IBenchHands
{
    public Task PlugInAsync(Laid laid, string serial, Test test, ProbeOn? probe, CancellationToken cancel) => Task.CompletedTask;
}
