using System.Collections.Immutable;
using System.Globalization;
using System.Numerics;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Simulator.Circuits;

namespace Osierwand.Simulator;

/// <summary>What a leakage test found.</summary>
/// <param name="Amperes">Through the body network, or the difference of the currents in the conductors.</param>
/// <param name="LoadAmperes">Drawn from the line.</param>
/// <param name="ResidualAmperes">Out by the line and not back by the neutral: what the building's RCD sees.</param>
/// <param name="MainsVolts">Supplied.</param>
/// <param name="Spot">Between which connections it flows, where several were tried; null else.</param>
internal sealed record LeakageFound(double Amperes, double LoadAmperes, double ResidualAmperes, double MainsVolts, string? Spot = null);

/// <summary>From which connections of a part to which: counted from 0.</summary>
internal readonly record struct ConnectionsJoined(ImmutableArray<int> From, ImmutableArray<int> To, string Text);

/// <summary>
/// The simulated analyser's sources, switches and meters, and how they are joined to an item for each test. Every figure comes from
/// solving the network that results; there is no table of answers.
/// </summary>
internal sealed class TestSet(ItemBuild build, Hands hands, MainsHere mains)
{
    private const double Open = double.PositiveInfinity;
    private const double EarthTestVolts = 6;
    private const double EarthTestAmperes = 0.2;

    /// <summary>What an insulation test drives through a short, at most.</summary>
    private const double InsulationAmperes = 1.2e-3;

    /// <summary>Between the instrument's earth terminal and the world's earth: the building's protective conductor.</summary>
    private const double BuildingEarthOhm = 0.1;
    private const double LineSourceOhm = 0.3;
    private const double NeutralSourceOhm = 0.2;

    /// <summary>Keeps a short on a patient connection from drawing more.</summary>
    private const double LimitingOhm = 47e3;

    /// <summary>Less than this between two ends of a conductor and it is whole.</summary>
    private const double ContinuityOhm = 50;

    /// <summary>Less than this between L and N and something is connected: a load, a filter's bleeder, a lamp.</summary>
    private const double PathOhm = 100e3;

    /// <summary>Resistance between the earth pin, or what stands for it, and the probe; without the test lead.</summary>
    public double EarthOhms(Conditions.EarthContinuity under, Moment now)
    {
        var net = new Network();
        var item = ItemCircuit.Of(net, build, now);
        var terminal = InstrumentEarth(net);
        net.Wire(under.Part == EarthPart.DeviceAlone ? item.EarthEnd : item.EarthPin, terminal);
        var probe = net.AddNode();
        var (from, to) = under.Path == EarthPath.Loop ? Loop(net, item, under.At) : (terminal, probe);
        if (under.Path != EarthPath.Loop && hands.IsClipOn)
            net.Resistor(Probed(item, under), probe, hands.ClipOhm);
        return Ohms(net, from, to, EarthTestVolts, EarthTestVolts / EarthTestAmperes);
    }

    /// <summary>From what the probe lies on to the instrument's earth, by whatever way.</summary>
    public double ProbeToEarthOhms(Spot? at, Moment now)
    {
        var net = new Network();
        var item = ItemCircuit.Of(net, build, now);
        var terminal = InstrumentEarth(net);
        net.Wire(item.EarthPin, terminal);
        var probe = net.AddNode();
        Clip(net, item, at, probe);
        return Ohms(net, probe, terminal, EarthTestVolts, 1e3);
    }

    /// <summary>Insulation from the mains pins joined, after one more step of time.</summary>
    /// <param name="charged">What the capacitors have been charged to so far.</param>
    public double InsulationOhms(Conditions.Insulation under, double volts, Moment now, double seconds, List<double> charged)
    {
        var dead = under.Part == InsulationPart.CordAlone ? now with { IsOn = false } : now;
        // The suppressor conducts above its voltage: found by iteration, as what is across it depends on whether it does.
        var isSuppressing = false;
        while (true)
        {
            var (net, item, source) = InsulationBench(under, volts, dead with { IsSuppressing = isSuppressing });
            var tried = new List<double>(charged);
            var solved = net.Step(seconds, tried);
            var across = solved.Voltage(item.LiveInside).Magnitude;
            if (build.SuppressorVolts > 0 && !isSuppressing && across > build.SuppressorVolts)
            {
                isSuppressing = true;
                continue;
            }
            charged.Clear();
            charged.AddRange(tried);
            var current = solved.SourceCurrent(source).Real;
            var driven = solved.Voltage(item.Lines[0]).Real;
            return current < 1e-13 ? Open : driven / current;
        }
    }

