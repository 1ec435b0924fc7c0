using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Server.Bench;
using Osierwand.Server.Evidence;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Schedule;
using Osierwand.Server.Trust;
using Osierwand.Store;

namespace Osierwand.Server.Register;

/// <param name="Revision">Of the item as the page knew it.</param>
public sealed record CorrectItem(int Revision, FactChanges Changes, string Reason);

/// <summary>Corrects an item's facts from its page; what they were stays in the item's history.</summary>
internal static class Correction
{
    public static async Task<Results<NoContent, ProblemHttpResult>> Correct(
        Guid itemId,
        CorrectItem sent,
        OsierwandDb db,
        Rulings rulings,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > BenchState.LongestText)
            return Refusals.Invalid("Not changed.", new Fault("reason", "Say in a few words why the facts change."));
        var item = await db.Items.Include(it => it.Client).Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return Refusals.NotFound("item");
        var (before, basis) = (ItemStory.OnBench(item), ItemStory.Basis(item));
        var made = Facts.Apply(before, sent.Changes);
        if (made.Fault is { } fault)
            return Refusals.Invalid("Not changed.", fault);
        var (after, place) = (made.Value, sent.Changes.Place ?? item.Place);
        var lines = FactLines.Between(before, basis, after, basis with { Place = place }).ToArray();
        if (lines.Length == 0)
            return TypedResults.NoContent();
        var laid = await Moving.RoundOfAsync(db, item, cancel) is { } round ? await rulings.LookBackAsync(item, round, cancel) : null;
        var now = laid is null ? null : await CorrectedAsync(db, laid.Ruling, sent.Changes, place, cancel);
        var next = NextDates.AfterCorrection(laid?.Ruling, now, basis, new(item.LastTestedOn, item.LastLookedOn, item.Because));
        var crossing = now is null ? null : Crossing.OfPast(now);
        var (crossesOn, kept) = now is null
            ? (item.CrossesOn, item.Crossing)
            : (crossing?.On, crossing is null ? null : NearLimits.Write(crossing));
        if (next.Due != item.Due)
            lines = [.. lines, $"Due: {item.Due:yyyy-MM-dd} → {next.Due:yyyy-MM-dd}"];

        return
            await new ItemEdit(db, trail, user, time).KeepAsync(
                item,
                sent.Revision,
                row =>
                    row.SetProperty(it => it.Name, after.Name)
                        .SetProperty(it => it.Maker, after.Maker)
                        .SetProperty(it => it.Model, after.Model)
                        .SetProperty(it => it.Serial, after.Serial)
                        .SetProperty(it => it.Room, after.Room)
                        .SetProperty(it => it.Place, place)
                        .SetProperty(it => it.Evidence, after.Evidence)
                        .SetProperty(it => it.Equipment, after.Equipment)
                        .SetProperty(it => it.Due, next.Due)
                        .SetProperty(it => it.VisualDue, next.VisualDue)
                        .SetProperty(it => it.IntervalMonths, next.Months)
                        .SetProperty(it => it.Because, [.. next.Because])
                        .SetProperty(it => it.CrossesOn, crossesOn)
                        .SetProperty(it => it.Crossing, kept),
                sent.Reason.Trim(),
                lines,
                "item's facts corrected",
                "Not changed.",
                cancel
            )
                is { } refused
            ? refused
            : TypedResults.NoContent();
    }

    /// <summary>The item as it is known now, with what was decided for the group that it then belongs to.</summary>
    private static async Task<Ruling> CorrectedAsync(
        OsierwandDb db,
        Ruling was,
        FactChanges changes,
        Place place,
        CancellationToken cancel
    ) =>
        was with
        {
            Item = Facts.Apply(was.Item, changes) is { Fault: null, Value: var item } ? item : was.Item,
            Basis = was.Basis with
            {
                Place = place,
                Group =
                    place == was.Basis.Place ? was.Basis.Group : await EvidenceBook.StepOfAsync(db, was.Item.Equipment.Kind, place, cancel),
            },
        };
}
