using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class KeptLists : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "Particulars_GoodsStay",
                table: "Documents",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "NoteReasons",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    Retired = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoteReasons", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "PayWays",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    MoneyAccountId = table.Column<int>(type: "INTEGER", nullable: false),
                    Retired = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PayWays", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PayWays_LedgerAccounts_MoneyAccountId",
                        column: x => x.MoneyAccountId,
                        principalTable: "LedgerAccounts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_NoteReasons_Text",
                table: "NoteReasons",
                column: "Text",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_PayWays_MoneyAccountId",
                table: "PayWays",
                column: "MoneyAccountId");

            migrationBuilder.CreateIndex(
                name: "IX_PayWays_Name",
                table: "PayWays",
                column: "Name",
                unique: true);

            // Books that were begun before get the usual ones: a way for each account that money comes into.
            migrationBuilder.Sql("INSERT INTO PayWays (Name, MoneyAccountId, Retired) SELECT CASE Kind WHEN 'Cash' THEN 'Cash' WHEN 'CardClearing' THEN 'Card' ELSE 'Bank transfer' END || CASE WHEN EXISTS (SELECT 1 FROM LedgerAccounts b WHERE b.Role = 'Money' AND b.Kind = a.Kind AND b.Id < a.Id) THEN ', ' || Name ELSE '' END, Id, Retired FROM LedgerAccounts a WHERE Role = 'Money'");
            foreach (var reason in new[] { "Goods came back", "Damaged on the way", "Billed too much", "Billed twice", "Agreed afterwards", "Billed too little" })
                migrationBuilder.Sql($"INSERT INTO NoteReasons (Text, Retired) SELECT '{reason}', 0 WHERE EXISTS (SELECT 1 FROM Businesses)");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "NoteReasons");

            migrationBuilder.DropTable(
                name: "PayWays");

            migrationBuilder.DropColumn(
                name: "Particulars_GoodsStay",
                table: "Documents");
        }
    }
}
