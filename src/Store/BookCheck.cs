using System.Globalization;
using System.Security.Cryptography;
using Npgsql;
using Osierwand.Core.Records;

namespace Osierwand.Store;

/// <param name="Number">Of the record; null where the book as a whole is meant.</param>
public sealed record BookBreak(string Client, long? Number, string What)
{
    public override string ToString() => $"{Client}: {What}";
}

/// <param name="Breaks">The first of every book, and every signed head and item that the records contradict; empty when all is
/// whole.</param>
public sealed record BooksChecked(long Records, int Books, IReadOnlyList<BookBreak> Breaks);

/// <summary>
/// Reads every book from its first record to its head and says where it does not hold: a record that was altered, moved or taken away, a
/// tail cut off, a head that was signed and is not reached any more, a register that says otherwise than the records.
/// </summary>
public static class BookCheck
{
    /// <summary>One stretch of a book is read by one connection; its first record is held against the hash before it.</summary>
    private const int Stretch = 5_000;

    /// <summary>In the place of a client's code, where no client's book is meant.</summary>
    private const string House = "the house";

    private sealed record Head(Guid ClientId, string Code, long Number, byte[] Hash);

    private sealed record Signed(Guid ClientId, long Number, byte[] Hash, DateTimeOffset At, string KeyId, byte[] Signature);

    private static Signed Anchored(BookHead it) => new(it.ClientId, it.Number, it.Hash, it.At, "", []);

    /// <param name="client">Code of one client; null for all.</param>
    public static async Task<BooksChecked> RunAsync(NpgsqlDataSource source, string? client, KeptOutside outside, CancellationToken cancel)
    {
        var (keys, anchors) = (outside.Keys, outside.Heads);
        List<BookBreak> breaks = [.. outside.Unreadable.Select(it => new BookBreak(House, null, it))];
        // In this order: what is saved meanwhile can only make a book longer than its signed heads and its head as read here.
        var signed = await ReadAsync(
            source,
            "SELECT client_id, number, hash, at, key_id, signature FROM signed_heads ORDER BY client_id, number",
            it => new Signed(
                it.GetGuid(0),
                it.GetInt64(1),
                it.GetFieldValue<byte[]>(2),
                it.GetFieldValue<DateTimeOffset>(3),
                it.GetString(4),
                it.GetFieldValue<byte[]>(5)
            ),
            cancel
        );
        var heads = await ReadAsync(
            source,
            """
            SELECT c.id, c.code, b.number, b.hash FROM clients c LEFT JOIN books b ON b.client_id = c.id ORDER BY c.code
            """,
            it =>
                it.IsDBNull(2)
                    ? new Head(it.GetGuid(0), it.GetString(1), -1, [])
                    : new(it.GetGuid(0), it.GetString(1), it.GetInt64(2), it.GetFieldValue<byte[]>(3)),
            cancel
        );
        if (client is not null)
            heads = [.. heads.Where(it => it.Code.Equals(client, StringComparison.OrdinalIgnoreCase))];
        foreach (var missing in heads.Where(it => it.Number < 0))
            breaks.Add(new(missing.Code, null, "its book is missing"));
        var checkedRecords = 0L;
        var stretches = heads.SelectMany(head =>
            Enumerable
                .Range(0, (int)((Math.Max(0, head.Number) + Stretch - 1) / Stretch))
                .Select(at => (Head: head, From: (long)at * Stretch, To: Math.Min(head.Number, (at + 1L) * Stretch)))
        );
        var found = new System.Collections.Concurrent.ConcurrentBag<BookBreak>();
        await Parallel.ForEachAsync(
            stretches,
            new ParallelOptions { MaxDegreeOfParallelism = Math.Max(2, Environment.ProcessorCount), CancellationToken = cancel },
            async (it, stop) =>
            {
                var (count, broken) = await WalkAsync(source, it.Head, it.From, it.To, stop);
                Interlocked.Add(ref checkedRecords, count);
                if (broken is not null)
                    found.Add(broken);
            }
        );
        breaks.AddRange(found.GroupBy(it => it.Client).Select(book => book.MinBy(it => it.Number)!));
        foreach (var head in heads.Where(it => it.Number >= 0))
            if (await HeadBreakAsync(source, head, cancel) is { } what)
                breaks.Add(new(head.Code, head.Number, what));
        // What lies outside the database goes first: nothing inside could be made to fit it.
        breaks.AddRange(await SignedBreaksAsync(source, heads, [.. anchors.Select(Anchored)], null, cancel));
        breaks.AddRange(await SignedBreaksAsync(source, heads, signed, keys, cancel));
        if (client is null)
            breaks.AddRange(
                anchors
                    .Where(it => heads.All(head => head.ClientId != it.ClientId))
                    .Select(it => new BookBreak(
                        House,
                        it.Number,
                        $"the book of the client {it.ClientId:D}, signed at record {Text(it.Number)}, is missing"
                    ))
            );
        breaks.AddRange(await RegisterBreaksAsync(source, client, cancel));
        return new(checkedRecords, heads.Count, [.. breaks.OrderBy(it => it.Client).ThenBy(it => it.Number)]);
    }

