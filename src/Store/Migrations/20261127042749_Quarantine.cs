using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class Quarantine : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
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
                name: "ix_items_stage_held_since",
                table: "items",
                columns: new[] { "stage", "held_since" },
                filter: "stage IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_quarantine_acts_item_id_at",
                table: "quarantine_acts",
                columns: new[] { "item_id", "at" });

            migrationBuilder.Sql(
                """
                CREATE TRIGGER quarantine_acts_are_kept BEFORE UPDATE OR DELETE ON quarantine_acts FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER quarantine_acts_are_not_emptied BEFORE TRUNCATE ON quarantine_acts EXECUTE FUNCTION refuse_any_change();
                """
            );
            // What was out of use before is so for its last failure that stands, or for what a user reported; nobody said yet that it is safe.
            migrationBuilder.Sql(
                """
                UPDATE items SET held_cause = it.id, held_by = 'FailedInspection', held_since = it.received_at, stage = 'NotSafe',
                    held_why = left((SELECT string_agg(why, '; ') FROM json_array_elements_text(it.record->'reasons') AS why), 1000),
                    held_from = left(it.record->'technician'->>'name', 100)
                FROM (
                    SELECT DISTINCT ON (i.item_id) i.* FROM inspections i
                    WHERE i.outcome = 'Fail' AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = i.id)
                    ORDER BY i.item_id, i.received_at DESC
                ) it
                WHERE it.item_id = items.id AND items.state IN ('Quarantined', 'InRepair');
                UPDATE items SET held_cause = it.id, held_by = 'UserReport', held_since = it.at, stage = 'NotSafe', held_why = it.words,
                    held_from = coalesce(nullif(it.name, ''), 'an equipment user')
                FROM (SELECT DISTINCT ON (item_id) * FROM user_checks WHERE took_out_of_use ORDER BY item_id, at DESC) it
                WHERE it.item_id = items.id AND items.state IN ('Quarantined', 'InRepair') AND items.held_cause IS NULL;
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "quarantine_acts");

            migrationBuilder.DropIndex(
                name: "ix_items_stage_held_since",
                table: "items");

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
                name: "stage",
                table: "items");
        }
    }
}
