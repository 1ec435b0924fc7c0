using System.Collections.Immutable;
using System.Globalization;
using Osierwand.Core.Equipment;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>Asks which steps a verdict still waits for. The pack's series say what is needed; scope and policy say whether.</summary>
internal static class Requirements
{
    public static (ImmutableArray<MissingStep> Missing, ImmutableArray<MissingStep> Unsettled) Open(
        InspectionFacts facts,
        ImmutableArray<Judgement> results
    )
    {
        if (facts.Scope == Scope.FaultFinding)
            return ([], []);
        var open = new Tally(facts.Item, results);
        if (facts.Look == Look.NotDone)
            open.Missing.Add(new(Test.Visual, null, "the look"));
        if (ScopeOf.IncludesMeasuring(facts.Scope, facts.Policy, facts.Item, facts.Pack))
        {
            foreach (var series in facts.Pack.Series)
            {
                if (series.Need != Need.Optional && series.IsFor(facts.Item))
                    open.Ask(series, facts.Pack);
            }
        }
        open.AskFunctional();
        return ([.. open.Missing], [.. open.Unsettled]);
    }

    private sealed class Tally(Item item, ImmutableArray<Judgement> results)
    {
        public readonly List<MissingStep> Missing = new(0);
        public readonly List<MissingStep> Unsettled = new(0);
        private readonly List<string> groupsDone = new(0);

        public void AskFunctional()
        {
            foreach (var it in results)
                if (it.Reading.Test == Test.Functional && it.Settles)
                    return;
            Missing.Add(new(Test.Functional, null, "functional check"));
        }

        public void Ask(Series series, RulePack pack)
        {
            if (series.Group is { } group)
            {
                if (groupsDone.Contains(group))
                    return;
                groupsDone.Add(group);
                AskGroup(group, pack);
                return;
            }
            if (series.Repeat == Repeat.PerOutlet && item.Outlets > 1)
            {
                AskPerOutlet(series, item.Outlets);
                return;
            }
            if (series.Repeat == Repeat.PerEarthedPart && !item.EarthedParts.IsEmpty)
            {
                foreach (var name in item.EarthedParts)
                    AskNamed(series, name);
                return;
            }
            if (series.Repeat != Repeat.PerAppliedPart)
            {
                AskConditions(series, null);
                return;
            }
            foreach (var part in item.AppliedParts)
            {
                if (series.Reading.AppliedPartTypes.Has(part.Type))
                    AskConditions(series, part.Name);
            }
        }

        /// <summary>Series that stand in for one another: any one that decides will do; the first is named when none is there.</summary>
        private void AskGroup(string group, RulePack pack)
        {
            var (any, first) = (false, default(Series));
            foreach (var series in pack.Series)
            {
                if (series.Group != group || !series.IsFor(item))
                    continue;
                first ??= series;
                foreach (var it in results)
                {
                    if (!Answers(it, series, null, null))
                        continue;
                    if (it.Settles)
                        return;
                    any |= it.Status == Status.Undecided;
                }
            }
            // Behind an electronic switch insulation is always dead: it stands for the group, and the words say what will settle it.
            var detail =
                item.MainsSwitch == MainsSwitch.Electronic ? $"{group}; behind an electronic switch only the current settles it" : group;
            (any ? Unsettled : Missing).Add(new(first!.Test, Kind(first), detail));
        }

        /// <summary>A part with a name wants a reading at that name; an invented name, or none, stands for nothing.</summary>
        private void AskNamed(Series series, string name)
        {
            var undecided = false;
            foreach (var it in results)
            {
                if (!Answers(it, series, null, null) || it.Reading.Under.At?.Text != name)
                    continue;
                if (it.Settles)
                    return;
                undecided |= it.Status == Status.Undecided;
            }
            (undecided ? Unsettled : Missing).Add(new(series.Test, Kind(series), $"{StepNames.Of(series.Test)}, {name}"));
        }

        /// <summary>Every outlet of a lead: readings that name no point stand for one outlet each, whichever.</summary>
        private void AskPerOutlet(Series series, int count)
        {
            var (points, pointless, undecided) = (new HashSet<string>(), 0, 0);
            foreach (var it in results)
            {
                if (!Answers(it, series, null, null))
                    continue;
                if (!it.Settles)
                    undecided += it.Status == Status.Undecided ? 1 : 0;
                else if (it.Reading.Under.At is { } spot)
                    points.Add(spot.Text);
                else
                    pointless++;
            }
            for (var n = points.Count + pointless; n < count; n++)
                (undecided-- > 0 ? Unsettled : Missing).Add(
                    new(series.Test, Kind(series), string.Create(CultureInfo.InvariantCulture, $"outlet {n + 1} of {count}"))
                );
        }

        private void AskConditions(Series series, string? part)
        {
            if (series.Satisfied is { } all && Done(series, part, all))
                return;
            if (series.Need == Need.AnyCondition || series.Each.Length == 1)
            {
                Settle(series, part, series.Need == Need.AnyCondition ? null : series.Each[0], named: null);
                return;
            }
            foreach (var condition in series.Each)
                Settle(series, part, condition, named: condition);
        }

        private bool Done(Series series, string? part, ReadingPattern pattern)
        {
            foreach (var it in results)
                if (it.Settles && Answers(it, series, part, pattern))
                    return true;
            return false;
        }

        /// <param name="named">The condition to name when it is missing; null when the series has but one.</param>
        private void Settle(Series series, string? part, ReadingPattern? condition, ReadingPattern? named)
        {
            var any = false;
            foreach (var it in results)
            {
                if (!Answers(it, series, part, condition))
                    continue;
                if (it.Settles)
                    return;
                any |= it.Status == Status.Undecided;
            }
            (any ? Unsettled : Missing).Add(new(series.Test, Kind(series), Detail(series, named, part)));
        }

        private bool Answers(Judgement it, Series series, string? part, ReadingPattern? condition)
        {
            var reading = it.Reading;
            if (reading.Test != series.Test || reading.Borrowed is not null)
                return false;
            // Appliance testers do not tell between which points insulation was measured; the item's class does.
            if (reading.Test == Test.Insulation)
                return true;
            var (under, type) = (reading.Under, TypeOf(reading.Under));
            return series.Accepts.Matches(under, type)
                && (condition is null || condition.Matches(under, type))
                && (part is null || under.AppliedPart == part || (under.AppliedPart is null && item.AppliedParts.Length == 1));
        }

        private AppliedPartType? TypeOf(Conditions under)
        {
            foreach (var part in item.AppliedParts)
                if (part.Name == under.AppliedPart || (under.AppliedPart is null && item.AppliedParts.Length == 1))
                    return part.Type;
            return null;
        }
    }

    private static LeakageKind? Kind(Series series) => series.Test == Test.Leakage ? series.Reading.Kinds.First : null;

    private static string Detail(Series series, ReadingPattern? condition, string? part)
    {
        var words = new List<string>(4) { Kind(series) is { } kind ? StepNames.Of(kind) : StepNames.Of(series.Test) };
        if (part is not null)
            words.Add(part);
        if (condition is not null)
            words.Add(StepNames.Of(condition));
        return string.Join(", ", words.Where(word => word.Length > 0));
    }
}
