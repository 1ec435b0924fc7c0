using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Intervals;

/// <summary>How often the people who use an item look at it: the first of the three tiers.</summary>
/// <param name="Words">"before use", "weekly", "push-button every 3 months", "none".</param>
/// <param name="Every">Null where no date belongs to it: none, before each use, at each issue.</param>
public sealed record UserRhythm(string Words, Period? Every)
{
    /// <summary>It is asked, by date or at every use.</summary>
    public bool IsAsked => Words != UserChecks.None;

    public bool IsWeekly => Every == Period.Week;

    /// <summary>For whoever stands before it; null where its users are asked nothing.</summary>
    public string? Sentence =>
        Words switch
        {
            UserChecks.None => null,
            UserChecks.BeforeUse => "Its users look it over before each use.",
            UserChecks.AtIssue => "It is looked over each time it is issued.",
            UserChecks.Weekly => "Its users look it over every week.",
            _ => $"Its users: {Words}.",
        };

    /// <param name="last">When it was last looked at, by whomever; null where nobody said so yet.</param>
    /// <returns>The last day on which the next look is in time; null where no date belongs to it.</returns>
    public DateOnly? Due(DateOnly? last, DateOnly today) =>
        Every is { } every
            ? last is { } day
                ? every.After(day)
                : today
            : null;

    /// <summary>The days on which it is to be looked at, if each is kept. What is over is to be looked at today.</summary>
    public IEnumerable<DateOnly> Days(DateOnly? last, DateOnly today, DateOnly until)
    {
        if (Every is not { } every || Due(last, today) is not { } due)
            yield break;
        for (var day = due < today ? today : due; day <= until; day = every.After(day))
            yield return day;
    }
}

/// <summary>What the users of an item are asked to look at, and how often (intervals, base by place and use; AS/NZS 3760 for the button
/// of a portable RCD). It depends on the item and its place alone: no history makes it longer or shorter.</summary>
public static class UserChecks
{
    /// <summary>The longest of all rhythms: what was last seen before it is over, whatever was asked.</summary>
    public static Period Longest { get; } = IntervalTable.Shipped.UserEvery.Values.OfType<Period>().Max();

    public const string None = "none";

    internal const string AtIssue = "each issue";
    internal const string BeforeUse = "before use";
    internal const string Weekly = "weekly";

    /// <param name="pack">The standard of its site; null where none was ever chosen there.</param>
    public static UserRhythm Of(Place place, UseOf use, ItemKind kind, RulePack? pack)
    {
        var isMedical = place == Place.Medical || pack?.Scope == PackScope.Medical;
        var words =
            isMedical ? BeforeUse
            : place == Place.Hire ? AtIssue
            : kind == ItemKind.PortableRcd && pack?.RcdIntervals is { } rcd ? rcd.For(place).UserCheck
            : IntervalTable.Shipped.For(place, use, kind).Interval.User;
        return new(words, IntervalTable.Shipped.UserEvery[words]);
    }
}
