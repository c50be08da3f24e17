using System.Globalization;
using System.Xml.Linq;
using Jugaad.Core.EInvoicing;
using static Jugaad.Formats.EInvoices.CiiNames;
using static Jugaad.Formats.EInvoices.XmlParts;

namespace Jugaad.Formats.EInvoices;

/// <summary>The namespaces of the cross industry invoice of UN/CEFACT, D16B.</summary>
internal static class CiiNames
{
    internal static readonly XNamespace Rsm = "urn:un:unece:uncefact:data:standard:CrossIndustryInvoice:100";
    internal static readonly XNamespace Ram =
        "urn:un:unece:uncefact:data:standard:ReusableAggregateBusinessInformationEntity:100";
    internal static readonly XNamespace Udt = "urn:un:unece:uncefact:data:standard:UnqualifiedDataType:100";
    internal static readonly XNamespace Qdt = "urn:un:unece:uncefact:data:standard:QualifiedDataType:100";

    /// <summary>UNTDID 2379, 102.</summary>
    internal const string Day = "yyyyMMdd";
}

/// <summary>
/// Writes an e-invoice as a cross industry invoice, its elements in the order of the schema and at the places that
/// CEN/TS 16931-3-3 gives them.
/// </summary>
internal sealed class CiiWriter(EInvoice invoice)
{
    internal XDocument Write() =>
        new(
            new XDeclaration("1.0", "utf-8", null),
            new XElement(
                Rsm + "CrossIndustryInvoice",
                new XAttribute(XNamespace.Xmlns + "rsm", Rsm),
                new XAttribute(XNamespace.Xmlns + "ram", Ram),
                new XAttribute(XNamespace.Xmlns + "udt", Udt),
                new XAttribute(XNamespace.Xmlns + "qdt", Qdt),
                Group(
                    Rsm + "ExchangedDocumentContext",
                    Group(Ram + "BusinessProcessSpecifiedDocumentContextParameter", Text(Ram + "ID", invoice.Process)),
                    Group(Ram + "GuidelineSpecifiedDocumentContextParameter", Text(Ram + "ID", invoice.Specification))
                ),
                Group(
                    Rsm + "ExchangedDocument",
                    Text(Ram + "ID", invoice.Number),
                    Text(Ram + "TypeCode", invoice.TypeCode),
                    Moment("IssueDateTime", invoice.Issued),
                    invoice.Notes.Select(n => Group(Ram + "IncludedNote", Text(Ram + "Content", n)))
                ),
                new XElement(
                    Rsm + "SupplyChainTradeTransaction",
                    invoice.Lines.Select(LineOf),
                    AgreementOf(),
                    DeliveryOf(),
                    SettlementOf()
                )
            )
        );

    private static string? Written(DateOnly? day) => day?.ToString(Day, CultureInfo.InvariantCulture);

    private static XElement? Moment(string name, DateOnly? day) =>
        Group(Ram + name, Text(Udt + "DateTimeString", Written(day), new XAttribute("format", "102")));

    private XElement? Amount(string name, decimal? amount) => Text(Ram + name, Figure(amount, invoice.Currency));

    private static XElement? Reference(string name, string id) => Group(Ram + name, Text(Ram + "IssuerAssignedID", id));

    private XElement AgreementOf() =>
        new(
            Ram + "ApplicableHeaderTradeAgreement",
            Text(Ram + "BuyerReference", invoice.BuyerReference),
            PartyOf("SellerTradeParty", invoice.Seller),
            PartyOf("BuyerTradeParty", invoice.Buyer),
            invoice.Representative is { } representative
                ? PartyOf("SellerTaxRepresentativeTradeParty", representative)
                : null,
            Reference("SellerOrderReferencedDocument", invoice.SalesOrder),
            Reference("BuyerOrderReferencedDocument", invoice.PurchaseOrder),
            Reference("ContractReferencedDocument", invoice.Contract),
            Typed("AdditionalReferencedDocument", invoice.Tender, "50"),
            ObjectOf(invoice.Object),
            invoice.Documents.Select(d =>
                Group(
                    Ram + "AdditionalReferencedDocument",
                    Text(Ram + "IssuerAssignedID", d.Reference),
                    Text(Ram + "URIID", d.Location),
                    new XElement(Ram + "TypeCode", "916"),
                    Text(Ram + "Name", d.Description),
                    d.Content is null
                        ? null
                        : new XElement(
                            Ram + "AttachmentBinaryObject",
                            With("mimeCode", d.Kind),
                            With("filename", d.FileName),
                            Convert.ToBase64String(d.Content)
                        )
                )
            ),
            invoice.Project.Length == 0
                ? null
                : new XElement(
                    Ram + "SpecifiedProcuringProject",
                    Text(Ram + "ID", invoice.Project),
                    new XElement(Ram + "Name", "Project reference")
                )
        );

