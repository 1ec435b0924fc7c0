using System.Globalization;
using Osierwand.Core.Quantities;

namespace Osierwand.Server.Evidence;

/// <summary>A wait between two tests in the database's words.</summary>
public static class DatabaseWait
{
    /// <summary>Added to a day it gives the day that <see cref="Period.After"/> gives.</summary>
    public static string Of(Period it) =>
        // A week is no part of a month.
        it.Months < 1
            ? string.Create(CultureInfo.InvariantCulture, $"{it.After(DateOnly.MinValue).DayNumber} days")
            : string.Create(CultureInfo.InvariantCulture, $"{it.Months:0} months");
}
