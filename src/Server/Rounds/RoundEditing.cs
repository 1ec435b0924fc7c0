using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <summary>A lead plans a round: which items, which days, which rules; and what becomes of rounds as wholes.</summary>
internal static class RoundEditing
{
    private const int LongestName = 120;
    private const int LongestScope = 2_000;
    private const int MostDays = 60;
    private const int MostMinutes = 16 * 60;

    private const string NotAdded = "Nothing was added.";
    private const string NotChanged = "Nothing was changed.";

    /// <returns>The round with its site, or why it is not changed now.</returns>
    private static async Task<Result<Round>> ChangeableAsync(OsierwandDb db, Guid id, CancellationToken cancel) =>
        await db.Rounds.Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == id, cancel) is not { } round ? new Fault("notFound", "")
        : round.State is RoundState.Planned or RoundState.Open ? round
        : new Fault("round", $"The round is {RoundMoves.Text(round.State)}: it is not planned any more.");

    private static ProblemHttpResult Refused(string title, Fault fault) =>
        fault.Path == "notFound" ? Refusals.NotFound("round") : Refusals.Invalid(title, fault);

    public static async Task<Results<Ok<AddedItems>, ProblemHttpResult>> Add(
        Guid roundId,
        AddItems sent,
        OsierwandDb db,
        RoundPlanning planning,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var found = await ChangeableAsync(db, roundId, cancel);
        if (found.Fault is { } fault)
            return Refused(NotAdded, fault);
        var round = found.Value;
        var rules = await HousePacks.RulesAsync(db, cancel);
        var today = round.Site.DayOf(time.GetUtcNow());
        var offered = planning.Addable(round, sent.By, sent.Value, rules, today);
        if (sent.By == AddBy.Chosen)
        {
            var chosen = sent.Items ?? [];
            offered = offered.Where(it => chosen.Contains(it.Id));
        }
        var items = await offered.Select(it => new { it.Id, it.Equipment }).ToListAsync(cancel);
        if (sent.By == AddBy.Kind)
        {
            if (Words.Find<ItemKind>(sent.Value ?? "") is not { } kind)
                return Refusals.Invalid(NotAdded, new Fault("value", $"“{sent.Value}” is no kind of item."));
            items = [.. items.Where(it => it.Equipment.Kind == kind)];
        }
        // A round that had no choice becomes one of chosen items: what was due in it by itself is chosen now.
        round.IsPlanned = true;
        db.RoundItems.AddRange(items.Select(it => new RoundItem { RoundId = round.Id, ItemId = it.Id }));
        trail.Add(
            "items added to a round",
            round.Name,
            round.Id,
            after: new
            {
                by = Words.Of(sent.By),
                sent.Value,
                items.Count,
            }
        );
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new AddedItems(items.Count));
    }

    public static Task<Results<NoContent, ProblemHttpResult>> TakeOut(
        Guid roundId,
        TheseItems sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    ) =>
        OnItems(
            roundId,
            sent.Items,
            db,
            (round, rows) =>
            {
                db.RoundItems.RemoveRange(rows);
                trail.Add("items taken out of a round", round.Name, round.Id, after: new { sent.Items });
                return null;
            },
            cancel
        );

    public static Task<Results<NoContent, ProblemHttpResult>> LeaveThemOut(
        Guid roundId,
        LeaveOut sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    ) =>
        OnItems(
            roundId,
            sent.Items,
            db,
            (round, rows) =>
            {
                if (string.IsNullOrWhiteSpace(sent.Why) || sent.Why.Length > RoundItem.LongestWords)
                    return new("why", "Say in a few words why it is left out.");
                if (string.IsNullOrWhiteSpace(sent.TestedBy) || sent.TestedBy.Length > RoundItem.LongestWords)
                    return new("testedBy", "Say who tests it, so that it does not fall between two chairs.");
                foreach (var row in rows)
                    (row.ExcludedWhy, row.TestedBy) = (sent.Why.Trim(), sent.TestedBy.Trim());
                trail.Add("items left out of a round", round.Name, round.Id, after: sent);
                return null;
            },
            cancel
        );

    public static Task<Results<NoContent, ProblemHttpResult>> TakeBackIn(
        Guid roundId,
        TheseItems sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    ) =>
        OnItems(
            roundId,
            sent.Items,
            db,
            (round, rows) =>
            {
                foreach (var row in rows)
                    (row.ExcludedWhy, row.TestedBy) = (null, null);
                trail.Add("items taken back into a round", round.Name, round.Id, after: new { sent.Items });
                return null;
            },
            cancel
        );

    /// <summary>To another planned or open round of the same site. What was saved in this round stays in it.</summary>
    public static async Task<Results<NoContent, ProblemHttpResult>> Move(
        Guid roundId,
        MoveItems sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        var target = await ChangeableAsync(db, sent.To, cancel);
        if (target.Fault is { } fault)
            return Refused(NotChanged, fault);
        var there = await db.RoundItems.Where(it => it.RoundId == sent.To).Select(it => it.ItemId).ToListAsync(cancel);
        return await OnItems(
            roundId,
            sent.Items,
            db,
            (round, rows) =>
            {
                if (target.Value.SiteId != round.SiteId || target.Value.Id == round.Id)
                    return new("to", "Items are moved to another round of the same site.");
                target.Value.IsPlanned = true;
                db.RoundItems.RemoveRange(rows);
                db.RoundItems.AddRange(rows.Where(it => !there.Contains(it.ItemId)).Select(it => Row(sent.To, it)));
                trail.Add("items moved to another round", round.Name, round.Id, after: new { target.Value.Name, sent.Items });
                return null;
            },
            cancel
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> OnItems(
        Guid roundId,
        IReadOnlyList<Guid> items,
        OsierwandDb db,
        Func<Round, List<RoundItem>, Fault?> change,
        CancellationToken cancel
    )
    {
        var found = await ChangeableAsync(db, roundId, cancel);
        if (found.Fault is { } fault)
            return Refused(NotChanged, fault);
        var rows = await db.RoundItems.Where(it => it.RoundId == roundId && items.Contains(it.ItemId)).ToListAsync(cancel);
        if (rows.Count == 0 || rows.Count != items.Distinct().Count())
            return Refusals.Invalid(NotChanged, new Fault("items", "Something of it is not in this round any more. Load the page again."));
        var inspected = await db.Standing()
            .Where(it => it.RoundId == roundId && items.Contains(it.ItemId))
            .Select(it => it.Item.Tag)
            .FirstOrDefaultAsync(cancel);
        if (inspected is not null)
            return Refusals.Invalid(NotChanged, new Fault("items", $"{inspected} was inspected in this round: it stays in it."));
        if (change(found.Value, rows) is { } refused)
            return Refusals.Invalid(NotChanged, refused);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> Details(
        Guid roundId,
        RoundDetails sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        var found = await ChangeableAsync(db, roundId, cancel);
        if (found.Fault is { } fault)
            return Refused(NotChanged, fault);
        var round = found.Value;
        if (WrongIn(sent.Name, sent.StartsOn, sent.EndsOn, sent.StandardId, sent.MedicalStandardId) is { } wrong)
            return Refusals.Invalid(NotChanged, wrong);
        if (sent.ScopeWords.Length > LongestScope)
            return Refusals.Invalid(NotChanged, new Fault("scopeWords", $"At most {LongestScope} characters."));
        if (sent.Policy is not null && (string.IsNullOrWhiteSpace(sent.PolicyReason) || sent.PolicyReason.Length > RoundItem.LongestWords))
            return Refusals.Invalid(NotChanged, new Fault("policyReason", "Say why this round differs from the client's choices."));
        if (sent.Policy is { PermanentLeakage: PermanentLeakagePolicy.LeftOut } left && string.IsNullOrWhiteSpace(left.PermanentReason))
            return Refusals.Invalid(
                NotChanged,
                new Fault("policy", "Leakage of permanently installed devices is left out with a reason alone.")
            );
        var judgesOtherwise = round.StandardId != sent.StandardId || round.MedicalStandardId != sent.MedicalStandardId;
        if (judgesOtherwise && await db.Inspections.AnyAsync(it => it.RoundId == roundId, cancel))
            return Refusals.Invalid(
                NotChanged,
                new Fault("standardId", "Something was judged in this round already: another standard is another round's.")
            );
        trail.Add("round changed", round.Name, round.Id, Kept(round), sent);
        (round.Name, round.StartsOn, round.EndsOn) = (sent.Name.Trim(), sent.StartsOn, sent.EndsOn);
        (round.StandardId, round.MedicalStandardId, round.ScopeWords) = (sent.StandardId, sent.MedicalStandardId, sent.ScopeWords.Trim());
        round.OwnPolicy = sent.Policy is { } own ? RoundPolicy.Json(own) : null;
        round.PolicyReason = sent.Policy is null ? null : sent.PolicyReason!.Trim();
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static object Kept(Round it) =>
        new
        {
            it.Name,
            it.StartsOn,
            it.EndsOn,
            it.StandardId,
            it.MedicalStandardId,
            it.ScopeWords,
            it.OwnPolicy,
            it.PolicyReason,
        };

    private static Fault? WrongIn(string name, DateOnly from, DateOnly to, string standard, string? medical) =>
        string.IsNullOrWhiteSpace(name) || name.Length > LongestName || name.Any(char.IsControl)
            ? new("name", $"A name has 1 to {LongestName} printable characters.")
        : to < from ? new("endsOn", "A round cannot end before it begins.")
        : to.DayNumber - from.DayNumber > 366 ? new("endsOn", "A round of more than a year is several.")
        : PackLibrary.Find(standard) is null ? new("standardId", $"There is no standard “{standard}”.")
        : medical is not null && PackLibrary.Find(medical)?.Scope != PackScope.Medical
            ? new("medicalStandardId", $"“{medical}” is not a standard for medical devices.")
        : null;

    public static async Task<Results<NoContent, ProblemHttpResult>> Days(
        Guid roundId,
        SetDays sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        var found = await ChangeableAsync(db, roundId, cancel);
        if (found.Fault is { } fault)
            return Refused(NotChanged, fault);
        var round = found.Value;
        if (sent.Days.Count > MostDays)
            return Refusals.Invalid(NotChanged, new Fault("days", $"At most {MostDays} days of people."));
        if (sent.Days.Any(it => it.Minutes is < 1 or > MostMinutes))
            return Refusals.Invalid(NotChanged, new Fault("minutes", "A day has 1 minute to 16 hours of bench time."));
        if (sent.Days.Any(it => it.Day < round.StartsOn || it.Day > round.EndsOn))
            return Refusals.Invalid(NotChanged, new Fault("day", "A day lies outside the round's own dates."));
        if (sent.Days.GroupBy(it => (it.Day, it.PersonId)).Any(it => it.Count() > 1))
            return Refusals.Invalid(NotChanged, new Fault("days", "One person has a day once."));
        var people = sent.Days.Select(it => it.PersonId).Distinct().ToArray();
        if (await db.Users.CountAsync(it => people.Contains(it.Id) && it.ClosedAt == null, cancel) != people.Length)
            return Refusals.Invalid(NotChanged, new Fault("personId", "Somebody of it does not work here."));
        db.RoundDays.RemoveRange(await db.RoundDays.Where(it => it.RoundId == roundId).ToListAsync(cancel));
        await db.SaveChangesAsync(cancel);
        db.RoundDays.AddRange(
            sent.Days.Select(it => new RoundDayRow
            {
                RoundId = roundId,
                Day = it.Day,
                PersonId = it.PersonId,
                Minutes = it.Minutes,
            })
        );
        trail.Add("days of a round set", round.Name, round.Id, after: sent);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> Rooms(
        Guid roundId,
        SetRooms sent,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        var found = await ChangeableAsync(db, roundId, cancel);
        if (found.Fault is { } fault)
            return Refused(NotChanged, fault);
        found.Value.RoomOrder = [.. sent.Rooms.Distinct().Take(500)];
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> State(
        Guid roundId,
        SetState sent,
        OsierwandDb db,
        RoundPlanning planning,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var round = await db.Rounds.Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == roundId, cancel);
        if (round is null)
            return Refusals.NotFound("round");
        if (RoundMoves.Refusal(round.State, sent.To, await planning.TallyAsync(round, cancel), user.IsInRole(Person.Lead)) is { } why)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "The round stays as it is.", why);
        trail.Add(
            $"round {RoundMoves.Text(sent.To)}",
            round.Name,
            round.Id,
            new { State = Words.Of(round.State) },
            new { State = Words.Of(sent.To) }
        );
        round.State = sent.To;
        round.ClosedOn = sent.To == RoundState.Closed ? round.Site.DayOf(time.GetUtcNow()) : null;
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Some rooms become a round of their own, by the same rules.</summary>
    public static async Task<Results<Created<OpenedRound>, ProblemHttpResult>> Split(
        Guid roundId,
        SplitRound sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        const string Title = "The round was not split.";
        var found = await ChangeableAsync(db, roundId, cancel);
        if (found.Fault is { } fault)
            return Refused(Title, fault);
        var round = found.Value;
        if (WrongIn(sent.Name, sent.StartsOn, sent.EndsOn, round.StandardId, round.MedicalStandardId) is { } wrong)
            return Refusals.Invalid(Title, wrong);
        var rows = await db
            .RoundItems.Where(it => it.RoundId == roundId && sent.Rooms.Contains(it.Item.Room))
            .Where(row => !db.Settling().Any(seen => seen.RoundId == roundId && seen.ItemId == row.ItemId))
            .ToListAsync(cancel);
        if (rows.Count == 0)
            return Refusals.Invalid(Title, new Fault("rooms", "Nothing in these rooms is planned and still to do."));
        var part = Copy(round, sent.Name, sent.StartsOn, sent.EndsOn);
        db.Rounds.Add(part);
        db.RoundItems.RemoveRange(rows);
        db.RoundItems.AddRange(rows.Select(it => Row(part.Id, it)));
        trail.Add("round split", round.Name, round.Id, after: new { part.Name, sent.Rooms });
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/rounds/{part.Id}", new OpenedRound(part.Id));
    }

    /// <summary>Everything of a planned round of the same site and rules goes into this one; the other is gone.</summary>
    public static async Task<Results<NoContent, ProblemHttpResult>> Merge(
        Guid roundId,
        MergeRound sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        const string Title = "The rounds were not merged.";
        var (into, from) = (await ChangeableAsync(db, roundId, cancel), await ChangeableAsync(db, sent.From, cancel));
        if ((into.Fault ?? from.Fault) is { } fault)
            return Refused(Title, fault);
        var (round, other) = (into.Value, from.Value);
        if (round.Id == other.Id || round.SiteId != other.SiteId || other.State != RoundState.Planned)
            return Refusals.Invalid(Title, new Fault("from", "Another round of the same site that is planned and not open yet."));
        if (await RoundStory.IsAnyAsync(db, other.Id, cancel))
            return Refusals.Invalid(Title, new Fault("from", "Something was done in it: it stays a round of its own."));
        if (
            round.StandardId != other.StandardId
            || round.MedicalStandardId != other.MedicalStandardId
            || round.OwnPolicy != other.OwnPolicy
        )
            return Refusals.Invalid(Title, new Fault("from", "They are judged by different rules: each stays what it is."));
        var rows = await db.RoundItems.Where(it => it.RoundId == other.Id).ToListAsync(cancel);
        var there = await db.RoundItems.Where(it => it.RoundId == round.Id).Select(it => it.ItemId).ToListAsync(cancel);
        db.RoundItems.RemoveRange(rows);
        db.RoundDays.RemoveRange(await db.RoundDays.Where(it => it.RoundId == other.Id).ToListAsync(cancel));
        db.RoundItems.AddRange(rows.Where(it => !there.Contains(it.ItemId)).Select(it => Row(round.Id, it)));
        round.IsPlanned = true;
        (round.StartsOn, round.EndsOn) = (
            round.StartsOn < other.StartsOn || round.State == RoundState.Open ? round.StartsOn : other.StartsOn,
            round.EndsOn > other.EndsOn ? round.EndsOn : other.EndsOn
        );
        db.Rounds.Remove(other);
        trail.Add("rounds merged", round.Name, round.Id, Kept(other), Kept(round));
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>The same items again at another time. The standard is chosen anew: it is never taken over silently.</summary>
    public static async Task<Results<Created<OpenedRound>, ProblemHttpResult>> Duplicate(
        Guid roundId,
        DuplicateRound sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        const string Title = "The round was not copied.";
        if (await db.Rounds.FirstOrDefaultAsync(it => it.Id == roundId, cancel) is not { } round)
            return Refusals.NotFound("round");
        if (WrongIn(sent.Name, sent.StartsOn, sent.EndsOn, sent.StandardId, sent.MedicalStandardId) is { } wrong)
            return Refusals.Invalid(Title, wrong);
        var copy = Copy(round, sent.Name, sent.StartsOn, sent.EndsOn);
        (copy.StandardId, copy.MedicalStandardId) = (sent.StandardId, sent.MedicalStandardId);
        db.Rounds.Add(copy);
        var rows = await db.RoundItems.AsNoTracking().Where(it => it.RoundId == roundId && !it.Item.IsGone).ToListAsync(cancel);
        if (rows.Count == 0)
        {
            // A round without a choice is copied by what was inspected in it.
            var seen = await db
                .Inspections.Where(it => it.RoundId == roundId && !it.Item.IsGone)
                .Select(it => it.ItemId)
                .Distinct()
                .ToListAsync(cancel);
            rows = [.. seen.Select(it => new RoundItem { ItemId = it })];
        }
        // Whether only the look is due is another matter at another time.
        foreach (var row in rows)
            row.IsLook = false;
        db.RoundItems.AddRange(rows.Select(it => Row(copy.Id, it)));
        trail.Add("round copied", copy.Name, copy.Id, after: new { from = round.Name, rows.Count });
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/rounds/{copy.Id}", new OpenedRound(copy.Id));
    }

    private static Round Copy(Round of, string name, DateOnly from, DateOnly to) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            SiteId = of.SiteId,
            Name = name.Trim(),
            StandardId = of.StandardId,
            MedicalStandardId = of.MedicalStandardId,
            StartsOn = from,
            EndsOn = to,
            State = RoundState.Planned,
            IsPlanned = true,
            ScopeWords = of.ScopeWords,
            OwnPolicy = of.OwnPolicy,
            PolicyReason = of.PolicyReason,
            RoomOrder = of.RoomOrder,
        };

    private static RoundItem Row(Guid roundId, RoundItem of) =>
        new()
        {
            RoundId = roundId,
            ItemId = of.ItemId,
            ExcludedWhy = of.ExcludedWhy,
            TestedBy = of.TestedBy,
            IsLook = of.IsLook,
        };
}
