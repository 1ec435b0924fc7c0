using System.Numerics;
using MathNet.Numerics.LinearAlgebra;
using ComplexVector = MathNet.Numerics.LinearAlgebra.Vector<System.Numerics.Complex>;

namespace Osierwand.Simulator.Circuits;

/// <summary>
/// A linear network solved by modified nodal analysis, at one frequency or through one step of time. Node 0 is the world's earth. Ideal
/// voltage sources bring an unknown current each, and wires make two nodes one, so that open, shorted and floating parts of an item need no
/// special cases.
/// </summary>
public sealed class Network
{
    /// <summary>No resistance is smaller: below it, rounding of 230 V becomes a current of its own. What has none is a wire.</summary>
    private const double LeastOhm = 1e-4;

    private readonly List<Branch> branches = [];
    private readonly List<(int Plus, int Minus, Complex Volts)> sources = [];
    private readonly List<int> root = [Earth];
    private int capacitors;

    public const int Earth = 0;

    /// <param name="Place">Of a capacitor among the capacitors, in the order in which they were added; -1 of a resistor.</param>
    private readonly record struct Branch(int From, int To, double Siemens, double Farad, int Place);

    /// <summary>How many there are, the world's earth among them: they are numbered from 0.</summary>
    public int Nodes => root.Count;

    public int AddNode()
    {
        root.Add(root.Count);
        return root.Count - 1;
    }

    /// <summary>Makes two nodes one.</summary>
    public void Wire(int a, int b)
    {
        var (keeps, goes) = (Root(Math.Min(a, b)), Root(Math.Max(a, b)));
        if (keeps > goes)
            (keeps, goes) = (goes, keeps);
        root[goes] = keeps;
    }

    /// <param name="ohms">Less than a tenth of a milliohm is taken as that; infinity adds nothing.</param>
    public void Resistor(int from, int to, double ohms)
    {
        if (!double.IsPositiveInfinity(ohms))
            branches.Add(new(from, to, 1 / Math.Max(ohms, LeastOhm), 0, -1));
    }

    public void Capacitor(int from, int to, double farad)
    {
        if (farad > 0)
            branches.Add(new(from, to, 0, farad, capacitors++));
    }

    /// <returns>The source's number, by which its current is asked for.</returns>
    public int Source(int plus, int minus, Complex volts)
    {
        sources.Add((plus, minus, volts));
        return sources.Count - 1;
    }

    /// <summary>The steady state.</summary>
    /// <param name="hertz">0 solves for d.c.: capacitors are open.</param>
    public Solution Solve(double hertz)
    {
        var omega = 2 * Math.PI * hertz;
        return Solve(branch => new(branch.Siemens, omega * branch.Farad), _ => 0);
    }

    /// <summary>One step of time from known capacitor voltages (backward Euler: stable at every step, exact in the end).</summary>
    /// <param name="seconds">Of the step; more than 0.</param>
    /// <param name="charged">Volts across each capacitor, in the order in which they were added; holds the new ones afterwards. Empty at
    /// the start: all are discharged.</param>
    public Solution Step(double seconds, List<double> charged)
    {
        while (charged.Count < capacitors)
            charged.Add(0);
        var solved = Solve(
            branch => branch.Place < 0 ? branch.Siemens : branch.Farad / seconds,
            branch => branch.Place < 0 ? 0 : branch.Farad / seconds * charged[branch.Place]
        );
        foreach (var branch in branches)
            if (branch.Place >= 0)
                charged[branch.Place] = (solved.Voltage(branch.From) - solved.Voltage(branch.To)).Real;
        return solved;
    }

    private int Root(int node)
    {
        while (root[node] != node)
            node = root[node];
        return node;
    }

