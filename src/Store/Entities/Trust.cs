namespace Osierwand.Store.Entities;

/// <summary>Something that a person did: who, what, when, from where, before and after. Never edited.</summary>
public sealed class AuditEntry
{
    public long Id { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>Null where nobody was signed in.</summary>
    public Guid? PersonId { get; set; }
    public required string Person { get; set; }

    /// <summary>In the past tense: "round opened".</summary>
    public required string What { get; set; }

    /// <summary>To whom or what: a tag, a name, a limit.</summary>
    public required string Subject { get; set; }
    public Guid? SubjectId { get; set; }
    public Guid? SessionId { get; set; }
    public required string Address { get; set; }

    /// <summary>JSON; null where there was nothing before.</summary>
    public string? Before { get; set; }
    public string? After { get; set; }
}

/// <summary>A book's head as it was signed with the house's key, which is not in the database. Never edited.</summary>
public sealed class SignedHead
{
    public Guid ClientId { get; set; }
    public long Number { get; set; }
    public required byte[] Hash { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>First eight bytes of the SHA-256 of the public key, in hex.</summary>
    public required string KeyId { get; set; }
    public required byte[] Signature { get; set; }
}

/// <summary>One verification of all books. Never edited.</summary>
public sealed class Verification
{
    public long Id { get; set; }
    public DateTimeOffset At { get; set; }
    public double Seconds { get; set; }
    public long Records { get; set; }

    /// <summary>What was found, a line each; empty when every book is whole.</summary>
    public string[] Breaks { get; set; } = [];
}

/// <summary>The raw result of a measurement that this server ran. Only with it is a reading an instrument's. Never edited.</summary>
public sealed class Measurement
{
    /// <summary>The reading's own number.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }
    public Guid RoundId { get; set; }
    public Guid PersonId { get; set; }
    public Guid? SessionId { get; set; }
    public Guid InstrumentId { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>The event as it was sent to the bench, in the contract's words.</summary>
    public required string Reading { get; set; }
}
