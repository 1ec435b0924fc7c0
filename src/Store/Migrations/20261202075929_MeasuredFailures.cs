using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class MeasuredFailures : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "null_reason",
                table: "kit_items");

            migrationBuilder.CreateTable(
                name: "measured_failures",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    item_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    person = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    step = table.Column<string>(type: "text", nullable: false),
                    point = table.Column<string>(type: "text", nullable: true),
                    @class = table.Column<string>(name: "class", type: "character varying(40)", maxLength: 40, nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    value = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_measured_failures", x => x.id);
                    table.ForeignKey(
                        name: "fk_measured_failures_items_item_id",
                        column: x => x.item_id,
                        principalTable: "items",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "settled_failures",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    failure_id = table.Column<Guid>(type: "uuid", nullable: false),
                    record_id = table.Column<Guid>(type: "uuid", nullable: true),
                    person = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    words = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_settled_failures", x => x.id);
                    table.ForeignKey(
                        name: "fk_settled_failures_inspections_record_id",
                        column: x => x.record_id,
                        principalTable: "inspections",
                        principalColumn: "id");
                    table.ForeignKey(
                        name: "fk_settled_failures_measured_failures_failure_id",
                        column: x => x.failure_id,
                        principalTable: "measured_failures",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_measured_failures_item_id",
                table: "measured_failures",
                column: "item_id");

            migrationBuilder.CreateIndex(
                name: "ix_settled_failures_failure_id",
                table: "settled_failures",
                column: "failure_id");

            migrationBuilder.CreateIndex(
                name: "ix_settled_failures_record_id",
                table: "settled_failures",
                column: "record_id");

            migrationBuilder.RunFile("failures-written-once.sql");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "settled_failures");

            migrationBuilder.DropTable(
                name: "measured_failures");

            migrationBuilder.AddColumn<string>(
                name: "null_reason",
                table: "kit_items",
                type: "character varying(300)",
                maxLength: 300,
                nullable: true);
        }
    }
}
