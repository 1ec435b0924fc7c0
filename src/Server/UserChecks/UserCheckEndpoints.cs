using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Quarantine;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;
using QRCoder;

namespace Osierwand.Server.UserChecks;

/// <summary>What the page behind an item's code tells, to a user or an inspector: this, and nothing more.</summary>
/// <param name="Condition">In words: "in service", "out of use".</param>
/// <param name="LastCheck">In words: "tested, pass"; null while it was never checked.</param>
/// <param name="Asks">How often its users look at it, in a sentence; null where they are asked nothing.</param>
/// <param name="SaidOn">When one of them last said what they saw.</param>
public sealed record PublicItem(
    string Tag,
    string Name,
    string Condition,
    bool IsOutOfUse,
    string? LastCheck,
    DateOnly? LastCheckedOn,
    DateOnly? Due,
    bool IsOverdue,
    string? Asks,
    DateOnly? SaidOn
);

/// <param name="Id">Made by the page; sending twice stores once.</param>
public sealed record SendUserCheck(Guid Id, UserReport Report, string Words, string Name);

public sealed record UserCheckKept(bool TookOutOfUse);

/// <param name="Path">Of the public page; null where the item has no link.</param>
public sealed record LinkCard(string? Path, DateTimeOffset? MadeAt);

public sealed record UserCheckCard(
    Guid Id,
    Guid ItemId,
    string Tag,
    string Item,
    string Place,
    DateTimeOffset At,
    UserReport Report,
    string Words,
    string Name,
    bool TookOutOfUse,
    Guid? PhotoId
);

/// <param name="Step">Of a good earth point: key of the step that is measured there; null where nobody said.</param>
/// <param name="Shows">That in words.</param>
public sealed record PhotoCard(Guid Id, PhotoOf Of, DateTimeOffset At, string By, string? Step, string? Shows);

public sealed record PhotoKept(Guid Id);

public sealed record SeeUserCheck(string Decision);

/// <summary>The page behind an item's code, and what comes of what is said there.</summary>
internal static class UserCheckEndpoints
{
    /// <summary>A photo follows its report at once.</summary>
    private static readonly TimeSpan PhotoFollows = TimeSpan.FromMinutes(15);
    private const int MostShown = 50;
    private const int MostPhotos = 40;
    private const int TokenBytes = 16;

    public static void MapUserChecks(this RouteGroupBuilder api)
    {
        var open = api.MapGroup("/public").WithTags("Public").RequireRateLimiting(Limits.Public);
        open.MapGet("/{token}", Tell).For(Access.Anyone);
        open.MapPost("/{token}/checks", Report).For(Access.Anyone);
        open.MapPost("/{token}/checks/{checkId:guid}/photo", ReportPhoto).For(Access.Anyone).TakesUpTo(PhotoTaking.MostBytes);

        var items = api.MapGroup("/register/{itemId:guid}").WithTags("Register");
        items.MapGet("/link", Link).For(Access.Worker);
        items.MapGet("/link/code", Code).For(Access.Worker);
        items.MapPost("/link", MakeLink).For(Access.Lead);
        items.MapPost("/link/revoke", RevokeLink).For(Access.Lead);
        items.MapPost("/user-checks", ReportSignedIn).For(Access.Reader);
        items.MapGet("/photos", Photos).For(Access.Reader);
        items.MapPost("/photos", AddPhoto).For(Access.Worker).TakesUpTo(PhotoTaking.MostBytes);
        api.MapGet("/photos/{photoId:guid}", Picture).WithTags("Register").For(Access.Reader);

        var checks = api.MapGroup("/user-checks").WithTags("UserChecks");
        checks.MapGet("/weeks", UserCheckWeeks.Board).For(Access.Reader);
        checks.MapGet("/sites/{siteId:guid}", UserCheckWeeks.OfSite).For(Access.Reader);
        checks.MapGet("/", Unseen).For(Access.Worker);
        checks.MapPost("/{checkId:guid}/seen", Seen).For(Access.Worker);
        checks.MapPost("/{checkId:guid}/take-out", TakeOut).For(Access.Worker);
    }

