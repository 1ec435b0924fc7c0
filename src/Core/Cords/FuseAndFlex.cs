using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Cords;

/// <param name="IsFault">Fails the look; otherwise it is worth telling.</param>
/// <param name="Text">What is wrong, with its numbers.</param>
public sealed record FuseFinding(bool IsFault, string Text);

/// <summary>The load, what protects it and what carries it.</summary>
/// <param name="Load">From the plate: its amperes, or watts over volts. Null for leads and plates without either.</param>
/// <param name="Carries">What the flex may carry; null when its size is unknown.</param>
/// <param name="Recommended">By the pack's rule; null where it has none or the load is unknown.</param>
public sealed record FuseFacts(Amperes? Load, Amperes? Fuse, Amperes? Carries, Amperes? Recommended)
{
    /// <summary>The arithmetic on one line: "10.4 A load ≤ 13 A fuse; 1.25 mm² carries 13 A".</summary>
    public string Summary(Item item)
    {
        var parts = new List<string>(3);
        if (Load is { } load)
            parts.Add($"{QuantityText.Number(load.Value)} A load");
        if (Fuse is { } fuse)
            parts.Add($"{QuantityText.Number(fuse.Value)} A fuse");
        if (Carries is { } carries)
            parts.Add($"{QuantityText.Number(item.Cord!.Conductor!.Value.Value)} mm² carries {QuantityText.Number(carries.Value)} A");
        return parts.Count == 0 ? "Plate, fuse and flex not entered" : string.Join(" · ", parts);
    }
}

/// <summary>Fuse against plate and flex: what is certain to be wrong, and what is worth telling.</summary>
public static class FuseAndFlex
{
    public static FuseFacts Facts(Item item, RulePack pack)
    {
        var load = item.RatedCurrent ?? (item.RatedPower is { } power ? power / Across(item, pack) : null);
        Amperes? recommended =
            pack.Fuse is { } rule && item.RatedPower is { } watts && !item.IsCord
                ? watts.Value <= rule.SmallUpTo.Value
                    ? rule.Small
                    : item.Cord?.Conductor is { } thin && thin.Value <= rule.ThinFlex.Value
                        ? rule.ThinFlexMost
                        : rule.Large
                : null;
        return new(item.IsCord ? null : load, item.PlugFuse, Carries(item, pack), recommended);
    }

    /// <summary>Volts by which watts are divided for the current in one line: on three phases the power is shared by all.</summary>
    private static Volts Across(Item item, RulePack pack) =>
        item.Phases != 3 ? pack.NominalFor(item)
        : item.RatedVoltage is { } lines ? Math.Sqrt(3) * lines
        : 3 * pack.NominalFor(item);

    /// <summary>What of a plug-in appliance nobody entered (readings that cannot be, rule 6).</summary>
    /// <returns>Null where all of it was, and for what has none: leads, what has no plug, and extra-low voltage.</returns>
    public static string? NotEntered(Item item, RulePack pack)
    {
        if (item.Kind != ItemKind.Appliance || item.IsHardWired || item.Class is ProtectionClass.III or ProtectionClass.Internal)
            return null;
        var missing = new List<string>(3);
        if (item.RatedPower is null && item.RatedCurrent is null)
            missing.Add("plate (W or A)");
        if (pack.Fuse is not null && item.Plug != PlugType.Industrial && item.PlugFuse is null)
            missing.Add("plug fuse");
        if (item.Cord is not { Detachable: true } && item.Cord?.Conductor is null)
            missing.Add("size of the flex");
        return missing.Count == 0
            ? null
            : $"Not entered: {string.Join(", ", missing)}. Load, fuse and flex were not checked against one another.";
    }

