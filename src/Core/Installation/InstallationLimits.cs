using System.Collections.Frozen;
using System.Text.Json;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Installation;

/// <summary>One grade of a warm spot; the first that a difference reaches is its grade.</summary>
internal sealed record ThermalRow(double? Above, double? From, ThermalGrade Grade, string Says)
{
    public bool Reaches(double kelvin) => Above is { } above ? kelvin > above : kelvin >= From;
}

/// <summary>The numbers of the installation checks, from their data file.</summary>
internal sealed record InstallationLimits(
    FrozenDictionary<BreakerType, double> TripsAt,
    double SupplyDip,
    double ElectrodeAgreement,
    Ohms ElectrodeTarget,
    Ohms ElectrodeBetter,
    Ohms InsulationLeast,
    Volts InsulationTest,
    FrozenDictionary<ThermalReference, ThermalRow[]> Thermal
)
{
    private static readonly Lazy<InstallationLimits> Loaded = new(Load);

    public static InstallationLimits Now => Loaded.Value;

    private static InstallationLimits Load()
    {
        using var document = JsonDocument.Parse(Embedded.Text("installation.json")!);
        var root = document.RootElement;
        double At(string check, string name) => root.GetProperty(check).GetProperty(name).GetDouble();
        return new(
            Enum.GetValues<BreakerType>()
                .ToFrozenDictionary(
                    type => type,
                    type => root.GetProperty("loop").GetProperty("tripsAt").GetProperty(Words.Of(type)).GetDouble()
                ),
            At("loop", "supplyDip"),
            At("electrode", "agreement"),
            new(At("electrode", "targetOhm")),
            new(At("electrode", "betterOhm")),
            new(At("insulation", "leastMohm") * Unit.Megohm.Factor),
            new(At("insulation", "testV")),
            Enum.GetValues<ThermalReference>()
                .ToFrozenDictionary(
                    against => against,
                    against => root.GetProperty("thermal").GetProperty(Words.Of(against)).EnumerateArray().Select(Row).ToArray()
                )
        );
    }

    private static ThermalRow Row(JsonElement row) =>
        new(
            row.TryGetProperty("above", out var above) ? above.GetDouble() : null,
            row.TryGetProperty("from", out var from) ? from.GetDouble() : null,
            Words.Find<ThermalGrade>(row.GetProperty("grade").GetString()!)!.Value,
            row.GetProperty("says").GetString()!
        );
}
