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
