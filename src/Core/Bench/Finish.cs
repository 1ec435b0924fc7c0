using System.Collections.Immutable;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

public sealed partial record BenchState
{
    private sealed partial class Fold
    {
        /// <summary>A reading that decided nothing is replaced by the next one at its place; both stay on the record.</summary>
        private const string MeasuredAgain = "undecided, measured again";

        private const string ClassSettled = "the class was settled: an open earth is what class II shows";

        public BenchState Finish()
        {
            var taken = reads.Select(read => Judged(read.Event, read.Step)).ToArray();
            Silence(taken);
            Tire(taken);
            var look = LookNow();
            HoldAgainstWhatIsKnown(taken, look.Outcome);
            HoldAgainstUnsaved(taken);
            Supersede(taken);
            var facts = FactsOf(taken, look.Outcome);
            var assessment = Assessment.Of(facts, [.. taken.Where(it => it.Judgement is not null).SelectMany(AllJudgements)]);
            assessment = assessment with { Advice = [.. assessment.Advice, .. NotExercised(taken)] };
            assessment = assessment.WithSetAside([.. SetAsides(taken)]);
            var standing = earths
                .Where(earth => !voids.ContainsKey(earth.Id) && ruling.Item.Equipment.Class != ProtectionClass.I)
                .ToImmutableArray();
            if (!standing.IsEmpty)
                assessment = assessment with { Verdict = Verdict.Fail };
            var outlet = OutletNow();
            string[] done = [.. confirmed.Keys, .. isolation.Done, .. outlet?.InUse is null ? (string[])[] : [SheetStep.Outlet.OwnKey]];
            var steps = Standings.Of(ruling, sheet, taken, look, done, standing, [.. Tiring().Select(it => it.Id)], ProbeNow is not null);
            assessment = Waiting(assessment, steps);
            // While it is still being done there is nothing to tell; fault-finding ends with no pass.
            if (
                assessment.Verdict == Verdict.Pass
                && ruling.Scope != Planning.Scope.FaultFinding
                && Performance.NotMeasured(steps) is { } owed
            )
                assessment = assessment with { Advice = [.. assessment.Advice, owed] };
            if (assessment.Verdict == Verdict.Pass && sheet.IsMeasured && BatteryAge.Advice(ruling) is { } battery)
                assessment = assessment with { Advice = [.. assessment.Advice, battery] };
            if (
                assessment.Verdict == Verdict.Pass
                && sheet.IsMeasured
                && FuseAndFlex.NotEntered(ruling.Item.Equipment, ruling.Pack) is { } notEntered
            )
                assessment = assessment with { Advice = [.. assessment.Advice, notEntered] };
            var state = new BenchState
            {
                Ruling = ruling,
                Sheet = sheet,
                Steps = steps,
                Look = look,
                Readings = [.. taken],
                Facts = facts,
                Assessment = assessment,
                EarthsFound = standing,
                Unsaved = [.. Foreign().Where(failure => !IsMeasuredByInstrument(taken, failure))],
                Isolation = isolation,
                Outlet = outlet,
                FromNoGoodOutlet = outlet is null
                    ? []
                    : [.. poweredFrom.Where(it => it.Value is not { } from || !outlet.StillHolds(from)).Select(it => it.Key)],
                Tried = [.. tried],
                Complaint = complaint?.Words,
                WorkOrder = workOrder,
                Sticker = sticker,
                StandsIsolated = standsIsolated,
                IsStandingKnown = isStandingKnown,
                Probe = ProbeNow,
                Repair = repair ?? ruling.Item.Held?.Repair,
                IntervalSaid = interval,
                Circuit = circuit,
                Session = new(mainsLost.Count > 0, ruling.EarthOffsets),
                Photos = [.. photos.Where(photo => !voids.ContainsKey(photo.Id))],
                Current = (Theirs(steps) ?? steps.FirstOrDefault(step => !step.IsOver))?.Step.Key,
                Ends = [],
                Refused = [],
                IsParked = isParked,
                TakenOver = [.. takenOver],
                Named = named,
                RunsFrom = runsFrom,
                Proposal = EvaluationProposal.Of(facts, assessment),
            };
            // The figures that are left speak of no failure; nobody proposes by them what a lead is still to decide.
            if (state.IsFailureUnanswered)
                state = state with { Proposal = null };
            state = state with { Evaluation = Standing(state) };
            state = state with { Ends = Bench.Ends.Of(state) };
            // Whether the sheet passes, and so what is computed, is known by its ends.
            if (interval is not null && IntervalChoice.Lapsed(state) is { } lapsed)
                refused.Add(new(interval.EventId, lapsed));
            return state with { Refused = [.. refused] };
        }

