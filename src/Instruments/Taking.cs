using Osierwand.Core.Bench;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Instruments;

/// <summary>How what an instrument shows becomes what was read at a step: in one place, for the bench, its history and its tests.</summary>
public static class Taking
{
    /// <param name="id">Of the event.</param>
    /// <param name="nullOhm">Of the test lead; taken off an earth reading by the judge, never here.</param>
    /// <param name="point">Where the probe sat, when a step is measured at several points.</param>
    public static ReadingTaken AsTaken(
        this InstrumentReading shown,
        PlanStep.Measure step,
        Guid id,
        DateTimeOffset at,
        double? nullOhm,
        string? point = null
    )
    {
        var isEarth = step.Test == Test.EarthContinuity;
        // Of a flex that was moved the largest counts, also where it left the range for a moment.
        var value = isEarth ? shown.Most ?? shown.Value : shown.Value;
        return new()
        {
            Id = id,
            At = at,
            Step = step.Key,
            Source = ReadingSource.Instrument,
            // A negative nothing is nothing: a page sends it back as 0, and it would not be what was kept.
            Number = value?.Number + 0.0,
            Unit = value?.Unit.Symbol,
            Qualifier = Sign(value),
            Lowest =
                value is { IsBound: false } largest && shown.Least is { IsBound: false } least
                    ? Math.Round(least.Quantity.Si / largest.Unit.Factor, 6) + 0.0
                    : null,
            PathSeen = shown.PathSeen,
            Mains = shown.Mains,
            LoadA = shown.LoadAmperes,
            NullOhm = isEarth ? nullOhm : null,
            Ok = shown.Ok,
            Found = shown.Found,
            Tripped = shown.Tripped,
            Point = point,
            Waveform = shown.Waveform,
            Note =
                shown.Ok == false ? "shown by the instrument"
                : shown.Spot is { } spot ? $"the largest: {spot}"
                : shown.Said,
        };
    }

    /// <summary>What the instrument is asked for at a step of this ruling.</summary>
    /// <param name="point">Which connection of a part, where they are measured in turn; null for the step's own place.</param>
    public static MeasurementRequest RequestFor(this Ruling ruling, PlanStep.Measure step, string? point = null)
    {
        var equipment = ruling.Item.Equipment;
        return new(
            point is not null && step.Spots.Contains(point) ? step.Under with { At = Spot.Of(point) } : step.Under,
            Core.Outlets.OutletSupply.For(equipment, ruling.Pack) with
            {
                NominalV = ruling.Pack.NominalFor(equipment).Value,
            },
            ruling.Pack.Hertz,
            step.TestVoltage?.Value ?? 500,
            step.Seconds,
            equipment.Rcd?.Value
        )
        {
            GuardsProbe = step.GuardsProbe,
        };
    }

    /// <summary>Discharges at maximum that are watched and counted, one after the other.</summary>
    /// <param name="left">How many are still to be made.</param>
    public static MeasurementRequest WatchFor(this Ruling ruling, SheetStep.Discharges step, int left) =>
        new(
            new Conditions.DefibEnergy(step.At),
            Core.Outlets.OutletSupply.For(ruling.Item.Equipment, ruling.Pack),
            ruling.Pack.Hertz,
            Seconds: LongestWatch
        )
        {
            Count = left,
        };

    /// <summary>A device that takes longer is told by whoever waits.</summary>
    private const double LongestWatch = 600;

    /// <summary>What happened at a step by a trouble that is a fact of the item or the day; null for what is the line's alone.</summary>
    public static BenchEvent? AsHappened(this InstrumentException trouble, string step, Guid id, DateTimeOffset at) =>
        trouble.Trouble switch
        {
            // A probe that finds an earth where none should be stops the job, whoever or whatever held it.
            LineTrouble.ProbeEarthed => new EarthFound
            {
                Id = id,
                At = at,
                Step = step,
                Words = trouble.Message,
            },
            LineTrouble.SupplyLost => new MainsLost
            {
                Id = id,
                At = at,
                Step = step,
            },
            _ => null,
        };

    /// <summary>The sign of a bound; null where it is a value.</summary>
    public static string? Sign(Measured? value) =>
        value?.Qualifier switch
        {
            Qualifier.Above => ">",
            Qualifier.Below => "<",
            _ => null,
        };
}
