using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using Osierwand.Core.Records;
using Osierwand.Store;

namespace Osierwand.Server.Trust;

/// <summary>Signs the head of every book that has grown, a few seconds after: no save waits for it.</summary>
public sealed class HeadSigner(
    IDbContextFactory<OsierwandDb> dbs,
    HeadKey key,
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
                catch (Exception trouble)
                    when (trouble is NpgsqlException or DbUpdateException or InvalidOperationException or TimeoutException)
                {
                    // The database is away; the heads are signed when it is back.
                    log.LogWarning("Heads were not signed: {Trouble}", trouble.Message);
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
            .ToListAsync(cancel);
        var now = time.GetUtcNow();
        var at = now.AddTicks(-(now.Ticks % TimeSpan.TicksPerSecond));
        foreach (var book in grown)
        {
            var head = new BookHead(book.ClientId, book.Number, book.Hash, at);
            // Two servers may come to it at once: one signature is enough.
            await db.Database.ExecuteSqlAsync(
                $"""
                INSERT INTO signed_heads (client_id, number, hash, at, key_id, signature)
                VALUES ({head.ClientId}, {head.Number}, {head.Hash}, {head.At}, {key.Id}, {key.Sign(head)}) ON CONFLICT DO NOTHING
                """,
                cancel
            );
        }
        return grown.Count;
    }
}
