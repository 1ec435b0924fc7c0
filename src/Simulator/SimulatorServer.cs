using System.Net.Sockets;

namespace Osierwand.Simulator;

/// <summary>Simulated instruments on their lines, and the control channel beside them.</summary>
public static class SimulatorServer
{
    /// <param name="lines">One for each bench, listening.</param>
    /// <param name="control">Null where nobody plugs anything in.</param>
    /// <param name="pace">How much faster than life: 1 holds a reading for as many seconds as the plan says, 0 answers at once.</param>
    public static Task RunAsync(
        IReadOnlyList<(SimulatedBench Bench, TcpListener Line)> lines,
        TcpListener? control,
        double pace,
        CancellationToken stop
    )
    {
        var channel = new ControlChannel([.. lines.Select(it => it.Bench)]);
        var serving = lines.Select(it => AcceptAsync(it.Line, client => Converse(it.Bench, client, pace, stop), stop));
        return Task.WhenAll(
            control is null ? serving : serving.Append(AcceptAsync(control, client => channel.ServeAsync(client, stop), stop))
        );
    }

    private static async Task Converse(SimulatedBench bench, TcpClient client, double pace, CancellationToken stop)
    {
        client.NoDelay = true;
        using var session = new LineSession(bench, client, pace);
        await session.RunAsync(stop);
    }

    private static async Task AcceptAsync(TcpListener listener, Func<TcpClient, Task> serve, CancellationToken stop)
    {
        try
        {
            while (true)
            {
                var client = await listener.AcceptTcpClientAsync(stop);
                _ = serve(client);
            }
        }
        catch (Exception ended) when (ended is OperationCanceledException or ObjectDisposedException) { }
    }
}
