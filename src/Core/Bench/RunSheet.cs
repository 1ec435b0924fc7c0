using System.Collections.Immutable;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>The families of steps, for screens.</summary>
public enum StepFamily
{
    Look,
    FuseAndFlex,
    Confirm,
    Pause,
    Prove,
    Dead,
    Measure,
    Function,
    Outlet,
    Check,
    ChangeOver,
    Discharges,
}

/// <summary>One step of a run sheet. A closed family: nothing outside this file adds to it.</summary>
/// <param name="Key">Stable within the sheet and across visits.</param>
public abstract record SheetStep(string Key, string Name)
{
    public abstract StepFamily Family { get; }

    /// <summary>The item runs, or mains lies on a part of it, while this is done.</summary>
    public virtual bool Powers => false;

    /// <summary>Puts a test voltage or mains on the item.</summary>
    public virtual bool IsLive => Powers;

    /// <summary>Whether a failure here, or its being open, keeps the other from being done.</summary>
    public bool CanStop(SheetStep later) =>
        // What was moved and shut is put back whatever failed, once it was moved.
        later is Confirm { IsPuttingBack: true }
            ? Key == Confirm.Care
            : Stops(later);

    private protected virtual bool Stops(SheetStep later) => later.Powers;

    /// <summary>Most faults are found by eye and hand.</summary>
    /// <param name="CordFindings">Fuse and flex belong to the look: their faults fail it.</param>
    public sealed record Look(ImmutableArray<LookPoint> Points, ImmutableArray<string> MakeSafe, ImmutableArray<FuseFinding> CordFindings)
        : SheetStep("visual", "Look")
    {
        public override StepFamily Family => StepFamily.Look;

        private protected override bool Stops(SheetStep later) => later is not FuseAndFlex;
    }

    /// <summary>Computed from plate, fuse and flex; nobody answers it.</summary>
    public sealed record FuseAndFlex(string Summary, ImmutableArray<FuseFinding> Findings) : SheetStep("fuse", "Fuse and flex")
    {
        public override StepFamily Family => StepFamily.FuseAndFlex;

        private protected override bool Stops(SheetStep later) => later is not Look;
    }

    /// <summary>Something done by hand that must have been done: isolated and proved dead, restored.</summary>
    /// <param name="BeforePower">It puts the supply back on the item: whatever failed keeps it from being done.</param>
    /// <param name="AsksFor">What is to be said with it; null where a press is enough.</param>
    public sealed record Confirm(string Key, string Name, ImmutableArray<string> Lines, bool BeforePower, string? AsksFor = null)
        : SheetStep(Key, Name)
    {
        /// <summary>Care for the client's property, before the look and when all is done.</summary>
        public const string Care = "care";
        public const string CareBack = "care/back";

        /// <summary>Putting back what was moved and shut: nothing that failed keeps it from being done, and nothing waits for it but the
        /// pass.</summary>
        public bool IsPuttingBack => Key == CareBack;

        public override StepFamily Family => StepFamily.Confirm;
        public override bool Powers => BeforePower;

        private protected override bool Stops(SheetStep later) => !IsPuttingBack && (!BeforePower || later.Powers);
    }

    /// <summary>The outlet that will power the item is measured, or known good from today.</summary>
    public sealed record Outlet(OutletSupply Supply) : SheetStep(OwnKey, "Outlet")
    {
        public const string OwnKey = "outlet";

        public override StepFamily Family => StepFamily.Outlet;
    }

    /// <summary>The voltage indicator is proved.</summary>
    public sealed record Prove(string Key, string Name, ImmutableArray<string> Lines) : SheetStep(Key, Name)
    {
        public override StepFamily Family => StepFamily.Prove;

        private protected override bool Stops(SheetStep later) => true;
    }

    /// <summary>One side of the point of work is tested for dead, pair by pair.</summary>
    public sealed record Dead(string Key, string Name, ImmutableArray<string> Lines, Side Side) : SheetStep(Key, Name)
    {
        public override StepFamily Family => StepFamily.Dead;

