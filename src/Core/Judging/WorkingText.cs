using Osierwand.Core.Standards;
using static Osierwand.Core.Quantities.QuantityText;

namespace Osierwand.Core.Judging;

/// <summary>
/// Puts a judgement's arithmetic into words. Written out on demand: judging a hundred thousand readings should not pay for text that
/// nobody opens.
/// </summary>
internal static class WorkingText
{
    public static IReadOnlyList<string> Of(Judgement it)
    {
        // The comparison is told as it was; what a lead made of it stands under it.
        if (it.Overridden is { } own && it.Reading.Override is { } by)
            return
            [
                .. Of(it with { Status = own, Overridden = null }),
                $"overridden by {by.By}, lead: {Words.Of(own)} becomes {Words.Of(by.To)}, because {by.Reason}",
            ];
        var lines = new List<string>(4);
        if (it.Limit is { } limit)
            lines.Add(LimitText.LimitLine(limit));
        switch (it.Because)
        {
            case Because.Voided:
                lines.Add($"voided: {it.Reading.Void}; it counts for nothing");
                return lines;
            case Because.Good:
            case Because.Bad:
                lines.Add(it.Because == Because.Good ? "found good" : "found bad");
                return lines;
            case Because.DidNotTrip:
                lines.Add($"did not trip at {Number(((Conditions.RcdTrip)it.Reading.Under).Multiple)} × its rating: {Outcome(it)}");
                return lines;
            case Because.Tripped:
                lines.Add($"tripped at {Number(((Conditions.RcdTrip)it.Reading.Under).Multiple)} × its rating, where it must not: fail");
                return lines;
        }
        Arithmetic(it, lines);
        lines.Add(Conclusion(it));
        return lines;
    }

    private static void Arithmetic(Judgement it, List<string> lines)
    {
        if (it.Reading.Value is not { } raw || it.Value is not { } value)
            return;
        if (it.Reading is Reading.EarthContinuity { Null: { Value: not 0 } nulled } && !raw.IsBound)
            lines.Add($"{raw} read − {Show(nulled)} null = {Show(value)}");
        if (it.ScaledFrom is { } scale && it.Because != Because.MainsOutOfRange)
            lines.Add($"{raw} × {Number(scale.To.Value)} V / {Number(scale.From.Value)} V = {Show(value)}");
        if (it.Uncertainty > 0)
            lines.Add($"instrument ± {Show(value with { Si = it.Uncertainty })}");
    }

    private static string Conclusion(Judgement it) =>
        it.Because switch
        {
            Because.NoLimit => "this standard has no limit for it: noted, not judged",
            Because.NullIsStale => "less than nothing is left after the null: the null is stale, null again",
            Because.BoundSaysNothing => $"{it.Reading.Value} says nothing about this limit: undecided",
            Because.MainsOutOfRange =>
                $"{Number(it.ScaledFrom!.Value.From.Value)} V lies outside {Number(it.OutsideWindowOf!.LowestMains * 100)} % to {Number(it.OutsideWindowOf.HighestMains * 100)} % of {Number(it.ScaledFrom!.Value.To.Value)} V: undecided, not scaled",
            Because.SwitchedOff => "the item was switched off or drew no load: the mains part was not under test",
            Because.SuppressorConducts =>
                $"a surge suppressor may conduct at this voltage: undecided, repeat at {Show(it.Limit!.Pack.Thresholds.GentleInsulationVoltage)}",
            Because.TooCloseForInstrument => "too close to the limit for this instrument: undecided",
            Because.ClassInDoubt => "an earth was found on a class II item: its class is in doubt",
            Because.SilentConnection =>
                "nothing flows here while something flows at the others: its lead is broken or not plugged in, and it was not under test",
            Because.FailedHere => "the instrument failed here and nobody saved it: only the instrument decides",
            Because.OneConnection => "one connection alone was measured; here all of the part are joined",
            Because.NotTired =>
                "it was not timed right after the discharges at maximum that tire it: undecided, make them and time it again",
            Because.Contradicts => $"{it.Doubt!.Expected}: undecided. Check first: {it.Doubt.CheckFirst}",
            Because.ClassAsked => "no earth was found, which a class II item would show too: settle the class",
            _ => Comparison(it),
        };

    private static string Comparison(Judgement it)
    {
        var (value, limit) = (it.Value!.Value, it.Limit!.Value!.Value);
        if (it.Limit.Comparator == Comparator.Within)
            return $"{Show(value)} is {Show(value with { Si = Math.Abs(value.Si - (it.Reading.Under.Set?.Si ?? 0)) })} from the set value: {Outcome(it)}";
        var shown = it.Reading.Value is { IsBound: true } bound ? bound.ToString() : Show(value);
        var sign = (it.Status == Status.Pass, it.Limit.IsFloor) switch
        {
            (true, true) or (false, false) => "≥",
            _ => "≤",
        };
        var plain =
            it.Reading.Value is { IsBound: true } ? "against"
            : value.Si == limit.Si ? "="
            : value.Si > limit.Si ? ">"
            : "<";
        return $"{shown} {(plain == "against" ? sign : plain)} {Show(limit)}: {Outcome(it)}"
            + (it.Use is { } use ? $", {Used(use, it.Limit.IsFloor)}" : "");
    }

    /// <summary>A share that nobody can picture says no more than that.</summary>
    public static string Used(double use, bool isFloor) =>
        use <= LargestShare ? $"{Number(use * 100)} % of the limit used"
        : isFloor ? "less than a tenth of the limit"
        : "over 10 times the limit";

    /// <summary>999 %.</summary>
    internal const double LargestShare = 9.99;

    private static string Outcome(Judgement it) => it.Status == Status.Pass ? "pass" : Words.Of(it.Status);
}
