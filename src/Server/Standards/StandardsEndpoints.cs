using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Standards;

/// <summary>The packs to read, the organisation's own limits on them, and what strange readings mean.</summary>
internal static class StandardsEndpoints
{
    public const string CheckNote =
        "Limits as shipped: check against your own copy of the standard. Local law and the maker's instructions come first.";

    public static void MapStandards(this RouteGroupBuilder api)
    {
        var standards = api.MapGroup("/standards").WithTags("Standards");
        standards.MapGet("/", All).For(Access.Reader);
        standards.MapGet("/schema", () => TypedResults.Text(PackLibrary.Schema, "application/schema+json")).For(Access.Reader);
        standards.MapGet("/{id}", One).For(Access.Reader);
        standards.MapPut("/{id}/house/{rule}", Tighten).For(Access.Lead);
        standards.MapDelete("/{id}/house/{rule}", Lift).For(Access.Lead);
        api.MapGet("/signs", Signs).WithTags("Standards").For(Access.Reader);
    }

    private static async Task<Ok<StandardCard[]>> All(OsierwandDb db, CancellationToken cancel)
    {
        var house = await HousePacks.AllAsync(db, cancel);
        return TypedResults.Ok(
            PackLibrary
                .Ids.Select(id => Card(HouseRuling.Pack(house, id)!))
                .Concat(ThresholdLibrary.All.Select(table => Card(HouseRuling.Table(house, table.Id)!)))
                .Append(IntervalPage.Card())
                .ToArray()
        );
    }

    private static async Task<Results<Ok<StandardPage>, ProblemHttpResult>> One(
        string id,
        OsierwandDb db,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) => await PageAsync(db, id, user, cancel) is { } page ? TypedResults.Ok(page) : Refusals.NotFound("standard");

    private static async Task<Results<Ok<StandardPage>, ProblemHttpResult>> Tighten(
        string id,
        string rule,
        HouseRequest sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (Unit.Find(sent.Unit) is not { } unit)
            return Refusals.Invalid("Not changed.", new Fault("unit", $"“{sent.Unit}” is not a unit."));
        if (sent.Reason is null || sent.Reason.Length > HouseChange.LongestReason)
            return Refusals.Invalid("Not changed.", new Fault("reason", $"Say why in at most {HouseChange.LongestReason} characters."));
        if (HousePacks.Refusal(id, new(rule, sent.Value, unit, sent.Reason)) is { } refused)
            return refused.Path == "notFound" ? Refusals.NotFound("limit") : Refusals.Invalid("Not changed.", refused);
        return await ChangeAsync(id, rule, sent.Value, unit.Symbol, sent.Reason.Trim(), db, trail, user, time, cancel);
    }

    private static async Task<Results<Ok<StandardPage>, ProblemHttpResult>> Lift(
        string id,
        string rule,
        string? reason,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var house = await HousePacks.AllAsync(db, cancel);
        if (house.FirstOrDefault(it => it.PackId == id)?.Limits.Any(it => it.RuleId == rule) is not true)
            return Refusals.NotFound("house limit");
        if (string.IsNullOrWhiteSpace(reason) || reason.Length > HouseChange.LongestReason)
            return Refusals.Invalid("Not changed.", new Fault("reason", $"Say why in at most {HouseChange.LongestReason} characters."));
        return await ChangeAsync(id, rule, null, null, reason.Trim(), db, trail, user, time, cancel);
    }

