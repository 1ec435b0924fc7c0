using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Papers;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

/// <param name="Id">Made by the page, so that asking twice makes one.</param>
public sealed record AskForPaper(Guid Id, Guid RoundId, LongPaper Paper);

/// <param name="Id">Made by the page, so that asking twice makes one.</param>
/// <param name="Client">Code of the client.</param>
public sealed record AskForRegister(Guid Id, string Client);

/// <summary>A paper that is made or kept.</summary>
/// <param name="Done">Records read of <paramref name="Total"/>, while it is made.</param>
/// <param name="Says">How it stands, in a sentence.</param>
/// <param name="RoundId">Null where it is of a client; so is its site.</param>
/// <param name="Since">What happened to its records after it was made, a line each; empty while it holds.</param>
public sealed record KeptPaperCard(
    Guid Id,
    LongPaper Paper,
    string Title,
    Guid? RoundId,
    string Client,
    string? Site,
    PaperState State,
    string Says,
    int Done,
    int Total,
    string AskedBy,
    DateTimeOffset AskedAt,
    DateTimeOffset? EndedAt,
    int? Bytes,
    bool IsForClient,
    IReadOnlyList<string> Since
);

/// <param name="More">There are older ones that are not listed.</param>
/// <param name="Clients">Whose register can be read.</param>
public sealed record KeptPapersPage(IReadOnlyList<KeptPaperCard> Papers, bool More, IReadOnlyList<Register.ClientName> Clients);

/// <summary>Papers that are made in the background and kept as they were handed over.</summary>
internal static class KeptPapers
{
    private const int Listed = 100;

    /// <summary>Named one by one; the rest is counted.</summary>
    private const int MostNamed = 3;

    public static void MapKeptPapers(this RouteGroupBuilder api)
    {
        var kept = api.MapGroup("/papers/kept").WithTags("Papers");
        kept.MapGet("/", List).For(Access.Reader);
        kept.MapPost("/", Ask).For(Access.Worker);
        kept.MapPost("/register", AskRegister).For(Access.Reader);
        kept.MapGet("/{paperId:guid}", One).For(Access.Reader);
        kept.MapPost("/{paperId:guid}/cancel", Cancel).For(Access.Worker);
        kept.MapGet("/{paperId:guid}/file", File).For(Access.Reader);
    }

    /// <param name="round">Of one round alone.</param>
    private static async Task<Ok<KeptPapersPage>> List(OsierwandDb db, CancellationToken cancel, Guid? round = null)
    {
        var rows = db.KeptPapers.AsNoTracking().Where(it => round == null || it.RoundId == round);
        var cards = await CardsAsync(db, rows.OrderByDescending(it => it.AskedAt).Take(Listed + 1), cancel);
        var clients = await db.Clients.OrderBy(it => it.Name).Select(it => new Register.ClientName(it.Code, it.Name)).ToListAsync(cancel);
        return TypedResults.Ok(new KeptPapersPage([.. cards.Take(Listed)], cards.Count > Listed, clients));
    }

    private static async Task<Results<Ok<KeptPaperCard>, ProblemHttpResult>> One(Guid paperId, OsierwandDb db, CancellationToken cancel) =>
        await CardsAsync(db, db.KeptPapers.AsNoTracking().Where(it => it.Id == paperId), cancel) is [var card]
            ? TypedResults.Ok(card)
            : Refusals.NotFound("paper");

    private const string NotMade = "No paper is made.";

    private static async Task<Results<Ok<KeptPaperCard>, ProblemHttpResult>> Ask(
        AskForPaper sent,
        OsierwandDb db,
        PaperQueue queue,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        if (sent.Paper == LongPaper.Register)
            return Refusals.Invalid(NotMade, new Fault("paper", "A register is of a client, not of a round."));
        var round = await db.Rounds.AsNoTracking().Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == sent.RoundId, cancel);
        return round is null
            ? Refusals.NotFound("round")
            : await KeepAsync(new(sent.Id, sent.Paper, round.Id, round.Site.ClientId, round.Name), db, queue, user, cancel);
    }

    private static async Task<Results<Ok<KeptPaperCard>, ProblemHttpResult>> AskRegister(
        AskForRegister sent,
        OsierwandDb db,
        PaperQueue queue,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        await db.Clients.AsNoTracking().FirstOrDefaultAsync(it => it.Code == sent.Client, cancel) is { } client
            ? await KeepAsync(new(sent.Id, LongPaper.Register, null, client.Id, client.Name), db, queue, user, cancel)
            : Refusals.NotFound("client");

    private static async Task<Results<Ok<KeptPaperCard>, ProblemHttpResult>> KeepAsync(
        WantedPaper wanted,
        OsierwandDb db,
        PaperQueue queue,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        await queue.AddAsync(wanted, user.Id(), user.DisplayName(), cancel) switch
        {
            null => await One(wanted.Id, db, cancel),
            { } refusal => Refusals.Of(refusal.Status, NotMade, refusal.Why),
        };

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
                Client = it.Client.Name,
                Site = it.Round == null ? null : it.Round.Site.Name,
            })
            .ToListAsync(cancel);
        var ready = rows.Select(it => it.Paper).Where(it => it.State == PaperState.Ready).ToArray();
        var rounds = ready.Select(it => it.RoundId).OfType<Guid>().Distinct().ToArray();
        var owners = ready.Where(it => it.Paper == LongPaper.Register).Select(it => it.ClientId).Distinct().ToArray();
        var books = await db.Books.Where(it => owners.Contains(it.ClientId)).ToDictionaryAsync(it => it.ClientId, it => it.Number, cancel);
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
                var since = it is { State: PaperState.Ready, Paper: not LongPaper.Packing, RoundId: { } roundId }
                    ? byRound[roundId].Where(one => one.BookNumber > it.UpTo).ToArray()
                    : [];
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
                    it.IsForClient,
                    it.Paper == LongPaper.Register && it.State == PaperState.Ready
                        ? SinceOf(books.GetValueOrDefault(it.ClientId) - it.UpTo)
                        : Since([.. since.Where(one => one.Of != null).Select(one => one.Of!.Value)], since.Any(one => one.Of == null))
                );
            }),
        ];
    }

    private static string[] SinceOf(long records) =>
        records <= 0
            ? []
            : [$"{(records == 1 ? "One record" : $"{records} records")} came into the client's book since. Make the paper again."];

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
            PaperState.Ready when it.Paper == LongPaper.Packing => "for the house alone",
            PaperState.Ready when it.Paper == LongPaper.Register => "as the register stood then",
            PaperState.Ready => it.IsForClient ? "signed" : "made before the round was signed: for the house alone",
            PaperState.Cancelled => "called off",
            _ => it.Trouble ?? "failed",
        };
}
