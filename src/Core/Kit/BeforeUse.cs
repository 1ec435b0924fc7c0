using System.Collections.Immutable;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Kit;

/// <summary>What is looked at on a lead, a probe, an indicator, an adapter before it is used.</summary>
public enum KitPoint
{
    Tip,
    FingerGuards,
    Insulation,
    Shrouded,
    Marked,
    CurrentLimited,
    SameMaker,
    Length,
    EveryIndication,
    NoOpenTerminals,
    Works,
}

/// <summary>One point as it is asked.</summary>
/// <param name="Text">What a good one looks like.</param>
/// <param name="IsForLiveWork">It matters near a supply only: failed, the thing may still serve for dead work.</param>
/// <param name="TakesLength">Answered by the bare length of the tip.</param>
public sealed record KitPointCard(KitPoint Point, string Text, bool IsForLiveWork, bool TakesLength = false);

/// <param name="TipMm">Bare length of the tip in millimetre, where the point asks for it.</param>
/// <param name="IsSprung">The tip's sheath closes over it by a spring.</param>
/// <param name="Words">What is wrong; needed where it is not good.</param>
public sealed record KitAnswer(KitPoint Point, bool IsGood, string? Words = null, double? TipMm = null, bool IsSprung = false);

/// <summary>What came of a look at a thing of the kit.</summary>
/// <param name="Lines">What failed, and what is worth telling, a sentence each.</param>
public sealed record KitLook(KitFitness Fitness, ImmutableArray<string> Lines);

/// <summary>The look at leads, probes, indicators and adapters before they are used, point by point. One failed point bars the
/// thing; one that was failed for live work alone may be kept for dead work.</summary>
public static class BeforeUse
{
    private static readonly KitPointCard Guards = new(KitPoint.FingerGuards, "Finger barriers whole", IsForLiveWork: false);
    private static readonly KitPointCard Insulation = new(
        KitPoint.Insulation,
        "Insulation whole over its length and at both entries; a tape repair is none",
        IsForLiveWork: false
    );
    private static readonly KitPointCard Shrouded = new(KitPoint.Shrouded, "Clip and every detachable end shrouded", IsForLiveWork: true);
    private static readonly KitPointCard Marked = new(
        KitPoint.Marked,
        "Category and product standard marked and legible, on whatever is at the end of it too",
        IsForLiveWork: true
    );
    private static readonly KitPointCard Limited = new(KitPoint.CurrentLimited, "Fused or current limited", IsForLiveWork: true);
    private static readonly KitPointCard Maker = new(
        KitPoint.SameMaker,
        "Lead and probe of the instrument's own maker",
        IsForLiveWork: true
    );
    private static readonly KitPointCard Length = new(KitPoint.Length, "Long enough to stand safely, not so long as to trip over", true);
    private static readonly KitPointCard Indications = new(
        KitPoint.EveryIndication,
        "Every indication it has was seen: each light and the display, not its sound alone",
        IsForLiveWork: false
    );
    private static readonly KitPointCard NoOpen = new(
        KitPoint.NoOpenTerminals,
        "No open terminal that could be live; housing, pins and strain relief whole",
        IsForLiveWork: false
    );
    private static readonly KitPointCard Works = new(
        KitPoint.Works,
        "It works: its own lamp or battery test was seen",
        IsForLiveWork: false
    );

    /// <summary>Empty where a thing has no such look: an instrument and a check box are checked by figures.</summary>
    /// <param name="rules">Whose tip lengths are told; as shipped where none are given.</param>
    public static ImmutableArray<KitPointCard> PointsOf(KitKind kind, Thresholds? rules = null) =>
        kind switch
        {
            KitKind.Probes => [Tip(rules), Guards, Insulation, Marked, Limited, Maker, Length],
            KitKind.TestLead => [Insulation, Shrouded, Marked, Maker, Length],
            KitKind.Clip => [Insulation, Shrouded, Marked, Maker],
            // Its one use is to prove dead on what may be live: nothing of it is left for dead work.
            KitKind.VoltageIndicator =>
            [
                .. new[] { Tip(rules), Guards, Insulation, Marked, Limited, Length, Indications }.Select(it =>
                    it with
                    {
                        IsForLiveWork = false,
                    }
                ),
            ],
            KitKind.ProvingUnit => [Insulation, Works],
            KitKind.Adapter => [NoOpen, Insulation],
            _ => [],
        };