    private (Network Net, ItemCircuit Item, int Source) InsulationBench(Conditions.Insulation under, double volts, Moment now)
    {
        var net = new Network();
        var item = ItemCircuit.Of(net, build, now);
        var terminal = InstrumentEarth(net);
        foreach (var line in item.Lines)
            net.Wire(line, item.Neutral);
        switch (under.Between)
        {
            case Between.MainsToAppliedPart:
                foreach (var connection in PartsOf(item, under.AppliedPart))
                    net.Wire(connection, terminal);
                break;
            case Between.MainsToAccessible:
                Clip(net, item, under.At, terminal);
                break;
            default:
                net.Wire(item.EarthPin, terminal);
                // What has no earth pin is measured to what can be touched: the probe lies on it.
                if (!build.HasEarthPin)
                    Clip(net, item, under.At, terminal);
                break;
        }
        var inner = net.AddNode();
        var source = net.Source(inner, terminal, volts);
        net.Resistor(inner, item.Lines[0], volts / InsulationAmperes);
        return (net, item, source);
    }

    /// <summary>Whether anything is connected between L and N, at a few volts of alternating current.</summary>
    public bool SeesPath(Moment now, double hertz)
    {
        var net = new Network();
        var item = ItemCircuit.Of(net, build, now);
        net.Wire(item.Neutral, Network.Earth);
        var inner = net.AddNode();
        var source = net.Source(inner, Network.Earth, 4);
        net.Resistor(inner, item.Lines[0], 1e3);
        var current = net.Solve(hertz).SourceCurrent(source).Real;
        return current > 4 / PathOhm;
    }

    /// <summary>Powered or by the alternative method, as its condition says. Between connections every pair, or each against all others, is
    /// tried in turn, and the largest counts.</summary>
    public LeakageFound Leakage(Conditions.Leakage under, MeasurementRequest asked, Moment now)
    {
        LeakageFound? worst = null;
        foreach (var joined in Joinings(under))
        {
            var found = Leakage(under, asked, now, joined);
            if (worst is null || found.Amperes > worst.Amperes)
                worst = joined is { } one ? found with { Spot = one.Text } : found;
        }
        return worst!;
    }

    /// <summary>Of a current from lead to lead each pair, of an auxiliary current each connection against all the others joined.</summary>
    private IEnumerable<ConnectionsJoined?> Joinings(Conditions.Leakage under)
    {
        var part = build.Parts.FirstOrDefault(it => it.Name == under.AppliedPart);
        if (part is null || part.ConnectionOhm.Length < 2 || under.Kind is not (LeakageKind.LeadToLead or LeakageKind.PatientAuxiliary))
            return [null];
        var all = Enumerable.Range(0, part.ConnectionOhm.Length).ToArray();
        return under.Kind == LeakageKind.LeadToLead
            ? all.SelectMany(from =>
                all[(from + 1)..].Select(to => (ConnectionsJoined?)new([from], [to], $"connection {from + 1} to connection {to + 1}"))
            )
            : all.Select(from => (ConnectionsJoined?)new([from], [.. all.Where(to => to != from)], $"connection {from + 1} to the others"));
    }

    private LeakageFound Leakage(Conditions.Leakage under, MeasurementRequest asked, Moment now, ConnectionsJoined? joined)
    {
        var net = new Network();
        var isDc = under.Current == CurrentType.Dc;
        var item = ItemCircuit.Of(net, build, now, withBias: isDc);
        var terminal = InstrumentEarth(net);
        var volts = asked.Supply.NominalV * mains.Share;
        var feeds = under.Method == LeakageMethod.Alternative ? Joined(net, item, under, terminal, volts) : Power(net, item, under, asked);
        var meter = Meter(net, item, under, terminal, volts, joined);
        var solved = net.Solve(isDc ? 0 : asked.Hertz);
        var residual = feeds.Aggregate(Complex.Zero, (sum, feed) => sum + solved.SourceCurrent(feed));
        var load = feeds.IsEmpty ? 0 : solved.SourceCurrent(feeds[0]).Magnitude;
        return new(meter?.Amperes(solved) ?? residual.Magnitude, load, residual.Magnitude, volts);
    }

