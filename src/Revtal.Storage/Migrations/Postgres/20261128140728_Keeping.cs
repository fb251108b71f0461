using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Keeping : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "day_heads",
                columns: table => new
                {
                    Day = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Position = table.Column<long>(type: "bigint", nullable: false),
                    Hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Signature = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_day_heads", x => x.Day);
                });

            migrationBuilder.CreateTable(
                name: "instances",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Version = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    BeganAt = table.Column<long>(type: "bigint", nullable: false),
                    SeenAt = table.Column<long>(type: "bigint", nullable: false),
                    Position = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_instances", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "store_tasks",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    BeganAt = table.Column<long>(type: "bigint", nullable: false),
                    ToldAt = table.Column<long>(type: "bigint", nullable: false),
                    EndedAt = table.Column<long>(type: "bigint", nullable: true),
                    Body = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_store_tasks", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_store_tasks_Kind_BeganAt",
                table: "store_tasks",
                columns: new[] { "Kind", "BeganAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "day_heads");

            migrationBuilder.DropTable(
                name: "instances");

            migrationBuilder.DropTable(
                name: "store_tasks");
        }
    }
}
