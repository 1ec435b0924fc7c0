namespace Osierwand.Instruments.Line;

/// <summary>
/// Plays a recorded exchange: what the server said stands after <c>&gt; </c>, what the instrument answered after <c>&lt; </c>; other lines
/// are remarks. Whatever is sent must be what was recorded, to the letter; an ABORT that was not recorded is answered.
/// </summary>
public sealed class RecordedLine : ILineTransport
{
    private const string Said = "> ";
    private const string Answered = "< ";
    private readonly string[] exchange;
    private readonly Queue<string> unrecorded = new();
    private int at;

    /// <param name="transcript">The recording, line by line.</param>
    public RecordedLine(IEnumerable<string> transcript) =>
        exchange = [.. transcript.Select(line => line.Trim()).Where(line => line.StartsWith(Said) || line.StartsWith(Answered))];

    /// <summary>Everything that was recorded has been played.</summary>
    public bool IsAtEnd => at == exchange.Length;

    public static RecordedLine Open(string path) => new(File.ReadLines(path));

    public Task SendAsync(string line, CancellationToken cancel)
    {
        if (at < exchange.Length && exchange[at] == Said + line)
            at++;
        else if (Message.Parse(line) is { Word: "ABORT" } abort)
            unrecorded.Enqueue(Message.Of(abort.Number, "ABORTED").ToString());
        else
            throw new IOException($"The recording goes on with “{(IsAtEnd ? "nothing" : exchange[at])}”, not with “{line}”.");
        return Task.CompletedTask;
    }

    /// <summary>Where the recording has no answer the instrument is silent.</summary>
    public async Task<string?> ReceiveAsync(CancellationToken cancel)
    {
        if (unrecorded.TryDequeue(out var answer))
            return answer;
        if (at < exchange.Length && exchange[at].StartsWith(Answered))
            return exchange[at++][Answered.Length..];
        await Task.Delay(Timeout.Infinite, cancel);
        return null;
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;
}