    private static KitPointCard Tip(Thresholds? rules) =>
        new(
            KitPoint.Tip,
            $"Bare tip at most {Show((rules ?? Thresholds.Shipped).ProbeTip)}, better {Show((rules ?? Thresholds.Shipped).ProbeTipBetter)} or sprung",
            IsForLiveWork: true,
            TakesLength: true
        );

    /// <param name="forDeadWork">Whoever looked at it keeps it for dead work where live work is all that it failed for.</param>
    /// <returns>What came of it, or which point is not answered.</returns>
    public static Result<KitLook> Judge(KitKind kind, IReadOnlyList<KitAnswer> answers, bool forDeadWork, Thresholds rules)
    {
        var points = PointsOf(kind, rules);
        if (points.IsEmpty)
            return new Fault("kind", $"A {KitText.Of(kind)} has no such look.");
        if (answers.FirstOrDefault(answer => points.All(point => point.Point != answer.Point)) is { } foreign)
            return new Fault("answers", $"“{foreign.Point}” is not asked of a {KitText.Of(kind)}.");
        var (lines, failsLive, failsAll) = (ImmutableArray.CreateBuilder<string>(), false, false);
        foreach (var point in points)
        {
            if (answers.LastOrDefault(it => it.Point == point.Point) is not { } answer)
                return new Fault("answers", $"Not answered: {point.Text}.");
            if (!answer.IsGood && string.IsNullOrWhiteSpace(answer.Words))
                return new Fault("answers", $"Say what is wrong: {point.Text}.");
            if (point.TakesLength && TipFault(answer) is { } noLength)
                return noLength;
            var failed = !answer.IsGood || TipIsTooLong(point, answer, rules);
            failsLive |= failed && point.IsForLiveWork;
            failsAll |= failed && !point.IsForLiveWork;
            if (LineOf(point, answer, failed, rules) is { } line)
                lines.Add(line);
        }
        var fitness =
            failsAll || (failsLive && !forDeadWork) ? KitFitness.Barred
            : failsLive ? KitFitness.DeadWorkOnly
            : KitFitness.Fit;
        return new KitLook(fitness, lines.ToImmutable());
    }

    private static Fault? TipFault(KitAnswer answer) =>
        answer.TipMm is not { } tip
            ? answer.IsSprung
                ? null
                : new Fault("tipMm", "Measure the bare tip, in millimetres, or say that its sheath is sprung.")
            : !double.IsFinite(tip) || tip is < 0 or > 200
                ? new Fault("tipMm", "A tip is 0 to 200 mm long.")
                : null;

    private static bool TipIsTooLong(KitPointCard point, KitAnswer answer, Thresholds rules) =>
        point.TakesLength && !answer.IsSprung && Comparison.Above(answer.TipMm!.Value / 1000, rules.ProbeTip.Value);

    private static string? LineOf(KitPointCard point, KitAnswer answer, bool failed, Thresholds rules)
    {
        if (!answer.IsGood)
            return $"{answer.Words!.Trim()} ({point.Text})";
        if (!point.TakesLength || answer.IsSprung)
            return null;
        var tip = $"{QuantityText.Number(answer.TipMm!.Value)} mm";
        return failed ? $"Bare tip of {tip}, at most {Show(rules.ProbeTip)}"
            : Comparison.Above(answer.TipMm.Value / 1000, rules.ProbeTipBetter.Value)
                ? $"Bare tip of {tip}: allowed, and better {Show(rules.ProbeTipBetter)} or sprung"
            : null;
    }

    private static string Show(Metres length) => $"{QuantityText.Number(length.Value * 1000)} mm";
}
