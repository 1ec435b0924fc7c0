using System.Collections.Immutable;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;

namespace Osierwand.Core.Papers;

/// <summary>
/// The paper of one inspection as a client reads it: what to do now, what was seen and measured, by whom, with what, by which standard and
/// from which record. Made of records alone (<see cref="PaperWriter"/>); a layout adds nothing to it and leaves nothing out.
/// </summary>
/// <param name="Title">What kind of paper it is: a look is never called a test.</param>
/// <param name="Act">What is to be done now, in a sentence.</param>
/// <param name="Notices">What a reader must know before believing the rest: corrected since, a required step dropped, an override.</param>
/// <param name="Item">The device as it was that day.</param>
/// <param name="Basis">By which standard, choices and order it was inspected.</param>
/// <param name="Kit">Instruments with calibration, and the outlet that powered it.</param>
/// <param name="NotCounted">Readings that were voided, each with its reason.</param>
/// <param name="NotMeasured">Steps without a reading, each with why.</param>
/// <param name="Worth">Advice and remarks.</param>
/// <param name="Evaluation">The closing evaluation of a medical device; empty where none was asked.</param>
/// <param name="Next">When it is seen again, and why then.</param>
/// <param name="Signatures">Who did it, when, and what is still to be signed.</param>
/// <param name="Origin">The record this was made from: its number, its place in the book, and the rules it was judged by.</param>
public sealed record ItemPaper(
    string Title,
    string Tag,
    string Name,
    string Client,
    string Where,
    DateOnly Date,
    Outcome Outcome,
    string OutcomeText,
    string Act,
    ImmutableArray<string> Notices,
    ImmutableArray<PaperFact> Item,
    ImmutableArray<PaperFact> Basis,
    ImmutableArray<PaperFact> Kit,
    PaperLook Look,
    ImmutableArray<PaperReading> Readings,
    ImmutableArray<PaperFact> NotCounted,
    ImmutableArray<PaperFact> NotMeasured,
    ImmutableArray<string> Worth,
    ImmutableArray<string> Evaluation,
    ImmutableArray<string> Next,
    ImmutableArray<PaperFact> Signatures,
    ImmutableArray<string> Origin
);

public sealed record PaperFact(string Label, string Text);

/// <param name="Points">What was looked at, one line a place; what is not good stands in <paramref name="Found"/> too.</param>
public sealed record PaperLook(Look Outcome, string OutcomeText, ImmutableArray<PaperFact> Points, ImmutableArray<string> Found);

/// <summary>One measured line.</summary>
/// <param name="Under">Where and under which condition.</param>
/// <param name="Limit">Empty where good or bad decides.</param>
/// <param name="Last">What was measured the time before, with its month; empty where nothing was.</param>
/// <param name="Working">What a person can redo with a pencil.</param>
/// <param name="IsTyped">Read off a display and typed; else the instrument's own.</param>
/// <param name="Rail">Null where there is no limit to stand before.</param>
/// <param name="Drawn">What the instrument drew with it; null where it drew nothing.</param>
/// <param name="Remarks">An override, another standard's judgement, a swing while the flex was moved.</param>
public sealed record PaperReading(
    string Name,
    string Under,
    string Value,
    string Limit,
    string Clause,
    Status? Status,
    bool IsNear,
    string Last,
    ImmutableArray<string> Working,
    bool IsTyped,
    PaperRail? Rail,
    ImmutableArray<string> Remarks,
    Waveform? Drawn
);

/// <summary>The reading rail in print: everything a share of its length, 0 at the left.</summary>
/// <param name="IsFloor">Larger is better: the allowed side lies to the right of the post.</param>
/// <param name="BoundTowards">-1 or 1 where the value is only a bound and lies further that way; 0 for a value.</param>
public sealed record PaperRail(double Limit, bool IsFloor, double Value, int BoundTowards, ImmutableArray<double> Earlier)
{
    /// <summary>A second post, where a value is to lie between two; null else.</summary>
    public double? Lower { get; init; }
}

/// <summary>Where a record stands in its client's book, and which later ones speak of it.</summary>
/// <param name="Hash">Of the chain, in hexadecimal.</param>
/// <param name="Corrections">Records that take this one back, oldest first.</param>
public sealed record Provenance(long BookNumber, string Hash, ImmutableArray<LaterRecord> Corrections);

public sealed record LaterRecord(long BookNumber, DateOnly Day, string By, string Reason);
