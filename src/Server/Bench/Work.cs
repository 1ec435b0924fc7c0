using System.Collections.Immutable;
using System.Security.Claims;
using Osierwand.Core;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Server.People;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>Who works at the bench.</summary>
internal sealed record Technician(string Name, bool IsLead)
{
    public static Technician Of(ClaimsPrincipal user) => new(user.DisplayName(), user.IsInRole(Person.Lead));
}

/// <summary>What the bench sent, read into Core's terms and judged. One path serves the live judgement and the save, so that they cannot differ.</summary>
internal sealed class Work
{
    private const int LongestText = 500;
    private const int MostEntries = 500;

    private readonly OnBench bench;
    private readonly Sheets sheets;
    private readonly List<(Entry Entry, Fault? Fault, RecordedReading? Reading)> entries = [];

    private readonly Technician technician;

    private Work(OnBench bench, Sheets sheets, Plan plan, Technician technician) => (this.bench, this.sheets, Plan, this.technician) = (bench, sheets, plan, technician);

    public Plan Plan { get; }
    public ImmutableArray<LookFinding> LookFindings { get; private set; } = [];
    public InspectionFacts Facts { get; private set; } = null!;
    public Assessment Assessment { get; private set; } = null!;
    public Outcome? Outcome => InspectionRecord.OutcomeOf(Assessment, Facts.Scope, Facts.Look);
    public IEnumerable<Fault> Faults => entries.Where(it => it.Fault is not null).Select(it => it.Fault!);
    public ImmutableArray<RecordedReading> Readings => [.. entries.Where(it => it.Reading is not null).Select(it => it.Reading!)];

    /// <returns>A fault when the whole cannot be read; entries with their own faults are carried along and counted for nothing.</returns>
    public static Result<Work> Read(OnBench bench, Sheets sheets, BenchWork sent, Technician technician)
    {
        if (sent.Entries.Count > MostEntries || sent.Look.Count > MostEntries) return new Fault("entries", $"more than {MostEntries} entries");
        var item = bench.Item.Equipment;
        var plan = Planner.Of(bench.Pack, item, bench.Client.Policy, sent.Scope);
        var work = new Work(bench, sheets, plan, technician) { LookFindings = [.. sent.Look.Select(it => new LookFinding(it.PointId, it.Answer, it.Words))] };
        if (work.LookFindings.FirstOrDefault(it => it.Words?.Length > LongestText) is { } wordy) return new Fault($"look.{wordy.PointId}", $"longer than {LongestText} characters");
        var look = LookList.Judge(item, bench.Pack, work.LookFindings);
        if (look.Fault is { } fault) return fault;

        var readings = new List<Reading>();
        foreach (var entry in sent.Entries)
        {
            var reading = work.ReadingOf(entry);
            work.entries.Add((entry, reading.Fault, null));
            if (reading.TryGet(out var it)) readings.Add(it);
        }
        work.Facts = sheets.Facts(bench, look.Value, [.. readings], sent.Scope);
        work.Assessment = Assessment.Of(work.Facts);
        var judged = 0;
        for (var i = 0; i < work.entries.Count; i++)
        {
            var (entry, entryFault, _) = work.entries[i];
            if (entryFault is null) work.entries[i] = (entry, null, new(work.Assessment.Results[judged++], entry.Source, entry.At));
        }
        return work;
    }

    public JudgedWork ToContract()
    {
        var stopped = StopRules.Stopped(Plan, Facts.Look, Assessment.Results);
        var missing = Assessment.Missing.Concat(Assessment.Unsettled).Select(step => step.Detail).ToArray();
        var next = Outcome is Core.Records.Outcome.Pass or Core.Records.Outcome.PassWithAdvice ? Next() : null;
        return new(Facts.Look, [.. entries.Select(it => it.Fault is { } fault ? Refused(it.Entry, fault) : Judged(it.Entry, it.Reading!.Judgement, UnitOf(it.Entry)))],
            stopped, Assessment.Verdict, Outcome, Reasons(), Assessment.Advice, missing, Telling(), Evaluation is { } it ? new(it.Evaluation, it.Because) : null, next);
    }

    /// <summary>Null for appliances and while steps are missing.</summary>
    public EvaluationProposal? Evaluation => EvaluationProposal.Of(Facts, Assessment);

    private TellingCard[] Telling()
    {
        // Places in the assessment are places among the entries that were understood.
        var keys = entries.Where(it => it.Reading is not null).Select(it => it.Entry.StepKey).ToArray();
        return [.. Diagnose.Of(Facts, Assessment).Select(it => new TellingCard(it.Signature.Id, it.Signature.Seen, [.. it.Readings.Select(at => keys[at]).Distinct()], it.Signature.Causes, it.Signature.Next))];
    }

    public NextCard Next() => Card(sheets.NextOf(bench, Assessment));

    public static NextCard Card(Core.Intervals.Interval it) => new(it.Due, it.VisualDue, it.CombinedMonths, it.VisualMonths, it.UserCheck, it.DecidedBy, it.Because);

