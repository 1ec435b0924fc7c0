using Osierwand.Core.Judging;
using Osierwand.Core.Planning;

namespace Osierwand.Core.Bench;

/// <param name="Detail">Under which condition.</param>
/// <param name="Limit">In SI, as it stands today.</param>
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
    double? Set
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
        return
        [
            .. cards.Select(card => new TrendCard(
                card.Key,
                card.Name,
                card.Detail,
                card.Rail,
                card.Limit?.Si,
                card.Limit?.Text,
                card.Limit?.IsFloor ?? false,
                card.Earlier,
                Advice(ruling, card.Key),
                card.Limit?.Set
            )),
        ];
    }

    private static string? Advice(Ruling ruling, string key)
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
        return last is null ? null : Trend.For(facts, Judge.Of(ruling.Pack, ruling.Item.Equipment, last), newest.Date)?.Advice;
    }
}
