using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Papers;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Records;
using Osierwand.Core.Rounds;
using Osierwand.Server.Outlets;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Rounds;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

/// <summary>Reads a round and everything that was saved in it into its papers, record by record.</summary>
public sealed class RoundReports(OsierwandDb db, OutletBook outlets, TimeProvider time)
{
    /// <summary>Between two words of how far it has come.</summary>
    private const int ToldEvery = 100;

    /// <summary>How many of the next rounds at its site are named.</summary>
    private const int NextNamed = 3;

    /// <param name="Record">Null where this version cannot read it.</param>
    internal sealed record Numbered(InspectionRecord? Record, Provenance From);

    /// <param name="told">Hears how many records are read, of how many.</param>
    /// <returns>Null where there is no such round.</returns>
    /// <exception cref="UnreadableRecordException">A report that leaves one out in silence would be worse than none.</exception>
    public async Task<RoundReport?> OfAsync(Guid roundId, Func<int, int, Task>? told, CancellationToken cancel)
    {
        if (await RoundAsync(roundId, cancel) is not { } round)
            return null;
        var writer = new RoundReportWriter();
        var total = told is null ? 0 : await db.Inspections.CountAsync(it => it.RoundId == roundId, cancel);
        await foreach (var it in RecordsAsync(roundId, cancel))
        {
            writer.Add(it.Record ?? throw new UnreadableRecordException(it.From.BookNumber), it.From);
            // From the first one on: what is told while the records are still being read must not need their connection.
            if (told is not null && writer.Count % ToldEvery == 1)
                await told(writer.Count, total);
        }
        if (told is not null)
            await told(writer.Count, total);
        return writer.Of(await BesideAsync(round, cancel));
    }

    internal Task<Round?> RoundAsync(Guid roundId, CancellationToken cancel) =>
        db.Rounds.AsNoTracking().Include(it => it.Site.Client).FirstOrDefaultAsync(it => it.Id == roundId, cancel);

