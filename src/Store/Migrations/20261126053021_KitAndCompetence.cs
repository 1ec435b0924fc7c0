using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class KitAndCompetence : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "instrument_id",
                table: "inspections",
                type: "uuid",
                nullable: true,
                computedColumnSql: "((record->'instrument')->>'id')::uuid",
                stored: true);

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

            migrationBuilder.CreateIndex(
                name: "ix_inspections_instrument_id_tested_at",
                table: "inspections",
                columns: new[] { "instrument_id", "tested_at" },
                filter: "instrument_id IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_kit_checks_kit_item_id_at",
                table: "kit_checks",
                columns: new[] { "kit_item_id", "at" });

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

            // What stood as one instrument with the name of a lead becomes the two things they are; the lead keeps its null.
            migrationBuilder.Sql(
                """
                CREATE UNIQUE INDEX ix_kit_items_lower_name ON kit_items (lower(name));
                INSERT INTO kit_items (id, kind, name, serial, calibration_due, nulls_itself, accuracies, stated_values, look_lines, check_lines, drifts)
                SELECT id, 'Instrument', left(name, 60), left(serial, 60), calibration_due, true, accuracies, '[]', '{}', '{}', '{}' FROM instruments;
                INSERT INTO kit_items (id, kind, name, nulls_itself, null_ohm, nulled_at, accuracies, stated_values, look_lines, check_lines, drifts)
                SELECT gen_random_uuid(), 'TestLead', left(test_lead_name, 60), true, null_ohm, nulled_at, '[]', '[]', '{}', '{}', '{}' FROM instruments;
                DROP TABLE instruments;
                CREATE TRIGGER kit_checks_are_kept BEFORE UPDATE OR DELETE ON kit_checks FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER kit_checks_are_not_emptied BEFORE TRUNCATE ON kit_checks EXECUTE FUNCTION refuse_any_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "kit_checks");

            migrationBuilder.DropTable(
                name: "kits_of_day");

            migrationBuilder.DropTable(
                name: "person_competences");

            migrationBuilder.DropTable(
                name: "review_flags");

            migrationBuilder.DropTable(
                name: "kit_items");

            migrationBuilder.DropIndex(
                name: "ix_inspections_instrument_id_tested_at",
                table: "inspections");

            migrationBuilder.DropColumn(
                name: "instrument_id",
                table: "inspections");

            migrationBuilder.CreateTable(
                name: "instruments",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    accuracies = table.Column<string>(type: "json", nullable: false),
                    calibration_due = table.Column<DateOnly>(type: "date", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    null_ohm = table.Column<double>(type: "double precision", nullable: true),
                    nulled_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    serial = table.Column<string>(type: "text", nullable: false),
                    test_lead_name = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_instruments", x => x.id);
                });
        }
    }
}
