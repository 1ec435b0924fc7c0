using System.Collections.Immutable;
using System.Diagnostics;
using System.Runtime.CompilerServices;
using Osierwand.Core;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Instruments.Line;

/// <summary>An instrument that speaks the line protocol. One conversation at a time; open one per measurement or session.</summary>
public sealed class LineInstrument : IInstrument
{
    private static readonly TimeSpan UsualPatience = TimeSpan.FromSeconds(3);
    private static readonly TimeSpan AbortPatience = TimeSpan.FromSeconds(1);

    /// <summary>Answers to earlier questions may still be under way; so many are not.</summary>
    private const int MostLate = 500;

    /// <summary>A display that changes more often is no display: what floods the line is garbage.</summary>
    private const int MostReportsASecond = 100;

    /// <summary>Lines of one curve.</summary>
    private const int MostWaves = 20;

    private readonly ILineTransport line;
    private readonly TimeSpan patience;
    private int number;
    private volatile bool isMeasuring;

    /// <param name="patience">Silence longer than this is trouble: 3 seconds unless given.</param>
    public LineInstrument(ILineTransport line, TimeSpan? patience = null) => (this.line, this.patience) = (line, patience ?? UsualPatience);

    /// <inheritdoc cref="TcpLine.ConnectAsync"/>
    public static async Task<LineInstrument> ConnectAsync(string host, int port, CancellationToken cancel, TimeSpan? patience = null)
    {
        var wait = patience ?? UsualPatience;
        return new(await TcpLine.ConnectAsync(host, port, wait, cancel), wait);
    }

    public async Task<InstrumentIdentity> IdentifyAsync(CancellationToken cancel)
    {
        await Send(Message.Of(++number, "IDENTIFY"), cancel);
        var ranges = ImmutableArray.CreateBuilder<InstrumentRange>();
        while (true)
        {
            var answer = await Receive(cancel);
            if (answer.Word == "RANGE" && ranges.Count < MostLate)
            {
                ranges.Add(Wire.Range(answer) ?? throw Garbled());
                continue;
            }
            Expect(answer, "OK");
            return new(
                answer.Text("name") ?? throw Garbled(),
                answer.Text("serial") ?? "",
                answer.Text("firmware") ?? "",
                answer.Text("functions")?.Split(',').ToImmutableArray() ?? [],
                ranges.ToImmutable()
            );
        }
    }

    public async Task<string?> SelfTestAsync(CancellationToken cancel)
    {
        await Send(Message.Of(++number, "SELFTEST"), cancel);
        var answer = await Receive(cancel);
        if (answer.Word == "FAULT")
            return answer.Text("text") ?? "it does not say what";
        Expect(answer, "OK");
        return null;
    }

    public async Task<Ohms> NullAsync(CancellationToken cancel)
    {
        await Send(Message.Of(++number, "NULL"), cancel);
        var answer = await Receive(cancel);
        Expect(answer, "OK");
        return new(answer.Amount("ohm") ?? throw Garbled());
    }

    public async IAsyncEnumerable<InstrumentReport> MeasureAsync(
        MeasurementRequest request,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var isOver = false;
        await Send(Wire.Start(++number, request), cancel);
        var since = Stopwatch.StartNew();
        isMeasuring = true;
        try
        {
            var drawn = new List<Message>();
            for (var reports = 1; ; reports++)
            {
                var answer = await Receive(cancel);
                if (answer.Word == "WAVE" && drawn.Count < MostWaves)
                {
                    drawn.Add(answer);
                    continue;
                }
                if (answer.Word is not ("PROGRESS" or "READING"))
                {
                    // It has stopped by itself: there is nothing to switch off.
                    isOver = answer.Word == "FAULT";
                    throw Refused(answer);
                }
                if (reports > MostReportsASecond * (1 + since.Elapsed.TotalSeconds))
                    throw Garbled();
                var reading = Wire.Reading(answer) ?? throw WrongOrGarbled(answer, request);
                if (reading.Test != request.Test)
                    throw WrongTest($"a reading for another test ({Words.Of(reading.Test)})");
                isOver = answer.Word == "READING";
                if (isOver && drawn.Count > 0)
                    // A curve that did not come whole is no reason to lose the figure.
                    reading = reading with
                    {
                        Waveform = Wire.Wave(drawn),
                    };
                yield return new(
                    reading,
                    isOver ? reading : null,
                    answer.Amount("elapsed") ?? since.Elapsed.TotalSeconds,
                    isOver || answer.Flag("settled") != false,
                    Wire.At(answer)
                );
                if (isOver)
                    yield break;
            }
        }
        finally
        {
            isMeasuring = false;
            // Cancelled, left early, or what came cannot be believed: whatever it was, the item is taken off its supply.
            if (!isOver)
                await Abort();
        }
    }

