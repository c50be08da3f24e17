using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Drafting;

/// <summary>Warns where a line got its tax code although the addresses do not say all that the tax rules ask.</summary>
public sealed class UnsaidPlaces(BooksContext db, TaxRulesDesk rules)
{
    public async Task<IReadOnlyList<Refusal>> OfAsync(Document document, CancellationToken stop = default)
    {
        var lines = document.Lines.Where(l => l.Role == LineRole.Item && l.Counts).OrderBy(l => l.Position).ToList();
        if (lines.Count == 0 || !await rules.GoByRegionOrPostalCodeAsync(stop))
            return [];
        var question = new TaxQuestion(
            document.CustomerId,
            document.PlaceId,
            document.TaxDate ?? document.Date,
            [.. lines.Select(l => l.ItemId)]
        );
        var answers = await rules.DecideAsync(question, stop);
        // Who chose another code than the rules did knows where it goes to.
        var lacking = lines
            .Zip(answers)
            .Where(p => p.First.TaxCodeId == p.Second.TaxCodeId)
            .Aggregate(AddressPart.None, (all, p) => all | p.Second.Lacks);
        // What is handed over at our own address is at home, whatever its region is called.
        if (document.PlaceId == 0)
            lacking &= AddressPart.PostalCode;
        if (lacking == AddressPart.None)
            return [];

        var where = document.PlaceId switch
        {
            0 => "our own address",
            { } id =>
                $"the place {await db.Set<Core.Trade.CustomerPlace>().Where(p => p.Id == id).Select(p => p.Label).SingleOrDefaultAsync(stop)}",
            null =>
                $"the address of {await db.Customers.Where(c => c.Id == document.CustomerId).Select(c => c.Name).SingleAsync(stop)}",
        };
        var warnings = new List<Refusal>();
        if (lacking.HasFlag(AddressPart.OwnRegion))
            warnings.Add(
                new(
                    "customer",
                    "Which tax applies hangs on our own region, and the address of the business names none. Choose it under Setup, the business; until then all at home is taxed as in one region."
                )
            );
        if (lacking.HasFlag(AddressPart.Region))
            warnings.Add(
                new(
                    "customer",
                    $"Which tax applies hangs on the region it goes to, and {where} names none, so it is taxed as in our own. Give the region on the customer's page."
                )
            );
        if (lacking.HasFlag(AddressPart.PostalCode))
            warnings.Add(
                new(
                    "customer",
                    $"Which tax applies hangs on the postal code it goes to, and {where} has none, so no town's or county's tax is charged. Give the postal code{(document.PlaceId == 0 ? " under Setup, the business" : " on the customer's page")}."
                )
            );
        return warnings;
    }
}
