using System.Collections.Immutable;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

public enum Verdict
{
    Pass,
    Fail,
    Incomplete,
}

/// <summary>A required step that no reading answers.</summary>
/// <param name="Detail">The condition in words: "reversed polarity", "outlet 3 of 4".</param>
public sealed record MissingStep(Test Test, LeakageKind? Kind, string Detail);

/// <summary>All that was seen and measured on one item on one day.</summary>
public sealed record InspectionFacts
{
    public required RulePack Pack { get; init; }
    public required Item Item { get; init; }
    public Look Look { get; init; }
    public ImmutableArray<Reading> Readings { get; init; } = [];
    public DecisionRule DecisionRule { get; init; }
    public Scope Scope { get; init; }
    public Policy Policy { get; init; } = Policy.Usual;
    public ImmutableArray<PastInspection> History { get; init; } = [];

    /// <summary>See <see cref="Judging.References"/>. Empty where the history is whole: then they are found in it.</summary>
    public ImmutableArray<PastInspection> References { get; init; } = [];

    private (ImmutableArray<PastInspection> Of, ILookup<string, (PastInspection Past, int At)> ByKey)? index;

    /// <summary>Readings of one measurement since the last repair that the history shows, oldest first. Indexed once: every reading asks
    /// for its own.</summary>
    internal IEnumerable<(PastInspection Past, int At)> EarlierOf(string key)
    {
        // A copy with another history has the index of this one until it asks.
        if (index is not { } known || known.Of != History)
            index = known = (History, Indexed(History));
        return known.ByKey[key];
    }

    private static ILookup<string, (PastInspection Past, int At)> Indexed(ImmutableArray<PastInspection> history)
    {
        var repair = history.Length;
        while (repair > 0 && !history[repair - 1].AfterRepair)
            repair--;
        return history
            .Skip(Math.Max(0, repair - 1))
            .SelectMany(past => past.Keys.Select((key, at) => (Key: key, Past: past, At: at)))
            .ToLookup(it => it.Key, it => (it.Past, it.At));
    }

    /// <summary>Of this inspection and of the one after it; with history they give the trend.</summary>
    public DateOnly? TestDate { get; init; }

    public DateOnly? DueDate { get; init; }

    /// <summary>Required steps that a procedure leaves out with a reason: no verdict waits for them.</summary>
    public ImmutableArray<Conditions> LeftOut { get; init; } = [];
    public Period? Interval { get; init; }

    /// <summary>At a bench what only eyes can say is asked: where a probe lay, what touches a patient. Elsewhere what is given is judged as
    /// given.</summary>
    public bool IsAtBench { get; init; }
}

