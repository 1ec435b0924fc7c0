using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

public sealed partial record BenchState
{
    /// <summary>Longer texts are no words of a technician; more events are no inspection.</summary>
    public const int LongestText = 500;
    public const int MostEvents = 1000;
    public const int MostPhotos = 40;

    /// <summary>Computes what is true. Events that may not count are listed in <see cref="Refused"/> with the reason; none is
    /// lost.</summary>
    /// <param name="memory">Keeps judgements by event between calls with a growing list; the answer is the same without it.</param>
    public static BenchState Of(Ruling ruling, IReadOnlyList<BenchEvent> events, BenchMemory? memory = null)
    {
        var folded = new Fold(ruling, [.. events.OfType<FactsMoved>().DistinctBy(e => e.Id)], memory ?? new());
        var seen = new HashSet<Guid>();
        foreach (var it in events)
        {
            if (seen.Count >= MostEvents || !seen.Add(it.Id))
                continue;
            folded.Take(it);
        }
        return folded.Finish();
    }

    /// <summary>Events laid one upon the other.</summary>
    private sealed partial class Fold
    {
        private readonly BenchMemory memory;
        private readonly List<(ReadingTaken Event, SheetStep? Step)> reads = [];
        private readonly Dictionary<Guid, Voided> voids = [];
        private readonly List<Overridden> overrides = [];
        private readonly List<Borrowed> borrows = [];
        private readonly List<LookAnswerState> answers = [];
        private readonly Dictionary<string, Guid> confirmed = [];
        private readonly List<EarthFound> earths = [];
        private readonly List<RefusedEvent> refused = [];
        private readonly List<TakenOver> takenOver = [];
        private Named? named;

        /// <summary>When what was switched on has started, and a powered reading counts; null where it is off, or starts at
        /// once.</summary>
        private DateTimeOffset? runsFrom;

        /// <summary>The pause that switched it to how it stands.</summary>
        private string? switchedBy;

        /// <summary>Typed before the item had started: why they are no readings.</summary>
        private readonly Dictionary<Guid, string> tooEarly = [];

        /// <summary>For what rated current each trip was taken.</summary>
        private readonly Dictionary<Guid, Amperes?> tripRatings = [];
        private Ruling ruling;
        private RunSheet sheet;
        private readonly List<RunSheet> earlier = [];
        private Evaluated? evaluated;
        private SafeIsolation isolation;
        private readonly List<PhotoTaken> photos = [];
        private readonly Dictionary<Guid, string> explained = [];

        /// <summary>By reading: what showed that it was connected.</summary>
        private readonly Dictionary<Guid, string> proved = [];
        private readonly List<CauseTried> tried = [];
        private readonly List<MainsLost> mainsLost = [];
        private readonly List<Discharged> discharges = [];

        /// <summary>By each charge that was timed, the discharges that had been made by then.</summary>
        private readonly Dictionary<Guid, Guid[]> tiredBy = [];
        private ComplaintTold? complaint;
        private WorkOrder? workOrder;
        private bool? sticker;
        private bool? standsIsolated;

        /// <summary>It was said since the item was last plugged in: elsewhere it may stand otherwise.</summary>
        private bool isStandingKnown;

        /// <summary>By which method and for what reason leakage was measured before something else was found to earth it.</summary>
        private (LeakageMethod Method, string? Reason) beforeDifference;
        private RepairSaid? repair;
        private IntervalSaid? interval;
        private CircuitSum? circuit;
        private OutletStory outlets = OutletStory.Nothing;

        /// <summary>From which outlet each powered reading was taken; null where none was known good at the time.</summary>
        private readonly Dictionary<Guid, OutletOfTheDay?> poweredFrom = [];
        private bool isParked;

        /// <param name="moves">Corrections beside the sheet: until the first of them it is judged by what it began with.</param>
        public Fold(Ruling start, IReadOnlyList<FactsMoved> moves, BenchMemory memory)
        {
            this.memory = memory;
            ruling = moves is [var first, ..] ? memory.After(Guid.Empty, start, () => With(start, first.Was), until: first.Id) : start;
            moved = new([.. moves.Skip(1).Select(next => (next.Was, next.Id)), (start.Item.Equipment, Guid.Empty)]);
            sheet = memory.SheetOf(ruling);
            isolation = SafeIsolation.Of(start.Item.Equipment.Phases);
        }

