using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Review;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Server.Bench;
using Osierwand.Server.Quarantine;
using Osierwand.Server.UserChecks;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>Tells an item's story from its records: every inspection as it was judged that day, and how its values move.</summary>
internal static class ItemStory
{
    private const int Shown = 30;

    public static async Task<ItemPage?> TellAsync(
        Guid itemId,
        bool isLead,
        OsierwandDb db,
        Rulings rulings,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var item = await db
            .Items.AsNoTracking()
            .Include(it => it.Client)
            .Include(it => it.Site)
            .FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return null;
        var today = item.Site.DayOf(time.GetUtcNow());
        var history = await db
            .Inspections.AsNoTracking()
            .Where(it => it.ItemId == itemId)
            .OrderByDescending(it => it.ReceivedAt)
            .ThenByDescending(it => it.BookNumber)
            .Take(Shown)
            .ToListAsync(cancel);
        var changes = await db
            .ItemChanges.AsNoTracking()
            .Where(it => it.ItemId == itemId)
            .OrderByDescending(it => it.At)
            .Take(Shown)
            .Select(it => new ChangeCard(it.At, it.By, it.Reason, it.Lines))
            .ToListAsync(cancel);
        var open = await db
            .Rounds.AsNoTracking()
            .Where(it => it.SiteId == item.SiteId && it.State == RoundState.Open)
            .OrderBy(it => it.EndsOn)
            .FirstOrDefaultAsync(cancel);
        var round = open ?? await LastRoundAsync(history, db, cancel);
        var laid = round is null ? null : await rulings.LookBackAsync(item, round, cancel);
        var asRuled = laid?.Ruling.Item ?? OnBench(item);
        var flags = await FlagsAsync(history, db, cancel);
        var corrected = history.Where(it => it.Corrects is not null).Select(it => it.Corrects!.Value).ToHashSet();
        return new(
            item.Id,
            item.Tag,
            item.Name,
            item.Client.Name,
            $"{item.Site.Name}, {item.Room}",
            EquipmentText.Class(item.Equipment.Class),
            ClassDecisions.From(item.Evidence).Seen,
            ItemText.Facts(asRuled, laid?.Ruling.Pack.Dialect ?? Dialect.Plain),
            ItemText.Fields(asRuled, Basis(item)),
            item.Revision,
            item.State,
            item.Due,
            item.VisualDue,
            item.Due is { } due ? today.DayNumber - due.DayNumber : null,
            item.Because,
            open?.Id,
            asRuled.LeftFailure?.Text ?? await FailuresLeft.TextAsync(db, item.Id, cancel),
            [
                .. history.Select(it =>
                    Card(it, corrected.Contains(it.Id)) with
                    {
                        Flags = [.. flags[it.Id]],
                        MayBeTakenBack =
                            RecordCorrection.Refusal(it.Corrects is not null, corrected.Contains(it.Id), item.State, isLead) is null,
                    }
                ),
            ],
            laid is null ? [] : Trends.Of(laid.Ruling),
            changes,
            await Systems.CardsAsync(db, item.Id, today, cancel),
            await Systems.OwnerAsync(db, item, today, cancel),
            item.Equipment.Kind == ItemKind.MedicalSystem,
            await Holds.EverAsync(db, item.Id, Shown, cancel),
            (await Rhythms.OfSitesAsync(db, cancel, item.SiteId)).Of(item).Sentence,
            item.LastUserCheckOn
        );
    }

    internal static ItemOnBench OnBench(RegisterItem it) =>
        new(it.Id, it.Tag, it.Name, it.Maker, it.Model, it.Serial, it.Site.Name, it.Room, it.Evidence, it.State, it.Revision, it.Equipment)
        {
            IsLoose = it.IsLoose,
        };

    internal static IntervalBasis Basis(RegisterItem it) =>
        new(it.Place, it.Usage, it.Moved, it.Users, it.Client.CapMonths, it.Due, it.VisualDue, it.IntervalMonths, false, [], 0);

