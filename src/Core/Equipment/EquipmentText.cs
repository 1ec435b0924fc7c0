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

    /// <param name="unplugs">Null where its lead was never described.</param>
    public static string Lead(bool isHardWired, bool? unplugs) =>
        isHardWired ? "hard-wired"
        : unplugs is not { } loose ? "lead not described"
        : loose ? "its lead unplugs"
        : "its lead is fixed";

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
