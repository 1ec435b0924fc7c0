using System.Net.Sockets;
using System.Runtime.CompilerServices;
using System.Text;
using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Instruments.Protocol;
using Osierwand.Instruments.Simulation;

namespace Osierwand.Instruments;

/// <summary>An instrument that speaks the line protocol over TCP. One conversation at a time; open one per measurement or
/// session.</summary>
public sealed class LineInstrument : IInstrument
{
    private readonly TcpClient client;
    private readonly StreamReader reader;
    private readonly NetworkStream stream;
    private readonly TimeSpan patience;
    private int number;

    private LineInstrument(TcpClient client, TimeSpan patience)
    {
        (this.client, this.patience) = (client, patience);
        stream = client.GetStream();
        reader = new StreamReader(stream, new UTF8Encoding(false), false, 1024);
    }

    /// <param name="patience">Silence longer than this is trouble: 3 seconds unless given.</param>
    /// <exception cref="InstrumentException">Nobody listens there.</exception>
    public static async Task<LineInstrument> ConnectAsync(string host, int port, CancellationToken cancel, TimeSpan? patience = null)
    {
        var client = new TcpClient { NoDelay = true };
        var wait = patience ?? TimeSpan.FromSeconds(3);
        try
        {
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(wait);
            await client.ConnectAsync(host, port, limit.Token);
            return new(client, wait);
        }
        catch (Exception failure)
            when (failure is SocketException || (failure is OperationCanceledException && !cancel.IsCancellationRequested))
        {
            client.Dispose();
            throw new InstrumentException(
                LineTrouble.Unreachable,
                "The instrument does not answer. Check its cable and power; readings can be typed meanwhile.",
                failure
            );
        }
    }

    public async Task<InstrumentIdentity> IdentifyAsync(CancellationToken cancel)
    {
        var answer = await Ask("IDENTIFY", cancel);
        return new(
            answer.Text("name") ?? throw Garbled(),
            answer.Text("serial") ?? "",
            answer.Text("firmware") ?? "",
            answer.Text("functions")?.Split(',') ?? []
        );
    }

    public async Task<Ohms> NullAsync(CancellationToken cancel) => new((await Ask("NULL", cancel)).Amount("ohm") ?? throw Garbled());

    /// <summary>Puts an item on the simulated bench. A real tester refuses it, as somebody has plugged the item in by hand.</summary>
    public async Task PlaceAsync(string tag, Item item, DateOnly made, DateOnly day, Defect defect, CancellationToken cancel)
    {
        var message = Wire.Place(++number, tag, item, made, day, defect);
        await Send(message, cancel);
        Expect(await Receive(cancel), "OK");
    }

    public async IAsyncEnumerable<InstrumentReport> MeasureAsync(
        MeasurementRequest request,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await Send(Wire.Start(++number, request), cancel);
        while (true)
        {
            Message answer;
            try
            {
                answer = await Receive(cancel);
            }
            catch (OperationCanceledException)
            {
                await Abort();
                throw;
            }
            if (answer.Word is not ("PROGRESS" or "READING"))
                throw Refused(answer);
            var reading = Wire.Reading(answer) ?? throw Garbled();
            if (reading.Test != request.Test)
                throw new InstrumentException(
                    LineTrouble.WrongTest,
                    $"The instrument answered with a reading for another test ({Words.Of(reading.Test)}). It was not kept; measure again."
                );
            var last = answer.Word == "READING";
            yield return new(reading, last ? reading : null, answer.Amount("elapsed") ?? 0);
            if (last)
                yield break;
        }
    }

    public ValueTask DisposeAsync()
    {
        reader.Dispose();
        client.Dispose();
        return ValueTask.CompletedTask;
    }

    /// <summary>Best effort: when the line is gone there is nobody left to tell, and the instrument stops on a lost line by
    /// itself.</summary>
    private async Task Abort()
    {
        try
        {
            using var brief = new CancellationTokenSource(TimeSpan.FromSeconds(1));
            await Send(Message.Of(number, "ABORT"), brief.Token);
        }
        catch (Exception failure) when (failure is InstrumentException or OperationCanceledException) { }
    }

    private async Task<Message> Ask(string word, CancellationToken cancel)
    {
        await Send(Message.Of(++number, word), cancel);
        var answer = await Receive(cancel);
        Expect(answer, "OK");
        return answer;
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
            await stream.WriteAsync(Encoding.UTF8.GetBytes(message + "\n"), cancel);
        }
        catch (Exception failure) when (failure is IOException or ObjectDisposedException)
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
            while (true)
            {
                var line = await ReadLine(limit.Token) ?? throw Lost(null);
                var message = Message.Parse(line) ?? throw Garbled();
                if (message.Number == number)
                    return message;
                if (message.Number > number)
                    throw Garbled();
            }
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new InstrumentException(
                LineTrouble.Silent,
                $"The instrument has said nothing for {patience.TotalSeconds:0.#} seconds. No reading was taken; check it and measure again."
            );
        }
        catch (IOException failure)
        {
            throw Lost(failure);
        }
    }

    /// <summary>Null at the end of the stream, also after half a line: a line without its line feed was cut off and is not
    /// believed.</summary>
    private async Task<string?> ReadLine(CancellationToken cancel)
    {
        var line = new StringBuilder();
        var one = new char[1];
        while (await reader.ReadAsync(one.AsMemory(), cancel) == 1)
        {
            if (one[0] == '\n')
                return line.ToString().TrimEnd('\r');
            if (line.Append(one[0]).Length > Message.LongestLine)
                throw Garbled();
        }
        return null;
    }

    private static InstrumentException Lost(Exception? inner) =>
        new(LineTrouble.Lost, "The connection to the instrument was lost. No reading was taken; readings so far are kept.", inner);

    private static InstrumentException Garbled() =>
        new(LineTrouble.Garbled, "The instrument sent something that is not a reading. It was not kept; measure again.");

    private static InstrumentException Refused(Message answer) =>
        new(
            LineTrouble.Refused,
            answer.Text("text") is { } text ? $"The instrument refused: {text}" : $"The instrument answered “{answer.Word}”."
        );
}
