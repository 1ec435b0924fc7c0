using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Rounds;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Register;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>What lies on the bench without a tag, by what is seen of it.</summary>
public sealed record LooseItem(
    Guid RoundId,
    ItemKind Kind,
    ClassEvidence Evidence,
    UseOf Use,
    bool Heating,
    bool SurgeProtected,
    bool AllInsulated,
    bool HardWired,
    double? RatedVoltageV,
    double? RatedPowerW,
    double? FlexLengthM,
    double? FlexMm2,
    PlugType Plug,
    int Outlets,
    double? RcdMa,
    PlateMore? More = null
);

/// <param name="Events">What was done so far: facts corrected meanwhile count as seen.</param>
public sealed record TagRead(Guid RoundId, string Tag, IReadOnlyList<BenchEvent> Events);

/// <param name="Known">The item that has this tag; null where none has.</param>
public sealed record TagAnswer(string Tag, KnownTag? Known);

/// <param name="Refusal">Why what lies here is not named so; null where it may be.</param>
/// <param name="Contradicted">What the register says otherwise than was seen, a line each.</param>
public sealed record KnownTag(
    Guid ItemId,
    string Name,
    string? MakerModel,
    string Place,
    string ClassText,
    ItemState State,
    DateOnly? LastTestedOn,
    string? Refusal,
    IReadOnlyList<string> Contradicted
);

/// <param name="Known">The item that was shown for this tag; null where it is registered now.</param>
/// <param name="Facts">Whose word counts; only where the register was contradicted.</param>
/// <param name="Register">What a new item is called and where it belongs; null where it is known.</param>
public sealed record NameItem(Guid RoundId, string Tag, IReadOnlyList<BenchEvent> Events, Guid? Known, FactsFrom? Facts, NewName? Register);

public sealed record NewName(
    string Name,
    string Room,
    Place Place,
    Usage Usage,
    Moved Moved,
    Users Users,
    string? Maker,
    string? Model,
    string? Serial
);

/// <param name="ItemId">Whose sheet it is from now on.</param>
/// <param name="Events">The whole sheet: what was done, and that it was named.</param>
public sealed record NamedSheet(Guid ItemId, string Tag, string Name, IReadOnlyList<BenchEvent> Events);

/// <summary>Measure first, name later (<see cref="Naming"/>): what has no tag lies on the bench like any other item, stands in no register,
/// and gets its tag before anything of it is saved.</summary>
internal static class LooseItems
{
    private const string NotNamed = "It was not named.";

