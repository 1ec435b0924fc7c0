using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Osierwand.Store;

/// <summary>
/// Makes a database and brings it up to date: the tables belong to a role that nobody signs in as, and the server works as another one
/// that may add to records, histories and trails but not change or take away. Run before the server, which never has the means itself.
/// </summary>
public static class DatabaseSetup
{
    public const string Owner = "osierwand_owner";

    /// <summary>Written once; the server may read them and add to them.</summary>
    public static readonly string[] AppendOnly =
    [
        "inspections",
        "item_changes",
        "quarantine_acts",
        "house_changes",
        "measurements",
        "measured_failures",
        "settled_failures",
        "audit_entries",
        "kit_checks",
        "outlet_checks",
        "look_changes",
        "procedure_versions",
        "group_decisions",
        "hire_moves",
        "label_prints",
        "reviewed_records",
        "round_signatures",
        "sign_in_attempts",
        "signed_heads",
        "verifications",
    ];

    /// <param name="admin">Of a superuser, on any database of the cluster.</param>
    /// <param name="server">The server's own connection: user, password and database are made to fit it.</param>
    public static async Task PrepareAsync(string admin, string server, CancellationToken cancel)
    {
        var asked = new NpgsqlConnectionStringBuilder(server);
        var (user, password, database) = (asked.Username!, asked.Password!, asked.Database!);
        var maintenance = new NpgsqlConnectionStringBuilder(admin) { Database = "postgres", Pooling = false };
        await using (var cluster = new NpgsqlConnection(maintenance.ConnectionString))
        {
            await cluster.OpenAsync(cancel);
            await EnsureRoleAsync(cluster, Owner, "NOLOGIN", cancel);
            await EnsureRoleAsync(cluster, user, "LOGIN", cancel);
            await RunAsync(cluster, $"ALTER ROLE {Name(user)} NOSUPERUSER NOCREATEDB NOCREATEROLE PASSWORD {Text(password)}", cancel);
            if (!await AnyAsync(cluster, "SELECT 1 FROM pg_database WHERE datname = $1", database, cancel))
                await RunAsync(cluster, $"CREATE DATABASE {Name(database)} OWNER {Owner}", cancel);
        }
        maintenance.Database = database;
        await using (var own = new NpgsqlConnection(maintenance.ConnectionString))
        {
            await own.OpenAsync(cancel);
            await RunAsync(own, Belongings(database, user), cancel);
            await RunAsync(own, Adopted, cancel);
        }
        maintenance.Options = $"-c role={Owner}";
        var options = new DbContextOptionsBuilder<OsierwandDb>();
        OsierwandDb.Configure(options, maintenance.ConnectionString);
        await using var db = new OsierwandDb(options.Options) { Sight = Sight.OfTheHouse() };
        await db.Database.MigrateAsync(cancel);
        await db.Database.OpenConnectionAsync(cancel);
        var owned = (NpgsqlConnection)db.Database.GetDbConnection();
        await RunAsync(owned, Grants(user), cancel);
        await RunAsync(owned, Forgotten, cancel);
    }

    /// <summary>Where and when somebody signed in is about people, not about equipment: after a year only the trail says that they did.
    /// What is in the books, the histories and the trail is never forgotten.</summary>
    private const string Forgotten = """
        BEGIN;
        ALTER TABLE sign_in_attempts DISABLE TRIGGER USER;
        DELETE FROM sign_in_attempts WHERE at < now() - interval '1 year';
        ALTER TABLE sign_in_attempts ENABLE TRIGGER USER;
        COMMIT;
        DELETE FROM sessions WHERE coalesce(ended_at, ends_at) < now() - interval '1 year';
        DELETE FROM password_links WHERE ends_at < now() - interval '1 year';
        """;

    /// <summary>A database of before the first release whose last step left the tables that the baseline makes goes on from the baseline.
    /// An older one is refused before anything is changed.</summary>
    private const string Adopted = """
        DO $$ BEGIN
            IF to_regclass('public."__EFMigrationsHistory"') IS NULL THEN RETURN; END IF;
            IF EXISTS (SELECT FROM "__EFMigrationsHistory" WHERE migration_id = '20261127203452_FallsOn') THEN
                DELETE FROM "__EFMigrationsHistory" WHERE migration_id <= '20261127203452_FallsOn';
                INSERT INTO "__EFMigrationsHistory" VALUES ('20261201170221_Foundations', '10.0.12');
            ELSIF EXISTS (SELECT FROM "__EFMigrationsHistory" WHERE migration_id < '20261201170221_Foundations') THEN
                RAISE EXCEPTION 'This database was made by a version that is too old to upgrade from. Nothing was changed. Choose another --data folder.';
            END IF;
        END $$;
        """;

    /// <summary>Everything is the owner's, also what an earlier version made as a superuser.</summary>
    private static string Belongings(string database, string user) =>
        $"""
            ALTER DATABASE {Name(database)} OWNER TO {Owner};
            REVOKE ALL ON DATABASE {Name(database)} FROM PUBLIC;
            GRANT CONNECT ON DATABASE {Name(database)} TO {Name(user)};
            ALTER SCHEMA public OWNER TO {Owner};
            REVOKE ALL ON SCHEMA public FROM PUBLIC;
            GRANT USAGE ON SCHEMA public TO {Name(user)};
            DO $$
            DECLARE it record;
            BEGIN
                FOR it IN SELECT format('ALTER TABLE %I.%I OWNER TO {Owner}', schemaname, tablename) AS say FROM pg_tables
                    WHERE schemaname = 'public' AND tableowner <> '{Owner}'
                UNION ALL SELECT format('ALTER FUNCTION %s OWNER TO {Owner}', p.oid::regprocedure) FROM pg_proc p
                    WHERE p.pronamespace = 'public'::regnamespace AND pg_get_userbyid(p.proowner) <> '{Owner}'
                        AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')
                LOOP EXECUTE it.say; END LOOP;
            END $$;
            """;

    private static string Grants(string user) =>
        $"""
            REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {Name(user)};
            GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO {Name(user)};
            REVOKE UPDATE, DELETE ON {string.Join(", ", AppendOnly)} FROM {Name(user)};
            REVOKE DELETE ON books FROM {Name(user)};
            REVOKE INSERT, UPDATE, DELETE ON "__EFMigrationsHistory" FROM {Name(user)};
            GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO {Name(user)};
            """;

    private static async Task EnsureRoleAsync(NpgsqlConnection cluster, string role, string kind, CancellationToken cancel)
    {
        if (!await AnyAsync(cluster, "SELECT 1 FROM pg_roles WHERE rolname = $1", role, cancel))
            await RunAsync(cluster, $"CREATE ROLE {Name(role)} {kind}", cancel);
    }

    private static async Task<bool> AnyAsync(NpgsqlConnection connection, string sql, string value, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        command.Parameters.Add(new() { Value = value });
        return await command.ExecuteScalarAsync(cancel) is not null;
    }

    // Names and passwords cannot be parameters here; they come from whoever runs the house, and are quoted all the same.
    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
#pragma warning disable CA2100
        await using var command = new NpgsqlCommand(sql, connection);
#pragma warning restore CA2100
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static string Name(string it) => $"\"{it.Replace("\"", "\"\"")}\"";

    private static string Text(string it) => $"'{it.Replace("'", "''")}'";
}
