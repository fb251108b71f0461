using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Chain : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<byte[]>(
                name: "Hash",
                table: "orders",
                type: "BLOB",
                nullable: true);

            migrationBuilder.AddColumn<byte[]>(
                name: "Before",
                table: "entries",
                type: "BLOB",
                nullable: true);

            migrationBuilder.InsertData(
                table: "readers",
                columns: new[] { "Name", "Position" },
                values: new object[] { "rows", 0L });

            migrationBuilder.CreateIndex(
                name: "unchained",
                table: "orders",
                column: "Number",
                filter: "\"Hash\" IS NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "unchained",
                table: "orders");

            migrationBuilder.DeleteData(
                table: "readers",
                keyColumn: "Name",
                keyValue: "rows");

            migrationBuilder.DropColumn(
                name: "Hash",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "Before",
                table: "entries");
        }
    }
}
