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
    private readonly Dictionary<(Guid Change, Guid Until), (Ruling Before, Ruling After)> changes = [];
    private readonly Dictionary<(Guid Reading, int Ruling, string Under), (Reading Of, Judgement Judgement)> judgements = [];

    private readonly Dictionary<(Guid Reading, int Ruling, ReadingSource Source), Result<Reading>> understood = [];

    internal RunSheet SheetOf(Ruling ruling) => sheets[IndexOf(ruling)].Sheet;

    /// <summary>The ruling that an event made of the one before it, made once.</summary>
    /// <param name="until">The event up to which it holds, where what it becomes depends on that.</param>
    internal Ruling After(Guid change, Ruling before, Func<Ruling> make, Guid until = default)
    {
        if (changes.TryGetValue((change, until), out var known) && ReferenceEquals(known.Before, before))
            return known.After;
        var after = make();
        changes[(change, until)] = (before, after);
        return after;
    }

    internal static PlanStep? PlanOf(SheetStep? step) =>
        step switch
        {
            SheetStep.Measure measure => measure.Plan,
            SheetStep.Function function => function.Plan,
            SheetStep.Check check => check.Plan,
            _ => null,
        };

    /// <param name="id">Of the reading, or of what holds it against a second standard.</param>
    /// <param name="reading">As it is understood: what turned out to be typed is another one.</param>
    /// <param name="under">Whatever the judgement depends on beside ruling and reading: an override, another pack.</param>
    internal Judgement Judged(Guid id, Reading reading, Ruling ruling, string under, Func<Judgement> judge)
    {
        var key = (id, IndexOf(ruling), under);
        if (judgements.TryGetValue(key, out var known) && known.Of == reading)
            return known.Judgement;
        var judged = judge();
        judgements[key] = (reading, judged);
        return judged;
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
