using System.Numerics;
using MathNet.Numerics.LinearAlgebra;
using ComplexVector = MathNet.Numerics.LinearAlgebra.Vector<System.Numerics.Complex>;

namespace Osierwand.Instruments.Circuits;

/// <summary>
/// A linear network solved by modified nodal analysis at one frequency. Node 0 is the world's earth. Ideal voltage sources bring an
/// unknown current each, so that open, shorted and floating parts of an item need no special cases.
/// </summary>
public sealed class Network
{
    /// <summary>Ties every node to earth so weakly that a floating part stays solvable: 10^15 ohm lets a tenth of a picoampere
    /// through.</summary>
    private const double Stray = 1e-15;

    private readonly List<(int From, int To, double Siemens, double Farad)> branches = [];
    private readonly List<(int Plus, int Minus, Complex Volts)> sources = [];
    private int nodes;

    public const int Earth = 0;

    public int AddNode() => ++nodes;

    /// <param name="ohms">Zero or less is taken as a microohm; infinity adds nothing.</param>
    public void Resistor(int from, int to, double ohms)
    {
        if (!double.IsPositiveInfinity(ohms))
            branches.Add((from, to, 1 / Math.Max(ohms, 1e-6), 0));
    }

    public void Capacitor(int from, int to, double farad)
    {
        if (farad > 0)
            branches.Add((from, to, 0, farad));
    }

    /// <returns>The source's number, by which its current is asked for.</returns>
    public int Source(int plus, int minus, Complex volts)
    {
        sources.Add((plus, minus, volts));
        return sources.Count - 1;
    }

    /// <param name="hertz">0 solves for d.c.: capacitors are open.</param>
    public Solution Solve(double hertz)
    {
        var omega = 2 * Math.PI * hertz;
        var size = nodes + sources.Count;
        var matrix = Matrix<Complex>.Build.Dense(size, size);
        var right = ComplexVector.Build.Dense(size);
        for (var node = 0; node < nodes; node++)
            matrix[node, node] = Stray;
        foreach (var (from, to, siemens, farad) in branches)
            Stamp(matrix, from, to, new Complex(siemens, omega * farad));
        for (var k = 0; k < sources.Count; k++)
        {
            var (plus, minus, volts) = sources[k];
            var row = nodes + k;
            Tie(matrix, row, plus, 1);
            Tie(matrix, row, minus, -1);
            right[row] = volts;
        }
        return new Solution(matrix.Solve(right), nodes, branches, omega);
    }

    private static void Stamp(Matrix<Complex> matrix, int a, int b, Complex y)
    {
        if (a > 0)
            matrix[a - 1, a - 1] += y;
        if (b > 0)
            matrix[b - 1, b - 1] += y;
        if (a == 0 || b == 0)
            return;
        matrix[a - 1, b - 1] -= y;
        matrix[b - 1, a - 1] -= y;
    }

    private static void Tie(Matrix<Complex> matrix, int row, int node, double sign)
    {
        if (node == 0)
            return;
        matrix[row, node - 1] = sign;
        matrix[node - 1, row] = sign;
    }

    /// <summary>Node voltages and source currents of a solved network.</summary>
    public sealed class Solution
    {
        private readonly ComplexVector x;
        private readonly int nodes;
        private readonly IReadOnlyList<(int From, int To, double Siemens, double Farad)> branches;
        private readonly double omega;

        internal Solution(ComplexVector x, int nodes, IReadOnlyList<(int, int, double, double)> branches, double omega) =>
            (this.x, this.nodes, this.branches, this.omega) = (x, nodes, branches, omega);

        public Complex Voltage(int node) => node == Earth ? Complex.Zero : x[node - 1];

        /// <summary>Current out of the source's plus pole into the network.</summary>
        public Complex SourceCurrent(int source) => -x[nodes + source];

        /// <summary>Sum of all branch currents leaving a node; with no source at the node it must vanish.</summary>
        public Complex Imbalance(int node)
        {
            var sum = Complex.Zero;
            foreach (var (from, to, siemens, farad) in branches)
            {
                var current = (Voltage(from) - Voltage(to)) * new Complex(siemens, omega * farad);
                if (from == node)
                    sum += current;
                if (to == node)
                    sum -= current;
            }
            return sum;
        }
    }
}
