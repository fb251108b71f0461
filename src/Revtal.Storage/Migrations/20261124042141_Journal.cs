using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Journal : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "captures",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Content = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_captures", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "entries",
                columns: table => new
                {
                    Position = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Order = table.Column<int>(type: "INTEGER", nullable: false),
                    Sequence = table.Column<int>(type: "INTEGER", nullable: false),
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    Print = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_entries", x => x.Position);
                });

            migrationBuilder.CreateTable(
                name: "guides",
                columns: table => new
                {
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    Revision = table.Column<int>(type: "INTEGER", nullable: false),
                    Yaml = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_guides", x => new { x.Code, x.Revision });
                });

            migrationBuilder.CreateTable(
                name: "orders",
                columns: table => new
                {
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    Head = table.Column<int>(type: "INTEGER", nullable: false),
                    Open = table.Column<bool>(type: "INTEGER", nullable: false),
                    Stage = table.Column<string>(type: "TEXT", nullable: false),
                    Model = table.Column<string>(type: "TEXT", nullable: false),
                    Customer = table.Column<string>(type: "TEXT", nullable: false),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    ChangedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Card = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_orders", x => x.Number);
                });

            migrationBuilder.CreateTable(
                name: "people",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Role = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_people", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_entries_Id",
                table: "entries",
                column: "Id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_entries_Order_Sequence",
                table: "entries",
                columns: new[] { "Order", "Sequence" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_orders_Model_Number",
                table: "orders",
                columns: new[] { "Model", "Number" });

            migrationBuilder.CreateIndex(
                name: "open_orders",
                table: "orders",
                column: "Number",
                filter: "\"Open\"");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "captures");

            migrationBuilder.DropTable(
                name: "entries");

            migrationBuilder.DropTable(
                name: "guides");

            migrationBuilder.DropTable(
                name: "orders");

            migrationBuilder.DropTable(
                name: "people");
        }
    }
}
