using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <summary>
    /// The writer numbers the entries. Written by hand: what the tool makes of it is several transactions, and a start
    /// that is killed between two of them could not go on.
    /// </summary>
    public partial class Positions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) => Rebuild(migrationBuilder, "");

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => Rebuild(migrationBuilder, " AUTOINCREMENT");

        private static void Rebuild(MigrationBuilder migrationBuilder, string numbering) =>
            migrationBuilder.Sql(
                $"""
                CREATE TABLE "entries_anew" (
                    "Position" INTEGER NOT NULL CONSTRAINT "PK_entries" PRIMARY KEY{numbering},
                    "Order" INTEGER NOT NULL,
                    "Sequence" INTEGER NOT NULL,
                    "Id" TEXT NOT NULL,
                    "Kind" TEXT NOT NULL,
                    "At" INTEGER NOT NULL,
                    "By" TEXT NOT NULL,
                    "Body" TEXT NOT NULL,
                    "Print" TEXT NOT NULL
                );
                INSERT INTO "entries_anew"
                SELECT "Position", "Order", "Sequence", "Id", "Kind", "At", "By", "Body", "Print"
                FROM "entries"
                ORDER BY "Position";
                DROP TABLE "entries";
                ALTER TABLE "entries_anew" RENAME TO "entries";
                CREATE UNIQUE INDEX "IX_entries_Order_Sequence" ON "entries" ("Order", "Sequence");
                CREATE UNIQUE INDEX "IX_entries_Id" ON "entries" ("Id");
                """
            );
    }
}
