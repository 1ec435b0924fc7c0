using System.Collections.Immutable;
using System.Globalization;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Papers;

/// <summary>
/// Makes the paper of one inspection. For medical equipment it holds what IEC 62353, clause 6, asks of documentation: who tested, the
/// device with its accessories, each test with value, method and instrument, the look and the functional check, the evaluation, date and
/// signature.
/// </summary>
public static class PaperWriter
{
    private const int EarlierShown = 4;

    /// <param name="before">Earlier inspections of the same item, oldest first.</param>
    /// <param name="zone">Of the site: times on paper are local to it.</param>
    public static ItemPaper Of(InspectionRecord record, Provenance from, IReadOnlyList<InspectionRecord> before, TimeZoneInfo zone)
    {
        var say = PackLibrary.Find(record.Rules.PackId)?.Dialect ?? Dialect.Plain;
        var earlier = new Earlier(before);
        return new(
            Title(record),
            record.Item.Tag,
            record.Item.Name,
            record.Round.Client,
            $"{record.Item.Site}, {record.Item.Room}",
            record.Times.Date,
            record.Outcome,
            record.OutcomeText,
            Act(record),
            [.. Notices(record, from)],
            [.. ItemFacts(record)],
            [.. Basis(record, say)],
            [.. Kit(record, say)],
            LookOf(record),
            [.. record.Readings.Where(IsCounted).Select(it => Reading(it, record, earlier))],
            [.. record.Readings.Where(it => !IsCounted(it)).Select(NotCounted)],
            [.. NotMeasured(record)],
            [.. Worth(record)],
            [.. Evaluation(record)],
            [.. Next(record)],
            [.. Signatures(record, zone)],
            Origin(record, from)
        );
    }

    /// <summary>"17 Apr 2024", for tables.</summary>
    public static string ShortDay(DateOnly it) => it.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A day as papers write it: 12 May 2027.</summary>
    public static string Day(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);

    private static string Title(InspectionRecord it) =>
        it switch
        {
            { Outcome: Outcome.Withdrawn } => "Record taken back",
            { Outcome: Outcome.NotTested } => "Not tested",
            { Outcome: Outcome.Findings } => "Findings of a search for a fault",
            { IsTest: true, Item.Equipment.IsMedical: true } => "Test protocol of a medical device",
            { IsTest: true, Outcome: Outcome.Fail } => "Report of a failed inspection and test",
            { IsTest: true } => "Certificate of inspection and test",
            { Outcome: Outcome.Fail } => "Report of a failed formal visual inspection",
            _ => "Record of a formal visual inspection",
        };

    private static string Act(InspectionRecord it) =>
        it.Outcome switch
        {
            Outcome.Pass => "It may go on being used.",
            Outcome.PassWithAdvice => "It may go on being used; see what is advised.",
            Outcome.Fail => "Do not use it. It is out of use until it has been repaired and has passed an inspection after the repair.",
            Outcome.NotTested =>
                $"It was not tested: {it.NotTested?.Text ?? "no reason was given"}. It stays due, and this is no statement "
                    + "that it is safe.",
            Outcome.Findings => "This is neither a pass nor a fail: the item stays as due, and as much in or out of use, as it was.",
            _ => "The item stands as it stood before the record that is taken back.",
        };

    private static IEnumerable<string> Notices(InspectionRecord it, Provenance from)
    {
        foreach (var later in from.Corrections)
            yield return $"Taken back on {Day(later.Day)} by {later.By} (record {later.BookNumber}): {later.Reason} What stands below counts no more.";
        if (it.Corrects is { } correction)
            yield return $"It takes back record {correction.Record}: {correction.Reason}";
        foreach (var left in it.LeftOut ?? [])
            yield return $"Left out, though the standard asks it: {string.Join(", ", new[] { left.Name, left.Detail }.Where(text => text.Length > 0))}. "
                + $"{left.Reason}";
        foreach (var reading in it.Readings.Where(reading => reading.Override is not null))
            yield return $"{reading.Name}: decided by {reading.Override!.By} in place of the comparison with the limit. {reading.Override.Reason}";
        if (it.LeakageReason is { } leakage)
            yield return $"Leakage was measured otherwise than usual here: {leakage}.";
        if (it.Rules.Policy.PermanentReason is { Length: > 0 } permanent && it.Item.Equipment is { IsMedical: true, IsHardWired: true })
            yield return $"Equipment leakage was left out: {permanent}.";
    }

