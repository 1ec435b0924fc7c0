using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Osierwand.Server.Kit;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>What was laid on the bench, with the rows it came from.</summary>
internal sealed record Laid(Ruling Ruling, RegisterItem Item, Round Round, Client Client);

/// <summary>Gathers everything that decides, once, when an item goes on the bench; and again when it is saved, to see that nothing
/// moved.</summary>
public sealed class Rulings(OsierwandDb db, InstrumentLine line, TimeProvider time)
{
    /// <summary>How many earlier inspections the trend and the rail look back on.</summary>
    private const int LookBack = 12;

    /// <returns>The ruling, or why this item is not laid on the bench in this round. The fault's path is "notFound" where there is no
    /// such thing.</returns>
    internal async Task<Result<Laid>> LayAsync(Guid itemId, Guid roundId, Worker technician, CancellationToken cancel)
    {
        var item = await db
            .Items.AsNoTracking()
            .Include(it => it.Client)
            .Include(it => it.Site)
            .FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        var round = item is null
            ? null
            : await db.Rounds.AsNoTracking().FirstOrDefaultAsync(it => it.Id == roundId && it.SiteId == item.SiteId, cancel);
        if (item is null || round is null)
            return new Fault("notFound", "There is no such item in this round.");
        if (round.ClosedOn is { } closed)
            return new Fault("round", $"This round was closed on {closed:yyyy-MM-dd}. Open the item in a round that is open.");
        if (item.State == ItemState.Scrapped)
            return new Fault("item", $"{item.Tag} is scrapped. It is not inspected again; register what replaces it.");
        if (round.PackIdFor(item.Equipment) is not { } packId)
            return new Fault(
                "standard",
                "This round has no standard for medical devices, and none is taken for granted. A lead opens a round with one."
            );
        return await RuleAsync(item, round, packId, technician, cancel);
    }

    /// <summary>For the item's page: by an open round, or the last one it was inspected in.</summary>
    internal async Task<Laid?> LookBackAsync(RegisterItem item, Round round, CancellationToken cancel) =>
        round.PackIdFor(item.Equipment) is { } packId
            ? await RuleAsync(item, round, packId, new(Guid.Empty, "", "", false, []), cancel)
            : null;

    private async Task<Laid> RuleAsync(RegisterItem item, Round round, string packId, Worker technician, CancellationToken cancel)
    {
        var client = item.Client;
        var history = await db.Standing()
            .AsNoTracking()
            .Where(it => it.ItemId == item.Id)
            .OrderByDescending(it => it.TestedAt)
            .Take(LookBack)
            .Select(it => new
            {
                it.Day,
                it.Outcome,
                it.IsTest,
                it.NearLimit,
                it.Rising,
                it.Taken,
            })
            .ToListAsync(cancel);
        history.Reverse();
        var left = await db
            .DiscardedSheets.AsNoTracking()
            .Where(it => it.ItemId == item.Id && it.HoldsFailure && it.SeenBy == null)
            .OrderByDescending(it => it.At)
            .Select(it => new
            {
                it.Person,
                it.At,
                it.Reason,
                it.Failures,
            })
            .FirstOrDefaultAsync(cancel);
        // Whoever took a sheet over has it before their eyes; for everybody else it is a failure that nobody has ended.
        var handed = await db
            .HandedSheets.AsNoTracking()
            .Where(it =>
                it.ItemId == item.Id
                && it.EndedAt == null
                && it.Failures.Length > 0
                && (it.TakenById == null || it.TakenById != technician.Id)
            )
            .OrderByDescending(it => it.At)
            .Select(it => new
            {
                it.Person,
                it.At,
                it.TakenBy,
                it.Failures,
            })
            .FirstOrDefaultAsync(cancel);
        var ruling = new Ruling
        {
            Item = new(
                item.Id,
                item.Tag,
                item.Name,
                item.Maker,
                item.Model,
                item.Serial,
                item.Site.Name,
                item.Room,
                item.Evidence,
                item.State,
                item.Revision,
                item.Equipment,
                left is not null
                        ? $"A run sheet with a failure was discarded by {left.Person} on {left.At:yyyy-MM-dd} ({left.Reason}): {string.Join("; ", left.Failures)}"
                    : handed is not null
                        ? $"A run sheet with a failure was handed over by {handed.Person} on {handed.At:yyyy-MM-dd} and {(handed.TakenBy is null ? "nobody has taken it" : $"{handed.TakenBy} has it")}: {string.Join("; ", handed.Failures)}"
                    : null
            ),
            Round = new(round.Id, round.Name, client.Id, client.Name, client.Code, item.Site.TimeZone),
            PackId = packId,
            PackVersion = PackLibrary.Find(packId)?.Version ?? "",
            House = await HousePacks.AllAsync(db, cancel),
            Policy = client.Policy,
            DecisionRule = client.DecisionRule,
            Scope = Scopes.Usual(item.State),
            School = School.ApplianceTester,
            Kit = await KitAsync(cancel),
            Technician = technician,
            History =
            [
                .. history
                    .Where(it => it.Outcome is not Outcome.NotTested)
                    .SelectMany(it => BenchJson.ReadPast(it.Taken).TryGet(out var past) ? past : []),
            ],
            Basis = new(
                item.Place,
                item.Usage,
                item.Moved,
                item.Users,
                client.CapMonths,
                item.Due,
                item.VisualDue,
                item.IntervalMonths,
                client.LabelSchool == LabelSchool.WithNextDate,
                [
                    .. history
                        .Where(it => it.IsTest && it.Outcome is Outcome.Pass or Outcome.PassWithAdvice or Outcome.Fail)
                        .Select(it => new PastTest(
                            it.Day,
                            it.Outcome == Outcome.Fail ? Verdict.Fail : Verdict.Pass,
                            it.NearLimit,
                            it.Rising
                        )),
                ],
                history.Count
            ),
            Today = item.Site.DayOf(time.GetUtcNow()),
        };
        return new(ruling, item, round, client);
    }

    /// <summary>Null where the house has no instrument: readings are typed.</summary>
    private async Task<KitInHand?> KitAsync(CancellationToken cancel)
    {
        if (await db.Instruments.AsNoTracking().OrderBy(it => it.Name).FirstOrDefaultAsync(cancel) is not { } it)
            return null;
        var identity = await line.IdentityAsync(cancel);
        var today = DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime);
        var trouble =
            Calibration.IsOut(it.CalibrationDue, today) ? $"Calibration ran out on {it.CalibrationDue:yyyy-MM-dd}: it cannot be used."
            : KitEndpoints.NullOf(it) is not { } lead ? null
            : lead.IsAccepted ? null
            : $"The lead's null of {lead.Value.Value} ohm hides a bad lead: null again.";
        return new(
            it.Id,
            it.Name,
            it.Serial,
            it.CalibrationDue,
            it.TestLeadName,
            it.NullOhm,
            it.NulledAt,
            [.. identity?.Functions ?? []],
            AccuraciesOf(it),
            trouble,
            identity is not null
        );
    }

    private static ImmutableArray<StatedAccuracy> AccuraciesOf(Instrument it) =>
        JsonSerializer.Deserialize<ImmutableArray<StatedAccuracy>>(it.Accuracies, Stored);

    internal static readonly JsonSerializerOptions Stored = new(JsonSerializerDefaults.Web)
    {
        Converters = { new System.Text.Json.Serialization.JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
    };
}
