using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

public enum Scope
{
    Combined,
    FormalVisual,
    NewItem,
    AfterRepair,

    /// <summary>Started by a complaint; it ends with findings, never with a pass.</summary>
    FaultFinding,
}

public enum ClassIIPolicy
{
    Measure,
    LookOnly,
}

public enum NewItemPolicy
{
    LookOnly,
    Full,
}

public enum LeakagePolicy
{
    Powered,
    Alternative,
    None,
}

/// <summary>Insulation of medical equipment, which IEC 62353 leaves open.</summary>
public enum MedicalInsulationPolicy
{
    No,
    Yes,

    /// <summary>The device's own mains lead only.</summary>
    CordOnly,
}

/// <summary>Equipment leakage of permanently installed medical equipment.</summary>
public enum PermanentLeakagePolicy
{
    Measure,

    /// <summary>The building's protective measures are tested regularly; the reason stands on the paper.</summary>
    LeftOut,
}

public enum HardWiredPolicy
{
    InScope,
    Out,
}

/// <summary>Whether fixings are taken out to reach an item: a few screws, as the client allows.</summary>
public enum FixingsPolicy
{
    LeaveIn,
    TakeOut,
}

/// <summary>A client's choices where schools differ. Each is printed with what it led to.</summary>
public sealed record Policy
{
    public static readonly Policy Usual = new();

    public ClassIIPolicy ClassII { get; init; }
    public NewItemPolicy NewItem { get; init; }
    public LeakagePolicy Leakage { get; init; }
    public LeakageMethod MedicalMethod { get; init; }
    public MedicalInsulationPolicy MedicalInsulation { get; init; }
    public HardWiredPolicy HardWired { get; init; }
    public FixingsPolicy Fixings { get; init; }
    public PermanentLeakagePolicy PermanentLeakage { get; init; }

    /// <summary>Why it is left out; null where it is measured.</summary>
    public string? PermanentReason { get; init; }
}

/// <summary>What a scope and a policy leave of the measuring.</summary>
public static class ScopeOf
{
    /// <summary>What is said where a standard asks nothing of an item: no plan, no pass.</summary>
    public const string NoTest = "this standard has no test for it; choose another";

    /// <summary>What is said where the measuring needs mains that the site has not.</summary>
    public const string NoMains =
        "it is measured with alternating mains, and this site has direct current; test it on a supply of its kind";

    /// <summary>Why this item is not judged by this standard, or null. Looked at only, it needs no test of the standard's.</summary>
    public static string? Refusal(RulePack pack, Item item, Scope scope, Policy policy) =>
        !IncludesMeasuring(scope, policy, item, pack) || IsNothingAsked(item, pack) ? null
        : MedicalSystem.Trouble(item) is { } trouble ? trouble.TrimEnd('.')
        : !pack.Series.Any(it => IsAsked(it, item, pack, policy)) ? NoTest
        : pack.Series.Any(it => IsAsked(it, item, pack, policy) && LacksMains(it, item, pack, policy) && !MayInsulationStand(it, item))
            ? NoMains
        : null;

    /// <summary>At a site with direct current: what only alternating mains can make. It is neither planned nor ever done there: on direct
    /// current a filter leaks nothing, and nothing would pass. The alternative method brings its own supply, where the standard judges
    /// it.</summary>
    public static bool LacksMains(Series series, Item item, RulePack pack, Policy policy) =>
        pack.Hertz == 0 && series is { Powered: true, Test: Test.Leakage or Test.RcdTrip } && !IsByAlternative(series, item, pack, policy);

    private static bool IsByAlternative(Series series, Item item, RulePack pack, Policy policy)
    {
        var isWanted =
            pack.Scope == PackScope.Appliances
                ? policy.Leakage == LeakagePolicy.Alternative
                : policy.MedicalMethod == LeakageMethod.Alternative;
        return isWanted
            && item is { SwitchHidesMains: false, Class: not ProtectionClass.Internal }
            && series.Planning.All(under =>
                under is Conditions.Leakage leakage && pack.LimitFor(item, leakage with { Method = LeakageMethod.Alternative }) is not null
            );
    }

    private static bool MayInsulationStand(Series series, Item item) =>
        series is { Test: Test.Leakage, Need: Need.OneOfGroup } && !item.SwitchHidesMains;

    /// <summary>Internally powered and nothing of it touches a patient: the one kind of item that passes with nothing
    /// measured.</summary>
    public static bool IsNothingAsked(Item item, RulePack pack) =>
        pack.Scope == PackScope.Medical && item is { IsMedical: true, Class: ProtectionClass.Internal, AppliedParts.IsEmpty: true };

    /// <summary>Whether a verdict waits for it.</summary>
    public static bool IsAsked(Series series, Item item, RulePack pack, Policy policy) =>
        series.Need != Need.Optional && series.IsFor(item) && !IsLeftOut(series, item, pack, policy);

    /// <summary>Left out by the client's policy; never where it is the only thing that is measured.</summary>
    public static bool IsLeftOut(Series series, Item item, RulePack pack, Policy policy) =>
        series.AskedBy == AskedBy.PermanentLeakage
        && policy.PermanentLeakage == PermanentLeakagePolicy.LeftOut
        && pack.Series.Any(other => other.AskedBy == AskedBy.Pack && other.Need != Need.Optional && other.IsFor(item));

    /// <summary>False where the look and the functional check are all that a pass asks for.</summary>
    public static bool IncludesMeasuring(Scope scope, Policy policy, Item item, RulePack pack) =>
        scope == Scope.AfterRepair
        || !(
            scope == Scope.FormalVisual
            || (scope == Scope.NewItem && policy.NewItem == NewItemPolicy.LookOnly)
            || LooksOnly(policy, item, pack)
        );

    /// <summary>The client has all-insulated class II looked at only; never for hand-held items and never under a medical pack.</summary>
    public static bool LooksOnly(Policy policy, Item item, RulePack pack) =>
        policy.ClassII == ClassIIPolicy.LookOnly && item.MayBeLookedAtOnly && pack.Scope == PackScope.Appliances;
}
