using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Store;

namespace Osierwand.Server.Bench;

/// <summary>
/// Keeps the raw result of every measurement that this server ran. A reading is an instrument's only where such a row says the same, so
/// that a page cannot call a typed figure an instrument's, carry one to another item or person, or use one twice.
/// </summary>
public sealed class Measurements(OsierwandDb db, ILogger<Measurements> log)
{
    /// <summary>Kept before the bench sees it. Where the database is away the figure goes out all the same and counts as typed: nothing
    /// that was measured is lost.</summary>
    /// <param name="before">What stands on the sheet.</param>
    /// <returns>The reading with its seal: the digest of what is kept under its number.</returns>
    internal async Task<ReadingTaken> KeepAsync(
        ReadingTaken reading,
        IReadOnlyList<BenchEvent> before,
        Laid laid,
        Guid personId,
        Guid sessionId,
        CancellationToken cancel
    )
    {
        var text = Bare(reading);
        var @sealed = reading with { Seal = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text))) };
        AddFailure(@sealed, before, laid);
        db.Measurements.Add(
            new()
            {
                Id = reading.Id,
                ItemId = laid.Item.Id,
                RoundId = laid.Round.Id,
                PersonId = personId,
                SessionId = sessionId,
                InstrumentId = reading.With ?? Guid.Empty,
                At = reading.At,
                Reading = text,
            }
        );
        try
        {
            await db.SaveChangesAsync(cancel);
            return @sealed;
        }
        catch (Exception trouble) when (trouble is DbUpdateException or NpgsqlException or TimeoutException)
        {
            log.LogWarning("A measurement could not be kept and counts as typed: {Trouble}", trouble.Message);
            db.ChangeTracker.Clear();
            return reading;
        }
    }

    /// <summary>What the instrument found out instead of a reading.</summary>
    internal async Task KeepAsync(BenchEvent happened, IReadOnlyList<BenchEvent> before, Laid laid, CancellationToken cancel)
    {
        AddFailure(happened, before, laid);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (Exception trouble) when (trouble is DbUpdateException or NpgsqlException or TimeoutException)
        {
            log.LogWarning("What an instrument found is on the sheet alone: {Trouble}", trouble.Message);
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>Where it fails as the sheet stands, it stands on every sheet of the item until somebody answers for it.</summary>
    private void AddFailure(BenchEvent e, IReadOnlyList<BenchEvent> before, Laid laid)
    {
        if (UnsavedFailure.Of(BenchState.Of(laid.Ruling, [.. before, e]), e) is not { } failure)
            return;
        db.MeasuredFailures.Add(
            new()
            {
                Id = failure.Id,
                ItemId = laid.Item.Id,
                RoundId = laid.Round.Id,
                At = e.At,
                Day = failure.Day,
                Person = failure.By,
                Step = failure.Step,
                Point = failure.Point,
                Class = failure.Class,
                Name = failure.Name,
                Value = failure.Value,
            }
        );
    }

    /// <summary>Readings that say they are an instrument's and are not as this server kept them for this item and person, or stand in a
    /// record already.</summary>
    internal async Task<Guid[]> UnprovedAsync(IReadOnlyList<BenchEvent> events, Guid itemId, Guid personId, CancellationToken cancel)
    {
        var given = events.OfType<Unproved>().Select(it => it.Target).ToHashSet();
        var said = events
            .OfType<ReadingTaken>()
            .Where(it => it.Source == ReadingSource.Instrument && it.Seal is not null && !given.Contains(it.Id))
            .ToArray();
        if (said.Length == 0)
            return [];
        var ids = said.Select(it => it.Id).ToArray();
        var kept = await db
            .Measurements.AsNoTracking()
            .Where(it =>
                ids.Contains(it.Id)
                && (
                    it.ItemId == itemId
                    // Or of what turned out to be this item after it was measured without its tag.
                    || OsierwandDb.WithLoose(db.Items).Any(loose => loose.Id == it.ItemId && loose.NamedAs == itemId)
                )
            )
            .ToDictionaryAsync(it => it.Id, cancel);
        var handed = await HandedAsync(events, cancel);
        var used = await UsedAsync(itemId, [.. kept.Values.Select(it => it.At)], cancel);
        return
        [
            .. said.Where(it =>
                    !kept.TryGetValue(it.Id, out var row)
                    || row.Reading != Bare(it)
                    || (row.PersonId != personId && !handed.Contains(it.Id))
                    || used.Exists(record => record.Contains(it.Id.ToString("D"), StringComparison.Ordinal))
                )
                .Select(it => it.Id),
        ];
    }

    /// <summary>What others measured and handed over; that it was handed to this person is asked for elsewhere
    /// (<see cref="HandOver.RefusalAsync"/>).</summary>
    private async Task<HashSet<Guid>> HandedAsync(IReadOnlyList<BenchEvent> events, CancellationToken cancel)
    {
        var sheets = events.OfType<TakenOver>().Select(it => it.HandOver).ToArray();
        if (sheets.Length == 0)
            return [];
        var texts = await db.HandedSheets.Where(it => sheets.Contains(it.Id)).Select(it => it.Events).ToListAsync(cancel);
        return [.. texts.SelectMany(it => BenchJson.ReadEvents(it).Value).Select(it => it.Id)];
    }

    private async Task<List<string>> UsedAsync(Guid itemId, DateTimeOffset[] taken, CancellationToken cancel)
    {
        if (taken.Length == 0)
            return [];
        var first = taken.Min();
        return await db.Standing().Where(it => it.ItemId == itemId && it.ReceivedAt >= first).Select(it => it.Record).ToListAsync(cancel);
    }

    private static string Bare(ReadingTaken reading) => BenchJson.Write([reading with { Seal = null }]);
}
