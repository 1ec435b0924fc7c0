using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Intervals;

/// <summary>An item of a group, as far as a decision about the group asks.</summary>
/// <param name="Due">Its test; null where it was never tested.</param>
/// <param name="DecidedBy">What gave it its interval at its last test; null where that is not known.</param>
public sealed record GroupedItem(Period Interval, DateOnly Tested, DateOnly? Due, DecidedBy? DecidedBy);

/// <summary>What may be decided about a group of items, and what that does to each.</summary>
public static class GroupRule
{
    /// <returns>Why intervals of such items follow from something else than their group, or null.</returns>
    public static string? NoGroup(ItemKind kind, Place place) =>
        kind is ItemKind.MedicalDevice or ItemKind.MedicalSystem || place == Place.Medical
            ? "Medical equipment goes by its maker and its risk, item by item."
        : place == Place.Hire ? "Hire goes by its issues."
        : null;

    /// <summary>Shorter may always be decided: a lead knows what no figure says. Longer only where the evidence carries it.</summary>
    /// <param name="step">On the ladder: -1, 0 or 1.</param>
    /// <returns>Why it is not decided, or null.</returns>
    public static string? Refusal(GroupEvidence evidence, Period now, int step) =>
        step != 0 && Then(now, step) == now ? "The ladder ends here."
        : step > 0 && evidence.Suggestion != Suggestion.Longer ? $"The evidence does not carry it: {evidence.Because[^1]}."
        : null;

    /// <summary>The interval of a group after a decision.</summary>
    public static Period Then(Period now, int step) => IntervalTable.Shipped.Step(now, step);

    /// <summary>A shorter interval counts at once, from the last test; a longer one is earned by the next. What a client, a maker or a
    /// person gave, or an event, stands until the next test: it was no step of this ladder.</summary>
    /// <returns>The interval and the date that it brings; null where nothing falls due earlier.</returns>
    public static (Period Interval, DateOnly Due)? Forward(GroupedItem item, int step)
    {
        var then = Then(item.Interval, step);
        var due = then.After(item.Tested);
        return item.DecidedBy is null or DecidedBy.Computed && then < item.Interval && due < item.Due ? (then, due) : null;
    }
}
