using System.Collections.Immutable;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Rounds;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Schedule;

/// <summary>Rounds that the planner proposes, moved by hand where a lead knows better, and taken one by one.</summary>
public sealed class Proposals(OsierwandDb db, TimeProvider time)
{
    private const int FewestWeeks = 1;
    private const int MostWeeks = 13;
    private const int MostMoves = 200;
    private const int LongestName = 120;

    /// <summary>A plan of more is made in parts, by fewer weeks.</summary>
    private const int MostItems = 20_000;
    private const int DaysInAWeek = 7;
    private const string NotPlanned = "No plan was made.";
    private const string NotTaken = "The round was not made.";
    private const string ChooseStandard = "Choose the standard that judges this round: it is never taken over from another.";

    private sealed record Gathered(
        PlanSetting Setting,
        Dictionary<Guid, RegisterItem> Items,
        Dictionary<Guid, string> ClientOf,
        HashSet<Guid> NotReached,
        WorkingPerson[] People,
        int InRounds,
        string Basis
    );

    internal static async Task<Results<Ok<Proposal>, ProblemHttpResult>> Ask(AskedPlan sent, Proposals proposals, CancellationToken cancel)
    {
        if (sent.Weeks is < FewestWeeks or > MostWeeks)
            return Refusals.Invalid(NotPlanned, new Fault("weeks", $"From {FewestWeeks} to {MostWeeks} weeks."));
        if (sent.Moves.Count > MostMoves)
            return Refusals.Invalid(NotPlanned, new Fault("moves", $"At most {MostMoves} moves. Take the rounds that are ready first."));
        var made = await proposals.MadeAsync(sent, cancel);
        return made.TryGet(out var proposal) ? TypedResults.Ok(proposal) : Refusals.Invalid(NotPlanned, made.Fault!);
    }

    private DateOnly Today => DateOnly.FromDateTime(time.GetLocalNow().DateTime);

    private async Task<Result<Proposal>> MadeAsync(AskedPlan sent, CancellationToken cancel)
    {
        // Today's work is under way; the plan begins tomorrow.
        var (from, until) = (Today.AddDays(1), Today.AddDays(sent.Weeks * DaysInAWeek));
        var all = await GatheredAsync(from, until, cancel);
        if (!all.TryGet(out var gathered))
            return all.Fault!;
        var plan = Planner.Plan(gathered.Setting);
        var moves = new List<MadeMove>();
        foreach (var move in sent.Moves)
        {
            (DateOnly, Guid)? to = move is { Day: { } day, PersonId: { } person } ? (day, person) : null;
            var moved = plan.With(move.Items, to);
            moves.Add(moved.TryGet(out var next) ? new(true, PlanText.Price(plan.Cost, next.Cost)) : new(false, moved.Fault!.Message));
            plan = next ?? plan;
        }
        return Shown(plan, gathered, moves, from, until);
    }

    private async Task<Result<Gathered>> GatheredAsync(DateOnly from, DateOnly until, CancellationToken cancel)
    {
        var rules = await HousePacks.RulesAsync(db, cancel);
        var due = DueItems
            .By(db, until)
            .AsNoTracking()
            .Where(it => !DueItems.InRounds(db, Today).Contains(it.Id) && !DueItems.TestedByOthers(db).Contains(it.Id));
        var items = await due.OrderBy(it => it.Due).ThenBy(it => it.Tag).Take(MostItems + 1).ToListAsync(cancel);
        if (items.Count > MostItems)
            return new Fault("weeks", $"More than {MostItems} items fall due in these weeks: plan fewer weeks at once.");
        var ids = items.Select(it => it.Id).ToArray();
        var times = await BenchTimes.OfAsync(db, items, rules, cancel);
        var used = items.Select(it => it.SiteId).Distinct().ToArray();
        var sites = await db
            .Sites.Where(it => used.Contains(it.Id))
            .Select(it => new
            {
                it.Id,
                it.Name,
                it.TravelMinutes,
                Client = it.Client.Name,
            })
            .ToListAsync(cancel);
        var others = await DueItems.By(db, until).CountAsync(it => DueItems.TestedByOthers(db).Contains(it.Id), cancel);
        var people = await CompetenceBook.PeopleAsync(db, cancel);
        var days = await BenchDays.OfAsync(db, from, until, cancel);
        var setting = PlanSetting.Of(
            from day in days
            where day.Free > 0
            join person in people on day.PersonId equals person.Id
            select new RoundDay(day.Day, person.Id, person.Name, TimeSpan.FromMinutes(day.Free), person.Held),
            [.. sites.Select(it => new PlanSite(it.Id, it.Name, TimeSpan.FromMinutes(it.TravelMinutes)))],
            [.. items.Select(it => Work(it, times, rules))]
        );
        return setting.TryGet(out var made)
            ? new Gathered(
                made,
                items.ToDictionary(it => it.Id),
                sites.ToDictionary(it => it.Id, it => it.Client),
                [.. await DueItems.NotReached(db).Where(it => ids.Contains(it)).ToListAsync(cancel)],
                people,
                await DueItems.By(db, until).CountAsync(it => DueItems.InRounds(db, Today).Contains(it.Id), cancel),
                $"Bench time from each item's own history, else from the last {times.Seen} inspections of its kind at its client."
                    // Said, so that nothing falls between two chairs.
                    + (
                        others == 0
                            ? ""
                            : $" {PlanText.Items(others)} left to another tester by the last round that named {(others == 1 ? "it" : "them")}."
                    )
            )
            : setting.Fault!;
    }

