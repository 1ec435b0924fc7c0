using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Looking;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Rounds;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Register;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Quarantine;

/// <summary>What is out of use: made safe, mended, scrapped or returned. Nothing here puts an item back into service.</summary>
internal static class QuarantineEndpoints
{
    /// <summary>Of a pile; the rest is counted, and found by its client.</summary>
    private const int MostShown = 60;
    private const string Title = "Nothing was done.";

    private static readonly (Stage Stage, string Means)[] Piles =
    [
        (Stage.NotSafe, "Somebody may still plug it in"),
        (Stage.Held, "Red tag on, nobody can use it"),
        (Stage.InRepair, "Away or on the workbench"),
        (Stage.Repaired, "Mended, not tested since"),
        (Stage.Returned, "The client has it, with its warning"),
    ];

    public static void MapQuarantine(this RouteGroupBuilder api)
    {
        var quarantine = api.MapGroup("/quarantine").WithTags("Quarantine");
        quarantine.MapGet("/", Board).For(Access.Reader);
        quarantine.MapGet("/{itemId:guid}", Story).For(Access.Reader);
        quarantine.MapPost("/{itemId:guid}/acts", Act).For(Access.Worker);
        quarantine.MapPost("/recall", Recall).For(Access.Lead);
    }

    private static async Task<Ok<QuarantineBoard>> Board(OsierwandDb db, TimeProvider time, CancellationToken cancel, string? client = null)
    {
        var now = time.GetUtcNow();
        var items = db.Items.AsNoTracking();
        if (!string.IsNullOrEmpty(client))
            items = items.Where(it => it.Client.Code == client);
        var held = items.Where(it => it.Stage != null && it.Stage != Stage.Scrapped);
        var totals = await held.GroupBy(it => it.Stage!.Value)
            .Select(it => new { Stage = it.Key, Count = it.Count() })
            .ToDictionaryAsync(it => it.Stage, it => it.Count, cancel);
        var cards = await CardsAsync(db, held, now, cancel);
        var piles = Piles
            .Select(pile => new QuarantinePile(
                pile.Stage,
                QuarantineText.Of(pile.Stage),
                pile.Means,
                Hold.Usual(pile.Stage),
                Hold.IsToBeTested(pile.Stage),
                totals.GetValueOrDefault(pile.Stage),
                [.. cards[pile.Stage]]
            ))
            .ToList();
        var clients = await db.Clients.OrderBy(it => it.Name).Select(it => new ClientName(it.Code, it.Name)).ToListAsync(cancel);
        return TypedResults.Ok(
            new QuarantineBoard(piles, await ReportsAsync(db, items, now, cancel), await FlagsAsync(db, items, now, cancel), clients)
        );
    }