    /// <summary>A residual current through an RCD, as the circuit lets it flow.</summary>
    /// <returns>R.m.s. in ampere, and the voltage behind the device.</returns>
    public (double Residual, double Behind) Residual(double wantedAmperes, MeasurementRequest asked, Moment now)
    {
        var net = new Network();
        var item = ItemCircuit.Of(net, build, now with { PoweredSeconds = 0 });
        var terminal = InstrumentEarth(net);
        var feeds = Power(net, item, new(LeakageKind.ProtectiveConductor), asked);
        net.Wire(item.EarthPin, terminal);
        var behind = item.Outlets.IsEmpty ? item.LiveInside : item.Outlets[0].Line;
        net.Resistor(behind, terminal, asked.Supply.NominalV * mains.Share / wantedAmperes);
        var solved = net.Solve(asked.Hertz);
        var residual = feeds.Aggregate(Complex.Zero, (sum, feed) => sum + solved.SourceCurrent(feed));
        return (residual.Magnitude, solved.Voltage(behind).Magnitude);
    }

    /// <summary>The RCD's own button: a resistor from behind the device in one conductor to before it in the other.</summary>
    /// <returns>The residual current it makes; 0 where the button is dead or nothing is live.</returns>
    public double ButtonAmperes(MeasurementRequest asked, Moment now) =>
        build.Rcd is not { } rcd || !now.IsRcdClosed || double.IsPositiveInfinity(rcd.ButtonOhm)
            ? 0
            : Residual(2.5 * rcd.RatedAmperes, asked, now).Residual;

    /// <summary>Line and neutral from the plug to each outlet, and nothing between them.</summary>
    /// <param name="outlet">Counted from 1; null looks at all of them.</param>
    public (bool IsShort, bool IsOpen, bool IsCrossed) Conductors(int? outlet, Moment now)
    {
        var isShort = OhmsBetween(now, it => (it.Lines[0], it.Neutral)) < ContinuityOhm;
        var (isOpen, isCrossed) = (false, false);
        for (var n = 0; n < Math.Max(1, build.Outlets.Length); n++)
        {
            if (outlet is { } one && n != one - 1)
                continue;
            var at = n;
            bool Whole(Func<ItemCircuit, int> near, Func<ItemCircuit, int> far) =>
                OhmsBetween(now, it => (near(it), far(it))) < ContinuityOhm;
            var lineToLine = Whole(it => it.Lines[0], it => Far(it, at).Line);
            var neutralToNeutral = Whole(it => it.Neutral, it => Far(it, at).Neutral);
            var lineToNeutral = Whole(it => it.Lines[0], it => Far(it, at).Neutral);
            var neutralToLine = Whole(it => it.Neutral, it => Far(it, at).Line);
            isOpen |= (!lineToLine && !lineToNeutral) || (!neutralToNeutral && !neutralToLine);
            isCrossed |= !isShort && (lineToNeutral || neutralToLine);
        }
        return (isShort, isOpen, isCrossed);
    }

    private static (int Line, int Neutral, int Earth) Far(ItemCircuit item, int outlet) =>
        item.Outlets.IsEmpty ? (item.LiveInside, item.Neutral, item.EarthEnd) : item.Outlets[outlet];

    private double OhmsBetween(Moment now, Func<ItemCircuit, (int, int)> ends)
    {
        var net = new Network();
        var (from, to) = ends(ItemCircuit.Of(net, build, now));
        return Ohms(net, from, to, 4, 10);
    }

    /// <summary>By the current that a source drives from one node to another.</summary>
    private static double Ohms(Network net, int from, int to, double volts, double seriesOhm)
    {
        var inner = net.AddNode();
        var source = net.Source(inner, to, volts);
        net.Resistor(inner, from, seriesOhm);
        var solved = net.Solve(0);
        var current = solved.SourceCurrent(source).Real;
        return current < 1e-9 ? Open : (solved.Voltage(from) - solved.Voltage(to)).Real / current;
    }

