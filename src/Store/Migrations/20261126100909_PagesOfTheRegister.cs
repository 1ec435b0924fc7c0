using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class PagesOfTheRegister : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items");

            migrationBuilder.CreateIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items",
                columns: new[] { "is_gone", "due", "tag" })
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });

            migrationBuilder.CreateIndex(
                name: "ix_items_tag",
                table: "items",
                column: "tag")
                .Annotation("Npgsql:IndexInclude", new[] { "id", "client_id" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_tag",
                table: "items");

            migrationBuilder.CreateIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items",
                columns: new[] { "is_gone", "due", "tag" });
        }
    }
}
