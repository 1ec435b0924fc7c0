using Osierwand.Core.Judging;
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

    /// <summary>The record that this one takes back; null for an inspection of its own.</summary>
    public Guid? Corrects { get; set; }

    /// <summary>Position in the client's book, from 1 without gaps.</summary>
    public long BookNumber { get; set; }

    /// <summary>When it was taken at the bench, as far as its clock is believed.</summary>
    public DateTimeOffset TestedAt { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }

    /// <summary>The day at the site, in its own time zone.</summary>
    public DateOnly Day { get; set; }
    public Outcome Outcome { get; set; }

    /// <summary>False for a look: it is no test, whatever it found.</summary>
    public bool IsTest { get; set; }
    public bool NearLimit { get; set; }
    public bool Rising { get; set; }

    /// <summary>The record's exact text; the chain's hash runs over it.</summary>
    public required string Record { get; set; }

    /// <summary>The readings alone, for the trend: loading whole records to look back would cost ten times as much.</summary>
    public required string Taken { get; set; }

    /// <summary>How the item stood before, so that a record taken back leaves it so.</summary>
    public required string Before { get; set; }

    /// <summary>How the item stood afterwards: a register that says otherwise was changed by other hands. Null in records of chain form
    /// 1.</summary>
    public string? After { get; set; }

    /// <summary>What the hash covers: 1 the record's text alone, 2 everything that is kept of it
    /// (<see cref="Core.Records.RecordChain"/>).</summary>
    public short Chain { get; set; } = RecordChain.Form;

    /// <summary>The instrument that the record names, said by the database from it; null where it names none.</summary>
    public Guid? InstrumentId { get; private set; }

    /// <summary>How long the item lay on the bench, said by the database from the record's times; null where it tells none.</summary>
    public int? BenchSeconds { get; private set; }

    /// <summary>The item's revision that this record made.</summary>
    public int Revision { get; set; }

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

/// <summary>A correction of an item's facts: what they were, what they are, by whom and why. Never edited.</summary>
public sealed class ItemChange
{
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
    public required string Reason { get; set; }

    /// <summary>One line a fact: "Flex: 1.5 m, 1 mm² → 2 m, 1 mm²".</summary>
    public string[] Lines { get; set; } = [];
}

/// <summary>A run sheet that one bench handed to another, whole. It is one person's until it is taken, then the taker's; it ends when the
/// taker saves or discards it.</summary>
public sealed class HandedSheet
{
    /// <summary>The sheet's own number, made by the bench: sending twice stores once.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public Guid RoundId { get; set; }
    public Guid PersonId { get; set; }
    public required string Person { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>What the next one should know.</summary>
    public required string Words { get; set; }

    /// <summary>What failed, a line each; while the sheet is open they mark its item.</summary>
    public string[] Failures { get; set; } = [];
    public required string Events { get; set; }
    public Guid? TakenById { get; set; }
    public string? TakenBy { get; set; }
    public DateTimeOffset? TakenAt { get; set; }
    public DateTimeOffset? EndedAt { get; set; }
}

/// <summary>
/// A run sheet that ended without a record: discarded with a reason, whole. One that holds a failure marks its item until a lead has seen
/// it.
/// </summary>
public sealed class DiscardedSheet
{
    /// <summary>Made by the bench, so that sending twice stores once.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public Guid RoundId { get; set; }
    public Guid PersonId { get; set; }
    public required string Person { get; set; }
    public DateTimeOffset At { get; set; }
    public required string Reason { get; set; }
    public bool HoldsFailure { get; set; }

    /// <summary>What failed, a line each.</summary>
    public string[] Failures { get; set; } = [];
    public required string Events { get; set; }

    /// <summary>Null until a lead has looked at it.</summary>
    public string? SeenBy { get; set; }
    public DateTimeOffset? SeenAt { get; set; }
}
