using Osierwand.Core.Quantities;

namespace Osierwand.Core.Equipment;

/// <summary>The battery that a device runs on when the mains goes away.</summary>
/// <param name="FittedOn">Null where nobody knows.</param>
/// <param name="LifeMonths">How long its maker gives it; null where the papers say nothing.</param>
public sealed record Battery(DateOnly? FittedOn = null, double? LifeMonths = null)
{
    public DateOnly? ReplaceBy => FittedOn is { } on && LifeMonths is { } months ? new Period(months).After(on) : null;
}
