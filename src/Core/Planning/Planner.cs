using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>
/// Computes the run sheet: the look, fuse and flex, then the pack's series in its order, then the functional check. Earth comes first,
/// then insulation, then whatever powers the item, because that is the order in which the packs list them.
/// </summary>
public static class Planner
{
    public static Plan Of(RulePack pack, Item item, Policy policy, Scope scope = Scope.Combined)
    {
        var remarks = new List<string>();
        var steps = new List<PlanStep> { Plain(Test.Visual) with { Needs = Preparation.MakeSafe(item) } };
        if (HasPlug(item)) steps.Add(Plain(Test.Fuse));
        if (ScopeOf.IncludesMeasuring(scope, policy, item, pack))
        {
            foreach (var series in pack.Series)
            {
                if (series.Planned && series.IsFor(item) && !DroppedByPolicy(series, policy)) AddSeries(pack, item, policy, series, steps);
            }
        }
        else
        {
            remarks.Add(scope == Scope.Combined ? "Looked at only: the client's choice for all-insulated class II that is not held in the hand." : "Look and functional check only; the record will not say “tested”.");
        }
        steps.Add(Plain(Test.Functional) with { Needs = Preparation.Functional(item) });
        if (item.Class == ProtectionClass.INoAccessibleMetal) remarks.Add("No point to measure earth continuity at: there is no metal within reach.");
        if (item.Class == ProtectionClass.Undecided) remarks.Add("Class undecided: tested as class I and as class II, the stricter limit kept.");
        if (item.Class == ProtectionClass.III) remarks.Add("The supply unit is an item of its own.");
        if (item.SurgeProtected) remarks.Add("Surge protected: insulation at 250 V, never 500 V; the suppressor conducts and mimics a fault.");
        return new(pack, item, [.. steps.Select((step, at) => step with { Stops = StopsAfter(step, steps.Skip(at + 1)) })], [.. remarks]);
    }

    private static bool HasPlug(Item item) =>
        !item.IsHardWired && !item.IsLead && item.Kind == ItemKind.Appliance && item.Class != ProtectionClass.III;

    private static bool DroppedByPolicy(Series series, Policy policy) =>
        series.Test == Test.Leakage && policy.Leakage == LeakagePolicy.None && series.Need is Need.OneOfGroup or Need.Optional;

    private static void AddSeries(RulePack pack, Item item, Policy policy, Series series, List<PlanStep> steps)
    {
        var method = Method(pack, item, policy, series);
        var alternativeSatisfies = series.Satisfied is { } all && all.Methods.Has(LeakageMethod.Alternative) && method == LeakageMethod.Alternative;
        var conditions = alternativeSatisfies ? series.Each[..1] : series.Each;
        foreach (var (part, point) in Repeats(item, series))
        {
            foreach (var each in conditions)
            {
                var under = Under(series, each, item) with { Method = method, AppliedPart = part, Point = point };
                steps.Add(Step(pack, item, series, under));
            }
        }
    }

    private static LeakageMethod Method(RulePack pack, Item item, Policy policy, Series series)
    {
        if (series.Test != Test.Leakage) return LeakageMethod.Direct;
        if (pack.Scope == PackScope.Appliances)
            return policy.Leakage == LeakagePolicy.Alternative && item.MainsSwitch == MainsSwitch.Mechanical ? LeakageMethod.Alternative : LeakageMethod.Direct;
        // An electronic switch keeps the mains part dead without power, and an internal source has no mains pins to join.
        if (item.MainsSwitch == MainsSwitch.Electronic && policy.MedicalMethod == LeakageMethod.Alternative) return LeakageMethod.Direct;
        if (item.Class == ProtectionClass.Internal) return LeakageMethod.Direct;
        return HasLimit(pack, item, series, policy.MedicalMethod) ? policy.MedicalMethod : LeakageMethod.Direct;
    }

    private static bool HasLimit(RulePack pack, Item item, Series series, LeakageMethod method) =>
        pack.LimitFor(item, series.Test, Under(series, series.Each[0], item) with { Method = method }) is not null;

    private static IEnumerable<(string? Part, string? Point)> Repeats(Item item, Series series) => series.Repeat switch
    {
        Repeat.PerOutlet when item.Outlets > 1 => Enumerable.Range(1, item.Outlets).Select(n => (default(string), (string?)$"outlet {n}")),
        Repeat.PerAppliedPart => item.AppliedParts.Where(part => series.Reading.AppliedPartTypes.Has(part.Type)).Select(part => ((string?)part.Name, default(string))),
        _ => [(null, null)],
    };

    private static Conditions Under(Series series, ReadingPattern each, Item item) => new()
    {
        Kind = First(series.Reading.Kinds),
        Polarity = First(each.Polarities),
        Neutral = First(each.Neutral),
        Earth = First(each.Earth),
        Power = First(each.Power),
        Between = First(each.Between),
        Multiple = each.Multiple ?? 1,
        PhaseDeg = each.PhaseDeg ?? 0,
        Part = series.Reading.Parts.IsAny ? EarthPart.DeviceWithCord : First(series.Reading.Parts),
        // Leads plug into the instrument at both ends, so their earth is read end to end.
        Path = EarthPath.ProtectiveConductor,
    };

    private static T First<T>(SetOf<T> set) where T : struct, Enum => set.IsAny ? default : Enum.GetValues<T>().First(set.Has);

    private static PlanStep Step(RulePack pack, Item item, Series series, Conditions under)
    {
        var limit = pack.LimitFor(item, series.Test, under);
        var powered = series.Powered && under.Method != LeakageMethod.Alternative;
        var hazard = series.Test switch
        {
            Test.Insulation => HazardKind.TestVoltage,
            Test.Leakage when under.Kind == LeakageKind.MainsOnAppliedPart || (under.Kind == LeakageKind.AppliedPart && under.Method == LeakageMethod.Direct) => HazardKind.MainsOnPatient,
            _ => powered ? HazardKind.ItemLive : HazardKind.None,
        };
        Volts? voltage = series.Test == Test.Insulation ? TestVoltages.For(item) : null;
        return new(series.Test, under, voltage, limit, hazard, Preparation.Hazard(hazard, item, voltage), Preparation.Needs(series.Test, item, under),
            [], Preparation.Terminals(series.Test, item, under), Preparation.Seconds(series.Test));
    }

    private static PlanStep Plain(Test test) =>
        new(test, Conditions.Usual, null, null, HazardKind.None, null, [], [], "", 0);

    /// <summary>A failed look or earth path stops everything after it; failed insulation stops whatever powers the item.</summary>
    private static ImmutableArray<Test> StopsAfter(PlanStep step, IEnumerable<PlanStep> later) => step.Test switch
    {
        Test.Visual or Test.Fuse or Test.EarthContinuity => [.. later.Select(it => it.Test).Distinct().Where(test => test != step.Test)],
        Test.Insulation => [.. later.Where(it => it.HazardKind is HazardKind.ItemLive or HazardKind.MainsOnPatient || it.Test == Test.Functional).Select(it => it.Test).Distinct()],
        _ => [],
    };
}
