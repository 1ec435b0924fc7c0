using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Rounds;
using Osierwand.Server.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>All items: finding, listing, registering, and each one's story.</summary>
internal static class RegisterEndpoints
{
    private const int LargestPage = 200;
    private const int LastPage = 100_000;

    public static void MapRegister(this RouteGroupBuilder api)
    {
        var register = api.MapGroup("/register").WithTags("Register");
        register.MapGet("/", List).For(Access.Reader);
        register.MapGet("/scan", Scan).For(Access.Reader);
        register.MapGet("/form", Form).For(Access.Worker);
        register.MapGet("/same-model", SameModelAs).For(Access.Worker);
        register
            .MapPost("/class", (Core.Equipment.ClassFacts seen) => TypedResults.Ok(Core.Equipment.ClassHelper.Of(seen)))
            .For(Access.Worker);
        register.MapPost("/", Register).For(Access.Worker);
        register.MapPost("/{itemId:guid}/move", Moving.Move).For(Access.Worker);
        register.MapPost("/{itemId:guid}/facts", Correction.Correct).For(Access.Worker);
        register.MapPut("/{itemId:guid}/members", Systems.Set).For(Access.Worker);
        register.MapPost("/{itemId:guid}/alike", AlikeEndpoints.Alike).For(Access.Worker);
        register
            .MapGet(
                "/evidence",
                () =>
                    TypedResults.Ok(
                        new CorrectionForm(PhrasesOnOffer.Classes(Core.Standards.Dialect.Plain), PhrasesOnOffer.ReasonsForFacts)
                    )
            )
            .For(Access.Worker);
        register
            .MapGet(
                "/{itemId:guid}",
                async Task<Results<Ok<ItemPage>, ProblemHttpResult>> (
                    Guid itemId,
                    ClaimsPrincipal user,
                    OsierwandDb db,
                    Rulings rulings,
                    TimeProvider time,
                    CancellationToken cancel
                ) =>
                    await ItemStory.TellAsync(itemId, user.IsInRole(Person.Lead), db, rulings, time, cancel) is { } page
                        ? TypedResults.Ok(page)
                        : Refusals.NotFound("item")
            )
            .For(Access.Reader);
    }

