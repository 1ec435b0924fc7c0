using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Kit;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>What an item is reached by at its supply end.</summary>
public enum SupplyEnd
{
    Plug,

    /// <summary>Five pins, by way of an adapter.</summary>
    ThreePhasePlug,

    /// <summary>A fused connection unit, isolated.</summary>
    ConnectionUnit,

    /// <summary>A battery: nothing is plugged in.</summary>
    None,

    /// <summary>In the wall: what powers the item is measured.</summary>
    WallOutlet,
}

/// <summary>What the other end of the instrument is joined to.</summary>
public enum FarEnd
{
    EarthPin,

    /// <summary>A clip or probe on metal.</summary>
    Metal,
    Foil,

    /// <summary>Contacts of an outlet of a lead.</summary>
    Outlet,

    /// <summary>Connections of an applied part.</summary>
    Patient,

    /// <summary>Nothing: what flows in the supply itself is measured.</summary>
    Supply,

    /// <summary>A clamp round the live conductors of what has no plug.</summary>
    Clamp,

    /// <summary>The supply end itself: both tips sit there, one pair after the other.</summary>
    SamePins,
}

/// <summary>What the instrument does between its two ends.</summary>
public enum Doing
{
    Ohms,
    TestVoltage,

    /// <summary>Mains on the item, its current measured.</summary>
    Powering,

    /// <summary>Mains pins joined and supplied through the instrument.</summary>
    JoinedSupply,

    /// <summary>Mains through a limiting resistor onto a part.</summary>
    MainsOnPart,
    Trip,

    /// <summary>An indicator that says whether a voltage is there.</summary>
    Indicating,

    /// <summary>A meter on a live supply.</summary>
    Volts,
}