    private static int InstrumentEarth(Network net)
    {
        var terminal = net.AddNode();
        net.Resistor(terminal, Network.Earth, BuildingEarthOhm);
        return terminal;
    }

    private static (int, int) Loop(Network net, ItemCircuit item, Spot? at)
    {
        var far = Far(item, at is Spot.Outlet outlet ? outlet.Number - 1 : 0);
        net.Wire(far.Line, far.Earth);
        return (item.Lines[0], item.EarthPin);
    }

    private int Probed(ItemCircuit item, Conditions.EarthContinuity under) =>
        under.Part == EarthPart.CordAlone ? item.EarthEnd
        : item.Outlets.IsEmpty ? MetalAt(item, under.At)
        : item.Outlets[under.At is Spot.Outlet outlet && outlet.Number <= item.Outlets.Length ? outlet.Number - 1 : 0].Earth;

    /// <summary>A name that the item does not have is somewhere on its first metal.</summary>
    private int MetalAt(ItemCircuit item, Spot? at) =>
        at is Spot.Probe probe && item.Metals.TryGetValue(probe.Name, out var node) ? node : item.FirstMetal(build);

    private void Clip(Network net, ItemCircuit item, Spot? at, int terminal)
    {
        if (hands.IsClipOn && IsOnSomething)
            net.Resistor(MetalAt(item, at), terminal, hands.ClipOhm + 0.001);
    }

    /// <summary>A probe on plastic touches nothing: foil or mesh must lie round it.</summary>
    private bool IsOnSomething => !build.Item.AllInsulated || hands.ProbeOn is ProbeOn.Foil or ProbeOn.Mesh;

    private IEnumerable<int> PartsOf(ItemCircuit item, string? name) =>
        build.Parts.Zip(item.Parts).Where(it => name is null || it.First.Name == name).SelectMany(it => it.Second);

    /// <summary>Mains on the pins: in either polarity, from a centre that is earthed, or in three phases.</summary>
    private ImmutableArray<int> Power(Network net, ItemCircuit item, Conditions.Leakage under, MeasurementRequest asked)
    {
        if (build.Item.Class == ProtectionClass.Internal)
            return [];
        var volts = under.Current == CurrentType.Dc ? 0 : asked.Supply.NominalV * mains.Share;
        var feeds = new List<int>();
        void Feed(int pin, Complex of, double ohm)
        {
            var inner = net.AddNode();
            feeds.Add(net.Source(inner, Network.Earth, of));
            net.Resistor(inner, pin, ohm);
        }
        var isReversed = under.Polarity == MainsPolarity.Reversed && item.Lines.Length == 1;
        var (hot, cold) = isReversed ? (item.Neutral, item.Lines[0]) : (item.Lines[0], item.Neutral);
        var half = asked.Supply.IsCentreEarthed ? 0.5 : 1;
        Feed(hot, volts * half, LineSourceOhm);
        for (var n = 1; n < item.Lines.Length; n++)
            Feed(item.Lines[n], Complex.FromPolarCoordinates(volts, 2 * Math.PI * n / 3), LineSourceOhm);
        if (under.Neutral == ConductorState.Closed)
            Feed(cold, asked.Supply.IsCentreEarthed ? -volts * half : 0, NeutralSourceOhm);
        return [.. feeds];
    }

    /// <summary>Not powered: the mains pins joined and supplied by the instrument against what the current goes to.</summary>
    private static ImmutableArray<int> Joined(Network net, ItemCircuit item, Conditions.Leakage under, int terminal, double volts)
    {
        foreach (var line in item.Lines)
            net.Wire(line, item.Neutral);
        if (under.Kind == LeakageKind.AppliedPart)
        {
            // Mains part and protective conductor are one end, the applied part is the other: see Meter.
            net.Wire(item.Neutral, terminal);
            net.Wire(item.EarthPin, terminal);
            return [];
        }
        return [net.Source(item.Neutral, terminal, volts)];
    }

