using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Server.Kit;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>Everything the Bench shows before the first reading.</summary>
/// <param name="NullOhm">The lead's null, subtracted from earth readings of the instrument.</param>
/// <param name="Evaluated">Medical: the state of the device is put into words and a person confirms them.</param>
/// <param name="MayOverride">Who is signed in is a lead.</param>
public sealed record BenchSheet(
    BenchItem Item, BenchRound Round, Scope Scope, School School, IReadOnlyList<StepCard> Steps, IReadOnlyList<string> Remarks,
    IReadOnlyList<LookCard> Look, FuseCard Fuse, InstrumentCard? Instrument, double NullOhm, IReadOnlyList<PastCard> Before,
    bool Evaluated, bool MayOverride);

/// <param name="Facts">Label and value pairs from plate and build, ready to read.</param>
/// <param name="Revision">Sent back with the save, so that two benches on one item notice each other.</param>
public sealed record BenchItem(
    Guid Id, string Tag, string Name, string Place, string ClassText, string Evidence, IReadOnlyList<FactLine> Facts,
    DateOnly? Due, int? DaysOver, ItemState State, int Revision);

public sealed record FactLine(string Label, string Value);

public sealed record BenchRound(Guid Id, string Name, string Client, string StandardId, string Standard, string StandardShort, string CheckNote);

public sealed record LookCard(string Id, string Where, string Text, IReadOnlyList<string> Phrases);

public sealed record FuseCard(string Summary, IReadOnlyList<FuseLine> Findings);

public sealed record FuseLine(bool IsFault, string Text);

public sealed record PastCard(Guid Id, DateOnly Date, Outcome Outcome);

/// <param name="Key">Names the step in what is sent back.</param>
/// <param name="Detail">Conditions in words: "reversed polarity, earth open".</param>
/// <param name="Unit">The unit a bare typed number is in; null for steps answered good or bad.</param>
/// <param name="Source">What drives the measurement.</param>
/// <param name="Measurable">The connected instrument has the function.</param>
/// <param name="NotMeasured">Why it cannot be measured with what is at hand.</param>
/// <param name="ManyPoints">It may be read at several points, each a reading of its own.</param>
public sealed record StepCard(
    string Key, Test Test, string Name, string Detail, string Terminals, LimitCard? Limit, HazardKind HazardKind, string? Hazard,
    IReadOnlyList<string> Needs, int Seconds, string? Unit, RailScale? Rail, IReadOnlyList<EarlierValue> Earlier, bool Measurable,
    string Source, string? NotMeasured, bool ManyPoints);

/// <param name="Si">In the SI unit; null where only not tripping is asked.</param>
/// <param name="IsFloor">Larger is better.</param>
/// <param name="Derivation">How it was worked out, on one line.</param>
public sealed record LimitCard(double? Si, string Text, bool IsFloor, string Derivation, string Clause);

/// <summary>The ends of a step's logarithmic rail, whole decades in SI, with their labels.</summary>
public sealed record RailScale(double From, double To, IReadOnlyList<RailTick> Ticks);

public sealed record RailTick(double At, string Label);

public sealed record EarlierValue(DateOnly Date, double Si, string Text, bool IsBound);

/// <summary>What was done at the bench so far. Everything later is computed from it, so that a reload loses nothing.</summary>
/// <param name="Entries">Readings in the order they were taken.</param>
public sealed record BenchWork(Guid RoundId, Scope Scope, IReadOnlyList<LookEntry> Look, IReadOnlyList<Entry> Entries);

public sealed record LookEntry(string PointId, LookAnswer Answer, string? Words);

/// <summary>One reading: typed text, an instrument's figures, or good and bad.</summary>
/// <param name="Text">As typed, with unit and sign: "&gt;299M".</param>
/// <param name="Void">Why it counts for nothing.</param>
/// <param name="Point">Where the probe sat, when a step is measured at several.</param>
/// <param name="Standard">Another pack by whose limit the reading is judged.</param>
/// <param name="Override">A lead's decision in place of the comparison.</param>
public sealed record Entry(
    string StepKey, ReadingSource Source, DateTimeOffset At, string? Text = null, double? Number = null, string? Unit = null, string? Qualifier = null,
    double? Mains = null, double? LoadA = null, double? NullOhm = null, bool? Ok = null, bool? Tripped = null, bool SwitchedOn = true,
    string? Void = null, string? Point = null, string? Note = null, string? Standard = null, OverrideEntry? Override = null);

/// <param name="Status">Pass or fail.</param>
public sealed record OverrideEntry(Status Status, string Reason);

/// <summary>The work judged.</summary>
/// <param name="Entries">One for each entry sent, in order.</param>
/// <param name="Stopped">Steps that may not be done, with the reason.</param>
/// <param name="Outcome">Null while steps are missing.</param>
/// <param name="Reasons">Why the verdict is what it is.</param>
/// <param name="Telling">What the readings usually mean, where they are strange.</param>
/// <param name="Evaluation">Proposed for medical equipment; a person confirms it.</param>
/// <param name="Next">What the dates would be if it were saved now; null while there is no outcome, and after a fail.</param>
public sealed record JudgedWork(
    Look Look, IReadOnlyList<JudgedEntry> Entries, IReadOnlyDictionary<string, string> Stopped, Verdict Verdict, Outcome? Outcome,
    IReadOnlyList<string> Reasons, IReadOnlyList<string> Advice, IReadOnlyList<string> Missing,
    IReadOnlyList<TellingCard> Telling, EvaluationCard? Evaluation, NextCard? Next);

/// <param name="StepKeys">The steps in which it shows.</param>
/// <param name="Causes">In the order to check them.</param>
public sealed record TellingCard(string Id, string Seen, IReadOnlyList<string> StepKeys, IReadOnlyList<string> Causes, string Next);

public sealed record EvaluationCard(Evaluation Proposal, IReadOnlyList<string> Because);

/// <param name="Fault">What was wrong with the text; then nothing else is set.</param>
/// <param name="Use">Share of the limit used, 1 at the limit.</param>
public sealed record JudgedEntry(
    string StepKey, Fault? Fault, Status? Status, string? Text, double? Si, bool IsBound, string? Qualifier, double? Use, bool NearLimit,
    string? Margin, IReadOnlyList<string> Working, string? Clause, bool Overridden);

public sealed record NextCard(DateOnly Due, DateOnly VisualDue, double? Months, double VisualMonths, string UserCheck, DecidedBy DecidedBy, IReadOnlyList<string> Because);

/// <param name="Id">Made by the bench; sending the same save twice stores it once.</param>
/// <param name="NotTested">Set when the item was not tested; readings taken so far are kept.</param>
/// <param name="Evaluation">As a person confirmed or chose it; medical equipment only.</param>
public sealed record SaveInspection(Guid Id, BenchWork Work, int Revision, NotTestedReason? NotTested, string? Remarks, Evaluation? Evaluation = null);

public sealed record SavedInspection(Guid Id, Guid ItemId, string Tag, string Name, Outcome Outcome, DateTimeOffset TestedAt, NextCard? Next, LabelSchool LabelSchool, bool Already);

/// <summary>The instrument's display as it moves, and at the end the entry to keep.</summary>
public sealed record LiveReport(string Text, double? Si, bool IsBound, string? Qualifier, double Elapsed, double Seconds, double? Mains, double? LoadA, Entry? Entry);
