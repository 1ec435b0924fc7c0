using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.SignalR;
using Osierwand.Core.Bench;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Server.Kit;
using Osierwand.Server.People;

namespace Osierwand.Server.Bench;

/// <summary>Streams the instrument's display to one bench while a step runs. Closing the stream aborts the measurement.</summary>
public sealed class BenchHub(
    Rulings rulings,
    Measurements measurements,
    InstrumentLines lines,
    IBenchHands hands,
    RunningMeasurements running,
    Sessions sessions,
    TimeProvider time
) : Hub
{
    /// <summary>Runs one step on the connected instrument, if the state of the bench allows it.</summary>
    /// <exception cref="HubException">It may not be started, or the instrument did not deliver; the message is for the
    /// technician.</exception>
    public async IAsyncEnumerable<LiveReport> Measure(MeasureRequest asked, [EnumeratorCancellation] CancellationToken cancel)
    {
        var user = Context.User ?? throw new HubException("Nobody is signed in.");
        var person = user.Worker();
        // The line may have been opened before the session ended.
        if (!await sessions.StandsAsync(user))
            throw new HubException("You are signed out. Nothing was started; sign in and start again.");
        if (BenchEndpoints.TooMany(asked.Events) is { } many)
            throw new HubException(many.Message);
        var laying = await rulings.LayAsync(asked.ItemId, asked.RoundId, person, cancel);
        if (laying.Fault is { } fault)
            throw new HubException(fault.Message);
        var laid = laying.Value;
        if (laid.Ruling.Fingerprint != asked.Ruling)
            throw new HubException("The rules or the item changed meanwhile. Nothing was started; the sheet is judged anew.");
        var state = BenchState.Of(laid.Ruling, asked.Events);
        var step = Allowed(state, asked);
        // Of connections that are measured in turn the next one, unless the bench names another.
        asked = asked with
        {
            Point = asked.Point ?? step.Left.FirstOrDefault(),
        };
        var request = RequestFor(laid.Ruling, step, asked);
        var shown = new Showing(this, laid, step, asked, request.Seconds);
        var looked = time.GetTimestamp();
        await using var reports = Reports(laid, step.Step, request, state.Probe, person, cancel).GetAsyncEnumerator(cancel);
        while (true)
        {
            var (hasMore, trouble) = await NextAsync(reports);
            if (trouble is not null)
            {
                // What the instrument found out instead of a reading is kept by the bench like one.
                if (trouble.AsHappened(step.Step.Key, asked.EventId, time.GetUtcNow()) is { } happened)
                {
                    await measurements.KeepAsync(happened, asked.Events, laid, cancel);
                    yield return LiveReport.Of(happened);
                }
                throw new HubException(trouble.Message);
            }
            if (!hasMore)
                yield break;
            if (time.GetElapsedTime(looked) > LookEvery)
            {
                looked = time.GetTimestamp();
                // Leaving the loop takes the item off its supply.
                if (!await sessions.StandsAsync(user))
                    throw new HubException("You were signed out meanwhile. The measurement was stopped.");
            }
            foreach (var live in shown.Of(reports.Current))
                yield return live.Kept is ReadingTaken reading
                    ? live with
                    {
                        Kept = await measurements.KeepAsync(reading, asked.Events, laid, person.Id, user.SessionId(), cancel),
                    }
                    : live;
        }
    }

    private static MeasurementRequest RequestFor(Ruling ruling, StepState step, MeasureRequest asked)
    {
        if (step.Step is SheetStep.Discharges watch)
            return ruling.WatchFor(watch, watch.Needed - step.Taken.Length);
        var plan = ((SheetStep.Measure)step.Step).Plan;
        var request = ruling.RequestFor(plan, asked.Point);
        // Only what puts nothing dangerous on the item is read for as long as somebody likes.
        return asked.IsHeld && plan.MayBeHeld ? request with { Seconds = LongestHeld } : request;
    }

    /// <summary>What the bench is shown of one measurement, report by report; of discharges that are watched, an event each.</summary>
    private sealed class Showing(BenchHub hub, Laid laid, StepState step, MeasureRequest asked, double seconds)
    {
        private readonly int before = step.Taken.Length;
        private int counted;

        public IEnumerable<LiveReport> Of(InstrumentReport report)
        {
            if (step.Step is not SheetStep.Discharges watch)
            {
                yield return hub.Live(laid, ((SheetStep.Measure)step.Step).Plan, asked, report, seconds);
                yield break;
            }
            for (; counted < (report.Showing.Counted ?? 0); counted++)
                yield return Watched(watch, report, counted + 1) with
                {
                    Kept = new Discharged
                    {
                        Id = Guid.CreateVersion7(),
                        At = hub.Now,
                        Step = watch.Key,
                        Source = ReadingSource.Instrument,
                    },
                };
            if (report.Reading is null)
                yield return Watched(watch, report, counted);
        }

        /// <summary>The count stands where a figure would; how long all of it takes nobody knows.</summary>
        private LiveReport Watched(SheetStep.Discharges watch, InstrumentReport report, int so) =>
            new(
                $"{before + so} of {watch.Needed}",
                null,
                false,
                null,
                report.Elapsed,
                0,
                false,
                null,
                null,
                null,
                null,
                true,
                null,
                report.At,
                null
            )
            {
                Said = report.Showing.Value is { } energy ? $"the last delivered {energy}" : "charging",
            };
    }

    /// <summary>What this bench measures has been held long enough. Nothing happens where it measures nothing.</summary>
    public Task Finish() =>
        running.Find(Context.ConnectionId) is { } instrument ? instrument.FinishAsync(Context.ConnectionAborted) : Task.CompletedTask;

    private DateTimeOffset Now => time.GetUtcNow();

    private const double LongestHeld = 120;

    /// <summary>A measurement belongs to a session and ends with it.</summary>
    private static readonly TimeSpan LookEvery = TimeSpan.FromSeconds(1);

    /// <summary>What State does not allow is not started, whatever the page thinks.</summary>
    private static StepState Allowed(BenchState state, MeasureRequest asked)
    {
        var step =
            state.Steps.FirstOrDefault(it => it.Step.Key == asked.Step) ?? throw new HubException("This step is not on the run sheet.");
        if (step.Step is not (SheetStep.Measure or SheetStep.Discharges))
            throw new HubException("This step is not measured.");
        var may = asked.Point is { } point ? FurtherPoints.At(state, step, point) : step.Start;
        if (!may.IsGiven)
            throw new HubException($"Not started. {may.WhyNot}");
        if (step.Action == StepAction.Hold && asked.StartedBy != "hold")
            throw new HubException("Not started. This step is started by a deliberate hold and by nothing else.");
        if (Silent(state.Ruling, step.Step) is { } name)
            throw new HubException(
                $"Not started. {name} does not answer: see that it is switched on and its line is plugged in, or type the reading."
            );
        if (step.Action == StepAction.NameParts)
            throw new HubException("Not started. Say first what touches the patient: its applied parts, or that there are none.");
        if (step.Action == StepAction.PlaceProbe)
            throw new HubException("Not started. Say first what the probe lies on: in the air it reads what a sound item reads.");
        if (step.Action is not (StepAction.Press or StepAction.Hold))
            throw new HubException("Not started. The instrument in hand does not measure this; type the reading.");
        return step;
    }

    /// <returns>The name of the instrument that would measure it and is not on its line; null where it is, or none is in hand.</returns>
    private static string? Silent(Ruling ruling, SheetStep step) =>
        KitFor(ruling, step)?.Chosen is { Connected: false } kit ? kit.Name : null;

    private static KitInHand? KitFor(Ruling ruling, SheetStep step) =>
        step is SheetStep.Measure { Plan.Under: var under } ? ruling.KitFor(under) : ruling.KitForDischarges();

    /// <exception cref="InstrumentException">It does not answer, or did not deliver.</exception>
    private async IAsyncEnumerable<InstrumentReport> Reports(
        Laid laid,
        SheetStep step,
        MeasurementRequest request,
        ProbeOn? probe,
        Worker person,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var serial = KitFor(laid.Ruling, step)?.Serial ?? throw new HubException("No instrument is in hand. Nothing was started.");
        await using var turn =
            await lines.TakeTurnAsync(serial, $"{person.Name} with {laid.Item.Tag}", cancel)
            ?? throw new HubException($"The instrument is in use: {lines.InUseBy(serial) ?? "at another bench"}. Nothing was started.");
        await using var instrument = await lines.OpenAsync(serial, cancel);
        await hands.PlugInAsync(laid, serial, request.Test, probe, cancel);
        using var kept = running.Keep(Context.ConnectionId, instrument);
        await foreach (var report in instrument.MeasureAsync(request, cancel))
            yield return report;
    }

    /// <summary>An iterator cannot catch around its own yield: trouble comes as a value.</summary>
    private static async Task<(bool HasMore, InstrumentException? Trouble)> NextAsync(IAsyncEnumerator<InstrumentReport> reports)
    {
        try
        {
            return (await reports.MoveNextAsync(), null);
        }
        catch (InstrumentException trouble)
        {
            return (false, trouble);
        }
    }

    private LiveReport Live(Laid laid, PlanStep.Measure step, MeasureRequest asked, InstrumentReport report, double seconds)
    {
        var showing = report.Showing;
        double? nullOhm = step.Test == Test.EarthContinuity ? laid.Ruling.KitFor(step.Under)?.NullOhm ?? 0 : null;
        // The display is nulled as a tester's own would be; the reading keeps raw figure and null apart.
        var shown = Nulled(showing.Value, nullOhm);
        var reading = report.Reading is { } last
            ? last.AsTaken(step, asked.EventId, time.GetUtcNow(), nullOhm, asked.Point) with
            {
                With = laid.Ruling.KitFor(step.Under)?.Id,
            }
            : null;
        return new(
            Text(shown, showing),
            shown?.Quantity.Si,
            shown is { IsBound: true },
            Taking.Sign(shown),
            report.Elapsed,
            seconds,
            report.IsSettled,
            Nulled(showing.Least, nullOhm)?.Quantity.Si,
            Nulled(showing.Most, nullOhm)?.Quantity.Si,
            showing.Mains,
            showing.LoadAmperes,
            showing.LoadAmperes > 0,
            showing.PathSeen,
            report.At,
            reading
        )
        {
            Said = showing.Said,
        };
    }

    private static Measured? Nulled(Measured? value, double? nullOhm) =>
        value is { IsBound: false } it && nullOhm is { } ohm ? it with { Number = Math.Round(it.Number - ohm / it.Unit.Factor, 6) } : value;

    private static string Text(Measured? shown, InstrumentReading showing) =>
        shown?.ToString()
        ?? (showing.Ok, showing.Tripped) switch
        {
            (true, _) => "good",
            (false, _) => "bad",
            (_, false) => "no trip",
            _ => "",
        };
}
