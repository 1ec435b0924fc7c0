using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;

namespace Osierwand.Core.Bench;

/// <summary>Where a reading came from. "Instrument" is believed only where the server itself ran the measurement.</summary>
public enum ReadingSource
{
    Instrument,
    Typed,
}

/// <summary>Why an item was not tested. It stays due and appears on the client's paper.</summary>
public enum NotTestedReason
{
    NotFound,
    NotReachable,
    InUse,
    ClientRefused,
    NoCompetence,
    BuiltIn,
    HardWiredOutOfScope,
    UnsafeToPower,
    Floor,
    Pipe,
    Furniture,
}

/// <summary>
/// Something that happened at the bench. Appended, never edited: what was wrong is voided or taken back by a later event, and both stay.
/// The
/// same event sent twice (same id) counts once.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(Looked), "looked")]
[JsonDerivedType(typeof(Confirmed), "confirmed")]
[JsonDerivedType(typeof(ReadingTaken), "read")]
[JsonDerivedType(typeof(EarthFound), "earthFound")]
[JsonDerivedType(typeof(Voided), "voided")]
[JsonDerivedType(typeof(FactsChanged), "factsChanged")]
[JsonDerivedType(typeof(FactsMoved), "factsMoved")]
[JsonDerivedType(typeof(Borrowed), "borrowed")]
[JsonDerivedType(typeof(Overridden), "overridden")]
[JsonDerivedType(typeof(Withdrawn), "withdrawn")]
[JsonDerivedType(typeof(Evaluated), "evaluated")]
[JsonDerivedType(typeof(ScopeChosen), "scopeChosen")]
[JsonDerivedType(typeof(SchoolChosen), "schoolChosen")]
[JsonDerivedType(typeof(LeadParted), "leadParted")]
[JsonDerivedType(typeof(ProcedureChosen), "procedureChosen")]
[JsonDerivedType(typeof(Unproved), "unproved")]
[JsonDerivedType(typeof(Parked), "parked")]
[JsonDerivedType(typeof(Resumed), "resumed")]
[JsonDerivedType(typeof(TakenOver), "takenOver")]
[JsonDerivedType(typeof(Named), "named")]
[JsonDerivedType(typeof(IndicatorProved), "indicatorProved")]
[JsonDerivedType(typeof(DeadTested), "deadTested")]
[JsonDerivedType(typeof(IsolationBegunAgain), "isolationBegunAgain")]
[JsonDerivedType(typeof(LockLeft), "lockLeft")]
[JsonDerivedType(typeof(PhotoTaken), "photoTaken")]
[JsonDerivedType(typeof(PathExplained), "pathExplained")]
[JsonDerivedType(typeof(ConnectionProved), "connectionProved")]
[JsonDerivedType(typeof(CauseTried), "causeTried")]
[JsonDerivedType(typeof(MainsLost), "mainsLost")]
[JsonDerivedType(typeof(LeakageMethodChosen), "leakageMethodChosen")]
[JsonDerivedType(typeof(ComplaintTold), "complaintTold")]
[JsonDerivedType(typeof(CircuitSummed), "circuitSummed")]
[JsonDerivedType(typeof(OutletChecked), "outletChecked")]
[JsonDerivedType(typeof(OutletKept), "outletKept")]
[JsonDerivedType(typeof(WorkOrderTold), "workOrderTold")]
[JsonDerivedType(typeof(StickerSaid), "stickerSaid")]
[JsonDerivedType(typeof(Discharged), "discharged")]
[JsonDerivedType(typeof(StandingSaid), "standingSaid")]
[JsonDerivedType(typeof(ProbePlaced), "probePlaced")]
[JsonDerivedType(typeof(ProbeTried), "probeTried")]
[JsonDerivedType(typeof(RepairTold), "repairTold")]
[JsonDerivedType(typeof(IntervalChosen), "intervalChosen")]
public abstract record BenchEvent
{
    public required Guid Id { get; init; }

    /// <summary>By the clock at the bench; the server adds when it received it.</summary>
    public required DateTimeOffset At { get; init; }
}

