namespace Osierwand.Core.Equipment;

/// <summary>Kinds and classes in the trade's words.</summary>
public static class EquipmentText
{
    public static string Class(ProtectionClass it) =>
        it switch
        {
            ProtectionClass.INoAccessibleMetal => "I, no accessible metal",
            ProtectionClass.IIFunctionalEarth => "II, functional earth",
            ProtectionClass.Undecided => "undecided: tested as I and II",
            ProtectionClass.Internal => "internally powered",
            _ => it.ToString(),
        };

    /// <summary>How a device is joined to its mains: "its lead unplugs, C13 coupler".</summary>
    /// <param name="unplugs">Null where its lead was never described.</param>
    /// <param name="inlet">Null where nobody looked.</param>
    public static string Lead(bool isHardWired, bool? unplugs, InletType? inlet = null) =>
        isHardWired ? "hard-wired"
        : unplugs is not { } loose ? "lead not described"
        : inlet is { } coupler ? $"its lead unplugs, {Coupler(coupler)}"
        : loose ? "its lead unplugs"
        : "its lead is fixed";

    /// <summary>"C13 coupler".</summary>
    public static string Coupler(InletType it) => it == InletType.Other ? "another coupler" : $"{Words.Of(it)} coupler";

    public static string Kind(ItemKind it) =>
        it switch
        {
            ItemKind.CordSet => "cord set",
            ItemKind.ExtensionLead => "extension lead",
            ItemKind.MultiwayAdapter => "multiway adaptor",
            ItemKind.PortableRcd => "portable RCD",
            ItemKind.MedicalDevice => "medical device",
            ItemKind.MedicalSystem => "medical system",
            _ => "appliance",
        };
}
