using Osierwand.Core.Isolation;
using Osierwand.Core.Kit;

namespace Osierwand.Core.Bench;

/// <summary>What dead is proved with is kit of the day: looked at, marked for boards and outlets, with a unit to prove it on.</summary>
internal static class IsolationKit
{
    /// <summary>A connection unit hangs on a final circuit.</summary>
    private const InstallationCategory Needed = InstallationCategory.III;

    /// <returns>Why this proof does not count, or null. Where no kit is known (a sheet that comes without one) the name stands for
    /// itself.</returns>
    public static string? Refusal(KitInHand? kit, IndicatorProved proved)
    {
        if (kit is null || SafeIsolation.Refusal(proved.Type) is not null)
            return null;
        if (kit.Chosen is null)
            return "Choose today's kit first: the indicator and its proving unit are named by it.";
        if (kit.Pieces.FirstOrDefault(it => it.Kind == KitKind.VoltageIndicator && IsNamed(it, proved.Indicator)) is not { } indicator)
            return $"{proved.Indicator.Trim()} is not among today's indicators.";
        if (!proved.Works)
            return null;
        if (WhyNot(indicator) is { } not)
            return not;
        if (proved.On != ProvingSource.ProvingUnit)
            return null;
        var units = kit.Pieces.Where(it => it.Kind == KitKind.ProvingUnit).ToArray();
        return units.Length == 0 ? "No proving unit is in today's kit."
            : units.Any(it => it.Trouble is null) ? null
            : $"{units[0].Name} may not be used. {units[0].Trouble}";
    }

    private static string? WhyNot(KitPiece it) =>
        it.Trouble is { } trouble ? $"{it.Name} may not be used. {trouble}"
        : it.Fitness != KitFitness.Fit ? $"{it.Name} is for dead work only."
        : it.Category is not { } category ? $"{it.Name} is marked for no category: nothing is proved dead with it."
        : category < Needed ? $"{it.Name} is marked for category {category}; at boards and outlets it must be {Needed}."
        : null;

    private static bool IsNamed(KitPiece it, string name) => string.Equals(it.Name, name.Trim(), StringComparison.OrdinalIgnoreCase);
}
