using System.Collections.Immutable;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Papers;

/// <summary>Papers that may be long: as PDF they are made in the background and kept. All but the last are of a round.</summary>
public enum LongPaper
{
    /// <summary>All of it.</summary>
    Report,

    /// <summary>What failed, what was done about it, and what is still to be done.</summary>
    Failures,

    /// <summary>What was not tested and why, and what was not reached.</summary>
    NotTested,

    /// <summary>What is brought to a round, and what for; for the house.</summary>
    Packing,

    /// <summary>Of a client: all that it owns, as it stands on one day.</summary>
    Register,
}

/// <summary>
/// The papers of a round as a client reads them: what to do now first, then what that rests on. Made of the round's records
/// (<see cref="RoundReportWriter"/>) and of what a record cannot know: what was never reached, and what became of a failure since.
/// </summary>
/// <param name="Notices">What a reader must know before believing the rest: the round is not over, nobody signed it, a record was taken
/// back since.</param>
/// <param name="Act">What is to be done now, a sentence each, the gravest first.</param>
/// <param name="Changed">What was moved, put right in the register, or found wrong at the site.</param>
/// <param name="TakenBack">Records of the round that count no more, each with why.</param>
/// <param name="Rooms">Everything that was inspected, room by room.</param>
/// <param name="Basis">By which standards and choices.</param>
/// <param name="Signatures">Who tested, who reviewed.</param>
/// <param name="Origin">The records that it was made from, and the place of the last in its book.</param>
public sealed record RoundReport(
    string Name,
    string Client,
    string Site,
    DateOnly From,
    DateOnly To,
    bool IsOver,
    ReportTally Tally,
    ImmutableArray<string> Notices,
    ImmutableArray<ReportAct> Act,
    ImmutableArray<ReportedFailure> Failed,
    ImmutableArray<ReportedItem> Advised,
    ImmutableArray<ReportedItem> NotTested,
    ImmutableArray<PaperFact> Changed,
    ImmutableArray<PaperFact> TakenBack,
    ImmutableArray<ReportedRoom> Rooms,
    ImmutableArray<PaperFact> Basis,
    ImmutableArray<PaperFact> Kit,
    ImmutableArray<PaperFact> Signatures,
    ImmutableArray<PaperFact> Next,
    ImmutableArray<string> Origin
);

/// <param name="IsLoud">Somebody may be hurt where it is not done.</param>
public sealed record ReportAct(string Text, bool IsLoud);

/// <summary>Items by how they stand at the end of the round; an item counts once.</summary>
/// <param name="Failed">And not passed since in the same round.</param>
/// <param name="Mended">Failed first and passed after repair: they count among the passed too.</param>
/// <param name="NotReached">In the round, and nothing was saved of them.</param>
public sealed record ReportTally(int Items, int Passed, int Advised, int Failed, int Mended, int NotTested, int NotReached);

/// <param name="Number">Of the record in its book; null where there is none.</param>
/// <param name="Words">What is to be said of it.</param>
public sealed record ReportedItem(string Tag, string Name, string Room, long? Number, ImmutableArray<string> Words);

/// <param name="Wrong">What was found, a line each.</param>
/// <param name="Done">What became of it, oldest first.</param>
/// <param name="IsOut">It must not be used now.</param>
/// <param name="State">How it stands now, in words.</param>
public sealed record ReportedFailure(
    string Tag,
    string Name,
    string Room,
    DateOnly Date,
    long Number,
    ImmutableArray<string> Wrong,
    ImmutableArray<string> Done,
    bool IsOut,
    string State
);

public sealed record ReportedRoom(string Room, ImmutableArray<ReportLine> Lines);

/// <summary>One item in one line: how it ended, and of its values the one that lies nearest its limit.</summary>
/// <param name="Kind">What kind of inspection it was: a look is never called a test.</param>
/// <param name="Nearest">Null where nothing was measured against a limit.</param>
/// <param name="Next">When it is seen again; empty where nothing moved its dates.</param>
public sealed record ReportLine(
    string Tag,
    string Name,
    string ClassText,
    string Kind,
    DateOnly Date,
    Outcome Outcome,
    string OutcomeText,
    NearestValue? Nearest,
    string Next,
    string Initials,
    long Number
);

/// <param name="Others">How many more values stand behind it.</param>
public sealed record NearestValue(string Name, string Value, string Limit, PaperRail? Rail, Status? Status, bool IsNear, int Others);

/// <summary>The round, and what no record knows.</summary>
/// <param name="ScopeWords">What was agreed with the client; may be empty.</param>
/// <param name="Choices">The policy in force, in words.</param>
/// <param name="Untouched">In the round and without a record, or left out of it, each with why.</param>
/// <param name="Held">By item: what became of its failure, where one is or was held.</param>
/// <param name="HeldElsewhere">Items of the round that are out of use now for something that it did not find: a later failure, a report, a
/// recall.</param>
/// <param name="Outlets">Of the site, found wrong and not found good since.</param>
/// <param name="Signature">Null while nobody has signed.</param>
/// <param name="Planned">The next rounds at its site, in words.</param>
public sealed record ReportedRound(
    string Name,
    string Client,
    string ClientCode,
    string Site,
    DateOnly From,
    DateOnly To,
    bool IsOver,
    string ScopeWords,
    string? PolicyReason,
    ImmutableArray<string> Choices,
    ImmutableArray<UntouchedItem> Untouched,
    ImmutableDictionary<Guid, HeldSince> Held,
    ImmutableArray<PaperFact> Changed,
    ImmutableArray<PaperFact> HeldElsewhere,
    ImmutableArray<PaperFact> Outlets,
    RoundSignatureLine? Signature,
    ImmutableArray<string> Planned
);

/// <param name="IsLeftOut">Agreed to belong to somebody else; else nobody came to it.</param>
public sealed record UntouchedItem(string Tag, string Name, string Room, string Why, bool IsLeftOut);

/// <param name="IsOut">Held still.</param>
/// <param name="State">Where it stands, in words.</param>
/// <param name="Acts">What was done, oldest first.</param>
public sealed record HeldSince(Guid Cause, bool IsOut, string State, ImmutableArray<string> Acts);

/// <param name="Number">Of the last record that was signed.</param>
/// <param name="IsOwnWork">Whoever signed tested some of it.</param>
public sealed record RoundSignatureLine(string By, DateOnly On, long Number, int Records, bool IsOwnWork, string Words);