    /// <summary>From here on the request sees this item's client, and nothing else of the house.</summary>
    private static async Task<RegisterItem?> ItemOfAsync(OsierwandDb db, string token, CancellationToken cancel)
    {
        if (token.Length > 40)
            return null;
        var item = await db
            .Items.IgnoreQueryFilters()
            .Include(it => it.Site)
            .FirstOrDefaultAsync(
                it => !it.IsLoose && db.PublicLinks.Any(link => link.Token == token && link.RevokedAt == null && link.ItemId == it.Id),
                cancel
            );
        if (item is not null)
            db.Sight.VisibleTo(house: false, [item.ClientId]);
        return item;
    }

    private static ProblemHttpResult NoSuchLink() =>
        Refusals.Of(
            StatusCodes.Status404NotFound,
            "This link leads nowhere.",
            "It may have been taken back. Ask whoever looks after the equipment; if something is dangerous, unplug it and keep others away."
        );

    private static async Task<Results<Ok<PublicItem>, ProblemHttpResult>> Tell(
        string token,
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await ItemOfAsync(db, token, cancel) is not { } item)
            return NoSuchLink();
        var today = DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime);
        var isOut = item.State != ItemState.InService;
        return TypedResults.Ok(
            new PublicItem(
                item.Tag,
                item.Name,
                isOut ? "out of use" : "in service",
                isOut,
                item.LastOutcome is { } outcome ? PhrasesOnOffer.Text(outcome).ToLowerInvariant() : null,
                item.LastTestedOn ?? item.LastLookedOn,
                item.Due,
                item.Due < today,
                (await Rhythms.OfSitesAsync(db, cancel, item.SiteId)).Of(item).Sentence,
                item.LastUserCheckOn
            )
        );
    }

    private static async Task<Results<Ok<UserCheckKept>, ProblemHttpResult>> Report(
        string token,
        SendUserCheck sent,
        OsierwandDb db,
        UserReports reports,
        CancellationToken cancel
    ) => await ItemOfAsync(db, token, cancel) is { } item ? await reports.KeepAsync(item, sent, sent.Name, cancel) : NoSuchLink();

    /// <summary>By somebody who is signed in: one of the house, or the client's own reader.</summary>
    private static async Task<Results<Ok<UserCheckKept>, ProblemHttpResult>> ReportSignedIn(
        Guid itemId,
        SendUserCheck sent,
        OsierwandDb db,
        UserReports reports,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        await db.Items.AsNoTracking().Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel) is { } item
            ? await reports.KeepAsync(item, sent, user.DisplayName(), cancel)
            : Refusals.NotFound("item");

    private static async Task<Results<Ok<PhotoKept>, ProblemHttpResult>> ReportPhoto(
        string token,
        Guid checkId,
        HttpRequest request,
        OsierwandDb db,
        IPhotoStore photos,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await ItemOfAsync(db, token, cancel) is not { } item)
            return NoSuchLink();
        var since = time.GetUtcNow() - PhotoFollows;
        var check = await db.UserChecks.FirstOrDefaultAsync(it => it.Id == checkId && it.ItemId == item.Id && it.At > since, cancel);
        if (check is null)
            return Refusals.NotFound("report that waits for a photo");
        if (check.PhotoId is { } already)
            return TypedResults.Ok(new PhotoKept(already));
        var taken = await PhotoAsync(request, cancel);
        if (taken.Fault is { } fault)
            return Refusals.Invalid("The photo was not kept; the report is.", fault);
        check.PhotoId = photos.Add(item.Id, PhotoOf.Damage, check.From, taken.Value);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new PhotoKept(check.PhotoId.Value));
    }

    /// <summary>No more is read than may be kept, whatever the length says that was told.</summary>
    private static async Task<Result<TakenPicture>> PhotoAsync(HttpRequest request, CancellationToken cancel)
    {
        using var body = new MemoryStream();
        var piece = new byte[64 * 1024];
        for (int read; (read = await request.Body.ReadAsync(piece, cancel)) > 0; )
        {
            if (body.Length + read > PhotoTaking.MostBytes)
                return new Fault("photo", $"The file is too large: at most {PhotoTaking.MostBytes / 1024 / 1024} MB. Take it smaller.");
            body.Write(piece, 0, read);
        }
        return PhotoTaking.Take(body.ToArray());
    }

    private static async Task<Results<Ok<LinkCard>, ProblemHttpResult>> Link(Guid itemId, OsierwandDb db, CancellationToken cancel)
    {
        if (!await db.Items.AnyAsync(it => it.Id == itemId, cancel))
            return Refusals.NotFound("item");
        var link = await LinkOf(db, itemId).FirstOrDefaultAsync(cancel);
        return TypedResults.Ok(new LinkCard(link is null ? null : $"/u/{link.Token}", link?.MadeAt));
    }

    private static IQueryable<PublicLink> LinkOf(OsierwandDb db, Guid itemId) =>
        db.PublicLinks.Where(it => it.ItemId == itemId && it.RevokedAt == null);

    /// <summary>The link as a QR code, to be printed beside the item.</summary>
    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> Code(
        Guid itemId,
        HttpRequest request,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        if (await LinkOf(db, itemId).FirstOrDefaultAsync(cancel) is not { } link)
            return Refusals.NotFound("link of this item");
        using var generator = new QRCodeGenerator();
        using var code = generator.CreateQrCode($"{request.Scheme}://{request.Host}/u/{link.Token}", QRCodeGenerator.ECCLevel.M);
        return TypedResults.Content(new SvgQRCode(code).GetGraphic(4), "image/svg+xml");
    }

    private static async Task<Results<Ok<LinkCard>, ProblemHttpResult>> MakeLink(
        Guid itemId,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await db.Items.AsNoTracking().FirstOrDefaultAsync(it => it.Id == itemId, cancel) is not { } item)
            return Refusals.NotFound("item");
        foreach (var old in await LinkOf(db, itemId).ToListAsync(cancel))
            old.RevokedAt = time.GetUtcNow();
        var token = Convert.ToBase64String(RandomNumberGenerator.GetBytes(TokenBytes)).TrimEnd('=').Replace('+', '-').Replace('/', '_');
        var link = new PublicLink
        {
            Token = token,
            ItemId = itemId,
            MadeAt = time.GetUtcNow(),
        };
        db.PublicLinks.Add(link);
        trail.Add("public link made", item.Tag, itemId);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new LinkCard($"/u/{token}", link.MadeAt));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> RevokeLink(
        Guid itemId,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var link = await LinkOf(db, itemId).Include(it => it.Item).FirstOrDefaultAsync(cancel);
        if (link is null)
            return Refusals.NotFound("link of this item");
        link.RevokedAt = time.GetUtcNow();
        trail.Add("public link taken back", link.Item.Tag, itemId);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Ok<List<PhotoCard>>> Photos(Guid itemId, OsierwandDb db, CancellationToken cancel)
    {
        var photos = await OsierwandDb
            .WithLoose(db.Photos)
            .Where(it => it.ItemId == itemId)
            .OrderByDescending(it => it.At)
            .Take(MostPhotos)
            .Select(it => new PhotoCard(it.Id, it.Of, it.At, it.By, it.Step, null))
            .ToListAsync(cancel);
        return TypedResults.Ok(
            photos.ConvertAll(it => it with { Shows = it.Step is { } step ? Core.Planning.StepKey.InWords(step) : null })
        );
    }

    private static async Task<Results<Ok<PhotoKept>, ProblemHttpResult>> AddPhoto(
        Guid itemId,
        Word<PhotoOf> of,
        HttpRequest request,
        OsierwandDb db,
        IPhotoStore photos,
        Trail trail,
        ClaimsPrincipal user,
        CancellationToken cancel,
        string? step = null
    )
    {
        if (step is { Length: > Photo.LongestStep })
            return Refusals.Invalid("The photo was not kept.", new Fault("step", "There is no such step."));
        if (await OsierwandDb.WithLoose(db.Items).AsNoTracking().FirstOrDefaultAsync(it => it.Id == itemId, cancel) is not { } item)
            return Refusals.NotFound("item");
        if (await OsierwandDb.WithLoose(db.Photos).CountAsync(it => it.ItemId == itemId, cancel) >= MostPhotos)
            return Refusals.Invalid("The photo was not kept.", new Fault("photo", $"An item has at most {MostPhotos} photos."));
        var taken = await PhotoAsync(request, cancel);
        if (taken.Fault is { } fault)
            return Refusals.Invalid("The photo was not kept.", fault);
        var id = photos.Add(itemId, of.Value, user.DisplayName(), taken.Value, of.Value == PhotoOf.EarthPoint ? step : null);
        trail.Add("photo added", item.Tag, itemId, after: new { Of = Words.Of(of.Value) });
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new PhotoKept(id));
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Picture(
        Guid photoId,
        IPhotoStore photos,
        CancellationToken cancel,
        bool thumbnail = false
    ) =>
        await photos.FindAsync(photoId, thumbnail, cancel) is { } picture
            ? TypedResults.File(picture, "image/jpeg")
            : Refusals.NotFound("photo");

    private static async Task<Ok<List<UserCheckCard>>> Unseen(OsierwandDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await db
                .UserChecks.Where(it => it.SeenAt == null && it.Report != UserReport.AllGood)
                .OrderByDescending(it => it.Report == UserReport.Dangerous)
                .ThenBy(it => it.At)
                .Take(MostShown)
                .Select(it => new UserCheckCard(
                    it.Id,
                    it.ItemId,
                    it.Item.Tag,
                    it.Item.Name,
                    it.Item.Site.Name + ", " + it.Item.Room,
                    it.At,
                    it.Report,
                    it.Words,
                    it.Name,
                    it.TookOutOfUse,
                    it.PhotoId
                ))
                .ToListAsync(cancel)
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Seen(
        Guid checkId,
        SeeUserCheck sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Decision) || sent.Decision.Length > UserCheck.LongestWords)
            return Refusals.Invalid("It stays on Today.", new Fault("decision", "Say in a few words what becomes of it."));
        var (check, refused) = await UndecidedAsync(db, checkId, cancel);
        if (check is null)
            return refused!;
        Decide(check, sent.Decision.Trim(), user, time.GetUtcNow());
        trail.Add("user's report seen", check.Item.Tag, check.ItemId, new { check.Words }, new { check.Decision });
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>What was reported is too much to go on using it.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> TakeOut(
        Guid checkId,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var (check, refused) = await UndecidedAsync(db, checkId, cancel);
        if (check is null)
            return refused!;
        var now = time.GetUtcNow();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await db
            .Items.Where(it => it.Id == check.ItemId && it.State == ItemState.InService)
            .ExecuteUpdateAsync(set => set.TakeOut(check.Id, HeldBy.UserReport, check.Words, now, check.From), cancel);
        if (rows == 0)
            return Refusals.Of(StatusCodes.Status409Conflict, "Nothing was done.", $"{check.Item.Tag} is out of use already.");
        Decide(check, "Taken out of use", user, now);
        check.TookOutOfUse = true;
        trail.Add("item taken out of use on a report", check.Item.Tag, check.ItemId, after: new { check.Words });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <returns>The report, or why there is nothing to decide about it.</returns>
    private static async Task<(UserCheck? Check, ProblemHttpResult? Refused)> UndecidedAsync(
        OsierwandDb db,
        Guid checkId,
        CancellationToken cancel
    )
    {
        var check = await db.UserChecks.Include(it => it.Item).FirstOrDefaultAsync(it => it.Id == checkId, cancel);
        return check is null ? (null, Refusals.NotFound("report"))
            : check.SeenAt is null ? (check, null)
            : (null, Refusals.Of(StatusCodes.Status409Conflict, "It was seen already.", $"{check.SeenBy}: {check.Decision}"));
    }

    private static void Decide(UserCheck check, string decision, ClaimsPrincipal user, DateTimeOffset now) =>
        (check.SeenBy, check.SeenAt, check.Decision) = (user.DisplayName(), now, decision);
}
