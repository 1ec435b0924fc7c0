using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Records;
using Osierwand.Server.Bench;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

public sealed record ClientName(string Code, string Name);

public sealed record RegisterRow(
    Guid Id, string Tag, string Name, string? MakerModel, string Client, string ClientCode, string Place, string ClassText,
    ItemState State, DateOnly? Due, int? DaysOver, Outcome? LastOutcome, DateOnly? LastTestedOn);

/// <param name="Total">Rows that match, over all pages.</param>
public sealed record RegisterPage(IReadOnlyList<RegisterRow> Rows, int Total, int Page, int PageSize, IReadOnlyList<ClientName> Clients);

/// <summary>Which due dates to show.</summary>
public enum DueFilter
{
    Any,
    Overdue,
    Within30Days,
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
public sealed record NewItem(
    Guid RoundId, string Tag, string Name, ItemKind Kind, ClassEvidence Evidence, UseOf Use, Place Place, string Room,
    string? Maker, string? Model, string? Serial, double? RatedVoltageV, double? RatedPowerW, double? RatedCurrentA, bool Heating, bool SurgeProtected, bool AllInsulated,
    bool HardWired, double? FlexLengthM, double? FlexMm2, double? PlugFuseA, int Outlets, double? RcdMa,
    Usage Usage, Moved Moved, Users Users);

public sealed record Registered(Guid ItemId, string Tag);

/// <summary>What the registration form offers.</summary>
public sealed record RegistrationForm(
    string Round, string Client, string Site, IReadOnlyList<string> Rooms, Place UsualPlace, IReadOnlyList<EvidenceChoice> Evidence, IReadOnlyList<double> FlexSizes);

public sealed record EvidenceChoice(ClassEvidence Evidence, string Seen, string ClassText, string Remark);

/// <summary>An item's whole story.</summary>
public sealed record ItemPage(
    Guid Id, string Tag, string Name, string Client, string Place, string ClassText, string Evidence, IReadOnlyList<FactLine> Facts,
    ItemState State, DateOnly? Due, DateOnly? VisualDue, int? DaysOver, IReadOnlyList<string> Because, Guid? RoundId,
    IReadOnlyList<PastInspectionCard> History, IReadOnlyList<TrendCard> Trends);

/// <param name="BookNumber">Position in the client's book of records.</param>
public sealed record PastInspectionCard(
    Guid Id, DateOnly Date, Outcome Outcome, string Kind, string Technician, string Standard, long BookNumber, string Fingerprint, IReadOnlyList<string> Words,
    IReadOnlyList<PastReadingCard> Readings);

public sealed record PastReadingCard(string Name, string Text, string? Limit, Status Status, bool NearLimit, IReadOnlyList<string> Working);

/// <param name="Limit">In SI, the newest.</param>
public sealed record TrendCard(string Key, string Name, RailScale? Rail, double? Limit, string? LimitText, bool IsFloor, IReadOnlyList<EarlierValue> Points, string? Advice);
