using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.Extensions.Options;
using Npgsql;
using Osierwand.Instruments;
using Osierwand.Instruments.Line;
using Osierwand.Instruments.Meters;

namespace Osierwand.Server.Kit;

/// <summary>How an instrument is spoken to.</summary>
public enum InstrumentDriver
{
    /// <summary>The line protocol of docs/protocol.md.</summary>
    Line,

    /// <summary>A meter that only says its value, one a line; who it is stands in its options.</summary>
    Meter,
}

/// <summary>Where one instrument listens.</summary>
public sealed class InstrumentAddress
{
    public string Host { get; set; } = "127.0.0.1";

    /// <summary>0: none is connected.</summary>
    public int Port { get; set; }
    public InstrumentDriver Driver { get; set; }

    /// <summary>Two hosts may have an instrument on the same port.</summary>
    internal (string Host, int Port) Place => (Host, Port);

    /// <summary>Of a plain meter, which cannot say so itself.</summary>
    public string Name { get; set; } = "";
    public string Serial { get; set; } = "";

    /// <summary>Of a plain meter: the tests it measures, by the words of the contract.</summary>
    public IList<string> Functions { get; } = [];
}

/// <summary>Every instrument of the house that is on a line.</summary>
public sealed class InstrumentOptions
{
    public IList<InstrumentAddress> Lines { get; } = [];
}

/// <summary>
/// Opens conversations with the house's instruments, which are told apart by their serial numbers. The one thing a server holds for itself:
/// whose turn it is at which instrument.
/// </summary>
public sealed class InstrumentLines(IOptionsMonitor<InstrumentOptions> options, NpgsqlDataSource database, TimeProvider time)
{
    /// <summary>Who it said it was is believed for so long: every ruling asks.</summary>
    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(5);

    /// <summary>Nobody waits long at the bench for an instrument that is switched off.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    /// <summary>One that did not answer the last time is given a glance: one that hangs would hold up every bench for as long as one is
    /// patient.</summary>
    private static readonly TimeSpan Glance = TimeSpan.FromMilliseconds(300);

    /// <summary>With its serial number: one lock an instrument, on whichever server.</summary>
    private const int TurnLock = 1868;

    private readonly ConcurrentDictionary<string, string> turns = new();
    private readonly ConcurrentDictionary<(string Host, int Port), (InstrumentIdentity? Identity, long At)> asked = new();

    /// <summary>Being asked who they are: whoever wants to know meanwhile waits for the same answer.</summary>
    private readonly ConcurrentDictionary<(string Host, int Port), Lazy<Task<InstrumentIdentity?>>> asking = new();

    /// <summary>Who measures with it now, at this server; null when it is free.</summary>
    public string? InUseBy(string serial) => turns.GetValueOrDefault(serial);

    /// <summary>Those that answer.</summary>
    public async Task<ImmutableArray<InstrumentIdentity>> ConnectedAsync(CancellationToken cancel)
    {
        var all = await Task.WhenAll(Configured.Select(address => IdentityAsync(address, cancel)));
        return [.. all.OfType<InstrumentIdentity>()];
    }

    /// <returns>Null when no instrument of this serial number answers.</returns>
    public async Task<InstrumentIdentity?> IdentityAsync(string? serial, CancellationToken cancel) =>
        (await ConnectedAsync(cancel)).FirstOrDefault(it => it.Serial == serial);

    /// <summary>One measurement at a time and instrument, on whichever server: two benches on one instrument would read each other's
    /// item. The turn is a lock in the database, which goes with its connection, whatever becomes of this process.</summary>
    /// <returns>Null while somebody measures with it; disposing it gives the turn back.</returns>
    /// <exception cref="InstrumentException">The database does not answer, or no such instrument is on a line.</exception>
    public async Task<IAsyncDisposable?> TakeTurnAsync(string serial, string by, CancellationToken cancel)
    {
        if (AddressOf(serial) is null)
            throw NotConnected();
        if (!turns.TryAdd(serial, by))
            return null;
        NpgsqlConnection? held = null;
        bool? isTaken = null;
        try
        {
            held = await database.OpenConnectionAsync(cancel);
            await using var take = new NpgsqlCommand("SELECT pg_try_advisory_lock($1, hashtext($2))", held);
            take.Parameters.Add(new() { Value = TurnLock });
            take.Parameters.Add(new() { Value = serial });
            isTaken = await take.ExecuteScalarAsync(cancel) is true;
            return isTaken is true ? new Turn(this, serial, held) : null;
        }
        catch (NpgsqlException trouble)
        {
            throw new InstrumentException(
                LineTrouble.Unreachable,
                $"The database does not answer, so nobody knows who is at the instrument. Nothing was started. ({trouble.Message})"
            );
        }
        finally
        {
            if (isTaken is not true)
                await NotTakenAsync(serial, held, isTaken is null);
        }
    }

