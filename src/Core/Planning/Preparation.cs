using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>The words around a step for whoever holds an appliance tester: what must be true first, what is dangerous, what is joined to
/// what.</summary>
internal static class Preparation
{
    private static readonly ImmutableArray<string> OneFunctional = ["Does its job; interlocks, alarms and lamps work"];
    private static readonly ImmutableArray<string> CordFunctional = ["It carries, on and off: try it with a known item"];
    private static readonly ImmutableArray<string> RcdFunctional = ["Plugged into a live outlet; press its test button, it must open"];
    private static readonly ImmutableArray<string> CordEarth = ["Both ends in hand", "Lead nulled"];
    public const string ClipOnMetal = "Clip on bare earthed metal";
    private const string Flexed = "Flex moved along its length while reading";
    private static readonly ImmutableArray<string> Earth =
    [
        ClipOnMetal,
        "Lead nulled",
        Flexed,
        "Every reachable earthed part: one reading each",
    ];
    private static readonly ImmutableArray<string> HardWiredEarth =
    [
        "Isolated and proved dead; protective conductor left connected",
        "Lead nulled",
        "Every exposed metal part: one reading each",
    ];
    private static readonly ImmutableArray<string> NothingPlugged = ["Nothing plugged in"];
    private static readonly ImmutableArray<string> On = ["Item switched on"];
    private static readonly ImmutableArray<string> OnLoad = ["Item switched on", "Accessories that belong to it connected"];
    private static readonly ImmutableArray<string> Foil =
    [
        "Item switched on",
        "Probe on accessible metal, else foil or mesh round the case",
        "A probe that finds a path to earth stops the job",
    ];
    private static readonly ImmutableArray<string> HardWiredInsulation =
    [
        "Isolated and proved dead; L and N disconnected and joined",
        "Item switched on",
    ];
    private static readonly ImmutableArray<string> Joined = ["Item switched on", "Mains pins joined by the instrument"];
    private static readonly ImmutableArray<string> Trip = ["Isolating adapter upstream, so that the building's RCD stays in"];
    private static readonly ImmutableArray<string> BothEnds = ["Both ends in hand"];
    private static readonly ImmutableArray<string> Powered =
    [
        "Outlet checked",
        "Item switched on",
        "Item stands isolated from any other earth",
    ];
    private static readonly ImmutableArray<string> OnItsSupply = ["Supply restored, voltages as expected", "Item switched on"];
    private const string Clamp = "Leakage clamp round L and N together, the earth left outside: it reads the difference";
    private static readonly ImmutableArray<string> Differential = ["Outlet checked", "Item switched on"];
    private static readonly ImmutableArray<string> Off =
    [
        "Outlet checked",
        "Device switched off at its own switch",
        "Item stands isolated from any other earth",
    ];
    private static readonly ImmutableArray<string> OnBattery = ["Running on its own battery, no charger connected"];
    private static readonly ImmutableArray<string> OffBattery = ["Device switched off at its own switch, no charger connected"];
    private static readonly ImmutableArray<string> Defib =
    [
        "Charged only into the 50 Ω load of the tester, paddles or pads firmly on it",
        "Set to the state the maker asks for; the countdown runs to the discharge",
    ];

    /// <summary>Before the charge that is timed.</summary>
    public static readonly ImmutableArray<string> Discharges =
    [
        "Set to maximum; charged only into the 50 Ω load of the tester, paddles or pads firmly on it",
        "Charge, discharge, charge again without a rest: the battery is to be as tired as in use",
    ];

    public const string Shock =
        "The whole set energy on the paddles. Say “clear”; nobody touches paddles, load or leads until it has discharged.";

    private const string Unplugged = "Switched off and unplugged";

    /// <summary>What a change of instruments in mid-job asks of the hands.</summary>
    public static ImmutableArray<string> ChangeOver(string from, string to) =>
        [
            $"{from}: the device off its outlet, clip and patient leads off",
            $"{to}: paddles or pads on its 50 Ω load, ECG leads on its posts; the device on its own mains lead or battery, as its maker asks",
            "Nobody touches paddles, load or leads from now on while the device charges",
        ];

    /// <inheritdoc cref="ChangeOver"/>
    public static ImmutableArray<string> ChangeBack(string from, string to) =>
        [$"{from}: discharged and switched off, paddles, pads and ECG leads off it", $"{to}: the device on its outlet, clip and leads on"];

