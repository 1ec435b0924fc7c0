using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>What a screen shows of the bench, in words of the pack's own country. Written by Core, the same on every host.</summary>
/// <param name="SheetId">Changes when the sheet does.</param>
/// <param name="Sheet">What does not change with a reading; null where the caller has it already.</param>
/// <param name="Ruling">Fingerprint of the ruling that was laid on the bench.</param>
/// <param name="State">Fingerprint of what is shown; sent back with a save, which refuses another.</param>
public sealed record BenchView(string SheetId, SheetView? Sheet, string Ruling, string State, StateView Now);

/// <param name="Facts">Label and value pairs from plate and build.</param>
/// <param name="Fields">The facts by the names under which they are corrected.</param>
/// <param name="Matrix">Its leakages side by side; null where they are few.</param>
/// <param name="Leakage">By which method it is measured; null where there is nothing to choose.</param>
/// <param name="IsLeadApart">Device and detachable lead are measured each by itself; null where there is nothing to choose.</param>
/// <param name="Procedure">By which procedure it is inspected; null for the standard's own plan.</param>
public sealed record SheetView(
    string Tag,
    string Name,
    string Place,
    string ClassText,
    ProtectionClass Class,
    string Evidence,
    IReadOnlyList<FactLine> Facts,
    FactChanges Fields,
    Scope Scope,
    School School,
    LeakagePolicy? Leakage,
    bool? IsLeadApart,
    ProcedureCard? Procedure,
    string Standard,
    string StandardId,
    string Supply,
    string CheckNote,
    bool IsMedical,
    IReadOnlyList<StepCard> Steps,
    MatrixCard? Matrix,
    IReadOnlyList<string> Remarks,
    IReadOnlyList<LookCard> Look,
    FuseCard Fuse,
    Phrases Phrases
);

/// <param name="Value">As <see cref="Choice.Value"/> of the procedures on offer.</param>
/// <param name="Trouble">Why it does not fit the device any more; null where it does.</param>
public sealed record ProcedureCard(string Value, string Title, string Remark, IReadOnlyList<string> Adapters, string? Trouble);

public sealed record FactLine(string Label, string Value);

/// <param name="Measured">What of it can be measured, with its unit; null where there is nothing.</param>
/// <param name="Phrases">Words for what is bad, or worth telling.</param>
/// <param name="Fails">Words for what is bad whatever else is said.</param>
public sealed record LookCard(
    string Id,
    string Where,
    string Text,
    IReadOnlyList<string> Phrases,
    IReadOnlyList<string> Fails,
    string? Measured
);

public sealed record FuseCard(string Summary, IReadOnlyList<FuseLine> Findings);

public sealed record FuseLine(bool IsFault, string Text);

/// <param name="Detail">Conditions in words: "reversed polarity, earth open".</param>
/// <param name="Unit">The unit a bare typed number is in; null for steps answered good or bad.</param>
/// <param name="Source">What drives the measurement.</param>
/// <param name="NotMeasured">Why it cannot be measured with what is at hand.</param>
/// <param name="MayNotTrip">An RCD that did not trip can be said.</param>
/// <param name="MayFindEarth">A probe here may find an earth where none should be.</param>
/// <param name="Expected">What the reading can be expected to be; never a limit.</param>
/// <param name="Joining">What is joined to what, for its drawing; null where nothing is.</param>
/// <param name="ProbePlaces">What the probe may lie on, by its facts; said before a reading counts. Empty where nobody asks.</param>
/// <param name="MayBeHeld">It may be read for as long as the flex is moved.</param>
/// <param name="Powers">The item takes mains while it is done.</param>
/// <param name="Lines">What a confirmation says was done.</param>
/// <param name="AsksFor">What is said in words with a confirmation; null where a press is enough.</param>
/// <param name="Side">Which side is tested for dead here.</param>
/// <param name="With">The instrument that measures it, where the job has two; null else.</param>
/// <param name="Needed">Of discharges: how many; as many as were made are <see cref="StepView.Taken"/>.</param>
public sealed record StepCard(
    string Key,
    StepFamily Family,
    Test? Test,
    string Name,
    string Detail,
    string Terminals,
    LimitCard? Limit,
    HazardKind HazardKind,
    string? Hazard,
    IReadOnlyList<string> Needs,
    int Seconds,
    string? Unit,
    RailScale? Rail,
    IReadOnlyList<EarlierValue> Earlier,
    string Source,
    string? NotMeasured,
    bool MayNotTrip,
    bool MayFindEarth,
    string? Expected,
    JoiningCard? Joining,
    IReadOnlyList<Choice> ProbePlaces,
    bool MayBeHeld,
    bool Powers,
    IReadOnlyList<string> Lines,
    string? AsksFor = null,
    Side? Side = null,
    StepInstrument? With = null,
    int? Needed = null
);

