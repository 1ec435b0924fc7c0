using System.Globalization;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>The tests by the words of the exchange contract.</summary>
public enum Test
{
    EarthContinuity,
    Insulation,
    Leakage,
    Polarity,
    Wiring,
    RcdTrip,
    DefibEnergy,
    DefibCharge,
    DefibSync,
    EcgAmplitude,
    PadPath,
    Functional,

    /// <summary>The look. It opens every plan and is answered by a checklist, never by a reading.</summary>
    Visual,

    /// <summary>Fuse against plate and flex, computed from what was entered.</summary>
    Fuse,

    /// <summary>A hard-wired item is put back on its supply.</summary>
    Restore,
}

public enum LeakageKind
{
    ProtectiveConductor,
    Touch,
    Equipment,
    AppliedPart,
    Earth,
    Patient,
    TotalPatient,
    PatientAuxiliary,
    MainsOnAppliedPart,
    LeadToGround,
    LeadToLead,

    /// <summary>Patient leakage with mains on an accessible metal part that is not earthed.</summary>
    MainsOnAccessiblePart,
}

public enum LeakageMethod
{
    Direct,
    Differential,

    /// <summary>Not powered: mains pins joined and supplied through the instrument.</summary>
    Alternative,
}

public enum CurrentType
{
    Ac,
    Dc,
}

public enum MainsPolarity
{
    Normal,
    Reversed,
}

public enum ConductorState
{
    Closed,
    Open,
}

public enum PowerState
{
    On,
    Off,
}

/// <summary>Between which points insulation is measured.</summary>
public enum Between
{
    MainsToEarth,
    MainsToAccessible,
    MainsToAppliedPart,
}

/// <summary>How the earth reading was taken.</summary>
public enum EarthPath
{
    ProtectiveConductor,

    /// <summary>Out along the line conductor and back along the protective conductor.</summary>
    Loop,
}

/// <summary>Which part of a medical device with a detachable lead an earth reading covers.</summary>
public enum EarthPart
{
    DeviceWithCord,
    DeviceAlone,
    CordAlone,
}

/// <summary>What of a medical device an insulation reading covers.</summary>
public enum InsulationPart
{
    Device,

    /// <summary>Its own mains lead: L and N joined to the lead's protective conductor.</summary>
    CordAlone,
}

/// <summary>What a synchronised shock follows.</summary>
public enum SyncTrigger
{
    RPeak,
    External,
}

/// <summary>Where on an item something was measured, of the places it has several of.</summary>
public abstract record Spot
{
    private Spot() { }

    /// <summary>As run sheets, keys and the contract write it.</summary>
    public abstract string Text { get; }

    /// <summary>Where the probe or clip sat: "handle", "left hinge".</summary>
    public sealed record Probe(string Name) : Spot
    {
        public override string Text => Name;
    }

    /// <summary>An outlet of a lead or adaptor, counted from 1.</summary>
    public sealed record Outlet(int Number) : Spot
    {
        public override string Text => string.Create(CultureInfo.InvariantCulture, $"{Word}{Number}");
    }

    private const string Word = "outlet ";

    /// <summary>Reads what <see cref="Text"/> wrote; whatever names no outlet is where a probe sat.</summary>
    public static Spot Of(string text) =>
        text.StartsWith(Word, StringComparison.Ordinal)
        && int.TryParse(text.AsSpan(Word.Length), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
        && new Outlet(number) is var outlet
        && outlet.Text == text
            ? outlet
            : new Probe(text);
}

/// <summary>
/// What is measured, and under which condition: a closed family with the fields that each test has. A planned step and a reading carry the
/// same type, so that a reading finds its limit and its forerunners by what it is and not by where it stands in a list.
/// </summary>
public abstract record Conditions
{
    private Conditions(Test test) => Test = test;

    public Test Test { get; }

    /// <summary>Where on the item; null where it has but one such place, or the reading does not say.</summary>
    public Spot? At { get; init; }

    /// <summary>Name of the applied part, null where none is involved.</summary>
    public virtual string? AppliedPart
    {
        get => null;
        init { }
    }

    /// <summary>What the device or the simulator is set to; null where nothing is set.</summary>
    public virtual Quantity? Set => null;

    /// <summary>The same measurement, at whatever spot.</summary>
    public bool IsSameButForSpot(Conditions other) => At == other.At ? Equals(other) : (this with { At = other.At }).Equals(other);

    public sealed record EarthContinuity() : Conditions(Standards.Test.EarthContinuity)
    {
        public EarthPath Path { get; init; }
        public EarthPart Part { get; init; }
    }

    /// <param name="TestVoltage">Null takes the usual one for the item.</param>
    public sealed record Insulation(Between Between = default, Volts? TestVoltage = null) : Conditions(Standards.Test.Insulation)
    {
        public InsulationPart Part { get; init; }
        public override string? AppliedPart { get; init; }
    }

    public sealed record Leakage(LeakageKind Kind) : Conditions(Standards.Test.Leakage)
    {
        public LeakageMethod Method { get; init; }
        public CurrentType Current { get; init; }
        public new MainsPolarity Polarity { get; init; }
        public ConductorState Neutral { get; init; }
        public ConductorState Earth { get; init; }
        public PowerState Power { get; init; }
        public override string? AppliedPart { get; init; }
    }

    /// <param name="Multiple">Of the rating: 0.5, 1 or 5.</param>
    /// <param name="PhaseDeg">Half-wave on which it is tripped: 0 or 180 degrees.</param>
    public sealed record RcdTrip(double Multiple = 1, int PhaseDeg = 0) : Conditions(Standards.Test.RcdTrip);

    /// <summary>Of a lead's conductors, answered good or bad.</summary>
    public abstract record Conductors : Conditions
    {
        private protected Conductors(Test test)
            : base(test) { }
    }

    public sealed record Polarity() : Conductors(Standards.Test.Polarity);

    public sealed record Wiring() : Conductors(Standards.Test.Wiring);

    /// <summary>What a device delivers, held against a figure that its maker may have set tighter.</summary>
    public abstract record Performance : Conditions
    {
        private protected Performance(Test test)
            : base(test) { }
    }

    public sealed record DefibEnergy(Quantity Joules) : Performance(Standards.Test.DefibEnergy)
    {
        public override Quantity? Set => Joules;
    }

    public sealed record DefibCharge() : Performance(Standards.Test.DefibCharge);

    public sealed record DefibSync(SyncTrigger Trigger = default) : Performance(Standards.Test.DefibSync);

    public sealed record EcgAmplitude(Quantity Volts) : Performance(Standards.Test.EcgAmplitude)
    {
        public override Quantity? Set => Volts;
    }

    public sealed record PadPath() : Performance(Standards.Test.PadPath);

    /// <summary>Does it do its job; with a name, one check of its own that a procedure asks for.</summary>
    public sealed record Functional() : Conditions(Standards.Test.Functional)
    {
        public string? Name { get; init; }
    }

    public sealed record Look() : Conditions(Standards.Test.Visual);

    public sealed record FuseAndFlex() : Conditions(Standards.Test.Fuse);

    public sealed record Restore() : Conditions(Standards.Test.Restore);
}