/// <summary>Points of the look, answered. A point that was bad is opened again by <see cref="Voided"/>, not by a second answer.</summary>
public sealed record Looked : BenchEvent
{
    public required IReadOnlyList<LookFinding> Points { get; init; }
}

/// <summary>A step without a reading was done: isolated, restored, switched on.</summary>
public sealed record Confirmed : BenchEvent
{
    public required string Step { get; init; }

    /// <summary>Where a step asks for them: which circuit, who permitted it.</summary>
    public string? Words { get; init; }
}

/// <summary>A voltage indicator was tried on its proving unit.</summary>
public sealed record IndicatorProved : BenchEvent
{
    /// <summary>Name or tag of the indicator.</summary>
    public required string Indicator { get; init; }
    public IndicatorKind Type { get; init; }
    public ProvingSource On { get; init; }

    /// <summary>Why no proving unit was to be had.</summary>
    public string? Reason { get; init; }

    /// <summary>Every indication that it has was seen.</summary>
    public required bool Works { get; init; }
}

/// <summary>One pair of conductors was tested for dead. Any voltage stops the job.</summary>
public sealed record DeadTested : BenchEvent
{
    public required Side Side { get; init; }
    public required string Pair { get; init; }

    /// <summary>0 where nothing was indicated.</summary>
    public required double Volts { get; init; }
}

/// <summary>Isolation begins again from its first step: what was proved stands no more.</summary>
public sealed record IsolationBegunAgain : BenchEvent
{
    public required string Reason { get; init; }
}

/// <summary>How a lock is left where the item is not restored.</summary>
public sealed record LockLeft : BenchEvent
{
    /// <summary>True: it stays on, and the words say whose it is and who has the key.</summary>
    public required bool Stays { get; init; }
    public required string Words { get; init; }
}

/// <summary>A photo was taken of what a point of the look or a reading says. The server keeps it; here stands which it is.</summary>
public sealed record PhotoTaken : BenchEvent
{
    public required Guid Photo { get; init; }

    /// <summary>Of the class mark or the plate: what a class settled after a failure is believed by.</summary>
    public const string OfMark = "mark";

    /// <summary>Point of the look, key of the step, or <see cref="OfMark"/>.</summary>
    public required string Of { get; init; }
}

/// <summary>Why an instrument saw nothing between L and N in a dead test though the item is switched on: a soft starter, a relay that
/// closes when it runs. The reading counts from then on, and the record says what it did not exercise.</summary>
public sealed record PathExplained : BenchEvent
{
    /// <summary>The reading.</summary>
    public required Guid Target { get; init; }
    public required string Words { get; init; }
}

/// <summary>What shows that it was connected though nothing flowed: a trace on the screen, the part touched and seen. With a second reading
/// it decides.</summary>
public sealed record ConnectionProved : BenchEvent
{
    /// <summary>The reading.</summary>
    public required Guid Target { get; init; }
    public required string Words { get; init; }
}

/// <summary>One of the likely causes of a strange reading was looked at, and what came of it.</summary>
public sealed record CauseTried : BenchEvent
{
    /// <summary>Number of the signature.</summary>
    public required string Signature { get; init; }
    public required string Words { get; init; }
}

/// <summary>What somebody says is wrong with the item, in their own words. The last one told stands.</summary>
public sealed record ComplaintTold : BenchEvent
{
    public required string Words { get; init; }
}

/// <summary>Under which order of the client's it is inspected, and which reported fault that answers. The last one told stands; with both
/// left out there is none.</summary>
public sealed record WorkOrderTold : BenchEvent
{
    public string? Number { get; init; }
    public string? Fault { get; init; }
}

/// <summary>The closing line of a medical protocol: whether the sticker with the outcome was put on the device.</summary>
public sealed record StickerSaid : BenchEvent
{
    public required bool IsFitted { get; init; }
}

