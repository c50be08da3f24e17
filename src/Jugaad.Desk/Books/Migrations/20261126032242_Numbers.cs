using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Numbers : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Refunds_SeriesId_Number",
                table: "Refunds");

            migrationBuilder.DropIndex(
                name: "IX_Receipts_SeriesId_Number",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Documents_SeriesId_Number",
                table: "Documents");

            migrationBuilder.AddColumn<string>(
                name: "Restarts",
                table: "Series",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "CalendarYear");

            migrationBuilder.Sql("UPDATE Series SET Restarts = 'Never' WHERE RestartsYearly = 0");

            migrationBuilder.DropColumn(
                name: "RestartsYearly",
                table: "Series");

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_Number",
                table: "Refunds",
                column: "Number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_Number",
                table: "Receipts",
                column: "Number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Documents_Kind_Number",
                table: "Documents",
                columns: new[] { "Kind", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Documents_SeriesId_Number",
                table: "Documents",
                columns: new[] { "SeriesId", "Number" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Refunds_Number",
                table: "Refunds");

            migrationBuilder.DropIndex(
                name: "IX_Receipts_Number",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Documents_Kind_Number",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_Documents_SeriesId_Number",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Restarts",
                table: "Series");

            migrationBuilder.AddColumn<bool>(
                name: "RestartsYearly",
                table: "Series",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_SeriesId_Number",
                table: "Refunds",
                columns: new[] { "SeriesId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_SeriesId_Number",
                table: "Receipts",
                columns: new[] { "SeriesId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Documents_SeriesId_Number",
                table: "Documents",
                columns: new[] { "SeriesId", "Number" },
                unique: true);
        }
    }
}