    private DueWork Work(RegisterItem it, BenchTimes times, Thresholds rules)
    {
        var falling = DueItems.Of(it, rules.DueWindow);
        return new(
            it.Id,
            it.SiteId,
            falling.By ?? Today,
            falling.Tier,
            times.Of(it, falling.Tier).Median,
            falling.Since,
            falling.Tier == DueTier.Visual ? [] : CompetenceFor.Testing(it.Equipment)
        );
    }

    private static Proposal Shown(VisitPlan plan, Gathered gathered, List<MadeMove> moves, DateOnly from, DateOnly until)
    {
        var rounds = ProposedRound.Of(plan);
        return new(
            from,
            until,
            PlanText.Summary(plan, rounds.Length),
            PlanText.Bound(plan),
            gathered.Basis,
            gathered.InRounds,
            [.. rounds.Select(round => Card(round, gathered))],
            [
                .. gathered.Setting.Days.Select(day => new ProposedDay(
                    day.Day,
                    day.PersonId,
                    day.Person,
                    (int)day.Time.TotalMinutes,
                    (int)Math.Ceiling((day.Time - plan.LeftOn(day)).TotalMinutes)
                )),
            ],
            PlanRemarks.Of(plan, [.. gathered.People.Select(it => (it.Name, it.Held))]),
            moves,
            [.. plan.NotPlaced.Select(it => ItemOf(it, gathered, null))]
        );
    }

    private static ProposedCard Card(ProposedRound round, Gathered gathered)
    {
        var items = round.Work.Select(it => gathered.Items[it.ItemId]).ToArray();
        return new(
            round.Site.Id,
            round.Site.Name,
            gathered.ClientOf[round.Site.Id],
            round.From,
            round.To,
            items.Length,
            round.Late,
            PlanText.Price(round),
            round.LateText,
            round.EarlyText,
            items.Any(it => !it.Equipment.IsMedical),
            items.Any(it => it.Equipment.IsMedical),
            [
                .. round.Visits.Select(visit => new ProposedVisit(
                    visit.Day.Day,
                    visit.Day.PersonId,
                    visit.Day.Person,
                    (int)Math.Ceiling(visit.Bench.TotalMinutes),
                    (int)Math.Ceiling(round.DayTime(visit).TotalMinutes),
                    [
                        .. visit
                            .Work.Select(it => ItemOf(it, gathered, visit.Day.Day))
                            .OrderBy(it => it.Room, StringComparer.OrdinalIgnoreCase)
                            .ThenBy(it => it.Tag, StringComparer.OrdinalIgnoreCase),
                    ]
                )),
            ]
        );
    }

    private static ProposedItem ItemOf(DueWork work, Gathered gathered, DateOnly? on)
    {
        var item = gathered.Items[work.ItemId];
        var notes = new List<string>();
        if (item.LastLookedOn is null)
            notes.Add("never inspected");
        else if (item.Due is null)
            notes.Add("never tested");
        if (gathered.NotReached.Contains(item.Id))
            notes.Add("not reached last time");
        if (on is { } day && item.Due is not null && day > work.By)
            notes.Add(
                day.DayNumber - work.By.DayNumber is 1 ? "a day after its date" : $"{day.DayNumber - work.By.DayNumber} days after its date"
            );
        return new(
            item.Id,
            item.Tag,
            item.Name,
            item.Room,
            item.Due is null ? null : work.By,
            work.Tier,
            (int)Math.Ceiling(work.Time.TotalMinutes),
            notes.Count == 0 ? null : string.Join(", ", notes)
        );
    }