/// <summary>What is joined to what for one step: the facts of its drawing, and nothing about how it is drawn.</summary>
/// <param name="Pins">Of the supply end, those that the instrument uses.</param>
/// <param name="ArePinsJoined">With one another, by the instrument or a link.</param>
/// <param name="FarPins">Of an outlet, those that are used.</param>
/// <param name="At">Name of the point, outlet or part; null where there is but one.</param>
/// <param name="IsMeter">Two probes in place of a tester's outlet.</param>
public sealed record Joining(
    SupplyEnd End,
    ImmutableArray<string> Pins,
    bool ArePinsJoined,
    FarEnd Far,
    ImmutableArray<string> FarPins,
    string? At,
    Doing Doing,
    bool IsMeter,
    bool IsEarthOpen,
    bool IsNeutralOpen,
    bool IsReversed,
    int Phases = 1
)
{
    private static readonly ImmutableArray<string> Earth = ["E"];
    private static readonly ImmutableArray<string> LiveAndNeutral = ["L", "N"];
    private static readonly ImmutableArray<string> ThreeLines = ["L1", "L2", "L3", "N"];
    private static readonly ImmutableArray<string> All = ["L", "N", "E"];
    private static readonly ImmutableArray<string> AllOfThree = ["L1", "L2", "L3", "N", "E"];

    /// <returns>Null for what is looked at, answered or done without an instrument's ends.</returns>
    public static Joining? Of(Item item, Conditions under, School school)
    {
        var isMeter = school == School.Meter && !Preparation.IsByClamp(item, under);
        var end =
            item.Class == ProtectionClass.Internal ? SupplyEnd.None
            : item.IsHardWired ? SupplyEnd.ConnectionUnit
            : item.Phases == 3 ? SupplyEnd.ThreePhasePlug
            : SupplyEnd.Plug;
        var lines = item.Phases == 3 ? ThreeLines : LiveAndNeutral;
        Joining Made(ImmutableArray<string> pins, bool joined, FarEnd far, Doing doing, ImmutableArray<string> farPins = default) =>
            new(
                end,
                pins,
                joined,
                far,
                farPins.IsDefault ? [] : farPins,
                under.At?.Text ?? under.AppliedPart,
                doing,
                isMeter,
                false,
                false,
                false,
                item.Phases
            );
        return under switch
        {
            Conditions.EarthContinuity { Path: EarthPath.Loop } => Made(["L", "E"], false, FarEnd.Outlet, Doing.Ohms, ["L", "E"]),
            Conditions.EarthContinuity => item.IsCord
                ? Made(Earth, false, FarEnd.Outlet, Doing.Ohms, Earth)
                : Made(Earth, false, FarEnd.Metal, Doing.Ohms),
            Conditions.Insulation { Between: Between.MainsToAppliedPart } => Made(lines, true, FarEnd.Patient, Doing.TestVoltage),
            Conditions.Insulation { Between: Between.MainsToAccessible } => Made(lines, true, Touched(item), Doing.TestVoltage),
            Conditions.Insulation => Made(lines, true, HasEarth(item) ? FarEnd.EarthPin : Touched(item), Doing.TestVoltage),
            Conditions.Conductors => Made(LiveAndNeutral, false, FarEnd.Outlet, Doing.Ohms, LiveAndNeutral),
            Conditions.RcdTrip => Made(All, false, FarEnd.Outlet, Doing.Trip, ["L", "E"]),
            Conditions.Leakage leakage => Made(
                end == SupplyEnd.None ? []
                    : leakage.Method == LeakageMethod.Alternative ? lines
                    : item.Phases == 3 ? AllOfThree
                    : All,
                leakage.Method == LeakageMethod.Alternative,
                FarOf(item, leakage),
                DoingOf(leakage)
            ) with
            {
                IsEarthOpen = leakage.Earth == ConductorState.Open,
                IsNeutralOpen = leakage.Neutral == ConductorState.Open,
                IsReversed = leakage.Polarity == MainsPolarity.Reversed,
            },
            _ => null,
        };
    }

    /// <summary>The outlet that is to power the item, pair by pair.</summary>
    public static Joining AtOutlet(int phases) => BothTips(SupplyEnd.WallOutlet, phases, Doing.Volts, null);

    /// <summary>Proving dead, pair by pair.</summary>
    /// <param name="side">"supply side" or "load side".</param>
    public static Joining ProvingDead(int phases, string side) => BothTips(SupplyEnd.ConnectionUnit, phases, Doing.Indicating, side);

    private static Joining BothTips(SupplyEnd end, int phases, Doing doing, string? at) =>
        new(end, phases == 3 ? AllOfThree : All, false, FarEnd.SamePins, [], at, doing, true, false, false, false, phases);

    /// <summary>Of the supply end, whether they are used or not.</summary>
    public ImmutableArray<string> AllPins =>
        End == SupplyEnd.None ? []
        : Phases == 3 ? AllOfThree
        : All;

    /// <summary>What is drawn, in a sentence for whoever does not see it.</summary>
    public string Text
    {
        get
        {
            var pins = Pins.IsEmpty
                ? "nothing plugged in"
                : $"{string.Join(", ", Pins)}{(ArePinsJoined ? " joined" : "")} of the {NameOf(End)}";
            if (Far == FarEnd.SamePins)
                return $"Drawing: both tips of the {Instrument} on {string.Join(", ", Pins)} of the {NameOf(End)}"
                    + $"{(At is { } side ? $", {side}" : "")}, one pair after the other: earth or neutral first, line last.";
            if (Far == FarEnd.Clamp)
                return $"Drawing: a leakage clamp round {string.Join(", ", Pins.Except(Earth))} of the {NameOf(End)} together, the earth left outside.";
            var opened = Opened.IsEmpty ? "" : $"; {string.Join(", ", Opened)}";
            return $"Drawing: {pins}, {FarText}, by the {(IsMeter ? "two probes of the meter" : Instrument)}{opened}.";
        }
    }

    public string Instrument =>
        Doing == Doing.Indicating ? "indicator"
        : Far == FarEnd.Clamp ? "clamp"
        : IsMeter ? "meter"
        : "tester";

    /// <summary>Name of the far end beside it: the point, or what kind of point it is.</summary>
    public string FarName =>
        At
        ?? Far switch
        {
            FarEnd.Metal => "bare metal",
            FarEnd.Foil => "foil or mesh",
            FarEnd.Outlet => "far end",
            FarEnd.Patient => "patient leads",
            _ => "",
        };

    /// <summary>What the condition opens or changes over, in words.</summary>
    public ImmutableArray<string> Opened =>
        [
            .. IsReversed ? ["L and N changed over"] : (string[])[],
            .. IsNeutralOpen ? ["neutral open"] : (string[])[],
            .. IsEarthOpen ? ["earth open"] : (string[])[],
        ];

    /// <summary>Where both tips go to the same place: which first, which last, and that no pair is left out.</summary>
    public ImmutableArray<string> Order => Far == FarEnd.SamePins ? ["earth or neutral first", "line last", "every pair in turn"] : [];

    public static string NameOf(SupplyEnd end) =>
        end switch
        {
            SupplyEnd.Plug => "plug",
            SupplyEnd.ThreePhasePlug => "plug, by adapter",
            SupplyEnd.ConnectionUnit => "connection unit",
            SupplyEnd.WallOutlet => "outlet",
            _ => "battery",
        };

    private string FarText =>
        Far switch
        {
            FarEnd.Outlet => $"to {string.Join(", ", FarPins)} of the {FarName}",
            FarEnd.EarthPin => "to the earth pin",
            FarEnd.Supply => "measured in the supply",
            _ => $"to {FarName}",
        };

    private static FarEnd FarOf(Item item, Conditions.Leakage under) =>
        under switch
        {
            _ when Preparation.IsByClamp(item, under) => FarEnd.Clamp,
            { Kind: LeakageKind.Touch or LeakageKind.MainsOnAccessiblePart } => Touched(item),
            { Kind: LeakageKind.ProtectiveConductor or LeakageKind.Earth or LeakageKind.Equipment } => HasEarth(item)
                ? under.Method == LeakageMethod.Alternative
                    ? FarEnd.EarthPin
                    : FarEnd.Supply
                : Touched(item),
            _ => FarEnd.Patient,
        };

    private static Doing DoingOf(Conditions.Leakage under) =>
        under switch
        {
            { Kind: LeakageKind.MainsOnAppliedPart or LeakageKind.MainsOnAccessiblePart }
            or { Kind: LeakageKind.AppliedPart, Method: LeakageMethod.Direct } => Doing.MainsOnPart,
            { Method: LeakageMethod.Alternative } => Doing.JoinedSupply,
            _ => Doing.Powering,
        };

    private static FarEnd Touched(Item item) => item.AllInsulated ? FarEnd.Foil : FarEnd.Metal;

    private static bool HasEarth(Item item) =>
        item.Class is ProtectionClass.I or ProtectionClass.INoAccessibleMetal or ProtectionClass.Undecided || item.IsCord;
}
