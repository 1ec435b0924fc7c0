using Osierwand.Store.Entities;

namespace Osierwand.Store;

/// <summary>What was measured and failed, and nobody has answered for.</summary>
public static class UnsavedFailures
{
    /// <summary>Neither in a record that stands nor explained by a lead. Also of what has no tag yet.</summary>
    public static IQueryable<MeasuredFailure> Unsaved(this OsierwandDb db) =>
        OsierwandDb
            .WithLoose(db.MeasuredFailures)
            .Where(failure =>
                !db.SettledFailures.Any(settled =>
                    settled.FailureId == failure.Id
                    && (settled.RecordId == null || db.Standing().Any(record => record.Id == settled.RecordId))
                )
            );
}