    /// <summary>What a step of isolation or restoration asks of the hands.</summary>
    public static ImmutableArray<string> OfIsolation(string step) =>
        step switch
        {
            SafeIsolation.Identify =>
            [
                "By someone competent for it: local rules and the site's own permits come first",
                "The circuit and its point of isolation, permission to switch off, and whoever else it serves told",
            ],
            SafeIsolation.Off => ["At the point of isolation; the load is seen to go off"],
            SafeIsolation.Lock => ["Your own lock, a tag with name and time; the key stays with you"],
            SafeIsolation.Open => ["Touch nothing inside: it counts as live until it is proved dead"],
            SafeIsolation.Prove =>
            [
                "A two-pole voltage indicator, whole, its probes too; never a multimeter or a detector",
                "On the proving unit: every indication that it has is seen, not its sound alone",
            ],
            SafeIsolation.DeadAtSupply or SafeIsolation.DeadAtLoad =>
            [
                "Contact earth or neutral first, line last",
                "Any voltage stops the job",
            ],
            SafeIsolation.ProveAgain =>
            [
                "The same indicator on the same unit. If it fails now, all since the first proof counts for nothing",
            ],
            SafeIsolation.Disconnect => ["Line and neutral only; the protective conductor stays connected"],
            SafeIsolation.Reconnect => ["Tightened, polarity right, protective conductor sound, covers on"],
            SafeIsolation.Unlock => ["Nobody works on it any more; key and tag back with you"],
            SafeIsolation.Energise => ["Voltages as expected: L to N, L to E, N to E"],
            _ => [],
        };

    /// <summary>What has been done before a hard-wired item is powered again.</summary>
    public static readonly ImmutableArray<string> Restoration =
    [
        "Reconnected and tightened, polarity right, covers on",
        "Lock and tag off, energised: supply restored, voltages as expected",
    ];

    public static ImmutableArray<string> Switching(PowerState to, Item item) =>
        to == PowerState.Off ? ["Off at its own switch, still plugged in"]
        : item.StartUpSeconds > 0 ? ["On at its own switch", $"It needs {item.StartUpSeconds} s to start; readings count from then"]
        : ["On at its own switch"];

    public static string? Hazard(HazardKind kind, Item item, Conditions under)
    {
        var voltage = (under as Conditions.Insulation)?.TestVoltage;
        var isOff = under is Conditions.Leakage { Power: PowerState.Off };
        return kind switch
        {
            HazardKind.TestVoltage =>
                $"{QuantityText.Number(voltage!.Value.Value)} V d.c. on the item. Nobody touches it or the leads; allow it to discharge afterwards.",
            HazardKind.ItemLive when item.Kind == ItemKind.PortableRcd || item.IsCord =>
                "Mains on its outlets. Nothing plugged in but the tester, fingers off pins and contacts.",
            HazardKind.ItemLive when item.Class == ProtectionClass.Internal =>
                "The item runs on its own battery. Moving parts free, hands clear.",
            HazardKind.ItemLive when isOff => "Mains on the item, though it is switched off. Hands clear.",
            HazardKind.ItemLive => item.Use is UseOf.Handheld
                ? "The item starts. Blade off, tool clamped, hands clear."
                : "The item starts. Moving parts free, hands clear.",
            HazardKind.MainsOnPatient when under is Conditions.Leakage { Kind: LeakageKind.MainsOnAccessiblePart } =>
                "Mains voltage on accessible metal of the device. Hold to start; hands off item and leads.",
            HazardKind.MainsOnPatient when item.Class == ProtectionClass.Internal =>
                "The instrument's mains voltage on the patient connections, though the device has none. Hold to start; hands off item and leads.",
            HazardKind.MainsOnPatient => "Mains voltage on the patient connections. Hold to start; hands off item and leads.",
            HazardKind.Shock => Shock,
            _ => null,
        };
    }

    public static ImmutableArray<string> Needs(Item item, Conditions under, RulePack pack) => OfAll(item, NeedsOf(item, under, pack));

