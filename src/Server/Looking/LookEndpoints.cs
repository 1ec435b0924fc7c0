using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Looking;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Looking;

/// <param name="For">For which items, in words; empty for all that have it.</param>
/// <param name="DroppedFor">Where the house does not ask it, each with its reason and the change that said so.</param>
/// <param name="Revision">Of the change that added it; null for a shipped point.</param>
public sealed record LookPointCard(
    string Id,
    string Where,
    string Text,
    IReadOnlyList<string> Phrases,
    string For,
    int? Revision,
    IReadOnlyList<DroppedCard> DroppedFor
);

public sealed record DroppedCard(int Revision, string For, string Reason, string By, DateTimeOffset At);

public sealed record LookChangeCard(int Revision, string Text, string Reason, string By, DateTimeOffset At, bool Stands);

/// <summary>The whole list with the house's changes.</summary>
/// <param name="Revision">0 where nothing was changed.</param>
public sealed record LookListPage(
    int Revision,
    bool MayChange,
    IReadOnlyList<LookPointCard> Points,
    IReadOnlyList<LookChangeCard> Changes,
    IReadOnlyList<Choice> Kinds,
    IReadOnlyList<Choice> Classes,
    IReadOnlyList<Choice> Plugs,
    IReadOnlyList<Choice> Packs
);

/// <summary>A change as a lead asks for it.</summary>
/// <param name="Revision">Of the list as the page knew it.</param>
/// <param name="PointId">With "drop".</param>
/// <param name="Target">With "takeBack": which change.</param>
public sealed record ChangeLook(
    int Revision,
    LookChangeKind Kind,
    string? PointId,
    int? Target,
    string? Where,
    string? Text,
    IReadOnlyList<string> Phrases,
    IReadOnlyList<ItemKind> Kinds,
    IReadOnlyList<ProtectionClass> Classes,
    IReadOnlyList<PlugType> Plugs,
    IReadOnlyList<string> Packs,
    string Reason
);

/// <summary>The list to look at: as it ships, and as the house changed it.</summary>
internal static class LookEndpoints
{
    private const int LongestReason = 300;

    /// <summary>Changes that hold at once: a list that nobody can look through helps nobody. Taking back is never refused for it.</summary>
    private const int MostChanges = 200;

    public static void MapLook(this RouteGroupBuilder api)
    {
        var look = api.MapGroup("/look-list").WithTags("Look");
        look.MapGet("/", Page).For(Access.Reader);
        look.MapPost("/", Change).For(Access.Lead);
    }

    private static async Task<Ok<LookListPage>> Page(OsierwandDb db, ClaimsPrincipal user, CancellationToken cancel) =>
        TypedResults.Ok(await PageAsync(db, user, cancel));

    private static async Task<LookListPage> PageAsync(OsierwandDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        var changes = await db.LookChanges.AsNoTracking().OrderBy(it => it.Revision).ToListAsync(cancel);
        var standing = LookBook.InForce(changes).ToArray();
        var shipped = LookList.Shipped.Select(point => new LookPointCard(
            point.Id,
            point.Where,
            point.Text,
            point.ForBad,
            point.For,
            null,
            [
                .. standing
                    .Where(it => it.Kind == LookChangeKind.Drop && it.PointId == point.Id)
                    .Select(it => new DroppedCard(it.Revision, LookBook.ReachOf(it).Text, it.Reason, it.By, it.At)),
            ]
        ));
        var added = standing
            .Where(it => it.Kind == LookChangeKind.Add)
            .Select(it => (it.Revision, Point: LookBook.Added(it)))
            .Select(it => new LookPointCard(
                it.Point.Id,
                it.Point.Where,
                it.Point.Text,
                it.Point.Phrases,
                it.Point.For.Text,
                it.Revision,
                []
            ));
        return new(
            changes.Count == 0 ? 0 : changes[^1].Revision,
            user.IsInRole(Person.Lead),
            [.. shipped, .. added],
            [
                .. changes
                    .OrderByDescending(it => it.Revision)
                    .Select(it => new LookChangeCard(it.Revision, InWords(it, changes), it.Reason, it.By, it.At, standing.Contains(it))),
            ],
            [.. Enum.GetValues<ItemKind>().Select(it => new Choice(Words.Of(it), EquipmentText.Kind(it)))],
            [.. Enum.GetValues<ProtectionClass>().Select(it => new Choice(Words.Of(it), EquipmentText.Class(it)))],
            [.. Enum.GetValues<PlugType>().Select(it => new Choice(Words.Of(it), Words.Of(it)))],
            [.. PackLibrary.Ids.Select(id => new Choice(id, PackLibrary.Find(id)!.ShortName))]
        );
    }

