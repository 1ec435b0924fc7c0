using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Osierwand.Core.Forms;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Equipment;

/// <summary>What kind of thing lies on the bench; it decides the look list and the tests.</summary>
public enum ItemKind
{
    Appliance,
    CordSet,
    ExtensionLead,
    MultiwayAdapter,
    PortableRcd,
    MedicalDevice,
    MedicalSystem,
}

/// <summary>Protection against electric shock, decided from the plate and the build, not from the look.</summary>
public enum ProtectionClass
{
    [JsonStringEnumMemberName("I")]
    I,

    [JsonStringEnumMemberName("II")]
    II,

    [JsonStringEnumMemberName("III")]
    III,

    /// <summary>Earthed, with nothing conductive to touch: no point to clip an earth test to.</summary>
    [JsonStringEnumMemberName("I-noAccessibleMetal")]
    INoAccessibleMetal,

    /// <summary>Double insulated; its earth serves a screen or a filter and is judged against nothing.</summary>
    [JsonStringEnumMemberName("II-functionalEarth")]
    IIFunctionalEarth,

    /// <summary>Not known: tested as I and as II, the stricter limit kept.</summary>
    Undecided,

    /// <summary>Internally powered medical equipment without a mains connection.</summary>
    Internal,
}

/// <summary>How the item is used, in the sense of the interval table.</summary>
public enum UseOf
{
    Handheld,
    Portable,
    Movable,
    Stationary,
    It,
    Fixed,
}

/// <summary>The plug at the end of the flex, as far as it decides what is looked at.</summary>
public enum PlugType
{
    /// <summary>Opened with a screwdriver: grip, terminals and fuse are seen.</summary>
    Rewirable,

    /// <summary>Moulded on: nothing inside to see, a fuse in its carrier where the country has one.</summary>
    Moulded,

    /// <summary>Industrial, as on 110 V site equipment: no fuse in it.</summary>
    Industrial,
}

/// <summary>How far an item is reached without damage.</summary>
public enum AccessLevel
{
    FreeStanding,

    /// <summary>A few screws or clips; whether they come out is the client's choice.</summary>
    RemovableFixings,

    /// <summary>Built in or plumbed: never forced.</summary>
    SealedIn,
}

/// <summary>What of the client's property wants care when an item is moved or shut down.</summary>
public enum CareNeed
{
    /// <summary>Connected to water.</summary>
    Water,

    /// <summary>Stands heavy on a floor.</summary>
    Heavy,

    /// <summary>Holds something that must come out: food, laundry, tools.</summary>
    Contents,

    /// <summary>Air, steam or gas under pressure.</summary>
    Pressure,

    /// <summary>Somebody's work is lost when it goes off.</summary>
    Data,
}

/// <summary>The plate of one part of a combined appliance: a fan and its lamp.</summary>
public sealed record PartPlate(string Name, Watts Power);

public enum MainsSwitch
{
    /// <summary>Breaks the mains itself: closed, the whole mains part is under test.</summary>
    Mechanical,

    /// <summary>A relay or semiconductor: the mains part is under test only while running.</summary>
    Electronic,
}

/// <summary>Degree of protection of a part that touches the patient.</summary>
public enum AppliedPartType
{
    [JsonStringEnumMemberName("B")]
    B,

    [JsonStringEnumMemberName("BF")]
    BF,

    [JsonStringEnumMemberName("CF")]
    CF,
}

/// <summary>One applied part as the device declares it.</summary>
/// <param name="Connections">Patient connections of this part, at least one.</param>
/// <param name="Joined">Its connections have one function and are joined for the measurement; otherwise each is measured.</param>
/// <param name="MadeOf">Where one function comes out of the device in several places (<see cref="PartModules"/>): "limb leads 4, chest
/// leads 6"; null where it is one.</param>
public sealed record AppliedPart(string Name, AppliedPartType Type, int Connections = 1, bool Joined = true, string? MadeOf = null)
{
    /// <summary>As run sheets and readings name them, counted from 1.</summary>
    public ImmutableArray<string> ConnectionNames => [.. Enumerable.Range(1, Connections).Select(number => $"connection {number}")];

    /// <summary>A current can flow between two of its own connections.</summary>
    public bool HasPairs => Connections >= 2;
}

