using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Bench;

/// <summary>When an item was last tested and looked at, and why its dates are what they are.</summary>
public sealed record LastSeen(DateOnly? Tested, DateOnly? Looked, IReadOnlyList<string> Because);

/// <summary>The dates of an item that was moved.</summary>
/// <param name="Due">Null where it was never tested.</param>
public sealed record MovedDates(DateOnly? Due, DateOnly? VisualDue, double? Months, IReadOnlyList<string> Because);

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
    /// <param name="ruling">With the item and the place as they are now; null where no standard was ever chosen at its site, so that
    /// nothing is known to reckon with.</param>
    /// <param name="knocked">The day on which it was reported; null where nothing happened to it.</param>
    public static MovedDates AfterMove(Ruling? ruling, IntervalBasis basis, LastSeen seen, DateOnly? knocked)
    {
        var reckoned = ruling is null ? null : Reckoned(ruling, seen);
        DateOnly? Earliest(DateOnly? standing, DateOnly? byPlace) => new[] { standing, byPlace, knocked }.Where(it => it is not null).Min();
        return new(
            // Never tested it stays due for its first test; what is only looked at is carried by its look.
            basis.Due
                is null
                ? null
                : Earliest(basis.Due, reckoned?.Due),
            Earliest(basis.VisualDue, reckoned?.VisualDue),
            basis.Due is null || reckoned is null ? basis.Months : Math.Min(reckoned.Months, basis.Months ?? reckoned.Months),
            [
                .. reckoned is null ? seen.Because : [.. reckoned.Because],
                .. knocked is null ? (string[])[] : ["knocked, dropped or wet: due at once"],
                .. knocked is null && reckoned?.Months > basis.Months
                    ? (string[])["it may wait longer here, and that counts from its next test"]
                    : [],
            ]
        );
    }

    /// <summary>Its facts were corrected. What they make shorter counts at once; what they make longer is earned by the next test, and a
    /// date that somebody chose stays where the facts do not speak against it.</summary>
    /// <param name="was">As it was known until now; null where no standard was ever chosen at its site.</param>
    public static MovedDates AfterCorrection(Ruling? was, Ruling? now, IntervalBasis basis, LastSeen seen)
    {
        var stays = new MovedDates(basis.Due, basis.VisualDue, basis.Months, seen.Because);
        if (was is null || now is null)
            return stays;
        var (before, after) = (Reckoned(was, seen), Reckoned(now, seen));
        var (isDue, isLook) = (after.Due < before.Due, after.VisualDue < before.VisualDue);
        if (!isDue && !isLook)
            return stays;
        var sooner = AfterMove(now, basis, seen, knocked: null);
        return sooner with
        {
            Due = isDue ? sooner.Due : basis.Due,
            VisualDue = isLook ? sooner.VisualDue : basis.VisualDue,
            Months = isDue ? sooner.Months : basis.Months,
        };
    }

    private sealed record ByPlace(DateOnly Due, DateOnly VisualDue, double Months, ImmutableArray<string> Because);

    private static ByPlace Reckoned(Ruling ruling, LastSeen seen)
    {
        var from = seen.Tested ?? seen.Looked ?? ruling.Today;
        var next = IntervalRule.Of(Facts(ruling, from, ruling.Basis.Past));
        if (next.Performance is { } performance && !(next.Combined <= performance))
            next = WithPerformance(next, performance, from);
        var looked = seen.Looked is { } day && day > from ? day : from;
        return new(next.Due, next.Visual.After(looked), next.Combined?.Months ?? next.Visual.Months, next.Because);
    }

    private static NextCard Worked(BenchState state, DateOnly? today, bool hasMeasured)
    {
        var (basis, day) = (state.Ruling.Basis, today ?? state.Ruling.Today);
        var (next, isTest) = Computed(state, day, hasMeasured);
        var said = IntervalChoice.Standing(state, next, isTest);
        var computed = IntervalChoice.Carried(next, isTest);
        if (said is not null)
            next = IntervalChoice.Over(next, said, isTest, day);
        if (state.Ruling.Item.Equipment.Defibrillator is not null && hasMeasured && !Performance.IsMeasured(state))
            next = StillDue(next, basis.Due, day);
        var card = isTest ? Card(next) : LookOnly(next, basis);
        return said is null ? card : card with { Chosen = new(said.Months.Months, computed.Months, said.By, said.Reason) };
    }

    /// <summary>By the rules alone, before anybody chose otherwise.</summary>
    /// <returns>Null while the sheet cannot pass. Whether it counts as the item's test, or as a look at it.</returns>
    internal static (Interval Interval, bool IsTest)? Computed(BenchState state) =>
        state.Outcome is Outcome.Pass or Outcome.PassWithAdvice ? Computed(state, state.Ruling.Today, state.Sheet.IsMeasured) : null;

    private static (Interval Interval, bool IsTest) Computed(BenchState state, DateOnly day, bool hasMeasured)
    {
        var (ruling, basis) = (state.Ruling, state.Ruling.Basis);
        var test = new PastTest(day, Verdict.Pass, IsNear(state), IsRising(state), state.Assessment.IsClean);
        var facts = Facts(ruling, day, hasMeasured ? [.. basis.Past, test] : basis.Past);
        var next = IntervalRule.Of(facts);
        if (next.Performance is { } performance && !(next.Combined <= performance))
            next = WithPerformance(next, performance, day);
        return (next, hasMeasured || (!state.Sheet.IsMeasured && (facts.LooksOnly || ruling.Scope == Planning.Scope.NewItem)));
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
            Group = basis.Group,
            Moved = basis.Moved,
            Users = basis.Users,
            ClassII = ruling.Policy.ClassII,
            Cap = basis.CapMonths is { } months ? new Period(months) : null,
            TestDate = day,
            AppliedPart = item.AppliedParts.Select(part => (AppliedPartType?)part.Type).Max(),
            PatientContact = !item.AppliedParts.IsEmpty,
            LifeSupporting = item.IsLifeSupporting,
            EmergencyTransport = item.GoesWithPatients,
            OverLife = item.IsOverLife(day),
            Defibrillator = item.Defibrillator is not null,
            Maker = item.Maker?.IntervalMonths is { } asked ? new Period(asked) : null,
            History = past,
            InForce = basis.Interval,
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

    /// <summary>Safe, and its performance not measured: that was due when it was due, and a safety test moves nothing of it.</summary>
    private static Interval StillDue(Interval next, DateOnly? due, DateOnly day)
    {
        var stays =
            due is { } known && known < next.Due ? known
            : day < next.Due ? day
            : next.Due;
        return next with
        {
            Due = stays,
            Because =
            [
                .. next.Because,
                due is null ? "its performance was never measured: due now" : "its performance was not measured: it stays due for that",
            ],
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
