using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Traces : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // The engine's own tables, no entities: an index of the beginnings of words, one of pieces of serials,
            // and what words there are.
            migrationBuilder.Sql(
                """
                CREATE TABLE traces ("Id" INTEGER PRIMARY KEY, "Kind" TEXT NOT NULL, "Text" TEXT NOT NULL);
                CREATE VIRTUAL TABLE trace_words USING fts5(
                    "Text", content='traces', content_rowid='Id', prefix='2 3', tokenize="unicode61 remove_diacritics 2"
                );
                CREATE VIRTUAL TABLE trace_pieces USING fts5(
                    "Text", content='traces', content_rowid='Id', tokenize="trigram"
                );
                CREATE VIRTUAL TABLE trace_terms USING fts5vocab(trace_words, 'row');
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
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                "DROP TABLE trace_terms; DROP TABLE trace_pieces; DROP TABLE trace_words; DROP TABLE traces;"
            );
        }
    }
}