/// <summary>What a defibrillator is checked at, beside its electrical safety.</summary>
/// <param name="SettingsJ">Energy settings to be delivered into 50 ohm, in joule; each is judged.</param>
/// <param name="Synchronises">It gives synchronised shocks.</param>
/// <param name="EcgSetMv">Amplitude of the check trace in millivolt; null where it shows none.</param>
public sealed record Defibrillator(ImmutableArray<double> SettingsJ, bool Synchronises = false, double? EcgSetMv = null);

/// <summary>The coupler by which a mains lead that unplugs meets the device (IEC 60320).</summary>
public enum InletType
{
    [JsonStringEnumMemberName("C5")]
    C5,

    [JsonStringEnumMemberName("C7")]
    C7,

    [JsonStringEnumMemberName("C13")]
    C13,

    /// <summary>As C13, for what gets hot.</summary>
    [JsonStringEnumMemberName("C15")]
    C15,

    [JsonStringEnumMemberName("C19")]
    C19,
    Other,
}

/// <summary>The flex, or the lead that is the item itself.</summary>
/// <param name="Length">Null when it was not entered: then no allowance is given.</param>
/// <param name="Permanent">Hard-wired: there is no flex.</param>
/// <param name="Detachable">A mains lead that unplugs at the device; it is an item of its own.</param>
/// <param name="Temperature">Of the conductor while it was measured.</param>
/// <param name="Inlet">How a lead that unplugs meets the device; null where nobody looked.</param>
public sealed record Cord(
    Metres? Length = null,
    SquareMillimetres? Conductor = null,
    bool Detachable = false,
    bool Permanent = false,
    Celsius? Temperature = null,
    InletType? Inlet = null
);

/// <summary>What the rules need to know of an item. Identity, place and history live in the register.</summary>
[JsonConverter(typeof(ItemConverter))]
public sealed record Item
{
    /// <exception cref="ArgumentException">It has applied parts and the kind is no medical one.</exception>
    public required ItemKind Kind
    {
        get;
        init =>
            field =
                value is ItemKind.MedicalDevice or ItemKind.MedicalSystem || AppliedParts.IsDefaultOrEmpty ? value : throw NoPatientHere();
    }

    public ProtectionClass Class { get; init; } = ProtectionClass.I;
    public UseOf Use { get; init; } = UseOf.Portable;
    public bool Heating { get; init; }
    public bool MetalSheathedElement { get; init; }
    public bool SurgeProtected { get; init; }
    public bool MobileXray { get; init; }

    /// <summary>All-insulated case without reachable metal.</summary>
    public bool AllInsulated { get; init; }

    public Watts? RatedPower { get; init; }

    /// <summary>Of a combined appliance: what each part's plate says. The load is their sum.</summary>
    public ImmutableArray<PartPlate> PartPlates { get; init; } = [];

    /// <summary>From the plate where it gives amperes instead of watts.</summary>
    public Amperes? RatedCurrent { get; init; }

    public Volts? RatedVoltage { get; init; }

    /// <summary>What leakage is scaled to, where it differs from the plate and the pack: 110 V for site equipment.</summary>
    public Volts? NominalMains { get; init; }

    public Amperes? PlugFuse { get; init; }
    public PlugType Plug { get; init; }

    /// <summary>Outlets of a lead or adaptor; 1 where it was not counted.</summary>
    public int Outlets { get; init; } = 1;

    public Cord? Cord { get; init; }

    /// <summary>Rated residual current of the RCD that the item is or carries, in ampere.</summary>
    public Amperes? Rcd { get; init; }

    /// <summary>What the RCD's own product standard allows at its rating; null where its papers were not looked at.</summary>
    public Seconds? RcdOwnTrip { get; init; }

    /// <summary>Of medical devices only; set after <see cref="Kind"/>.</summary>
    /// <exception cref="ArgumentException">The kind is no medical one.</exception>
    public ImmutableArray<AppliedPart> AppliedParts
    {
        get;
        init => field = value.IsEmpty || IsMedical ? value : throw NoPatientHere();
    } = [];

    /// <summary>Somebody looked, and nothing of it touches a patient. Not said, and without applied parts, nobody knows.</summary>
    public bool NoAppliedParts { get; init; }

