using Osierwand.Core.Papers;

namespace Osierwand.Store.Entities;

/// <summary>How far a paper has come that is made in the background.</summary>
public enum PaperState
{
    Waiting,
    Making,
    Ready,
    Failed,
    Cancelled,
}

/// <summary>A paper of a round, or of a client, as it was made once: it stays as it was handed over, and says of itself what
/// changed since.</summary>
public sealed class KeptPaper
{
    public const int LongestTitle = 400;

    /// <summary>Made by the page, so that asking twice makes one.</summary>
    public Guid Id { get; set; }
    public LongPaper Paper { get; set; }

    /// <summary>Null where it is of a client.</summary>
    public Guid? RoundId { get; set; }
    public Round? Round { get; set; }
    public Guid ClientId { get; set; }
    public Client Client { get; set; } = null!;
    public required string Title { get; set; }
    public Guid AskedById { get; set; }
    public required string AskedBy { get; set; }
    public DateTimeOffset AskedAt { get; set; }
    public PaperState State { get; set; }

    /// <summary>Records read of those there are.</summary>
    public int Done { get; set; }
    public int Total { get; set; }

    /// <summary>When whoever makes it was last heard of: a server that stops leaves it to another.</summary>
    public DateTimeOffset? BeatAt { get; set; }
    public int Tries { get; set; }
    public DateTimeOffset? EndedAt { get; set; }

    /// <summary>Why it failed, for the person who asked; null otherwise.</summary>
    public string? Trouble { get; set; }

    /// <summary>The client may have it: its round was signed when it was made, or it needs no signature.</summary>
    public bool IsForClient { get; set; }

    /// <summary>The last record in the client's book when it was made, of any round: what came later it does not know.</summary>
    public long UpTo { get; set; }
    public int? Bytes { get; set; }
}

/// <summary>The file of a kept paper, in a table of its own: lists of papers do not carry it.</summary>
public sealed class KeptPaperFile
{
    public Guid Id { get; set; }
    public required byte[] Pdf { get; set; }
}