    private static async Task<Results<Ok<StandardPage>, ProblemHttpResult>> ChangeAsync(
        string id,
        string rule,
        double? value,
        string? unit,
        string reason,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var last = await db.HouseChanges.Where(it => it.PackId == id).MaxAsync(it => (int?)it.Revision, cancel) ?? 0;
        // Null where the standard's own limit stood, also after a house limit was lifted.
        var before = await db
            .HouseChanges.Where(it => it.PackId == id && it.RuleId == rule)
            .OrderByDescending(it => it.Revision)
            .Select(it => it.Value == null ? null : new { it.Value, it.Unit })
            .FirstOrDefaultAsync(cancel);
        db.HouseChanges.Add(
            new()
            {
                PackId = id,
                Revision = last + 1,
                RuleId = rule,
                Value = value,
                Unit = unit,
                Reason = reason,
                By = user.DisplayName(),
                At = time.GetUtcNow(),
            }
        );
        trail.Add(
            value is null ? "house limit lifted" : "house limit set",
            $"{id} {rule}",
            before: before,
            after: new
            {
                value,
                unit,
                reason,
            }
        );
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "Not changed: another lead changed these limits at the same moment.",
                "Look at them again and repeat your change if it should stand."
            );
        }
        return TypedResults.Ok((await PageAsync(db, id, user, cancel))!);
    }

    /// <returns>Null when there is no such pack or table.</returns>
    private static async Task<StandardPage?> PageAsync(OsierwandDb db, string id, ClaimsPrincipal user, CancellationToken cancel)
    {
        var house = await HousePacks.AllAsync(db, cancel);
        var changes = await db
            .HouseChanges.AsNoTracking()
            .Where(it => it.PackId == id)
            .OrderByDescending(it => it.Revision)
            .ToListAsync(cancel);
        var mayEdit = user.IsInRole(Person.Lead);
        return HouseRuling.Pack(house, id) is { } pack ? PageOf(pack, changes, mayEdit)
            : HouseRuling.Table(house, id) is { } table ? PageOf(table, changes, mayEdit)
            : id == IntervalTable.Shipped.Id ? IntervalPage.Page()
            : null;
    }

    private static StandardPage PageOf(ThresholdTable table, IReadOnlyList<HouseChange> changes, bool mayEdit) =>
        new(
            Card(table),
            1,
            table.Check,
            [.. table.Thresholds.GroupBy(row => row.Group).Select(group => new LimitGroup(null, group.Key, [.. group.Select(Row)]))],
            [],
            [],
            null,
            null,
            [.. changes.Select(it => Change(it, table.Find(it.RuleId)?.What))],
            mayEdit
        );

    private static StandardPage PageOf(RulePack pack, IReadOnlyList<HouseChange> changes, bool mayEdit) =>
        new(
            Card(pack),
            pack.ScaleTo,
            CheckNote,
            [
                .. pack
                    .Limits.GroupBy(rule => rule.Test)
                    .OrderBy(group => group.Key)
                    .Select(group => new LimitGroup(group.Key, StepNames.Of(group.Key), [.. group.Select(Row)])),
            ],
            [.. pack.Flex.Select(it => new FlexRow(it.Size.Value, Math.Round(it.OhmPerMetre.Value * 1000, 3), it.Carries?.Value))],
            [.. pack.CordLengths.Select(it => new CordRow(it.Size.Value, it.UpTo.Value, it.Remark))],
            pack.Fuse?.Text,
            pack.EarthCurrent?.Source,
            [.. changes.Select(it => Change(it, pack.Limits.FirstOrDefault(rule => rule.Id == it.RuleId)?.What))],
            mayEdit
        );

    private static ChangeRow Change(HouseChange it, string? what) =>
        new(
            it.Revision,
            what ?? it.RuleId,
            it.Value is null ? null : QuantityText.Show(HousePacks.Limit(it).Bound),
            it.Reason,
            it.By,
            it.At
        );

    private static StandardCard Card(ThresholdTable table) =>
        new(
            table.Id,
            table.FullName,
            table.Title,
            table.Country,
            null,
            table.FullVersion,
            null,
            null,
            table.Thresholds.Length,
            table.Thresholds.Count(row => row.House is not null)
        );

    private static LimitRow Row(Threshold row) =>
        new(
            row.Id,
            row.What,
            QuantityText.Show(row.Shipped, row.Unit),
            row.Clause,
            row.Remark,
            row.Tightens == Tightening.Never ? [] : Units(row.Unit.Dimension, QuantityText.Show(row.Shipped, row.Unit)),
            row.House is { } house ? new(QuantityText.Show(house.Bound, house.Unit), house.Value, house.Unit.Symbol, house.Reason) : null
        );

    private static StandardCard Card(RulePack pack) =>
        new(
            pack.Id,
            pack.FullName,
            pack.ShortName,
            pack.Country,
            pack.Scope,
            pack.FullVersion,
            pack.Nominal.Value,
            pack.Hertz,
            pack.Limits.Length,
            pack.Limits.Count(rule => rule.House is not null)
        );

    private static LimitRow Row(LimitRule rule) =>
        new(
            rule.Id,
            rule.What,
            rule.Text,
            rule.Clause,
            rule.Remark,
            rule.Formula is Formula.NoTrip ? [] : Units(rule.Dimension, rule.Text),
            rule.House is { } house ? new(rule.HouseText!, house.Value, house.Unit.Symbol, house.Reason) : null
        );

    /// <summary>The unit the row is shown in comes first.</summary>
    private static UnitChoice[] Units(Dimension dimension, string shown) =>
        [
            .. Unit
                .All.Where(unit => unit.Dimension == dimension)
                .OrderByDescending(unit => shown.Contains($" {unit.Label}", StringComparison.Ordinal))
                .Select(unit => new UnitChoice(unit.Symbol, unit.Label)),
        ];

    private static Ok<SignCard[]> Signs(string? say) =>
        TypedResults.Ok(Signature.Search(say ?? "").Select(it => new SignCard(it.Id, it.Seen, it.Says, it.Causes, it.Next)).ToArray());
}