    private static XElement? Typed(string name, string id, string type) =>
        id.Length == 0
            ? null
            : new XElement(Ram + name, Text(Ram + "IssuerAssignedID", id), new XElement(Ram + "TypeCode", type));

    private static XElement? ObjectOf(Identifier? what) =>
        what is null
            ? null
            : new XElement(
                Ram + "AdditionalReferencedDocument",
                Text(Ram + "IssuerAssignedID", what.Value),
                new XElement(Ram + "TypeCode", "130"),
                Text(Ram + "ReferenceTypeCode", what.Scheme)
            );

    private static XElement? PartyOf(string name, Party party) =>
        Group(
            Ram + name,
            party.Ids.Where(i => i.Scheme.Length == 0).Select(i => Text(Ram + "ID", i.Value)),
            party
                .Ids.Where(i => i.Scheme.Length > 0)
                .Select(i => Text(Ram + "GlobalID", i.Value, With("schemeID", i.Scheme))),
            Text(Ram + "Name", party.Name),
            Text(Ram + "Description", party.LegalForm),
            Group(
                Ram + "SpecifiedLegalOrganization",
                Text(Ram + "ID", party.Registration?.Value, With("schemeID", party.Registration?.Scheme)),
                Text(Ram + "TradingBusinessName", party.TradingName)
            ),
            Group(
                Ram + "DefinedTradeContact",
                Text(Ram + "PersonName", party.Contact),
                Group(Ram + "TelephoneUniversalCommunication", Text(Ram + "CompleteNumber", party.Phone)),
                Group(Ram + "EmailURIUniversalCommunication", Text(Ram + "URIID", party.Email))
            ),
            AddressOf(party.Address),
            Group(
                Ram + "URIUniversalCommunication",
                Text(Ram + "URIID", party.Electronic?.Value, With("schemeID", party.Electronic?.Scheme))
            ),
            Group(Ram + "SpecifiedTaxRegistration", Text(Ram + "ID", party.TaxId, new XAttribute("schemeID", "VA"))),
            Group(
                Ram + "SpecifiedTaxRegistration",
                Text(Ram + "ID", party.TaxRegistration, new XAttribute("schemeID", "FC"))
            )
        );

    private static XElement? AddressOf(PostalAddress? address) =>
        address is null
            ? null
            : new XElement(
                Ram + "PostalTradeAddress",
                Text(Ram + "PostcodeCode", address.PostalCode),
                Text(Ram + "LineOne", address.Street),
                Text(Ram + "LineTwo", address.Second),
                Text(Ram + "LineThree", address.Third),
                Text(Ram + "CityName", address.City),
                Text(Ram + "CountryID", address.Country),
                Text(Ram + "CountrySubDivisionName", address.Region)
            );

    private XElement DeliveryOf()
    {
        var location = invoice.Delivery.Location;
        return new XElement(
            Ram + "ApplicableHeaderTradeDelivery",
            Group(
                Ram + "ShipToTradeParty",
                location is { Scheme.Length: 0 } ? Text(Ram + "ID", location.Value) : null,
                location is { Scheme.Length: > 0 }
                    ? Text(Ram + "GlobalID", location.Value, With("schemeID", location.Scheme))
                    : null,
                Text(Ram + "Name", invoice.Delivery.Name),
                AddressOf(invoice.Delivery.Address)
            ),
            Group(Ram + "ActualDeliverySupplyChainEvent", Moment("OccurrenceDateTime", invoice.Delivery.On)),
            Reference("DespatchAdviceReferencedDocument", invoice.DespatchAdvice),
            Reference("ReceivingAdviceReferencedDocument", invoice.ReceivingAdvice)
        );
    }

