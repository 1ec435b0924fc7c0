using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>What the bench asks when no engine runs in the browser: the same events, judged by the server's.</summary>
/// <param name="KnownSheet">The sheet the page has; it is left out of the answer when it is still the one.</param>
/// <param name="Trial">A typed reading to be understood before it is kept.</param>
public sealed record ViewRequest(Guid RoundId, IReadOnlyList<BenchEvent> Events, string? KnownSheet = null, TrialReading? Trial = null);

public sealed record TrialReading(string Step, string Text);

/// <param name="Ruling">What the server would rule now; a page that holds another one lays the bench anew.</param>
/// <param name="TrialFault">Why the trial would not be understood; null when it would.</param>
public sealed record ViewAnswer(string Ruling, BenchView View, string? TrialFault);

/// <param name="Id">Made by the bench; sending the same save twice stores it once.</param>
/// <param name="Ruling">Fingerprint of the ruling that was shown; another one is refused, and the draft kept.</param>
/// <param name="State">Fingerprint of the last state shown; saving recomputes it and refuses a difference.</param>
/// <param name="NotTested">With the end "not tested".</param>
public sealed record SaveInspection(
    Guid Id,
    Guid RoundId,
    string Ruling,
    string State,
    IReadOnlyList<BenchEvent> Events,
    EndKind End,
    NotTestedReason? NotTested = null,
    string? Remarks = null
);

/// <param name="LabelLacks">Characters that the label's font has not, in words; null when it prints all of them.</param>
/// <param name="WithdrawUntil">A fail can be taken back by a correcting record until then; null where it cannot.</param>
public sealed record SavedInspection(
    Guid Id,
    Guid ItemId,
    string Tag,
    string Name,
    Outcome Outcome,
    string OutcomeText,
    bool IsTest,
    DateTimeOffset TestedAt,
    NextCard? Next,
    IReadOnlyList<string> Reasons,
    IReadOnlyList<string> Advice,
    LabelSchool LabelSchool,
    bool HasLabel,
    string? LabelLacks,
    DateTimeOffset? WithdrawUntil,
    bool Already
);

/// <param name="Id">Made by the bench, for the correcting record.</param>
public sealed record WithdrawInspection(Guid Id, string Reason);

/// <param name="Id">Made by the bench; sending it twice keeps it once.</param>
public sealed record DiscardSheet(Guid Id, Guid RoundId, IReadOnlyList<BenchEvent> Events, string Reason);

/// <param name="HoldsFailure">It marks the item until a lead has seen it.</param>
public sealed record DiscardedAnswer(Guid Id, bool HoldsFailure);

/// <summary>A discarded sheet that holds a failure, for the lead's review.</summary>
public sealed record DiscardedCard(
    Guid Id,
    Guid ItemId,
    string Tag,
    string Name,
    string Person,
    DateTimeOffset At,
    string Reason,
    IReadOnlyList<string> Failures
);

/// <summary>The instrument's display as it moves, and at the end the event to keep: the reading, or what was found out instead of one, as
/// an earth under the probe. Without a reading the stream then fails, with words for the technician.</summary>
/// <param name="IsSettled">The display has come to rest.</param>
/// <param name="LeastSi">The smallest since the start, where the instrument keeps it: an earth path while its flex is moved. Nulled like the
/// display.</param>
/// <param name="Runs">A load is drawn: the item runs.</param>
/// <param name="PathSeen">In a dead test: whether anything is connected between L and N.</param>
/// <param name="At">When the instrument showed it, by its own clock; null where it does not say.</param>
public sealed record LiveReport(
    string Text,
    double? Si,
    bool IsBound,
    string? Qualifier,
    double Elapsed,
    double Seconds,
    bool IsSettled,
    double? LeastSi,
    double? MostSi,
    double? Mains,
    double? LoadA,
    bool Runs,
    bool? PathSeen,
    DateTimeOffset? At,
    BenchEvent? Kept
)
{
    /// <summary>What it shows beside the figure, in words; null where there is nothing.</summary>
    public string? Said { get; init; }

    /// <summary>Nothing is shown any more; something happened.</summary>
    public static LiveReport Of(BenchEvent happened) =>
        new("", null, false, null, 0, 0, true, null, null, null, null, false, null, null, happened);
}

/// <param name="StartedBy">"press" or "hold"; where a hold is asked for, nothing else starts it.</param>
/// <param name="IsHeld">It is read until the bench says that it has been held long enough; of an earth path alone.</param>
public sealed record MeasureRequest(
    Guid ItemId,
    Guid RoundId,
    string Ruling,
    string Step,
    string? Point,
    string StartedBy,
    Guid EventId,
    IReadOnlyList<BenchEvent> Events,
    bool IsHeld = false
);
