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

/// <summary>What a synchronised shock follows.</summary>
public enum SyncTrigger
{
    RPeak,
    External,
}

/// <summary>
/// Under which condition something is measured. A planned step and a reading carry the same type, so that a reading
/// finds its limit and its forerunners by what it is and not by where it stands in a list.
/// </summary>
public sealed record Conditions
{
    public static readonly Conditions Usual = new();

    public LeakageKind Kind { get; init; }
    public LeakageMethod Method { get; init; }
    public CurrentType Current { get; init; }
    public MainsPolarity Polarity { get; init; }
    public ConductorState Neutral { get; init; }
    public ConductorState Earth { get; init; }
    public PowerState Power { get; init; }
    public Between Between { get; init; }
    public EarthPath Path { get; init; }
    public EarthPart Part { get; init; }

    /// <summary>Fraction of an RCD's rating: 0.5, 1 or 5.</summary>
    public double Multiple { get; init; } = 1;

    /// <summary>Half-wave on which an RCD is tripped: 0 or 180 degrees.</summary>
    public int PhaseDeg { get; init; }

    /// <summary>What a synchronised shock was triggered by.</summary>
    public SyncTrigger Trigger { get; init; }

    /// <summary>Name of the applied part, null where none is involved.</summary>
    public string? AppliedPart { get; init; }

    /// <summary>Where the probe sat; also the outlet of a lead.</summary>
    public string? Point { get; init; }

    /// <summary>The same measurement, at whatever point.</summary>
    public bool IsSameButForPoint(Conditions other) =>
        Kind == other.Kind
        && Method == other.Method
        && Current == other.Current
        && Polarity == other.Polarity
        && Neutral == other.Neutral
        && Earth == other.Earth
        && Power == other.Power
        && Between == other.Between
        && Path == other.Path
        && Part == other.Part
        && Trigger == other.Trigger
        && Multiple == other.Multiple
        && PhaseDeg == other.PhaseDeg
        && AppliedPart == other.AppliedPart;
}
