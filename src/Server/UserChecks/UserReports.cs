using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Looking;
using Osierwand.Core.Quarantine;
using Osierwand.Server.Hosting;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.UserChecks;

/// <summary>Keeps what an equipment user saw, and takes out of use what is dangerous.</summary>
internal sealed class UserReports(OsierwandDb db, Trail trail, TimeProvider time)
{
    /// <param name="item">With its site.</param>
    /// <param name="name">Who looked; empty where they gave none.</param>
    public async Task<Results<Ok<UserCheckKept>, ProblemHttpResult>> KeepAsync(
        RegisterItem item,
        SendUserCheck sent,
        string name,
        CancellationToken cancel
    )
    {
        if (Wrong(sent) is { } fault)
            return Refusals.Invalid("Not sent.", fault);
        if (await db.UserChecks.AsNoTracking().FirstOrDefaultAsync(it => it.Id == sent.Id, cancel) is { } known)
            return known.ItemId == item.Id && known.Report == sent.Report && known.Words == sent.Words.Trim()
                ? TypedResults.Ok(new UserCheckKept(known.TookOutOfUse))
                // Never taken for what was said before: "dangerous" after "good" would be lost.
                : Refusals.Of(StatusCodes.Status409Conflict, "Not sent.", "This number is another report's. Send it again.");
        var now = time.GetUtcNow();
        var check = new UserCheck
        {
            Id = sent.Id,
            ItemId = item.Id,
            At = now,
            Report = sent.Report,
            Words = sent.Words.Trim(),
            // Whoever is signed in may have a longer name than a code's page takes.
            Name = name.Trim() is { Length: > UserCheck.LongestName } longer ? $"{longer[..(UserCheck.LongestName - 1)]}…" : name.Trim(),
        };
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        check.TookOutOfUse =
            UserLook.TakesOutOfUse(sent.Report)
            && await db
                .Items.Where(it => it.Id == item.Id && it.State == ItemState.InService)
                .ExecuteUpdateAsync(set => set.TakeOut(check.Id, HeldBy.UserReport, check.Words, now, check.From), cancel) > 0;
        // Whatever they found, they looked.
        var day = item.Site.DayOf(now);
        await db.Items.Where(it => it.Id == item.Id).ExecuteUpdateAsync(set => set.SetProperty(it => it.LastUserCheckOn, day), cancel);
        db.UserChecks.Add(check);
        trail.Add(
            check.TookOutOfUse ? "item taken out of use by a user's report" : "user's report",
            item.Tag,
            item.Id,
            after: new
            {
                Report = Words.Of(sent.Report),
                sent.Words,
                check.Name,
            }
        );
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusals.Of(StatusCodes.Status409Conflict, "Sent already.", "The same report is kept; nothing was stored twice.");
        }
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new UserCheckKept(check.TookOutOfUse));
    }

    private static Fault? Wrong(SendUserCheck sent) =>
        sent.Words.Length > UserCheck.LongestWords || sent.Name.Length > UserCheck.LongestName
            ? new("words", $"At most {UserCheck.LongestWords} characters, and {UserCheck.LongestName} for a name.")
        : UserLook.WantsWords(sent.Report) && string.IsNullOrWhiteSpace(sent.Words) ? new("words", "Say in a few words what is wrong.")
        : KeptText.Unseen(sent.Words) is not null || KeptText.Unseen(sent.Name) is not null
            ? new("words", "Something in the text cannot be shown. Type it anew.")
        : null;
}
