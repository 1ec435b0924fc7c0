using System.Globalization;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>Reads what was taken at a step into a reading, or says why it is none.</summary>
public static class ReadingOf
{
    /// <summary>What a bare number at this step is in; null where it is answered good or bad.</summary>
    public static Unit? UsualUnit(PlanStep step, RulePack pack) =>
        step.Under switch
        {
            Conditions.EarthContinuity or Conditions.PadPath => Unit.Ohm,
            Conditions.Insulation => Unit.Megohm,
            Conditions.Leakage => pack.Scope == PackScope.Medical ? Unit.Microampere : Unit.Milliampere,
            Conditions.RcdTrip or Conditions.DefibSync => Unit.Millisecond,
            Conditions.DefibCharge => Unit.Second,
            Conditions.DefibEnergy => Unit.Joule,
            Conditions.EcgAmplitude => Unit.Millivolt,
            _ => null,
        };

    /// <returns>The reading, or a fault in words for the technician; a reading with a fault is kept and counts for nothing.</returns>
    public static Result<Reading> Taken(Ruling ruling, PlanStep step, ReadingTaken taken)
    {
        var under = taken.Point is { } point && step.Under.At is null ? step.Under with { At = Spot.Of(point) } : step.Under;
        var made = Made(ruling, step, under, taken);
        if (made.Fault is not null)
            return made;
        return made.Value with { Note = made.Value.Note ?? taken.Note, Load = LoadSeen(taken) };
    }

    /// <summary>Of a dead test: nothing connected between L and N is no load seen. What only an instrument can know is believed of an
    /// instrument alone.</summary>
    private static Amperes? LoadSeen(ReadingTaken taken) =>
        taken.Source != ReadingSource.Instrument ? null
        : taken.LoadA is >= 0 and { } seen ? new Amperes(seen)
        : taken.PathSeen == false ? new Amperes(0)
        : null;

    private static Result<Reading> Made(Ruling ruling, PlanStep step, Conditions under, ReadingTaken taken)
    {
        switch (under)
        {
            case Conditions.Conductors conductors:
                return WhyNoAnswer(taken) is { } why ? why : new Reading.Conductors(conductors, taken.Ok == true) { Found = taken.Found };
            case Conditions.Functional { Name: not null } when step is PlanStep.Check check:
                return Checked(check, taken);
            case Conditions.Functional:
                return WhyNoAnswer(taken) is { } silent ? silent : new Reading.Functional(taken.Ok == true);
            case Conditions.RcdTrip trip when taken.Tripped == false || IsWatch(taken):
                return DidNotTrip(ruling, trip, step as PlanStep.Measure, taken);
        }
        if (UsualUnit(step, ruling.Pack) is not { } usual)
            return new Fault("", "Nothing is read at this step.");
        var entered = ValueOf(taken, usual);
        if (entered.Fault is { } fault)
            return fault;
        var shown = entered.Value;
        if (shown.Number < 0 && under is not Conditions.EarthContinuity)
            return new Fault("value", "A value below nothing cannot be right; measure again.");
        var reading = Numeric(ruling, under, taken, shown);
        if (BeyondTheWorld.Refusal(reading, ruling.Pack.Thresholds) is { } cannot)
            return new Fault("value", cannot);
        var largest = ruling.Pack.Thresholds.LargestNull;
        if (reading is Reading.EarthContinuity { Null: var nulled } && Comparison.Above(nulled.Value, largest.Value))
            return new Fault(
                "nullOhm",
                $"A null of {QuantityText.Show(nulled)} hides a bad lead, {QuantityText.Show(largest)} is the most: null again, with a sound one."
            );
        return step is PlanStep.Measure { Tighter: var own, BorrowedFrom: var pack }
            ? reading with
            {
                Tighter = own,
                Borrowed = pack,
            }
            : reading;
    }

    private static Reading.Numeric Numeric(Ruling ruling, Conditions under, ReadingTaken taken, Measured shown)
    {
        // What only an instrument can know is believed of an instrument alone.
        var isInstrument = taken.Source == ReadingSource.Instrument;
        Reading.Numeric reading = under switch
        {
            Conditions.EarthContinuity earth => new Reading.EarthContinuity(earth, shown)
            {
                Null = new(isInstrument ? Math.Max(0, taken.NullOhm ?? 0) : TypedNull(ruling.KitOf(taken, under))),
                Lowest = isInstrument && taken.Lowest is { } lowest && lowest <= shown.Number ? lowest : null,
                IsTyped = !isInstrument,
            },
            Conditions.Insulation insulation => new Reading.Insulation(insulation, shown) { SwitchedOn = taken.SwitchedOn },
            Conditions.Leakage leakage => new Reading.Leakage(leakage, shown)
            {
                SwitchedOn = taken.SwitchedOn,
                Mains = isInstrument && taken.Mains is > 0 and { } mains ? new Volts(mains) : null,
            },
            Conditions.RcdTrip trip => new Reading.RcdTripped(trip, shown),
            Conditions.Performance performance => new Reading.Performance(performance, shown),
            _ => throw new InvalidOperationException($"{under.Test} has no number."),
        };
        // Typed or sent, it was read off the same instrument: its steps and its test current decide alike.
        if (StatedFor(ruling.KitOf(taken, under), under.Test, shown) is not { } stated)
            return reading;
        reading = reading with { Accuracy = new(stated.Percent, stated.Digits, StepIn(shown.Unit, stated)) };
        return reading is Reading.EarthContinuity drove && stated.TestCurrentA is { } amperes
            ? drove with
            {
                TestCurrent = new(amperes),
            }
            : reading;
    }

