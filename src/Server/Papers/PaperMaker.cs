using Microsoft.AspNetCore.Components.Web;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Papers;
using Osierwand.Core.Rounds;
using Osierwand.Server.Rounds;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

/// <summary>
/// Makes the papers that wait, one at a time, oldest first. Several servers on one database share the work; what a server that stopped
/// left half made is taken up by the next, once, and then said to have failed. Nothing half made is kept.
/// </summary>
internal sealed class PaperMaker(IServiceScopeFactory scopes, PaperPrinter printer, TimeProvider time, ILogger<PaperMaker> log)
    : BackgroundService
{
    private const int MostTries = 2;
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan Silence = TimeSpan.FromSeconds(30);
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(10);
    private readonly SemaphoreSlim asked = new(0, 1);

    /// <summary>Somebody asked for a paper: it is looked for at once.</summary>
    public void Wake()
    {
        try
        {
            asked.Release();
        }
        catch (SemaphoreFullException)
        {
            // It will look anyway.
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            while (true)
            {
                try
                {
                    // A server that cannot print leaves the work to one that can.
                    while (printer.IsThere && await TakeAsync(stoppingToken) is { } paper)
                        await MakeAsync(paper, stoppingToken);
                }
                catch (Exception trouble) when (trouble is not OperationCanceledException)
                {
                    log.LogError(trouble, "No paper could be made; it is tried again");
                }
                await asked.WaitAsync(Idle, stoppingToken);
            }
        }
        catch (OperationCanceledException)
        {
            // The server stops; what it was making is taken up by the next.
        }
    }

    private async Task<T> InHouseAsync<T>(Func<OsierwandDb, IServiceProvider, Task<T>> work)
    {
        await using var scope = scopes.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<Sight>().VisibleTo(house: true, []);
        return await work(scope.ServiceProvider.GetRequiredService<OsierwandDb>(), scope.ServiceProvider);
    }

    /// <summary>The oldest that waits, or that nobody has been heard of for; null where there is none.</summary>
    private Task<KeptPaper?> TakeAsync(CancellationToken cancel) =>
        InHouseAsync(
            async (db, _) =>
            {
                while (true)
                {
                    var now = time.GetUtcNow();
                    var left = now - Silence;
                    var next = await db
                        .KeptPapers.AsNoTracking()
                        .Where(it => it.State == PaperState.Waiting || (it.State == PaperState.Making && it.BeatAt < left))
                        .OrderBy(it => it.AskedAt)
                        .FirstOrDefaultAsync(cancel);
                    if (next is null)
                        return null;
                    var (state, tries, isLost) = (next.State, next.Tries, next.Tries >= MostTries);
                    var mine = await db
                        .KeptPapers.Where(it => it.Id == next.Id && it.State == state && it.Tries == tries)
                        .ExecuteUpdateAsync(
                            it =>
                                it.SetProperty(row => row.State, isLost ? PaperState.Failed : PaperState.Making)
                                    .SetProperty(row => row.Tries, tries + 1)
                                    .SetProperty(row => row.BeatAt, (DateTimeOffset?)now)
                                    .SetProperty(row => row.EndedAt, isLost ? (DateTimeOffset?)now : null)
                                    .SetProperty(
                                        row => row.Trouble,
                                        isLost ? "The server stopped twice while it was made. Ask for it again." : null
                                    ),
                            cancel
                        );
                    if (mine == 1 && !isLost)
                        return next;
                }
            }
        );

    private async Task MakeAsync(KeptPaper paper, CancellationToken stopping)
    {
        using var making = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        using var made = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        var watch = WatchAsync(paper.Id, making, made.Token);
        try
        {
            await InHouseAsync(
                async (db, services) =>
                {
                    await PrintAsync(paper, db, services, making.Token);
                    return true;
                }
            );
        }
        catch (OperationCanceledException) when (!stopping.IsCancellationRequested)
        {
            // Somebody called it off; its row says so already.
        }
        catch (Exception trouble) when (trouble is not OperationCanceledException)
        {
            if (trouble is not (PrinterException or UnreadableRecordException))
                log.LogError(trouble, "The paper {Paper} was not made", paper.Id);
            await FailAsync(
                paper.Id,
                trouble is PrinterException or UnreadableRecordException
                    ? trouble.Message
                    : "Something failed while it was made. Nothing was kept; ask for it again."
            );
        }
        finally
        {
            await made.CancelAsync();
            await watch;
        }
    }

    private async Task PrintAsync(KeptPaper paper, OsierwandDb db, IServiceProvider services, CancellationToken cancel)
    {
        // Looked at before the records are: what is saved meanwhile counts as later.
        var upTo = await db.Books.Where(it => it.ClientId == paper.ClientId).Select(it => it.Number).FirstOrDefaultAsync(cancel);
        var isForClient =
            paper.Paper == LongPaper.Register
            || (paper.Paper != LongPaper.Packing && await db.RoundSignatures.AnyAsync(it => it.RoundId == paper.RoundId, cancel));
        var html = await HtmlAsync(paper, db, services, cancel) ?? throw new PrinterException("What it was to be made of is gone.");
        var pdf = await printer.PdfAsync(html, cancel);
        var now = time.GetUtcNow();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var kept = await db
            .KeptPapers.Where(it => it.Id == paper.Id && it.State == PaperState.Making)
            .ExecuteUpdateAsync(
                it =>
                    it.SetProperty(row => row.State, PaperState.Ready)
                        .SetProperty(row => row.EndedAt, (DateTimeOffset?)now)
                        .SetProperty(row => row.UpTo, upTo)
                        .SetProperty(row => row.IsForClient, isForClient)
                        .SetProperty(row => row.Bytes, (int?)pdf.Length),
                cancel
            );
        if (kept == 0)
            return;
        db.KeptPaperFiles.Add(new() { Id = paper.Id, Pdf = pdf });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private async Task<string?> HtmlAsync(KeptPaper paper, OsierwandDb db, IServiceProvider services, CancellationToken cancel)
    {
        var renderer = services.GetRequiredService<HtmlRenderer>();
        if (paper.RoundId is not { } roundId)
            return await db.Clients.FirstOrDefaultAsync(it => it.Id == paper.ClientId, cancel) is { } owner
                ? await RegisterPapers.HtmlAsync(renderer, db, owner, time, cancel)
                : null;
        return await RoundPapers.HtmlAsync(
            renderer,
            services.GetRequiredService<RoundReports>(),
            services.GetRequiredService<RoundPlanning>(),
            roundId,
            paper.Paper,
            (done, total) => TellAsync(paper.Id, done, total, cancel),
            cancel
        );
    }

    /// <summary>By a connection of its own: the records are being read by the other one.</summary>
    private Task<int> TellAsync(Guid id, int done, int total, CancellationToken cancel) =>
        InHouseAsync(
            (db, _) =>
                db
                    .KeptPapers.Where(it => it.Id == id && it.State == PaperState.Making)
                    .ExecuteUpdateAsync(it => it.SetProperty(row => row.Done, done).SetProperty(row => row.Total, total), cancel)
        );

    private Task<int> FailAsync(Guid id, string why) =>
        InHouseAsync(
            (db, _) =>
            {
                var now = time.GetUtcNow();
                return db
                    .KeptPapers.Where(it => it.Id == id && it.State == PaperState.Making)
                    .ExecuteUpdateAsync(it =>
                        it.SetProperty(row => row.State, PaperState.Failed)
                            .SetProperty(row => row.EndedAt, (DateTimeOffset?)now)
                            .SetProperty(row => row.Trouble, why)
                    );
            }
        );

    /// <summary>Says that it is being made, and hears that it was called off.</summary>
    private async Task WatchAsync(Guid id, CancellationTokenSource making, CancellationToken until)
    {
        try
        {
            while (true)
            {
                await Task.Delay(Beat, time, until);
                var now = time.GetUtcNow();
                var isWanted = await InHouseAsync(
                    (db, _) =>
                        db
                            .KeptPapers.Where(it => it.Id == id && it.State == PaperState.Making)
                            .ExecuteUpdateAsync(it => it.SetProperty(row => row.BeatAt, (DateTimeOffset?)now), until)
                );
                if (isWanted == 0)
                    await making.CancelAsync();
            }
        }
        catch (OperationCanceledException)
        {
            // It is made, or the server stops.
        }
        catch (Exception trouble) when (trouble is Npgsql.NpgsqlException or DbUpdateException or InvalidOperationException)
        {
            log.LogWarning(trouble, "Nobody hears that the paper {Paper} is being made", id);
        }
    }
}
