namespace Osierwand.Core.Quantities;

/// <summary>What a number measures. Values are kept in the SI unit of their dimension.</summary>
public enum Dimension
{
    Resistance,
    Current,
    Voltage,
    Time,
    Energy,

    /// <summary>A part of something, in wholes: 0.9 is 90 %.</summary>
    Share,

    /// <summary>Of the calendar, in days.</summary>
    Days,

    /// <summary>Of the calendar. A month is no number of days.</summary>
    Months,

    /// <summary>How often.</summary>
    Count,
    Power,

    /// <summary>In metre.</summary>
    Length,

    /// <summary>In degree Celsius.</summary>
    Temperature,

    /// <summary>In kelvin.</summary>
    TemperatureDifference,

    /// <summary>A share for each kelvin.</summary>
    PerKelvin,
}

/// <summary>A resistance in ohm.</summary>
public readonly record struct Ohms(double Value)
{
    public static Ohms operator +(Ohms a, Ohms b) => new(a.Value + b.Value);

    public static Ohms operator *(double times, Ohms it) => new(times * it.Value);

    public static implicit operator Quantity(Ohms it) => new(it.Value, Dimension.Resistance);
}

/// <summary>A current in ampere.</summary>
public readonly record struct Amperes(double Value)
{
    public static Amperes operator *(double times, Amperes it) => new(times * it.Value);

    public static implicit operator Quantity(Amperes it) => new(it.Value, Dimension.Current);
}

/// <summary>A voltage in volt.</summary>
public readonly record struct Volts(double Value)
{
    public static Volts operator *(double times, Volts it) => new(times * it.Value);

    /// <summary>What a voltage drives through a resistance: 230 V / 10 Ω is 23 A.</summary>
    public static Amperes operator /(Volts across, Ohms through) => new(across.Value / through.Value);

    /// <summary>At what resistance a voltage drives just this current.</summary>
    public static Ohms operator /(Volts across, Amperes current) => new(across.Value / current.Value);

    public static implicit operator Quantity(Volts it) => new(it.Value, Dimension.Voltage);
}

/// <summary>A time in second.</summary>
public readonly record struct Seconds(double Value)
{
    public static implicit operator Quantity(Seconds it) => new(it.Value, Dimension.Time);
}

/// <summary>A power in watt.</summary>
public readonly record struct Watts(double Value)
{
    /// <summary>What a load draws: 2300 W / 230 V is 10 A.</summary>
    public static Amperes operator /(Watts load, Volts across) => new(load.Value / across.Value);
}

/// <summary>A length in metre.</summary>
public readonly record struct Metres(double Value);

/// <summary>A conductor's cross-section in square millimetre.</summary>
public readonly record struct SquareMillimetres(double Value);

/// <summary>A temperature in degree Celsius.</summary>
public readonly record struct Celsius(double Value);

/// <summary>A measured or allowed amount in the SI unit of its dimension: 0.16 ohm is <c>(0.16, Resistance)</c>, 2 Mohm is <c>(2e6,
/// Resistance)</c>.</summary>
public readonly record struct Quantity(double Si, Dimension Dimension)
{
    /// <summary>The value as a person writes it, with a prefix and at most three significant digits: "0.131 Ω", "1.63 mA", "299
    /// MΩ".</summary>
    public override string ToString() => QuantityText.Show(this);
}
