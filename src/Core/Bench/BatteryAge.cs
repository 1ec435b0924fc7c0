namespace Osierwand.Core.Bench;

/// <summary>A battery ages by the calendar: what is past its life, or will be before anybody looks again, is told with a pass.</summary>
internal static class BatteryAge
{
    /// <returns>A sentence, or null where nothing is to be told.</returns>
    public static string? Advice(Ruling ruling) =>
        ruling.Item.Equipment.Battery?.ReplaceBy is not { } by ? null
        : by < ruling.Today ? $"Its battery was to be replaced by {by:yyyy-MM-dd}."
        : ruling.Basis.Interval is { } interval && by < interval.After(ruling.Today)
            ? $"Its battery is to be replaced by {by:yyyy-MM-dd}, before its next test."
        : null;
}
