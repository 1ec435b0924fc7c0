using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Osierwand.Core;
using Osierwand.Core.Records;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Trust;

/// <summary>Signs the head of every book that has grown, a few seconds after: no save waits for it.</summary>
public sealed class HeadSigner(
    IDbContextFactory<OsierwandDb> dbs,
    HeadKey key,
    Anchors anchors,
    TimeProvider time,
    IOptions<BookOptions> options,
    ILogger<HeadSigner> log
) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(options.Value.SignEverySeconds), time);
        try
        {
            while (await timer.WaitForNextTickAsync(stoppingToken))
            {
                try
                {
                    await SignAsync(stoppingToken);
                }
                catch (Exception trouble) when (trouble is not OperationCanceledException)
                {
                    // The database is away, or the file of heads is bent: whatever it is, it must not take the server down with it.
                    log.LogError(trouble, "Heads were not signed");
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The server stops.
        }
    }

    /// <returns>How many were signed.</returns>
    public async Task<int> SignAsync(CancellationToken cancel)
    {
        await using var db = await dbs.CreateDbContextAsync(cancel);
        db.Sight = Sight.OfTheHouse();
        var grown = await db
            .Books.Where(book =>
                book.Number > 0 && !db.SignedHeads.Any(head => head.ClientId == book.ClientId && head.Number == book.Number)
            )
            .AsNoTracking()
            .ToListAsync(cancel);
        var signed = 0;
        foreach (var book in grown)
        {
            if (await RefusalAsync(db, book, cancel) is { } why)
            {
                log.LogCritical("A head was not signed: {Why}", why);
                continue;
            }
            var head = HeadOf(book);
            // Two servers may come to it at once: one signature is enough.
            await db.Database.ExecuteSqlAsync(
                $"""
                INSERT INTO signed_heads (client_id, number, hash, at, key_id, signature)
                VALUES ({head.ClientId}, {head.Number}, {head.Hash}, {head.At}, {key.Id}, {key.Sign(head)}) ON CONFLICT DO NOTHING
                """,
                cancel
            );
            anchors.Keep(head);
            signed++;
        }
        return signed;
    }

    /// <summary>The head as it is signed now.</summary>
    internal BookHead HeadOf(Book book)
    {
        var now = time.GetUtcNow();
        return new(book.ClientId, book.Number, book.Hash, now.AddTicks(-(now.Ticks % TimeSpan.TicksPerSecond)));
    }

    /// <summary>A house signs only what continues what it signed before, as that is kept outside the database.</summary>
    /// <returns>Why this head is not signed; null when it may be.</returns>
    internal async Task<string?> RefusalAsync(OsierwandDb db, Book book, CancellationToken cancel)
    {
        var kept = anchors.Of(book.ClientId);
        if (kept.Fault is { } bent)
            return bent.Message;
        if (kept.Value is not { } before)
            return null;
        var hash = await db
            .Inspections.Where(it => it.ClientId == book.ClientId && it.BookNumber == before.Number)
            .Select(it => it.Hash)
            .FirstOrDefaultAsync(cancel);
        return hash is not null && hash.AsSpan().SequenceEqual(before.Hash)
            ? null
            : $"the book of the client {book.ClientId:D} does not continue the head that was signed at record {before.Number}";
    }
}

/// <summary>The last signed head of every book, in the folder of the key.</summary>
public sealed class Anchors(HeadKey key)
{
    private readonly Lock pen = new();
    private readonly Dictionary<Guid, BookHead> known = [];

    /// <summary>What the books are held against, with the heads as the file has them now.</summary>
    public KeptOutside Outside
    {
        get
        {
            lock (pen)
            {
                var unreadable = Read();
                return new(key.All, [.. known.Values], [.. key.Unreadable, .. unreadable]);
            }
        }
    }

    /// <returns>Null before the first. A fault where the file was bent: nothing is signed before somebody has looked at it.</returns>
    public Result<BookHead?> Of(Guid clientId)
    {
        lock (pen)
        {
            if (Read() is [var bent, ..])
                return new Fault("", bent);
            return known.GetValueOrDefault(clientId);
        }
    }

    /// <exception cref="FormatException">The file was bent.</exception>
    public void Keep(BookHead head)
    {
        lock (pen)
        {
            if (Read() is [var bent, ..])
                throw new FormatException(bent);
            known[head.ClientId] = head;
            if (key.Folder is not { } folder)
                return;
            // Whole or not at all; of two servers the later one's heads stand, and both are right.
            var path = Path.Combine(folder, HeadAnchors.FileName);
            var part = $"{path}.{Environment.ProcessId}";
            File.WriteAllText(part, HeadAnchors.Write(known.Values));
            File.Move(part, path, overwrite: true);
        }
    }

    /// <summary>Another server may have written meanwhile: the further head of each book counts.</summary>
    /// <returns>What could not be read.</returns>
    private List<string> Read()
    {
        var unreadable = new List<string>();
        if (key.Folder is { } folder)
            foreach (var head in KeptOutside.ReadHeads(folder, unreadable))
                if (!known.TryGetValue(head.ClientId, out var here) || here.Number < head.Number)
                    known[head.ClientId] = head;
        return unreadable;
    }
}