    private static async Task<(long Count, BookBreak? Break)> WalkAsync(
        NpgsqlDataSource source,
        Head head,
        long from,
        long to,
        CancellationToken cancel
    )
    {
        await using var connection = await source.OpenConnectionAsync(cancel);
        var walk = BookWalk.FromStart();
        if (from > 0)
        {
            await using var before = new NpgsqlCommand(
                "SELECT hash, chain FROM inspections WHERE client_id = $1 AND book_number = $2",
                connection
            );
            before.Parameters.Add(new() { Value = head.ClientId });
            before.Parameters.Add(new() { Value = from });
            await using var row = await before.ExecuteReaderAsync(cancel);
            // The stretch before this one says what is missing.
            if (!await row.ReadAsync(cancel))
                return (0, null);
            walk = new(from, row.GetFieldValue<byte[]>(0), row.GetInt16(1));
        }
        await using var command = new NpgsqlCommand(
            """
            SELECT book_number, chain, id, client_id, item_id, round_id, technician_id, corrects, tested_at, received_at, day, outcome,
                is_test, near_limit, rising, revision, sent, record, taken, before, after, hash
            FROM inspections WHERE client_id = $1 AND book_number > $2 AND book_number <= $3 ORDER BY book_number
            """,
            connection
        );
        command.Parameters.Add(new() { Value = head.ClientId });
        command.Parameters.Add(new() { Value = from });
        command.Parameters.Add(new() { Value = to });
        await using var rows = await command.ExecuteReaderAsync(cancel);
        var count = 0L;
        while (await rows.ReadAsync(cancel))
        {
            var kept = Kept(rows);
            if (walk.Take(kept) is { } what)
                return (count, new(head.Code, kept.Number, what));
            count++;
        }
        return walk.Number == to
            ? (count, null)
            : (
                count,
                new(
                    head.Code,
                    walk.Number + 1,
                    $"the book counts {Text(head.Number)} records, and record {Text(walk.Number + 1)} is missing"
                )
            );
    }

    private static KeptRecord Kept(NpgsqlDataReader it) =>
        new(
            it.GetInt64(0),
            it.GetInt16(1),
            new(
                it.GetGuid(2),
                it.GetGuid(3),
                it.GetGuid(4),
                it.GetGuid(5),
                it.GetGuid(6),
                it.IsDBNull(7) ? null : it.GetGuid(7),
                it.GetFieldValue<DateTimeOffset>(8),
                it.GetFieldValue<DateTimeOffset>(9),
                it.GetFieldValue<DateOnly>(10),
                it.GetString(11),
                it.GetBoolean(12),
                it.GetBoolean(13),
                it.GetBoolean(14),
                it.GetInt32(15),
                it.GetFieldValue<byte[]>(16)
            ),
            it.GetFieldValue<byte[]>(17),
            it.GetFieldValue<byte[]>(18),
            it.GetFieldValue<byte[]>(19),
            it.IsDBNull(20) ? Array.Empty<byte>() : it.GetFieldValue<byte[]>(20),
            it.GetFieldValue<byte[]>(21)
        );

