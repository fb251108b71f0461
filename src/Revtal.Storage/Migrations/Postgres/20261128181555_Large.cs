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

            // What was written lately waits in a list that each search reads through: a short one.
            migrationBuilder.Sql("ALTER INDEX trace_words SET (gin_pending_list_limit = 64)");
            migrationBuilder.Sql("ALTER INDEX trace_pieces SET (gin_pending_list_limit = 64)");
            migrationBuilder.Sql("SELECT gin_clean_pending_list('trace_words'), gin_clean_pending_list('trace_pieces')");

            migrationBuilder.CreateIndex(
                name: "for_later",
                table: "orders",
                column: "Number",
                filter: "\"Later\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("ALTER INDEX trace_words RESET (gin_pending_list_limit)");
            migrationBuilder.Sql("ALTER INDEX trace_pieces RESET (gin_pending_list_limit)");
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