    public static IReadOnlyList<FuseFinding> Check(Item item, RulePack pack)
    {
        // The common case first: nothing about fuse or flex was entered, nothing can be said.
        if (item.PlugFuse is null && item.Cord is null)
            return [];
        var facts = Facts(item, pack);
        var findings = new List<FuseFinding>(0);
        var rounding = pack.Thresholds.PlateRounding;
        if (facts is { Load: { } load, Carries: { } carries } && Exceeds(load, (1 + rounding) * carries))
            findings.Add(new(true, $"The load of {A(load, carries)} is more than the {A(carries)} that the flex carries."));
        if (facts is { Load: { } drawn, Fuse: { } small } && Exceeds((1 - rounding) * drawn, small))
            findings.Add(new(true, $"The fuse of {A(small)} is below the load of {A(drawn, small)}."));
        if (item.IsCord && facts is { Fuse: { } fuse, Carries: { } most } && Exceeds(fuse, most))
            findings.Add(new(true, $"The fuse of {A(fuse)} is more than the {A(most)} that the flex carries."));
        if (pack.Fuse?.LargestMade is { } made && item.Plug != PlugType.Industrial && facts.Fuse is { } strange && Exceeds(strange, made))
            findings.Add(
                new(true, $"A fuse of {A(strange)} is not made for this plug, the largest is {A(made)}: something else bridges the holder.")
            );
        if (
            !item.IsCord
            && pack.Fuse is { } rule
            && facts.Fuse is { } behind
            && item.Cord?.Conductor is { } size
            && size.Value <= rule.ThinFlex.Value
            && Exceeds(behind, rule.ThinFlexMost)
        )
            findings.Add(
                new(
                    true,
                    $"A flex of {QuantityText.Number(size.Value)} mm² needs a fuse of {A(rule.ThinFlexMost)} or less, not {A(behind)}."
                )
            );
        if (facts is { Fuse: { } fitted, Recommended: { } right } && Exceeds(fitted, right))
            findings.Add(
                new(
                    false,
                    $"The fuse of {A(fitted)} is above the {A(right)} recommended for this load, unless the maker's marking asks for it."
                )
            );
        if (TooLong(item, pack) is { } length)
            findings.Add(length);
        return findings;
    }

    /// <returns>Null where the length is within the table, unknown, or the lead carries an RCD.</returns>
    internal static FuseFinding? TooLong(Item item, RulePack pack)
    {
        if (
            item.Kind is not (ItemKind.ExtensionLead or ItemKind.MultiwayAdapter)
            || item.Cord is not { Length: { } length, Conductor: { } size }
        )
            return null;
        CordLength? row = null;
        foreach (var candidate in pack.CordLengths)
            if (candidate.Size.Value <= size.Value)
                row = candidate;
        if (row is null || length.Value <= row.UpTo.Value || (item.Rcd is { } rcd && !Exceeds(rcd, pack.Thresholds.LongLeadRcd)))
            return null;
        return new(
            false,
            $"{QuantityText.Number(length.Value)} m of {QuantityText.Number(size.Value)} mm² is longer than {QuantityText.Number(row.UpTo.Value)} m: use it through a {QuantityText.Show(pack.Thresholds.LongLeadRcd)} RCD."
        );
    }

    /// <summary>
    /// Voltage lost along L and N of the flex at the load, and its share of nominal; null when length, size or load are unknown. For a
    /// lead the
    /// load is what its fuse lets through, else what its flex carries.
    /// </summary>
    public static (Volts Drop, double Share)? VoltageDrop(Item item, RulePack pack)
    {
        if (ConductorResistance.Of(item.Cord, pack) is not { } one)
            return null;
        var facts = Facts(item, pack);
        var load = item.IsCord
            ? facts.Fuse is { } fuse && facts.Carries is { } most && most.Value < fuse.Value
                ? most
                : facts.Fuse ?? facts.Carries
            : facts.Load;
        if (load is not { } amperes)
            return null;
        var drop = 2 * one.Value.Value * amperes.Value;
        return (new Volts(drop), drop / pack.NominalFor(item).Value);
    }

    private static Amperes? Carries(Item item, RulePack pack)
    {
        if (item.Cord is not { Conductor: { } size, Permanent: false })
            return null;
        Amperes? carries = null;
        var isShort = !item.IsCord && item.Cord.Length is { } length && length.Value <= pack.ShortFlex?.Value;
        foreach (var row in pack.Flex)
            if (row.Size.Value <= size.Value && ((isShort ? row.CarriesShort : null) ?? row.Carries) is { } amperes)
                carries = amperes;
        return carries;
    }

    private static bool Exceeds(Amperes a, Amperes b) => Comparison.Above(a.Value, b.Value);

    /// <summary>With as many digits as tell it from the other: 13.7 A beside 13 A, never "13 A is more than 13 A".</summary>
    private static string A(Amperes amperes, Amperes other)
    {
        for (var digits = 3; digits < 7; digits++)
            if (QuantityText.Number(amperes.Value, digits) is var text && text != QuantityText.Number(other.Value, digits))
                return $"{text} A";
        return A(amperes);
    }

    private static string A(Amperes amperes) => $"{QuantityText.Number(amperes.Value)} A";
}
