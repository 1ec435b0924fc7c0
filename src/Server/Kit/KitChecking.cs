using System.Collections.Immutable;
using System.Security.Claims;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Kit;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Kit;

/// <summary>The kit before it is used: looks, daily checks, nulls; and what a failed check puts before a lead.</summary>
internal static class KitChecking
{
    /// <summary>No lead has so much; an open one has more.</summary>
    private const double MostOhms = 20;

    public static async Task<Results<Ok<KitLook>, ProblemHttpResult>> Look(
        Guid kitId,
        LookAtKit sent,
        OsierwandDb db,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await FindAsync(db, kitId, cancel) is not { } it)
            return Refusals.NotFound("thing in the kit");
        if (sent.Answers.Any(answer => answer.Words?.Length > BenchState.LongestText))
            return Refusals.Invalid("The look was not kept.", new Fault("answers", $"Longer than {BenchState.LongestText} characters."));
        var judged = BeforeUse.Judge(it.Kind, sent.Answers, sent.ForDeadWork, await HousePacks.RulesAsync(db, cancel));
        if (judged.Fault is { } fault)
            return Refusals.Invalid("The look was not kept.", fault);
        var look = judged.Value;
        (it.LookedAt, it.LookFitness, it.LookLines) = (time.GetUtcNow(), look.Fitness, [.. look.Lines]);
        db.KitChecks.Add(Check(it, KitCheckKind.Look, time.GetUtcNow(), user, look.Fitness == KitFitness.Fit, look.Lines, sent.Answers));
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(look);
    }

    public static async Task<Results<Ok<InstrumentChecked>, ProblemHttpResult>> Check(
        Guid kitId,
        CheckInstrument sent,
        OsierwandDb db,
        KitAtHand hand,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await FindAsync(db, kitId, cancel) is not { } it || !it.Kind.IsCheckedDaily())
            return Refusals.NotFound("instrument");
        if (await FindAsync(db, sent.CheckBoxId, cancel) is not { Kind: KitKind.CheckBox } box)
            return Refusals.NotFound("check box");
        var rules = await HousePacks.RulesAsync(db, cancel);
        if (hand.StandingOf(box, rules).Trouble is { } useless)
            return Refusals.Invalid("The check was not kept.", new Fault("checkBoxId", $"{box.Name} checks nothing now. {useless}"));
        var judged = DailyCheck.Judge(KitAtHand.StatedOf(box), TestsOf(it), ByKey(sent.Read), rules);
        if (judged.Fault is { } fault)
            return Refusals.Invalid("The check was not kept.", fault);
        var result = judged.Value;
        var lastGood = await db
            .KitChecks.Where(check => check.KitItemId == kitId && check.Kind == KitCheckKind.Daily && check.IsGood)
            .MaxAsync(check => (DateTimeOffset?)check.At, cancel);
        var lines = result.Lines.Select(line => $"{line.Name}: {line.Read}, {line.Allowed} allowed").ToImmutableArray();
        var kept = Check(it, KitCheckKind.Daily, time.GetUtcNow(), user, result.IsGood, lines, result.Lines);
        kept.CheckBoxId = box.Id;
        db.KitChecks.Add(kept);
        (it.CheckedAt, it.CheckedBy, it.CheckedWith) = (kept.At, kept.Person, box.Name);
        (it.CheckTrouble, it.CheckLines) = (result.IsGood ? null : result.Trouble, [.. lines]);
        var earlier = await db
            .KitChecks.AsNoTracking()
            .Where(check => check.KitItemId == kitId && check.Kind == KitCheckKind.Daily)
            .OrderByDescending(check => check.At)
            .Take(DailyCheck.LookBack)
            .ToListAsync(cancel);
        earlier.Reverse();
        it.Drifts = [.. DriftOf([.. earlier, kept], it.CalibratedOn, rules).Select(line => line.Warning).OfType<string>()];
        var flagged = result.IsGood ? 0 : await FlagAsync(db, it, kept, lastGood, cancel);
        trail.Add(result.IsGood ? "instrument checked" : "instrument failed its check", it.Name, it.Id, after: new { lines, flagged });
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new InstrumentChecked(result.IsGood, result.Lines, it.Drifts, flagged));
    }

    /// <summary>Everything measured with it since it was last known to be right waits for a lead; no record is changed.</summary>
    private static async Task<int> FlagAsync(OsierwandDb db, KitItem it, KitCheck check, DateTimeOffset? lastGood, CancellationToken cancel)
    {
        var since = lastGood ?? (it.CalibratedOn is { } on ? new DateTimeOffset(on, TimeOnly.MinValue, TimeSpan.Zero) : default);
        var known = lastGood is null ? "its calibration" : $"its last good check on {lastGood:yyyy-MM-dd HH:mm}";
        var measured = await db.Standing()
            .Where(record => record.InstrumentId == it.Id && record.TestedAt > since)
            .Select(record => record.Id)
            .ToListAsync(cancel);
        db.ReviewFlags.AddRange(
            measured.Select(record => new ReviewFlag
            {
                Id = Guid.CreateVersion7(),
                InspectionId = record,
                KitCheckId = check.Id,
                At = check.At,
                Why = $"Measured with {it.Name} after {known}; it failed its check on {check.At:yyyy-MM-dd HH:mm}: {it.CheckTrouble}.",
            })
        );
        return measured.Count;
    }

    public static async Task<Results<Ok<LeadNulled>, ProblemHttpResult>> Null(
        Guid kitId,
        NullLead sent,
        OsierwandDb db,
        Trail trail,
        KitAtHand hand,
        InstrumentLines lines,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await FindAsync(db, kitId, cancel) is not { Kind: KitKind.TestLead } lead)
            return Refusals.NotFound("test lead");
        var measured = sent.Text is { } text
            ? Typed(text)
            : await MeasuredAsync(await hand.SerialInHandAsync(user.Id(), cancel), lines, cancel);
        if (measured.Fault is { } fault)
            return fault.Path == "inUse"
                ? Refusals.Of(StatusCodes.Status409Conflict, "The null was not taken.", fault.Message)
                : Refusals.Invalid("The null was not taken.", fault);
        var rules = await HousePacks.RulesAsync(db, cancel);
        var (before, taken) = (KitAtHand.NullOf(lead), new TestLeadNull(measured.Value, time.GetUtcNow()));
        var (value, most) = (QuantityText.Show(taken.Value), QuantityText.Show(rules.LargestNull));
        if (!taken.IsAccepted(rules))
            return Refusals.Invalid(
                "The null was not taken.",
                new Fault(
                    "text",
                    $"{value} is more than {most}, too much for a good lead. Look at its clip and at the post it is shorted on; else use another."
                )
            );
        var telling =
            before is { } last && taken.Differs(last, rules)
                ? $"It was {QuantityText.Show(last.Value)} before: that null was stale. Look at the lead; earth readings since then are worth a second look."
                : null;
        trail.Add("test lead nulled", lead.Name, lead.Id, new { lead.NullOhm }, new { NullOhm = taken.Value.Value });
        (lead.NullOhm, lead.NulledAt) = (taken.Value.Value, taken.At);
        db.KitChecks.Add(
            Check(
                lead,
                KitCheckKind.Null,
                taken.At,
                user,
                true,
                [$"Null {value}, {(sent.Text is null ? "measured" : "typed")}", .. telling is null ? [] : new[] { telling }],
                new { ohm = taken.Value.Value }
            )
        );
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new LeadNulled(value, telling));
    }

    private static Result<Ohms> Typed(string text)
    {
        var entered = ReadingEntry.Parse(text, Unit.Ohm);
        if (entered.Fault is { } fault)
            return new Fault("text", fault.Message);
        if (entered.Value.Qualifier != Qualifier.Exact)
            return new Fault("text", "A null is a value, not a bound.");
        var ohms = entered.Value.Quantity.Si;
        return ohms is >= 0 and < MostOhms
            ? new Ohms(ohms)
            : new Fault("text", $"A null lies between 0 and {MostOhms} ohm; this lead is open, or the figure is another's.");
    }

    private static async Task<Result<Ohms>> MeasuredAsync(string? serial, InstrumentLines lines, CancellationToken cancel)
    {
        if (serial is null)
            throw new InstrumentException(
                LineTrouble.Unreachable,
                "No instrument is connected: short the lead on its post and type what it shows."
            );
        await using var turn = await lines.TakeTurnAsync(serial, "its lead is nulled", cancel);
        if (turn is null)
            return new Fault(
                "inUse",
                $"The instrument is in use: {lines.InUseBy(serial) ?? "at another bench"}. Null the lead when it is free."
            );
        await using var conversation = await lines.OpenAsync(serial, cancel);
        return await conversation.NullAsync(cancel);
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> Seen(
        Guid flagId,
        FlagSeen sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var flag = await db.ReviewFlags.Include(it => it.Inspection.Item).FirstOrDefaultAsync(it => it.Id == flagId, cancel);
        if (flag is null)
            return Refusals.NotFound("record to look at");
        if (string.IsNullOrWhiteSpace(sent.Decision) || sent.Decision.Length > BenchState.LongestText)
            return Refusals.Invalid("It stays to be looked at.", new Fault("decision", "Say in a few words what you decided."));
        if (flag.SeenAt is not null)
            return Refusals.Of(StatusCodes.Status409Conflict, "It was looked at already.", $"{flag.SeenBy}: {flag.Decision}");
        (flag.SeenBy, flag.SeenAt, flag.Decision) = (user.DisplayName(), time.GetUtcNow(), sent.Decision.Trim());
        trail.Add("flagged record looked at", flag.Inspection.Item.Tag, flag.InspectionId, new { flag.Why }, new { flag.Decision });
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Each line of the daily checks since the last calibration, oldest first.</summary>
    public static ImmutableArray<DriftLine> DriftOf(IReadOnlyList<KitCheck> daily, DateOnly? calibratedOn, Thresholds rules)
    {
        var points = daily
            .Where(check => calibratedOn is not { } on || DateOnly.FromDateTime(check.At.UtcDateTime) >= on)
            .SelectMany(check =>
                JsonSerializer.Deserialize<ImmutableArray<CheckLine>>(check.Result, KitAtHand.Stored).Select(line => (check.At, Line: line))
            );
        return
        [
            .. points
                .GroupBy(it => it.Line.Key)
                .Select(line =>
                {
                    var name = line.Last().Line.Name;
                    var drift = DailyCheck.DriftOf(
                        line.Key,
                        name,
                        [.. line.Select(it => (DateOnly.FromDateTime(it.At.UtcDateTime), it.Line.Deviation))],
                        rules
                    );
                    return new DriftLine(
                        line.Key,
                        name,
                        [.. line.Select(it => new DriftPoint(it.At, it.Line.Deviation, it.Line.Read))],
                        drift.Reaches,
                        drift.Warning
                    );
                }),
        ];
    }

    /// <summary>What an instrument measures, by what its maker states.</summary>
    public static SetOf<Test> TestsOf(KitItem instrument) => SetOf<Test>.Of([.. KitAtHand.AccuraciesOf(instrument).Select(it => it.Test)]);

    private static Dictionary<string, string> ByKey(IReadOnlyList<TerminalRead> read)
    {
        var texts = new Dictionary<string, string>();
        foreach (var terminal in read)
            texts[terminal.Key] = terminal.Text;
        return texts;
    }

    private static Task<KitItem?> FindAsync(OsierwandDb db, Guid id, CancellationToken cancel) =>
        db.Kit.FirstOrDefaultAsync(it => it.Id == id && it.RetiredAt == null, cancel);

    private static KitCheck Check(
        KitItem it,
        KitCheckKind kind,
        DateTimeOffset at,
        ClaimsPrincipal user,
        bool isGood,
        ImmutableArray<string> lines,
        object result
    ) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            KitItemId = it.Id,
            Kind = kind,
            At = at,
            PersonId = user.Id(),
            Person = user.DisplayName(),
            IsGood = isGood,
            Lines = [.. lines],
            Result = JsonSerializer.Serialize(result, KitAtHand.Stored),
        };
}
