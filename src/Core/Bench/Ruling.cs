using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json.Serialization;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>Where an item stands in its life.</summary>
public enum ItemState
{
    InService,
    Quarantined,
    InRepair,
    Scrapped,
    Lost,
}

/// <summary>The item as the register knew it when it was laid on the bench.</summary>
/// <param name="Revision">Rises with every change; a bench that worked on an older one is told so.</param>
/// <param name="LeftFailure">Of a run sheet that holds a failure and has not come to an end that says so.</param>
/// <param name="IsLoose">It has no tag yet and stands in no register: it is measured first and named later.</param>
public sealed record ItemOnBench(
    Guid Id,
    string Tag,
    string Name,
    string? Maker,
    string? Model,
    string? Serial,
    string Site,
    string Room,
    ClassEvidence Evidence,
    ItemState State,
    int Revision,
    Item Equipment,
    LeftFailure? LeftFailure = null,
    bool IsLoose = false
)
{
    /// <summary>Why it is out of use and what was mended since; null where it is in service.</summary>
    public HeldOn? Held { get; init; }

    /// <summary>Of a medical system: members that are out of use, each in words.</summary>
    public ImmutableArray<string> MembersHeld
    {
        get;
        // A draft that an older page kept says nothing of them.
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>Why a system is looked at and not tested, in a sentence; null where it may be, and of everything else.</summary>
    [JsonIgnore]
    public string? NotWhole =>
        Equipment.Kind != ItemKind.MedicalSystem ? null
        : Equipment.Members.IsEmpty
            ? "Nobody has said which devices belong to this system: name its members on its page, then it is tested."
        : MedicalSystem.Trouble(Equipment) is { } trouble ? $"{trouble} Till then the system is looked at and not tested."
        : MembersHeld.IsEmpty ? null
        : $"{string.Join("; ", MembersHeld)}: the system is looked at and not tested. Have it mended and passed, or take it out of the system "
            + "on its page.";
}

/// <summary>The failure that a passed inspection after repair closes.</summary>
/// <param name="Cause">Of the failed inspection, the user's report or the recall.</param>
/// <param name="Words">What is wrong with it.</param>
/// <param name="Repair">What was mended since; null while nobody has said.</param>
public sealed record HeldOn(Guid Cause, string Words, DateOnly Since, RepairSaid? Repair);

/// <param name="Parts">What was replaced; null where nothing was.</param>
/// <param name="By">Who repaired it.</param>
public sealed record RepairSaid(string Found, string Done, string? Parts, string By)
{
    [JsonIgnore]
    public string Text => $"repaired by {By}: found {Found}; {Done}{(Parts is null ? "" : $"; parts: {Parts}")}";
}

/// <param name="Text">Who left it, when and why, in a sentence.</param>
/// <param name="HandOver">Number of the hand-over it waits in; null where it was discarded.</param>
public sealed record LeftFailure(string Text, Guid? HandOver);

/// <summary>The round and what was chosen for it.</summary>
/// <param name="TimeZone">Of the site; dates are local to it.</param>
/// <param name="Mains">Of the site; null where it is what the standard supposes.</param>
public sealed record RoundRules(
    Guid Id,
    string Name,
    Guid ClientId,
    string Client,
    string ClientCode,
    string TimeZone,
    SiteMains? Mains = null
);

/// <summary>A site's supply where it differs from what a standard supposes.</summary>
/// <param name="NominalV">To neutral, in volt; null takes the standard's.</param>
/// <param name="Hertz">0 is direct current; null takes the standard's.</param>
public sealed record SiteMains(double? NominalV, double? Hertz)
{
    /// <summary>The pack as it reckons at this site: leakage is scaled to the site's nominal voltage where no plate says another.</summary>
    public RulePack At(RulePack pack) =>
        pack with
        {
            Nominal = NominalV is { } volts ? new Volts(volts) : pack.Nominal,
            Hertz = Hertz ?? pack.Hertz,
        };

    /// <returns>Why no site has such mains, or null.</returns>
    public Fault? Refusal() =>
        NominalV is { } volts && volts is not (>= LowestVolts and <= HighestVolts)
            ? new Fault("nominalV", $"Mains of a site lie between {LowestVolts} and {HighestVolts} V.")
        : Hertz is { } hertz && !Frequencies.Contains(hertz) ? new Fault("mainsHz", "Mains are of 50 or 60 Hz, or direct current (0).")
        : null;

    private const double LowestVolts = 12;
    private const double HighestVolts = 1000;
    private static readonly double[] Frequencies = [0, 50, 60];
}

/// <summary>One standard's house limits as they stood, or those over the common rules.</summary>
public sealed record HouseRuling(string PackId, int Revision, ImmutableArray<HouseRow> Limits)
{
    /// <returns>The pack as strict as the house makes it, the common rules with it; null when there is no such pack.</returns>
    public static RulePack? Pack(ImmutableArray<HouseRuling> house, string id)
    {
        if (PackLibrary.Find(id) is not { } pack)
            return null;
        if (house.FirstOrDefault(it => it.PackId == id) is { } own)
            pack = HouseLimits.Apply(pack, own.AsLimits(), own.Revision).Value;
        return house.Any(it => it.PackId == Thresholds.Id) ? pack with { Thresholds = new(Table(house, Thresholds.Id)!) } : pack;
    }

    /// <returns>The table as strict as the house makes it; null when there is no such table.</returns>
    public static ThresholdTable? Table(ImmutableArray<HouseRuling> house, string id) =>
        ThresholdLibrary.Find(id) is not { } table ? null
        : house.FirstOrDefault(it => it.PackId == id) is { } own ? HouseLimits.Apply(table, own.AsLimits(), own.Revision).Value
        : table;

    private HouseLimit[] AsLimits() => [.. Limits.Select(row => new HouseLimit(row.RuleId, row.Value, Unit.Find(row.Unit)!, row.Reason))];
}

/// <param name="Unit">Symbol of the contract.</param>
public sealed record HouseRow(string RuleId, double Value, string Unit, string Reason);

/// <param name="Competences">As they stood when the item was laid on the bench.</param>
public sealed record Worker(Guid Id, string Name, string Initials, bool IsLead, ImmutableArray<HeldCompetence> Competences);

/// <summary>What decides the next dates beside the readings.</summary>
/// <param name="Past">Combined tests only, oldest first; a look is no test.</param>
public sealed record IntervalBasis(
    Place Place,
    Usage Usage,
    Moved Moved,
    Users Users,
    double? CapMonths,
    DateOnly? Due,
    DateOnly? VisualDue,
    double? Months,
    bool LabelWithNextDate,
    ImmutableArray<PastTest> Past,
    int Inspections
)
{
    /// <summary>Decided for its whole group; null where nothing was.</summary>
    public GroupStep? Group { get; init; }

    /// <summary>In force now; null before the first test.</summary>
    [JsonIgnore]
    public Period? Interval => Months is { } months ? new Period(months) : null;
}

/// <summary>
/// Everything that decides, gathered once by the server when the item goes on the bench, each ingredient with its revision. Nothing later
/// asks
/// what the rules are. A fact changed, another scope or another school makes a new ruling of it (<see cref="BenchState.Of"/>).
/// </summary>
public sealed record Ruling
{
    public required ItemOnBench Item { get; init; }
    public required RoundRules Round { get; init; }
    public required string PackId { get; init; }

    /// <summary>Of the pack's file; an engine with another one refuses.</summary>
    public required string PackVersion { get; init; }

    /// <summary>Of the common rules' file; an engine with another one refuses. Null in rulings made before they were kept in one.</summary>
    public string? RulesVersion { get; init; }

    /// <summary>For every pack that has any, so that a borrowed standard is as strict as its own rounds.</summary>
    public ImmutableArray<HouseRuling> House { get; init; } = [];

    /// <summary>The house's changes of the list to look at; null where there are none.</summary>
    public HouseLook? Look { get; init; }
    public Policy Policy { get; init; } = Policy.Usual;
    public DecisionRule DecisionRule { get; init; }

    /// <summary>The procedure it is inspected by; null for the standard's own plan.</summary>
    public Procedure? Procedure { get; init; }

    /// <summary>Those that may be chosen, this device's own first. Not part of the fingerprint: a new one changes no sheet.</summary>
    public ImmutableArray<Procedure> Procedures
    {
        get;
        // A draft that an older page kept says nothing of them.
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>Superseded or retired of late: a sheet that runs one goes on with it, and nobody is offered it. Not part of the
    /// fingerprint.</summary>
    public ImmutableArray<Procedure> EarlierProcedures
    {
        get;
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>Why the procedure in force does not fit the device any more, or null.</summary>
    [JsonIgnore]
    public string? ProcedureTrouble => Procedure is { } own ? ProcedureRules.Refusal(own, Item.Equipment, PackId) : null;
    public Scope Scope { get; init; }
    public School School { get; init; }

    /// <summary>A device and its detachable lead are measured each by itself (<see cref="LeadApart"/>).</summary>
    public bool IsLeadApart { get; init; }

    /// <summary>Why this item's leakage is measured otherwise than its client has it; null where it is not.</summary>
    public string? LeakageReason { get; init; }
    public KitInHand? Kit { get; init; }

    public required Worker Technician { get; init; }

    /// <summary>Who else holds all that testing the item asks for; said where the technician does not. Not part of the
    /// fingerprint.</summary>
    public ImmutableArray<string> HeldBy
    {
        get;
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>Why this person looks at this item and does not test it, in a sentence; null where it may be tested.</summary>
    [JsonIgnore]
    public string? MayOnlyLook => Item.NotWhole ?? NotCompetent;

    private string? NotCompetent =>
        CompetenceFor.Lacking(Item.Equipment, Technician.Competences, Today) is { IsEmpty: false } lacking
            ? $"Testing it asks for competence in {string.Join(" and ", lacking)}: {Technician.Name} may look and not test."
            : null;

    /// <summary>Outlets of the site that were found good today, the technician's own last one first. Not part of the fingerprint: what a
    /// colleague measures meanwhile changes nothing here.</summary>
    public ImmutableArray<OutletOfTheDay> Outlets
    {
        get;
        // A draft that an older page kept says nothing of them.
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>What was measured of this item, failed, and stands in no record. Not part of the fingerprint: what is measured on this very
    /// sheet changes no rule.</summary>
    public ImmutableArray<UnsavedFailure> UnsavedFailures
    {
        get;
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>Earth readings of today with the instrument in hand, each less its item's own reference, in ohm: when all are off by the
    /// same, it is the lead or the instrument. Not part of the fingerprint.</summary>
    public ImmutableArray<double> EarthOffsets
    {
        get;
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>What was read today with the instrument in hand through its probe and was not nothing, so that its lead is whole; null
    /// where nothing was. Not part of the fingerprint.</summary>
    public string? ProbeSeen { get; init; }

    /// <summary>Earlier inspections, oldest first, for trends and rails.</summary>
    public ImmutableArray<PastInspection> History { get; init; } = [];

    /// <summary>First readings, or first after the last repair, where <see cref="History"/> no longer reaches back to them.</summary>
    public ImmutableArray<PastInspection> References
    {
        get;
        // A draft that an older page kept says nothing of them.
        init => field = value.IsDefault ? [] : value;
    } = [];
    public required IntervalBasis Basis { get; init; }

    /// <summary>At the site. Not part of the fingerprint: midnight changes no rule.</summary>
    public required DateOnly Today { get; init; }

    internal RulePack FindPack() =>
        Own.Pack ??= PackOf(PackId) ?? throw new InvalidOperationException($"The standard {PackId} is not in this engine.");

    /// <summary>What was worked out once; a copy with something changed works it out anew.</summary>
    private Kept Own => kept is { } own && ReferenceEquals(own.Of, this) ? own : kept = new(this);

    private Kept? kept;

    private sealed class Kept(Ruling of)
    {
        public Ruling Of { get; } = of;
        public RulePack? Pack { get; set; }
        public string? Fingerprint { get; set; }
    }

    /// <returns>Null when there is no such pack.</returns>
    public RulePack? PackOf(string id) =>
        HouseRuling.Pack(House, id) is not { } pack ? null
        : Round.Mains is { } mains ? mains.At(pack)
        : pack;

    /// <summary>Names this ruling: two hosts that compute with the same one carry the same fingerprint.</summary>
    [JsonIgnore]
    public string Fingerprint => Own.Fingerprint ??= Convert.ToHexStringLower(SHA256.HashData(BenchJson.Bytes(Steady)).AsSpan(0, 12));

    /// <summary>Without what changes by itself.</summary>
    private Ruling Steady =>
        this with
        {
            Today = default,
            HeldBy = [],
            Outlets = [],
            EarthOffsets = [],
            ProbeSeen = null,
            UnsavedFailures = [],
            Procedures = [],
            EarlierProcedures = [],
            Kit = Kit?.Steady,
        };

    /// <summary>Why an engine may not compute with it, or null.</summary>
    public string? Refusal() =>
        PackLibrary.Find(PackId) is not { } shipped ? $"the standard {PackId} is not known here"
        : shipped.Version != PackVersion ? Differs(PackId, shipped.Version, PackVersion)
        : RulesVersion is { } rules && rules != Thresholds.Shipped.Table.Version
            ? Differs("the common rules", Thresholds.Shipped.Table.Version, rules)
        : null;

    private static string Differs(string what, string here, string there) =>
        $"{what}: {here} here and {there} at the server, load the page again";

    /// <summary>What changed between two rulings of one item, in words; empty when nothing did.</summary>
    public static ImmutableArray<string> Differences(Ruling before, Ruling after)
    {
        var lines = ImmutableArray.CreateBuilder<string>();
        if (before.Item.Revision != after.Item.Revision)
            lines.Add("The item was changed or inspected meanwhile.");
        if (before.Item.State != after.Item.State)
            lines.Add($"It was {Words.Of(before.Item.State)}, it is {Words.Of(after.Item.State)}.");
        if (before.PackId != after.PackId || before.PackVersion != after.PackVersion)
            lines.Add($"The standard is {after.Pack.ShortName} now.");
        if (!BenchJson.Bytes(before.House).AsSpan().SequenceEqual(BenchJson.Bytes(after.House)))
            lines.Add("House limits were changed.");
        if (before.Look?.Revision != after.Look?.Revision)
            lines.Add("The list to look at was changed.");
        if (before.Round.Mains != after.Round.Mains)
            lines.Add($"The site's supply is {after.Pack.Supply} now.");
        if (before.Policy != after.Policy || before.DecisionRule != after.DecisionRule)
            lines.Add("The client's choices were changed.");
        if ((before.Procedure?.Id, before.Procedure?.Version) != (after.Procedure?.Id, after.Procedure?.Version))
            lines.Add(
                after.Procedure is { } procedure
                    ? $"Its model is inspected by “{procedure.Title}” now."
                    : "Its model has no procedure of its own any more."
            );
        if (before.Technician.Id != after.Technician.Id)
            lines.Add($"{after.Technician.Name} is signed in now.");
        if (before.MayOnlyLook != after.MayOnlyLook)
            lines.Add(after.MayOnlyLook ?? $"{after.Technician.Name} may test it now.");
        if (before.Kit?.Id != after.Kit?.Id)
            lines.Add(after.Kit?.Chosen is { } kit ? $"The instrument is {kit.Name} now." : "No kit is chosen now.");
        else if (before.Kit?.Trouble != after.Kit?.Trouble)
            lines.Add(after.Kit?.Trouble is { } trouble ? $"{after.Kit.Name} may not be used now. {trouble}" : "The kit may be used now.");
        else if (before.Kit?.NullOhm != after.Kit?.NullOhm)
            lines.Add("The test lead was nulled again.");
        if (before.Kit?.Analyser?.Id != after.Kit?.Analyser?.Id)
            lines.Add(
                after.Kit?.Analyser is { } analyser
                    ? $"The performance analyser is {analyser.Name} now."
                    : "No performance analyser is chosen now."
            );
        else if (before.Kit?.Analyser?.Trouble != after.Kit?.Analyser?.Trouble)
            lines.Add(
                after.Kit?.Analyser is { Trouble: { } bar } barred
                    ? $"{barred.Name} may not be used now. {bar}"
                    : "The performance analyser may be used now."
            );
        if (lines.Count == 0 && before.Fingerprint != after.Fingerprint)
            lines.Add("Item, kit or history were changed meanwhile.");
        return lines.ToImmutable();
    }
}

/// <summary>What a ruling says by its ids. Beside the type: the generator of JSON describes the type of every public property, also of one
/// that is never written, and a pack is two hundred types.</summary>
public static class RulingPack
{
    extension(Ruling ruling)
    {
        /// <summary>The pack with the house limits over it.</summary>
        /// <exception cref="InvalidOperationException">The pack is not in this engine; <see cref="Ruling.Refusal"/> says so before.</exception>
        public RulePack Pack => ruling.FindPack();
    }
}
