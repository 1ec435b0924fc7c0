using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>A kind of thing found at the demo sites.</summary>
internal sealed record DemoModel(
    string Name,
    string Maker,
    string Model,
    ClassEvidence Evidence,
    Item Item,
    Usage Usage = Usage.Normal,
    Moved Moved = Moved.Sometimes
);

/// <param name="Models">Taken in turn until <paramref name="Count"/> items stand there.</param>
internal sealed record DemoRoom(string Name, Place Place, int Count, DemoModel[] Models);

/// <param name="FirstNumber">Of the tags of this site.</param>
/// <param name="OpenRound">A name when a round is being walked there now.</param>
internal sealed record DemoSite(string Name, int FirstNumber, string? OpenRound, DemoRoom[] Rooms);

internal sealed record DemoClient(Client Client, string StandardId, string? MedicalStandardId, DemoSite[] Sites)
{
    public string TimeZone { get; init; } = "Europe/London";

    /// <summary>Null is what its standards suppose.</summary>
    public (double Volts, double Hertz)? Mains { get; init; }
}

/// <summary>The invented world: Withy Lane's five clients and what they own. Makers and models exist nowhere else.</summary>
internal static partial class DemoCatalogue
{
    public static readonly (string UserName, string Name, string Initials, string Role)[] People =
    [
        ("ida", "Ida Fennimore", "IF", Person.Technician),
        ("rufus", "Rufus Oakhanger", "RO", Person.Technician),
        ("maud", "Maud Tarrant", "MT", Person.Lead),
        ("wilf", "Wilf Sandering", "WS", Person.Viewer),
    ];

    /// <summary>The one of them who reads for a client.</summary>
    public static readonly (string UserName, string Client) Viewer = ("wilf", "SVH");

    /// <summary>What pictures, benchmarks and journeys call by its tag: it was inspected, nothing befalls it, and it is in service
    /// on whichever day the demo is loaded.</summary>
    public static bool IsSpared(string tag) => Spared.Contains(tag);

    private static readonly HashSet<string> Spared =
    [
        .. new[] { 201, 203, 207, 214, 216 }.Select(number => $"LMR-{number:0000}"),
        .. new[] { 1001, 1003, 1004, 1005, 1015, 1022, 1029, 1113, 1115, 1117, 1118, 1119, 1120 }.Select(number => $"SVH-{number}"),
    ];

