using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Parts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_orders_Model_Number",
                table: "orders");

            migrationBuilder.AddColumn<int>(
                name: "RunMinutes",
                table: "orders",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Wants",
                table: "orders",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Way",
                table: "orders",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "part_items",
                columns: table => new
                {
                    Id = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Cost = table.Column<decimal>(type: "TEXT", nullable: true),
                    Supplier = table.Column<string>(type: "TEXT", nullable: true),
                    Place = table.Column<string>(type: "TEXT", nullable: true),
                    Order = table.Column<int>(type: "INTEGER", nullable: true),
                    Position = table.Column<string>(type: "TEXT", nullable: true),
                    Kit = table.Column<long>(type: "INTEGER", nullable: true),
                    Grade = table.Column<string>(type: "TEXT", nullable: true),
                    Tested = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_part_items", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "part_kinds",
                columns: table => new
                {
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    Barcode = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_part_kinds", x => x.Number);
                });

            migrationBuilder.CreateTable(
                name: "stock_moves",
                columns: table => new
                {
                    Id = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Item = table.Column<long>(type: "INTEGER", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: true),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    Order = table.Column<int>(type: "INTEGER", nullable: true),
                    Position = table.Column<string>(type: "TEXT", nullable: true),
                    Note = table.Column<string>(type: "TEXT", nullable: true),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Key = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_stock_moves", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_orders_Model_Way",
                table: "orders",
                columns: new[] { "Model", "Way" });

            migrationBuilder.CreateIndex(
                name: "IX_orders_Serial",
                table: "orders",
                column: "Serial");

            migrationBuilder.CreateIndex(
                name: "IX_part_items_Kind_Serial",
                table: "part_items",
                columns: new[] { "Kind", "Serial" },
                unique: true,
                filter: "\"Serial\" IS NOT NULL AND \"State\" NOT IN ('Sold', 'Returned', 'Scrapped')");

            migrationBuilder.CreateIndex(
                name: "IX_part_items_Kind_State",
                table: "part_items",
                columns: new[] { "Kind", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_part_items_Order",
                table: "part_items",
                column: "Order");

            migrationBuilder.CreateIndex(
                name: "IX_part_kinds_Barcode",
                table: "part_kinds",
                column: "Barcode");

            migrationBuilder.CreateIndex(
                name: "IX_stock_moves_Item",
                table: "stock_moves",
                column: "Item");

            migrationBuilder.CreateIndex(
                name: "IX_stock_moves_Key",
                table: "stock_moves",
                column: "Key");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "part_items");

            migrationBuilder.DropTable(
                name: "part_kinds");

            migrationBuilder.DropTable(
                name: "stock_moves");

            migrationBuilder.DropIndex(
                name: "IX_orders_Model_Way",
                table: "orders");

            migrationBuilder.DropIndex(
                name: "IX_orders_Serial",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "RunMinutes",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "Wants",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "Way",
                table: "orders");

            migrationBuilder.CreateIndex(
                name: "IX_orders_Model_Number",
                table: "orders",
                columns: new[] { "Model", "Number" });
        }
    }
}