    /// <param name="isUnknown">Whoever stopped waiting may have been given the lock all the same: it goes with its connection, which then
    /// goes back to no pool.</param>
    private async Task NotTakenAsync(string serial, NpgsqlConnection? held, bool isUnknown)
    {
        turns.TryRemove(serial, out _);
        if (held is null)
            return;
        if (isUnknown)
            NpgsqlConnection.ClearPool(held);
        await held.DisposeAsync();
    }

    /// <exception cref="InstrumentException">It does not answer.</exception>
    public async Task<IInstrument> OpenAsync(string serial, CancellationToken cancel)
    {
        await ConnectedAsync(cancel);
        return AddressOf(serial) is { } address ? await OpenAsync(address, cancel) : throw NotConnected();
    }

    /// <summary>Its place among the lines, counted from 1: a simulated bench has the same number.</summary>
    internal int? NumberOf(string serial) => AddressOf(serial) is { } address ? options.CurrentValue.Lines.IndexOf(address) + 1 : null;

    private IEnumerable<InstrumentAddress> Configured => options.CurrentValue.Lines.Where(it => it.Port > 0);

    /// <summary>By what it said of itself last.</summary>
    private InstrumentAddress? AddressOf(string serial) =>
        Configured.FirstOrDefault(line => asked.TryGetValue(line.Place, out var known) && known.Identity?.Serial == serial);

    private async Task<InstrumentIdentity?> IdentityAsync(InstrumentAddress address, CancellationToken cancel)
    {
        var isKnown = asked.TryGetValue(address.Place, out var known);
        if (isKnown && time.GetElapsedTime(known.At) < Believed)
            return known.Identity;
        var answer = asking.GetOrAdd(address.Place, _ => new(() => AskAsync(address))).Value;
        if (isKnown && known.Identity is null && await Task.WhenAny(answer, Task.Delay(Glance, cancel)) != answer)
            return null;
        return await answer.WaitAsync(cancel);
    }

    private async Task<InstrumentIdentity?> AskAsync(InstrumentAddress address)
    {
        InstrumentIdentity? identity = null;
        try
        {
            // Not whoever asked first: others wait for the answer too.
            await using var conversation = await OpenAsync(address, CancellationToken.None);
            identity = await conversation.IdentifyAsync(CancellationToken.None);
        }
        catch (InstrumentException)
        {
            // Nothing answers: readings are typed.
        }
        finally
        {
            // Whatever went wrong: the next one asks anew.
            asked[address.Place] = (identity, time.GetTimestamp());
            asking.TryRemove(address.Place, out _);
        }
        return identity;
    }

    private static async Task<IInstrument> OpenAsync(InstrumentAddress address, CancellationToken cancel)
    {
        var line = await TcpLine.ConnectAsync(address.Host, address.Port, Patience, cancel);
        return address.Driver == InstrumentDriver.Meter
            ? new PlainMeter(line, new(address.Name, address.Serial, "", [.. address.Functions], []))
            : new LineInstrument(line);
    }

    private static InstrumentException NotConnected() =>
        new(LineTrouble.Unreachable, "The instrument does not answer. Check its cable and power; readings can be typed meanwhile.");

    private sealed class Turn(InstrumentLines of, string serial, NpgsqlConnection held) : IAsyncDisposable
    {
        public async ValueTask DisposeAsync()
        {
            try
            {
                await using var give = new NpgsqlCommand("SELECT pg_advisory_unlock_all()", held);
                await give.ExecuteNonQueryAsync();
            }
            catch (NpgsqlException)
            {
                // The connection is gone, and the lock with it.
            }
            finally
            {
                await held.DisposeAsync();
                of.turns.TryRemove(serial, out _);
            }
        }
    }
}
