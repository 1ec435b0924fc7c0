using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>Items in the trade's words, for the Bench's left column and the item's page.</summary>
internal static class ItemText
{
    public static string Class(ProtectionClass it) => it switch
    {
        ProtectionClass.INoAccessibleMetal => "I, no accessible metal",
        ProtectionClass.IIFunctionalEarth => "II, functional earth",
        ProtectionClass.Undecided => "undecided: tested as I and II",
        ProtectionClass.Internal => "internally powered",
        _ => it.ToString(),
    };

    public static string Kind(ItemKind it) => it switch
    {
        ItemKind.CordSet => "cord set",
        ItemKind.ExtensionLead => "extension lead",
        ItemKind.MultiwayAdapter => "multiway adaptor",
        ItemKind.PortableRcd => "portable RCD",
        ItemKind.MedicalDevice => "medical device",
        ItemKind.MedicalSystem => "medical system",
        _ => "appliance",
    };

    public static IReadOnlyList<FactLine> Facts(RegisterItem item)
    {
        var it = item.Equipment;
        var lines = new List<FactLine>();
        void Add(string label, params string?[] parts)
        {
            var present = parts.Where(part => !string.IsNullOrEmpty(part)).ToArray();
            if (present.Length > 0) lines.Add(new(label, string.Join(", ", present)));
        }
        Add("Made by", item.Maker, item.Model);
        Add("Serial", item.Serial);
        Add("Plate", N(it.RatedVoltage?.Value, "V"), N(it.RatedPower?.Value, "W"), N(it.RatedCurrent?.Value, "A"), it.Heating ? "heating" : null);
        Add("Flex", it.IsHardWired ? "none, hard-wired" : null, N(it.Cord?.Length?.Value, "m"), N(it.Cord?.Conductor?.Value, "mm²"), it.Cord?.Detachable == true ? "detachable" : null);
        Add("Fuse", N(it.PlugFuse?.Value, "A"));
        Add("Outlets", it.IsLead && it.Kind != ItemKind.CordSet ? $"{it.Outlets}" : null);
        Add("RCD", N(it.Rcd?.Value * 1000, "mA"));
        Add("Parts", [.. it.AppliedParts.Select(part => $"{part.Name} {part.Type}")]);
        if (it.MainsSwitch == MainsSwitch.Electronic) Add("Switch", "electronic");
        if (it.SurgeProtected) Add("Note", "surge protected");
        return lines;
    }

    private static string? N(double? value, string unit) => value is { } number ? $"{QuantityText.Number(number, 4)} {unit}" : null;
}
