using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class PlannedRounds : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "is_planned",
                table: "rounds",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "own_policy",
                table: "rounds",
                type: "json",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "policy_reason",
                table: "rounds",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string[]>(
                name: "room_order",
                table: "rounds",
                type: "text[]",
                nullable: false,
                defaultValue: new string[0]);

            migrationBuilder.AddColumn<string>(
                name: "scope_words",
                table: "rounds",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "state",
                table: "rounds",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "Open");

            // Every time in a record carries its offset, so that the seconds depend on nothing but the record; one that tells no time is null.
            migrationBuilder.Sql(
                """
                UPDATE rounds SET state = 'Closed' WHERE closed_on IS NOT NULL;
                CREATE FUNCTION bench_seconds(record json) RETURNS integer LANGUAGE plpgsql IMMUTABLE AS $$
                BEGIN
                    RETURN extract(epoch FROM (record->'times'->>'takenTo')::timestamptz - (record->'times'->>'takenFrom')::timestamptz)::integer;
                EXCEPTION WHEN OTHERS THEN RETURN NULL;
                END $$;
                """
            );

            migrationBuilder.AddColumn<int>(
                name: "bench_seconds",
                table: "inspections",
                type: "integer",
                nullable: true,
                computedColumnSql: "bench_seconds(record)",
                stored: true);

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

            migrationBuilder.CreateIndex(
                name: "ix_round_days_person_id",
                table: "round_days",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_round_items_item_id",
                table: "round_items",
                column: "item_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "round_days");

            migrationBuilder.DropTable(
                name: "round_items");

            migrationBuilder.DropColumn(
                name: "bench_seconds",
                table: "inspections");

            migrationBuilder.Sql("DROP FUNCTION bench_seconds(json);");

            migrationBuilder.DropColumn(
                name: "is_planned",
                table: "rounds");

            migrationBuilder.DropColumn(
                name: "own_policy",
                table: "rounds");

            migrationBuilder.DropColumn(
                name: "policy_reason",
                table: "rounds");

            migrationBuilder.DropColumn(
                name: "room_order",
                table: "rounds");

            migrationBuilder.DropColumn(
                name: "scope_words",
                table: "rounds");

            migrationBuilder.DropColumn(
                name: "state",
                table: "rounds");
        }
    }
}