    public static async Task<Results<Created<Registered>, ProblemHttpResult>> Lay(
        LooseItem sent,
        OsierwandDb db,
        Rulings rulings,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        const string notLaid = "Nothing was laid on the bench.";
        var round = await db.Rounds.Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == sent.RoundId, cancel);
        if (round is null)
            return Refusals.NotFound("round");
        var made = Registration.Make(AsNew(sent), round, round.Site.DayOf(time.GetUtcNow()));
        if (!made.TryGet(out var item))
            return Refusals.Invalid(notLaid, made.Fault!);
        (item.IsLoose, item.LooseSince) = (true, time.GetUtcNow());
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        db.Items.Add(item);
        trail.Add("loose item laid on the bench", item.Tag, item.Id, after: sent);
        await db.SaveChangesAsync(cancel);
        // What the bench would refuse is not begun: a round that is closed, a device without a standard of its own.
        if ((await rulings.LayAsync(item.Id, round.Id, user.Worker(), cancel)).Fault is { } fault)
            return BenchEndpoints.Refused(fault);
        await transaction.CommitAsync(cancel);
        return TypedResults.Created($"/api/v1/bench/{item.Id}", new Registered(item.Id, item.Tag));
    }

    private static NewItem AsNew(LooseItem it) =>
        new(
            it.RoundId,
            $"no tag {Convert.ToHexStringLower(System.Security.Cryptography.RandomNumberGenerator.GetBytes(4))}",
            Capital(EquipmentText.Kind(it.Kind)),
            it.Kind,
            it.Evidence,
            it.Use,
            Place.Office,
            "room not said yet",
            null,
            null,
            null,
            it.RatedVoltageV,
            it.RatedPowerW,
            null,
            it.Heating,
            it.SurgeProtected,
            it.AllInsulated,
            it.HardWired,
            it.FlexLengthM,
            it.FlexMm2,
            null,
            it.Plug,
            it.Outlets,
            it.RcdMa,
            Usage.Normal,
            Moved.Sometimes,
            Users.Trained,
            it.More
        );

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    /// <summary>Who has this tag, and whether what lies here can be it.</summary>
    public static async Task<Results<Ok<TagAnswer>, ProblemHttpResult>> WhoseTag(
        Guid itemId,
        TagRead sent,
        OsierwandDb db,
        Rulings rulings,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        if (Tags.Read(sent.Tag) is not { Fault: null, Value: var tag })
            return Refusals.Invalid("This is not a tag.", Tags.Read(sent.Tag).Fault!);
        if (BenchEndpoints.TooMany(sent.Events) is { } many)
            return Refusals.Invalid(NotNamed, many);
        if (await LooseAsync(db, itemId, cancel) is not { } loose)
            return Refusals.NotFound("item without a tag");
        if (await WithTagAsync(db, loose.ClientId, tag, cancel) is not { } known)
            return TypedResults.Ok(new TagAnswer(tag, null));
        var (seen, refusal) = (
            SeenOf(loose, sent.Events),
            await RefusalOfAsync(loose, sent.Events, known, sent.RoundId, rulings, user, cancel)
        );
        var contradicted = Naming.Contradicted(seen, ItemStory.Basis(loose), ItemStory.OnBench(known), ItemStory.Basis(known));
        return TypedResults.Ok(
            new TagAnswer(
                tag,
                new(
                    known.Id,
                    known.Name,
                    known.Maker is null && known.Model is null ? null : $"{known.Maker} {known.Model}".Trim(),
                    $"{known.Site.Name}, {known.Room}",
                    EquipmentText.Class(known.Equipment.Class),
                    known.State,
                    known.LastTestedOn,
                    refusal,
                    contradicted is null ? [] : [.. Naming.Told(contradicted, ItemStory.OnBench(known), ItemStory.Basis(known))]
                )
            )
        );
    }

    /// <summary>Gives it its tag. Asked for again, because the answer was lost on the way, it answers the same.</summary>
    public static async Task<Results<Ok<NamedSheet>, ProblemHttpResult>> Name(
        Guid itemId,
        NameItem sent,
        OsierwandDb db,
        Rulings rulings,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (Tags.Read(sent.Tag) is not { Fault: null, Value: var tag })
            return Refusals.Invalid(NotNamed, Tags.Read(sent.Tag).Fault!);
        if (BenchEndpoints.TooMany(sent.Events) is { } many)
            return Refusals.Invalid(NotNamed, many);
        if (await LooseAsync(db, itemId, cancel) is not { } loose)
            return Refusals.NotFound("item without a tag");
        var known = await WithTagAsync(db, loose.ClientId, tag, cancel);
        if (known?.Id == loose.Id || (known is not null && known.Id == loose.NamedAs))
            return TypedResults.Ok(Sheet(loose, known, sent, time.GetUtcNow()));
        if (!loose.IsLoose || loose.NamedAs is not null)
            return Taken("It has a tag already: open it from the register.");
        if (known?.Id != sent.Known)
            return Taken($"The tag {tag} was given or taken meanwhile. Scan it again, and look at what it is on.");
        return known is null
            ? await RegisterAsync(loose, tag, sent, db, trail, time, cancel)
            : await BecomeAsync(loose, known, sent, db, rulings, trail, user, time, cancel);
    }

    private static async Task<Results<Ok<NamedSheet>, ProblemHttpResult>> RegisterAsync(
        RegisterItem loose,
        string tag,
        NameItem sent,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (sent.Register is not { } to)
            return Refusals.Invalid(NotNamed, new Fault("name", "Say what it is and where it belongs."));
        var named = Facts.Apply(
            ItemStory.OnBench(loose),
            new()
            {
                Name = to.Name,
                Room = to.Room,
                Maker = to.Maker ?? "",
                Model = to.Model ?? "",
                Serial = to.Serial ?? "",
            }
        );
        if (named.Fault is { } fault)
            return Refusals.Invalid(NotNamed, fault);
        var (item, today) = (named.Value, loose.Site.DayOf(time.GetUtcNow()));
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        try
        {
            // Two benches may have it, where it was handed over: the first to name it does.
            var rows = await OsierwandDb
                .WithLoose(db.Items)
                .Where(it => it.Id == loose.Id && it.IsLoose && it.NamedAs == null)
                .ExecuteUpdateAsync(
                    set =>
                        set.SetProperty(it => it.IsLoose, false)
                            .SetProperty(it => it.Tag, tag)
                            .SetProperty(it => it.Name, item.Name)
                            .SetProperty(it => it.Room, item.Room)
                            .SetProperty(it => it.Maker, item.Maker)
                            .SetProperty(it => it.Model, item.Model)
                            .SetProperty(it => it.Serial, item.Serial)
                            .SetProperty(it => it.Place, to.Place)
                            .SetProperty(it => it.Usage, to.Usage)
                            .SetProperty(it => it.Moved, to.Moved)
                            .SetProperty(it => it.Users, to.Users)
                            .SetProperty(it => it.RegisteredOn, today),
                    cancel
                );
            if (rows == 0)
                return Taken("It got its tag at another bench meanwhile. Open it from the register.");
        }
        catch (PostgresException clash) when (clash.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return Taken($"This client already has an item with the tag {tag}. Scan it again, and look at what it is on.");
        }
        trail.Add("item registered", tag, loose.Id, before: new { Loose = loose.Tag }, after: to);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(Sheet(loose, null, sent with { Tag = tag }, time.GetUtcNow()) with { Name = item.Name });
    }

    private static async Task<Results<Ok<NamedSheet>, ProblemHttpResult>> BecomeAsync(
        RegisterItem loose,
        RegisterItem known,
        NameItem sent,
        OsierwandDb db,
        Rulings rulings,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await RefusalOfAsync(loose, sent.Events, known, sent.RoundId, rulings, user, cancel) is { } refusal)
            return Refusals.Invalid(NotNamed, new Fault("tag", refusal));
        if (sent.Facts is null && Contradicted(loose, known, sent.Events) is not null)
            return Refusals.Invalid(NotNamed, new Fault("facts", "The register says otherwise than was seen: say which is right."));
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await OsierwandDb
            .WithLoose(db.Items)
            .Where(it => it.Id == loose.Id && it.IsLoose && it.NamedAs == null)
            .ExecuteUpdateAsync(set => set.SetProperty(it => it.NamedAs, known.Id), cancel);
        if (rows == 0)
            return Taken("It got its tag at another bench meanwhile. Open it from the register.");
        // What was taken of it goes with it; its measurements are kept as they were made, and known by its number.
        await OsierwandDb
            .WithLoose(db.Photos)
            .Where(it => it.ItemId == loose.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(it => it.ItemId, known.Id), cancel);
        await db
            .HandedSheets.Where(it => it.ItemId == loose.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(it => it.ItemId, known.Id), cancel);
        trail.Add("loose item named", known.Tag, known.Id, before: new { Loose = loose.Tag }, after: new { sent.Facts });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(Sheet(loose, known, sent, time.GetUtcNow()));
    }

    /// <param name="known">Null where the loose item itself is registered now.</param>
    private static NamedSheet Sheet(RegisterItem loose, RegisterItem? known, NameItem sent, DateTimeOffset now)
    {
        var item = known ?? loose;
        var isOther = item.Id != loose.Id;
        var named = new Named
        {
            Id = Numbered(loose.Id, 1),
            At = now,
            Loose = loose.Id,
            Tag = isOther ? item.Tag : sent.Tag.Trim(),
            SeenAs = Naming.SeenAs(ItemStory.OnBench(loose)),
            WasKnown = isOther,
        };
        var contradicted = isOther ? Contradicted(loose, item, sent.Events) : null;
        var registered =
            contradicted is not null && sent.Facts == FactsFrom.Register
                ? Naming.AsTheRegisterHas(contradicted, ItemStory.OnBench(item), ItemStory.Basis(item))
                : null;
        return new(
            item.Id,
            named.Tag,
            item.Name,
            Naming.Sheet(sent.Events, named, contradicted, registered, (Numbered(loose.Id, 2), Numbered(loose.Id, 3)))
        );
    }

    /// <summary>The same naming is the same event, however often it is asked for.</summary>
    private static Guid Numbered(Guid loose, byte which)
    {
        var bytes = loose.ToByteArray();
        bytes[0] ^= (byte)(0xa0 + which);
        return new(bytes);
    }

    private static FactChanges? Contradicted(RegisterItem loose, RegisterItem known, IReadOnlyList<BenchEvent> events) =>
        Naming.Contradicted(SeenOf(loose, events), ItemStory.Basis(loose), ItemStory.OnBench(known), ItemStory.Basis(known));

    /// <summary>As it was laid down, with what was corrected on the sheet since.</summary>
    private static ItemOnBench SeenOf(RegisterItem loose, IReadOnlyList<BenchEvent> events) =>
        events
            .OfType<FactsChanged>()
            .Aggregate(ItemStory.OnBench(loose), (item, it) => Facts.Apply(item, it.Changes).TryGet(out var changed) ? changed : item);

    private static async Task<string?> RefusalOfAsync(
        RegisterItem loose,
        IReadOnlyList<BenchEvent> events,
        RegisterItem known,
        Guid roundId,
        Rulings rulings,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        Naming.Refusal(SeenOf(loose, events), ItemStory.OnBench(known))
        ?? (
            known.SiteId != loose.SiteId
                ? $"{known.Tag} belongs to {known.Site.Name}. Park this sheet, and open a round there."
                : (await rulings.LayAsync(known.Id, roundId, user.Worker(), cancel)).Fault?.Message
        );

    private static Task<RegisterItem?> LooseAsync(OsierwandDb db, Guid itemId, CancellationToken cancel) =>
        OsierwandDb
            .WithLoose(db.Items)
            .AsNoTracking()
            .Include(it => it.Site)
            .Include(it => it.Client)
            .FirstOrDefaultAsync(it => it.Id == itemId && it.LooseSince != null, cancel);

    private static Task<RegisterItem?> WithTagAsync(OsierwandDb db, Guid clientId, string tag, CancellationToken cancel)
    {
        var lower = tag.ToLowerInvariant();
#pragma warning disable CA1304, CA1311, CA1862 // runs in the database, on the index over lower(tag)
        return db
            .Items.AsNoTracking()
            .Include(it => it.Site)
            .Include(it => it.Client)
            .FirstOrDefaultAsync(it => it.ClientId == clientId && it.Tag.ToLower() == lower, cancel);
#pragma warning restore CA1304, CA1311, CA1862
    }

    private static ProblemHttpResult Taken(string detail) => Refusals.Of(StatusCodes.Status409Conflict, NotNamed, detail);

    /// <summary>A sheet says that it was named only where this server named it so.</summary>
    internal static async Task<Fault?> RefusalAsync(OsierwandDb db, Guid itemId, IReadOnlyList<BenchEvent> events, CancellationToken cancel)
    {
        foreach (var named in events.OfType<Named>())
        {
            var loose = await LooseAsync(db, named.Loose, cancel);
            var isIts = loose is not null && (loose.NamedAs == itemId || (loose.Id == itemId && !loose.IsLoose));
            if (!isIts || named.SeenAs != Naming.SeenAs(ItemStory.OnBench(loose!)) || named.WasKnown != (loose!.Id != itemId))
                return new Fault(
                    "events",
                    "This sheet says that it was measured before it had its tag, and the server knows nothing of it."
                );
        }
        return null;
    }
}
