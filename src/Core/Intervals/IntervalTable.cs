using System.Collections.Frozen;
using System.Text.Json;
using Osierwand.Core.Equipment;

namespace Osierwand.Core.Intervals;

/// <summary>One cell of the base table, in months.</summary>
internal sealed record BaseInterval(string PlaceName, string UserCheck, double Visual, double Combined);

/// <summary>The risk-based base intervals and the ladder on which they are shortened and lengthened.</summary>
internal static class IntervalTable
{
    private static readonly Lazy<(double[] Ladder, FrozenDictionary<(string, string), BaseInterval> Cells)> Data = new(Load);

    /// <summary>The row and column of the table for a place and an item. A fixed item takes the stationary column, portable RCDs the
    /// cords column.</summary>
    public static BaseInterval For(Place place, UseOf use, ItemKind kind)
    {
        var column =
            kind is ItemKind.CordSet or ItemKind.ExtensionLead or ItemKind.MultiwayAdapter or ItemKind.PortableRcd ? "lead"
            : use == UseOf.Fixed ? Words.Of(UseOf.Stationary)
            : Words.Of(use);
        return Data.Value.Cells[(Words.Of(place), column)];
    }

    /// <summary>So many steps up or down the ladder; it ends at a week and at sixty months.</summary>
    public static double Step(double months, int steps)
    {
        var ladder = Data.Value.Ladder;
        var at = Array.FindIndex(ladder, rung => rung >= months);
        return ladder[Math.Clamp((at < 0 ? ladder.Length - 1 : at) + steps, 0, ladder.Length - 1)];
    }

    /// <summary>The longest rung not above so many months; the shortest rung below it all.</summary>
    public static double RungUpTo(double months) => Data.Value.Ladder.LastOrDefault(rung => rung <= months, Data.Value.Ladder[0]);

    private static (double[], FrozenDictionary<(string, string), BaseInterval>) Load()
    {
        using var document = JsonDocument.Parse(Embedded.Text("intervals.json")!);
        var cells = new Dictionary<(string, string), BaseInterval>();
        foreach (var place in document.RootElement.GetProperty("base").EnumerateObject())
        {
            var name = place.Value.GetProperty("name").GetString()!;
            foreach (var column in place.Value.EnumerateObject().Where(column => column.Value.ValueKind == JsonValueKind.Object))
            {
                cells[(place.Name, column.Name)] = new(
                    name,
                    column.Value.GetProperty("user").GetString()!,
                    column.Value.GetProperty("visual").GetDouble(),
                    column.Value.GetProperty("combined").GetDouble()
                );
            }
        }
        return (
            [.. document.RootElement.GetProperty("ladderMonths").EnumerateArray().Select(rung => rung.GetDouble())],
            cells.ToFrozenDictionary()
        );
    }
}
