using System.Collections.Immutable;
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

    /// <summary>The item was found at another place: its months by what the place asks, counted from its last test and look. Knocked,
    /// dropped or wet: due on the day it was reported. A date only ever comes earlier by it: a longer interval is earned by the next
    /// test.</summary>
    /// <param name="ruling">With the item and the place as they are now.</param>
    /// <param name="tested">Last tested on; null where it never was: then it stays due for its first test.</param>
    /// <param name="looked">Last looked at on.</param>
    public static NextCard AfterMove(Ruling ruling, DateOnly? tested, DateOnly? looked, bool wasKnocked)
    {
        var of = Facts(ruling, tested ?? ruling.Today, ruling.Basis.Past);
        var next = IntervalRule.Of(of);
        if (next.Performance is { } performance && !(next.Combined <= performance))
            next = WithPerformance(next, performance, of.TestDate);
        var visualFrom = looked is { } day && (tested is null || day > tested) ? day : of.TestDate;
        var basis = ruling.Basis;
        var months = next.Combined?.Months ?? next.Visual.Months;
        var isLonger = !wasKnocked && (basis.Months is { } before && months > before);
        return Card(next) with
        {
            // Never tested it stays due for its first test.
            Due = tested is null ? basis.Due : Earlier(basis.Due, wasKnocked ? ruling.Today : next.Due),
            VisualDue = Earlier(basis.VisualDue, wasKnocked ? ruling.Today : next.Visual.After(visualFrom)),
            Months = tested is null ? basis.Months : Math.Min(months, basis.Months ?? months),
            DecidedBy = wasKnocked ? DecidedBy.Event : next.DecidedBy,
            Because =
            [
                .. next.Because,
                .. wasKnocked ? (string[])["knocked, dropped or wet: due at once"] : [],
                .. isLonger ? (string[])["it may wait longer here, and that counts from its next test"] : [],
            ],
        };
    }

    private static DateOnly Earlier(DateOnly? standing, DateOnly reckoned) => standing is { } date && date < reckoned ? date : reckoned;

    private static NextCard Worked(BenchState state, DateOnly? today, bool hasMeasured)
    {
        var (ruling, basis) = (state.Ruling, state.Ruling.Basis);
        var day = today ?? ruling.Today;
        var test = new PastTest(day, Verdict.Pass, IsNear(state), IsRising(state));
        var facts = Facts(ruling, day, hasMeasured ? [.. basis.Past, test] : basis.Past);
        var next = IntervalRule.Of(facts);
        if (next.Performance is { } performance && !(next.Combined <= performance))
            next = WithPerformance(next, performance, day);
        var isTest = hasMeasured || (!state.Sheet.IsMeasured && (facts.LooksOnly || ruling.Scope == Planning.Scope.NewItem));
        return isTest ? Card(next) : LookOnly(next, basis);
    }

    private static IntervalFacts Facts(Ruling ruling, DateOnly day, ImmutableArray<PastTest> past)
    {
        var (item, basis) = (ruling.Item.Equipment, ruling.Basis);
        return new()
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
            History = past,
        };
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
