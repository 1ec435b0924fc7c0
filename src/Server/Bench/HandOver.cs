using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.Outlets;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <param name="Id">The sheet's own number; sending it twice keeps it once.</param>
/// <param name="Words">What the next one should know.</param>
public sealed record HandSheet(Guid Id, Guid RoundId, IReadOnlyList<BenchEvent> Events, string Words);

/// <summary>A run sheet that waits for another bench.</summary>
/// <param name="IsMine">This person has taken it and not ended it: it can be fetched again.</param>
/// <param name="TakenBy">Who else has it: a lead sees it where it holds a failure, and may take it from there.</param>
public sealed record HandedCard(
    Guid Id,
    Guid ItemId,
    Guid RoundId,
    string Tag,
    string Name,
    string Person,
    DateTimeOffset At,
    string Words,
    IReadOnlyList<string> Failures,
    bool IsMine,
    string? TakenBy
);

/// <param name="Events">All that was done, and that it was taken over from whom.</param>
public sealed record TakenSheet(IReadOnlyList<BenchEvent> Events);

/// <summary>From one bench to another, by way of the server: nobody inherits a reading as their own, and none is lost on the way.</summary>
internal static class HandOver
{
    public static async Task<Results<NoContent, ProblemHttpResult>> Give(
        Guid itemId,
        HandSheet sent,
        Rulings rulings,
        OutletBook outlets,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (BenchEndpoints.TooMany(sent.Events) is { } many)
            return Refusals.Invalid("Not handed over.", many);
        if (string.IsNullOrWhiteSpace(sent.Words) || sent.Words.Length > BenchState.LongestText)
            return Refusals.Invalid("Not handed over.", new Fault("words", "Say in a few words what the next one should know."));
        if (sent.Events.Count == 0)
            return Refusals.Invalid("Not handed over.", new Fault("events", "Nothing was done on this sheet yet."));
        var userId = user.Id();
        // Sent again because the answer was lost on the way.
        if (await db.HandedSheets.AnyAsync(it => it.Id == sent.Id && it.PersonId == userId, cancel))
            return TypedResults.NoContent();
        if (!await OsierwandDb.WithLoose(db.Items).AnyAsync(it => it.Id == itemId, cancel))
            return Refusals.NotFound("item");
        if (await RefusalAsync(db, sent.Events, userId, cancel) is { } refusal)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "Not handed over.", refusal.Message, [refusal]);
        var failures = await FailuresAsync(rulings, itemId, sent.RoundId, sent.Events, user, cancel);
        // What was measured of an outlet is this person's, whoever saves the sheet.
        if ((await rulings.LayAsync(itemId, sent.RoundId, user.Worker(), cancel)).TryGet(out var laid))
            await outlets.KeepAsync(BenchState.Of(laid.Ruling, sent.Events), laid.Item.Site, time.GetUtcNow(), cancel);
        // The sheet that this one continues ends with it, both or neither: between the two a failure would mark nothing.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await EndAsync(db, sent.Events, userId, time, cancel);
        db.HandedSheets.Add(
            new()
            {
                Id = sent.Id,
                ItemId = itemId,
                RoundId = sent.RoundId,
                PersonId = userId,
                Person = user.DisplayName(),
                At = time.GetUtcNow(),
                Words = sent.Words.Trim(),
                Failures = failures,
                Events = BenchJson.Write(sent.Events),
            }
        );
        trail.Add("run sheet handed over", sent.Words.Trim(), sent.Id, after: new { failures });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException twice) when (twice.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "Not handed over a second time.",
                "This sheet is on its way already, or has a number that another sheet has. Try again: it is kept on this screen.",
                []
            );
        }
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Those that anybody may take, one's own, and for a lead also those with a failure that somebody took and has not
    /// ended.</summary>
    public static async Task<Ok<List<HandedCard>>> Waiting(OsierwandDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        var (userId, isLead) = (user.Id(), user.IsInRole(Person.Lead));
        return TypedResults.Ok(
            await OsierwandDb
                .WithLoose(db.HandedSheets)
                .AsNoTracking()
                .Where(it => it.EndedAt == null && (it.TakenById == null || it.TakenById == userId || (isLead && it.Failures.Length > 0)))
                .OrderBy(it => it.At)
                .Select(it => new HandedCard(
                    it.Id,
                    it.ItemId,
                    it.RoundId,
                    it.Item.Tag,
                    it.Item.Name,
                    it.Person,
                    it.At,
                    it.Words,
                    it.Failures,
                    it.TakenById == userId,
                    it.TakenById == userId ? null : it.TakenBy
                ))
                .ToListAsync(cancel)
        );
    }

    /// <summary>
    /// Takes it over; the same person may fetch it again as long as it is not ended, as an answer may get lost. A lead may take it from
    /// whoever has it and does not end it: nothing lies with somebody who is gone.
    /// </summary>
    public static async Task<Results<Ok<TakenSheet>, ProblemHttpResult>> Take(
        Guid id,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var (userId, name, now, isLead) = (user.Id(), user.DisplayName(), time.GetUtcNow(), user.IsInRole(Person.Lead));
        await db
            .HandedSheets.Where(it => it.Id == id && it.EndedAt == null && (it.TakenById == null || (isLead && it.TakenById != userId)))
            .ExecuteUpdateAsync(
                set => set.SetProperty(it => it.TakenById, userId).SetProperty(it => it.TakenBy, name).SetProperty(it => it.TakenAt, now),
                cancel
            );
        if (await db.HandedSheets.AsNoTracking().FirstOrDefaultAsync(it => it.Id == id, cancel) is not { } row)
            return Refusals.NotFound("run sheet that was handed over");
        if (row.TakenById != userId || row.EndedAt is not null)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "It is not here any more.",
                row.EndedAt is not null ? $"{row.TakenBy} has ended this sheet." : $"{row.TakenBy} has taken this sheet over.",
                []
            );
        var events = BenchJson.ReadEvents(row.Events).Value;
        trail.Add("run sheet taken over", row.Person, row.Id);
        await db.SaveChangesAsync(cancel);
        var taken = new TakenOver
        {
            Id = TakingOf(row),
            At = row.TakenAt!.Value,
            HandOver = row.Id,
            From = row.Person,
        };
        return TypedResults.Ok(new TakenSheet([.. events, taken]));
    }

    /// <summary>The same taking is the same event, however often it is fetched.</summary>
    private static Guid TakingOf(HandedSheet row)
    {
        var bytes = row.Id.ToByteArray();
        bytes[0] ^= 0x5a;
        return new(bytes);
    }

    /// <summary>Whether what is said to be taken over was handed to this person, and is all there as it was.</summary>
    public static async Task<Fault?> RefusalAsync(OsierwandDb db, IReadOnlyList<BenchEvent> events, Guid userId, CancellationToken cancel)
    {
        var takings = events.OfType<TakenOver>().ToArray();
        foreach (var taken in takings)
        {
            var row = await db.HandedSheets.AsNoTracking().FirstOrDefaultAsync(it => it.Id == taken.HandOver, cancel);
            // The last one was handed to this person; those before it were ended by being handed on.
            var isTheirs = taken == takings[^1] ? row?.TakenById == userId : row?.EndedAt is not null;
            if (row is null || row.Person != taken.From || !isTheirs)
                return new Fault(
                    "events",
                    "This sheet says that it was handed over, and it was not handed to you. What you entered is kept."
                );
            var here = events.DistinctBy(it => it.Id).ToDictionary(it => it.Id, Bare);
            var isWhole = BenchJson.ReadEvents(row.Events).Value.All(it => here.TryGetValue(it.Id, out var now) && now == Bare(it));
            if (!isWhole)
                return new Fault("events", $"Something of what {row.Person} handed over is not on this sheet any more.");
        }
        return null;
    }

    private static string Bare(BenchEvent it) => BenchJson.Write([it is ReadingTaken reading ? reading with { Seal = null } : it]);

    /// <summary>The sheets that this one continues are ended with it.</summary>
    public static Task<int> EndAsync(
        OsierwandDb db,
        IReadOnlyList<BenchEvent> events,
        Guid userId,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var ids = events.OfType<TakenOver>().Select(it => it.HandOver).ToArray();
        DateTimeOffset? now = time.GetUtcNow();
        return ids.Length == 0
            ? Task.FromResult(0)
            : db
                .HandedSheets.Where(it => ids.Contains(it.Id) && it.TakenById == userId && it.EndedAt == null)
                .ExecuteUpdateAsync(set => set.SetProperty(it => it.EndedAt, now), cancel);
    }

    /// <summary>What failed on a sheet; one that cannot be judged any more is told as that, so that it hides nothing.</summary>
    public static async Task<string[]> FailuresAsync(
        Rulings rulings,
        Guid itemId,
        Guid roundId,
        IReadOnlyList<BenchEvent> events,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var laid = await rulings.LayAsync(itemId, roundId, user.Worker(), cancel);
        if (!laid.TryGet(out var on))
            return [$"not judged: {laid.Fault!.Message}"];
        var now = new BenchSession(on.Ruling, events).View().Now;
        var setAside = now.SetAside.Where(failure => !failure.IsExcused).Select(failure => failure.Text);
        return [.. now.Failures.Select(failure => failure.Text).Union(setAside)];
    }
}
