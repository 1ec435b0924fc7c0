using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>An organisation's own limit on one row of a pack. It may only tighten.</summary>
/// <param name="RuleId">The row's id in its pack.</param>
/// <param name="Value">In <paramref name="Unit"/>. On a row that allows for the conductor it replaces the plain value, the allowance
/// stays; elsewhere it caps what the row gives.</param>
/// <param name="Reason">Why the house is stricter; it stands beside the limit on screens and papers.</param>
public sealed record HouseLimit(string RuleId, double Value, Unit Unit, string Reason)
{
    public Quantity Bound => new(Value * Unit.Factor, Unit.Dimension);
}

/// <summary>Lays an organisation's limits over a pack, and its figures over the rules that all packs share.</summary>
public static class HouseLimits
{
    /// <param name="revision">Counts the organisation's changes, so that a record names the limits it was judged by.</param>
    /// <returns>The tightened pack; a fault that names the entry for an unknown row, a wrong unit, a second limit on one row, or a
    /// loosening.</returns>
    public static Result<RulePack> Apply(RulePack pack, IReadOnlyList<HouseLimit> limits, int revision = 1)
    {
        if (limits.Count == 0)
            return pack;
        var rules = pack.Limits;
        var table = pack.Thresholds.Table;
        for (var i = 0; i < limits.Count; i++)
        {
            var at = rules.IndexOf(rules.FirstOrDefault(rule => rule.Id == limits[i].RuleId)!);
            if (at < 0 && table.Find(limits[i].RuleId) is not null)
            {
                var tightened = table.Tighten(limits[i]);
                if (tightened.Fault is { } loosened)
                    return loosened with { Path = $"[{i}].{loosened.Path}" };
                table = tightened.Value with { HouseRevision = revision };
                continue;
            }
            if (at < 0)
                return new Fault($"[{i}].limit", $"{pack.Id} has no limit “{limits[i].RuleId}”");
            if (rules[at].House is not null)
                return new Fault($"[{i}].limit", $"“{limits[i].RuleId}” is tightened twice");
            if (Refusal(rules[at], limits[i]) is { } refused)
                return refused with { Path = $"[{i}].{refused.Path}" };
            rules = rules.SetItem(at, rules[at] with { House = limits[i] });
        }
        if (rules != pack.Limits)
            pack = pack with { Limits = rules, HouseRevision = revision };
        return table == pack.Thresholds.Table ? pack : pack with { Thresholds = new(table) };
    }

    /// <summary>Lays an organisation's figures over a table.</summary>
    /// <returns>The tightened table; a fault that names the entry for an unknown row, a wrong unit, a second figure on one row, or a
    /// loosening.</returns>
    public static Result<ThresholdTable> Apply(ThresholdTable table, IReadOnlyList<HouseLimit> limits, int revision = 1)
    {
        for (var i = 0; i < limits.Count; i++)
        {
            var tightened = table.Tighten(limits[i]);
            if (tightened.Fault is { } fault)
                return fault with { Path = $"[{i}].{fault.Path}" };
            table = tightened.Value with { HouseRevision = revision };
        }
        return table;
    }

    /// <summary>Why a limit may not stand on a row, or null when it tightens it.</summary>
    public static Fault? Refusal(LimitRule rule, HouseLimit limit)
    {
        if (string.IsNullOrWhiteSpace(limit.Reason))
            return new Fault("reason", "say why the house is stricter");
        if (!double.IsFinite(limit.Value) || limit.Value <= 0)
            return new Fault("value", "must be greater than 0");
        if (rule.Formula is Formula.NoTrip)
            return new Fault("limit", "asks only that nothing trips; there is nothing to tighten");
        if (limit.Unit.Dimension != rule.Dimension)
            return new Fault("unit", $"“{limit.Unit.Symbol}” does not measure what {rule.What} limits");
        var floor = rule.Comparator == Comparator.NotLessThan;
        Quantity? loosest = rule.Formula switch
        {
            Formula.Fixed it => it.Value,
            Formula.PlusConductor it => it.Base,
            Formula.ByLength it => it.Ceiling,
            Formula.PerKilowatt it => it.Ceiling,
            _ => null,
        };
        if (loosest is not { } own || (floor ? limit.Bound.Si > own.Si : limit.Bound.Si < own.Si))
            return null;
        return new Fault(
            "value",
            limit.Bound.Si == own.Si
                ? $"{limit.Bound} is the standard's own limit; a house limit must be stricter"
                : $"{limit.Bound} would loosen the standard's {own}; a house limit may only tighten"
        );
    }
}