    public async Task FinishAsync(CancellationToken cancel)
    {
        if (isMeasuring)
            await Send(Message.Of(number, "FINISH"), cancel);
    }

    public ValueTask DisposeAsync() => line.DisposeAsync();

    /// <summary>Waits until the instrument says that everything is off. When the line is gone there is nobody left to ask, and the
    /// instrument stops on a lost line by itself.</summary>
    private async Task Abort()
    {
        try
        {
            using var brief = new CancellationTokenSource(AbortPatience);
            await Send(Message.Of(++number, "ABORT"), brief.Token);
            for (var late = 0; late < MostLate; late++)
            {
                if (await line.ReceiveAsync(brief.Token) is not { } said)
                    return;
                if (Message.Parse(said) is { Word: "ABORTED" } answer && answer.Number == number)
                    return;
            }
        }
        catch (Exception failure) when (failure is InstrumentException or OperationCanceledException or IOException or InvalidDataException)
        { }
    }

    private static void Expect(Message answer, string word)
    {
        if (answer.Word != word)
            throw Refused(answer);
    }

    private async Task Send(Message message, CancellationToken cancel)
    {
        try
        {
            await line.SendAsync(message.ToString(), cancel);
        }
        catch (IOException failure)
        {
            throw Lost(failure);
        }
    }

    /// <summary>The next message of this conversation; answers to earlier, aborted questions are passed over.</summary>
    private async Task<Message> Receive(CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(patience);
        try
        {
            for (var late = 0; late < MostLate; late++)
            {
                var said = await line.ReceiveAsync(limit.Token) ?? throw Lost(null);
                var message = Message.Parse(said) ?? throw Garbled();
                if (message.Number == number)
                    return message;
                if (message.Number > number)
                    throw Garbled();
            }
            throw Garbled();
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new InstrumentException(
                LineTrouble.Silent,
                $"The instrument has said nothing for {patience.TotalSeconds:0.#} seconds. No reading was taken; check it and measure again."
            );
        }
        catch (InvalidDataException)
        {
            throw Garbled();
        }
        catch (IOException failure)
        {
            throw Lost(failure);
        }
    }

    private static InstrumentException Lost(Exception? inner) =>
        new(
            LineTrouble.Lost,
            "The connection to the instrument was lost. No reading was taken; readings so far are kept. It switches off by itself: look at it before you touch anything.",
            inner
        );

    private static InstrumentException Garbled() =>
        new(LineTrouble.Garbled, "The instrument sent something that is not a reading. It was not kept; measure again.");

    private static InstrumentException WrongTest(string what) =>
        new(LineTrouble.WrongTest, $"The instrument answered with {what}. It was not kept; measure again.");

    private static InstrumentException WrongOrGarbled(Message answer, MeasurementRequest request) =>
        answer.Amount("value") is not null
        && answer.Text("unit") is { } said
        && Unit.Find(said) is { } unit
        && unit.Dimension != TestFigure.DimensionOf(request.Test)
            ? WrongTest($"a figure in {unit.Label}, which this test does not have")
            : Garbled();

    private static InstrumentException Refused(Message answer)
    {
        var text = answer.Text("text");
        return answer.Text("code") switch
        {
            "busy" => new(LineTrouble.Busy, "Another bench measures with this instrument. Nothing was started."),
            "supply" => new(
                LineTrouble.SupplyLost,
                "The mains went away while the item was powered: the building's residual-current device has tripped. No reading was taken."
            ),
            "reset" => new(LineTrouble.NeedsReset, "There is no voltage behind the device. Reset it, then measure again."),
            "earthed" => new(
                LineTrouble.ProbeEarthed,
                $"The probe finds a path to earth of {text ?? "few ohm"}. Nothing was put on the item."
            ),
            _ => new(LineTrouble.Refused, text is null ? $"The instrument answered “{answer.Word}”." : $"The instrument refused: {text}"),
        };
    }
}
