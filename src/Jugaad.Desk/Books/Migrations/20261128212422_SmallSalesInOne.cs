using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class SmallSalesInOne : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "SummaryId",
                table: "Post",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "SalesSummaries",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SeriesId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Until = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Currency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    Net = table.Column<long>(type: "INTEGER", nullable: false),
                    Tax = table.Column<long>(type: "INTEGER", nullable: false),
                    Total = table.Column<long>(type: "INTEGER", nullable: false),
                    Payable = table.Column<long>(type: "INTEGER", nullable: false),
                    Sender = table.Column<string>(type: "TEXT", nullable: false),
                    Addressee = table.Column<string>(type: "TEXT", nullable: false),
                    DissolvedOn = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    DissolvedBecause = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SalesSummaries", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SalesSummaries_Series_SeriesId",
                        column: x => x.SeriesId,
                        principalTable: "Series",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "SummarySales",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SummaryId = table.Column<int>(type: "INTEGER", nullable: false),
                    Position = table.Column<int>(type: "INTEGER", nullable: false),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: false),
                    Counts = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SummarySales", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SummarySales_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_SummarySales_SalesSummaries_SummaryId",
                        column: x => x.SummaryId,
                        principalTable: "SalesSummaries",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Post_SummaryId",
                table: "Post",
                column: "SummaryId",
                filter: "\"SummaryId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_SalesSummaries_Number",
                table: "SalesSummaries",
                column: "Number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_SalesSummaries_SeriesId",
                table: "SalesSummaries",
                column: "SeriesId");

            migrationBuilder.CreateIndex(
                name: "IX_SummarySales_DocumentId",
                table: "SummarySales",
                column: "DocumentId",
                unique: true,
                filter: "\"Counts\" = 1");

            migrationBuilder.CreateIndex(
                name: "IX_SummarySales_SummaryId",
                table: "SummarySales",
                column: "SummaryId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "SummarySales");

            migrationBuilder.DropTable(
                name: "SalesSummaries");

            migrationBuilder.DropIndex(
                name: "IX_Post_SummaryId",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "SummaryId",
                table: "Post");
        }
    }
}
