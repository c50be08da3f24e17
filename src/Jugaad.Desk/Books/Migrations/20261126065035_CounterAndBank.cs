using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class CounterAndBank : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_BankLines_AccountId_Fingerprint",
                table: "BankLines");

            migrationBuilder.DropColumn(
                name: "Fingerprint",
                table: "BankLines");

            migrationBuilder.AddColumn<string>(
                name: "Currency",
                table: "Starters",
                type: "TEXT",
                maxLength: 3,
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "ItemId",
                table: "Journal",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "PaidExactly",
                table: "Documents",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "Format",
                table: "BankStatements",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "Returned",
                table: "BankLines",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "TillCounts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    AccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Expected = table.Column<long>(type: "INTEGER", nullable: false),
                    Counted = table.Column<long>(type: "INTEGER", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    UpToEntry = table.Column<int>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    BookingId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TillCounts", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TillCounts_Bookings_BookingId",
                        column: x => x.BookingId,
                        principalTable: "Bookings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_TillCounts_LedgerAccounts_AccountId",
                        column: x => x.AccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Journal_ItemId",
                table: "Journal",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_BankLines_AccountId_Date_Amount",
                table: "BankLines",
                columns: new[] { "AccountId", "Date", "Amount" });

            migrationBuilder.CreateIndex(
                name: "IX_TillCounts_AccountId",
                table: "TillCounts",
                column: "AccountId");

            migrationBuilder.CreateIndex(
                name: "IX_TillCounts_BookingId",
                table: "TillCounts",
                column: "BookingId");

            migrationBuilder.AddForeignKey(
                name: "FK_Journal_AccountItems_ItemId",
                table: "Journal",
                column: "ItemId",
                principalTable: "AccountItems",
                principalColumn: "Id",
                onDelete: ReferentialAction.SetNull);

            // What was taken over before is tied to its entry by what the entry says.
            migrationBuilder.Sql("UPDATE Journal SET ItemId = (SELECT i.Id FROM AccountItems i WHERE i.CustomerId = Journal.CustomerId AND i.Date = Journal.Date AND Journal.Text = 'Taken over: ' || i.Number AND i.DocumentId IS NULL AND i.ReceiptId IS NULL AND i.BookingId IS NULL) WHERE Event = 'OpeningItem'");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Journal_AccountItems_ItemId",
                table: "Journal");

            migrationBuilder.DropTable(
                name: "TillCounts");

            migrationBuilder.DropIndex(
                name: "IX_Journal_ItemId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_BankLines_AccountId_Date_Amount",
                table: "BankLines");

            migrationBuilder.DropColumn(
                name: "Currency",
                table: "Starters");

            migrationBuilder.DropColumn(
                name: "ItemId",
                table: "Journal");

            migrationBuilder.DropColumn(
                name: "PaidExactly",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Format",
                table: "BankStatements");

            migrationBuilder.DropColumn(
                name: "Returned",
                table: "BankLines");

            migrationBuilder.AddColumn<string>(
                name: "Fingerprint",
                table: "BankLines",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateIndex(
                name: "IX_BankLines_AccountId_Fingerprint",
                table: "BankLines",
                columns: new[] { "AccountId", "Fingerprint" },
                unique: true);
        }
    }
}
