using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class Sparse : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Trail_CustomerId",
                table: "Trail");

            migrationBuilder.DropIndex(
                name: "IX_Trail_DocumentId",
                table: "Trail");

            migrationBuilder.DropIndex(
                name: "IX_Trail_ReceiptId",
                table: "Trail");

            migrationBuilder.DropIndex(
                name: "IX_TillCounts_BookingId",
                table: "TillCounts");

            migrationBuilder.DropIndex(
                name: "IX_TaxRules_PreferredCodeId",
                table: "TaxRules");

            migrationBuilder.DropIndex(
                name: "IX_TaxRules_TaxCodeId",
                table: "TaxRules");

            migrationBuilder.DropIndex(
                name: "IX_TaxComponents_AuthorityId",
                table: "TaxComponents");

            migrationBuilder.DropIndex(
                name: "IX_StockMoves_DocumentId",
                table: "StockMoves");

            migrationBuilder.DropIndex(
                name: "IX_StandingOccurrences_DocumentId",
                table: "StandingOccurrences");

            migrationBuilder.DropIndex(
                name: "IX_Settlements_DocumentId",
                table: "Settlements");

            migrationBuilder.DropIndex(
                name: "IX_Refunds_PaymentFileId",
                table: "Refunds");

            migrationBuilder.DropIndex(
                name: "IX_Receipts_BookingId",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Post_CustomerId",
                table: "Post");

            migrationBuilder.DropIndex(
                name: "IX_PayerRules_CustomerId",
                table: "PayerRules");

            migrationBuilder.DropIndex(
                name: "IX_LinePlacements_BookingId",
                table: "LinePlacements");

            migrationBuilder.DropIndex(
                name: "IX_LinePlacements_JoinedBookingId",
                table: "LinePlacements");

            migrationBuilder.DropIndex(
                name: "IX_LinePlacements_ReceiptId",
                table: "LinePlacements");

            migrationBuilder.DropIndex(
                name: "IX_Journal_BookingId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Journal_DocumentId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Journal_ItemId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Journal_ReceiptId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Documents_FromDocumentId",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_Documents_Number",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_Documents_RevisesId",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_DocumentLine_FromChargeId",
                table: "DocumentLine");

            migrationBuilder.DropIndex(
                name: "IX_DocumentLine_FromLineId",
                table: "DocumentLine");

            migrationBuilder.DropIndex(
                name: "IX_DocumentCharge_FromChargeId",
                table: "DocumentCharge");

            migrationBuilder.DropIndex(
                name: "IX_Customers_MergedIntoId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_SellerId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_TermsId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "EmailIndex",
                table: "AspNetUsers");

            migrationBuilder.DropIndex(
                name: "IX_Allocations_BookingId",
                table: "Allocations");

            migrationBuilder.DropIndex(
                name: "IX_Allocations_EndedById",
                table: "Allocations");

            migrationBuilder.DropIndex(
                name: "IX_AccountItems_BookingId",
                table: "AccountItems");

            migrationBuilder.CreateIndex(
                name: "IX_Trail_CustomerId",
                table: "Trail",
                column: "CustomerId",
                filter: "\"CustomerId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Trail_DocumentId",
                table: "Trail",
                column: "DocumentId",
                filter: "\"DocumentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Trail_ReceiptId",
                table: "Trail",
                column: "ReceiptId",
                filter: "\"ReceiptId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_TillCounts_BookingId",
                table: "TillCounts",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_TaxRules_PreferredCodeId",
                table: "TaxRules",
                column: "PreferredCodeId",
                filter: "\"PreferredCodeId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_TaxRules_TaxCodeId",
                table: "TaxRules",
                column: "TaxCodeId",
                filter: "\"TaxCodeId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_TaxComponents_AuthorityId",
                table: "TaxComponents",
                column: "AuthorityId",
                filter: "\"AuthorityId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_StockMoves_DocumentId",
                table: "StockMoves",
                column: "DocumentId",
                filter: "\"DocumentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_StandingOccurrences_DocumentId",
                table: "StandingOccurrences",
                column: "DocumentId",
                filter: "\"DocumentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Settlements_DocumentId",
                table: "Settlements",
                column: "DocumentId",
                filter: "\"DocumentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_PaymentFileId",
                table: "Refunds",
                column: "PaymentFileId",
                filter: "\"PaymentFileId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_BookingId",
                table: "Receipts",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Post_CustomerId",
                table: "Post",
                column: "CustomerId",
                filter: "\"CustomerId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_PayerRules_CustomerId",
                table: "PayerRules",
                column: "CustomerId",
                filter: "\"CustomerId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_LinePlacements_BookingId",
                table: "LinePlacements",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_LinePlacements_JoinedBookingId",
                table: "LinePlacements",
                column: "JoinedBookingId",
                filter: "\"JoinedBookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_LinePlacements_ReceiptId",
                table: "LinePlacements",
                column: "ReceiptId",
                filter: "\"ReceiptId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_BookingId",
                table: "Journal",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_DocumentId",
                table: "Journal",
                column: "DocumentId",
                filter: "\"DocumentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_ItemId",
                table: "Journal",
                column: "ItemId",
                filter: "\"ItemId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_ReceiptId",
                table: "Journal",
                column: "ReceiptId",
                filter: "\"ReceiptId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_FromDocumentId",
                table: "Documents",
                column: "FromDocumentId",
                filter: "\"FromDocumentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_Number",
                table: "Documents",
                column: "Number",
                filter: "\"Number\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_RevisesId",
                table: "Documents",
                column: "RevisesId",
                filter: "\"RevisesId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLine_FromChargeId",
                table: "DocumentLine",
                column: "FromChargeId",
                filter: "\"FromChargeId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLine_FromLineId",
                table: "DocumentLine",
                column: "FromLineId",
                filter: "\"FromLineId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentCharge_FromChargeId",
                table: "DocumentCharge",
                column: "FromChargeId",
                filter: "\"FromChargeId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_MergedIntoId",
                table: "Customers",
                column: "MergedIntoId",
                filter: "\"MergedIntoId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_SellerId",
                table: "Customers",
                column: "SellerId",
                filter: "\"SellerId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_TermsId",
                table: "Customers",
                column: "TermsId",
                filter: "\"TermsId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "AspNetUsers",
                column: "NormalizedEmail",
                filter: "\"NormalizedEmail\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Allocations_BookingId",
                table: "Allocations",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Allocations_EndedById",
                table: "Allocations",
                column: "EndedById",
                filter: "\"EndedById\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_BookingId",
                table: "AccountItems",
                column: "BookingId",
                filter: "\"BookingId\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Trail_CustomerId",
                table: "Trail");

            migrationBuilder.DropIndex(
                name: "IX_Trail_DocumentId",
                table: "Trail");

            migrationBuilder.DropIndex(
                name: "IX_Trail_ReceiptId",
                table: "Trail");

            migrationBuilder.DropIndex(
                name: "IX_TillCounts_BookingId",
                table: "TillCounts");

            migrationBuilder.DropIndex(
                name: "IX_TaxRules_PreferredCodeId",
                table: "TaxRules");

            migrationBuilder.DropIndex(
                name: "IX_TaxRules_TaxCodeId",
                table: "TaxRules");

            migrationBuilder.DropIndex(
                name: "IX_TaxComponents_AuthorityId",
                table: "TaxComponents");

            migrationBuilder.DropIndex(
                name: "IX_StockMoves_DocumentId",
                table: "StockMoves");

            migrationBuilder.DropIndex(
                name: "IX_StandingOccurrences_DocumentId",
                table: "StandingOccurrences");

            migrationBuilder.DropIndex(
                name: "IX_Settlements_DocumentId",
                table: "Settlements");

            migrationBuilder.DropIndex(
                name: "IX_Refunds_PaymentFileId",
                table: "Refunds");

            migrationBuilder.DropIndex(
                name: "IX_Receipts_BookingId",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Post_CustomerId",
                table: "Post");

            migrationBuilder.DropIndex(
                name: "IX_PayerRules_CustomerId",
                table: "PayerRules");

            migrationBuilder.DropIndex(
                name: "IX_LinePlacements_BookingId",
                table: "LinePlacements");

            migrationBuilder.DropIndex(
                name: "IX_LinePlacements_JoinedBookingId",
                table: "LinePlacements");

            migrationBuilder.DropIndex(
                name: "IX_LinePlacements_ReceiptId",
                table: "LinePlacements");

            migrationBuilder.DropIndex(
                name: "IX_Journal_BookingId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Journal_DocumentId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Journal_ItemId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Journal_ReceiptId",
                table: "Journal");

            migrationBuilder.DropIndex(
                name: "IX_Documents_FromDocumentId",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_Documents_Number",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_Documents_RevisesId",
                table: "Documents");

            migrationBuilder.DropIndex(
                name: "IX_DocumentLine_FromChargeId",
                table: "DocumentLine");

            migrationBuilder.DropIndex(
                name: "IX_DocumentLine_FromLineId",
                table: "DocumentLine");

            migrationBuilder.DropIndex(
                name: "IX_DocumentCharge_FromChargeId",
                table: "DocumentCharge");

            migrationBuilder.DropIndex(
                name: "IX_Customers_MergedIntoId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_SellerId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "IX_Customers_TermsId",
                table: "Customers");

            migrationBuilder.DropIndex(
                name: "EmailIndex",
                table: "AspNetUsers");

            migrationBuilder.DropIndex(
                name: "IX_Allocations_BookingId",
                table: "Allocations");

            migrationBuilder.DropIndex(
                name: "IX_Allocations_EndedById",
                table: "Allocations");

            migrationBuilder.DropIndex(
                name: "IX_AccountItems_BookingId",
                table: "AccountItems");

            migrationBuilder.CreateIndex(
                name: "IX_Trail_CustomerId",
                table: "Trail",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_Trail_DocumentId",
                table: "Trail",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_Trail_ReceiptId",
                table: "Trail",
                column: "ReceiptId");

            migrationBuilder.CreateIndex(
                name: "IX_TillCounts_BookingId",
                table: "TillCounts",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxRules_PreferredCodeId",
                table: "TaxRules",
                column: "PreferredCodeId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxRules_TaxCodeId",
                table: "TaxRules",
                column: "TaxCodeId");

            migrationBuilder.CreateIndex(
                name: "IX_TaxComponents_AuthorityId",
                table: "TaxComponents",
                column: "AuthorityId");

            migrationBuilder.CreateIndex(
                name: "IX_StockMoves_DocumentId",
                table: "StockMoves",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_StandingOccurrences_DocumentId",
                table: "StandingOccurrences",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_Settlements_DocumentId",
                table: "Settlements",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_Refunds_PaymentFileId",
                table: "Refunds",
                column: "PaymentFileId");

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_BookingId",
                table: "Receipts",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Post_CustomerId",
                table: "Post",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_PayerRules_CustomerId",
                table: "PayerRules",
                column: "CustomerId");

            migrationBuilder.CreateIndex(
                name: "IX_LinePlacements_BookingId",
                table: "LinePlacements",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_LinePlacements_JoinedBookingId",
                table: "LinePlacements",
                column: "JoinedBookingId");

            migrationBuilder.CreateIndex(
                name: "IX_LinePlacements_ReceiptId",
                table: "LinePlacements",
                column: "ReceiptId");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_BookingId",
                table: "Journal",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_DocumentId",
                table: "Journal",
                column: "DocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_ItemId",
                table: "Journal",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Journal_ReceiptId",
                table: "Journal",
                column: "ReceiptId");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_FromDocumentId",
                table: "Documents",
                column: "FromDocumentId");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_Number",
                table: "Documents",
                column: "Number");

            migrationBuilder.CreateIndex(
                name: "IX_Documents_RevisesId",
                table: "Documents",
                column: "RevisesId");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLine_FromChargeId",
                table: "DocumentLine",
                column: "FromChargeId");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentLine_FromLineId",
                table: "DocumentLine",
                column: "FromLineId");

            migrationBuilder.CreateIndex(
                name: "IX_DocumentCharge_FromChargeId",
                table: "DocumentCharge",
                column: "FromChargeId");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_MergedIntoId",
                table: "Customers",
                column: "MergedIntoId");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_SellerId",
                table: "Customers",
                column: "SellerId");

            migrationBuilder.CreateIndex(
                name: "IX_Customers_TermsId",
                table: "Customers",
                column: "TermsId");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "AspNetUsers",
                column: "NormalizedEmail");

            migrationBuilder.CreateIndex(
                name: "IX_Allocations_BookingId",
                table: "Allocations",
                column: "BookingId");

            migrationBuilder.CreateIndex(
                name: "IX_Allocations_EndedById",
                table: "Allocations",
                column: "EndedById");

            migrationBuilder.CreateIndex(
                name: "IX_AccountItems_BookingId",
                table: "AccountItems",
                column: "BookingId");
        }
    }
}
