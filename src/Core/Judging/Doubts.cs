using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>What a reading contradicts that would pass by its number.</summary>
/// <param name="Expected">What was to be expected, with the numbers, a sentence without its full stop.</param>
/// <param name="CheckFirst">Likely causes, the first first.</param>
/// <param name="Proves">Words of what was seen decide it, with a second reading; else only another reading, or a fact put right.</param>
/// <param name="AsksProbe">Saying where the probe lay decides it.</param>
public sealed record Doubt(string Expected, string CheckFirst, bool Proves = false, bool AsksProbe = false);

/// <summary>
/// Readings that cannot be: one that would pass and contradicts what is known of the item is undecided until it is explained or measured
/// again. A fail stays a fail, and what somebody answered good or bad is not doubted. Every figure is one of the common rules.
/// </summary>
internal static class Doubts
{
    /// <param name="judgements">Each reading's own, as <see cref="Judge"/> gave it.</param>
    /// <param name="at">Which of them.</param>
    /// <returns>The same one where nothing contradicts it.</returns>
    public static Judgement About(InspectionFacts facts, IReadOnlyList<Judgement> judgements, int at)
    {
        var judged = judgements[at];
        if (judged is not { Status: Status.Pass, Overridden: null, Value: not null } || judged.Reading.Borrowed is not null)
            return judged;
        var doubt =
            ProbeDoubts.About(facts, judged.Reading)
            ?? judged.Reading switch
            {
                Reading.EarthContinuity earth => BelowItsCopper(facts, judged, earth) ?? TooLittleCurrent(facts, earth),
                Reading.Leakage leakage => NothingFlows(facts, judgements, judged, leakage),
                _ => null,
            };
        doubt ??= TooCoarse(facts.Pack, judged);
        return doubt is null ? judged : judged with { Status = Status.Undecided, Because = Because.Contradicts, Doubt = doubt };
    }

    /// <summary>Rule 1. 30 m of 1.25 mm² are near 0.5 ohm: 0.02 ohm is another lead's, or the clip is at the plug.</summary>
    private static Doubt? BelowItsCopper(InspectionFacts facts, Judgement judged, Reading.EarthContinuity reading)
    {
        var (pack, cord) = (facts.Pack, facts.Item.Cord);
        // The table's temperature: a warm lead only reads more.
        if (
            reading.Under.Part == EarthPart.DeviceAlone
            || ConductorResistance.Of(cord is null ? null : cord with { Temperature = null }, pack) is not { } copper
        )
            return null;
        var (rules, isLoop) = (pack.Thresholds, reading.Under.Path == EarthPath.Loop);
        var expected = (isLoop ? 2 : 1) * copper.Value;
        var least = rules.CopperShare * expected.Value - rules.CopperAllowance.Value;
        if (Comparison.AtLeast(judged.Value!.Value.Si, least))
            return null;
        var size = $"{QuantityText.Number(copper.Length.Value)} m of {QuantityText.Number(copper.Size.Value)} mm²";
        return new(
            $"its copper alone, {size}{(isLoop ? ", out and back" : "")}, is {QuantityText.Show(expected)}: {QuantityText.Show(judged.Value!.Value)} cannot be its own",
            "clip on the plug, another lead’s end, length or size entered wrong"
        );
    }

    /// <summary>Rule 4, where a pack names the current that a protective earth is judged with.</summary>
    private static Doubt? TooLittleCurrent(InspectionFacts facts, Reading.EarthContinuity reading) =>
        reading.TestCurrent is { } current
        && facts.Pack.EarthCurrent?.NotReached(current, facts.Item.RatedCurrent) is { Decides: true } asks
            ? new(
                $"{facts.Pack.ShortName} asks for {QuantityText.Show(asks.Asked)} or more through the earth, and this was read with {QuantityText.Show(current)}",
                "another instrument, or its other range"
            )
            : null;

    /// <summary>Rule 4: a count of the display that is more than a fifth of the limit, and one more would cross it.</summary>
    private static Doubt? TooCoarse(RulePack pack, Judgement judged)
    {
        if (
            Coarseness(pack, judged) is not { } count
            || judged.Limit is not { Value: { } limit, Comparator: not Comparator.Within } resolved
        )
            return null;
        var next = judged.Value!.Value.Si + (resolved.IsFloor ? -count.Si : count.Si);
        return judged.Reading.Value is { IsBound: true } || Comparison.Meets(next, limit.Si, resolved.Comparator)
            ? null
            : new(
                $"it was read in steps of {QuantityText.Show(count)}, and one step further is beyond the limit of {QuantityText.Show(limit)}",
                "a finer instrument, or its finer range"
            );
    }

