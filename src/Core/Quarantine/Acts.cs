using System.Text.Json.Serialization;
using Osierwand.Core.Bench;

namespace Osierwand.Core.Quarantine;

/// <summary>What took an item out of use.</summary>
public enum HeldBy
{
    FailedInspection,
    UserReport,
    Recall,

    /// <summary>Seen on an item of a hire fleet when it came back.</summary>
    HireReturn,
}

/// <summary>Why an item is held.</summary>
/// <param name="Id">Of the failed inspection, the user's report or the recall.</param>
/// <param name="Words">What is wrong with it.</param>
/// <param name="By">Who found it, or who said so.</param>
public sealed record HoldCause(Guid Id, HeldBy Kind, string Words, DateTimeOffset Since, string By)
{
    /// <summary>What a recall says of each item.</summary>
    /// <param name="reference">Number of the maker's or the authority's; may be empty.</param>
    /// <returns>The words, or why they cannot be kept.</returns>
    public static Result<string> OfRecall(string words, string? reference)
    {
        if (string.IsNullOrWhiteSpace(words))
            return new Fault("words", "Say what is wrong with them.");
        foreach (var (name, text, longest) in new[] { ("words", words, QuarantineAct.LongestText), ("reference", reference ?? "", 100) })
            if ((KeptText.Refusal(text, longest) ?? KeptText.Unseen(text)) is { } why)
                return new Fault(name, why);
        return string.IsNullOrWhiteSpace(reference) ? words.Trim() : $"{words.Trim()} (recall {reference.Trim()})";
    }
}

/// <summary>How nobody can use it until it is mended.</summary>
public enum MadeUnusable
{
    /// <summary>The plug is cut off, its pins made unusable.</summary>
    PlugCut,

    /// <summary>A lock-out on the plug.</summary>
    PlugLocked,
    LockedAway,

    /// <summary>Hard-wired: locked off at its isolator.</summary>
    LockedOff,
}

/// <summary>How a scrapped item was made unusable for good.</summary>
public enum ScrappedHow
{
    FlexCutOff,
    TakenApart,
    HandedToDisposal,
}

/// <summary>
/// Something that was done about a held item. Appended, never edited; each names the cause it acts on, so that a second failure begins
/// anew.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(MadeSafe), "madeSafe")]
[JsonDerivedType(typeof(SentToRepair), "sentToRepair")]
[JsonDerivedType(typeof(Repaired), "repaired")]
[JsonDerivedType(typeof(Scrapped), "scrapped")]
[JsonDerivedType(typeof(ReturnedUntested), "returnedUntested")]
public abstract record QuarantineAct
{
    public const int LongestText = 500;

    /// <summary>Every text of it that somebody wrote, with its name and whether it may be left out.</summary>
    internal abstract IEnumerable<(string Name, string? Text, bool IsNeeded)> Texts { get; }
}

/// <summary>Red tag on it, and nobody can plug it in.</summary>
public sealed record MadeSafe(MadeUnusable How, string Told, string? Words = null) : QuarantineAct
{
    internal override IEnumerable<(string, string?, bool)> Texts => [("told", Told, true), ("words", Words, false)];
}

public sealed record SentToRepair(string To) : QuarantineAct
{
    internal override IEnumerable<(string, string?, bool)> Texts => [("to", To, true)];
}

/// <summary>It was mended; only a test after repair says that it is good.</summary>
/// <param name="Found">What was found.</param>
/// <param name="Done">What was done about it.</param>
/// <param name="Parts">What was replaced; empty where nothing was.</param>
/// <param name="RepairedBy">Who did it.</param>
public sealed record Repaired(string Found, string Done, string? Parts, string RepairedBy) : QuarantineAct
{
    internal override IEnumerable<(string, string?, bool)> Texts =>
        [("found", Found, true), ("done", Done, true), ("parts", Parts, false), ("repairedBy", RepairedBy, true)];

    /// <summary>As a test after repair has it on its record.</summary>
    [JsonIgnore]
    public RepairSaid Said => new(Found, Done, string.IsNullOrWhiteSpace(Parts) ? null : Parts, RepairedBy);

    public static Repaired Of(RepairSaid it) => new(it.Found, it.Done, it.Parts, it.By);
}

/// <param name="Proof">Who saw it, or where it went; a photo may stand beside it.</param>
public sealed record Scrapped(ScrappedHow How, string Proof, Guid? Photo = null) : QuarantineAct
{
    internal override IEnumerable<(string, string?, bool)> Texts => [("proof", Proof, true)];
}

/// <summary>The client has it back as it is, with a warning: it stays out of use.</summary>
public sealed record ReturnedUntested(string To, string Warning) : QuarantineAct
{
    internal override IEnumerable<(string, string?, bool)> Texts => [("to", To, true), ("warning", Warning, true)];
}

/// <summary>An act with when and by whom.</summary>
public sealed record DoneAct(Guid Id, DateTimeOffset At, string By, QuarantineAct Act);