    /// <summary>Every record of a round by its number, each with what takes it back.</summary>
    internal async IAsyncEnumerable<Numbered> RecordsAsync(
        Guid roundId,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        var corrections = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Corrects != null && db.Inspections.Any(of => of.Id == it.Corrects && of.RoundId == roundId))
            .OrderBy(it => it.BookNumber)
            .Select(it => new
            {
                Of = it.Corrects!.Value,
                it.BookNumber,
                it.Record,
            })
            .ToListAsync(cancel);
        var later = corrections.ToLookup(it => it.Of, it => ItemPapers.Later(it.BookNumber, it.Record));
        var rows = db
            .Inspections.AsNoTracking()
            .Where(it => it.RoundId == roundId)
            .OrderBy(it => it.BookNumber)
            .Select(it => new
            {
                it.Id,
                it.BookNumber,
                it.Hash,
                it.Record,
            })
            .AsAsyncEnumerable();
        await foreach (var row in rows.WithCancellation(cancel))
            yield return new(
                InspectionRecord.Read(row.Record).TryGet(out var record) ? record : null,
                new(row.BookNumber, Convert.ToHexStringLower(row.Hash.AsSpan(0, 8)), [.. later[row.Id]])
            );
    }

    /// <summary>What no record of the round knows.</summary>
    private async Task<ReportedRound> BesideAsync(Round round, CancellationToken cancel)
    {
        var (site, client) = (round.Site, round.Site.Client);
        var until = round.ClosedOn ?? round.EndsOn;
        var signature = await db.RoundSignatures.AsNoTracking().FirstOrDefaultAsync(it => it.RoundId == round.Id, cancel);
        var planned = await db
            .Rounds.AsNoTracking()
            .Where(it => it.SiteId == round.SiteId && it.Id != round.Id && it.State != RoundState.Closed && it.EndsOn >= round.EndsOn)
            .OrderBy(it => it.StartsOn)
            .Take(NextNamed)
            .Select(it => new
            {
                it.Name,
                it.StartsOn,
                it.EndsOn,
            })
            .ToListAsync(cancel);
        return new(
            round.Name,
            client.Name,
            client.Code,
            site.Name,
            round.StartsOn,
            until,
            round.State == RoundState.Closed,
            round.ScopeWords,
            round.PolicyReason,
            [.. RoundPolicy.InWords(RoundPolicy.Of(round, client), client.LabelSchool, client.CapMonths)],
            await UntouchedAsync(round, cancel),
            await HeldAsync(round, cancel),
            await ChangedAsync(round, until, cancel),
            await HeldElsewhereAsync(round, cancel),
            [
                .. (await outlets.FoundWrongAsync(round.SiteId, round.StartsOn, cancel)).Select(it => new PaperFact(
                    $"outlet {it.Name}, {it.Room}",
                    it.Says
                )),
            ],
            signature is null
                ? null
                : new(signature.By, signature.Day, signature.LastNumber, signature.Records, signature.IsOwnWork, signature.Words),
            [.. planned.Select(it => $"{it.Name}, {PaperWriter.Day(it.StartsOn)} to {PaperWriter.Day(it.EndsOn)}")]
        );
    }

    /// <summary>What belongs to the round and has no record in it, and what was left out by agreement.</summary>
    private async Task<ImmutableArray<UntouchedItem>> UntouchedAsync(Round round, CancellationToken cancel)
    {
        var horizon = round.Site.DayOf(time.GetUtcNow()).AddDays((await HousePacks.RulesAsync(db, cancel)).DueWindow);
        var standing = db.Standing().Where(it => it.RoundId == round.Id && it.Outcome != Outcome.Findings);
        var rows = await RoundPlanning
            .Belonging(db, round, horizon, [])
            .AsNoTracking()
            .Where(item => !standing.Any(it => it.ItemId == item.Id))
            .Select(item => new
            {
                item.Tag,
                item.Name,
                item.Room,
                Left = db.RoundItems.FirstOrDefault(it => it.RoundId == round.Id && it.ItemId == item.Id && it.ExcludedWhy != null),
                IsOut = db.HireItems.Any(it => it.ItemId == item.Id && it.OutSince != null),
            })
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(it => new UntouchedItem(
                it.Tag,
                it.Name,
                it.Room,
                it.Left is { ExcludedWhy: { } why } left ? $"{why}; tested by {left.TestedBy}"
                    : it.IsOut ? "out on hire"
                    : round.State == RoundState.Closed ? "not reached"
                    : "still to do",
                it.Left is not null
            )),
        ];
    }

    /// <summary>Of each item that failed in the round, what was done about it since, in this round or after it.</summary>
    private async Task<ImmutableDictionary<Guid, HeldSince>> HeldAsync(Round round, CancellationToken cancel)
    {
        var failed = await db.Standing()
            .Where(it => it.RoundId == round.Id && it.Outcome == Outcome.Fail)
            .Select(it => new
            {
                it.Id,
                it.ItemId,
                it.BookNumber,
                it.Item.HeldCause,
                it.Item.Stage,
                it.Item.State,
            })
            .ToListAsync(cancel);
        var causes = failed.Select(it => it.Id).ToArray();
        var acts = (
            await db.QuarantineActs.AsNoTracking().Where(it => causes.Contains(it.Cause)).OrderBy(it => it.At).ToListAsync(cancel)
        ).ToLookup(it => it.Cause);
        var held = ImmutableDictionary.CreateBuilder<Guid, HeldSince>();
        // The last failure of an item is the one that its hold speaks of.
        foreach (var it in failed.OrderBy(it => it.BookNumber))
            held[it.ItemId] = new(
                it.Id,
                it.State != ItemState.InService && it.Stage != Stage.Scrapped,
                QuarantineText.Now(it.State, it.HeldCause == it.Id ? it.Stage : null),
                [
                    .. acts[it.Id]
                        .Select(Holds.Read)
                        .OfType<DoneAct>()
                        .Select(done => $"{PaperWriter.Day(round.Site.DayOf(done.At))}, {done.By}: {QuarantineText.Of(done.Act)}"),
                ]
            );
        return held.ToImmutable();
    }

    private async Task<ImmutableArray<PaperFact>> HeldElsewhereAsync(Round round, CancellationToken cancel)
    {
        var own = db.Standing().Where(it => it.RoundId == round.Id);
        var rows = await db
            .Items.AsNoTracking()
            .Where(item => item.State == ItemState.Quarantined || item.State == ItemState.InRepair)
            .Where(item => own.Any(it => it.ItemId == item.Id))
            .Where(item => !own.Any(it => it.ItemId == item.Id && it.Outcome == Outcome.Fail))
            .OrderBy(item => item.Tag)
            .Select(item => new
            {
                item.Tag,
                item.Name,
                item.Room,
                item.HeldWhy,
            })
            .ToListAsync(cancel);
        return [.. rows.Select(it => new PaperFact($"{it.Tag} {it.Name}, {it.Room}", $"it is out of use. {it.HeldWhy}"))];
    }

    /// <summary>What was put right in the register while the round was walked.</summary>
    private async Task<ImmutableArray<PaperFact>> ChangedAsync(Round round, DateOnly until, CancellationToken cancel)
    {
        var (begun, over) = (round.Site.StartOf(round.StartsOn), round.Site.StartOf(until.AddDays(1)));
        var touched = db.Inspections.Where(it => it.RoundId == round.Id).Select(it => it.ItemId);
        var changes = await (
            from change in db.ItemChanges.AsNoTracking()
            join item in db.Items on change.ItemId equals item.Id
            where touched.Contains(item.Id) && change.At >= begun && change.At < over
            orderby change.At
            select new
            {
                item.Tag,
                item.Name,
                change.At,
                change.Reason,
                change.Lines,
            }
        ).ToListAsync(cancel);
        var fresh = await db
            .Items.AsNoTracking()
            .Where(it => touched.Contains(it.Id) && it.RegisteredOn >= round.StartsOn && it.RegisteredOn <= until)
            .OrderBy(it => it.Tag)
            .Select(it => new
            {
                it.Tag,
                it.Name,
                it.RegisteredOn,
            })
            .ToListAsync(cancel);
        return
        [
            .. fresh.Select(it => new PaperFact($"{it.Tag} {it.Name}", $"new in the register on {PaperWriter.Day(it.RegisteredOn)}")),
            .. changes.Select(it => new PaperFact(
                $"{it.Tag} {it.Name}",
                $"{PaperWriter.Day(round.Site.DayOf(it.At))}, {it.Reason}: {string.Join("; ", it.Lines)}"
            )),
        ];
    }
}

/// <summary>A record that this version cannot read stands in the way of a paper.</summary>
public sealed class UnreadableRecordException(long number) : Exception
{
    public override string Message =>
        $"Record {number} cannot be read by this version; it is kept to the letter and can be exported. A paper without it would be wrong.";
}
