using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Hire;
using Osierwand.Core.Looking;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.Looking;
using Osierwand.Server.People;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Register;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Hire;

/// <summary>Hire fleets: the pile that came back, the counter where things go out, and how much is ready.</summary>
internal static class HireEndpoints
{
    private const string Title = "Nothing was done.";

    /// <summary>Of a list on the page; the rest is counted.</summary>
    private const int MostShown = 40;

    /// <summary>Of one stage, when it is asked for.</summary>
    private const int MostOfStage = 200;
    private const int MostMoves = 30;

    public static void MapHire(this RouteGroupBuilder api)
    {
        var hire = api.MapGroup("/hire").WithTags("Hire");
        hire.MapGet("/", Fleet).For(Access.Reader);
        hire.MapGet("/fleets", Fleets).For(Access.Reader);
        hire.MapGet("/items", Items).For(Access.Reader);
        hire.MapGet("/scan", Scan).For(Access.Worker);
        hire.MapGet("/{itemId:guid}", Story).For(Access.Reader);
        hire.MapPost("/{itemId:guid}/moves", Move).For(Access.Worker);
        hire.MapPut("/clients/{client}/school", Choose).For(Access.Lead);
    }

    /// <summary>Whoever keeps one, of those that may be seen.</summary>
    private static Task<List<Client>> OwnersAsync(OsierwandDb db, CancellationToken cancel)
    {
        var owners = HireFleet.Of(db).Select(it => it.ClientId);
        return db.Clients.AsNoTracking().Where(it => owners.Contains(it.Id)).OrderBy(it => it.Name).ToListAsync(cancel);
    }

    private static async Task<Ok<List<ClientName>>> Fleets(OsierwandDb db, CancellationToken cancel) =>
        TypedResults.Ok((await OwnersAsync(db, cancel)).ConvertAll(it => new ClientName(it.Code, it.Name)));

    private static async Task<Results<Ok<FleetPage>, ProblemHttpResult>> Fleet(
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel,
        string? client = null
    )
    {
        var fleets = await OwnersAsync(db, cancel);
        if ((client is null ? fleets.FirstOrDefault() : fleets.Find(it => it.Code == client)) is not { } chosen)
            return client is null
                ? Refusals.Of(
                    StatusCodes.Status404NotFound,
                    "There is no hire fleet yet.",
                    "Items whose place is hire make one. Register them with that place, or move them there."
                )
                : Refusals.NotFound("fleet");
        var read = await new HireFleet(db, time).ReadAsync(HireFleet.Of(db).Where(it => it.ClientId == chosen.Id), cancel);
        return TypedResults.Ok(
            new FleetPage(
                new(chosen.Code, chosen.Name),
                [.. fleets.Select(it => new ClientName(it.Code, it.Name))],
                chosen.HireTests,
                [.. Enum.GetValues<HireTests>().Select(it => new SchoolChoice(it, HireText.Of(it)))],
                read.Count,
                Stages(read, empty: true),
                [
                    .. read.Where(it => it.At.Stage != HireStage.Scrapped)
                        .GroupBy(it => it.Item.Name)
                        .Select(kind => new FleetKind(
                            kind.Key,
                            kind.Count(),
                            kind.Count(it => it.At.Stage == HireStage.Ready),
                            Stages(kind, empty: false)
                        ))
                        .OrderBy(it => (double)it.Ready / it.Items)
                        .ThenBy(it => it.Name, StringComparer.OrdinalIgnoreCase),
                ],
                Cards(read.Where(it => it.At.CallBack is not null), read.Count),
                Cards(
                    read.Where(it => it.At is { Stage: HireStage.Out, CallBack: null } && it.Facts.Standing.BackBy < it.Facts.Today),
                    MostShown
                ),
                Cards(read.Where(it => it.At.Stage == HireStage.ForTheBench), MostShown),
                await db
                    .Rounds.Where(it => it.State == RoundState.Open && it.Site.ClientId == chosen.Id)
                    .OrderBy(it => it.EndsOn)
                    .Select(it => (Guid?)it.Id)
                    .FirstOrDefaultAsync(cancel),
                Verdicts(withDigits: !read.Exists(it => HireVerdict.IsDigit(it.Item.Tag)))
            )
        );
    }

    private static List<FleetStage> Stages(IEnumerable<Fleeted> of, bool empty)
    {
        var counts = of.ToLookup(it => it.At.Stage);
        return
        [
            .. Enum.GetValues<HireStage>()
                .Select(stage => new FleetStage(stage, HireText.Of(stage), counts[stage].Count()))
                .Where(it => empty || it.Items > 0),
        ];
    }

