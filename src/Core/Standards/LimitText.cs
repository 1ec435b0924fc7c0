using Osierwand.Core.Quantities;
using static Osierwand.Core.Quantities.QuantityText;

namespace Osierwand.Core.Standards;

/// <summary>Limits in words: a row for whatever item, and one worked out for an item so that a person could redo it.</summary>
internal static class LimitText
{
    /// <summary>The derivation of a limit: "limit 0.1 Ω + 2 m × 15.6 mΩ/m = 0.131 Ω (1.25 mm², 20 °C)".</summary>
    public static string LimitLine(ResolvedLimit limit)
    {
        if (limit.Value is not { } value)
            return $"limit: {limit.Rule.What} must not trip";
        return limit is { Rule.Formula: Formula.Fixed, Rule.House: null, LoopConductor: null, Maker: null, OwnTrip: null }
            ? limit.Rule.FixedText ??= Written(limit, value)
            : Written(limit, value);
    }

    private static string Written(ResolvedLimit limit, Quantity value)
    {
        var sign = limit.Comparator switch
        {
            Comparator.NotLessThan => "not less than",
            Comparator.Below => "below",
            Comparator.Within => "within ±",
            _ => "not more than",
        };
        if (limit is { OwnWhy: { } why, Maker: { } figure })
            return $"limit {sign} {Show(figure)}, tighter than the standard's: {why}";
        if (limit.Maker is { } maker)
            return $"maker's figure {sign} {Show(maker)}, tighter than the standard's";
        var house = limit.Standard is null ? null : limit.Rule.House;
        if (limit.OwnTrip is { } own && house is null)
            return $"limit {sign} {Show(own)}, by the device's own standard";
        var terms = limit.Rule.Formula switch
        {
            Formula.PlusConductor when limit.Conductor is { } r => $"{Show(house?.Bound ?? limit.Base!.Value)} + {Resistance(r)}",
            _ when house is not null => null,
            Formula.PlusConductor => $"{Show(limit.Base!.Value)}, no allowance: length and size of the flex are not entered",
            Formula.ByLength it =>
                $"{Show(it.Base)} up to {Number(it.UpTo.Value)} m, {Show(it.Step)} more for each {Number(it.Stretch.Value)} m begun, at most {Show(it.Ceiling)}"
                    + (limit.Amount is { } metres ? $"; {Number(metres, 4)} m" : "; length not entered"),
            Formula.PerKilowatt it => $"{Show(it.PerKw)} per kW"
                + (limit.Amount is { } kilowatts ? $" × {Number(kilowatts, 4)} kW" : ", power not entered")
                + (it.Floor is { } floor ? $", at least {Show(floor)}" : "")
                + $", at most {Show(it.Ceiling)}",
            Formula.Deviation it => $"the greater of {Show(it.Floor)} and {Number(it.Fraction * 100)} % of the set value",
            _ => null,
        };
        if (limit.LoopConductor is { } line)
            terms = $"{terms ?? Show(house?.Bound ?? limit.Base!.Value)} + {Resistance(line)} for the line conductor of the loop";
        var told = terms is null ? $"limit {sign} {Show(value)}" : $"limit {sign} {Show(value)} = {terms}";
        return house is null ? told : $"house {told}, tighter than the standard's {Show(limit.Standard!.Value)}: {house.Reason}";
    }

    /// <summary>A row's limit before any item is known.</summary>
    public static string RowText(LimitRule rule)
    {
        var sign = rule.Comparator.Sign();
        return rule.Formula switch
        {
            Formula.Fixed it => $"{sign} {Show(it.Value)}",
            Formula.PlusConductor it => $"{sign} {Show(it.Base)} + R",
            Formula.ByLength it =>
                $"{sign} {Show(it.Base)} up to {Number(it.UpTo.Value)} m, + {Show(it.Step)} for each {Number(it.Stretch.Value)} m begun, at most {Show(it.Ceiling)}",
            Formula.PerKilowatt it => $"{sign} {Show(it.PerKw)} per kW"
                + (it.Floor is { } floor ? $", at least {Show(floor)}" : "")
                + $", at most {Show(it.Ceiling)}",
            Formula.Deviation it => it.Floor.Si > 0
                ? $"± the greater of {Show(it.Floor)} and {Number(it.Fraction * 100)} % of the set value"
                : $"± {Number(it.Fraction * 100)} % of the set value",
            Formula.NoTrip it => $"no trip within {Show(it.Watch)}",
            _ => "",
        };
    }

    private static string Resistance(ConductorResistance r) =>
        $"{Number(r.Length.Value)} m × {Number(r.OhmPerMetre.Value * 1000)} mΩ/m"
        + (r.Warmth == 1 ? "" : $" × {Number(r.Warmth, 4)} for {Number(r.Temperature.Value)} °C")
        + $" ({Number(r.Size.Value)} mm²)";
}
