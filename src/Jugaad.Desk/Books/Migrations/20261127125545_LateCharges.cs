using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class LateCharges : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "Fee",
                table: "LadderSteps",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<bool>(
                name: "WithInterest",
                table: "LadderSteps",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "ChargeAccountId",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "ChargeTaxCodeId",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "Compensation",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateTable(
                name: "LateCharges",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    NoteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Amount = table.Column<long>(type: "INTEGER", nullable: false),
                    UpTo = table.Column<DateOnly>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LateCharges", x => x.Id);
                    table.ForeignKey(
                        name: "FK_LateCharges_AccountItems_ItemId",
                        column: x => x.ItemId,
                        principalTable: "AccountItems",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_LateCharges_Documents_NoteId",
                        column: x => x.NoteId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "LateRates",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Percent = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LateRates", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_LateCharges_ItemId",
                table: "LateCharges",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_LateCharges_NoteId",
                table: "LateCharges",
                column: "NoteId");

            migrationBuilder.CreateIndex(
                name: "IX_LateRates_From",
                table: "LateRates",
                column: "From",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "LateCharges");

            migrationBuilder.DropTable(
                name: "LateRates");

            migrationBuilder.DropColumn(
                name: "Fee",
                table: "LadderSteps");

            migrationBuilder.DropColumn(
                name: "WithInterest",
                table: "LadderSteps");

            migrationBuilder.DropColumn(
                name: "ChargeAccountId",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "ChargeTaxCodeId",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "Compensation",
                table: "CollectingSettings");
        }
    }
}