    /// <summary>The longest where it is first.</summary>
    private static FleetPart Cards(IEnumerable<Fleeted> of, int most)
    {
        var all = of.Select(it => it.Card).ToArray();
        return new(
            all.Length,
            [.. all.OrderBy(it => it.Since ?? DateTimeOffset.MaxValue).ThenBy(it => it.Tag, StringComparer.OrdinalIgnoreCase).Take(most)]
        );
    }

    /// <param name="withDigits">No item of the fleet has a tag that a digit could be.</param>
    private static List<VerdictCode> Verdicts(bool withDigits) =>
        [
            .. HireVerdict.All.Select(it => new VerdictCode(
                it.Code,
                withDigits ? it.Digit : null,
                it.Text,
                it.Seen,
                it.OnlyCounts,
                it.WantsWords
            )),
        ];

    /// <summary>What is in one stage, the one that is longest in it first.</summary>
    private static async Task<Ok<FleetPart>> Items(
        string client,
        Word<HireStage> stage,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var read = await new HireFleet(db, time).ReadAsync(HireFleet.Of(db).Where(it => it.Client.Code == client), cancel);
        return TypedResults.Ok(Cards(read.Where(it => it.At.Stage == stage.Value), MostOfStage));
    }

    private static async Task<Results<Ok<HireCard>, ProblemHttpResult>> Scan(
        string client,
        string tag,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var meant = await Tags.MeantAsync(db, tag, cancel);
        if (!meant.TryGet(out var read))
            return Refusals.Invalid("This is not a tag.", meant.Fault!);
        var lower = read.ToLowerInvariant();
#pragma warning disable CA1304, CA1311, CA1862 // runs in the database, on the index over lower(tag)
        var own = db.Items.Where(it => it.Client.Code == client && it.Tag.ToLower() == lower);
#pragma warning restore CA1304, CA1311, CA1862
        var found = await new HireFleet(db, time).ReadAsync(HireFleet.Of(own), cancel);
        if (found is not [var it])
            return Refusals.Of(
                StatusCodes.Status404NotFound,
                $"{read} is in no hire fleet of this client.",
                await own.AnyAsync(cancel)
                    ? "It stands in the register in another place. Move it to a place of hire, or lay it aside."
                    : "No item of the register has this tag. Lay it aside; it is registered in a round."
            );
        return TypedResults.Ok(
            new HireCard(
                it.Card,
                string.Join(" ", new[] { it.Item.Maker, it.Item.Model }.OfType<string>()) is { Length: > 0 } model ? model : null,
                HireRule.Refusal(it.At, HireMoveKind.LookedAt),
                HireRule.Refusal(it.At, HireMoveKind.Returned),
                HireRule.Refusal(it.At, HireMoveKind.Issued),
                it.Item.Due,
                await LookAtAsync(db, it.Item.Id, cancel)
            )
        );
    }

    /// <summary>By the standard of its site's last round; nothing where there was none.</summary>
    private static async Task<IReadOnlyList<string>> LookAtAsync(OsierwandDb db, Guid itemId, CancellationToken cancel)
    {
        var item = await db.Items.AsNoTracking().FirstAsync(it => it.Id == itemId, cancel);
        var round = await db.Rounds.Where(it => it.SiteId == item.SiteId).OrderByDescending(it => it.StartsOn).FirstOrDefaultAsync(cancel);
        if (round?.PackIdFor(item.Equipment) is not { } packId || PackLibrary.Find(packId) is not { } pack)
            return [];
        return [.. LookList.For(item.Equipment, pack, await LookBook.StandingAsync(db, cancel)).Select(it => $"{it.Where}: {it.Text}")];
    }

    private static async Task<Results<Ok<HireStory>, NoContent, ProblemHttpResult>> Story(
        Guid itemId,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (!await db.Items.AnyAsync(it => it.Id == itemId, cancel))
            return Refusals.NotFound("item");
        if (await OneAsync(db, time, itemId, cancel) is not { } it)
            return TypedResults.NoContent();
        var moves = await db
            .HireMoves.AsNoTracking()
            .Where(move => move.ItemId == itemId)
            .OrderByDescending(move => move.Number)
            .Take(MostMoves)
            .ToListAsync(cancel);
        return TypedResults.Ok(
            new HireStory(
                it.Card,
                [
                    .. moves.Select(move => new HireLine(
                        move.At,
                        move.By,
                        HireFleet.Read(move.Move) is { } read ? HireText.Of(read) : "written by another version"
                    )),
                ]
            )
        );
    }

    private static async Task<Fleeted?> OneAsync(OsierwandDb db, TimeProvider time, Guid itemId, CancellationToken cancel) =>
        (await new HireFleet(db, time).ReadAsync(HireFleet.Of(db).Where(it => it.Id == itemId), cancel)).SingleOrDefault();

