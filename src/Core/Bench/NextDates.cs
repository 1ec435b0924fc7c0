using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Bench;

/// <summary>When the item is next due if the sheet is saved as it stands. A look moves the date of the look alone.</summary>
public static class NextDates
{
    /// <returns>Null while the sheet cannot pass: what failed, was not tested or was only searched for a fault keeps its dates.</returns>
    public static NextCard? Of(BenchState state, DateOnly? today = null)
    {
        return state.Outcome is Outcome.Pass or Outcome.PassWithAdvice ? Worked(state, today, state.Sheet.IsMeasured) : null;
    }

    /// <summary>Looked at, not tested: the date of the look moves, that of the test stays.</summary>
    public static NextCard OfLook(BenchState state, DateOnly today) => Worked(state, today, hasMeasured: false);

    private static NextCard Worked(BenchState state, DateOnly? today, bool hasMeasured)
    {
        var (ruling, item, basis) = (state.Ruling, state.Ruling.Item.Equipment, state.Ruling.Basis);
        var day = today ?? ruling.Today;
        var test = new PastTest(day, Verdict.Pass, IsNear(state), IsRising(state));
        var facts = new IntervalFacts
        {
            Pack = ruling.Pack,
            Place = basis.Place,
            Use = item.Use,
            Class = item.Class,
            Kind = item.Kind,
            AllInsulated = item.AllInsulated,
            Usage = basis.Usage,
            Moved = basis.Moved,
            Users = basis.Users,
            ClassII = ruling.Policy.ClassII,
            Cap = basis.CapMonths is { } months ? new Period(months) : null,
            TestDate = day,
            AppliedPart = item.AppliedParts.Select(part => (AppliedPartType?)part.Type).Max(),
            PatientContact = !item.AppliedParts.IsEmpty,
            Defibrillator = item.Defibrillator is not null,
            History = hasMeasured ? [.. basis.Past, test] : basis.Past,
        };
        var next = IntervalRule.Of(facts);
        if (next.Performance is { } performance && !(next.Combined <= performance))
            next = WithPerformance(next, performance, day);
        var isTest = hasMeasured || (!state.Sheet.IsMeasured && (facts.LooksOnly || ruling.Scope == Planning.Scope.NewItem));
        return isTest ? Card(next) : LookOnly(next, basis);
    }

    public static bool IsNear(BenchState state) => state.Assessment.Results.Any(it => it.NearLimit);

    public static bool IsRising(BenchState state) => Trend.Of(state.Facts, state.Assessment.Results).Any();

    /// <summary>A defibrillator comes back for its performance, though its electrical safety would keep longer.</summary>
    private static Interval WithPerformance(Interval next, Period performance, DateOnly day)
    {
        var due = performance.After(day);
        return next with
        {
            Combined = performance,
            Due = due,
            Visual = Period.Shorter(performance, next.Visual),
            VisualDue = due < next.VisualDue ? due : next.VisualDue,
        };
    }

    private static NextCard Card(Interval it) =>
        new(it.Due, it.VisualDue, it.Combined?.Months, it.Visual.Months, it.UserCheck, it.DecidedBy, it.Because);

    private static NextCard LookOnly(Interval next, IntervalBasis basis) =>
        Card(next) with
        {
            Months = basis.Months,
            Due = basis.Due,
            Because =
            [
                basis.Due is null
                    ? "looked at only: it was never tested and stays due for that"
                    : "looked at only: the date of the test stays as it was",
                .. next.Because,
            ],
        };
}
