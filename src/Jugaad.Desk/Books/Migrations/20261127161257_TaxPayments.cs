using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class TaxPayments : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "TaxPayments",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ReturnId = table.Column<int>(type: "INTEGER", nullable: false),
                    OtherMoneyId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TaxPayments", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TaxPayments_OtherMoney_OtherMoneyId",
                        column: x => x.OtherMoneyId,
                        principalTable: "OtherMoney",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_TaxPayments_TaxReturns_ReturnId",
                        column: x => x.ReturnId,
                        principalTable: "TaxReturns",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_TaxPayments_OtherMoneyId",
                table: "TaxPayments",
                column: "OtherMoneyId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_TaxPayments_ReturnId",
                table: "TaxPayments",
                column: "ReturnId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "TaxPayments");
        }
    }
}
