using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class OutletsAndLookList : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "fixings",
                table: "clients",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "LeaveIn");

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

            migrationBuilder.CreateIndex(
                name: "ix_outlet_checks_site_id_day",
                table: "outlet_checks",
                columns: new[] { "site_id", "day" });

            migrationBuilder.Sql(
                """
                CREATE TRIGGER outlet_checks_are_kept BEFORE UPDATE OR DELETE ON outlet_checks FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER outlet_checks_are_not_emptied BEFORE TRUNCATE ON outlet_checks EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER look_changes_are_kept BEFORE UPDATE OR DELETE ON look_changes FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER look_changes_are_not_emptied BEFORE TRUNCATE ON look_changes EXECUTE FUNCTION refuse_any_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "look_changes");

            migrationBuilder.DropTable(
                name: "outlet_checks");

            migrationBuilder.DropColumn(
                name: "fixings",
                table: "clients");
        }
    }
}