    private static async Task<Results<Ok<LookListPage>, ProblemHttpResult>> Change(
        ChangeLook sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > LongestReason)
            return Refusals.Invalid("Not changed.", new Fault("reason", "Say in a few words why the list changes."));
        var changes = await db.LookChanges.AsNoTracking().OrderBy(it => it.Revision).ToListAsync(cancel);
        var last = changes.Count == 0 ? 0 : changes[^1].Revision;
        if (last != sent.Revision)
            return Moved();
        if (sent.Kind != LookChangeKind.TakeBack && LookBook.InForce(changes).Count() >= MostChanges)
            return Refusals.Invalid(
                "Not changed.",
                new Fault("", $"{MostChanges} changes hold already; more nobody looks through. Take one back first.")
            );
        var row = new LookChange
        {
            Revision = last + 1,
            Kind = sent.Kind,
            PointId = sent.Kind == LookChangeKind.Drop ? sent.PointId : null,
            Target = sent.Kind == LookChangeKind.TakeBack ? sent.Target : null,
            Where = sent.Kind == LookChangeKind.Add ? sent.Where?.Trim() : null,
            Text = sent.Kind == LookChangeKind.Add ? sent.Text?.Trim() : null,
            Phrases = [.. sent.Phrases.Select(it => it.Trim()).Where(it => it.Length > 0)],
            Kinds = [.. sent.Kinds],
            Classes = [.. sent.Classes],
            Plugs = [.. sent.Plugs],
            Packs = [.. sent.Packs],
            Reason = sent.Reason.Trim(),
            By = user.DisplayName(),
            At = time.GetUtcNow(),
        };
        if (Refusal(row, changes) is { } fault)
            return Refusals.Invalid("Not changed.", fault);
        db.LookChanges.Add(row);
        trail.Add("list to look at changed", InWords(row, changes), after: new { row.Revision, row.Reason });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Moved();
        }
        return TypedResults.Ok(await PageAsync(db, user, cancel));
    }

    private static ProblemHttpResult Moved() =>
        Refusals.Of(
            StatusCodes.Status409Conflict,
            "Not changed: another lead changed the list meanwhile.",
            "Look at it again; what you entered is kept on this screen.",
            []
        );

    private static Fault? Refusal(LookChange it, IReadOnlyList<LookChange> changes) =>
        it.Packs.Any(id => PackLibrary.Find(id) is null) ? new("packs", "There is no such standard.")
        : it.Kind == LookChangeKind.Add ? HouseLook.Refusal(LookBook.Added(it))
        : it.Kind == LookChangeKind.Drop ? HouseLook.Refusal(LookBook.Dropped(it))
        : LookBook.InForce(changes).Any(change => change.Revision == it.Target) ? null
        : new Fault("target", "This change does not hold any more.");

    private static string InWords(LookChange it, IReadOnlyList<LookChange> changes) =>
        it.Kind switch
        {
            LookChangeKind.Add => $"Added: {it.Where}, {it.Text}{Of(it)}",
            LookChangeKind.Drop => $"Dropped: {LookList.Shipped.FirstOrDefault(point => point.Id == it.PointId)?.Text}{Of(it)}",
            _ => changes.FirstOrDefault(change => change.Revision == it.Target) is { } target
                ? $"Taken back, {InWords(target, [])}"
                : "Taken back",
        };

    private static string Of(LookChange it) => LookBook.ReachOf(it).Text is { Length: > 0 } reach ? $" ({reach})" : "";
}
