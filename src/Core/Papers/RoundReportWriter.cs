using System.Collections.Immutable;
using System.Globalization;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;

namespace Osierwand.Core.Papers;

/// <summary>
/// Makes the papers of a round of its records, one after the other: of each only what stands on the paper is kept, so that a round of
/// thousands takes no more memory than its paper.
/// </summary>
public sealed class RoundReportWriter
{
    /// <summary>Named one by one under what to do now; the rest stands in its table.</summary>
    private const int MostNamed = 6;

    private readonly List<Kept> records = [];
    private readonly HashSet<string> standards = [];
    private readonly HashSet<string> procedures = [];
    private readonly Dictionary<string, UsedKit> kit = [];
    private readonly Dictionary<string, int> testers = [];
    private readonly Dictionary<(DateOnly Month, bool IsTest), int> due = [];
    private bool hasHouseLimits;
    private bool isGuarded;

    /// <summary>An instrument over the whole round.</summary>
    private sealed class UsedKit
    {
        public SortedSet<DateOnly> CalibratedUntil { get; } = [];
        public SortedSet<DateOnly> CheckedOn { get; } = [];
    }

    /// <summary>Of one record what the paper says of it.</summary>
    private sealed record Kept(
        Guid Id,
        Guid Item,
        long Number,
        string Hash,
        ReportLine Line,
        string Room,
        ImmutableArray<string> Wrong,
        ImmutableArray<string> Advice,
        string? WhyNot,
        bool Frees,
        string? Closes,
        NextCard? Next,
        ImmutableArray<LaterRecord> Later
    )
    {
        public bool Stands => Later.IsEmpty && Line.Outcome != Outcome.Withdrawn;
    }

    public int Count => records.Count;

    /// <param name="from">Its place in the book, and what takes it back.</param>
    public void Add(InspectionRecord record, Provenance from)
    {
        var kept = new Kept(
            record.Id,
            record.Item.Id,
            from.BookNumber,
            from.Hash,
            Line(record, from.BookNumber),
            record.Item.Room,
            [.. record.Outcome is Outcome.Fail or Outcome.Findings ? record.Reasons : []],
            [.. record.Advice, .. record.Remarks is { Length: > 0 } remarks ? new[] { remarks } : []],
            record.NotTested?.Text,
            record is { Outcome: Outcome.Pass or Outcome.PassWithAdvice, Rules.Scope: Scope.AfterRepair },
            record.Closes is { } closed ? $"passed after repair{(closed.Repair is { } repair ? $": {repair.Text}" : "")}" : null,
            record.Next,
            from.Corrections
        );
        records.Add(kept);
        if (!kept.Stands)
            return;
        standards.Add(record.Rules.Standard);
        if (record.Rules.Procedure is { } procedure)
            procedures.Add(procedure);
        hasHouseLimits |= record.Rules.House.Any(house => house.PackId == record.Rules.PackId && !house.Limits.IsEmpty);
        isGuarded |= record.Rules.DecisionRule == DecisionRule.Guarded;
        testers[record.Technician.Name] = testers.GetValueOrDefault(record.Technician.Name) + 1;
        foreach (var instrument in record.Instrument?.All ?? [])
        {
            var named = $"{instrument.Name}, serial {instrument.Serial}";
            if (!kit.TryGetValue(named, out var used))
                kit[named] = used = new();
            used.CalibratedUntil.Add(instrument.CalibrationDue);
            if (instrument.Checked is { IsGood: true } daily)
                used.CheckedOn.Add(DateOnly.FromDateTime(daily.At.DateTime));
        }
    }

    /// <summary>The paper of everything that was added.</summary>
    public RoundReport Of(ReportedRound round)
    {
        var standing = records
            .Where(it => it.Stands && it.Line.Outcome != Outcome.Findings)
            .GroupBy(it => it.Item)
            .Select(Last)
            .OrderBy(it => it.Room, StringComparer.OrdinalIgnoreCase)
            .ThenBy(it => it.Line.Tag, StringComparer.OrdinalIgnoreCase)
            .ToArray();
        due.Clear();
        foreach (var next in standing.Select(it => it.Next).OfType<NextCard>())
            CountDue(next);
        var failed = Failures(standing, round);
        var untested = Untested(standing, round);
        var notReached = round.Untouched.Count(it => !it.IsLeftOut);
        var tally = new ReportTally(
            standing.Length + notReached,
            standing.Count(it => it.Line.Outcome == Outcome.Pass),
            standing.Count(it => it.Line.Outcome == Outcome.PassWithAdvice),
            standing.Count(it => it.Line.Outcome == Outcome.Fail),
            failed.Count(it => !it.IsOut && standing.All(last => last.Number != it.Number)),
            standing.Count(it => it.Line.Outcome == Outcome.NotTested),
            notReached
        );
        return new(
            round.Name,
            round.Client,
            round.Site,
            round.From,
            round.To,
            round.IsOver,
            tally,
            [.. Notices(round, tally)],
            [.. Acts(failed, tally, round)],
            failed,
            [
                .. standing
                    .Where(it => it.Line.Outcome == Outcome.PassWithAdvice)
                    .Select(it => new ReportedItem(it.Line.Tag, it.Line.Name, it.Room, it.Number, it.Advice)),
            ],
            untested,
            [.. round.Changed, .. Searches()],
            [.. TakenBack()],
            [.. standing.GroupBy(it => it.Room).Select(room => new ReportedRoom(room.Key, [.. room.Select(it => it.Line)]))],
            [.. Basis(round)],
            [.. Kit()],
            [.. Signatures(round)],
            [.. Next(round)],
            [.. Origin(round)]
        );
    }

