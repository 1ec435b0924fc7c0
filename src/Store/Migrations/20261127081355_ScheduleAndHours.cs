using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class ScheduleAndHours : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_items_state_due_site_id",
                table: "items");

            migrationBuilder.AddColumn<int>(
                name: "travel_minutes",
                table: "sites",
                type: "integer",
                nullable: false,
                defaultValue: 30);

            migrationBuilder.AddColumn<string>(
                name: "kind_word",
                table: "items",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                computedColumnSql: "coalesce(equipment->>'kind', 'appliance')",
                stored: true);

            migrationBuilder.CreateTable(
                name: "bench_hours",
                columns: table => new
                {
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    minutes = table.Column<int[]>(type: "integer[]", nullable: false),
                    days_off = table.Column<DateOnly[]>(type: "date[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bench_hours", x => x.person_id);
                    table.ForeignKey(
                        name: "fk_bench_hours_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" },
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "visual_due", "kind_word" });

            migrationBuilder.CreateIndex(
                name: "ix_inspections_tested_at",
                table: "inspections",
                column: "tested_at");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "bench_hours");

            migrationBuilder.DropIndex(
                name: "ix_items_state_due_site_id",
                table: "items");

            migrationBuilder.DropIndex(
                name: "ix_inspections_tested_at",
                table: "inspections");

            migrationBuilder.DropColumn(
                name: "kind_word",
                table: "items");

            migrationBuilder.DropColumn(
                name: "travel_minutes",
                table: "sites");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" },
                filter: "NOT is_loose");
        }
    }
}
