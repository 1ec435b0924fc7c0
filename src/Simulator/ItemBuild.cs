using System.Collections.Immutable;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Simulator;

/// <summary>A piece of metal that can be touched.</summary>
/// <param name="BondOhm">To the protective conductor; infinite where it is not earthed.</param>
/// <param name="StrayOhm">To the world's earth by another way: a pipe, a screen, another earthed thing. Infinite where there is none.</param>
public sealed record MetalBuild(string Name, double BondOhm, double StrayOhm = double.PositiveInfinity);

/// <summary>Insulation between a live part and what surrounds it, in ohm and farad.</summary>
/// <param name="SoakFarad">Charge that the material soaks up, so that a reading climbs for seconds.</param>
public sealed record InsulationBuild(double Ohm, double Farad, double SoakFarad = 0);

/// <summary>One outlet of a lead or adaptor, from the flex's end to its contacts.</summary>
public sealed record OutletBuild(double LineOhm, double NeutralOhm, double EarthOhm, bool IsCrossed = false);

/// <summary>The mechanism of a residual-current device.</summary>
/// <param name="RatedAmperes">Residual, r.m.s.</param>
/// <param name="PositivePickup">Share of the rating from which it trips at last, were all half-waves positive; infinite: that half-wave
/// does nothing to it.</param>
/// <param name="GatherSeconds">How long it gathers before it lets go.</param>
/// <param name="OpeningSeconds">From letting go until the contacts are open.</param>
/// <param name="ButtonOhm">In series with its test button; infinite when the button is dead.</param>
public sealed record RcdBuild(
    double RatedAmperes,
    double PositivePickup,
    double NegativePickup,
    double GatherSeconds,
    double OpeningSeconds,
    double ButtonOhm
);

/// <summary>A part that touches the patient.</summary>
/// <param name="ConnectionOhm">Of each connection's own lead, inside the device.</param>
/// <param name="ToMetal">Barrier to the chassis.</param>
/// <param name="ToLive">Barrier to the mains part.</param>
/// <param name="BiasVolts">Direct voltage that the electronics put on the first connection against the rest of the part, through 10 megohm.</param>
/// <param name="IsConnected">False: its leads are not plugged in; nothing of it is measured.</param>
public sealed record PartBuild(
    string Name,
    AppliedPartType Type,
    ImmutableArray<double> ConnectionOhm,
    InsulationBuild ToMetal,
    InsulationBuild ToLive,
    double BiasVolts,
    bool IsConnected = true
);

/// <summary>
/// What is true inside one item: the figures of its equivalent circuit, in ohm, farad and volt. A tester sees only what flows. Faults are
/// edits of it (<see cref="Faults"/>); nothing else in the simulator knows of them.
/// </summary>
public sealed record ItemBuild
{
    public required Item Item { get; init; }

    /// <summary>Of one conductor of the flex, end to end, by its length and size.</summary>
    public double FlexOhm { get; init; }

    /// <summary>Where line, neutral and earth are joined in the plug, with the fuse in the line.</summary>
    public double FuseOhm { get; init; } = 0.006;
    public double LineJointOhm { get; init; } = 0.002;
    public double NeutralJointOhm { get; init; } = 0.002;
    public double EarthJointOhm { get; init; } = 0.002;

    /// <summary>How much the earth conductor may rise while the flex is moved: strands that break at the strain relief.</summary>
    public double EarthWobbleOhm { get; init; }

    /// <summary>Line and neutral change places in the plug.</summary>
    public bool IsCrossedInPlug { get; init; }

    /// <summary>Between line and neutral in the flex or plug; infinite where nothing lies between them.</summary>
    public double LineToNeutralOhm { get; init; } = double.PositiveInfinity;

    /// <summary>As it was left, until somebody switches it.</summary>
    public bool IsSwitchedOn { get; init; } = true;

    /// <summary>A thermostat or relay in the line that has not closed.</summary>
    public bool IsCutOut { get; init; }

    /// <summary>A soft starter lets nothing through until it has been on mains for so long; 0 where there is none.</summary>
    public double SoftStartSeconds { get; init; }

    /// <summary>The load between the switched live parts, of one phase; infinite for what has none.</summary>
    public double LoadOhm { get; init; } = double.PositiveInfinity;

    /// <summary>From each switched live part to the protective conductor, or, where nothing is earthed, to what can be touched.</summary>
    public required InsulationBuild Line { get; init; }
    public required InsulationBuild Neutral { get; init; }

    /// <summary>From the live parts straight to each piece of metal that is not earthed, and across to what lies behind earthed
    /// metal.</summary>
    public required InsulationBuild ToMetal { get; init; }

    /// <summary>By how much moisture in a heating element's filling divides its insulation while it is cold; 0 when it is dry.</summary>
    public double Moisture { get; init; }

    /// <summary>Between line and the protective conductor, conducting above its voltage; 0 where there is none.</summary>
    public double SuppressorVolts { get; init; }

    /// <summary>An earth pin is there and is joined to something; of class II only where it serves a function.</summary>
    public bool HasEarthPin { get; init; }

    /// <summary>At least one, so that a probe or foil finds something; foil has the name of what it is laid round.</summary>
    public required ImmutableArray<MetalBuild> Metals { get; init; }

    /// <summary>Of a lead or adaptor; empty of everything else.</summary>
    public ImmutableArray<OutletBuild> Outlets { get; init; } = [];
    public RcdBuild? Rcd { get; init; }
    public ImmutableArray<PartBuild> Parts { get; init; } = [];

    /// <summary>Of a defibrillator; null of everything else.</summary>
    public ShockBuild? Shock { get; init; }

    /// <summary>Drawn at its plate's voltage; 0 where the plate says nothing.</summary>
    public double RatedWatts { get; init; }
}