    /// <summary>A failure until a pass after repair; else what was done last, and a done one before a not tested one. In the book's order:
    /// a bench's clock may be wrong.</summary>
    private static Kept Last(IEnumerable<Kept> ofItem)
    {
        Kept? open = null,
            last = null;
        foreach (var it in ofItem.OrderBy(it => it.Number))
        {
            open =
                it.Line.Outcome == Outcome.Fail ? it
                : it.Frees ? null
                : open;
            if (last is null || it.Line.Outcome != Outcome.NotTested || last.Line.Outcome == Outcome.NotTested)
                last = it;
        }
        return open ?? last!;
    }

    private static ReportLine Line(InspectionRecord it, long number) =>
        new(
            it.Item.Tag,
            it.Item.Name,
            it.Item.ClassText,
            it.KindOfInspection,
            it.Times.Date,
            it.Outcome,
            it.OutcomeText,
            Nearest(it),
            it.Next switch
            {
                null => "",
                { Due: { } test } next when test <= next.VisualDue => $"test {Month(test)}",
                { Due: { } test } next => $"look {Month(next.VisualDue)}, test {Month(test)}",
                { } next => $"look {Month(next.VisualDue)}",
            },
            it.Technician.Initials,
            number
        );

    private static NearestValue? Nearest(InspectionRecord record)
    {
        var measured = record
            .Readings.Where(PaperWriter.IsCounted)
            .Select(reading => (Reading: reading, record.Steps.FirstOrDefault(step => step.Key == reading.Step)?.Limit))
            .Where(it => it.Limit is { Si: > 0 } && it.Reading.Si is not null)
            .ToArray();
        if (measured.Length == 0)
            return null;
        // A bound uses up nothing that could be divided: it comes after every value, but before one that failed.
        var (nearest, limit) = measured
            .OrderByDescending(it => (it.Reading.Override?.Is ?? it.Reading.Status) == Status.Fail)
            .ThenByDescending(it => it.Reading.Use ?? -1)
            .First();
        return new(
            nearest.Point is { Length: > 0 } point ? $"{nearest.Name}, {point}" : nearest.Name,
            nearest.Text,
            limit!.Text,
            PaperWriter.Rail(nearest, limit),
            nearest.Override?.Is ?? nearest.Status,
            nearest.NearLimit,
            measured.Length - 1
        );
    }

    private ImmutableArray<ReportedFailure> Failures(Kept[] standing, ReportedRound round)
    {
        var last = standing.ToDictionary(it => it.Item);
        return
        [
            .. records
                .Where(it => it.Stands && it.Line.Outcome == Outcome.Fail)
                // Failed twice in one round, it is one failure that goes on: the later record tells how it stands.
                .GroupBy(it => it.Item)
                .Select(ofItem => ofItem.OrderBy(it => it.Number).Last())
                .Select(it => Failure(it, last[it.Item], round.Held.GetValueOrDefault(it.Item)))
                .OrderByDescending(it => it.IsOut)
                .ThenBy(it => it.Room, StringComparer.OrdinalIgnoreCase)
                .ThenBy(it => it.Tag, StringComparer.OrdinalIgnoreCase),
        ];
    }

    private static ReportedFailure Failure(Kept failed, Kept last, HeldSince? held)
    {
        var passed = last.Line.Outcome is Outcome.Pass or Outcome.PassWithAdvice ? last : null;
        var since = held?.Cause == failed.Id ? held : null;
        return new(
            failed.Line.Tag,
            failed.Line.Name,
            failed.Room,
            failed.Line.Date,
            failed.Number,
            failed.Wrong,
            [
                .. since?.Acts ?? [],
                .. passed is null
                    ? (string[])[]
                    : [$"{PaperWriter.Day(passed.Line.Date)}: {passed.Closes ?? "passed"} (record {passed.Number})"],
            ],
            passed is null && since is not { IsOut: false },
            passed is not null ? "back in use"
                : since is not null ? since.State
                : "out of use"
        );
    }

