namespace Osierwand.Store.Entities;

/// <summary>A lead looked at a record that asked for it. Appended, never edited.</summary>
public sealed class ReviewedRecord
{
    public const int LongestWords = 500;

    /// <summary>Of the record: one look is enough.</summary>
    public Guid InspectionId { get; set; }
    public Inspection Inspection { get; set; } = null!;
    public Guid RoundId { get; set; }
    public DateTimeOffset At { get; set; }
    public Guid PersonId { get; set; }
    public required string By { get; set; }

    /// <summary>What the lead thought of it; may be empty.</summary>
    public string Words { get; set; } = "";
}

/// <summary>A lead's signature under a round, over every record that it held then. Appended, never edited.</summary>
public sealed class RoundSignature
{
    public Guid RoundId { get; set; }
    public Round Round { get; set; } = null!;
    public DateTimeOffset At { get; set; }

    /// <summary>The day at the site.</summary>
    public DateOnly Day { get; set; }
    public Guid PersonId { get; set; }
    public required string By { get; set; }

    /// <summary>May be empty.</summary>
    public string Words { get; set; } = "";

    /// <summary>How many records it covers, and the last of them in the client's book with its hash; 0 where the round holds none.</summary>
    public int Records { get; set; }
    public long LastNumber { get; set; }
    public required byte[] LastHash { get; set; }

    /// <summary>Whoever signed tested some of it.</summary>
    public bool IsOwnWork { get; set; }
}