    private static IEnumerable<PaperFact> ItemFacts(InspectionRecord it)
    {
        yield return new("Tag", it.Item.Tag);
        yield return new("What it is", it.Item.Name);
        foreach (var fact in it.Item.Facts)
            yield return new(fact.Label, fact.Value);
        yield return new("Protection", $"class {it.Item.ClassText}: {it.Item.ClassEvidence}");
        yield return new("Place", $"{it.Item.Site}, {it.Item.Room}");
    }

    private static IEnumerable<PaperFact> Basis(InspectionRecord it, Dialect say)
    {
        yield return new("Standard", it.Rules.Standard);
        yield return new("Kind", it.KindOfInspection);
        yield return new("Round", it.Round.Name);
        if (it.WorkOrder?.Number is { } number)
            yield return new("Work order", number);
        if (it.WorkOrder?.Fault is { } fault)
            yield return new("Reported fault", fault);
        if (it.Complaint is { } complaint)
            yield return new("Complaint", complaint);
        if (it.Rules.Procedure is { } procedure)
            yield return new("Procedure", procedure);
        if (it.Rules.House.Any(house => house.PackId == it.Rules.PackId && !house.Limits.IsEmpty))
            yield return new("House limits", "tighter than the standard's where a limit says so");
        yield return new(
            "Judged",
            it.Rules.DecisionRule == DecisionRule.Guarded
                ? "with the instrument's accuracy counted against the item"
                : "by the reading as it stands"
        );
        if (it.Closes is { } closed)
            yield return new(
                "Closes",
                $"the failure of {Day(closed.Since)}: {closed.Words}" + (closed.Repair is { } repair ? $". Since then {repair.Text}" : "")
            );
        if (it.StoodIsolated == true)
            yield return new("Standing", say.Say("isolated from any other earth while its leakage was measured"));
        if (it.Isolation is not null)
            yield return new("Isolation", say.Say("isolated, proved dead and restored, deed by deed in the record"));
    }

    private static IEnumerable<PaperFact> Kit(InspectionRecord it, Dialect say)
    {
        foreach (var instrument in it.Instrument?.All ?? [])
        {
            yield return new(
                instrument == it.Instrument ? "Instrument" : Words.Capital(KitText.Of(instrument.Kind)),
                $"{instrument.Name}, serial {instrument.Serial}; calibration until {Day(instrument.CalibrationDue)}"
                    + (instrument.TestLeadName.Length == 0 ? "" : $"; {instrument.TestLeadName}")
                    + (instrument.NullOhm is { } ohm ? string.Create(CultureInfo.InvariantCulture, $", null {ohm:0.###} Ω") : "")
            );
            if (instrument.Checked is { } daily)
                yield return new(
                    "Daily check",
                    $"{(daily.IsGood ? "good" : "not good")}, against {daily.CheckBox} by {daily.By} on {Day(DateOnly.FromDateTime(daily.At.DateTime))}"
                );
            foreach (var piece in instrument.Pieces)
                yield return new("With it", piece.Name + (piece.Serial is { } serial ? $", serial {serial}" : ""));
        }
        if (it.Outlet is { } outlet)
            yield return new(
                "Outlet",
                $"{outlet.Name}: "
                    + say.Say(
                        string.Join(
                            ", ",
                            outlet.Voltages.Select(volts =>
                                string.Create(CultureInfo.InvariantCulture, $"{volts.Pair} {volts.Volts:0.#} V")
                            )
                        )
                    )
            );
    }

    private static PaperLook LookOf(InspectionRecord it) =>
        new(
            it.Look.Outcome,
            it.Look.Outcome switch
            {
                Look.Pass => "Good",
                Look.Fail => "Failed",
                _ => "Not done",
            },
            [
                .. it
                    .Look.Points.GroupBy(point => point.Where)
                    .Select(place => new PaperFact(place.Key, string.Join("; ", place.Select(Answered)))),
                .. it.Look.Fuse.Length == 0 ? (PaperFact[])[] : [new PaperFact("Fuse and flex", it.Look.Fuse)],
            ],
            [
                .. it
                    .Look.Points.Where(point => point.Answer is LookAnswer.Bad or LookAnswer.Advice)
                    .Select(point => $"{point.Text}: {point.Words}"),
                .. it.Look.FuseFindings,
            ]
        );

