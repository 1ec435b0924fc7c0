using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class CorrectionsIndex : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_inspections_corrects",
                table: "inspections");

            migrationBuilder.CreateIndex(
                name: "ix_inspections_corrects",
                table: "inspections",
                column: "corrects",
                unique: true,
                filter: "corrects IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_inspections_corrects",
                table: "inspections");

            migrationBuilder.CreateIndex(
                name: "ix_inspections_corrects",
                table: "inspections",
                column: "corrects",
                unique: true);
        }
    }
}
