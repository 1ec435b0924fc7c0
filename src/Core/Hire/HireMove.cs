using System.Text.Json.Serialization;

namespace Osierwand.Core.Hire;

/// <summary>Something that happened to an item of a hire fleet. Appended, never edited. What the bench finds is no move: it stands in the
/// book of inspections.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Issued), "issued")]
[JsonDerivedType(typeof(Returned), "returned")]
[JsonDerivedType(typeof(LookedAt), "lookedAt")]
[JsonDerivedType(typeof(Laid), "laid")]
public abstract record HireMove
{
    public const int LongestText = 200;

    /// <returns>What is wrong with its words, or null.</returns>
    internal virtual Fault? Wrong => null;

    private protected static Fault? WrongText(string name, string? text) =>
        text is not null && (KeptText.Refusal(text, LongestText) ?? KeptText.Unseen(text)) is { } why ? new(name, why) : null;
}

/// <summary>It left the house with a customer.</summary>
/// <param name="To">Customer or contract, as the house names them.</param>
/// <param name="BackBy">Agreed; null where nothing is.</param>
public sealed record Issued(string To, DateOnly? BackBy = null) : HireMove
{
    internal override Fault? Wrong => string.IsNullOrWhiteSpace(To) ? new("to", "Say who has it.") : WrongText("to", To);
}

/// <summary>It is back; nobody has looked at it yet.</summary>
public sealed record Returned : HireMove;

/// <summary>Looked at by somebody with it in hand. No formal visual: it moves no date, and it frees nothing that is held.</summary>
/// <param name="Words">Needed where what was seen has no words of its own.</param>
public sealed record LookedAt(HireSeen Seen, string? Words = null) : HireMove
{
    internal override Fault? Wrong =>
        HireVerdict.Of(Seen) is { WantsWords: true } && string.IsNullOrWhiteSpace(Words)
            ? new("words", "Say in a few words what is wrong.")
            : WrongText("words", Words);
}

/// <summary>It lies on a bench: nobody issues it from there.</summary>
public sealed record Laid : HireMove;

public enum HireMoveKind
{
    Issued,
    Returned,
    LookedAt,
    Laid,
}

/// <summary>A move with when, by the house's own clock, and by whom.</summary>
public sealed record DoneMove(Guid Id, DateTimeOffset At, string By, HireMove Move);
