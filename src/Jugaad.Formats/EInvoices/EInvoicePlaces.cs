using System.Xml.Linq;
using Jugaad.Core.Layouts;

namespace Jugaad.Formats.EInvoices;

/// <summary>A line of an e-invoice's file as it is looked at.</summary>
/// <param name="Depth">How far it stands in.</param>
/// <param name="Text">As it stands in the file, without the blanks before it.</param>
/// <param name="Anchor">Where the paper says it; empty for what the paper does not say.</param>
public sealed record EInvoiceFileLine(int Depth, string Text, string Anchor);

/// <summary>Which place of the plain paper says what an element of the file says, in either syntax.</summary>
public static class EInvoicePlaces
{
    /// <summary>So many are shown; a longer file is read as a file.</summary>
    public const int MostLines = 5_000;

    /// <summary>The innermost element that is named here decides.</summary>
    private static readonly Dictionary<string, string> Pieces = new()
    {
        // UBL
        ["Invoice/ID"] = "number",
        ["CreditNote/ID"] = "number",
        ["Invoice/InvoiceTypeCode"] = "heading",
        ["CreditNote/CreditNoteTypeCode"] = "heading",
        ["IssueDate"] = "facts",
        ["DueDate"] = "facts",
        ["TaxPointDate"] = "facts",
        ["BuyerReference"] = "facts",
        ["OrderReference"] = "facts",
        ["ProjectReference"] = "facts",
        ["BillingReference"] = "facts",
        ["ContractDocumentReference"] = "facts",
        ["Invoice/AccountingCost"] = "facts",
        ["CreditNote/AccountingCost"] = "facts",
        ["AdditionalDocumentReference"] = "closing",
        ["DespatchDocumentReference"] = "facts",
        ["ReceiptDocumentReference"] = "facts",
        ["OriginatorDocumentReference"] = "facts",
        ["PayeeParty"] = "closing",
        ["PaymentMeans/PaymentMandate"] = "closing",
        ["PaymentMeans/CardAccount"] = "closing",
        ["TaxRepresentativeParty"] = "closing",
        ["Delivery/DeliveryLocation"] = "closing",
        ["Delivery/DeliveryParty"] = "closing",
        ["Invoice/InvoicePeriod"] = "facts",
        ["CreditNote/InvoicePeriod"] = "facts",
        ["Delivery"] = "facts",
        ["Invoice/Note"] = "closing",
        ["CreditNote/Note"] = "closing",
        ["DocumentCurrencyCode"] = "totals",
        ["AccountingSupplierParty"] = "business-lines",
        ["AccountingSupplierParty/Party/PartyName"] = "business",
        ["AccountingCustomerParty"] = "customer-lines",
        ["AccountingCustomerParty/Party/PartyLegalEntity"] = "customer",
        ["AccountingCustomerParty/Party/PartyTaxScheme"] = "customer-number",
        ["PaymentMeans"] = "banks",
        ["PaymentTerms"] = "closing",
        ["Invoice/AllowanceCharge"] = "totals",
        ["CreditNote/AllowanceCharge"] = "totals",
        ["Invoice/TaxTotal"] = "taxes",
        ["CreditNote/TaxTotal"] = "taxes",
        ["LegalMonetaryTotal"] = "totals",
        // CII
        ["ExchangedDocument/ID"] = "number",
        ["ExchangedDocument/TypeCode"] = "heading",
        ["ExchangedDocument/IssueDateTime"] = "facts",
        ["ExchangedDocument/IncludedNote"] = "closing",
        ["ApplicableHeaderTradeAgreement"] = "facts",
        ["ApplicableHeaderTradeAgreement/SellerTradeParty"] = "business-lines",
        ["ApplicableHeaderTradeAgreement/SellerTradeParty/Name"] = "business",
        ["ApplicableHeaderTradeAgreement/BuyerTradeParty"] = "customer-lines",
        ["ApplicableHeaderTradeAgreement/BuyerTradeParty/Name"] = "customer",
        ["ApplicableHeaderTradeAgreement/BuyerTradeParty/SpecifiedTaxRegistration"] = "customer-number",
        ["ApplicableHeaderTradeAgreement/SellerTaxRepresentativeTradeParty"] = "closing",
        ["ApplicableHeaderTradeAgreement/AdditionalReferencedDocument"] = "closing",
        ["ApplicableHeaderTradeDelivery"] = "facts",
        ["ApplicableHeaderTradeDelivery/ShipToTradeParty"] = "closing",
        ["ReceivableSpecifiedTradeAccountingAccount"] = "facts",
        ["ApplicableHeaderTradeSettlement/PaymentReference"] = "closing",
        ["ApplicableHeaderTradeSettlement/CreditorReferenceID"] = "closing",
        ["ApplicableHeaderTradeSettlement/PayeeTradeParty"] = "closing",
        ["ApplicableTradeSettlementFinancialCard"] = "closing",
        ["ApplicableHeaderTradeSettlement/InvoiceCurrencyCode"] = "totals",
        ["ApplicableHeaderTradeSettlement/SpecifiedTradeSettlementPaymentMeans"] = "banks",
        ["ApplicableHeaderTradeSettlement/ApplicableTradeTax"] = "taxes",
        ["ApplicableHeaderTradeSettlement/BillingSpecifiedPeriod"] = "facts",
        ["ApplicableHeaderTradeSettlement/SpecifiedTradeAllowanceCharge"] = "totals",
        ["ApplicableHeaderTradeSettlement/SpecifiedTradePaymentTerms"] = "closing",
        ["ApplicableHeaderTradeSettlement/SpecifiedTradePaymentTerms/DueDateDateTime"] = "facts",
        ["SpecifiedTradeSettlementHeaderMonetarySummation"] = "totals",
        ["ApplicableHeaderTradeSettlement/InvoiceReferencedDocument"] = "facts",
    };

