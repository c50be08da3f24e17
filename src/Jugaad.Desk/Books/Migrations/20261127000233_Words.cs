using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Words : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "IX_Receipts_Amount",
                table: "Receipts",
                column: "Amount");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_Kind_Date",
                table: "Documents",
                columns: new[] { "Kind", "Date" });

            WordTables.Put(migrationBuilder);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            WordTables.TakeAway(migrationBuilder);

            migrationBuilder.DropIndex(
                name: "IX_Receipts_Amount",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Documents_Kind_Date",
                table: "Documents");
        }
    }
}