    private static async Task<Ok<RegisterPage>> List(
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel,
        string? search = null,
        string? client = null,
        Word<ItemState>? state = null,
        Word<DueFilter>? due = null,
        Word<RegisterOrder>? order = null,
        bool descending = false,
        int page = 0,
        int pageSize = 50
    )
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        (page, pageSize) = (Math.Clamp(page, 0, LastPage), Math.Clamp(pageSize, 1, LargestPage));
        var items = db.Items.AsNoTracking();
        if (!string.IsNullOrWhiteSpace(search))
        {
            foreach (var word in search.Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(6))
            {
                var like = $"%{Like.Escape(word)}%";
                items = items.Where(it => EF.Functions.ILike(it.Words, like, Like.EscapedBy));
            }
        }
        if (!string.IsNullOrEmpty(client))
            items = items.Where(it => it.Client.Code == client);
        if (state is { Value: var wanted })
            items = items.Where(it => it.State == wanted);
        var soon = today.AddDays((await HousePacks.RulesAsync(db, cancel)).DueWindow);
        items = due?.Value switch
        {
            DueFilter.Overdue => items.Where(it => it.Due < today && it.State == ItemState.InService),
            DueFilter.Soon => items.Where(it => it.Due >= today && it.Due <= soon && it.State == ItemState.InService),
            DueFilter.NeverTested => items.Where(it => it.LastTestedOn == null),
            _ => items,
        };
        var total = await items.CountAsync(cancel);
        // First which, then what of them: rows that are only passed over are never fetched.
        var ids = await Ordered(items, order?.Value ?? RegisterOrder.Due, descending)
            .Select(it => it.Id)
            .Skip(page * pageSize)
            .Take(pageSize)
            .ToArrayAsync(cancel);
        var found = await db
            .Items.AsNoTracking()
            .Where(it => ids.Contains(it.Id))
            .Select(it => new
            {
                it.Id,
                it.Tag,
                it.Name,
                it.Maker,
                it.Model,
                Client = it.Client.Name,
                it.Client.Code,
                Site = it.Site.Name,
                it.Room,
                it.Equipment,
                it.State,
                it.Due,
                it.LastOutcome,
                it.LastTestedOn,
            })
            .ToDictionaryAsync(it => it.Id, cancel);
        var rows = ids.Where(found.ContainsKey).Select(id => found[id]);
        var clients = await db.Clients.OrderBy(it => it.Name).Select(it => new ClientName(it.Code, it.Name)).ToListAsync(cancel);
        return TypedResults.Ok(
            new RegisterPage(
                [
                    .. rows.Select(it => new RegisterRow(
                        it.Id,
                        it.Tag,
                        it.Name,
                        MakerModel(it.Maker, it.Model),
                        it.Client,
                        it.Code,
                        $"{it.Site}, {it.Room}",
                        EquipmentText.Class(it.Equipment.Class),
                        it.State,
                        it.Due,
                        it.Due is { } date ? today.DayNumber - date.DayNumber : null,
                        it.LastOutcome,
                        it.LastTestedOn
                    )),
                ],
                total,
                page,
                pageSize,
                clients
            )
        );
    }

    private static IQueryable<RegisterItem> Ordered(IQueryable<RegisterItem> items, RegisterOrder order, bool descending)
    {
        // What is gone is due no longer: it stands at the end, however long ago its date was.
        var byDue = items.OrderBy(it => it.IsGone);
        var ordered = order switch
        {
            RegisterOrder.Name => descending ? items.OrderByDescending(it => it.Name) : items.OrderBy(it => it.Name),
            RegisterOrder.Place => descending
                ? items.OrderByDescending(it => it.Site.Name).ThenByDescending(it => it.Room)
                : items.OrderBy(it => it.Site.Name).ThenBy(it => it.Room),
            RegisterOrder.Due => descending ? byDue.ThenByDescending(it => it.Due) : byDue.ThenBy(it => it.Due),
            RegisterOrder.LastTestedOn => descending
                ? items.OrderByDescending(it => it.LastTestedOn)
                : items.OrderBy(it => it.LastTestedOn),
            RegisterOrder.State => descending ? items.OrderByDescending(it => it.State) : items.OrderBy(it => it.State),
            _ => descending ? items.OrderByDescending(it => it.Tag) : items.OrderBy(it => it.Tag),
        };
        return ordered.ThenBy(it => it.Tag);
    }

    private static async Task<Results<Ok<ScanResult>, ProblemHttpResult>> Scan(
        string tag,
        Guid? round,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        var meant = await Tags.MeantAsync(db, tag, cancel);
        if (meant is not { Fault: null, Value: var read })
            return Refusals.Invalid(PublicCode.TokenIn(tag) is null ? "This is not a tag." : "This code leads to no item.", meant.Fault!);
        var lower = read.ToLowerInvariant();
#pragma warning disable CA1304, CA1311, CA1862 // runs in the database, on the index over lower(tag)
        var hits = await db
            .Items.Where(it => it.Tag.ToLower() == lower)
            .Select(it => new
            {
                it.Id,
                it.Tag,
                it.Name,
                Round = db
                    .Rounds.Where(open => open.SiteId == it.SiteId && open.State == RoundState.Open)
                    .OrderByDescending(open => open.Id == round)
                    .ThenBy(open => open.EndsOn)
                    .Select(open => (Guid?)open.Id)
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
#pragma warning restore CA1304, CA1311, CA1862
        var found = hits.Select(it => new Found(it.Id, it.Tag, it.Name, it.Round)).ToList();
        // Two clients may use one tag: the round in hand decides, else the only item with an open round.
        var item =
            found.FirstOrDefault(it => it.RoundId is not null && it.RoundId == round)
            ?? (found.Count(it => it.RoundId is not null) == 1 ? found.First(it => it.RoundId is not null) : null);
        return TypedResults.Ok(new ScanResult(read, item, [.. found.Where(it => it != item)]));
    }

    private static async Task<Results<Ok<RegistrationForm>, ProblemHttpResult>> Form(Guid round, OsierwandDb db, CancellationToken cancel)
    {
        var it = await db.Rounds.Include(open => open.Site.Client).FirstOrDefaultAsync(open => open.Id == round, cancel);
        if (it is null)
            return Refusals.NotFound("round");
        var rooms = await db
            .Items.Where(item => item.SiteId == it.SiteId)
            .Select(item => item.Room)
            .Distinct()
            .OrderBy(room => room)
            .ToListAsync(cancel);
        var usual = await db
            .Items.Where(item => item.SiteId == it.SiteId)
            .GroupBy(item => item.Place)
            .OrderByDescending(group => group.Count())
            .Select(group => group.Key)
            .FirstOrDefaultAsync(cancel);
        var pack = Core.Standards.PackLibrary.Find(it.StandardId);
        return TypedResults.Ok(
            new RegistrationForm(
                it.Name,
                it.Site.Client.Name,
                it.Site.Name,
                rooms,
                usual,
                [
                    .. Core.Equipment.ClassDecisions.All.Select(choice => new EvidenceChoice(
                        choice.Evidence,
                        choice.Seen,
                        EquipmentText.Class(choice.Class),
                        choice.Remark
                    )),
                ],
                [.. pack?.Flex.Select(row => row.Size.Value) ?? []],
                it.Site.NominalV ?? (pack ?? Core.Standards.PackLibrary.All.First()).Nominal.Value
            )
        );
    }

    /// <summary>The one registered last: what was learned of the others was corrected there.</summary>
    private static async Task<Results<Ok<SameModel>, NoContent>> SameModelAs(
        string maker,
        string model,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(maker) || string.IsNullOrWhiteSpace(model))
            return TypedResults.NoContent();
        var same = db.Items.AsNoTracking().OfModel(maker, model);
        var last = await same.Include(it => it.Site)
            .Include(it => it.Client)
            .OrderByDescending(it => it.RegisteredOn)
            .ThenByDescending(it => it.Revision)
            .FirstOrDefaultAsync(cancel);
        if (last is null)
            return TypedResults.NoContent();
        var facts = ItemText.Fields(ItemStory.OnBench(last), ItemStory.Basis(last));
        return TypedResults.Ok(
            new SameModel(
                last.Tag,
                last.Name,
                await same.CountAsync(cancel),
                last.Equipment.Kind,
                last.Evidence,
                last.Equipment.IsHardWired,
                facts with
                {
                    Serial = null,
                    Room = null,
                }
            )
        );
    }

    private static async Task<Results<Created<Registered>, ProblemHttpResult>> Register(
        NewItem sent,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var round = await db.Rounds.Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == sent.RoundId, cancel);
        if (round is null)
            return Refusals.NotFound("round");
        var made = Registration.Make(sent, round, DateOnly.FromDateTime(time.GetLocalNow().DateTime));
        if (!made.TryGet(out var item))
            return Refusals.Invalid("The item was not registered.", made.Fault!);
        if (sent.Members is { Count: > 0 } && item.Equipment.Kind != ItemKind.MedicalSystem)
            return Refusals.Invalid("The item was not registered.", new Fault("members", "Only a medical system has members."));
        var found = await Systems.FindAsync(db, item.ClientId, item.SiteId, item.Id, item.Equipment, sent.Members ?? [], cancel);
        if (!found.TryGet(out var members))
            return Refusals.Invalid("The item was not registered.", found.Fault!);
        db.Items.Add(item);
        item.Equipment = Systems.Whole(item, members);
        trail.Add("item registered", item.Tag, item.Id, after: sent);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "The item was not registered.",
                $"This client already has an item with the tag {item.Tag}. Scan it again to open it.",
                [new Fault("tag", "is taken")]
            );
        }
        if (await Systems.JoinAsync(db, item.Id, members, cancel) is { } taken)
            return Refusals.Of(StatusCodes.Status409Conflict, "The item was not registered.", taken);
        await transaction.CommitAsync(cancel);
        return TypedResults.Created($"/api/v1/register/{item.Id}", new Registered(item.Id, item.Tag));
    }

    private static string? MakerModel(string? maker, string? model) =>
        maker is null && model is null ? null : string.Join(' ', new[] { maker, model }.OfType<string>());
}
