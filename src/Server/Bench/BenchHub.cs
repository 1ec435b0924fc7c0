using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.SignalR;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Instruments;
using Osierwand.Instruments.Simulation;
using Osierwand.Server.Demo;
using Osierwand.Server.Kit;

namespace Osierwand.Server.Bench;

/// <summary>Streams the instrument's display to one bench while a step runs. Closing the stream aborts the measurement.</summary>
public sealed class BenchHub(Sheets sheets, InstrumentLine line, TimeProvider time) : Hub
{
    /// <summary>Runs one step of the run sheet on the connected instrument.</summary>
    /// <exception cref="HubException">The instrument did not deliver, or the step is not on the sheet; the message is for the technician.</exception>
    public async IAsyncEnumerable<LiveReport> Measure(Guid itemId, Guid roundId, Scope scope, string stepKey, double nullOhm, [EnumeratorCancellation] CancellationToken cancel)
    {
        var bench = await sheets.FindAsync(itemId, roundId, cancel) ?? throw new HubException("There is no such item in this round.");
        var plan = Planner.Of(bench.Pack, bench.Item.Equipment, bench.Client.Policy, scope);
        var step = plan.Steps.FirstOrDefault(it => it.Key == stepKey) ?? throw new HubException("This step is not on the run sheet.");
        var request = new MeasurementRequest(step.Test, step.Under, step.TestVoltage?.Value ?? 500, bench.Pack.NominalFor(bench.Item.Equipment).Value, bench.Pack.Hertz, step.Seconds);
        await foreach (var report in Reports(bench, request, cancel))
            yield return Live(step, report, request.Seconds, nullOhm);
    }

    /// <summary>Turns line trouble into words for the technician: an iterator cannot catch around its own yield.</summary>
    private async IAsyncEnumerable<InstrumentReport> Reports(OnBench bench, MeasurementRequest request, [EnumeratorCancellation] CancellationToken cancel)
    {
        await using var instrument = await Spoken(() => line.OpenWithAsync(bench.Item.Tag, bench.Item.Equipment, DemoDefects.For(bench.Item, time), cancel));
        await using var reports = instrument.MeasureAsync(request, cancel).GetAsyncEnumerator(cancel);
        while (await Spoken(async () => await reports.MoveNextAsync())) yield return reports.Current;
    }

    private static async Task<T> Spoken<T>(Func<Task<T>> talk)
    {
        try
        {
            return await talk();
        }
        catch (InstrumentException trouble)
        {
            throw new HubException(trouble.Message);
        }
    }

    private LiveReport Live(PlanStep step, InstrumentReport report, double seconds, double nullOhm)
    {
        var showing = report.Showing;
        var value = showing.Value;
        // The display is nulled as a tester's own would be; the entry keeps raw reading and null apart.
        var shown = value is { IsBound: false } it && step.Test == Core.Standards.Test.EarthContinuity
            ? it with { Number = Math.Round(it.Number - nullOhm / it.Unit.Factor, 6) } : value;
        var text = shown?.ToString() ?? (showing.Ok is { } ok ? (ok ? "good" : "bad") : showing.Tripped == false ? "no trip" : "");
        var entry = report.Reading is null ? null : new Entry(step.Key, ReadingSource.Instrument, time.GetUtcNow(),
            Number: value?.Number, Unit: value?.Unit.Symbol, Qualifier: value?.Qualifier switch { Qualifier.Above => ">", Qualifier.Below => "<", _ => null },
            Mains: showing.Mains, LoadA: showing.LoadAmperes, NullOhm: step.Test == Core.Standards.Test.EarthContinuity ? nullOhm : null, Ok: showing.Ok, Tripped: showing.Tripped);
        return new(text, shown?.Quantity.Si, value is { IsBound: true }, entry?.Qualifier, report.Elapsed, seconds, showing.Mains, showing.LoadAmperes, entry);
    }
}
