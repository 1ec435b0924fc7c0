using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.UserChecks;

/// <summary>How often items are looked at by their users, by the standard that was last chosen at their site.</summary>
/// <param name="packs">By site; none where no round ever was.</param>
internal sealed class Rhythms(IReadOnlyDictionary<Guid, RulePack?> packs)
{
    /// <param name="site">Null for all that are to be seen.</param>
    public static async Task<Rhythms> OfSitesAsync(OsierwandDb db, CancellationToken cancel, Guid? site = null)
    {
        var rounds = db.Rounds.AsNoTracking();
        if (site is { } one)
            rounds = rounds.Where(it => it.SiteId == one);
        var latest = await rounds
            .GroupBy(it => it.SiteId)
            .Select(all =>
                all.OrderBy(it => it.ClosedOn != null)
                    .ThenByDescending(it => it.StartsOn)
                    .Select(it => new { it.SiteId, it.StandardId })
                    .First()
            )
            .ToListAsync(cancel);
        return new(latest.ToDictionary(it => it.SiteId, it => PackLibrary.Find(it.StandardId)));
    }

    public UserRhythm Of(RegisterItem it) => Of(it.SiteId, it.Place, it.Equipment.Use, it.Equipment.Kind);

    public UserRhythm Of(Guid site, Place place, UseOf use, ItemKind kind) =>
        Core.Intervals.UserChecks.Of(place, use, kind, packs.GetValueOrDefault(site));

    /// <param name="use">As the database has it.</param>
    public UserRhythm Of(Guid site, Place place, string use, string kind) =>
        Of(site, place, Words.Find<UseOf>(use) ?? UseOf.Portable, Words.Find<ItemKind>(kind) ?? ItemKind.Appliance);
}
