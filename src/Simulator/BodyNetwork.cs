using Osierwand.Simulator.Circuits;

namespace Osierwand.Simulator;

/// <summary>The measuring network of IEC 60601-1, figure 12: 1 kilohm for a person, weighted by 10 kilohm and 15 nanofarad as a body feels
/// currents of high frequency less.</summary>
internal readonly record struct BodyNetwork(int Weighted, int To)
{
    private const double BodyOhm = 1e3;

    /// <param name="from">What is touched.</param>
    public static BodyNetwork Between(Network net, int from, int to)
    {
        var weighted = net.AddNode();
        net.Resistor(from, to, BodyOhm);
        net.Resistor(from, weighted, 10e3);
        net.Capacitor(weighted, to, 15e-9);
        return new(weighted, to);
    }

    /// <summary>The current as it counts, in ampere.</summary>
    public double Amperes(Network.Solution solved) => (solved.Voltage(Weighted) - solved.Voltage(To)).Magnitude / BodyOhm;
}