/// <param name="Id">What is typed at the step was shown by this one.</param>
public sealed record StepInstrument(Guid Id, string Name, bool Connected);

/// <summary>The facts of a step's drawing with its words, as the pack's country says them.</summary>
/// <param name="Pins">Of the supply end, all of them; <paramref name="Used"/> are those that the instrument uses.</param>
/// <param name="Opened">What the condition opens or changes over.</param>
/// <param name="Order">Of two tips on the same contacts: what is touched first, what last, and the rest of it.</param>
/// <param name="Posts">Which lead goes on which post, where the part is a set of electrode leads.</param>
/// <param name="Text">All of it in a sentence.</param>
public sealed record JoiningCard(
    string End,
    IReadOnlyList<string> Pins,
    IReadOnlyList<string> Used,
    bool ArePinsJoined,
    FarEnd Far,
    string FarName,
    IReadOnlyList<string> FarPins,
    Doing Doing,
    bool IsMeter,
    IReadOnlyList<string> Opened,
    bool IsReversed,
    bool IsNeutralOpen,
    bool IsEarthOpen,
    string Instrument,
    IReadOnlyList<LeadPost> Posts,
    IReadOnlyList<string> Order,
    string Text
);

/// <param name="Si">In the SI unit; null where only not tripping is asked.</param>
/// <param name="IsFloor">Larger is better.</param>
/// <param name="Derivation">How it was worked out, on one line.</param>
/// <param name="Set">Where a value is to lie within <paramref name="Si"/> of what was set: that, in the SI unit; null else.</param>
public sealed record LimitCard(double? Si, string Text, bool IsFloor, string Derivation, string Clause, double? Set = null);

/// <summary>The ends of a step's logarithmic rail, whole decades in SI, with their labels.</summary>
/// <param name="IsLinear">Of a value that is to lie near what was set: a window on a plain scale.</param>
public sealed record RailScale(double From, double To, IReadOnlyList<RailTick> Ticks, bool IsLinear = false)
{
    /// <summary>A window of twice the tolerance to either side of what was set; beyond its ends a value stands at the end.</summary>
    /// <param name="set">In SI, as is the tolerance.</param>
    public static RailSpan Window(double set, double tolerance) => new(set - 2 * tolerance, set + 2 * tolerance, IsLinear: true);

    /// <summary>Whole decades around the limit and everything measured so far: two below and one above, so that good and bad both have
    /// room.</summary>
    /// <param name="limit">In SI, above 0.</param>
    /// <param name="values">In SI; what is not above 0 has no place on a logarithm.</param>
    public static RailSpan Span(double limit, bool isFloor, IReadOnlyCollection<double> values)
    {
        var placed = values.Where(value => value > 0).DefaultIfEmpty(limit).ToArray();
        var (below, above) = isFloor ? (2, 3) : (2, 1);
        var decade = Math.Floor(Math.Log10(limit));
        return new(
            Math.Min(decade - below + 1, Math.Max(decade - below - 1, Math.Floor(Math.Log10(placed.Min())))),
            Math.Max(decade + above, Math.Min(decade + above + 2, Math.Ceiling(Math.Log10(placed.Max()))))
        );
    }
}

/// <summary>The ends of a rail: as powers of ten, or plain where it is linear.</summary>
public readonly record struct RailSpan(double From, double To, bool IsLinear = false)
{
    /// <summary>Where a value stands, as a share of the length; beyond an end it stands at the end.</summary>
    public double Share(double si) =>
        IsLinear ? Math.Clamp((si - From) / (To - From), 0, 1)
        : si <= 0 ? 0
        : Math.Clamp((Math.Log10(si) - From) / (To - From), 0, 1);
}

