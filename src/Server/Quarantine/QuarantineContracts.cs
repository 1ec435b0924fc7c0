using Osierwand.Core.Bench;
using Osierwand.Core.Quarantine;

namespace Osierwand.Server.Quarantine;

/// <summary>Everything that is out of use, by how far it is, the oldest first; and what may have to come out of use.</summary>
/// <param name="Reports">Damage that an equipment user reported, of items that are still in use.</param>
/// <param name="Flags">Records of an instrument that drifted, for a lead to look at again.</param>
public sealed record QuarantineBoard(
    IReadOnlyList<QuarantinePile> Piles,
    IReadOnlyList<ReportedCard> Reports,
    IReadOnlyList<DriftCard> Flags,
    IReadOnlyList<Register.ClientName> Clients
);

/// <param name="Usual">What is usually done next with what lies here; null where nothing of this room is.</param>
/// <param name="IsToBeTested">It goes to the bench next.</param>
/// <param name="Total">Of the pile; the cards are the oldest of them.</param>
public sealed record QuarantinePile(
    Stage Stage,
    string Name,
    string Means,
    ActKind? Usual,
    bool IsToBeTested,
    int Total,
    IReadOnlyList<HeldCard> Cards
);

/// <param name="Days">Out of use for so long.</param>
/// <param name="By">"failed", "reported", "recalled".</param>
/// <param name="LastDone">The last act, in a sentence; null where nothing was done yet.</param>
/// <param name="RoundId">An open round at its site, in which it can be tested; null where there is none.</param>
public sealed record HeldCard(
    Guid ItemId,
    string Tag,
    string Name,
    string Client,
    string Place,
    string Why,
    string By,
    int Days,
    string? LastDone,
    Guid? RoundId
);

public sealed record ReportedCard(Guid CheckId, Guid ItemId, string Tag, string Name, string Place, string Words, string From, int Days);

/// <param name="KitId">The instrument: there a lead decides.</param>
public sealed record DriftCard(Guid FlagId, Guid KitId, Guid ItemId, string Tag, string Name, string Place, string Why, int Days);

/// <summary>One item's hold: why, what was done, and what may be done next.</summary>
/// <param name="Usual">What is usually done next.</param>
/// <param name="Unusable">How nobody can use it.</param>
/// <param name="Told">Words on offer, as are those of who repairs.</param>
public sealed record HoldStory(
    Guid Cause,
    Stage Stage,
    string StageText,
    string By,
    string Why,
    DateTimeOffset Since,
    string From,
    IReadOnlyList<ActLine> Acts,
    IReadOnlyList<ActKind> May,
    ActKind? Usual,
    IReadOnlyList<Choice> Unusable,
    IReadOnlyList<Choice> Scrapping,
    IReadOnlyList<string> Told,
    IReadOnlyList<string> Repairers,
    string UsualWarning
);

public sealed record ActLine(Guid Id, DateTimeOffset At, string By, string Text);

/// <param name="Id">Made by the page: sent twice it is done once.</param>
/// <param name="Cause">As the page knew it: another failure meanwhile is another cause.</param>
public sealed record DoAct(Guid Id, Guid Cause, QuarantineAct Act);

/// <summary>Which items a recall takes out of use.</summary>
/// <param name="Serials">Those alone; empty for every one of the model.</param>
/// <param name="Reference">The maker's or the authority's.</param>
public sealed record RecallItems(Guid Id, string Maker, string Model, IReadOnlyList<string> Serials, string Words, string Reference);

/// <param name="Tags">Of what was taken out of use.</param>
/// <param name="HeldBefore">How many were out of use already and stay so for their own reason.</param>
/// <param name="Unknown">Serials that the register does not have of this model.</param>
public sealed record Recalled(IReadOnlyList<string> Tags, int HeldBefore, IReadOnlyList<string> Unknown);
