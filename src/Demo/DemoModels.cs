using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Quantities;

namespace Osierwand.Demo;

/// <summary>The kinds of things that stand at the demo's sites, each with its plate.</summary>
internal static partial class DemoCatalogue
{
    private static Item One(double watts, UseOf use, double metres, double mm2, double fuse, bool heating = false) =>
        new()
        {
            Kind = ItemKind.Appliance,
            Class = ProtectionClass.I,
            Use = use,
            Heating = heating,
            RatedPower = new(watts),
            RatedVoltage = new(230),
            PlugFuse = new(fuse),
            Cord = new(new(metres), new(mm2)),
        };

    private static Item Two(double watts, UseOf use, double metres, double mm2, double fuse, bool insulated = false) =>
        One(watts, use, metres, mm2, fuse) with
        {
            Class = ProtectionClass.II,
            AllInsulated = insulated,
        };

    private static Item Lead(ItemKind kind, double metres, double mm2, int outlets, double? fuse = 13) =>
        new()
        {
            Kind = kind,
            Class = ProtectionClass.I,
            Use = UseOf.Portable,
            Outlets = outlets,
            PlugFuse = fuse is { } amperes ? new Amperes(amperes) : null,
            Cord = new(new(metres), new(mm2)),
        };

    private static Item Site110(double watts, UseOf use, double metres, double mm2) =>
        One(watts, use, metres, mm2, 1) with
        {
            PlugFuse = null,
            Plug = PlugType.Industrial,
            RatedVoltage = new(110),
            NominalMains = new(110),
        };

    private static Item Medical(ProtectionClass itemClass, double watts, UseOf use, MainsSwitch mains, params AppliedPart[] parts) =>
        new()
        {
            Kind = ItemKind.MedicalDevice,
            Class = itemClass,
            Use = use,
            RatedPower = new(watts),
            RatedVoltage = new(230),
            Cord = new(new(2.5), new(1.0), Detachable: true, Inlet: itemClass is ProtectionClass.II ? InletType.C7 : InletType.C13),
            MainsSwitch = mains,
            AppliedParts = [.. parts],
            NoAppliedParts = parts.Length == 0,
        };

    private static Item Medical120(ProtectionClass itemClass, double watts, params AppliedPart[] parts) =>
        Medical(itemClass, watts, UseOf.Movable, MainsSwitch.Electronic, parts) with
        {
            RatedVoltage = new(120),
            // At 120 V the same watts draw twice the current: what heats water has the thicker cord.
            Cord = new(new(2.5), new(watts > 1000 ? 1.5 : 1.0), Detachable: true, Inlet: watts > 1000 ? InletType.C19 : InletType.C13),
        };