    /// <summary>The meter for this condition, and what its clip and the protective conductor are joined to.</summary>
    /// <returns>Null where the difference of the supply's currents is what is measured.</returns>
    private BodyNetwork? Meter(
        Network net,
        ItemCircuit item,
        Conditions.Leakage under,
        int terminal,
        double volts,
        ConnectionsJoined? between
    )
    {
        var earth = net.AddNode();
        // The outlet's protective conductor, which may stand at another potential than the world around.
        net.Source(earth, terminal, mains.EarthVolts);
        var isClosed = under.Earth == ConductorState.Closed;
        var differs = under.Method == LeakageMethod.Differential;
        switch (under.Kind)
        {
            case LeakageKind.ProtectiveConductor or LeakageKind.Earth or LeakageKind.Equipment:
                if (under.Kind == LeakageKind.Equipment)
                    JoinWhatIsNotEarthed(net, item, differs ? earth : item.EarthPin);
                if (differs)
                {
                    net.Wire(item.EarthPin, earth);
                    return null;
                }
                // Without an earth pin, and of fixed equipment before it is bonded, it flows where somebody would touch.
                if (!build.HasEarthPin || !isClosed)
                    Clip(net, item, under.At, item.EarthPin);
                return BodyNetwork.Between(net, item.EarthPin, earth);
            case LeakageKind.Touch:
                if (isClosed || differs)
                    net.Resistor(item.EarthPin, earth, 0.001);
                var probe = net.AddNode();
                Clip(net, item, under.At, probe);
                return BodyNetwork.Between(net, probe, terminal);
            default:
                if (isClosed && under.Method != LeakageMethod.Alternative)
                    net.Wire(item.EarthPin, earth);
                return OnPatient(net, item, under, terminal, volts, between);
        }
    }

    private void JoinWhatIsNotEarthed(Network net, ItemCircuit item, int to)
    {
        foreach (var metal in build.Metals)
            if (double.IsPositiveInfinity(metal.BondOhm))
                Clip(net, item, new Spot.Probe(metal.Name), to);
        foreach (var (part, connections) in build.Parts.Zip(item.Parts))
            if (part.Type == AppliedPartType.B)
                foreach (var connection in connections)
                    net.Wire(connection, to);
    }

    private BodyNetwork OnPatient(
        Network net,
        ItemCircuit item,
        Conditions.Leakage under,
        int terminal,
        double volts,
        ConnectionsJoined? between
    )
    {
        var all = PartsOf(item, under.Kind is LeakageKind.LeadToGround or LeakageKind.TotalPatient ? null : under.AppliedPart).ToArray();
        var joined = net.AddNode();
        if (between is { } pair)
        {
            var from = net.AddNode();
            foreach (var one in pair.From)
                net.Wire(all[one], from);
            foreach (var other in pair.To)
                net.Wire(all[other], joined);
            return BodyNetwork.Between(net, from, joined);
        }
        if (Connection(under.At) is { } number && number <= all.Length)
            all = [all[number - 1]];
        foreach (var connection in all)
            net.Wire(connection, joined);
        if (under.Kind == LeakageKind.MainsOnAccessiblePart)
            Mains(net, MetalAt(item, under.At), terminal, volts);
        if (under.Kind is not (LeakageKind.AppliedPart or LeakageKind.MainsOnAppliedPart))
            return BodyNetwork.Between(net, joined, terminal);
        // From battery to what can be touched there is no other way than the metal itself.
        if (build.Item.Class == ProtectionClass.Internal)
            Clip(net, item, under.At, terminal);
        var hot = net.AddNode();
        Mains(net, hot, terminal, volts);
        return BodyNetwork.Between(net, hot, joined);
    }

    /// <summary>"connection 3", counted from 1; null where all of a part are joined.</summary>
    private static int? Connection(Spot? at)
    {
        const string Word = "connection ";
        return
            at is Spot.Probe { Name: var name }
            && name.StartsWith(Word, StringComparison.Ordinal)
            && int.TryParse(name.AsSpan(Word.Length), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            && number > 0
            ? number
            : null;
    }

    private static void Mains(Network net, int onto, int terminal, double volts)
    {
        var inner = net.AddNode();
        net.Source(inner, terminal, volts);
        net.Resistor(inner, onto, LimitingOhm);
    }
}
