using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class RoundsInHand : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_due",
                table: "items");

            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<string>(
                name: "lock_left",
                table: "items",
                type: "character varying(700)",
                maxLength: 700,
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "is_gone",
                table: "items",
                type: "boolean",
                nullable: false,
                computedColumnSql: "state IN ('Scrapped', 'Lost')",
                stored: true);

            migrationBuilder.AddColumn<string>(
                name: "words",
                table: "items",
                type: "text",
                nullable: false,
                computedColumnSql: "tag || E'\n' || name || E'\n' || room || E'\n' || coalesce(maker, '') || E'\n' || coalesce(model, '') || E'\n' || coalesce(serial, '')",
                stored: true);

            migrationBuilder.CreateIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items",
                columns: new[] { "is_gone", "due", "tag" });

            migrationBuilder.CreateIndex(
                name: "ix_items_lock_left",
                table: "items",
                column: "lock_left",
                filter: "lock_left IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" });

            migrationBuilder.CreateIndex(
                name: "ix_items_words",
                table: "items",
                column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_inspections_round_id_item_id",
                table: "inspections",
                columns: new[] { "round_id", "item_id" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_is_gone_due_tag",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_lock_left",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_state_due_site_id",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_items_words",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_inspections_round_id_item_id",
                table: "inspections");

            migrationBuilder.DropColumn(
                name: "is_gone",
                table: "items");

            migrationBuilder.DropColumn(
                name: "words",
                table: "items");

            migrationBuilder.DropColumn(
                name: "lock_left",
                table: "items");

            migrationBuilder.AlterDatabase()
                .OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.CreateIndex(
                name: "ix_items_due",
                table: "items",
                column: "due");
        }
    }
}
