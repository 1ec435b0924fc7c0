using System.Collections.Immutable;
using System.Globalization;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Rounds;

/// <summary>What is brought, and what for.</summary>
/// <param name="What">The thing: "Isolating adapter".</param>
/// <param name="For">How many, and of what: "3 RCDs".</param>
/// <param name="Test">Of an instrument: what it must measure; null of other things.</param>
public sealed record PackingLine(string What, string For, Test? Test = null);

/// <summary>Worked out from the run sheets of a round: nothing stands on it that no sheet asks for.</summary>
public static class PackingList
{
    private static readonly (Test Test, string What)[] Instruments =
    [
        (Test.EarthContinuity, "Instrument: earth continuity"),
        (Test.Insulation, "Instrument: insulation"),
        (Test.Leakage, "Instrument: leakage"),
        (Test.RcdTrip, "Instrument: RCD trip times"),
        (Test.DefibEnergy, "Instrument: defibrillator energy"),
        (Test.EcgAmplitude, "Instrument: ECG"),
    ];

    /// <param name="items">Each item of the round with the sheet it would be laid down with.</param>
    public static ImmutableArray<PackingLine> Of(IReadOnlyList<(Item Item, RunSheet Sheet)> items)
    {
        var lines = ImmutableArray.CreateBuilder<PackingLine>();
        foreach (var (test, what) in Instruments)
            Add(lines, what, items.Count(it => Measures(it.Sheet, test)), "item", "items", test);
        Things(lines, items);
        foreach (
            var fuse in items.Where(it => it.Item.PlugFuse is not null).GroupBy(it => it.Item.PlugFuse!.Value.Value).OrderBy(it => it.Key)
        )
            lines.Add(new($"Spare fuses {Number(fuse.Key)} A", $"{Spare(fuse.Count())}, for {fuse.Count()} fitted"));
        if (items.Count > 0)
            lines.Add(new("Labels", $"{items.Count} and {Spare(items.Count)} for fails"));
        return lines.ToImmutable();
    }

    private static void Things(ImmutableArray<PackingLine>.Builder lines, IReadOnlyList<(Item Item, RunSheet Sheet)> items)
    {
        int Count(Func<Item, bool> matches) => items.Count(it => matches(it.Item));
        Add(lines, "110 V transformer and adapter", items.Count(IsSiteVoltage), "tool", "tools");
        Add(lines, "Three-phase adapter", Count(it => it.Phases == 3), "item", "items");
        Add(
            lines,
            "Industrial plug adapter",
            items.Count(it => it.Item is { Plug: PlugType.Industrial, Phases: 1 } && !IsSiteVoltage(it)),
            "item",
            "items"
        );
        Add(lines, "Isolating adapter", items.Count(it => Measures(it.Sheet, Test.RcdTrip)), "RCD", "RCDs");
        var hardWired = items.Count(it => it.Sheet.Steps.Any(step => step is SheetStep.Prove));
        Add(lines, "Lock-off set, voltage indicator, proving unit", hardWired, "hard-wired item", "hard-wired items");
        Add(lines, "Adapters for the ends of leads", Count(it => it.IsCord), "lead", "leads");
        Add(lines, "Multiway outlets: a loop plug for each", Count(it => it.IsCord && it.Outlets > 1), "lead", "leads");
        Add(
            lines,
            "Foil or mesh",
            items.Count(it => it.Item is { Class: ProtectionClass.II, AllInsulated: true } && it.Sheet.IsMeasured),
            "class II case without metal",
            "class II cases without metal"
        );
        Add(lines, "Applied-part leads", items.Count(it => !it.Item.AppliedParts.IsEmpty), "medical device", "medical devices");
        Add(
            lines,
            "Screwdrivers for plugs",
            Count(it => it.Plug == PlugType.Rewirable && !it.IsHardWired),
            "rewirable plug",
            "rewirable plugs"
        );
        Add(lines, "Screwdrivers for covers", Count(it => it.IsHardWired), "cover", "covers");
        Add(
            lines,
            "Screwdrivers for fixings, a tray for them",
            items.Count(it => it.Sheet.Find(SheetStep.Confirm.Care) is SheetStep.Confirm care && care.Lines.Contains(Care.FixingsOut)),
            "item",
            "items"
        );
        Add(lines, "Cloths and a bowl", Count(it => it.Care.Contains(CareNeed.Water)), "item on water", "items on water");
        Add(lines, "Floor protection", Count(it => it.Care.Contains(CareNeed.Heavy)), "heavy item", "heavy items");
        Add(
            lines,
            "Meter or tester for the outlets",
            items.Count(it => it.Sheet.Steps.Any(step => step is SheetStep.Outlet)),
            "item to power",
            "items to power"
        );
    }

    /// <summary>Of building sites, 55-0-55: it has no outlet of its own on the street.</summary>
    private static bool IsSiteVoltage((Item Item, RunSheet Sheet) it) =>
        it.Sheet.Steps.OfType<SheetStep.Outlet>().Any(outlet => outlet.Supply.IsCentreEarthed);

    private static bool Measures(RunSheet sheet, Test test) =>
        sheet.Steps.Any(step => step is SheetStep.Measure { Plan: { NotMeasured: null } plan } && plan.Test == test);

    private static void Add(ImmutableArray<PackingLine>.Builder lines, string what, int count, string one, string many, Test? test = null)
    {
        if (count > 0)
            lines.Add(new(what, $"{count} {(count == 1 ? one : many)}", test));
    }

    /// <summary>One in ten turns out wrong, and nobody drives back for one.</summary>
    private static int Spare(int count) => Math.Max(2, (int)Math.Ceiling(count / 10.0));

    private static string Number(double amperes) => amperes.ToString("0.##", CultureInfo.InvariantCulture);
}
