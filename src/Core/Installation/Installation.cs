using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using static Osierwand.Core.Quantities.QuantityText;

namespace Osierwand.Core.Installation;

/// <summary>Types of circuit breaker by their instantaneous trip.</summary>
public enum BreakerType
{
    [JsonStringEnumMemberName("B")]
    B,

    [JsonStringEnumMemberName("C")]
    C,

    [JsonStringEnumMemberName("D")]
    D,
}

/// <summary>One installation check, judged, with the lines a person could redo with a pencil.</summary>
public sealed record InstallationFinding(Status Status, ImmutableArray<string> Working);

/// <summary>Earth fault loop of a circuit against its breaker.</summary>
/// <param name="Fault">Prospective fault current in ampere.</param>
/// <param name="Trip">Current at which the breaker trips at once.</param>
/// <param name="MostZs">The largest loop impedance at which it still does, with 5 % for the supply's dips.</param>
/// <param name="MeetsRuleOfThumb">The fault current at least exceeds the rating. Shown beside the verdict, never instead of it.</param>
public sealed record LoopFinding(
    Amperes Fault,
    Amperes Trip,
    Ohms MostZs,
    bool MeetsRuleOfThumb,
    Status Status,
    ImmutableArray<string> Working
)
{
    /// <param name="u0">Nominal voltage to earth.</param>
    /// <param name="zs">Measured loop impedance, greater than 0.</param>
    /// <param name="rating">Of the breaker; of an adjustable one its set value.</param>
    public static LoopFinding Of(Volts u0, Ohms zs, BreakerType type, Amperes rating, InstallationLimits limits)
    {
        var (times, dip) = (limits.TripsAt[type], limits.SupplyDip);
        var (fault, trip) = (u0 / zs, times * rating);
        var most = dip * u0 / trip;
        var status = Comparison.AtMost(zs.Value, most.Value) ? Status.Pass : Status.Fail;
        var thumb = fault.Value > rating.Value;
        return new(
            fault,
            trip,
            most,
            thumb,
            status,
            [
                $"prospective fault current {Number(u0.Value)} V / {Show(zs)} = {Show(fault)}",
                $"a type {type} breaker of {Show(rating)} trips at once from {Number(times)} × {Show(rating)} = {Show(trip)}",
                $"largest loop impedance {Number(dip)} × {Number(u0.Value)} V / {Show(trip)} = {Show(most)}: {Show(zs)} {(status == Status.Pass ? "passes" : "fails")}",
                thumb
                    ? $"rule of thumb: {Show(fault)} exceeds the rating of {Show(rating)}, which alone proves no quick trip"
                    : $"rule of thumb: {Show(fault)} does not even exceed the rating of {Show(rating)}",
            ]
        );
    }
}

/// <summary>Fall of potential at an earth electrode.</summary>
/// <param name="Mean">Null when the three do not agree.</param>
public sealed record ElectrodeFinding(Ohms? Mean, Status Status, ImmutableArray<string> Working)
{
    /// <summary>The target is the house's own: what misses it is worth telling and fails nothing.</summary>
    public string? Advice { get; init; }

    /// <param name="at52">With the potential spike at 52 %, 62 % and 72 % of the distance to the current spike.</param>
    public static ElectrodeFinding Of(Ohms at52, Ohms at62, Ohms at72, InstallationLimits limits)
    {
        var mean = 1.0 / 3 * (at52 + at62 + at72);
        var widest = new[] { at52, at62, at72 }.MaxBy(it => Math.Abs(it.Value - mean.Value));
        var off = mean.Value > 0 ? Math.Abs(widest.Value - mean.Value) / mean.Value : 0;
        var line = $"mean of {Show(at52)}, {Show(at62)} and {Show(at72)} = {Show(mean)}; the widest lies {Number(off * 100)} % from it";
        if (Comparison.Above(off, limits.ElectrodeAgreement))
            return new(
                null,
                Status.Undecided,
                [
                    line,
                    $"more than {Number(limits.ElectrodeAgreement * 100)} %: the spikes stand in each other's reach, move the current spike further out and repeat",
                ]
            );
        var meets = Comparison.AtMost(mean.Value, limits.ElectrodeTarget.Value);
        return new(
            mean,
            Status.Pass,
            [
                line,
                $"house target {Show(limits.ElectrodeTarget)}, better {Show(limits.ElectrodeBetter)}: {(meets ? Comparison.AtMost(mean.Value, limits.ElectrodeBetter.Value) ? "meets the better one" : "meets the target" : "misses the target")}",
            ]
        )
        {
            Advice = meets ? null : $"The electrode's {Show(mean)} misses the house target of {Show(limits.ElectrodeTarget)}.",
        };
    }
}

/// <summary>How urgent a warm spot is.</summary>
public enum ThermalGrade
{
    None,
    Possible,
    Probable,
    AsSoonAsPossible,
    Major,
}

public enum ThermalReference
{
    /// <summary>A similar part under similar load.</summary>
    SimilarPart,
    Ambient,
}

/// <summary>A temperature difference in a thermal picture.</summary>
public sealed record ThermalFinding(ThermalGrade Grade, string Says)
{
    /// <param name="kelvin">Difference to the reference, not negative.</param>
    public static ThermalFinding Of(double kelvin, ThermalReference against, InstallationLimits limits) =>
        limits.Thermal[against].FirstOrDefault(row => row.Reaches(kelvin)) is { } row
            ? new(row.Grade, row.Row.Says!)
            : new(ThermalGrade.None, "no deficiency to be seen");
}

/// <summary>Insulation of a fixed circuit.</summary>
public static class CircuitInsulation
{
    public static InstallationFinding Of(Measured reading, InstallationLimits limits)
    {
        var (value, least) = (reading.Quantity, limits.InsulationLeast);
        var reaches = Comparison.AtLeast(value.Si, least.Value);
        var status = reading.Qualifier switch
        {
            Qualifier.Above => reaches ? Status.Pass : Status.Undecided,
            Qualifier.Below => Comparison.AtMost(value.Si, least.Value) ? Status.Fail : Status.Undecided,
            _ => reaches ? Status.Pass : Status.Fail,
        };
        return new(status, [$"{Number(limits.InsulationTest.Value)} V, not less than {Show(least)}: {reading}, {Words.Of(status)}"]);
    }
}

/// <summary>The leakages of everything on one circuit against the RCD that protects it.</summary>
public sealed record LeakageSum(Amperes Sum, Amperes Trips, bool Explains, ImmutableArray<string> Working)
{
    /// <summary>An RCD may trip from half its rating, so that is what the sum is held against.</summary>
    public static LeakageSum Of(IReadOnlyCollection<Amperes> leakages, Amperes rated, InstallationLimits limits)
    {
        var (sum, trips) = (new Amperes(leakages.Sum(it => it.Value)), limits.LeakageShare * rated);
        var explains = Comparison.AtLeast(sum.Value, trips.Value);
        return new(
            sum,
            trips,
            explains,
            [
                $"{string.Join(" + ", leakages.Select(it => Show(it)))} = {Show(sum)}",
                $"{Number(limits.LeakageShare * 100)} % of {Show(rated)} is {Show(trips)}: {(explains ? "the sum alone may trip it" : "the sum alone does not trip it; look for a fault")}",
            ]
        );
    }
}
