using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>The direct method interrupts the earth and measures what flows through it: a device that is earthed by something else shows
/// less than it leaks. So whoever measures is asked, once a sheet, before the first such reading.</summary>
public static class IsolatedStanding
{
    /// <summary>The reading would be too small if the device were earthed by anything else.</summary>
    public static bool Matters(PlanStep.Measure plan, Item item) =>
        plan.Under is Conditions.Leakage { Kind: LeakageKind.Equipment, Method: LeakageMethod.Direct }
        && item.IsMedical
        && item.Class != ProtectionClass.Internal;

    /// <summary>Nobody has said it since the item was plugged in.</summary>
    public static bool IsAsked(BenchState state, SheetStep step) =>
        !state.IsStandingKnown && step is SheetStep.Measure { Plan: var plan } && Matters(plan, state.Ruling.Item.Equipment);

    /// <summary>Something else earths it, and this step measures by difference for that: it may be taken back.</summary>
    public static bool IsByDifference(BenchState state, SheetStep step) =>
        state.StandsIsolated == false
        && step is SheetStep.Measure { Plan.Under: Conditions.Leakage { Kind: LeakageKind.Equipment, Method: LeakageMethod.Differential } };

    /// <returns>Why it cannot be said here, or null.</returns>
    internal static string? Refusal(Ruling ruling, RunSheet sheet) =>
        sheet.Steps.Any(step => step is SheetStep.Measure { Plan: var plan } && Matters(plan, ruling.Item.Equipment))
            ? null
            : "Nothing of this sheet is measured by the direct method: where else it is earthed matters to none.";

    /// <summary>Its earth is kept and the difference between its live conductors is measured instead, for the reason told.</summary>
    internal static Ruling ByDifference(Ruling ruling, string by) =>
        Measured(ruling, LeakageMethod.Differential, $"it does not stand isolated: {by}");

    internal static Ruling Measured(Ruling ruling, LeakageMethod method, string? reason) =>
        ruling with
        {
            Policy = ruling.Policy with { MedicalMethod = method },
            LeakageReason = reason,
        };
}
