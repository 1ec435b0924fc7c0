using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>A device and its detachable mains lead are measured each by itself: it came without the lead, or the lead belongs to the ward.
/// Readings that cannot be, rule 10: a lead that nobody measured then is told.</summary>
public static class LeadApart
{
    /// <summary>The standard has limits for the device and for the lead.</summary>
    public static bool IsOffered(Ruling ruling) =>
        ruling.Item.Equipment is { IsMedical: true, IsHardWired: false, Cord.Detachable: true } item
        && ruling.Pack.LimitFor(item, new Conditions.EarthContinuity { Part = EarthPart.DeviceAlone }) is not null
        && RunSheet.Of(ruling with { IsLeadApart = false }).Steps.Any(IsOfBoth);

    /// <summary>Each earth of the device without its lead, then the lead.</summary>
    public static IEnumerable<SheetStep> Over(IReadOnlyCollection<SheetStep> steps, RulePack pack, Item item)
    {
        var last = steps.LastOrDefault(IsOfBoth);
        foreach (var step in steps)
        {
            if (step is not SheetStep.Measure { Plan: { Under: Conditions.EarthContinuity under } plan } || !IsOfBoth(step))
            {
                yield return step;
                continue;
            }
            yield return Of(plan, under with { Part = EarthPart.DeviceAlone }, plan.Need, pack, item);
            if (step == last)
                yield return Of(plan, under with { Part = EarthPart.CordAlone, At = null }, Need.Optional, pack, item);
        }
    }

    private static bool IsOfBoth(SheetStep step) =>
        step is SheetStep.Measure { Plan.Under: Conditions.EarthContinuity { Part: EarthPart.DeviceWithCord } };

    private static SheetStep.Measure Of(PlanStep.Measure plan, Conditions.EarthContinuity under, Need need, RulePack pack, Item item) =>
        new(
            new(
                under,
                MakerFigures.Over(pack.LimitFor(item, under), item, under),
                plan.HazardKind,
                plan.Hazard,
                under.Part == EarthPart.CordAlone
                    ? "Earth pin of the lead’s plug to the earth contact of its connector"
                    : $"Earth pin of the inlet to {under.At?.Text ?? "accessible metal"}",
                plan.Source,
                plan.Seconds
            )
            {
                Needs = plan.Needs,
                Need = need,
                NotMeasured = plan.NotMeasured,
                MayBeHeld = plan.MayBeHeld,
                Tighter = plan.Tighter,
                BorrowedFrom = plan.BorrowedFrom,
                IsAskedByProcedure = plan.IsAskedByProcedure,
            }
        );
}
