using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Paying : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "WentOut",
                table: "PayerRules",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "JoinedBookingId",
                table: "LinePlacements",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "AgeingEdges",
                table: "Businesses",
                type: "TEXT",
                nullable: false,
                defaultValue: "30,60,90");

            migrationBuilder.AddColumn<bool>(
                name: "AgesByDate",
                table: "Businesses",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "FeeAccountId",
                table: "Businesses",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "PaymentFiles",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Reference = table.Column<string>(type: "TEXT", nullable: false),
                    MadeOn = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    PayOn = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    MoneyAccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    Currency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    Count = table.Column<int>(type: "INTEGER", nullable: false),
                    Total = table.Column<long>(type: "INTEGER", nullable: false),
                    Content = table.Column<byte[]>(type: "BLOB", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    TakenBackOn = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PaymentFiles", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PaymentFiles_LedgerAccounts_MoneyAccountId",
                        column: x => x.MoneyAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_PaymentFileId",
                table: "Refunds",
                column: "PaymentFileId");

            migrationBuilder.CreateIndex(
                name: "IX_LinePlacements_JoinedBookingId",
                table: "LinePlacements",
                column: "JoinedBookingId");

            migrationBuilder.CreateIndex(
                name: "IX_PaymentFiles_MoneyAccountId",
                table: "PaymentFiles",
                column: "MoneyAccountId");

            migrationBuilder.CreateIndex(
                name: "IX_PaymentFiles_Reference",
                table: "PaymentFiles",
                column: "Reference",
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "FK_LinePlacements_Bookings_JoinedBookingId",
                table: "LinePlacements",
                column: "JoinedBookingId",
                principalTable: "Bookings",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "FK_Refunds_PaymentFiles_PaymentFileId",
                table: "Refunds",
                column: "PaymentFileId",
                principalTable: "PaymentFiles",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_LinePlacements_Bookings_JoinedBookingId",
                table: "LinePlacements");

            migrationBuilder.DropForeignKey(
                name: "FK_Refunds_PaymentFiles_PaymentFileId",
                table: "Refunds");

            migrationBuilder.DropTable(
                name: "PaymentFiles");

            migrationBuilder.DropIndex(
                name: "IX_Refunds_PaymentFileId",
                table: "Refunds");

            migrationBuilder.DropIndex(
                name: "IX_LinePlacements_JoinedBookingId",
                table: "LinePlacements");

            migrationBuilder.DropColumn(
                name: "WentOut",
                table: "PayerRules");

            migrationBuilder.DropColumn(
                name: "JoinedBookingId",
                table: "LinePlacements");

            migrationBuilder.DropColumn(
                name: "AgeingEdges",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "AgesByDate",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "FeeAccountId",
                table: "Businesses");
        }
    }
}
