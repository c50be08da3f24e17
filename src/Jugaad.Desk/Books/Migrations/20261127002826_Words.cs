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
            migrationBuilder.DropIndex(
                name: "IX_AccountItems_Open",
                table: "AccountItems");

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_Amount",
                table: "Receipts",
                column: "Amount");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_Kind_Date",
                table: "Documents",
                columns: new[] { "Kind", "Date" });

            migrationBuilder.CreateIndex(
                name: "IX_Documents_State_Date",
                table: "Documents",
                columns: new[] { "State", "Date" });

            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_Open",
                table: "AccountItems",
                columns: new[] { "Due", "CustomerId", "Sign", "HomeOpen" },
                filter: "\"Open\" > 0");

            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_OpenByKind",
                table: "AccountItems",
                columns: new[] { "Kind", "Date", "HomeOpen" },
                filter: "\"Open\" > 0");

            // For lists in an order by what a row may lack; written as the questions write it.
            migrationBuilder.Sql(
                "CREATE INDEX \"IX_Documents_NumberOrNone\" ON \"Documents\" (COALESCE(\"Number\", ''), \"Id\")");
            migrationBuilder.Sql(
                "CREATE INDEX \"IX_Documents_Until\" ON \"Documents\" (COALESCE(\"DueDate\", \"ValidUntil\", '0001-01-01'), \"Id\")");

            WordTables.Put(migrationBuilder);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            WordTables.Remove(migrationBuilder);
            migrationBuilder.Sql("DROP INDEX \"IX_Documents_NumberOrNone\"");
            migrationBuilder.Sql("DROP INDEX \"IX_Documents_Until\"");

            migrationBuilder.DropIndex(
                name: "IX_Receipts_Amount",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Documents_Kind_Date",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_Documents_State_Date",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_AccountItems_Open",
                table: "AccountItems");

            migrationBuilder.DropIndex(
                name: "IX_AccountItems_OpenByKind",
                table: "AccountItems");

            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_Open",
                table: "AccountItems",
                columns: new[] { "Due", "CustomerId" },
                filter: "\"Open\" > 0");
        }
    }
}