    /// <summary>The head itself, and that nothing was written past it.</summary>
    private static async Task<string?> HeadBreakAsync(NpgsqlDataSource source, Head head, CancellationToken cancel)
    {
        var rows = await ReadAsync(
            source,
            """
            SELECT (SELECT hash FROM inspections WHERE client_id = $1 AND book_number = $2),
                (SELECT max(book_number) FROM inspections WHERE client_id = $1), (SELECT number FROM books WHERE client_id = $1)
            """,
            it =>
                (
                    Last: it.IsDBNull(0) ? null : it.GetFieldValue<byte[]>(0),
                    Most: it.IsDBNull(1) ? 0 : it.GetInt64(1),
                    Now: it.IsDBNull(2) ? 0 : it.GetInt64(2)
                ),
            cancel,
            head.ClientId,
            head.Number
        );
        var (last, most, now) = rows[0];
        return head.Number > 0 && last is not null && !last.AsSpan().SequenceEqual(head.Hash)
                ? $"the book's head is not the hash of its last record, {Text(head.Number)}"
            : head.Number == 0 && !head.Hash.AsSpan().SequenceEqual(RecordChain.Start) ? "the empty book's head was altered"
            : most > now ? $"there is a record {Text(most)} past the book's end at {Text(now)}"
            : null;
    }

