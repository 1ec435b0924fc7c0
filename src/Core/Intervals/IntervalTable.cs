using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Intervals;

/// <summary>One cell of the base table.</summary>
/// <param name="User">What its user does: "before use", "weekly", "none".</param>
public sealed record BaseInterval(string User, Period Visual, Period Combined);

/// <summary>One place of the base table, by use.</summary>
/// <param name="Name">As people say it: "kitchen, cleaning, laundry".</param>
public sealed record PlaceIntervals(
    string Name,
    BaseInterval Handheld,
    BaseInterval Portable,
    BaseInterval Movable,
    BaseInterval Stationary,
    BaseInterval It,
    BaseInterval Lead
);

/// <summary>The risk-based base intervals and the ladder on which they are shortened and lengthened; versioned data like the
/// packs.</summary>
/// <param name="LadderMonths">From a week to sixty months, ascending.</param>
/// <param name="UserEvery">Until the next look of its users, by its words; null where no date belongs to it.</param>
public sealed record IntervalTable(
    string Id,
    string Version,
    string Title,
    string Clause,
    string Remark,
    IReadOnlyList<Period> LadderMonths,
    IReadOnlyDictionary<string, Period?> UserEvery,
    IReadOnlyDictionary<Place, PlaceIntervals> Base
)
{
    /// <summary>As it ships. Hire and medical places have no row: they follow rules of their own.</summary>
    public static IntervalTable Shipped { get; } =
        JsonSerializer.Deserialize(Embedded.Text("intervals.json")!, JsonRules.File.Of<IntervalTable>())!;

    /// <summary>The row and column of the table for a place and an item. A fixed item takes the stationary column, portable RCDs the
    /// cords column.</summary>
    /// <exception cref="KeyNotFoundException">The place has no row.</exception>
    public (string PlaceName, BaseInterval Interval) For(Place place, UseOf use, ItemKind kind)
    {
        var row = Base[place];
        var isLead = kind is ItemKind.CordSet or ItemKind.ExtensionLead or ItemKind.MultiwayAdapter or ItemKind.PortableRcd;
        return (
            row.Name,
            use switch
            {
                _ when isLead => row.Lead,
                UseOf.Handheld => row.Handheld,
                UseOf.Portable => row.Portable,
                UseOf.Movable => row.Movable,
                UseOf.It => row.It,
                _ => row.Stationary,
            }
        );
    }

    /// <summary>So many steps up or down the ladder; it ends at a week and at sixty months. What lies between two rungs counts as the
    /// longer.</summary>
    public Period Step(Period interval, int steps)
    {
        var last = LadderMonths.Count - 1;
        var at = 0;
        while (at < last && LadderMonths[at] < interval)
            at++;
        return LadderMonths[Math.Clamp(at + steps, 0, last)];
    }

    /// <summary>The longest rung not above it; the shortest rung below it all.</summary>
    public Period RungUpTo(Period interval) => LadderMonths.LastOrDefault(rung => rung <= interval, LadderMonths[0]);
}
