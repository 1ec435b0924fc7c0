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

    /// <summary>Nobody has said it on this sheet yet.</summary>
    public static bool IsAsked(BenchState state, SheetStep step) =>
        state.StandsIsolated is null && step is SheetStep.Measure { Plan: var plan } && Matters(plan, state.Ruling.Item.Equipment);

    /// <returns>Why it cannot be said here, or null.</returns>
    internal static string? Refusal(Ruling ruling, RunSheet sheet, bool isIsolated) =>
        sheet.Steps.Any(step => step is SheetStep.Measure { Plan: var plan } && Matters(plan, ruling.Item.Equipment)) ? null
        : isIsolated ? "Nothing of this sheet is measured by the direct method."
        : "Nothing of this sheet is measured by the direct method: where else it is earthed matters to none.";

    /// <summary>Its earth is kept and the difference between its live conductors is measured instead, for the reason told.</summary>
    internal static Ruling ByDifference(Ruling ruling, string by) =>
        ruling with
        {
            Policy = ruling.Policy with { MedicalMethod = LeakageMethod.Differential },
            LeakageReason = $"it does not stand isolated: {by}",
        };

    /// <summary>As it was before <see cref="ByDifference"/>.</summary>
    internal static Ruling DirectAfterAll(Ruling ruling) =>
        ruling with
        {
            Policy = ruling.Policy with { MedicalMethod = LeakageMethod.Direct },
            LeakageReason = null,
        };
}
