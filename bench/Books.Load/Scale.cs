using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json;
using Npgsql;

namespace Osierwand.Bench.Books;

/// <summary>A house of 100,000 items, 750 open rounds and 250,000 inspections of four readings each, and how fast its pages are beside the
/// bare SQL of the same question.</summary>
internal static class Scale
{
    private const int Warm = 5;
    private const int Timed = 40;
    private static readonly string[] Stages = ["NotSafe", "Held", "InRepair", "Repaired", "Returned"];

    /// <summary>Seeded: the same house at every run. The records have no text, which no list reads.</summary>
    private const string Fill = """
        SET session_replication_role = replica;
        SELECT setseed(0.42);
        INSERT INTO sites (id, client_id, name, time_zone)
            SELECT gen_random_uuid(), c.id, 'Site ' || n, 'Europe/London' FROM clients c, generate_series(1, 30) n;
        INSERT INTO rounds (id, site_id, name, standard_id, starts_on, ends_on)
            SELECT gen_random_uuid(), s.id, 'Round ' || n, 'uk-cop-5', current_date - 30, current_date + n
            FROM sites s, generate_series(1, 5) n WHERE s.name LIKE 'Site %';
        CREATE TEMP TABLE place AS SELECT row_number() OVER () - 1 AS n, id, client_id FROM sites WHERE name LIKE 'Site %';
        CREATE TEMP TABLE model AS SELECT row_number() OVER () - 1 AS n, items.* FROM items;
        INSERT INTO items (id, client_id, site_id, room, place, tag, name, maker, model, serial, equipment, evidence, usage, moved, users, state,
                registered_on, due, visual_due, interval_months, because, last_outcome, last_tested_on, last_looked_on, revision,
                stage, held_cause, held_by, held_why, held_since, held_from)
            SELECT gen_random_uuid(), p.client_id, p.id, 'Room ' || x % 40, m.place, 'S-' || lpad(x::text, 6, '0'), m.name, m.maker, m.model,
                'N' || x::bigint * 7919 % 1000003, m.equipment, m.evidence, m.usage, m.moved, m.users,
                CASE WHEN x % 97 = 0 THEN 'Scrapped' WHEN x % 89 = 0 THEN 'Quarantined' ELSE 'InService' END,
                current_date - 900, current_date + (random() * 700)::int - 60, NULL, 12, m.because, 'Pass', current_date - (random() * 300)::int,
                current_date - 20, 1, CASE WHEN x % 97 <> 0 AND x % 89 = 0 THEN (ARRAY['NotSafe', 'Held', 'InRepair', 'Repaired', 'Returned'])[x % 5 + 1] END,
                CASE WHEN x % 97 <> 0 AND x % 89 = 0 THEN gen_random_uuid() END,
                CASE WHEN x % 97 <> 0 AND x % 89 = 0 THEN 'FailedInspection' END,
                'Earth continuity 8 ohm', CASE WHEN x % 97 <> 0 AND x % 89 = 0 THEN now() - x * interval '1 minute' END, 'Ida'
            FROM generate_series(1, 100000) x
            JOIN place p ON p.n = x % (SELECT count(*) FROM place)
            JOIN model m ON m.n = x % (SELECT count(*) FROM model);
        CREATE TEMP TABLE done AS SELECT row_number() OVER () - 1 AS n, i.id, i.client_id, i.site_id FROM items i WHERE tag LIKE 'S-%';
        CREATE TEMP TABLE walk AS SELECT row_number() OVER (PARTITION BY site_id) - 1 AS n, id, site_id FROM rounds
            WHERE name LIKE 'Round %';
        INSERT INTO inspections (id, client_id, item_id, round_id, technician_id, book_number, tested_at, received_at, day, outcome, is_test,
                near_limit, rising, record, taken, before, after, revision, sent, chain, hash)
            SELECT gen_random_uuid(), d.client_id, d.id, w.id, (SELECT id FROM "AspNetUsers" LIMIT 1), 1000000 + x, now() - x * interval '1 minute',
                now() - x * interval '1 minute', current_date - x / 1440, CASE WHEN x % 31 = 0 THEN 'NotTested' WHEN x % 29 = 0 THEN 'Fail' ELSE 'Pass' END,
                true, false, false, '{}', '[]', '{}', '{}', 1, sha256('x'), 2, sha256(x::text::bytea)
            FROM generate_series(1, 250000) x
            JOIN done d ON d.n = x % 100000
            JOIN walk w ON w.site_id = d.site_id AND w.n = x % 5;
        SET session_replication_role = origin;
        ANALYZE;
        """;