    private static ImmutableArray<ReportedItem> Untested(Kept[] standing, ReportedRound round) =>
        [
            .. standing
                .Where(it => it.Line.Outcome == Outcome.NotTested)
                .Select(it => new ReportedItem(it.Line.Tag, it.Line.Name, it.Room, it.Number, [it.WhyNot ?? "no reason was given"])),
            .. round
                .Untouched.OrderBy(it => it.IsLeftOut)
                .ThenBy(it => it.Room, StringComparer.OrdinalIgnoreCase)
                .ThenBy(it => it.Tag, StringComparer.OrdinalIgnoreCase)
                .Select(it => new ReportedItem(it.Tag, it.Name, it.Room, null, [it.Why])),
        ];

    private IEnumerable<string> Notices(ReportedRound round, ReportTally tally)
    {
        if (!round.IsOver)
            yield return tally.NotReached == 0
                ? "This round is not over yet: a later report takes the place of this one."
                : $"This round is not over yet: {Items(tally.NotReached)} of {tally.Items} still to do. A later report takes the place of this "
                    + "one.";
        if (round.Signature is not { } signature)
            yield return "Nobody has reviewed and signed this round yet.";
        else
            foreach (var late in records.Where(it => it.Number > signature.Number))
                yield return $"Record {late.Number} ({late.Line.Tag}, {late.Line.OutcomeText.ToLowerInvariant()}) came after the signature.";
    }

    private static IEnumerable<ReportAct> Acts(ImmutableArray<ReportedFailure> failed, ReportTally tally, ReportedRound round)
    {
        var still = failed.Where(it => it.IsOut).ToArray();
        foreach (var it in still.Take(MostNamed))
            yield return new($"Do not use {it.Tag} {it.Name}, {it.Room}: {string.Join("; ", it.Wrong)}. It is {it.State}.", true);
        if (still.Length > MostNamed)
            yield return new($"Do not use {still.Length - MostNamed} more that failed: they stand below.", true);
        foreach (var held in round.HeldElsewhere)
            yield return new($"Do not use {held.Label}: {held.Text}", true);
        foreach (var outlet in round.Outlets)
            yield return new($"Have {outlet.Label} put right before anything is plugged in there: {outlet.Text}", true);
        foreach (var line in Calm(still.Length + round.HeldElsewhere.Length, tally, round))
            yield return new(line, false);
    }

    private static IEnumerable<string> Calm(int still, ReportTally tally, ReportedRound round)
    {
        if (tally.NotTested + tally.NotReached is > 0 and var open)
            yield return $"{Spoken(open)} {(open == 1 ? "was" : "were")} not tested and {(open == 1 ? "stays" : "stay")} due. Nothing here "
                + $"says that {(open == 1 ? "it is" : "they are")} safe.";
        if (round.Untouched.Count(it => it.IsLeftOut) is > 0 and var left)
            yield return $"{Spoken(left)} {(left == 1 ? "was" : "were")} left to somebody else by agreement: see that "
                + $"{(left == 1 ? "it is" : "they are")} tested.";
        if (tally.Advised > 0)
            yield return $"Read what is advised of {Items(tally.Advised)} that passed.";
        if (tally.Mended > 0)
            yield return $"{Spoken(tally.Mended)} failed and passed after repair: nothing is left to do about "
                + $"{(tally.Mended == 1 ? "it" : "them")}.";
        if (still == 0 && tally.Passed > 0)
            yield return tally.NotTested + tally.NotReached == 0
                ? "Everything that was inspected may go on being used."
                : "Everything else may go on being used.";
    }

    private IEnumerable<PaperFact> Searches() =>
        records
            .Where(it => it.Stands && it.Line.Outcome == Outcome.Findings)
            .Select(it => new PaperFact(
                $"{it.Line.Tag} {it.Line.Name}",
                $"Searched for a fault on {PaperWriter.Day(it.Line.Date)}, neither a pass nor a fail: {string.Join("; ", it.Wrong)}"
            ));

    private IEnumerable<PaperFact> TakenBack() =>
        from it in records
        where it.Line.Outcome != Outcome.Withdrawn
        from later in it.Later
        select new PaperFact(
            $"Record {it.Number}, {it.Line.Tag}",
            $"{it.Line.OutcomeText}; taken back on {PaperWriter.Day(later.Day)} by {later.By} (record {later.BookNumber}): {later.Reason}"
        );

