using Osierwand.Core.Quantities;

namespace Osierwand.Core.Equipment;

/// <summary>The battery that a device runs on when the mains goes away.</summary>
/// <param name="FittedOn">Null where nobody knows.</param>
/// <param name="LifeMonths">How long its maker gives it; null where the papers say nothing.</param>
public sealed record Battery(DateOnly? FittedOn = null, double? LifeMonths = null)
{
    private const int OldestYear = 1980;
    private const int LatestYear = 2200;
    private const int MostMonths = 240;

    public DateOnly? ReplaceBy => FittedOn is { } on && LifeMonths is { } months ? new Period(months).After(on) : null;

    /// <returns>Why there is no such battery, in a sentence; null where there may be.</returns>
    public string? Refusal() =>
        LifeMonths is { } months && !(months > 0 && months <= MostMonths) ? $"A battery lives above 0 and at most {MostMonths} months."
        : FittedOn is { Year: < OldestYear or > LatestYear } ? $"A battery was fitted between {OldestYear} and {LatestYear}."
        : null;
}
