using System.Buffers;
using System.Collections.Concurrent;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Threading.Channels;

namespace Osierwand.Cli;

/// <summary>
/// A JSON array of requests in, a JSON array of answers out, in the same order. Streams: a few batches are held at a time, whatever the
/// length of the array. One thread finds where requests begin and end; batches are parsed and answered beside it.
/// </summary>
public static class Pipeline
{
    private const int Understood = 0;
    private const int NotUnderstood = 2;
    private const int BatchBytes = 1 << 16;

    /// <summary>Answers one request; false when it was not understood.</summary>
    public delegate bool Answer(JsonElement request, Utf8JsonWriter writer);

    /// <summary>Requests laid end to end.</summary>
    private sealed record Batch(ArrayBufferWriter<byte> Bytes, List<int> Ends);

    /// <summary>Answers as a JSON array of their own.</summary>
    private sealed record Answers(ArrayBufferWriter<byte> Json, bool AllUnderstood);

    /// <summary>Buffers go round: a batch's are too large to be made anew each time.</summary>
    private static readonly ConcurrentBag<ArrayBufferWriter<byte>> Spare = [];

    private static ArrayBufferWriter<byte> Buffer() => Spare.TryTake(out var spare) ? spare : new(4 * BatchBytes);

    private static void GiveBack(ArrayBufferWriter<byte> buffer)
    {
        buffer.ResetWrittenCount();
        Spare.Add(buffer);
    }

    /// <returns>0 when every request was understood, 2 when one was not or the input broke off.</returns>
    public static async Task<int> RunAsync(Stream input, Stream output, Answer answer)
    {
        var working = Channel.CreateBounded<Task<Answers>>(2 * Environment.ProcessorCount);
        var reading = Task.Run(() => ReadAsync(input, answer, working.Writer));
        var (exit, first) = (Understood, true);
        await output.WriteAsync("["u8.ToArray());
        await foreach (var batch in working.Reader.ReadAllAsync())
        {
            var answers = await batch;
            if (!answers.AllUnderstood)
                exit = NotUnderstood;
            if (!first)
                await output.WriteAsync(","u8.ToArray());
            first = false;
            await output.WriteAsync(answers.Json.WrittenMemory[1..^1]);
            GiveBack(answers.Json);
        }
        await reading;
        await output.WriteAsync("]\n"u8.ToArray());
        return exit;
    }

    private static async Task ReadAsync(Stream input, Answer answer, ChannelWriter<Task<Answers>> working)
    {
        var requests = new Requests(input);
        try
        {
            while (await requests.NextAsync() is { } batch)
                await working.WriteAsync(Task.Run(() => AnswerAll(batch, answer)));
        }
        catch (JsonException broken)
        {
            // The reader's own faults carry a line; ours say in words what is wrong. What was understood is answered; the rest cannot be
            // told apart.
            if (requests.Pending() is { } rest)
                await working.WriteAsync(Task.Run(() => AnswerAll(rest, answer)));
            await working.WriteAsync(
                Task.FromResult(
                    Broken(requests.Count, broken.LineNumber is { } line ? $"it is not JSON near line {line + 1}" : broken.Message)
                )
            );
        }
        finally
        {
            working.Complete();
        }
    }

    private static Answers AnswerAll(Batch batch, Answer answer)
    {
        var buffer = Buffer();
        var understood = true;
        using (var writer = Writer(buffer))
        {
            writer.WriteStartArray();
            var start = 0;
            foreach (var end in batch.Ends)
            {
                using var request = JsonDocument.Parse(batch.Bytes.WrittenMemory[start..end]);
                understood &= answer(request.RootElement, writer);
                start = end;
            }
            writer.WriteEndArray();
        }
        GiveBack(batch.Bytes);
        return new(buffer, understood);
    }

    private static Answers Broken(int at, string why)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var writer = Writer(buffer))
        {
            writer.WriteStartArray();
            writer.WriteStartObject();
            writer.WriteNull("id");
            writer.WriteStartObject("error");
            writer.WriteString("path", $"[{at}]");
            writer.WriteString("message", $"the input is not a JSON array of requests from here on: {why}");
            writer.WriteEndObject();
            writer.WriteEndObject();
            writer.WriteEndArray();
        }
        return new(buffer, false);
    }

    // Signs such as Ω and ≤ stay readable; nothing here ends up in HTML.
    private static Utf8JsonWriter Writer(IBufferWriter<byte> buffer) =>
        new(buffer, new JsonWriterOptions { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, SkipValidation = true });

    /// <summary>Cuts the input into batches of whole requests.</summary>
    private sealed class Requests(Stream input)
    {
        private byte[] buffer = new byte[1 << 18];
        private int start,
            end;
        private bool ended,
            inArray,
            closed;
        private JsonReaderState state;
        private ArrayBufferWriter<byte> bytes = Buffer();
        private List<int> ends = [];

        /// <summary>Requests found so far.</summary>
        public int Count { get; private set; }

        /// <returns>Null at the end of the array.</returns>
        public async Task<Batch?> NextAsync()
        {
            while (true)
            {
                if (Cut())
                    return Pending()!;
                if (closed)
                    return Pending();
                await FillAsync();
            }
        }

        /// <summary>What was found and not yet handed out; null when there is nothing.</summary>
        public Batch? Pending()
        {
            if (ends.Count == 0)
                return null;
            var batch = new Batch(bytes, ends);
            (bytes, ends) = (Buffer(), []);
            return batch;
        }

        /// <summary>True when a batch is full; false when more input is needed or the array is closed.</summary>
        private bool Cut()
        {
            while (true)
            {
                var reader = new Utf8JsonReader(buffer.AsSpan(start, end - start), ended, state);
                if (!reader.Read())
                    return false;
                if (closed)
                    throw new JsonException("something stands after the array");
                if (!inArray)
                {
                    if (reader.TokenType != JsonTokenType.StartArray)
                        throw new JsonException("it does not begin with [");
                    inArray = true;
                }
                else if (reader.TokenType == JsonTokenType.EndArray)
                {
                    closed = true;
                }
                else
                {
                    var from = (int)reader.TokenStartIndex;
                    if (!reader.TrySkip())
                        return false;
                    bytes.Write(buffer.AsSpan(start + from, (int)reader.BytesConsumed - from));
                    ends.Add(bytes.WrittenCount);
                    Count++;
                }
                Move(reader);
                if (bytes.WrittenCount >= BatchBytes)
                    return true;
            }
        }

        private void Move(in Utf8JsonReader reader)
        {
            start += (int)reader.BytesConsumed;
            state = reader.CurrentState;
        }

        private async Task FillAsync()
        {
            if (ended)
                throw new JsonException("it breaks off");
            if (start > 0)
            {
                buffer.AsSpan(start, end - start).CopyTo(buffer);
                (start, end) = (0, end - start);
            }
            // One request longer than the buffer.
            if (end == buffer.Length)
                Array.Resize(ref buffer, 2 * buffer.Length);
            var read = await input.ReadAsync(buffer.AsMemory(end));
            if (read == 0)
                ended = true;
            end += read;
        }
    }
}
