using System.Collections.Frozen;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Installation;

/// <summary>One grade of a warm spot, from its difference in kelvin up.</summary>
internal sealed record ThermalRow(Threshold Row, ThermalGrade Grade)
{
    /// <summary>The lowest grade begins at its figure, each further one above it.</summary>
    public bool Reaches(double kelvin) =>
        Grade == ThermalGrade.Possible ? Comparison.AtLeast(kelvin, Row.InForce.Si) : Comparison.Above(kelvin, Row.InForce.Si);
}

/// <summary>The limits of the installation checks, typed: a table like the common rules, with the organisation's figures over it.</summary>
public sealed class InstallationLimits
{
    public const string Id = "installation-checks";

    /// <summary>As they ship.</summary>
    public static InstallationLimits Shipped { get; } = new(ThresholdLibrary.Find(Id)!);

    public InstallationLimits(ThresholdTable table)
    {
        Table = table;
        TripsAt = new Dictionary<BreakerType, double>
        {
            [BreakerType.B] = table.Of("loop-trip-b", Dimension.Count).Si,
            [BreakerType.C] = table.Of("loop-trip-c", Dimension.Count).Si,
            [BreakerType.D] = table.Of("loop-trip-d", Dimension.Count).Si,
        }.ToFrozenDictionary();
        SupplyDip = table.Of("loop-supply", Dimension.Share).Si;
        ElectrodeAgreement = table.Of("electrode-agreement", Dimension.Share).Si;
        ElectrodeTarget = new(table.Of("electrode-target", Dimension.Resistance).Si);
        ElectrodeBetter = new(table.Of("electrode-better", Dimension.Resistance).Si);
        InsulationLeast = new(table.Of("circuit-insulation", Dimension.Resistance).Si);
        InsulationTest = new(table.Of("circuit-insulation-voltage", Dimension.Voltage).Si);
        LeakageShare = table.Of("leakage-sum", Dimension.Share).Si;
        // The first that a difference reaches is its grade, so the gravest stands first.
        Thermal = new Dictionary<ThermalReference, ThermalRow[]>
        {
            [ThermalReference.SimilarPart] =
            [
                Warm("thermal-similar-major", ThermalGrade.Major),
                Warm("thermal-similar-probable", ThermalGrade.Probable),
                Warm("thermal-similar-possible", ThermalGrade.Possible),
            ],
            [ThermalReference.Ambient] =
            [
                Warm("thermal-ambient-major", ThermalGrade.Major),
                Warm("thermal-ambient-soon", ThermalGrade.AsSoonAsPossible),
                Warm("thermal-ambient-probable", ThermalGrade.Probable),
                Warm("thermal-ambient-possible", ThermalGrade.Possible),
            ],
        }.ToFrozenDictionary();
    }

    public ThresholdTable Table { get; }
    internal FrozenDictionary<BreakerType, double> TripsAt { get; }

    /// <summary>Share of nominal voltage that is reckoned with: 0.95.</summary>
    internal double SupplyDip { get; }

    internal double ElectrodeAgreement { get; }
    internal Ohms ElectrodeTarget { get; }
    internal Ohms ElectrodeBetter { get; }
    internal Ohms InsulationLeast { get; }
    internal Volts InsulationTest { get; }

    /// <summary>Of an RCD's rating: 0.5.</summary>
    internal double LeakageShare { get; }

    internal FrozenDictionary<ThermalReference, ThermalRow[]> Thermal { get; }

    private ThermalRow Warm(string id, ThermalGrade grade)
    {
        Table.Of(id, Dimension.TemperatureDifference);
        return new(Table.Find(id)!, grade);
    }
}
