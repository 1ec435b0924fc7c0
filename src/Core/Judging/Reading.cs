using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>An instrument's stated accuracy for one reading: ±(percent of reading + digits of resolution).</summary>
/// <param name="Percent">Of the reading.</param>
/// <param name="Digits">Counts of the last digit.</param>
/// <param name="Resolution">One count, in the reading's own unit.</param>
public readonly record struct Accuracy(double Percent, double Digits, double Resolution)
{
    /// <summary>The uncertainty of a reading in its own unit.</summary>
    public double Of(double number) => Math.Abs(number) * Percent / 100 + Digits * Resolution;
}

/// <summary>What is wrong with a lead's conductors.</summary>
public enum ConductorFault
{
    [JsonStringEnumMemberName("short")]
    ShortCircuit,
    Open,
    Crossed,
}

/// <summary>
/// One reading as it was taken; nothing here is judged yet. A closed family: each kind has the fields that it can have, and what it was
/// taken of and what it showed never change.
/// </summary>
public abstract record Reading
{
    private Reading() { }

    /// <summary>What it is a reading of.</summary>
    public abstract Conditions Under { get; }

    public Test Test => Under.Test;

    /// <summary>As run sheets and papers print it.</summary>
    public string Name => StepNames.Of(Under);

    /// <summary>What the display showed; null for what is answered good or bad, and for a trip without its time.</summary>
    public virtual Measured? Value => null;

    /// <summary>Load current seen while measuring.</summary>
    public Amperes? Load { get; init; }

    /// <summary>Why this reading counts for nothing; null when it counts.</summary>
    public string? Void { get; init; }

    /// <summary>What was chosen with it; null where it counts, and where nothing was chosen.</summary>
    public VoidCause? VoidCause { get; init; }

    /// <summary>Another pack by whose limit this reading is judged.</summary>
    public RulePack? Borrowed { get; init; }
    public string? Note { get; init; }

    /// <summary>What a lead decided in place of the comparison: see <see cref="Overridden"/>.</summary>
    public Override? Override { get; private init; }

    /// <summary>This reading with a lead's decision. Made for one reading, it cannot be attached to another.</summary>
    /// <param name="pack">Null, as the item, where an earlier inspection is read back.</param>
    /// <param name="byLead">Whether the person has the role of a lead.</param>
    /// <returns>The reading, or why there can be no override.</returns>
    public Result<Reading> Overridden(RulePack? pack, Item? item, Status to, string by, bool byLead, string reason)
    {
        var made = Judging.Override.Of(pack, item, Test, to, by, byLead, reason);
        return made.Fault is { } fault ? fault : this with { Override = made.Value };
    }

    /// <summary>A reading with a number.</summary>
    public abstract record Numeric : Reading
    {
        private readonly Measured shown;

        private protected Numeric(Measured shown) => this.shown = shown;

        public override Measured? Value => shown;

        /// <summary>The number itself, which such a reading always has.</summary>
        public Measured Shown => shown;

        /// <summary>The instrument's, in the reading's own unit; null where it is not known.</summary>
        public Accuracy? Accuracy { get; init; }

        /// <summary>Where the probe lay, of what is read through one; null where nobody said.</summary>
        public ProbePlace? Probe { get; init; }

        /// <summary>A procedure's own limit; it decides where it is tighter. Null where there is none.</summary>
        public OwnFigure? Tighter { get; init; }
    }

    public sealed record EarthContinuity(Conditions.EarthContinuity Under, Measured Shown) : Numeric(Shown)
    {
        public override Conditions.EarthContinuity Under { get; } = Under;

        /// <summary>The test lead's own resistance, subtracted from the reading.</summary>
        public Ohms Null { get; init; }

        /// <summary>The smallest while the flex was moved, in the reading's own unit and with the test lead in it; null where an instrument
        /// does not keep it.</summary>
        public double? Lowest { get; init; }

        /// <summary>Typed off a display: nobody knows whether the flex was moved meanwhile.</summary>
        public bool IsTyped { get; init; }

        /// <summary>Current it was taken with; null where it is not known.</summary>
        public Amperes? TestCurrent { get; init; }
    }

    public sealed record Insulation(Conditions.Insulation Under, Measured Shown) : Numeric(Shown)
    {
        public override Conditions.Insulation Under { get; } = Under;
        public bool SwitchedOn { get; init; } = true;
    }

    public sealed record Leakage(Conditions.Leakage Under, Measured Shown) : Numeric(Shown)
    {
        public override Conditions.Leakage Under { get; } = Under;
        public bool SwitchedOn { get; init; } = true;

        /// <summary>The mains voltage meanwhile; null where it was not seen, then nothing is scaled.</summary>
        public Volts? Mains { get; init; }

        /// <summary>What shows that it was connected though nothing flows: a trace on the screen, the part touched and seen. Null where
        /// nobody said.</summary>
        public string? Proof { get; init; }
    }

    /// <summary>An RCD that opened, with the time it took.</summary>
    public sealed record RcdTripped(Conditions.RcdTrip Under, Measured Shown) : Numeric(Shown)
    {
        public override Conditions.RcdTrip Under { get; } = Under;
    }

    /// <summary>An RCD that opened where it must stay closed; nobody took the time.</summary>
    public sealed record RcdTrippedUntimed(Conditions.RcdTrip Under) : Reading
    {
        public override Conditions.RcdTrip Under { get; } = Under;
    }

    public sealed record RcdDidNotTrip(Conditions.RcdTrip Under) : Reading
    {
        public override Conditions.RcdTrip Under { get; } = Under;
    }

    /// <summary>What a device delivers or takes: energy, time, amplitude, the path to its paddles.</summary>
    public sealed record Performance(Conditions.Performance Under, Measured Shown) : Numeric(Shown)
    {
        public override Conditions.Performance Under { get; } = Under;

        /// <summary>The maker's own figure; it wins where it is tighter.</summary>
        public Quantity? MakerLimit { get; init; }
    }

    /// <summary>A lead's conductors, found good or bad.</summary>
    public sealed record Conductors(Conditions.Conductors Under, bool Ok) : Reading
    {
        public override Conditions.Conductors Under { get; } = Under;
        public bool Ok { get; } = Ok;

        /// <summary>What it showed when it was bad; null where it was not said.</summary>
        public ConductorFault? Found { get; init; }
    }

    /// <summary>Does it do its job.</summary>
    /// <param name="Check">Which check of its own it is; null for the usual one.</param>
    public sealed record Functional(bool Ok, string? Check = null) : Reading
    {
        public override Conditions Under { get; } = new Conditions.Functional { Name = Check };

        /// <summary>What the device showed, with its unit; null where good or bad was answered.</summary>
        public string? Figure { get; init; }
        public bool Ok { get; } = Ok;
    }
}
