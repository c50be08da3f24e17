using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class StagesTax : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Before",
                table: "DocumentCharge");

            migrationBuilder.AddColumn<string>(
                name: "TaxesBefore",
                table: "DocumentLine",
                type: "TEXT",
                nullable: false,
                defaultValue: "");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "TaxesBefore",
                table: "DocumentLine");

            migrationBuilder.AddColumn<long>(
                name: "Before",
                table: "DocumentCharge",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);
        }
    }
}