public sealed record RailTick(double At, string Label);

/// <param name="IsOver">It was beyond the limit that holds today.</param>
public sealed record EarlierValue(DateOnly Date, double Si, string Text, bool IsBound, bool IsOver);

/// <summary>Words on offer, so that no screen makes up its own.</summary>
/// <param name="SaysBad">Pattern, large letters or small, of what proposes bad where good or bad is asked.</param>
public sealed record Phrases(
    IReadOnlyList<VoidPhrase> Void,
    IReadOnlyList<string> LookAgain,
    IReadOnlyList<string> NotWorking,
    IReadOnlyList<string> Override,
    IReadOnlyList<string> Points,
    IReadOnlyList<string> EarthFound,
    IReadOnlyList<string> FactReasons,
    IReadOnlyList<string> Discard,
    IReadOnlyList<string> HandOver,
    IReadOnlyList<string> Withdraw,
    IReadOnlyList<Choice> NotTested,
    IReadOnlyList<Choice> Scopes,
    IReadOnlyList<Choice> Schools,
    IReadOnlyList<Choice> Evaluations,
    IReadOnlyList<Choice> ClassEvidence,
    IReadOnlyList<Choice> Borrowable,
    IReadOnlyList<Choice> Indicators,
    IReadOnlyList<Choice> ProvingSources,
    IReadOnlyList<string> IsolateAgain,
    IReadOnlyList<Choice> LeakageMethods,
    IReadOnlyList<Choice> Leads,
    IReadOnlyList<string> LeakageReasons,
    IReadOnlyList<string> OtherEarths,
    IReadOnlyList<string> ShorterIntervals,
    IReadOnlyList<string> LongerIntervals,
    IReadOnlyList<string> PathOpen,
    IReadOnlyList<string> Connected,
    IReadOnlyList<string> Complaints,
    IReadOnlyList<string> Findings,
    IReadOnlyList<double> RcdRatingsMa,
    IReadOnlyList<Choice> Procedures,
    string NoAppliedParts,
    string SaysBad
);

/// <param name="WhyNot">Null when it may be chosen.</param>
public sealed record Choice(string Value, string Text, string? WhyNot = null);

/// <param name="Current">Key of the step in hand; null when nothing is left to do.</param>
/// <param name="Ahead">What the key that goes on does.</param>
/// <param name="AllGood">What one key says of the look.</param>
/// <param name="Failures">What failed, each with what can be voided.</param>
/// <param name="MayOnlyLook">Why this person looks and does not test, and who does; null where they may.</param>
/// <param name="RunsFrom">When what was switched on has started and a powered reading counts; null where nothing is waited for.</param>
/// <param name="WorkOrder">The client's order that it is inspected under; null where there is none.</param>
/// <param name="Sticker">Of a medical device: whether its sticker was fitted; null while nobody said.</param>
/// <param name="Repair">What was mended since it failed, in words; null while nobody said.</param>
/// <param name="LacksRepair">It may not pass before somebody says so.</param>
/// <param name="AsksForTag">It could be saved as what it is, but for its tag.</param>
/// <param name="Next">What the dates would be if it were saved now; null while it cannot pass.</param>
/// <param name="Probe">What the probe lies on; null while nobody said.</param>
/// <param name="AsksProbeTried">It lay on metal and showed nothing anywhere: a pass waits until its lead is proved.</param>
public sealed record StateView(
    string? Current,
    Ahead Ahead,
    IReadOnlyList<StepView> Steps,
    IReadOnlyList<LookAnswerState> Look,
    AllGood AllGood,
    Look LookOutcome,
    IReadOnlyList<ReadingView> Readings,
    IReadOnlyList<EndView> Ends,
    Outcome? Outcome,
    string OutcomeText,
    IReadOnlyList<string> Reasons,
    IReadOnlyList<string> Advice,
    IReadOnlyList<string> Missing,
    IReadOnlyList<FailureView> Failures,
    IReadOnlyList<TellingCard> Telling,
    EvaluationCard? Evaluation,
    NextCard? Next,
    IReadOnlyList<RefusedEvent> Refused,
    bool IsParked,
    string? Warning,
    IsolationView? Isolation,
    OutletView? Outlet,
    IReadOnlyList<PhotoView> Photos,
    IReadOnlyList<TriedView> Tried,
    ComplaintView? Complaint,
    CircuitSum? Circuit,
    string? MayOnlyLook,
    DateTimeOffset? RunsFrom,
    bool AsksForTag,
    WorkOrder? WorkOrder,
    bool? Sticker,
    string? Repair,
    bool LacksRepair,
    IntervalCard? Interval,
    IReadOnlyList<SetAside> SetAside,
    bool AsksForMark,
    ProbeOn? Probe,
    bool AsksProbeTried
);

