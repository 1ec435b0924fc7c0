using System.Numerics;
using CsCheck;
using Osierwand.Core.Equipment;
using Osierwand.Core.Outlets;
using Osierwand.Core.Standards;
using Osierwand.Simulator;
using Osierwand.Simulator.Circuits;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>The physics: what must hold whatever the item.</summary>
public class CircuitTests
{
    private static readonly double Omega = 2 * Math.PI * 50;

    /// <summary>Mains of just 230 V on a bench without errors of its own, so that the textbook's formula applies.</summary>
    private static readonly MainsHere Mains = new(Share: 1);

    /// <summary>An earthed item with filter capacitors and next to no flex.</summary>
    private static ItemBuild Filter(double line, double neutral, double watts = 100) =>
        new()
        {
            Item = new Item { Kind = ItemKind.Appliance, RatedVoltage = new(230) },
            FlexOhm = 1e-3,
            FuseOhm = 1e-3,
            Line = new(1e12, line),
            Neutral = new(1e12, neutral),
            ToMetal = new(1e13, 0),
            HasEarthPin = true,
            Metals = [new(ItemMaking.OnlyMetal, 1e-3)],
            LoadOhm = 230 * 230 / watts,
            RatedWatts = watts,
        };

    private static double Leakage(ItemBuild build, Conditions.Leakage under, Hands? hands = null, MainsHere? mains = null) =>
        Found(build, under, hands, mains).Amperes;

    private static LeakageFound Found(ItemBuild build, Conditions.Leakage under, Hands? hands = null, MainsHere? mains = null) =>
        new TestSet(build, hands ?? new(), mains ?? Mains).Leakage(under, new(under, new OutletSupply(230)), new(PoweredSeconds: 10));

    private static readonly Gen<Network> Networks = Gen.Select(
            Gen.Int[2, 8],
            Gen.Double[0.01, 1e6].Array[28],
            Gen.Double[1e-12, 1e-6].Array[28],
            Gen.Int[0, 7].Array[2]
        )
        .Select(
            (count, ohms, farads, wired) =>
            {
                var net = new Network();
                var nodes = Enumerable.Range(0, count).Select(_ => net.AddNode()).ToArray();
                net.Source(nodes[0], Network.Earth, new Complex(230, 0));
                var k = 0;
                for (var a = 0; a < count; a++)
                for (var b = a + 1; b < count && k < 28; b++, k++)
                {
                    net.Resistor(nodes[a], b == a + 1 ? nodes[b] : Network.Earth, ohms[k]);
                    net.Capacitor(nodes[a], nodes[b], farads[k]);
                }
                // Two nodes become one, but never the source's.
                if (wired[0] % count > 0 && wired[1] % count > 0)
                    net.Wire(nodes[wired[0] % count], nodes[wired[1] % count]);
                return net;
            }
        );

    [Fact]
    public void Kirchhoff_holds_at_every_node_at_rest_and_while_capacitors_charge() =>
        Gen.Select(Networks, Gen.Double[0, 400], Gen.Double[1e-4, 1])
            .Sample(
                (net, hertz, step) =>
                {
                    var charged = new List<double>();
                    foreach (var solved in new[] { net.Solve(hertz), net.Step(step, charged), net.Step(step, charged) })
                        for (var node = 2; node < net.Nodes; node++)
                            solved.Imbalance(node).Magnitude.ShouldBeLessThan(1e-9);
                }
            );

    [Fact]
    public void Every_item_of_every_kind_obeys_Kirchhoff_with_every_fault() =>
        Gen.Select(Gen.Int[0, Things.All.Count - 1], Gen.Enum<Fault>(), Gen.Double[0, 1], Gen.Bool, Gen.Bool)
            .Sample(
                (thing, fault, bend, isOn, isPowered) =>
                {
                    var item = Things.All[thing];
                    var net = new Network();
                    var build = ItemMaking.Of(item, "K-1", Workshop.Today.AddYears(-3), Workshop.Today).With(fault);
                    var circuit = ItemCircuit.Of(net, build, new(isOn, isPowered ? 4 : null, 0.5, bend));
                    net.Source(circuit.Lines[0], Network.Earth, 230);
                    if (circuit.Neutral != circuit.Lines[0])
                        net.Resistor(circuit.Neutral, Network.Earth, 0.2);
                    net.Resistor(circuit.EarthPin, Network.Earth, 0.1);
                    var solved = net.Solve(50);
                    for (var node = 1; node < net.Nodes; node++)
                        if (node != circuit.Lines[0])
                            solved.Imbalance(node).Magnitude.ShouldBeLessThan(1e-9);
                },
                iter: 2_000
            );

