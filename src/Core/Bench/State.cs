using System.Collections.Immutable;
using System.Globalization;
using System.Security.Cryptography;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;

namespace Osierwand.Core.Bench;

/// <summary>How a step stands.</summary>
public enum Standing
{
    Open,
    Pass,

    /// <summary>Within its limit and worth telling: near it, or a point of the look that wants attention.</summary>
    Advice,
    Fail,
    Undecided,

    /// <summary>What was read here was voided, and nothing decided stands in its place.</summary>
    Void,

    /// <summary>Something before it failed.</summary>
    Stopped,

    /// <summary>The kit at hand cannot.</summary>
    NotMeasured,

    /// <summary>A lead decided in place of the comparison.</summary>
    Overridden,
}

/// <summary>What the hands do at a step.</summary>
public enum StepAction
{
    /// <summary>Nothing: computed, or over.</summary>
    None,
    AllGood,
    Confirm,

    /// <summary>A press starts the instrument.</summary>
    Press,

    /// <summary>Only a deliberate hold starts it: something moves, heats or bites.</summary>
    Hold,
    Type,

    /// <summary>Good or bad.</summary>
    Answer,

    /// <summary>The voltage indicator is tried on its proving unit.</summary>
    Prove,

    /// <summary>Pair by pair: nothing indicated, or the voltage that was.</summary>
    TestDead,

    /// <summary>The outlet's voltages, or one that was found good today.</summary>
    CheckOutlet,

    /// <summary>One more was made by hand: a press counts it.</summary>
    Count,

    /// <summary>What the probe lies on is said first; a figure may be typed all the same, and counts once it is.</summary>
    PlaceProbe,

    /// <summary>What touches the patient is said first: it decides what is measured.</summary>
    NameParts,
}

/// <summary>Whether something may be done, and why not.</summary>
public readonly record struct May(bool IsGiven, string? WhyNot)
{
    public static readonly May Given = new(true, null);

    public static May Refused(string whyNot) => new(false, whyNot);
}

/// <summary>One step with what was read for it.</summary>
/// <param name="Taken">Ids of its readings in the order they were taken, voided ones too.</param>
/// <param name="Stands">The reading that stands for the step: of several the gravest.</param>
/// <param name="Start">Whether the step may be started now.</param>
/// <param name="WhyStopped">What failed before it.</param>
/// <param name="Owed">Points whose failed reading was voided and not taken again.</param>
public sealed record StepState(
    SheetStep Step,
    Standing Standing,
    ImmutableArray<Guid> Taken,
    Guid? Stands,
    StepAction Action,
    May Start,
    string? WhyStopped,
    ImmutableArray<string> Owed
)
{
    /// <summary>Connections that are measured in turn and have no decided reading yet.</summary>
    public ImmutableArray<string> Left { get; init; } = [];

    public bool IsDecided => Standing is Standing.Pass or Standing.Advice or Standing.Fail or Standing.Overridden or Standing.NotMeasured;

    public bool IsOver => IsDecided || Standing == Standing.Stopped;
}

/// <summary>One reading with its judgement under the ruling in force.</summary>
/// <param name="Fault">Why it could not be understood; then it is judged by nothing and counts for nothing.</param>
/// <param name="Void">Why it counts for nothing.</param>
/// <param name="Borrowed">The same reading by other standards; each counts for itself.</param>
/// <param name="OffSheet">Its step is not on the sheet any more.</param>
public sealed record TakenReading(
    ReadingTaken Event,
    string StepKey,
    string? Fault,
    Judgement? Judgement,
    string? Void,
    ImmutableArray<BorrowedJudgement> Borrowed,
    Overridden? OverriddenBy,
    bool OffSheet
)
{
    /// <summary>It was voided, and would have failed: a decided reading must take its place.</summary>
    public bool HidesFailure { get; init; }

    /// <summary>There is another reading at the same place, voided or not.</summary>
    public bool IsReadAgain { get; init; }
}

public sealed record BorrowedJudgement(Guid EventId, string PackId, Judgement Judgement);

/// <summary>How a run sheet may end.</summary>
public enum EndKind
{
    Pass,
    Fail,
    NotTested,

    /// <summary>Looked at, not tested: the look counts as a formal visual, the test stays due with its reason.</summary>
    Looked,
    Findings,
    Discard,
}

