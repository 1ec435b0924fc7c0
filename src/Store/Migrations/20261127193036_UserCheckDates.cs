using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Osierwand.Store.Migrations
{
    /// <inheritdoc />
    public partial class UserCheckDates : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateOnly>(
                name: "last_user_check_on",
                table: "items",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "use_word",
                table: "items",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                computedColumnSql: "coalesce(equipment->>'use', 'portable')",
                stored: true);

            // What users said before this column was.
            migrationBuilder.Sql(
                "UPDATE items SET last_user_check_on = said.day FROM "
                    + "(SELECT item_id, (max(at) AT TIME ZONE 'UTC')::date AS day FROM user_checks GROUP BY item_id) said "
                    + "WHERE said.item_id = items.id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "use_word",
                table: "items");

            migrationBuilder.DropColumn(
                name: "last_user_check_on",
                table: "items");
        }
    }
}
