using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Arrivals : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "arrivals",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    CodeHash = table.Column<string>(type: "TEXT", nullable: true),
                    Until = table.Column<long>(type: "INTEGER", nullable: true),
                    Capture = table.Column<string>(type: "TEXT", nullable: true),
                    CameAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Order = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_arrivals", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "guide_names",
                columns: table => new
                {
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Build = table.Column<string>(type: "TEXT", nullable: false),
                    Reported = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_guide_names", x => new { x.Code, x.Name, x.Build });
                });

            migrationBuilder.CreateIndex(
                name: "IX_arrivals_CodeHash",
                table: "arrivals",
                column: "CodeHash");

            migrationBuilder.CreateIndex(
                name: "IX_arrivals_Order_At",
                table: "arrivals",
                columns: new[] { "Order", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_guide_names_Name",
                table: "guide_names",
                column: "Name");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "arrivals");

            migrationBuilder.DropTable(
                name: "guide_names");
        }
    }
}