    [Fact]
    public void Alternative_leakage_is_that_of_both_capacitors_and_direct_that_of_one() =>
        Gen.Select(Gen.Double[0.2e-9, 8e-9], Gen.Double[0.2e-9, 8e-9])
            .Sample(
                (line, neutral) =>
                {
                    var build = Filter(line, neutral);
                    var current = new Conditions.Leakage(LeakageKind.ProtectiveConductor);
                    var (ofLine, ofNeutral) = (230 * Omega * line, 230 * Omega * neutral);
                    // The body network's kilohm is small beside the capacitors; one per cent covers it.
                    Leakage(build, current with { Method = LeakageMethod.Alternative })
                        .ShouldBe(ofLine + ofNeutral, (ofLine + ofNeutral) * 0.01);
                    Leakage(build, current).ShouldBe(ofLine, ofLine * 0.01 + 1e-7);
                    Leakage(build, current with { Polarity = MainsPolarity.Reversed }).ShouldBe(ofNeutral, ofNeutral * 0.01 + 1e-7);
                    // The difference of the currents in line and neutral is what does not come back.
                    Leakage(build, current with { Method = LeakageMethod.Differential }).ShouldBe(ofLine, ofLine * 0.01 + 1e-7);
                }
            );

    [Fact]
    public void A_symmetric_item_leaks_alike_in_both_polarities() =>
        Gen.Double[0.2e-9, 20e-9]
            .Sample(farad =>
            {
                // Without a load, as its current lifts the neutral by a little.
                var build = Filter(farad, farad) with
                {
                    LoadOhm = double.PositiveInfinity,
                };
                var current = new Conditions.Leakage(LeakageKind.ProtectiveConductor);
                var normal = Leakage(build, current);
                Leakage(build, current with { Polarity = MainsPolarity.Reversed }).ShouldBe(normal, normal * 1e-3);
            });

    [Fact]
    public void Currents_add_where_the_circuit_is_linear()
    {
        var (one, two) = (new Network(), new Network());
        var both = new Network();
        foreach (var (net, volts) in new[] { (one, (100.0, 0.0)), (two, (0.0, 37.0)), (both, (100.0, 37.0)) })
        {
            var (a, b, c) = (net.AddNode(), net.AddNode(), net.AddNode());
            net.Source(a, Network.Earth, volts.Item1);
            net.Source(b, Network.Earth, volts.Item2);
            net.Resistor(a, c, 120);
            net.Capacitor(b, c, 1e-6);
            net.Resistor(c, Network.Earth, 470);
        }
        var sum = one.Solve(50).Voltage(3) + two.Solve(50).Voltage(3);
        (sum - both.Solve(50).Voltage(3)).Magnitude.ShouldBeLessThan(1e-9);
    }

    [Fact]
    public void Opening_the_earth_moves_its_current_into_the_person() =>
        Gen.Double[0.5e-9, 10e-9]
            .Sample(farad =>
            {
                var build = Filter(farad, farad);
                var touch = new Conditions.Leakage(LeakageKind.Touch);
                Leakage(build, touch).ShouldBeLessThan(1e-6);
                var inEarth = Leakage(build, new(LeakageKind.ProtectiveConductor));
                Leakage(build, touch with { Earth = ConductorState.Open }).ShouldBe(inEarth, inEarth * 0.01);
            });

    [Fact]
    public void A_centre_earthed_supply_cancels_what_a_symmetric_filter_leaks()
    {
        var build = Filter(4e-9, 4e-9) with
        {
            Item = new Item { Kind = ItemKind.Appliance, RatedVoltage = new(110) },
        };
        var current = new Conditions.Leakage(LeakageKind.ProtectiveConductor);
        double At(bool isCentred) =>
            new TestSet(build, new(), Mains)
                .Leakage(current, new(current, new OutletSupply(110, 1, isCentred)), new(PoweredSeconds: 10))
                .Amperes;
        At(false).ShouldBe(110 * Omega * 4e-9, 1e-6);
        At(true).ShouldBeLessThan(1e-6);
    }

    [Fact]
    public void Three_balanced_phases_cancel_and_joined_they_add()
    {
        var item = new Item
        {
            Kind = ItemKind.Appliance,
            Phases = 3,
            RatedVoltage = new(400),
            RatedPower = new(6000),
        };
        var build = Filter(6e-9, 0) with { Item = item };
        var current = new Conditions.Leakage(LeakageKind.ProtectiveConductor);
        double By(LeakageMethod method) =>
            new TestSet(build, new(), Mains)
                .Leakage(current with { Method = method }, new(current, new OutletSupply(230, 3)), new(PoweredSeconds: 10))
                .Amperes;
        By(LeakageMethod.Direct).ShouldBeLessThan(1e-6);
        By(LeakageMethod.Alternative).ShouldBe(230 * Omega * 6e-9, 5e-6);
    }

    [Fact]
    public void A_suppressor_conducts_at_500_V_and_not_at_250_V()
    {
        var item = new Item
        {
            Kind = ItemKind.MultiwayAdapter,
            SurgeProtected = true,
            Outlets = 6,
        };
        var build = ItemMaking.Of(item, "S-1", Workshop.Today, Workshop.Today);
        double At(double volts) => new TestSet(build, new(), Mains).InsulationOhms(new(), volts, new(), 1, []);
        At(500).ShouldBeLessThan(1e6);
        At(250).ShouldBeGreaterThan(10e6);
        new TestSet(build.With(Fault.WornSuppressor), new(), Mains).InsulationOhms(new(), 250, new(), 1, []).ShouldBeLessThan(1e6);
    }

