using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Desk.Issuing;

/// <summary>Something that the e-invoice of a draft would lack.</summary>
/// <param name="Field">Of the editor.</param>
/// <param name="Address">The page where it is mended.</param>
internal sealed record EInvoiceNeed(string Field, Phrase Words, string Address, string Mend);

/// <summary>What the e-invoice of a draft would still lack, where its customer gets those.</summary>
internal static class EInvoiceNeeds
{
    internal static IEnumerable<EInvoiceNeed> Of(Document document, Customer customer, Business business)
    {
        if (!document.Policy.Posts || customer.Takes is not (PaperForm.EInvoice or PaperForm.HybridPdf))
            yield break;
        var ours = Readiness.Of(business, true);
        if (ours.Count > 0)
            yield return new("customer", $"Its e-invoice would lack of us: {Words(ours)}.", "/setup", "add it");
        var theirs = Readiness
            .Of(customer, business.Address.Country)
            .Where(l => l.Term != "BT-10" || document.Particulars.Reference.Length == 0)
            .ToList();
        if (theirs.Count > 0)
            yield return new(
                "customer",
                $"Its e-invoice would lack of {customer.Name}: {Words(theirs)}.",
                $"/customers/{customer.Id}/edit",
                "add it"
            );
        if (document.Taxes.Any(t => Treatment.Parse(t.Treatment).Parts.Count > 1))
            yield return new(
                "lines",
                "A line has two taxes, which an e-invoice cannot say: it goes as a plain PDF.",
                $"/sell/edit/{document.Id}",
                "look at the line"
            );
    }

    private static string Words(IEnumerable<Lack> lacks) => string.Join(", ", lacks.Select(l => l.Words));
}