        /// <summary>The look, where that is all that this person may do and it is not done.</summary>
        private StepState? Theirs(ImmutableArray<StepState> steps) =>
            sheet.IsMeasured && ruling.MayOnlyLook is not null
                ? steps.FirstOrDefault(step => step is { Step: SheetStep.Look, IsOver: false })
                : null;

        /// <summary>A confirmation that the readings have since contradicted stands no more.</summary>
        private Evaluated? Standing(BenchState state)
        {
            if (evaluated is null)
                return null;
            if (Evaluations.Refusal(state, evaluated.Evaluation) is not { } why)
                return evaluated;
            refused.Add(new(evaluated.Id, why));
            return null;
        }

        private TakenReading Judged(ReadingTaken it, SheetStep? step)
        {
            var plan = BenchMemory.PlanOf(step);
            if (plan is null)
                return new(it, it.Step, "This step is not on the run sheet.", null, null, [], null, true);
            var read = memory.Understood(it, ruling, () => ReadingOf.Taken(ruling, plan, it));
            var offSheet = sheet.Find(it.Step) is null;
            if (!read.TryGet(out var reading))
                return new(it, it.Step, read.Fault!.Message, null, VoidOf(it.Id), [], null, offSheet);

            if (explained.TryGetValue(it.Id, out var why))
                reading = reading with { Load = null, Note = $"L and N open while dead: {why}" };
            if (proved.TryGetValue(it.Id, out var seen) && reading is Reading.Leakage leakage)
                reading = leakage with { Proof = seen, Note = $"connected: {seen}" };
            reading = AtProbe(it.Id, reading);
            var reason = VoidOf(it.Id) ?? Uncounted(it.Id, reading);
            var by = reason is null ? overrides.Find(over => over.Target == it.Id) : null;
            var judgement = Judge(it.Id, reading, reason, by);
            var borrowed = borrows
                .Where(borrow => borrow.Target == it.Id)
                .Select(borrow => ByAnother(borrow, reading, reason, ruling))
                .ToImmutableArray();
            var hides = reason is not null && Judge(it.Id, reading, null, null).Status == Status.Fail;
            return new(it, it.Step, null, judgement, reason, borrowed, by, offSheet) { HidesFailure = hides };
        }

        private string? VoidOf(Guid reading) => voids.GetValueOrDefault(reading)?.Reason.Trim();

        /// <summary>What says nothing of the item as it is and runs. A failure among it stays until somebody says why it does not
        /// count.</summary>
        private string? Uncounted(Guid id, Reading reading) =>
            (OfAnotherRating(id) ?? tooEarly.GetValueOrDefault(id) ?? OfBrokenLead(id, reading)) is { } why
            && Judge(id, reading, null, null).Status != Status.Fail
                ? why
                : null;

        /// <summary>A trip is taken at multiples of the rated current: one that was good for another rating says nothing of this
        /// one.</summary>
        private string? OfAnotherRating(Guid id) =>
            tripRatings.TryGetValue(id, out var then) && then != ruling.Item.Equipment.Rcd
                ? $"taken for {(then is { } rated ? $"{QuantityText.Number(rated.Value * 1000, 3)} mA" : "no rating")}, and it is rated otherwise"
                : null;

        private Judgement Judge(Guid id, Reading reading, string? reason, Overridden? by) => JudgedUnder(ruling, id, reading, reason, by);

        private Judgement JudgedUnder(Ruling ruling, Guid id, Reading reading, string? reason, Overridden? by) =>
            memory.Judged(
                id,
                reading,
                ruling,
                reason is null && by is null && reading.Note is null ? "" : $"{reason}|{by?.Id}|{reading.Note}",
                () =>
                {
                    var (pack, item, lead) = (ruling.Pack, ruling.Item.Equipment, ruling.Technician);
                    var cause = reason is null ? null : voids.GetValueOrDefault(id)?.Cause;
                    var decided = by is null ? reading : reading.Overridden(pack, item, by.To, lead.Name, lead.IsLead, by.Reason).Value;
                    return Judging.Judge.Of(pack, item, decided with { Void = reason, VoidCause = cause }, ruling.DecisionRule);
                }
            );

        private BorrowedJudgement ByAnother(Borrowed borrow, Reading reading, string? reason, Ruling ruling) =>
            new(
                borrow.Id,
                borrow.PackId,
                memory.Judged(
                    borrow.Id,
                    reading,
                    ruling,
                    $"{reason}|{reading.Note}",
                    () =>
                        Judging.Judge.Of(
                            ruling.Pack,
                            ruling.Item.Equipment,
                            reading with
                            {
                                Borrowed = ruling.PackOf(borrow.PackId),
                                Void = reason,
                            },
                            ruling.DecisionRule
                        )
                )
            );