    private static ImmutableArray<string> NeedsOf(Item item, Conditions under, RulePack pack) =>
        under switch
        {
            Conditions.EarthContinuity when item.IsCord => CordEarth,
            Conditions.EarthContinuity when item.IsHardWired => HardWiredEarth,
            Conditions.EarthContinuity when pack.FlexedAt is { } flexedAt =>
            [
                .. Earth.Select(line => line == Flexed ? $"Flex moved at {flexedAt} while reading" : line),
            ],
            Conditions.EarthContinuity => pack.EarthCurrent?.Source is null
                ? Earth
                : [.. Earth, "Measured with d.c.: repeat reversed, the higher counts"],
            Conditions.Insulation when item.IsCord => NothingPlugged,
            Conditions.Insulation { Part: InsulationPart.CordAlone } => ["The mains lead alone: unplugged at the device where it can be"],
            Conditions.Insulation when item.IsHardWired => HardWiredInsulation,
            Conditions.Insulation { AppliedPart: { } part } => [.. On, $"All connections of {part} joined"],
            Conditions.Insulation when item.Class is ProtectionClass.II or ProtectionClass.IIFunctionalEarth => Foil,
            Conditions.Insulation => On,
            Conditions.Leakage leakage => Leakage(item, leakage),
            Conditions.RcdTrip => Trip,
            Conditions.Conductors => BothEnds,
            Conditions.PadPath => ["Paddles or pads on the tester's load; its trace on the screen proves the path"],
            Conditions.EcgAmplitude => ["ECG leads on the tester's simulator, gain and filter as the maker asks"],
            Conditions.Performance => Defib,
            _ => [],
        };

    private static ImmutableArray<string> Leakage(Item item, Conditions.Leakage under)
    {
        var needs = under switch
        {
            { Method: LeakageMethod.Alternative } => Joined,
            { Power: PowerState.Off } when item.Class == ProtectionClass.Internal => OffBattery,
            _ when item.Class == ProtectionClass.Internal => OnBattery,
            _ when IsByClamp(item, under) => [.. OnItsSupply, Clamp],
            { Power: PowerState.Off } when item.IsHardWired => [OnItsSupply[0], "Device switched off at its own switch"],
            _ when item.IsHardWired => OnItsSupply,
            { Power: PowerState.Off } => Off,
            { Method: LeakageMethod.Differential } => Differential,
            _ => Powered,
        };
        if (item.StartUpSeconds > 0 && under.Method != LeakageMethod.Alternative)
            needs = needs.Add($"Running for {item.StartUpSeconds} s before the reading counts");
        return Joining(item, under) is { } joining ? needs.Add(joining) : needs;
    }

    /// <summary>What flows in the supply of something without a plug, read by a clamp that counts as differential.</summary>
    public static bool IsByClamp(Item item, Conditions under) =>
        item.IsHardWired
        && under
            is Conditions.Leakage
            {
                Method: LeakageMethod.Differential,
                Kind: LeakageKind.ProtectiveConductor or LeakageKind.Earth or LeakageKind.Equipment
            };

    /// <summary>What is joined on the patient's side, and where the clip goes.</summary>
    private static string? Joining(Item item, Conditions.Leakage under) =>
        under.Kind switch
        {
            LeakageKind.Touch or LeakageKind.MainsOnAccessiblePart when under.At is { } spot =>
                $"Clip moved to {spot.Text}, which is not earthed",
            LeakageKind.Touch when item.Class == ProtectionClass.Internal => "Between accessible parts, one after the other",
            LeakageKind.Touch when item.IsMedical && item.Class == ProtectionClass.I => "Clip on the chassis, earthed or not",
            LeakageKind.Equipment => EquipmentJoining(item),
            LeakageKind.AppliedPart or LeakageKind.Patient or LeakageKind.MainsOnAppliedPart => IsJoined(item, under)
                ? $"All connections of {under.AppliedPart} joined{ModulesOf(item, under)}"
                : $"Each connection of {under.AppliedPart} by itself; the worst counts",
            LeakageKind.TotalPatient => "All applied parts of one type joined",
            LeakageKind.PatientAuxiliary =>
                $"One connection of {under.AppliedPart} against all its others joined; each in turn, the worst counts",
            LeakageKind.LeadToGround => "All patient leads joined",
            LeakageKind.LeadToLead => "Each pair the device offers; the worst counts",
            LeakageKind.Earth when under.Earth == ConductorState.Open => "Before the fixed equipment is bonded",
            _ => null,
        };

    /// <summary>Parts that are not earthed and applied parts of type B are measured with the rest; neither makes the other
    /// forgotten.</summary>
    private static string? EquipmentJoining(Item item)
    {
        var lines = new List<string>(2);
        if (!item.UnearthedParts.IsEmpty)
            lines.Add($"Joined to the measurement: {string.Join(", ", item.UnearthedParts)}, which are not earthed");
        if (!item.AppliedParts.IsEmpty)
            lines.Add("Applied parts of type B joined to the measurement, F-type parts left open");
        return lines.Count == 0 ? null : string.Join("; ", lines);
    }