/// <summary>A defibrillator was charged to its maximum and discharged into the load, before the charge that is timed.</summary>
public sealed record Discharged : BenchEvent
{
    /// <summary>Key of the step.</summary>
    public required string Step { get; init; }

    /// <summary>Counted by hand, or seen by the analyser. Nothing is judged by it.</summary>
    public ReadingSource Source { get; init; } = ReadingSource.Typed;
}

/// <summary>What an instrument drew with a reading: a discharge's current, a charge's voltage, a strip of the trace.</summary>
/// <param name="Of">What is drawn, in words: "current into 50 Ω".</param>
/// <param name="Every">Between two values, in <paramref name="EveryUnit"/>.</param>
/// <param name="EveryUnit">"ms" or "s".</param>
/// <param name="Unit">Of the values, as it is written.</param>
public sealed record Waveform(string Of, double Every, string EveryUnit, string Unit, IReadOnlyList<double> Values)
{
    /// <summary>More tell the eye no more.</summary>
    public const int MostValues = 400;

    /// <summary>Something that can be drawn.</summary>
    public bool IsSound =>
        Values is { Count: >= 2 and <= MostValues }
        && Values.All(double.IsFinite)
        && double.IsFinite(Every)
        && Every > 0
        && Of is { Length: <= 60 }
        && Unit is { Length: <= 10 }
        && EveryUnit is "ms" or "s";
}

/// <summary>What flows to earth of everything on one circuit, this item among it, to hold against half its RCD. The last one
/// stands.</summary>
public sealed record CircuitSummed : BenchEvent
{
    /// <summary>Rated residual current of the circuit's RCD, in milliampere.</summary>
    public required double RcdMa { get; init; }
    public required IReadOnlyList<CircuitLeakage> Items { get; init; }
}

/// <param name="Name">What it is, or where it hangs on the circuit.</param>
/// <param name="Leaks">As typed: "0.8" is in milliampere, "310u" is understood.</param>
public sealed record CircuitLeakage(string Name, string Leaks);

/// <summary>This item's leakage is measured otherwise than its client has it: without mains at hand, or with it after all.</summary>
public sealed record LeakageMethodChosen : BenchEvent
{
    public required LeakagePolicy Leakage { get; init; }
    public required string Reason { get; init; }
}

/// <summary>Whether the device stands isolated from any other earth: a cable, a pipe or a trolley would carry past the instrument what the
/// direct method is to measure. Where it does not, its equipment leakage is measured by difference, with its earth kept.</summary>
public sealed record StandingSaid : BenchEvent
{
    public required bool IsIsolated { get; init; }

    /// <summary>What else it is earthed by; asked where it does not stand isolated.</summary>
    public string? By { get; init; }
}

/// <summary>What the probe lies on from now on. What was read before it without a word of that, was read there too.</summary>
public sealed record ProbePlaced : BenchEvent
{
    public required ProbeOn On { get; init; }
}

/// <summary>The probe was touched to the instrument's own check point, which shows something through every lead that is whole.</summary>
public sealed record ProbeTried : BenchEvent
{
    /// <summary>False: it showed nothing there either, so that what was read through it says nothing.</summary>
    public required bool Works { get; init; }
}

/// <summary>When it comes back is chosen otherwise than computed. The last one chosen stands.</summary>
public sealed record IntervalChosen : BenchEvent
{
    /// <summary>A step of the ladder; null takes back what was chosen.</summary>
    public double? Months { get; init; }
    public string? Reason { get; init; }
}

/// <summary>What was found and mended before this test, where nobody had said it yet. The last one told stands.</summary>
public sealed record RepairTold : BenchEvent
{
    public required string Found { get; init; }
    public required string Done { get; init; }

    /// <summary>Null where nothing was replaced.</summary>
    public string? Parts { get; init; }
    public required string RepairedBy { get; init; }
}

/// <summary>The mains went away while the item was powered: the building's residual-current device tripped.</summary>
public sealed record MainsLost : BenchEvent
{
    /// <summary>Key of the step that ran.</summary>
    public required string Step { get; init; }
}

