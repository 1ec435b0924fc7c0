using Osierwand.Core.Judging;
using Osierwand.Core.Planning;

namespace Osierwand.Core.Bench;

/// <summary>
/// What an engine may keep between two calls on one ruling: rulings by the event that changed them, sheets, and judgements by reading. A
/// judgement depends on ruling and reading alone, so one more event costs one more judgement and not forty. Leaving it out changes no
/// answer.
/// </summary>
public sealed class BenchMemory
{
    private readonly List<(Ruling Ruling, RunSheet Sheet)> sheets = [];
    private readonly Dictionary<Guid, (Ruling Before, Ruling After)> changes = [];
    private readonly Dictionary<(Guid Reading, int Ruling, string Under), Judgement> judgements = [];

    private readonly Dictionary<(Guid Reading, int Ruling, ReadingSource Source), Result<Reading>> understood = [];

    internal RunSheet SheetOf(Ruling ruling) => sheets[IndexOf(ruling)].Sheet;

    /// <summary>The ruling that an event made of the one before it, made once.</summary>
    internal Ruling After(Guid change, Ruling before, Func<Ruling> make)
    {
        if (changes.TryGetValue(change, out var known) && ReferenceEquals(known.Before, before))
            return known.After;
        var after = make();
        changes[change] = (before, after);
        return after;
    }

    /// <summary>The step of the sheet in force, or of an earlier one when the sheet has moved on; null when no sheet had it.</summary>
    internal SheetStep? StepOf(ReadingTaken reading, RunSheet inForce)
    {
        if (inForce.Find(reading.Step) is { } now)
            return now;
        for (var at = sheets.Count - 1; at >= 0; at--)
            if (sheets[at].Sheet.Find(reading.Step) is { } before)
                return before;
        return null;
    }

    internal static PlanStep? PlanOf(SheetStep? step) =>
        step switch
        {
            SheetStep.Measure measure => measure.Plan,
            SheetStep.Function function => function.Plan,
            SheetStep.Check check => check.Plan,
            _ => null,
        };

    /// <param name="under">Whatever the judgement depends on beside ruling and reading: an override, another pack.</param>
    internal Judgement Judged(Guid reading, Ruling ruling, string under, Func<Judgement> judge)
    {
        var key = (reading, IndexOf(ruling), under);
        if (judgements.TryGetValue(key, out var known))
            return known;
        return judgements[key] = judge();
    }

    /// <summary>What a reading says under a ruling: its text is read once.</summary>
    internal Result<Reading> Understood(ReadingTaken taken, Ruling ruling, Func<Result<Reading>> read)
    {
        var key = (taken.Id, IndexOf(ruling), taken.Source);
        if (understood.TryGetValue(key, out var known))
            return known;
        return understood[key] = read();
    }

    private int IndexOf(Ruling ruling)
    {
        var at = sheets.FindIndex(known => ReferenceEquals(known.Ruling, ruling));
        if (at >= 0)
            return at;
        sheets.Add((ruling, RunSheet.Of(ruling)));
        return sheets.Count - 1;
    }
}