    private XElement SettlementOf()
    {
        var (totals, payment) = (invoice.Totals, invoice.Payment);
        return new XElement(
            Ram + "ApplicableHeaderTradeSettlement",
            Text(Ram + "CreditorReferenceID", payment?.Creditor),
            Text(Ram + "PaymentReference", payment?.Remittance),
            Text(Ram + "TaxCurrencyCode", invoice.TaxCurrency),
            Text(Ram + "InvoiceCurrencyCode", invoice.Currency),
            invoice.Payee is { } payee ? PartyOf("PayeeTradeParty", payee) : null,
            payment is null ? [] : payment.Transfers.DefaultIfEmpty().Select(t => MeansOf(payment, t)),
            invoice.Taxes.Select(BreakdownOf),
            PeriodOf(invoice.Period),
            invoice.Allowances.Select(a => AdjustmentOf(a, false)),
            invoice.Charges.Select(a => AdjustmentOf(a, true)),
            Group(
                Ram + "SpecifiedTradePaymentTerms",
                Text(Ram + "Description", invoice.Terms),
                Moment("DueDateDateTime", invoice.Due),
                Text(Ram + "DirectDebitMandateID", payment?.Mandate)
            ),
            Group(
                Ram + "SpecifiedTradeSettlementHeaderMonetarySummation",
                Amount("LineTotalAmount", totals.Lines),
                Amount("ChargeTotalAmount", totals.Charges),
                Amount("AllowanceTotalAmount", totals.Allowances),
                Amount("TaxBasisTotalAmount", totals.WithoutTax),
                Text(
                    Ram + "TaxTotalAmount",
                    Figure(totals.Tax, invoice.Currency),
                    new XAttribute("currencyID", invoice.Currency)
                ),
                Text(
                    Ram + "TaxTotalAmount",
                    Figure(totals.TaxInTaxCurrency, invoice.TaxCurrency),
                    new XAttribute("currencyID", invoice.TaxCurrency)
                ),
                Amount("RoundingAmount", totals.Rounding),
                Amount("GrandTotalAmount", totals.WithTax),
                Amount("TotalPrepaidAmount", totals.Paid),
                Amount("DuePayableAmount", totals.Payable)
            ),
            invoice.Preceding.Select(p =>
                Group(
                    Ram + "InvoiceReferencedDocument",
                    Text(Ram + "IssuerAssignedID", p.Number),
                    Group(
                        Ram + "FormattedIssueDateTime",
                        Text(Qdt + "DateTimeString", Written(p.Issued), new XAttribute("format", "102"))
                    )
                )
            ),
            Group(Ram + "ReceivableSpecifiedTradeAccountingAccount", Text(Ram + "ID", invoice.BuyerAccounting))
        );
    }

    private static XElement? MeansOf(PaymentInstructions payment, CreditTransfer? transfer) =>
        Group(
            Ram + "SpecifiedTradeSettlementPaymentMeans",
            Text(Ram + "TypeCode", payment.Means),
            Text(Ram + "Information", payment.Text),
            Group(
                Ram + "ApplicableTradeSettlementFinancialCard",
                Text(Ram + "ID", payment.Card?.Number),
                Text(Ram + "CardholderName", payment.Card?.Holder)
            ),
            Group(Ram + "PayerPartyDebtorFinancialAccount", Text(Ram + "IBANID", payment.Debited)),
            Group(
                Ram + "PayeePartyCreditorFinancialAccount",
                Text(Ram + "IBANID", transfer?.Account),
                Text(Ram + "AccountName", transfer?.Name)
            ),
            Group(Ram + "PayeeSpecifiedCreditorFinancialInstitution", Text(Ram + "BICID", transfer?.Bank))
        );

    private XElement? BreakdownOf(TaxBreakdown tax) =>
        Group(
            Ram + "ApplicableTradeTax",
            Amount("CalculatedAmount", tax.Tax),
            new XElement(Ram + "TypeCode", "VAT"),
            Text(Ram + "ExemptionReason", tax.Reason),
            Amount("BasisAmount", tax.Taxable),
            Text(Ram + "CategoryCode", tax.Category),
            Text(Ram + "ExemptionReasonCode", tax.ReasonCode),
            Group(
                Ram + "TaxPointDate",
                Text(Udt + "DateString", Written(invoice.TaxPoint), new XAttribute("format", "102"))
            ),
            Text(Ram + "DueDateTypeCode", invoice.TaxPointCode),
            Text(Ram + "RateApplicablePercent", Short(tax.Rate))
        );