/// <summary>Why a reading is void, for choosing.</summary>
public sealed record VoidPhrase(string Text, VoidCause Cause);

/// <summary>A complaint, and where to begin.</summary>
/// <param name="Means">What it sounds like; empty where nothing is known by these words.</param>
public sealed record ComplaintView(string Words, IReadOnlyList<ComplaintMeaning> Means);

/// <param name="Steps">Of this sheet, in the order in which they tell most.</param>
public sealed record ComplaintMeaning(string Seen, string Why, IReadOnlyList<ComplaintStep> Steps);

public sealed record ComplaintStep(string Key, string Name);

/// <summary>A likely cause of a strange reading that was looked at.</summary>
/// <param name="Sign">Number of the signature.</param>
public sealed record TriedView(string Sign, string Words, DateTimeOffset At);

/// <param name="EventId">By which it is taken back.</param>
/// <param name="Of">Point of the look, or key of the step.</param>
public sealed record PhotoView(Guid Id, Guid EventId, string Of);

/// <summary>The outlet that powers the item.</summary>
/// <param name="Supply">What it must give, in words.</param>
/// <param name="Pairs">What is measured, in order.</param>
/// <param name="InUse">Which it is and what was measured; null until one is known good.</param>
/// <param name="Trouble">Why the one checked last is not used.</param>
/// <param name="Offered">Found good today; the number is that of its check.</param>
/// <param name="Room">Where the item lies.</param>
public sealed record OutletView(
    string Supply,
    IReadOnlyList<string> Pairs,
    string? InUse,
    string? Trouble,
    IReadOnlyList<OfferedOutlet> Offered,
    string Room
);

public sealed record OfferedOutlet(Guid Id, string Text);

/// <summary>How far a safe isolation has come.</summary>
/// <param name="Says">Whether it counts as live, in a sentence.</param>
/// <param name="SaysOfLock">Whether a lock is on; null while nothing was done.</param>
/// <param name="Pairs">Of conductors, in the order in which they are contacted.</param>
/// <param name="Indicator">The one that was proved; null before.</param>
/// <param name="IsLocked">A lock is on, and nobody said how it is left.</param>
/// <param name="Setback">Why it is less far than it was.</param>
/// <param name="Story">What was done, in the order it was.</param>
public sealed record IsolationView(
    string Says,
    string? SaysOfLock,
    IReadOnlyList<string> Pairs,
    IReadOnlyList<DeadReading> Dead,
    string? Indicator,
    bool IsLocked,
    string? Setback,
    IReadOnlyList<IsolationLine> Story
);

/// <param name="May">Whether it may be started now; else <paramref name="WhyNot"/>.</param>
/// <param name="TakesPoint">One more point may be measured, a reading of its own.</param>
/// <param name="Void">How many readings of it were voided.</param>
/// <param name="Owed">Points whose failed reading was voided and must be taken again.</param>
/// <param name="Left">Connections that are measured in turn and are still to be read, the next one first.</param>
/// <param name="IsByDifference">It was said that something else earths the device; that may be taken back.</param>
/// <param name="AsksStanding">Whether the device stands isolated is asked with it, and nobody has said so yet.</param>
/// <param name="Along">Key of the functional check that may be answered while this step runs and a load is seen; null where none may.</param>
public sealed record StepView(
    string Key,
    Standing Standing,
    StepAction Action,
    bool May,
    string? WhyNot,
    bool TakesPoint,
    string? Stopped,
    Guid? Stands,
    IReadOnlyList<Guid> Taken,
    int Void,
    IReadOnlyList<string> Owed,
    string? Along,
    IReadOnlyList<string> Left,
    bool AsksStanding,
    bool IsByDifference
);