    private Solution Solve(Func<Branch, Complex> admittance, Func<Branch, double> drive)
    {
        // Only what is not wired to something else is unknown.
        var place = new int[root.Count];
        var unknowns = 0;
        for (var node = 0; node < root.Count; node++)
            place[node] = node == Root(node) && node != Earth ? unknowns++ : -1;
        for (var node = 0; node < root.Count; node++)
            place[node] = place[Root(node)];

        var size = unknowns + sources.Count;
        var matrix = Matrix<Complex>.Build.Dense(size, size);
        var right = ComplexVector.Build.Dense(size);
        var islands = new Islands(unknowns);
        foreach (var branch in branches)
        {
            var (a, b) = (place[branch.From], place[branch.To]);
            var y = admittance(branch);
            if (a == b || y == Complex.Zero)
                continue;
            Stamp(matrix, a, b, y);
            islands.Join(a, b);
            var pushed = drive(branch);
            if (a >= 0)
                right[a] += pushed;
            if (b >= 0)
                right[b] -= pushed;
        }
        for (var k = 0; k < sources.Count; k++)
        {
            var (plus, minus, volts) = sources[k];
            Tie(matrix, unknowns + k, place[plus], 1);
            Tie(matrix, unknowns + k, place[minus], -1);
            right[unknowns + k] = volts;
            islands.Join(place[plus], place[minus]);
        }
        // What is joined to nothing could stand at any voltage: a tie to earth at one place, through which nothing can flow.
        foreach (var afloat in islands.Afloat())
            matrix[afloat, afloat] += 1;
        var x = size == 0 ? right : matrix.Solve(right);
        return new(x, place, unknowns, [.. branches.Select(it => (it.From, it.To, admittance(it), drive(it)))]);
    }

    /// <summary>Which unknowns hang together; -1 stands for the world's earth.</summary>
    private sealed class Islands(int unknowns)
    {
        private readonly int[] root = [.. Enumerable.Range(0, unknowns + 1)];

        public void Join(int a, int b) => root[RootOf(a + 1)] = RootOf(b + 1);

        /// <summary>One of each island that has no way to earth.</summary>
        public IEnumerable<int> Afloat() => Enumerable.Range(1, unknowns).Where(n => RootOf(n) == n && n != RootOf(0)).Select(n => n - 1);

        private int RootOf(int n)
        {
            while (root[n] != n)
                n = root[n] = root[root[n]];
            return n;
        }
    }

    private static void Stamp(Matrix<Complex> matrix, int a, int b, Complex y)
    {
        if (a >= 0)
            matrix[a, a] += y;
        if (b >= 0)
            matrix[b, b] += y;
        if (a < 0 || b < 0)
            return;
        matrix[a, b] -= y;
        matrix[b, a] -= y;
    }

    private static void Tie(Matrix<Complex> matrix, int row, int place, double sign)
    {
        if (place < 0)
            return;
        matrix[row, place] += sign;
        matrix[place, row] += sign;
    }

    /// <summary>Node voltages and source currents of a solved network.</summary>
    public sealed class Solution
    {
        private readonly ComplexVector x;
        private readonly int[] place;
        private readonly int unknowns;
        private readonly (int From, int To, Complex Siemens, double Drive)[] flows;

        internal Solution(ComplexVector x, int[] place, int unknowns, (int, int, Complex, double)[] flows) =>
            (this.x, this.place, this.unknowns, this.flows) = (x, place, unknowns, flows);

        public Complex Voltage(int node) => place[node] < 0 ? Complex.Zero : x[place[node]];

        /// <summary>Current out of the source's plus pole into the network.</summary>
        public Complex SourceCurrent(int source) => -x[unknowns + source];

        /// <summary>Sum of all branch currents leaving a node and whatever is wired to it; with no source there it must vanish.</summary>
        public Complex Imbalance(int node)
        {
            var sum = Complex.Zero;
            foreach (var (from, to, siemens, drive) in flows)
            {
                if (place[from] == place[to])
                    continue;
                var current = (Voltage(from) - Voltage(to)) * siemens - drive;
                if (place[from] == place[node])
                    sum += current;
                if (place[to] == place[node])
                    sum -= current;
            }
            return sum;
        }
    }
}
