using System.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using Osierwand.Server.Hosting;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Trust;

/// <summary>Verifies all books: shortly after the start, then once a day, and when a lead asks. Every verification is kept.</summary>
internal sealed class Verifier(
    NpgsqlDataSource source,
    IDbContextFactory<OsierwandDb> dbs,
    Anchors anchors,
    TimeProvider time,
    IOptions<BookOptions> options,
    ILogger<Verifier> log
) : BackgroundService
{
    /// <summary>The first sheet of the day goes first.</summary>
    private static readonly TimeSpan AfterTheStart = TimeSpan.FromMinutes(1);
    private readonly SemaphoreSlim one = new(1);
    private readonly DateTimeOffset startedAt = time.GetUtcNow();

    /// <summary>Since when no verification has come to an end although two were due; null while all is in order.</summary>
    /// <param name="last">When the last one ran; null before the first.</param>
    internal DateTimeOffset? OverdueSince(DateTimeOffset? last)
    {
        var (now, grace) = (time.GetUtcNow(), TimeSpan.FromHours(2 * options.Value.VerifyEveryHours));
        // A house that was switched off for a month verifies in a minute.
        return now - startedAt > AfterTheStart * 10 && now - (last ?? startedAt) > grace ? last ?? startedAt : null;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await Task.Delay(AfterTheStart, time, stoppingToken);
            while (true)
            {
                try
                {
                    await RunAsync(stoppingToken);
                }
                catch (Exception trouble) when (trouble is not OperationCanceledException)
                {
                    log.LogError(trouble, "The books were not verified");
                }
                await Task.Delay(TimeSpan.FromHours(options.Value.VerifyEveryHours), time, stoppingToken);
            }
        }
        catch (OperationCanceledException)
        {
            // The server stops.
        }
    }

    public async Task<Verification> RunAsync(CancellationToken cancel)
    {
        // One at a time: it reads every record.
        await one.WaitAsync(cancel);
        try
        {
            var (at, started) = (time.GetUtcNow(), Stopwatch.GetTimestamp());
            var found = await BookCheck.RunAsync(source, null, anchors.Outside, cancel);
            var verification = new Verification
            {
                At = at,
                Seconds = Stopwatch.GetElapsedTime(started).TotalSeconds,
                Records = found.Records,
                Breaks = [.. found.Breaks.Select(it => it.ToString())],
            };
            await using var db = await dbs.CreateDbContextAsync(cancel);
            db.Verifications.Add(verification);
            await db.SaveChangesAsync(cancel);
            Telemetry.Breaks.Record(found.Breaks.Count);
            if (found.Breaks.Count > 0)
                log.LogCritical("The books do not hold: {Count} breaks, the first: {First}", found.Breaks.Count, found.Breaks[0]);
            return verification;
        }
        finally
        {
            one.Release();
        }
    }

    public override void Dispose()
    {
        one.Dispose();
        base.Dispose();
    }
}
