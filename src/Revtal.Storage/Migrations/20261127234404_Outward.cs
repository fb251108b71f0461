using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Revtal.Storage.Migrations
{
    /// <inheritdoc />
    public partial class Outward : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "MailedAt",
                table: "notices",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Mail",
                table: "accounts",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "MailFault",
                table: "accounts",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "webhook_messages",
                columns: table => new
                {
                    Position = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Webhook = table.Column<string>(type: "TEXT", nullable: false),
                    Type = table.Column<string>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Tries = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    NextAt = table.Column<long>(type: "INTEGER", nullable: false),
                    TriedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Answer = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_webhook_messages", x => x.Position);
                });

            migrationBuilder.CreateTable(
                name: "webhooks",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Address = table.Column<string>(type: "TEXT", nullable: false),
                    Kinds = table.Column<string>(type: "TEXT", nullable: false),
                    InWords = table.Column<bool>(type: "INTEGER", nullable: false),
                    Active = table.Column<bool>(type: "INTEGER", nullable: false),
                    Secret = table.Column<string>(type: "TEXT", nullable: false),
                    OldSecret = table.Column<string>(type: "TEXT", nullable: true),
                    OldUntil = table.Column<long>(type: "INTEGER", nullable: true),
                    Position = table.Column<long>(type: "INTEGER", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false),
                    DeliveredAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_webhooks", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "unmailed",
                table: "notices",
                column: "At",
                filter: "\"MailedAt\" IS NULL AND \"ReadAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_webhook_messages_Id",
                table: "webhook_messages",
                column: "Id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_webhook_messages_Webhook_State_NextAt",
                table: "webhook_messages",
                columns: new[] { "Webhook", "State", "NextAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "webhook_messages");

            migrationBuilder.DropTable(
                name: "webhooks");

            migrationBuilder.DropIndex(
                name: "unmailed",
                table: "notices");

            migrationBuilder.DropColumn(
                name: "MailedAt",
                table: "notices");

            migrationBuilder.DropColumn(
                name: "Mail",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "MailFault",
                table: "accounts");
        }
    }
}
