using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class LabelPrints : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "label_prints",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    batch_id = table.Column<Guid>(type: "uuid", nullable: false),
                    inspection_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    medium = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    reason = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_label_prints", x => x.id);
                    table.ForeignKey(
                        name: "fk_label_prints_inspections_inspection_id",
                        column: x => x.inspection_id,
                        principalTable: "inspections",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_label_prints_batch_id_inspection_id",
                table: "label_prints",
                columns: new[] { "batch_id", "inspection_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_label_prints_inspection_id",
                table: "label_prints",
                column: "inspection_id");

            migrationBuilder.Sql(
                """
                CREATE TRIGGER label_prints_are_kept BEFORE UPDATE OR DELETE ON label_prints FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER label_prints_are_not_emptied BEFORE TRUNCATE ON label_prints EXECUTE FUNCTION refuse_any_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "label_prints");
        }
    }
}
