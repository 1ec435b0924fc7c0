using Microsoft.Extensions.Options;
using Npgsql;
using Osierwand.Core.Equipment;
using Osierwand.Instruments;
using Osierwand.Instruments.Simulation;

namespace Osierwand.Server.Kit;

/// <summary>Where the instrument listens. Port 0: none is connected.</summary>
public sealed class SimulatorOptions
{
    public string Host { get; set; } = "127.0.0.1";
    public int Port { get; set; }
}

/// <summary>Opens conversations with the connected instrument. The one thing a server holds for itself: whose turn it is at the
/// instrument.</summary>
public sealed class InstrumentLine(IOptionsMonitor<SimulatorOptions> options, NpgsqlDataSource database, TimeProvider time)
{
    /// <summary>Who it said it was is believed for so long: every ruling asks.</summary>
    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(5);

    /// <summary>With the line's port: one lock an instrument.</summary>
    private const long TurnLock = 1868_00000;

    private readonly Lock turns = new();
    private (InstrumentIdentity? Identity, long At)? asked;

    public bool IsConfigured => options.CurrentValue.Port > 0;

    /// <summary>Who measures now; null when it is free.</summary>
    public string? InUseBy { get; private set; }

    /// <summary>One measurement at a time, on whichever server: two benches on one instrument would read each other's item. The turn is
    /// a lock in the database, which goes with its connection, whatever becomes of this process.</summary>
    /// <returns>Null while somebody measures; disposing it gives the turn back.</returns>
    /// <exception cref="InstrumentException">The database does not answer.</exception>
    public async Task<IAsyncDisposable?> TakeTurnAsync(string by, CancellationToken cancel)
    {
        lock (turns)
        {
            if (InUseBy is not null)
                return null;
            InUseBy = by;
        }
        try
        {
            var held = await database.OpenConnectionAsync(cancel);
            await using var take = new NpgsqlCommand("SELECT pg_try_advisory_lock($1)", held);
            take.Parameters.Add(new() { Value = TurnLock + options.CurrentValue.Port });
            if (await take.ExecuteScalarAsync(cancel) is true)
                return new Turn(this, held);
            await held.DisposeAsync();
            InUseBy = null;
            return null;
        }
        catch (NpgsqlException trouble)
        {
            InUseBy = null;
            throw new InstrumentException(
                LineTrouble.Unreachable,
                $"The database does not answer, so nobody knows who is at the instrument. Nothing was started. ({trouble.Message})"
            );
        }
        catch
        {
            InUseBy = null;
            throw;
        }
    }

    /// <returns>Null when nothing answers.</returns>
    public async Task<InstrumentIdentity?> IdentityAsync(CancellationToken cancel)
    {
        if (!IsConfigured)
            return null;
        if (asked is { } known && time.GetElapsedTime(known.At) < Believed)
            return known.Identity;
        InstrumentIdentity? identity = null;
        try
        {
            await using var conversation = await OpenAsync(cancel);
            identity = await conversation.IdentifyAsync(cancel);
        }
        catch (InstrumentException)
        {
            // Nothing answers: readings are typed.
        }
        asked = (identity, time.GetTimestamp());
        return identity;
    }

    /// <exception cref="InstrumentException">It does not answer.</exception>
    public async Task<LineInstrument> OpenAsync(CancellationToken cancel) =>
        IsConfigured
            ? await LineInstrument.ConnectAsync(options.CurrentValue.Host, options.CurrentValue.Port, cancel)
            : throw new InstrumentException(LineTrouble.Unreachable, "No instrument is connected. Readings can be typed.");

    /// <summary>A conversation with this item plugged in: what a technician's hands do at a real tester.</summary>
    /// <param name="made">When it was new: only a simulated one is aged by it.</param>
    public async Task<LineInstrument> OpenWithAsync(string tag, Item item, DateOnly made, Defect defect, CancellationToken cancel)
    {
        var instrument = await OpenAsync(cancel);
        await instrument.PlaceAsync(tag, item, made, DateOnly.FromDateTime(time.GetUtcNow().UtcDateTime), defect, cancel);
        return instrument;
    }

    private sealed class Turn(InstrumentLine of, NpgsqlConnection held) : IAsyncDisposable
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
                of.InUseBy = null;
            }
        }
    }
}
