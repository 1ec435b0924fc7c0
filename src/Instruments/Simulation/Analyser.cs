using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Instruments.Simulation;

/// <summary>One measurement as asked of an instrument.</summary>
/// <param name="TestVolts">For insulation.</param>
public sealed record MeasurementRequest(
    Conditions Under,
    double TestVolts = 500,
    double NominalVolts = 230,
    double Hertz = 50,
    double Seconds = 1
)
{
    public Test Test => Under.Test;
}

/// <summary>What an instrument shows at the end: a value with its unit, or good or bad.</summary>
/// <param name="Mains">Supplied while measuring; null for dead tests.</param>
public sealed record InstrumentReading(
    Test Test,
    Measured? Value,
    bool? Ok = null,
    bool? Tripped = null,
    double? Mains = null,
    double? LoadAmperes = null
);

/// <summary>
/// The simulated analyser's front end: takes what the circuit says and adds what every real instrument adds — its lead, noise, digits and
/// the ends of its ranges.
/// </summary>
public sealed class Analyser(Random noise)
{
    /// <summary>The test lead and its clip, as a new lead measures.</summary>
    public double TestLeadOhms { get; init; } = 0.04;

    private const double EarthRange = 25;
    private const double InsulationRange = 500e6;
    private const double LeakageRange = 25e-3;

    /// <summary>The lead shorted on the instrument's own post.</summary>
    public double NullOhms() => Round(TestLeadOhms + Jitter(0.0015), 0.01);

    public InstrumentReading Measure(HiddenState state, MeasurementRequest request)
    {
        var circuit = new ItemCircuit(state);
        return request.Under switch
        {
            Conditions.EarthContinuity => Earth(circuit),
            Conditions.Insulation insulation => Insulation(circuit, state.Item, insulation, request),
            Conditions.Leakage leakage => Leakage(circuit, leakage, request),
            Conditions.RcdTrip trip => Trip(circuit, trip),
            Conditions.Polarity => new(request.Test, null, Ok: circuit.PolarityIsRight),
            Conditions.Wiring => new(request.Test, null, Ok: circuit.WiringIsRight),
            _ => throw new NotSupportedException($"This instrument cannot measure {request.Test}."),
        };
    }

    private InstrumentReading Earth(ItemCircuit circuit)
    {
        var ohms = circuit.EarthOhms();
        return new(
            Test.EarthContinuity,
            ohms > EarthRange
                ? new Measured(EarthRange, Unit.Ohm, Qualifier.Above)
                : new Measured(Round(ohms + TestLeadOhms + Jitter(0.002), 0.01), Unit.Ohm)
        );
    }

    private InstrumentReading Insulation(ItemCircuit circuit, Item item, Conditions.Insulation under, MeasurementRequest request)
    {
        var toAccessible = under.Between == Between.MainsToAccessible || item.Class is ProtectionClass.II or ProtectionClass.III;
        var ohms = circuit.InsulationOhms(request.TestVolts, toAccessible) * (1 + Jitter(0.01));
        if (ohms > InsulationRange)
            return new(Test.Insulation, new Measured(InsulationRange / 1e6, Unit.Megohm, Qualifier.Above));
        return new(Test.Insulation, new Measured(Round(ohms / 1e6, ohms < 20e6 ? 0.01 : 1), Unit.Megohm));
    }

    private InstrumentReading Leakage(ItemCircuit circuit, Conditions.Leakage under, MeasurementRequest request)
    {
        var mains = Math.Round(request.NominalVolts * (1.02 + Jitter(0.004)), 1);
        var result = circuit.Leakage(under, new(mains, request.Hertz));
        var amperes = result.Amperes * (1 + Jitter(0.01));
        var small = under.Kind is not (LeakageKind.ProtectiveConductor or LeakageKind.Earth) && amperes < 1e-3;
        var value =
            amperes > LeakageRange ? new Measured(LeakageRange * 1e3, Unit.Milliampere, Qualifier.Above)
            : small ? new Measured(Round(amperes * 1e6, 1), Unit.Microampere)
            : new Measured(Round(amperes * 1e3, 0.01), Unit.Milliampere);
        return new(
            Test.Leakage,
            value,
            Mains: mains,
            LoadAmperes: under.Method == LeakageMethod.Alternative ? null : Round(result.LoadAmperes, 0.01)
        );
    }

    private InstrumentReading Trip(ItemCircuit circuit, Conditions.RcdTrip under) =>
        circuit.RcdTripSeconds(under.Multiple, under.PhaseDeg) is { } seconds
            ? new(Test.RcdTrip, new Measured(Round(seconds * 1000 + Jitter(0.4), 1), Unit.Millisecond), Tripped: true)
            : new(Test.RcdTrip, null, Tripped: false);

    private double Jitter(double spread) => (noise.NextDouble() * 2 - 1) * spread;

    private static double Round(double value, double step) => Math.Round(Math.Round(value / step) * step, 6);
}
