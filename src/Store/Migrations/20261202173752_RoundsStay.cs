using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class RoundsStay : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "ix_measured_failures_round_id",
                table: "measured_failures",
                column: "round_id");

            migrationBuilder.CreateIndex(
                name: "ix_handed_sheets_round_id",
                table: "handed_sheets",
                column: "round_id");

            migrationBuilder.CreateIndex(
                name: "ix_discarded_sheets_round_id",
                table: "discarded_sheets",
                column: "round_id");

            migrationBuilder.AddForeignKey(
                name: "fk_discarded_sheets_rounds_round_id",
                table: "discarded_sheets",
                column: "round_id",
                principalTable: "rounds",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_handed_sheets_rounds_round_id",
                table: "handed_sheets",
                column: "round_id",
                principalTable: "rounds",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_inspections_rounds_round_id",
                table: "inspections",
                column: "round_id",
                principalTable: "rounds",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_measured_failures_rounds_round_id",
                table: "measured_failures",
                column: "round_id",
                principalTable: "rounds",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_discarded_sheets_rounds_round_id",
                table: "discarded_sheets");

            migrationBuilder.DropForeignKey(
                name: "fk_handed_sheets_rounds_round_id",
                table: "handed_sheets");

            migrationBuilder.DropForeignKey(
                name: "fk_inspections_rounds_round_id",
                table: "inspections");

            migrationBuilder.DropForeignKey(
                name: "fk_measured_failures_rounds_round_id",
                table: "measured_failures");

            migrationBuilder.DropIndex(
                name: "ix_measured_failures_round_id",
                table: "measured_failures");

            migrationBuilder.DropIndex(
                name: "ix_handed_sheets_round_id",
                table: "handed_sheets");

            migrationBuilder.DropIndex(
                name: "ix_discarded_sheets_round_id",
                table: "discarded_sheets");
        }
    }
}