    /// <returns>One count of the display where it is more than a fifth of the limit; null where it is finer, or not known.</returns>
    public static Quantity? Coarseness(RulePack pack, Judgement judged) =>
        judged is { Reading: Reading.Numeric { Accuracy.Resolution: > 0 and var step, Shown.Unit: var unit }, Limit.Value: { } limit }
        && Comparison.Above(step * unit.Factor, pack.Thresholds.InstrumentStepAdvised * limit.Si)
        && IsNearEnough(judged, step, pack)
            ? new Quantity(step * unit.Factor, unit.Dimension)
            : null;

    /// <summary>A count of the display is more than a tenth of what lies between reading and limit. Far from its limit a coarse step
    /// decides nothing: above 640 Mohm in steps of 1 Mohm is as good against 2 Mohm as in steps of 0.01.</summary>
    public static bool IsNearEnough(Judgement judged, double count, RulePack pack) =>
        judged is not { Limit.Value: { } limit, Value: { } value, Reading.Value: { } shown }
        || Comparison.Above(count * shown.Unit.Factor, pack.Thresholds.InstrumentStep * Math.Abs(value.Si - limit.Si));

    /// <summary>Rule 2. A proof in words covers its part for the sheet.</summary>
    private static Doubt? NothingFlows(
        InspectionFacts facts,
        IReadOnlyList<Judgement> judgements,
        Judgement judged,
        Reading.Leakage reading
    )
    {
        var doubt = AtAppliedPart(facts, judged, reading) ?? WhereSomethingFlowed(facts, judged, reading);
        return doubt is null || judgements.Any(other => Proves(other.Reading, reading)) ? null : doubt;
    }

    private static bool Proves(Reading other, Reading.Leakage reading) =>
        other is Reading.Leakage { Proof: not null, Void: null } proved
        && proved.Under.Kind == reading.Under.Kind
        && proved.Under.AppliedPart == reading.Under.AppliedPart;

    private static Doubt? AtAppliedPart(InspectionFacts facts, Judgement judged, Reading.Leakage reading)
    {
        var (rules, under) = (facts.Pack.Thresholds, reading.Under);
        var isAsked =
            under.Kind == LeakageKind.MainsOnAppliedPart
            || (under.Kind == LeakageKind.AppliedPart && under.Method != LeakageMethod.Differential);
        if (!isAsked || Comparison.AtLeast(judged.Value!.Value.Si, rules.SilentConnection.Value))
            return null;
        if (EarlierOf(facts, judged).Any(past => Comparison.Below(past, rules.SilentUsual.Value)))
            return null;
        return new(
            $"something flows through every part that is connected, and {Shown(judged)} is nothing",
            "part not connected, its lead broken, or earthed elsewhere",
            Proves: true
        );
    }

    private static Doubt? WhereSomethingFlowed(InspectionFacts facts, Judgement judged, Reading.Leakage reading)
    {
        var (rules, isMedical) = (facts.Pack.Thresholds, facts.Item.IsMedical);
        if (reading.Under.Power != PowerState.On || reading.Under.Method == LeakageMethod.Alternative || reading.Load is not { Value: > 0 })
            return null;
        if (!IsNothing(facts, judged, reading))
            return null;
        var counts = 5 * (reading.Accuracy?.Resolution ?? 0) * reading.Shown.Unit.Factor;
        var least = isMedical ? rules.SilentKnown.Value : Math.Max(rules.SilentKnownAppliance.Value, counts);
        return
            EarlierOf(facts, judged).Where(past => Comparison.AtLeast(past, least)).Select(past => (double?)past).LastOrDefault() is { } was
            ? new(
                $"{QuantityText.Show(new Amperes(was))} flowed here before, the item runs, and {Shown(judged)} is nothing",
                "probe off, part not connected, or earthed elsewhere (then the differential method)",
                Proves: true
            )
            : null;
    }

    /// <summary>An appliance tester shows 0.00 mA of what a medical analyser still counts.</summary>
    public static bool IsNothing(InspectionFacts facts, Judgement judged, Reading.Leakage reading) =>
        facts.Item.IsMedical
            ? Comparison.Below(judged.Value!.Value.Si, facts.Pack.Thresholds.SilentLeakage.Value)
            : reading.Shown is { Number: 0 } or { IsBound: true };

    /// <summary>As the display had it: nothing has no unit of its own.</summary>
    private static string Shown(Judgement judged) => judged.Reading.Value!.Value.ToString();

    /// <summary>Earlier decided values of the same measurement, in SI, oldest first.</summary>
    private static IEnumerable<double> EarlierOf(InspectionFacts facts, Judgement judged) =>
        Trend.Earlier(facts, judged).Select(past => past.Value);

