using System.Collections.Immutable;
using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>A measurement that failed, for a lead: neither saved nor explained.</summary>
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
            .DiscardedSheets.Where(it => it.ItemId == itemId && it.HoldsFailure && it.SeenBy == null)
            .Select(it => new
            {
                Id = (Guid?)null,
                it.Person,
                it.At,
                Held = (string?)it.Reason,
                it.Failures,
            })
            .Concat(
                db.HandedSheets.Where(it => it.ItemId == itemId && it.EndedAt == null && it.Failures.Length > 0)
                    .Select(it => new
                    {
                        Id = (Guid?)it.Id,
                        it.Person,
                        it.At,
                        Held = it.TakenBy,
                        it.Failures,
                    })
            )
            .OrderBy(it => it.Id != null)
            .ThenByDescending(it => it.At)
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
        db.Unsaved().Where(it => it.ItemId == itemId || it.Item.NamedAs == itemId);

    internal static async Task<ImmutableArray<UnsavedFailure>> OfItemAsync(OsierwandDb db, Guid itemId, CancellationToken cancel) =>
        [.. (await OfItem(db, itemId).AsNoTracking().OrderBy(it => it.At).ToListAsync(cancel)).Select(Unsaved)];

    /// <returns>Null where there is none.</returns>
    internal static async Task<string?> TextAsync(OsierwandDb db, Guid itemId, CancellationToken cancel) =>
        await OfItemAsync(db, itemId, cancel) is { IsEmpty: false } left ? string.Join("; ", left.Select(failure => failure.Text)) : null;

    private static UnsavedFailure Unsaved(MeasuredFailure it) =>
        new(it.Id, it.Step, it.Point, it.Class, it.Name, it.Value, it.Person, it.Day);

    /// <summary>What a record answers for. A look and findings are no answer; but of an item that is out of use the failure is why it
    /// is.</summary>
    internal static Guid[] SettledBy(BenchState state, Outcome outcome, bool isTest) =>
        outcome == Outcome.Fail
        || (outcome is Outcome.Pass or Outcome.PassWithAdvice && isTest)
        || (outcome == Outcome.Findings && Scopes.IsHeld(state.Ruling.Item.State))
            ? [.. state.Ruling.UnsavedFailures.Select(failure => failure.Id)]
            : [];

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
        var held = await db.SettledFailures.Where(it => it.RecordId == recordId).Select(it => it.FailureId).ToListAsync(cancel);
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

    public static async Task<Ok<List<UnsavedCard>>> Unsaved(OsierwandDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            (await WaitingAsync(db, cancel)).ConvertAll(it => new UnsavedCard(
                it.Id,
                it.ItemId,
                it.Item.Tag,
                it.Item.Name,
                Unsaved(it).Text
            ))
        );

    /// <summary>Measurements that wait for a lead. Those of a discarded sheet are seen with it.</summary>
    internal static async Task<List<MeasuredFailure>> WaitingAsync(OsierwandDb db, CancellationToken cancel)
    {
        var left = await db.Unsaved().AsNoTracking().Include(it => it.Item).OrderBy(it => it.At).ToListAsync(cancel);
        var items = left.Select(it => it.ItemId).Distinct().ToArray();
        var discarded = await OsierwandDb
            .WithLoose(db.DiscardedSheets)
            .Where(it => items.Contains(it.ItemId) && it.HoldsFailure && it.SeenBy == null)
            .Select(it => it.Events)
            .ToListAsync(cancel);
        var seenWithTheirSheet = discarded.SelectMany(IdsOf).ToHashSet();
        return left.FindAll(it => !seenWithTheirSheet.Contains(it.Id));
    }

    private static IEnumerable<Guid> IdsOf(string events) => BenchJson.ReadEvents(events).Value.Select(it => it.Id);

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
        if (await db.Unsaved().Select(it => new { it.Id, it.Item.Tag }).FirstOrDefaultAsync(it => it.Id == id, cancel) is not { } failure)
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
                .Where(it => it.HoldsFailure && it.SeenBy == null)
                .OrderBy(it => it.At)
                .Select(it => new DiscardedCard(it.Id, it.ItemId, it.Item.Tag, it.Item.Name, it.Person, it.At, it.Reason, it.Failures))
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
            .DiscardedSheets.Where(it => it.Id == id && it.SeenBy == null)
            .ExecuteUpdateAsync(set => set.SetProperty(it => it.SeenBy, by).SetProperty(it => it.SeenAt, now), cancel);
        if (rows == 0)
            return Refusals.NotFound("open review of a discarded sheet");
        var sheet = await db.DiscardedSheets.Where(it => it.Id == id).Select(it => new { it.ItemId, it.Events }).FirstAsync(cancel);
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
