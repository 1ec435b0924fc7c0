using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Quantities;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
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
        var rules = await HousePacks.RulesAsync(db, cancel);
        var group = detail.Group;
        var decision = new GroupDecision
        {
            Id = sent.Id,
            Kind = group.Kind,
            Place = group.Place,
            Number = detail.Decided + 1,
            Step = sent.Step,
            At = time.GetUtcNow(),
            PersonId = user.Id(),
            By = user.DisplayName(),
            Reason = sent.Reason.Trim(),
            Inspections = group.Inspections,
            Failures = group.Failures,
            Months = group.Months,
            Low = group.Low,
            Median = group.Median,
            High = group.High,
            Target = rules.EvidenceTarget,
            Suggested = group.Suggestion,
        };
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
        var undoing = new GroupDecision
        {
            Id = sent.Id,
            Kind = of.Kind,
            Place = of.Place,
            Number = number,
            Step = -of.Step,
            Undoes = of.Id,
            At = time.GetUtcNow(),
            PersonId = user.Id(),
            By = user.DisplayName(),
            Reason = sent.Reason.Trim(),
            Inspections = of.Inspections,
            Failures = of.Failures,
            Months = of.Months,
            Low = of.Low,
            Median = of.Median,
            High = of.High,
            Target = of.Target,
            Suggested = of.Suggested,
        };
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

    /// <summary>What a client's fixed interval brought forward already was longer by the rule: one step less is still no shorter.</summary>
    private const string Capped = "the client's fixed % is shorter than the computed %";

    /// <summary>Moves the tests of a group one step forward on the ladder, interval by interval; each item keeps what moved it.</summary>
    /// <returns>How many fall due earlier.</returns>
    private static async Task<int> ForwardAsync(GroupDecision decision, OsierwandDb db, CancellationToken cancel)
    {
        var (kind, place) = (Words.Of(decision.Kind), decision.Place.ToString());
        var intervals = await db
            .Items.Where(it => it.KindWord == kind && it.Place == decision.Place && it.State == ItemState.InService)
            .Where(it => it.IntervalMonths != null && it.LastTestedOn != null)
            .Select(it => it.IntervalMonths!.Value)
            .Distinct()
            .ToListAsync(cancel);
        var line =
            $"evidence of {decision.Inspections} inspections of its kind and place, decided by {decision.By} on "
            + $"{decision.At:yyyy-MM-dd}: one step shorter";
        var moved = 0;
        foreach (var months in intervals)
        {
            var then = IntervalTable.Shipped.Step(new(months), decision.Step);
            if (!(then.Months < months))
                continue;
            var wait = DatabaseWait.Of(then);
            moved += await db.Database.ExecuteSqlAsync(
                $"""
                WITH earlier AS (
                    SELECT id, due AS was, (last_tested_on + {wait}::interval)::date AS now FROM items
                    WHERE kind_word = {kind} AND place = {place} AND state = 'InService' AND interval_months = {months}
                        AND last_tested_on IS NOT NULL AND due > (last_tested_on + {wait}::interval)::date AND NOT is_loose
                        AND NOT EXISTS (SELECT 1 FROM unnest(because) AS line WHERE line LIKE {Capped})
                ), moved AS (
                    UPDATE items SET due = earlier.now, interval_months = {then.Months}, because = because || {line}, revision = revision + 1
                    FROM earlier WHERE items.id = earlier.id RETURNING items.id, earlier.was, earlier.now
                )
                INSERT INTO item_changes (id, item_id, at, by, reason, lines)
                SELECT gen_random_uuid(), id, {decision.At}, {decision.By}, {decision.Reason}, ARRAY['Due: ' || was || ' → ' || now] FROM moved
                """,
                cancel
            );
        }
        return moved;
    }

    private static Fault? WrongReason(string reason) =>
        string.IsNullOrWhiteSpace(reason) ? new Fault("reason", "Say in a few words why.")
        : reason.Length > GroupDecision.LongestReason ? new Fault("reason", $"At most {GroupDecision.LongestReason} characters.")
        : null;
}
