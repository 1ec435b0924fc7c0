using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class SystemsAndQuarantine : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "step",
                table: "photos",
                type: "character varying(300)",
                maxLength: 300,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "held_by",
                table: "items",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "held_cause",
                table: "items",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "held_from",
                table: "items",
                type: "character varying(100)",
                maxLength: 100,
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "held_since",
                table: "items",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "held_why",
                table: "items",
                type: "character varying(1000)",
                maxLength: 1000,
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "part_of",
                table: "items",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "stage",
                table: "items",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);

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

            migrationBuilder.CreateIndex(
                name: "ix_items_part_of",
                table: "items",
                column: "part_of",
                filter: "part_of IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_items_stage_held_since",
                table: "items",
                columns: new[] { "stage", "held_since" },
                filter: "stage IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_quarantine_acts_item_id_at",
                table: "quarantine_acts",
                columns: new[] { "item_id", "at" });

            migrationBuilder.AddForeignKey(
                name: "fk_items_items_part_of",
                table: "items",
                column: "part_of",
                principalTable: "items",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.Sql(
                """
                CREATE TRIGGER quarantine_acts_are_kept BEFORE UPDATE OR DELETE ON quarantine_acts FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER quarantine_acts_are_not_emptied BEFORE TRUNCATE ON quarantine_acts EXECUTE FUNCTION refuse_any_change();
                """
            );
            // What was out of use before is so for its last failure that stands, or for what a user reported; nobody said yet that it is safe.
            migrationBuilder.Sql(
                """
                UPDATE items SET held_cause = it.id, held_by = it.by, held_since = it.at, held_why = left(it.why, 1000), held_from = left(it.who, 100),
                    stage = 'NotSafe'
                FROM (
                    SELECT DISTINCT ON (item_id) * FROM (
                        SELECT i.item_id, i.id, 'FailedInspection' AS by, i.received_at AS at, i.record->'technician'->>'name' AS who,
                            (SELECT string_agg(why, '; ') FROM json_array_elements_text(i.record->'reasons') AS why) AS why
                        FROM inspections i JOIN items ON items.id = i.item_id AND items.state IN ('Quarantined', 'InRepair')
                        WHERE i.outcome = 'Fail' AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = i.id)
                        UNION ALL
                        SELECT c.item_id, c.id, 'UserReport', c.at, coalesce(nullif(c.name, ''), 'an equipment user'), c.words
                        FROM user_checks c WHERE c.took_out_of_use
                    ) causes ORDER BY item_id, at DESC
                ) it
                WHERE it.item_id = items.id AND items.state IN ('Quarantined', 'InRepair');
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_items_items_part_of",
                table: "items");

            migrationBuilder.DropTable(
                name: "quarantine_acts");

            migrationBuilder.DropIndex(
                name: "ix_items_part_of",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_stage_held_since",
                table: "items");

            migrationBuilder.DropColumn(
                name: "step",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "held_by",
                table: "items");

            migrationBuilder.DropColumn(
                name: "held_cause",
                table: "items");

            migrationBuilder.DropColumn(
                name: "held_from",
                table: "items");

            migrationBuilder.DropColumn(
                name: "held_since",
                table: "items");

            migrationBuilder.DropColumn(
                name: "held_why",
                table: "items");

            migrationBuilder.DropColumn(
                name: "part_of",
                table: "items");

            migrationBuilder.DropColumn(
                name: "stage",
                table: "items");
        }
    }
}
