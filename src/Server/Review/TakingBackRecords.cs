using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Records;
using Osierwand.Core.Review;
using Osierwand.Server.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Review;

/// <param name="Id">Made by the page: sending twice takes back once.</param>
public sealed record TakeRecordBack(Guid Id, string Reason);

/// <summary>How the item stands without the record.</summary>
public sealed record RecordTakenBack(long Number, ItemState State, DateOnly? Due, DateOnly? VisualDue);

/// <summary>A lead takes a record back, however long ago it was: a new record names it and says why, both stay in the book, and the item
/// stands as if the old one had decided nothing.</summary>
internal static class TakingBackRecords
{
    private const string Title = "Not taken back.";

    public static async Task<Results<Ok<RecordTakenBack>, ProblemHttpResult>> TakeBack(
        Guid inspectionId,
        TakeRecordBack sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > BenchState.LongestText)
            return Refusals.Invalid(Title, new Fault("reason", "Say in a few words why."));
        var row = await db
            .Inspections.AsNoTracking()
            .Include(it => it.Item.Client)
            .Include(it => it.Item.Site)
            .FirstOrDefaultAsync(it => it.Id == inspectionId, cancel);
        if (row is null)
            return Refusals.NotFound("inspection");
        var reason = sent.Reason.Trim();
        var digest = SHA256.HashData(Encoding.UTF8.GetBytes($"take back {inspectionId:N} {reason}"));
        if (await AlreadyAsync(db, sent.Id, digest, row.Item, cancel) is { } already)
            return already;
        var isTakenBack = await db.Inspections.AnyAsync(it => it.Corrects == row.Id, cancel);
        if (RecordCorrection.Refusal(row.Corrects is not null, isTakenBack, row.Item.State, isLead: true) is { } why)
            return Refusals.Of(StatusCodes.Status409Conflict, Title, why);
        if (InspectionRecord.Read(row.Record) is not { Fault: null, Value: var taken })
            return Refusals.Of(StatusCodes.Status409Conflict, Title, "The record cannot be read by this version.");
        var now = time.GetUtcNow();
        var standing = await WithoutAsync(db, row, cancel);
        var correction = Saving.Correction(
            row,
            RecordWriter.Withdrawal(taken, sent.Id, reason, user.Worker(), now),
            user.Id(),
            digest,
            now
        );
        var entry = trail.Entry("inspection taken back", row.Item.Tag, after: new { Record = row.Id, Reason = reason });
        var ended = await db.AppendAsync(correction, row.Item, standing, Saving.NoChange(row.ItemId, now), entry, [], cancel);
        if (ended is not (Appended.Saved or Appended.Already))
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                Title,
                "Somebody changed the item, or took the record back, meanwhile. Look at it again; your reason is kept here."
            );
        if (row.Outcome == Outcome.Fail)
            await FailuresLeft.ExplainTakenBackAsync(db, row.Id, reason, user, now, cancel);
        var number = await db.Inspections.Where(it => it.Id == sent.Id).Select(it => it.BookNumber).FirstAsync(cancel);
        return TypedResults.Ok(new RecordTakenBack(number, Enum.Parse<ItemState>(standing.State), standing.Due, standing.VisualDue));
    }

    private static async Task<Results<Ok<RecordTakenBack>, ProblemHttpResult>?> AlreadyAsync(
        OsierwandDb db,
        Guid id,
        byte[] digest,
        RegisterItem item,
        CancellationToken cancel
    )
    {
        var stored = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Id == id)
            .Select(it => new { it.Sent, it.BookNumber })
            .FirstOrDefaultAsync(cancel);
        return stored is null ? null
            : stored.Sent.AsSpan().SequenceEqual(digest)
                ? TypedResults.Ok(new RecordTakenBack(stored.BookNumber, item.State, item.Due, item.VisualDue))
            : Refusals.Of(StatusCodes.Status409Conflict, Title, "Another record has this number.");
    }

    /// <summary>By every record of the item that counts without this one.</summary>
    private static async Task<ItemStanding> WithoutAsync(OsierwandDb db, Inspection row, CancellationToken cancel)
    {
        var rows = await db
            .Inspections.AsNoTracking()
            .Where(it => it.ItemId == row.ItemId)
            .OrderBy(it => it.BookNumber)
            .Select(it => new
            {
                it.Id,
                it.Outcome,
                it.IsTest,
                it.Before,
                it.After,
                Stands = it.Corrects == null && !db.Inspections.Any(later => later.Corrects == it.Id),
            })
            .ToListAsync(cancel);
        var standing = TakingBack.Replay(
            [
                .. rows.Select(it => new PastRow(
                    it.Id,
                    it.Stands && it.Id != row.Id,
                    it.Outcome,
                    it.IsTest,
                    ItemStanding.Read(it.Before),
                    it.After is { } after ? ItemStanding.Read(after) : null
                )),
            ],
            ItemStanding.Of(row.Item)
        );
        return await Holds.ByActsAsync(db, row.Item, standing, cancel);
    }
}
