using Jugaad.Core.Documents;
using Jugaad.Core.Trade;

namespace Jugaad.Desk.Books;

/// <summary>
/// Where the buyer of a paper that was billed was when it was issued, and where it was supplied; of what corrects a
/// paper, that paper's. Kept beside the paper in columns, as reports over a year group by them.
/// </summary>
/// <param name="BuyerCountry">Two letters, or empty for home.</param>
/// <param name="Country">Of the place of supply, and so on.</param>
public sealed record PaperPlace(
    int DocumentId,
    string BuyerCountry,
    string Country,
    string Region,
    string City,
    string PostalCode
)
{
    /// <summary>As a paper that corrects none says by itself.</summary>
    /// <param name="place">Where it goes to, if that is not the buyer's address.</param>
    internal static PaperPlace Of(int documentId, Addressee to, Address? place)
    {
        var supplied = place ?? to.Parts?.Address ?? new Address(Country: to.Country);
        return new PaperPlace(
            documentId,
            to.Country,
            supplied.Country,
            supplied.Region,
            supplied.City,
            supplied.PostalCode
        );
    }
}
