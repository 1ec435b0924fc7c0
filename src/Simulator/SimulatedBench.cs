using System.Collections.Immutable;
using Osierwand.Core;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Instruments.Line;

namespace Osierwand.Simulator;

/// <summary>What the line of a simulated instrument does instead of carrying messages.</summary>
public enum LineState
{
    Whole,

    /// <summary>The cable is out: what is connected breaks, and nobody new is let in.</summary>
    Unplugged,

    /// <summary>It takes everything and says nothing.</summary>
    Silent,

    /// <summary>What it says is noise.</summary>
    Garbage,

    /// <summary>Half a line, and then it breaks.</summary>
    HalfALine,

    /// <summary>Far more than a display could show.</summary>
    Flood,

    /// <summary>Readings of another test.</summary>
    WrongTest,

    /// <summary>Readings in a unit that the test does not have.</summary>
    WrongUnit,
}

/// <summary>What a simulated instrument is for.</summary>
public enum InstrumentRole
{
    /// <summary>Earth, insulation, leakage, trip times.</summary>
    Safety,

    /// <summary>What a defibrillator delivers.</summary>
    Performance,
}

/// <summary>One simulated instrument with what lies before it: the state that the line and the control channel share.</summary>
public sealed class SimulatedBench(int number, int? seed = null, InstrumentRole role = InstrumentRole.Safety)
{
    private readonly Lock guard = new();
    private readonly Random noise = seed is { } given ? new(given) : new();
    private object? inUseBy;

    /// <summary>Counted from 1.</summary>
    public int Number => number;
    public string Name => role == InstrumentRole.Performance ? $"Performance analyser {number}" : $"Bench analyser {number + 1}";
    public string Serial => role == InstrumentRole.Performance ? $"OW-SIM-P{number}" : $"OW-SIM-{number + 1}";

    private ImmutableArray<string> Functions => role == InstrumentRole.Performance ? Performing.Functions : Measuring.Functions;

    /// <summary>Whether it has such a function.</summary>
    internal bool Can(Conditions under) => Functions.Contains(TestFigure.WordOf(under));

    public PluggedIn? Item { get; set; }
    public Hands Hands { get; set; } = new();
    public MainsHere Mains { get; set; } = new();
    public InstrumentTruth Truth { get; set; } = new();

    /// <summary>How much faster than life this one runs; null as all of them do.</summary>
    public double? Pace { get; set; }

    public LineState Line
    {
        get;
        set
        {
            field = value;
            if (value == LineState.Unplugged)
                Unplugged?.Invoke();
        }
    }

    /// <summary>The cable was just pulled.</summary>
    public event Action? Unplugged;

    public double NullOhms()
    {
        lock (guard)
            return Measuring.NullOhms(Truth, noise);
    }

    /// <summary>One conversation measures at a time.</summary>
    /// <returns>False while another one does.</returns>
    internal bool Take(object by)
    {
        lock (guard)
        {
            if (inUseBy is not null && inUseBy != by)
                return false;
            inUseBy = by;
            return true;
        }
    }

    internal void GiveBack(object by)
    {
        lock (guard)
        {
            if (inUseBy != by)
                return;
            inUseBy = null;
            if (Item is { } item)
                item.LiveVolts = 0;
        }
    }

    internal IMeasuring Begin(MeasurementRequest request)
    {
        lock (guard)
            return role == InstrumentRole.Performance
                ? new Performing(request, Item!, Truth, new Random(noise.Next()))
                : new Measuring(request, Item!, Hands, Mains, Truth, new Random(noise.Next()));
    }

    /// <summary>Who it says it is, range by range.</summary>
    internal IEnumerable<Message> Identity(int to) =>
        [
            .. Ranges.Of(role).Select(range => Wire.Range(to, range)),
            Message.Of(to, "OK", ("name", Name), ("serial", Serial), ("firmware", "2.0"), ("functions", string.Join(',', Functions))),
        ];
}
