using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class ImportsTakenBack : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "TakenBackText",
                table: "ImportRuns",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "ImportEffects",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    RunId = table.Column<int>(type: "INTEGER", nullable: false),
                    On = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    TargetId = table.Column<int>(type: "INTEGER", nullable: false),
                    Before = table.Column<string>(type: "TEXT", nullable: false),
                    VersionAfter = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ImportEffects", x => x.Id);
                    table.ForeignKey(
                        name: "FK_ImportEffects_ImportRuns_RunId",
                        column: x => x.RunId,
                        principalTable: "ImportRuns",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_ImportEffects_RunId",
                table: "ImportEffects",
                column: "RunId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ImportEffects");

            migrationBuilder.DropColumn(
                name: "TakenBackText",
                table: "ImportRuns");
        }
    }
}
