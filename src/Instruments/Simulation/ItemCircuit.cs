using System.Numerics;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Circuits;

namespace Osierwand.Instruments.Simulation;

/// <summary>Which mains the analyser supplies.</summary>
public sealed record Supply(double Volts, double Hertz);

/// <summary>
/// The equivalent circuit of one item and the instrument's connections to it. Every figure comes from solving the network; there is no
/// table of answers.
/// </summary>
public sealed class ItemCircuit(HiddenState state)
{
    private const double Open = double.PositiveInfinity;
    private const double EarthTestAmperes = 0.2;
    private const double InsulationSeries = 10e3;

    /// <summary>Resistance seen between the earth pin and the probe, in ohm, without the test lead.</summary>
    public double EarthOhms(bool onEarthedMetal = true)
    {
        var net = new Network();
        var pin = net.AddNode();
        var accessible = net.AddNode();
        net.Resistor(pin, accessible, onEarthedMetal ? EarthPath : Open);
        net.Resistor(accessible, Network.Earth, 1e-6);
        // A current source by its Thevenin equivalent; far above any resistance of interest.
        const double Stiff = 1e6;
        var inner = net.AddNode();
        net.Source(inner, Network.Earth, EarthTestAmperes * Stiff);
        net.Resistor(inner, pin, Stiff);
        var solved = net.Solve(0);
        var current = (solved.Voltage(inner) - solved.Voltage(pin)).Real / Stiff;
        return current < 1e-9 ? Open : solved.Voltage(pin).Real / current;
    }

    /// <summary>Insulation in ohm at a test voltage: L and N joined, to the earth pin or to accessible metal.</summary>
    public double InsulationOhms(double volts, bool toAccessible)
    {
        // The suppressor conducts above its clamp voltage: found by iteration, as its resistance depends on what is across it.
        var suppressor = Open;
        var measured = 0.0;
        for (var round = 0; round < 12; round++)
        {
            var net = new Network();
            var nodes = Build(net, suppressor, earthPinOpen: false);
            var inner = net.AddNode();
            var ammeter = net.Source(inner, Network.Earth, volts);
            net.Resistor(inner, nodes.Line, InsulationSeries);
            net.Resistor(nodes.Line, nodes.Neutral, 1e-6);
            net.Resistor(toAccessible ? nodes.Accessible : nodes.EarthPin, Network.Earth, 1e-6);
            var solved = net.Solve(0);
            var current = solved.SourceCurrent(ammeter).Real;
            measured = current < 1e-13 ? Open : solved.Voltage(nodes.Line).Real / current;
            var across = solved.Voltage(nodes.LiveInside).Magnitude;
            var next = state.Item.SurgeProtected && across > ClampVolts ? 60e3 : Open;
            if (next.Equals(suppressor))
                break;
            suppressor = next;
        }
        return measured;
    }

    /// <param name="Amperes">Through the body network.</param>
    /// <param name="LoadAmperes">Drawn from the line.</param>
    public sealed record LeakageResult(double Amperes, double LoadAmperes);

    /// <summary>Leakage through the 1 kilohm body network of IEC 60601-1, weighted by its 10 kilohm and 15 nanofarad.</summary>
    public LeakageResult Leakage(Conditions.Leakage under, Supply supply)
    {
        var net = new Network();
        var earthOpen = under.Earth == ConductorState.Open;
        // All but the two that sit in the protective conductor are taken from what a person or patient touches.
        var touch = under.Kind is not (LeakageKind.ProtectiveConductor or LeakageKind.Earth);
        var nodes = Build(net, Open, earthPinOpen: false);
        var reversed = under.Polarity == MainsPolarity.Reversed;
        var (hot, cold) = reversed ? (nodes.Neutral, nodes.Line) : (nodes.Line, nodes.Neutral);
        int feed;
        if (under.Method == LeakageMethod.Alternative)
        {
            feed = net.Source(nodes.Line, Network.Earth, supply.Volts);
            net.Resistor(nodes.Line, nodes.Neutral, 1e-6);
        }
        else
        {
            feed = net.Source(hot, Network.Earth, supply.Volts);
            if (under.Neutral == ConductorState.Closed)
                net.Resistor(cold, Network.Earth, 1e-3);
        }
        var metered = touch && under.Method != LeakageMethod.Alternative ? nodes.Accessible : nodes.EarthPin;
        // Equipment leakage is measured with the protective earth interrupted; touch current with it in place unless it is opened on
        // purpose.
        if (
            touch
            && under.Kind != LeakageKind.Equipment
            && state.Item.Class is ProtectionClass.I
            && !earthOpen
            && metered == nodes.Accessible
        )
            net.Resistor(nodes.EarthPin, Network.Earth, 0.05);
        if (state.Item.Class is ProtectionClass.II or ProtectionClass.III && !touch)
            metered = nodes.Accessible;
        var capacitorNode = net.AddNode();
        const double Body = 1e3;
        net.Resistor(metered, Network.Earth, Body);
        net.Resistor(metered, capacitorNode, 10e3);
        net.Capacitor(capacitorNode, Network.Earth, 15e-9);
        var solved = net.Solve(supply.Hertz);
        return new(solved.Voltage(capacitorNode).Magnitude / Body, solved.SourceCurrent(feed).Magnitude);
    }

