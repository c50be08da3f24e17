using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Filing : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "DueAfterDays",
                table: "TaxAuthorities",
                type: "INTEGER",
                nullable: false,
                defaultValue: 20);

            migrationBuilder.CreateTable(
                name: "TaxFigures",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    AuthorityId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: true),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: true),
                    SettlementId = table.Column<int>(type: "INTEGER", nullable: true),
                    OtherMoneyId = table.Column<int>(type: "INTEGER", nullable: true),
                    BookingId = table.Column<int>(type: "INTEGER", nullable: true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Position = table.Column<int>(type: "INTEGER", nullable: false),
                    Category = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    ComponentId = table.Column<int>(type: "INTEGER", nullable: true),
                    Component = table.Column<string>(type: "TEXT", nullable: false),
                    Percent = table.Column<long>(type: "INTEGER", nullable: false),
                    Place = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Supply = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Taxable = table.Column<long>(type: "INTEGER", nullable: false),
                    Tax = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TaxFigures", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TaxFigures_AccountItems_ItemId",
                        column: x => x.ItemId,
                        principalTable: "AccountItems",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_TaxFigures_TaxAuthorities_AuthorityId",
                        column: x => x.AuthorityId,
                        principalTable: "TaxAuthorities",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "TaxReturns",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    AuthorityId = table.Column<int>(type: "INTEGER", nullable: false),
                    Authority = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    To = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Basis = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    FiledOn = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    FiledBy = table.Column<string>(type: "TEXT", nullable: false),
                    Reference = table.Column<string>(type: "TEXT", nullable: false),
                    Taxable = table.Column<long>(type: "INTEGER", nullable: false),
                    Tax = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TaxReturns", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TaxReturns_TaxAuthorities_AuthorityId",
                        column: x => x.AuthorityId,
                        principalTable: "TaxAuthorities",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "FiledRows",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ReturnId = table.Column<int>(type: "INTEGER", nullable: false),
                    FigureId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Category = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Component = table.Column<string>(type: "TEXT", nullable: false),
                    Percent = table.Column<long>(type: "INTEGER", nullable: false),
                    Place = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Supply = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Taxable = table.Column<long>(type: "INTEGER", nullable: false),
                    Tax = table.Column<long>(type: "INTEGER", nullable: false),
                    IsLate = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FiledRows", x => x.Id);
                    table.ForeignKey(
                        name: "FK_FiledRows_TaxReturns_ReturnId",
                        column: x => x.ReturnId,
                        principalTable: "TaxReturns",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_FiledRows_FigureId",
                table: "FiledRows",
                column: "FigureId");

            migrationBuilder.CreateIndex(
                name: "IX_FiledRows_ReturnId",
                table: "FiledRows",
                column: "ReturnId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxFigures_AuthorityId_Date",
                table: "TaxFigures",
                columns: new[] { "AuthorityId", "Date" });

            migrationBuilder.CreateIndex(
                name: "IX_TaxFigures_BookingId",
                table: "TaxFigures",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_TaxFigures_DocumentId",
                table: "TaxFigures",
                column: "DocumentId",
                filter: "\"DocumentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_TaxFigures_ItemId",
                table: "TaxFigures",
                column: "ItemId",
                filter: "\"ItemId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_TaxReturns_AuthorityId_From",
                table: "TaxReturns",
                columns: new[] { "AuthorityId", "From" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "FiledRows");

            migrationBuilder.DropTable(
                name: "TaxFigures");

            migrationBuilder.DropTable(
                name: "TaxReturns");

            migrationBuilder.DropColumn(
                name: "DueAfterDays",
                table: "TaxAuthorities");
        }
    }
}
