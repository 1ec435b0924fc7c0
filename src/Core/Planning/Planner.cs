using System.Collections.Concurrent;
using System.Collections.Immutable;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Kit;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>
/// Computes the run sheet: the look, fuse and flex, then the pack's series in its order, then the functional check. Earth comes first,
/// then insulation, then whatever powers the item, because that is the order in which the packs list them.
/// </summary>
public static class Planner
{
    /// <param name="kit">What the technician measures with; null for an appliance tester that does everything.</param>
    public static Plan Of(RulePack pack, Item item, Policy policy, Scope scope = Scope.Combined, Instrumentation? kit = null)
    {
        var draft = new Draft(pack, item, policy, kit ?? Instrumentation.Tester);
        draft.Add(new PlanStep.Look { Needs = Preparation.MakeSafe(item, pack.Thresholds) });
        if (HasPlug(item))
            draft.Add(new PlanStep.FuseAndFlex());
        var measured = ScopeOf.IncludesMeasuring(scope, policy, item, pack);
        if (measured)
        {
            foreach (var series in pack.Series)
            {
                if (series.Planned && series.IsFor(item) && Asked(series, item, pack, policy))
                    draft.Add(series);
            }
        }
        draft.Add(new PlanStep.Functional { Needs = Preparation.Functional(item) });
        if (item.Class == ProtectionClass.Undecided)
            draft.InUsualOrder();
        // What is only looked at is not taken off its supply.
        if (item.IsHardWired && measured)
            draft.Restore();
        return new(pack, item, draft.Finished(), Remarks(pack, item, policy, scope, measured));
    }

    private static bool HasPlug(Item item) =>
        !item.IsHardWired && !item.IsCord && item.Kind == ItemKind.Appliance && item.Class != ProtectionClass.III;

    private static bool Asked(Series series, Item item, RulePack pack, Policy policy) =>
        series.AskedBy switch
        {
            AskedBy.MedicalInsulation => policy.MedicalInsulation == MedicalInsulationPolicy.Yes,
            AskedBy.MedicalCordInsulation => policy.MedicalInsulation == MedicalInsulationPolicy.CordOnly,
            _ => !ScopeOf.IsLeftOut(series, item, pack, policy),
        }
        && !ScopeOf.LacksMains(series, item, pack, policy)
        && !(IsChoice(series, policy) && !item.SwitchHidesMains);

    /// <summary>A current that the client does without where insulation may stand for it.</summary>
    private static bool IsChoice(Series series, Policy policy) =>
        series is { Test: Test.Leakage, Need: Need.OneOfGroup } && policy.Leakage == LeakagePolicy.None;

