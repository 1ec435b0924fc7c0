using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Papers;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

/// <summary>A paper that somebody asks for.</summary>
/// <param name="RoundId">Null where it is of a client.</param>
/// <param name="Of">Name of the round or the client.</param>
internal sealed record WantedPaper(Guid Id, LongPaper Paper, Guid? RoundId, Guid ClientId, string Of);

internal sealed record PaperRefusal(int Status, string Why);

/// <summary>Papers that wait for <see cref="PaperMaker"/>.</summary>
internal sealed class PaperQueue(OsierwandDb db, PaperMaker maker, PaperPrinter printer, Trail trail, TimeProvider time)
{
    /// <summary>Of one person: more would only wait for each other.</summary>
    private const int MostWaiting = 20;

    /// <returns>Why it is not made; null where it waits, or was asked for already.</returns>
    public async Task<PaperRefusal?> AddAsync(WantedPaper wanted, Guid person, string name, CancellationToken cancel)
    {
        if (await db.KeptPapers.AsNoTracking().FirstOrDefaultAsync(it => it.Id == wanted.Id, cancel) is { } known)
            return (known.RoundId, known.ClientId, known.Paper) == (wanted.RoundId, wanted.ClientId, wanted.Paper)
                ? null
                : new(StatusCodes.Status409Conflict, "Another paper has this number.");
        if (!printer.IsThere)
            return new(StatusCodes.Status503ServiceUnavailable, PaperPrinter.NoBrowser);
        var waiting = await db.KeptPapers.CountAsync(
            it => it.AskedById == person && (it.State == PaperState.Waiting || it.State == PaperState.Making),
            cancel
        );
        if (waiting >= MostWaiting)
            return new(
                StatusCodes.Status429TooManyRequests,
                $"{waiting} papers that you asked for are not made yet. Wait for them or cancel some."
            );
        var title = RoundPapers.Title(wanted.Paper, wanted.Of);
        db.KeptPapers.Add(
            new()
            {
                Id = wanted.Id,
                Paper = wanted.Paper,
                RoundId = wanted.RoundId,
                ClientId = wanted.ClientId,
                Title = title.Length > KeptPaper.LongestTitle ? title[..KeptPaper.LongestTitle] : title,
                AskedById = person,
                AskedBy = name,
                AskedAt = time.GetUtcNow(),
                State = PaperState.Waiting,
                // A register needs no signature: whoever asks for it reads it, also while it is made.
                IsForClient = wanted.Paper == LongPaper.Register,
            }
        );
        trail.Add("paper asked for", wanted.Of, wanted.RoundId ?? wanted.ClientId, after: new { Paper = Words.Of(wanted.Paper) });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException twice) when (twice.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // The same press, sent twice at once: the other one made it.
            return null;
        }
        maker.Wake();
        return null;
    }
}
