using Jugaad.Core.Trade;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Books;

/// <summary>
/// Where a paper's buyer was when it was issued, and where it was supplied; of what corrects a paper, that paper's.
/// </summary>
/// <param name="BuyerCountry">Two letters, or empty for home.</param>
/// <param name="Country">Of the place of supply, and so on.</param>
internal sealed record PaperPlace(
    int Id,
    string BuyerCountry,
    string Country,
    string Region,
    string City,
    string PostalCode
);

/// <summary>
/// Reads where papers went from what they froze, so that a period tells the same whoever moved since; only what was
/// issued before that was kept follows its customer.
/// </summary>
internal static class PaperPlaces
{
    internal static IQueryable<PaperPlace> PlacesOfPapers(this BooksContext db) =>
        db.Database.SqlQuery<PaperPlace>(
            $"""
            SELECT d."Id",
              COALESCE(json_extract(p."Addressee", '$.Country'), c."Address_Country") AS "BuyerCountry",
              COALESCE(json_extract(p."Place", '$.Country'),
                json_extract(p."Addressee", '$.Parts.Address.Country'), c."Address_Country") AS "Country",
              COALESCE(json_extract(p."Place", '$.Region'),
                json_extract(p."Addressee", '$.Parts.Address.Region'), c."Address_Region") AS "Region",
              COALESCE(json_extract(p."Place", '$.City'),
                json_extract(p."Addressee", '$.Parts.Address.City'), c."Address_City") AS "City",
              COALESCE(json_extract(p."Place", '$.PostalCode'),
                json_extract(p."Addressee", '$.Parts.Address.PostalCode'), c."Address_PostalCode") AS "PostalCode"
            FROM "Documents" d
            JOIN "Documents" p ON p."Id" =
              CASE WHEN d."Kind" IN ('CreditNote', 'DebitNote') THEN COALESCE(d."FromDocumentId", d."Id") ELSE d."Id" END
            JOIN "Customers" c ON c."Id" = p."CustomerId"
            """
        );
}