    /// <summary>Every choice that is not the usual one, with its reason.</summary>
    private static ImmutableArray<string> Remarks(RulePack pack, Item item, Policy policy, Scope scope, bool measured)
    {
        var remarks = new List<string>(0);
        if (scope == Scope.FaultFinding)
            remarks.Add(
                "Fault-finding: any order, any part of it; it ends with findings, never with a pass. A clean dead test clears little: parts behind relays were not under test."
            );
        else if (!measured)
            remarks.Add(
                ScopeOf.LooksOnly(policy, item, pack) && scope != Scope.FormalVisual
                    ? "Looked at only: the client's choice for all-insulated class II that is not held in the hand."
                    : "Look and functional check only; the record will not say “tested”."
            );
        if (policy.ClassII == ClassIIPolicy.LookOnly && item.Class == ProtectionClass.II && !ScopeOf.LooksOnly(policy, item, pack))
            remarks.Add(
                "The client has class II looked at only, but that needs an all-insulated case that is not held in the hand: this one is measured."
            );
        if (measured && pack.Series.Any(series => series.Planned && series.IsFor(item) && IsChoice(series, policy)))
            remarks.Add(
                item.SwitchHidesMains
                    ? "The client has no leakage measured, but behind an electronic switch only the current decides: it stays."
                    : "No leakage: the client's choice where the standard lets insulation stand alone."
            );
        if (measured && pack.Series.Any(series => series.Planned && series.IsFor(item) && ScopeOf.LacksMains(series, item, pack, policy)))
            remarks.Add("No leakage and no trip times: this site has direct current, and they are measured with alternating mains.");
        if (policy.Leakage == LeakagePolicy.Alternative && item.SwitchHidesMains)
            remarks.Add("Leakage is measured powered: the alternative method does not reach a mains part behind an electronic switch.");
        if (ScopeOf.Refusal(pack, item, scope, policy) is { } refusal)
            remarks.Add($"No plan: {refusal}.");
        if (measured && ScopeOf.IsNothingAsked(item, pack) && !pack.Series.Any(series => series.IsFor(item)))
            remarks.Add("Internally powered, without an applied part: this standard has nothing measured; it is looked at and tried.");
        if (measured && pack.Series.Any(series => series.IsFor(item) && ScopeOf.IsLeftOut(series, item, pack, policy)))
            remarks.Add($"Equipment leakage left out, permanently installed: {policy.PermanentReason}.");
        if (item.SwitchHidesMains && measured)
            remarks.Add(
                "Electronic switch: the mains part is under test only while it runs. Insulation is noted and settles nothing; the current decides."
            );
        if (item.Class == ProtectionClass.INoAccessibleMetal)
            remarks.Add("No point to measure earth continuity at: there is no metal within reach.");
        if (item.Class == ProtectionClass.IIFunctionalEarth)
            remarks.Add("Its earth serves a screen or a filter; the earth pin is left alone.");
        if (item.Class == ProtectionClass.Undecided)
            remarks.Add("Class undecided: tested as class I and as class II, the stricter limit kept.");
        if (item.Class == ProtectionClass.III)
            remarks.Add("The supply unit is an item of its own.");
        if (item.SurgeProtected)
            remarks.Add(
                $"Surge protected: insulation at {QuantityText.Show(pack.Thresholds.GentleInsulationVoltage)}, never {QuantityText.Show(pack.Thresholds.InsulationVoltage)}; the suppressor conducts and mimics a fault."
            );
        if (FuseAndFlex.TooLong(item, pack) is { } tooLong)
            remarks.Add(tooLong.Text);
        if (item.Phases == 3)
            remarks.Add(
                "Three-phase: through an adapter that joins L1, L2, L3 and N; the current is measured by the adapter's own method."
            );
        if (item.IsHardWired && policy.HardWired == HardWiredPolicy.Out)
            remarks.Add("Hard-wired equipment is out of this client's scope: save it as not tested unless it was asked for.");
        return remarks.Count == 0 ? [] : [.. remarks];
    }

    /// <summary>One run sheet in the making.</summary>
    private sealed class Draft(RulePack pack, Item item, Policy policy, Instrumentation kit)
    {
        private readonly List<PlanStep> steps = new(8);

        public void Add(PlanStep step) => steps.Add(step);

        public void Add(Series series)
        {
            var method = Method(series);
            // With the mains pins joined there is no polarity to reverse.
            var last = method == LeakageMethod.Alternative ? 1 : series.Each.Length;
            for (var n = 0; n < Times(series); n++)
            {
                if (!series.IsForPart(item, n))
                    continue;
                for (var at = 0; at < last; at++)
                    Add(series, Under(series, at, method, n));
            }
        }

        private int Times(Series series) =>
            series.Test == Test.EcgAmplitude && item.Defibrillator?.EcgSetMv is null
                ? 0
                : series.Repeat switch
                {
                    _ when series.Test == Test.DefibEnergy => item.Defibrillator?.SettingsJ.Length ?? 0,
                    Repeat.PerOutlet => Math.Max(1, item.Outlets),
                    Repeat.PerAppliedPart or Repeat.PerConnectionPair or Repeat.PerJoinedType => item.AppliedParts.Length,
                    Repeat.PerEarthedPart => Math.Max(1, item.EarthedParts.Length),
                    Repeat.PerUnearthedPart => Math.Max(1, item.UnearthedParts.Length),
                    Repeat.PerNamedUnearthedPart => item.UnearthedParts.Length,
                    Repeat.ChassisAndUnearthedParts => 1 + item.UnearthedParts.Length,
                    _ => 1,
                };

