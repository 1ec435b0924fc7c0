using Osierwand.Core.Hire;

namespace Osierwand.Store.Entities;

/// <summary>Something that happened to an item of a hire fleet. Appended, never edited.</summary>
public sealed class HireMoveRow
{
    /// <summary>Made by the page, so that sending twice stores once; of what followed from a move by the server.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }

    /// <summary>Counts the moves of an item, so that two counters do not issue it at once.</summary>
    public int Number { get; set; }
    public DateTimeOffset At { get; set; }
    public Guid PersonId { get; set; }
    public required string By { get; set; }

    /// <summary>As JSON of <see cref="HireMove"/>.</summary>
    public required string Move { get; set; }
}

/// <summary>What an item's moves come to (<see cref="HireStanding"/>), kept beside them so that a fleet is read in one question.</summary>
public sealed class HireItem
{
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public int Moves { get; set; }
    public string? OutTo { get; set; }
    public DateTimeOffset? OutSince { get; set; }
    public DateOnly? BackBy { get; set; }
    public DateTimeOffset? ReturnedAt { get; set; }
    public HireSeen? Seen { get; set; }
    public DateTimeOffset? SeenAt { get; set; }
    public string? SeenBy { get; set; }
    public DateTimeOffset? LaidAt { get; set; }
    public string? LaidBy { get; set; }

    public HireStanding Standing
    {
        get => new(Moves, OutTo, OutSince, BackBy, ReturnedAt, Seen, SeenAt, SeenBy, LaidAt, LaidBy);
        set =>
            (Moves, OutTo, OutSince, BackBy, ReturnedAt, Seen, SeenAt, SeenBy, LaidAt, LaidBy) = (
                value.Moves,
                value.OutTo,
                value.OutSince,
                value.BackBy,
                value.ReturnedAt,
                value.Seen,
                value.SeenAt,
                value.SeenBy,
                value.LaidAt,
                value.LaidBy
            );
    }
}
