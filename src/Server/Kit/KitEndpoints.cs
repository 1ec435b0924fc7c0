using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Kit;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Kit;

/// <summary>The kit: what there is of it, whether it may be used, and what each person chose for the day.</summary>
internal static class KitEndpoints
{
    /// <summary>Checks that a thing's page shows.</summary>
    private const int MostChecks = 60;
    private const int MostFlags = 200;

    public static void MapKit(this RouteGroupBuilder api)
    {
        var kit = api.MapGroup("/kit").WithTags("Kit");
        kit.MapGet("/", Page).For(Access.Worker);
        kit.MapGet("/{kitId:guid}", One).For(Access.Worker);
        kit.MapPost("/today", Choose).For(Access.Worker);
        kit.MapPost("/", KitEditing.Add).For(Access.Lead);
        kit.MapPost("/{kitId:guid}", KitEditing.Change).For(Access.Lead);
        kit.MapPost("/{kitId:guid}/retire", KitEditing.Retire).For(Access.Lead);
        kit.MapPost("/{kitId:guid}/look", KitChecking.Look).For(Access.Worker);
        kit.MapPost("/{kitId:guid}/check", KitChecking.Check).For(Access.Worker);
        kit.MapPost("/{kitId:guid}/null", KitChecking.Null).For(Access.Worker);
        kit.MapPost("/flags/{flagId:guid}/seen", KitChecking.Seen).For(Access.Lead);
    }

    private static async Task<Ok<KitPage>> Page(
        OsierwandDb db,
        KitAtHand hand,
        InstrumentLines lines,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var rules = await HousePacks.RulesAsync(db, cancel);
        var day = await db.KitsOfDay.AsNoTracking().FirstOrDefaultAsync(it => it.PersonId == user.Id(), cancel);
        var holds = day is not null && day.At > time.GetUtcNow() - rules.KitKeeps;
        var connected = (await lines.ConnectedAsync(cancel)).Select(it => it.Serial).ToHashSet();
        var items = await db.Kit.AsNoTracking().Where(it => it.RetiredAt == null).ToListAsync(cancel);
        return TypedResults.Ok(
            new KitPage(
                [
                    .. items
                        .OrderBy(it => it.Kind)
                        .ThenBy(it => it.Name, StringComparer.OrdinalIgnoreCase)
                        .Select(it => CardOf(it, hand, rules, connected, holds && day!.Items.Contains(it.Id), time)),
                ],
                holds ? day!.At + rules.KitKeeps : null,
                day?.Items ?? [],
                await db.ReviewFlags.CountAsync(it => it.SeenAt == null, cancel)
            )
        );
    }

    internal static KitCard CardOf(
        KitItem it,
        KitAtHand hand,
        Thresholds rules,
        IReadOnlyCollection<string> onALine,
        bool isToday,
        TimeProvider time
    )
    {
        var (standing, lead) = (hand.StandingOf(it, rules), KitAtHand.NullOf(it));
        return new(
            it.Id,
            it.Kind,
            KitText.Of(it.Kind),
            it.Name,
            it.Maker,
            it.Model,
            it.Serial,
            it.Category,
            it.CalibrationDue,
            standing.Fitness,
            KitText.Of(standing.Fitness),
            standing.Trouble,
            standing.Warnings,
            !BeforeUse.PointsOf(it.Kind).IsEmpty,
            standing.IsLookedAt,
            it.LookedAt,
            it.CheckedAt,
            lead is { } taken ? Core.Quantities.QuantityText.Show(taken.Value) : null,
            it.NulledAt,
            it.Kind == KitKind.TestLead && (lead?.IsStale(time.GetUtcNow(), rules) ?? true),
            it.Kind.Measures() && onALine.Contains(it.Serial),
            isToday
        );
    }