    private static XElement? TaxOf(string name, LineTax? tax) =>
        tax is null
            ? null
            : new XElement(
                Ram + name,
                new XElement(Ram + "TypeCode", "VAT"),
                Text(Ram + "CategoryCode", tax.Category),
                Text(Ram + "RateApplicablePercent", Short(tax.Rate))
            );

    private static XElement? PeriodOf(Period? period) =>
        Group(
            Ram + "BillingSpecifiedPeriod",
            Moment("StartDateTime", period?.From),
            Moment("EndDateTime", period?.Until)
        );

    private XElement? AdjustmentOf(Adjustment adjustment, bool charge) =>
        Group(
            Ram + "SpecifiedTradeAllowanceCharge",
            new XElement(Ram + "ChargeIndicator", new XElement(Udt + "Indicator", charge ? "true" : "false")),
            Text(Ram + "CalculationPercent", Short(adjustment.Percent)),
            Amount("BasisAmount", adjustment.Base),
            Amount("ActualAmount", adjustment.Amount),
            Text(Ram + "ReasonCode", adjustment.ReasonCode),
            Text(Ram + "Reason", adjustment.Reason),
            TaxOf("CategoryTradeTax", adjustment.Tax)
        );

    private XElement LineOf(InvoiceLine line) =>
        new(
            Ram + "IncludedSupplyChainTradeLineItem",
            Group(
                Ram + "AssociatedDocumentLineDocument",
                Text(Ram + "LineID", line.Id),
                Group(Ram + "IncludedNote", Text(Ram + "Content", line.Note))
            ),
            Group(
                Ram + "SpecifiedTradeProduct",
                Text(Ram + "GlobalID", line.StandardId?.Value, With("schemeID", line.StandardId?.Scheme)),
                Text(Ram + "SellerAssignedID", line.SellersId),
                Text(Ram + "BuyerAssignedID", line.BuyersId),
                Text(Ram + "Name", line.Name),
                Text(Ram + "Description", line.Description),
                line.Traits.Select(a =>
                    Group(
                        Ram + "ApplicableProductCharacteristic",
                        Text(Ram + "Description", a.Name),
                        Text(Ram + "Value", a.Value)
                    )
                ),
                line.Classes.Select(c =>
                    Group(
                        Ram + "DesignatedProductClassification",
                        Text(Ram + "ClassCode", c.Value, With("listID", c.Scheme))
                    )
                ),
                Group(Ram + "OriginTradeCountry", Text(Ram + "ID", line.Origin))
            ),
            Group(
                Ram + "SpecifiedLineTradeAgreement",
                Group(Ram + "BuyerOrderReferencedDocument", Text(Ram + "LineID", line.OrderLine)),
                Group(Ram + "GrossPriceProductTradePrice", Text(Ram + "ChargeAmount", Short(line.GrossPrice))),
                Group(
                    Ram + "NetPriceProductTradePrice",
                    Text(Ram + "ChargeAmount", Short(line.Price)),
                    Text(Ram + "BasisQuantity", Short(line.PriceBase), With("unitCode", line.Unit))
                )
            ),
            Group(
                Ram + "SpecifiedLineTradeDelivery",
                Text(Ram + "BilledQuantity", Short(line.Quantity), With("unitCode", line.Unit))
            ),
            Group(
                Ram + "SpecifiedLineTradeSettlement",
                TaxOf("ApplicableTradeTax", line.Tax),
                PeriodOf(line.Period),
                line.Allowances.Select(a => AdjustmentOf(a, false)),
                line.Charges.Select(a => AdjustmentOf(a, true)),
                Group(Ram + "SpecifiedTradeSettlementLineMonetarySummation", Amount("LineTotalAmount", line.Net)),
                ObjectOf(line.Object),
                Group(Ram + "ReceivableSpecifiedTradeAccountingAccount", Text(Ram + "ID", line.BuyerAccounting))
            )
        );
}