    /// <summary>The oldest of every pile, in one question.</summary>
    private static async Task<ILookup<Stage, HeldCard>> CardsAsync(
        OsierwandDb db,
        IQueryable<RegisterItem> held,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var oldest = Piles
            .Select(pile => held.Where(it => it.Stage == pile.Stage).OrderBy(it => it.HeldSince).ThenBy(it => it.Tag).Take(MostShown))
            .Aggregate((all, pile) => all.Concat(pile));
        var rows = await oldest
            .Select(it => new
            {
                it.Id,
                it.Stage,
                it.Tag,
                it.Name,
                it.HeldWhy,
                it.HeldBy,
                it.HeldSince,
                Client = it.Client.Name,
                Place = it.Site.Name + ", " + it.Room,
                Last = db
                    .QuarantineActs.Where(act => act.ItemId == it.Id && act.Cause == it.HeldCause)
                    .OrderByDescending(act => act.At)
                    .FirstOrDefault(),
                Round = db
                    .Rounds.Where(open => open.SiteId == it.SiteId && open.State == RoundState.Open)
                    .OrderBy(open => open.EndsOn)
                    .Select(open => (Guid?)open.Id)
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        return rows.OrderBy(it => it.HeldSince)
            .ThenBy(it => it.Tag, StringComparer.OrdinalIgnoreCase)
            .ToLookup(
                it => it.Stage!.Value,
                it => new HeldCard(
                    it.Id,
                    it.Tag,
                    it.Name,
                    it.Client,
                    it.Place,
                    it.HeldWhy ?? "",
                    QuarantineText.Of(it.HeldBy ?? HeldBy.FailedInspection),
                    DaysSince(it.HeldSince ?? now, now),
                    it.Last is { } last && Holds.Read(last) is { } done ? QuarantineText.Of(done.Act) : null,
                    it.Round
                )
            );
    }

    private static int DaysSince(DateTimeOffset then, DateTimeOffset now) => Math.Max(0, (int)(now - then).TotalDays);

    /// <summary>Damage that nobody of the house has decided about, of items that are still in use.</summary>
    private static async Task<List<ReportedCard>> ReportsAsync(
        OsierwandDb db,
        IQueryable<RegisterItem> items,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var rows = await (
            from check in db.UserChecks.AsNoTracking()
            join item in items on check.ItemId equals item.Id
            where check.SeenAt == null && check.Report != UserReport.AllGood && item.State == ItemState.InService
            orderby check.At
            select new
            {
                Check = check,
                item.Tag,
                item.Name,
                Place = item.Site.Name + ", " + item.Room,
            }
        )
            .Take(MostShown)
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(it => new ReportedCard(
                it.Check.Id,
                it.Check.ItemId,
                it.Tag,
                it.Name,
                it.Place,
                it.Check.Words,
                it.Check.From,
                DaysSince(it.Check.At, now)
            )),
        ];
    }

    private static async Task<List<DriftCard>> FlagsAsync(
        OsierwandDb db,
        IQueryable<RegisterItem> items,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var rows = await (
            from flag in db.ReviewFlags.AsNoTracking()
            join item in items on flag.Inspection.ItemId equals item.Id
            join check in db.KitChecks on flag.KitCheckId equals check.Id
            where flag.SeenBy == null
            orderby flag.At
            select new
            {
                flag.Id,
                check.KitItemId,
                ItemId = item.Id,
                item.Tag,
                item.Name,
                Place = item.Site.Name + ", " + item.Room,
                flag.Why,
                flag.At,
            }
        )
            .Take(MostShown)
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(it => new DriftCard(it.Id, it.KitItemId, it.ItemId, it.Tag, it.Name, it.Place, it.Why, DaysSince(it.At, now))),
        ];
    }

    private static async Task<Results<Ok<HoldStory>, NoContent, ProblemHttpResult>> Story(
        Guid itemId,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        if (await db.Items.AsNoTracking().FirstOrDefaultAsync(it => it.Id == itemId, cancel) is not { } item)
            return Refusals.NotFound("item");
        return await Holds.OfAsync(db, item, cancel) is { } hold ? TypedResults.Ok(Told(hold)) : TypedResults.NoContent();
    }

    private static HoldStory Told(Hold hold) =>
        new(
            hold.Cause.Id,
            hold.Stage,
            QuarantineText.Of(hold.Stage),
            QuarantineText.Of(hold.Cause.Kind),
            hold.Cause.Words,
            hold.Cause.Since,
            hold.Cause.By,
            [.. hold.Acts.Select(Holds.Line)],
            hold.May,
            Hold.Usual(hold.Stage),
            [.. QuarantineText.Choices(hold.Ways, QuarantineText.Of)],
            [.. QuarantineText.Choices(Enum.GetValues<ScrappedHow>(), QuarantineText.Of)],
            QuarantineText.WhoIsTold,
            QuarantineText.WhoRepairs,
            QuarantineText.UsualWarning(hold.Cause.Kind)
        );