    private static async Task<Results<Ok<KitSheet>, ProblemHttpResult>> One(
        Guid kitId,
        OsierwandDb db,
        KitAtHand hand,
        InstrumentLines lines,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await db.Kit.AsNoTracking().FirstOrDefaultAsync(it => it.Id == kitId, cancel) is not { } it)
            return Refusals.NotFound("thing in the kit");
        var rules = await HousePacks.RulesAsync(db, cancel);
        var since = time.GetUtcNow() - rules.KitKeeps;
        var isToday = await db.KitsOfDay.AnyAsync(day => day.PersonId == user.Id() && day.At > since && day.Items.Contains(kitId), cancel);
        var checks = await db
            .KitChecks.AsNoTracking()
            .Where(check => check.KitItemId == kitId)
            .OrderByDescending(check => check.At)
            .Take(MostChecks)
            .ToListAsync(cancel);
        var flags = await db
            .ReviewFlags.Where(flag => flag.SeenAt == null && db.KitChecks.Any(c => c.Id == flag.KitCheckId && c.KitItemId == kitId))
            .OrderByDescending(flag => flag.Inspection.TestedAt)
            .Take(MostFlags)
            .Select(flag => new FlagCard(
                flag.Id,
                flag.Inspection.ItemId,
                flag.Inspection.Item.Tag,
                flag.Inspection.Item.Name,
                flag.Inspection.Day,
                flag.Why
            ))
            .ToListAsync(cancel);
        return TypedResults.Ok(
            new KitSheet(
                CardOf(it, hand, rules, [.. (await lines.ConnectedAsync(cancel)).Select(it => it.Serial)], isToday, time),
                KitEditing.DetailsOf(it),
                BeforeUse.PointsOf(it.Kind, rules),
                it.Kind.IsCheckedDaily() ? await BoxesAsync(db, hand, it, rules, cancel) : [],
                KitChecking.DriftOf([.. checks.Where(check => check.Kind == KitCheckKind.Daily).Reverse()], it.CalibratedOn, rules),
                it.Kind.Measures() ? await UnsuitedAsync(db, it, cancel) : [],
                [.. checks.Select(check => new KitCheckLine(check.At, check.Person, check.Kind, check.IsGood, check.Lines))],
                flags
            )
        );
    }

    private static async Task<IReadOnlyList<CheckBoxChoice>> BoxesAsync(
        OsierwandDb db,
        KitAtHand hand,
        KitItem instrument,
        Thresholds rules,
        CancellationToken cancel
    )
    {
        var tests = KitChecking.TestsOf(instrument);
        var boxes = await db
            .Kit.AsNoTracking()
            .Where(it => it.Kind == KitKind.CheckBox && it.RetiredAt == null)
            .OrderBy(it => it.Name)
            .ToListAsync(cancel);
        return
        [
            .. boxes.Select(box => new CheckBoxChoice(
                box.Id,
                box.Name,
                hand.StandingOf(box, rules).Trouble,
                [.. KitAtHand.StatedOf(box).Where(line => tests.Has(line.Test))]
            )),
        ];
    }

    /// <summary>What the instrument is not fine enough for, by the limits of the rounds that are open.</summary>
    private static async Task<IReadOnlyList<string>> UnsuitedAsync(OsierwandDb db, KitItem it, CancellationToken cancel)
    {
        var open = await db
            .Rounds.Where(round => round.ClosedOn == null)
            .Select(round => new { round.StandardId, round.MedicalStandardId })
            .Distinct()
            .ToListAsync(cancel);
        var house = await HousePacks.AllAsync(db, cancel);
        var packs = open.SelectMany(round => new[] { round.StandardId, round.MedicalStandardId })
            .OfType<string>()
            .Distinct()
            .Order()
            .Select(id => Core.Bench.HouseRuling.Pack(house, id))
            .OfType<RulePack>();
        return
        [
            .. packs
                .SelectMany(pack =>
                    SuitedTo
                        .Of(pack, [.. KitAtHand.AccuraciesOf(it).Select(stated => stated.AsFunction())])
                        .Select(trouble => $"{pack.ShortName}: {trouble}.")
                )
                .Distinct(),
        ];
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Choose(
        ChooseKit sent,
        OsierwandDb db,
        KitAtHand hand,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var asked = sent.Items.Distinct().ToArray();
        var items = await db.Kit.AsNoTracking().Where(it => asked.Contains(it.Id)).OrderBy(it => it.Kind).ToListAsync(cancel);
        if (WhyNot(asked, items, hand, await HousePacks.RulesAsync(db, cancel)) is { } fault)
            return Refusals.Invalid("The kit was not chosen.", fault);
        var day = await db.KitsOfDay.FirstOrDefaultAsync(it => it.PersonId == user.Id(), cancel);
        if (day is null)
            db.KitsOfDay.Add(day = new() { PersonId = user.Id() });
        (day.At, day.Items) = (time.GetUtcNow(), asked);
        trail.Add("kit chosen", string.Join(", ", items.Select(it => it.Name)), user.Id());
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static Fault? WhyNot(Guid[] asked, List<KitItem> items, KitAtHand hand, Thresholds rules)
    {
        if (items.Count != asked.Length)
            return new("items", "Something of it is not in the kit any more. Load the page again.");
        if (items.All(item => item.Kind is not (KitKind.Instrument or KitKind.Meter)))
            return new("items", "Choose one instrument, a tester or a meter: every record names it.");
        if (items.Where(item => item.Kind.Measures()).GroupBy(item => item.Kind).FirstOrDefault(same => same.Count() > 1) is { } twice)
            return new("items", $"Choose one {KitText.Of(twice.Key)}: each reading names what took it.");
        if (items.Count(it => it.Kind == KitKind.TestLead) > 1)
            return new("items", "Choose one test lead: its null is subtracted.");
        foreach (var it in items)
            if (hand.StandingOf(it, rules).Trouble is { } trouble)
                return new("items", $"{it.Name} cannot be chosen. {trouble}");
        return null;
    }
}
