using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class Trust : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_sites_client_id",
                table: "sites");

            migrationBuilder.AddColumn<string>(
                name: "after",
                table: "inspections",
                type: "json",
                nullable: true);

            migrationBuilder.AddColumn<short>(
                name: "chain",
                table: "inspections",
                type: "smallint",
                nullable: false,
                defaultValue: (short)1);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "closed_at",
                table: "AspNetUsers",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "is_demo",
                table: "AspNetUsers",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "last_code",
                table: "AspNetUsers",
                type: "character varying(10)",
                maxLength: 10,
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "last_code_step",
                table: "AspNetUsers",
                type: "bigint",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "audit_entries",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: true),
                    person = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    what = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    subject = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
                    subject_id = table.Column<Guid>(type: "uuid", nullable: true),
                    session_id = table.Column<Guid>(type: "uuid", nullable: true),
                    address = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    before = table.Column<string>(type: "json", nullable: true),
                    after = table.Column<string>(type: "json", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_audit_entries", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "measurements",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    session_id = table.Column<Guid>(type: "uuid", nullable: true),
                    instrument_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    reading = table.Column<string>(type: "json", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_measurements", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "password_links",
                columns: table => new
                {
                    token_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    ends_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    used_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_password_links", x => x.token_hash);
                    table.ForeignKey(
                        name: "fk_password_links_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "person_clients",
                columns: table => new
                {
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_person_clients", x => new { x.person_id, x.client_id });
                    table.ForeignKey(
                        name: "fk_person_clients_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_person_clients_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "clients",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "sessions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    started_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ends_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    address = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    browser = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sessions", x => x.id);
                    table.ForeignKey(
                        name: "fk_sessions_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "sign_in_attempts",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    name = table.Column<byte[]>(type: "bytea", nullable: false),
                    address = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    is_known_browser = table.Column<bool>(type: "boolean", nullable: false),
                    succeeded = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sign_in_attempts", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "signed_heads",
                columns: table => new
                {
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<long>(type: "bigint", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    key_id = table.Column<string>(type: "character varying(16)", maxLength: 16, nullable: false),
                    signature = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_signed_heads", x => new { x.client_id, x.number });
                });

            migrationBuilder.CreateTable(
                name: "verifications",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    seconds = table.Column<double>(type: "double precision", nullable: false),
                    records = table.Column<long>(type: "bigint", nullable: false),
                    breaks = table.Column<string[]>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_verifications", x => x.id);
                });

            // Two sites of one name could be taken up at the same moment; the later one gets a number.
            migrationBuilder.Sql("""
                UPDATE sites SET name = sites.name || ' (' || twice.nth || ')'
                FROM (SELECT id, row_number() OVER (PARTITION BY client_id, name ORDER BY id) AS nth FROM sites) twice
                WHERE twice.id = sites.id AND twice.nth > 1;
                """);
            migrationBuilder.CreateIndex(
                name: "ix_sites_client_id_name",
                table: "sites",
                columns: new[] { "client_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_audit_entries_at",
                table: "audit_entries",
                column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_password_links_person_id",
                table: "password_links",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_person_clients_client_id",
                table: "person_clients",
                column: "client_id");

            migrationBuilder.CreateIndex(
                name: "ix_sessions_person_id_ended_at",
                table: "sessions",
                columns: new[] { "person_id", "ended_at" });

            migrationBuilder.CreateIndex(
                name: "ix_sign_in_attempts_name_at",
                table: "sign_in_attempts",
                columns: new[] { "name", "at" });
            migrationBuilder.Sql("""
                CREATE FUNCTION refuse_any_change() RETURNS trigger LANGUAGE plpgsql AS $$
                BEGIN
                    RAISE EXCEPTION 'What stands in % is never changed or deleted.', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
                END $$;
                CREATE FUNCTION books_only_go_on() RETURNS trigger LANGUAGE plpgsql AS $$
                BEGIN
                    IF TG_OP <> 'UPDATE' OR NEW.client_id <> OLD.client_id OR NEW.number <> OLD.number + 1 THEN
                        RAISE EXCEPTION 'A book goes on by one record at a time.' USING ERRCODE = 'restrict_violation';
                    END IF;
                    RETURN NEW;
                END $$;
                CREATE TRIGGER books_only_go_on BEFORE UPDATE OR DELETE ON books FOR EACH ROW EXECUTE FUNCTION books_only_go_on();
                CREATE TRIGGER books_are_not_emptied BEFORE TRUNCATE ON books EXECUTE FUNCTION refuse_any_change();
                """);
            foreach (var table in new[] { "audit_entries", "measurements", "sign_in_attempts", "signed_heads", "verifications" })
                migrationBuilder.Sql($"""
                    CREATE TRIGGER {table}_are_kept BEFORE UPDATE OR DELETE ON {table} FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                    CREATE TRIGGER {table}_are_not_emptied BEFORE TRUNCATE ON {table} EXECUTE FUNCTION refuse_any_change();
                    """);
            migrationBuilder.Sql("""
                -- The invented people of a demo of the version before had a password that was the same everywhere.
                UPDATE "AspNetUsers" SET is_demo = true, password_hash = NULL
                WHERE user_name IN ('ida', 'rufus', 'maud') AND EXISTS (SELECT 1 FROM instruments WHERE id = '0199a000-0000-7000-8000-00000000a002');
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                DROP TRIGGER books_only_go_on ON books;
                DROP TRIGGER books_are_not_emptied ON books;
                DROP FUNCTION books_only_go_on();
                """);
            migrationBuilder.DropTable(
                name: "audit_entries");

            migrationBuilder.DropTable(
                name: "measurements");

            migrationBuilder.DropTable(
                name: "password_links");

            migrationBuilder.DropTable(
                name: "person_clients");

            migrationBuilder.DropTable(
                name: "sessions");

            migrationBuilder.DropTable(
                name: "sign_in_attempts");

            migrationBuilder.DropTable(
                name: "signed_heads");

            migrationBuilder.DropTable(
                name: "verifications");

            migrationBuilder.Sql("DROP FUNCTION refuse_any_change();");

            migrationBuilder.DropIndex(
                name: "ix_sites_client_id_name",
                table: "sites");

            migrationBuilder.DropColumn(
                name: "after",
                table: "inspections");

            migrationBuilder.DropColumn(
                name: "chain",
                table: "inspections");

            migrationBuilder.DropColumn(
                name: "closed_at",
                table: "AspNetUsers");

            migrationBuilder.DropColumn(
                name: "is_demo",
                table: "AspNetUsers");

            migrationBuilder.DropColumn(
                name: "last_code",
                table: "AspNetUsers");

            migrationBuilder.DropColumn(
                name: "last_code_step",
                table: "AspNetUsers");

            migrationBuilder.CreateIndex(
                name: "ix_sites_client_id",
                table: "sites",
                column: "client_id");
        }
    }
}