    private static readonly HashSet<string> LineNames =
    [
        "InvoiceLine",
        "CreditNoteLine",
        "IncludedSupplyChainTradeLineItem",
    ];

    /// <summary>The file line by line, each with where the paper says it.</summary>
    public static IReadOnlyList<EInvoiceFileLine> Of(ReadEInvoice read)
    {
        var lines = new List<EInvoiceFileLine>();
        var counted = 0;
        Tell(read.Root, [], 0, "", lines, ref counted);
        return lines;
    }

    private static void Tell(
        XElement element,
        IReadOnlyList<string> above,
        int depth,
        string anchor,
        List<EInvoiceFileLine> lines,
        ref int counted
    )
    {
        if (lines.Count >= MostLines)
            return;
        var name = element.Name.LocalName;
        var path = above.Append(name).ToList();
        if (depth == 1 || above is [.., "SupplyChainTradeTransaction"])
            if (LineNames.Contains(name))
                anchor = PaperAnchor.Of("lines", counted++);
        if (!anchor.StartsWith(PaperAnchor.Of("lines"), StringComparison.Ordinal) && PieceOf(path) is { } piece)
            anchor = PaperAnchor.Of(piece);
        var tag = Tag(element);
        if (!element.HasElements)
        {
            var said = element.Value.Length > 400 ? $"{element.Value[..400]}…" : element.Value;
            lines.Add(new(depth, said.Length == 0 ? $"<{tag}/>" : $"<{tag}>{said}</{NameOf(element)}>", anchor));
            return;
        }

        lines.Add(new(depth, $"<{tag}>", anchor));
        foreach (var child in element.Elements())
            Tell(child, path, depth + 1, anchor, lines, ref counted);
        lines.Add(new(depth, $"</{NameOf(element)}>", ""));
    }

    /// <summary>The place of the longest ending of its path that is known.</summary>
    private static string? PieceOf(List<string> path)
    {
        for (var length = Math.Min(4, path.Count); length > 0; length--)
            if (Pieces.TryGetValue(string.Join('/', path.TakeLast(length)), out var piece))
                return piece;
        return null;
    }

    private static string NameOf(XElement element) =>
        element.GetPrefixOfNamespace(element.Name.Namespace) is { Length: > 0 } prefix
            ? $"{prefix}:{element.Name.LocalName}"
            : element.Name.LocalName;

    private static string Tag(XElement element) =>
        string.Concat(
            element
                .Attributes()
                .Where(a => !a.IsNamespaceDeclaration)
                .Select(a => $" {a.Name.LocalName}=\"{a.Value}\"")
                .Prepend(NameOf(element))
        );
}
