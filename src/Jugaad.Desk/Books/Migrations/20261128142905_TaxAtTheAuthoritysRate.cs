using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class TaxAtTheAuthoritysRate : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "HasOwnRates",
                table: "TaxAuthorities",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "OwnRateDays",
                table: "TaxAuthorities",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ToldRate",
                table: "SettlementTax",
                type: "TEXT",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ToldRate",
                table: "DocumentTax",
                type: "TEXT",
                maxLength: 40,
                nullable: true);

            migrationBuilder.CreateTable(
                name: "AuthorityRates",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    AuthorityId = table.Column<int>(type: "INTEGER", nullable: false),
                    Currency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Rate = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Source = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AuthorityRates", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AuthorityRates_TaxAuthorities_AuthorityId",
                        column: x => x.AuthorityId,
                        principalTable: "TaxAuthorities",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_AuthorityRates_AuthorityId_Currency_From",
                table: "AuthorityRates",
                columns: new[] { "AuthorityId", "Currency", "From" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "AuthorityRates");

            migrationBuilder.DropColumn(
                name: "HasOwnRates",
                table: "TaxAuthorities");

            migrationBuilder.DropColumn(
                name: "OwnRateDays",
                table: "TaxAuthorities");

            migrationBuilder.DropColumn(
                name: "ToldRate",
                table: "SettlementTax");

            migrationBuilder.DropColumn(
                name: "ToldRate",
                table: "DocumentTax");
        }
    }
}
