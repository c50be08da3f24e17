using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class EInvoicesOnTheirWay : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "ExemptionCode",
                table: "TaxCodes",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "Hybrid",
                table: "Post",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "ClassificationList",
                table: "Items",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "OriginCountry",
                table: "Items",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Facts",
                table: "Documents",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "BuyerReference",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "ContractReference",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Electronic_Scheme",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Electronic_Value",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Takes",
                table: "Customers",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "Pdf");

            migrationBuilder.AddColumn<string>(
                name: "Electronic_Scheme",
                table: "Businesses",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Electronic_Value",
                table: "Businesses",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "NetworkAnswers",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    PostItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    MessageId = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Counts = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NetworkAnswers", x => x.Id);
                    table.ForeignKey(
                        name: "FK_NetworkAnswers_Post_PostItemId",
                        column: x => x.PostItemId,
                        principalTable: "Post",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_NetworkAnswers_MessageId",
                table: "NetworkAnswers",
                column: "MessageId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_NetworkAnswers_PostItemId",
                table: "NetworkAnswers",
                column: "PostItemId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "NetworkAnswers");

            migrationBuilder.DropColumn(
                name: "ExemptionCode",
                table: "TaxCodes");

            migrationBuilder.DropColumn(
                name: "Hybrid",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "ClassificationList",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "OriginCountry",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "Facts",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "BuyerReference",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "ContractReference",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Electronic_Scheme",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Electronic_Value",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Takes",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Electronic_Scheme",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "Electronic_Value",
                table: "Businesses");
        }
    }
}
