using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class ReferencesAndMains : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<double>(
                name: "mains_hz",
                table: "sites",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "nominal_v",
                table: "sites",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "reference_values",
                table: "items",
                type: "json",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "mains_hz",
                table: "sites");

            migrationBuilder.DropColumn(
                name: "nominal_v",
                table: "sites");

            migrationBuilder.DropColumn(
                name: "reference_values",
                table: "items");
        }
    }
}
