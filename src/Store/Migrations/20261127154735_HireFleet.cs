using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class HireFleet : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "hire_tests",
                table: "clients",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "EachIssue");

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

            migrationBuilder.CreateIndex(
                name: "ix_hire_moves_item_id_number",
                table: "hire_moves",
                columns: new[] { "item_id", "number" },
                unique: true);

            migrationBuilder.Sql(
                """
                CREATE TRIGGER hire_moves_are_kept BEFORE UPDATE OR DELETE ON hire_moves FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER hire_moves_are_not_emptied BEFORE TRUNCATE ON hire_moves EXECUTE FUNCTION refuse_any_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "hire_items");

            migrationBuilder.DropTable(
                name: "hire_moves");

            migrationBuilder.DropColumn(
                name: "hire_tests",
                table: "clients");
        }
    }
}
