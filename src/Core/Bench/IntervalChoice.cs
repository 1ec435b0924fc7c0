using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Bench;

/// <summary>An interval that somebody chose instead of the computed one.</summary>
/// <param name="IsLead">Who chose it may choose a longer one.</param>
public sealed record IntervalSaid(Guid EventId, Period Months, string Reason, string By, bool IsLead);

/// <summary>
/// The interval adjusted while saving: shorter by anybody who says why; longer by a lead alone, and never beyond what the client, the
/// maker or a hire fleet fixes.
/// </summary>
internal static class IntervalChoice
{
    /// <summary>What the inspection moves: the combined test, or the formal visual where it was only looked at or is only ever
    /// looked at.</summary>
    public static Period Carried(Interval computed, bool isTest) => isTest ? computed.Combined ?? computed.Visual : computed.Visual;

    /// <returns>Why it does not stand over what was computed, or null.</returns>
    public static string? Refusal(Ruling ruling, Interval computed, bool isTest, Period chosen, bool isLead)
    {
        var carried = Carried(computed, isTest);
        if (chosen != carried && !IntervalTable.Shipped.LadderMonths.Contains(chosen))
            return $"Choose one of the steps: {string.Join(", ", IntervalTable.Shipped.LadderMonths)}.";
        if (chosen <= carried)
            return null;
        if (!isLead)
            return $"Longer than the computed {carried} is a lead’s to decide.";
        return Fixed(ruling, computed, isTest)
            .Where(it => chosen > it.Longest)
            .OrderBy(it => it.Longest)
            .Select(it => $"{it.Whose} {it.Longest} is the longest here.")
            .FirstOrDefault();
    }

    /// <summary>"computed 12 months; Ida made it 3 months: rough place".</summary>
    private static string Says(Interval computed, IntervalSaid said, bool isTest)
    {
        var carried = Carried(computed, isTest);
        return $"computed {carried}; {said.By} made it {said.Months}: {said.Reason}{(said.Months > carried ? " (longer, by a lead)" : "")}";
    }

    /// <summary>With the chosen interval in the place of the computed one.</summary>
    public static Interval Over(Interval computed, IntervalSaid said, bool isTest, DateOnly day)
    {
        var isCombined = isTest && computed.Combined is not null;
        var visual = isCombined ? Period.Shorter(computed.Visual, said.Months) : said.Months;
        var carriesAll = isTest && !isCombined;
        return computed with
        {
            Combined = isCombined ? said.Months : computed.Combined,
            Visual = visual,
            Due =
                isCombined ? said.Months.After(day)
                : carriesAll ? visual.After(day)
                : computed.Due,
            VisualDue = visual.After(day),
            DecidedBy = DecidedBy.Person,
            Because = [.. computed.Because, Says(computed, said, isTest)],
        };
    }

    /// <summary>What nobody at the bench may exceed.</summary>
    private static IEnumerable<(Period Longest, string Whose)> Fixed(Ruling ruling, Interval computed, bool isTest)
    {
        if (ruling.Basis.CapMonths is { } cap)
            yield return (new(cap), "The client’s fixed");
        if (ruling.Item.Equipment is { IsMedical: true, Maker.IntervalMonths: { } maker })
            yield return (new(maker), "The maker’s");
        if (ruling.Basis.Place == Place.Hire)
            yield return (ruling.Pack.Thresholds.Hire, "For hire");
        if (computed.Performance is { } performance)
            yield return (performance, "For its performance");
        if (!isTest && ruling.Basis.Interval is { } combined)
            yield return (combined, "A formal visual is never longer than the combined test:");
    }

    /// <returns>Null where the sheet as it stands moves no date.</returns>
    public static IntervalCard? Card(BenchState state)
    {
        if (state.Ruling.Item.IsLoose || NextDates.Computed(state) is not var (computed, isTest))
            return null;
        var (ruling, carried) = (state.Ruling, Carried(computed, isTest));
        var standing = Standing(state, computed, isTest);
        return new(
            isTest ? "Test again" : "Look again",
            $"{carried}",
            computed.Because,
            carried.Months,
            (standing?.Months ?? carried).Months,
            standing?.Reason,
            standing is null ? null : Says(computed, standing, isTest),
            [
                .. IntervalTable
                    .Shipped.LadderMonths.Append(carried)
                    .Distinct()
                    .Order()
                    .Select(step => new IntervalStep(
                        step.Months,
                        $"{step}",
                        step.After(ruling.Today),
                        Refusal(ruling, computed, isTest, step, ruling.Technician.IsLead)
                    )),
            ]
        );
    }

    /// <returns>Null where nobody chose, or what was chosen does not stand any more: a reading made the computed one shorter.</returns>
    public static IntervalSaid? Standing(BenchState state, Interval computed, bool isTest) =>
        state.IntervalSaid is { } said
        && said.Months != Carried(computed, isTest)
        && Refusal(state.Ruling, computed, isTest, said.Months, said.IsLead) is null
            ? said
            : null;

    /// <returns>Why what was chosen does not stand, or null.</returns>
    public static string? Lapsed(BenchState state) =>
        state.IntervalSaid is { } said && NextDates.Computed(state) is var (computed, isTest)
            ? Refusal(state.Ruling, computed, isTest, said.Months, said.IsLead)
            : null;
}
