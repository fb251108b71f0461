using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Large : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_part_items_Kind_State",
                table: "part_items");

            migrationBuilder.CreateIndex(
                name: "IX_orders_Stage_Number",
                table: "orders",
                columns: new[] { "Stage", "Number" });

            // Numbers of parts are the same in any letters, which the model has no index for.
            migrationBuilder.Sql("CREATE INDEX here ON part_items (\"State\", upper(\"Kind\"))");
            migrationBuilder.Sql("CREATE INDEX called ON part_kinds (upper(\"Number\"))");

            migrationBuilder.CreateIndex(
                name: "for_later",
                table: "orders",
                column: "Number",
                filter: "\"Later\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP INDEX here");
            migrationBuilder.Sql("DROP INDEX called");

            migrationBuilder.DropIndex(
                name: "IX_orders_Stage_Number",
                table: "orders");

            migrationBuilder.DropIndex(
                name: "for_later",
                table: "orders");

            migrationBuilder.CreateIndex(
                name: "IX_part_items_Kind_State",
                table: "part_items",
                columns: new[] { "Kind", "State" });
        }
    }
}