    /// <summary>Of an instrument that does not subtract it: its display shows the raw figure, lead and all.</summary>
    private static double TypedNull(KitInHand? kit) => kit is { NullsItself: false, NullOhm: { } ohm } ? Math.Max(0, ohm) : 0;

    /// <summary>A check with a set value is good within its tolerance; what was shown stays with it.</summary>
    private static Result<Reading> Checked(PlanStep.Check check, ReadingTaken taken)
    {
        if (check.Target is not { } target)
            return WhyNoAnswer(taken) is { } silent ? silent : new Reading.Functional(taken.Ok == true, check.Asked);
        if (Shown(taken) is not { } shown)
            return new Fault("value", $"“{taken.Text}” is no number: what does the device show, in {target.Unit}?");
        return new Reading.Functional(target.Holds(shown), check.Asked) { Figure = $"{QuantityText.Number(shown, 6)} {target.Unit}" };
    }

    /// <summary>A plain number, with a comma or a point.</summary>
    private static double? Shown(ReadingTaken taken) =>
        taken.Text is not { } text ? taken.Number
        : double.TryParse(
            text.Trim().Replace(',', '.').Replace('−', '-'),
            NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var number
        )
            ? number
        : null;

    private static Fault? WhyNoAnswer(ReadingTaken taken)
    {
        if (taken.Ok is not { } ok)
            return new Fault("ok", "Say good or bad.");
        return !ok && taken.Source == ReadingSource.Typed && string.IsNullOrWhiteSpace(taken.Note) && taken.Found is null
            ? new Fault("note", "Say in words what is bad.")
            : null;
    }

    /// <summary>"&gt;2000" of a trip time says that it was watched for so long and did not trip.</summary>
    private static bool IsWatch(ReadingTaken taken) => taken.Qualifier == ">" || taken.Text?.TrimStart().StartsWith('>') == true;

    private static Result<Reading> DidNotTrip(Ruling ruling, Conditions.RcdTrip under, PlanStep.Measure? step, ReadingTaken taken)
    {
        var notTripped = new Reading.RcdDidNotTrip(under);
        if (taken.Tripped == false)
            return notTripped;
        var watched = ValueOf(taken, Unit.Millisecond);
        if (watched.Fault is { } fault)
            return fault;
        var rule = ruling.Pack.LimitFor(ruling.Item.Equipment, under)?.Rule.Formula;
        var needed = rule is Formula.NoTrip watch ? watch.Watch : step?.Limit?.Value;
        if (needed is { } time && !Comparison.AtLeast(watched.Value.Quantity.Si, time.Si))
            return new Fault("value", $"It was watched for {watched.Value.Quantity} only; {time} are needed to say that it did not trip.");
        return notTripped with { Note = taken.Note ?? $"watched for {watched.Value.Quantity}" };
    }

    private static Result<Measured> ValueOf(ReadingTaken taken, Unit usual)
    {
        if (taken.Text is { } text)
            return ReadingEntry.Parse(text, usual);
        if (taken.Number is not { } number || !double.IsFinite(number))
            return new Fault("value", "Nothing was entered.");
        if (Unit.Find(taken.Unit ?? usual.Symbol) is not { } unit || unit.Dimension != usual.Dimension)
            return new Fault("unit", $"“{taken.Unit}” is not a unit of this test.");
        return new Measured(
            number,
            unit,
            taken.Qualifier switch
            {
                ">" => Qualifier.Above,
                "<" => Qualifier.Below,
                _ => Qualifier.Exact,
            }
        );
    }

    /// <summary>What the maker of the instrument in hand states for this test and value; of several ranges the one it lies in.</summary>
    private static StatedAccuracy? StatedFor(KitInHand? kit, Test test, Measured shown)
    {
        if (kit is null)
            return null;
        foreach (var stated in kit.Accuracies)
        {
            if (stated.Test != test || Unit.Find(stated.Unit) is not { } own || own.Dimension != shown.Unit.Dimension)
                continue;
            var value = Math.Abs(shown.Quantity.Si) / own.Factor;
            if (value >= (stated.From ?? 0) && value <= (stated.To ?? double.PositiveInfinity))
                return stated;
        }
        return null;
    }

    /// <summary>One count of the display, in the reading's own unit.</summary>
    private static double StepIn(Unit unit, StatedAccuracy stated) => stated.Resolution * Unit.Find(stated.Unit)!.Factor / unit.Factor;
}
