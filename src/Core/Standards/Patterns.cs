using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;

namespace Osierwand.Core.Standards;

/// <summary>A range, open below and closed above where both are given: "above 10 mA up to 30 mA". An unknown amount lies in no bounded
/// range.</summary>
/// <param name="AtLeast">Closed lower end, for rows that say "3 kW or more".</param>
public readonly record struct Range(double? Above = null, double? UpTo = null, double? AtLeast = null)
{
    [JsonIgnore]
    public bool IsAny => Above is null && UpTo is null && AtLeast is null;

    /// <summary>Whether every amount of the other range lies in this one.</summary>
    public bool Covers(Range other) =>
        IsAny
        || (
            !other.IsAny
            && (UpTo is null || other.UpTo <= UpTo)
            && (
                (Above is null && AtLeast is null) || other.Above >= (Above ?? AtLeast) || other.AtLeast > Above || other.AtLeast >= AtLeast
            )
        );

    public bool Has(double? amount) => IsAny || (amount is { } it && !(it <= Above) && !(it > UpTo) && !(it < AtLeast));
}

/// <summary>Which items a row of a pack speaks of. Everything left out matches.</summary>
public sealed record ItemPattern
{
    public static readonly ItemPattern Any = new();

    public SetOf<ItemKind> Kinds { get; init; }
    public SetOf<ProtectionClass> Classes { get; init; }
    public SetOf<UseOf> Uses { get; init; }
    public bool? Heating { get; init; }
    public bool? MetalSheathedElement { get; init; }
    public bool? MobileXray { get; init; }
    public bool? HardWired { get; init; }
    public bool? HasRcd { get; init; }
    public bool? ElectronicSwitch { get; init; }
    public bool? HasAppliedParts { get; init; }

    public bool? HasDefibrillator { get; init; }
    public bool? Synchronises { get; init; }
    public bool? ShowsEcg { get; init; }

    /// <summary>An applied part with two or more connections.</summary>
    public bool? HasConnectionPairs { get; init; }

    /// <summary>An applied part of one of these types.</summary>
    public SetOf<AppliedPartType> PartTypes { get; init; }

    public Range? PowerW { get; init; }
    public Range? ConductorMm2 { get; init; }
    public Range? RcdMa { get; init; }

    /// <param name="itemClass">The class to match by: an undecided item is asked for twice, once as I and once as II.</param>
    public bool Matches(Item item, ProtectionClass itemClass) =>
        Kinds.Has(item.Kind)
        && Classes.Has(itemClass)
        && Uses.Has(item.Use)
        && Is(Heating, item.Heating)
        && Is(MetalSheathedElement, item.MetalSheathedElement)
        && Is(MobileXray, item.MobileXray)
        && Is(HardWired, item.IsHardWired)
        && Is(HasRcd, item.Rcd is not null || item.Kind == ItemKind.PortableRcd)
        && Is(ElectronicSwitch, item.MainsSwitch == MainsSwitch.Electronic)
        && Is(HasAppliedParts, !item.AppliedParts.IsEmpty)
        && Is(HasDefibrillator, item.Defibrillator is not null)
        && Is(Synchronises, item.Defibrillator is { Synchronises: true })
        && Is(ShowsEcg, item.Defibrillator is { EcgSetMv: not null })
        && (HasConnectionPairs is null || HasConnectionPairs == HasPairs(item))
        && (PartTypes.IsAny || HasPartOf(PartTypes, item))
        && (PowerW is not { } power || power.Has(item.RatedPower?.Value))
        && (ConductorMm2 is not { } size || size.Has(item.Cord?.Conductor?.Value))
        && (RcdMa is not { } residual || residual.Has(item.Rcd?.Value * 1000));

    /// <summary>Whether it speaks of every item the other speaks of.</summary>
    public bool Covers(ItemPattern other) =>
        Kinds.Covers(other.Kinds)
        && Classes.Covers(other.Classes)
        && Uses.Covers(other.Uses)
        && Covers(Heating, other.Heating)
        && Covers(MetalSheathedElement, other.MetalSheathedElement)
        && Covers(MobileXray, other.MobileXray)
        && Covers(HardWired, other.HardWired)
        && Covers(HasRcd, other.HasRcd)
        && Covers(ElectronicSwitch, other.ElectronicSwitch)
        && Covers(HasAppliedParts, other.HasAppliedParts)
        && Covers(HasDefibrillator, other.HasDefibrillator)
        && Covers(Synchronises, other.Synchronises)
        && Covers(ShowsEcg, other.ShowsEcg)
        && Covers(HasConnectionPairs, other.HasConnectionPairs)
        && PartTypes.Covers(other.PartTypes)
        && Covers(PowerW, other.PowerW)
        && Covers(ConductorMm2, other.ConductorMm2)
        && Covers(RcdMa, other.RcdMa);

