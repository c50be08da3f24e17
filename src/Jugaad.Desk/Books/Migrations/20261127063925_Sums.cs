using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Sums : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_JournalLines_AccountId",
                table: "JournalLines");

            migrationBuilder.DropIndex(
                name: "IX_JournalLines_EntryId",
                table: "JournalLines");

            migrationBuilder.CreateIndex(
                name: "IX_JournalLines_AccountId_Debit_Credit",
                table: "JournalLines",
                columns: new[] { "AccountId", "Debit", "Credit" });

            migrationBuilder.CreateIndex(
                name: "IX_JournalLines_EntryId_AccountId_Debit_Credit",
                table: "JournalLines",
                columns: new[] { "EntryId", "AccountId", "Debit", "Credit" });

            migrationBuilder.CreateIndex(
                name: "IX_Documents_Sums",
                table: "Documents",
                columns: new[] { "Currency", "State", "Kind", "Payable" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_JournalLines_AccountId_Debit_Credit",
                table: "JournalLines");

            migrationBuilder.DropIndex(
                name: "IX_JournalLines_EntryId_AccountId_Debit_Credit",
                table: "JournalLines");

            migrationBuilder.DropIndex(
                name: "IX_Documents_Sums",
                table: "Documents");

            migrationBuilder.CreateIndex(
                name: "IX_JournalLines_AccountId",
                table: "JournalLines",
                column: "AccountId");

            migrationBuilder.CreateIndex(
                name: "IX_JournalLines_EntryId",
                table: "JournalLines",
                column: "EntryId");
        }
    }
}