        private protected override bool Stops(SheetStep later) => true;
    }

    /// <summary>Switch it on or off, wait for its start-up.</summary>
    public sealed record Pause(string Key, string Name, ImmutableArray<string> Lines, int Seconds) : SheetStep(Key, Name)
    {
        public override StepFamily Family => StepFamily.Pause;
    }

    /// <summary>From one of two instruments to the other.</summary>
    /// <param name="ToPerformance">To the one that measures what the device delivers; else back to the one that tests for
    /// safety.</param>
    public sealed record ChangeOver(string Key, ImmutableArray<string> Lines, bool ToPerformance)
        : SheetStep(Key, ToPerformance ? "Change over" : "Change back")
    {
        public const string OwnKey = "change-over";

        public override StepFamily Family => StepFamily.ChangeOver;

        private protected override bool Stops(SheetStep later) => ToPerformance ? IsOfPerformance(later) : IsOfSafety(later);

        /// <summary>Measured with the first instrument; good or bad needs none.</summary>
        public static bool IsOfSafety(SheetStep step) => step is Measure && !IsOfPerformance(step);

        /// <summary>Measured with the performance analyser, or made ready for it.</summary>
        public static bool IsOfPerformance(SheetStep step) =>
            step is Discharges || (step is Measure measure && Instrumentation.OfPerformance.Has(measure.Plan.Test));
    }

    /// <summary>Discharges at maximum before the charge that is timed: a battery tires, and so does what charges from it.</summary>
    /// <param name="Needed">How many.</param>
    /// <param name="At">The largest setting.</param>
    public sealed record Discharges(int Needed, Quantity At) : SheetStep(OwnKey, $"{Needed} discharges at {At}")
    {
        public const string OwnKey = "defibCharge/before";

        public override StepFamily Family => StepFamily.Discharges;
        public override bool Powers => true;

        private protected override bool Stops(SheetStep later) => later is Measure { Plan.Test: Test.DefibCharge };
    }

    /// <summary>One measurement under one condition.</summary>
    public sealed record Measure(PlanStep.Measure Plan) : SheetStep(Plan.Key, Plan.Name)
    {
        public override StepFamily Family => StepFamily.Measure;
        public override bool Powers => Plan.Powers;
        public override bool IsLive => Plan.HazardKind != HazardKind.None;

        /// <summary>A failed earth path ends the job but for the other earth points; any other failure stops whatever powers the
        /// item.</summary>
        private protected override bool Stops(SheetStep later) =>
            Plan.Test == Test.EarthContinuity ? later is not Measure { Plan.Test: Test.EarthContinuity } : later.Powers;
    }

    /// <summary>One check of the device's own function that a procedure asks for.</summary>
    public sealed record Check(PlanStep.Check Plan) : SheetStep(Plan.Key, Plan.Name)
    {
        public override StepFamily Family => StepFamily.Check;
        public override bool Powers => true;
    }

    /// <summary>Does it do its job; the part most often skipped.</summary>
    public sealed record Function(PlanStep.Functional Plan) : SheetStep(Plan.Key, Plan.Name)
    {
        public override StepFamily Family => StepFamily.Function;
        public override bool Powers => true;
    }
}

/// <summary>The ordered steps of one item under one ruling.</summary>
public sealed record RunSheet(ImmutableArray<SheetStep> Steps, ImmutableArray<string> Remarks, bool IsMeasured)
{
    /// <summary>Required steps that the procedure leaves out.</summary>
    public ImmutableArray<LeftOutStep> LeftOut { get; init; } = [];

    public SheetStep? Find(string key) => Steps.FirstOrDefault(step => step.Key == key);

