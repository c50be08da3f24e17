using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Credit : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateOnly>(
                name: "GradedOn",
                table: "Customers",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "LimitCheck",
                table: "CollectingSettings",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "Warn");

            migrationBuilder.AddColumn<int>(
                name: "NoMoreAfterBroken",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 2);

            migrationBuilder.AddColumn<int>(
                name: "NoMoreAfterDays",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 60);

            migrationBuilder.CreateTable(
                name: "CalendarKeys",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    TokenHash = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CalendarKeys", x => x.Id);
                    table.ForeignKey(
                        name: "FK_CalendarKeys_AspNetUsers_PersonId",
                        column: x => x.PersonId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "CreditPasses",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: false),
                    UpTo = table.Column<long>(type: "INTEGER", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CreditPasses", x => x.Id);
                    table.ForeignKey(
                        name: "FK_CreditPasses_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_CalendarKeys_PersonId",
                table: "CalendarKeys",
                column: "PersonId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_CalendarKeys_TokenHash",
                table: "CalendarKeys",
                column: "TokenHash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_CreditPasses_DocumentId",
                table: "CreditPasses",
                column: "DocumentId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "CalendarKeys");

            migrationBuilder.DropTable(
                name: "CreditPasses");

            migrationBuilder.DropColumn(
                name: "GradedOn",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "LimitCheck",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "NoMoreAfterBroken",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "NoMoreAfterDays",
                table: "CollectingSettings");
        }
    }
}
