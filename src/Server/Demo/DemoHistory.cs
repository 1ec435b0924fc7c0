using System.Collections.Immutable;
using System.Security.Cryptography;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Simulation;
using Osierwand.Server.Bench;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Demo;

/// <summary>
/// Lets an item live through three years of inspections: each day's readings come from the simulated item as it had aged by then, judged and
/// scheduled by the same rules as a real one. Nothing in a demo record is made up but the item.
/// </summary>
internal sealed class DemoHistory(Random dice, DateOnly today, IReadOnlyList<Person> people)
{
    private const double NullOhm = 0.04;
    private static readonly string[] Remarks = ["Plug re-made, retested.", "New flex fitted.", "Element replaced.", "Switch cleaned and tightened."];

    private readonly Analyser analyser = new(dice) { LeadOhms = NullOhm };

    /// <param name="seasonal">The site is walked at this time of the year, so that its items fall due now.</param>
    public RegisterItem NewItem(Client client, Site site, DemoRoom room, DemoModel model, string tag, bool seasonal) => new()
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
        Equipment = model.Item,
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
        if (dice.NextDouble() < 0.02) return lived;
        for (var day = item.RegisteredOn; day < today.AddDays(-4);)
        {
            var (inspection, record) = Inspect(item, client, rounds, day, Scope.Combined, Mishap(item), lived, null);
            lived.Add((inspection, record));
            if (record.Outcome == Outcome.Fail)
            {
                day = day.AddDays(dice.Next(3, 25));
                if (day >= today.AddDays(-4)) break;
                if (dice.NextDouble() < 0.2)
                {
                    item.State = ItemState.Scrapped;
                    break;
                }
                lived.Add(Inspect(item, client, rounds, day, Scope.AfterRepair, default, lived, Remarks[dice.Next(Remarks.Length)]));
            }
            if (record.Outcome == Outcome.NotTested)
            {
                day = day.AddDays(dice.Next(20, 60));
                continue;
            }
            // Some are overlooked when their day comes near today: a round has work to do.
            var due = item.Due ?? day.AddMonths(12);
            if (due > today.AddDays(-50) && due < today && dice.NextDouble() < 0.6) break;
            day = due.AddDays(dice.Next(-24, 10));
            if (day <= lived[^1].Inspection.TestedAt.Date.ToDateOnly()) day = lived[^1].Inspection.TestedAt.Date.ToDateOnly().AddDays(14);
        }
        return lived;
    }

    private (string? Bad, Defect Defect, NotTestedReason? Reason) Mishap(RegisterItem item) => dice.NextDouble() switch
    {
        < 0.035 => (LookList.For(item.Equipment) is var points ? $"{dice.Next(points.Length)}" : null, Defect.None, null),
        < 0.06 => (null, DemoDefects.Suited(item.Equipment, dice.Next(100)), null),
        < 0.075 => (null, Defect.None, dice.NextDouble() < 0.5 ? NotTestedReason.InUse : NotTestedReason.NotFound),
        _ => default,
    };

    private (Inspection, InspectionRecord) Inspect(RegisterItem item, Client client, DemoRounds rounds, DateOnly day, Scope scope,
        (string? Bad, Defect Defect, NotTestedReason? Reason) mishap, List<(Inspection Inspection, InspectionRecord Record)> before, string? remarks)
    {
        var round = rounds.On(day);
        var pack = PackLibrary.Find(round.PackIdFor(item.Equipment.Kind))!;
        var at = new DateTimeOffset(day.ToDateTime(new TimeOnly(8, 30)), TimeSpan.Zero).AddMinutes(dice.Next(480));
        var person = people[dice.Next(2)];
        var look = LookAt(item, mishap);
        var outcomeOfLook = mishap.Reason is null ? LookList.Judge(item.Equipment, pack, look).Value : Look.NotDone;
        var readings = outcomeOfLook == Look.Pass ? Measure(item, client, pack, day, scope, mishap.Defect) : [];
        var history = before.Where(it => it.Record.Outcome != Outcome.NotTested).ToList();
        var facts = new InspectionFacts
        {
            Pack = pack,
            Item = item.Equipment,
            Look = outcomeOfLook,
            Readings = readings,
            Scope = scope,
            Policy = client.Policy,
            History = [.. history.Select(it => new PastInspection(it.Inspection.TestedAt.Date.ToDateOnly(), it.Record.Facts.Scope == Scope.AfterRepair, it.Record.Facts.Readings))],
            TestDate = day,
            DueDate = day.AddMonths(12),
            IntervalMonths = item.IntervalMonths ?? 12,
        };
        var assessment = Assessment.Of(facts);
        var outcome = mishap.Reason is not null ? Outcome.NotTested : InspectionRecord.OutcomeOf(assessment, scope, facts.Look)
            ?? throw new InvalidOperationException($"The demo inspection of {item.Name} lacks {string.Join(", ", assessment.Missing.Concat(assessment.Unsettled))}");
        var (near, rising) = (assessment.Results.Any(it => it.NearLimit), Trend.Of(facts, assessment.Results).Any());
        var next = outcome is Outcome.Pass or Outcome.PassWithAdvice ? NextDates.Of(item, client, pack, history.Select(it => LookedBack.Of(it.Inspection)), new PastTest(day, Verdict.Pass, near, rising)) : null;
        var record = new InspectionRecord
        {
            Id = Guid.CreateVersion7(at),
            Tag = item.Tag,
            ItemName = item.Name,
            Facts = facts,
            Assessment = assessment,
            Outcome = outcome,
            Look = [.. look],
            Readings = [.. assessment.Results.Select(it => new RecordedReading(it, ReadingSource.Instrument, at))],
            TestedAt = at,
            Technician = person.DisplayName,
            Round = round.Name,
            Instrument = readings.IsEmpty ? null : $"Bench analyser 2, serial OW-SIM-2, calibrated to {day.AddMonths(4):yyyy-MM-dd}, Lead B",
            NotTested = mishap.Reason,
            Remarks = remarks,
            Next = next,
        };
        NextDates.Move(item, outcome, next, day);
        item.Revision++;
        return (new()
        {
            Id = record.Id,
            ClientId = client.Id,
            ItemId = item.Id,
            RoundId = round.Id,
            TechnicianId = person.Id,
            TestedAt = at,
            Outcome = outcome,
            NearLimit = near,
            Rising = rising,
            Record = "",
            Taken = record.TakenJson(),
            Sent = SHA256.HashData(record.Id.ToByteArray()),
            Hash = [],
        }, record);
    }

    private static List<LookFinding> LookAt(RegisterItem item, (string? Bad, Defect Defect, NotTestedReason? Reason) mishap)
    {
        if (mishap.Reason is not null) return [];
        var points = LookList.For(item.Equipment);
        var bad = mishap.Bad is { } at ? int.Parse(at, System.Globalization.CultureInfo.InvariantCulture) : -1;
        return [.. points.Select((point, i) => i == bad ? new LookFinding(point.Id, LookAnswer.Bad, point.Phrases[0]) : new LookFinding(point.Id, LookAnswer.Good, null))];
    }

    private ImmutableArray<Reading> Measure(RegisterItem item, Client client, RulePack pack, DateOnly day, Scope scope, Defect defect)
    {
        var state = HiddenState.Of(item.Equipment, item.Tag, day).With(defect);
        var plan = Planner.Of(pack, item.Equipment, client.Policy, scope);
        var readings = ImmutableArray.CreateBuilder<Reading>();
        var failed = new List<Judgement>();
        foreach (var step in plan.Steps)
        {
            if (step.Test is Test.Visual or Test.Fuse || StopRules.Stopped(plan, Look.Pass, failed).ContainsKey(step.Key)) continue;
            var reading = step.Test == Test.Functional ? new Reading { Test = Test.Functional, Ok = true } : Take(step, state, pack, item);
            readings.Add(reading);
            failed.Add(Judge.Reading(pack, item.Equipment, reading));
        }
        return readings.ToImmutable();
    }

    private Reading Take(PlanStep step, HiddenState state, RulePack pack, RegisterItem item)
    {
        var shown = analyser.Measure(state, new(step.Test, step.Under, step.TestVoltage?.Value ?? 500, pack.NominalFor(item.Equipment).Value, pack.Hertz));
        return new()
        {
            Test = step.Test,
            Under = step.Under,
            Value = shown.Value,
            Ok = shown.Ok,
            Tripped = shown.Tripped,
            Null = new(step.Test == Test.EarthContinuity ? NullOhm : 0),
            TestVoltage = step.TestVoltage,
            Mains = shown.Mains is { } mains ? new Volts(mains) : null,
            Load = shown.LoadAmperes is { } load ? new Amperes(load) : null,
        };
    }
}

internal static class Days
{
    public static DateOnly ToDateOnly(this DateTime day) => DateOnly.FromDateTime(day);
}
