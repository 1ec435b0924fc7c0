using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>
/// A lead's decision in place of a comparison. It is always printed as what it is. Medical leakage and a failed look cannot be overridden,
/// and the look has no reading to override, so that neither can be expressed.
/// </summary>
public sealed record Override
{
    private Override(Status to, string by, string reason) => (To, By, Reason) = (to, by, reason);

    /// <summary>Pass or fail.</summary>
    public Status To { get; }

    /// <summary>The lead who decided.</summary>
    public string By { get; }
    public string Reason { get; }

    /// <param name="pack">Null where an earlier inspection is read back: it was decided by the pack of that day.</param>
    /// <param name="item">Likewise, where it was not kept.</param>
    /// <param name="byLead">Whether the person has the role of a lead.</param>
    /// <returns>The override, or why there can be none.</returns>
    public static Result<Override> Of(RulePack? pack, Item? item, Test test, Status to, string by, bool byLead, string reason)
    {
        if (Refusal(pack, item, test, byLead) is { } refusal)
            return refusal;
        if (string.IsNullOrWhiteSpace(by))
            return new Fault("by", "name the lead who decides");
        if (string.IsNullOrWhiteSpace(reason))
            return new Fault("reason", "an override needs a reason");
        if (to is not (Status.Pass or Status.Fail))
            return new Fault("status", "an override decides pass or fail");
        return new Override(to, by, reason);
    }

    /// <returns>Why no override of this test can be made at all; null when one can.</returns>
    public static Fault? Refusal(RulePack? pack, Item? item, Test test, bool byLead)
    {
        if (!byLead)
            return new Fault("role", "only a lead may override a reading");
        if (test == Test.Leakage && (pack?.Scope == PackScope.Medical || item?.Kind is ItemKind.MedicalDevice or ItemKind.MedicalSystem))
            return new Fault("", "medical leakage is never overridden");
        return test == Test.Visual ? new Fault("", "a failed look is never overridden") : null;
    }
}
