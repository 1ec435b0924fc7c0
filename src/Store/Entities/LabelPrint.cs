namespace Osierwand.Store.Entities;

/// <summary>A label was given to the printer. Appended, never edited: what hangs on an item is known.</summary>
public sealed class LabelPrint
{
    public const int LongestReason = 200;

    public Guid Id { get; set; }

    /// <summary>Of the press, made by the page: sent twice it prints the same again and counts once.</summary>
    public Guid BatchId { get; set; }
    public Guid InspectionId { get; set; }
    public Inspection Inspection { get; set; } = null!;
    public DateTimeOffset At { get; set; }
    public Guid PersonId { get; set; }
    public required string By { get; set; }

    /// <summary>Word of what lay in the printer.</summary>
    public required string Medium { get; set; }

    /// <summary>Why it was printed once more; null the first time.</summary>
    public string? Reason { get; set; }
}
