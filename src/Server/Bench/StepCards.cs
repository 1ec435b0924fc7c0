using Osierwand.Core;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Server.Kit;

namespace Osierwand.Server.Bench;

/// <summary>Steps of a plan as the run sheet shows them: limit with derivation, rail, earlier values.</summary>
internal static class StepCards
{
    private const int EarlierShown = 6;

    public static StepCard Of(PlanStep step, OnBench bench, InstrumentCard? instrument)
    {
        var unit = UsualUnit(step, bench.Pack);
        var earlier = Earlier(step, bench, unit);
        return new(step.Key, step.Test, step.Name, Detail(step), step.Terminals, Limit(step.Limit), step.HazardKind, step.Hazard,
            step.Needs, step.Seconds, unit?.Label, unit is null ? null : Rail(step, earlier), earlier,
            instrument is { Connected: true, Trouble: null } && step.NotMeasured is null && CanMeasure(step), step.Source, step.NotMeasured,
            step.Test == Test.EarthContinuity && step.Under.Point is null || (step.Test == Test.Leakage && step.Under is { Kind: LeakageKind.Touch, Point: null }));
    }

    /// <summary>The unit in which the trade reads this test; a bare typed number is in it.</summary>
    public static Unit? UsualUnit(PlanStep step, RulePack pack) => step.Test switch
    {
        Test.EarthContinuity or Test.PadPath => Unit.Ohm,
        Test.Insulation => Unit.Megohm,
        Test.Leakage => pack.Scope == PackScope.Medical ? Unit.Microampere : Unit.Milliampere,
        Test.RcdTrip or Test.DefibSync => Unit.Millisecond,
        Test.DefibCharge => Unit.Second,
        Test.DefibEnergy => Unit.Joule,
        Test.EcgAmplitude => Unit.Millivolt,
        _ => null,
    };

    public static LimitCard? Limit(ResolvedLimit? limit) => limit is null ? null
        : new(limit.Value?.Si, limit.Value is { } value ? $"{limit.Comparator.Sign()} {value}" : "must not trip", limit.IsFloor, limit.Derivation, limit.Clause);

    private static string Detail(PlanStep step)
    {
        var under = step.Under;
        var words = new List<string>();
        if (step.TestVoltage is { } volts) words.Add($"{QuantityText.Number(volts.Value)} V d.c.");
        if (step.Test == Test.Leakage)
        {
            words.Add(under.Method switch { LeakageMethod.Alternative => "alternative, not powered", LeakageMethod.Differential => "differential", _ => "powered" });
            if (under.Polarity == MainsPolarity.Reversed) words.Add("reversed polarity");
            if (under.Earth == ConductorState.Open) words.Add("earth open");
            if (under.Neutral == ConductorState.Open) words.Add("neutral open");
            if (under.Power == PowerState.Off) words.Add("device off");
        }
        if (step.Test == Test.RcdTrip) words.Add($"{QuantityText.Number(under.Multiple)} × rating, {under.PhaseDeg}°");
        return string.Join(", ", words);
    }

    private static bool CanMeasure(PlanStep step) => step.Test is Test.EarthContinuity or Test.Insulation or Test.RcdTrip or Test.Polarity or Test.Wiring ||
        (step.Test == Test.Leakage && step.Under.Kind is LeakageKind.ProtectiveConductor or LeakageKind.Touch or LeakageKind.Equipment or LeakageKind.Earth);

    private static List<EarlierValue> Earlier(PlanStep step, OnBench bench, Unit? unit)
    {
        var values = new List<EarlierValue>();
        foreach (var past in bench.PastReadings)
        {
            // A step may have been read at several points; the worst stands for the visit.
            EarlierValue? worst = null;
            foreach (var reading in past.Readings.Where(it => it.Void is null && it.Test == step.Test && StepKey.Of(it.Test, it.Under with { Point = step.Under.Point }) == step.Key))
            {
                var judged = Judge.Reading(bench.Pack, bench.Item.Equipment, reading);
                if (judged.Value is not { } value) continue;
                var bound = reading.Value is { IsBound: true };
                if (worst is null || (step.Limit?.IsFloor == true ? value.Si < worst.Si : value.Si > worst.Si))
                    worst = new(past.Date, value.Si, bound || unit is null ? reading.Value!.Value.ToString() : QuantityText.ShowNear(value, unit), bound);
            }
            if (worst is not null) values.Add(worst);
        }
        return [.. values.TakeLast(EarlierShown)];
    }

    /// <summary>Whole decades around the limit and everything measured so far: two below and one above, so that good and bad both have room.</summary>
    private static RailScale? Rail(PlanStep step, IReadOnlyList<EarlierValue> earlier)
    {
        if (step.Limit?.Value is not { Si: > 0 } limit) return null;
        var values = earlier.Where(it => it.Si > 0).Select(it => it.Si).DefaultIfEmpty(limit.Si).ToArray();
        var (below, above) = step.Limit.IsFloor ? (2, 3) : (2, 1);
        var decade = Math.Floor(Math.Log10(limit.Si));
        var from = Math.Min(decade - below + 1, Math.Max(decade - below - 1, Math.Floor(Math.Log10(values.Min()))));
        var to = Math.Max(decade + above, Math.Min(decade + above + 2, Math.Ceiling(Math.Log10(values.Max()))));
        var ticks = Enumerable.Range((int)from, (int)(to - from) + 1).Select(exponent => Math.Pow(10, exponent));
        return new(Math.Pow(10, from), Math.Pow(10, to), [.. ticks.Select(at => new RailTick(at, new Quantity(at, limit.Dimension).ToString()))]);
    }
}
