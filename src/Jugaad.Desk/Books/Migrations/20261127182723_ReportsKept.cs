using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class ReportsKept : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_TaxReturns_AuthorityId_From",
                table: "TaxReturns");

            migrationBuilder.AddColumn<int>(
                name: "Amendment",
                table: "TaxReturns",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "Owed",
                table: "TaxReturns",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "Reason",
                table: "TaxReturns",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<DateOnly>(
                name: "TakenOn",
                table: "TaxReturns",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Typed",
                table: "TaxReturns",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<long>(
                name: "AmendsAbove",
                table: "TaxAuthorities",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "AmendsLate",
                table: "TaxAuthorities",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "PaidCategories",
                table: "TaxAuthorities",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Report",
                table: "Post",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "ReturnId",
                table: "Journal",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Origin",
                table: "FiledRows",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "Sales");

            migrationBuilder.AddColumn<long>(
                name: "Commission",
                table: "AspNetUsers",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateTable(
                name: "ClosingTicks",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    UpTo = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Point = table.Column<string>(type: "TEXT", nullable: false),
                    Who = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ClosingTicks", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "KeptViews",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Report = table.Column<string>(type: "TEXT", nullable: false),
                    Query = table.Column<string>(type: "TEXT", nullable: false),
                    MailTo = table.Column<string>(type: "TEXT", nullable: false),
                    Pace = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    SentOn = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_KeptViews", x => x.Id);
                });

            // What was told before boxes to be paid were known asked for all its tax.
            migrationBuilder.Sql("UPDATE TaxReturns SET Owed = Tax");
            migrationBuilder.Sql(
                """
                UPDATE FiledRows SET Origin = 'TakenOff'
                WHERE FigureId IN (SELECT Id FROM TaxFigures WHERE SettlementId IS NOT NULL)
                """
            );
            migrationBuilder.Sql(
                """
                UPDATE FiledRows SET Origin = 'Credits'
                WHERE FigureId IN (
                    SELECT f.Id FROM TaxFigures f JOIN AccountItems i ON i.Id = f.ItemId
                    WHERE i.Kind = 'CreditNote' AND f.SettlementId IS NULL)
                """
            );

            migrationBuilder.CreateIndex(
                name: "IX_TaxReturns_AuthorityId_From_Amendment",
                table: "TaxReturns",
                columns: new[] { "AuthorityId", "From", "Amendment" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_ClosingTicks_UpTo_Point",
                table: "ClosingTicks",
                columns: new[] { "UpTo", "Point" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_KeptViews_Name",
                table: "KeptViews",
                column: "Name",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ClosingTicks");

            migrationBuilder.DropTable(
                name: "KeptViews");

            migrationBuilder.DropIndex(
                name: "IX_TaxReturns_AuthorityId_From_Amendment",
                table: "TaxReturns");

            migrationBuilder.DropColumn(
                name: "Amendment",
                table: "TaxReturns");

            migrationBuilder.DropColumn(
                name: "Owed",
                table: "TaxReturns");

            migrationBuilder.DropColumn(
                name: "Reason",
                table: "TaxReturns");

            migrationBuilder.DropColumn(
                name: "TakenOn",
                table: "TaxReturns");

            migrationBuilder.DropColumn(
                name: "Typed",
                table: "TaxReturns");

            migrationBuilder.DropColumn(
                name: "AmendsAbove",
                table: "TaxAuthorities");

            migrationBuilder.DropColumn(
                name: "AmendsLate",
                table: "TaxAuthorities");

            migrationBuilder.DropColumn(
                name: "PaidCategories",
                table: "TaxAuthorities");

            migrationBuilder.DropColumn(
                name: "Report",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "ReturnId",
                table: "Journal");

            migrationBuilder.DropColumn(
                name: "Origin",
                table: "FiledRows");

            migrationBuilder.DropColumn(
                name: "Commission",
                table: "AspNetUsers");

            migrationBuilder.CreateIndex(
                name: "IX_TaxReturns_AuthorityId_From",
                table: "TaxReturns",
                columns: new[] { "AuthorityId", "From" },
                unique: true);
        }
    }
}