    /// <summary>Whether its patient's side is known: the parts, or that there are none. Of what is no medical device nothing is to be
    /// known; of a system each member's is.</summary>
    public bool IsPatientSideKnown =>
        Kind switch
        {
            ItemKind.MedicalDevice => NoAppliedParts || !AppliedParts.IsEmpty,
            ItemKind.MedicalSystem => Members.All(member => member.Equipment.IsPatientSideKnown),
            _ => true,
        };

    public MainsSwitch MainsSwitch { get; init; }

    /// <summary>The mains part is under test only while it runs. A lead and an RCD have no load behind a switch, and extra-low voltage
    /// from a supply unit has no mains part.</summary>
    public bool SwitchHidesMains =>
        MainsSwitch == MainsSwitch.Electronic && Class != ProtectionClass.III && !IsCord && Kind != ItemKind.PortableRcd;

    /// <summary>1, or 3 for equipment on three phases, measured through an adapter.</summary>
    public int Phases { get; init; } = 1;

    /// <summary>Names of the reachable earthed parts; each is an earth point of its own. Empty: one point, wherever the clip finds
    /// metal.</summary>
    public ImmutableArray<string> EarthedParts { get; init; } = [];

    /// <summary>Names of the accessible conductive parts that are not earthed: touch current is measured at each.</summary>
    public ImmutableArray<string> UnearthedParts { get; init; } = [];

    /// <summary>Seconds from power on until a powered reading counts.</summary>
    public int StartUpSeconds { get; init; }

    public Defibrillator? Defibrillator { get; init; }

    /// <summary>Of a medical device with mains; null where it has none.</summary>
    public Battery? Battery { get; init; }

    /// <summary>What belongs to a device and is looked at with it: cables, probes, trays.</summary>
    public ImmutableArray<string> Accessories { get; init; } = [];

    /// <summary>What the maker of a device asks beside the standard; null where nothing is known of it.</summary>
    public MakerAsks? Maker { get; init; }

    /// <summary>Of a medical system: the devices on its multiple socket, whose parts it has (<see cref="MedicalSystem"/>).</summary>
    public ImmutableArray<SystemMember> Members { get; init; } = [];

    /// <summary>Of a medical system: its multiple socket without what the members bring; null of everything else.</summary>
    internal Item? Socket { get; init; }

    /// <summary>Somebody's life hangs on it; of medical devices.</summary>
    public bool LifeSupporting { get; init; }

    /// <summary>It goes with patients, in a vehicle or by hand; of medical devices.</summary>
    public bool EmergencyTransport { get; init; }

    public const int EarliestYear = 1900;
    public const int LatestYear = 2100;
    public const int LongestLifeYears = 60;

    /// <summary>The year in which it was made; null where its plate does not say.</summary>
    public int? MadeIn { get; init; }

    /// <summary>How many years its maker expects of it; null where nobody says.</summary>
    public double? LifeYears { get; init; }

    /// <summary>It has reached the year in which its life ends, as its maker expects it. The month is on no plate, so the whole year
    /// counts.</summary>
    public bool IsOverLife(DateOnly day) => MadeIn + LifeYears <= day.Year;

    /// <summary>Of a system: what any of its members is.</summary>
    public bool IsLifeSupporting => LifeSupporting || Members.Any(it => it.Equipment.LifeSupporting);

    /// <summary>Of a system: where any of its members goes.</summary>
    public bool GoesWithPatients => EmergencyTransport || Members.Any(it => it.Equipment.EmergencyTransport);

    /// <summary>How far it is reached, and what wants care when it is.</summary>
    public AccessLevel Access { get; init; }
    public ImmutableArray<CareNeed> Care { get; init; } = [];
    public string? Name { get; init; }
    public string? Serial { get; init; }
    public string? Tag { get; init; }

    /// <summary>A cord set, extension lead or multiway adaptor: something that carries current to something else.</summary>
    public bool IsCord => Kind is ItemKind.CordSet or ItemKind.ExtensionLead or ItemKind.MultiwayAdapter;

    public bool IsMedical => Kind is ItemKind.MedicalDevice or ItemKind.MedicalSystem;

    private static ArgumentException NoPatientHere() => new("Only medical devices have applied parts.");

    public bool IsHardWired => Cord?.Permanent == true;

    /// <summary>Double insulation without anything conductive to touch and not held in the hand: a client may choose to have it looked at
    /// only.</summary>
    public bool MayBeLookedAtOnly => Kind == ItemKind.Appliance && Class == ProtectionClass.II && AllInsulated && Use != UseOf.Handheld;
}
