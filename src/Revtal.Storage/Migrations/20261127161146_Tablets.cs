using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Tablets : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Tablet",
                table: "sessions",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Badge",
                table: "accounts",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Pin",
                table: "accounts",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "PinFailed",
                table: "accounts",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "PinLockedUntil",
                table: "accounts",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "tablets",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    LinkUntil = table.Column<long>(type: "INTEGER", nullable: true),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    EnrolledAt = table.Column<long>(type: "INTEGER", nullable: true),
                    UsedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_tablets", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_accounts_Badge",
                table: "accounts",
                column: "Badge",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_tablets_Hash",
                table: "tablets",
                column: "Hash",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "tablets");

            migrationBuilder.DropIndex(
                name: "IX_accounts_Badge",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "Tablet",
                table: "sessions");

            migrationBuilder.DropColumn(
                name: "Badge",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "Pin",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "PinFailed",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "PinLockedUntil",
                table: "accounts");
        }
    }
}
