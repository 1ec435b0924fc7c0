using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class Schedule : Migration
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

            migrationBuilder.AddColumn<DateOnly>(
                name: "crosses_on",
                table: "items",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "crossing",
                table: "items",
                type: "json",
                nullable: true);

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

            migrationBuilder.CreateTable(
                name: "calendar_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    token_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: true),
                    made_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    revoked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    read_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_calendar_links", x => x.id);
                    table.ForeignKey(
                        name: "fk_calendar_links_asp_net_users_person_id",
                        column: x => x.person_id,
                        principalTable: "AspNetUsers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_calendar_links_clients_client_id",
                        column: x => x.client_id,
                        principalTable: "clients",
                        principalColumn: "id");
                });

            migrationBuilder.CreateIndex(
                name: "ix_items_crosses_on",
                table: "items",
                column: "crosses_on",
                filter: "crosses_on < due AND state = 'InService'");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" },
                filter: "NOT is_loose")
                .Annotation("Npgsql:IndexInclude", new[] { "visual_due", "kind_word" });

            migrationBuilder.CreateIndex(
                name: "ix_inspections_tested_at",
                table: "inspections",
                column: "tested_at",
                filter: "bench_seconds IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "ix_calendar_links_client_id",
                table: "calendar_links",
                column: "client_id");

            migrationBuilder.CreateIndex(
                name: "ix_calendar_links_person_id",
                table: "calendar_links",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_calendar_links_token_hash",
                table: "calendar_links",
                column: "token_hash",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "bench_hours");

            migrationBuilder.DropTable(
                name: "calendar_links");

            migrationBuilder.DropIndex(
                name: "ix_items_crosses_on",
                table: "items");

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

            migrationBuilder.DropColumn(
                name: "crosses_on",
                table: "items");

            migrationBuilder.DropColumn(
                name: "crossing",
                table: "items");

            migrationBuilder.CreateIndex(
                name: "ix_items_state_due_site_id",
                table: "items",
                columns: new[] { "state", "due", "site_id" },
                filter: "NOT is_loose");
        }
    }
}
