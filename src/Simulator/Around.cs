using Osierwand.Core.Planning;

namespace Osierwand.Simulator;

/// <summary>What the technician's hands do at a simulated bench.</summary>
/// <param name="IsClipOn">False: the clip hangs in the air, or is still on the last item.</param>
/// <param name="ClipOhm">Paint or rust under it.</param>
/// <param name="MovesFlex">While earth is measured.</param>
/// <param name="ProbeOn">What they laid the probe on. An all-insulated case has no metal: foil or mesh is laid round it, or there is
/// nothing to read.</param>
public sealed record Hands(bool IsClipOn = true, double ClipOhm = 0, bool MovesFlex = true, ProbeOn ProbeOn = ProbeOn.Foil);

/// <summary>The mains that a simulated bench stands on.</summary>
/// <param name="Share">Of the nominal voltage.</param>
/// <param name="EarthVolts">Of the outlet's protective conductor against the world's earth.</param>
/// <param name="StandingAmperes">What else leaks on the building's circuit.</param>
/// <param name="BuildingRcdAmperes">The residual-current device that the circuit stands behind.</param>
/// <param name="IsIsolated">An isolating adapter stands between: what is tested leaks on nobody else's circuit.</param>
public sealed record MainsHere(
    double Share = 1.02,
    double EarthVolts = 0,
    double StandingAmperes = 0.003,
    double BuildingRcdAmperes = 0.03,
    bool IsIsolated = true
)
{
    /// <summary>Such devices trip from about three quarters of their rating.</summary>
    private const double Pickup = 0.75;

    public bool Trips(double residualAmperes) => !IsIsolated && residualAmperes + StandingAmperes > Pickup * BuildingRcdAmperes;
}

/// <summary>What is true of the instrument itself, whatever its papers say.</summary>
/// <param name="LeadOhm">Test lead and clip.</param>
/// <param name="PostOhm">Between lead and post while the lead is nulled: a bad contact.</param>
/// <param name="Gain">1 where it is not out.</param>
/// <param name="Illness">What its self-test finds; null when it is well.</param>
public sealed record InstrumentTruth(double LeadOhm = 0.04, double PostOhm = 0, double Gain = 1, string? Illness = null);

/// <summary>What lies on a simulated bench and how it stands, from one measurement to the next.</summary>
/// <param name="tag">By which the bench knows it again.</param>
public sealed class PluggedIn(string tag, ItemBuild build)
{
    /// <summary>Seconds on mains until an element is warm through, but for a third.</summary>
    private const double WarmingSeconds = 12;

    public string Tag => tag;
    public ItemBuild Build { get; set; } = build;
    public bool IsOn { get; set; } = build.IsSwitchedOn;
    public bool IsRcdClosed { get; set; } = true;

    /// <summary>0 cold, 1 warm through.</summary>
    public double Warmth { get; private set; }

    /// <summary>Nothing on it is live unless something is being measured; then, with what voltage.</summary>
    public double LiveVolts { get; set; }

    /// <summary>What its battery has given since it was charged, in joule.</summary>
    public double DrawnJoules { get; set; }

    internal void Warm(double seconds) => Warmth += (1 - Warmth) * (1 - Math.Exp(-seconds / WarmingSeconds));
}