        public void Take(BenchEvent it)
        {
            var why = it switch
            {
                Looked looked => Look(looked),
                Confirmed step => Confirm(step),
                ReadingTaken reading => Read(reading),
                EarthFound earth => Earth(earth),
                Voided voided => Void(voided),
                FactsChanged facts => Change(facts),
                FactsMoved facts => Move(facts),
                Borrowed borrowed => Borrow(borrowed),
                Overridden by => Override(by),
                Withdrawn withdrawn => Withdraw(withdrawn),
                Evaluated evaluation => Evaluate(evaluation),
                ScopeChosen scope => Scope(scope),
                ProcedureChosen procedure => Choose(procedure),
                LeadParted lead => LeadApart.IsOffered(ruling)
                    ? Rule(lead, now => now with { IsLeadApart = lead.IsApart })
                    : "It has no detachable lead that this standard judges by itself.",
                SchoolChosen school => KitForStep.Refusal(ruling, school.School)
                    ?? Rule(school, now => now with { School = school.School }),
                Unproved unproved => Disbelieve(unproved),
                Parked => SetParked(true),
                Resumed => Resume(it),
                IndicatorProved proved => Isolate(
                    MayOnlyLook() ?? TooLong(proved.Indicator, proved.Reason) ?? IsolationKit.Refusal(ruling.Kit, proved),
                    isolation.ProveIndicator(proved.Indicator, proved.Type, proved.On, proved.Reason, proved.Works, it.At)
                ),
                DeadTested tested => Isolate(MayOnlyLook(), isolation.TestDead(tested.Side, tested.Pair, tested.Volts, it.At)),
                IsolationBegunAgain again => Isolate(TooLong(again.Reason), isolation.BeginAgain(again.Reason, it.At)),
                LockLeft left => Isolate(TooLong(left.Words), isolation.LeaveLock(left.Stays, left.Words, it.At)),
                PhotoTaken photo => Keep(photo),
                PathExplained path => Explain(path),
                ConnectionProved proof => Prove(proof),
                CauseTried cause => Keep(cause),
                MainsLost lost => Keep(lost),
                ComplaintTold told => Keep(told),
                WorkOrderTold order => Keep(order),
                StickerSaid said => Keep(said),
                CircuitSummed circuit => Keep(circuit),
                LeakageMethodChosen method => Choose(method),
                StandingSaid said => Keep(said),
                ProbePlaced placed => Keep(placed),
                ProbeTried tried => Keep(tried),
                RepairTold told => Keep(told),
                IntervalChosen chosen => Choose(chosen),
                OutletChecked outlet => CheckOutlet(outlet),
                OutletKept kept => Keep(kept),
                Discharged discharged => Count(discharged),
                TakenOver taken => Continue(taken),
                Named name => Keep(name),
                _ => "This is not known here.",
            };
            if (why is not null)
                refused.Add(new(it.Id, why));
        }

        private string? SetParked(bool to)
        {
            isParked = to;
            return null;
        }

        private string? Resume(BenchEvent it)
        {
            isolation = isolation.Lapse("It stood unattended: prove it dead again.", it.At);
            isStandingKnown = standsIsolated == false;
            LiftProbe();
            SwitchedOff();
            return SetParked(false);
        }

        private static string? TooLong(params ReadOnlySpan<string?> texts)
        {
            foreach (var text in texts)
                if (text?.Length > LongestText)
                    return $"Longer than {LongestText} characters.";
            return null;
        }

        /// <summary>A full stop is no reason.</summary>
        private static bool IsSaid(string text) => text.Length <= LongestText && text.Count(char.IsLetter) >= FewestLetters;

        private const int FewestLetters = 3;

        /// <summary>Nobody isolates what is not theirs to test; a lock that is on may be left by anybody.</summary>
        private string? MayOnlyLook() => sheet.IsMeasured ? ruling.MayOnlyLook : null;

