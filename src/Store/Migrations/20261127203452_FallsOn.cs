using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class FallsOn : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_state_due_site_id",
                table: "items");

            migrationBuilder.AddColumn<DateOnly>(
                name: "falls_on",
                table: "items",
                type: "date",
                nullable: false,
                computedColumnSql: "CASE WHEN due IS NULL THEN '-infinity'::date ELSE least(due, visual_due) END",
                stored: true);

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
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_state_due_site_id",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_state_falls_on_site_id",
                table: "items");

            migrationBuilder.DropColumn(
                name: "falls_on",
                table: "items");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" },
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "visual_due", "kind_word" });
        }
    }
}