    public static IReadOnlyList<DemoClient> Clients() =>
        [
            new(
                New("LMR", "Larkfell Mountain Railway", labels: LabelSchool.WithoutNextDate),
                "uk-cop-5",
                null,
                [
                    new(
                        "Summit café",
                        201,
                        "Summit café, winter round",
                        [
                            new(
                                "Counter",
                                Place.Kitchen,
                                16,
                                [
                                    Kettle,
                                    UrnSmall,
                                    Toaster,
                                    CoffeeMachine,
                                    Till,
                                    Radio,
                                    SoupKettle,
                                    CordSet,
                                    Microwave,
                                    CardReader,
                                    DisplayFridge,
                                    UrnLarge,
                                    Blender,
                                    TeaUrn,
                                    WarmingPlate,
                                    ExtensionShort,
                                ]
                            ),
                            new(
                                "Kitchen",
                                Place.Kitchen,
                                14,
                                [
                                    Mixer,
                                    Fryer,
                                    Fridge,
                                    Dishwasher,
                                    Hob,
                                    Slicer,
                                    Microwave,
                                    StickBlender,
                                    HandDryer,
                                    FlyLamp,
                                    CordSet,
                                    ExtensionShort,
                                ]
                            ),
                            new("Dining room", Place.School, 8, [FloorLamp, Radio, Fan, Vacuum, DeskLamp, ExtensionShort]),
                        ]
                    ),
                    new(
                        "Workshops",
                        301,
                        null,
                        [
                            new(
                                "Fitting shop",
                                Place.Workshop,
                                24,
                                [
                                    Grinder,
                                    Drill,
                                    BenchGrinder,
                                    Welder,
                                    PillarDrill,
                                    LeadLamp,
                                    Reel25,
                                    VacuumIndustrial,
                                    HeatGun,
                                    Radio,
                                    Charger,
                                    Rcd30,
                                ]
                            ),
                            new("Paint shop", Place.Workshop, 10, [Compressor, Fan, Sander, HeatGun, Reel25, LeadLamp]),
                            new(
                                "Drawing office",
                                Place.Office,
                                16,
                                [Pc, Monitor, Printer, DeskLamp, PhoneCharger, CordSet, Kettle, Fan, Surge]
                            ),
                        ]
                    ),
                    new(
                        "Track gang store",
                        401,
                        null,
                        [new("Van bay", Place.Construction, 24, [Drill110, Grinder110, Reel110, Breaker110, Charger, Rcd30])]
                    ),
                    new(
                        "First-aid post",
                        501,
                        null,
                        [new("Treatment room", Place.Office, 12, [Steriliser, DeskLamp, Fridge, Kettle, Pc, PhoneCharger])]
                    ),
                ]
            ),
            new(
                New("SVH", "Sorrel Valley Cottage Hospital", cap: 12),
                "uk-cop-5",
                "iec-62353-2014",
                [
                    new(
                        "Main building",
                        1001,
                        "Ward and workshop, November",
                        [
                            new("Ward 1", Place.Medical, 40, [Monitor62353, Pump, Bed, Ultrasound, EcgRecorder, SuctionUnit, Warmer]),
                            new("Theatre", Place.Medical, 24, [Diathermy, Monitor62353, LightTheatre, Pump, SuctionUnit]),
                            new("Ward kitchen", Place.Kitchen, 14, [Kettle, Toaster, Microwave, Fridge, Dishwasher]),
                            new("Offices", Place.Office, 26, [Pc, Monitor, Printer, CordSet, DeskLamp, PhoneCharger, Surge, Fan]),
                            new("Laundry", Place.Kitchen, 8, [Iron, Dryer, Vacuum, ExtensionShort]),
                            new("Resuscitation", Place.Medical, 4, [Defibrillator, TenLeadMonitor]),
                            // The trolley comes last: what stands there before it hangs on its socket.
                            new("Endoscopy", Place.Medical, 4, [VideoProcessor, EndoscopeLamp, ScopeMonitor, Trolley]),
                        ]
                    ),
                ]
            ),
            new(
                New("KRD", "Kelpie Reef Dive Charter", labels: LabelSchool.WithNextDate, classII: ClassIIPolicy.Measure),
                "as-nzs-3760-2022",
                null,
                [
                    new(
                        "Dive shop",
                        101,
                        null,
                        [
                            new("Shop floor", Place.Office, 14, [Till, CardReader, Pc, Monitor, Radio, Fan, CordSet, Surge]),
                            new(
                                "Compressor shed",
                                Place.Heavy,
                                16,
                                [Compressor, Reel25, Drill, LeadLamp, Charger, Rcd30, VacuumIndustrial]
                            ),
                            new("Galley", Place.Kitchen, 10, [Kettle, Toaster, Microwave, Fridge, Blender]),
                        ]
                    ),
                ]
            )
            {
                TimeZone = "Australia/Brisbane",
            },
            new(
                New("JBD", "Juniper Basin Dialysis", cap: 12),
                "nfpa-99-2012",
                "nfpa-99-2012",
                [
                    new(
                        "Clinic",
                        1,
                        null,
                        [
                            new("Treatment floor", Place.Medical, 24, [Dialysis, Chair, Pump120, Monitor120]),
                            new("Water room", Place.Medical, 8, [WaterPump, Scale120]),
                        ]
                    ),
                ]
            )
            {
                TimeZone = "America/Denver",
                Mains = (120, 60),
            },
            new(
                New("MTH", "Marram Tool Hire", labels: LabelSchool.WithNextDate, classII: ClassIIPolicy.Measure),
                "uk-cop-5",
                null,
                [
                    new(
                        "Counter and yard",
                        7001,
                        "Hire fleet, before issue",
                        [
                            new(
                                "Tool wall",
                                Place.Hire,
                                56,
                                [Drill, Grinder, Sander, HeatGun, Breaker110, Drill110, Saw, Mixer110, FloorSander, LeadLamp]
                            ),
                            new("Leads and reels", Place.Hire, 34, [Reel25, Reel110, ExtensionShort, Rcd30, CordSet]),
                        ]
                    ),
                ]
            ),
        ];

    private static Client New(
        string code,
        string name,
        double? cap = null,
        LabelSchool labels = LabelSchool.WithoutNextDate,
        ClassIIPolicy classII = ClassIIPolicy.LookOnly
    ) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Code = code,
            Name = name,
            CapMonths = cap,
            LabelSchool = labels,
            ClassII = classII,
            DecisionRule = DecisionRule.Simple,
        };
}