        private string? Isolate(string? refusal, Result<SafeIsolation> next)
        {
            if (refusal is not null)
                return refusal;
            if (!ruling.Item.Equipment.IsHardWired)
                return "Only hard-wired equipment is isolated here.";
            if (next.Fault is { } fault)
                return fault.Message;
            isolation = next.Value;
            return null;
        }

        /// <summary>A wrong outlet is a fact of the outlet: it keeps the item from being powered there, and judges nothing.</summary>
        private string? CheckOutlet(OutletChecked it)
        {
            if (sheet.Steps.OfType<SheetStep.Outlet>().FirstOrDefault() is not { } step)
                return "Nothing of this sheet is powered from an outlet.";
            if (string.IsNullOrWhiteSpace(it.Name) || string.IsNullOrWhiteSpace(it.Room))
                return "Say which outlet it is, and in which room.";
            if (TooLong(it.Name, it.Room) is { } why)
                return why;
            var found = OutletFinding.Of(step.Supply, it.Voltages, ruling.Pack.Thresholds);
            if (found.Fault is { } fault)
                return fault.Message;
            outlets = outlets.Measured(
                new(
                    it.Id,
                    ruling.Technician.Id,
                    it.Name.Trim(),
                    it.Room.Trim(),
                    it.IsWorkbench,
                    it.At,
                    ruling.Technician.Name,
                    step.Supply,
                    [.. it.Voltages]
                ),
                found.Value
            );
            return null;
        }

        /// <summary>What was powered before a hand-over took its mains from an outlet of whoever had the sheet, not of whoever has it
        /// now: one measured on the sheet, or one that they had found good by then.</summary>
        private void GiveBackOutlets(string from)
        {
            var supply = OutletSupply.For(ruling.Item.Equipment, ruling.Pack);
            foreach (var (taken, _) in reads.Where(it => poweredFrom.ContainsKey(it.Event.Id)))
            {
                var supposed = poweredFrom[taken.Id];
                if (supposed is not null && (supposed.PersonId != ruling.Technician.Id || outlets.WasMeasured(supposed.Id)))
                    continue;
                poweredFrom[taken.Id] = ruling.Outlets.FirstOrDefault(it => it.By == from && it.At <= taken.At && it.Supply == supply);
            }
        }

        private OutletStanding? OutletNow() =>
            sheet.Steps.OfType<SheetStep.Outlet>().FirstOrDefault() is { } step
                ? outlets.For(step.Supply, ruling.Item.Room, ruling.Technician.Id, ruling.Outlets)
                : null;

        private string? Keep(PhotoTaken it)
        {
            if (string.IsNullOrWhiteSpace(it.Of) || TooLong(it.Of) is not null)
                return "It does not say what it shows.";
            if (photos.Count >= MostPhotos)
                return $"A sheet keeps {MostPhotos} photos; this one stays with the item.";
            photos.Add(it);
            return null;
        }

        /// <summary>Only of what an instrument saw open, dead: powered, a load that does not flow is no soft starter's.</summary>
        private string? Explain(PathExplained it)
        {
            if (string.IsNullOrWhiteSpace(it.Words) || TooLong(it.Words) is not null)
                return "Say in a few words why nothing flows while it is dead.";
            if (!reads.Exists(read => read.Event.Id == it.Target && read.Event is { PathSeen: false, Source: ReadingSource.Instrument }))
                return "No instrument saw L and N open with this reading.";
            explained[it.Target] = it.Words.Trim();
            return null;
        }

        /// <summary>Words alone decide nothing: whoever says that it was connected has looked, and measured once more.</summary>
        private string? Prove(ConnectionProved it)
        {
            if (!IsSaid(it.Words))
                return "Say in a few words what shows that it was connected.";
            if (!reads.Exists(read => read.Event.Id == it.Target))
                return "There is no such reading.";
            if (!IsReadAgain(it.Target))
                return "Look at the connection and measure once more first: a second reading and what was seen decide it together.";
            proved[it.Target] = it.Words.Trim();
            return null;
        }

        private bool IsReadAgain(Guid reading) =>
            reads.Find(read => read.Event.Id == reading).Event is { } it
            && reads.Exists(other => other.Event.Id != it.Id && other.Event.Step == it.Step && other.Event.Point == it.Point);

