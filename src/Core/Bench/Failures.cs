using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Bench;

public sealed partial record BenchState
{
    private sealed partial class Fold
    {
        /// <summary>Every change of what is judged by, with what stood before it.</summary>
        /// <param name="Reads">Readings that had been taken by then.</param>
        /// <param name="Borrows">Second standards that readings were held against by then.</param>
        private sealed record Rejudged(BenchEvent By, Ruling Before, int Reads, ImmutableArray<Borrowed> Borrows)
        {
            public SetAsideBy Kind => By is FactsChanged or FactsMoved ? SetAsideBy.Facts : SetAsideBy.Choice;

            /// <param name="now">The item as it stands.</param>
            public string Why(Item now) =>
                By switch
                {
                    FactsChanged facts when Before.Item.Equipment.Class != now.Class =>
                        $"class {Words.Of(Before.Item.Equipment.Class)} became {Words.Of(now.Class)}, “{facts.Reason.Trim()}”",
                    FactsMoved when Before.Item.Equipment.Class != now.Class =>
                        $"class {Words.Of(Before.Item.Equipment.Class)} became {Words.Of(now.Class)} beside this sheet",
                    FactsMoved => CorrectedBeside,
                    FactsChanged facts => $"“{facts.Reason.Trim()}”",
                    ProcedureChosen => "the procedure",
                    ScopeChosen => "the scope",
                    _ => "the method",
                };
        }

        private const string CorrectedBeside = "corrected beside this sheet";

        private readonly List<Rejudged> rejudged = [];

        /// <summary>What the item became by each correction beside the sheet, in order.</summary>
        private readonly Queue<(Item Item, Guid Until)> moved;

        /// <summary>What was corrected on the sheet itself.</summary>
        private readonly List<FactChanges> corrected = [];

        private static Ruling With(Ruling ruling, Item equipment) => ruling with { Item = ruling.Item with { Equipment = equipment } };

        /// <summary>What was corrected on the sheet stays so.</summary>
        private string? Move(FactsMoved e)
        {
            var (became, until) = moved.Dequeue();
            var item = ruling.Item with { Equipment = became };
            foreach (var changes in corrected)
                if (Bench.Facts.Apply(item, changes).TryGet(out var again))
                    item = again;
            return Rule(e, now => now with { Item = item }, until);
        }

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
                else if (
                    ruling.Item.Equipment.Class == ProtectionClass.I
                    && ruling.UnsavedFailures.FirstOrDefault(failure => failure.Id == earth.Id) is { } known
                    && WasSettled(known)
                )
                    yield return Beside(known);
            foreach (var failure in borrows.Concat(withdrawn).Select(borrow => SetAsideAfter(taken, borrow)).OfType<SetAside>())
                yield return failure;
            foreach (var answer in lookedAgain)
                yield return answer;
            foreach (var failure in Foreign().Where(failure => IsMeasuredByInstrument(taken, failure)))
                yield return new(SetAsideBy.Elsewhere, failure.Name, failure.Value, $"{failure.By}, {failure.Day:yyyy-MM-dd}");
        }

        /// <summary>Failures of other sheets of this item.</summary>
        private IEnumerable<UnsavedFailure> Foreign() =>
            ruling.UnsavedFailures.Where(failure =>
                !reads.Exists(read => read.Event.Id == failure.Id) && !earths.Exists(earth => earth.Id == failure.Id)
            );

        private static bool IsMeasuredByInstrument(TakenReading[] taken, UnsavedFailure failure) =>
            taken.Any(read =>
                read is { Event.Source: ReadingSource.Instrument, Void: null, Judgement.Status: Status.Pass } && failure.IsAt(read)
            );

        /// <summary>What is typed where an instrument failed and nobody saved it decides nothing.</summary>
        private void HoldAgainstUnsaved(TakenReading[] taken)
        {
            foreach (var failure in Foreign())
            foreach (var (at, read) in taken.Index())
                if (read is { Event.Source: ReadingSource.Typed, Void: null, Judgement.Status: Status.Pass } && failure.IsAt(read))
                    taken[at] = Doubted(read, Because.FailedHere);
        }

