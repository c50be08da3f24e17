using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class RatesAsQuoted : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Whole 10^-10 become the figures as they were quoted, in home currency for one unit.
            foreach (
                var (table, column) in new[]
                {
                    ("Documents", "ExchangeRate"),
                    ("Receipts", "ExchangeRate"),
                    ("Refunds", "ExchangeRate"),
                    ("Settlements", "ExchangeRate"),
                    ("ExchangeRates", "Rate"),
                }
            )
            {
                migrationBuilder.Sql($"ALTER TABLE \"{table}\" ADD COLUMN \"Quoted\" TEXT NOT NULL DEFAULT '1'");
                migrationBuilder.Sql(
                    $"UPDATE \"{table}\" SET \"Quoted\" = rtrim(rtrim(printf('%d.%010d', \"{column}\" / 10000000000, \"{column}\" % 10000000000), '0'), '.') WHERE \"{column}\" <> 10000000000"
                );
                migrationBuilder.Sql($"ALTER TABLE \"{table}\" DROP COLUMN \"{column}\"");
                migrationBuilder.Sql($"ALTER TABLE \"{table}\" RENAME COLUMN \"Quoted\" TO \"{column}\"");
            }

            migrationBuilder.AddColumn<string>(
                name: "Buying",
                table: "ExchangeRates",
                type: "TEXT",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Selling",
                table: "ExchangeRates",
                type: "TEXT",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Source",
                table: "ExchangeRates",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "RateRules",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ForDocuments = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    ForMoney = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    ForConversions = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    ForValuation = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    OldestDays = table.Column<int>(type: "INTEGER", nullable: true),
                    WarnPercent = table.Column<int>(type: "INTEGER", nullable: false),
                    Fetches = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RateRules", x => x.Id);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "RateRules");

            migrationBuilder.DropColumn(
                name: "Buying",
                table: "ExchangeRates");

            migrationBuilder.DropColumn(
                name: "Selling",
                table: "ExchangeRates");

            migrationBuilder.DropColumn(
                name: "Source",
                table: "ExchangeRates");

        }
    }
}