    /// <summary>Trip time in seconds, or null when the RCD stays in. It trips from about seven tenths of its rating, faster the larger
    /// the current.</summary>
    public double? RcdTripSeconds(double multiple, int phaseDeg)
    {
        if (multiple < 0.7 || state.Defect == Defect.OpenLine)
            return null;
        var halfWave = phaseDeg == 180 ? 0.004 : 0;
        return state.RcdSeconds / Math.Pow(multiple, 0.6) + halfWave;
    }

    /// <summary>Line arrives on line and neutral on neutral, at the far end of a lead.</summary>
    public bool PolarityIsRight =>
        state.Defect is not (Defect.CrossedLineAndNeutral or Defect.OpenLine or Defect.OpenNeutral or Defect.BlownFuse);

    /// <summary>L and N run through and nothing lies between them.</summary>
    public bool WiringIsRight => state.Defect is not (Defect.OpenLine or Defect.OpenNeutral or Defect.BlownFuse or Defect.LineNeutralShort);

    private const double ClampVolts = 350;

    private double EarthPath =>
        state.Item.Class switch
        {
            ProtectionClass.II or ProtectionClass.III when state.Defect != Defect.CaseTouchesEarth => Open,
            ProtectionClass.INoAccessibleMetal => Open,
            _ when state.Defect == Defect.OpenEarth => Open,
            _ => state.FlexOhmPerConductor + state.BondOhm,
        };

    private readonly record struct Nodes(int Line, int Neutral, int EarthPin, int Accessible, int LiveInside);

    /// <summary>Pins, flex, fuse, switch, load, insulation and filter: the branches every measurement sees.</summary>
    private Nodes Build(Network net, double suppressor, bool earthPinOpen)
    {
        var (line, neutral, pin, accessible) = (net.AddNode(), net.AddNode(), net.AddNode(), net.AddNode());
        var (liveIn, neutralIn) = (net.AddNode(), net.AddNode());
        var switchOpen = state.Defect == Defect.SwitchOff;
        net.Resistor(
            line,
            liveIn,
            state.Defect is Defect.OpenLine or Defect.BlownFuse || switchOpen ? Open : state.FlexOhmPerConductor + 0.01
        );
        net.Resistor(neutral, neutralIn, state.Defect == Defect.OpenNeutral || switchOpen ? Open : state.FlexOhmPerConductor);
        if (!state.Item.IsCord && state.Item.Kind != ItemKind.PortableRcd)
            net.Resistor(liveIn, neutralIn, LoadOhms);
        if (state.Defect == Defect.LineNeutralShort)
            net.Resistor(liveIn, neutralIn, 0.02);
        net.Resistor(pin, accessible, earthPinOpen ? Open : EarthPath);

        // Earthed items insulate towards the protective conductor, the others towards whatever can be touched.
        var earthed =
            state.Item.Class is ProtectionClass.I or ProtectionClass.INoAccessibleMetal or ProtectionClass.Undecided || state.Item.IsCord;
        var sink = earthed ? pin : accessible;
        net.Resistor(liveIn, sink, 2 * state.InsulationOhm);
        net.Resistor(neutralIn, sink, 2 * state.InsulationOhm);
        net.Capacitor(liveIn, sink, earthed ? state.FilterLineFarad : state.CaseFarad);
        net.Capacitor(neutralIn, sink, earthed ? state.FilterNeutralFarad : state.CaseFarad);
        if (earthed)
        {
            // What lies behind the earthed metal when its earth is lost.
            net.Resistor(liveIn, accessible, 4 * state.InsulationOhm);
            net.Capacitor(liveIn, accessible, state.CaseFarad);
        }
        net.Resistor(liveIn, sink, suppressor);
        return new(line, neutral, pin, accessible, liveIn);
    }

    private double LoadOhms
    {
        get
        {
            var volts = state.Item.RatedVoltage?.Value ?? 230;
            return state.RatedWatt > 0 ? volts * volts / state.RatedWatt : 20e3;
        }
    }
}