    private static string Answered(RecordedPoint point) =>
        point.Answer switch
        {
            LookAnswer.Good => point.Text,
            LookAnswer.DoesNotApply => $"{point.Text} ({point.Words ?? "does not apply"})",
            LookAnswer.Advice => $"{point.Text} (to watch: {point.Words})",
            _ => $"{point.Text} (BAD: {point.Words})",
        };

    /// <summary>Neither voided nor impossible.</summary>
    internal static bool IsCounted(ReadingView it) => it.Void is null && it.Fault is null;

    private static PaperReading Reading(ReadingView it, InspectionRecord record, Earlier earlier)
    {
        var step = record.Steps.FirstOrDefault(step => step.Key == it.Step);
        var limit = step?.Limit;
        var past = earlier.Of(it);
        var under = string.Join(", ", new[] { it.Point, step?.Detail }.Where(text => !string.IsNullOrEmpty(text)));
        var remarks = new List<string>();
        if (it.Override is { } over)
            remarks.Add($"{Words.Of(over.Was)} by the comparison, {Words.Of(over.Is)} by {over.By}: {over.Reason}");
        remarks.AddRange(it.Borrowed.Select(borrowed => $"By {borrowed.Standard}: {borrowed.Text}"));
        if (it.Swing is { } swing)
            remarks.Add(swing);
        if (it.Note is { Length: > 0 } note)
            remarks.Add(note);
        if (record.Instrument is { } first && first.All.FirstOrDefault(one => one.Id == it.With) is { } own && own != first)
            remarks.Add($"with {own.Name}");
        // With the point where it was taken: of four earth readings each has its own.
        var name = step?.Name ?? it.Name;
        return new(
            name,
            under,
            it.Text,
            limit?.Text ?? "",
            it.Clause ?? limit?.Clause ?? "",
            it.Override?.Is ?? it.Status,
            it.NearLimit,
            past.Count > 0 ? $"{past[^1].Text}, {past[^1].Date.ToString("MMM yyyy", CultureInfo.InvariantCulture)}" : "",
            [.. it.Working],
            it.Source == ReadingSource.Typed && it.Si is not null,
            Rail(it, limit, past),
            [.. remarks],
            it.Waveform
        );
    }

    /// <summary>Without earlier values.</summary>
    internal static PaperRail? Rail(ReadingView it, LimitCard? limit) => Rail(it, limit, []);

    private static PaperRail? Rail(ReadingView it, LimitCard? limit, IReadOnlyList<Past> past)
    {
        if (limit?.Si is not > 0 || it.Si is not { } value)
            return null;
        if (limit.Set is { } set)
            return Window(RailScale.Window(set, limit.Si.Value), set, limit.Si.Value, value, past);
        var scale = RailScale.Span(limit.Si.Value, limit.IsFloor, [.. past.Select(earlier => earlier.Si), value]);
        return new(
            scale.Share(limit.Si.Value),
            limit.IsFloor,
            scale.Share(value),
            !it.IsBound ? 0
                : it.Text.StartsWith('<') ? -1
                : 1,
            [.. past.Select(earlier => scale.Share(earlier.Si))]
        );
    }

    /// <summary>Two posts, and what is good stands between them.</summary>
    private static PaperRail Window(RailSpan scale, double set, double tolerance, double value, IReadOnlyList<Past> past) =>
        new(scale.Share(set + tolerance), false, scale.Share(value), 0, [.. past.Select(earlier => scale.Share(earlier.Si))])
        {
            Lower = scale.Share(set - tolerance),
        };

    private static PaperFact NotCounted(ReadingView it) =>
        new($"{it.Name}{(it.Point is { } point ? $", {point}" : "")}: {it.Text}", it.Void ?? it.Fault ?? "");

    private static IEnumerable<PaperFact> NotMeasured(InspectionRecord record)
    {
        foreach (var step in record.Steps)
        {
            var name = step.Detail.Length == 0 || step.Key == "visual" ? step.Name : $"{step.Name}, {step.Detail}";
            switch (step.Standing)
            {
                case Standing.NotMeasured:
                    yield return new(name, "not measured: the kit at hand could not");
                    break;
                case Standing.Stopped:
                    yield return new(name, step.Stopped is { } why ? $"not done: {why}" : "not done");
                    break;
                case Standing.Open or Standing.Void or Standing.Undecided when record.IsTest:
                    yield return new(name, step.Standing == Standing.Undecided ? "undecided" : "not done");
                    break;
            }
        }
    }

