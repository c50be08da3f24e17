using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class OpenOf : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_OpenOf",
                table: "AccountItems",
                columns: new[] { "CustomerId", "Sign", "Due", "Open", "HomeOpen" },
                filter: "\"Open\" > 0");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_AccountItems_OpenOf",
                table: "AccountItems");
        }
    }
}
