using System.Collections.Immutable;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Procedures;

/// <summary>What one version does otherwise than another, a line each.</summary>
public static class ProcedureDifference
{
    public static ImmutableArray<string> Between(Procedure before, Procedure after)
    {
        var lines = new List<string>();
        void Changed(string what, string? was, string? now)
        {
            if ((was ?? "") != (now ?? ""))
                lines.Add($"{what}: {Shown(was)} → {Shown(now)}");
        }

        Changed("Name", before.Name, after.Name);
        Changed("Standard", before.PackId, after.PackId);
        Changed("For", Model(before), Model(after));
        Changed("Remark", before.Remark, after.Remark);
        Changed("To bring", string.Join(", ", before.Adapters), string.Join(", ", after.Adapters));
        Changed("Parts", Modules(before), Modules(after));
        var (was, now) = (Lines(before), Lines(after));
        lines.AddRange(was.Except(now).Select(line => $"No longer: {line}"));
        lines.AddRange(now.Except(was).Select(line => $"New: {line}"));
        if (was.Order().SequenceEqual(now.Order()) && !was.SequenceEqual(now))
            lines.Add("The same steps in another order");
        return [.. lines];
    }

    /// <summary>One line of the procedure in words.</summary>
    public static string Text(ProcedureStep step) =>
        step switch
        {
            ProcedureStep.Measure it => it.Step
                + (it.Seconds is { } seconds ? $", {seconds} s" : "")
                + (it.Limit is { } limit ? $", limit {Text(limit)} ({limit.Why})" : ""),
            ProcedureStep.LeaveOut it => $"{it.Step} left out: {it.Reason}",
            ProcedureStep.Pause it => $"pause: {it.Says}{(it.Seconds > 0 ? $", {it.Seconds} s" : "")}",
            ProcedureStep.Check it => $"check: {it.Name}{(it.Target is { } target ? $", {Text(target)}" : "")}",
            ProcedureStep.Borrow it => $"{it.Step} by {it.PackId}",
            _ => "",
        };

    public static string Text(OwnLimit it) => $"{QuantityText.Number(it.Value, 6)} {Unit.Find(it.Unit)?.Label ?? it.Unit}";

    public static string Text(CheckTarget it) =>
        $"set {QuantityText.Number(it.Set)} {it.Unit}, within {QuantityText.Number(it.Tolerance)} {it.Unit}";

    private static string[] Lines(Procedure it) => [.. it.Steps.Select(Text)];

    private static string Model(Procedure it) => string.Join(" ", new[] { it.Maker, it.Model }.OfType<string>());

    private static string Modules(Procedure it) =>
        string.Join(
            ", ",
            it.Modules.Select(module =>
                $"{module.Name} {Words.Of(module.Type)}, {module.Connections} {(module.Joined ? "joined" : "each in turn")}"
            )
        );

    private static string Shown(string? text) => string.IsNullOrEmpty(text) ? "nothing" : $"“{text}”";
}
