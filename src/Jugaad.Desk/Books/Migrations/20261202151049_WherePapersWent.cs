using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class WherePapersWent : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_DocumentLine_DocumentId",
                table: "DocumentLine");

            migrationBuilder.CreateTable(
                name: "PaperPlaces",
                columns: table => new
                {
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: false),
                    BuyerCountry = table.Column<string>(type: "TEXT", nullable: false),
                    Country = table.Column<string>(type: "TEXT", nullable: false),
                    Region = table.Column<string>(type: "TEXT", nullable: false),
                    City = table.Column<string>(type: "TEXT", nullable: false),
                    PostalCode = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PaperPlaces", x => x.DocumentId);
                    table.ForeignKey(
                        name: "FK_PaperPlaces_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            // What corrects a paper goes where that went, and what corrects a correction likewise.
            migrationBuilder.Sql(
                """
                WITH RECURSIVE went("Id", "FromId") AS (
                  SELECT d."Id", d."Id"
                  FROM "Documents" d JOIN "AccountItems" i ON i."DocumentId" = d."Id"
                  WHERE d."Kind" NOT IN ('CreditNote', 'DebitNote')
                    OR d."FromDocumentId" IS NULL
                    OR NOT EXISTS (SELECT 1 FROM "AccountItems" f WHERE f."DocumentId" = d."FromDocumentId")
                  UNION ALL
                  SELECT d."Id", w."FromId"
                  FROM went w JOIN "Documents" d ON d."FromDocumentId" = w."Id"
                    JOIN "AccountItems" i ON i."DocumentId" = d."Id"
                  WHERE d."Kind" IN ('CreditNote', 'DebitNote'))
                INSERT INTO "PaperPlaces"
                  ("DocumentId", "BuyerCountry", "Country", "Region", "City", "PostalCode")
                SELECT w."Id",
                  COALESCE(json_extract(d."Addressee", '$.Country'), c."Address_Country"),
                  COALESCE(json_extract(d."Place", '$.Country'),
                    json_extract(d."Addressee", '$.Parts.Address.Country'), c."Address_Country"),
                  COALESCE(json_extract(d."Place", '$.Region'),
                    json_extract(d."Addressee", '$.Parts.Address.Region'), c."Address_Region"),
                  COALESCE(json_extract(d."Place", '$.City'),
                    json_extract(d."Addressee", '$.Parts.Address.City'), c."Address_City"),
                  COALESCE(json_extract(d."Place", '$.PostalCode'),
                    json_extract(d."Addressee", '$.Parts.Address.PostalCode'), c."Address_PostalCode")
                FROM went w
                JOIN "Documents" d ON d."Id" = w."FromId"
                JOIN "Customers" c ON c."Id" = d."CustomerId"
                """);

            migrationBuilder.CreateIndex(
                name: "IX_Journal_Customer",
                table: "Journal",
                columns: new[] { "CustomerId", "Date", "Event", "IsMirrored" });

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLine_Billed",
                table: "DocumentLine",
                columns: new[] { "DocumentId", "Net", "ItemId", "LedgerAccountId" });

            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_Billed",
                table: "AccountItems",
                columns: new[] { "Date", "DocumentId", "CustomerId", "Sign", "Currency" },
                filter: "\"DocumentId\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "PaperPlaces");

            migrationBuilder.DropIndex(
                name: "IX_Journal_Customer",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_DocumentLine_Billed",
                table: "DocumentLine");

            migrationBuilder.DropIndex(
                name: "IX_AccountItems_Billed",
                table: "AccountItems");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLine_DocumentId",
                table: "DocumentLine",
                column: "DocumentId");
        }
    }
}
