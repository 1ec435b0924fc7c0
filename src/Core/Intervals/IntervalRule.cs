using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Intervals;

/// <summary>Computes when an item is next looked at and tested: a base by place and use, steps with their reasons, and the client's
/// cap.</summary>
public static class IntervalRule
{
    public static Interval Of(IntervalFacts facts)
    {
        var because = new List<string>();
        var user = UserChecks.Of(facts.Place, facts.Use, facts.Kind, facts.Pack).Words;
        var (visual, combined) =
            facts.IsMedical ? Medical(facts, because)
            : facts.Place == Place.Hire ? Hire(facts, because)
            : Appliance(facts, user, because);
        var by = facts.IsMedical && facts.Maker is not null ? DecidedBy.Maker : DecidedBy.Computed;
        if (facts.Cap is { } cap)
        {
            var carrying = facts.LooksOnly ? visual : combined;
            because.Add(
                cap < carrying
                    ? $"the client's fixed {cap} is shorter than the computed {carrying} and wins"
                    : $"the client's fixed {cap} is not shorter than the computed {carrying}; the computed one stands"
            );
            if (cap < carrying)
                by = DecidedBy.Cap;
            (visual, combined) = (Period.Shorter(visual, cap), Period.Shorter(combined, cap));
        }
        if (visual > combined)
        {
            if (by != DecidedBy.Cap)
                because.Add("the formal visual is never longer than the combined test");
            visual = combined;
        }
        // At each issue it is seen to in any case, as far as it is seen to at all.
        var addsNothing = facts.LooksOnly && (facts.IsMedical || facts.Place != Place.Hire);
        var visualDue = visual.After(facts.TestDate);
        var due = addsNothing ? visualDue : combined.After(facts.TestDate);
        if (addsNothing)
            because.Add("all-insulated class II is looked at only: the combined test adds nothing, the formal visual carries the date");
        if (facts.HarshEvent)
        {
            because.Add("a harsh event was reported: due at once");
            (due, visualDue, by) = (facts.TestDate, facts.TestDate, DecidedBy.Event);
        }
        if (facts.Repaired)
        {
            because.Add("repaired: tested before it returns to use, always");
            (due, visualDue, by) = (facts.TestDate, facts.TestDate, DecidedBy.Event);
        }
        var performance = facts.Pack.Thresholds.DefibrillatorPerformance;
        if (facts.Defibrillator)
            because.Add($"defibrillator: performance every {performance}");
        return new(user, visual, addsNothing ? null : combined, due, visualDue, [.. because], by)
        {
            Performance = facts.Defibrillator ? performance : null,
        };
    }

    private static (Period Visual, Period Combined) Hire(IntervalFacts facts, List<string> because)
    {
        var most = facts.Pack.Thresholds.Hire;
        because.Add($"hire: {(facts.LooksOnly ? "a look" : "looked at and tested")} at each issue, never above {most}");
        return (most, most);
    }

    private static (Period Visual, Period Combined) Appliance(IntervalFacts facts, string user, List<string> because)
    {
        var (place, cell) = IntervalTable.Shipped.For(facts.Place, facts.Use, facts.Kind);
        var combined = facts.Pack.CombinedByPlace.TryGetValue(facts.Place, out var own) ? own : cell.Combined;
        if (facts.Kind == ItemKind.PortableRcd && facts.Pack.RcdIntervals is { } rcd)
        {
            combined = rcd.For(facts.Place).Trip;
            because.Add($"portable RCD: {user}, trip time {combined}");
        }
        because.Add($"{place}: formal visual {cell.Visual}, combined {combined}");

        var (steps, most) = (Steps(facts, combined, because), facts.Pack.Thresholds.MostSteps);
        var capped = Math.Clamp(steps, -most, most);
        if (capped != steps)
            because.Add($"{Signed(steps)} steps in all, held to {Signed(capped)}");
        var alone = 0;
        // A lead's or an RCD's wear has nothing to do with its class.
        if (facts is { Kind: ItemKind.Appliance, Class: ProtectionClass.II, AllInsulated: true, Use: not UseOf.Handheld })
        {
            because.Add("class II, all-insulated, not hand-held: one step longer for the combined test");
            alone = 1;
        }
        if (capped == steps && Math.Abs(steps + alone) > most)
            because.Add($"{Signed(steps + alone)} steps in all for the combined test, held to {Signed(most)}");
        return (
            IntervalTable.Shipped.Step(cell.Visual, capped),
            IntervalTable.Shipped.Step(combined, Math.Clamp(steps + alone, -most, most))
        );
    }

