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
    /// <summary>What is missing of a medical device of which nobody has said what touches the patient.</summary>
    public const string PatientSide = "what touches the patient: its applied parts, or that somebody looked and there are none";

    public static (ImmutableArray<MissingStep> Missing, ImmutableArray<MissingStep> Unsettled) Open(
        InspectionFacts facts,
        ImmutableArray<Judgement> results
    )
    {
        if (facts.Scope == Scope.FaultFinding)
            return ([], []);
        var open = new Tally(facts.Item, results, facts.LeftOut);
        // No plan, no pass: whatever else was seen, this standard has nothing to say of the item.
        if (ScopeOf.Refusal(facts.Pack, facts.Item, facts.Scope, facts.Policy) is { } refusal)
            open.Miss(new(Test.Functional, null, refusal));
        if (facts.Look == Look.NotDone)
            open.Miss(new(Test.Visual, null, "the look"));
        if (ScopeOf.IncludesMeasuring(facts.Scope, facts.Policy, facts.Item, facts.Pack))
        {
            foreach (var series in facts.Pack.Series)
            {
                if (ScopeOf.IsAsked(series, facts.Item, facts.Pack, facts.Policy))
                    open.Ask(series, facts.Pack);
            }
            if (facts.IsAtBench && !facts.Item.IsPatientSideKnown)
                open.Miss(new(Test.Visual, null, PatientSide));
            if (ProbeDoubts.Unread(facts, results) is { Reading: var silent })
                open.Unsettled.Add(new(silent.Test, (silent.Under as Conditions.Leakage)?.Kind, ProbeDoubts.Unproved));
        }
        open.AskFunctional();
        return ([.. open.Missing], [.. open.Unsettled]);
    }

    /// <summary>Where on an item a series wants its readings.</summary>
    /// <param name="Part">An applied part's name; null where none is involved.</param>
    /// <param name="Spot">A named spot; null where any will do.</param>
    /// <param name="IsChassis">Wherever no named part is meant: a reading at one of those does not count.</param>
    private readonly record struct Where(string? Part = null, string? Spot = null, bool IsChassis = false);

    private sealed class Tally(Item item, ImmutableArray<Judgement> results, ImmutableArray<Conditions> leftOut)
    {
        public readonly List<MissingStep> Missing = new(0);
        public readonly List<MissingStep> Unsettled = new(0);
        private readonly List<string> groupsDone = new(0);

        /// <summary>What several series miss alike is one step, and so is the insulation that would serve both classes of an undecided
        /// item.</summary>
        public void Miss(MissingStep step) => Note(Missing, step);

        private void Note(List<MissingStep> list, MissingStep step)
        {
            var serves = item.Class == ProtectionClass.Undecided && step.Test == Test.Insulation;
            foreach (var other in list)
                if (other == step || (serves && other.Test == Test.Insulation))
                    return;
            list.Add(step);
        }

        public void AskFunctional()
        {
            foreach (var it in results)
                if (it is { Settles: true, Reading: Reading.Functional { Check: null } })
                    return;
            Miss(new(Test.Functional, null, "functional check"));
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
            foreach (var where in Places(series))
                AskConditions(series, where);
        }

        private IEnumerable<Where> Places(Series series)
        {
            switch (series.Repeat)
            {
                case Repeat.PerEarthedPart when !item.EarthedParts.IsEmpty:
                    return item.EarthedParts.Select(name => new Where(Spot: name));
                case Repeat.PerUnearthedPart when !item.UnearthedParts.IsEmpty:
                case Repeat.PerNamedUnearthedPart:
                    return item.UnearthedParts.Select(name => new Where(Spot: name));
                case Repeat.ChassisAndUnearthedParts:
                    return item.UnearthedParts.Select(name => new Where(Spot: name)).Prepend(new Where(IsChassis: true));
                case Repeat.PerAppliedPart or Repeat.PerConnectionPair or Repeat.PerJoinedType:
                    return Enumerable
                        .Range(0, item.AppliedParts.Length)
                        .Where(n => series.IsForPart(item, n))
                        .Select(n => new Where(item.AppliedParts[n].Name));
                default:
                    return Anywhere;
            }
        }

        private static readonly Where[] Anywhere = [new()];

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
                    if (!Answers(it, series, default, null))
                        continue;
                    if (it.Settles)
                        return;
                    any |= it.Status == Status.Undecided;
                }
            }
            // Behind an electronic switch insulation is always dead: it stands for the group, and the words say what will settle it.
            var detail = item.SwitchHidesMains ? $"{group}; behind an electronic switch only the current settles it" : group;
            Note(any ? Unsettled : Missing, new(first!.Test, Kind(first), detail));
        }

        /// <summary>Every outlet of a lead: readings that name no point stand for one outlet each, whichever.</summary>
        private void AskPerOutlet(Series series, int count)
        {
            var (points, pointless, undecided) = (new HashSet<string>(), 0, 0);
            foreach (var it in results)
            {
                if (!Answers(it, series, default, null))
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

        private void AskConditions(Series series, Where where)
        {
            if (series.Satisfied is { } all && Done(series, where, all))
                return;
            if (series.Need == Need.AnyCondition || series.Each.Length == 1)
            {
                Settle(series, where, series.Need == Need.AnyCondition ? null : series.Each[0], named: null);
                return;
            }
            foreach (var condition in series.Each)
                Settle(series, where, condition, named: condition);
        }

        private bool Done(Series series, Where where, ReadingPattern pattern)
        {
            foreach (var it in results)
                if (it.Settles && Answers(it, series, where, pattern))
                    return true;
            return false;
        }

        /// <param name="named">The condition to name when it is missing; null when the series has but one.</param>
        private void Settle(Series series, Where where, ReadingPattern? condition, ReadingPattern? named)
        {
            if (IsLeftOut(series, where, condition))
                return;
            var any = false;
            foreach (var it in results)
            {
                if (!Answers(it, series, where, condition))
                    continue;
                if (it.Settles)
                    return;
                any |= it.Status == Status.Undecided;
            }
            Note(any ? Unsettled : Missing, new(series.Test, Kind(series), Detail(series, named, where)));
        }

        /// <summary>What any of several conditions would settle is left out by leaving out all of them; by the alternative method there is
        /// but one.</summary>
        private bool IsLeftOut(Series series, Where where, ReadingPattern? condition)
        {
            if (leftOut.IsEmpty)
                return false;
            bool Is(ReadingPattern? asked) => leftOut.Any(under => under.Test == series.Test && IsAnswer(under, series, where, asked));
            return condition is not null ? Is(condition)
                : leftOut.Any(under => under is Conditions.Leakage { Method: LeakageMethod.Alternative }) ? Is(null)
                : series.Each.All(each => Is(each));
        }

        private bool Answers(Judgement it, Series series, Where where, ReadingPattern? condition)
        {
            var reading = it.Reading;
            if (reading.Test != series.Test || reading.Borrowed is not null)
                return false;
            return IsAnswer(reading.Under, series, where, condition);
        }

        private bool IsAnswer(Conditions under, Series series, Where where, ReadingPattern? condition)
        {
            var spot = under.At?.Text;
            // A part with a name wants a reading at that name; an invented name, or none, stands for nothing. Nor does such a part's
            // reading stand for the chassis.
            if (where.Spot is { } name ? spot != name : where.IsChassis && spot is not null && item.UnearthedParts.Contains(spot))
                return false;
            // Appliance testers do not tell between which points insulation was measured; the item's class does. A part that is not
            // earthed and the mains lead alone are told apart: neither is the item.
            if (under is Conditions.Insulation insulation)
                return where.Spot is not null
                    || (insulation.Part == series.Each[0].InsulationParts.First && !(IsEarthed && item.UnearthedParts.Contains(spot!)));
            var type = TypeOf(under);
            return series.Accepts.Matches(under, type)
                && (condition is null || condition.Matches(under, type))
                && (where.Part is null || under.AppliedPart == where.Part || (under.AppliedPart is null && item.AppliedParts.Length == 1));
        }

        private bool IsEarthed => item.Class is ProtectionClass.I or ProtectionClass.INoAccessibleMetal;

        private AppliedPartType? TypeOf(Conditions under)
        {
            foreach (var part in item.AppliedParts)
                if (part.Name == under.AppliedPart || (under.AppliedPart is null && item.AppliedParts.Length == 1))
                    return part.Type;
            return null;
        }
    }

    private static LeakageKind? Kind(Series series) => series.Test == Test.Leakage ? series.Reading.Kinds.First : null;

    private static string Detail(Series series, ReadingPattern? condition, Where where)
    {
        var words = new List<string>(4) { Kind(series) is { } kind ? StepNames.Of(kind) : StepNames.Of(series.Test) };
        if ((where.Part ?? where.Spot) is { } place)
            words.Add(place);
        if (condition is not null)
            words.Add(StepNames.Of(condition));
        return string.Join(", ", words.Where(word => word.Length > 0));
    }
}
