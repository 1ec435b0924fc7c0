using System.Globalization;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Bench;

/// <param name="Detail">Under which condition.</param>
/// <param name="Limit">In SI, as it stands today.</param>
/// <param name="Since">How it has moved since its reference, in a sentence; null where it has none.</param>
/// <param name="Set">Where a value is to lie within the limit of what was set: that; null else.</param>
public sealed record TrendCard(
    string Key,
    string Name,
    string Detail,
    RailScale? Rail,
    double? Limit,
    string? LimitText,
    bool IsFloor,
    IReadOnlyList<EarlierValue> Points,
    string? Advice,
    double? Set,
    string? Since
);

/// <summary>How an item's values move over the years, measurement by measurement.</summary>
public static class Trends
{
    public static IReadOnlyList<TrendCard> Of(Ruling ruling)
    {
        if (ruling.History.IsEmpty)
            return [];
        var state = BenchState.Of(ruling with { Scope = Scope.Combined }, []);
        var cards = SheetCards.Of(state).Steps.Where(card => card.Earlier.Count > 0);
        return [.. cards.Select(card => (card, trend: TrendOf(ruling, card.Key))).Select(it => Card(it.card, it.trend, state))];
    }

    private static TrendCard Card(StepCard card, Trend? trend, BenchState state) =>
        new(
            card.Key,
            card.Name,
            card.Detail,
            card.Rail,
            card.Limit?.Si,
            card.Limit?.Text,
            card.Limit?.IsFloor ?? false,
            card.Earlier,
            trend?.Advice,
            card.Limit?.Set,
            trend is null ? null : state.Ruling.Pack.Dialect.Say(Since(trend, card, UnitOf(card, state)))
        );

    /// <summary>"Reference 163 µA of 12 Mar 2024; 12 µA more since, 4 µA a year: at this rate at its limit about May 2041".</summary>
    private static string Since(Trend it, StepCard card, Unit? unit)
    {
        var beside = card.Limit?.Set is null ? "" : "off by ";
        string Show(double si) =>
            unit is null ? QuantityText.Show(it.Reference with { Si = si }) : QuantityText.ShowNear(it.Reference with { Si = si }, unit);
        var change = it.SinceReference.Si;
        // Less than a hundredth of the limit, or of what a floor is fallen from, is the instrument's own noise.
        if (Math.Abs(change) < Noise * (card.Limit is { IsFloor: false, Si: { } limit } ? limit : it.Reference.Si))
            return string.Create(
                CultureInfo.InvariantCulture,
                $"Reference {beside}{Show(it.Reference.Si)} of {it.ReferenceOn:d MMM yyyy}; much the same since"
            );
        var moved = $"{Show(Rough(change))} {(change > 0 ? "more" : "less")} since";
        var yearly = it.PerYear is { } slope && slope * change > 0 ? $", {Show(Rough(slope))} a year" : "";
        var crossing = it.Crosses is { } on
            ? string.Create(CultureInfo.InvariantCulture, $": at this rate at its limit about {on:MMM yyyy}")
            : "";
        return string.Create(
            CultureInfo.InvariantCulture,
            $"Reference {beside}{Show(it.Reference.Si)} of {it.ReferenceOn:d MMM yyyy}; {moved}{yearly}{crossing}"
        );
    }

    private const double Noise = 0.01;

    /// <summary>Two figures of how much: more would be made up. 0.00335 becomes 0.0034.</summary>
    private static double Rough(double si)
    {
        if (si == 0)
            return 0;
        var step = Math.Pow(10, Math.Floor(Math.Log10(Math.Abs(si))) - 1);
        return Math.Round(Math.Abs(si) / step) * step;
    }

    /// <summary>As the figures beside it are written.</summary>
    private static Unit? UnitOf(StepCard card, BenchState state) =>
        state.Sheet.Find(card.Key) is SheetStep.Measure measure ? ReadingOf.UsualUnit(measure.Plan, state.Ruling.Pack) : null;

    /// <returns>Of what was measured last; null where it was not measured then, or moves nowhere.</returns>
    internal static Trend? TrendOf(Ruling ruling, string key)
    {
        var newest = ruling.History[^1];
        var facts = new InspectionFacts
        {
            Pack = ruling.Pack,
            Item = ruling.Item.Equipment,
            History = ruling.History[..^1],
            References = ruling.References,
            TestDate = ruling.Today,
            DueDate = ruling.Basis.Due,
            Interval = ruling.Basis.Interval,
        };
        var last = newest.Readings.LastOrDefault(reading => reading.Void is null && StepKey.Of(reading.Under) == key);
        return last is null ? null : Trend.For(facts, Judge.Of(ruling.Pack, ruling.Item.Equipment, last), newest.Date);
    }
}
