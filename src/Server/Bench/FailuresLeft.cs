using System.Collections.Immutable;
using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>A measurement that failed, for a lead: neither saved nor explained.</summary>
public sealed record UnsavedPage(IReadOnlyList<UnsavedCard> Failures, IReadOnlyList<string> Explanations);

public sealed record UnsavedCard(Guid Id, Guid ItemId, string Tag, string Name, string Text);

/// <param name="Words">Why the failure says nothing of the item.</param>
public sealed record ExplainFailure(string Words);

/// <summary>Failures that no record holds: of discarded and handed-over sheets, and of measurements that this server ran and nobody
/// saved. Each marks its item until somebody has answered for it.</summary>
internal static class FailuresLeft
{
    /// <summary>Sheets of an item that hold a failure and have not ended in a way that says so; a discarded one before one on its
    /// way.</summary>
    internal static async Task<LeftFailure?> OfSheetsAsync(OsierwandDb db, Guid itemId, CancellationToken cancel)
    {
        var left = await db
            .DiscardedSheets.Where(sheet => sheet.ItemId == itemId && sheet.HoldsFailure && sheet.SeenBy == null)
            .Select(sheet => new
            {
                Id = (Guid?)null,
                sheet.Person,
                sheet.At,
                Held = (string?)sheet.Reason,
                sheet.Failures,
            })
            .Concat(
                db.HandedSheets.Where(sheet => sheet.ItemId == itemId && sheet.EndedAt == null && sheet.Failures.Length > 0)
                    .Select(sheet => new
                    {
                        Id = (Guid?)sheet.Id,
                        sheet.Person,
                        sheet.At,
                        Held = sheet.TakenBy,
                        sheet.Failures,
                    })
            )
            .OrderBy(sheet => sheet.Id != null)
            .ThenByDescending(sheet => sheet.At)
            .FirstOrDefaultAsync(cancel);
        if (left is null)
            return null;
        var what = string.Join("; ", left.Failures);
        var holder = left.Held is null ? "nobody has taken it" : $"{left.Held} has it";
        return left.Id is null
            ? new($"A run sheet with a failure was discarded by {left.Person} on {left.At:yyyy-MM-dd} ({left.Held}): {what}", null)
            : new($"A run sheet with a failure was handed over by {left.Person} on {left.At:yyyy-MM-dd} and {holder}: {what}", left.Id);
    }

    /// <summary>Also of what turned out to be this item after it was measured without its tag.</summary>
    private static IQueryable<MeasuredFailure> OfItem(OsierwandDb db, Guid itemId) =>
        db.Unsaved().Where(failure => failure.ItemId == itemId || failure.Item.NamedAs == itemId);

    internal static async Task<ImmutableArray<UnsavedFailure>> OfItemAsync(OsierwandDb db, Guid itemId, CancellationToken cancel) =>
        [.. (await OfItem(db, itemId).AsNoTracking().OrderBy(failure => failure.At).ToListAsync(cancel)).Select(Known)];

    /// <returns>Null where there is none.</returns>
    internal static async Task<string?> TextAsync(OsierwandDb db, Guid itemId, CancellationToken cancel) =>
        await OfItemAsync(db, itemId, cancel) is { IsEmpty: false } left ? string.Join("; ", left.Select(failure => failure.Text)) : null;

    private static UnsavedFailure Known(MeasuredFailure failure) =>
        new(failure.Id, failure.Step, failure.Point, failure.Class, failure.Name, failure.Value, failure.Person, failure.Day);

    /// <summary>A record that a lead takes back because its failure was none: what was measured for it is explained by that.</summary>
    internal static async Task ExplainTakenBackAsync(
        OsierwandDb db,
        Guid recordId,
        string reason,
        ClaimsPrincipal user,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var held = await db
            .SettledFailures.Where(settled => settled.RecordId == recordId)
            .Select(settled => settled.FailureId)
            .ToListAsync(cancel);
        db.SettledFailures.AddRange(held.Select(failure => Explained(failure, reason, user, now)));
        await db.SaveChangesAsync(cancel);
    }

