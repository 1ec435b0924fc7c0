using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Judging;

/// <summary>What is read through a probe, and whether the probe was on anything.</summary>
internal static class ProbeDoubts
{
    /// <summary>What a passing sheet still waits for where the probe lay on metal and showed nothing at all.</summary>
    public const string Unproved =
        "the probe: it lay on metal and showed nothing anywhere; touch it to the instrument’s own check point, and say what it shows";

    /// <param name="reading">That would pass by its number.</param>
    public static Doubt? About(InspectionFacts facts, Reading reading)
    {
        if (reading is not Reading.Numeric { Probe: var place } || !Probing.IsAsked(facts.Item, reading.Under))
            return null;
        if (place is null)
            return facts.IsAtBench
                ? new(
                    "a probe in the air reads the same as a sound item, and nobody said what it lay on",
                    "is it on metal, on foil or mesh round the case, or was nothing conductive within reach",
                    AsksProbe: true
                )
                : null;
        return Probing.Contradiction(facts.Item, place.On) is { } why
            ? new($"{place.Text}, and {why}", "the facts of the item, and the probe")
            : null;
    }

    /// <summary>
    /// Off the scale and no current are what a sound case shows, and a broken probe lead. Of foil and mesh that is expected; metal shows
    /// something more often than not, so that the lead is proved once: by any reading through it that is not nothing, or on the
    /// instrument's own check point.
    /// </summary>
    /// <returns>The last reading that waits for it; null where nothing does.</returns>
    public static Judgement? Unread(InspectionFacts facts, IEnumerable<Judgement> judgements)
    {
        Judgement? silent = null;
        foreach (var judged in judgements)
        {
            if (judged is not { Status: not Status.Void, Value: not null, Reading: Reading.Numeric { Borrowed: null } reading })
                continue;
            if (!Probing.IsProbed(facts.Item, reading.Under))
                continue;
            if (!ShowsNothing(facts, judged))
                return null;
            if (reading.Probe is { On: ProbeOn.Metal, ProvedBy: null })
                silent = judged;
        }
        return silent;
    }

    private static bool ShowsNothing(InspectionFacts facts, Judgement judged) =>
        judged.Reading is Reading.Leakage leakage
            ? Doubts.IsNothing(facts, judged, leakage)
            : judged.Reading.Value is { Qualifier: Qualifier.Above };
}
