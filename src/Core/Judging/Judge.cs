using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

public enum DecisionRule
{
    /// <summary>The reading is compared as it stands.</summary>
    Simple,

    /// <summary>The instrument's uncertainty must fit between reading and limit.</summary>
    Guarded,
}

/// <summary>Holds one reading against the limit its item and pack give it. Pure arithmetic; the verdict over all readings is
/// <see cref="Assessment"/>.</summary>
public static class Judge
{
    /// <param name="pack">The standard in force; a reading's own borrowed pack goes before it.</param>
    public static Judgement Of(RulePack pack, Item item, Reading reading, DecisionRule rule = DecisionRule.Simple)
    {
        var judging = reading.Borrowed ?? pack;
        var limit = MakerFigures.Over(judging.LimitFor(item, reading.Under), item, reading.Under);
        if (reading is Reading.Performance { MakerLimit: var maker })
            limit = limit?.WithMaker(maker);
        if (reading is Reading.Numeric { Tighter: { } own })
            limit = limit?.Tightened(own);
        var judgement = reading.Void is not null
            ? new Judgement(reading, Status.Void, Because.Voided, limit, reading.Value?.Quantity)
            : reading switch
            {
                Reading.EarthContinuity earth => Earth(judging, item, earth, limit, rule),
                Reading.Insulation insulation => Insulation(judging, item, insulation, limit, rule),
                Reading.Leakage leakage => Leakage(judging, item, leakage, limit, rule),
                Reading.Performance performance => Compared(performance, limit, performance.Shown.Quantity, rule),
                Reading.RcdTripped { Under.Multiple: < 1 } or Reading.RcdTrippedUntimed => new(
                    reading,
                    Status.Fail,
                    Because.Tripped,
                    limit,
                    reading.Value?.Quantity
                ),
                Reading.RcdTripped tripped => Compared(tripped, limit, tripped.Shown.Quantity, rule),
                Reading.RcdDidNotTrip still => DidNotTrip(still, limit),
                Reading.Conductors conductors => GoodOrBad(conductors, conductors.Ok),
                Reading.Functional functional => GoodOrBad(functional, functional.Ok),
                _ => throw new InvalidOperationException($"A reading of {reading.Test} is judged by nothing."),
            };
        if (reading.Borrowed is not null)
            judgement = judgement with { NeverSatisfies = true };
        return reading.Override is { } by && judgement.Status != Status.Void
            ? judgement with
            {
                Status = by.To,
                Overridden = judgement.Status,
            }
            : judgement;
    }

    private static Judgement GoodOrBad(Reading reading, bool ok) =>
        ok ? new(reading, Status.Pass, Because.Good, null, null) : new(reading, Status.Fail, Because.Bad, null, null);

    /// <summary>At half its rating an RCD must stay closed; at its rating and above it must open.</summary>
    private static Judgement DidNotTrip(Reading.RcdDidNotTrip reading, ResolvedLimit? limit) =>
        reading.Under.Multiple < 1 ? new(reading, Status.Pass, Because.DidNotTrip, limit, null)
        : limit is null ? NoLimit(reading, null)
        : new(reading, Status.Fail, Because.DidNotTrip, limit, null);

    private static Judgement Earth(RulePack pack, Item item, Reading.EarthContinuity reading, ResolvedLimit? limit, DecisionRule rule)
    {
        var raw = reading.Shown;
        // A bound is judged by its number: what the display could not show, a null cannot correct.
        var nulled = raw.IsBound ? raw.Quantity.Si : raw.Quantity.Si - reading.Null.Value;
        // A little less than nothing is noise; more of it says that the null was taken with a bad contact.
        var value = new Ohms(nulled < 0 && Comparison.AtMost(-nulled, pack.Thresholds.NullOvershoot.Value) ? 0 : nulled);
        if (item.Class is ProtectionClass.II or ProtectionClass.IIFunctionalEarth)
            return new(reading, Status.Undecided, Because.ClassInDoubt, limit, value);
        if (value.Value < 0)
            return new(reading, Status.Undecided, Because.NullIsStale, limit, value);
        var judged = Compared(reading, limit, value, rule);
        // An open earth is what a true class II shows: it asks for the class. A number above the limit is a bad earth all the same.
        return item.Class == ProtectionClass.Undecided && raw.Qualifier == Qualifier.Above && judged.Status == Status.Fail
            ? judged with
            {
                Status = Status.Undecided,
                Because = Because.ClassAsked,
            }
            : judged;
    }

    private static Judgement Insulation(RulePack pack, Item item, Reading.Insulation reading, ResolvedLimit? limit, DecisionRule rule)
    {
        var value = reading.Shown.Quantity;
        // A mains lead by itself has no switch, and nothing between its conductors.
        var off = reading.Under.Part == InsulationPart.Device && IsDead(reading.SwitchedOn, reading.Load);
        if (off && item is { MainsSwitch: MainsSwitch.Mechanical, Class: not ProtectionClass.III })
            return new(reading, Status.Undecided, Because.SwitchedOff, limit, value);
        var judged = Compared(reading, limit, value, rule);
        if (
            judged.Status == Status.Fail
            && item.SurgeProtected
            && (reading.Under.TestVoltage ?? pack.Thresholds.InsulationVoltageFor(item)).Value
                > pack.Thresholds.GentleInsulationVoltage.Value
        )
            judged = judged with { Status = Status.Undecided, Because = Because.SuppressorConducts };
        return item.SwitchHidesMains && reading.Under.Part == InsulationPart.Device ? judged with { NeverSatisfies = true } : judged;
    }

