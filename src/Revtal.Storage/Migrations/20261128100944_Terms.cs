using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Terms : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // What words there are is counted beside the traces: asking the index takes a search for each.
            migrationBuilder.Sql(
                """
                DROP TABLE trace_terms;
                DELETE FROM traces;
                UPDATE readers SET "Position" = 0 WHERE "Name" = 'traces';
                """
            );
            migrationBuilder.CreateTable(
                name: "terms",
                columns: table => new
                {
                    Term = table.Column<string>(type: "TEXT", nullable: false),
                    Uses = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_terms", x => x.Term);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "terms");
        }
    }
}
