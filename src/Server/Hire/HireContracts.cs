using Osierwand.Core.Hire;
using Osierwand.Server.Register;

namespace Osierwand.Server.Hire;

/// <summary>A client's hire fleet: how much of it is ready, and what keeps the rest.</summary>
/// <param name="Fleets">Clients that have one.</param>
/// <param name="Schools">What may be asked of an item before each issue; the one in force is chosen.</param>
/// <param name="CallBack">With a customer, and must not be used: the gravest, first.</param>
/// <param name="Late">Out past the day agreed.</param>
/// <param name="Bench">What waits for the bench, the one that waits longest first.</param>
/// <param name="RoundId">An open round in which it is tested; null where there is none.</param>
/// <param name="Verdicts">As a scanner says them.</param>
public sealed record FleetPage(
    ClientName Client,
    IReadOnlyList<ClientName> Fleets,
    HireTests School,
    IReadOnlyList<SchoolChoice> Schools,
    int Items,
    IReadOnlyList<FleetStage> Stages,
    IReadOnlyList<FleetKind> Kinds,
    FleetPart CallBack,
    FleetPart Late,
    FleetPart Bench,
    Guid? RoundId,
    IReadOnlyList<VerdictCode> Verdicts
);

/// <summary>Items of a fleet, the longest where it is first.</summary>
/// <param name="Total">Of them; shown are no more than a screen holds, but of what is called back all.</param>
public sealed record FleetPart(int Total, IReadOnlyList<FleetCard> Items);

public sealed record SchoolChoice(HireTests School, string Text);

public sealed record FleetStage(HireStage Stage, string Name, int Items);

/// <summary>All items of one name.</summary>
/// <param name="Stages">Only those that hold something, in the order of the way.</param>
public sealed record FleetKind(string Name, int Items, int Ready, IReadOnlyList<FleetStage> Stages);

/// <param name="Since">When it came to be there; null where that is not known.</param>
public sealed record FleetCard(
    Guid ItemId,
    string Tag,
    string Name,
    string Room,
    HireStage Stage,
    string StageText,
    string Why,
    string? CallBack,
    DateTimeOffset? Since
);

/// <param name="Code">What a scanner sends.</param>
/// <param name="Digit">The same by a number pad; null where a tag of the fleet is such a digit.</param>
/// <param name="Seen">Null where nobody looks now.</param>
public sealed record VerdictCode(string Code, int? Digit, string Text, HireSeen? Seen, bool OnlyCounts, bool WantsWords);

/// <summary>An item in somebody's hand, at the pile or at the counter.</summary>
/// <param name="LookAt">What a look at it takes, by its kind and build.</param>
/// <param name="WhyNoLook">Null where a verdict is wanted.</param>
/// <param name="WhyNoReturn">Null where it may be said to be back.</param>
/// <param name="WhyNoIssue">Null where it may be issued.</param>
/// <param name="Due">Its test.</param>
public sealed record HireCard(
    FleetCard Item,
    string? Model,
    string? WhyNoLook,
    string? WhyNoReturn,
    string? WhyNoIssue,
    DateOnly? Due,
    IReadOnlyList<string> LookAt
);

/// <param name="Id">Made by the page: sent twice, it happens once.</param>
public sealed record MakeHireMove(Guid Id, HireMove Move);

/// <param name="Said">What becomes of it, for whoever has it in hand.</param>
/// <param name="Warning">Done all the same; null where there is nothing to say.</param>
/// <param name="IsOutOfUse">It came out of use by this.</param>
public sealed record HireMoved(FleetCard Item, string Said, string? Warning, bool IsOutOfUse);

public sealed record ChooseHireTests(HireTests School, string Reason);

/// <summary>Where an item of a fleet is, and its last moves.</summary>
public sealed record HireStory(FleetCard Item, IReadOnlyList<HireLine> Moves);

public sealed record HireLine(DateTimeOffset At, string By, string Text);
