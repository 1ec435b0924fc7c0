using Osierwand.Core.Equipment;

namespace Osierwand.Store.Entities;

/// <summary>A measurement of this server that failed as it was judged then. Never edited: what became of it stands in
/// <see cref="SettledFailure"/>.</summary>
public sealed class MeasuredFailure
{
    /// <summary>Of the event: a reading, or an earth that was found.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public Guid RoundId { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>At the site.</summary>
    public DateOnly Day { get; set; }
    public required string Person { get; set; }
    public required string Step { get; set; }
    public string? Point { get; set; }

    /// <summary>Of the item when it was measured.</summary>
    public ProtectionClass Class { get; set; }
    public required string Name { get; set; }
    public required string Value { get; set; }
}

/// <summary>A failure that a saved record holds, or a lead explained. Never edited.</summary>
public sealed class SettledFailure
{
    public const int LongestWords = 500;

    public Guid Id { get; set; }
    public Guid FailureId { get; set; }
    public MeasuredFailure Failure { get; set; } = null!;

    /// <summary>It settles only while this record stands; null where a lead explained it.</summary>
    public Guid? RecordId { get; set; }
    public required string Person { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>Null where a record holds it.</summary>
    public string? Words { get; set; }
}
