using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;

namespace Osierwand.Server.Schedule;

/// <summary>By what the piles are laid out.</summary>
public enum DueBy
{
    Site,
    Kind,
    Tier,
}

/// <summary>What falls due, week by week.</summary>
/// <param name="Weeks">Their Mondays. What is over lies in the first.</param>
/// <param name="Hours">Against the time at the bench; null for whoever is not of the house.</param>
/// <param name="Over">Past their date.</param>
/// <param name="NeverTested">Due at once, and counted among what is over.</param>
/// <param name="OutOfUse">Not counted: they come back by their repair.</param>
public sealed record DueBoard(
    IReadOnlyList<DateOnly> Weeks,
    IReadOnlyList<DueRow> Rows,
    IReadOnlyList<WeekHours>? Hours,
    int Items,
    int Over,
    int NeverTested,
    int OutOfUse,
    IReadOnlyList<ScheduleClient> Clients
);

/// <param name="Key">The site's id, the kind's or the tier's word.</param>
/// <param name="Under">Whose site; null of others.</param>
public sealed record DueRow(string Key, string Name, string? Under, IReadOnlyList<DuePile> Piles);

/// <param name="Over">Of its items, past their date.</param>
/// <param name="Minutes">Expected on the bench.</param>
public sealed record DuePile(int Items, int Over, int Minutes);

/// <param name="Due">What falls due, in minutes at the bench.</param>
/// <param name="Free">What people have, but for rounds that are planned.</param>
/// <param name="Taken">By rounds that are planned or open.</param>
public sealed record WeekHours(int Due, int Free, int Taken);

public sealed record ScheduleClient(string Code, string Name);

/// <summary>What a plan is asked for: so many weeks from tomorrow on, with what was moved by hand.</summary>
public sealed record AskedPlan(int Weeks, IReadOnlyList<AskedMove> Moves);

/// <param name="Day">Null takes them out of the plan.</param>
public sealed record AskedMove(IReadOnlyList<Guid> Items, DateOnly? Day, Guid? PersonId);

/// <summary>Rounds as the planner proposes them.</summary>
/// <param name="Summary">In a sentence, with what it is paid with.</param>
/// <param name="Bound">How far from the least that could be, in a sentence.</param>
/// <param name="Basis">Where bench times come from.</param>
/// <param name="InRounds">Items that fall due in these weeks and are in a round already.</param>
/// <param name="Moves">Made by hand, each with what it costs.</param>
public sealed record Proposal(
    DateOnly From,
    DateOnly Until,
    string Summary,
    string Bound,
    string Basis,
    int InRounds,
    IReadOnlyList<ProposedCard> Rounds,
    IReadOnlyList<ProposedDay> Days,
    IReadOnlyList<RoundRemark> Remarks,
    IReadOnlyList<MadeMove> Moves,
    IReadOnlyList<ProposedItem> NotPlaced
);

/// <param name="LateText">What comes after its date; null where nothing does.</param>
/// <param name="EarlyText">What comes so early that it is worth saying.</param>
/// <param name="Price">Bench time, travel, what comes early.</param>
/// <param name="NeedsStandard">It holds appliances.</param>
/// <param name="NeedsMedical">It holds medical devices.</param>
public sealed record ProposedCard(
    Guid SiteId,
    string Site,
    string Client,
    DateOnly From,
    DateOnly To,
    int Items,
    int Late,
    string Price,
    string? LateText,
    string? EarlyText,
    bool NeedsStandard,
    bool NeedsMedical,
    IReadOnlyList<ProposedVisit> Visits
);

/// <param name="Minutes">At the bench, without the travel.</param>
/// <param name="DayMinutes">That its round asks of the day.</param>
public sealed record ProposedVisit(
    DateOnly Day,
    Guid PersonId,
    string Person,
    int Minutes,
    int DayMinutes,
    IReadOnlyList<ProposedItem> Items
);

/// <param name="By">Its last day; null where it was never tested.</param>
/// <param name="Note">Worth knowing: late, early, not reached last time.</param>
public sealed record ProposedItem(Guid Id, string Tag, string Name, string Room, DateOnly? By, DueTier Tier, int Minutes, string? Note);

/// <param name="Taken">With travel, in minutes.</param>
public sealed record ProposedDay(DateOnly Day, Guid PersonId, string Person, int Minutes, int Taken);

/// <param name="Text">What it costs against the plan before it, or why it was not made.</param>
public sealed record MadeMove(bool IsMade, string Text);

/// <summary>A proposed round, taken.</summary>
/// <param name="Id">Made by the page, so that sending twice makes one.</param>
/// <param name="StandardId">Chosen for this round: it is never taken over from another. Null where it holds medical devices alone.</param>
public sealed record TakenRound(
    Guid Id,
    Guid SiteId,
    string Name,
    string? StandardId,
    string? MedicalStandardId,
    IReadOnlyList<TakenDay> Days,
    IReadOnlyList<Guid> Items
);

/// <param name="Minutes">At the bench.</param>
public sealed record TakenDay(DateOnly Day, Guid PersonId, int Minutes);

/// <param name="Left">Of the items sent, in another round meanwhile, or not to be tested now.</param>
public sealed record MadeRound(Guid Id, int Items, int Left);

/// <summary>Who stands at the bench when, and how far sites are.</summary>
public sealed record BenchHoursPage(IReadOnlyList<PersonHours> People, IReadOnlyList<SiteTravel> Sites);

/// <param name="Minutes">Seven, Monday first.</param>
/// <param name="Competences">In words.</param>
public sealed record PersonHours(
    Guid PersonId,
    string Name,
    IReadOnlyList<int> Minutes,
    IReadOnlyList<DateOnly> DaysOff,
    IReadOnlyList<string> Competences
);

/// <param name="Minutes">There and back.</param>
public sealed record SiteTravel(Guid SiteId, string Site, string Client, int Minutes);

public sealed record SetHours(IReadOnlyList<int> Minutes, IReadOnlyList<DateOnly> DaysOff);

public sealed record SetTravel(int Minutes);
