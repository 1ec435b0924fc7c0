using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>One line of a run sheet as a procedure would make it.</summary>
public sealed record PreviewStep(string Name, string Detail, string Limit);

/// <summary>What a procedure makes of a device's run sheet, before anybody runs it.</summary>
/// <param name="Refusal">Why it is not run on it; null where it is.</param>
public sealed record ProcedurePreview(string? Refusal, ImmutableArray<PreviewStep> Steps, ImmutableArray<string> Remarks)
{
    /// <param name="packOf">Standards with the house's limits.</param>
    public static ProcedurePreview Of(Procedure procedure, Item item, Func<string, RulePack?> packOf)
    {
        var pack = packOf(procedure.PackId)!;
        var refusal = ProcedureRules.Refusal(procedure, item, pack.Id) ?? ScopeOf.Refusal(pack, item, Scope.Combined, Policy.Usual);
        if (refusal is not null)
            return new(refusal, [], []);
        var sheet = RunSheet.Of(pack, item, Policy.Usual, Scope.Combined, School.ApplianceTester, null, procedure, packOf);
        var say = pack.Dialect;
        return new(null, [.. sheet.Steps.Select(step => Line(step, say))], say.Say(sheet.Remarks));
    }

    private static PreviewStep Line(SheetStep step, Dialect say) =>
        step switch
        {
            SheetStep.Measure { Plan: var plan } => new(
                say.Say(plan.Name),
                say.Say(
                    plan.Spots.IsEmpty ? SheetCards.Detail(plan) : $"{SheetCards.Detail(plan)}; {plan.Spots.Length} connections in turn"
                ),
                SheetCards.Limit(plan.Limit, say)?.Text ?? ""
            ),
            SheetStep.Check { Plan: var check } => new(check.Name, check.Target?.Text ?? "good or bad", ""),
            SheetStep.Pause { Seconds: > 0 and var seconds } => new(say.Say(step.Name), $"{seconds} s", ""),
            _ => new(say.Say(step.Name), "", ""),
        };
}
