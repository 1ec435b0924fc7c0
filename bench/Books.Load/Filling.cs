using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using Osierwand.Store;

namespace Osierwand.Bench.Books;

/// <summary>Fills books with copies of the records that are there, chained as if each had been saved.</summary>
internal static class Filling
{
    public static async Task RunAsync(string connection, int count)
    {
        var options = new DbContextOptionsBuilder<OsierwandDb>();
        OsierwandDb.Configure(options, connection);
        await using var db = new OsierwandDb(options.Options) { Sight = Sight.OfTheHouse() };
        var books = await db.Books.AsNoTracking().OrderByDescending(it => it.Number).ToListAsync();
        await using var source = NpgsqlDataSource.Create(connection);
        await using var to = await source.OpenConnectionAsync();
        // Its triggers would look at every record; who fills a bench is a superuser.
        await using (var free = new NpgsqlCommand("SET session_replication_role = replica", to))
            await free.ExecuteNonQueryAsync();
        foreach (var book in books)
        {
            var own = await db
                .Inspections.AsNoTracking()
                .Where(it => it.ClientId == book.ClientId)
                .OrderBy(it => it.BookNumber)
                .ToListAsync();
            if (own.Count == 0)
                continue;
            var (number, hash, share) = (book.Number, book.Hash, count / books.Count);
            await using (
                var rows = await to.BeginBinaryImportAsync(
                    """
                    COPY inspections (id, client_id, item_id, round_id, technician_id, book_number, tested_at, received_at, day,
                        outcome, is_test, near_limit, rising, record, taken, before, after, revision, sent, chain, hash)
                    FROM STDIN (FORMAT BINARY)
                    """
                )
            )
            {
                for (var n = 0; n < share; n++)
                {
                    var it = own[n % own.Count];
                    (it.Id, it.BookNumber, it.Corrects, it.Chain) = (Guid.CreateVersion7(), ++number, null, 2);
                    it.After ??= "{}";
                    it.Hash = hash = it.Kept().HashAfter(hash);
                    await rows.StartRowAsync();
                    await rows.WriteAsync(it.Id);
                    await rows.WriteAsync(it.ClientId);
                    await rows.WriteAsync(it.ItemId);
                    await rows.WriteAsync(it.RoundId);
                    await rows.WriteAsync(it.TechnicianId);
                    await rows.WriteAsync(it.BookNumber);
                    await rows.WriteAsync(it.TestedAt, NpgsqlDbType.TimestampTz);
                    await rows.WriteAsync(it.ReceivedAt, NpgsqlDbType.TimestampTz);
                    await rows.WriteAsync(it.Day, NpgsqlDbType.Date);
                    await rows.WriteAsync(it.Outcome.ToString());
                    await rows.WriteAsync(it.IsTest);
                    await rows.WriteAsync(it.NearLimit);
                    await rows.WriteAsync(it.Rising);
                    await rows.WriteAsync(it.Record, NpgsqlDbType.Json);
                    await rows.WriteAsync(it.Taken, NpgsqlDbType.Json);
                    await rows.WriteAsync(it.Before, NpgsqlDbType.Json);
                    await rows.WriteAsync(it.After, NpgsqlDbType.Json);
                    await rows.WriteAsync(it.Revision);
                    await rows.WriteAsync(it.Sent);
                    await rows.WriteAsync(it.Chain);
                    await rows.WriteAsync(it.Hash);
                }
                await rows.CompleteAsync();
            }
            await using var head = new NpgsqlCommand("UPDATE books SET number = $1, hash = $2 WHERE client_id = $3", to);
            head.Parameters.Add(new() { Value = number });
            head.Parameters.Add(new() { Value = hash });
            head.Parameters.Add(new() { Value = book.ClientId });
            await head.ExecuteNonQueryAsync();
            Console.WriteLine($"{share} records of {own.Average(it => it.Record.Length + it.Taken.Length):0} characters into one book");
        }
        // Every copy would be its item's last record; the register stays as the first ones left it.
        await using var items = new NpgsqlCommand(
            """
            UPDATE items i SET state = l.after->>'State', due = (l.after->>'Due')::date, visual_due = (l.after->>'VisualDue')::date,
                interval_months = (l.after->>'IntervalMonths')::float8, last_outcome = l.after->>'LastOutcome',
                last_tested_on = (l.after->>'LastTestedOn')::date, last_looked_on = (l.after->>'LastLookedOn')::date, revision = i.revision + 1
            FROM (SELECT DISTINCT ON (item_id) item_id, after FROM inspections ORDER BY item_id, book_number DESC) l
            WHERE l.item_id = i.id AND l.after::text <> '{}'
            """,
            to
        );
        await items.ExecuteNonQueryAsync();
    }
}
