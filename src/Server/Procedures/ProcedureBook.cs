using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Procedures;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Procedures;

/// <summary>What may be chosen for an item on the bench.</summary>
/// <param name="Usual">Made for its model; taken without asking.</param>
/// <param name="Offered">The newest version of each that fits it or is made for its model.</param>
/// <param name="Earlier">Superseded or retired so lately that a sheet may still run them.</param>
internal sealed record ProceduresFor(Procedure? Usual, ImmutableArray<Procedure> Offered, ImmutableArray<Procedure> Earlier);

/// <summary>The house's procedures, as a bench asks for them.</summary>
internal static class ProcedureBook
{
    /// <summary>As long as a bench without a line is believed.</summary>
    private static readonly TimeSpan SheetLives = TimeSpan.FromDays(31);

    /// <summary>The next version of a procedure, to be saved with whatever else is.</summary>
    /// <param name="row">The procedure's own; null for its first version.</param>
    public static void Add(OsierwandDb db, ProcedureRow? row, Procedure procedure, string reason, string by, DateTimeOffset at)
    {
        if (row is null)
            db.Procedures.Add(row = new() { Id = procedure.Id });
        row.Newest = procedure.Version;
        db.ProcedureVersions.Add(
            new()
            {
                ProcedureId = procedure.Id,
                Version = procedure.Version,
                PackId = procedure.PackId,
                Name = procedure.Name,
                Text = procedure.ToJson(),
                Reason = reason.Trim(),
                By = by,
                At = at,
            }
        );
    }

    public static async Task<ProceduresFor> ForAsync(
        OsierwandDb db,
        RegisterItem item,
        string packId,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var since = now - SheetLives;
        var rows = await (
            from version in db.ProcedureVersions.AsNoTracking()
            join procedure in db.Procedures on version.ProcedureId equals procedure.Id
            let successor = db
                .ProcedureVersions.Where(later => later.ProcedureId == version.ProcedureId && later.Version == version.Version + 1)
                .Select(later => (DateTimeOffset?)later.At)
                .FirstOrDefault()
            where version.PackId == packId
            where (procedure.RetiredAt ?? now) > since && (successor ?? now) > since
            orderby version.Name, version.ProcedureId
            select new { version.Text, IsStanding = procedure.RetiredAt == null && version.Version == procedure.Newest }
        ).ToListAsync(cancel);
        var known = rows.Select(row => (Procedure: Procedure.Read(row.Text), row.IsStanding))
            .Where(it => it.Procedure.Fault is null)
            .Select(it => (Procedure: it.Procedure.Value, it.IsStanding))
            .ToArray();
        bool IsFor(Procedure it) => it.IsMadeFor(item.Maker, item.Model);
        bool Fits(Procedure it) => ProcedureRules.Refusal(it, item.Equipment, packId) is null;
        var standing = known.Where(it => it.IsStanding).Select(it => it.Procedure).OrderBy(it => IsFor(it) ? 0 : 1).ToArray();
        return new(
            standing.FirstOrDefault(it => IsFor(it) && Fits(it)),
            [.. standing.Where(it => IsFor(it) || Fits(it))],
            [.. known.Where(it => !it.IsStanding).Select(it => it.Procedure)]
        );
    }
}