/// <param name="Use">Share of the limit used, 1 at the limit.</param>
/// <param name="Raw">What the display showed, where a null or a scaling changed it.</param>
/// <param name="Swing">Between what an earth path moved while its flex was moved; null where it was not watched.</param>
/// <param name="PathOpen">True where the instrument saw nothing between L and N in a dead test, and nobody has said why.</param>
/// <param name="Waveform">What an instrument drew with it; null where it drew nothing.</param>
/// <param name="Doubt">Why it is undecided though its number would pass; null else.</param>
/// <param name="OverrideTo">What this person may make of it; null where it cannot be overridden.</param>
/// <param name="With">Number of the instrument it was read off; null in records that are older than kits.</param>
public sealed record ReadingView(
    Guid Id,
    string Step,
    string Name,
    string? Point,
    string? Fault,
    Status? Status,
    string Text,
    string? Raw,
    double? Si,
    bool IsBound,
    string? Qualifier,
    double? Use,
    bool NearLimit,
    string? Margin,
    IReadOnlyList<string> Working,
    string? Clause,
    string? Void,
    ReadingSource Source,
    DateTimeOffset At,
    OverrideView? Override,
    Status? OverrideTo,
    IReadOnlyList<BorrowedView> Borrowed,
    string? Note,
    string? Swing,
    bool? PathOpen,
    DoubtView? Doubt,
    Waveform? Waveform = null,
    Guid? With = null
);

/// <param name="Expected">What it contradicts, a sentence.</param>
/// <param name="CheckFirst">Likely causes.</param>
/// <param name="AsksProof">Words of what was seen decide it, with a second reading.</param>
/// <param name="MayProve">There is a second reading by now.</param>
/// <param name="AsksProbe">What the probe lay on is to be said; that decides it.</param>
public sealed record DoubtView(string Expected, string CheckFirst, bool AsksProof, bool MayProve, bool AsksProbe);

public sealed record OverrideView(Guid Id, Status Was, Status Is, string By, string Reason);

public sealed record BorrowedView(Guid Id, string Standard, Status Status, string Text, bool HasLimit);

public sealed record EndView(EndKind Kind, bool IsOpen, string Text, string Why);

/// <param name="Target">Event that can be voided: a reading, a look, an earth that was found. Null for what only a changed fact
/// mends.</param>
/// <param name="Point">With a look: which point.</param>
public sealed record FailureView(string Text, Guid? Target, string? Point, string? Step);

/// <param name="Steps">The steps in which it shows.</param>
/// <param name="Causes">In the order to check them.</param>
public sealed record TellingCard(string Id, string Seen, IReadOnlyList<string> Steps, IReadOnlyList<string> Causes, string Next);

/// <param name="Confirmed">Null while nobody confirmed it.</param>
/// <param name="Choices">Those that the figures contradict say why.</param>
public sealed record EvaluationCard(
    Evaluation Proposal,
    string ProposalText,
    IReadOnlyList<string> Because,
    Evaluation? Confirmed,
    Guid? EventId,
    IReadOnlyList<Choice> Choices
);

/// <param name="Due">Null where a look moved nothing and it was never tested.</param>
public sealed record NextCard(
    DateOnly? Due,
    DateOnly VisualDue,
    double? Months,
    double VisualMonths,
    string UserCheck,
    DecidedBy DecidedBy,
    IReadOnlyList<string> Because,
    ChosenInterval? Chosen = null
);

/// <summary>Chosen by a person instead of what was computed; it stays visible with its reason.</summary>
public sealed record ChosenInterval(double Months, double ComputedMonths, string By, string Reason);

/// <summary>When it may come back.</summary>
/// <param name="Tier">What then comes: "Test again", "Look again".</param>
/// <param name="Months">That stands now.</param>
/// <param name="Reason">Why another than the computed one stands; null where that stands.</param>
/// <param name="Says">Who made it what instead, and why, in a sentence; null likewise.</param>
public sealed record IntervalCard(
    string Tier,
    string Computed,
    IReadOnlyList<string> Because,
    double ComputedMonths,
    double Months,
    string? Reason,
    string? Says,
    IReadOnlyList<IntervalStep> Steps
);

/// <param name="WhyNot">Null where it may be chosen.</param>
public sealed record IntervalStep(double Months, string Text, DateOnly Due, string? WhyNot);