        /// <summary>A failure that no longer is one. Made void it is one still where its step has gone from the sheet, so that nothing
        /// took its place.</summary>
        private SetAside? SetAsideAfter(TakenReading[] taken, int at)
        {
            var read = taken[at];
            var isVoid = voids.ContainsKey(read.Event.Id);
            var isGone = read.OffSheet && isVoid && !IsMeasuredAgain(taken, at, from: at + 1);
            // A lead who overrode the failure itself is told as that.
            if (read.Judgement is { Status: Status.Fail } or { Overridden: Status.Fail } || (read.HidesFailure && !isGone))
                return null;
            foreach (var change in rejudged)
                if (at < change.Reads && HadFailed(reads[at], change.Before) is { } failed)
                {
                    var isMended = isVoid
                        ? IsMeasuredAgain(taken, at, from: at + 1)
                        : IsFlexEntered(change.Before) && IsMeasuredAgain(taken, at, change.Reads);
                    return new(
                        change.Kind,
                        failed.Name,
                        Judging.SetAside.ValueOf(failed),
                        change.Why(ruling.Item.Equipment),
                        WantsLead: change.Kind == SetAsideBy.Facts && !isMended
                    );
                }
            return ruling.UnsavedFailures.FirstOrDefault(failure => failure.Id == read.Event.Id) is { } known && WasSettled(known)
                ? Beside(known) with
                {
                    WantsLead = !(isVoid && IsMeasuredAgain(taken, at, from: at + 1)),
                }
                : null;
        }

        /// <summary>It failed when the server measured it, and no longer does by what holds now.</summary>
        private static SetAside Beside(UnsavedFailure known) =>
            new(SetAsideBy.Facts, known.Name, known.Value, CorrectedBeside, WantsLead: true);

        private static bool WasSettled(UnsavedFailure known) => known.Class != ProtectionClass.Undecided;

        private static bool IsMeasuredAgain(TakenReading[] taken, int at, int from) =>
            taken.Skip(from).Any(later => later is { Void: null, Judgement.Status: Status.Pass } && IsSamePlace(later, taken[at]));

        /// <summary>Nobody had entered it, and everything else that is judged by stood as it stands.</summary>
        private bool IsFlexEntered(Ruling before)
        {
            var (was, now) = (before.Item.Equipment, ruling.Item.Equipment);
            return was.Cord is not { Length: not null, Conductor: not null } && was with { Cord = now.Cord } == now;
        }

        /// <summary>Whoever decides a class that was undecided changes none: then it has to fail by the class that was decided.</summary>
        /// <returns>Null where it had not failed.</returns>
        private Reading? HadFailed((ReadingTaken Event, SheetStep? Step) read, Ruling under) =>
            Understood(read, under) is { } reading
            && JudgedUnder(under, read.Event.Id, reading, null, null).Status == Status.Fail
            && (
                under.Item.Equipment is not { Class: ProtectionClass.Undecided } undecided
                || Judging.Judge.Of(under.Pack, undecided with { Class = ruling.Item.Equipment.Class }, reading, under.DecisionRule).Status
                    == Status.Fail
            )
                ? reading
                : null;

        /// <summary>A failure by a second standard that is none any more: that was taken back, or what it judged by changed.</summary>
        private SetAside? SetAsideAfter(TakenReading[] taken, Borrowed borrow)
        {
            var at = Array.FindIndex(taken, read => read.Event.Id == borrow.Target);
            if (at < 0)
                return null;
            var isTakenBack = withdrawn.Contains(borrow);
            if (taken[at].Judgement is { Reading: var now } && FailsBy(borrow, now, ruling))
                return isTakenBack ? Told(SetAsideBy.Choice, now, "the second standard was taken back") : null;
            foreach (var change in rejudged.Where(change => at < change.Reads && change.Borrows.Contains(borrow)))
                if (
                    change.Before.Item.Equipment.Class != ProtectionClass.Undecided
                    && Understood(reads[at], change.Before) is { } before
                    && FailsBy(borrow, before, change.Before)
                )
                    return Told(change.Kind, before, change.Why(ruling.Item.Equipment));
            return null;

            SetAside Told(SetAsideBy by, Reading reading, string why) =>
                new(by, $"{reading.Name} by {borrow.PackId}", Judging.SetAside.ValueOf(reading), why);
        }

        private bool FailsBy(Borrowed borrow, Reading reading, Ruling under) =>
            ByAnother(borrow, reading with { Void = null, VoidCause = null }, null, under).Judgement.Status == Status.Fail;

        /// <returns>Null where it says nothing under this ruling.</returns>
        private Reading? Understood((ReadingTaken Event, SheetStep? Step) read, Ruling under) =>
            BenchMemory.PlanOf(read.Step) is { } plan
            && memory.Understood(read.Event, under, () => ReadingOf.Taken(under, plan, read.Event)).TryGet(out var reading)
                ? reading
                : null;

        private static bool HadNoEarth(Rejudged change) =>
            change.Before.Item.Equipment.Class is not (ProtectionClass.I or ProtectionClass.Undecided);
    }
}