/// <summary>The outlet that is to power the item was measured. A wrong one is not used; the item is not judged by it.</summary>
public sealed record OutletChecked : BenchEvent
{
    /// <summary>What people call it: "by the window, left".</summary>
    public required string Name { get; init; }
    public required string Room { get; init; }

    /// <summary>Items are brought to it, from whatever room.</summary>
    public bool IsWorkbench { get; init; }
    public required IReadOnlyList<OutletVoltage> Voltages { get; init; }
}

/// <summary>An outlet that was found good today is the one in use.</summary>
public sealed record OutletKept : BenchEvent
{
    /// <summary>Number of its check.</summary>
    public required Guid Outlet { get; init; }
}

/// <summary>A reading of one step: typed text, an instrument's figures, good or bad, or an RCD that did not trip.</summary>
public sealed record ReadingTaken : BenchEvent
{
    /// <summary>Key of the step.</summary>
    public required string Step { get; init; }
    public ReadingSource Source { get; init; }

    /// <summary>As typed, with sign and unit: "&gt;200M".</summary>
    public string? Text { get; init; }

    /// <summary>As an instrument sent it, with its unit's contract symbol and sign.</summary>
    public double? Number { get; init; }
    public string? Unit { get; init; }
    public string? Qualifier { get; init; }

    /// <summary>For polarity, wiring and the functional check; bad wants a note.</summary>
    public bool? Ok { get; init; }

    /// <summary>What was wrong with a lead's conductors.</summary>
    public ConductorFault? Found { get; init; }

    /// <summary>False: the RCD did not trip while it was watched.</summary>
    public bool? Tripped { get; init; }

    /// <summary>Supply in volt and load in ampere as an instrument saw them.</summary>
    public double? Mains { get; init; }
    public double? LoadA { get; init; }

    /// <summary>The smallest that an instrument saw while the flex was moved, in <see cref="Unit"/>; <see cref="Number"/> is then the
    /// largest.</summary>
    public double? Lowest { get; init; }

    /// <summary>In a dead test: whether an instrument saw anything connected between L and N. False is a switch that is off, a blown
    /// fuse, or what closes only when it runs; null where it did not look.</summary>
    public bool? PathSeen { get; init; }

    /// <summary>The test lead's null in ohm, set by the server when its instrument measured; a typed reading is what the display
    /// showed.</summary>
    public double? NullOhm { get; init; }
    public bool SwitchedOn { get; init; } = true;

    /// <summary>Where the probe sat, when a step is measured at several points.</summary>
    public string? Point { get; init; }
    public string? Note { get; init; }

    /// <summary>What an instrument drew with it; null where it drew nothing.</summary>
    public Waveform? Waveform { get; init; }

    /// <summary>Number of the instrument in hand when it was taken; null in sheets that are older than kits.</summary>
    public Guid? With { get; init; }

    /// <summary>The server's seal over a measurement it ran; only with it is a reading an instrument's.</summary>
    public string? Seal { get; init; }
}

/// <summary>A probe on metal that should be insulated found a path to earth: it stops the job.</summary>
public sealed record EarthFound : BenchEvent
{
    public required string Step { get; init; }
    public required string Words { get; init; }
}

/// <summary>The item's facts were corrected beside this sheet while it was under way: from here on it is judged by the corrected ones, and
/// what failed before is known by these.</summary>
public sealed record FactsMoved : BenchEvent
{
    /// <summary>As the sheet had judged by them.</summary>
    public required Item Was { get; init; }
}

/// <summary>Takes an earlier event out of the judgement, with the reason; it stays on the record.</summary>
public sealed record Voided : BenchEvent
{
    /// <summary>A reading, a confirmation, an earth that was found, or a look.</summary>
    public required Guid Target { get; init; }

    /// <summary>With a look: which of its points.</summary>
    public string? Point { get; init; }

    /// <summary>With a reading: what was wrong with it, and <see cref="Reason"/> says what was done. Null is <see cref="VoidCause.Other"/>.</summary>
    public VoidCause? Cause { get; init; }
    public required string Reason { get; init; }
}

