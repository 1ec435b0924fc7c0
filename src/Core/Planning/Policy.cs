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

    /// <summary>Detachable mains leads only.</summary>
    CordOnly,
}

public enum HardWiredPolicy
{
    InScope,
    Out,
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
}

/// <summary>What a scope and a policy leave of the measuring.</summary>
public static class ScopeOf
{
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
