using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Outlets;

/// <summary>What an outlet must give before it powers an item.</summary>
/// <param name="NominalV">Line to neutral, in volt; between both lines where the centre is earthed.</param>
/// <param name="IsCentreEarthed">Site supplies of 110 V: 55 V to earth from either line.</param>
public sealed record OutletSupply(double NominalV, int Phases = 1, bool IsCentreEarthed = false)
{
    /// <summary>Site equipment's voltage where mains are about twice as high: it comes from a transformer with an earthed centre.</summary>
    private const double SiteVoltage = 110;

    /// <summary>By the site's own nominal voltage, which a plate of 240 V at a site of 230 V does not change; a plate of another voltage
    /// asks for an outlet of its own.</summary>
    public static OutletSupply For(Item item, RulePack pack)
    {
        var (asked, mains) = (pack.NominalFor(item).Value, pack.Nominal.Value);
        var isOfTheSite = asked >= mains * pack.Thresholds.LowestMains && asked <= mains * pack.Thresholds.HighestMains;
        return new(isOfTheSite ? mains : asked, item.Phases, asked == SiteVoltage && !isOfTheSite && item.Phases == 1);
    }

    /// <summary>Between which contacts it is measured: three, or ten of three phases.</summary>
    public ImmutableArray<string> Pairs => Phases == 3 ? SafeIsolation.PairsOf(Phases) : ["L-N", "L-E", "N-E"];

    public string Text =>
        IsCentreEarthed ? $"{Volts(NominalV)}, centre earthed: {Volts(NominalV / 2)} to earth from each line"
        : Phases == 3 ? $"three-phase, {Volts(NominalV)} to neutral, {Volts(BetweenLines)} between lines"
        : $"{Volts(NominalV)} to neutral";

    private double BetweenLines => NominalV * Math.Sqrt(3);

    /// <summary>What is expected between two contacts, in volt; 0 between neutral and earth.</summary>
    public double Expected(string pair) =>
        pair switch
        {
            "N-E" => IsCentreEarthed ? NominalV / 2 : 0,
            "L-E" when IsCentreEarthed => NominalV / 2,
            _ when pair.EndsWith("-N", StringComparison.Ordinal) || pair.EndsWith("-E", StringComparison.Ordinal) => NominalV,
            _ => BetweenLines,
        };

    internal static string Volts(double value) => $"{QuantityText.Number(value, 3)} V";
}
