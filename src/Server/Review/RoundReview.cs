using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Papers;
using Osierwand.Core.Records;
using Osierwand.Core.Review;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Server.Papers;
using Osierwand.Server.Rounds;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Review;

/// <summary>Reads every record of a round for what a lead looks at before signing.</summary>
public sealed class RoundReview(OsierwandDb db, RoundReports reports, RoundPlanning planning)
{
    /// <returns>Null where there is no such round.</returns>
    internal async Task<ReviewPage?> PageAsync(Guid roundId, bool isLead, CancellationToken cancel)
    {
        if (await reports.RoundAsync(roundId, cancel) is not { } round)
            return null;
        var rules = await HousePacks.RulesAsync(db, cancel);
        var read = new List<(InspectionRecord Record, Provenance From)>();
        await foreach (var it in reports.RecordsAsync(roundId, cancel))
            read.Add((it.Record ?? throw new UnreadableRecordException(it.From.BookNumber), it.From));
        var items = read.Select(it => it.Record.Item.Id).Distinct().ToArray();
        var registered = await db.Items.AsNoTracking().Where(it => items.Contains(it.Id)).ToDictionaryAsync(it => it.Id, cancel);
        var times = await BenchTimes.OfAsync(db, registered.Values, rules, cancel);
        var flags = (await db.ReviewFlags.AsNoTracking().Where(it => it.Inspection.RoundId == roundId).ToListAsync(cancel)).ToLookup(it =>
            it.InspectionId
        );
        var seen = await db
            .ReviewedRecords.AsNoTracking()
            .Where(it => it.RoundId == roundId)
            .ToDictionaryAsync(it => it.InspectionId, cancel);
        var benches = read.Select(it => (it.Record.Technician.Id, Bench: Bench(it.Record)))
            .GroupBy(it => it.Id)
            .ToDictionary(it => it.Key, it => it.Select(one => one.Bench).ToImmutableArray());
        var records = read.Where(it => it.Record.Outcome != Outcome.Withdrawn)
            .Select(it =>
            {
                var usual = registered.TryGetValue(it.Record.Item.Id, out var item)
                    ? times.Of(item, it.Record.IsTest ? DueTier.Combined : DueTier.Visual)
                    : null;
                var beside = new ReviewBeside(
                    usual is { Basis: not TimeBasis.Unknown } ? usual.Median : null,
                    Drift(flags[it.Record.Id]),
                    it.From.Corrections is [var later, ..]
                        ? $"taken back on {PaperWriter.Day(later.Day)} by {later.By} (record {later.BookNumber}): {later.Reason}"
                        : null,
                    benches[it.Record.Technician.Id]
                );
                var refusal = RecordCorrection.Refusal(
                    takesBack: false,
                    it.From.Corrections.Length > 0,
                    item?.State ?? ItemState.InService,
                    isLead
                );
                var findings = RecordReview.Of(it.Record, beside, rules);
                return Card(it.Record, it.From, findings, seen.GetValueOrDefault(it.Record.Id), refusal is null);
            })
            .ToArray();
        var tally = await planning.TallyAsync(round, cancel);
        var toLook = records.Count(it => it.MustBeSeen && it.Seen is null);
        var signature = await db.RoundSignatures.AsNoTracking().FirstOrDefaultAsync(it => it.RoundId == roundId, cancel);
        return new(
            round.Id,
            round.Name,
            round.Site.Client.Name,
            round.Site.Name,
            round.State,
            RoundMoves.Text(round.State),
            tally,
            [.. records.Where(it => it.Findings.Count > 0).OrderBy(it => it.Findings[0].Reason).ThenBy(it => it.Number)],
            records.Count(it => it.Findings.Count == 0),
            toLook,
            read.Count,
            read.Count == 0 ? 0 : read.Max(it => it.From.BookNumber),
            RoundMoves.WhyNotSigned(round.State, tally, toLook, isLead),
            signature is null
                ? null
                : new(signature.By, signature.At, signature.Words, signature.Records, signature.LastNumber, signature.IsOwnWork)
        );
    }

    private static AtTheBench Bench(InspectionRecord it) => new(it.Id, it.Item.Tag, it.Times.TakenFrom, it.Times.TakenTo);

    private static string? Drift(IEnumerable<ReviewFlag> flags) =>
        flags.OrderBy(it => it.At).LastOrDefault() is { } flag
            ? flag.Why + (flag.Decision is { } decision ? $" Looked at by {flag.SeenBy}: {decision}" : "")
            : null;

    private static RecordToReview Card(
        InspectionRecord it,
        Provenance from,
        ImmutableArray<ReviewFinding> findings,
        ReviewedRecord? seen,
        bool mayBeTakenBack
    ) =>
        new(
            it.Id,
            it.Item.Id,
            it.Item.Tag,
            it.Item.Name,
            it.Item.Room,
            it.Outcome,
            it.OutcomeText,
            it.Technician.Name,
            it.Times.TakenTo,
            RecordReview.Spoken(it.Times.TakenTo - it.Times.TakenFrom),
            from.BookNumber,
            [
                .. findings.Select(finding => new FindingCard(
                    finding.Reason,
                    ReviewText.Of(finding.Reason),
                    finding.Text,
                    finding.MustBeSeen
                )),
            ],
            findings.Any(finding => finding.MustBeSeen),
            seen is null ? null : new(seen.By, seen.At, seen.Words),
            mayBeTakenBack
        );
}