    public static async Task RunAsync(Uri url, string connection)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using (var fill = source.CreateCommand(Fill))
        {
            fill.CommandTimeout = 1200;
            var began = Stopwatch.GetTimestamp();
            await fill.ExecuteNonQueryAsync();
            // As the database does by itself within a minute of such a load: without it no index answers alone.
            await using var settle = source.CreateCommand("VACUUM ANALYZE");
            settle.CommandTimeout = 1200;
            await settle.ExecuteNonQueryAsync();
            Console.WriteLine($"filled in {Stopwatch.GetElapsedTime(began).TotalSeconds:0} s");
        }
        using var client = new HttpClient { BaseAddress = url };
        (await client.PostAsync("/api/v1/people/demo-sign-in?userName=maud", null)).EnsureSuccessStatusCode();
        var rounds = (await client.GetFromJsonAsync<JsonElement>("/api/v1/rounds/today")).GetProperty("rounds");
        var round = rounds[rounds.GetArrayLength() / 2].GetProperty("id").GetGuid();
        Console.WriteLine($"{rounds.GetArrayLength()} open rounds");
        const string list = """
            SELECT i.id, i.tag, i.name, i.maker, i.model, c.name, c.code, s.name, i.room, i.equipment, i.state, i.due, i.last_outcome, i.last_tested_on
            FROM items i JOIN clients c ON c.id = i.client_id JOIN sites s ON s.id = i.site_id
            """;
        var questions = new (string Name, string Path, string[] Sql)[]
        {
            (
                "Today, a round in hand",
                $"/api/v1/rounds/today?round={round}",
                [
                    "SELECT * FROM rounds r JOIN sites s ON s.id = r.site_id JOIN clients c ON c.id = s.client_id WHERE r.closed_on IS NULL ORDER BY r.ends_on",
                    """
                    SELECT site_id, count(*), count(*) FILTER (WHERE due < current_date) FROM items
                    WHERE NOT is_loose AND state = 'InService' AND due <= current_date + 30 GROUP BY site_id
                    """,
                    "SELECT site_id, count(*) FROM items WHERE NOT is_loose AND state = 'InService' AND due IS NULL GROUP BY site_id",
                    $"SELECT item_id, outcome FROM inspections WHERE round_id = '{round}' AND corrects IS NULL",
                    $"""
                    SELECT id, tag, name, room, due, last_outcome, state FROM items WHERE site_id = (SELECT site_id FROM rounds WHERE id = '{round}')
                    AND state NOT IN ('Scrapped', 'Lost') AND (due IS NULL OR due <= current_date + 30 OR state <> 'InService') ORDER BY room, due, tag
                    """,
                ]
            ),
            (
                "Register, first page",
                "/api/v1/register",
                [
                    $"{list} WHERE NOT i.is_loose ORDER BY i.is_gone, i.due, i.tag LIMIT 50",
                    "SELECT count(*) FROM items WHERE NOT is_loose",
                    "SELECT code, name FROM clients ORDER BY name",
                ]
            ),
            (
                "Register, page 500",
                "/api/v1/register?page=500",
                [
                    $"{list} WHERE NOT i.is_loose ORDER BY i.is_gone, i.due, i.tag OFFSET 25000 LIMIT 50",
                    "SELECT count(*) FROM items WHERE NOT is_loose",
                    "SELECT code, name FROM clients ORDER BY name",
                ]
            ),
            (
                "Register, search of a serial",
                "/api/v1/register?search=N99187",
                [
                    $"{list} WHERE NOT i.is_loose AND i.words ILIKE '%N99187%' ORDER BY i.is_gone, i.due, i.tag LIMIT 50",
                    "SELECT count(*) FROM items WHERE NOT is_loose AND words ILIKE '%N99187%'",
                    "SELECT code, name FROM clients ORDER BY name",
                ]
            ),
            (
                "Register, search of two words",
                "/api/v1/register?search=kettle+room",
                [
                    $"{list} WHERE NOT i.is_loose AND i.words ILIKE '%kettle%' AND i.words ILIKE '%room%' ORDER BY i.is_gone, i.due, i.tag LIMIT 50",
                    "SELECT count(*) FROM items WHERE NOT is_loose AND words ILIKE '%kettle%' AND words ILIKE '%room%'",
                    "SELECT code, name FROM clients ORDER BY name",
                ]
            ),
            (
                "Schedule, eight weeks",
                "/api/v1/schedule?weeks=8",
                [
                    """
                    SELECT site_id, kind_word, (greatest(falls_on, current_date - 60) - current_date) / 7, count(*) FROM items
                    WHERE NOT is_loose AND state = 'InService' AND falls_on <= current_date + 56
                    GROUP BY 1, 2, 3
                    """,
                    "SELECT s.id, s.name, c.name FROM sites s JOIN clients c ON c.id = s.client_id",
                    "SELECT code, name FROM clients ORDER BY name",
                ]
            ),
            (
                "User checks, eight weeks",
                "/api/v1/user-checks/weeks?weeks=8",
                [
                    """
                    SELECT site_id, place, use_word, kind_word, greatest(last_user_check_on, last_looked_on, current_date - 100), count(*) FROM items
                    WHERE NOT is_loose AND state = 'InService' GROUP BY 1, 2, 3, 4, 5
                    """,
                    "SELECT s.id, s.name, c.name FROM sites s JOIN clients c ON c.id = s.client_id",
                    "SELECT code, name FROM clients ORDER BY name",
                ]
            ),
            (
                "Quarantine board",
                "/api/v1/quarantine",
                [
                    "SELECT stage, count(*) FROM items WHERE NOT is_loose AND stage IS NOT NULL AND stage <> 'Scrapped' GROUP BY stage",
                    .. Stages.Select(stage =>
                        $"SELECT id, tag, name, held_why, held_since FROM items WHERE NOT is_loose AND stage = '{stage}' ORDER BY held_since LIMIT 60"
                    ),
                    "SELECT code, name FROM clients ORDER BY name",
                ]
            ),
            (
                "Hire, a fleet whole",
                "/api/v1/hire?client=MTH",
                [
                    """
                    SELECT i.id, i.tag, i.name, i.room, i.state, i.due, i.visual_due, i.last_tested_on, i.equipment, h.*, last.tested, last.saved FROM items i
                    JOIN clients c ON c.id = i.client_id LEFT JOIN hire_items h ON h.item_id = i.id
                    LEFT JOIN LATERAL (SELECT max(tested_at) FILTER (WHERE is_test AND outcome IN ('Pass', 'PassWithAdvice')) AS tested,
                        max(received_at) AS saved FROM inspections n WHERE n.item_id = i.id) last ON true
                    WHERE c.code = 'MTH' AND i.place = 'Hire' AND i.part_of IS NULL AND NOT i.is_loose
                    """,
                ]
            ),
            ("Scan of a tag", "/api/v1/register/scan?tag=S-054321", ["SELECT * FROM items WHERE NOT is_loose AND lower(tag) = 's-054321'"]),
        };
        foreach (var (name, path, sql) in questions)
        {
            var page = await MedianAsync(async () =>
                (await client.GetAsync(new Uri(path, UriKind.Relative))).EnsureSuccessStatusCode().Dispose()
            );
            var bare = await MedianAsync(() => BareAsync(source, sql));
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{name}: {page:0.0} ms at the server, {bare:0.0} ms as bare SQL, ratio {page / bare:0.0}"
                )
            );
        }
    }

    private static async Task BareAsync(NpgsqlDataSource source, string[] sql)
    {
        await using var connection = await source.OpenConnectionAsync();
        foreach (var text in sql)
        {
#pragma warning disable CA2100 // every text stands in this file
            await using var command = new NpgsqlCommand(text, connection);
#pragma warning restore CA2100
            await using var rows = await command.ExecuteReaderAsync();
            var values = new object[rows.FieldCount];
            while (await rows.ReadAsync())
                rows.GetValues(values);
        }
    }

    private static async Task<double> MedianAsync(Func<Task> ask)
    {
        var times = new List<double>();
        for (var n = 0; n < Warm + Timed; n++)
        {
            var began = Stopwatch.GetTimestamp();
            await ask();
            if (n >= Warm)
                times.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
        }
        times.Sort();
        return times[times.Count / 2];
    }
}
