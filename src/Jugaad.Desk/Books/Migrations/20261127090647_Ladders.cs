using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Ladders : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "LadderId",
                table: "Customers",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "NoLadder",
                table: "Customers",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "DaysBetween",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "LadderId",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "RunsByItself",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "Tolerance",
                table: "CollectingSettings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "Weekdays",
                table: "CollectingSettings",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "Holidays",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Holidays", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Ladders",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ladders", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "LeftOut",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: true),
                    Until = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    EndedOn = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LeftOut", x => x.Id);
                    table.ForeignKey(
                        name: "FK_LeftOut_AccountItems_ItemId",
                        column: x => x.ItemId,
                        principalTable: "AccountItems",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_LeftOut_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "ChaseLetters",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    LadderId = table.Column<int>(type: "INTEGER", nullable: false),
                    Step = table.Column<int>(type: "INTEGER", nullable: false),
                    Way = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    PostItemId = table.Column<int>(type: "INTEGER", nullable: true),
                    By = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ChaseLetters", x => x.Id);
                    table.ForeignKey(
                        name: "FK_ChaseLetters_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_ChaseLetters_Ladders_LadderId",
                        column: x => x.LadderId,
                        principalTable: "Ladders",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_ChaseLetters_Post_PostItemId",
                        column: x => x.PostItemId,
                        principalTable: "Post",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "LadderSteps",
                columns: table => new
                {
                    LadderId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    Days = table.Column<int>(type: "INTEGER", nullable: false),
                    Way = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Text = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    WithInvoices = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LadderSteps", x => new { x.LadderId, x.Number });
                    table.ForeignKey(
                        name: "FK_LadderSteps_Ladders_LadderId",
                        column: x => x.LadderId,
                        principalTable: "Ladders",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ChaseLetterItems",
                columns: table => new
                {
                    LetterId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Step = table.Column<int>(type: "INTEGER", nullable: false),
                    Asked = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ChaseLetterItems", x => new { x.LetterId, x.ItemId });
                    table.ForeignKey(
                        name: "FK_ChaseLetterItems_AccountItems_ItemId",
                        column: x => x.ItemId,
                        principalTable: "AccountItems",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_ChaseLetterItems_ChaseLetters_LetterId",
                        column: x => x.LetterId,
                        principalTable: "ChaseLetters",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_ChaseLetterItems_ItemId",
                table: "ChaseLetterItems",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_ChaseLetters_CustomerId_Day",
                table: "ChaseLetters",
                columns: new[] { "CustomerId", "Day" });

            migrationBuilder.CreateIndex(
                name: "IX_ChaseLetters_LadderId",
                table: "ChaseLetters",
                column: "LadderId");

            migrationBuilder.CreateIndex(
                name: "IX_ChaseLetters_PostItemId",
                table: "ChaseLetters",
                column: "PostItemId",
                filter: "\"PostItemId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Holidays_Day",
                table: "Holidays",
                column: "Day",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_LeftOut_CustomerId",
                table: "LeftOut",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_LeftOut_ItemId",
                table: "LeftOut",
                column: "ItemId",
                filter: "\"ItemId\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ChaseLetterItems");

            migrationBuilder.DropTable(
                name: "Holidays");

            migrationBuilder.DropTable(
                name: "LadderSteps");

            migrationBuilder.DropTable(
                name: "LeftOut");

            migrationBuilder.DropTable(
                name: "ChaseLetters");

            migrationBuilder.DropTable(
                name: "Ladders");

            migrationBuilder.DropColumn(
                name: "LadderId",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "NoLadder",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "DaysBetween",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "LadderId",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "RunsByItself",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "Tolerance",
                table: "CollectingSettings");

            migrationBuilder.DropColumn(
                name: "Weekdays",
                table: "CollectingSettings");
        }
    }
}