    /// <summary>Why the verdict is what it is, the gravest first.</summary>
    private string[] Reasons()
    {
        var reasons = new List<string>();
        reasons.AddRange(LookFindings.Where(it => it.Answer == LookAnswer.Bad).Select(it => $"Look: {it.Words}"));
        if (Facts.Look == Look.Fail)
            reasons.AddRange(Core.Cords.FuseAndFlex.Check(Facts.Item, Facts.Pack).Where(it => it.IsFault).Select(it => it.Text));
        reasons.AddRange(Assessment.Results.Where(it => it.Status == Status.Fail).Select(it => $"{StepNames.Of(it.Reading)}: {it.Working[^1]}"));
        reasons.AddRange(Assessment.Unsettled.Select(it => $"Undecided: {it.Detail}"));
        if (Outcome == Core.Records.Outcome.Findings) reasons.Add(Assessment.Results.IsEmpty ? "Looked at; nothing was measured." : "Nothing that was measured failed. Fault-finding never ends with a pass: the item stays as due as it was.");
        if (reasons.Count == 0 && Assessment.Verdict == Verdict.Pass) reasons.Add("Every required step is done and within its limit.");
        return [.. reasons];
    }

    private Result<Reading> ReadingOf(Entry entry)
    {
        var step = Plan.Steps.FirstOrDefault(it => it.Key == entry.StepKey);
        var path = $"entries.{entry.StepKey}";
        if (step is null || step.Test is Test.Visual or Test.Fuse) return new Fault(path, "This step is not on the run sheet.");
        if (entry.Void is { } reason && (string.IsNullOrWhiteSpace(reason) || reason.Length > LongestText)) return new Fault(path, "Say in a few words why the reading counts for nothing.");
        if (entry.Point?.Length > LongestText || entry.Note?.Length > LongestText) return new Fault(path, $"A note or point is longer than {LongestText} characters.");
        var reading = new Reading
        {
            Test = step.Test,
            Under = entry.Point is { } point && step.Under.Point is null ? step.Under with { Point = point } : step.Under,
            Void = entry.Void,
            Note = entry.Note,
            SwitchedOn = entry.SwitchedOn,
            TestVoltage = step.TestVoltage,
            Mains = entry.Mains is > 0 and { } mains ? new Volts(mains) : null,
            Load = entry.LoadA is >= 0 and { } load ? new Amperes(load) : null,
            Null = new(step.Test == Test.EarthContinuity ? Math.Max(0, entry.NullOhm ?? 0) : 0),
        };
        if (entry.Standard is { } other)
        {
            if (PackLibrary.Find(other) is not { } borrowed) return new Fault(path, $"There is no standard “{other}”.");
            reading = reading with { Borrowed = borrowed };
        }
        if (entry.Override is { } by)
        {
            var made = Override.Of(reading.Borrowed ?? bench.Pack, bench.Item.Equipment, step.Test, by.Status, technician.Name, technician.IsLead, by.Reason ?? "");
            if (made.Fault is { } refused) return new Fault(path, $"No override: {refused.Message}.");
            reading = reading with { Override = made.Value };
        }
        reading = reading with { Set = step.Set };
        if (StepCards.UsualUnit(step, bench.Pack) is not { } usual)
            return entry.Ok is { } ok ? reading with { Ok = ok } : new Fault(path, "Say good or bad.");
        if (step.Test == Test.RcdTrip && entry.Tripped == false) return reading with { Tripped = false };
        var value = ValueOf(entry, usual);
        if (value.Fault is { } fault) return fault with { Path = path };
        if (value.Value.Number < 0 && step.Test != Test.EarthContinuity) return new Fault(path, "A value below nothing cannot be right; measure again.");
        return reading with { Value = value.Value, Tripped = step.Test == Test.RcdTrip ? true : null };
    }

    private static Result<Measured> ValueOf(Entry entry, Unit usual)
    {
        if (entry.Text is { } text) return ReadingEntry.Parse(text, usual);
        if (entry.Number is not { } number || !double.IsFinite(number)) return new Fault("", "Nothing was entered.");
        if (Unit.Find(entry.Unit ?? usual.Symbol) is not { } unit || unit.Dimension != usual.Dimension) return new Fault("", $"“{entry.Unit}” is not a unit of this test.");
        return new Measured(number, unit, entry.Qualifier switch { ">" => Qualifier.Above, "<" => Qualifier.Below, _ => Qualifier.Exact });
    }

    /// <summary>One unit a step, so that today's value lines up with the earlier ones.</summary>
    private Unit? UnitOf(Entry entry) => StepCards.UsualUnit(Plan.Steps.First(it => it.Key == entry.StepKey), bench.Pack);

    private static JudgedEntry Refused(Entry entry, Fault fault) =>
        new(entry.StepKey, fault, null, entry.Text, null, false, null, null, false, null, [], null, false);

    private static JudgedEntry Judged(Entry entry, Judgement it, Unit? unit)
    {
        var bound = it.Reading.Value is { IsBound: true };
        var text = it.Reading.Ok is { } ok ? (ok ? "good" : "bad") : it.Reading.Tripped == false ? "no trip"
            : bound ? it.Reading.Value!.Value.ToString() : it.Value is not { } value ? "" : unit is null ? value.ToString() : QuantityText.ShowNear(value, unit);
        return new(entry.StepKey, null, it.Status, text, it.Value?.Si, bound,
            it.Reading.Value?.Qualifier switch { Qualifier.Above => ">", Qualifier.Below => "<", _ => null },
            it.Use, it.NearLimit, Margin(it), it.Working, it.Limit?.Clause, it.Overridden is not null);
    }

    /// <summary>How far from its limit, in words: "41 % of the limit used", "290 × the limit".</summary>
    private static string? Margin(Judgement it) => it.Use switch
    {
        null => null,
        { } use when it.Limit!.IsFloor && use < 0.5 => $"{QuantityText.Number(1 / use, 2)} × the limit",
        { } use => $"{QuantityText.Number(use * 100, use > 1 ? 3 : 2)} % of the limit",
    };
}
