using System.Net;
using System.Net.Sockets;
using Npgsql;

namespace Osierwand.Server.Tests;

/// <summary>The wire between a server and its database, which a test can cut and mend.</summary>
internal sealed class Cable : IAsyncDisposable
{
    private readonly string host;
    private readonly int port;
    private readonly int here;
    private readonly List<TcpClient> ends = [];
    private TcpListener listener;

    public Cable(string connection)
    {
        var far = new NpgsqlConnectionStringBuilder(connection);
        (host, port) = (far.Host!, far.Port);
        listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        here = ((IPEndPoint)listener.LocalEndpoint).Port;
        // A pool name of its own, so that no other test's connections are cut.
        Connection = new NpgsqlConnectionStringBuilder(connection)
        {
            Host = "127.0.0.1",
            Port = here,
            Timeout = 3,
        }.ConnectionString;
        _ = Serve(listener);
    }

    public string Connection { get; }

    /// <summary>What goes through with these bytes in it arrives, and its answer does not: the wire breaks in between.</summary>
    public byte[]? LosesTheAnswerTo { get; set; }
    private volatile bool isMute;

    public void Cut()
    {
        listener.Stop();
        lock (ends)
        {
            foreach (var end in ends)
                end.Dispose();
            ends.Clear();
        }
    }

    public void Mend()
    {
        (isMute, LosesTheAnswerTo) = (false, null);
        listener = new TcpListener(IPAddress.Loopback, here);
        listener.Start();
        _ = Serve(listener);
    }

    public ValueTask DisposeAsync()
    {
        Cut();
        return ValueTask.CompletedTask;
    }

    private async Task Serve(TcpListener on)
    {
        try
        {
            while (true)
            {
                var near = await on.AcceptTcpClientAsync();
                var far = new TcpClient();
                await far.ConnectAsync(host, port);
                lock (ends)
                    ends.AddRange([near, far]);
                _ = Copy(near, far, isQuestion: true);
                _ = Copy(far, near, isQuestion: false);
            }
        }
        catch (Exception ended) when (ended is SocketException or ObjectDisposedException) { }
    }

    private async Task Copy(TcpClient from, TcpClient to, bool isQuestion)
    {
        var buffer = new byte[1 << 16];
        try
        {
            while (await from.GetStream().ReadAsync(buffer) is > 0 and var read)
            {
                if (isQuestion && LosesTheAnswerTo is { } lost && buffer.AsSpan(0, read).IndexOf(lost) >= 0)
                {
                    isMute = true;
                    _ = Task.Delay(1_000).ContinueWith(_ => Cut(), TaskScheduler.Default);
                }
                if (isQuestion || !isMute)
                    await to.GetStream().WriteAsync(buffer.AsMemory(0, read));
            }
        }
        catch (Exception ended) when (ended is IOException or ObjectDisposedException or InvalidOperationException) { }
    }
}