    private static IEnumerable<string> Worth(InspectionRecord it) =>
        [
            .. it.Outcome is Outcome.Fail or Outcome.Findings ? it.Reasons : [],
            .. it.Advice,
            .. it.Diagnosis.Select(telling => $"{telling.Seen}. Likely: {string.Join("; ", telling.Causes)}."),
            .. (it.Tried ?? []).Select(tried => $"Looked at: {tried.Words}."),
            .. it.Remarks is { } remarks ? (string[])[remarks] : [],
        ];

    private static IEnumerable<string> Evaluation(InspectionRecord it)
    {
        if (it.Evaluation is not { } evaluation)
            yield break;
        yield return evaluation.Confirmed is { } confirmed
            ? $"{PhrasesOnOffer.Text(confirmed)}, confirmed by {it.Technician.Name}."
            : $"Proposed and not confirmed: {PhrasesOnOffer.Text(evaluation.Proposed)}.";
        if (evaluation.Confirmed is { } other && other != evaluation.Proposed)
            yield return $"Proposed was: {PhrasesOnOffer.Text(evaluation.Proposed)}.";
        foreach (var because in evaluation.Because)
            yield return because;
    }

    private static IEnumerable<string> Next(InspectionRecord it)
    {
        if (it.Next is not { } next)
        {
            if (it.Outcome == Outcome.Fail)
                yield return "Before it is used again: an inspection and test after its repair.";
            else if (it.Outcome == Outcome.NotTested)
                yield return "It stays as due as it was.";
            yield break;
        }
        if (next.Due is { } due)
            yield return $"Inspection and test by {Day(due)}.";
        yield return $"Formal visual by {Day(next.VisualDue)}; user check {next.UserCheck}.";
        yield return $"Why then: {string.Join("; ", next.Because)}.";
    }

    private static IEnumerable<PaperFact> Signatures(InspectionRecord it, TimeZoneInfo zone)
    {
        var from = TimeZoneInfo.ConvertTime(it.Times.TakenFrom, zone);
        var to = TimeZoneInfo.ConvertTime(it.Times.TakenTo, zone);
        yield return new(it.IsTest ? "Tested by" : "Inspected by", $"{it.Technician.Name} ({it.Technician.Initials})");
        yield return new(
            "When",
            string.Create(CultureInfo.InvariantCulture, $"{Day(it.Times.Date)}, {from:HH:mm} to {to:HH:mm} ({it.Times.TimeZone})")
        );
        if (it.Item.Equipment.IsMedical && it.Outcome != Outcome.NotTested)
            yield return new(
                "Sticker",
                it.Sticker switch
                {
                    true => "fitted",
                    false => "not fitted",
                    null => "not said",
                }
            );
    }

    private static ImmutableArray<string> Origin(InspectionRecord it, Provenance from) =>
        [
            $"Record {it.Id}",
            $"number {from.BookNumber} in the book of {it.Round.ClientCode}, chained as {from.Hash}",
            $"Rules {it.Rules.PackId} {it.Rules.PackVersion}{(it.Rules.CommonRules is { } common ? $", common rules {common}" : "")}, ruling "
                + $"{it.Rules.Ruling}.",
            "Limits must be checked against one's own copy of the standard. This paper takes the place of no training, law or maker's instruction.",
        ];

    private sealed record Past(DateOnly Date, double Si, string Text);

    /// <summary>What the same step read before, by the same method: its key says both.</summary>
    private sealed class Earlier(IReadOnlyList<InspectionRecord> before)
    {
        public IReadOnlyList<Past> Of(ReadingView it) =>
            [
                .. before
                    .SelectMany(record =>
                        record
                            .Readings.Where(reading => reading.Step == it.Step && reading.Point == it.Point && IsReference(reading))
                            .TakeLast(1)
                            .Select(reading => new Past(record.Times.Date, reading.Si!.Value, reading.Text))
                    )
                    .TakeLast(EarlierShown),
            ];

        private static bool IsReference(ReadingView it) =>
            IsCounted(it) && it is { Si: > 0, IsBound: false, Status: not (null or Status.Undecided) };
    }
}
