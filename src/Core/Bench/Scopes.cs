using Osierwand.Core.Planning;

namespace Osierwand.Core.Bench;

/// <summary>Which scopes an item may be inspected under.</summary>
public static class Scopes
{
    /// <summary>After a repair the inspection starts again from the look; a quarantined item is never simply tested again.</summary>
    /// <param name="isPlannedLook">Its round was planned with its formal visual alone.</param>
    public static Scope Usual(ItemState state, bool isPlannedLook = false) =>
        IsHeld(state) ? Scope.AfterRepair
        : isPlannedLook ? Scope.FormalVisual
        : Scope.Combined;

    /// <returns>Why not; null when it may be chosen.</returns>
    public static string? Refusal(Ruling ruling, Scope scope) =>
        scope switch
        {
            Scope.FaultFinding or Scope.AfterRepair => null,
            _ when IsHeld(ruling.Item.State) => "It failed and is quarantined: only an inspection after repair frees it.",
            Scope.NewItem when ruling.Basis.Inspections > 0 => "It has been inspected before: it is not new.",
            _ => null,
        };

    public static bool IsHeld(ItemState state) => state is ItemState.Quarantined or ItemState.InRepair;
}
