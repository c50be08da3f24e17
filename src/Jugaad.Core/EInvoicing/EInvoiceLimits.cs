using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.EInvoicing;

/// <summary>What a document may hold that the standard has no words for.</summary>
internal static class EInvoiceLimits
{
    internal static void Check(Refusals refusals, Document document)
    {
        foreach (var treatment in document.Taxes.Select(t => Treatment.Parse(t.Treatment)).Distinct())
            if (treatment.Parts.Count > 1)
                refusals.Add(
                    "lines",
                    $"{treatment.Rates} is taxed twice on one line, and an e-invoice of the European standard has one tax a line. Send this one as a PDF."
                );
        if (
            document.Currency.MinorPerUnit > 100
            && Amounts(document).Any(a => a % (document.Currency.MinorPerUnit / 100) != 0)
        )
            refusals.Add(
                "currency",
                $"Amounts of the European standard have at most two decimals, and this has a third in {document.Currency}. Send it as a PDF."
            );
        var categories = document.Taxes.Select(t => t.Category).Distinct().ToList();
        if (categories.Count > 1 && categories.Contains(TaxCategory.OutOfScope))
            refusals.Add(
                "lines",
                "An e-invoice that has a line outside the scope of tax may have no other (BR-O-11). Bill the two apart, or send this one as a PDF."
            );
    }

    private static IEnumerable<long> Amounts(Document document) =>
        document
            .Lines.SelectMany(l => new[] { l.Amount, l.Net })
            .Concat(document.Charges.Select(c => c.Net))
            .Concat(document.Taxes.SelectMany(t => new[] { t.Taxable, t.Tax }))
            .Concat([document.Net, document.Tax, document.Total, document.Payable]);
}