    private static Judgement Leakage(RulePack pack, Item item, Reading.Leakage reading, ResolvedLimit? limit, DecisionRule rule)
    {
        var raw = reading.Shown.Quantity;
        var off = WasOff(pack, reading);
        if (off && item is { MainsSwitch: MainsSwitch.Mechanical, Class: not ProtectionClass.III })
            return new(reading, Status.Undecided, Because.SwitchedOff, limit, raw);

        var judged = Scaled(pack, item, reading, limit, raw, rule);
        var dead = reading.Under.Method == LeakageMethod.Alternative || off;
        return item.SwitchHidesMains && dead ? judged with { NeverSatisfies = true } : judged;
    }

    private static Judgement Scaled(
        RulePack pack,
        Item item,
        Reading.Leakage reading,
        ResolvedLimit? limit,
        Quantity raw,
        DecisionRule rule
    )
    {
        if (reading.Mains is not { } mains)
            return Compared(reading, limit, raw, rule);
        var nominal = pack.NominalFor(item);
        var rules = pack.Thresholds;
        var (lowest, highest) = (rules.LowestMains * nominal.Value, rules.HighestMains * nominal.Value);
        if (!Comparison.AtLeast(mains.Value, lowest) || !Comparison.AtMost(mains.Value, highest))
            return new(reading, Status.Undecided, Because.MainsOutOfRange, limit, raw, (nominal, mains)) { OutsideWindowOf = rules };
        var target = new Volts(nominal.Value * pack.ScaleTo);
        var factor = target.Value / mains.Value;
        return Compared(reading, limit, raw with { Si = raw.Si * factor }, rule, factor) with { ScaledFrom = (target, mains) };
    }

    /// <summary>With the switch off, or with no load current at all, the mains part was not under test. With the neutral open no load
    /// flows whatever the switch does, and tells nothing.</summary>
    private static bool WasOff(RulePack pack, Reading.Leakage reading)
    {
        var under = reading.Under;
        var load = under.Neutral == ConductorState.Open ? null : reading.Load;
        return !(pack.PowerOffIsACondition && under.Power == PowerState.Off)
            && (IsDead(reading.SwitchedOn, load) || under.Power == PowerState.Off);
    }

    private static bool IsDead(bool switchedOn, Amperes? load) => !switchedOn || load is { Value: 0 };

    private static Judgement NoLimit(Reading reading, Quantity? value) =>
        new(reading, Status.Pass, Because.NoLimit, null, value, NeverSatisfies: true);

    private static Judgement Compared(Reading.Numeric reading, ResolvedLimit? limit, Quantity value, DecisionRule rule, double scale = 1)
    {
        if (limit?.Value is not { } bound)
            return NoLimit(reading, value);
        var raw = reading.Shown;
        if (raw.IsBound)
            return Bound(reading, limit, value, raw.Qualifier);

        var u = rule == DecisionRule.Guarded && reading.Accuracy is { } accuracy ? accuracy.Of(raw.Number) * raw.Unit.Factor * scale : 0;
        var (best, worst) = limit.Comparator switch
        {
            Comparator.NotLessThan => (value.Si + u, value.Si - u),
            Comparator.Within => Deviations(value.Si - (reading.Under.Set?.Si ?? 0), u),
            _ => (value.Si - u, value.Si + u),
        };
        if (Comparison.Meets(worst, bound.Si, limit.Comparator))
            return new(reading, Status.Pass, Because.Compared, limit, value, null, u);
        return Comparison.Meets(best, bound.Si, limit.Comparator)
            ? new(reading, Status.Undecided, Because.TooCloseForInstrument, limit, value, null, u)
            : new(reading, Status.Fail, Because.Compared, limit, value, null, u);
    }

    private static (double Best, double Worst) Deviations(double deviation, double u) =>
        (Math.Max(0, Math.Abs(deviation) - u), Math.Abs(deviation) + u);

    /// <summary>An off-scale reading decides only when the whole range it stands for lies on one side of the limit.</summary>
    private static Judgement Bound(Reading reading, ResolvedLimit limit, Quantity value, Qualifier qualifier)
    {
        var bound = limit.Value!.Value.Si;
        var goodSide = limit.IsFloor ? Qualifier.Above : Qualifier.Below;
        if (limit.Comparator == Comparator.Within)
            return new(reading, Status.Undecided, Because.BoundSaysNothing, limit, value);
        // "<x" lies strictly under x, so x equal to the limit passes even where the comparator is strict.
        var decided =
            qualifier == goodSide
                ? Comparison.Meets(value.Si, bound, limit.IsFloor ? Comparator.NotLessThan : Comparator.NotMoreThan)
                : Comparison.Meets(value.Si, bound, limit.IsFloor ? Comparator.NotMoreThan : Comparator.NotLessThan);
        return decided
            ? new(reading, qualifier == goodSide ? Status.Pass : Status.Fail, Because.Compared, limit, value)
            : new(reading, Status.Undecided, Because.BoundSaysNothing, limit, value);
    }
}