    private static SettledFailure Explained(Guid failure, string words, ClaimsPrincipal user, DateTimeOffset now) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            FailureId = failure,
            Person = user.DisplayName(),
            At = now,
            Words = words,
        };

    public static async Task<Ok<UnsavedPage>> Unsaved(OsierwandDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            new UnsavedPage(
                (await WaitingAsync(db, db.Unsaved(), cancel)).ConvertAll(failure => new UnsavedCard(
                    failure.Id,
                    failure.ItemId,
                    failure.Item.Tag,
                    failure.Item.Name,
                    Known(failure).Text
                )),
                PhrasesOnOffer.Explanations
            )
        );

    /// <summary>Measurements of a round that wait for a lead.</summary>
    internal static async Task<int> CountAsync(OsierwandDb db, Guid roundId, CancellationToken cancel) =>
        (await WaitingAsync(db, db.Unsaved().Where(failure => failure.RoundId == roundId), cancel)).Count;

    /// <summary>Those of a discarded sheet are seen with it.</summary>
    private static async Task<List<MeasuredFailure>> WaitingAsync(
        OsierwandDb db,
        IQueryable<MeasuredFailure> among,
        CancellationToken cancel
    )
    {
        var left = await among.AsNoTracking().Include(failure => failure.Item).OrderBy(failure => failure.At).ToListAsync(cancel);
        var items = left.Select(failure => failure.ItemId).Distinct().ToArray();
        var discarded = await OsierwandDb
            .WithLoose(db.DiscardedSheets)
            .Where(sheet => items.Contains(sheet.ItemId) && sheet.HoldsFailure && sheet.SeenBy == null)
            .Select(sheet => sheet.Events)
            .ToListAsync(cancel);
        var seenWithTheirSheet = discarded.SelectMany(IdsOf).ToHashSet();
        return left.FindAll(failure => !seenWithTheirSheet.Contains(failure.Id));
    }

    private static IEnumerable<Guid> IdsOf(string events) => BenchJson.ReadEvents(events).Value.Select(e => e.Id);

    public static async Task<Results<NoContent, ProblemHttpResult>> Explain(
        Guid id,
        ExplainFailure sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Words) || sent.Words.Length > SettledFailure.LongestWords)
            return Refusals.Invalid("Not explained.", new Fault("words", "Say in a few words why the failure does not count."));
        if (
            await db.Unsaved().Where(left => left.Id == id).Select(left => new { left.Item.Tag }).FirstOrDefaultAsync(cancel)
            is not { } failure
        )
            return Refusals.NotFound("failure without a record");
        db.SettledFailures.Add(Explained(id, sent.Words.Trim(), user, time.GetUtcNow()));
        trail.Add("unsaved failure explained", failure.Tag, id, after: new { Words = sent.Words.Trim() });
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    public static async Task<Ok<List<DiscardedCard>>> Discarded(OsierwandDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await OsierwandDb
                .WithLoose(db.DiscardedSheets)
                .AsNoTracking()
                .Where(sheet => sheet.HoldsFailure && sheet.SeenBy == null)
                .OrderBy(sheet => sheet.At)
                .Select(sheet => new DiscardedCard(
                    sheet.Id,
                    sheet.ItemId,
                    sheet.Item.Tag,
                    sheet.Item.Name,
                    sheet.Person,
                    sheet.At,
                    sheet.Reason,
                    sheet.Failures
                ))
                .ToListAsync(cancel)
        );

    public static async Task<Results<NoContent, ProblemHttpResult>> Seen(
        Guid id,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var (by, now) = (user.DisplayName(), time.GetUtcNow());
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await db
            .DiscardedSheets.Where(open => open.Id == id && open.SeenBy == null)
            .ExecuteUpdateAsync(set => set.SetProperty(seen => seen.SeenBy, by).SetProperty(seen => seen.SeenAt, now), cancel);
        if (rows == 0)
            return Refusals.NotFound("open review of a discarded sheet");
        var sheet = await db
            .DiscardedSheets.Where(seen => seen.Id == id)
            .Select(seen => new { seen.ItemId, seen.Events })
            .FirstAsync(cancel);
        var events = IdsOf(sheet.Events).ToHashSet();
        // What was measured on it has been explained with it.
        foreach (var failure in await OfItem(db, sheet.ItemId).ToListAsync(cancel))
            if (events.Contains(failure.Id))
                db.SettledFailures.Add(Explained(failure.Id, "the run sheet was discarded", user, now));
        trail.Add("discarded run sheet seen", "", id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }
}
