using System.Globalization;

namespace Osierwand.Core.Quantities;

/// <summary>Quantities and plain numbers as people write them, always with a decimal point.</summary>
public static class QuantityText
{
    /// <summary>With the prefix that suits its size: 1312e-4 ohm is "0.131 Ω", 5e-5 A is "50 µA", 15 s is "15 s".</summary>
    public static string Show(Quantity quantity) => Show(quantity, Suited(quantity));

    /// <summary>In one given unit, so that a column of values lines up.</summary>
    public static string Show(Quantity quantity, Unit unit) =>
        unit.Label.Length == 0 ? Number(quantity.Si / unit.Factor) : $"{Number(quantity.Si / unit.Factor)} {unit.Label}";

    /// <summary>In the unit a column usually has, unless the value would drown in noughts there: 3 µA stays "3 µA" among
    /// milliamperes.</summary>
    public static string ShowNear(Quantity quantity, Unit usual) =>
        quantity.Si != 0 && Math.Abs(quantity.Si) < 0.01 * usual.Factor ? Show(quantity) : Show(quantity, usual);

    /// <summary>At most <paramref name="digits"/> significant digits, no exponent, no trailing noughts: 0.1312 is "0.131".</summary>
    public static string Number(double value, int digits = 3)
    {
        if (value == 0 || !double.IsFinite(value))
            return value.ToString(CultureInfo.InvariantCulture);
        var size = Math.Abs(value);
        var decimals = Decimals(size, digits);
        return size < MostByHand && decimals < Tens.Length
            ? Fixed(value, decimals)
            : (Math.Round(value, decimals) + 0.0).ToString("0.############", CultureInfo.InvariantCulture);
    }

    /// <summary>By whole numbers: every working holds a dozen figures, and the general formatting of doubles was a tenth of an
    /// assessment.</summary>
    private static string Fixed(double value, int decimals)
    {
        var scaled = (long)Math.Round(Math.Abs(value) * Tens[decimals]);
        while (decimals > 0 && scaled % 10 == 0)
            (scaled, decimals) = (scaled / 10, decimals - 1);
        if (decimals == 0 && value >= 0 && scaled < Whole.Length)
            return Whole[scaled];
        Span<char> text = stackalloc char[32];
        var at = text.Length;
        for (var digit = 0; digit < decimals || scaled > 0 || digit == decimals; digit++)
        {
            if (digit == decimals && decimals > 0)
                text[--at] = '.';
            text[--at] = (char)('0' + scaled % 10);
            scaled /= 10;
        }
        if (value < 0)
            text[--at] = '-';
        return new string(text[at..]);
    }

    private const double MostByHand = 1e9;

    private static readonly double[] Tens = [.. Enumerable.Range(0, 9).Select(it => Math.Pow(10, it))];

    private static readonly string[] Whole = [.. Enumerable.Range(0, 1000).Select(it => it.ToString(CultureInfo.InvariantCulture))];

    private static int Decimals(double size, int digits)
    {
        var magnitude = size switch
        {
            >= 100 and < 1000 => 2,
            >= 10 and < 100 => 1,
            >= 1 and < 10 => 0,
            >= 0.1 and < 1 => -1,
            _ => (int)Math.Floor(Math.Log10(size)),
        };
        return Math.Clamp(digits - 1 - magnitude, 0, 12);
    }

    // Earth readings stay in ohm down to a milliohm: nobody in the trade says "110 mΩ" of a kettle.
    private static Unit Suited(Quantity quantity)
    {
        var size = Math.Abs(quantity.Si);
        return quantity.Dimension switch
        {
            Dimension.Resistance => size switch
            {
                >= 1e9 => Unit.Gigohm,
                >= 1e5 => Unit.Megohm,
                >= 1e3 => Unit.Kiloohm,
                _ => Unit.Ohm,
            },
            Dimension.Current => size switch
            {
                >= 1 => Unit.Ampere,
                >= 2e-4 or 0 => Unit.Milliampere,
                _ => Unit.Microampere,
            },
            Dimension.Time => size >= 1 ? Unit.Second : Unit.Millisecond,
            Dimension.Voltage => size is >= 1 or 0 ? Unit.Volt : Unit.Millivolt,
            _ => Unit.Si(quantity.Dimension),
        };
    }
}