    private static async Task<Results<Ok<HoldStory>, ProblemHttpResult>> Act(
        Guid itemId,
        DoAct sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await db.Items.AsNoTracking().FirstOrDefaultAsync(it => it.Id == itemId, cancel) is not { } item)
            return Refusals.NotFound("item");
        if (await Holds.OfAsync(db, item, cancel) is not { } hold)
            return Refusals.Of(StatusCodes.Status409Conflict, Title, $"{item.Tag} is in service: there is nothing to act on.");
        if (hold.Acts.Any(done => done.Id == sent.Id))
            return TypedResults.Ok(Told(hold));
        if (hold.Cause.Id != sent.Cause)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                Title,
                $"{item.Tag} failed again meanwhile, and what is done is done about that. Look at it again; what you entered is kept here."
            );
        var with = hold.With(new(sent.Id, time.GetUtcNow(), user.DisplayName(), sent.Act));
        if (!with.TryGet(out var next))
            return Refusals.Invalid(Title, with.Fault!);
        if (sent.Act is Scrapped { Photo: { } photo } && !await db.Photos.AnyAsync(it => it.Id == photo && it.ItemId == itemId, cancel))
            return Refusals.Invalid(Title, new Fault("photo", "This photo is not kept with this item. Take it again."));
        return await Holds.KeepAsync(db, item, hold, next, trail, user, cancel) switch
        {
            null => TypedResults.Ok(Told(next)),
            { } why => Refusals.Of(StatusCodes.Status409Conflict, Title, why),
        };
    }

    /// <summary>Everything of a model, or those serials of it; what is out of use already stays so for its own reason.</summary>
    private static async Task<Results<Ok<Recalled>, ProblemHttpResult>> Recall(
        RecallItems sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        const string title = "Nothing was recalled.";
        if (string.IsNullOrWhiteSpace(sent.Maker) || string.IsNullOrWhiteSpace(sent.Model))
            return Refusals.Invalid(title, new Fault("model", "Say maker and model."));
        var said = HoldCause.OfRecall(sent.Words, sent.Reference);
        if (!said.TryGet(out var why))
            return Refusals.Invalid(title, said.Fault!);
        var serials = sent.Serials.Select(it => it.Trim().ToLowerInvariant()).Where(it => it.Length > 0).Distinct().ToArray();
        var ofModel = db.Items.OfModel(sent.Maker, sent.Model).Where(it => it.State != ItemState.Scrapped);
#pragma warning disable CA1304, CA1311 // runs in the database
        if (serials.Length > 0)
            ofModel = ofModel.Where(it => it.Serial != null && serials.Contains(it.Serial.ToLower()));
#pragma warning restore CA1304, CA1311
        var items = await ofModel
            .Select(it => new
            {
                it.Id,
                it.Tag,
                it.Serial,
                it.State,
                it.HeldCause,
            })
            .ToListAsync(cancel);
        if (items.Count == 0)
            return Refusals.Invalid(
                title,
                new Fault("model", "The register has none of this maker and model, or none with these serials.")
            );
        var fresh = items.Where(it => it.State is ItemState.InService or ItemState.Lost).Select(it => it.Id).ToArray();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var by = user.DisplayName();
        await db
            .Items.Where(it => fresh.Contains(it.Id) && it.HeldCause == null)
            .ExecuteUpdateAsync(row => row.TakeOut(sent.Id, HeldBy.Recall, why, time.GetUtcNow(), by), cancel);
        var taken = await db.Items.Where(it => it.HeldCause == sent.Id).Select(it => it.Tag).Order().ToListAsync(cancel);
        trail.Add(
            "recall",
            $"{sent.Maker} {sent.Model}",
            sent.Id,
            after: new
            {
                sent.Words,
                sent.Reference,
                taken,
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(
            new Recalled(
                taken,
                items.Count - taken.Count,
                [.. serials.Where(serial => !items.Exists(it => it.Serial?.ToLowerInvariant() == serial))]
            )
        );
    }
}