    private static string ModulesOf(Item item, Conditions.Leakage under) =>
        item.AppliedParts.FirstOrDefault(part => part.Name == under.AppliedPart) is { MadeOf: { } modules } ? $": {modules}" : "";

    private static bool IsJoined(Item item, Conditions.Leakage under)
    {
        foreach (var part in item.AppliedParts)
            if (part.Name == under.AppliedPart)
                return part.Joined;
        return true;
    }

    /// <summary>What makes the item safe before hands are on it.</summary>
    public static ImmutableArray<string> MakeSafe(Item item, Thresholds rules)
    {
        var lines = new List<string>(4)
        {
            item.IsHardWired ? "Safe isolation by someone competent for it: prove dead, lock off, keep the key"
            : item.IsCord ? "Both ends unplugged and in hand"
            : Unplugged,
        };
        if (item.Heating)
            lines.Add("Cool and empty; nothing hot or under pressure");
        if (HasTool(item, rules))
            lines.Add("Blade, bit or disc off; what cannot come off is guarded, and the tool clamped");
        if (item.Kind == ItemKind.MedicalSystem)
            lines.Add($"In its multiple socket, and nothing else in it: {MembersOf(item)}");
        if (item.Kind is ItemKind.MedicalDevice or ItemKind.MedicalSystem)
            lines.Add("Not connected to a patient, decontaminated, battery state known");
        return [.. lines];
    }

    private static string MembersOf(Item system) =>
        system.Members.IsEmpty ? "every member" : string.Join(", ", system.Members.Select(it => $"{it.Name} {it.Tag}"));

    /// <summary>Of a system every member: what is off is not measured.</summary>
    private static ImmutableArray<string> OfAll(Item item, ImmutableArray<string> needs) =>
        item.Kind == ItemKind.MedicalSystem ? [.. needs.Select(line => line == On[0] ? "Every member switched on" : line)] : needs;

    /// <summary>A hand-held thing with a motor's power: a charger or a lamp has nothing that cuts.</summary>
    private static bool HasTool(Item item, Thresholds rules) =>
        item is { Use: UseOf.Handheld, Kind: ItemKind.Appliance, Heating: false }
        && (item.RatedPower is not { } power || power.Value >= rules.ToolPower.Value);

    public static ImmutableArray<string> Functional(Item item) =>
        item switch
        {
            { Kind: ItemKind.PortableRcd } => RcdFunctional,
            { IsCord: true } => item.Rcd is null ? CordFunctional : [.. CordFunctional, "Press the RCD's test button, it must open"],
            _ when Expectation.LoadOf(item) is { } load => [OneFunctional[0], $"Load near {QuantityText.Number(load.Value)} A"],
            _ => OneFunctional,
        };

    public static string Terminals(Item item, Conditions under) =>
        under switch
        {
            Conditions.EarthContinuity when item.IsCord => under.At is { } outlet
                ? $"Earth pin to earth of {outlet.Text}"
                : "Earth, end to end",
            Conditions.EarthContinuity when item.IsHardWired => "Exposed metal to the connection unit's earth",
            Conditions.EarthContinuity => under.At is { } metal ? $"Earth pin to {metal.Text}" : "Earth pin to accessible metal",
            Conditions.Insulation { Between: Between.MainsToAppliedPart } => $"L+N joined, to {under.AppliedPart ?? "the applied part"}",
            Conditions.Insulation { Part: InsulationPart.CordAlone } => "L+N of the mains lead joined, to its protective conductor",
            Conditions.Insulation { Between: Between.MainsToAccessible } when under.At is { } metal =>
                $"{Lines(item)} joined, to {metal.Text}",
            Conditions.Insulation { Between: Between.MainsToAccessible } => $"{Lines(item)} joined, to accessible metal or foil",
            Conditions.Insulation => $"{Lines(item)} joined, to E",
            Conditions.Leakage leakage => Current(item, leakage),
            Conditions.RcdTrip => "Line to earth, downstream of the RCD",
            Conditions.Polarity => under.At is { } outlet ? $"L to L, N to N at {outlet.Text}" : "L to L, N to N",
            Conditions.Wiring => "L and N end to end; L to N open",
            Conditions.PadPath => "Paddle or pad to its connector",
            Conditions.DefibEnergy => "Paddles or pads into 50 Ω",
            Conditions.DefibCharge => "From the charge key to ready, fifteenth charge after fourteen discharges at maximum",
            Conditions.DefibSync => "From the R peak to the shock",
            Conditions.EcgAmplitude => "Simulator to ECG leads",
            _ => "",
        };

