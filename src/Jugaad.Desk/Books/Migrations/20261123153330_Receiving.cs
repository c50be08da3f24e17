using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Receiving : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "BookingId",
                table: "Receipts",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "CameOn",
                table: "Receipts",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "IsUndone",
                table: "Receipts",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Way",
                table: "Receipts",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "BookingId",
                table: "Journal",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "IsMirrored",
                table: "Journal",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<DateOnly>(
                name: "ClosedUpTo",
                table: "Businesses",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "EarlyPaymentLeavesTax",
                table: "Businesses",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "SmallDifference",
                table: "Businesses",
                type: "INTEGER",
                nullable: false,
                defaultValue: 100L);

            migrationBuilder.AddColumn<int>(
                name: "BookingId",
                table: "Allocations",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "EndedById",
                table: "Allocations",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "Until",
                table: "Allocations",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "BookingId",
                table: "AccountItems",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Bookings",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: true),
                    Words = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    UndoneOn = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Bookings", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OtherMoney",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    MoneyAccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    LedgerAccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    TaxCodeId = table.Column<int>(type: "INTEGER", nullable: true),
                    Net = table.Column<long>(type: "INTEGER", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    BookingId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OtherMoney", x => x.Id);
                    table.ForeignKey(
                        name: "FK_OtherMoney_Bookings_BookingId",
                        column: x => x.BookingId,
                        principalTable: "Bookings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_OtherMoney_LedgerAccounts_LedgerAccountId",
                        column: x => x.LedgerAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_OtherMoney_LedgerAccounts_MoneyAccountId",
                        column: x => x.MoneyAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Refunds",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SeriesId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    MoneyAccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    Currency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    ExchangeRate = table.Column<long>(type: "INTEGER", nullable: false),
                    PayeeName = table.Column<string>(type: "TEXT", nullable: false),
                    Iban = table.Column<string>(type: "TEXT", nullable: false),
                    Bic = table.Column<string>(type: "TEXT", nullable: false),
                    Reference = table.Column<string>(type: "TEXT", nullable: false),
                    PaymentFileId = table.Column<int>(type: "INTEGER", nullable: true),
                    BookingId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Refunds", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Refunds_Bookings_BookingId",
                        column: x => x.BookingId,
                        principalTable: "Bookings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Refunds_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Refunds_LedgerAccounts_MoneyAccountId",
                        column: x => x.MoneyAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Settlements",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    RecoversId = table.Column<int>(type: "INTEGER", nullable: true),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: true),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Currency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    ExchangeRate = table.Column<long>(type: "INTEGER", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    BookingId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Settlements", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Settlements_Bookings_BookingId",
                        column: x => x.BookingId,
                        principalTable: "Bookings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Settlements_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "SettlementTax",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SettlementId = table.Column<int>(type: "INTEGER", nullable: false),
                    Position = table.Column<int>(type: "INTEGER", nullable: false),
                    Treatment = table.Column<string>(type: "TEXT", nullable: false),
                    Category = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    ComponentId = table.Column<int>(type: "INTEGER", nullable: true),
                    Component = table.Column<string>(type: "TEXT", nullable: false),
                    Percent = table.Column<long>(type: "INTEGER", nullable: false),
                    Taxable = table.Column<long>(type: "INTEGER", nullable: false),
                    Tax = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SettlementTax", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SettlementTax_Settlements_SettlementId",
                        column: x => x.SettlementId,
                        principalTable: "Settlements",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_BookingId",
                table: "Receipts",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_BookingId",
                table: "Journal",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Allocations_BookingId",
                table: "Allocations",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Allocations_EndedById",
                table: "Allocations",
                column: "EndedById");

            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_BookingId",
                table: "AccountItems",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Bookings_CustomerId_Id",
                table: "Bookings",
                columns: new[] { "CustomerId", "Id" });

            migrationBuilder.CreateIndex(
                name: "IX_OtherMoney_BookingId",
                table: "OtherMoney",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_OtherMoney_Date",
                table: "OtherMoney",
                column: "Date");

            migrationBuilder.CreateIndex(
                name: "IX_OtherMoney_LedgerAccountId",
                table: "OtherMoney",
                column: "LedgerAccountId");

            migrationBuilder.CreateIndex(
                name: "IX_OtherMoney_MoneyAccountId",
                table: "OtherMoney",
                column: "MoneyAccountId");

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_BookingId",
                table: "Refunds",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_CustomerId",
                table: "Refunds",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_MoneyAccountId",
                table: "Refunds",
                column: "MoneyAccountId");

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_SeriesId_Number",
                table: "Refunds",
                columns: new[] { "SeriesId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_SettlementTax_SettlementId",
                table: "SettlementTax",
                column: "SettlementId");

            migrationBuilder.CreateIndex(
                name: "IX_Settlements_BookingId",
                table: "Settlements",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Settlements_DocumentId",
                table: "Settlements",
                column: "DocumentId");

            migrationBuilder.AddForeignKey(
                name: "FK_AccountItems_Bookings_BookingId",
                table: "AccountItems",
                column: "BookingId",
                principalTable: "Bookings",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "FK_Allocations_Bookings_BookingId",
                table: "Allocations",
                column: "BookingId",
                principalTable: "Bookings",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "FK_Allocations_Bookings_EndedById",
                table: "Allocations",
                column: "EndedById",
                principalTable: "Bookings",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "FK_Journal_Bookings_BookingId",
                table: "Journal",
                column: "BookingId",
                principalTable: "Bookings",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "FK_Receipts_Bookings_BookingId",
                table: "Receipts",
                column: "BookingId",
                principalTable: "Bookings",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            // Books that were begun before get what is posted to from here on.
            foreach (var (code, name, role) in new[] { ("4920", "Early-payment discounts", "DiscountsGiven"), ("4930", "Bad debts", "BadDebts"), ("4940", "Interest received", "Other"), ("4950", "Bank and card charges", "Other") })
                migrationBuilder.Sql($"INSERT INTO LedgerAccounts (Code, Name, Role, Kind, BankName, Iban, Bic, OnPapers, Retired) SELECT CASE WHEN EXISTS (SELECT 1 FROM LedgerAccounts WHERE Code = '{code}') THEN '{code}.1' ELSE '{code}' END, '{name}', '{role}', 'Bank', '', '', '', 0, 0 WHERE EXISTS (SELECT 1 FROM Businesses)");
            migrationBuilder.Sql("INSERT INTO Series (Name, UsedFor, Pattern, RestartsYearly, IsUsual, Retired) SELECT 'Refunds', 'Refund', 'REF-{yyyy}-{0000}', 1, 1, 0 WHERE EXISTS (SELECT 1 FROM Businesses)");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_AccountItems_Bookings_BookingId",
                table: "AccountItems");

            migrationBuilder.DropForeignKey(
                name: "FK_Allocations_Bookings_BookingId",
                table: "Allocations");

            migrationBuilder.DropForeignKey(
                name: "FK_Allocations_Bookings_EndedById",
                table: "Allocations");

            migrationBuilder.DropForeignKey(
                name: "FK_Journal_Bookings_BookingId",
                table: "Journal");

            migrationBuilder.DropForeignKey(
                name: "FK_Receipts_Bookings_BookingId",
                table: "Receipts");

            migrationBuilder.DropTable(
                name: "OtherMoney");

            migrationBuilder.DropTable(
                name: "Refunds");

            migrationBuilder.DropTable(
                name: "SettlementTax");

            migrationBuilder.DropTable(
                name: "Settlements");

            migrationBuilder.DropTable(
                name: "Bookings");

            migrationBuilder.DropIndex(
                name: "IX_Receipts_BookingId",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Journal_BookingId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Allocations_BookingId",
                table: "Allocations");

            migrationBuilder.DropIndex(
                name: "IX_Allocations_EndedById",
                table: "Allocations");

            migrationBuilder.DropIndex(
                name: "IX_AccountItems_BookingId",
                table: "AccountItems");

            migrationBuilder.DropColumn(
                name: "BookingId",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "CameOn",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "IsUndone",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "Way",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "BookingId",
                table: "Journal");

            migrationBuilder.DropColumn(
                name: "IsMirrored",
                table: "Journal");

            migrationBuilder.DropColumn(
                name: "ClosedUpTo",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "EarlyPaymentLeavesTax",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "SmallDifference",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "BookingId",
                table: "Allocations");

            migrationBuilder.DropColumn(
                name: "EndedById",
                table: "Allocations");

            migrationBuilder.DropColumn(
                name: "Until",
                table: "Allocations");

            migrationBuilder.DropColumn(
                name: "BookingId",
                table: "AccountItems");
        }
    }
}