    /// <summary>Makes a planned round of a proposed one. What went into another round meanwhile stays there.</summary>
    internal static async Task<Results<Ok<MadeRound>, ProblemHttpResult>> Take(
        TakenRound sent,
        OsierwandDb db,
        Proposals proposals,
        Trail trail,
        CancellationToken cancel
    )
    {
        if (Wrong(sent, proposals.Today) is { } fault)
            return Refusals.Invalid(NotTaken, fault);
        var people = sent.Days.Select(it => it.PersonId).Distinct().ToArray();
        if (await CompetenceBook.Working(db).CountAsync(it => people.Contains(it.Id), cancel) != people.Length)
            return Refusals.Invalid(NotTaken, new Fault("personId", "Somebody of it does not work here."));
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // One at a time at a site: two leads who take the same items would have them in two rounds.
        var site = await db.Sites.FromSql($"SELECT * FROM sites WHERE id = {sent.SiteId} FOR UPDATE").FirstOrDefaultAsync(cancel);
        if (site is null)
            return Refusals.NotFound("site");
        if (await db.Rounds.AsNoTracking().FirstOrDefaultAsync(it => it.Id == sent.Id, cancel) is { } made)
            return made.SiteId == sent.SiteId && made.Name == sent.Name.Trim()
                ? TypedResults.Ok(new MadeRound(made.Id, await db.RoundItems.CountAsync(it => it.RoundId == made.Id, cancel), 0))
                : Refusals.Of(StatusCodes.Status409Conflict, NotTaken, "There is another round by this number. Load the page again.");
        var wanted = sent.Items.Distinct().ToArray();
        var free = await db
            .Items.AsNoTracking()
            .Where(it => wanted.Contains(it.Id) && it.SiteId == sent.SiteId && it.State == ItemState.InService)
            .Where(it => !DueItems.InRounds(db, proposals.Today).Contains(it.Id))
            .ToListAsync(cancel);
        if (free.Count == 0)
            return Refusals.Invalid(
                NotTaken,
                new Fault("items", "All of these are in another round by now. Plan again: nothing was changed.")
            );
        if (sent.MedicalStandardId is null && free.Any(it => it.Equipment.IsMedical))
            return Refusals.Invalid(
                NotTaken,
                new Fault("medicalStandardId", "It holds medical devices: choose the standard that judges them.")
            );
        if (sent.StandardId is null && free.Any(it => !it.Equipment.IsMedical))
            return Refusals.Invalid(NotTaken, new Fault("standardId", ChooseStandard));
        var window = (await HousePacks.RulesAsync(db, cancel)).DueWindow;
        db.Rounds.Add(
            new()
            {
                Id = sent.Id,
                SiteId = sent.SiteId,
                Name = sent.Name.Trim(),
                // A round of medical devices alone is judged by their standard throughout.
                StandardId = sent.StandardId ?? sent.MedicalStandardId!,
                MedicalStandardId = sent.MedicalStandardId,
                StartsOn = sent.Days.Min(it => it.Day),
                EndsOn = sent.Days.Max(it => it.Day),
                State = RoundState.Planned,
                IsPlanned = true,
            }
        );
        db.RoundItems.AddRange(
            free.Select(it => new RoundItem
            {
                RoundId = sent.Id,
                ItemId = it.Id,
                IsLook = DueItems.Of(it, window).Tier == DueTier.Visual,
            })
        );
        db.RoundDays.AddRange(
            sent.Days.Select(it => new RoundDayRow
            {
                RoundId = sent.Id,
                Day = it.Day,
                PersonId = it.PersonId,
                Minutes = it.Minutes,
            })
        );
        trail.Add("round planned", sent.Name.Trim(), sent.Id, after: sent);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new MadeRound(sent.Id, free.Count, wanted.Length - free.Count));
    }

    private static Fault? Wrong(TakenRound sent, DateOnly today)
    {
        if (sent.Id == Guid.Empty)
            return new("id", "The round needs an id.");
        if (string.IsNullOrWhiteSpace(sent.Name) || sent.Name.Length > LongestName || KeptText.Unseen(sent.Name.Trim()) is not null)
            return new("name", $"This needs 1 to {LongestName} printable characters.");
        if (sent.StandardId is null && sent.MedicalStandardId is null)
            return new("standardId", ChooseStandard);
        if (sent.StandardId is { } standard && PackLibrary.Find(standard) is null)
            return new("standardId", $"There is no standard “{standard}”.");
        if (sent.MedicalStandardId is { } medical && PackLibrary.Find(medical)?.Scope != PackScope.Medical)
            return new("medicalStandardId", $"“{medical}” is not a standard for medical devices.");
        if (sent.Days.Count == 0 || sent.Days.GroupBy(it => (it.Day, it.PersonId)).Any(it => it.Count() > 1))
            return new("days", "It needs a day, and one person has a day once.");
        if (sent.Days.Any(it => it.Minutes is < 1 or > BenchHours.MostMinutes))
            return new("minutes", "A day has 1 minute to 16 hours of bench time.");
        return sent.Days.Any(it => it.Day <= today) ? new("days", "A day of it is over or has begun. Plan again.") : null;
    }
}
