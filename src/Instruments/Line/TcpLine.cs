using System.Net.Sockets;
using System.Text;

namespace Osierwand.Instruments.Line;

/// <summary>Lines over TCP: an instrument behind a serial device server, or a simulated one.</summary>
public sealed class TcpLine : ILineTransport
{
    private readonly TcpClient client;
    private readonly NetworkStream stream;
    private readonly StreamReader reader;

    private TcpLine(TcpClient client)
    {
        this.client = client;
        stream = client.GetStream();
        reader = new StreamReader(stream, new UTF8Encoding(false), false, 1024);
    }

    /// <param name="patience">How long to knock.</param>
    /// <exception cref="InstrumentException">Nobody listens there.</exception>
    public static async Task<TcpLine> ConnectAsync(string host, int port, TimeSpan patience, CancellationToken cancel)
    {
        var client = new TcpClient { NoDelay = true };
        try
        {
            using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            limit.CancelAfter(patience);
            await client.ConnectAsync(host, port, limit.Token);
            return new(client);
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
        catch
        {
            client.Dispose();
            throw;
        }
    }

    public async Task SendAsync(string line, CancellationToken cancel)
    {
        try
        {
            await stream.WriteAsync(Encoding.UTF8.GetBytes(line + "\n"), cancel);
        }
        catch (ObjectDisposedException gone)
        {
            throw new IOException("The line is closed.", gone);
        }
    }

    public Task<string?> ReceiveAsync(CancellationToken cancel) => LineText.NextAsync(reader, cancel);

    public ValueTask DisposeAsync()
    {
        reader.Dispose();
        client.Dispose();
        return ValueTask.CompletedTask;
    }
}

/// <summary>Takes whole lines from a stream of characters, and nothing else.</summary>
internal static class LineText
{
    /// <inheritdoc cref="ILineTransport.ReceiveAsync"/>
    public static async Task<string?> NextAsync(TextReader reader, CancellationToken cancel)
    {
        var line = new StringBuilder();
        var one = new char[1];
        while (await reader.ReadAsync(one.AsMemory(), cancel) == 1)
        {
            if (one[0] == '\n')
                return line.ToString().TrimEnd('\r');
            if (line.Append(one[0]).Length > Message.LongestLine)
                throw new InvalidDataException("A line without an end.");
        }
        return null;
    }
}
