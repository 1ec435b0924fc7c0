using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>What a flexible copper conductor of one size may carry and how it resists, from a pack's table.</summary>
/// <param name="OhmPerMetre">At 20 °C.</param>
/// <param name="Carries">Null for sizes the table gives no current for.</param>
/// <param name="CarriesShort">As an appliance's own flex of known length, up to <see cref="RulePack.ShortFlex"/>; null where that changes
/// nothing.</param>
public sealed record FlexSize(SquareMillimetres Size, Ohms OhmPerMetre, Amperes? Carries, Amperes? CarriesShort = null);

/// <summary>The resistance of one conductor of a flex, with the numbers it was worked out from.</summary>
/// <param name="Warmth">R_t / R_20: 1.04 at 30 °C.</param>
public sealed record ConductorResistance(Metres Length, SquareMillimetres Size, Ohms OhmPerMetre, Celsius Temperature, double Warmth)
{
    public Ohms Value => Length.Value * Warmth * OhmPerMetre;

    /// <summary>
    /// Of the item's flex, or null when length or size is unknown or there is no flex. A size between two of the table takes the next
    /// larger
    /// size, whose smaller resistance allows less; a size beyond the table is scaled by its area.
    /// </summary>
    public static ConductorResistance? Of(Cord? cord, RulePack pack)
    {
        var table = pack.Flex;
        if (cord is not { Length: { } length, Conductor: { } size, Permanent: false } || table.IsDefaultOrEmpty)
            return null;
        var row = table[^1];
        foreach (var candidate in table)
        {
            if (candidate.Size.Value < size.Value)
                continue;
            row = candidate;
            break;
        }
        var perMetre = row.Size.Value < size.Value ? new Ohms(row.OhmPerMetre.Value * row.Size.Value / size.Value) : row.OhmPerMetre;
        var rules = pack.Thresholds;
        var temperature = cord.Temperature ?? rules.ConductorReference;
        return new(length, size, perMetre, temperature, 1 + rules.ConductorWarmth * (temperature.Value - rules.ConductorReference.Value));
    }
}