        private Conditions Under(Series series, int at, LeakageMethod method, int n)
        {
            // What a device is set to is its own; the pack only says that each setting is tried.
            if (series.Test == Test.DefibEnergy)
                return new Conditions.DefibEnergy(new(item.Defibrillator!.SettingsJ[n], Dimension.Energy));
            if (series.Test == Test.EcgAmplitude)
                return new Conditions.EcgAmplitude(new(item.Defibrillator!.EcgSetMv!.Value / 1000, Dimension.Voltage));
            var planned = series.Planning[at] switch
            {
                Conditions.Leakage leakage when leakage.Method != method => leakage with { Method = method },
                Conditions.Insulation insulation => insulation with { TestVoltage = pack.Thresholds.InsulationVoltageFor(item) },
                var usual => usual,
            };
            return series.Repeat switch
            {
                Repeat.PerOutlet when item.Outlets > 1 => planned with { At = new Spot.Outlet(n + 1) },
                Repeat.PerAppliedPart or Repeat.PerConnectionPair or Repeat.PerJoinedType => planned with
                {
                    AppliedPart = item.AppliedParts[n].Name,
                },
                Repeat.PerEarthedPart when !item.EarthedParts.IsEmpty => planned with { At = new Spot.Probe(item.EarthedParts[n]) },
                Repeat.PerUnearthedPart or Repeat.PerNamedUnearthedPart when !item.UnearthedParts.IsEmpty => planned with
                {
                    At = new Spot.Probe(item.UnearthedParts[n]),
                },
                Repeat.ChassisAndUnearthedParts when n > 0 => planned with { At = new Spot.Probe(item.UnearthedParts[n - 1]) },
                _ => planned,
            };
        }

        private LeakageMethod Method(Series series)
        {
            if (series.Test != Test.Leakage)
                return LeakageMethod.Direct;
            var usual = UsualMethod(series);
            // What has no plug stays on its own supply; no outlet of an instrument powers it.
            return
                usual == LeakageMethod.Direct
                && Preparation.IsByClamp(item, Under(series, 0, LeakageMethod.Differential, 0))
                && pack.LimitFor(item, Under(series, 0, LeakageMethod.Differential, 0)) is not null
                ? LeakageMethod.Differential
                : usual;
        }

        private LeakageMethod UsualMethod(Series series)
        {
            if (pack.Scope == PackScope.Appliances)
                return policy.Leakage == LeakagePolicy.Alternative && !item.SwitchHidesMains
                    ? LeakageMethod.Alternative
                    : LeakageMethod.Direct;
            var wanted = policy.MedicalMethod;
            if (wanted == LeakageMethod.Direct)
                return wanted;
            // An electronic switch keeps the mains part dead without power, and an internal source has no mains pins to join.
            if (item.Class == ProtectionClass.Internal || (item.SwitchHidesMains && wanted == LeakageMethod.Alternative))
                return LeakageMethod.Direct;
            var first = Under(series, 0, wanted, 0);
            return pack.LimitFor(item, first) is null ? LeakageMethod.Direct : wanted;
        }

        /// <summary>What several series ask alike is one step.</summary>
        private void Add(Series series, Conditions under)
        {
            if (steps.Exists(step => step.Under == under))
                return;
            var limit = MakerFigures.Over(pack.LimitFor(item, under), item, under);
            var hazard = Hazard(series, item, under);
            var isByClamp = Preparation.IsByClamp(item, under);
            var needs = Preparation.Needs(item, under, pack);
            steps.Add(
                new PlanStep.Measure(
                    under,
                    limit,
                    hazard,
                    Preparation.Hazard(hazard, item, under),
                    kit.School == School.Meter && !isByClamp ? MeterSchool.Terminals(item, under) : Preparation.Terminals(item, under),
                    Preparation.Source(pack, item, under),
                    Preparation.Seconds(item, under)
                )
                {
                    Needs = kit.School == School.Meter ? MeterSchool.Needs(needs) : needs,
                    Need = series.Need,
                    Group = series.Group,
                    NotMeasured = kit.Lacks(under.Test, isByClamp),
                    GuardsProbe = Probing.IsGuarded(item, under),
                    AsksProbe = Probing.IsAsked(item, under),
                    MayBeHeld = under is Conditions.EarthContinuity && !item.IsHardWired,
                    Spots = Connections(under),
                    StaysOnSupply = item.IsHardWired && under is Conditions.Leakage { Method: not LeakageMethod.Alternative },
                    Unsuitable = kit.Of(under.Test) is { } function ? Suitability.Trouble(function, limit, pack) : null,
                }
            );
        }

