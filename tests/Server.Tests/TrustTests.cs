using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Records;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>What somebody with every right on the database could do to the books, and that each of it shows.</summary>
[Collection(TrustHouse.Name)]
public sealed class TrustTests : IAsyncLifetime
{
    private OwnDatabase database = null!;
    private Host host = null!;
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        database = await OwnDatabase.WithDemoAsync();
        host = new Host(database.Connection, settings: new Dictionary<string, string> { ["Books:SignEverySeconds"] = "3600" });
        await host.ReadyAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await host.DisposeAsync();
        await database.DisposeAsync();
    }

    private Task<int> Sign() => host.Services.GetRequiredService<HeadSigner>().SignAsync(Cancel);

    private async Task<BooksChecked> Check(string? client = null)
    {
        await using var source = NpgsqlDataSource.Create(database.Admin);
        return await BookCheck.RunAsync(source, client, host.Services.GetRequiredService<Anchors>().Outside, Cancel);
    }

    /// <summary>A superuser's hand: it takes the triggers away for as long as it works.</summary>
    private Task Tamper(string sql) => database.AsAdmin($"SET session_replication_role = replica; {sql}");

    [Fact]
    public async Task A_house_that_nobody_laid_hands_on_holds_also_after_saves_and_what_is_taken_back()
    {
        var kettle = await Kettle.Register(await host.SignedIn());
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        var id = Guid.NewGuid();
        (await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9")), EndKind.Fail, id)).Status.ShouldBe(200);
        (
            await kettle.Client.Post($"/api/v1/bench/inspections/{id}/withdraw", new { id = Guid.NewGuid(), reason = "typed 9 for 0.09" })
        ).Status.ShouldBe(200);
        (await Sign()).ShouldBe(5);
        (await Sign()).ShouldBe(0, "what is signed is not signed again");
        var found = await Check();
        found.Breaks.ShouldBeEmpty();
        found.Books.ShouldBe(5);
        found.Records.ShouldBeGreaterThan(2_000);
    }

    public static TheoryData<string, string> Hands =>
        new()
        {
            { "UPDATE inspections SET outcome = 'Pass' WHERE id = (SELECT id FROM inspections WHERE outcome = 'Fail' LIMIT 1)", "altered" },
            { "UPDATE inspections SET day = day + 200 WHERE id = (SELECT id FROM inspections LIMIT 1)", "altered" },
            { "UPDATE inspections SET technician_id = gen_random_uuid() WHERE book_number = 5", "altered" },
            { "UPDATE inspections SET item_id = (SELECT id FROM items LIMIT 1) WHERE book_number = 7", "altered" },
            { "UPDATE inspections SET record = replace(record::text, '0.0', '0.1')::json WHERE book_number = 20", "altered" },
            { "UPDATE inspections SET is_test = NOT is_test WHERE book_number = 3", "altered" },
            { "UPDATE inspections SET chain = 1 WHERE book_number = 3", "chain form" },
            // A record in the middle, and the tail with everything that counts it.
            { "DELETE FROM inspections WHERE book_number = 30", "record 30 is missing" },
            { "DELETE FROM inspections i USING books b WHERE b.client_id = i.client_id AND i.book_number = b.number", "is missing" },
            {
                """
                    DELETE FROM inspections i USING books b WHERE b.client_id = i.client_id AND i.book_number = b.number;
                    UPDATE books b SET number = number - 1, hash = (SELECT hash FROM inspections i WHERE i.client_id = b.client_id AND i.book_number = b.number - 1)
                    """,
                "a head was signed"
            },
            // Two numbers exchanged.
            {
                """
                    UPDATE inspections SET book_number = -1 WHERE book_number = 8; UPDATE inspections SET book_number = 8 WHERE book_number = 9;
                    UPDATE inspections SET book_number = 9 WHERE book_number = -1
                    """,
                "altered"
            },
            { "UPDATE books SET hash = sha256('x')", "head is not the hash" },
            { "DELETE FROM books", "its book is missing" },
            { "UPDATE signed_heads SET signature = sha256('x') || sha256('y')", "signature" },
            { "UPDATE items SET due = due + 365 WHERE id = (SELECT id FROM items WHERE due IS NOT NULL LIMIT 1)", "due date" },
            {
                "UPDATE items SET state = 'InService' WHERE id = (SELECT id FROM items WHERE state = 'Quarantined' AND held_by = 'FailedInspection' LIMIT 1)",
                "state"
            },
            { "UPDATE items SET lock_left = 'nobody' WHERE id = (SELECT id FROM items WHERE last_outcome IS NOT NULL LIMIT 1)", "lock" },
            {
                "UPDATE items SET last_outcome = 'Pass' WHERE id = (SELECT id FROM items WHERE last_outcome = 'Fail' LIMIT 1)",
                "last outcome"
            },
        };

    [Fact]
    public async Task Whatever_a_superusers_hand_does_to_the_books_shows()
    {
        var failed = await Kettle.Register(await host.SignedIn());
        (await failed.Save(await Kettle.Looked(failed, Kettle.Typed("earthContinuity", "9")), EndKind.Fail)).Status.ShouldBe(200);
        (await Sign()).ShouldBe(5);
        string[] tables = ["signed_heads", "books", "inspections", "items"];
        await database.AsAdmin("CREATE SCHEMA kept");
        foreach (var table in tables)
            await database.AsAdmin($"CREATE TABLE kept.{table} AS TABLE public.{table}");
        foreach (var row in Hands)
        {
            var (sql, says) = row.Data;
            await Tamper(sql);
            var found = await Check();
            found.Breaks.ShouldNotBeEmpty(sql);
            found.Breaks.ShouldContain(it => it.What.Contains(says, StringComparison.Ordinal), $"{sql}: {found.Breaks[0]}");
            foreach (var table in tables.Where(it => sql.Contains(it, StringComparison.Ordinal)))
                await Tamper(PutBack(table));
        }
        (await Check()).Breaks.ShouldBeEmpty("everything was put back");
    }

    /// <summary>All that the database does not make by itself.</summary>
    private static string PutBack(string table) =>
        $"""
            DO $$ DECLARE names text; BEGIN
                SELECT string_agg(quote_ident(column_name), ', ') INTO names FROM information_schema.columns
                WHERE table_schema = 'public' AND table_name = '{table}' AND is_generated = 'NEVER';
                DELETE FROM public.{table};
                EXECUTE format('INSERT INTO public.{table} (%s) SELECT %s FROM kept.{table}', names, names);
            END $$
            """;

    /// <summary>Rewritten with every later hash computed anew: the database alone would believe it; the signed heads, and a client's own
    /// copy, do not.</summary>
    [Fact]
    public async Task A_book_rewritten_from_some_record_on_is_held_up_by_the_signed_heads()
    {
        await Sign();
        using (var scope = host.Services.CreateScope())
        {
            scope.ServiceProvider.GetRequiredService<Sight>().VisibleTo(house: true, []);
            var db = scope.ServiceProvider.GetRequiredService<OsierwandDb>();
            var client = await db.Clients.SingleAsync(it => it.Code == "KRD", Cancel);
            var book = await db
                .Inspections.AsNoTracking()
                .Where(it => it.ClientId == client.Id)
                .OrderBy(it => it.BookNumber)
                .ToListAsync(Cancel);
            var failed = book.First(it => it.Outcome == Core.Judging.Outcome.Fail);
            failed.Outcome = Core.Judging.Outcome.Pass;
            var hash = RecordChain.Start;
            foreach (var it in book)
            {
                it.Hash = hash = it.Kept().HashAfter(hash);
                await Tamper(
                    $"UPDATE inspections SET outcome = '{it.Outcome}', hash = '\\x{Convert.ToHexString(hash)}' WHERE id = '{it.Id}'"
                );
            }
            await Tamper($"UPDATE books SET hash = '\\x{Convert.ToHexString(hash)}' WHERE client_id = '{client.Id}'");
        }
        (await Check("KRD")).Breaks.ShouldAllBe(it => it.What.Contains("is not the one whose head was signed"));
        // And with the signed heads written anew as well: what lies outside the database does not fit, and the house signs nothing on it.
        await Tamper("DELETE FROM signed_heads");
        (await Sign()).ShouldBe(4);
        (await Check("KRD")).Breaks.ShouldHaveSingleItem().What.ShouldContain("is not the one whose head was signed");
        using var viewer = await host.SignedIn("maud");
        using var refused = await viewer.GetAsync(new Uri("/api/v1/trust/books/KRD", UriKind.Relative), Cancel);
        refused.StatusCode.ShouldBe(System.Net.HttpStatusCode.Conflict);
    }

    /// <summary>A whole client gone, with everything that names it.</summary>
    [Fact]
    public async Task A_book_that_is_gone_with_its_client_is_missed()
    {
        await Sign();
        await Tamper(
            "DELETE FROM clients WHERE code = 'KRD'; DELETE FROM books WHERE client_id NOT IN (SELECT id FROM clients); "
                + "DELETE FROM inspections WHERE client_id NOT IN (SELECT id FROM clients); "
                + "DELETE FROM signed_heads WHERE client_id NOT IN (SELECT id FROM clients); "
                + "DELETE FROM items WHERE client_id NOT IN (SELECT id FROM clients)"
        );
        (await Check()).Breaks.ShouldHaveSingleItem().What.ShouldContain("is missing");
    }

    [Fact]
    public async Task A_break_is_told_on_every_screen_and_a_book_that_holds_is_taken_away_and_checked_elsewhere()
    {
        using var lead = await host.SignedIn("maud");
        (await lead.Post("/api/v1/trust/verify", new { })).Body.GetProperty("breaks").GetArrayLength().ShouldBe(0);
        (await lead.Get("/api/v1/trust/standing")).GetProperty("broken").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        var lines = (await lead.GetStringAsync(new Uri("/api/v1/trust/books/KRD", UriKind.Relative), Cancel)).Split(
            '\n',
            StringSplitOptions.RemoveEmptyEntries
        );
        using var key = ECDsa.Create();
        key.ImportFromPem((await lead.Get("/api/v1/trust")).Text("publicKey"));
        BookFile.Check(lines, key).Value.ShouldBe(lines.Length - 2);

        await Tamper("UPDATE inspections SET outcome = 'Pass' WHERE id = (SELECT id FROM inspections WHERE outcome = 'Fail' LIMIT 1)");
        (await lead.Post("/api/v1/trust/verify", new { })).Body.GetProperty("breaks").GetArrayLength().ShouldBe(1);
        using var technician = await host.SignedIn();
        (await technician.Get("/api/v1/trust/standing")).Text("broken").ShouldContain("altered");
    }

    [Fact]
    public async Task Sign_ins_are_forgotten_after_a_year_and_nothing_else_is()
    {
        using var lead = await host.SignedIn("maud");
        await database.AsAdmin(
            """
            INSERT INTO sign_in_attempts (at, name, address, is_known_browser, succeeded)
            VALUES (now() - interval '366 days', 'old', '', false, false), (now() - interval '364 days', 'new', '', false, false);
            INSERT INTO sessions (id, person_id, started_at, seen_at, ends_at, address, browser)
            SELECT gen_random_uuid(), id, now() - interval '400 days', now() - interval '400 days', now() - interval '399 days', '', '' FROM "AspNetUsers"
            """
        );
        var trail = await Count("audit_entries");
        await DatabaseSetup.PrepareAsync(database.Admin, database.Connection, Cancel);
        (await Count("sign_in_attempts")).ShouldBe(1);
        (await Count("sessions")).ShouldBe(1, "hers of now");
        (await Count("audit_entries")).ShouldBe(trail);
        (await lead.Get("/api/v1/people/me")).Text("userName").ShouldBe("maud");
    }

    private async Task<long> Count(string table)
    {
        await using var source = NpgsqlDataSource.Create(database.Admin);
#pragma warning disable CA2100 // a table's name of this file
        await using var command = source.CreateCommand($"SELECT count(*) FROM {table}");
#pragma warning restore CA2100
        return (long)(await command.ExecuteScalarAsync(Cancel))!;
    }

    /// <summary>The house goes on, signs nothing that it cannot hold against what it signed before, and says so.</summary>
    [Fact]
    public async Task Bent_files_beside_the_key_are_told_and_take_nothing_down()
    {
        var folder = Directory.CreateTempSubdirectory("osierwand-keys-");
        Host Start() =>
            new(
                database.Connection,
                settings: new Dictionary<string, string> { ["Books:SignEverySeconds"] = "3600", ["Books:KeyFolder"] = folder.FullName }
            );
        var heads = Path.Combine(folder.FullName, HeadAnchors.FileName);
        await using (var first = Start())
        {
            (await first.Services.GetRequiredService<HeadSigner>().SignAsync(Cancel)).ShouldBe(5);
            using var lead = await first.SignedIn("maud");
            var whole = await File.ReadAllTextAsync(heads, Cancel);
            await File.WriteAllTextAsync(heads, whole[..(whole.Length / 2)], Cancel);
            var kettle = await Kettle.Register(lead);
            (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200, "saves go on");
            await first.Services.GetRequiredService<HeadSigner>().SignAsync(Cancel);
            (await File.ReadAllTextAsync(heads, Cancel)).Length.ShouldBe(whole.Length / 2, "what was bent is left for somebody to look at");
            var told = (await lead.Post("/api/v1/trust/verify", new { })).Body.GetProperty("breaks").EnumerateArray().ToArray();
            told.ShouldHaveSingleItem().GetString()!.ShouldContain(HeadAnchors.FileName);
            (await lead.Get("/api/v1/trust/standing")).Text("broken").ShouldContain("cannot be read");
            using var book = await lead.GetAsync(new Uri("/api/v1/trust/books/KRD", UriKind.Relative), Cancel);
            book.StatusCode.ShouldBe(System.Net.HttpStatusCode.Conflict);
            await File.WriteAllTextAsync(heads, whole, Cancel);
            (await first.Services.GetRequiredService<HeadSigner>().SignAsync(Cancel)).ShouldBe(1, "the book that grew meanwhile");
            (await lead.Post("/api/v1/trust/verify", new { })).Body.GetProperty("breaks").GetArrayLength().ShouldBe(0);
        }
        await File.WriteAllTextAsync(
            Path.Combine(folder.FullName, "books-0123456789abcdef.pub.pem"),
            "-----BEGIN PUBLIC KEY-----\nMFkw",
            Cancel
        );
        await using var second = Start();
        using var again = await second.SignedIn("maud");
        (await again.Post("/api/v1/trust/verify", new { }))
            .Body.GetProperty("breaks")
            .EnumerateArray()
            .ShouldHaveSingleItem()
            .GetString()!
            .ShouldContain("books-0123456789abcdef.pub.pem");
        folder.Delete(recursive: true);
    }

    /// <summary>The server's own role: what it may do to each table, as the database sees it.</summary>
    [Fact]
    public async Task The_servers_role_owns_nothing_and_may_only_add_to_what_is_kept()
    {
        await using var source = NpgsqlDataSource.Create(database.Admin);
        await using var command = source.CreateCommand(
            """
            SELECT t.tablename, t.tableowner, has_table_privilege('osierwand_server', format('%I', t.tablename)::regclass, 'INSERT') AS add,
                has_table_privilege('osierwand_server', format('%I', t.tablename)::regclass, 'UPDATE') AS change,
                has_table_privilege('osierwand_server', format('%I', t.tablename)::regclass, 'DELETE') AS take,
                has_table_privilege('osierwand_server', format('%I', t.tablename)::regclass, 'TRUNCATE') AS empty,
                (SELECT rolsuper OR rolcreatedb OR rolcreaterole OR rolbypassrls FROM pg_roles WHERE rolname = 'osierwand_server') AS power
            FROM pg_tables t WHERE schemaname = 'public'
            """
        );
        var seen = new List<string>();
        await using var rows = await command.ExecuteReaderAsync(Cancel);
        while (await rows.ReadAsync(Cancel))
        {
            var table = rows.GetString(0);
            seen.Add(table);
            rows.GetString(1).ShouldBe("osierwand_owner", table);
            rows.GetBoolean(6).ShouldBeFalse();
            rows.GetBoolean(5).ShouldBeFalse(table);
            if (DatabaseSetup.AppendOnly.Contains(table))
                (rows.GetBoolean(2), rows.GetBoolean(3), rows.GetBoolean(4)).ShouldBe((true, false, false), table);
        }
        DatabaseSetup.AppendOnly.ShouldBeSubsetOf(seen);
        foreach (
            var sql in new[]
            {
                "UPDATE books SET number = number + 2",
                "UPDATE books SET number = 0",
                "DELETE FROM books",
                "DELETE FROM audit_entries",
                "UPDATE signed_heads SET number = 1",
                "DROP TRIGGER inspections_are_kept ON inspections",
                "ALTER TABLE inspections DISABLE TRIGGER ALL",
                "SET session_replication_role = replica",
                "CREATE TABLE mine (x int)",
                "SET ROLE osierwand_owner",
            }
        )
        {
            await using var own = new NpgsqlConnection(database.Connection + ";Pooling=false");
            await own.OpenAsync(Cancel);
            await using var tried = new NpgsqlCommand(sql, own);
            var refused = await Should.ThrowAsync<PostgresException>(() => tried.ExecuteNonQueryAsync(Cancel), sql);
            refused.SqlState.ShouldBeOneOf(PostgresErrorCodes.InsufficientPrivilege, PostgresErrorCodes.RestrictViolation);
        }
    }

    [Fact]
    public async Task What_people_do_stands_in_the_trail_with_who_when_and_from_where()
    {
        using var lead = await host.SignedIn("maud");
        lead.DefaultRequestHeaders.Add(Host.AddressHeader, "192.0.2.77");
        var kettle = await Kettle.Register(lead);
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        var page = await kettle.Page();
        (
            await lead.Post(
                $"/api/v1/register/{kettle.Item}/facts",
                new
                {
                    revision = page.GetProperty("revision").GetInt32(),
                    changes = new { room = "Cellar" },
                    reason = "moved",
                }
            )
        ).Status.ShouldBe(204);
        (
            await lead.Post(
                "/api/v1/rounds",
                new
                {
                    clientCode = "NEW",
                    clientName = "New client",
                    site = "Yard",
                    name = "First round",
                    standardId = "uk-cop-5",
                    medicalStandardId = (string?)null,
                    endsOn = DateOnly.FromDateTime(DateTime.Now).AddDays(7),
                }
            )
        ).Status.ShouldBe(201);
        (
            await lead.PutAsync(new Uri("/api/v1/standards/uk-cop-5/house/insulation-class-II", UriKind.Relative), null, Cancel)
        ).IsSuccessStatusCode.ShouldBeFalse();
        var rows = (await lead.Get("/api/v1/trust/trail")).GetProperty("rows").EnumerateArray().ToArray();
        rows.Select(it => it.Text("what"))
            .ShouldBe(["round opened", "item's facts corrected", "inspection saved", "item registered", "signed in"]);
        rows.ShouldAllBe(it => it.Text("person") == "Maud Tarrant");
        rows.Take(4).ShouldAllBe(it => it.Text("address") == "192.0.2.77");
        (await lead.Get("/api/v1/trust/trail?search=first+round")).GetProperty("rows").GetArrayLength().ShouldBe(1);
    }
}