        private string? Keep(CauseTried it)
        {
            if (string.IsNullOrWhiteSpace(it.Words) || TooLong(it.Words, it.Signature) is not null)
                return "Say in a few words what was tried.";
            if (!Diagnosis.Signature.All.Any(signature => signature.Id == it.Signature))
                return "This sign is not known here.";
            tried.Add(it);
            return null;
        }

        private string? Keep(MainsLost it)
        {
            if (sheet.Find(it.Step)?.Powers != true)
                return "Nothing was powered at this step.";
            mainsLost.Add(it);
            SwitchedOff();
            return null;
        }

        private string? Keep(OutletKept it)
        {
            if (ruling.Outlets.FirstOrDefault(known => known.Id == it.Outlet) is not { } outlet)
                return "This outlet is not among those found good today: measure it.";
            outlets = outlets.Chose(outlet);
            return null;
        }

        private string? Keep(Named name)
        {
            if (TooLong(name.Tag, name.SeenAs) is { } tooLong)
                return tooLong;
            if (ruling.Item.IsLoose)
                return "It has no tag yet.";
            named = name;
            return null;
        }

        private string? Continue(TakenOver taken)
        {
            if (string.IsNullOrWhiteSpace(taken.From) || taken.From.Length > LongestText)
                return "It does not say from whom.";
            takenOver.Add(taken);
            // Decided by whoever had the sheet: what is a lead's, or a person's to confirm, is decided anew by whoever has it now.
            overrides.Clear();
            evaluated = null;
            isolation = isolation.PassOn(taken.From, taken.At);
            outlets = outlets.PassedOn(taken.From);
            LiftProbe();
            SwitchedOff();
            GiveBackOutlets(taken.From);
            return SetParked(false);
        }

        /// <summary>The sheet follows what was settled; what was done stays and is judged again.</summary>
        private string? Rule(BenchEvent change, Func<Ruling, Ruling> make, Guid until = default)
        {
            var before = ruling;
            rejudged.Add(new(change, before, reads.Count, [.. borrows]));
            earlier.Add(sheet);
            ruling = memory.After(change.Id, before, () => make(before), until);
            sheet = memory.SheetOf(ruling);
            return null;
        }

        private string? Look(Looked looked)
        {
            foreach (var point in looked.Points)
            {
                if (point.Words?.Length > LongestText)
                    return $"Longer than {LongestText} characters.";
                if (LookList.WantsWords(point.Answer) && string.IsNullOrWhiteSpace(point.Words))
                    return "Say in words what is bad.";
                if (LookList.Contradiction(point, ruling.Pack.Thresholds) is { } contradiction)
                    return contradiction;
                if (point is { Answer: LookAnswer.Advice, Words: { } words } && MustFail(point.PointId, words) is { } phrase)
                    return $"“{phrase}” is bad, never advice: nothing passes with it.";
                var standing = answers.Find(answer => answer.PointId == point.PointId);
                // A bad point is taken back with a reason, never written over.
                if (standing?.Answer == LookAnswer.Bad && point.Answer != LookAnswer.Bad)
                    return "This point was found bad: take that back first, with the reason.";
            }
            foreach (var point in looked.Points)
            {
                answers.RemoveAll(answer => answer.PointId == point.PointId);
                answers.Add(new(point.PointId, point.Answer, point.Words, looked.Id) { Ohm = point.Ohm });
            }
            return null;
        }

        private string? Confirm(Confirmed it)
        {
            if (sheet.Find(it.Step) is not (SheetStep.Confirm or SheetStep.Pause or SheetStep.ChangeOver))
                return "There is nothing to confirm under this name.";
            if (SafeIsolation.Order.Contains(it.Step))
                return Isolate(MayOnlyLook() ?? TooLong(it.Words), isolation.Confirm(it.Step, it.Words, it.At));
            confirmed[it.Step] = it.Id;
            if (sheet.Find(it.Step) is SheetStep.Pause pause)
                (switchedBy, runsFrom) = (pause.Key, pause.Seconds > 0 ? it.At.AddSeconds(pause.Seconds) : null);
            return null;
        }

