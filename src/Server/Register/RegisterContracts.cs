using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Server.Quarantine;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

public sealed record ClientName(string Code, string Name);

public sealed record RegisterRow(
    Guid Id,
    string Tag,
    string Name,
    string? MakerModel,
    string Client,
    string ClientCode,
    string Place,
    string ClassText,
    ItemState State,
    DateOnly? Due,
    int? DaysOver,
    Outcome? LastOutcome,
    DateOnly? LastTestedOn
);

/// <param name="Total">Rows that match, over all pages.</param>
public sealed record RegisterPage(IReadOnlyList<RegisterRow> Rows, int Total, int Page, int PageSize, IReadOnlyList<ClientName> Clients);

/// <summary>Which due dates to show.</summary>
public enum DueFilter
{
    Any,
    Overdue,

    /// <summary>Within the window of the common rules.</summary>
    Soon,
    NeverTested,
}

public enum RegisterOrder
{
    Tag,
    Name,
    Place,
    Due,
    LastTestedOn,
    State,
}

/// <summary>What the scan field found.</summary>
/// <param name="RoundId">The open round the item belongs to; null when none is open at its site.</param>
public sealed record Found(Guid ItemId, string Tag, string Name, Guid? RoundId);

/// <summary>A known item, or a tag that may be registered.</summary>
/// <param name="Elsewhere">Items with this tag at sites without an open round.</param>
public sealed record ScanResult(string Tag, Found? Item, IReadOnlyList<Found> Elsewhere);

/// <summary>An item as read off its rating plate.</summary>
/// <param name="Members">Of a medical system: tags of what hangs on its multiple socket.</param>
public sealed record NewItem(
    Guid RoundId,
    string Tag,
    string Name,
    ItemKind Kind,
    ClassEvidence Evidence,
    UseOf Use,
    Place Place,
    string Room,
    string? Maker,
    string? Model,
    string? Serial,
    double? RatedVoltageV,
    double? RatedPowerW,
    double? RatedCurrentA,
    bool Heating,
    bool SurgeProtected,
    bool AllInsulated,
    bool HardWired,
    double? FlexLengthM,
    double? FlexMm2,
    double? PlugFuseA,
    PlugType Plug,
    int Outlets,
    double? RcdMa,
    Usage Usage,
    Moved Moved,
    Users Users,
    PlateMore? More = null,
    IReadOnlyList<string>? Members = null
);

/// <summary>What only some kinds have: three phases, a lead that unplugs, parts that are added up, a patient.</summary>
/// <param name="NoAppliedParts">Somebody looked, and nothing of it touches a patient. A medical device has this, or applied parts.</param>
/// <param name="PartPlates">Of a combined appliance; their sum is its load.</param>
public sealed record PlateMore(
    int Phases,
    bool Detachable,
    MainsSwitch MainsSwitch,
    int StartUpSeconds,
    AccessLevel Access,
    IReadOnlyList<CareNeed> Care,
    IReadOnlyList<PlateFact> PartPlates,
    IReadOnlyList<AppliedPartFact> AppliedParts,
    IReadOnlyList<string> EarthedParts,
    IReadOnlyList<string> UnearthedParts,
    DefibrillatorFact? Defibrillator = null,
    IReadOnlyList<string>? Accessories = null,
    MakerFact? MakerAsks = null,
    BatteryFact? Battery = null,
    InletType? Inlet = null,
    int? MadeIn = null,
    double? LifeYears = null,
    bool LifeSupporting = false,
    bool EmergencyTransport = false,
    bool NoAppliedParts = false
);

public sealed record Registered(Guid ItemId, string Tag);

/// <summary>What the registration form offers.</summary>
public sealed record RegistrationForm(
    string Round,
    string Client,
    string Site,
    IReadOnlyList<string> Rooms,
    Place UsualPlace,
    IReadOnlyList<EvidenceChoice> Evidence,
    IReadOnlyList<double> FlexSizes,
    double NominalV
);

/// <summary>An item of the same maker and model: the second one takes seconds.</summary>
/// <param name="Count">How many of this model the register has.</param>
/// <param name="Facts">As they are corrected; name, room and serial are each item's own.</param>
public sealed record SameModel(
    string Tag,
    string Name,
    int Count,
    ItemKind Kind,
    ClassEvidence Evidence,
    bool HardWired,
    FactChanges Facts
);

/// <summary>What a correction of facts offers: classes by what is seen, and reasons.</summary>
public sealed record CorrectionForm(IReadOnlyList<Choice> Evidence, IReadOnlyList<string> Reasons);

public sealed record EvidenceChoice(ClassEvidence Evidence, string Seen, string ClassText, string Remark);

/// <summary>An item's whole story.</summary>
/// <param name="Fields">The facts by the names under which they are corrected.</param>
/// <param name="Acts">What was ever done while it was out of use, the last first.</param>
/// <param name="LeftFailure">A run sheet with a failure was discarded and no lead has seen it.</param>
/// <param name="UsersAsked">How often its users look at it, in a sentence; null where they are asked nothing.</param>
/// <param name="UserCheckedOn">When one of them last said what they saw.</param>
public sealed record ItemPage(
    Guid Id,
    string Tag,
    string Name,
    string Client,
    string Place,
    string ClassText,
    string Evidence,
    IReadOnlyList<FactLine> Facts,
    FactChanges Fields,
    int Revision,
    ItemState State,
    DateOnly? Due,
    DateOnly? VisualDue,
    int? DaysOver,
    IReadOnlyList<string> Because,
    Guid? RoundId,
    string? LeftFailure,
    IReadOnlyList<PastInspectionCard> History,
    IReadOnlyList<TrendCard> Trends,
    IReadOnlyList<ChangeCard> Changes,
    IReadOnlyList<MemberCard> Members,
    MemberCard? PartOf,
    bool IsSystem,
    IReadOnlyList<ActLine> Acts,
    string? UsersAsked,
    DateOnly? UserCheckedOn
);

/// <summary>Facts that were corrected, what they were and what they are.</summary>
public sealed record ChangeCard(DateTimeOffset At, string By, string Reason, IReadOnlyList<string> Lines);

/// <param name="BookNumber">Position in the client's book of records.</param>
/// <param name="IsTakenBack">A later record corrects it.</param>
/// <param name="Isolation">How hard-wired equipment was isolated and restored, deed by deed, by the site's clock; empty where nothing
/// was.</param>
/// <param name="Flags">Why a lead was asked to look at it again, and what came of it.</param>
/// <param name="MayBeTakenBack">By whoever asks, now.</param>
public sealed record PastInspectionCard(
    Guid Id,
    DateOnly Date,
    Outcome Outcome,
    string Kind,
    string Technician,
    string Standard,
    long BookNumber,
    string Fingerprint,
    bool IsTakenBack,
    string? Instrument,
    IReadOnlyList<string> Words,
    IReadOnlyList<PastReadingCard> Readings,
    IReadOnlyList<string> Isolation,
    IReadOnlyList<string> Flags,
    bool MayBeTakenBack
);

/// <param name="Detail">Under which condition.</param>
/// <param name="Raw">What the display showed, where a null or a scaling changed it.</param>
/// <param name="Overridden">By whom and why.</param>
public sealed record PastReadingCard(
    string Name,
    string Detail,
    string Text,
    string? Raw,
    string? Limit,
    Status Status,
    bool NearLimit,
    string? Void,
    string? Overridden,
    ReadingSource Source,
    IReadOnlyList<string> Working
);