    private const ClassEvidence Earth = ClassEvidence.EarthSymbolOrPinMetalReachable;
    private const ClassEvidence Square = ClassEvidence.SquareWithinSquare;
    private static readonly DemoModel Kettle = new(
        "Kettle",
        "Bramblewick",
        "K17",
        Earth,
        One(2200, UseOf.Portable, 0.8, 1.0, 13, true),
        Usage.Constant
    );
    private static readonly DemoModel UrnSmall = new(
        "Water boiler",
        "Bramblewick",
        "WB5",
        Earth,
        One(1800, UseOf.Movable, 1.5, 1.0, 13, true)
    );
    private static readonly DemoModel UrnLarge = new(
        "Mulled-wine urn",
        "Bramblewick",
        "WB20",
        Earth,
        One(2750, UseOf.Movable, 1.8, 1.25, 13, true),
        Usage.Rare,
        Moved.Never
    );
    private static readonly DemoModel TeaUrn = new("Tea urn", "Bramblewick", "TU24", Earth, One(2400, UseOf.Portable, 2, 1.25, 13, true));
    private static readonly DemoModel Toaster = new(
        "Toaster, four slots",
        "Hob & Ember",
        "T4",
        Earth,
        One(1900, UseOf.Portable, 1, 1.0, 13, true)
    );
    private static readonly DemoModel CoffeeMachine = new(
        "Coffee machine",
        "Fenwright",
        "Duo",
        Earth,
        One(2800, UseOf.Stationary, 1.8, 1.5, 13, true) with
        {
            Care = [CareNeed.Water],
        },
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel Till = new(
        "Till",
        "Abacus Lane",
        "R2",
        Square,
        Two(60, UseOf.It, 1.8, 0.75, 3, true),
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel CardReader = new(
        "Card reader supply",
        "Abacus Lane",
        "P1",
        Square,
        Two(10, UseOf.It, 1.5, 0.5, 3, true),
        Usage.Constant
    );
    private static readonly DemoModel Radio = new("Radio", "Thrushfield", "Air 3", Square, Two(25, UseOf.Portable, 1.5, 0.5, 3, true));
    private static readonly DemoModel SoupKettle = new(
        "Soup kettle",
        "Hob & Ember",
        "SK10",
        Earth,
        One(450, UseOf.Portable, 1.2, 0.75, 3, true)
    );
    private static readonly DemoModel CordSet = new("Mains lead", "Wick & Ferrule", "C13", Earth, Lead(ItemKind.CordSet, 2, 0.75, 1, 5));
    private static readonly DemoModel Microwave = new(
        "Microwave oven",
        "Hob & Ember",
        "M900",
        Earth,
        One(1400, UseOf.Stationary, 1.2, 1.0, 13)
    );
    private static readonly DemoModel DisplayFridge = new(
        "Display fridge",
        "Coldharbour",
        "D120",
        Earth,
        One(320, UseOf.Stationary, 2, 0.75, 3),
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel Blender = new("Blender", "Fenwright", "B2", Square, Two(800, UseOf.Portable, 1.2, 0.75, 13));
    private static readonly DemoModel WarmingPlate = new(
        "Warming plate",
        "Hob & Ember",
        "WP2",
        Earth,
        One(600, UseOf.Portable, 1.5, 0.75, 3, true)
    );
    private static readonly DemoModel ExtensionShort = new(
        "Extension lead, 4 way",
        "Wick & Ferrule",
        "E4",
        Earth,
        Lead(ItemKind.ExtensionLead, 3, 1.25, 4)
    );
    private static readonly DemoModel Surge = new(
        "Surge-protected adaptor",
        "Wick & Ferrule",
        "S6",
        Earth,
        Lead(ItemKind.MultiwayAdapter, 2, 1.25, 6) with
        {
            SurgeProtected = true,
        }
    );
    private static readonly DemoModel Mixer = new("Planetary mixer", "Fenwright", "PM7", Earth, One(650, UseOf.Stationary, 1.8, 0.75, 3));
    private static readonly DemoModel Fryer = new(
        "Fryer",
        "Hob & Ember",
        "F8",
        Earth,
        One(3000, UseOf.Stationary, 1.5, 1.5, 13, true),
        Usage.Constant
    );
    private static readonly DemoModel Fridge = new(
        "Fridge",
        "Coldharbour",
        "L90",
        Earth,
        One(140, UseOf.Stationary, 2, 0.75, 3),
        Usage.Normal,
        Moved.Never
    );
    private static readonly DemoModel Dishwasher = new(
        "Dishwasher",
        "Coldharbour",
        "W14",
        Earth,
        One(2600, UseOf.Stationary, 1.8, 1.5, 13, true) with
        {
            Access = AccessLevel.RemovableFixings,
            Care = [CareNeed.Water, CareNeed.Heavy],
        },
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel Hob = new("Induction hob", "Fenwright", "I1", Earth, One(2000, UseOf.Portable, 1.5, 1.0, 13));
    private static readonly DemoModel Slicer = new("Meat slicer", "Fenwright", "SL2", Earth, One(240, UseOf.Portable, 1.6, 0.75, 3));
    private static readonly DemoModel StickBlender = new(
        "Stick blender",
        "Fenwright",
        "SB1",
        Square,
        Two(500, UseOf.Handheld, 1.8, 0.75, 3, true)
    );
    private static readonly DemoModel HandDryer = new(
        "Hand dryer",
        "Gale & Hythe",
        "HD1",
        Earth,
        One(1600, UseOf.Fixed, 1, 1.5, 13, true) with
        {
            PlugFuse = null,
            Cord = new(Permanent: true),
        },
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel FlyLamp = new(
        "Fly lamp",
        "Gale & Hythe",
        "FL2",
        Square,
        Two(30, UseOf.Stationary, 1.5, 0.5, 3),
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel FloorLamp = new("Floor lamp", "Lantern Row", "Tall", Square, Two(12, UseOf.Movable, 1.8, 0.5, 3));
    private static readonly DemoModel DeskLamp = new(
        "Desk lamp",
        "Lantern Row",
        "Short",
        Square,
        Two(8, UseOf.Portable, 1.5, 0.5, 3, true)
    );
    private static readonly DemoModel Fan = new("Desk fan", "Gale & Hythe", "F12", Square, Two(45, UseOf.Portable, 1.6, 0.5, 3, true));
    private static readonly DemoModel Vacuum = new(
        "Vacuum cleaner",
        "Gale & Hythe",
        "V800",
        Square,
        Two(800, UseOf.Movable, 9, 0.75, 13),
        Usage.Constant,
        Moved.Daily
    );
    private static readonly DemoModel VacuumIndustrial = new(
        "Wet vacuum",
        "Gale & Hythe",
        "V1400",
        Earth,
        One(1400, UseOf.Movable, 7.5, 1.0, 13),
        Usage.Normal,
        Moved.Daily
    );
    private static readonly DemoModel Grinder = new("Angle grinder", "Ironquill", "AG115", Square, Two(900, UseOf.Handheld, 2.5, 1.0, 13));
    private static readonly DemoModel Drill = new("Drill", "Ironquill", "D13", Square, Two(750, UseOf.Handheld, 3, 1.0, 13));
    private static readonly DemoModel BenchGrinder = new(
        "Bench grinder",
        "Ironquill",
        "BG200",
        Earth,
        One(520, UseOf.Stationary, 2, 1.0, 3)
    );
    private static readonly DemoModel Welder = new(
        "Inverter welder",
        "Ironquill",
        "W160",
        Earth,
        One(2900, UseOf.Movable, 3, 1.5, 13) with
        {
            MainsSwitch = MainsSwitch.Electronic,
        }
    );
    private static readonly DemoModel PillarDrill = new("Pillar drill", "Ironquill", "PD16", Earth, One(550, UseOf.Stationary, 2, 1.0, 3));
    private static readonly DemoModel LeadLamp = new("Lead lamp", "Lantern Row", "LL5", Square, Two(10, UseOf.Handheld, 5, 1.0, 3, true));
    private static readonly DemoModel Reel25 = new(
        "Cable reel 25 m",
        "Wick & Ferrule",
        "R25",
        Earth,
        Lead(ItemKind.ExtensionLead, 25, 1.5, 3),
        Usage.Normal,
        Moved.Daily
    );
    private static readonly DemoModel HeatGun = new("Heat gun", "Ironquill", "HG20", Square, Two(2000, UseOf.Handheld, 2.5, 1.0, 13));
    private static readonly DemoModel Charger = new(
        "Battery charger",
        "Ironquill",
        "BC18",
        Square,
        Two(90, UseOf.Portable, 1.8, 0.75, 3, true)
    );
    private static readonly DemoModel Rcd30 = new(
        "RCD plug-in adaptor",
        "Wick & Ferrule",
        "RA30",
        Earth,
        new()
        {
            Kind = ItemKind.PortableRcd,
            Use = UseOf.Portable,
            Rcd = new(0.03),
        }
    );
    private static readonly DemoModel Compressor = new("Compressor", "Gale & Hythe", "C24", Earth, One(1500, UseOf.Movable, 2.5, 1.5, 13));
    private static readonly DemoModel Sander = new("Orbital sander", "Ironquill", "OS3", Square, Two(300, UseOf.Handheld, 3, 0.75, 3));
    private static readonly DemoModel Saw = new("Circular saw", "Ironquill", "CS190", Square, Two(1400, UseOf.Handheld, 3, 1.0, 13));
    private static readonly DemoModel FloorSander = new("Floor sander", "Ironquill", "FS8", Earth, One(1800, UseOf.Movable, 6, 1.5, 13));
    private static readonly DemoModel Pc = new(
        "Desktop computer",
        "Abacus Lane",
        "D7",
        Earth,
        One(250, UseOf.It, 1.8, 1.0, 3),
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel Monitor = new(
        "Monitor",
        "Abacus Lane",
        "S24",
        Earth,
        One(40, UseOf.It, 1.8, 0.75, 3),
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel Printer = new(
        "Printer",
        "Abacus Lane",
        "L2",
        Earth,
        One(480, UseOf.It, 1.8, 0.75, 3),
        Usage.Normal,
        Moved.Never
    );
    private static readonly DemoModel PhoneCharger = new(
        "Phone charger",
        "Thrushfield",
        "U20",
        Square,
        Two(20, UseOf.Handheld, 1, 0.5, 3, true)
    );
    private static readonly DemoModel Steriliser = new(
        "Steriliser",
        "Fenwright",
        "ST12",
        Earth,
        One(1500, UseOf.Stationary, 2, 1.0, 13, true)
    );
    private static readonly DemoModel Iron = new(
        "Steam iron",
        "Hob & Ember",
        "IR2",
        Earth,
        One(2400, UseOf.Handheld, 2, 1.25, 13, true),
        Usage.Constant
    );
    private static readonly DemoModel Dryer = new(
        "Tumble dryer",
        "Coldharbour",
        "TD9",
        Earth,
        One(2500, UseOf.Stationary, 1.5, 1.25, 13, true),
        Usage.Constant,
        Moved.Never
    );
    private static readonly DemoModel Drill110 = new(
        "Hammer drill 110 V",
        "Ironquill",
        "HD110",
        Square,
        Site110(800, UseOf.Handheld, 3, 1.0) with
        {
            Class = ProtectionClass.II,
        }
    );
    private static readonly DemoModel Grinder110 = new(
        "Rail grinder 110 V",
        "Ironquill",
        "RG110",
        Earth,
        Site110(2200, UseOf.Portable, 5, 2.5)
    );
    private static readonly DemoModel Breaker110 = new(
        "Breaker 110 V",
        "Ironquill",
        "BR110",
        Square,
        Site110(1500, UseOf.Handheld, 4, 1.5) with
        {
            Class = ProtectionClass.II,
        }
    );
    private static readonly DemoModel Mixer110 = new(
        "Plaster mixer 110 V",
        "Ironquill",
        "MX110",
        Square,
        Site110(1200, UseOf.Handheld, 3, 1.5) with
        {
            Class = ProtectionClass.II,
        }
    );
    private static readonly DemoModel Reel110 = new(
        "Site lead 110 V, 14 m",
        "Wick & Ferrule",
        "SL14",
        Earth,
        Lead(ItemKind.ExtensionLead, 14, 2.5, 1, null) with
        {
            NominalMains = new(110),
            Plug = PlugType.Industrial,
        },
        Usage.Normal,
        Moved.Daily
    );
    private static readonly DemoModel Monitor62353 = new(
        "Patient monitor",
        "Heronsgate Medical",
        "Vita 6",
        Earth,
        Medical(
            ProtectionClass.I,
            90,
            UseOf.Movable,
            MainsSwitch.Electronic,
            new AppliedPart("ECG", AppliedPartType.CF, 5),
            new AppliedPart("SpO2", AppliedPartType.BF)
        )
    );
    private static readonly DemoModel Defibrillator = new(
        "Defibrillator",
        "Heronsgate Medical",
        "Resolve 3",
        Earth,
        Medical(
            ProtectionClass.I,
            180,
            UseOf.Movable,
            MainsSwitch.Electronic,
            new AppliedPart("paddles", AppliedPartType.BF, 2),
            new AppliedPart("ECG", AppliedPartType.CF, 3)
        ) with
        {
            StartUpSeconds = 6,
            EmergencyTransport = true,
            LifeYears = 10,
            EarthedParts = ["chassis screw", "docking rail"],
            Defibrillator = new([20, 50, 100, 200, 360], Synchronises: true, EcgSetMv: 1),
            Accessories = ["paddles", "trunk cable, 3 leads", "test plug"],
        }
    );

    private static readonly DemoModel VideoProcessor = new(
        "Video processor",
        "Lanternfield Optics",
        "VP 4",
        Earth,
        Medical(ProtectionClass.I, 120, UseOf.Movable, MainsSwitch.Electronic, new AppliedPart("endoscope", AppliedPartType.BF)) with
        {
            StartUpSeconds = 5,
            EarthedParts = ["equalisation stud"],
            Accessories = ["endoscope cable"],
        }
    );
    private static readonly DemoModel EndoscopeLamp = new(
        "Endoscope lamp",
        "Lanternfield Optics",
        "EL 2",
        Earth,
        Medical(ProtectionClass.I, 210, UseOf.Movable, MainsSwitch.Mechanical) with
        {
            EarthedParts = ["front panel screw"],
            UnearthedParts = ["light guide ferrule"],
        }
    );
    private static readonly DemoModel ScopeMonitor = new(
        "Theatre screen",
        "Lanternfield Optics",
        "S 27",
        Earth,
        Medical(ProtectionClass.I, 45, UseOf.Movable, MainsSwitch.Mechanical)
    );

    /// <summary>One multiple socket on wheels.</summary>
    private static readonly DemoModel Trolley = new(
        "Endoscopy trolley",
        "Lanternfield Optics",
        "Cart 3",
        Earth,
        new()
        {
            Kind = ItemKind.MedicalSystem,
            Class = ProtectionClass.I,
            Use = UseOf.Movable,
            RatedVoltage = new(230),
            Cord = new(new(3), new(1.5)),
            EarthedParts = ["trolley frame"],
        }
    );

    /// <summary>As a cardiology ward has it: ten leads with one function, four places to reach its earth.</summary>
    private static readonly DemoModel TenLeadMonitor = new(
        "Cardiac monitor",
        "Heronsgate Medical",
        "Vita 12",
        Earth,
        Medical(
            ProtectionClass.I,
            120,
            UseOf.Movable,
            MainsSwitch.Electronic,
            new AppliedPart("ECG", AppliedPartType.CF, 10, Joined: true, "limb leads 4, chest leads 6"),
            new AppliedPart("SpO2", AppliedPartType.BF)
        ) with
        {
            StartUpSeconds = 8,
            Battery = new(LifeMonths: 24),
            EarthedParts = ["equipotential post", "rear panel", "roll stand", "cable hook"],
            Accessories = ["trunk cable, 10 leads", "SpO2 finger clip"],
            Maker = new(12, [new("leakage/equipment", 300, "uA")], []),
        }
    );
    private static readonly DemoModel Pump = new(
        "Infusion pump",
        "Heronsgate Medical",
        "Drip 2",
        Square,
        Medical(ProtectionClass.II, 25, UseOf.Portable, MainsSwitch.Electronic, new AppliedPart("line", AppliedPartType.CF))
    );
    private static readonly DemoModel Bed = new(
        "Ward bed",
        "Sallow & Co",
        "Rise",
        Earth,
        Medical(ProtectionClass.I, 300, UseOf.Movable, MainsSwitch.Mechanical, new AppliedPart("mattress frame", AppliedPartType.B))
    );
    private static readonly DemoModel Ultrasound = new(
        "Ultrasound unit",
        "Heronsgate Medical",
        "Echo",
        Earth,
        Medical(ProtectionClass.I, 220, UseOf.Movable, MainsSwitch.Electronic, new AppliedPart("probe", AppliedPartType.BF))
    );
    private static readonly DemoModel EcgRecorder = new(
        "ECG recorder",
        "Heronsgate Medical",
        "Trace 12",
        Earth,
        Medical(ProtectionClass.I, 60, UseOf.Portable, MainsSwitch.Mechanical, new AppliedPart("ECG", AppliedPartType.CF, 10))
    );
    private static readonly DemoModel SuctionUnit = new(
        "Suction unit",
        "Sallow & Co",
        "Draw 30",
        Square,
        Medical(ProtectionClass.II, 110, UseOf.Portable, MainsSwitch.Mechanical)
    );
    private static readonly DemoModel Warmer = new(
        "Fluid warmer",
        "Sallow & Co",
        "Glow",
        Earth,
        Medical(ProtectionClass.I, 350, UseOf.Portable, MainsSwitch.Mechanical, new AppliedPart("warming plate", AppliedPartType.BF))
    );
    private static readonly DemoModel Diathermy = new(
        "Diathermy unit",
        "Heronsgate Medical",
        "Arc",
        Earth,
        Medical(ProtectionClass.I, 500, UseOf.Movable, MainsSwitch.Mechanical, new AppliedPart("handpiece", AppliedPartType.CF))
    );
    private static readonly DemoModel LightTheatre = new(
        "Examination light",
        "Lantern Row",
        "Clinic",
        Earth,
        Medical(ProtectionClass.I, 60, UseOf.Movable, MainsSwitch.Mechanical)
    );
    private static readonly DemoModel Dialysis = new(
        "Dialysis machine",
        "Heronsgate Medical",
        "Stream 4",
        Earth,
        Medical120(ProtectionClass.I, 1500, new AppliedPart("blood circuit", AppliedPartType.BF, 2))
    );
    private static readonly DemoModel Chair = new("Treatment chair", "Sallow & Co", "Recline", Earth, Medical120(ProtectionClass.I, 250));
    private static readonly DemoModel Pump120 = new(
        "Heparin pump",
        "Heronsgate Medical",
        "Drip 1",
        Square,
        Medical120(ProtectionClass.II, 20, new AppliedPart("line", AppliedPartType.CF))
    );
    private static readonly DemoModel Monitor120 = new(
        "Pressure monitor",
        "Heronsgate Medical",
        "Vita 3",
        Earth,
        Medical120(ProtectionClass.I, 45, new AppliedPart("cuff", AppliedPartType.BF))
    );
    private static readonly DemoModel WaterPump = new("Water-plant pump", "Gale & Hythe", "RO2", Earth, Medical120(ProtectionClass.I, 900));
    private static readonly DemoModel Scale120 = new("Patient scale", "Sallow & Co", "Level", Earth, Medical120(ProtectionClass.I, 20));
}
