using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class LighterRecords : Migration
    {
        /// <summary>Records are read whole at every verification, and LZ4 unpacks several times as fast as what a database of before
        /// packs with. It holds for what is added from now on; a PostgreSQL that was built without it goes on as before.</summary>
        protected override void Up(MigrationBuilder migrationBuilder) => Pack(migrationBuilder, "lz4");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => Pack(migrationBuilder, "default");

        private static void Pack(MigrationBuilder migrationBuilder, string how) =>
            migrationBuilder.Sql(
                $"""
                DO $$ BEGIN
                    ALTER TABLE inspections ALTER COLUMN record SET COMPRESSION {how}, ALTER COLUMN taken SET COMPRESSION {how},
                        ALTER COLUMN before SET COMPRESSION {how}, ALTER COLUMN after SET COMPRESSION {how};
                EXCEPTION WHEN feature_not_supported THEN NULL;
                END $$
                """
            );
    }
}
