using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json;
using Npgsql;
using Osierwand.Bench.Shared;
using Osierwand.Core.Bench;

// Twenty benches save at once, then the same rows go in by a bare insert: bench/run starts everything this needs.
var (url, connection) = (args[0], args[1]);
var benchCount = args.Length > 2 ? int.Parse(args[2], CultureInfo.InvariantCulture) : 20;
var pause = args.Length > 3 ? int.Parse(args[3], CultureInfo.InvariantCulture) : 0;
const int SavesEach = 100;
const int WarmUp = 40;

var benches = new List<(HttpClient Client, Guid Item, Guid Round)>();
for (var i = 0; i < benchCount; i++)
{
    var client = new HttpClient { BaseAddress = new(url) };
    (await client.PostAsync($"/api/v1/people/demo-sign-in?userName={(i % 2 == 0 ? "ida" : "rufus")}", null)).EnsureSuccessStatusCode();
    var rounds = (await client.GetFromJsonAsync<JsonElement>("/api/v1/rounds/today")).GetProperty("rounds");
    var round = rounds[i % rounds.GetArrayLength()].GetProperty("id").GetGuid();
    var made = await client.PostAsJsonAsync("/api/v1/register", Work.NewKettle(round, $"LOAD-{Guid.NewGuid():N}"[..16]));
    var item = (await made.EnsureSuccessStatusCode().Content.ReadFromJsonAsync<JsonElement>()).GetProperty("itemId").GetGuid();
    benches.Add((client, item, round));
}

var saved = await Task.WhenAll(
    benches.Select(bench =>
        Task.Run(async () =>
        {
            var times = new List<double>();
            for (var n = 0; n < SavesEach + WarmUp; n++)
            {
                if (pause > 0)
                    await Task.Delay(Random.Shared.Next(2 * pause));
                // What a bench has done before it saves: laid the item down and worked through the sheet with its own engine.
                var ruling = BenchJson
                    .ReadRuling(await bench.Client.GetStringAsync($"/api/v1/bench/{bench.Item}?round={bench.Round}"))
                    .Value;
                var events = Work.Good(ruling);
                var body = new
                {
                    id = Guid.NewGuid(),
                    roundId = bench.Round,
                    ruling = ruling.Fingerprint,
                    state = BenchState.Of(ruling, events).Fingerprint,
                    events = JsonDocument.Parse(BenchJson.Write(events)).RootElement,
                    end = "pass",
                };
                var clock = Stopwatch.GetTimestamp();
                using var answer = await bench.Client.PostAsJsonAsync($"/api/v1/bench/{bench.Item}/inspections", body);
                if (n >= WarmUp)
                    times.Add(Stopwatch.GetElapsedTime(clock).TotalMilliseconds);
                if (!answer.IsSuccessStatusCode)
                    throw new InvalidOperationException(await answer.Content.ReadAsStringAsync());
            }
            return times;
        })
    )
);

await using var source = NpgsqlDataSource.Create(connection + ";Maximum Pool Size=40");
await Execute(source, "CREATE TABLE IF NOT EXISTS bare (LIKE inspections INCLUDING INDEXES); TRUNCATE bare");
var record = (string)(await Scalar(source, "SELECT record::text FROM inspections ORDER BY tested_at DESC LIMIT 1"))!;
var inserted = await Task.WhenAll(
    Enumerable
        .Range(0, benchCount)
        .Select(bench =>
            Task.Run(async () =>
            {
                var times = new List<double>();
                for (var n = 0; n < SavesEach + WarmUp; n++)
                {
                    await using var insert = source.CreateCommand(
                        """
                        INSERT INTO bare (id, client_id, item_id, round_id, technician_id, book_number, tested_at, received_at, day,
                            outcome, is_test, near_limit, rising, record, taken, before, revision, sent, hash, after, chain)
                        VALUES (gen_random_uuid(), gen_random_uuid(), gen_random_uuid(), gen_random_uuid(), gen_random_uuid(), $1,
                            now(), now(), current_date, 'Pass', true, false, false, $2::json, '[]', '{}', 0, '\x00', '\x00', '{}', 2)
                        """
                    );
                    insert.Parameters.Add(new() { Value = (long)(bench * 1000 + n) });
                    insert.Parameters.Add(new() { Value = record });
                    var clock = Stopwatch.GetTimestamp();
                    await insert.ExecuteNonQueryAsync();
                    if (n >= WarmUp)
                        times.Add(Stopwatch.GetElapsedTime(clock).TotalMilliseconds);
                }
                return times;
            })
        )
);
await Execute(source, "DROP TABLE bare");

var (save, bare) = (Summary(saved), Summary(inserted));
Console.WriteLine(
    string.Create(
        CultureInfo.InvariantCulture,
        $"save        median {save.Median:0.0} ms, 95th percentile {save.P95:0.0} ms, {benchCount} benches x {SavesEach}, pausing {pause} ms"
    )
);
Console.WriteLine(
    string.Create(CultureInfo.InvariantCulture, $"bare insert median {bare.Median:0.0} ms, 95th percentile {bare.P95:0.0} ms")
);
Console.WriteLine(
    string.Create(
        CultureInfo.InvariantCulture,
        $"ratio       median {save.Median / bare.Median:0.0}, 95th percentile {save.P95 / bare.P95:0.0}"
    )
);

static (double Median, double P95) Summary(IEnumerable<List<double>> all)
{
    var times = all.SelectMany(it => it).Order().ToArray();
    return (times[times.Length / 2], times[(int)(times.Length * 0.95)]);
}

static async Task Execute(NpgsqlDataSource source, string sql)
{
    await using var command = source.CreateCommand(sql);
    await command.ExecuteNonQueryAsync();
}

static async Task<object?> Scalar(NpgsqlDataSource source, string sql)
{
    await using var command = source.CreateCommand(sql);
    return await command.ExecuteScalarAsync();
}
