using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

#pragma warning disable CA1814 // Prefer jagged arrays over multidimensional

namespace Revtal.Storage.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class Begin : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "accounts",
                columns: table => new
                {
                    Person = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Password = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Failed = table.Column<int>(type: "integer", nullable: false),
                    LockedUntil = table.Column<long>(type: "bigint", nullable: true),
                    CodeKey = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    AsksCode = table.Column<bool>(type: "boolean", nullable: false),
                    LastStep = table.Column<long>(type: "bigint", nullable: false),
                    Recovery = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Pin = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    PinFailed = table.Column<int>(type: "integer", nullable: false),
                    PinLockedUntil = table.Column<long>(type: "bigint", nullable: true),
                    Badge = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Mail = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    MailFault = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_accounts", x => x.Person);
                });

            migrationBuilder.CreateTable(
                name: "arrivals",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    CodeHash = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Until = table.Column<long>(type: "bigint", nullable: true),
                    Capture = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    CameAt = table.Column<long>(type: "bigint", nullable: true),
                    Order = table.Column<int>(type: "integer", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_arrivals", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "audit",
                columns: table => new
                {
                    Position = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    What = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    About = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    From = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_audit", x => x.Position);
                });

            migrationBuilder.CreateTable(
                name: "captures",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Content = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_captures", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "door_keys",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_door_keys", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "dummies",
                columns: table => new
                {
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_dummies", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "entries",
                columns: table => new
                {
                    Position = table.Column<long>(type: "bigint", nullable: false),
                    Order = table.Column<int>(type: "integer", nullable: false),
                    Sequence = table.Column<int>(type: "integer", nullable: false),
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Body = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Print = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    SaidAt = table.Column<long>(type: "bigint", nullable: true),
                    ClockOff = table.Column<bool>(type: "boolean", nullable: true),
                    Before = table.Column<byte[]>(type: "bytea", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_entries", x => x.Position);
                });

            migrationBuilder.CreateTable(
                name: "guide_drafts",
                columns: table => new
                {
                    Code = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Yaml = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_guide_drafts", x => x.Code);
                });

            migrationBuilder.CreateTable(
                name: "guide_names",
                columns: table => new
                {
                    Code = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Build = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Reported = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_guide_names", x => new { x.Code, x.Name, x.Build });
                });

            migrationBuilder.CreateTable(
                name: "guides",
                columns: table => new
                {
                    Code = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Revision = table.Column<int>(type: "integer", nullable: false),
                    Yaml = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_guides", x => new { x.Code, x.Revision });
                });

            migrationBuilder.CreateTable(
                name: "notices",
                columns: table => new
                {
                    Position = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    Person = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Order = table.Column<int>(type: "integer", nullable: false),
                    Sequence = table.Column<int>(type: "integer", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    ReadAt = table.Column<long>(type: "bigint", nullable: true),
                    MailedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_notices", x => x.Position);
                });

            migrationBuilder.CreateTable(
                name: "orders",
                columns: table => new
                {
                    Number = table.Column<int>(type: "integer", nullable: false),
                    Head = table.Column<int>(type: "integer", nullable: false),
                    Open = table.Column<bool>(type: "boolean", nullable: false),
                    Stage = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Model = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Customer = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Serial = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ChangedAt = table.Column<long>(type: "bigint", nullable: false),
                    Card = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Way = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    RunMinutes = table.Column<int>(type: "integer", nullable: true),
                    Scores = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Later = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Batch = table.Column<int>(type: "integer", nullable: true),
                    Wants = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Hash = table.Column<byte[]>(type: "bytea", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_orders", x => x.Number);
                });

            migrationBuilder.CreateTable(
                name: "part_items",
                columns: table => new
                {
                    Id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Serial = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Cost = table.Column<decimal>(type: "numeric", nullable: true),
                    Supplier = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Place = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Order = table.Column<int>(type: "integer", nullable: true),
                    Position = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Kit = table.Column<long>(type: "bigint", nullable: true),
                    Grade = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Tested = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_part_items", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "part_kinds",
                columns: table => new
                {
                    Number = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Body = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Barcode = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Search = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Least = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_part_kinds", x => x.Number);
                });

            migrationBuilder.CreateTable(
                name: "people",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Role = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_people", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "pictures",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Content = table.Column<byte[]>(type: "bytea", nullable: false),
                    Small = table.Column<byte[]>(type: "bytea", nullable: false),
                    Width = table.Column<int>(type: "integer", nullable: false),
                    Height = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_pictures", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "readers",
                columns: table => new
                {
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Position = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_readers", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "requests",
                columns: table => new
                {
                    Key = table.Column<Guid>(type: "uuid", nullable: false),
                    Print = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Answer = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_requests", x => x.Key);
                });

            migrationBuilder.CreateTable(
                name: "sessions",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Person = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Looks = table.Column<bool>(type: "boolean", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    UsedAt = table.Column<long>(type: "bigint", nullable: false),
                    Tablet = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ExpiresAt = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_sessions", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "set_up_links",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Person = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ExpiresAt = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_set_up_links", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "stock_moves",
                columns: table => new
                {
                    Id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    Item = table.Column<long>(type: "bigint", nullable: false),
                    From = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    To = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Order = table.Column<int>(type: "integer", nullable: true),
                    Position = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Note = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Key = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_stock_moves", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "suggestions",
                columns: table => new
                {
                    Order = table.Column<int>(type: "integer", nullable: false),
                    Sequence = table.Column<int>(type: "integer", nullable: false),
                    Code = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Step = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Change = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    DecidedBy = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_suggestions", x => new { x.Order, x.Sequence });
                });

            migrationBuilder.CreateTable(
                name: "tablets",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    LinkUntil = table.Column<long>(type: "bigint", nullable: true),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    EnrolledAt = table.Column<long>(type: "bigint", nullable: true),
                    UsedAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_tablets", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "terms",
                columns: table => new
                {
                    Term = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Uses = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_terms", x => x.Term);
                });

            migrationBuilder.CreateTable(
                name: "traces",
                columns: table => new
                {
                    Id = table.Column<long>(type: "bigint", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Words = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_traces", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "webhook_messages",
                columns: table => new
                {
                    Position = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Webhook = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Type = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Body = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Tries = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<long>(type: "bigint", nullable: false),
                    NextAt = table.Column<long>(type: "bigint", nullable: false),
                    TriedAt = table.Column<long>(type: "bigint", nullable: true),
                    Answer = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_webhook_messages", x => x.Position);
                });

            migrationBuilder.CreateTable(
                name: "webhooks",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Address = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Kinds = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    InWords = table.Column<bool>(type: "boolean", nullable: false),
                    Active = table.Column<bool>(type: "boolean", nullable: false),
                    Secret = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    OldSecret = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    OldUntil = table.Column<long>(type: "bigint", nullable: true),
                    Position = table.Column<long>(type: "bigint", nullable: false),
                    MadeAt = table.Column<long>(type: "bigint", nullable: false),
                    DeliveredAt = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_webhooks", x => x.Id);
                });

            migrationBuilder.InsertData(
                table: "readers",
                columns: new[] { "Name", "Position" },
                values: new object[,]
                {
                    { "rows", 0L },
                    { "traces", 0L }
                });

            migrationBuilder.CreateIndex(
                name: "IX_accounts_Badge",
                table: "accounts",
                column: "Badge",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_arrivals_CodeHash",
                table: "arrivals",
                column: "CodeHash");

            migrationBuilder.CreateIndex(
                name: "IX_arrivals_Order_At",
                table: "arrivals",
                columns: new[] { "Order", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_entries_Id",
                table: "entries",
                column: "Id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_entries_Order_Sequence",
                table: "entries",
                columns: new[] { "Order", "Sequence" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_guide_names_Name",
                table: "guide_names",
                column: "Name");

            migrationBuilder.CreateIndex(
                name: "IX_notices_Person_Position",
                table: "notices",
                columns: new[] { "Person", "Position" });

            migrationBuilder.CreateIndex(
                name: "unmailed",
                table: "notices",
                column: "At",
                filter: "\"MailedAt\" IS NULL AND \"ReadAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_orders_Batch",
                table: "orders",
                column: "Batch");

            migrationBuilder.CreateIndex(
                name: "IX_orders_Model_Way",
                table: "orders",
                columns: new[] { "Model", "Way" });

            migrationBuilder.CreateIndex(
                name: "IX_orders_Serial",
                table: "orders",
                column: "Serial");

            migrationBuilder.CreateIndex(
                name: "open_orders",
                table: "orders",
                column: "Number",
                filter: "\"Open\"");

            migrationBuilder.CreateIndex(
                name: "unchained",
                table: "orders",
                column: "Number",
                filter: "\"Hash\" IS NULL");

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
                name: "IX_sessions_Hash",
                table: "sessions",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_sessions_Person",
                table: "sessions",
                column: "Person");

            migrationBuilder.CreateIndex(
                name: "IX_stock_moves_Item",
                table: "stock_moves",
                column: "Item");

            migrationBuilder.CreateIndex(
                name: "IX_stock_moves_Key",
                table: "stock_moves",
                column: "Key");

            migrationBuilder.CreateIndex(
                name: "IX_suggestions_State_Code",
                table: "suggestions",
                columns: new[] { "State", "Code" });

            migrationBuilder.CreateIndex(
                name: "IX_tablets_Hash",
                table: "tablets",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_webhook_messages_Id",
                table: "webhook_messages",
                column: "Id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_webhook_messages_Webhook_State_NextAt",
                table: "webhook_messages",
                columns: new[] { "Webhook", "State", "NextAt" });

            // By what orders are found: words by the text search, pieces of serials by their trigrams.
            migrationBuilder.Sql(
                """
                CREATE EXTENSION IF NOT EXISTS pg_trgm;
                CREATE INDEX trace_words ON traces USING gin (array_to_tsvector(string_to_array("Words", ' ')));
                CREATE INDEX trace_pieces ON traces USING gin (lower("Text") gin_trgm_ops)
                    WHERE "Kind" IN ('Machine', 'Module', 'Drive', 'Part');
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "accounts");

            migrationBuilder.DropTable(
                name: "arrivals");

            migrationBuilder.DropTable(
                name: "audit");

            migrationBuilder.DropTable(
                name: "captures");

            migrationBuilder.DropTable(
                name: "door_keys");

            migrationBuilder.DropTable(
                name: "dummies");

            migrationBuilder.DropTable(
                name: "entries");

            migrationBuilder.DropTable(
                name: "guide_drafts");

            migrationBuilder.DropTable(
                name: "guide_names");

            migrationBuilder.DropTable(
                name: "guides");

            migrationBuilder.DropTable(
                name: "notices");

            migrationBuilder.DropTable(
                name: "orders");

            migrationBuilder.DropTable(
                name: "part_items");

            migrationBuilder.DropTable(
                name: "part_kinds");

            migrationBuilder.DropTable(
                name: "people");

            migrationBuilder.DropTable(
                name: "pictures");

            migrationBuilder.DropTable(
                name: "readers");

            migrationBuilder.DropTable(
                name: "requests");

            migrationBuilder.DropTable(
                name: "sessions");

            migrationBuilder.DropTable(
                name: "set_up_links");

            migrationBuilder.DropTable(
                name: "stock_moves");

            migrationBuilder.DropTable(
                name: "suggestions");

            migrationBuilder.DropTable(
                name: "tablets");

            migrationBuilder.DropTable(
                name: "terms");

            migrationBuilder.DropTable(
                name: "traces");

            migrationBuilder.DropTable(
                name: "webhook_messages");

            migrationBuilder.DropTable(
                name: "webhooks");
        }
    }
}