        /// <summary>Connections that have no function in common are measured in turn: joined, one would hide behind another.</summary>
        private ImmutableArray<string> Connections(Conditions under) =>
            under is Conditions.Leakage { Kind: LeakageKind.AppliedPart or LeakageKind.Patient or LeakageKind.MainsOnAppliedPart }
            && under.AppliedPart is { } name
            && item.AppliedParts.FirstOrDefault(part => part.Name == name) is { Joined: false, Connections: > 1 } part
                ? part.ConnectionNames
                : [];

        private static HazardKind Hazard(Series series, Item item, Conditions under) =>
            under switch
            {
                Conditions.Insulation => HazardKind.TestVoltage,
                Conditions.Leakage { Kind: LeakageKind.MainsOnAppliedPart or LeakageKind.MainsOnAccessiblePart }
                or Conditions.Leakage { Kind: LeakageKind.AppliedPart, Method: LeakageMethod.Direct } => HazardKind.MainsOnPatient,
                Conditions.DefibEnergy or Conditions.DefibCharge or Conditions.DefibSync => HazardKind.Shock,
                Conditions.Leakage { Method: LeakageMethod.Alternative } => HazardKind.None,
                // Its own battery is switched off with it: nothing of it is live.
                Conditions.Leakage { Power: PowerState.Off } when item.Class == ProtectionClass.Internal => HazardKind.None,
                _ => series.Powered ? HazardKind.ItemLive : HazardKind.None,
            };

        /// <summary>Of an undecided class, tested as I and as II: earth, every insulation, and only then whatever powers it.</summary>
        public void InUsualOrder()
        {
            var ordered = steps.OrderBy(Rank).ToArray();
            steps.Clear();
            steps.AddRange(ordered);

            static int Rank(PlanStep step) =>
                step switch
                {
                    PlanStep.Look => 0,
                    PlanStep.FuseAndFlex => 1,
                    PlanStep.Functional => 5,
                    { Under: Conditions.EarthContinuity } => 2,
                    _ => step.Powers ? 4 : 3,
                };
        }

        /// <summary>Before whatever powers a hard-wired item it is put back on its supply.</summary>
        public void Restore() =>
            steps.Insert(steps.FindIndex(step => step.Powers), new PlanStep.Restore { Needs = Preparation.Restoration });

        /// <summary>A failed look, fuse or earth path stops everything after it; failed insulation stops whatever powers the
        /// item.</summary>
        public ImmutableArray<PlanStep> Finished()
        {
            var (after, live) = (0u, 0u);
            for (var at = steps.Count - 1; at >= 0; at--)
            {
                var step = steps[at];
                var stops = step.Test switch
                {
                    Test.Visual or Test.Fuse or Test.EarthContinuity => after & ~Bit(step.Test),
                    Test.Insulation => live & ~Bit(step.Test),
                    _ => 0u,
                };
                if (stops != 0)
                    steps[at] = step with { Stops = TestsOf(stops) };
                after |= Bit(step.Test);
                if (step.Powers)
                    live |= Bit(step.Test);
            }
            return [.. steps];
        }
    }

    private static uint Bit(Test test) => 1u << (int)test;

    /// <summary>Sets of tests are few; each is listed once.</summary>
    private static readonly ConcurrentDictionary<uint, ImmutableArray<Test>> Listed = new();

    private static ImmutableArray<Test> TestsOf(uint bits) =>
        Listed.GetOrAdd(bits, static set => [.. Enum.GetValues<Test>().Where(test => (set & Bit(test)) != 0)]);
}
