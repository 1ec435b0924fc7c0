using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;
using Npgsql;
using PuppeteerSharp;
using PuppeteerSharp.Media;

namespace Osierwand.Bench.Books;

/// <summary>The report of a round of 500 items and of 5,000, from the press to the kept file, beside Chromium alone printing the very page
/// that it is made of; and a sheet of 200 labels.</summary>
internal static class Papers
{
    private const int Timed = 5;
    private const int MostWaitedMs = 120_000;

    /// <summary>Copies of the demo's own records, each of an item of its own: values, rails and words are those of life.</summary>
    private const string Fill = """
        SET session_replication_role = replica;
        INSERT INTO rounds (id, site_id, name, standard_id, medical_standard_id, starts_on, ends_on, state, is_planned, scope_words, room_order)
            SELECT @round, site_id, 'Round of ' || @count, standard_id, medical_standard_id, starts_on, ends_on, 'Open', true, '', '{}' FROM rounds
            WHERE id = (SELECT round_id FROM inspections WHERE corrects IS NULL GROUP BY round_id ORDER BY count(*) DESC LIMIT 1);
        CREATE TEMP TABLE seed ON COMMIT DROP AS
            SELECT row_number() OVER (ORDER BY n.id) - 1 AS nth, n.*, i.tag FROM inspections n JOIN items i ON i.id = n.item_id
            WHERE n.corrects IS NULL AND n.outcome IN ('Pass', 'PassWithAdvice', 'Fail') AND n.client_id = (SELECT client_id FROM rounds r JOIN sites s
                ON s.id = r.site_id WHERE r.id = @round);
        INSERT INTO inspections (id, client_id, item_id, round_id, technician_id, book_number, tested_at, received_at, day, outcome, is_test,
                near_limit, rising, record, taken, before, after, revision, sent, chain, hash)
            SELECT made, client_id, item, @round, technician_id, 5000000 + @count * 10 + x, tested_at, received_at, day, outcome, is_test, near_limit,
                rising, replace(replace(replace(record::text, item_id::text, item::text), '"' || tag || '"', '"N-' || x || '"'), id::text, made::text)::json,
                taken, before, after, revision, sent, chain, hash
            FROM (SELECT gen_random_uuid() AS made, gen_random_uuid() AS item, x, seed.* FROM generate_series(1, @count) x
                JOIN seed ON seed.nth = x % (SELECT count(*) FROM seed)) it;
        SET session_replication_role = origin;
        """;

    public static async Task RunAsync(Uri url, string connection)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        using var client = new HttpClient { BaseAddress = url, Timeout = TimeSpan.FromMinutes(3) };
        (await client.PostAsync("/api/v1/people/demo-sign-in?userName=maud", null)).EnsureSuccessStatusCode();
        await using var browser = await Puppeteer.LaunchAsync(
            new LaunchOptions
            {
                ExecutablePath = "/usr/bin/chromium",
                Headless = true,
                Args = ["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
            }
        );
        foreach (var count in new[] { 500, 5_000 })
        {
            var round = Guid.NewGuid();
            await FillAsync(source, round, count);
            await MeasureAsync(client, browser, round, count);
        }
        await LabelsAsync(client, source, 200);
    }

    private static async Task FillAsync(NpgsqlDataSource source, Guid round, int count)
    {
        await using var open = await source.OpenConnectionAsync();
        await using var all = await open.BeginTransactionAsync();
        foreach (var statement in Fill.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            await using var command = new NpgsqlCommand(statement, open, all) { CommandTimeout = 600 };
            command.Parameters.AddWithValue("round", round);
            command.Parameters.AddWithValue("count", count);
            await command.ExecuteNonQueryAsync();
        }
        await all.CommitAsync();
    }