        /// <summary>What lies behind what has not closed was not under test: said on the paper.</summary>
        private IEnumerable<string> NotExercised(TakenReading[] taken) =>
            taken
                .Where(it => it.Void is null && explained.ContainsKey(it.Event.Id) && it.Judgement is not null)
                .Select(it =>
                    $"{it.Judgement!.Reading.Name}: nothing flowed between L and N ({explained[it.Event.Id]}). What lies behind it was not exercised by this reading."
                );

        /// <summary>Of connections that are measured in turn, one where nothing flows was not under test while something flows at the
        /// others; and one alone is not the part where all of it are joined.</summary>
        private void Silence(TakenReading[] taken)
        {
            foreach (var step in sheet.Steps.OfType<SheetStep.Measure>())
            {
                var own = taken
                    .Index()
                    .Where(it => it.Item.StepKey == step.Key && it.Item is { Void: null, Judgement.Status: Status.Pass })
                    .ToArray();
                if (step.Plan.Spots.IsEmpty)
                {
                    foreach (var (at, it) in own.Where(it => IsOneOfJoined(step, it.Item)))
                        taken[at] = Doubted(it, Because.OneConnection);
                    continue;
                }
                if (taken.Any(it => it.StepKey == step.Key && it is { Void: null, Judgement: not null } && !IsNothing(it.Judgement)))
                    foreach (var (at, it) in own.Where(it => IsNothing(it.Item.Judgement!)))
                        taken[at] = Doubted(it, Because.SilentConnection);
            }
        }

        /// <summary>What would pass and contradicts what is known of the item is undecided.</summary>
        private void HoldAgainstWhatIsKnown(TakenReading[] taken, Look look)
        {
            var at = taken.Index().Where(read => read.Item is { Void: null, Judgement: not null }).Select(read => read.Index).ToArray();
            var judgements = at.Select(index => taken[index].Judgement!).ToArray();
            var facts = FactsOf(taken, look);
            for (var n = 0; n < at.Length; n++)
                taken[at[n]] = taken[at[n]] with
                {
                    Judgement = Doubts.About(facts, judgements, n),
                    IsReadAgain = IsReadAgain(taken[at[n]].Event.Id),
                };
        }

        /// <summary>Discharges since the last charge that was timed only after a rest: whatever was before it is made anew.</summary>
        private IEnumerable<Discharged> Tiring()
        {
            var rest = ruling.Pack.Thresholds.DischargesRest;
            var rested = reads
                .Where(it => tiredBy.ContainsKey(it.Event.Id) && !voids.ContainsKey(it.Event.Id))
                .Select(it => it.Event.At)
                .Where(at => discharges.LastOrDefault(one => one.At <= at) is { } last && at - last.At > rest)
                .DefaultIfEmpty(DateTimeOffset.MinValue)
                .Max();
            return discharges.Where(one => one.At > rested);
        }

        /// <summary>A battery that is fresh charges faster than one after the discharges that the limit speaks of.</summary>
        private void Tire(TakenReading[] taken)
        {
            if (sheet.Steps.OfType<SheetStep.Discharges>().FirstOrDefault() is not { } step)
                return;
            var standing = Tiring().Select(one => one.Id).ToHashSet();
            foreach (var (at, it) in taken.Index())
                // One that was taken back afterwards, or lies behind a rest, did not tire it.
                if (
                    tiredBy.TryGetValue(it.Event.Id, out var before)
                    && before.Count(standing.Contains) < step.Needed
                    && it is { Void: null, Judgement.Status: Status.Pass }
                )
                    taken[at] = Doubted(it, Because.NotTired);
        }

        /// <summary>The part joined, after one connection of it alone.</summary>
        private static bool IsWhole(TakenReading later, TakenReading it) =>
            later.StepKey == it.StepKey
            && it.Judgement!.Because == Because.OneConnection
            && later.Judgement!.Because != Because.OneConnection;

        private bool IsNothing(Judgement it) =>
            it.Value is not { } value
            || Comparison.AtMost(value.Si, ruling.Pack.Thresholds.SilentConnection.Value)
            || it.Reading.Value?.Qualifier == Quantities.Qualifier.Below;

        /// <summary>Taken when the part's connections were to be measured in turn; now they are joined.</summary>
        private bool IsOneOfJoined(SheetStep.Measure step, TakenReading it) =>
            it.Event.Point is { } point
            && ruling.Item.Equipment.AppliedParts.FirstOrDefault(part => part.Name == step.Plan.Under.AppliedPart)
                is { Connections: > 1 } part
            && part.ConnectionNames.Contains(point);