    /// <summary>Tests that follow one another too closely are one, and the worst of them counts: nobody makes an interval longer by
    /// testing twice. Counted backwards from the newest; two of one day are never two.</summary>
    /// <param name="interval">The shorter of the base and the interval then in force.</param>
    /// <param name="forgiven">So much less than half of it is still half of it.</param>
    /// <returns>Newest last.</returns>
    internal static ImmutableArray<PastTest> Apart(ImmutableArray<PastTest> history, Period interval, TimeSpan forgiven)
    {
        var groups = new List<PastTest>();
        foreach (var test in history.Reverse())
            if (groups is [.., var newer] && IsTooClose(test.Date, newer.Date, interval, forgiven))
                groups[^1] = newer with
                {
                    Verdict = test.Verdict == Verdict.Fail ? Verdict.Fail : newer.Verdict,
                    NearLimit = newer.NearLimit || test.NearLimit,
                    Rising = newer.Rising || test.Rising,
                    IsClean = newer.IsClean && test.IsClean,
                };
            else
                groups.Add(test);
        groups.Reverse();
        return [.. groups];
    }

    private static bool IsTooClose(DateOnly earlier, DateOnly later, Period interval, TimeSpan forgiven) =>
        later <= earlier || later < interval.Half.After(earlier).AddDays(-forgiven.Days);

    /// <summary>Steps that move the visual and the combined tier alike.</summary>
    private static int Steps(IntervalFacts facts, Period combined, List<string> because)
    {
        var steps = 0;
        void Add(bool applies, int by, string why)
        {
            if (!applies)
                return;
            steps += by;
            because.Add($"{why}: one step {(by > 0 ? "longer" : "shorter")}");
        }
        var tests = Apart(
            facts.History,
            facts.InForce is { } inForce ? Period.Shorter(combined, inForce) : combined,
            facts.Pack.Thresholds.TestsApart
        );
        var lastTwo = tests.Length >= 2 ? tests[^2..] : tests;
        var near = lastTwo.Any(test => test.NearLimit || test.Rising);
        var failed = lastTwo.Any(test => test.Verdict == Verdict.Fail);
        Add(facts is { Usage: Usage.Rare, Moved: Moved.Never }, +1, "hardly ever used and never moved");
        Add(facts.Usage == Usage.Constant || facts.Moved == Moved.Daily, -1, "in use all day or moved daily");
        Add(facts.Users == Users.Unknown, -1, "public or unknown users");
        Add(
            lastTwo.Length == 2 && !near && lastTwo.All(test => test is { Verdict: Verdict.Pass, IsClean: true }),
            +1,
            "last two tests clean and not near any limit"
        );
        Add(failed, -1, "a failure in the last two tests");
        Add(near, -1, "near a limit, or a value on its way up");
        Add(facts.OverLife, -1, "at the end of its expected life, or past it");
        if (facts.Group is { Steps: not 0 } group)
        {
            steps += group.Steps;
            because.Add(group.Line);
        }
        return steps;
    }

    private static (Period Visual, Period Combined) Medical(IntervalFacts facts, List<string> because)
    {
        var rules = facts.Pack.Thresholds;
        var (months, why) = facts switch
        {
            { Maker: { } maker } => (maker, "the maker's interval"),
            { AppliedPart: AppliedPartType.CF } => (rules.MedicalCf, "applied part CF"),
            { LifeSupporting: true } => (rules.MedicalLifeSupporting, "life supporting"),
            { EmergencyTransport: true } => (rules.MedicalTransport, "used in emergency transport"),
            { AppliedPart: AppliedPartType.BF, Class: ProtectionClass.I or ProtectionClass.INoAccessibleMetal } => (
                rules.MedicalBf,
                "class I with applied part BF"
            ),
            { AppliedPart: null, PatientContact: false } => (rules.MedicalNoContact, "no applied part and no patient contact"),
            _ => (rules.MedicalUsual, "medical device of ordinary risk"),
        };
        because.Add($"{why}: {months}");
        if (facts.History is [.., var last] && (last.Rising || (last.NearLimit && facts.History.Length == 1)))
        {
            var halved = Period.Shorter(months, Period.Longer(rules.MedicalHalvedLeast, IntervalTable.Shipped.RungUpTo(months.Half)));
            because.Add($"{(last.Rising ? "a value is rising" : "a value is near its limit and has no earlier one")}: halved to {halved}");
            months = halved;
        }
        return (months, months);
    }

    private static string Signed(int steps) => steps > 0 ? $"+{steps}" : $"−{-steps}";
}