    private IEnumerable<PaperFact> Basis(ReportedRound round)
    {
        foreach (var standard in standards.Order(StringComparer.Ordinal))
            yield return new("Standard", standard);
        if (hasHouseLimits)
            yield return new("House limits", "tighter than the standard's where a limit says so");
        foreach (var procedure in procedures.Order(StringComparer.Ordinal))
            yield return new("Procedure", procedure);
        yield return new("Judged", isGuarded ? "with the instrument's accuracy counted against the item" : "by the readings as they stand");
        if (round.Choices.Length > 0)
            yield return new("Choices", string.Join("; ", round.Choices));
        if (round.PolicyReason is { Length: > 0 } reason)
            yield return new("Other than usual", reason);
        if (round.ScopeWords.Length > 0)
            yield return new("Agreed", round.ScopeWords);
    }

    /// <summary>Calibrated anew in the middle of a round, an instrument has two dates; the earliest is the one that had to hold.</summary>
    private IEnumerable<PaperFact> Kit() =>
        kit.OrderBy(it => it.Key, StringComparer.Ordinal)
            .Select(it => new PaperFact(
                "Instrument",
                $"{it.Key}; calibration until {PaperWriter.Day(it.Value.CalibratedUntil.Min)}"
                    + (it.Value.CalibratedUntil.Count > 1 ? $", then until {PaperWriter.Day(it.Value.CalibratedUntil.Max)}" : "")
                    + it.Value.CheckedOn.Count switch
                    {
                        0 => "; no daily check is kept",
                        1 => $"; checked good on {PaperWriter.Day(it.Value.CheckedOn.Min)}",
                        var days => $"; checked good on {days} days",
                    }
            ));

    private IEnumerable<PaperFact> Signatures(ReportedRound round)
    {
        foreach (var (name, count) in testers.OrderByDescending(it => it.Value).ThenBy(it => it.Key, StringComparer.Ordinal))
            yield return new("Tested by", $"{name}: {count} {(count == 1 ? "record" : "records")}");
        yield return new(
            "Reviewed by",
            round.Signature is not { } it
                ? "nobody yet"
                : $"{it.By}, signed on {PaperWriter.Day(it.On)} over {it.Records} {(it.Records == 1 ? "record" : "records")} up to number "
                    + it.Number.ToString(CultureInfo.InvariantCulture)
                    + (it.IsOwnWork ? "; some of it was the reviewer's own work" : "")
                    + (it.Words.Length > 0 ? $". {it.Words}" : "")
        );
    }

    private IEnumerable<PaperFact> Next(ReportedRound round)
    {
        foreach (var month in due.Keys.Select(it => it.Month).Distinct().Order())
        {
            var (tests, looks) = (due.GetValueOrDefault((month, true)), due.GetValueOrDefault((month, false)));
            yield return new(
                Month(month),
                string.Join(
                    ", ",
                    new[] { tests > 0 ? $"{tests} to test" : null, looks > 0 ? $"{looks} to look at" : null }.OfType<string>()
                )
            );
        }
        foreach (var planned in round.Planned)
            yield return new("Planned", planned);
    }

    /// <summary>A test is a look too: what falls due for both at once is counted as a test.</summary>
    private void CountDue(NextCard next)
    {
        if (next.Due is { } test)
            due[(First(test), true)] = due.GetValueOrDefault((First(test), true)) + 1;
        if (next.Due is not { } tested || next.VisualDue < tested)
            due[(First(next.VisualDue), false)] = due.GetValueOrDefault((First(next.VisualDue), false)) + 1;
    }

    private IEnumerable<string> Origin(ReportedRound round)
    {
        if (records.Count == 0)
        {
            yield return "Made of no record: none was saved in this round.";
            yield break;
        }
        var last = records.MaxBy(it => it.Number)!;
        yield return $"{records.Count} {(records.Count == 1 ? "record" : "records")}";
        yield return $"numbers {Ranges()} in the book of {round.ClientCode}, the last chained as {last.Hash}";
        yield return "Each item's own paper tells every value. Limits must be checked against one's own copy of the standard. The duty to keep "
            + "equipment safe stays with its owner.";
    }

    /// <summary>"12 to 40, 44, 51 to 53".</summary>
    private string Ranges()
    {
        var ranges = new List<(long From, long To)>();
        foreach (var number in records.Select(it => it.Number).Order())
            if (ranges is [.., var (from, to)] && number == to + 1)
                ranges[^1] = (from, number);
            else
                ranges.Add((number, number));
        return string.Join(", ", ranges.Select(it => it.From == it.To ? $"{it.From}" : $"{it.From} to {it.To}"));
    }

    private static DateOnly First(DateOnly day) => new(day.Year, day.Month, 1);

    private static string Month(DateOnly day) => day.ToString("MMMM yyyy", CultureInfo.InvariantCulture);

    private static string Items(int count) => count == 1 ? "one item" : $"{count} items";

    /// <summary>At the beginning of a sentence.</summary>
    private static string Spoken(int count) => count == 1 ? "One item" : $"{count} items";
}
