using System.Globalization;
using Osierwand.Core.Judging;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>A value that moves towards its limit, and when it would reach it if it went on as it has.</summary>
/// <param name="On">By the median of all slopes between its readings.</param>
/// <param name="Name">Of the measurement; with its place where it has one.</param>
/// <param name="Now">As it was read last.</param>
/// <param name="Limit">In SI.</param>
/// <param name="Points">Oldest first, the newest among them.</param>
public sealed record Crossing(
    DateOnly On,
    string Name,
    string Detail,
    string Now,
    double Limit,
    string LimitText,
    bool IsFloor,
    IReadOnlyList<EarlierValue> Points
)
{
    /// <summary>When it had better come back: before the limit by the window in which rounds are planned, and not before today.</summary>
    public DateOnly ComeBackBy(DateOnly today, int window) => On.AddDays(-window) is var day && day > today ? day : today;

    /// <summary>"at its limit about 30 Oct 2027; tested next by 31 Oct 2027".</summary>
    public string Says(DateOnly today, DateOnly due)
    {
        var when = On < today ? $"perhaps beyond its limit since about {Day(On)}" : $"at its limit about {Day(On)}";
        return $"{when}; {(due < today ? "its test was due on" : "tested next by")} {Day(due)}";
    }

    /// <summary>Of all that is kept of an item, as it is known now: a corrected fact is another limit.</summary>
    /// <returns>Null where nothing moves towards its limit.</returns>
    public static Crossing? OfPast(Ruling ruling)
    {
        if (ruling.History.LastOrDefault(it => !it.Readings.IsEmpty) is not { } newest)
            return null;
        var measured = ruling with { History = ruling.History[..(ruling.History.LastIndexOf(newest) + 1)] };
        var state = BenchState.Of(measured with { Scope = Planning.Scope.Combined }, []);
        return SheetCards
            .Of(state)
            .Steps.Where(card => card is { Earlier.Count: > 0, Limit: { Si: not null, Set: null } })
            .Select(card => (Card: card, On: Trends.TrendOf(measured, card.Key)?.Crosses))
            .Where(it => it.On is not null)
            .OrderBy(it => it.On)
            .Select(it => new Crossing(
                it.On!.Value,
                it.Card.Name,
                it.Card.Detail,
                it.Card.Earlier[^1].Text,
                it.Card.Limit!.Si!.Value,
                it.Card.Limit.Text,
                it.Card.Limit.IsFloor,
                it.Card.Earlier
            ))
            .FirstOrDefault();
    }

    private static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>Of all that was measured on a sheet the one that reaches its limit first.</summary>
    /// <returns>Null where nothing moves towards its limit, or not within the years that are foreseen.</returns>
    public static Crossing? Of(BenchState state, DateOnly today)
    {
        var found = state
            .Readings.Where(it => it is { Void: null, Judgement: { Status: Status.Pass, Limit.Comparator: not Comparator.Within } })
            .Select(it => (Taken: it, Trend.For(state.Facts, it.Judgement!, today)?.Crosses))
            .Where(it => it.Crosses is not null)
            .OrderBy(it => it.Crosses)
            .FirstOrDefault();
        if (found is not ({ } taken, { } on))
            return null;
        var card = SheetCards.Of(state).Steps.FirstOrDefault(it => it.Key == taken.StepKey);
        var view = StateCards.Of(state).Readings.FirstOrDefault(it => it.Id == taken.Event.Id);
        if (card?.Limit is not { Si: { } limit } post || view?.Si is not { } si)
            return null;
        return new(
            on,
            taken.Event.Point is { } point ? $"{card.Name}, {point}" : card.Name,
            card.Detail,
            view.Text,
            limit,
            post.Text,
            post.IsFloor,
            [.. card.Earlier, new(today, si, view.Text, view.IsBound, false)]
        );
    }
}
