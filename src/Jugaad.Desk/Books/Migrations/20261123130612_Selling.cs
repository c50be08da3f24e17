using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Selling : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "FileIds",
                table: "Post",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "LinkOnly",
                table: "Post",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Marks",
                table: "Post",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Way",
                table: "Post",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "Mail");

            migrationBuilder.AddColumn<string>(
                name: "PublicAddress",
                table: "MailSettings",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<long>(
                name: "CashStep",
                table: "Documents",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "ClosedOn",
                table: "Documents",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ClosedReason",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "IsReplaced",
                table: "Documents",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "LostBy",
                table: "Documents",
                type: "TEXT",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "PaidWords",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Particulars_Carrier",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Particulars_Corrects",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<DateOnly>(
                name: "Particulars_DeliveredFrom",
                table: "Documents",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "Particulars_DeliveredUntil",
                table: "Documents",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Particulars_DeliveryTerms",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<DateOnly>(
                name: "Particulars_FollowUp",
                table: "Documents",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Particulars_Opening",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Particulars_Project",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Particulars_Reason",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Particulars_Reference",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "Particulars_SellerId",
                table: "Documents",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "RevisesId",
                table: "Documents",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Revision",
                table: "Documents",
                type: "INTEGER",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<long>(
                name: "Base",
                table: "DocumentLine",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "Before",
                table: "DocumentLine",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "Choice",
                table: "DocumentLine",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "Firm");

            migrationBuilder.AddColumn<bool>(
                name: "Chosen",
                table: "DocumentLine",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "FromChargeId",
                table: "DocumentLine",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Role",
                table: "DocumentLine",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "Item");

            migrationBuilder.AddColumn<long>(
                name: "Before",
                table: "DocumentCharge",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "FromChargeId",
                table: "DocumentCharge",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "CashStep",
                table: "Businesses",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "CounterCustomerId",
                table: "Businesses",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "DocumentFiles",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Content = table.Column<byte[]>(type: "BLOB", nullable: false),
                    AddedBy = table.Column<string>(type: "TEXT", nullable: false),
                    GoesAlong = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DocumentFiles", x => x.Id);
                    table.ForeignKey(
                        name: "FK_DocumentFiles_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "DocumentLinks",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: false),
                    Token = table.Column<string>(type: "TEXT", nullable: false),
                    FirstSeen = table.Column<DateTime>(type: "TEXT", nullable: true),
                    LastSeen = table.Column<DateTime>(type: "TEXT", nullable: true),
                    TimesSeen = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DocumentLinks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_DocumentLinks_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "MailWords",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Text = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_MailWords", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Shelf",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Who = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: true),
                    Form = table.Column<string>(type: "TEXT", nullable: false),
                    Customer = table.Column<string>(type: "TEXT", nullable: false),
                    Total = table.Column<string>(type: "TEXT", nullable: false),
                    Since = table.Column<DateTime>(type: "TEXT", nullable: false),
                    OnShelf = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Shelf", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "StandingInvoices",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    Content = table.Column<string>(type: "TEXT", nullable: false),
                    PricesOfTheDay = table.Column<bool>(type: "INTEGER", nullable: false),
                    Way = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    TellBefore = table.Column<int>(type: "INTEGER", nullable: false),
                    TellAfter = table.Column<int>(type: "INTEGER", nullable: false),
                    Paused = table.Column<bool>(type: "INTEGER", nullable: false),
                    Next = table.Column<int>(type: "INTEGER", nullable: false),
                    Problem = table.Column<string>(type: "TEXT", nullable: false),
                    CreatedBy = table.Column<string>(type: "TEXT", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false),
                    Offset = table.Column<int>(type: "INTEGER", nullable: false),
                    Schedule_Every = table.Column<int>(type: "INTEGER", nullable: false),
                    Schedule_First = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Schedule_Pace = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Schedule_Times = table.Column<int>(type: "INTEGER", nullable: true),
                    Schedule_Until = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StandingInvoices", x => x.Id);
                    table.ForeignKey(
                        name: "FK_StandingInvoices_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Starters",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    About = table.Column<string>(type: "TEXT", nullable: false),
                    Content = table.Column<string>(type: "TEXT", nullable: false),
                    Retired = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Starters", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "StandingOccurrences",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    StandingInvoiceId = table.Column<int>(type: "INTEGER", nullable: false),
                    Index = table.Column<int>(type: "INTEGER", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StandingOccurrences", x => x.Id);
                    table.ForeignKey(
                        name: "FK_StandingOccurrences_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_StandingOccurrences_StandingInvoices_StandingInvoiceId",
                        column: x => x.StandingInvoiceId,
                        principalTable: "StandingInvoices",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Documents_RevisesId",
                table: "Documents",
                column: "RevisesId");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLine_FromChargeId",
                table: "DocumentLine",
                column: "FromChargeId");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentCharge_FromChargeId",
                table: "DocumentCharge",
                column: "FromChargeId");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentFiles_DocumentId",
                table: "DocumentFiles",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLinks_DocumentId",
                table: "DocumentLinks",
                column: "DocumentId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLinks_Token",
                table: "DocumentLinks",
                column: "Token",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_MailWords_Text_Language",
                table: "MailWords",
                columns: new[] { "Text", "Language" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Shelf_OnShelf_Who",
                table: "Shelf",
                columns: new[] { "OnShelf", "Who" });

            migrationBuilder.CreateIndex(
                name: "IX_StandingInvoices_CustomerId",
                table: "StandingInvoices",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_StandingOccurrences_DocumentId",
                table: "StandingOccurrences",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_StandingOccurrences_StandingInvoiceId_Index",
                table: "StandingOccurrences",
                columns: new[] { "StandingInvoiceId", "Index" },
                unique: true);

            // What each line comes to less its share of the document's discount; without tax that is what it posts.
            migrationBuilder.Sql("""
                UPDATE "DocumentLine" SET "Base" = CASE
                    WHEN NOT (SELECT "PricesIncludeTax" FROM "Documents" WHERE "Documents"."Id" = "DocumentId") THEN "Net"
                    ELSE "Amount" - (SELECT CASE WHEN "Documents"."Discount" = 0 OR "Subtotal" = 0 THEN 0 ELSE CAST(ROUND(1.0 * "Documents"."Discount" * "DocumentLine"."Amount" / "Subtotal") AS INTEGER) END FROM "Documents" WHERE "Documents"."Id" = "DocumentId")
                END
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "DocumentFiles");

            migrationBuilder.DropTable(
                name: "DocumentLinks");

            migrationBuilder.DropTable(
                name: "MailWords");

            migrationBuilder.DropTable(
                name: "Shelf");

            migrationBuilder.DropTable(
                name: "StandingOccurrences");

            migrationBuilder.DropTable(
                name: "Starters");

            migrationBuilder.DropTable(
                name: "StandingInvoices");

            migrationBuilder.DropIndex(
                name: "IX_Documents_RevisesId",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_DocumentLine_FromChargeId",
                table: "DocumentLine");

            migrationBuilder.DropIndex(
                name: "IX_DocumentCharge_FromChargeId",
                table: "DocumentCharge");

            migrationBuilder.DropColumn(
                name: "FileIds",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "LinkOnly",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "Marks",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "Way",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "PublicAddress",
                table: "MailSettings");

            migrationBuilder.DropColumn(
                name: "CashStep",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "ClosedOn",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "ClosedReason",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "IsReplaced",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "LostBy",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "PaidWords",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_Carrier",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_Corrects",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_DeliveredFrom",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_DeliveredUntil",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_DeliveryTerms",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_FollowUp",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_Opening",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_Project",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_Reason",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_Reference",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Particulars_SellerId",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "RevisesId",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Revision",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Base",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "Before",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "Choice",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "Chosen",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "FromChargeId",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "Role",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "Before",
                table: "DocumentCharge");

            migrationBuilder.DropColumn(
                name: "FromChargeId",
                table: "DocumentCharge");

            migrationBuilder.DropColumn(
                name: "CashStep",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "CounterCustomerId",
                table: "Businesses");
        }
    }
}
