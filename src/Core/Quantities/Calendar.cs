namespace Osierwand.Core.Quantities;

/// <summary>Dates as the trade counts them.</summary>
public static class Calendar
{
    /// <summary>The same day of a later month, or that month's last day: 31 January plus one month is 28 February. A quarter of a month
    /// is a week.</summary>
    public static DateOnly AddMonths(DateOnly date, double months)
    {
        var whole = (int)Math.Floor(months);
        var weeks = (int)Math.Round((months - whole) * 4);
        return date.AddMonths(whole).AddDays(7 * weeks);
    }
}
