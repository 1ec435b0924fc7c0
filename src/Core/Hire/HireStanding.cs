namespace Osierwand.Core.Hire;

/// <summary>What an item's moves come to; what it was found to be at the bench is not in it.</summary>
/// <param name="Moves">How many there were.</param>
/// <param name="OutTo">Who has it; null while it is in the house.</param>
/// <param name="ReturnedAt">When it last came back; null where it was never out.</param>
/// <param name="Seen">By the last look since it came back; null where nobody looked.</param>
/// <param name="LaidAt">On a bench since then; null where it was taken up again.</param>
public sealed record HireStanding(
    int Moves = 0,
    string? OutTo = null,
    DateTimeOffset? OutSince = null,
    DateOnly? BackBy = null,
    DateTimeOffset? ReturnedAt = null,
    HireSeen? Seen = null,
    DateTimeOffset? SeenAt = null,
    string? SeenBy = null,
    DateTimeOffset? LaidAt = null,
    string? LaidBy = null
)
{
    public static HireStanding Start { get; } = new();

    public HireStanding After(DoneMove done) =>
        done.Move switch
        {
            Issued it => new(Moves + 1, it.To.Trim(), done.At, it.BackBy),
            Hire.Returned => new(Moves + 1, ReturnedAt: done.At),
            LookedAt it => this with
            {
                Moves = Moves + 1,
                Seen = it.Seen,
                SeenAt = done.At,
                SeenBy = done.By,
                LaidAt = null,
                LaidBy = null,
            },
            _ => this with { Moves = Moves + 1, LaidAt = done.At, LaidBy = done.By },
        };

    public bool IsOut => OutSince is not null;
}
