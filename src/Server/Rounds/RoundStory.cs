using Microsoft.EntityFrameworkCore;
using Osierwand.Store;

namespace Osierwand.Server.Rounds;

/// <summary>Whether anything ever happened in a round: then it stays, for what happened points to it.</summary>
internal static class RoundStory
{
    /// <returns>Whether there is a record (one taken back and findings too), a sheet that was discarded or handed over, a measurement that
    /// failed, or a paper.</returns>
    public static async Task<bool> IsAnyAsync(OsierwandDb db, Guid roundId, CancellationToken cancel) =>
        await db.Inspections.IgnoreQueryFilters().AnyAsync(record => record.RoundId == roundId, cancel)
        || await db.DiscardedSheets.IgnoreQueryFilters().AnyAsync(sheet => sheet.RoundId == roundId, cancel)
        || await db.HandedSheets.IgnoreQueryFilters().AnyAsync(sheet => sheet.RoundId == roundId, cancel)
        || await db.MeasuredFailures.IgnoreQueryFilters().AnyAsync(failure => failure.RoundId == roundId, cancel)
        || await db.KeptPapers.IgnoreQueryFilters().AnyAsync(paper => paper.RoundId == roundId, cancel);
}