        private static TakenReading Doubted(TakenReading it, Because because) =>
            it with
            {
                Judgement = it.Judgement! with { Status = Status.Undecided, Because = because },
            };

        /// <summary>Undecided readings that were taken again at the same place count as voided.</summary>
        private void Supersede(TakenReading[] taken)
        {
            for (var at = 0; at < taken.Length; at++)
            {
                if (taken[at] is not { Void: null, Judgement: { Status: Status.Undecided } undecided } it)
                    continue;
                if (it.OffSheet && undecided is { Because: Because.ClassInDoubt, Reading.Value.Qualifier: Quantities.Qualifier.Above })
                    taken[at] = it with { Void = ClassSettled, Judgement = Judge(it.Event.Id, undecided.Reading, ClassSettled, null) };
                if (it.OffSheet)
                    continue;
                var again = taken
                    .Skip(at + 1)
                    .Any(later => later is { Void: null, Judgement: not null } && (IsSamePlace(later, it) || IsWhole(later, it)));
                if (again)
                    taken[at] = it with { Void = MeasuredAgain, Judgement = Judge(it.Event.Id, undecided.Reading, MeasuredAgain, null) };
            }
        }

        private LookState LookNow()
        {
            var points = sheet.Steps.OfType<SheetStep.Look>().First();
            var onList = answers.Where(answer => points.Points.Any(point => point.Id == answer.PointId)).ToImmutableArray();
            // A bad answer stays bad though the list has moved on without its point.
            var findings = answers
                .Where(answer => answer.Answer == LookAnswer.Bad || onList.Contains(answer))
                .Select(answer => new LookFinding(answer.PointId, answer.Answer, answer.Words, answer.Ohm))
                .ToArray();
            return new(LookList.Outcome(points.Points, points.CordFindings.Any(finding => finding.IsFault), findings), [.. answers]);
        }

        private static IEnumerable<Judgement> AllJudgements(TakenReading it) =>
            [it.Judgement!, .. it.Borrowed.Select(borrow => borrow.Judgement)];

        private InspectionFacts FactsOf(TakenReading[] taken, Look look) =>
            new()
            {
                Pack = ruling.Pack,
                Item = ruling.Item.Equipment,
                Look = look,
                Readings =
                [
                    .. taken.Where(it => it.Judgement is not null).SelectMany(AllJudgements).Select(judgement => judgement.Reading),
                ],
                DecisionRule = ruling.DecisionRule,
                Scope = ruling.Scope,
                Policy = ruling.Policy,
                History = ruling.History,
                References = ruling.References,
                TestDate = ruling.Today,
                DueDate = ruling.Basis.Interval?.After(ruling.Today),
                Interval = ruling.Basis.Interval,
                LeftOut = [.. sheet.LeftOut.Select(left => left.Plan.Under)],
                IsAtBench = true,
            };

        /// <summary>What the procedure asks beside the standard, and connections that are still to be read: a pass waits for
        /// them.</summary>
        private static Assessment Waiting(Assessment it, ImmutableArray<StepState> steps)
        {
            if (it.Verdict != Verdict.Pass && it.Verdict != Verdict.Incomplete)
                return it;
            var waiting = steps
                .Where(step => !step.IsOver)
                .Select(step =>
                    step switch
                    {
                        { Step: SheetStep.Measure { Plan: var plan }, Left: { IsEmpty: false } left }
                            when !step.Taken.IsEmpty || plan.Need == Need.Required || plan.IsAskedByProcedure => new MissingStep(
                            plan.Test,
                            null,
                            $"{plan.Name}: {string.Join(", ", left)}"
                        ),
                        { Step: SheetStep.Measure { Plan: { IsAskedByProcedure: true } plan } } => new MissingStep(
                            plan.Test,
                            null,
                            plan.Name
                        ),
                        { Step: SheetStep.Check check } => new MissingStep(Test.Functional, null, check.Plan.Name),
                        _ => null,
                    }
                )
                .OfType<MissingStep>()
                .Where(missing => !it.Missing.Concat(it.Unsettled).Any(known => known.Detail == missing.Detail))
                .ToArray();
            return waiting.Length == 0 ? it : it with { Verdict = Verdict.Incomplete, Missing = [.. it.Missing, .. waiting] };
        }
    }

    internal static bool IsSamePlace(TakenReading a, TakenReading b) => a.StepKey == b.StepKey && a.Event.Point == b.Event.Point;
}
