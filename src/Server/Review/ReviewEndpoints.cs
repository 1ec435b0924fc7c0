using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Rounds;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Review;

/// <summary>A lead looks at what asks for it in a round, and signs. Signing closes the round; there is no other way to close one.</summary>
internal static class ReviewEndpoints
{
    public static void MapReview(this RouteGroupBuilder api)
    {
        var review = api.MapGroup("/rounds/{roundId:guid}/review").WithTags("Review");
        review.MapGet("/", Page).For(Access.Worker);
        review.MapPost("/records/{inspectionId:guid}", Look).For(Access.Lead);
        review.MapPost("/signature", Sign).For(Access.Lead);
        api.MapGroup("/inspections")
            .WithTags("Review")
            .MapPost("/{inspectionId:guid}/take-back", TakingBackRecords.TakeBack)
            .For(Access.Lead);
    }

    private static async Task<Results<Ok<ReviewPage>, ProblemHttpResult>> Page(
        Guid roundId,
        RoundReview review,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        try
        {
            return await review.PageAsync(roundId, user.IsInRole(Person.Lead), cancel) is { } page
                ? TypedResults.Ok(page)
                : Refusals.NotFound("round");
        }
        catch (UnreadableRecordException unreadable)
        {
            return Refusals.Of(StatusCodes.Status409Conflict, "The round cannot be reviewed.", unreadable.Message);
        }
    }

    /// <summary>Looking twice is looking once: the first look stays.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> Look(
        Guid roundId,
        Guid inspectionId,
        LookAtRecord sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (WrongWords(sent.Words) is { } wrong)
            return Refusals.Invalid("The look was not kept.", wrong);
        var record = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Id == inspectionId && it.RoundId == roundId)
            .Select(it => new { it.Item.Tag, it.BookNumber })
            .FirstOrDefaultAsync(cancel);
        if (record is null)
            return Refusals.NotFound("record in this round");
        if (await db.ReviewedRecords.AnyAsync(it => it.InspectionId == inspectionId, cancel))
            return TypedResults.NoContent();
        db.ReviewedRecords.Add(
            new()
            {
                InspectionId = inspectionId,
                RoundId = roundId,
                At = time.GetUtcNow(),
                PersonId = user.Id(),
                By = user.DisplayName(),
                Words = sent.Words.Trim(),
            }
        );
        trail.Add("record looked at", record.Tag, inspectionId, after: new { record.BookNumber, sent.Words });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException twice) when (twice.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // Two leads at once: one look is enough.
        }
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<ReviewPage>, ProblemHttpResult>> Sign(
        Guid roundId,
        SignRound sent,
        OsierwandDb db,
        RoundReview review,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        const string Title = "The round is not signed.";
        if (WrongWords(sent.Words) is { } wrong)
            return Refusals.Invalid(Title, wrong);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var locked = await db
            .Rounds.FromSql($"SELECT * FROM rounds WHERE id = {roundId} FOR UPDATE")
            .Include(it => it.Site)
            .FirstOrDefaultAsync(cancel);
        if (locked is null)
            return Refusals.NotFound("round");
        // Every save writes the book's row: none comes in between what is read here and what is signed.
        await db
            .Books.FromSql($"SELECT * FROM books WHERE client_id = {locked.Site.ClientId} FOR UPDATE")
            .AsNoTracking()
            .FirstOrDefaultAsync(cancel);
        ReviewPage page;
        try
        {
            page = (await review.PageAsync(roundId, isLead: true, cancel))!;
        }
        catch (UnreadableRecordException unreadable)
        {
            return Refusals.Of(StatusCodes.Status409Conflict, Title, unreadable.Message);
        }
        if (page.WhyNot is { } why)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, Title, why);
        if (page.Total != sent.Records || page.LastNumber != sent.LastNumber)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                Title,
                "Records came in while you looked. The page shows them now; what you wrote is kept here."
            );
        var (now, me) = (time.GetUtcNow(), user.Id());
        var last = await db
            .Inspections.Where(it => it.RoundId == roundId && it.BookNumber == page.LastNumber)
            .Select(it => it.Hash)
            .FirstOrDefaultAsync(cancel);
        db.RoundSignatures.Add(
            new()
            {
                RoundId = roundId,
                At = now,
                Day = locked.Site.DayOf(now),
                PersonId = me,
                By = user.DisplayName(),
                Words = sent.Words.Trim(),
                Records = page.Total,
                LastNumber = page.LastNumber,
                LastHash = last ?? [],
                IsOwnWork = await db.Inspections.AnyAsync(it => it.RoundId == roundId && it.TechnicianId == me, cancel),
            }
        );
        trail.Add(
            "round signed",
            locked.Name,
            roundId,
            new { State = Words.Of(locked.State) },
            new
            {
                State = Words.Of(RoundState.Closed),
                page.Total,
                page.LastNumber,
            }
        );
        (locked.State, locked.ClosedOn) = (RoundState.Closed, locked.Site.DayOf(now));
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok((await review.PageAsync(roundId, isLead: true, cancel))!);
    }

    private static Fault? WrongWords(string words) =>
        words.Length > ReviewedRecord.LongestWords ? new Fault("words", $"At most {ReviewedRecord.LongestWords} characters.") : null;
}
