using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class SettingUp : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Authority",
                table: "TaxComponents");

            migrationBuilder.AddColumn<string>(name: "TradingName", table: "Businesses", type: "TEXT", nullable: false, defaultValue: "");

            migrationBuilder.AddColumn<string>(name: "Address_Region", table: "Businesses", type: "TEXT", nullable: false, defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "Retired",
                table: "Terms",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Country",
                table: "TaxRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Postal",
                table: "TaxRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "PreferredCodeId",
                table: "TaxRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Region",
                table: "TaxRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "AuthorityId",
                table: "TaxComponents",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Retired",
                table: "TaxCodes",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "First",
                table: "SeriesCounters",
                type: "INTEGER",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<bool>(
                name: "IsUsual",
                table: "Series",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "Retired",
                table: "Series",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "BankName",
                table: "LedgerAccounts",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Bic",
                table: "LedgerAccounts",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Iban",
                table: "LedgerAccounts",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Kind",
                table: "LedgerAccounts",
                type: "TEXT",
                maxLength: 40,
                nullable: false,
                defaultValue: "Bank");

            migrationBuilder.AddColumn<bool>(
                name: "OnPapers",
                table: "LedgerAccounts",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "Retired",
                table: "LedgerAccounts",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Classification",
                table: "Items",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<long>(
                name: "Cost",
                table: "Items",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<bool>(
                name: "KeepsCount",
                table: "Items",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "OnHand",
                table: "Items",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<bool>(
                name: "PriceIncludesTax",
                table: "Items",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Place",
                table: "Documents",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "PlaceId",
                table: "Documents",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "SeriesByHand",
                table: "Documents",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "TaxWords",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Address_Region",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Language",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "en");

            migrationBuilder.AddColumn<int>(
                name: "MergedIntoId",
                table: "Customers",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Mobile",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "NoMoreOnAccount",
                table: "Customers",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "NoMoreReason",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "OtherName",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "PriceListId",
                table: "Customers",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "RiskGrade",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "SellerId",
                table: "Customers",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Tags",
                table: "Customers",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<long>(
                name: "TradeDiscount",
                table: "Customers",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<byte[]>(
                name: "Signature",
                table: "Businesses",
                type: "BLOB",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "YearBegins",
                table: "Businesses",
                type: "INTEGER",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.CreateTable(
                name: "CustomerContacts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Email = table.Column<string>(type: "TEXT", nullable: false),
                    Phone = table.Column<string>(type: "TEXT", nullable: false),
                    GetsInvoices = table.Column<bool>(type: "INTEGER", nullable: false),
                    GetsReminders = table.Column<bool>(type: "INTEGER", nullable: false),
                    Decides = table.Column<bool>(type: "INTEGER", nullable: false),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CustomerContacts", x => x.Id);
                    table.ForeignKey(
                        name: "FK_CustomerContacts_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "CustomerPlaces",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Label = table.Column<string>(type: "TEXT", nullable: false),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false),
                    Address_City = table.Column<string>(type: "TEXT", nullable: false),
                    Address_Country = table.Column<string>(type: "TEXT", nullable: false),
                    Address_PostalCode = table.Column<string>(type: "TEXT", nullable: false),
                    Address_Region = table.Column<string>(type: "TEXT", nullable: false),
                    Address_Street = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CustomerPlaces", x => x.Id);
                    table.ForeignKey(
                        name: "FK_CustomerPlaces_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ExemptionCertificates",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    Until = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ExemptionCertificates", x => x.Id);
                    table.ForeignKey(
                        name: "FK_ExemptionCertificates_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ItemBatches",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Who = table.Column<string>(type: "TEXT", nullable: false),
                    Words = table.Column<string>(type: "TEXT", nullable: false),
                    Undone = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ItemBatches", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "KindTexts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Kind = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: false),
                    Footer = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_KindTexts", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "PriceLists",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Currency = table.Column<string>(type: "TEXT", maxLength: 3, nullable: false),
                    IncludesTax = table.Column<bool>(type: "INTEGER", nullable: false),
                    Retired = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PriceLists", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "StockMoves",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Date = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    Who = table.Column<string>(type: "TEXT", nullable: false),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StockMoves", x => x.Id);
                    table.ForeignKey(
                        name: "FK_StockMoves_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "TaxAuthorities",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    OurNumber = table.Column<string>(type: "TEXT", nullable: false),
                    EveryMonths = table.Column<int>(type: "INTEGER", nullable: false),
                    FirstMonth = table.Column<int>(type: "INTEGER", nullable: false),
                    Basis = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    RegisteredFrom = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TaxAuthorities", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "ItemBatchRows",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Before = table.Column<string>(type: "TEXT", nullable: false),
                    VersionAfter = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ItemBatchRows", x => x.Id);
                    table.ForeignKey(
                        name: "FK_ItemBatchRows_ItemBatches_BatchId",
                        column: x => x.BatchId,
                        principalTable: "ItemBatches",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ItemPrices",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    PriceListId = table.Column<int>(type: "INTEGER", nullable: false),
                    Price = table.Column<long>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ItemPrices", x => x.Id);
                    table.ForeignKey(
                        name: "FK_ItemPrices_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_ItemPrices_PriceLists_PriceListId",
                        column: x => x.PriceListId,
                        principalTable: "PriceLists",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_TaxRules_PreferredCodeId",
                table: "TaxRules",
                column: "PreferredCodeId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxComponents_AuthorityId",
                table: "TaxComponents",
                column: "AuthorityId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxComponents_Name",
                table: "TaxComponents",
                column: "Name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Customers_Email",
                table: "Customers",
                column: "Email");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_MergedIntoId",
                table: "Customers",
                column: "MergedIntoId");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_RegistrationNumber",
                table: "Customers",
                column: "RegistrationNumber");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_SellerId",
                table: "Customers",
                column: "SellerId");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_TaxNumber",
                table: "Customers",
                column: "TaxNumber");

            migrationBuilder.CreateIndex(
                name: "IX_CustomerContacts_CustomerId",
                table: "CustomerContacts",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_CustomerPlaces_CustomerId",
                table: "CustomerPlaces",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_ExemptionCertificates_CustomerId",
                table: "ExemptionCertificates",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_ItemBatchRows_BatchId",
                table: "ItemBatchRows",
                column: "BatchId");

            migrationBuilder.CreateIndex(
                name: "IX_ItemPrices_ItemId_PriceListId",
                table: "ItemPrices",
                columns: new[] { "ItemId", "PriceListId" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_ItemPrices_PriceListId",
                table: "ItemPrices",
                column: "PriceListId");

            migrationBuilder.CreateIndex(
                name: "IX_KindTexts_Kind",
                table: "KindTexts",
                column: "Kind",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_StockMoves_DocumentId",
                table: "StockMoves",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_StockMoves_ItemId_Date",
                table: "StockMoves",
                columns: new[] { "ItemId", "Date" });

            migrationBuilder.CreateIndex(
                name: "IX_TaxAuthorities_Name",
                table: "TaxAuthorities",
                column: "Name",
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "FK_Customers_AspNetUsers_SellerId",
                table: "Customers",
                column: "SellerId",
                principalTable: "AspNetUsers",
                principalColumn: "Id",
                onDelete: ReferentialAction.SetNull);

            migrationBuilder.AddForeignKey(
                name: "FK_Customers_Customers_MergedIntoId",
                table: "Customers",
                column: "MergedIntoId",
                principalTable: "Customers",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "FK_TaxComponents_TaxAuthorities_AuthorityId",
                table: "TaxComponents",
                column: "AuthorityId",
                principalTable: "TaxAuthorities",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "FK_TaxRules_TaxCodes_PreferredCodeId",
                table: "TaxRules",
                column: "PreferredCodeId",
                principalTable: "TaxCodes",
                principalColumn: "Id",
                onDelete: ReferentialAction.Restrict);

            // The business's one bank account becomes an account of the journal that papers name.
            migrationBuilder.Sql("""
                UPDATE LedgerAccounts SET BankName = (SELECT BankName FROM Businesses), Iban = (SELECT Iban FROM Businesses), Bic = (SELECT Bic FROM Businesses),
                    OnPapers = (SELECT Iban <> '' FROM Businesses)
                WHERE Role = 'Money' AND Id = (SELECT MIN(Id) FROM LedgerAccounts WHERE Role = 'Money') AND EXISTS (SELECT 1 FROM Businesses);
                """);
            migrationBuilder.Sql("UPDATE LedgerAccounts SET Kind = 'Cash' WHERE Role = 'Money' AND Code = '1010'; UPDATE LedgerAccounts SET Kind = 'CardClearing' WHERE Role = 'Money' AND Code = '1020';");
            migrationBuilder.Sql("INSERT INTO LedgerAccounts (Code, Name, Role, Kind, BankName, Iban, Bic, OnPapers, Retired) SELECT '2900', 'Opening balances', 'OpeningBalances', 'Bank', '', '', '', 0, 0 WHERE EXISTS (SELECT 1 FROM Businesses) AND NOT EXISTS (SELECT 1 FROM LedgerAccounts WHERE Code = '2900');");
            migrationBuilder.Sql("UPDATE Series SET IsUsual = 1 WHERE Id IN (SELECT MIN(Id) FROM Series GROUP BY UsedFor);");
            migrationBuilder.Sql("UPDATE Items SET Barcode = ',' || Barcode || ',' WHERE Barcode <> '';");

            // What tax codes have papers say is kept with each document from now on.
            migrationBuilder.Sql("""
                UPDATE Documents SET TaxWords = COALESCE((SELECT group_concat(Words, char(10)) FROM (
                    SELECT DISTINCT c.Reason AS Words FROM TaxCodes c WHERE c.Reason IS NOT NULL AND c.Code IN (
                        SELECT l.TaxCode FROM DocumentLine l WHERE l.DocumentId = Documents.Id UNION SELECT g.TaxCode FROM DocumentCharge g WHERE g.DocumentId = Documents.Id))), '');
                """);
            migrationBuilder.DropColumn(name: "BankName", table: "Businesses");
            migrationBuilder.DropColumn(name: "Iban", table: "Businesses");
            migrationBuilder.DropColumn(name: "Bic", table: "Businesses");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Customers_AspNetUsers_SellerId",
                table: "Customers");

            migrationBuilder.DropForeignKey(
                name: "FK_Customers_Customers_MergedIntoId",
                table: "Customers");

            migrationBuilder.DropForeignKey(
                name: "FK_TaxComponents_TaxAuthorities_AuthorityId",
                table: "TaxComponents");

            migrationBuilder.DropForeignKey(
                name: "FK_TaxRules_TaxCodes_PreferredCodeId",
                table: "TaxRules");

            migrationBuilder.DropTable(
                name: "CustomerContacts");

            migrationBuilder.DropTable(
                name: "CustomerPlaces");

            migrationBuilder.DropTable(
                name: "ExemptionCertificates");

            migrationBuilder.DropTable(
                name: "ItemBatchRows");

            migrationBuilder.DropTable(
                name: "ItemPrices");

            migrationBuilder.DropTable(
                name: "KindTexts");

            migrationBuilder.DropTable(
                name: "StockMoves");

            migrationBuilder.DropTable(
                name: "TaxAuthorities");

            migrationBuilder.DropTable(
                name: "ItemBatches");

            migrationBuilder.DropTable(
                name: "PriceLists");

            migrationBuilder.DropIndex(
                name: "IX_TaxRules_PreferredCodeId",
                table: "TaxRules");

            migrationBuilder.DropIndex(
                name: "IX_TaxComponents_AuthorityId",
                table: "TaxComponents");

            migrationBuilder.DropIndex(
                name: "IX_TaxComponents_Name",
                table: "TaxComponents");

            migrationBuilder.DropIndex(
                name: "IX_Customers_Email",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_MergedIntoId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_RegistrationNumber",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_SellerId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_TaxNumber",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Retired",
                table: "Terms");

            migrationBuilder.DropColumn(
                name: "Country",
                table: "TaxRules");

            migrationBuilder.DropColumn(
                name: "Postal",
                table: "TaxRules");

            migrationBuilder.DropColumn(
                name: "PreferredCodeId",
                table: "TaxRules");

            migrationBuilder.DropColumn(
                name: "Region",
                table: "TaxRules");

            migrationBuilder.DropColumn(
                name: "AuthorityId",
                table: "TaxComponents");

            migrationBuilder.DropColumn(
                name: "Retired",
                table: "TaxCodes");

            migrationBuilder.DropColumn(
                name: "First",
                table: "SeriesCounters");

            migrationBuilder.DropColumn(
                name: "IsUsual",
                table: "Series");

            migrationBuilder.DropColumn(
                name: "Retired",
                table: "Series");

            migrationBuilder.DropColumn(
                name: "BankName",
                table: "LedgerAccounts");

            migrationBuilder.DropColumn(
                name: "Bic",
                table: "LedgerAccounts");

            migrationBuilder.DropColumn(
                name: "Iban",
                table: "LedgerAccounts");

            migrationBuilder.DropColumn(
                name: "Kind",
                table: "LedgerAccounts");

            migrationBuilder.DropColumn(
                name: "OnPapers",
                table: "LedgerAccounts");

            migrationBuilder.DropColumn(
                name: "Retired",
                table: "LedgerAccounts");

            migrationBuilder.DropColumn(
                name: "Classification",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "Cost",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "KeepsCount",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "OnHand",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "PriceIncludesTax",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "Place",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "PlaceId",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "SeriesByHand",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "TaxWords",
                table: "Documents");

            migrationBuilder.DropColumn(
                name: "Address_Region",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Language",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "MergedIntoId",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Mobile",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "NoMoreOnAccount",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "NoMoreReason",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "OtherName",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "PriceListId",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "RiskGrade",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "SellerId",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Tags",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "TradeDiscount",
                table: "Customers");

            migrationBuilder.DropColumn(
                name: "Signature",
                table: "Businesses");

            migrationBuilder.DropColumn(
                name: "YearBegins",
                table: "Businesses");

            migrationBuilder.DropColumn(name: "TradingName", table: "Businesses");

            migrationBuilder.AddColumn<string>(name: "Iban", table: "Businesses", type: "TEXT", nullable: false, defaultValue: "");

            migrationBuilder.DropColumn(name: "Address_Region", table: "Businesses");

            migrationBuilder.AddColumn<string>(name: "Bic", table: "Businesses", type: "TEXT", nullable: false, defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Authority",
                table: "TaxComponents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "BankName",
                table: "Businesses",
                type: "TEXT",
                nullable: false,
                defaultValue: "");
        }
    }
}
