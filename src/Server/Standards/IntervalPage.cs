using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;

namespace Osierwand.Server.Standards;

/// <summary>The base table of intervals as a page among the rules: read-only, with its clause.</summary>
internal static class IntervalPage
{
    private static readonly IntervalTable Table = IntervalTable.Shipped;

    public static StandardCard Card() =>
        new(Table.Id, Table.Title, Table.Title, "All standards", null, Table.Version, null, null, Table.Base.Count * Columns.Length, 0);

    public static StandardPage Page() =>
        new(
            Card(),
            1,
            $"{Table.Remark} Each row: formal visual / combined inspection and test. The ladder: {string.Join(", ", Table.LadderMonths)}.",
            [.. Table.Base.Select(place => new LimitGroup(null, Capital(place.Value.Name), [.. Columns.Select(use => Row(place, use))]))],
            [],
            [],
            null,
            null,
            [],
            MayEdit: false
        );

    private static readonly (string What, UseOf Use, ItemKind Kind)[] Columns =
    [
        ("Hand-held", UseOf.Handheld, ItemKind.Appliance),
        ("Portable", UseOf.Portable, ItemKind.Appliance),
        ("Movable", UseOf.Movable, ItemKind.Appliance),
        ("Stationary, fixed", UseOf.Stationary, ItemKind.Appliance),
        ("IT equipment", UseOf.It, ItemKind.Appliance),
        ("Cords, leads, portable RCDs", UseOf.Portable, ItemKind.CordSet),
    ];

    private static LimitRow Row(KeyValuePair<Place, PlaceIntervals> place, (string What, UseOf Use, ItemKind Kind) column)
    {
        var (_, interval) = Table.For(place.Key, column.Use, column.Kind);
        var text = $"{interval.Visual} / {interval.Combined}";
        return new($"{place.Key}-{column.What}", column.What, text, Table.Clause, $"User check: {interval.User}", [], null);
    }

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