    public static RunSheet Of(Ruling ruling)
    {
        var sheet = Of(
            ruling.Pack,
            ruling.Item.Equipment,
            ruling.Policy,
            ruling.Scope,
            ruling.School,
            ruling.Look,
            ruling.ProcedureTrouble is null ? ruling.Procedure : null,
            ruling.PackOf
        );
        if (ruling.IsLeadApart)
            sheet = sheet with { Steps = [.. LeadApart.Over(sheet.Steps, ruling.Pack, ruling.Item.Equipment)] };
        if (ruling.Kit?.Chosen is { Analyser: { } analyser } first)
            sheet = sheet with { Steps = [.. WithChangeOver(sheet.Steps, first, analyser)] };
        return ruling.LeakageReason is not { } reason
            ? sheet
            : sheet with
            {
                Remarks = sheet.Remarks.Add($"Leakage of this item: {MethodOf(ruling)}. {reason}."),
            };
    }

    private static string MethodOf(Ruling ruling) =>
        ruling.Pack.Scope == PackScope.Medical && ruling.Item.Equipment.IsMedical
            ? Words.Of(ruling.Policy.MedicalMethod)
            : PhrasesOnOffer.Text(ruling.Policy.Leakage);

    /// <summary>As it would be laid down: a round is planned by it before anything lies on the bench.</summary>
    /// <param name="procedure">Fits the item; null for the standard's own plan.</param>
    /// <param name="packOf">For steps that the procedure borrows.</param>
    public static RunSheet Of(
        RulePack pack,
        Item item,
        Policy policy,
        Scope scope,
        School school,
        HouseLook? look = null,
        Procedure? procedure = null,
        Func<string, RulePack?>? packOf = null
    )
    {
        if (procedure is not null)
            item = ProcedureRules.Applied(procedure, item);
        var kit = school == School.Meter ? Instrumentation.Meter : Instrumentation.Tester;
        var plan = Planner.Of(pack, item, policy, scope, kit);
        var findings = FuseAndFlex.Check(item, pack).ToImmutableArray();
        var steps = new List<SheetStep>();
        if (plan.Steps.Any(step => step is PlanStep.Restore))
            steps.AddRange(SafeIsolation.Order.TakeWhile(it => it != SafeIsolation.Reconnect).Select(OfIsolation));
        foreach (var step in OutletByOutlet(plan.Steps, item))
        {
            if (step is PlanStep.Restore)
            {
                steps.AddRange(SafeIsolation.Order.SkipWhile(it => it != SafeIsolation.Reconnect).Select(OfIsolation));
                continue;
            }
            steps.Add(
                step switch
                {
                    PlanStep.Look => new SheetStep.Look(LookList.For(item, pack, look), step.Needs, findings),
                    PlanStep.FuseAndFlex => new SheetStep.FuseAndFlex(FuseAndFlex.Facts(item, pack).Summary(item), findings),
                    PlanStep.Functional works => new SheetStep.Function(works),
                    PlanStep.Measure measured => new SheetStep.Measure(measured),
                    _ => throw new InvalidOperationException($"{step.Name} is no step of a run sheet."),
                }
            );
        }
        var isMeasured = ScopeOf.IncludesMeasuring(scope, policy, item, pack);
        if (pack.PowerOffIsACondition)
            OffBeforeOn(steps);
        var arranged =
            procedure is null || !isMeasured ? null : Arrange(steps, procedure, item, policy, scope, kit, packOf ?? PackLibrary.Find);
        if (isMeasured)
            WithChecks(steps, item);
        // A device is looked at whole: what its fuse and flex say stands there too, though no plan of a medical pack lists it.
        if (item.IsMedical && !findings.IsEmpty)
            steps.Insert(1, new SheetStep.FuseAndFlex(FuseAndFlex.Facts(item, pack).Summary(item), findings));
        WithOutlet(steps, pack, item);
        WithCare(steps, item, policy);
        return new(
            [.. WithDischarges(WithPauses(steps, pack, item), pack, item)],
            [.. plan.Remarks, .. LookList.LeftOut(item, pack, look), .. arranged?.Remarks ?? []],
            isMeasured
        )
        {
            LeftOut = arranged?.LeftOut ?? [],
        };
    }

