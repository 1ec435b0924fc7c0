using Osierwand.Core.Equipment;

namespace Osierwand.Core.Bench;

/// <summary>Whose word counts where the register says otherwise of an item than was seen before it had its tag.</summary>
public enum FactsFrom
{
    /// <summary>What was seen: the register is corrected when the sheet is saved.</summary>
    Seen,

    /// <summary>The register: the plate was looked at again.</summary>
    Register,
}

/// <summary>
/// Measure first, name later: an item without a tag is measured by what is seen of it, and gets its tag before anything of it is saved. A
/// tag that is known makes it that item; what was seen then meets what the register says.
/// </summary>
public static class Naming
{
    public const string NoTagYet = "It has no tag yet: scan it, or register the item.";

    private const string AsSeen = "as it was seen, before it had its tag";
    private const string AsRegistered = "its plate was looked at again: the register is right";

    /// <summary>"appliance, class I".</summary>
    public static string SeenAs(ItemOnBench it) =>
        $"{EquipmentText.Kind(it.Equipment.Kind)}{(it.Equipment.IsHardWired ? ", hard-wired" : "")}, class "
        + EquipmentText.Class(it.Equipment.Class);

    /// <returns>Why what lies here cannot be the item that has this tag, in a sentence; null where it can.</returns>
    public static string? Refusal(ItemOnBench seen, ItemOnBench known)
    {
        var (here, there) = (seen.Equipment, known.Equipment);
        return here.Kind != there.Kind || here.IsHardWired != there.IsHardWired
            ? $"{known.Tag} is {known.Name} ({Plain(there)}), and what lies here is taken for something else ({Plain(here)}). "
                + "Look at the tag again; if it is right, measure it under its own tag."
            : null;
    }

    private static string Plain(Item it) => $"{EquipmentText.Kind(it.Kind)}{(it.IsHardWired ? ", hard-wired" : "")}";

    /// <summary>
    /// The facts in which the register says otherwise than was seen, as they were seen. What nobody said of a loose item is no
    /// contradiction: a box not ticked, a figure not entered.
    /// </summary>
    /// <returns>Null where nothing is contradicted.</returns>
    public static FactChanges? Contradicted(ItemOnBench seen, IntervalBasis seenBasis, ItemOnBench known, IntervalBasis knownBasis)
    {
        var (here, there) = (ItemText.Fields(seen, seenBasis), ItemText.Fields(known, knownBasis));
        var changes = new FactChanges
        {
            Evidence = seen.Equipment.Class == known.Equipment.Class ? null : seen.Evidence,
            RatedVoltageV = Other(here.RatedVoltageV, there.RatedVoltageV),
            RatedPowerW = Other(here.RatedPowerW, there.RatedPowerW),
            FlexLengthM = Other(here.FlexLengthM, there.FlexLengthM),
            FlexMm2 = Other(here.FlexMm2, there.FlexMm2),
            RcdMa = Other(here.RcdMa, there.RcdMa),
            Outlets = Other(here.Outlets, there.Outlets),
            Phases = Other(here.Phases, there.Phases),
            Heating = Said(here.Heating, there.Heating),
            SurgeProtected = Said(here.SurgeProtected, there.SurgeProtected),
            AllInsulated = Said(here.AllInsulated, there.AllInsulated),
            AppliedParts =
                here.AppliedParts is { } parts
                && (parts.Count > 0 || here.NoAppliedParts == true)
                && !parts.SequenceEqual(there.AppliedParts ?? [])
                    ? parts
                    : null,
            NoAppliedParts = Said(here.NoAppliedParts, there.NoAppliedParts),
        };
        return changes == new FactChanges() ? null : changes;
    }

