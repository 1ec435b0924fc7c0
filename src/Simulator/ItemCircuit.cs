using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Simulator.Circuits;

namespace Osierwand.Simulator;

/// <summary>How an item stands at one moment.</summary>
/// <param name="IsOn">By its own switch.</param>
/// <param name="PoweredSeconds">How long it has been on mains; null while it is dead.</param>
/// <param name="Warmth">0 cold, 1 as warm as it gets.</param>
/// <param name="Bend">How far the flex is bent at its strain relief, 0 to 1.</param>
/// <param name="IsRcdClosed">Of what is, or carries, an RCD.</param>
/// <param name="IsSuppressing">The suppressor conducts.</param>
internal sealed record Moment(
    bool IsOn = true,
    double? PoweredSeconds = null,
    double Warmth = 0,
    double Bend = 0,
    bool IsRcdClosed = true,
    bool IsSuppressing = false
);

/// <summary>The nodes of an item's equivalent circuit in a network: what plugs, probes and clips are joined to.</summary>
internal sealed class ItemCircuit
{
    private const double SwitchOhm = 0.008;

    /// <summary>Series resistance of what soaks up charge: with its capacitance it takes a second or two.</summary>
    private const double SoakOhm = 4e9;
    private const double ConductingOhm = 60e3;

    /// <summary>From the electronics to the patient's connections.</summary>
    private const double BiasOhm = 10e6;

    /// <summary>Mains pins: one line, or three.</summary>
    public required ImmutableArray<int> Lines { get; init; }
    public required int Neutral { get; init; }
    public required int EarthPin { get; init; }

    /// <summary>Where the flex's protective conductor ends: at a device's inlet or terminal.</summary>
    public required int EarthEnd { get; init; }

    /// <summary>Line behind flex, fuse and switch: what the suppressor sits at.</summary>
    public required int LiveInside { get; init; }

    /// <summary>By name.</summary>
    public required ImmutableDictionary<string, int> Metals { get; init; }
    public required ImmutableArray<(int Line, int Neutral, int Earth)> Outlets { get; init; }

    /// <summary>Of each applied part its connections.</summary>
    public required ImmutableArray<ImmutableArray<int>> Parts { get; init; }

    /// <summary>What a clip or foil lies on where no name is given.</summary>
    public int FirstMetal(ItemBuild build) => Metals[build.Metals[0].Name];

    public static ItemCircuit Of(Network net, ItemBuild build, Moment now, bool withBias = false)
    {
        var phases = build.Item.Phases == 3 ? 3 : 1;
        ImmutableArray<int> pins = [.. Enumerable.Range(0, phases).Select(_ => net.AddNode())];
        var (neutralPin, earthPin) = (net.AddNode(), net.AddNode());
        // Where the flex ends: terminals, before switch and outlets.
        ImmutableArray<int> ends = [.. pins.Select(_ => net.AddNode())];
        var (neutralEnd, earthEnd) = (net.AddNode(), net.AddNode());
        for (var n = 0; n < phases; n++)
            net.Resistor(
                n == 0 && build.IsCrossedInPlug ? neutralPin : pins[n],
                ends[n],
                build.LineJointOhm + build.FuseOhm + build.FlexOhm
            );
        net.Resistor(build.IsCrossedInPlug ? pins[0] : neutralPin, neutralEnd, build.NeutralJointOhm + build.FlexOhm);
        if (build.HasEarthPin)
            net.Resistor(earthPin, earthEnd, build.EarthJointOhm + build.FlexOhm + build.EarthWobbleOhm * now.Bend);
        net.Resistor(ends[0], neutralEnd, build.LineToNeutralOhm);

        var (lives, neutralIn) = Switched(net, build, now, ends, neutralEnd);
        for (var n = 0; n < phases; n++)
            net.Resistor(lives[n], neutralIn, LoadOhm(build, now));

        var metals = build.Metals.ToImmutableDictionary(metal => metal.Name, _ => net.AddNode());
        foreach (var metal in build.Metals)
        {
            net.Resistor(earthEnd, metals[metal.Name], metal.BondOhm);
            net.Resistor(metals[metal.Name], Network.Earth, metal.StrayOhm);
        }
        // Earthed items insulate towards the protective conductor, the others towards whatever can be touched.
        var isEarthed = ItemMaking.IsEarthed(build.Item) || build.Outlets.Length > 0 && build.HasEarthPin;
        var sink = isEarthed ? earthEnd : metals[build.Metals[0].Name];
        // Of three phases each line has its third of what is measured with all of them joined.
        foreach (var live in lives)
            Insulate(net, live, sink, build.Line, build.Moisture, now.Warmth, 1.0 / phases);
        Insulate(net, neutralIn, sink, build.Neutral, build.Moisture, now.Warmth, 1);
        foreach (var metal in build.Metals)
            if (isEarthed || metal != build.Metals[0])
                Insulate(net, lives[0], metals[metal.Name], build.ToMetal, 0, 0, 1);
        if (now.IsSuppressing)
            net.Resistor(lives[0], isEarthed ? sink : neutralIn, ConductingOhm);

        return new()
        {
            Lines = pins,
            Neutral = neutralPin,
            EarthPin = earthPin,
            EarthEnd = earthEnd,
            LiveInside = lives[0],
            Metals = metals,
            Outlets = [.. build.Outlets.Select(outlet => Outlet(net, outlet, lives[0], neutralIn, earthEnd))],
            Parts =
            [
                .. build.Parts.Select(part =>
                    Part(net, part, isEarthed ? earthEnd : sink, lives[0], build.Item.Class == ProtectionClass.Internal, withBias)
                ),
            ],
        };
    }