/// <summary>Facts of the item, corrected on the bench. They make a new ruling, and what was done is judged again under it.</summary>
public sealed record FactsChanged : BenchEvent
{
    public required FactChanges Changes { get; init; }
    public required string Reason { get; init; }
}

/// <summary>What of an item may be corrected; null leaves a fact as it was.</summary>
public sealed record FactChanges
{
    public string? Name { get; init; }
    public string? Maker { get; init; }
    public string? Model { get; init; }
    public string? Serial { get; init; }
    public string? Room { get; init; }
    public Place? Place { get; init; }

    /// <summary>Settles the class by what was seen.</summary>
    public ClassEvidence? Evidence { get; init; }
    public UseOf? Use { get; init; }
    public double? RatedVoltageV { get; init; }
    public double? RatedPowerW { get; init; }
    public double? RatedCurrentA { get; init; }
    public double? FlexLengthM { get; init; }
    public double? FlexMm2 { get; init; }
    public double? PlugFuseA { get; init; }
    public PlugType? Plug { get; init; }
    public double? RcdMa { get; init; }
    public double? RcdOwnTripMs { get; init; }
    public int? Outlets { get; init; }
    public bool? Heating { get; init; }
    public bool? SurgeProtected { get; init; }
    public bool? AllInsulated { get; init; }
    public MainsSwitch? MainsSwitch { get; init; }
    public int? StartUpSeconds { get; init; }
    public IReadOnlyList<string>? EarthedParts { get; init; }
    public IReadOnlyList<string>? UnearthedParts { get; init; }
    public AccessLevel? Access { get; init; }
    public IReadOnlyList<CareNeed>? Care { get; init; }

    /// <summary>Plates of a combined appliance; their sum takes the place of the rated power.</summary>
    public IReadOnlyList<PlateFact>? PartPlates { get; init; }

    /// <summary>1 or 3.</summary>
    public int? Phases { get; init; }

    /// <summary>The mains lead unplugs at the item.</summary>
    public bool? Detachable { get; init; }
    public InletType? Inlet { get; init; }

    /// <summary>The year in which it was made, and the years its maker expects of it.</summary>
    public int? MadeIn { get; init; }
    public double? LifeYears { get; init; }

    /// <summary>Of medical devices: what its interval goes by, where its maker names none.</summary>
    public bool? LifeSupporting { get; init; }
    public bool? EmergencyTransport { get; init; }

    /// <summary>Of medical devices: as their plate and papers declare them.</summary>
    public IReadOnlyList<AppliedPartFact>? AppliedParts { get; init; }

    /// <summary>Of medical devices: somebody looked, and there are none.</summary>
    public bool? NoAppliedParts { get; init; }

    /// <summary>Of a defibrillator: at what it is checked. One without a setting says that it is none.</summary>
    public DefibrillatorFact? Defibrillator { get; init; }

    /// <summary>Of a medical device: its battery. One that it does not have says that it has none.</summary>
    public BatteryFact? Battery { get; init; }

    /// <summary>What belongs to a device and is looked at with it.</summary>
    public IReadOnlyList<string>? Accessories { get; init; }

    /// <summary>What its maker asks beside the standard.</summary>
    public MakerFact? MakerAsks { get; init; }
}

/// <summary>One part's plate.</summary>
public sealed record PlateFact(string Name, double PowerW);

/// <param name="Connections">Patient connections, at least one.</param>
/// <param name="Joined">They have one function and are joined for the measurement.</param>
/// <param name="MadeOf">Its modules with their connections: "limb leads 4, chest leads 6"; null where it is one.</param>
public sealed record AppliedPartFact(string Name, AppliedPartType Type, int Connections, bool Joined, string? MadeOf = null);

/// <param name="FittedOn">Null where nobody knows.</param>
/// <param name="LifeMonths">Until it is to be replaced; null where nobody says.</param>
public sealed record BatteryFact(bool Has, DateOnly? FittedOn = null, double? LifeMonths = null);