    /// <summary>Taken turn by turn, so that what else the machine does meets both alike.</summary>
    private static async Task MeasureAsync(HttpClient client, IBrowser browser, Guid round, int count)
    {
        var (ours, bare, pages) = (new List<double>(), new List<double>(), new List<double>());
        var address = $"/api/v1/papers/rounds/{round}?paper=report";
        var bytes = 0;
        for (var turn = 0; turn <= (count > 1_000 ? 1 : Timed); turn++)
        {
            var page = await TimedAsync(() => client.GetStringAsync(address));
            var kept = await TimedAsync(() => KeptAsync(client, round));
            var alone = await TimedAsync(() => PrintedAsync(browser, page.Value));
            bytes = kept.Value.Length;
            // The first turn wakes browsers and compiles.
            if (turn == 0)
                continue;
            pages.Add(page.Ms);
            ours.Add(kept.Ms);
            bare.Add(alone.Ms);
        }
        Console.WriteLine(
            $"report of {count} items: page {Median(pages):0} ms; from the press to the kept PDF {Median(ours):0} ms, {bytes / 1000} kB; "
                + $"Chromium alone {Median(bare):0} ms; ratio {Median(ours) / Median(bare):0.00}"
        );
    }

    private static async Task<byte[]> KeptAsync(HttpClient client, Guid round)
    {
        var id = Guid.NewGuid();
        var asked = new
        {
            id,
            roundId = round,
            paper = "report",
        };
        (await client.PostAsJsonAsync("/api/v1/papers/kept", asked)).EnsureSuccessStatusCode();
        var began = Stopwatch.GetTimestamp();
        while (Stopwatch.GetElapsedTime(began).TotalMilliseconds < MostWaitedMs)
        {
            var card = await client.GetFromJsonAsync<JsonElement>($"/api/v1/papers/kept/{id}");
            var state = card.GetProperty("state").GetString();
            if (state == "ready")
                return await client.GetByteArrayAsync($"/api/v1/papers/kept/{id}/file");
            if (state == "failed")
                throw new InvalidOperationException(card.ToString());
            await Task.Delay(25);
        }
        throw new TimeoutException("The paper was not made.");
    }

    private static async Task<byte[]> PrintedAsync(IBrowser browser, string html)
    {
        await using var page = await browser.NewPageAsync();
        await page.SetJavaScriptEnabledAsync(false);
        await page.SetContentAsync(html, new SetContentOptions { WaitUntil = [WaitUntilNavigation.Load], Timeout = MostWaitedMs });
        return await page.PdfDataAsync(
            new PdfOptions
            {
                Format = PaperFormat.A4,
                PrintBackground = true,
                PreferCSSPageSize = true,
                Tagged = true,
                Outline = true,
            }
        );
    }

    private static async Task LabelsAsync(HttpClient client, NpgsqlDataSource source, int count)
    {
        var ids = new List<Guid>();
        await using (
            var ask = source.CreateCommand(
                $"""
                SELECT n.id FROM inspections n JOIN items i ON i.id = n.item_id WHERE n.corrects IS NULL AND n.outcome IN ('Pass', 'PassWithAdvice')
                    AND i.held_cause IS NULL AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = n.id) LIMIT {count}
                """
            )
        )
        await using (var rows = await ask.ExecuteReaderAsync())
            while (await rows.ReadAsync())
                ids.Add(rows.GetGuid(0));
        var times = new List<double>();
        for (var turn = 0; turn <= Timed; turn++)
        {
            var sheet = new
            {
                id = Guid.NewGuid(),
                medium = "sheet44",
                inspections = ids,
                used = 0,
                reason = "measured",
            };
            var printed = await TimedAsync(() => client.PostAsJsonAsync("/api/v1/papers/labels/print", sheet));
            if (!printed.Value.IsSuccessStatusCode)
                throw new InvalidOperationException(await printed.Value.Content.ReadAsStringAsync());
            if (turn > 0)
                times.Add(printed.Ms);
        }
        Console.WriteLine($"{ids.Count} labels on sheets: {Median(times):0} ms");
    }

    private static async Task<(T Value, double Ms)> TimedAsync<T>(Func<Task<T>> work)
    {
        var began = Stopwatch.GetTimestamp();
        var value = await work();
        return (value, Stopwatch.GetElapsedTime(began).TotalMilliseconds);
    }

    private static double Median(List<double> of) => of.Order().ElementAt(of.Count / 2);
}
