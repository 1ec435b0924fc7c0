using System.Collections.Immutable;
using System.Security.Claims;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Query;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Quarantine;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Quarantine;

/// <summary>Items out of use: why, and what was done since. The cause stands in the item's row, the acts in a table of their own.</summary>
internal static class Holds
{
    /// <summary>Takes an item out of use, by a statement over its row.</summary>
    /// <param name="cause">Of the report or the recall.</param>
    public static UpdateSettersBuilder<RegisterItem> TakeOut(
        this UpdateSettersBuilder<RegisterItem> row,
        Guid cause,
        HeldBy by,
        string why,
        DateTimeOffset at,
        string from
    ) =>
        row.SetProperty(it => it.State, ItemState.Quarantined)
            .SetProperty(it => it.HeldCause, (Guid?)cause)
            .SetProperty(it => it.HeldBy, (HeldBy?)by)
            .SetProperty(it => it.HeldWhy, why)
            .SetProperty(it => it.HeldSince, (DateTimeOffset?)at)
            .SetProperty(it => it.HeldFrom, from)
            .SetProperty(it => it.Stage, (Stage?)Stage.NotSafe)
            .SetProperty(it => it.Revision, it => it.Revision + 1);

    /// <returns>Null of an item in service.</returns>
    public static async Task<Hold?> OfAsync(OsierwandDb db, RegisterItem item, CancellationToken cancel)
    {
        return CauseOf(item) is { } cause ? new(cause, item.Equipment.IsHardWired, await ActsAsync(db, item.Id, cause.Id, cancel)) : null;
    }

    private static async Task<ImmutableArray<DoneAct>> ActsAsync(OsierwandDb db, Guid itemId, Guid cause, CancellationToken cancel)
    {
        var rows = await db
            .QuarantineActs.AsNoTracking()
            .Where(it => it.ItemId == itemId && it.Cause == cause)
            .OrderBy(it => it.At)
            .ThenBy(it => it.Id)
            .ToListAsync(cancel);
        return [.. rows.Select(Read).OfType<DoneAct>()];
    }

    /// <summary>What was ever done about an item out of use, the last first, whatever it was held for.</summary>
    public static async Task<List<ActLine>> EverAsync(OsierwandDb db, Guid itemId, int most, CancellationToken cancel)
    {
        var rows = await db
            .QuarantineActs.AsNoTracking()
            .Where(it => it.ItemId == itemId)
            .OrderByDescending(it => it.At)
            .Take(most)
            .ToListAsync(cancel);
        return [.. rows.Select(Read).OfType<DoneAct>().Select(Line)];
    }

    public static ActLine Line(DoneAct done) => new(done.Id, done.At, done.By, QuarantineText.Of(done.Act));

    /// <summary>For a ruling: what a passed inspection after repair will close.</summary>
    public static async Task<HeldOn?> OnBenchAsync(OsierwandDb db, RegisterItem item, CancellationToken cancel) =>
        await OfAsync(db, item, cancel) is not { } hold || hold.Stage == Stage.Scrapped
            ? null
            : new(hold.Cause.Id, hold.Cause.Words, item.Site.DayOf(hold.Cause.Since), hold.Repair);

    /// <summary>Appends the last act and moves the item with it, all or nothing.</summary>
    /// <returns>Why nothing was kept, or null.</returns>
    public static async Task<string?> KeepAsync(
        OsierwandDb db,
        RegisterItem item,
        Hold before,
        Hold after,
        Trail trail,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var done = after.Acts[^1];
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await db
            .Items.Where(it => it.Id == item.Id && it.HeldCause == before.Cause.Id && it.Revision == item.Revision)
            .ExecuteUpdateAsync(
                row =>
                    row.SetProperty(it => it.State, after.State)
                        .SetProperty(it => it.Stage, (Stage?)after.Stage)
                        .SetProperty(it => it.Revision, it => it.Revision + 1),
                cancel
            );
        if (rows == 0)
            return "Somebody acted on it meanwhile. Look at it again; what you entered is kept here.";
        db.QuarantineActs.Add(Row(item.Id, before.Cause.Id, done, user));
        trail.Add("quarantine", item.Tag, item.Id, after: new { Done = QuarantineText.Of(done.Act) });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>What was mended and told at the bench belongs to the failure's story, whatever came of the test. Where the item is held for
    /// it still, it stands as repaired; a failure of its own or a pass has moved it on already.</summary>
    public static async Task KeepRepairAsync(
        OsierwandDb db,
        ItemOnBench laid,
        BenchState state,
        IReadOnlyList<BenchEvent> events,
        Trail trail,
        ClaimsPrincipal user,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        if (laid.Held is not { } held || state.Repair is not { } said || events.OfType<RepairTold>().LastOrDefault() is not { } told)
            return;
        if (await db.QuarantineActs.AnyAsync(it => it.Id == told.Id, cancel))
            return;
        var done = new DoneAct(told.Id, now, user.DisplayName(), Repaired.Of(said));
        var item = await db.Items.AsNoTracking().FirstAsync(it => it.Id == laid.Id, cancel);
        try
        {
            if (await OfAsync(db, item, cancel) is { } hold && hold.Cause.Id == held.Cause)
            {
                if (hold.With(done).TryGet(out var next))
                    await KeepAsync(db, item, hold, next, trail, user, cancel);
                return;
            }
            db.QuarantineActs.Add(Row(laid.Id, held.Cause, done, user));
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // Sent twice at once: it is kept already.
        }
    }

    /// <summary>As an item stood, with how far it is by every act there is now: one may have been added since.</summary>
    public static async Task<ItemStanding> ByActsAsync(OsierwandDb db, RegisterItem item, ItemStanding then, CancellationToken cancel)
    {
        if (then.Held is not { } held)
            return then;
        var hold = new Hold(Cause(held), item.Equipment.IsHardWired, await ActsAsync(db, item.Id, held.Cause, cancel));
        return then with { State = $"{hold.State}", Held = held with { Stage = $"{hold.Stage}" } };
    }

    private static HoldCause Cause(HeldFor it) => new(it.Cause, Enum.Parse<HeldBy>(it.By), it.Why, it.Since, it.From);

    private static QuarantineRow Row(Guid itemId, Guid cause, DoneAct done, ClaimsPrincipal user) =>
        new()
        {
            Id = done.Id,
            ItemId = itemId,
            Cause = cause,
            At = done.At,
            PersonId = user.Id(),
            By = done.By,
            Act = Write(done.Act),
        };

    public static HoldCause? CauseOf(RegisterItem it) =>
        it is { HeldCause: { } cause, HeldSince: { } since }
            ? new(cause, it.HeldBy ?? HeldBy.FailedInspection, it.HeldWhy ?? "", since, it.HeldFrom ?? "")
            : null;

    /// <summary>What this version cannot read is kept and not shown.</summary>
    public static DoneAct? Read(QuarantineRow row)
    {
        try
        {
            return JsonSerializer.Deserialize<QuarantineAct>(row.Act, ActJson) is { } act ? new(row.Id, row.At, row.By, act) : null;
        }
        catch (Exception odd) when (odd is JsonException or NotSupportedException)
        {
            return null;
        }
    }

    public static string Write(QuarantineAct act) => JsonSerializer.Serialize(act, ActJson);

    private static readonly JsonSerializerOptions ActJson = new(JsonSerializerDefaults.Web)
    {
        Converters = { new Core.Json.WordConverter<MadeUnusable>(), new Core.Json.WordConverter<ScrappedHow>() },
        AllowOutOfOrderMetadataProperties = true,
    };
}