    /// <summary>What is measured stands together on a sheet, after the look and before the functional check; so it does with a
    /// procedure.</summary>
    private static ProcedureSheet.Arranged Arrange(
        List<SheetStep> steps,
        Procedure procedure,
        Item item,
        Policy policy,
        Scope scope,
        Instrumentation kit,
        Func<string, RulePack?> packOf
    )
    {
        var first = steps.FindIndex(step => step is SheetStep.Measure);
        var from = first < 0 ? steps.FindIndex(step => step is SheetStep.Function) : first;
        var to = steps.FindLastIndex(step => step is SheetStep.Measure) + 1;
        var measured = steps[from..Math.Max(from, to)];
        var arranged = ProcedureSheet.Over(procedure, [.. measured], item, policy, scope, kit, packOf);
        steps.RemoveRange(from, measured.Count);
        steps.InsertRange(from, arranged.Steps);
        return arranged;
    }

    /// <summary>All leakages with the device off, then all with it on: it is switched once each way, and starts once.</summary>
    private static void OffBeforeOn(List<SheetStep> steps)
    {
        static PowerState? PowerOf(SheetStep step) => step is SheetStep.Measure { Plan.Under: Conditions.Leakage it } ? it.Power : null;
        var from = steps.FindIndex(step => PowerOf(step) is not null);
        var to = steps.FindLastIndex(step => PowerOf(step) is not null) + 1;
        if (from < 0)
            return;
        var ordered = steps[from..to].OrderBy(step => PowerOf(step) == PowerState.Off ? 0 : 1).ToArray();
        steps.RemoveRange(from, to - from);
        steps.InsertRange(from, ordered);
    }

    /// <summary>Before the first step that takes mains from an outlet. What is hard-wired has its supply restored and measured instead;
    /// batteries and extra-low voltage take none.</summary>
    private static void WithOutlet(List<SheetStep> steps, RulePack pack, Item item)
    {
        if (item.IsHardWired || item.Class is ProtectionClass.Internal or ProtectionClass.III)
            return;
        if (steps.FindIndex(step => step.Powers) is >= 0 and var first)
            steps.Insert(first, new SheetStep.Outlet(OutletSupply.For(item, pack)));
    }

    private static void WithCare(List<SheetStep> steps, Item item, Policy policy)
    {
        if (Care.Before(item, policy) is { IsEmpty: false } before)
            steps.Insert(0, new SheetStep.Confirm(SheetStep.Confirm.Care, "Access and care", before, BeforePower: false));
        if (Care.After(item, policy) is { IsEmpty: false } after)
            steps.Add(new SheetStep.Confirm(SheetStep.Confirm.CareBack, "Put back as it was", after, BeforePower: false));
    }

    private static SheetStep OfIsolation(string step)
    {
        var (name, lines) = (SafeIsolation.NameOf(step), Preparation.OfIsolation(step));
        return step switch
        {
            SafeIsolation.Prove or SafeIsolation.ProveAgain => new SheetStep.Prove(step, name, lines),
            SafeIsolation.DeadAtSupply => new SheetStep.Dead(step, name, lines, Side.Supply),
            SafeIsolation.DeadAtLoad => new SheetStep.Dead(step, name, lines, Side.Load),
            _ => new SheetStep.Confirm(
                step,
                name,
                lines,
                BeforePower: step is SafeIsolation.Reconnect or SafeIsolation.Unlock or SafeIsolation.Energise,
                AsksFor: step == SafeIsolation.Identify ? "Circuit and point; who gave permission; what else goes dark" : null
            ),
        };
    }