        /// <summary>Each discharge is one event, so that a lost line loses none. What follows faster than a device can charge was counted
        /// twice.</summary>
        private string? Count(Discharged it)
        {
            if (sheet.Find(it.Step) is not SheetStep.Discharges)
                return "No discharges are counted under this name.";
            if (
                it.Source == ReadingSource.Typed
                && discharges.Count > 0
                && it.At - discharges[^1].At < ruling.Pack.Thresholds.DischargesApart
            )
                return "Two discharges do not follow one another so fast: counted once.";
            discharges.Add(it);
            return null;
        }

        /// <summary>It was unplugged, or its mains went away: it is brought back to how it stood, and starts anew. What was switched before
        /// that is past.</summary>
        private void SwitchedOff()
        {
            runsFrom = null;
            if (switchedBy is not null)
                confirmed.Remove(switchedBy);
            switchedBy = null;
        }

        /// <summary>An instrument waits by itself (<see cref="PlanStep.Measure.Seconds"/>); whoever types has to.</summary>
        private string? TooEarly(ReadingTaken it, SheetStep? step) =>
            it.Source == ReadingSource.Typed
            && step is SheetStep.Check or SheetStep.Measure { Powers: true, Plan.Under: Conditions.Leakage { Power: PowerState.On } }
            && runsFrom is { } from
            && it.At < from
                ? $"read {Math.Ceiling((from - it.At).TotalSeconds):0} s before it had started"
                : null;

        private string? Read(ReadingTaken it)
        {
            if (it.Point?.Length > LongestText || it.Note?.Length > LongestText || it.Text?.Length > LongestText)
                return $"Longer than {LongestText} characters.";
            if (it.Waveform is { IsSound: false })
                it = it with { Waveform = null };
            // What was measured is a fact whatever the order: it is kept, and a failure among it counts.
            var step = StepOf(it);
            var believed = AtItsSpot(it.Source == ReadingSource.Instrument && it.Seal is null ? AsTyped(it) : it, step);
            reads.Add((believed, step));
            NoteProbe(believed);
            if (TooEarly(believed, step) is { } early)
                tooEarly[it.Id] = early;
            if (BenchMemory.PlanOf(step)?.Test == Test.DefibCharge)
                tiredBy[it.Id] = [.. discharges.Select(one => one.Id)];
            if (BenchMemory.PlanOf(step)?.Test == Test.RcdTrip)
                tripRatings[it.Id] = ruling.Item.Equipment.Rcd;
            if (step?.Powers == true)
                poweredFrom[it.Id] = OutletNow()?.InUse;
            return null;
        }

        /// <summary>Of the sheet in force, or of an earlier one when the sheet has moved on; null when no sheet had it.</summary>
        private SheetStep? StepOf(ReadingTaken reading) =>
            sheet.Find(reading.Step) ?? earlier.FindLast(before => before.Find(reading.Step) is not null)?.Find(reading.Step);

        /// <summary>Of connections that are measured in turn, the first that has no reading: nobody has to say which it is.</summary>
        private ReadingTaken AtItsSpot(ReadingTaken it, SheetStep? step) =>
            it.Point is null && step is SheetStep.Measure { Plan.Spots: { IsEmpty: false } spots }
                ? it with
                {
                    Point = spots.FirstOrDefault(spot =>
                        !reads.Exists(read => read.Event.Step == it.Step && read.Event.Point == spot && !voids.ContainsKey(read.Event.Id))
                    ),
                }
                : it;

        private string? Disbelieve(Unproved it)
        {
            var at = reads.FindIndex(read => read.Event.Id == it.Target);
            if (at < 0)
                return "There is no such reading.";
            var taken = reads[at].Event;
            reads[at] = (AsTyped(taken), reads[at].Step);
            return null;
        }

        /// <summary>The figure alone: null, supply and accuracy were the instrument's to say.</summary>
        private static ReadingTaken AsTyped(ReadingTaken it) =>
            it with
            {
                Source = ReadingSource.Typed,
                Mains = null,
                LoadA = null,
                NullOhm = null,
                Lowest = null,
                PathSeen = null,
                Waveform = null,
                Note = it.Note ?? (it.Ok == false ? "said by an instrument" : null),
            };

