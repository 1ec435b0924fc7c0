using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Hire;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Hire;

/// <summary>What a fleet's pages ask of an item: not all that the rules know of it, which is dear to read of thousands.</summary>
internal sealed record FleetItem(
    Guid Id,
    string Tag,
    string Name,
    string Room,
    string? Maker,
    string? Model,
    ItemState State,
    DateOnly? Due,
    DateOnly? VisualDue,
    DateOnly? LastTestedOn,
    DateTimeOffset? HeldSince,
    string? HeldWhy,
    int Revision
);

/// <summary>An item of a fleet with where it is.</summary>
internal sealed record Fleeted(FleetItem Item, HireFacts Facts, HireAnswer At)
{
    public FleetCard Card => new(Item.Id, Item.Tag, Item.Name, Item.Room, At.Stage, HireText.Of(At.Stage), At.Why, At.CallBack, Since);

    private DateTimeOffset? Since =>
        At.Stage switch
        {
            HireStage.Out => Facts.Standing.OutSince,
            HireStage.OnTheBench => Facts.Standing.LaidAt,
            HireStage.Ready => Facts.TestedAt,
            HireStage.Repair => Item.HeldSince,
            _ => Facts.Standing.SeenAt ?? Facts.Standing.ReturnedAt,
        };
}

/// <summary>Reads hire items with everything that says where they are.</summary>
internal sealed class HireFleet(OsierwandDb db, TimeProvider time)
{
    /// <summary>Everything that is kept for hire; what a place of hire uses itself stands in another place.</summary>
    public static IQueryable<RegisterItem> Of(OsierwandDb db) => Of(db.Items);

    public static IQueryable<RegisterItem> Of(IQueryable<RegisterItem> items) =>
        items.Where(it => it.Place == Place.Hire && it.PartOf == null);

    public async Task<List<Fleeted>> ReadAsync(IQueryable<RegisterItem> items, CancellationToken cancel)
    {
        var now = time.GetUtcNow();
        var passed = db.Standing().Where(it => it.Outcome == Outcome.Pass || it.Outcome == Outcome.PassWithAdvice);
        var rows = await items
            .AsNoTracking()
            .Select(it => new
            {
                Item = new FleetItem(
                    it.Id,
                    it.Tag,
                    it.Name,
                    it.Room,
                    it.Maker,
                    it.Model,
                    it.State,
                    it.Due,
                    it.VisualDue,
                    it.LastTestedOn,
                    it.HeldSince,
                    it.HeldWhy,
                    it.Revision
                ),
                it.Site.TimeZone,
                School = it.Client.HireTests,
                Hire = db.HireItems.FirstOrDefault(hire => hire.ItemId == it.Id),
                TestedAt = passed.Where(one => one.ItemId == it.Id && one.IsTest).Max(one => (DateTimeOffset?)one.TestedAt),
                PassedAt = passed.Where(one => one.ItemId == it.Id).Max(one => (DateTimeOffset?)one.TestedAt),
                SavedAt = db.Inspections.Where(one => one.ItemId == it.Id).Max(one => (DateTimeOffset?)one.ReceivedAt),
                DiscardedAt = db.DiscardedSheets.Where(one => one.ItemId == it.Id).Max(one => (DateTimeOffset?)one.At),
                Reported = db
                    .UserChecks.Where(check => check.ItemId == it.Id && check.SeenAt == null && check.Report != UserReport.AllGood)
                    // What took it out of use is decided by its hold.
                    .Where(check => !check.TookOutOfUse)
                    .OrderBy(check => check.At)
                    .Select(check => check.Words)
                    .FirstOrDefault(),
                IsLeft = db.DiscardedSheets.Any(sheet => sheet.ItemId == it.Id && sheet.HoldsFailure && sheet.SeenBy == null)
                    || db.HandedSheets.Any(sheet => sheet.ItemId == it.Id && sheet.EndedAt == null && sheet.Failures.Length > 0),
            })
            .ToListAsync(cancel);
        var ids = rows.Select(it => it.Item.Id).ToArray();
        var unsaved = await db.Unsaved().Select(failure => failure.ItemId).Where(id => ids.Contains(id)).ToListAsync(cancel);
        var days = rows.Select(it => it.TimeZone).Distinct().ToDictionary(zone => zone, zone => Site.DayOf(zone, now));
        return
        [
            .. rows.Select(it =>
            {
                var facts = new HireFacts(
                    it.Item.State,
                    it.Item.HeldWhy,
                    it.Hire?.Standing ?? HireStanding.Start,
                    it.TestedAt,
                    it.PassedAt,
                    it.SavedAt > it.DiscardedAt || it.DiscardedAt is null ? it.SavedAt : it.DiscardedAt,
                    it.Item.Due,
                    it.Item.VisualDue,
                    it.Item.LastTestedOn,
                    HireText.Doubt(it.Reported, it.IsLeft || unsaved.Contains(it.Item.Id)),
                    it.School,
                    days[it.TimeZone]
                );
                return new Fleeted(it.Item, facts, HireRule.Of(facts));
            }),
        ];
    }

    /// <param name="number">Of the move among the item's own.</param>
    public static HireMoveRow Row(Guid itemId, int number, Guid person, DoneMove done) =>
        new()
        {
            Id = done.Id,
            ItemId = itemId,
            Number = number,
            At = done.At,
            PersonId = person,
            By = done.By,
            Move = Write(done.Move),
        };

    private static string Write(HireMove move) => JsonSerializer.Serialize(move, MoveJson);

    /// <returns>Null of what another version wrote: it is kept, and not shown.</returns>
    public static HireMove? Read(string move)
    {
        try
        {
            return JsonSerializer.Deserialize<HireMove>(move, MoveJson);
        }
        catch (Exception odd) when (odd is JsonException or NotSupportedException)
        {
            return null;
        }
    }

    private static readonly JsonSerializerOptions MoveJson = new(JsonSerializerDefaults.Web)
    {
        Converters = { new Core.Json.WordConverter<HireSeen>() },
        AllowOutOfOrderMetadataProperties = true,
    };
}
