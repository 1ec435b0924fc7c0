using System.Text.Json;
using System.Text.Json.Serialization;

namespace Osierwand.Core.Quantities;

/// <summary>
/// How long until something is due, as the trade counts it: months, and weeks as quarters of one. No number of days: from 31 January a
/// month ends on 28 February.
/// </summary>
/// <param name="Months">0.25 is a week, 12 a year.</param>
[JsonConverter(typeof(PeriodConverter))]
public readonly record struct Period(double Months) : IComparable<Period>
{
    public static readonly Period Week = new(0.25);

    private const int WeeksInAMonth = 4;
    private const int DaysInAWeek = 7;

    /// <summary>The same day of a later month, or that month's last day: 31 January plus a month is 28 February, plus a week 7
    /// February.</summary>
    public DateOnly After(DateOnly date)
    {
        var whole = (int)Math.Floor(Months);
        var weeks = (int)Math.Round((Months - whole) * WeeksInAMonth);
        return date.AddMonths(whole).AddDays(DaysInAWeek * weeks);
    }

    /// <summary>Halved: no rung of any ladder, until one is chosen.</summary>
    public Period Half => new(Months / 2);

    public static Period Shorter(Period a, Period b) => a <= b ? a : b;

    public static Period Longer(Period a, Period b) => a >= b ? a : b;

    public int CompareTo(Period other) => Months.CompareTo(other.Months);

    public static bool operator <(Period a, Period b) => a.Months < b.Months;

    public static bool operator >(Period a, Period b) => a.Months > b.Months;

    public static bool operator <=(Period a, Period b) => a.Months <= b.Months;

    public static bool operator >=(Period a, Period b) => a.Months >= b.Months;

    /// <summary>"6 months", "a month", "a week".</summary>
    public override string ToString() =>
        this == Week ? "a week"
        : Months == 1 ? "a month"
        : $"{QuantityText.Number(Months)} months";
}

/// <summary>A period as its number of months.</summary>
internal sealed class PeriodConverter : JsonConverter<Period>
{
    public override Period Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.Number && reader.GetDouble() is > 0 and var months
            ? new(months)
            : throw new JsonException("must be a number of months greater than 0");

    public override void Write(Utf8JsonWriter writer, Period value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Months);
}
