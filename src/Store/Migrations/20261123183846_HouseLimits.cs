using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class HouseLimits : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "hard_wired",
                table: "clients",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "InScope");

            migrationBuilder.AddColumn<string>(
                name: "medical_insulation",
                table: "clients",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "No");

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

            // House limits are a history: what a record names as "house.3" must be found in five years.
            migrationBuilder.Sql("""
                CREATE FUNCTION refuse_house_change() RETURNS trigger LANGUAGE plpgsql AS $$
                BEGIN
                    RAISE EXCEPTION 'Changes of house limits are never edited or deleted; make another change instead.' USING ERRCODE = 'restrict_violation';
                END $$;
                CREATE TRIGGER house_changes_are_kept BEFORE UPDATE OR DELETE ON house_changes FOR EACH ROW EXECUTE FUNCTION refuse_house_change();
                CREATE TRIGGER house_changes_are_not_emptied BEFORE TRUNCATE ON house_changes EXECUTE FUNCTION refuse_house_change();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                DROP TRIGGER house_changes_are_kept ON house_changes;
                DROP TRIGGER house_changes_are_not_emptied ON house_changes;
                DROP FUNCTION refuse_house_change;
                """);

            migrationBuilder.DropTable(
                name: "house_changes");

            migrationBuilder.DropColumn(
                name: "hard_wired",
                table: "clients");

            migrationBuilder.DropColumn(
                name: "medical_insulation",
                table: "clients");
        }
    }
}
