namespace Osierwand.Store.Entities;

/// <summary>A procedure of the house. What it says stands in its versions.</summary>
public sealed class ProcedureRow
{
    public Guid Id { get; set; }

    /// <summary>Number of its newest version; two who edit at once are told apart by it.</summary>
    public int Newest { get; set; }

    /// <summary>Null while it may be chosen.</summary>
    public DateTimeOffset? RetiredAt { get; set; }
    public string? RetiredBy { get; set; }
    public string? RetiredWhy { get; set; }
    public List<ProcedureVersion> Versions { get; } = [];
}

/// <summary>One version of a procedure. Never edited: a record that names it finds here what it said.</summary>
public sealed class ProcedureVersion
{
    public const int LongestReason = 500;

    public Guid ProcedureId { get; set; }

    /// <summary>From 1 without gaps.</summary>
    public int Version { get; set; }
    public required string PackId { get; set; }
    public required string Name { get; set; }

    /// <summary>The procedure in the words of its schema.</summary>
    public required string Text { get; set; }

    /// <summary>Why it was made.</summary>
    public required string Reason { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}
