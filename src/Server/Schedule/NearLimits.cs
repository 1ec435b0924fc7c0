using System.Security.Claims;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Register;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;

namespace Osierwand.Server.Schedule;

/// <summary>Items of which a value would reach its limit before they are next tested, that one first.</summary>
/// <param name="Total">Of them all; the list holds the first.</param>
public sealed record NearList(int Total, IReadOnlyList<NearCard> Items);

/// <param name="Due">Of its test.</param>
/// <param name="Says">When it gets there and when it is tested, in words.</param>
/// <param name="ComeBackBy">By when it had better come, a planning window before the limit; null where it comes as soon as that already.</param>
public sealed record NearCard(
    Guid ItemId,
    string Tag,
    string Name,
    string Client,
    string Place,
    DateOnly Due,
    DateOnly? ComeBackBy,
    string Says,
    Crossing Crossing,
    int Revision
);

public sealed record BringForward(int Revision);

/// <param name="Due">From now on.</param>
public sealed record BroughtForward(DateOnly Due);

/// <summary>Values on their way to a limit, before they get there.</summary>
internal static class NearLimits
{
    private const int MostShown = 60;
    private const string NotChanged = "Nothing was changed.";

    public static async Task<Ok<NearList>> All(OsierwandDb db, TimeProvider time, CancellationToken cancel, string? client = null)
    {
        var window = (await HousePacks.RulesAsync(db, cancel)).DueWindow;
        var near = db.Items.AsNoTracking().Where(it => it.CrossesOn < it.Due && it.State == ItemState.InService);
        if (!string.IsNullOrEmpty(client))
            near = near.Where(it => it.Client.Code == client);
        var rows = await near.OrderBy(it => it.CrossesOn)
            .ThenBy(it => it.Tag)
            .Take(MostShown)
            .Select(it => new
            {
                it.Id,
                it.Tag,
                it.Name,
                Client = it.Client.Name,
                it.Site,
                it.Room,
                it.Due,
                it.Crossing,
                it.Revision,
            })
            .ToListAsync(cancel);
        var now = time.GetUtcNow();
        return TypedResults.Ok(
            new NearList(
                await near.CountAsync(cancel),
                [
                    .. rows.Select(it => (Row: it, Crossing: Read(it.Crossing)))
                        .Where(it => it.Crossing is not null)
                        .Select(it => new NearCard(
                            it.Row.Id,
                            it.Row.Tag,
                            it.Row.Name,
                            it.Row.Client,
                            $"{it.Row.Site.Name}, {it.Row.Room}",
                            it.Row.Due!.Value,
                            it.Crossing!.ComeBackBy(it.Row.Site.DayOf(now), window) is var by && by < it.Row.Due ? by : null,
                            it.Crossing.Says(it.Row.Site.DayOf(now), it.Row.Due.Value),
                            it.Crossing,
                            it.Row.Revision
                        )),
                ]
            )
        );
    }

    /// <summary>Its test comes sooner, never later, with the reason beside the date.</summary>
    public static async Task<Results<Ok<BroughtForward>, ProblemHttpResult>> Bring(
        Guid itemId,
        BringForward sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var item = await db.Items.AsNoTracking().Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return Refusals.NotFound("item");
        if (Read(item.Crossing) is not { } crossing || item.Due is not { } due)
            return Refusals.Invalid(NotChanged, new Fault("itemId", "No value of it is on its way to its limit."));
        var day = crossing.ComeBackBy(item.Site.DayOf(time.GetUtcNow()), (await HousePacks.RulesAsync(db, cancel)).DueWindow);
        if (day >= due)
            return TypedResults.Ok(new BroughtForward(due));
        var why = $"{crossing.Name} would reach its limit about {crossing.On:yyyy-MM-dd}";
        string[] because = [.. item.Because, $"brought forward by {user.DisplayName()}: {why}"];
        return
            await new ItemEdit(db, trail, user, time).KeepAsync(
                item,
                sent.Revision,
                row =>
                    row.SetProperty(it => it.Due, (DateOnly?)day)
                        .SetProperty(it => it.VisualDue, item.VisualDue is { } look && look < day ? item.VisualDue : day)
                        .SetProperty(it => it.Because, because),
                why,
                [$"Due: {due:yyyy-MM-dd} → {day:yyyy-MM-dd}"],
                "test brought forward",
                NotChanged,
                cancel
            )
                is { } refused
            ? refused
            : TypedResults.Ok(new BroughtForward(day));
    }

    /// <summary>As an item's row keeps it.</summary>
    public static string Write(Crossing it) => JsonSerializer.Serialize(it, JsonSerializerOptions.Web);

    /// <summary>What this version cannot read is not shown; its next test writes it anew.</summary>
    private static Crossing? Read(string? json)
    {
        try
        {
            return json is null ? null : JsonSerializer.Deserialize<Crossing>(json, JsonSerializerOptions.Web);
        }
        catch (JsonException)
        {
            return null;
        }
    }
}