/// <summary>What a device's maker asks beside the standard; with nothing in it, nothing is asked.</summary>
/// <param name="IntervalMonths">Until the next test; null where the papers name none.</param>
/// <param name="Limits">Its figures by test; they count where they are the tighter ones.</param>
/// <param name="Checks">What is to be seen to work, by name.</param>
public sealed record MakerFact(double? IntervalMonths, IReadOnlyList<MakerLimitFact> Limits, IReadOnlyList<string> Checks);

/// <inheritdoc cref="MakerLimit"/>
public sealed record MakerLimitFact(string Test, double Value, string Unit)
{
    internal MakerLimit AsLimit => new(Test, Value, Unit);
}

/// <param name="SettingsJ">Energies at which it is checked, in joule.</param>
/// <param name="Synchronises">It gives synchronised shocks.</param>
/// <param name="EcgSetMv">Amplitude of its check trace in millivolt; null where it shows none.</param>
public sealed record DefibrillatorFact(IReadOnlyList<double> SettingsJ, bool Synchronises = false, double? EcgSetMv = null);

/// <summary>A reading judged by another standard as well. It counts for itself, never for this round's steps.</summary>
public sealed record Borrowed : BenchEvent
{
    public required Guid Target { get; init; }
    public required string PackId { get; init; }
}

/// <summary>A lead's decision in place of one reading's comparison.</summary>
public sealed record Overridden : BenchEvent
{
    public required Guid Target { get; init; }

    /// <summary>Pass or fail.</summary>
    public required Status To { get; init; }
    public required string Reason { get; init; }
}

/// <summary>Takes back an override, a borrowed standard or an evaluation.</summary>
public sealed record Withdrawn : BenchEvent
{
    public required Guid Target { get; init; }
}

/// <summary>The state of medical equipment in words, confirmed or chosen by a person.</summary>
public sealed record Evaluated : BenchEvent
{
    public required Evaluation Evaluation { get; init; }
}

public sealed record ScopeChosen : BenchEvent
{
    public required Scope Scope { get; init; }
}

public sealed record SchoolChosen : BenchEvent
{
    public required School School { get; init; }
}

/// <summary>A device and its detachable mains lead are measured each by itself, or together again.</summary>
public sealed record LeadParted : BenchEvent
{
    public required bool IsApart { get; init; }
}

/// <summary>It is inspected by a procedure, or by the standard's own plan where none is named. What was done stays and is judged
/// again.</summary>
public sealed record ProcedureChosen : BenchEvent
{
    /// <summary>Null for the standard's own plan.</summary>
    public Guid? Procedure { get; init; }

    /// <summary>Of that procedure.</summary>
    public int Version { get; init; }
}

/// <summary>The server does not vouch for a reading that was said to be its instrument's: it counts as a typed one.</summary>
public sealed record Unproved : BenchEvent
{
    public required Guid Target { get; init; }
}

/// <summary>Unplugged and set aside, so that another item can have the bench.</summary>
public sealed record Parked : BenchEvent;

public sealed record Resumed : BenchEvent;

/// <summary>The sheet was handed over from another bench: what stands before this was done by <see cref="From"/>, what follows by whoever
/// saves it. The server writes it and knows it again.</summary>
public sealed record TakenOver : BenchEvent
{
    /// <summary>Number of the hand-over at the server.</summary>
    public required Guid HandOver { get; init; }

    /// <summary>Who did what stands before.</summary>
    public required string From { get; init; }
}

/// <summary>What was measured without a tag got one: what stands before this was measured before anybody knew which item it is. The server
/// writes it and knows it again.</summary>
public sealed record Named : BenchEvent
{
    /// <summary>Number under which it lay on the bench without a tag.</summary>
    public required Guid Loose { get; init; }
    public required string Tag { get; init; }

    /// <summary>What it was taken for until then, in words: "appliance, class I".</summary>
    public required string SeenAs { get; init; }

    /// <summary>The tag stood in the register already.</summary>
    public required bool WasKnown { get; init; }
}
