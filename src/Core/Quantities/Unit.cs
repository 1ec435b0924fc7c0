using System.Collections.Frozen;

namespace Osierwand.Core.Quantities;

/// <summary>A unit of entry. Symbols are case-sensitive: <c>mohm</c> is milliohm, <c>Mohm</c> is megohm.</summary>
/// <param name="Symbol">The symbol of the exchange contract, plain ASCII: "uA".</param>
/// <param name="Label">The symbol on screens and papers: "µA".</param>
/// <param name="Factor">SI units in one of this unit.</param>
public sealed record Unit(string Symbol, string Label, Dimension Dimension, double Factor)
{
    public static readonly Unit Ohm = new("ohm", "Ω", Dimension.Resistance, 1);
    public static readonly Unit Milliohm = new("mohm", "mΩ", Dimension.Resistance, 1e-3);
    public static readonly Unit Kiloohm = new("kohm", "kΩ", Dimension.Resistance, 1e3);
    public static readonly Unit Megohm = new("Mohm", "MΩ", Dimension.Resistance, 1e6);
    public static readonly Unit Gigohm = new("Gohm", "GΩ", Dimension.Resistance, 1e9);
    public static readonly Unit Ampere = new("A", "A", Dimension.Current, 1);
    public static readonly Unit Milliampere = new("mA", "mA", Dimension.Current, 1e-3);
    public static readonly Unit Microampere = new("uA", "µA", Dimension.Current, 1e-6);
    public static readonly Unit Second = new("s", "s", Dimension.Time, 1);
    public static readonly Unit Millisecond = new("ms", "ms", Dimension.Time, 1e-3);
    public static readonly Unit Minute = new("min", "min", Dimension.Time, 60);
    public static readonly Unit Hour = new("h", "h", Dimension.Time, 3600);
    public static readonly Unit Volt = new("V", "V", Dimension.Voltage, 1);
    public static readonly Unit Millivolt = new("mV", "mV", Dimension.Voltage, 1e-3);
    public static readonly Unit Joule = new("J", "J", Dimension.Energy, 1);

    public static readonly Unit Percent = new("%", "%", Dimension.Share, 0.01);
    public static readonly Unit Day = new("d", "days", Dimension.Days, 1);
    public static readonly Unit Month = new("months", "months", Dimension.Months, 1);
    public static readonly Unit Times = new("x", "×", Dimension.Count, 1);
    public static readonly Unit One = new("1", "", Dimension.Count, 1);
    public static readonly Unit Watt = new("W", "W", Dimension.Power, 1);
    public static readonly Unit Millimetre = new("mm", "mm", Dimension.Length, 1e-3);
    public static readonly Unit DegreeCelsius = new("degC", "°C", Dimension.Temperature, 1);
    public static readonly Unit Kelvin = new("K", "K", Dimension.TemperatureDifference, 1);
    public static readonly Unit PercentPerKelvin = new("%/K", "% per K", Dimension.PerKelvin, 0.01);

    /// <summary>Every unit, largest first within its dimension.</summary>
    public static IReadOnlyList<Unit> All { get; } =
    [
        Gigohm,
        Megohm,
        Kiloohm,
        Ohm,
        Milliohm,
        Ampere,
        Milliampere,
        Microampere,
        Hour,
        Minute,
        Second,
        Millisecond,
        Volt,
        Millivolt,
        Joule,
        Percent,
        Day,
        Month,
        Times,
        One,
        Watt,
        Millimetre,
        DegreeCelsius,
        Kelvin,
        PercentPerKelvin,
    ];

    private static readonly FrozenDictionary<string, Unit> BySymbol = All.ToFrozenDictionary(unit => unit.Symbol);

    /// <summary>The unit with exactly this contract symbol, or null.</summary>
    public static Unit? Find(string symbol) => BySymbol.GetValueOrDefault(symbol);

    /// <summary>The unit in which a dimension is judged: of what is measured the SI unit.</summary>
    public static Unit Si(Dimension dimension) =>
        dimension switch
        {
            Dimension.Resistance => Ohm,
            Dimension.Current => Ampere,
            Dimension.Voltage => Volt,
            Dimension.Time => Second,
            Dimension.Energy => Joule,
            _ => All.First(unit => unit.Dimension == dimension),
        };
}
