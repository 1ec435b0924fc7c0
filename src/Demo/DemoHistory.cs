using System.Collections.Immutable;
using System.Security.Cryptography;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Server.Bench;
using Osierwand.Server.Schedule;
using Osierwand.Simulator;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>
/// Lets an item live through three years of inspections: each day's readings come from the simulated item as it had aged by then, judged
/// and
/// scheduled by the same rules as a real one. Nothing in a demo record is made up but the item.
/// </summary>
internal sealed class DemoHistory(Random dice, DateOnly today, IReadOnlyList<Person> people)
{
    private const int Seed = 1868;
    private const double NullOhm = DemoKit.NullOhm;

    /// <summary>Long enough for a reading to come to rest; five years of it are made at a start.</summary>
    private const double Moments = 0.5;
    private static readonly string[] Remarks =
    [
        "Plug re-made, retested.",
        "New flex fitted.",
        "Element replaced.",
        "Switch cleaned and tightened.",
    ];

    /// <summary>Of one item, with dice of its own: what befalls it is the same whatever is added before it, and on whichever day the
    /// demo is loaded; only the dates move.</summary>
    public static DemoHistory Of(string tag, DateOnly today, IReadOnlyList<Person> people) =>
        new(new(tag.Aggregate(Seed, (sum, letter) => unchecked((sum * 31) + letter))), today, people);

