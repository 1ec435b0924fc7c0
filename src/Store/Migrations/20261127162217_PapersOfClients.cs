using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class PapersOfClients : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_kept_papers_rounds_round_id",
                table: "kept_papers");

            migrationBuilder.RenameColumn(
                name: "is_signed",
                table: "kept_papers",
                newName: "is_for_client");

            migrationBuilder.AlterColumn<Guid>(
                name: "round_id",
                table: "kept_papers",
                type: "uuid",
                nullable: true,
                oldClrType: typeof(Guid),
                oldType: "uuid");

            migrationBuilder.AddForeignKey(
                name: "fk_kept_papers_clients_client_id",
                table: "kept_papers",
                column: "client_id",
                principalTable: "clients",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);

            migrationBuilder.AddForeignKey(
                name: "fk_kept_papers_rounds_round_id",
                table: "kept_papers",
                column: "round_id",
                principalTable: "rounds",
                principalColumn: "id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_kept_papers_clients_client_id",
                table: "kept_papers");

            migrationBuilder.DropForeignKey(
                name: "fk_kept_papers_rounds_round_id",
                table: "kept_papers");

            migrationBuilder.RenameColumn(
                name: "is_for_client",
                table: "kept_papers",
                newName: "is_signed");

            migrationBuilder.AlterColumn<Guid>(
                name: "round_id",
                table: "kept_papers",
                type: "uuid",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000"),
                oldClrType: typeof(Guid),
                oldType: "uuid",
                oldNullable: true);

            migrationBuilder.AddForeignKey(
                name: "fk_kept_papers_rounds_round_id",
                table: "kept_papers",
                column: "round_id",
                principalTable: "rounds",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);
        }
    }
}
