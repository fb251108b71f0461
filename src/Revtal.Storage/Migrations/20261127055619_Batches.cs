using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Batches : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "Batch",
                table: "orders",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_orders_Batch",
                table: "orders",
                column: "Batch");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_orders_Batch",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "Batch",
                table: "orders");
        }
    }
}
