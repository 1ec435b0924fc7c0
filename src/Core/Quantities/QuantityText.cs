using System.Globalization;

namespace Osierwand.Core.Quantities;

/// <summary>Quantities and plain numbers as people write them, always with a decimal point.</summary>
public static class QuantityText
{
    /// <summary>With the prefix that suits its size: 1312e-4 ohm is "0.131 Ω", 5e-5 A is "50 µA", 15 s is "15 s".</summary>
    public static string Show(Quantity quantity) => Show(quantity, Suited(quantity));

    /// <summary>In one given unit, so that a column of values lines up.</summary>
    public static string Show(Quantity quantity, Unit unit) => $"{Number(quantity.Si / unit.Factor)} {unit.Label}";

    /// <summary>In the unit a column usually has, unless the value would drown in noughts there: 3 µA stays "3 µA" among milliamperes.</summary>
    public static string ShowNear(Quantity quantity, Unit usual) =>
        quantity.Si != 0 && Math.Abs(quantity.Si) < 0.01 * usual.Factor ? Show(quantity) : Show(quantity, usual);

    /// <summary>At most <paramref name="digits"/> significant digits, no exponent, no trailing noughts: 0.1312 is "0.131".</summary>
    public static string Number(double value, int digits = 3)
    {
        if (value == 0 || !double.IsFinite(value)) return value.ToString(CultureInfo.InvariantCulture);
        var magnitude = (int)Math.Floor(Math.Log10(Math.Abs(value)));
        var decimals = Math.Clamp(digits - 1 - magnitude, 0, 12);
        return Math.Round(value, decimals).ToString("0.############", CultureInfo.InvariantCulture);
    }

    // Earth readings stay in ohm down to a milliohm: nobody in the trade says "110 mΩ" of a kettle.
    private static Unit Suited(Quantity quantity)
    {
        var size = Math.Abs(quantity.Si);
        return quantity.Dimension switch
        {
            Dimension.Resistance => size switch { >= 1e9 => Unit.Gigohm, >= 1e5 => Unit.Megohm, >= 1e3 => Unit.Kiloohm, _ => Unit.Ohm },
            Dimension.Current => size switch { >= 1 => Unit.Ampere, >= 2e-4 or 0 => Unit.Milliampere, _ => Unit.Microampere },
            Dimension.Time => size >= 1 ? Unit.Second : Unit.Millisecond,
            Dimension.Voltage => size is >= 1 or 0 ? Unit.Volt : Unit.Millivolt,
            _ => Unit.Joule,
        };
    }
}