    /// <summary>Behind the item's own switch; what is electronic closes only on mains.</summary>
    private static (ImmutableArray<int> Lives, int Neutral) Switched(
        Network net,
        ItemBuild build,
        Moment now,
        ImmutableArray<int> ends,
        int neutralEnd
    )
    {
        var isClosed = now.IsOn && (build.Item.MainsSwitch == MainsSwitch.Mechanical || now.PoweredSeconds is not null);
        if (build.Outlets.Length > 0)
            isClosed = now.IsOn;
        if (build.Rcd is not null)
            isClosed &= now.IsRcdClosed;
        if (!isClosed)
            return ([.. ends.Select(_ => net.AddNode())], net.AddNode());
        var lives = ends.Select(end =>
        {
            var live = net.AddNode();
            if (!build.IsCutOut)
                net.Resistor(end, live, SwitchOhm);
            return live;
        });
        var neutral = net.AddNode();
        net.Resistor(neutralEnd, neutral, SwitchOhm);
        return ([.. lives], neutral);
    }

    private static double LoadOhm(ItemBuild build, Moment now) =>
        build.SoftStartSeconds > 0 && (now.PoweredSeconds ?? 0) < build.SoftStartSeconds ? double.PositiveInfinity : build.LoadOhm;

    private static void Insulate(Network net, int live, int sink, InsulationBuild of, double moisture, double warmth, double share)
    {
        var ohm = of.Ohm / share / (1 + moisture * (1 - warmth));
        net.Resistor(live, sink, ohm);
        net.Capacitor(live, sink, of.Farad * share);
        if (of.SoakFarad <= 0)
            return;
        var soaks = net.AddNode();
        net.Resistor(live, soaks, SoakOhm / share);
        net.Capacitor(soaks, sink, of.SoakFarad * share);
    }

    private static (int, int, int) Outlet(Network net, OutletBuild of, int line, int neutral, int earth)
    {
        var (l, n, e) = (net.AddNode(), net.AddNode(), net.AddNode());
        net.Resistor(of.IsCrossed ? neutral : line, l, of.LineOhm);
        net.Resistor(of.IsCrossed ? line : neutral, n, of.NeutralOhm);
        net.Resistor(earth, e, of.EarthOhm);
        return (l, n, e);
    }

    private static ImmutableArray<int> Part(Network net, PartBuild part, int metal, int live, bool isInternal, bool withBias)
    {
        // Behind the barrier: what all connections of the part come from.
        var inside = net.AddNode();
        net.Resistor(inside, metal, part.ToMetal.Ohm);
        net.Capacitor(inside, metal, part.ToMetal.Farad);
        if (!isInternal)
        {
            net.Resistor(inside, live, part.ToLive.Ohm);
            net.Capacitor(inside, live, part.ToLive.Farad);
        }
        ImmutableArray<int> connections = [.. part.ConnectionOhm.Select(_ => net.AddNode())];
        for (var n = 0; n < connections.Length; n++)
            net.Resistor(inside, connections[n], part.IsConnected ? part.ConnectionOhm[n] : double.PositiveInfinity);
        if (withBias && part.BiasVolts != 0 && part.IsConnected)
        {
            var electronics = net.AddNode();
            // On the isolated side: it drives a current among the connections, not to earth.
            net.Source(electronics, inside, part.BiasVolts);
            net.Resistor(electronics, connections[0], BiasOhm);
        }
        return connections;
    }
}
