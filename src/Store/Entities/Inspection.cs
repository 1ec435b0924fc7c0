using Osierwand.Core.Records;

namespace Osierwand.Store.Entities;

/// <summary>One saved inspection. The database refuses to change or delete it; a correction is another record.</summary>
public sealed class Inspection
{
    /// <summary>Made by the client, so that sending twice stores once.</summary>
    public Guid Id { get; set; }
    public Guid ClientId { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public Guid RoundId { get; set; }
    public Guid TechnicianId { get; set; }

    /// <summary>Position in the client's book, from 1 without gaps.</summary>
    public long BookNumber { get; set; }
    public DateTimeOffset TestedAt { get; set; }
    public Outcome Outcome { get; set; }
    public bool NearLimit { get; set; }
    public bool Rising { get; set; }

    /// <summary>The record's exact text; the chain's hash runs over it.</summary>
    public required string Record { get; set; }

    /// <summary>The readings alone, for the trend: loading whole records to look back would cost ten times as much.</summary>
    public required string Taken { get; set; }

    /// <summary>Digest of what the bench sent, to tell a repeat from a clash of ids.</summary>
    public required byte[] Sent { get; set; }
    public required byte[] Hash { get; set; }
}

/// <summary>The end of a client's chain of records.</summary>
public sealed class Book
{
    public Guid ClientId { get; set; }
    public long Number { get; set; }
    public required byte[] Hash { get; set; }
}