    private static async Task<List<BookBreak>> SignedBreaksAsync(
        NpgsqlDataSource source,
        IReadOnlyList<Head> heads,
        IReadOnlyList<Signed> signed,
        IReadOnlyDictionary<string, ECDsa>? keys,
        CancellationToken cancel
    )
    {
        var breaks = new List<BookBreak>();
        foreach (var head in heads)
        {
            var own = signed.Where(it => it.ClientId == head.ClientId).ToArray();
            var hashes = (
                await ReadAsync(
                    source,
                    "SELECT book_number, hash FROM inspections WHERE client_id = $1 AND book_number = ANY($2)",
                    it => (it.GetInt64(0), it.GetFieldValue<byte[]>(1)),
                    cancel,
                    head.ClientId,
                    own.Select(it => it.Number).ToArray()
                )
            ).ToDictionary(it => it.Item1, it => it.Item2);
            foreach (var it in own)
            {
                var at = it.At.UtcDateTime.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);
                var what =
                    !hashes.TryGetValue(it.Number, out var hash)
                        ? $"a head was signed at record {Text(it.Number)} on {at}, and there is no such record now"
                    : !hash.AsSpan().SequenceEqual(it.Hash) ? $"record {Text(it.Number)} is not the one whose head was signed on {at}"
                    : keys is null ? null
                    : !keys.TryGetValue(it.KeyId, out var key)
                        ? $"the head at record {Text(it.Number)} is signed with the key {it.KeyId}, which is not at hand"
                    : !new BookHead(it.ClientId, it.Number, it.Hash, it.At).IsSignedBy(key, it.Signature)
                        ? $"the signature under the head at record {Text(it.Number)} is not the house's"
                    : null;
                if (what is not null)
                {
                    breaks.Add(new(head.Code, it.Number, what));
                    break;
                }
            }
        }
        return breaks;
    }

    /// <summary>Lists and due dates are read from the items: each must stand as its last record left it. What was scrapped, lost or sent
    /// to repair since is out of use, and may be so without a record; nothing comes back into use without one. Dates may have come
    /// earlier, as of an item that was moved or knocked; none is later without a record.</summary>
    private static async Task<List<BookBreak>> RegisterBreaksAsync(NpgsqlDataSource source, string? client, CancellationToken cancel) =>
        await ReadAsync(
            source,
            """
            SELECT c.code, last.book_number, i.tag, concat_ws(', ',
                CASE WHEN i.state <> last.after->>'State' AND i.state NOT IN ('Scrapped', 'Lost', 'InRepair', 'Quarantined') THEN 'state' END,
                CASE WHEN coalesce((last.after->>'Due')::date, 'infinity') < coalesce(i.due, 'infinity') THEN 'due date' END,
                CASE WHEN coalesce((last.after->>'VisualDue')::date, 'infinity') < coalesce(i.visual_due, 'infinity') THEN 'date of the next look' END,
                CASE WHEN coalesce((last.after->>'IntervalMonths')::float8, 'infinity') < coalesce(i.interval_months, 'infinity') THEN 'interval' END,
                CASE WHEN last.after->>'LastOutcome' IS DISTINCT FROM i.last_outcome THEN 'last outcome' END,
                CASE WHEN (last.after->>'LastTestedOn')::date IS DISTINCT FROM i.last_tested_on THEN 'date of the last test' END,
                CASE WHEN (last.after->>'LastLookedOn')::date IS DISTINCT FROM i.last_looked_on THEN 'date of the last look' END,
                CASE WHEN last.after->>'LockLeft' IS DISTINCT FROM i.lock_left THEN 'lock' END,
                CASE WHEN i.revision < last.revision THEN 'revision' END)
            FROM items i JOIN clients c ON c.id = i.client_id
            CROSS JOIN LATERAL (SELECT book_number, after, revision, chain FROM inspections WHERE item_id = i.id
                ORDER BY book_number DESC LIMIT 1) last
            WHERE last.chain > 1 AND ($1 IS NULL OR lower(c.code) = lower($1)) AND (
                (i.state <> last.after->>'State' AND i.state NOT IN ('Scrapped', 'Lost', 'InRepair', 'Quarantined')) OR coalesce((last.after->>'Due')::date, 'infinity') < coalesce(i.due, 'infinity')
                OR coalesce((last.after->>'VisualDue')::date, 'infinity') < coalesce(i.visual_due, 'infinity')
                OR coalesce((last.after->>'IntervalMonths')::float8, 'infinity') < coalesce(i.interval_months, 'infinity')
                OR last.after->>'LastOutcome' IS DISTINCT FROM i.last_outcome
                OR (last.after->>'LastTestedOn')::date IS DISTINCT FROM i.last_tested_on
                OR (last.after->>'LastLookedOn')::date IS DISTINCT FROM i.last_looked_on
                OR last.after->>'LockLeft' IS DISTINCT FROM i.lock_left
                OR i.revision < last.revision)
            ORDER BY c.code, i.tag LIMIT 50
            """,
            it => new BookBreak(
                it.GetString(0),
                it.GetInt64(1),
                $"item {it.GetString(2)}: the register's {it.GetString(3)} is not what record {Text(it.GetInt64(1))} left"
            ),
            cancel,
            new NpgsqlParameter { Value = (object?)client ?? DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Text }
        );

    private static async Task<List<T>> ReadAsync<T>(
        NpgsqlDataSource source,
        string sql,
        Func<NpgsqlDataReader, T> read,
        CancellationToken cancel,
        params object[] parameters
    )
    {
#pragma warning disable CA2100 // every text stands in this file
        await using var command = source.CreateCommand(sql);
#pragma warning restore CA2100
        foreach (var it in parameters)
            command.Parameters.Add(it as NpgsqlParameter ?? new NpgsqlParameter { Value = it });
        await using var rows = await command.ExecuteReaderAsync(cancel);
        var all = new List<T>();
        while (await rows.ReadAsync(cancel))
            all.Add(read(rows));
        return all;
    }

    private static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);
}
