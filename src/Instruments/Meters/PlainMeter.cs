using System.Runtime.CompilerServices;
using Osierwand.Core;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Line;

namespace Osierwand.Instruments.Meters;

/// <summary>
/// A meter that cannot be asked anything: it says what its display shows, one value a line (<c>0.083 ohm</c>, <c>OL 200 Mohm</c>), for as
/// long as it is on. The technician turns its dial and presses its button; a measurement listens until the value has held for as long as
/// the plan says. It drives nothing by itself, so that there is nothing to abort.
/// </summary>
/// <param name="identity">What its papers say, as it cannot say so itself.</param>
/// <param name="patience">Silence longer than this is trouble: 3 seconds unless given.</param>
public sealed class PlainMeter(ILineTransport line, InstrumentIdentity identity, TimeSpan? patience = null, TimeProvider? time = null)
    : IInstrument
{
    private const int MostValuesASecond = 200;
    private const double PassedOverSeconds = 0.5;
    private readonly TimeSpan wait = patience ?? TimeSpan.FromSeconds(3);
    private volatile bool isHeldEnough;
    private readonly TimeProvider clock = time ?? TimeProvider.System;

    public Task<InstrumentIdentity> IdentifyAsync(CancellationToken cancel) => Task.FromResult(identity);

    /// <summary>It has no test of itself.</summary>
    public Task<string?> SelfTestAsync(CancellationToken cancel) => Task.FromResult<string?>(null);

    /// <summary>The first value in ohm, with the leads shorted.</summary>
    public async Task<Ohms> NullAsync(CancellationToken cancel)
    {
        var value = Value(await NextAsync(cancel)) ?? throw Garbled();
        return value is { Unit.Dimension: Dimension.Resistance, IsBound: false }
            ? new(value.Quantity.Si)
            : throw new InstrumentException(
                LineTrouble.WrongTest,
                $"The meter shows {value}, which is no lead's resistance. Nothing was taken."
            );
    }

    public async IAsyncEnumerable<InstrumentReport> MeasureAsync(
        MeasurementRequest request,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        if (!identity.Functions.Contains(Words.Of(request.Test)))
            throw new InstrumentException(LineTrouble.Refused, "This meter has no such function. Nothing was started.");
        isHeldEnough = false;
        var started = clock.GetTimestamp();
        (Measured? Least, Measured? Most) kept = default;
        for (var values = 1; ; values++)
        {
            var said = await NextAsync(cancel);
            var elapsed = clock.GetElapsedTime(started).TotalSeconds;
            var value = Value(said) ?? throw Garbled();
            if (values > MostValuesASecond * (1 + elapsed))
                throw Garbled();
            if (value.Unit.Dimension != TestFigure.DimensionOf(request.Test))
                throw new InstrumentException(
                    LineTrouble.WrongTest,
                    $"The meter shows {value}: its dial stands at another test. Nothing was kept; turn it and measure again."
                );
            // What lay in the line from before belongs to whatever was measured then.
            if (elapsed < PassedOverSeconds)
                continue;
            kept = (Lesser(kept.Least, value), Greater(kept.Most, value));
            var isFlexing = request.Test == Test.EarthContinuity;
            var reading = new InstrumentReading(request.Test, value)
            {
                Least = isFlexing ? kept.Least : null,
                Most = isFlexing ? kept.Most : null,
            };
            var isLast = isHeldEnough || elapsed >= PassedOverSeconds + request.Seconds;
            yield return new(reading, isLast ? reading : null, elapsed, isLast);
            if (isLast)
                yield break;
        }
    }

    public Task FinishAsync(CancellationToken cancel)
    {
        isHeldEnough = true;
        return Task.CompletedTask;
    }

    public ValueTask DisposeAsync() => line.DisposeAsync();

    /// <summary>"0.083 ohm"; over its range "OL 200 Mohm", with the end of the range, as without it nothing could be
    /// said of a limit.</summary>
    /// <returns>Null for what is no value.</returns>
    private static Measured? Value(string said)
    {
        var words = said.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var isOver = words.Length == 3 && words[0] == "OL";
        if (!isOver && words.Length != 2)
            return null;
        return
            double.TryParse(
                words[^2],
                System.Globalization.NumberStyles.Float,
                System.Globalization.CultureInfo.InvariantCulture,
                out var number
            )
            && double.IsFinite(number)
            && Unit.Find(words[^1]) is { } unit
            ? new(number, unit, isOver ? Qualifier.Above : Qualifier.Exact)
            : null;
    }

    private static Measured Lesser(Measured? a, Measured b) => a is { } known && known.Quantity.Si <= b.Quantity.Si ? known : b;

    private static Measured Greater(Measured? a, Measured b) => a is { } known && known.Quantity.Si >= b.Quantity.Si ? known : b;

    private async Task<string> NextAsync(CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(wait);
        try
        {
            return await line.ReceiveAsync(limit.Token)
                ?? throw new InstrumentException(
                    LineTrouble.Lost,
                    "The connection to the meter was lost. No reading was taken; readings so far are kept."
                );
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new InstrumentException(
                LineTrouble.Silent,
                $"The meter has said nothing for {wait.TotalSeconds:0.#} seconds. No reading was taken; is it switched on?"
            );
        }
        catch (InvalidDataException)
        {
            throw Garbled();
        }
        catch (IOException failure)
        {
            throw new InstrumentException(LineTrouble.Lost, "The connection to the meter was lost. No reading was taken.", failure);
        }
    }

    private static InstrumentException Garbled() =>
        new(LineTrouble.Garbled, "The meter sent something that is not a value. It was not kept; measure again.");
}
