using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class GroupDecisions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
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

            migrationBuilder.CreateIndex(
                name: "ix_group_decisions_kind_place_number",
                table: "group_decisions",
                columns: new[] { "kind", "place", "number" },
                unique: true);

            migrationBuilder.Sql(
                """
                CREATE TRIGGER group_decisions_are_kept BEFORE UPDATE OR DELETE ON group_decisions FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER group_decisions_are_not_emptied BEFORE TRUNCATE ON group_decisions EXECUTE FUNCTION refuse_any_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "group_decisions");
        }
    }
}
