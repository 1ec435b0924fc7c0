using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class LooseItems : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_state_due_site_id",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_tag",
                table: "items");

            migrationBuilder.AddColumn<bool>(
                name: "is_loose",
                table: "items",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "loose_since",
                table: "items",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "named_as",
                table: "items",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items",
                columns: new[] { "is_gone", "due", "tag" },
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });

            migrationBuilder.CreateIndex(
                name: "ix_items_named_as",
                table: "items",
                column: "named_as",
                filter: "named_as IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" },
                filter: "NOT is_loose");

            migrationBuilder.CreateIndex(
                name: "ix_items_tag",
                table: "items",
                column: "tag",
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_named_as",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_state_due_site_id",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_tag",
                table: "items");

            migrationBuilder.DropColumn(
                name: "is_loose",
                table: "items");

            migrationBuilder.DropColumn(
                name: "loose_since",
                table: "items");

            migrationBuilder.DropColumn(
                name: "named_as",
                table: "items");

            migrationBuilder.CreateIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items",
                columns: new[] { "is_gone", "due", "tag" })
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" });

            migrationBuilder.CreateIndex(
                name: "ix_items_tag",
                table: "items",
                column: "tag")
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });
        }
    }
}