    /// <summary>From the record itself: what was judged then is shown as it was judged then.</summary>
    private static PastInspectionCard Card(Inspection row, bool isTakenBack)
    {
        var fingerprint = Convert.ToHexStringLower(row.Hash.AsSpan(0, 4));
        if (InspectionRecord.Read(row.Record) is not { Fault: null, Value: var it })
            return new(
                row.Id,
                row.Day,
                row.Outcome,
                "a record that this version cannot read",
                "",
                "",
                row.BookNumber,
                fingerprint,
                isTakenBack,
                null,
                ["The record is kept to the letter; export it to read it."],
                [],
                [],
                [],
                false
            );
        var words = new List<string>();
        if (it.Corrects is { } correction)
            words.Add($"Takes back the record before it: {correction.Reason}");
        words.AddRange(
            it.Look.Points.Where(point => point.Answer is LookAnswer.Bad or LookAnswer.Advice).Select(point => $"Look: {point.Words}")
        );
        if (it.Closes is { } closed)
            words.Add(
                $"Closes the failure of {closed.Since:yyyy-MM-dd}: {closed.Words}"
                    + (closed.Repair is { } said ? $". Since then {said.Text}" : "")
            );
        if (it.NotTested is { } reason)
            words.Add($"Not tested: {reason.Text}");
        if (it.Outcome == Outcome.Fail)
            words.AddRange(it.Reasons.Where(line => !words.Contains(line)));
        words.AddRange(it.Advice.Where(line => !words.Contains(line)));
        if (it.Evaluation?.Confirmed is { } confirmed)
            words.Add($"Evaluation: {PhrasesOnOffer.Text(confirmed)}");
        if (it.Remarks is { } remarks)
            words.Add(remarks);
        var instrument = it.Instrument is { } kit ? string.Join("; ", kit.All.Select(Named)) : null;
        if (instrument is not null && it.Outlet is { } outlet)
        {
            var volts = outlet.Voltages.Select(at => $"{at.Pair} {QuantityText.Number(at.Volts, 4)} V");
            instrument += $"; powered from {outlet.Name} ({string.Join(", ", volts)})";
        }
        return new(
            row.Id,
            it.Times.Date,
            it.Outcome,
            it.KindOfInspection,
            it.Technician.Name,
            it.Rules.Standard,
            row.BookNumber,
            fingerprint,
            isTakenBack,
            instrument,
            words,
            [.. it.Corrects is null ? it.Readings.Where(reading => reading.Fault is null).Select(reading => Reading(reading, it)) : []],
            [.. (it.Isolation ?? []).Select(line => $"{AtSite(line.At, it):HH:mm:ss} {line.Text}")],
            [],
            false
        );
    }

    private static string Named(KitInHand kit) =>
        $"{kit.Name}, serial {kit.Serial}, calibrated to {kit.CalibrationDue:yyyy-MM-dd}, {CheckOf(kit)}{kit.TestLeadName}".TrimEnd(
            ' ',
            ','
        );

    private static string CheckOf(KitInHand kit) =>
        kit.Checked is { } check
            ? $"{(check.IsGood ? "good at" : "failed")} its check with {check.CheckBox} on {check.At:yyyy-MM-dd}, "
            : "";

    /// <summary>What a lead was asked to look at again, and what came of it; the house's own matter, so a client's viewer sees
    /// none.</summary>
    private static async Task<ILookup<Guid, string>> FlagsAsync(List<Inspection> history, OsierwandDb db, CancellationToken cancel)
    {
        var ids = history.Select(it => it.Id).ToArray();
        var flags = await db.ReviewFlags.AsNoTracking().Where(it => ids.Contains(it.InspectionId)).OrderBy(it => it.At).ToListAsync(cancel);
        return flags.ToLookup(
            it => it.InspectionId,
            it => it.SeenBy is null ? $"{it.Why} A lead has not looked at it yet." : $"{it.Why} {it.SeenBy}: {it.Decision}"
        );
    }

    private static DateTimeOffset AtSite(DateTimeOffset at, InspectionRecord record) =>
        TimeZoneInfo.TryFindSystemTimeZoneById(record.Times.TimeZone, out var zone) ? TimeZoneInfo.ConvertTime(at, zone) : at;

    private static PastReadingCard Reading(ReadingView it, InspectionRecord record)
    {
        var step = record.Steps.FirstOrDefault(step => step.Key == it.Step);
        return new(
            (step?.Name ?? it.Name) + (it.Point is { } point ? $", {point}" : ""),
            step?.Detail ?? "",
            it.Text,
            it.Raw,
            step?.Limit?.Text,
            it.Status ?? Status.Undecided,
            it.NearLimit,
            it.Void,
            it.Override is { } by ? $"{by.By}: {by.Reason}" : null,
            it.Source,
            it.Working
        );
    }

    /// <summary>Without an open round the rules of the last one still tell how the values stand.</summary>
    private static async Task<Round?> LastRoundAsync(List<Inspection> history, OsierwandDb db, CancellationToken cancel) =>
        history.Count == 0 ? null : await db.Rounds.AsNoTracking().FirstOrDefaultAsync(it => it.Id == history[0].RoundId, cancel);
}