    /// <returns>Why an item is not laid on a bench, or null: what is out with a customer is hardly the thing in hand.</returns>
    internal static async Task<string?> WhyNotLaidAsync(OsierwandDb db, TimeProvider time, Guid itemId, CancellationToken cancel) =>
        await db.HireItems.AnyAsync(it => it.ItemId == itemId && it.OutSince != null, cancel)
        && await OneAsync(db, time, itemId, cancel) is { } it
            ? HireRule.Refusal(it.At, HireMoveKind.Laid)
            : null;

    private static async Task<Results<Ok<HireMoved>, ProblemHttpResult>> Move(
        Guid itemId,
        MakeHireMove sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await OneAsync(db, time, itemId, cancel) is not { } before)
            return Refusals.NotFound("item of a hire fleet");
        if (await db.HireMoves.AsNoTracking().FirstOrDefaultAsync(it => it.Id == sent.Id, cancel) is { } known)
            return known.ItemId == itemId && HireFleet.Read(known.Move) == sent.Move
                ? TypedResults.Ok(Moved(before, sent.Move))
                : Refusals.Of(StatusCodes.Status409Conflict, Title, "This number is another move's. Scan it again.");
        var allowed = HireRule.Do(before.At, sent.Move);
        if (allowed.Fault is { Path: "move" } refused)
            return Refusals.Of(StatusCodes.Status409Conflict, Title, refused.Message);
        if (!allowed.TryGet(out var steps))
            return Refusals.Invalid(Title, allowed.Fault!);
        try
        {
            if (!await KeepAsync(db, trail, user, before, sent, steps, time.GetUtcNow(), cancel))
                return Refusals.Of(
                    StatusCodes.Status409Conflict,
                    Title,
                    $"{before.Item.Tag} was inspected or taken out of use just now. Scan it again."
                );
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusals.Of(StatusCodes.Status409Conflict, Title, "Somebody else has just scanned it. Scan it again.");
        }
        db.ChangeTracker.Clear();
        return TypedResults.Ok(Moved((await OneAsync(db, time, itemId, cancel))!, sent.Move));
    }

    private static HireMoved Moved(Fleeted now, HireMove move) =>
        new(
            now.Card,
            HireText.After(move, now.At),
            move is Issued issued ? HireRule.Warning(now.Item.Due, issued.BackBy) : null,
            HireRule.TakesOutOfUse(move) is not null
        );

    /// <summary>The moves, what they come to, and what was seen to be bad out of use: all of it or nothing.</summary>
    /// <returns>False where the item moved on since it was looked up: nothing was kept.</returns>
    private static async Task<bool> KeepAsync(
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        Fleeted before,
        MakeHireMove sent,
        IReadOnlyList<HireMove> steps,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var item = before.Item;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // Its row is held until the move is kept: what was ready when it was looked up may be recalled or fail at this moment.
        var rows = await db
            .Items.Where(it => it.Id == item.Id && it.Revision == item.Revision)
            .ExecuteUpdateAsync(it => it.SetProperty(row => row.Revision, row => row.Revision), cancel);
        if (rows == 0)
            return false;
        var standing = before.Facts.Standing;
        foreach (var step in steps)
        {
            var done = new DoneMove(step == sent.Move ? sent.Id : Guid.CreateVersion7(), now, user.DisplayName(), step);
            standing = standing.After(done);
            db.HireMoves.Add(HireFleet.Row(item.Id, standing.Moves, user.Id(), done));
        }
        if (await db.HireItems.FirstOrDefaultAsync(it => it.ItemId == item.Id, cancel) is not { } row)
            db.HireItems.Add(row = new() { ItemId = item.Id });
        row.Standing = standing;
        trail.Add("hire", item.Tag, item.Id, after: new { Done = HireText.Of(sent.Move) });
        await db.SaveChangesAsync(cancel);
        if (HireRule.TakesOutOfUse(sent.Move) is { } why)
            await db
                .Items.Where(it => it.Id == item.Id && it.HeldCause == null)
                .ExecuteUpdateAsync(it => it.TakeOut(sent.Id, HeldBy.HireReturn, why, now, user.DisplayName()), cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Choose(
        string client,
        ChooseHireTests sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        if (await db.Clients.FirstOrDefaultAsync(it => it.Code == client, cancel) is not { } row)
            return Refusals.NotFound("client");
        if (string.IsNullOrWhiteSpace(sent.Reason))
            return Refusals.Invalid(Title, new Fault("reason", "Say in a few words why."));
        if ((KeptText.Refusal(sent.Reason, HireMove.LongestText) ?? KeptText.Unseen(sent.Reason)) is { } why)
            return Refusals.Invalid(Title, new Fault("reason", why));
        var before = row.HireTests;
        row.HireTests = sent.School;
        trail.Add(
            "tests of a hire fleet chosen",
            row.Name,
            row.Id,
            new { School = HireText.Of(before) },
            new { School = HireText.Of(sent.School), sent.Reason }
        );
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }
}
