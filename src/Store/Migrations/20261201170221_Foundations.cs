using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class Foundations : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RunFile("bench-seconds.sql");

            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.CreateTable(
                name: "AspNetRoles",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    concurrency_stamp = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_asp_net_roles", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUsers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    display_name = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    initials = table.Column<string>(type: "character varying(5)", maxLength: 5, nullable: false),
                    is_demo = table.Column<bool>(type: "boolean", nullable: false),
                    closed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    last_code = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: true),
                    last_code_step = table.Column<long>(type: "bigint", nullable: true),
                    user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_user_name = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    normalized_email = table.Column<string>(type: "character varying(256)", maxLength: 256, nullable: true),
                    email_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    password_hash = table.Column<string>(type: "text", nullable: true),
                    security_stamp = table.Column<string>(type: "text", nullable: true),
                    concurrency_stamp = table.Column<string>(type: "text", nullable: true),
                    phone_number = table.Column<string>(type: "text", nullable: true),
                    phone_number_confirmed = table.Column<bool>(type: "boolean", nullable: false),
                    two_factor_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    lockout_end = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    lockout_enabled = table.Column<bool>(type: "boolean", nullable: false),
                    access_failed_count = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_asp_net_users", x => x.id);
                });

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
                name: "clients",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    code = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    name = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    label_school = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    cap_months = table.Column<double>(type: "double precision", nullable: true),
                    class_ii = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    new_item = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    leakage = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    medical_method = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    medical_insulation = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    hard_wired = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    fixings = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    decision_rule = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    hire_tests = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_clients", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "group_decisions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    place = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    step = table.Column<int>(type: "integer", nullable: false),
                    undoes = table.Column<Guid>(type: "uuid", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    reason = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    inspections = table.Column<int>(type: "integer", nullable: false),
                    failures = table.Column<int>(type: "integer", nullable: false),
                    months = table.Column<double>(type: "double precision", nullable: false),
                    low = table.Column<double>(type: "double precision", nullable: false),
                    median = table.Column<double>(type: "double precision", nullable: false),
                    high = table.Column<double>(type: "double precision", nullable: false),
                    target = table.Column<double>(type: "double precision", nullable: false),
                    suggested = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    moved = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_group_decisions", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "house_changes",
                columns: table => new
                {
                    pack_id = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    revision = table.Column<int>(type: "integer", nullable: false),
                    rule_id = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    value = table.Column<double>(type: "double precision", nullable: true),
                    unit = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: true),
                    reason = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_house_changes", x => new { x.pack_id, x.revision });
                });

            migrationBuilder.CreateTable(
                name: "kit_items",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    maker = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true),
                    model = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true),
                    serial = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true),
                    calibrated_on = table.Column<DateOnly>(type: "date", nullable: true),
                    calibration_due = table.Column<DateOnly>(type: "date", nullable: true),
                    certificate = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true),
                    category = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    product_standard = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true),
                    nulls_itself = table.Column<bool>(type: "boolean", nullable: false),
                    null_ohm = table.Column<double>(type: "double precision", nullable: true),
                    nulled_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    null_reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    accuracies = table.Column<string>(type: "json", nullable: false),
                    stated_values = table.Column<string>(type: "json", nullable: false),
                    looked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    look_fitness = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    look_lines = table.Column<string[]>(type: "text[]", nullable: false),
                    checked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    checked_by = table.Column<string>(type: "text", nullable: true),
                    checked_with = table.Column<string>(type: "text", nullable: true),
                    check_trouble = table.Column<string>(type: "text", nullable: true),
                    check_lines = table.Column<string[]>(type: "text[]", nullable: false),
                    drifts = table.Column<string[]>(type: "text[]", nullable: false),
                    retired_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kit_items", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "look_changes",
                columns: table => new
                {
                    revision = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    point_id = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true),
                    target = table.Column<int>(type: "integer", nullable: true),
                    where = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    text = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    phrases = table.Column<string[]>(type: "text[]", nullable: false),
                    kinds = table.Column<string[]>(type: "text[]", nullable: false),
                    classes = table.Column<string[]>(type: "text[]", nullable: false),
                    plugs = table.Column<string[]>(type: "text[]", nullable: false),
                    packs = table.Column<string[]>(type: "text[]", nullable: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_look_changes", x => x.revision);
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
                name: "procedures",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    newest = table.Column<int>(type: "integer", nullable: false),
                    retired_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    retired_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: true),
                    retired_why = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_procedures", x => x.id);
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

            migrationBuilder.CreateTable(
                name: "AspNetRoleClaims",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    role_id = table.Column<Guid>(type: "uuid", nullable: false),
                    claim_type = table.Column<string>(type: "text", nullable: true),
                    claim_value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_asp_net_role_claims", x => x.id);
                    table.ForeignKey(
                        name: "fk_asp_net_role_claims_asp_net_roles_role_id",
                        column: x => x.role_id,
                        principalTable: "AspNetRoles",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserClaims",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    claim_type = table.Column<string>(type: "text", nullable: true),
                    claim_value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_asp_net_user_claims", x => x.id);
                    table.ForeignKey(
                        name: "fk_asp_net_user_claims_asp_net_users_user_id",
                        column: x => x.user_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserLogins",
                columns: table => new
                {
                    login_provider = table.Column<string>(type: "text", nullable: false),
                    provider_key = table.Column<string>(type: "text", nullable: false),
                    provider_display_name = table.Column<string>(type: "text", nullable: true),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_asp_net_user_logins", x => new { x.login_provider, x.provider_key });
                    table.ForeignKey(
                        name: "fk_asp_net_user_logins_asp_net_users_user_id",
                        column: x => x.user_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserRoles",
                columns: table => new
                {
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    role_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_asp_net_user_roles", x => new { x.user_id, x.role_id });
                    table.ForeignKey(
                        name: "fk_asp_net_user_roles_asp_net_roles_role_id",
                        column: x => x.role_id,
                        principalTable: "AspNetRoles",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_asp_net_user_roles_asp_net_users_user_id",
                        column: x => x.user_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserTokens",
                columns: table => new
                {
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    login_provider = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    value = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_asp_net_user_tokens", x => new { x.user_id, x.login_provider, x.name });
                    table.ForeignKey(
                        name: "fk_asp_net_user_tokens_asp_net_users_user_id",
                        column: x => x.user_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "bench_hours",
                columns: table => new
                {
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    minutes = table.Column<int[]>(type: "integer[]", nullable: false),
                    days_off = table.Column<DateOnly[]>(type: "date[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bench_hours", x => x.person_id);
                    table.ForeignKey(
                        name: "fk_bench_hours_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "kits_of_day",
                columns: table => new
                {
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    items = table.Column<Guid[]>(type: "uuid[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kits_of_day", x => x.person_id);
                    table.ForeignKey(
                        name: "fk_kits_of_day_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "passkeys",
                columns: table => new
                {
                    credential_id = table.Column<byte[]>(type: "bytea", maxLength: 1024, nullable: false),
                    user_id = table.Column<Guid>(type: "uuid", nullable: false),
                    data = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_passkeys", x => x.credential_id);
                    table.ForeignKey(
                        name: "fk_passkeys_asp_net_users_user_id",
                        column: x => x.user_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
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
                name: "person_competences",
                columns: table => new
                {
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    competence = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    expires_on = table.Column<DateOnly>(type: "date", nullable: true),
                    evidence = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_person_competences", x => new { x.person_id, x.competence });
                    table.ForeignKey(
                        name: "fk_person_competences_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
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
                name: "books",
                columns: table => new
                {
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<long>(type: "bigint", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_books", x => x.client_id);
                    table.ForeignKey(
                        name: "fk_books_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "clients",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "calendar_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    token_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: true),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revoked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    read_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_calendar_links", x => x.id);
                    table.ForeignKey(
                        name: "fk_calendar_links_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_calendar_links_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "clients",
                        principalColumn: "id");
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
                name: "sites",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    time_zone = table.Column<string>(type: "text", nullable: false),
                    travel_minutes = table.Column<int>(type: "integer", nullable: false),
                    nominal_v = table.Column<double>(type: "double precision", nullable: true),
                    mains_hz = table.Column<double>(type: "double precision", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sites", x => x.id);
                    table.ForeignKey(
                        name: "fk_sites_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "clients",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "kit_checks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    kit_item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    is_good = table.Column<bool>(type: "boolean", nullable: false),
                    check_box_id = table.Column<Guid>(type: "uuid", nullable: true),
                    lines = table.Column<string[]>(type: "text[]", nullable: false),
                    result = table.Column<string>(type: "json", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kit_checks", x => x.id);
                    table.ForeignKey(
                        name: "fk_kit_checks_kit_kit_item_id",
                        column: x => x.kit_item_id,
                        principalTable: "kit_items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "procedure_versions",
                columns: table => new
                {
                    procedure_id = table.Column<Guid>(type: "uuid", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    pack_id = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    name = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    text = table.Column<string>(type: "json", nullable: false),
                    reason = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_procedure_versions", x => new { x.procedure_id, x.version });
                    table.ForeignKey(
                        name: "fk_procedure_versions_procedures_procedure_id",
                        column: x => x.procedure_id,
                        principalTable: "procedures",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "items",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    site_id = table.Column<Guid>(type: "uuid", nullable: false),
                    room = table.Column<string>(type: "text", nullable: false),
                    place = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    tag = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    maker = table.Column<string>(type: "text", nullable: true),
                    model = table.Column<string>(type: "text", nullable: true),
                    serial = table.Column<string>(type: "text", nullable: true),
                    equipment = table.Column<string>(type: "jsonb", nullable: false),
                    evidence = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    usage = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    moved = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    users = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    registered_on = table.Column<DateOnly>(type: "date", nullable: false),
                    due = table.Column<DateOnly>(type: "date", nullable: true),
                    visual_due = table.Column<DateOnly>(type: "date", nullable: true),
                    interval_months = table.Column<double>(type: "double precision", nullable: true),
                    because = table.Column<string[]>(type: "text[]", nullable: false),
                    last_outcome = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    last_tested_on = table.Column<DateOnly>(type: "date", nullable: true),
                    last_looked_on = table.Column<DateOnly>(type: "date", nullable: true),
                    last_user_check_on = table.Column<DateOnly>(type: "date", nullable: true),
                    reference_values = table.Column<string>(type: "json", nullable: true),
                    crosses_on = table.Column<DateOnly>(type: "date", nullable: true),
                    crossing = table.Column<string>(type: "json", nullable: true),
                    falls_on = table.Column<DateOnly>(type: "date", nullable: false, computedColumnSql: "CASE WHEN due IS NULL THEN '-infinity'::date ELSE least(due, visual_due) END", stored: true),
                    is_gone = table.Column<bool>(type: "boolean", nullable: false, computedColumnSql: "state IN ('Scrapped', 'Lost')", stored: true),
                    kind_word = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false, computedColumnSql: "coalesce(equipment->>'kind', 'appliance')", stored: true),
                    use_word = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false, computedColumnSql: "coalesce(equipment->>'use', 'portable')", stored: true),
                    words = table.Column<string>(type: "text", nullable: false, computedColumnSql: "tag || E'\n' || name || E'\n' || room || E'\n' || coalesce(maker, '') || E'\n' || coalesce(model, '') || E'\n' || coalesce(serial, '')", stored: true),
                    lock_left = table.Column<string>(type: "character varying(700)", maxLength: 700, nullable: true),
                    revision = table.Column<int>(type: "integer", nullable: false),
                    held_cause = table.Column<Guid>(type: "uuid", nullable: true),
                    held_by = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    held_why = table.Column<string>(type: "character varying(1000)", maxLength: 1000, nullable: true),
                    held_since = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    held_from = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: true),
                    stage = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    part_of = table.Column<Guid>(type: "uuid", nullable: true),
                    loose_since = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    is_loose = table.Column<bool>(type: "boolean", nullable: false),
                    named_as = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_items", x => x.id);
                    table.ForeignKey(
                        name: "fk_items_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "clients",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_items_items_part_of",
                        column: x => x.part_of,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_items_sites_site_id",
                        column: x => x.site_id,
                        principalTable: "sites",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "outlet_checks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    site_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    name = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    room = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    is_workbench = table.Column<bool>(type: "boolean", nullable: false),
                    nominal_v = table.Column<double>(type: "double precision", nullable: false),
                    phases = table.Column<int>(type: "integer", nullable: false),
                    is_centre_earthed = table.Column<bool>(type: "boolean", nullable: false),
                    voltages = table.Column<string>(type: "json", nullable: false),
                    is_good = table.Column<bool>(type: "boolean", nullable: false),
                    says = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_outlet_checks", x => x.id);
                    table.ForeignKey(
                        name: "fk_outlet_checks_sites_site_id",
                        column: x => x.site_id,
                        principalTable: "sites",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "rounds",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    site_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    standard_id = table.Column<string>(type: "text", nullable: false),
                    medical_standard_id = table.Column<string>(type: "text", nullable: true),
                    starts_on = table.Column<DateOnly>(type: "date", nullable: false),
                    ends_on = table.Column<DateOnly>(type: "date", nullable: false),
                    closed_on = table.Column<DateOnly>(type: "date", nullable: true),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    is_planned = table.Column<bool>(type: "boolean", nullable: false),
                    scope_words = table.Column<string>(type: "text", nullable: false),
                    own_policy = table.Column<string>(type: "json", nullable: true),
                    policy_reason = table.Column<string>(type: "text", nullable: true),
                    room_order = table.Column<string[]>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_rounds", x => x.id);
                    table.ForeignKey(
                        name: "fk_rounds_sites_site_id",
                        column: x => x.site_id,
                        principalTable: "sites",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "discarded_sheets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                    holds_failure = table.Column<bool>(type: "boolean", nullable: false),
                    failures = table.Column<string[]>(type: "text[]", nullable: false),
                    events = table.Column<string>(type: "json", nullable: false),
                    seen_by = table.Column<string>(type: "text", nullable: true),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_discarded_sheets", x => x.id);
                    table.ForeignKey(
                        name: "fk_discarded_sheets_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "handed_sheets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    words = table.Column<string>(type: "text", nullable: false),
                    failures = table.Column<string[]>(type: "text[]", nullable: false),
                    events = table.Column<string>(type: "json", nullable: false),
                    taken_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    taken_by = table.Column<string>(type: "text", nullable: true),
                    taken_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_handed_sheets", x => x.id);
                    table.ForeignKey(
                        name: "fk_handed_sheets_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "hire_items",
                columns: table => new
                {
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    moves = table.Column<int>(type: "integer", nullable: false),
                    out_to = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    out_since = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    back_by = table.Column<DateOnly>(type: "date", nullable: true),
                    returned_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    seen = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    seen_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: true),
                    laid_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    laid_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hire_items", x => x.item_id);
                    table.ForeignKey(
                        name: "fk_hire_items_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "hire_moves",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    move = table.Column<string>(type: "json", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hire_moves", x => x.id);
                    table.ForeignKey(
                        name: "fk_hire_moves_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "inspections",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    technician_id = table.Column<Guid>(type: "uuid", nullable: false),
                    corrects = table.Column<Guid>(type: "uuid", nullable: true),
                    book_number = table.Column<long>(type: "bigint", nullable: false),
                    tested_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    received_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    outcome = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    is_test = table.Column<bool>(type: "boolean", nullable: false),
                    near_limit = table.Column<bool>(type: "boolean", nullable: false),
                    rising = table.Column<bool>(type: "boolean", nullable: false),
                    record = table.Column<string>(type: "json", nullable: false),
                    taken = table.Column<string>(type: "json", nullable: false),
                    before = table.Column<string>(type: "json", nullable: false),
                    after = table.Column<string>(type: "json", nullable: true),
                    chain = table.Column<short>(type: "smallint", nullable: false, defaultValue: (short)1),
                    instrument_id = table.Column<Guid>(type: "uuid", nullable: true, computedColumnSql: "((record->'instrument')->>'id')::uuid", stored: true),
                    bench_seconds = table.Column<int>(type: "integer", nullable: true, computedColumnSql: "bench_seconds(record)", stored: true),
                    revision = table.Column<int>(type: "integer", nullable: false),
                    sent = table.Column<byte[]>(type: "bytea", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_inspections", x => x.id);
                    table.ForeignKey(
                        name: "fk_inspections_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "item_changes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                    lines = table.Column<string[]>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_item_changes", x => x.id);
                    table.ForeignKey(
                        name: "fk_item_changes_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "photos",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    of = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    step = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    picture = table.Column<byte[]>(type: "bytea", nullable: false),
                    thumbnail = table.Column<byte[]>(type: "bytea", nullable: false),
                    width = table.Column<int>(type: "integer", nullable: false),
                    height = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_photos", x => x.id);
                    table.ForeignKey(
                        name: "fk_photos_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "public_links",
                columns: table => new
                {
                    token = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revoked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_public_links", x => x.token);
                    table.ForeignKey(
                        name: "fk_public_links_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "quarantine_acts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    cause = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    act = table.Column<string>(type: "json", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_quarantine_acts", x => x.id);
                    table.ForeignKey(
                        name: "fk_quarantine_acts_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "user_checks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    report = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    words = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    took_out_of_use = table.Column<bool>(type: "boolean", nullable: false),
                    photo_id = table.Column<Guid>(type: "uuid", nullable: true),
                    seen_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: true),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    decision = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_user_checks", x => x.id);
                    table.ForeignKey(
                        name: "fk_user_checks_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "kept_papers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    paper = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: true),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(400)", maxLength: 400, nullable: false),
                    asked_by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    asked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    done = table.Column<int>(type: "integer", nullable: false),
                    total = table.Column<int>(type: "integer", nullable: false),
                    beat_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    tries = table.Column<int>(type: "integer", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    trouble = table.Column<string>(type: "text", nullable: true),
                    is_for_client = table.Column<bool>(type: "boolean", nullable: false),
                    up_to = table.Column<long>(type: "bigint", nullable: false),
                    bytes = table.Column<int>(type: "integer", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kept_papers", x => x.id);
                    table.ForeignKey(
                        name: "fk_kept_papers_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "clients",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_kept_papers_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id");
                });

            migrationBuilder.CreateTable(
                name: "round_days",
                columns: table => new
                {
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    minutes = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_round_days", x => new { x.round_id, x.day, x.person_id });
                    table.ForeignKey(
                        name: "fk_round_days_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_round_days_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "round_items",
                columns: table => new
                {
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    excluded_why = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    is_look = table.Column<bool>(type: "boolean", nullable: false),
                    tested_by = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_round_items", x => new { x.round_id, x.item_id });
                    table.ForeignKey(
                        name: "fk_round_items_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_round_items_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "round_signatures",
                columns: table => new
                {
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    words = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    records = table.Column<int>(type: "integer", nullable: false),
                    last_number = table.Column<long>(type: "bigint", nullable: false),
                    last_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    is_own_work = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_round_signatures", x => x.round_id);
                    table.ForeignKey(
                        name: "fk_round_signatures_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "label_prints",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    batch_id = table.Column<Guid>(type: "uuid", nullable: false),
                    inspection_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    medium = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    reason = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_label_prints", x => x.id);
                    table.ForeignKey(
                        name: "fk_label_prints_inspections_inspection_id",
                        column: x => x.inspection_id,
                        principalTable: "inspections",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "review_flags",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    inspection_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kit_check_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    why = table.Column<string>(type: "text", nullable: false),
                    seen_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: true),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    decision = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_review_flags", x => x.id);
                    table.ForeignKey(
                        name: "fk_review_flags_inspections_inspection_id",
                        column: x => x.inspection_id,
                        principalTable: "inspections",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "reviewed_records",
                columns: table => new
                {
                    inspection_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    words = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_reviewed_records", x => x.inspection_id);
                    table.ForeignKey(
                        name: "fk_reviewed_records_inspections_inspection_id",
                        column: x => x.inspection_id,
                        principalTable: "inspections",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_reviewed_records_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "kept_paper_files",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    pdf = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kept_paper_files", x => x.id);
                    table.ForeignKey(
                        name: "fk_kept_paper_files_kept_papers_id",
                        column: x => x.id,
                        principalTable: "kept_papers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_asp_net_role_claims_role_id",
                table: "AspNetRoleClaims",
                column: "role_id");

            migrationBuilder.CreateIndex(
                name: "RoleNameIndex",
                table: "AspNetRoles",
                column: "normalized_name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_asp_net_user_claims_user_id",
                table: "AspNetUserClaims",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_asp_net_user_logins_user_id",
                table: "AspNetUserLogins",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_asp_net_user_roles_role_id",
                table: "AspNetUserRoles",
                column: "role_id");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "AspNetUsers",
                column: "normalized_email");

            migrationBuilder.CreateIndex(
                name: "UserNameIndex",
                table: "AspNetUsers",
                column: "normalized_user_name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_audit_entries_at",
                table: "audit_entries",
                column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_calendar_links_client_id",
                table: "calendar_links",
                column: "client_id");

            migrationBuilder.CreateIndex(
                name: "ix_calendar_links_person_id",
                table: "calendar_links",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_calendar_links_token_hash",
                table: "calendar_links",
                column: "token_hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_clients_code",
                table: "clients",
                column: "code",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_discarded_sheets_item_id",
                table: "discarded_sheets",
                column: "item_id");

            migrationBuilder.CreateIndex(
                name: "ix_group_decisions_kind_place_number",
                table: "group_decisions",
                columns: new[] { "kind", "place", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_handed_sheets_ended_at",
                table: "handed_sheets",
                column: "ended_at");

            migrationBuilder.CreateIndex(
                name: "ix_handed_sheets_item_id",
                table: "handed_sheets",
                column: "item_id");

            migrationBuilder.CreateIndex(
                name: "ix_hire_moves_item_id_number",
                table: "hire_moves",
                columns: new[] { "item_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_inspections_client_id_book_number",
                table: "inspections",
                columns: new[] { "client_id", "book_number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_inspections_corrects",
                table: "inspections",
                column: "corrects",
                unique: true,
                filter: "corrects IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_inspections_instrument_id_tested_at",
                table: "inspections",
                columns: new[] { "instrument_id", "tested_at" },
                filter: "instrument_id IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_inspections_item_id_tested_at",
                table: "inspections",
                columns: new[] { "item_id", "tested_at" });

            migrationBuilder.CreateIndex(
                name: "ix_inspections_round_id_item_id",
                table: "inspections",
                columns: new[] { "round_id", "item_id" });

            migrationBuilder.CreateIndex(
                name: "ix_inspections_tested_at",
                table: "inspections",
                column: "tested_at",
                filter: "bench_seconds IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_item_changes_item_id_at",
                table: "item_changes",
                columns: new[] { "item_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_items_client_id",
                table: "items",
                column: "client_id");

            migrationBuilder.CreateIndex(
                name: "ix_items_crosses_on",
                table: "items",
                column: "crosses_on",
                filter: "crosses_on < due AND state = 'InService'");

            migrationBuilder.CreateIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items",
                columns: new[] { "is_gone", "due", "tag" },
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });

            migrationBuilder.CreateIndex(
                name: "ix_items_lock_left",
                table: "items",
                column: "lock_left",
                filter: "lock_left IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_items_named_as",
                table: "items",
                column: "named_as",
                filter: "named_as IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_items_part_of",
                table: "items",
                column: "part_of",
                filter: "part_of IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_items_site_id",
                table: "items",
                column: "site_id");

            migrationBuilder.CreateIndex(
                name: "ix_items_stage_held_since",
                table: "items",
                columns: new[] { "stage", "held_since" },
                filter: "stage IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" },
                filter: "NOT is_loose");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_falls_on_site_id",
                table: "items",
                columns: new[] { "state", "falls_on", "site_id" },
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "due", "visual_due", "kind_word" });

            migrationBuilder.CreateIndex(
                name: "ix_items_tag",
                table: "items",
                column: "tag",
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });

            migrationBuilder.CreateIndex(
                name: "ix_items_words",
                table: "items",
                column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_kept_papers_client_id_asked_at",
                table: "kept_papers",
                columns: new[] { "client_id", "asked_at" });

            migrationBuilder.CreateIndex(
                name: "ix_kept_papers_round_id_asked_at",
                table: "kept_papers",
                columns: new[] { "round_id", "asked_at" });

            migrationBuilder.CreateIndex(
                name: "ix_kept_papers_to_make",
                table: "kept_papers",
                column: "asked_at",
                filter: "state IN ('Waiting', 'Making')");

            migrationBuilder.CreateIndex(
                name: "ix_kit_checks_kit_item_id_at",
                table: "kit_checks",
                columns: new[] { "kit_item_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_label_prints_batch_id_inspection_id",
                table: "label_prints",
                columns: new[] { "batch_id", "inspection_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_label_prints_inspection_id",
                table: "label_prints",
                column: "inspection_id");

            migrationBuilder.CreateIndex(
                name: "ix_outlet_checks_site_id_day",
                table: "outlet_checks",
                columns: new[] { "site_id", "day" });

            migrationBuilder.CreateIndex(
                name: "ix_passkeys_user_id",
                table: "passkeys",
                column: "user_id");

            migrationBuilder.CreateIndex(
                name: "ix_password_links_person_id",
                table: "password_links",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_person_clients_client_id",
                table: "person_clients",
                column: "client_id");

            migrationBuilder.CreateIndex(
                name: "ix_photos_item_id_at",
                table: "photos",
                columns: new[] { "item_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_procedure_versions_pack_id",
                table: "procedure_versions",
                column: "pack_id");

            migrationBuilder.CreateIndex(
                name: "ix_public_links_item_id",
                table: "public_links",
                column: "item_id",
                unique: true,
                filter: "revoked_at IS NULL");

            migrationBuilder.CreateIndex(
                name: "ix_quarantine_acts_item_id_at",
                table: "quarantine_acts",
                columns: new[] { "item_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_review_flags_at",
                table: "review_flags",
                column: "at",
                filter: "seen_at IS NULL");

            migrationBuilder.CreateIndex(
                name: "ix_review_flags_inspection_id_kit_check_id",
                table: "review_flags",
                columns: new[] { "inspection_id", "kit_check_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_reviewed_records_round_id",
                table: "reviewed_records",
                column: "round_id");

            migrationBuilder.CreateIndex(
                name: "ix_round_days_person_id",
                table: "round_days",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_round_items_item_id",
                table: "round_items",
                column: "item_id");

            migrationBuilder.CreateIndex(
                name: "ix_rounds_site_id_closed_on",
                table: "rounds",
                columns: new[] { "site_id", "closed_on" });

            migrationBuilder.CreateIndex(
                name: "ix_sessions_person_id_ended_at",
                table: "sessions",
                columns: new[] { "person_id", "ended_at" });

            migrationBuilder.CreateIndex(
                name: "ix_sign_in_attempts_name_at",
                table: "sign_in_attempts",
                columns: new[] { "name", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_sites_client_id_name",
                table: "sites",
                columns: new[] { "client_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_user_checks_at",
                table: "user_checks",
                column: "at",
                filter: "seen_at IS NULL AND report <> 'AllGood'");

            migrationBuilder.CreateIndex(
                name: "ix_user_checks_item_id",
                table: "user_checks",
                column: "item_id");

            foreach (var file in new[] { "names-in-any-case.sql", "written-once.sql", "books.sql", "packed-records.sql" })
                migrationBuilder.RunFile(file);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "AspNetRoleClaims");

            migrationBuilder.DropTable(
                name: "AspNetUserClaims");

            migrationBuilder.DropTable(
                name: "AspNetUserLogins");

            migrationBuilder.DropTable(
                name: "AspNetUserRoles");

            migrationBuilder.DropTable(
                name: "AspNetUserTokens");

            migrationBuilder.DropTable(
                name: "audit_entries");

            migrationBuilder.DropTable(
                name: "bench_hours");

            migrationBuilder.DropTable(
                name: "books");

            migrationBuilder.DropTable(
                name: "calendar_links");

            migrationBuilder.DropTable(
                name: "discarded_sheets");

            migrationBuilder.DropTable(
                name: "group_decisions");

            migrationBuilder.DropTable(
                name: "handed_sheets");

            migrationBuilder.DropTable(
                name: "hire_items");

            migrationBuilder.DropTable(
                name: "hire_moves");

            migrationBuilder.DropTable(
                name: "house_changes");

            migrationBuilder.DropTable(
                name: "item_changes");

            migrationBuilder.DropTable(
                name: "kept_paper_files");

            migrationBuilder.DropTable(
                name: "kit_checks");

            migrationBuilder.DropTable(
                name: "kits_of_day");

            migrationBuilder.DropTable(
                name: "label_prints");

            migrationBuilder.DropTable(
                name: "look_changes");

            migrationBuilder.DropTable(
                name: "measurements");

            migrationBuilder.DropTable(
                name: "outlet_checks");

            migrationBuilder.DropTable(
                name: "passkeys");

            migrationBuilder.DropTable(
                name: "password_links");

            migrationBuilder.DropTable(
                name: "person_clients");

            migrationBuilder.DropTable(
                name: "person_competences");

            migrationBuilder.DropTable(
                name: "photos");

            migrationBuilder.DropTable(
                name: "procedure_versions");

            migrationBuilder.DropTable(
                name: "public_links");

            migrationBuilder.DropTable(
                name: "quarantine_acts");

            migrationBuilder.DropTable(
                name: "review_flags");

            migrationBuilder.DropTable(
                name: "reviewed_records");

            migrationBuilder.DropTable(
                name: "round_days");

            migrationBuilder.DropTable(
                name: "round_items");

            migrationBuilder.DropTable(
                name: "round_signatures");

            migrationBuilder.DropTable(
                name: "sessions");

            migrationBuilder.DropTable(
                name: "sign_in_attempts");

            migrationBuilder.DropTable(
                name: "signed_heads");

            migrationBuilder.DropTable(
                name: "user_checks");

            migrationBuilder.DropTable(
                name: "verifications");

            migrationBuilder.DropTable(
                name: "AspNetRoles");

            migrationBuilder.DropTable(
                name: "kept_papers");

            migrationBuilder.DropTable(
                name: "kit_items");

            migrationBuilder.DropTable(
                name: "procedures");

            migrationBuilder.DropTable(
                name: "inspections");

            migrationBuilder.DropTable(
                name: "AspNetUsers");

            migrationBuilder.DropTable(
                name: "rounds");

            migrationBuilder.DropTable(
                name: "items");

            migrationBuilder.DropTable(
                name: "sites");

            migrationBuilder.DropTable(
                name: "clients");

            migrationBuilder.Sql("DROP FUNCTION bench_seconds(json), books_only_go_on(), refuse_change(), refuse_kept_change(), refuse_any_change();");
        }
    }
}
