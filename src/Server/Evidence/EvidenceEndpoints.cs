using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Evidence;

/// <summary>What inspections say of the intervals, and a lead's decision for a whole group.</summary>
internal static class EvidenceEndpoints
{
    private const string Title = "Nothing was decided.";

    public static void MapEvidence(this RouteGroupBuilder api)
    {
        var evidence = api.MapGroup("/evidence").WithTags("Evidence");
        evidence.MapGet("/", Page).For(Access.Worker);
        evidence.MapGet("/{kind}/{place}", Group).For(Access.Worker);
        evidence.MapPost("/{kind}/{place}/decisions", Decide).For(Access.Lead);
        evidence.MapPost("/decisions/{decisionId:guid}/undo", Undo).For(Access.Lead);
    }

    private static async Task<Ok<EvidencePage>> Page(EvidenceBook book, ClaimsPrincipal user, CancellationToken cancel) =>
        TypedResults.Ok(await book.PageAsync(user.IsInRole(Person.Lead), cancel));

    private static async Task<Results<Ok<EvidenceDetail>, ProblemHttpResult>> Group(
        Word<ItemKind> kind,
        Word<Place> place,
        EvidenceBook book,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        await book.OfAsync(kind.Value, place.Value, user.IsInRole(Person.Lead), cancel) is { } detail
            ? TypedResults.Ok(detail)
            : Refusals.NotFound("group with items in service");

    private static async Task<Results<Ok<EvidenceDetail>, ProblemHttpResult>> Decide(
        Word<ItemKind> kind,
        Word<Place> place,
        DecideGroup sent,
        EvidenceBook book,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (WrongReason(sent.Reason) is { } wrong)
            return Refusals.Invalid(Title, wrong);
        if (sent.Step is < -1 or > 1)
            return Refusals.Invalid(Title, new Fault("step", "One step at a time: -1, 0 or 1."));
        if (await book.OfAsync(kind.Value, place.Value, isLead: true, cancel) is not { } detail)
            return Refusals.NotFound("group with items in service");
        if (await db.GroupDecisions.AnyAsync(it => it.Id == sent.Id, cancel))
            return TypedResults.Ok(detail);
        if (sent.Decided != detail.Decided)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                Title,
                "Somebody decided about this group meanwhile. The page shows it now; your reason is kept here."
            );
        if (detail.Choices.Single(it => it.Step == sent.Step).WhyNot is { } why)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, Title, why);
        var decision = Decision(
            new(sent.Id, detail.Group.Kind, detail.Group.Place, detail.Decided + 1, sent.Step, null, sent.Reason),
            Figures.Of(detail),
            user,
            time
        );
        return await KeepAsync(decision, book, db, trail, cancel);
    }

    private static async Task<Results<Ok<EvidenceDetail>, ProblemHttpResult>> Undo(
        Guid decisionId,
        UndoDecision sent,
        EvidenceBook book,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        const string NotUndone = "Nothing was undone.";
        if (WrongReason(sent.Reason) is { } wrong)
            return Refusals.Invalid(NotUndone, wrong);
        if (await db.GroupDecisions.AsNoTracking().FirstOrDefaultAsync(it => it.Id == decisionId, cancel) is not { } of)
            return Refusals.NotFound("decision");
        if (await db.GroupDecisions.AnyAsync(it => it.Id == sent.Id, cancel))
            return await DetailAsync(book, of, cancel);
        if (of.Undoes is not null || of.Step == 0)
            return Refusals.Of(StatusCodes.Status409Conflict, NotUndone, "It moved nothing.");
        if (await db.GroupDecisions.AnyAsync(it => it.Undoes == decisionId, cancel))
            return Refusals.Of(StatusCodes.Status409Conflict, NotUndone, "It was undone already.");
        var number = await db.GroupDecisions.CountAsync(it => it.Kind == of.Kind && it.Place == of.Place, cancel) + 1;
        var undoing = Decision(new(sent.Id, of.Kind, of.Place, number, -of.Step, of.Id, sent.Reason), Figures.Of(of), user, time);
        return await KeepAsync(undoing, book, db, trail, cancel);
    }

    /// <summary>The decision and what falls due earlier by it, all or nothing. What may wait longer earns that by its next test.</summary>
    private static async Task<Results<Ok<EvidenceDetail>, ProblemHttpResult>> KeepAsync(
        GroupDecision decision,
        EvidenceBook book,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // An undoing of a longer step brings back the shorter interval, and with it the earlier dates.
        decision.Moved = decision.Step < 0 ? await ForwardAsync(decision, db, cancel) : 0;
        db.GroupDecisions.Add(decision);
        trail.Add(
            decision.Undoes is null ? "interval of a group decided" : "decision about a group undone",
            $"{EquipmentText.Kind(decision.Kind)}, {Words.Of(decision.Place)}",
            decision.Id,
            after: new
            {
                decision.Step,
                decision.Reason,
                decision.Inspections,
                decision.Failures,
                decision.Moved,
            }
        );
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException twice) when (twice.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                Title,
                "Somebody decided about this group at the same moment. The page shows it now; your reason is kept here."
            );
        }
        await transaction.CommitAsync(cancel);
        return await DetailAsync(book, decision, cancel);
    }

    private static async Task<Results<Ok<EvidenceDetail>, ProblemHttpResult>> DetailAsync(
        EvidenceBook book,
        GroupDecision of,
        CancellationToken cancel
    ) =>
        await book.OfAsync(of.Kind, of.Place, isLead: true, cancel) is { } detail
            ? TypedResults.Ok(detail)
            : Refusals.NotFound("group with items in service");

    private sealed record ToForward(Guid Id, int Revision, double Months, DateOnly Tested, DateOnly? Due, string? DecidedBy);

    /// <summary>Brings the tests of a group forward where the decision does; each item keeps what moved it.</summary>
    /// <returns>How many fall due earlier.</returns>
    private static async Task<int> ForwardAsync(GroupDecision decision, OsierwandDb db, CancellationToken cancel)
    {
        var (kind, place) = (Words.Of(decision.Kind), decision.Place.ToString());
        var items = await db
            .Database.SqlQuery<ToForward>(
                $"""
                SELECT i.id, i.revision, i.interval_months AS months, i.last_tested_on AS tested, i.due, (
                    SELECT n.record->'next'->>'decidedBy' FROM inspections n
                    WHERE n.item_id = i.id AND n.is_test AND n.outcome IN ('Pass', 'PassWithAdvice')
                        AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = n.id)
                    ORDER BY n.book_number DESC LIMIT 1
                ) AS decided_by
                FROM items i
                WHERE i.kind_word = {kind} AND i.place = {place} AND i.state = 'InService' AND NOT i.is_loose
                    AND i.interval_months IS NOT NULL AND i.last_tested_on IS NOT NULL
                """
            )
            .ToListAsync(cancel);
        var moved = items
            .Select(it => (Item: it, To: GroupRule.Forward(Grouped(it), decision.Step)))
            .Where(it => it.To is not null)
            .Select(it => (it.Item, To: it.To!.Value))
            .ToArray();
        var ids = moved.Select(it => it.Item.Id).ToArray();
        var revisions = moved.Select(it => it.Item.Revision).ToArray();
        var dues = moved.Select(it => it.To.Due).ToArray();
        var months = moved.Select(it => it.To.Interval.Months).ToArray();
        var line = new GroupStep(decision.Step, EvidenceBook.BecauseOf(decision)).Line;
        // What was inspected at this very moment has moved on by itself.
        return await db.Database.ExecuteSqlAsync(
            $"""
            WITH earlier AS (
                SELECT it.id, it.revision, it.due, it.months, items.due AS was
                FROM unnest({ids}, {revisions}, {dues}, {months}) AS it(id, revision, due, months)
                JOIN items ON items.id = it.id AND items.revision = it.revision FOR UPDATE OF items
            ), moved AS (
                UPDATE items SET due = earlier.due, interval_months = earlier.months, because = because || {line}, revision = items.revision + 1
                FROM earlier WHERE items.id = earlier.id RETURNING items.id, earlier.was, earlier.due AS now
            )
            INSERT INTO item_changes (id, item_id, at, by, reason, lines)
            SELECT gen_random_uuid(), id, {decision.At}, {decision.By}, {decision.Reason}, ARRAY['Due: ' || was || ' → ' || now] FROM moved
            """,
            cancel
        );
    }

    private static GroupedItem Grouped(ToForward it) =>
        new(new(it.Months), it.Tested, it.Due, it.DecidedBy is { } word ? Words.Find<DecidedBy>(word) : null);

    /// <summary>The figures of the day, kept with a decision.</summary>
    private sealed record Figures(
        int Inspections,
        int Failures,
        double Months,
        double Low,
        double Median,
        double High,
        double Target,
        Suggestion Suggested
    )
    {
        public static Figures Of(EvidenceDetail it) =>
            new(
                it.Group.Inspections,
                it.Group.Failures,
                it.Group.Months,
                it.Group.Low,
                it.Group.Median,
                it.Group.High,
                it.Target,
                it.Group.Suggestion
            );

        public static Figures Of(GroupDecision it) =>
            new(it.Inspections, it.Failures, it.Months, it.Low, it.Median, it.High, it.Target, it.Suggested);
    }

    private sealed record Deciding(Guid Id, ItemKind Kind, Place Place, int Number, int Step, Guid? Undoes, string Reason);

    private static GroupDecision Decision(Deciding it, Figures figures, ClaimsPrincipal user, TimeProvider time) =>
        new()
        {
            Id = it.Id,
            Kind = it.Kind,
            Place = it.Place,
            Number = it.Number,
            Step = it.Step,
            Undoes = it.Undoes,
            At = time.GetUtcNow(),
            PersonId = user.Id(),
            By = user.DisplayName(),
            Reason = it.Reason.Trim(),
            Inspections = figures.Inspections,
            Failures = figures.Failures,
            Months = figures.Months,
            Low = figures.Low,
            Median = figures.Median,
            High = figures.High,
            Target = figures.Target,
            Suggested = figures.Suggested,
        };

    private static Fault? WrongReason(string reason) =>
        string.IsNullOrWhiteSpace(reason) ? new Fault("reason", "Say in a few words why.")
        : reason.Length > GroupDecision.LongestReason ? new Fault("reason", $"At most {GroupDecision.LongestReason} characters.")
        : null;
}
