using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>A required step that the procedure leaves out, with its reason.</summary>
public sealed record LeftOutStep(PlanStep.Measure Plan, string Reason);

/// <summary>Lays a procedure over the measuring part of a run sheet: its order, pauses, checks, tighter limits. Whatever the standard asks
/// and the procedure does not name stays on the sheet: nothing is dropped but by name and with a reason.</summary>
internal static class ProcedureSheet
{
    /// <param name="Steps">The measuring part in its new order.</param>
    /// <param name="Remarks">What a reader must know: what the procedure did not name, what it names in vain.</param>
    public sealed record Arranged(ImmutableArray<SheetStep> Steps, ImmutableArray<LeftOutStep> LeftOut, ImmutableArray<string> Remarks);

    /// <param name="steps">As the plan has them, without look, pauses and functional check.</param>
    /// <param name="packOf">A standard with its house limits; null where it is not known.</param>
    public static Arranged Over(
        Procedure procedure,
        ImmutableArray<SheetStep> steps,
        Item item,
        Policy policy,
        Scope scope,
        Instrumentation kit,
        Func<string, RulePack?> packOf
    )
    {
        var byKey = steps.OfType<SheetStep.Measure>().ToDictionary(step => step.Key);
        var (made, leftOut, remarks) = (new List<SheetStep>(), new List<LeftOutStep>(), new List<string>());
        var named = new HashSet<string>();
        var pauses = 0;
        foreach (var line in procedure.Steps)
            switch (line)
            {
                case ProcedureStep.Measure measure when byKey.TryGetValue(measure.Step, out var step):
                    named.Add(step.Key);
                    var plan = As(step.Plan, measure);
                    if (measure.Limit is not null && plan.Limit == step.Plan.Limit)
                        remarks.Add(
                            $"The procedure's own limit for {Said(step.Plan)} is no tighter than the standard's: the standard's decides."
                        );
                    made.Add(new SheetStep.Measure(plan));
                    break;
                case ProcedureStep.LeaveOut left when byKey.TryGetValue(left.Step, out var step):
                    named.Add(step.Key);
                    leftOut.Add(new(step.Plan, left.Reason));
                    remarks.Add($"Left out by the procedure: {Said(step.Plan)}. {Sentence(left.Reason)}");
                    break;
                case ProcedureStep.Measure measure:
                    remarks.Add($"The procedure names “{measure.Step}”, which is not asked of this device.");
                    break;
                case ProcedureStep.LeaveOut:
                    break;
                case ProcedureStep.Pause pause:
                    made.Add(new SheetStep.Pause($"pause/own/{++pauses}", pause.Says, [], pause.Seconds));
                    break;
                case ProcedureStep.Check check:
                    made.Add(
                        new SheetStep.Check(
                            new(check.Name, check.Target is { } target ? new(target.Set, target.Tolerance, target.Unit) : null)
                        )
                    );
                    break;
                case ProcedureStep.Borrow borrow:
                    if (Borrowed(borrow, item, policy, scope, kit, packOf) is { } borrowed)
                        made.Add(new SheetStep.Measure(borrowed));
                    else
                        remarks.Add($"The procedure borrows “{borrow.Step}” from {borrow.PackId}, which has no such step for this device.");
                    break;
            }
        foreach (var step in steps)
        {
            if (named.Contains(step.Key))
                continue;
            if (step is SheetStep.Measure measure)
                remarks.Add($"Not named by the procedure, asked by the standard: {Said(measure.Plan)}.");
            Insert(made, step);
        }
        return new([.. made], [.. leftOut], [.. remarks]);
    }

    private static PlanStep.Measure As(PlanStep.Measure plan, ProcedureStep.Measure line)
    {
        var own =
            line.Limit is { } limit && Unit.Find(limit.Unit) is { } unit
                ? new OwnFigure(new(limit.Value * unit.Factor, unit.Dimension), limit.Why)
                : null;
        return plan with
        {
            Seconds = Math.Max(plan.Seconds, line.Seconds ?? 0),
            Tighter = own,
            Limit = own is null ? plan.Limit : plan.Limit?.Tightened(own),
            IsAskedByProcedure = true,
        };
    }

    private static PlanStep.Measure? Borrowed(
        ProcedureStep.Borrow line,
        Item item,
        Policy policy,
        Scope scope,
        Instrumentation kit,
        Func<string, RulePack?> packOf
    ) =>
        packOf(line.PackId) is not { } pack ? null
        : Planner.Of(pack, item, policy, scope, kit).Steps.OfType<PlanStep.Measure>().FirstOrDefault(step => step.Key == line.Step)
            is { } found
            ? found with
            {
                BorrowedFrom = pack,
                IsAskedByProcedure = true,
                Need = Need.Optional,
            }
        : null;

    /// <summary>Where it is safe: before whatever needs it done first.</summary>
    private static void Insert(List<SheetStep> made, SheetStep step)
    {
        var at = made.FindIndex(other => Rank(other) > Rank(step));
        made.Insert(at < 0 ? made.Count : at, step);
    }

    /// <summary>Everything dead, then the supply restored where it was isolated, then whatever takes it. A pause stands where its line
    /// stands.</summary>
    private static double Rank(SheetStep step) =>
        step switch
        {
            SheetStep.Measure => ProcedureRules.RankOf(step.Key),
            SheetStep.Check => ProcedureRules.Powered,
            SheetStep.Pause => 0,
            _ => ProcedureRules.Powered - 0.5,
        };

    private static string Said(PlanStep.Measure plan) =>
        SheetCards.Detail(plan) is { Length: > 0 } detail ? $"{plan.Name}, {detail}" : plan.Name;

    private static string Sentence(string text) => text.EndsWith('.') ? text : text + ".";
}