    /// <summary>Earth and polarity of one outlet follow one another, so that each outlet is plugged once.</summary>
    private static ImmutableArray<PlanStep> OutletByOutlet(ImmutableArray<PlanStep> steps, Item item)
    {
        if (!item.IsCord || item.Outlets < 2)
            return steps;
        static bool AtOutlet(PlanStep step) => step.Under is { At: Spot.Outlet } and (Conditions.EarthContinuity or Conditions.Polarity);
        var atOutlets = steps.Where(AtOutlet).GroupBy(step => step.Under.At).SelectMany(outlet => outlet).ToArray();
        var first = steps.IndexOf(atOutlets.FirstOrDefault()!);
        return atOutlets.Length == 0 ? steps : [.. steps.Take(first), .. atOutlets, .. steps.Skip(first).Where(step => !AtOutlet(step))];
    }

    /// <summary>That it goes on without mains, where it has both.</summary>
    public const string RunsOnBattery = "Runs on its battery when unplugged, and says so";

    /// <summary>What the maker wants to be seen to work, and the battery, before the functional check that every device has.</summary>
    private static void WithChecks(List<SheetStep> steps, Item item)
    {
        var hasBoth = item is { Battery: not null, Class: not ProtectionClass.Internal };
        string[] checks = [.. hasBoth ? [RunsOnBattery] : (string[])[], .. item.Maker?.Checks ?? []];
        if (checks.Length == 0)
            return;
        var at = steps.FindLastIndex(step => step is SheetStep.Function);
        // One that the procedure asks as well is answered once.
        var added = checks
            .Select(name => new SheetStep.Check(new(name, null)))
            .Where(check => !steps.Exists(step => step.Key == check.Key));
        steps.InsertRange(at < 0 ? steps.Count : at, added.ToArray());
    }

    /// <summary>Wherever the job goes over to the other instrument it is told.</summary>
    private static IEnumerable<SheetStep> WithChangeOver(ImmutableArray<SheetStep> steps, KitInHand first, KitInHand analyser)
    {
        var (isOver, changes) = (false, 0);
        foreach (var step in steps)
        {
            if (isOver ? SheetStep.ChangeOver.IsOfSafety(step) : SheetStep.ChangeOver.IsOfPerformance(step))
            {
                isOver = !isOver;
                var key = ++changes == 1 ? SheetStep.ChangeOver.OwnKey : $"{SheetStep.ChangeOver.OwnKey}/{changes}";
                var lines = isOver ? Preparation.ChangeOver(first.Name, analyser.Name) : Preparation.ChangeBack(analyser.Name, first.Name);
                yield return new SheetStep.ChangeOver(key, lines, isOver);
            }
            yield return step;
        }
    }

    /// <summary>Before the charge that is timed, those that tire it.</summary>
    private static IEnumerable<SheetStep> WithDischarges(IEnumerable<SheetStep> steps, RulePack pack, Item item)
    {
        foreach (var step in steps)
        {
            if (
                step is SheetStep.Measure { Plan.Test: Test.DefibCharge }
                && item.Defibrillator is { SettingsJ: { IsEmpty: false } settings }
            )
                yield return new SheetStep.Discharges(pack.Thresholds.DischargesBefore, new(settings.Max(), Dimension.Energy));
            yield return step;
        }
    }

    /// <summary>Where "device off" is a condition of its own, each change of the switch is a step, and so is waiting for a slow
    /// start.</summary>
    private static IEnumerable<SheetStep> WithPauses(List<SheetStep> steps, RulePack pack, Item item)
    {
        PowerState? state = null;
        var n = 0;
        foreach (var step in steps)
        {
            if (
                step is SheetStep.Measure { Powers: true, Plan.Under: Conditions.Leakage { Power: var asked } }
                && item.Class != ProtectionClass.Internal
            )
            {
                var isChange = pack.PowerOffIsACondition ? asked != state : state is null && item.StartUpSeconds > 0;
                if (isChange)
                {
                    var lines = Preparation.Switching(asked, item);
                    yield return new SheetStep.Pause(
                        $"pause/{++n}",
                        asked == PowerState.On ? "Switch it on" : "Switch it off",
                        lines,
                        asked == PowerState.On ? item.StartUpSeconds : 0
                    );
                }
                state = asked;
            }
            yield return step;
        }
    }
}
