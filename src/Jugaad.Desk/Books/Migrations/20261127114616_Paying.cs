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
            migrationBuilder.CreateTable(
                name: "AccountLinks",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    Token = table.Column<string>(type: "TEXT", nullable: false),
                    Until = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    IsTakenBack = table.Column<bool>(type: "INTEGER", nullable: false),
                    FirstSeen = table.Column<DateTime>(type: "TEXT", nullable: true),
                    LastSeen = table.Column<DateTime>(type: "TEXT", nullable: true),
                    TimesSeen = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AccountLinks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AccountLinks_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "CardCalls",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    News = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    About = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Problem = table.Column<string>(type: "TEXT", nullable: false),
                    SeenToOn = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CardCalls", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "CardPayouts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Reference = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Gross = table.Column<long>(type: "INTEGER", nullable: false),
                    Fees = table.Column<long>(type: "INTEGER", nullable: false),
                    BookingId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CardPayouts", x => x.Id);
                    table.ForeignKey(
                        name: "FK_CardPayouts_Bookings_BookingId",
                        column: x => x.BookingId,
                        principalTable: "Bookings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "PayRequests",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    ServiceId = table.Column<string>(type: "TEXT", nullable: false),
                    Currency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    Surcharge = table.Column<long>(type: "INTEGER", nullable: false),
                    MadeOn = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    State = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    ReceiptId = table.Column<int>(type: "INTEGER", nullable: true),
                    CameFrom = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PayRequests", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PayRequests_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_PayRequests_Receipts_ReceiptId",
                        column: x => x.ReceiptId,
                        principalTable: "Receipts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "PayingSettings",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Pattern = table.Column<string>(type: "TEXT", nullable: false),
                    Card = table.Column<bool>(type: "INTEGER", nullable: false),
                    ProtectedSecret = table.Column<string>(type: "TEXT", nullable: false),
                    ClearingAccountId = table.Column<int>(type: "INTEGER", nullable: true),
                    SurchargePercent = table.Column<long>(type: "INTEGER", nullable: false),
                    SurchargeFixed = table.Column<long>(type: "INTEGER", nullable: false),
                    SurchargeAccountId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PayingSettings", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PayingSettings_LedgerAccounts_ClearingAccountId",
                        column: x => x.ClearingAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id");
                    table.ForeignKey(
                        name: "FK_PayingSettings_LedgerAccounts_SurchargeAccountId",
                        column: x => x.SurchargeAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id");
                });

            migrationBuilder.CreateTable(
                name: "CardPayoutParts",
                columns: table => new
                {
                    Position = table.Column<int>(type: "INTEGER", nullable: false),
                    PayoutId = table.Column<int>(type: "INTEGER", nullable: false),
                    RequestId = table.Column<int>(type: "INTEGER", nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    Fee = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CardPayoutParts", x => new { x.PayoutId, x.Position });
                    table.ForeignKey(
                        name: "FK_CardPayoutParts_CardPayouts_PayoutId",
                        column: x => x.PayoutId,
                        principalTable: "CardPayouts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_CardPayoutParts_PayRequests_RequestId",
                        column: x => x.RequestId,
                        principalTable: "PayRequests",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "CardRefunds",
                columns: table => new
                {
                    BookingId = table.Column<int>(type: "INTEGER", nullable: false),
                    RequestId = table.Column<int>(type: "INTEGER", nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    ServiceId = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CardRefunds", x => new { x.RequestId, x.BookingId });
                    table.ForeignKey(
                        name: "FK_CardRefunds_Bookings_BookingId",
                        column: x => x.BookingId,
                        principalTable: "Bookings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_CardRefunds_PayRequests_RequestId",
                        column: x => x.RequestId,
                        principalTable: "PayRequests",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "PayRequestParts",
                columns: table => new
                {
                    RequestId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    Surcharge = table.Column<long>(type: "INTEGER", nullable: false),
                    ChargedOnId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PayRequestParts", x => new { x.RequestId, x.ItemId });
                    table.ForeignKey(
                        name: "FK_PayRequestParts_AccountItems_ItemId",
                        column: x => x.ItemId,
                        principalTable: "AccountItems",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_PayRequestParts_Documents_ChargedOnId",
                        column: x => x.ChargedOnId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_PayRequestParts_PayRequests_RequestId",
                        column: x => x.RequestId,
                        principalTable: "PayRequests",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_AccountLinks_CustomerId",
                table: "AccountLinks",
                column: "CustomerId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_AccountLinks_Token",
                table: "AccountLinks",
                column: "Token",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_CardCalls_Key",
                table: "CardCalls",
                column: "Key",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_CardPayoutParts_RequestId",
                table: "CardPayoutParts",
                column: "RequestId");

            migrationBuilder.CreateIndex(
                name: "IX_CardPayouts_BookingId",
                table: "CardPayouts",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_CardPayouts_Reference",
                table: "CardPayouts",
                column: "Reference",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_CardRefunds_BookingId",
                table: "CardRefunds",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_PayRequestParts_ChargedOnId",
                table: "PayRequestParts",
                column: "ChargedOnId",
                filter: "\"ChargedOnId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_PayRequestParts_ItemId",
                table: "PayRequestParts",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_PayRequests_CustomerId",
                table: "PayRequests",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_PayRequests_Key",
                table: "PayRequests",
                column: "Key",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_PayRequests_ReceiptId",
                table: "PayRequests",
                column: "ReceiptId",
                filter: "\"ReceiptId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_PayRequests_ServiceId",
                table: "PayRequests",
                column: "ServiceId");

            migrationBuilder.CreateIndex(
                name: "IX_PayingSettings_ClearingAccountId",
                table: "PayingSettings",
                column: "ClearingAccountId",
                filter: "\"ClearingAccountId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_PayingSettings_SurchargeAccountId",
                table: "PayingSettings",
                column: "SurchargeAccountId",
                filter: "\"SurchargeAccountId\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "AccountLinks");

            migrationBuilder.DropTable(
                name: "CardCalls");

            migrationBuilder.DropTable(
                name: "CardPayoutParts");

            migrationBuilder.DropTable(
                name: "CardRefunds");

            migrationBuilder.DropTable(
                name: "PayRequestParts");

            migrationBuilder.DropTable(
                name: "PayingSettings");

            migrationBuilder.DropTable(
                name: "CardPayouts");

            migrationBuilder.DropTable(
                name: "PayRequests");
        }
    }
}