    [Fact]
    public void Insulation_climbs_as_its_capacitors_charge()
    {
        var build = Filter(50e-9, 50e-9) with { Line = new(400e6, 50e-9, 4e-9), Neutral = new(400e6, 50e-9, 4e-9) };
        var set = new TestSet(build, new(), Mains);
        var charged = new List<double>();
        var climbing = Enumerable.Range(0, 900).Select(_ => set.InsulationOhms(new(), 500, new(), 0.1, charged)).ToArray();
        for (var n = 1; n < climbing.Length; n++)
            climbing[n].ShouldBeGreaterThanOrEqualTo(climbing[n - 1] * 0.999_999);
        climbing[0].ShouldBeLessThan(climbing[^1] * 0.9);
        // Both halves in parallel, at last.
        climbing[^1].ShouldBe(200e6, 2e6);
    }

    [Fact]
    public void What_hangs_on_one_socket_leaks_together_through_its_lead()
    {
        Item Device(string part, AppliedPartType type) =>
            new()
            {
                Kind = ItemKind.MedicalDevice,
                RatedPower = new(90),
                RatedVoltage = new(230),
                Cord = new(new(2), new(1.0)),
                AppliedParts = [new(part, type)],
                UnearthedParts = ["handle"],
            };
        SystemMember[] members =
        [
            new("A-1", "Monitor", Device("ECG", AppliedPartType.CF)),
            new("A-2", "Pump", Device("drip", AppliedPartType.BF) with { EarthedParts = ["pole clamp"] }),
            new("A-3", "Pump", Device("drip", AppliedPartType.B)),
        ];
        var socket = new Item
        {
            Kind = ItemKind.MedicalSystem,
            RatedVoltage = new(230),
            Cord = new(new(3), new(1.5)),
            EarthedParts = ["frame"],
        };
        var build = ItemMaking.Of(MedicalSystem.Of(socket, [.. members]), "T-1", Workshop.Today, Workshop.Today);
        var under = new Conditions.Leakage(LeakageKind.Equipment);
        var alone = members.Sum(it => Leakage(ItemMaking.Of(it.Equipment, it.Tag, Workshop.Today, Workshop.Today), under));
        Leakage(build, under).ShouldBe(alone, alone * 0.02);
        // Every place and every part that the run sheet names is there to be measured.
        build.Metals.Select(it => it.Name).Order().ShouldBe(build.Item.EarthedParts.Concat(build.Item.UnearthedParts).Order());
        build.Parts.Select(it => it.Name).ShouldBe(build.Item.AppliedParts.Select(it => it.Name));
        build.Metals.Where(it => double.IsFinite(it.BondOhm)).ShouldAllBe(it => it.Name == "frame" || it.BondOhm > 2 * 0.0195);
    }

    [Fact]
    public void A_switch_hides_what_lies_behind_it()
    {
        var damp = Filter(1e-9, 1e-9).With(Fault.DampInsulation);
        double Ohms(Moment now) => new TestSet(damp, new(), Mains).InsulationOhms(new(), 500, now, 1, []);
        Ohms(new()).ShouldBeLessThan(0.25e6);
        Ohms(new(IsOn: false)).ShouldBeGreaterThan(1e10);
        new TestSet(damp, new(), Mains).SeesPath(new(IsOn: false), 50).ShouldBeFalse();
        Found(damp, new(LeakageKind.ProtectiveConductor)).LoadAmperes.ShouldBe(100 / 230.0, 0.01);
    }

    [Fact]
    public void The_same_tag_is_the_same_item_and_ages()
    {
        var urn = new Item
        {
            Kind = ItemKind.Appliance,
            Heating = true,
            RatedPower = new(2400),
            RatedVoltage = new(230),
        };
        var made = new DateOnly(2023, 5, 1);
        ItemBuild At(int year) => ItemMaking.Of(urn, "LMR-0214", made, new(year, 1, 1));
        At(2026).FlexOhm.ShouldBe(At(2026).FlexOhm);
        At(2026).Metals[0].ShouldBe(At(2026).Metals[0]);
        At(2026).Metals[0].BondOhm.ShouldBeGreaterThan(At(2024).Metals[0].BondOhm);
    }

    /// <summary>Journeys in the browser register items under tags of their own and measure them: none may be born with a fault.</summary>
    [Fact]
    public void Whatever_its_tag_a_new_item_is_sound()
    {
        var plate = new Item
        {
            Kind = ItemKind.Appliance,
            RatedPower = new(1500),
            RatedVoltage = new(230),
            Cord = new(new(1.8)),
        };
        Gen.String[Gen.Char.AlphaNumeric, 1, 12]
            .Sample(tag =>
            {
                var set = new TestSet(ItemMaking.Of(plate, tag, Workshop.Today, Workshop.Today), new(), new());
                set.EarthOhms(new(), new()).ShouldBeLessThan(0.1);
                set.InsulationOhms(new(), 500, new(), 1, []).ShouldBeGreaterThan(7e6);
            });
    }
}
