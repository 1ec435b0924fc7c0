using BenchmarkDotNet.Attributes;
using MathNet.Numerics.LinearAlgebra;
using Osierwand.Core.Outlets;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Tests;
using Osierwand.Simulator;

namespace Osierwand.Instruments.Bench;

/// <summary>One frame of the simulated display: an item's circuit laid out, joined to the instrument and solved. The goal is 100
/// microseconds; beside it the bare solving of as many equations.</summary>
[MemoryDiagnoser]
public class OneSolve
{
    private static readonly DateOnly Today = new(2026, 11, 26);

    private readonly TestSet kettle = new(ItemMaking.Of(Things.Kettle, "K-1", Today, Today), new(), new());
    private readonly TestSet monitor = new(ItemMaking.Of(Things.Monitor, "M-1", Today, Today), new(), new());
    private readonly Moment running = new(PoweredSeconds: 5);
    private readonly Conditions.Leakage current = new(LeakageKind.ProtectiveConductor);
    private readonly Conditions.Leakage patient = new(LeakageKind.Patient) { AppliedPart = "ECG" };
    private readonly List<double> charged = [];
    private Matrix<System.Numerics.Complex> matrix = null!;
    private Vector<System.Numerics.Complex> right = null!;

    [GlobalSetup]
    public void Equations()
    {
        // As many unknowns as the kettle's leakage has, tied to one another as loosely.
        const int Size = 18;
        matrix = Matrix<System.Numerics.Complex>.Build.Dense(
            Size,
            Size,
            (i, j) =>
                i == j ? new System.Numerics.Complex(4, 1)
                : Math.Abs(i - j) == 1 ? -1
                : 0
        );
        right = Vector<System.Numerics.Complex>.Build.Dense(Size, i => i);
    }

    [Benchmark(Baseline = true)]
    public Vector<System.Numerics.Complex> BareEquations() => matrix.Solve(right);

    [Benchmark]
    public double KettleEarth() => kettle.EarthOhms(new(), running);

    [Benchmark]
    public double KettleInsulationStep() => kettle.InsulationOhms(new(), 500, running, 0.08, charged);

    [Benchmark]
    public double KettleLeakage() => kettle.Leakage(current, new(current, new OutletSupply(230)), running).Amperes;

    [Benchmark]
    public double MonitorPatientLeakage() => monitor.Leakage(patient, new(patient, new OutletSupply(230)), running).Amperes;
}