    /// <summary>The same facts as the register has them.</summary>
    public static FactChanges AsTheRegisterHas(FactChanges contradicted, ItemOnBench known, IntervalBasis knownBasis)
    {
        var there = ItemText.Fields(known, knownBasis);
        return new()
        {
            Evidence = contradicted.Evidence is null ? null : known.Evidence,
            RatedVoltageV = contradicted.RatedVoltageV is null ? null : there.RatedVoltageV,
            RatedPowerW = contradicted.RatedPowerW is null ? null : there.RatedPowerW,
            FlexLengthM = contradicted.FlexLengthM is null ? null : there.FlexLengthM,
            FlexMm2 = contradicted.FlexMm2 is null ? null : there.FlexMm2,
            RcdMa = contradicted.RcdMa is null ? null : there.RcdMa,
            Outlets = contradicted.Outlets is null ? null : there.Outlets,
            Phases = contradicted.Phases is null ? null : there.Phases,
            Heating = contradicted.Heating is null ? null : there.Heating,
            SurgeProtected = contradicted.SurgeProtected is null ? null : there.SurgeProtected,
            AllInsulated = contradicted.AllInsulated is null ? null : there.AllInsulated,
            AppliedParts = contradicted.AppliedParts is null ? null : there.AppliedParts,
            NoAppliedParts = contradicted.NoAppliedParts is null ? null : there.NoAppliedParts,
        };
    }

    /// <summary>The contradictions in words, a line each: "Watts: 2200 in the register, 750 as seen".</summary>
    public static IEnumerable<string> Told(FactChanges contradicted, ItemOnBench known, IntervalBasis knownBasis)
    {
        if (contradicted.Evidence is { } evidence)
            yield return $"Class: {EquipmentText.Class(known.Equipment.Class)} in the register, "
                + $"{EquipmentText.Class(ClassDecisions.From(evidence).Class)} as seen";
        var figures = (
            Register: AsTheRegisterHas(contradicted, known, knownBasis) with
            {
                Evidence = null,
            },
            Seen: contradicted with
            {
                Evidence = null,
            }
        );
        foreach (var (name, was, seen) in FactLines.Differences(figures.Register, figures.Seen))
            yield return $"{name}: {was} in the register, {seen} as seen";
    }

    /// <summary>
    /// The sheet of a known item, made of what was done before anybody knew which item it is: first the facts as they were seen, so that
    /// what was measured under them is judged by them; then everything that happened; then the name; and where the register is right after
    /// all its own facts, under which everything is judged again.
    /// </summary>
    /// <param name="named">The naming itself; its time is that of what is added last.</param>
    /// <param name="contradicted">Of <see cref="Contradicted"/>.</param>
    /// <param name="ids">Numbers for what is added before and after: the same naming asked for twice is the same sheet.</param>
    public static IReadOnlyList<BenchEvent> Sheet(
        IReadOnlyList<BenchEvent> done,
        Named named,
        FactChanges? contradicted,
        FactChanges? registered,
        (Guid Seen, Guid Register) ids
    )
    {
        var first = done.Count > 0 ? done.Min(it => it.At) : named.At;
        return
        [
            .. contradicted is null ? (BenchEvent[])[] : [Facts(ids.Seen, first, contradicted, AsSeen)],
            .. done,
            named,
            .. registered is null ? (BenchEvent[])[] : [Facts(ids.Register, named.At, registered, AsRegistered)],
        ];
    }

    /// <summary>For the record and the paper.</summary>
    public static string Says(Named it) =>
        $"Measured before it had its tag, as {it.SeenAs}; then {(it.WasKnown ? "found to be" : "registered as")} {it.Tag}.";

    private static FactsChanged Facts(Guid id, DateTimeOffset at, FactChanges changes, string reason) =>
        new()
        {
            Id = id,
            At = at,
            Changes = changes,
            Reason = reason,
        };

    private static T? Other<T>(T? seen, T? known)
        where T : struct => seen is { } said && !Nullable.Equals(seen, known) ? said : null;

    private static bool? Said(bool? seen, bool? known) => seen == true && known != true ? true : null;
}