/// <summary>The verdict on one inspection: every reading judged, what is missing, what is worth telling.</summary>
/// <param name="Unsettled">Required steps that have readings, none of which decided them.</param>
public sealed record Assessment(
    Verdict Verdict,
    ImmutableArray<Judgement> Results,
    ImmutableArray<MissingStep> Missing,
    ImmutableArray<MissingStep> Unsettled,
    ImmutableArray<string> Advice
)
{
    /// <summary>Failures that decide nothing any more.</summary>
    public ImmutableArray<SetAside> SetAside { get; init; } = [];

    /// <summary>Nothing failed on the way but what happens daily: it may count towards a longer interval.</summary>
    public bool IsClean => SetAside.All(failure => failure.IsExcused);

    public static Assessment Of(InspectionFacts facts)
    {
        var results = ImmutableArray.CreateBuilder<Judgement>(facts.Readings.Length);
        foreach (var reading in facts.Readings)
            results.Add(Judge.Of(facts.Pack, facts.Item, reading, facts.DecisionRule));
        return Of(facts, Doubted(facts, results.MoveToImmutable()));
    }

    /// <summary>Each reading held against what is known of the item beside its limit.</summary>
    internal static ImmutableArray<Judgement> Doubted(InspectionFacts facts, ImmutableArray<Judgement> judgements) =>
        [.. judgements.Select((_, at) => Doubts.About(facts, judgements, at))];

    /// <param name="judgements">Of <see cref="InspectionFacts.Readings"/>, in their order: a bench keeps them by reading and judges only
    /// what is new.</param>
    public static Assessment Of(InspectionFacts facts, ImmutableArray<Judgement> judgements)
    {
        var failed = facts.Look == Look.Fail;
        foreach (var judged in judgements)
            failed |= judged.Status == Status.Fail;
        // A failed look ends the job: nothing further is asked for.
        var (missing, unsettled) = facts.Look == Look.Fail ? ([], []) : Requirements.Open(facts, judgements);
        var verdict =
            failed ? Verdict.Fail
            : !missing.IsEmpty || !unsettled.IsEmpty || facts.Scope == Scope.FaultFinding ? Verdict.Incomplete
            : Verdict.Pass;
        return new Assessment(verdict, judgements, missing, unsettled, AdviceFor(facts, judgements)).WithSetAside(
            Judging.SetAside.Voided(facts, judgements)
        );
    }

    /// <summary>Told of what does not count any more, so that it passes with advice at best.</summary>
    internal Assessment WithSetAside(ImmutableArray<SetAside> failures) =>
        failures.IsEmpty
            ? this
            : this with
            {
                SetAside = [.. SetAside, .. failures],
                Advice = [.. Advice, .. failures.Where(failure => !failure.IsExcused).Select(failure => failure.Text)],
            };

    private static ImmutableArray<string> AdviceFor(InspectionFacts facts, ImmutableArray<Judgement> results)
    {
        var advice = new List<string>(0);
        foreach (var it in results)
        {
            if (it.Overridden is { } own)
                advice.Add(
                    $"{it.Reading.Name} overridden by {it.Reading.Override!.By}, lead: {Words.Of(own)} becomes {Words.Of(it.Status)}, because {it.Reading.Override.Reason}."
                );
            if (it.Because == Because.NoLimit)
                advice.Add($"{it.Reading.Name}: {(it.Reading.Borrowed ?? facts.Pack).Id} has no limit for it; noted, not judged.");
            else if (it.Status == Status.Undecided)
                advice.Add($"{it.Reading.Name}: {it.Working[^1]}.");
            else if (BeyondTheWorld.IsUnitDoubted(it, facts.Pack.Thresholds))
                advice.Add(
                    $"{it.Reading.Name} of {it.Reading.Value} is over {QuantityText.Number(facts.Pack.Thresholds.UnitDoubted)} times its limit: unit?"
                );
            else if (it.NearLimit)
                advice.Add($"{it.Reading.Name} is near its limit: {QuantityText.Number(it.Use!.Value * 100)} % of it is used.");
        }
        AddUnsuitable(facts, results, advice);
        advice.AddRange(Doubts.Advice(facts, results));
        AddFlexSpread(facts.Pack.Thresholds, results, advice);
        if (
            facts.Scope == Scope.FaultFinding
            && !results.IsEmpty
            && results.All(it => it.Status == Status.Pass && it.Reading.Test != Test.Leakage)
        )
            advice.Add("A clean dead test clears little: parts behind relays were not under test.");
        foreach (var finding in FuseAndFlex.Check(facts.Item, facts.Pack))
            advice.Add(finding.Text);
        foreach (var trend in Trend.Of(facts, results))
            advice.Add(trend.Advice!);
        return advice.Count == 0 ? [] : [.. advice];
    }

    /// <summary>Readings taken with something too coarse, or with too little current, for the limit they were held
    /// against.</summary>
    private static void AddUnsuitable(InspectionFacts facts, ImmutableArray<Judgement> results, List<string> advice)
    {
        var (pack, rated) = (facts.Pack, facts.Item.RatedCurrent);
        foreach (var it in results)
        {
            var (reading, resolution) = (it.Reading, default(Quantity?));
            if (it.Status == Status.Void || it.Because == Because.Contradicts)
                continue;
            if (
                reading is Reading.Numeric { Accuracy.Resolution: > 0 and var count, Shown: var value }
                && Doubts.IsNearEnough(it, count, pack)
            )
                resolution = new Quantity(count * value.Unit.Factor, value.Unit.Dimension);
            var current = (reading as Reading.EarthContinuity)?.TestCurrent;
            if (resolution is null && current is null)
                continue;
            if (Suitability.Trouble(new(reading.Test, resolution, current), it.Limit, reading.Borrowed ?? pack, rated) is { } trouble)
                advice.Add($"{reading.Name}: the meter is unsuitable, it {trouble}.");
        }
    }

    /// <summary>Whether this is the worst of several readings of one test under one condition, at whatever points; what stands for them
    /// all on papers.</summary>
    public bool IsWorst(int at) => Results.Length > 1 && (worst ??= Worst(Results)).Contains(at);

    private HashSet<int>? worst;

    /// <summary>Measured by the room that is left, as points may have limits of their own; of equals the first stands.</summary>
    private static HashSet<int> Worst(ImmutableArray<Judgement> results)
    {
        var several = new Dictionary<Conditions, (int Count, int At, double Burden)>();
        for (var at = 0; at < results.Length; at++)
        {
            var it = results[at];
            if (it.Status == Status.Void || it.Value is not { } value)
                continue;
            var (under, burden) = (it.Reading.Under with { At = null }, Burden(it, value));
            several[under] =
                !several.TryGetValue(under, out var so) ? (1, at, burden)
                : burden > so.Burden ? (so.Count + 1, at, burden)
                : so with { Count = so.Count + 1 };
        }
        return [.. several.Values.Where(group => group.Count > 1).Select(group => group.At)];
    }

    private static double Burden(Judgement it, Quantity value) =>
        it.Limit?.Value is { Si: > 0 } limit
            ? it.Limit.IsFloor
                ? limit.Si / Math.Max(value.Si, double.Epsilon)
                : value.Si / limit.Si
            : value.Si;

    /// <summary>Earth readings at one point, path and part are one flexing set: a wide spread means a joint is failing.</summary>
    private static void AddFlexSpread(Thresholds rules, ImmutableArray<Judgement> results, List<string> advice)
    {
        var earths = 0;
        foreach (var it in results)
            earths += InFlexSet(it) ? 1 : 0;
        // The ordinary sheet has no earth reading, or one that the flex did not move: it costs no index.
        if (earths == 0)
            return;
        foreach (var set in results.Where(InFlexSet).GroupBy(it => it.Reading.Under))
        {
            var (low, high) = (set.Min(LowestOf), set.Max(it => it.Value!.Value.Si));
            if (Comparison.Above(high - low, rules.FlexSpread.Value))
                advice.Add(
                    $"Earth continuity moved by {QuantityText.Show(new Ohms(high - low))} while the flex was moved: a joint is failing."
                );
        }
    }

    /// <summary>The smallest that was seen, in ohm and nulled like the reading itself: 0.30 that was 0.08 at its best, judged as 0.26,
    /// was 0.04.</summary>
    internal static double LowestOf(Judgement it) =>
        it.Reading is Reading.EarthContinuity { Lowest: { } lowest, Shown: var shown }
            ? it.Value!.Value.Si - (shown.Number - lowest) * shown.Unit.Factor
            : it.Value!.Value.Si;

    private static bool InFlexSet(Judgement it) =>
        it.Reading.Test == Test.EarthContinuity && it.Status != Status.Void && it.Reading.Value is { IsBound: false };
}
