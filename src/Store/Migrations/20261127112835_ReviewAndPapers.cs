using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class ReviewAndPapers : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "kept_papers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    paper = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    client_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(400)", maxLength: 400, nullable: false),
                    asked_by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    asked_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    state = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    done = table.Column<int>(type: "integer", nullable: false),
                    total = table.Column<int>(type: "integer", nullable: false),
                    beat_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    tries = table.Column<int>(type: "integer", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    trouble = table.Column<string>(type: "text", nullable: true),
                    is_signed = table.Column<bool>(type: "boolean", nullable: false),
                    up_to = table.Column<long>(type: "bigint", nullable: false),
                    bytes = table.Column<int>(type: "integer", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kept_papers", x => x.id);
                    table.ForeignKey(
                        name: "fk_kept_papers_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "reviewed_records",
                columns: table => new
                {
                    inspection_id = table.Column<Guid>(type: "uuid", nullable: false),
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    words = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_reviewed_records", x => x.inspection_id);
                    table.ForeignKey(
                        name: "fk_reviewed_records_inspections_inspection_id",
                        column: x => x.inspection_id,
                        principalTable: "inspections",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_reviewed_records_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "round_signatures",
                columns: table => new
                {
                    round_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: false),
                    words = table.Column<string>(type: "character varying(500)", maxLength: 500, nullable: false),
                    records = table.Column<int>(type: "integer", nullable: false),
                    last_number = table.Column<long>(type: "bigint", nullable: false),
                    last_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    is_own_work = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_round_signatures", x => x.round_id);
                    table.ForeignKey(
                        name: "fk_round_signatures_rounds_round_id",
                        column: x => x.round_id,
                        principalTable: "rounds",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "kept_paper_files",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    pdf = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kept_paper_files", x => x.id);
                    table.ForeignKey(
                        name: "fk_kept_paper_files_kept_papers_id",
                        column: x => x.id,
                        principalTable: "kept_papers",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_kept_papers_client_id_asked_at",
                table: "kept_papers",
                columns: new[] { "client_id", "asked_at" });

            migrationBuilder.CreateIndex(
                name: "ix_kept_papers_round_id_asked_at",
                table: "kept_papers",
                columns: new[] { "round_id", "asked_at" });

            migrationBuilder.CreateIndex(
                name: "ix_kept_papers_to_make",
                table: "kept_papers",
                column: "asked_at",
                filter: "state IN ('Waiting', 'Making')");

            migrationBuilder.CreateIndex(
                name: "ix_reviewed_records_round_id",
                table: "reviewed_records",
                column: "round_id");

            migrationBuilder.Sql(
                """
                CREATE TRIGGER reviewed_records_are_kept BEFORE UPDATE OR DELETE ON reviewed_records FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER reviewed_records_are_not_emptied BEFORE TRUNCATE ON reviewed_records EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER round_signatures_are_kept BEFORE UPDATE OR DELETE ON round_signatures FOR EACH ROW EXECUTE FUNCTION refuse_any_change();
                CREATE TRIGGER round_signatures_are_not_emptied BEFORE TRUNCATE ON round_signatures EXECUTE FUNCTION refuse_any_change();
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "kept_paper_files");

            migrationBuilder.DropTable(
                name: "reviewed_records");

            migrationBuilder.DropTable(
                name: "round_signatures");

            migrationBuilder.DropTable(
                name: "kept_papers");
        }
    }
}
