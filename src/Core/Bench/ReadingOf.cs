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
        step.Test switch
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

    /// <returns>The reading, or a fault in words for the technician; a reading with a fault is kept and counts for nothing.</returns>
    public static Result<Reading> Taken(Ruling ruling, PlanStep step, ReadingTaken taken)
    {
        var isInstrument = taken.Source == ReadingSource.Instrument;
        var reading = new Reading
        {
            Test = step.Test,
            Under = taken.Point is { } point && step.Under.Point is null ? step.Under with { Point = point } : step.Under,
            Note = taken.Note,
            SwitchedOn = taken.SwitchedOn,
            TestVoltage = step.TestVoltage,
            Set = step.Set,
            Mains = isInstrument && taken.Mains is > 0 and { } mains ? new Volts(mains) : null,
            Load = isInstrument && taken.LoadA is >= 0 and { } load ? new Amperes(load) : null,
            Null = new(isInstrument && step.Test == Test.EarthContinuity ? Math.Max(0, taken.NullOhm ?? 0) : 0),
        };
        if (UsualUnit(step, ruling.Pack) is not { } usual)
            return Answered(reading, taken);
        if (step.Test == Test.RcdTrip && (taken.Tripped == false || IsWatch(taken)))
            return DidNotTrip(ruling, step, reading, taken);

        var value = ValueOf(taken, usual);
        if (value.Fault is { } fault)
            return fault;
        if (value.Value.Number < 0 && step.Test != Test.EarthContinuity)
            return new Fault("value", "A value below nothing cannot be right; measure again.");
        return reading with
        {
            Value = value.Value,
            Tripped = step.Test == Test.RcdTrip ? true : null,
            Accuracy = isInstrument ? StatedFor(ruling.Kit, step.Test, value.Value.Unit) : null,
        };
    }

    private static Result<Reading> Answered(Reading reading, ReadingTaken taken)
    {
        if (taken.Ok is not { } ok)
            return new Fault("ok", "Say good or bad.");
        if (!ok && taken.Source == ReadingSource.Typed && string.IsNullOrWhiteSpace(taken.Note) && taken.Found is null)
            return new Fault("note", "Say in words what is bad.");
        return reading with { Ok = ok, Found = taken.Found };
    }

    /// <summary>"&gt;2000" of a trip time says that it was watched for so long and did not trip.</summary>
    private static bool IsWatch(ReadingTaken taken) => taken.Qualifier == ">" || taken.Text?.TrimStart().StartsWith('>') == true;

    private static Result<Reading> DidNotTrip(Ruling ruling, PlanStep step, Reading reading, ReadingTaken taken)
    {
        var notTripped = reading with { Tripped = false };
        if (taken.Tripped == false)
            return notTripped;
        var watched = ValueOf(taken, Unit.Millisecond);
        if (watched.Fault is { } fault)
            return fault;
        var rule = ruling.Pack.LimitFor(ruling.Item.Equipment, step.Test, step.Under)?.Rule.Formula;
        var needed = rule is Formula.NoTrip watch ? watch.Watch : step.Limit?.Value;
        if (needed is { } time && watched.Value.Quantity.Si < time.Si * (1 - Judgement.Tolerance))
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

    /// <summary>What the maker of the instrument in hand states for this test, in the reading's own unit.</summary>
    private static Accuracy? StatedFor(KitInHand? kit, Test test, Unit unit)
    {
        var stated = kit is null ? null : kit.Accuracies.FirstOrDefault(it => it.Test == test);
        if (stated is null || Unit.Find(stated.Unit) is not { } own || own.Dimension != unit.Dimension)
            return null;
        return new Accuracy(stated.Percent, stated.Digits, stated.Resolution * own.Factor / unit.Factor);
    }
}