/// <param name="Why">The refusal where it is closed, else what it means.</param>
public sealed record End(EndKind Kind, bool IsOpen, string Why)
{
    /// <summary>Closed for nothing but that the item has no tag yet.</summary>
    public bool LacksTag { get; init; }
}

/// <summary>The client's order that an inspection is made under.</summary>
/// <param name="Number">As the client counts; null where only a fault was reported.</param>
/// <param name="Fault">Reported, and answered by the inspection; null where none was.</param>
public sealed record WorkOrder(string? Number, string? Fault)
{
    /// <returns>Null where both are empty.</returns>
    public static WorkOrder? Of(string? number, string? fault)
    {
        static string? Said(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
        return (Said(number), Said(fault)) is (null, null) ? null : new(Said(number), Said(fault));
    }
}

/// <summary>Something that happened and was not let count.</summary>
public sealed record RefusedEvent(Guid Id, string Why);

/// <summary>The look as answered so far.</summary>
public sealed record LookState(Look Outcome, ImmutableArray<LookAnswerState> Answers);

/// <param name="EventId">The answer's own event, by which it can be taken back.</param>
public sealed record LookAnswerState(string PointId, Looking.LookAnswer Answer, string? Words, Guid EventId)
{
    /// <summary>What was measured at the point, in ohm; null where nothing was.</summary>
    public double? Ohm { get; init; }
}

/// <summary>
/// What is true at the bench: a pure function of ruling and events. Whatever is shown, allowed and saved is read from here; nothing is
/// derived
/// anywhere else.
/// </summary>
public sealed partial record BenchState
{
    /// <summary>The ruling in force: the one made when the item was laid on the bench, with every change since.</summary>
    public required Ruling Ruling { get; init; }
    public required RunSheet Sheet { get; init; }
    public required ImmutableArray<StepState> Steps { get; init; }
    public required LookState Look { get; init; }
    public required ImmutableArray<TakenReading> Readings { get; init; }
    public required InspectionFacts Facts { get; init; }
    public required Assessment Assessment { get; init; }

    /// <summary>A probe found an earth where none should be, and nobody took it back.</summary>
    public required ImmutableArray<EarthFound> EarthsFound { get; init; }

    /// <summary>Of hard-wired equipment; else as it begins.</summary>
    public required SafeIsolation Isolation { get; init; }

    /// <summary>Photos taken at this sheet, but those taken back.</summary>
    public ImmutableArray<PhotoTaken> Photos { get; init; } = [];

    /// <summary>Which likely causes of strange readings were looked at, in the order it was done.</summary>
    public ImmutableArray<CauseTried> Tried { get; init; } = [];

    /// <summary>What somebody says is wrong with it; null where nobody complained.</summary>
    public string? Complaint { get; init; }

    /// <summary>The client's order that it is inspected under; null where there is none.</summary>
    public WorkOrder? WorkOrder { get; init; }

    /// <summary>Whether a medical device's sticker was fitted; null while nobody said.</summary>
    public bool? Sticker { get; init; }

    /// <summary>What was mended since it failed; null while nobody said, and of an item in service.</summary>
    public RepairSaid? Repair { get; init; }

    /// <summary>When somebody chose that it comes back; whether it stands is <see cref="NextCard.Chosen"/>.</summary>
    public IntervalSaid? IntervalSaid { get; init; }

    /// <summary>It may not pass before somebody says what was mended.</summary>
    public bool LacksRepair => Ruling is { Scope: Planning.Scope.AfterRepair, Item.Held: not null } && Repair is null && Sheet.IsMeasured;

    /// <summary>Whether it stands isolated from any other earth; null while nobody said.</summary>
    public bool? StandsIsolated { get; init; }

    /// <summary>That was said since the item was last plugged in.</summary>
    public bool IsStandingKnown { get; init; }

    /// <summary>What the circuit leaks that it hangs on; null where it was not summed.</summary>
    public CircuitSum? Circuit { get; init; }

    /// <summary>What is known of the day beside the item.</summary>
    public SessionFacts Session { get; init; } = SessionFacts.Nothing;

    /// <summary>The outlet that powers the item; null where none does.</summary>
    public OutletStanding? Outlet { get; init; }

    /// <summary>Powered readings taken before an outlet was known good, or from one that was found wrong afterwards.</summary>
    public ImmutableArray<Guid> FromNoGoodOutlet { get; init; } = [];