        private string? Earth(EarthFound it)
        {
            if (string.IsNullOrWhiteSpace(it.Words) || it.Words.Length > LongestText)
                return "Say in a few words where the earth was found.";
            earths.Add(it);
            return null;
        }

        private string? Void(Voided it)
        {
            if (!IsSaid(it.Reason))
                return "Say in a few words why it counts for nothing.";
            if (it.Point is { } point)
                return LookAgain(point, it);
            if (
                reads.Exists(read => read.Event.Id == it.Target)
                || earths.Exists(earth => earth.Id == it.Target)
                || photos.Exists(photo => photo.Id == it.Target)
            )
                return voids.TryAdd(it.Target, it) ? null : "It was voided already.";
            if (discharges.RemoveAll(one => one.Id == it.Target) > 0)
                return null;
            var step = confirmed.FirstOrDefault(entry => entry.Value == it.Target).Key;
            return step is not null && confirmed.Remove(step) ? null : "There is nothing to void under this id.";
        }

        private string? LookAgain(string point, Voided it)
        {
            if (answers.Find(answer => answer.PointId == point && answer.EventId == it.Target) is not { } standing)
                return "This answer does not stand any more.";
            answers.Remove(standing);
            if (standing.Answer == LookAnswer.Bad)
                lookedAgain.Add(new(SetAsideBy.Look, PointText(point), standing.Words ?? "bad", it.Reason.Trim(), IsExcused: true));
            return null;
        }

        private LookPoint? PointOf(string id) =>
            sheet.Steps.OfType<SheetStep.Look>().First().Points.FirstOrDefault(point => point.Id == id);

        private string PointText(string id) => PointOf(id)?.Text ?? id;

        /// <summary>In the words that are on the screen, and in ours.</summary>
        private string? MustFail(string id, string words) =>
            PointOf(id) is not { } point
                ? null
                : point.FailingIn(words) ?? (point with { Fails = [.. ruling.Pack.Dialect.Say(point.Fails)] }).FailingIn(words);

        private string? Change(FactsChanged it)
        {
            if (!IsSaid(it.Reason))
                return "Say in a few words why the facts change.";
            var changed = Bench.Facts.Apply(ruling.Item, it.Changes);
            if (changed.Fault is { } fault)
                return fault.Message;
            corrected.Add(it.Changes);
            var place = it.Changes.Place ?? ruling.Basis.Place;
            return Rule(it, now => now with { Item = changed.Value, Basis = now.Basis with { Place = place } });
        }

        private string? Borrow(Borrowed it)
        {
            if (!reads.Exists(read => read.Event.Id == it.Target))
                return "There is no such reading.";
            if (it.PackId == ruling.PackId)
                return "This is the round's own standard; a second one is another.";
            if (ruling.PackOf(it.PackId) is null)
                return $"There is no standard “{it.PackId}”.";
            borrows.Add(it);
            return null;
        }

        private string? Override(Overridden it)
        {
            if (it.Reason.Length > LongestText)
                return $"Longer than {LongestText} characters.";
            var at = reads.FindIndex(read => read.Event.Id == it.Target);
            if (at < 0 || reads[at].Step is not { } step)
                return "There is no such reading.";
            var test = BenchMemory.PlanOf(step)?.Test;
            if (test is null)
                return "This cannot be overridden.";
            var made = Judging.Override.Of(
                ruling.Pack,
                ruling.Item.Equipment,
                test.Value,
                it.To,
                ruling.Technician.Name,
                ruling.Technician.IsLead,
                it.Reason
            );
            if (made.Fault is { } fault)
                return $"No override: {fault.Message}.";
            overrides.RemoveAll(by => by.Target == it.Target);
            overrides.Add(it);
            return null;
        }

        private string? Withdraw(Withdrawn it)
        {
            if (borrows.Find(borrow => borrow.Id == it.Target) is { } borrow)
            {
                borrows.Remove(borrow);
                withdrawn.Add(borrow);
                return null;
            }
            if (overrides.RemoveAll(by => by.Id == it.Target) > 0)
                return null;
            if (evaluated?.Id != it.Target)
                return "There is nothing to take back under this id.";
            evaluated = null;
            return null;
        }

        private string? Evaluate(Evaluated it)
        {
            evaluated = it;
            return null;
        }
    }
}
