using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;

namespace Osierwand.Server.Rounds;

/// <param name="Minutes">Expected on the bench.</param>
public sealed record RoundLine(
    Guid Id,
    string Name,
    string Client,
    string Site,
    RoundState State,
    string StateText,
    DateOnly StartsOn,
    DateOnly EndsOn,
    string Standard,
    int Items,
    int Done,
    int NotTested
);

/// <summary>A round as it is planned and walked.</summary>
/// <param name="Judged">Standards in words: for appliances, for medical devices.</param>
/// <param name="Supply">Nominal mains and frequency that leakage is reckoned with.</param>
/// <param name="IsPlanned">Only the items that were chosen belong to it.</param>
/// <param name="Choices">The policy in force, choice by choice, in words.</param>
/// <param name="HasOwnPolicy">It differs from the client's, with a reason.</param>
/// <param name="NotPlaced">Items that no day holds.</param>
/// <param name="Basis">Where the bench times come from, in a sentence.</param>
public sealed record RoundPage(
    Guid Id,
    string Name,
    string Client,
    string Site,
    RoundState State,
    DateOnly StartsOn,
    DateOnly EndsOn,
    string StandardId,
    string? MedicalStandardId,
    IReadOnlyList<string> Judged,
    string Supply,
    bool IsPlanned,
    string ScopeWords,
    Policy Policy,
    IReadOnlyList<string> Choices,
    bool HasOwnPolicy,
    string? PolicyReason,
    RoundTally Tally,
    TimeCard Time,
    string Basis,
    IReadOnlyList<RoundRoom> Rooms,
    IReadOnlyList<LeftOut> Excluded,
    IReadOnlyList<DayCard> Days,
    int NotPlaced,
    IReadOnlyList<RoundRemark> Remarks,
    IReadOnlyList<WrongOutletCard> WrongOutlets,
    IReadOnlyList<PackingCard> Packing,
    IReadOnlyList<RoundMove> Moves,
    IReadOnlyList<PersonChoice> People,
    IReadOnlyList<OfferedItems> Offers,
    IReadOnlyList<OtherRound> Others
);

/// <param name="Low">Half of all such rounds lie between this and <paramref name="High"/>.</param>
public sealed record TimeCard(int Minutes, int Low, int High, string Text);

/// <param name="About">What kinds of things stand there.</param>
public sealed record RoundRoom(string Room, string About, TimeCard Time, IReadOnlyList<RoundItemCard> Items);

/// <param name="Outcome">Of this round; null while nothing was saved.</param>
/// <param name="Basis">Where its bench time comes from.</param>
/// <param name="IsLook">Planned for its formal visual alone.</param>
/// <param name="Trouble">What planning should know of it: a competence that nobody on the round holds.</param>
/// <param name="Revision">By which it is moved: somebody may have changed it meanwhile.</param>
public sealed record RoundItemCard(
    Guid Id,
    string Tag,
    string Name,
    string ClassText,
    DateOnly? Due,
    int? DaysOver,
    Outcome? Outcome,
    int Minutes,
    TimeBasis Basis,
    bool IsLook,
    string? Trouble,
    int Revision
);

/// <summary>An outlet of the site that was found wrong and not found good since: the client is told.</summary>
public sealed record WrongOutletCard(string Room, string Name, string Says, string By, DateTimeOffset At);

public sealed record LeftOut(Guid Id, string Tag, string Name, string Room, string Why, string TestedBy);

public sealed record DayCard(DateOnly Day, Guid PersonId, string Person, int Minutes, int Taken, string Text, IReadOnlyList<string> Rooms);

/// <param name="Held">An instrument of the kit that measures it and is fit for it; null of other things, or where there is none.</param>
/// <param name="Warning">Of that instrument; or that there is none.</param>
public sealed record PackingCard(string What, string For, string? Held, string? Warning);

/// <param name="WhyNot">Null where it may be done now.</param>
public sealed record RoundMove(RoundState To, string Text, string? WhyNot);

public sealed record PersonChoice(Guid Id, string Name);

/// <summary>Items that can be added at once.</summary>
/// <param name="Count">Of them that are not in the round.</param>
public sealed record OfferedItems(AddBy By, string? Value, string Text, int Count);

public sealed record OtherRound(Guid Id, string Name, RoundState State);

/// <summary>By what items are added to a round.</summary>
public enum AddBy
{
    Due,
    Overdue,
    NeverSeen,
    New,
    NotReached,
    Room,
    Kind,
    Everything,
    Chosen,
}

/// <param name="Value">The room, or the kind's word.</param>
/// <param name="Items">With "chosen".</param>
public sealed record AddItems(AddBy By, string? Value = null, IReadOnlyList<Guid>? Items = null);

public sealed record AddedItems(int Added);

public sealed record TheseItems(IReadOnlyList<Guid> Items);

/// <param name="TestedBy">Who does test them.</param>
public sealed record LeaveOut(IReadOnlyList<Guid> Items, string Why, string TestedBy);

public sealed record MoveItems(IReadOnlyList<Guid> Items, Guid To);

/// <param name="Policy">Null takes the client's.</param>
/// <param name="PolicyReason">Needed where the round differs from the client.</param>
public sealed record RoundDetails(
    string Name,
    DateOnly StartsOn,
    DateOnly EndsOn,
    string StandardId,
    string? MedicalStandardId,
    string ScopeWords,
    Policy? Policy,
    string? PolicyReason
);

public sealed record SetDays(IReadOnlyList<PlannedDay> Days);

public sealed record PlannedDay(DateOnly Day, Guid PersonId, int Minutes);

public sealed record SetRooms(IReadOnlyList<string> Rooms);

public sealed record SetState(RoundState To);

/// <param name="Rooms">Whose items go into the new round.</param>
public sealed record SplitRound(IReadOnlyList<string> Rooms, string Name, DateOnly StartsOn, DateOnly EndsOn);

public sealed record MergeRound(Guid From);

/// <param name="StandardId">Chosen anew: it is never taken over from the round that is copied.</param>
public sealed record DuplicateRound(string Name, DateOnly StartsOn, DateOnly EndsOn, string StandardId, string? MedicalStandardId);
