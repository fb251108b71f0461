using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
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

            // Whoever writes a trace tells the indices of it, and what its words are. They are read anew.
            migrationBuilder.Sql(
                """
                DROP TRIGGER traces_told;
                DROP TRIGGER traces_gone;
                DROP TRIGGER traces_unnumbered;
                DROP TRIGGER traces_numbered;
                DROP TABLE trace_words;
                DELETE FROM traces;
                DELETE FROM terms;
                INSERT INTO trace_pieces (trace_pieces) VALUES ('delete-all');
                UPDATE readers SET "Position" = 0 WHERE "Name" = 'traces';
                ALTER TABLE traces ADD COLUMN "Words" TEXT NOT NULL DEFAULT '';
                CREATE VIRTUAL TABLE trace_words USING fts5(
                    "Words", content='traces', content_rowid='Id', prefix='2 3', tokenize="ascii"
                );
                """
            );

            migrationBuilder.CreateIndex(
                name: "for_later",
                table: "orders",
                column: "Number",
                filter: "\"Later\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                DROP INDEX here;
                DROP INDEX called;
                DROP TABLE trace_words;
                DELETE FROM traces;
                DELETE FROM terms;
                INSERT INTO trace_pieces (trace_pieces) VALUES ('delete-all');
                UPDATE readers SET "Position" = 0 WHERE "Name" = 'traces';
                ALTER TABLE traces DROP COLUMN "Words";
                CREATE VIRTUAL TABLE trace_words USING fts5(
                    "Text", content='traces', content_rowid='Id', prefix='2 3', tokenize="unicode61 remove_diacritics 2"
                );
                CREATE TRIGGER traces_told AFTER INSERT ON traces BEGIN
                    INSERT INTO trace_words(rowid, "Text") VALUES (new."Id", new."Text");
                END;
                CREATE TRIGGER traces_gone AFTER DELETE ON traces BEGIN
                    INSERT INTO trace_words(trace_words, rowid, "Text") VALUES ('delete', old."Id", old."Text");
                END;
                CREATE TRIGGER traces_unnumbered AFTER DELETE ON traces
                WHEN old."Kind" IN ('Machine', 'Module', 'Drive', 'Part') BEGIN
                    INSERT INTO trace_pieces(trace_pieces, rowid, "Text") VALUES ('delete', old."Id", old."Text");
                END;
                CREATE TRIGGER traces_numbered AFTER INSERT ON traces
                WHEN new."Kind" IN ('Machine', 'Module', 'Drive', 'Part') BEGIN
                    INSERT INTO trace_pieces(rowid, "Text") VALUES (new."Id", new."Text");
                END;
                """
            );

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
