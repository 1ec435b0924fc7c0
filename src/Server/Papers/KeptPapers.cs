using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Papers;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

/// <param name="Id">Made by the page, so that asking twice makes one.</param>
public sealed record AskForPaper(Guid Id, Guid RoundId, RoundPaper Paper);

/// <summary>A paper that is made or kept.</summary>
/// <param name="Done">Records read of <paramref name="Total"/>, while it is made.</param>
/// <param name="Says">How it stands, in a sentence.</param>
/// <param name="Since">What happened to its records after it was made, a line each; empty while it holds.</param>
public sealed record KeptPaperCard(
    Guid Id,
    RoundPaper Paper,
    string Title,
    Guid RoundId,
    string Client,
    string Site,
    PaperState State,
    string Says,
    int Done,
    int Total,
    string AskedBy,
    DateTimeOffset AskedAt,
    DateTimeOffset? EndedAt,
    int? Bytes,
    bool IsSigned,
    IReadOnlyList<string> Since
);

/// <param name="More">There are older ones that are not listed.</param>
public sealed record KeptPapersPage(IReadOnlyList<KeptPaperCard> Papers, bool More);

/// <summary>Papers that are made in the background and kept as they were handed over.</summary>
internal static class KeptPapers
{
    private const int Listed = 100;

    /// <summary>Of one person: more would only wait for each other.</summary>
    private const int MostWaiting = 20;

    /// <summary>Named one by one; the rest is counted.</summary>
    private const int MostNamed = 3;

    public static void MapKeptPapers(this RouteGroupBuilder api)
    {
        var kept = api.MapGroup("/papers/kept").WithTags("Papers");
        kept.MapGet("/", List).For(Access.Reader);
        kept.MapPost("/", Ask).For(Access.Worker);
        kept.MapGet("/{paperId:guid}", One).For(Access.Reader);
        kept.MapPost("/{paperId:guid}/cancel", Cancel).For(Access.Worker);
        kept.MapGet("/{paperId:guid}/file", File).For(Access.Reader);
    }

    /// <param name="round">Of one round alone.</param>
    private static async Task<Ok<KeptPapersPage>> List(OsierwandDb db, CancellationToken cancel, Guid? round = null)
    {
        var rows = db.KeptPapers.AsNoTracking().Where(it => round == null || it.RoundId == round);
        var cards = await CardsAsync(db, rows.OrderByDescending(it => it.AskedAt).Take(Listed + 1), cancel);
        return TypedResults.Ok(new KeptPapersPage([.. cards.Take(Listed)], cards.Count > Listed));
    }

    private static async Task<Results<Ok<KeptPaperCard>, ProblemHttpResult>> One(Guid paperId, OsierwandDb db, CancellationToken cancel) =>
        await CardsAsync(db, db.KeptPapers.AsNoTracking().Where(it => it.Id == paperId), cancel) is [var card]
            ? TypedResults.Ok(card)
            : Refusals.NotFound("paper");

