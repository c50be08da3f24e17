using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class ReturnsSettled : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "Over",
                table: "TaxPayments",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<DateOnly>(
                name: "RegisteredTo",
                table: "TaxAuthorities",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Trouble",
                table: "KeptViews",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "TaxCarries",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    FromReturnId = table.Column<int>(type: "INTEGER", nullable: false),
                    ToReturnId = table.Column<int>(type: "INTEGER", nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    On = table.Column<DateOnly>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TaxCarries", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TaxCarries_TaxReturns_FromReturnId",
                        column: x => x.FromReturnId,
                        principalTable: "TaxReturns",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_TaxCarries_TaxReturns_ToReturnId",
                        column: x => x.ToReturnId,
                        principalTable: "TaxReturns",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "TaxCharges",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ReturnId = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    AccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    UndoneOn = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TaxCharges", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TaxCharges_LedgerAccounts_AccountId",
                        column: x => x.AccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_TaxCharges_TaxReturns_ReturnId",
                        column: x => x.ReturnId,
                        principalTable: "TaxReturns",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_TaxCarries_FromReturnId",
                table: "TaxCarries",
                column: "FromReturnId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxCarries_ToReturnId",
                table: "TaxCarries",
                column: "ToReturnId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxCharges_AccountId",
                table: "TaxCharges",
                column: "AccountId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxCharges_ReturnId",
                table: "TaxCharges",
                column: "ReturnId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "TaxCarries");

            migrationBuilder.DropTable(
                name: "TaxCharges");

            migrationBuilder.DropColumn(
                name: "Over",
                table: "TaxPayments");

            migrationBuilder.DropColumn(
                name: "RegisteredTo",
                table: "TaxAuthorities");

            migrationBuilder.DropColumn(
                name: "Trouble",
                table: "KeptViews");
        }
    }
}
