using System.Collections.Immutable;
using System.Globalization;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Review;

/// <summary>What is known of a record beside itself.</summary>
/// <param name="Usual">Median bench time of its kind; null where nothing is known.</param>
/// <param name="Drift">What was said of the instrument since; null where nothing was.</param>
/// <param name="TakenBack">By whom and why; null where it stands.</param>
/// <param name="Beside">Other records of the round by the same tester.</param>
public sealed record ReviewBeside(TimeSpan? Usual, string? Drift, string? TakenBack, ImmutableArray<AtTheBench> Beside);

/// <summary>An item's time at the bench.</summary>
public sealed record AtTheBench(Guid Record, string Tag, DateTimeOffset From, DateTimeOffset To);

/// <summary>What a lead looks at in one record before signing the round that it belongs to.</summary>
public static class RecordReview
{
    /// <returns>The gravest first; empty where a record says nothing but that all was good.</returns>
    public static ImmutableArray<ReviewFinding> Of(InspectionRecord record, ReviewBeside beside, Thresholds rules) =>
        [.. Findings(record, beside, rules).OrderBy(it => it.Reason)];

    private static IEnumerable<ReviewFinding> Findings(InspectionRecord record, ReviewBeside beside, Thresholds rules)
    {
        if (beside.TakenBack is { } takenBack)
        {
            // It counts no more: what was in it is said by the record that took its place.
            yield return new(ReviewReason.TakenBack, takenBack);
            yield break;
        }
        if (record.Outcome == Outcome.Fail)
            yield return new(ReviewReason.Failed, string.Join("; ", record.Reasons));
        foreach (var failure in record.SetAside ?? [])
            yield return new(failure.IsExcused ? ReviewReason.TakenAgain : ReviewReason.FailureSetAside, failure.Text);
        foreach (var reading in record.Readings.Where(it => it.Override is not null && it.Void is null))
            yield return new(
                ReviewReason.Overridden,
                $"{reading.Name} {reading.Text}: {Words.Of(reading.Override!.Was)} by the comparison, {Words.Of(reading.Override.Is)} by "
                    + $"{reading.Override.By}. {reading.Override.Reason}"
            );
        foreach (var left in record.LeftOut ?? [])
            yield return new(ReviewReason.LeftOut, $"{left.Name} left out: {left.Reason}");
        var passed = record.Outcome is Outcome.Pass or Outcome.PassWithAdvice;
        foreach (var step in record.Steps.Where(it => passed && it.Standing is Standing.Undecided or Standing.NotMeasured))
            yield return new(
                ReviewReason.Undecided,
                $"{step.Name}: {(step.Standing == Standing.Undecided ? "undecided" : "not measured, the kit at hand could not")}"
            );
        if (beside.Drift is { } drift)
            yield return new(ReviewReason.Drifted, drift);
        if (record.Next?.Chosen is { } chosen && chosen.Months > chosen.ComputedMonths)
            yield return new(
                ReviewReason.LongerInterval,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{chosen.Months:0.##} months instead of {chosen.ComputedMonths:0.##}, by {chosen.By}: {chosen.Reason}"
                )
            );
        if (record.Evaluation is { Confirmed: { } confirmed } evaluation && confirmed != evaluation.Proposed)
            yield return new(
                ReviewReason.OtherEvaluation,
                $"{PhrasesOnOffer.Text(confirmed)}; the figures propose: {PhrasesOnOffer.Text(evaluation.Proposed)}"
            );
        if (record.NotTested is { } notTested)
            yield return new(ReviewReason.NotTested, notTested.Text);
        foreach (var near in record.Readings.Where(it => it is { NearLimit: true, Void: null }))
            yield return new(ReviewReason.NearLimit, $"{near.Name} {near.Text}{(near.Margin is { } margin ? $", {margin}" : "")}");
        foreach (var taken in LargeNulls(record, rules))
            yield return new(ReviewReason.LargeNull, $"{QuantityText.Show(taken)} of the test lead was taken off an earth reading");
        foreach (var odd in OddTimes(record, beside, rules))
            yield return new(ReviewReason.OddTime, odd);
        if (TypedWhileConnected(record) is > 0 and var typed)
            yield return new(
                ReviewReason.TypedWhileConnected,
                $"{typed} {(typed == 1 ? "value" : "values")} typed though {record.Instrument!.Name} was on its line"
            );
    }

    private static IEnumerable<Ohms> LargeNulls(InspectionRecord record, Thresholds rules) =>
        record
            .Taken.SelectMany(taken => taken.Readings)
            .OfType<Reading.EarthContinuity>()
            .Where(reading => reading.Void is null && Comparison.Above(reading.Null.Value, rules.NullTold.Value))
            .Select(reading => reading.Null)
            .Distinct();

    /// <summary>Compared with what is usual, with when it arrived, and with what else lay on the bench then.</summary>
    private static IEnumerable<string> OddTimes(InspectionRecord record, ReviewBeside beside, Thresholds rules)
    {
        var (from, to) = (record.Times.TakenFrom, record.Times.TakenTo);
        if (to - from is var took && took < TimeSpan.Zero)
            yield return "ended before it began, by the bench's clock";
        else if (record.Outcome != Outcome.NotTested && beside.Usual is { } usual && usual > TimeSpan.Zero)
        {
            if (took < usual * rules.ReviewQuick)
                yield return $"{Spoken(took)} at the bench, {Spoken(usual)} is usual";
            else if (took > usual * rules.ReviewSlow && took <= rules.BenchLongest)
                yield return $"{Spoken(took)} at the bench, {Spoken(usual)} is usual";
        }
        if (record.Times.ReceivedAt - to > rules.ReviewLate)
            yield return $"reached the server {(record.Times.ReceivedAt - to).TotalHours.ToString("0", CultureInfo.InvariantCulture)} h after "
                + "it was taken";
        foreach (var other in beside.Beside.Where(it => it.Record != record.Id))
        {
            var together = (to < other.To ? to : other.To) - (from > other.From ? from : other.From);
            if (together > rules.ReviewOverlap)
                yield return $"on the bench together with {other.Tag} for {Spoken(together)}";
        }
    }

    private static int TypedWhileConnected(InspectionRecord record) =>
        record.Instrument is { } kit
            ? record.Readings.Count(read => read is { Source: ReadingSource.Typed, Si: not null, Void: null } && IsOnItsLine(kit, read))
            : 0;

    private static bool IsOnItsLine(KitInHand kit, ReadingView read) =>
        (kit.All.FirstOrDefault(one => one.Id == read.With) ?? kit).Connected;

    /// <summary>"40 s", "12 min", "1 h 05".</summary>
    public static string Spoken(TimeSpan time) =>
        time < TimeSpan.FromMinutes(1) ? string.Create(CultureInfo.InvariantCulture, $"{time.TotalSeconds:0} s") : DayPlan.Minutes(time);
}