    private static async Task<Results<Ok<KeptPaperCard>, ProblemHttpResult>> Ask(
        AskForPaper sent,
        OsierwandDb db,
        PaperMaker maker,
        PaperPrinter printer,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        const string Title = "No paper is made.";
        var round = await db.Rounds.Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == sent.RoundId, cancel);
        if (round is null)
            return Refusals.NotFound("round");
        if (await db.KeptPapers.AsNoTracking().FirstOrDefaultAsync(it => it.Id == sent.Id, cancel) is { } known)
            return known.RoundId == sent.RoundId && known.Paper == sent.Paper
                ? await One(sent.Id, db, cancel)
                : Refusals.Of(StatusCodes.Status409Conflict, Title, "Another paper has this number.");
        if (!printer.IsThere)
            return Refusals.Of(StatusCodes.Status503ServiceUnavailable, Title, PaperPrinter.NoBrowser);
        var me = user.Id();
        var waiting = await db.KeptPapers.CountAsync(
            it => it.AskedById == me && (it.State == PaperState.Waiting || it.State == PaperState.Making),
            cancel
        );
        if (waiting >= MostWaiting)
            return Refusals.Of(
                StatusCodes.Status429TooManyRequests,
                Title,
                $"{waiting} papers that you asked for are not made yet. Wait for them or cancel some."
            );
        var title = RoundPapers.Title(sent.Paper, round.Name);
        db.KeptPapers.Add(
            new()
            {
                Id = sent.Id,
                Paper = sent.Paper,
                RoundId = round.Id,
                ClientId = round.Site.ClientId,
                Title = title.Length > KeptPaper.LongestTitle ? title[..KeptPaper.LongestTitle] : title,
                AskedById = me,
                AskedBy = user.DisplayName(),
                AskedAt = time.GetUtcNow(),
                State = PaperState.Waiting,
            }
        );
        trail.Add("paper asked for", round.Name, round.Id, after: new { Paper = Words.Of(sent.Paper) });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException twice) when (twice.InnerException is Npgsql.PostgresException { SqlState: "23505" })
        {
            // The same press, sent twice at once: the other one made it.
            return await One(sent.Id, db, cancel);
        }
        maker.Wake();
        return await One(sent.Id, db, cancel);
    }

    private static async Task<Results<Ok<KeptPaperCard>, ProblemHttpResult>> Cancel(
        Guid paperId,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var now = time.GetUtcNow();
        var rows = await db
            .KeptPapers.Where(it => it.Id == paperId && (it.State == PaperState.Waiting || it.State == PaperState.Making))
            .ExecuteUpdateAsync(
                it => it.SetProperty(row => row.State, PaperState.Cancelled).SetProperty(row => row.EndedAt, (DateTimeOffset?)now),
                cancel
            );
        var card = await One(paperId, db, cancel);
        return rows > 0 || card.Result is ProblemHttpResult or Ok<KeptPaperCard> { Value.State: PaperState.Cancelled }
            ? card
            : Refusals.Of(StatusCodes.Status409Conflict, "Nothing was called off.", "It is made, or has failed, already.");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> File(
        Guid paperId,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        var found = await db
            .KeptPapers.Where(it => it.Id == paperId)
            .Select(it => new
            {
                it.Title,
                it.AskedAt,
                File = db.KeptPaperFiles.FirstOrDefault(file => file.Id == it.Id),
            })
            .FirstOrDefaultAsync(cancel);
        if (found is null)
            return Refusals.NotFound("paper");
        return found.File is { } file
            ? TypedResults.File(file.Pdf, "application/pdf", $"{ItemPapers.FileName(found.Title)}-{found.AskedAt:yyyy-MM-dd}.pdf")
            : Refusals.Of(StatusCodes.Status409Conflict, "There is no file.", "It is not made yet, or was called off, or has failed.");
    }

    private static async Task<List<KeptPaperCard>> CardsAsync(OsierwandDb db, IQueryable<KeptPaper> papers, CancellationToken cancel)
    {
        var rows = await papers
            .Select(it => new
            {
                Paper = it,
                Client = it.Round.Site.Client.Name,
                Site = it.Round.Site.Name,
            })
            .ToListAsync(cancel);
        var rounds = rows.Where(it => it.Paper.State == PaperState.Ready).Select(it => it.Paper.RoundId).Distinct().ToArray();
        // What came into a round, and what takes back a record of it, whichever round that is in.
        var later = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Corrects != null && db.Inspections.Any(of => of.Id == it.Corrects && rounds.Contains(of.RoundId)))
            .Select(it => new
            {
                Round = db.Inspections.First(of => of.Id == it.Corrects).RoundId,
                it.BookNumber,
                Of = (long?)db.Inspections.First(of => of.Id == it.Corrects).BookNumber,
            })
            .Concat(
                db.Inspections.Where(it => it.Corrects == null && rounds.Contains(it.RoundId))
                    .GroupBy(it => it.RoundId)
                    .Select(it => new
                    {
                        Round = it.Key,
                        BookNumber = it.Max(one => one.BookNumber),
                        Of = (long?)null,
                    })
            )
            .OrderBy(it => it.BookNumber)
            .ToListAsync(cancel);
        var byRound = later.ToLookup(it => it.Round);
        return
        [
            .. rows.Select(row =>
            {
                var it = row.Paper;
                var since = byRound[it.RoundId].Where(one => it.State == PaperState.Ready && one.BookNumber > it.UpTo).ToArray();
                return new KeptPaperCard(
                    it.Id,
                    it.Paper,
                    it.Title,
                    it.RoundId,
                    row.Client,
                    row.Site,
                    it.State,
                    Says(it),
                    it.Done,
                    it.Total,
                    it.AskedBy,
                    it.AskedAt,
                    it.EndedAt,
                    it.Bytes,
                    it.IsSigned,
                    Since([.. since.Where(one => one.Of != null).Select(one => one.Of!.Value)], since.Any(one => one.Of == null))
                );
            }),
        ];
    }

    private static string[] Since(long[] corrected, bool hasMore) =>
        [
            .. corrected.Take(MostNamed).Select(number => $"Record {number} was corrected since. Make the paper again."),
            .. corrected.Length > MostNamed ? [$"{corrected.Length - MostNamed} more records were corrected since."] : (string[])[],
            .. hasMore ? ["Records came into the round since. Make the paper again."] : (string[])[],
        ];

    private static string Says(KeptPaper it) =>
        it.State switch
        {
            PaperState.Waiting => "waits for its turn",
            PaperState.Making when it.Total > 0 && it.Done < it.Total => $"record {it.Done} of {it.Total}",
            PaperState.Making when it.Total > 0 => "is being printed",
            PaperState.Making => "is being made",
            PaperState.Ready => it.IsSigned ? "signed" : "made before the round was signed: for the house alone",
            PaperState.Cancelled => "called off",
            _ => it.Trouble ?? "failed",
        };
}