    private static string Lines(Item item) => item.Phases == 3 ? "L1+L2+L3+N" : "L+N";

    private static string Current(Item item, Conditions.Leakage under) =>
        under switch
        {
            { Kind: LeakageKind.AppliedPart, Method: LeakageMethod.Alternative } =>
                $"{under.AppliedPart} to mains and earth joined, supplied by the instrument",
            { Kind: LeakageKind.AppliedPart } when item.Class == ProtectionClass.Internal => $"{under.AppliedPart} to accessible parts",
            { Kind: LeakageKind.AppliedPart } => $"Mains onto {under.AppliedPart}, to earth",
            { Kind: LeakageKind.MainsOnAccessiblePart } =>
                $"Mains onto {under.At?.Text}; patient connections to earth through the body network",
            { Kind: LeakageKind.MainsOnAppliedPart } => $"Mains through the limiting resistor onto {under.AppliedPart}",
            { Kind: LeakageKind.Patient } => $"{under.AppliedPart} to earth through the body network",
            { Kind: LeakageKind.TotalPatient } => "All parts of the type, joined, to earth through the body network",
            { Kind: LeakageKind.PatientAuxiliary } => $"Between the connections of {under.AppliedPart}, through the body network",
            { Kind: LeakageKind.LeadToGround } => "Patient leads to ground through the body network",
            { Kind: LeakageKind.LeadToLead } => "Lead to lead through the body network",
            { Kind: LeakageKind.Touch } => under.At is { } part
                ? $"{part.Text} to earth through the body network"
                : "Probe on accessible metal or foil, to earth through the body network",
            { Kind: LeakageKind.Equipment, Method: LeakageMethod.Direct } =>
                "Earth interrupted, the current to earth through the body network",
            { Method: LeakageMethod.Alternative } => item.Class is ProtectionClass.II or ProtectionClass.IIFunctionalEarth
                ? $"{Lines(item)} joined, supplied by the instrument, to accessible parts"
                : $"{Lines(item)} joined, supplied by the instrument, to E",
            { Method: LeakageMethod.Differential } when item.IsHardWired => $"Clamp round {Lines(item)} together at the connection unit",
            { Method: LeakageMethod.Differential } => "Difference of the currents in L and N",
            { Kind: LeakageKind.Earth } => "In the earth conductor",
            _ => "In the protective conductor, item running",
        };

    /// <summary>What drives the measurement.</summary>
    public static string Source(RulePack pack, Item item, Conditions under) =>
        under switch
        {
            Conditions.EarthContinuity => pack.EarthCurrent?.Source ?? "low-resistance test current",
            Conditions.Insulation { TestVoltage: { } voltage } => $"{QuantityText.Number(voltage.Value)} V d.c.",
            Conditions.Leakage { Method: LeakageMethod.Alternative } => "supplied by the instrument, not powered",
            Conditions.Leakage when item.Class == ProtectionClass.Internal => "its own battery",
            Conditions.Leakage leakage => leakage.Polarity == MainsPolarity.Reversed
                ? "mains, reversed polarity"
                : "mains, normal polarity",
            Conditions.RcdTrip => "residual current from the instrument",
            Conditions.DefibEnergy or Conditions.DefibCharge or Conditions.DefibSync => "the defibrillator itself",
            Conditions.EcgAmplitude => "ECG simulator",
            _ => "",
        };

    public static int Seconds(Item item, Conditions under) =>
        under switch
        {
            Conditions.EarthContinuity or Conditions.RcdTrip => 3,
            Conditions.Insulation => 5,
            Conditions.Leakage { Method: LeakageMethod.Alternative } => 5,
            Conditions.Leakage => 5 + item.StartUpSeconds,
            Conditions.DefibCharge => 30,
            // So long a charge and the look round may take; it ends with the shock.
            Conditions.DefibEnergy or Conditions.DefibSync => 20,
            Conditions.Conductors or Conditions.PadPath => 1,
            _ => 0,
        };
}
