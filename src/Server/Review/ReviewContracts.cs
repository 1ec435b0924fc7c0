using Osierwand.Core.Judging;
using Osierwand.Core.Review;
using Osierwand.Core.Rounds;

namespace Osierwand.Server.Review;

/// <summary>A round as a lead reads it before signing.</summary>
/// <param name="Records">That a lead looks at, the gravest first; the rest is counted.</param>
/// <param name="Plain">Records that say nothing but that all was good.</param>
/// <param name="LastNumber">Of its records in the client's book: what is signed.</param>
/// <param name="WhyNot">Why it cannot be signed now; null where it can.</param>
/// <param name="Signature">Null while nobody has signed.</param>
public sealed record ReviewPage(
    Guid RoundId,
    string Name,
    string Client,
    string Site,
    RoundState State,
    string StateText,
    RoundTally Tally,
    IReadOnlyList<RecordToReview> Records,
    int Plain,
    int ToSee,
    int Total,
    long LastNumber,
    string? WhyNot,
    SignatureCard? Signature
);

/// <param name="Bench">How long it lay on the bench, in words.</param>
/// <param name="MustBeSeen">Nobody signs before it was looked at.</param>
/// <param name="Seen">Null while no lead has looked.</param>
/// <param name="MayBeTakenBack">By whoever asks, now.</param>
public sealed record RecordToReview(
    Guid Id,
    Guid ItemId,
    string Tag,
    string Name,
    string Room,
    Outcome Outcome,
    string OutcomeText,
    string By,
    DateTimeOffset At,
    string Bench,
    long Number,
    IReadOnlyList<FindingCard> Findings,
    bool MustBeSeen,
    RecordLookCard? Seen,
    bool MayBeTakenBack
);

public sealed record FindingCard(ReviewReason Reason, string ReasonText, string Text, bool MustBeSeen);

public sealed record RecordLookCard(string By, DateTimeOffset At, string Words);

public sealed record SignatureCard(string By, DateTimeOffset At, string Words, int Records, long LastNumber, bool IsOwnWork);

/// <param name="Words">What the lead thinks of it; may be empty.</param>
public sealed record LookAtRecord(string Words = "");

/// <param name="Records">How many the page showed, and the last of them: what came since is not signed unseen.</param>
public sealed record SignRound(int Records, long LastNumber, string Words = "");