    /// <param name="seasonal">The site is walked at this time of the year, so that its items fall due now.</param>
    public RegisterItem NewItem(Client client, Site site, DemoRoom room, DemoModel model, string tag, bool seasonal) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            ClientId = client.Id,
            SiteId = site.Id,
            Room = room.Name,
            Place = room.Place,
            Tag = tag,
            Name = model.Name,
            Maker = model.Maker,
            Model = model.Model,
            Serial = $"{(char)('A' + dice.Next(26))}{dice.Next(10_000, 99_999)}",
            Equipment = model.Item.Battery is { } battery
                ? model.Item with
                {
                    Battery = battery with { FittedOn = today.AddMonths(-4 - tag[^1] % 18) },
                }
                : model.Item,
            Evidence = model.Evidence,
            Usage = model.Usage,
            Moved = model.Moved,
            Users = room.Place is Place.School or Place.Hire ? Users.Unknown : Users.Trained,
            State = ItemState.InService,
            RegisteredOn = today.AddYears(-3).AddDays(seasonal ? dice.Next(-15, 45) : dice.Next(250)),
        };

    public IEnumerable<(Inspection, InspectionRecord)> Live(RegisterItem item, Client client, DemoRounds rounds)
    {
        var lived = new List<(Inspection Inspection, InspectionRecord Record)>();
        // A few were registered and never reached.
        if (dice.NextDouble() < 0.02 && !DemoCatalogue.IsSpared(item.Tag))
            return lived;
        for (var day = item.RegisteredOn; day < today.AddDays(-4); )
        {
            var (inspection, record) = Inspect(item, client, rounds, day, Mishap(item), lived, null);
            lived.Add((inspection, record));
            if (record.Outcome == Outcome.Fail)
            {
                day = day.AddDays(dice.Next(3, 25));
                if (day >= today.AddDays(-4))
                    break;
                if (dice.NextDouble() < 0.2)
                {
                    (item.State, item.Stage) = (ItemState.Scrapped, Stage.Scrapped);
                    break;
                }
                lived.Add(Inspect(item, client, rounds, day, default, lived, Remarks[dice.Next(Remarks.Length)]));
            }
            if (record.Outcome == Outcome.NotTested)
            {
                day = day.AddDays(dice.Next(20, 60));
                continue;
            }
            // Some are overlooked when their day comes near today: a round has work to do.
            var due = item.Due ?? day.AddMonths(12);
            if (due > today.AddDays(-50) && due < today && dice.NextDouble() < 0.6)
                break;
            day = due.AddDays(dice.Next(-24, 10));
            if (day <= lived[^1].Inspection.TestedAt.Date.ToDateOnly())
                day = lived[^1].Inspection.TestedAt.Date.ToDateOnly().AddDays(14);
        }
        return lived;
    }

    private (int? Bad, Fault Fault, NotTestedReason? Reason) Mishap(RegisterItem item) =>
        dice.NextDouble() switch
        {
            _ when DemoCatalogue.IsSpared(item.Tag) => default,
            < 0.035 => (dice.Next(100), Fault.None, null),
            < 0.06 => (null, DemoFaults.Suited(item.Equipment, dice.Next(100)), null),
            < 0.075 => (null, Fault.None, dice.NextDouble() < 0.5 ? NotTestedReason.InUse : NotTestedReason.NotFound),
            _ => default,
        };

    private (Inspection, InspectionRecord) Inspect(
        RegisterItem item,
        Client client,
        DemoRounds rounds,
        DateOnly day,
        (int? Bad, Fault Fault, NotTestedReason? Reason) mishap,
        List<(Inspection Inspection, InspectionRecord Record)> before,
        string? remarks
    )
    {
        var round = rounds.On(day);
        var at = new DateTimeOffset(day.ToDateTime(new TimeOnly(8, 30)), TimeSpan.Zero).AddMinutes(dice.Next(480));
        var person = people[dice.Next(2)];
        var ruling = Rule(item, client, rounds.Site, round, person, day, before);
        var session = new BenchSession(ruling, []);
        if (mishap.Reason is null)
            Work(session, item, ruling, at, day, mishap.Bad, mishap.Fault);
        var state = session.State;
        var kind =
            mishap.Reason is not null ? EndKind.NotTested
            : state.HasFailed ? EndKind.Fail
            : EndKind.Pass;
        var written = RecordWriter.Write(
            state,
            session.Events,
            new(kind, mishap.Reason, remarks),
            Guid.CreateVersion7(at),
            at.AddMinutes(45),
            rounds.Site.Zone,
            round.StartsOn
        );
        if (written.Fault is { } fault)
            throw new InvalidOperationException($"The demo inspection of {item.Name} cannot end: {fault.Message}");
        var record = written.Value;
        var standing = ItemStanding.Of(item);
        var after = ItemDates.After(standing, item.State, state, record);
        Move(item, after);
        return (
            new()
            {
                Id = record.Id,
                ClientId = client.Id,
                ItemId = item.Id,
                RoundId = round.Id,
                TechnicianId = person.Id,
                TestedAt = at,
                ReceivedAt = record.Times.ReceivedAt,
                Day = record.Times.Date,
                Outcome = record.Outcome,
                IsTest = record.IsTest,
                NearLimit = record.NearLimit,
                Rising = record.Rising,
                Record = "",
                Taken = BenchJson.Write(record.Taken),
                Before = standing.ToJson(),
                After = after.ToJson(),
                Revision = ++item.Revision,
                Sent = SHA256.HashData(record.Id.ToByteArray()),
                Hash = [],
            },
            record
        );
    }

    private Ruling Rule(
        RegisterItem item,
        Client client,
        Site site,
        Round round,
        Person person,
        DateOnly day,
        List<(Inspection Inspection, InspectionRecord Record)> before
    )
    {
        var pack = PackLibrary.Find(round.PackIdFor(item.Equipment)!)!;
        var tests = before.Where(it => it.Record.IsTest && it.Record.Outcome is not Outcome.NotTested).ToArray();
        return new()
        {
            Item = new(
                item.Id,
                item.Tag,
                item.Name,
                item.Maker,
                item.Model,
                item.Serial,
                site.Name,
                item.Room,
                item.Evidence,
                item.State,
                item.Revision,
                item.Equipment
            ),
            Round = new(round.Id, round.Name, client.Id, client.Name, client.Code, site.TimeZone, Rulings.MainsOf(site)),
            PackId = pack.Id,
            PackVersion = pack.Version,
            Policy = client.Policy,
            DecisionRule = client.DecisionRule,
            Scope = Scopes.Usual(item.State),
            Kit = new(
                DemoWorld.AnalyserId,
                "Bench analyser 2",
                "OW-SIM-2",
                DemoKit.CalibrationOn(day, today.AddMonths(4)),
                "Lead B",
                NullOhm,
                new DateTimeOffset(day, new TimeOnly(8, 0), TimeSpan.Zero),
                [],
                [],
                null,
                true
            )
            {
                Pieces = DemoKit.ForIsolation,
                Analyser = item.Equipment.Defibrillator is null ? null : DemoKit.AnalyserOn(day, today),
                Clamp = item.Equipment.IsHardWired ? DemoKit.ClampOn(day, today) : null,
            },
            Technician = new(person.Id, person.DisplayName, person.Initials, false, DemoKit.Assessed),
            Outlets = [DemoOutlets.Workbench(item.Equipment, pack, person, new(day, new TimeOnly(8, 10), TimeSpan.Zero))],
            History = [.. tests.SelectMany(it => it.Record.Taken)],
            References = item.ReferenceValues is { } kept ? BenchJson.ReadPast(kept).Value : [],
            Basis = new(
                item.Place,
                item.Usage,
                item.Moved,
                item.Users,
                client.CapMonths,
                item.Due,
                item.VisualDue,
                item.IntervalMonths,
                client.LabelSchool == LabelSchool.WithNextDate,
                [
                    .. tests.Select(it => new PastTest(
                        it.Record.Times.Date,
                        it.Record.Outcome == Outcome.Fail ? Verdict.Fail : Verdict.Pass,
                        it.Record.NearLimit,
                        it.Record.Rising,
                        it.Record.Taken.All(past => past.IsClean)
                    )),
                ],
                before.Count
            ),
            Today = day,
        };
    }

    /// <summary>Does the work as a technician would, step by step as the engine offers them, until something fails or all is
    /// done.</summary>
    private void Work(BenchSession session, RegisterItem item, Ruling ruling, DateTimeOffset from, DateOnly day, int? bad, Fault fault)
    {
        var onBench = new PluggedIn(item.Tag, ItemMaking.Of(item.Equipment, item.Tag, item.RegisteredOn, day).With(fault));
        var at = from;
        string? last = null;
        while (session.State is { HasFailed: false, Current: { } key } state)
        {
            if (key == last)
                throw new InvalidOperationException($"The demo inspection of {item.Name} does not get past {key}.");
            last = key;
            at = at.AddSeconds(dice.Next(25, 100));
            if (session.Events is [.., Discharged { At: var discharged }] && discharged >= at)
                at = discharged.AddSeconds(20);
            foreach (var it in Done(state.Sheet.Find(key)!, state, ruling, onBench, at, bad))
                session.Append(it);
        }
        if (session.State.Isolation.IsLocked)
            session.Append(
                new LockLeft
                {
                    Id = NewId(),
                    At = at,
                    Stays = true,
                    Words = "Out-of-use lock; the key hangs in the site office",
                }
            );
        if (session.State.AsksProbeTried)
            session.Append(
                new ProbeTried
                {
                    Id = Beside(session.Events[^1].Id),
                    At = at,
                    Works = true,
                }
            );
        if (session.State.Proposal is { } proposal)
            session.Append(
                new Evaluated
                {
                    Id = NewId(),
                    At = at,
                    Evaluation = proposal.Evaluation,
                }
            );
    }

    private IEnumerable<BenchEvent> Done(SheetStep step, BenchState state, Ruling ruling, PluggedIn onBench, DateTimeOffset at, int? bad) =>
        step is SheetStep.Dead dead
            ? state.Isolation.Pairs.Select(
                (pair, n) =>
                    new DeadTested
                    {
                        Id = NewId(),
                        At = at.AddSeconds(n),
                        Side = dead.Side,
                        Pair = pair,
                        Volts = 0,
                    }
            )
        : step is SheetStep.Discharges discharges ? Discharged(discharges, onBench, at)
        : WithProbe(step, state, One(step, ruling, onBench, at, bad));

    private static IEnumerable<BenchEvent> WithProbe(SheetStep step, BenchState state, BenchEvent done)
    {
        if (step is SheetStep.Measure { Plan.AsksProbe: true } && state.Probe is null)
            yield return new ProbePlaced
            {
                Id = Beside(done.Id),
                At = done.At,
                On = Probing.Offered(state.Ruling.Item.Equipment)[0],
            };
        yield return done;
    }

    private IEnumerable<BenchEvent> Discharged(SheetStep.Discharges step, PluggedIn onBench, DateTimeOffset at)
    {
        for (var n = 0; n < step.Needed; n++)
        {
            onBench.DrawnJoules += onBench.Build.Shock?.Drawn(step.At.Si) ?? 0;
            yield return new Discharged
            {
                Id = NewId(),
                At = at.AddSeconds(n * 8),
                Step = step.Key,
                Source = ReadingSource.Instrument,
            };
        }
    }

    private BenchEvent One(SheetStep step, Ruling ruling, PluggedIn onBench, DateTimeOffset at, int? bad) =>
        step switch
        {
            SheetStep.Prove => new IndicatorProved
            {
                Id = NewId(),
                At = at,
                Indicator = "Indicator 1",
                Works = true,
            },
            SheetStep.Look look => new Looked
            {
                Id = NewId(),
                At = at,
                Points = Points(look.Points, bad),
            },
            SheetStep.Function or SheetStep.Check => new ReadingTaken
            {
                Id = NewId(),
                At = at,
                Step = step.Key,
                Source = ReadingSource.Typed,
                Ok = true,
            },
            SheetStep.Measure measure => Take(measure.Plan, ruling, onBench, at),
            _ => new Confirmed
            {
                Id = NewId(),
                At = at,
                Step = step.Key,
                Words = step is SheetStep.Confirm { AsksFor: not null }
                    ? "Fused connection unit beside it, spur of the ring; permitted by the site; nothing else goes dark"
                    : null,
            },
        };

    private static LookFinding[] Points(ImmutableArray<LookPoint> points, int? bad) =>
        [
            .. points.Select(
                (point, i) =>
                    bad is { } at && i == at % points.Length
                        ? new LookFinding(point.Id, LookAnswer.Bad, point.ForBad[0])
                        : new LookFinding(point.Id, LookAnswer.Good, null)
            ),
        ];

    private ReadingTaken Take(PlanStep.Measure step, Ruling ruling, PluggedIn onBench, DateTimeOffset at)
    {
        // Reset after each trip, as the sheet asks.
        onBench.IsRcdClosed = true;
        var asked = ruling.RequestFor(step);
        // A charge takes as long as it takes; whatever else comes to rest in a moment.
        var shown = Measuring.Whole(Instrumentation.OfPerformance.Has(step.Test) ? asked : asked with { Seconds = Moments }, onBench, dice);
        return shown.Reading.AsTaken(step, NewId(), at, NullOhm) with { Seal = "simulated history", With = ruling.KitFor(step.Under)?.Id };
    }

    /// <summary>For what is said with something else; it moves no dice, so that what comes after stays what it was.</summary>
    private static Guid Beside(Guid id)
    {
        var bytes = id.ToByteArray();
        bytes[^1] ^= 1;
        return new(bytes);
    }

    private Guid NewId()
    {
        Span<byte> random = stackalloc byte[16];
        dice.NextBytes(random);
        return new Guid(random);
    }

    private static void Move(RegisterItem item, ItemStanding to)
    {
        (item.State, item.Due, item.VisualDue) = (Enum.Parse<ItemState>(to.State), to.Due, to.VisualDue);
        (item.IntervalMonths, item.Because) = (to.IntervalMonths, to.Because);
        (item.LastTestedOn, item.LastLookedOn, item.LockLeft) = (to.LastTestedOn, to.LastLookedOn, to.LockLeft);
        (item.ReferenceValues, item.CrossesOn, item.Crossing) = (to.ReferenceValues, to.CrossesOn, to.Crossing);
        (item.HeldCause, item.HeldWhy, item.HeldSince, item.HeldFrom) = (to.Held?.Cause, to.Held?.Why, to.Held?.Since, to.Held?.From);
        item.HeldBy = to.Held is null ? null : Enum.Parse<HeldBy>(to.Held.By);
        item.Stage = to.Held is null ? null : Enum.Parse<Stage>(to.Held.Stage);
        item.LastOutcome = to.LastOutcome is { } outcome ? Enum.Parse<Outcome>(outcome) : null;
    }
}

internal static class Days
{
    public static DateOnly ToDateOnly(this DateTime day) => DateOnly.FromDateTime(day);
}
