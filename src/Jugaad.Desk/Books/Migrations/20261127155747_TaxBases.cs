using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class TaxBases : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "MostMonths",
                table: "TaxAuthorities",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "TaxBasisChanges",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Since = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Basis = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    AuthorityId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TaxBasisChanges", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TaxBasisChanges_TaxAuthorities_AuthorityId",
                        column: x => x.AuthorityId,
                        principalTable: "TaxAuthorities",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_TaxBasisChanges_AuthorityId",
                table: "TaxBasisChanges",
                column: "AuthorityId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "TaxBasisChanges");

            migrationBuilder.DropColumn(
                name: "MostMonths",
                table: "TaxAuthorities");
        }
    }
}