    /// <summary>The step in hand; null when nothing is left to do.</summary>
    public string? Current { get; init; }
    public required ImmutableArray<End> Ends { get; init; }

    /// <summary>Proposed for medical equipment that is decided; null else.</summary>
    public EvaluationProposal? Proposal { get; init; }

    /// <summary>As a person confirmed it; null while nobody did, or after it stopped fitting.</summary>
    public Evaluated? Evaluation { get; init; }
    public required ImmutableArray<RefusedEvent> Refused { get; init; }
    public bool IsParked { get; init; }

    /// <summary>Each taking over, in order; empty where one person did it all.</summary>
    public ImmutableArray<TakenOver> TakenOver { get; init; } = [];

    private bool IsReached(EndKind kind) => EndOf(kind) is { IsOpen: true } or { LacksTag: true };

    public bool HasFailed => Assessment.Verdict == Verdict.Fail || !EarthsFound.IsEmpty;

    /// <summary>Failures of other sheets that nobody saved, and no instrument has measured again on this one.</summary>
    public ImmutableArray<UnsavedFailure> Unsaved { get; init; } = [];

    /// <summary>It failed on a sheet that nobody saved, or before its facts were corrected and no lead answers for that with a photo of the
    /// mark or the plate.</summary>
    public bool IsFailureUnanswered => !Unsaved.IsEmpty || (AsksForMark && !(Ruling.Technician.IsLead && HasPhotoOfMark));

    internal bool AsksForMark => Assessment.SetAside.Any(failure => failure.WantsLead);

    internal bool HasPhotoOfMark => Photos.Any(photo => photo.Of == PhotoTaken.OfMark);

    public End EndOf(EndKind kind) => Ends.First(end => end.Kind == kind);

    /// <summary>When what was switched on has started; null where it is off, or starts at once.</summary>
    public DateTimeOffset? RunsFrom { get; init; }

    /// <summary>The item had no tag when it was measured, and got one; null where it always had.</summary>
    public Named? Named { get; init; }

    /// <summary>How it would be saved, a loose item once it has its tag; null while no end but "not tested" and "discard" is
    /// reached.</summary>
    public Outcome? Outcome =>
        Ruling.Scope == Planning.Scope.FaultFinding && IsReached(EndKind.Findings) && !IsReached(EndKind.Fail) ? Judging.Outcome.Findings
        : IsReached(EndKind.Fail) ? Judging.Outcome.Fail
        : IsReached(EndKind.Pass)
            ? Assessment.Advice.IsEmpty && !HasAdvice ? Judging.Outcome.Pass
                : Judging.Outcome.PassWithAdvice
        : null;

    private bool HasAdvice => Steps.Any(step => step.Standing == Standing.Advice && step.Step.Family == StepFamily.Look);

    /// <summary>
    /// What two hosts must agree on before a record is written: the ruling, how every step stands, every judgement with its value and its
    /// limit, what is advised, the ends and the next dates.
    /// </summary>
    public string Fingerprint =>
        Convert.ToHexStringLower(
            SHA256
                .HashData(
                    BenchJson.Bytes(
                        new Digest(
                            Ruling.Fingerprint,
                            [.. Steps.Select(step => $"{step.Step.Key} {Words.Of(step.Standing)} {step.Stands}")],
                            [.. Readings.Select(reading => $"{reading.Event.Id} {Digested(reading.Judgement)}")],
                            [.. Ends.Where(end => end.IsOpen).Select(end => Words.Of(end.Kind)), .. Digested(NextDates.Of(this))],
                            [.. Assessment.Advice]
                        )
                    )
                )
                .AsSpan(0, 12)
        );

    /// <summary>Nine digits: what two processors make of the last ones is nobody's reading.</summary>
    private static string Digested(Judgement? judged) =>
        judged is null
            ? "fault"
            : string.Create(CultureInfo.InvariantCulture, $"{Words.Of(judged.Status)} {judged.Value?.Si:G9} {judged.Limit?.Value?.Si:G9}");

    /// <summary>The months and not the days: midnight passes in the middle of a sheet.</summary>
    private static IEnumerable<string> Digested(NextCard? next) =>
        next is null ? [] : [string.Create(CultureInfo.InvariantCulture, $"{next.Months:G9} {next.VisualMonths:G9} {next.DecidedBy}")];

    internal sealed record Digest(string Ruling, string[] Steps, string[] Readings, string[] Ends, string[] Advice);
}