    private static bool Covers(Range? wanted, Range? other) => wanted is not { } range || range.Covers(other ?? default);

    private static bool Covers(bool? wanted, bool? other) => wanted is null || wanted == other;

    private static bool Is(bool? wanted, bool actual) => wanted is null || wanted == actual;

    private static bool HasPartOf(SetOf<AppliedPartType> types, Item item)
    {
        foreach (var part in item.AppliedParts)
            if (types.Has(part.Type))
                return true;
        return false;
    }

    private static bool HasPairs(Item item)
    {
        foreach (var part in item.AppliedParts)
            if (part.HasPairs)
                return true;
        return false;
    }
}

/// <summary>Which readings a row speaks of. Everything left out matches, except that a row speaks of a.c. unless it names d.c.</summary>
public sealed record ReadingPattern
{
    public static readonly ReadingPattern Any = new();

    public SetOf<LeakageKind> Kinds { get; init; }
    public SetOf<LeakageMethod> Methods { get; init; }

    /// <summary>Left out it is a.c. alone, and not any.</summary>
    public SetOf<CurrentType> Currents { get; init; }
    public SetOf<MainsPolarity> Polarities { get; init; }
    public SetOf<ConductorState> Neutral { get; init; }
    public SetOf<ConductorState> Earth { get; init; }
    public SetOf<PowerState> Power { get; init; }
    public SetOf<Between> Between { get; init; }
    public SetOf<EarthPart> Parts { get; init; }

    /// <summary>Of an insulation reading.</summary>
    public SetOf<InsulationPart> InsulationParts { get; init; }
    public SetOf<AppliedPartType> AppliedPartTypes { get; init; }
    public SetOf<SyncTrigger> Triggers { get; init; }
    public double? Multiple { get; init; }
    public int? PhaseDeg { get; init; }

    // No initial value of the property: generated readers of JSON overwrite it where the member is left out.
    private SetOf<CurrentType> Spoken => Currents.IsAny ? SetOf<CurrentType>.Of(CurrentType.Ac) : Currents;

    /// <summary>Whether it speaks of every reading the other speaks of.</summary>
    public bool Covers(ReadingPattern other) =>
        Kinds.Covers(other.Kinds)
        && Methods.Covers(other.Methods)
        && Spoken.Covers(other.Spoken)
        && Polarities.Covers(other.Polarities)
        && Neutral.Covers(other.Neutral)
        && Earth.Covers(other.Earth)
        && Power.Covers(other.Power)
        && Between.Covers(other.Between)
        && Parts.Covers(other.Parts)
        && InsulationParts.Covers(other.InsulationParts)
        && AppliedPartTypes.Covers(other.AppliedPartTypes)
        && Triggers.Covers(other.Triggers)
        && (Multiple is null || Multiple == other.Multiple)
        && (PhaseDeg is null || PhaseDeg == other.PhaseDeg);

    public bool Matches(Conditions it, AppliedPartType? partType) =>
        (AppliedPartTypes.IsAny || (partType is { } type && AppliedPartTypes.Has(type)))
        && it switch
        {
            Conditions.EarthContinuity earth => Parts.Has(earth.Part),
            Conditions.Insulation insulation => Between.Has(insulation.Between) && InsulationParts.Has(insulation.Part),
            Conditions.Leakage leakage => Kinds.Has(leakage.Kind)
                && Methods.Has(leakage.Method)
                && Spoken.Has(leakage.Current)
                && Polarities.Has(leakage.Polarity)
                && Neutral.Has(leakage.Neutral)
                && Earth.Has(leakage.Earth)
                && Power.Has(leakage.Power),
            Conditions.RcdTrip trip => (Multiple is null || Multiple == trip.Multiple) && (PhaseDeg is null || PhaseDeg == trip.PhaseDeg),
            Conditions.DefibSync sync => Triggers.Has(sync.Trigger),
            _ => true,
        };
}
