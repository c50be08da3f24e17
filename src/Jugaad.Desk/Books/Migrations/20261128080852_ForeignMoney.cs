using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class ForeignMoney : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn(
                name: "ExchangeRate",
                table: "Refunds",
                newName: "Money_Rate");

            migrationBuilder.RenameColumn(
                name: "ExchangeRate",
                table: "Receipts",
                newName: "Money_Rate");

            migrationBuilder.AddColumn<long>(
                name: "Money_Amount",
                table: "Refunds",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "Money_Charge",
                table: "Refunds",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "Money_ChargeAccountId",
                table: "Refunds",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Money_Currency",
                table: "Refunds",
                type: "TEXT",
                maxLength: 3,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<long>(
                name: "Money_Amount",
                table: "Receipts",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "Money_Charge",
                table: "Receipts",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "Money_ChargeAccountId",
                table: "Receipts",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Money_Currency",
                table: "Receipts",
                type: "TEXT",
                maxLength: 3,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<long>(
                name: "Money_Amount",
                table: "OtherMoney",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "Money_Charge",
                table: "OtherMoney",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "Money_ChargeAccountId",
                table: "OtherMoney",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Money_Currency",
                table: "OtherMoney",
                type: "TEXT",
                maxLength: 3,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Money_Rate",
                table: "OtherMoney",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "1");

            migrationBuilder.AddColumn<string>(
                name: "Currency",
                table: "LedgerAccounts",
                type: "TEXT",
                maxLength: 3,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Currency",
                table: "JournalLines",
                type: "TEXT",
                maxLength: 3,
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "OriginalAmount",
                table: "JournalLines",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Rate",
                table: "JournalLines",
                type: "TEXT",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "Charge",
                table: "BankLines",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "Given",
                table: "BankLines",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "GivenIn",
                table: "BankLines",
                type: "TEXT",
                maxLength: 3,
                nullable: true);

            // Until now every money account was in home currency, and what moved on it is what the journal says.
            migrationBuilder.Sql("UPDATE \"Receipts\" SET \"Money_Rate\" = '1', \"Money_Currency\" = (SELECT \"HomeCurrency\" FROM \"Businesses\" LIMIT 1), \"Money_Amount\" = coalesce((SELECT sum(l.\"Debit\") FROM \"Journal\" e JOIN \"JournalLines\" l ON l.\"EntryId\" = e.\"Id\" WHERE e.\"ReceiptId\" = \"Receipts\".\"Id\" AND e.\"Event\" = 'Receipt' AND l.\"AccountId\" = \"Receipts\".\"MoneyAccountId\"), 0)");
            migrationBuilder.Sql("UPDATE \"Refunds\" SET \"Money_Rate\" = '1', \"Money_Currency\" = (SELECT \"HomeCurrency\" FROM \"Businesses\" LIMIT 1), \"Money_Amount\" = coalesce((SELECT sum(l.\"Credit\") FROM \"Journal\" e JOIN \"JournalLines\" l ON l.\"EntryId\" = e.\"Id\" WHERE e.\"BookingId\" = \"Refunds\".\"BookingId\" AND e.\"Event\" = 'Refund' AND l.\"AccountId\" = \"Refunds\".\"MoneyAccountId\"), 0)");
            migrationBuilder.Sql("UPDATE \"OtherMoney\" SET \"Money_Rate\" = '1', \"Money_Currency\" = (SELECT \"HomeCurrency\" FROM \"Businesses\" LIMIT 1), \"Money_Amount\" = abs(\"Amount\")");

            migrationBuilder.CreateTable(
                name: "Conversions",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    FromAccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    FromCurrency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    Given = table.Column<long>(type: "INTEGER", nullable: false),
                    ToAccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    ToCurrency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    Got = table.Column<long>(type: "INTEGER", nullable: false),
                    Charge = table.Column<long>(type: "INTEGER", nullable: false),
                    ChargeOnTo = table.Column<bool>(type: "INTEGER", nullable: false),
                    ChargeAccountId = table.Column<int>(type: "INTEGER", nullable: true),
                    Rate = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    BookingId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Conversions", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Conversions_Bookings_BookingId",
                        column: x => x.BookingId,
                        principalTable: "Bookings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Conversions_LedgerAccounts_FromAccountId",
                        column: x => x.FromAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Conversions_LedgerAccounts_ToAccountId",
                        column: x => x.ToAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Conversions_BookingId",
                table: "Conversions",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Conversions_Date",
                table: "Conversions",
                column: "Date");

            migrationBuilder.CreateIndex(
                name: "IX_Conversions_FromAccountId",
                table: "Conversions",
                column: "FromAccountId");

            migrationBuilder.CreateIndex(
                name: "IX_Conversions_ToAccountId",
                table: "Conversions",
                column: "ToAccountId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Conversions");

            migrationBuilder.DropColumn(
                name: "Money_Amount",
                table: "Refunds");

            migrationBuilder.DropColumn(
                name: "Money_Charge",
                table: "Refunds");

            migrationBuilder.DropColumn(
                name: "Money_ChargeAccountId",
                table: "Refunds");

            migrationBuilder.DropColumn(
                name: "Money_Currency",
                table: "Refunds");

            migrationBuilder.DropColumn(
                name: "Money_Amount",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "Money_Charge",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "Money_ChargeAccountId",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "Money_Currency",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "Money_Amount",
                table: "OtherMoney");

            migrationBuilder.DropColumn(
                name: "Money_Charge",
                table: "OtherMoney");

            migrationBuilder.DropColumn(
                name: "Money_ChargeAccountId",
                table: "OtherMoney");

            migrationBuilder.DropColumn(
                name: "Money_Currency",
                table: "OtherMoney");

            migrationBuilder.DropColumn(
                name: "Money_Rate",
                table: "OtherMoney");

            migrationBuilder.DropColumn(
                name: "Currency",
                table: "LedgerAccounts");

            migrationBuilder.DropColumn(
                name: "Currency",
                table: "JournalLines");

            migrationBuilder.DropColumn(
                name: "OriginalAmount",
                table: "JournalLines");

            migrationBuilder.DropColumn(
                name: "Rate",
                table: "JournalLines");

            migrationBuilder.DropColumn(
                name: "Charge",
                table: "BankLines");

            migrationBuilder.DropColumn(
                name: "Given",
                table: "BankLines");

            migrationBuilder.DropColumn(
                name: "GivenIn",
                table: "BankLines");

            migrationBuilder.RenameColumn(
                name: "Money_Rate",
                table: "Refunds",
                newName: "ExchangeRate");

            migrationBuilder.RenameColumn(
                name: "Money_Rate",
                table: "Receipts",
                newName: "ExchangeRate");
        }
    }
}
