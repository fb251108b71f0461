using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Later : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Later",
                table: "orders",
                type: "TEXT",
                nullable: true);

            // What plans left before is found as well.
            migrationBuilder.Sql(
                """
                UPDATE orders
                SET "Later" = (
                    SELECT json_extract(e."Body", '$.later.words')
                    FROM entries e
                    WHERE e."Order" = orders."Number" AND e."Kind" = 'plan-set/1'
                    ORDER BY e."Sequence" DESC
                    LIMIT 1)
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Later",
                table: "orders");
        }
    }
}
