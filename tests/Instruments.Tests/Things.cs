using Osierwand.Core.Equipment;

namespace Osierwand.Instruments.Tests;

/// <summary>One sound item of every kind that a technician meets.</summary>
internal static class Things
{
    public static readonly Item Kettle = new()
    {
        Kind = ItemKind.Appliance,
        Heating = true,
        RatedPower = new(2200),
        RatedVoltage = new(230),
        PlugFuse = new(13),
        Cord = new(new(0.8), new(1.0)),
    };

    public static readonly Item Pc = Kettle with { Heating = false, Use = UseOf.It, RatedPower = new(300), PlugFuse = new(3) };
    public static readonly Item NoMetal = Pc with { Class = ProtectionClass.INoAccessibleMetal, Use = UseOf.Portable };
    public static readonly Item Drill = Kettle with
    {
        Heating = false,
        Class = ProtectionClass.II,
        Use = UseOf.Handheld,
        RatedPower = new(750),
    };
    public static readonly Item Lamp = Drill with { AllInsulated = true, Use = UseOf.Portable, RatedPower = new(20) };
    public static readonly Item Amplifier = Drill with { Class = ProtectionClass.IIFunctionalEarth };
    public static readonly Item Handlamp = new()
    {
        Kind = ItemKind.Appliance,
        Class = ProtectionClass.III,
        RatedPower = new(20),
        RatedVoltage = new(12),
    };
    public static readonly Item Undecided = Kettle with { Class = ProtectionClass.Undecided };
    public static readonly Item CordSet = new()
    {
        Kind = ItemKind.CordSet,
        Cord = new(new(2), new(1.0)),
        PlugFuse = new(10),
    };
    public static readonly Item Reel = new()
    {
        Kind = ItemKind.ExtensionLead,
        Outlets = 3,
        Cord = new(new(25), new(1.5)),
        PlugFuse = new(13),
    };

    public static readonly Item SixWay = new()
    {
        Kind = ItemKind.MultiwayAdapter,
        Outlets = 6,
        SurgeProtected = true,
        Cord = new(new(2), new(1.25)),
        PlugFuse = new(13),
    };

    public static readonly Item RcdAdaptor = new()
    {
        Kind = ItemKind.PortableRcd,
        Rcd = new(0.03),
        PlugFuse = new(13),
    };
    public static readonly Item Wired = Kettle with { Use = UseOf.Fixed, PlugFuse = null, Cord = new(Permanent: true) };
    public static readonly Item ThreePhase = Kettle with { Phases = 3, RatedVoltage = new(400), RatedPower = new(6000), PlugFuse = null };

    public static readonly Item Site = Kettle with
    {
        Heating = false,
        RatedVoltage = new(110),
        NominalMains = new(110),
        RatedPower = new(900),
        PlugFuse = null,
        Plug = PlugType.Industrial,
    };

    public static readonly Item Electronic = Pc with { MainsSwitch = MainsSwitch.Electronic };

    public static readonly Item Monitor = new()
    {
        Kind = ItemKind.MedicalDevice,
        RatedPower = new(60),
        RatedVoltage = new(230),
        Cord = new(new(2.5), new(1.0), Detachable: true),
        AppliedParts = [new("ECG", AppliedPartType.CF, 3), new("cuff", AppliedPartType.BF)],
    };

    public static IReadOnlyList<Item> All { get; } =
    [
        Kettle,
        Pc,
        NoMetal,
        Drill,
        Lamp,
        Amplifier,
        Handlamp,
        Undecided,
        CordSet,
        Reel,
        SixWay,
        RcdAdaptor,
        Wired,
        ThreePhase,
        Site,
        Electronic,
        Monitor,
    ];
}
