using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class SystemMembers : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "part_of",
                table: "items",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_items_part_of",
                table: "items",
                column: "part_of",
                filter: "part_of IS NOT NULL");

            migrationBuilder.AddForeignKey(
                name: "fk_items_items_part_of",
                table: "items",
                column: "part_of",
                principalTable: "items",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_items_items_part_of",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_part_of",
                table: "items");

            migrationBuilder.DropColumn(
                name: "part_of",
                table: "items");
        }
    }
}
