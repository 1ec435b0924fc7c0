using System.Collections.Immutable;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Kit;

/// <summary>What is known of a thing of the kit, and decides whether it may be used.</summary>
/// <param name="LastLook">The last look before use; null where none was kept.</param>
/// <param name="LastCheck">The last daily check and what was wrong in it; null where none was kept.</param>
/// <param name="Drifts">Warnings of the last checks' drift.</param>
public sealed record KitFacts(
    KitKind Kind,
    DateOnly? CalibrationDue,
    bool IsRetired,
    (DateTimeOffset At, KitLook Look)? LastLook,
    (DateTimeOffset At, string? Trouble)? LastCheck,
    ImmutableArray<string> Drifts
);

/// <summary>Whether a thing of the kit may be used now, decided in this one place.</summary>
/// <param name="Trouble">Why it may not be chosen; null where it may.</param>
/// <param name="IsLookedAt">It was looked at within the time that a look holds, or needs no look.</param>
/// <param name="Warnings">What is worth telling of one that may be used.</param>
public sealed record KitStanding(KitFitness Fitness, string? Trouble, bool IsLookedAt, ImmutableArray<string> Warnings)
{
    public static KitStanding Of(KitFacts it, DateTimeOffset now, DateOnly today, Thresholds rules)
    {
        var warnings = ImmutableArray.CreateBuilder<string>();
        var mustBeCalibrated = it.Kind.Measures() || it.Kind == KitKind.CheckBox;
        var trouble =
            it.IsRetired ? "It was taken out of the kit."
            : mustBeCalibrated && it.CalibrationDue is null ? "No calibration of it is known."
            : it.CalibrationDue is { } due && Calibration.IsOut(due, today) ? $"Calibration ran out on {due:yyyy-MM-dd}."
            : it.LastCheck is { Trouble: { } wrong } bad
                ? $"It failed its daily check on {bad.At:yyyy-MM-dd}: {wrong}. It is barred until a check is good."
            : it.LastLook is { Look.Fitness: KitFitness.Barred } seen
                ? $"It failed the look before use on {seen.At:yyyy-MM-dd}: {string.Join("; ", seen.Look.Lines)}."
            : null;
        var isLookedAt = BeforeUse.PointsOf(it.Kind).IsEmpty || (it.LastLook is { } last && now - last.At <= rules.KitKeeps);
        if (trouble is null)
        {
            if (it.CalibrationDue is { } soon && Calibration.IsSoon(soon, today, rules))
                warnings.Add($"Calibration is due on {soon:yyyy-MM-dd}.");
            if (it.Kind.IsCheckedDaily() && !(it.LastCheck is { } checkedAt && now - checkedAt.At <= rules.KitKeeps))
                warnings.Add("Not checked today against a check box.");
            if (!isLookedAt)
                warnings.Add("Not looked at today.");
            warnings.AddRange(it.Drifts);
            if (it.LastLook is { } look && isLookedAt)
                warnings.AddRange(look.Look.Lines);
        }
        var fitness = trouble is not null ? KitFitness.Barred : it.LastLook?.Look.Fitness ?? KitFitness.Fit;
        return new(fitness, trouble, isLookedAt, warnings.ToImmutable());
    }
}
