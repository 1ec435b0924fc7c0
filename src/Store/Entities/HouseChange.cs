namespace Osierwand.Store.Entities;

/// <summary>
/// One change of the organisation's own limits on a pack. Never edited: the newest of a row counts, the rest tells how it came to be, and
/// a record that names "house.3" finds here what the third change was.
/// </summary>
public sealed class HouseChange
{
    public const int LongestReason = 500;

    public required string PackId { get; set; }

    /// <summary>Counts the pack's changes from 1.</summary>
    public int Revision { get; set; }
    public required string RuleId { get; set; }

    /// <summary>Null where the house limit was lifted.</summary>
    public double? Value { get; set; }

    /// <summary>Symbol of the contract.</summary>
    public string? Unit { get; set; }
    public required string Reason { get; set; }

    /// <summary>The lead, by name as it was that day.</summary>
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}
