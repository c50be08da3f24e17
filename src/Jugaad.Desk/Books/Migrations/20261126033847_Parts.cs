using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Parts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "FoldedPercent",
                table: "DocumentLine",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "Share",
                table: "DocumentLine",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Shares",
                table: "DocumentLine",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "TakesBack",
                table: "DocumentLine",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "TakesBack",
                table: "DocumentCharge",
                type: "TEXT",
                nullable: false,
                defaultValue: "");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "FoldedPercent",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "Share",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "Shares",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "TakesBack",
                table: "DocumentLine");

            migrationBuilder.DropColumn(
                name: "TakesBack",
                table: "DocumentCharge");
        }
    }
}