    /// <summary>What is told of readings that pass, whatever their limit says: rule 2 where words alone proved it, rule 3, and
    /// rule 4.</summary>
    public static IEnumerable<string> Advice(InspectionFacts facts, IReadOnlyList<Judgement> results)
    {
        foreach (var judged in results)
        {
            if (judged is not { Status: Status.Pass, Overridden: null, Value: not null, Reading.Borrowed: null })
                continue;
            if (judged.Reading is Reading.Leakage leakage)
            {
                if (WhereSomethingFlowed(facts, judged, leakage) is { } doubt)
                    yield return $"{judged.Reading.Name}: {doubt.Expected}; proved by: {ProofOf(results, leakage)}.";
                if (Multiple(facts, judged) is { } times)
                    yield return $"{judged.Reading.Name} is {QuantityText.Number(times, 2)} times what it was at its reference: accessory added?";
            }
            if (LargeNull(facts.Pack.Thresholds, judged) is { } taken)
                yield return $"{judged.Reading.Name}: the test lead’s own {QuantityText.Show(taken)} was taken off. A good lead has less: look at its clips.";
            if (Coarseness(facts.Pack, judged) is { } count)
                yield return $"{judged.Reading.Name} was read in steps of {QuantityText.Show(count)}, more than a fifth of its limit of {QuantityText.Show(judged.Limit!.Value!.Value)}.";
        }
        foreach (var pair in Exchanged(facts, results))
            yield return pair;
        if (IsLeadLeftOut(facts, results))
            yield return "Its detachable lead was left out: earth continuity was read of the device alone, and the lead was not measured.";
    }

    /// <summary>Rule 10.</summary>
    private static bool IsLeadLeftOut(InspectionFacts facts, IReadOnlyList<Judgement> results)
    {
        if (facts.Item is not { Cord.Detachable: true })
            return false;
        bool IsRead(EarthPart part) =>
            results.Any(judged =>
                judged is { Status: not Status.Void, Reading: Reading.EarthContinuity { Under.Part: var read } } && read == part
            );
        return IsRead(EarthPart.DeviceAlone) && !IsRead(EarthPart.CordAlone) && !IsRead(EarthPart.DeviceWithCord);
    }

    /// <summary>Rule 13: what is taken off is as much as a bad earth.</summary>
    private static Ohms? LargeNull(Thresholds rules, Judgement judged) =>
        judged is { Reading: Reading.EarthContinuity { Null: var taken }, Limit.Value: var limit }
        && (Comparison.Above(taken.Value, rules.NullTold.Value) || (limit is { } most && Comparison.Above(taken.Value, most.Si)))
            ? taken
            : null;

    private static string ProofOf(IReadOnlyList<Judgement> results, Reading.Leakage reading) =>
        results.Select(judged => judged.Reading).OfType<Reading.Leakage>().First(other => Proves(other, reading)).Proof!;

    /// <summary>Above three times its reference, and above the figure below which such a ratio is noise; null else.</summary>
    private static double? Multiple(InspectionFacts facts, Judgement judged)
    {
        var rules = facts.Pack.Thresholds;
        var least = facts.Item.IsMedical ? rules.TripledLeast.Value : rules.TripledLeastAppliance.Value;
        var (now, was) = (judged.Value!.Value.Si, EarlierOf(facts, judged).FirstOrDefault());
        return
            judged.Reading.Value is { IsBound: false }
            && was > 0
            && Comparison.Above(now, rules.Tripled * was)
            && Comparison.Above(now, least)
            ? now / was
            : null;
    }

    /// <summary>Two parts whose references lie well apart, each now near the other's.</summary>
    private static IEnumerable<string> Exchanged(InspectionFacts facts, IReadOnlyList<Judgement> results)
    {
        var known = results
            .Where(judged =>
                judged is { Status: Status.Pass or Status.Fail, Reading: Reading.Leakage { Under.AppliedPart: not null }, Value: not null }
            )
            .Select(judged => (Now: judged, Was: EarlierOf(facts, judged).FirstOrDefault()))
            .Where(pair => pair.Was > 0)
            .ToArray();
        var rules = facts.Pack.Thresholds;
        bool IsNear(double now, double was) => Comparison.AtMost(Math.Abs(now - was), rules.ExchangedWithin * was);
        for (var a = 0; a < known.Length; a++)
        for (var b = a + 1; b < known.Length; b++)
        {
            var (one, other) = (known[a], known[b]);
            var (under, beside) = ((Conditions.Leakage)one.Now.Reading.Under, (Conditions.Leakage)other.Now.Reading.Under);
            if (under.AppliedPart == beside.AppliedPart || under with { AppliedPart = null } != beside with { AppliedPart = null })
                continue;
            var isApart = Comparison.AtLeast(Math.Max(one.Was, other.Was), rules.ExchangedApart * Math.Min(one.Was, other.Was));
            if (isApart && IsNear(one.Now.Value!.Value.Si, other.Was) && IsNear(other.Now.Value!.Value.Si, one.Was))
                yield return $"{one.Now.Reading.Name} and {other.Now.Reading.Name}: each reads what the other did at its reference: leads exchanged?";
        }
    }
}
