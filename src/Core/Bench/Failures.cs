using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Bench;

public sealed partial record BenchState
{
    private sealed partial class Fold
    {
        /// <summary>Every change of what is judged by, with what stood before it.</summary>
        /// <param name="Reads">Readings that had been taken by then.</param>
        private sealed record Rejudged(BenchEvent By, Ruling Before, int Reads)
        {
            public SetAsideBy Kind => By is FactsChanged ? SetAsideBy.Facts : SetAsideBy.Choice;

            /// <param name="now">The item as it stands.</param>
            public string Why(Item now) =>
                By switch
                {
                    FactsChanged facts when Before.Item.Equipment.Class != now.Class =>
                        $"class {Words.Of(Before.Item.Equipment.Class)} became {Words.Of(now.Class)}, “{facts.Reason.Trim()}”",
                    FactsChanged facts => $"“{facts.Reason.Trim()}”",
                    ProcedureChosen => "the procedure",
                    ScopeChosen => "the scope",
                    _ => "the method",
                };
        }

        private readonly List<Rejudged> rejudged = [];

        /// <summary>Second standards that a reading was held against, taken back.</summary>
        private readonly List<Borrowed> withdrawn = [];

        /// <summary>Bad answers of the look that were taken back.</summary>
        private readonly List<SetAside> lookedAgain = [];

        /// <summary>Failures that something after them took out of the judgement: corrected facts, another procedure, or words.</summary>
        private IEnumerable<SetAside> SetAsides(TakenReading[] taken)
        {
            for (var at = 0; at < taken.Length; at++)
                if (SetAsideAfter(taken, at) is { } failure)
                    yield return failure;
            foreach (var earth in earths)
                if (voids.TryGetValue(earth.Id, out var said))
                    yield return new(SetAsideBy.Void, "Path to earth", earth.Words, said.Reason.Trim());
                else if (ruling.Item.Equipment.Class == ProtectionClass.I && rejudged.Find(HadNoEarth) is { } change)
                    yield return new(change.Kind, "Path to earth", earth.Words, change.Why(ruling.Item.Equipment), WantsLead: true);
            foreach (var borrow in withdrawn)
                if (
                    Array.Find(taken, read => read.Event.Id == borrow.Target)?.Judgement is { Reading: var reading }
                    && HadFailedBy(borrow, reading)
                )
                    yield return new(
                        SetAsideBy.Choice,
                        $"{reading.Name} by {borrow.PackId}",
                        Judging.SetAside.ValueOf(reading),
                        "the second standard was taken back"
                    );
            foreach (var answer in lookedAgain)
                yield return answer;
        }

        /// <summary>A failure that no longer is one. Made void it is one still where its step has gone from the sheet, so that nothing
        /// took its place.</summary>
        private SetAside? SetAsideAfter(TakenReading[] taken, int at)
        {
            var read = taken[at];
            var isGone = read.OffSheet && voids.ContainsKey(read.Event.Id) && !IsMeasuredAgain(taken, at, from: at + 1);
            // A lead who overrode the failure itself is told as that.
            if (read is not { Judgement: { Status: not Status.Fail, Overridden: not Status.Fail } now } || (read.HidesFailure && !isGone))
                return null;
            if (rejudged.Find(change => at < change.Reads && HadFailed(read.Event, at, change.Before)) is not { } by)
                return null;
            var isMended = voids.ContainsKey(read.Event.Id)
                ? IsMeasuredAgain(taken, at, from: at + 1)
                : IsFlexEntered(by.Before) && IsMeasuredAgain(taken, at, by.Reads);
            return new(
                by.Kind,
                now.Reading.Name,
                Judging.SetAside.ValueOf(now.Reading),
                by.Why(ruling.Item.Equipment),
                WantsLead: by.Kind == SetAsideBy.Facts && !isMended
            );
        }

        private static bool IsMeasuredAgain(TakenReading[] taken, int at, int from) =>
            taken.Skip(from).Any(later => later is { Void: null, Judgement.Status: Status.Pass } && IsSamePlace(later, taken[at]));

        /// <summary>Nobody had entered it, and everything else that is judged by stood as it stands.</summary>
        private bool IsFlexEntered(Ruling before)
        {
            var (was, now) = (before.Item.Equipment, ruling.Item.Equipment);
            return was.Cord is not { Length: not null, Conductor: not null } && was with { Cord = now.Cord } == now;
        }

        /// <summary>Whoever decides a class that was undecided changes none: then it has to fail by the class that was decided.</summary>
        private bool HadFailed(ReadingTaken read, int at, Ruling under) =>
            BenchMemory.PlanOf(reads[at].Step) is { } plan
            && memory.Understood(read, under, () => ReadingOf.Taken(under, plan, read)).TryGet(out var reading)
            && JudgedUnder(under, read.Id, reading, null, null).Status == Status.Fail
            && (
                under.Item.Equipment is not { Class: ProtectionClass.Undecided } undecided
                || Judging.Judge.Of(under.Pack, undecided with { Class = ruling.Item.Equipment.Class }, reading, under.DecisionRule).Status
                    == Status.Fail
            );

        private bool HadFailedBy(Borrowed borrow, Reading reading) =>
            ByAnother(borrow, reading with { Void = null, VoidCause = null }, null).Judgement.Status == Status.Fail;

        private static bool HadNoEarth(Rejudged change) =>
            change.Before.Item.Equipment.Class is not (ProtectionClass.I or ProtectionClass.Undecided);
    }
}
