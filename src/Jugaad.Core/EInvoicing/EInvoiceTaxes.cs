using Jugaad.Core.Taxes;

namespace Jugaad.Core.EInvoicing;

/// <summary>How the standard tells the way in which something is taxed.</summary>
internal static class EInvoiceTaxes
{
    internal static LineTax Of(string treatment)
    {
        var parsed = Treatment.Parse(treatment);
        var rate = parsed.Parts.Count > 0 ? parsed.Parts[0].Percent : 0;
        // Taxed at nothing is what the standard calls zero rated.
        return parsed.Category == TaxCategory.OutOfScope ? new LineTax("O", null)
            : parsed.Category == TaxCategory.Standard && rate == 0 ? new LineTax("Z", 0)
            : new LineTax(parsed.Category.Letters(), rate);
    }

    /// <summary>The code of the VATEX list that goes with a category as a whole; empty where its reason has to be given.</summary>
    internal static string UsualExemption(string category) =>
        category switch
        {
            "AE" => "VATEX-EU-AE",
            "K" => "VATEX-EU-IC",
            "G" => "VATEX-EU-G",
            "O" => "VATEX-EU-O",
            _ => "",
        };
}
