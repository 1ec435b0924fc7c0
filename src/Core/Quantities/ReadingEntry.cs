using System.Globalization;
using System.Text.RegularExpressions;

namespace Osierwand.Core.Quantities;

/// <summary>Whether the display showed a value or ran off its scale. An off-scale reading is a bound, not a value.</summary>
public enum Qualifier
{
    Exact,
    Above,
    Below,
}

/// <summary>A number as it was read or typed: kept with its own unit and qualifier beside the SI value.</summary>
public readonly record struct Measured(double Number, Unit Unit, Qualifier Qualifier = Qualifier.Exact)
{
    public Quantity Quantity => new(Number * Unit.Factor, Unit.Dimension);

    public bool IsBound => Qualifier != Qualifier.Exact;

    /// <summary>As shown to people: ">500 MΩ".</summary>
    public override string ToString() => $"{Sign}{QuantityText.Number(Number, 6)} {Unit.Label}";

    private string Sign =>
        Qualifier switch
        {
            Qualifier.Above => ">",
            Qualifier.Below => "<",
            _ => "",
        };
}

/// <summary>
/// Reads what a technician types into a reading field: <c>0.08</c>, <c>&gt;500M</c>, <c>12u</c>, <c>0.31mA</c>, <c>1,2 kΩ</c>.
/// A bare number takes the field's usual unit; a bare prefix is the prefix of the unit of the test: <c>26m</c> of a trip are milliseconds,
/// never minutes.
/// </summary>
public static partial class ReadingEntry
{
    private const int LongestEntry = 40;

    [GeneratedRegex(@"^(?<sign>[<>]?)\s*(?<number>[+-]?(\d+([.,]\d+)?|[.,]\d+))\s*(?<unit>\D*)$", RegexOptions.ExplicitCapture)]
    private static partial Regex Shape();

    /// <param name="text">What was typed. Units are case-sensitive, as "m" and "M" differ by a factor of a thousand million.</param>
    /// <param name="usual">The unit a bare number is in; it fixes the dimension.</param>
    /// <returns>The value, or a fault that says what would be understood. "1,500" is refused: it could be one and a half or fifteen
    /// hundred.</returns>
    public static Result<Measured> Parse(string text, Unit usual)
    {
        var trimmed = text.Trim();
        if (trimmed.Length == 0)
            return Fault("Nothing was entered", usual);
        if (trimmed.Length > LongestEntry)
            return Fault($"{trimmed.Length} characters are too many for a reading", usual);
        var match = Shape().Match(trimmed);
        if (!match.Success)
            return Fault($"“{trimmed}” is not a reading", usual);

        var digits = match.Groups["number"].Value;
        if (Ambiguity(digits) is { } twoWays)
            return Fault(twoWays, usual);
        if (
            !double.TryParse(digits.Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
            || !double.IsFinite(number)
        )
            return Fault($"“{digits}” is not a number", usual);

        var symbol = match.Groups["unit"].Value.Trim();
        var unit = symbol.Length == 0 ? usual : FindUnit(symbol, usual.Dimension);
        if (unit is null)
            return Fault($"“{symbol}” is not a unit of this test", usual);
        return new Measured(
            number,
            unit,
            match.Groups["sign"].Value switch
            {
                ">" => Qualifier.Above,
                "<" => Qualifier.Below,
                _ => Qualifier.Exact,
            }
        );
    }

    /// <summary>What a number with a comma could be, in words; null where it can be one thing only.</summary>
    /// <param name="digits">As typed, with or without a sign, and nothing else.</param>
    public static string? Ambiguity(string digits) =>
        digits.Contains(',') && digits.Length - digits.IndexOf(',') == 4 && digits.TrimStart('+', '-')[0] is not ('0' or ',')
            ? $"“{digits}” could be {digits.Replace(',', '.')} or {digits.Replace(",", "")}; write it with a point"
            : null;

    private static Unit? FindUnit(string symbol, Dimension dimension)
    {
        var ascii = symbol.Replace("Ω", "ohm").Replace('µ', 'u').Replace('μ', 'u');
        return Unit.All.FirstOrDefault(unit =>
            unit.Dimension == dimension && (unit.Symbol == ascii || (ascii.Length == 1 && unit.Symbol == ascii + Unit.Si(dimension).Symbol))
        );
    }

    private static Fault Fault(string what, Unit usual) => new("value", $"{what}. Try {Example(usual)}.");

    private static string Example(Unit usual) =>
        usual.Dimension switch
        {
            Dimension.Resistance when usual == Unit.Ohm => "0.08, 80m or <0.01",
            Dimension.Resistance => "2.4, >500M or 0.5M",
            Dimension.Current => "0.31, 0.31mA or 12u",
            Dimension.Time => "26, 26ms or 0.026s",
            _ => $"a number in {usual.Label}",
        };
}
