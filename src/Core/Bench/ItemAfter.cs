using Osierwand.Core.Judging;
using Osierwand.Core.Planning;

namespace Osierwand.Core.Bench;

/// <summary>Where an item stands after an inspection.</summary>
public static class ItemAfter
{
    /// <summary>
    /// A fail quarantines; what was not tested, or only searched for a fault, stays where it was; a quarantined item is freed by a passed
    /// inspection after repair and by nothing lighter.
    /// </summary>
    public static ItemState StateOf(ItemState before, Outcome outcome, Scope scope) =>
        outcome switch
        {
            Outcome.Fail => ItemState.Quarantined,
            Outcome.NotTested or Outcome.Findings or Outcome.Withdrawn => before,
            _ when Scopes.IsHeld(before) => scope == Scope.AfterRepair ? ItemState.InService : before,
            _ => ItemState.InService,
        };
}
