using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class HandedSheets : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn(
                name: "lead_name",
                table: "instruments",
                newName: "test_lead_name");

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

            migrationBuilder.CreateIndex(
                name: "ix_handed_sheets_ended_at",
                table: "handed_sheets",
                column: "ended_at");

            migrationBuilder.CreateIndex(
                name: "ix_handed_sheets_item_id",
                table: "handed_sheets",
                column: "item_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "handed_sheets");

            migrationBuilder.RenameColumn(
                name: "test_lead_name",
                table: "instruments",
                newName: "lead_name");
        }
    }
}
