using System.Xml.Linq;
using Jugaad.Core.EInvoicing;
using static Jugaad.Formats.EInvoices.UblNames;
using static Jugaad.Formats.EInvoices.XmlParts;

namespace Jugaad.Formats.EInvoices;

/// <summary>The namespaces of UBL 2.1 (ISO/IEC 19845).</summary>
internal static class UblNames
{
    internal static readonly XNamespace Invoice = "urn:oasis:names:specification:ubl:schema:xsd:Invoice-2";
    internal static readonly XNamespace CreditNote = "urn:oasis:names:specification:ubl:schema:xsd:CreditNote-2";
    internal static readonly XNamespace Cac =
        "urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2";
    internal static readonly XNamespace Cbc = "urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2";

    internal const string Day = "yyyy-MM-dd";

    /// <summary>By which the creditor of a direct debit is told apart among the numbers of a party.</summary>
    internal const string CreditorScheme = "SEPA";
}

/// <summary>
/// Writes an e-invoice as UBL 2.1, an <c>Invoice</c> or a <c>CreditNote</c> by its type, its elements in the order of the
/// schema and at the places that CEN/TS 16931-3-2 gives them.
/// </summary>
internal sealed class UblWriter(EInvoice invoice)
{
    private readonly bool _credit = invoice.IsCredit;

    internal XDocument Write()
    {
        var root = _credit ? CreditNote : UblNames.Invoice;
        var described = invoice.Project.Length > 0 && _credit;
        return new XDocument(
            new XDeclaration("1.0", "utf-8", null),
            new XElement(
                root + (_credit ? "CreditNote" : "Invoice"),
                new XAttribute(XNamespace.Xmlns + "cac", Cac),
                new XAttribute(XNamespace.Xmlns + "cbc", Cbc),
                Text(Cbc + "CustomizationID", invoice.Specification),
                Text(Cbc + "ProfileID", invoice.Process),
                Text(Cbc + "ID", invoice.Number),
                DayOf("IssueDate", invoice.Issued),
                _credit ? DayOf("TaxPointDate", invoice.TaxPoint) : DayOf("DueDate", invoice.Due),
                Text(Cbc + (_credit ? "CreditNoteTypeCode" : "InvoiceTypeCode"), invoice.TypeCode),
                invoice.Notes.Select(n => Text(Cbc + "Note", n)),
                _credit ? null : DayOf("TaxPointDate", invoice.TaxPoint),
                Text(Cbc + "DocumentCurrencyCode", invoice.Currency),
                Text(Cbc + "TaxCurrencyCode", invoice.TaxCurrency),
                Text(Cbc + "AccountingCost", invoice.BuyerAccounting),
                Text(Cbc + "BuyerReference", invoice.BuyerReference),
                PeriodOf(invoice.Period, invoice.TaxPointCode),
                Group(
                    Cac + "OrderReference",
                    // A sales order alone still needs the place of the purchase order.
                    Text(
                        Cbc + "ID",
                        invoice.PurchaseOrder.Length == 0 && invoice.SalesOrder.Length > 0
                            ? "NA"
                            : invoice.PurchaseOrder
                    ),
                    Text(Cbc + "SalesOrderID", invoice.SalesOrder)
                ),
                invoice.Preceding.Select(p =>
                    Group(
                        Cac + "BillingReference",
                        Group(
                            Cac + "InvoiceDocumentReference",
                            Text(Cbc + "ID", p.Number),
                            DayOf("IssueDate", p.Issued)
                        )
                    )
                ),
                Reference("DespatchDocumentReference", invoice.DespatchAdvice),
                Reference("ReceiptDocumentReference", invoice.ReceivingAdvice),
                _credit ? null : Reference("OriginatorDocumentReference", invoice.Tender),
                Reference("ContractDocumentReference", invoice.Contract),
                ObjectOf("AdditionalDocumentReference", invoice.Object),
                invoice.Documents.Select(FileOf),
                described
                    ? Group(
                        Cac + "AdditionalDocumentReference",
                        Text(Cbc + "ID", invoice.Project),
                        Text(Cbc + "DocumentTypeCode", "50")
                    )
                    : null,
                Reference(
                    _credit ? "OriginatorDocumentReference" : "ProjectReference",
                    _credit ? invoice.Tender : invoice.Project
                ),
                Group(Cac + "AccountingSupplierParty", PartyOf(WithCreditor(invoice.Seller))),
                Group(Cac + "AccountingCustomerParty", PartyOf(invoice.Buyer)),
                invoice.Payee is { } payee
                    ? Group(
                        Cac + "PayeeParty",
                        payee.Ids.Select(i =>
                            Group(Cac + "PartyIdentification", Text(Cbc + "ID", i.Value, With("schemeID", i.Scheme)))
                        ),
                        Group(Cac + "PartyName", Text(Cbc + "Name", payee.Name)),
                        Group(
                            Cac + "PartyLegalEntity",
                            Text(
                                Cbc + "CompanyID",
                                payee.Registration?.Value,
                                With("schemeID", payee.Registration?.Scheme)
                            )
                        )
                    )
                    : null,
                invoice.Representative is { } representative
                    ? Group(
                        Cac + "TaxRepresentativeParty",
                        Group(Cac + "PartyName", Text(Cbc + "Name", representative.Name)),
                        AddressOf("PostalAddress", representative.Address),
                        Scheme(representative.TaxId, "VAT")
                    )
                    : null,
                DeliveryOf(),
                PaymentOf(),
                Group(Cac + "PaymentTerms", Text(Cbc + "Note", invoice.Terms)),
                invoice.Allowances.Select(a => AdjustmentOf(a, false)),
                invoice.Charges.Select(a => AdjustmentOf(a, true)),
                TaxesOf(),
                invoice.Totals.TaxInTaxCurrency is { } told
                    ? new XElement(Cac + "TaxTotal", Amount("TaxAmount", told, invoice.TaxCurrency))
                    : null,
                Group(
                    Cac + "LegalMonetaryTotal",
                    Amount("LineExtensionAmount", invoice.Totals.Lines),
                    Amount("TaxExclusiveAmount", invoice.Totals.WithoutTax),
                    Amount("TaxInclusiveAmount", invoice.Totals.WithTax),
                    Amount("AllowanceTotalAmount", invoice.Totals.Allowances),
                    Amount("ChargeTotalAmount", invoice.Totals.Charges),
                    Amount("PrepaidAmount", invoice.Totals.Paid),
                    Amount("PayableRoundingAmount", invoice.Totals.Rounding),
                    Amount("PayableAmount", invoice.Totals.Payable)
                ),
                invoice.Lines.Select(LineOf)
            )
        );
    }

    private static XElement? DayOf(string name, DateOnly? day) =>
        Text(Cbc + name, day?.ToString(Day, System.Globalization.CultureInfo.InvariantCulture));

    private XElement? Amount(string name, decimal? amount, string? currency = null) =>
        Text(
            Cbc + name,
            Figure(amount, currency ?? invoice.Currency),
            new XAttribute("currencyID", currency ?? invoice.Currency)
        );

    /// <summary>The creditor of a direct debit stands among the numbers of the seller (BT-90).</summary>
    private Party WithCreditor(Party seller) =>
        invoice.Payment is { Creditor.Length: > 0 } payment
            ? seller with
            {
                Ids = [.. seller.Ids, new Identifier(payment.Creditor, CreditorScheme)],
            }
            : seller;

    private static XElement? ObjectOf(string name, Identifier? what) =>
        what is null
            ? null
            : new XElement(
                Cac + name,
                Text(Cbc + "ID", what.Value, With("schemeID", what.Scheme)),
                Text(Cbc + "DocumentTypeCode", "130")
            );

    private static XElement? Reference(string name, string id) => Group(Cac + name, Text(Cbc + "ID", id));

    private static XElement? PeriodOf(Period? period, string code = "") =>
        Group(
            Cac + "InvoicePeriod",
            DayOf("StartDate", period?.From),
            DayOf("EndDate", period?.Until),
            Text(Cbc + "DescriptionCode", code)
        );

    private static XElement? FileOf(Supporting file) =>
        Group(
            Cac + "AdditionalDocumentReference",
            Text(Cbc + "ID", file.Reference),
            Text(Cbc + "DocumentDescription", file.Description),
            Group(
                Cac + "Attachment",
                file.Content is null
                    ? null
                    : new XElement(
                        Cbc + "EmbeddedDocumentBinaryObject",
                        With("mimeCode", file.Kind),
                        With("filename", file.FileName),
                        Convert.ToBase64String(file.Content)
                    ),
                Group(Cac + "ExternalReference", Text(Cbc + "URI", file.Location))
            )
        );

    private static XElement? Scheme(string number, string scheme) =>
        number.Length == 0
            ? null
            : new XElement(
                Cac + "PartyTaxScheme",
                Text(Cbc + "CompanyID", number),
                new XElement(Cac + "TaxScheme", new XElement(Cbc + "ID", scheme))
            );

    private static XElement? PartyOf(Party party) =>
        Group(
            Cac + "Party",
            Text(Cbc + "EndpointID", party.Electronic?.Value, With("schemeID", party.Electronic?.Scheme)),
            party.Ids.Select(i =>
                Group(Cac + "PartyIdentification", Text(Cbc + "ID", i.Value, With("schemeID", i.Scheme)))
            ),
            Group(Cac + "PartyName", Text(Cbc + "Name", party.TradingName)),
            AddressOf("PostalAddress", party.Address),
            Scheme(party.TaxId, "VAT"),
            Scheme(party.TaxRegistration, "TAX"),
            Group(
                Cac + "PartyLegalEntity",
                Text(Cbc + "RegistrationName", party.Name),
                Text(Cbc + "CompanyID", party.Registration?.Value, With("schemeID", party.Registration?.Scheme)),
                Text(Cbc + "CompanyLegalForm", party.LegalForm)
            ),
            Group(
                Cac + "Contact",
                Text(Cbc + "Name", party.Contact),
                Text(Cbc + "Telephone", party.Phone),
                Text(Cbc + "ElectronicMail", party.Email)
            )
        );

    private static XElement? AddressOf(string name, PostalAddress? address) =>
        address is null
            ? null
            : new XElement(
                Cac + name,
                Text(Cbc + "StreetName", address.Street),
                Text(Cbc + "AdditionalStreetName", address.Second),
                Text(Cbc + "CityName", address.City),
                Text(Cbc + "PostalZone", address.PostalCode),
                Text(Cbc + "CountrySubentity", address.Region),
                Group(Cac + "AddressLine", Text(Cbc + "Line", address.Third)),
                Group(Cac + "Country", Text(Cbc + "IdentificationCode", address.Country))
            );

    private XElement? DeliveryOf() =>
        Group(
            Cac + "Delivery",
            DayOf("ActualDeliveryDate", invoice.Delivery.On),
            Group(
                Cac + "DeliveryLocation",
                Text(Cbc + "ID", invoice.Delivery.Location?.Value, With("schemeID", invoice.Delivery.Location?.Scheme)),
                AddressOf("Address", invoice.Delivery.Address)
            ),
            Group(Cac + "DeliveryParty", Group(Cac + "PartyName", Text(Cbc + "Name", invoice.Delivery.Name)))
        );

    private IEnumerable<XElement?> PaymentOf()
    {
        if (invoice.Payment is not { } payment)
            return _credit && invoice.Due is not null
                ?
                [
                    new XElement(
                        Cac + "PaymentMeans",
                        Text(Cbc + "PaymentMeansCode", "1"),
                        DayOf("PaymentDueDate", invoice.Due)
                    ),
                ]
                : [];
        return payment
            .Transfers.DefaultIfEmpty()
            .Select(
                (t, i) =>
                    Group(
                        Cac + "PaymentMeans",
                        Text(Cbc + "PaymentMeansCode", payment.Means, With("name", payment.Text)),
                        _credit ? DayOf("PaymentDueDate", invoice.Due) : null,
                        Text(Cbc + "PaymentID", payment.Remittance),
                        i == 0 && payment.Card is { } card
                            ? Group(
                                Cac + "CardAccount",
                                Text(Cbc + "PrimaryAccountNumberID", card.Number),
                                // The schema wants a network, and the standard has none.
                                Text(Cbc + "NetworkID", "mapped-from-core"),
                                Text(Cbc + "HolderName", card.Holder)
                            )
                            : null,
                        t is null
                            ? null
                            : Group(
                                Cac + "PayeeFinancialAccount",
                                Text(Cbc + "ID", t.Account),
                                Text(Cbc + "Name", t.Name),
                                Group(Cac + "FinancialInstitutionBranch", Text(Cbc + "ID", t.Bank))
                            ),
                        Group(
                            Cac + "PaymentMandate",
                            Text(Cbc + "ID", payment.Mandate),
                            Group(Cac + "PayerFinancialAccount", Text(Cbc + "ID", payment.Debited))
                        )
                    )
            );
    }

    private static XElement? TaxOf(string name, LineTax? tax) =>
        tax is null
            ? null
            : new XElement(
                Cac + name,
                Text(Cbc + "ID", tax.Category),
                Text(Cbc + "Percent", Short(tax.Rate)),
                new XElement(Cac + "TaxScheme", new XElement(Cbc + "ID", "VAT"))
            );

    private XElement? AdjustmentOf(Adjustment adjustment, bool charge) =>
        Group(
            Cac + "AllowanceCharge",
            Text(Cbc + "ChargeIndicator", charge ? "true" : "false"),
            Text(Cbc + "AllowanceChargeReasonCode", adjustment.ReasonCode),
            Text(Cbc + "AllowanceChargeReason", adjustment.Reason),
            Text(Cbc + "MultiplierFactorNumeric", Short(adjustment.Percent)),
            Amount("Amount", adjustment.Amount),
            Amount("BaseAmount", adjustment.Base),
            TaxOf("TaxCategory", adjustment.Tax)
        );

    private XElement? TaxesOf() =>
        Group(
            Cac + "TaxTotal",
            Amount("TaxAmount", invoice.Totals.Tax),
            invoice.Taxes.Select(t =>
                Group(
                    Cac + "TaxSubtotal",
                    Amount("TaxableAmount", t.Taxable),
                    Amount("TaxAmount", t.Tax),
                    Group(
                        Cac + "TaxCategory",
                        Text(Cbc + "ID", t.Category),
                        Text(Cbc + "Percent", Short(t.Rate)),
                        Text(Cbc + "TaxExemptionReasonCode", t.ReasonCode),
                        Text(Cbc + "TaxExemptionReason", t.Reason),
                        new XElement(Cac + "TaxScheme", new XElement(Cbc + "ID", "VAT"))
                    )
                )
            )
        );

    private XElement? LineOf(InvoiceLine line) =>
        Group(
            Cac + (_credit ? "CreditNoteLine" : "InvoiceLine"),
            Text(Cbc + "ID", line.Id),
            Text(Cbc + "Note", line.Note),
            Text(
                Cbc + (_credit ? "CreditedQuantity" : "InvoicedQuantity"),
                Short(line.Quantity),
                With("unitCode", line.Unit)
            ),
            Amount("LineExtensionAmount", line.Net),
            Text(Cbc + "AccountingCost", line.BuyerAccounting),
            PeriodOf(line.Period),
            Group(Cac + "OrderLineReference", Text(Cbc + "LineID", line.OrderLine)),
            ObjectOf("DocumentReference", line.Object),
            line.Allowances.Select(a => AdjustmentOf(a, false)),
            line.Charges.Select(a => AdjustmentOf(a, true)),
            Group(
                Cac + "Item",
                Text(Cbc + "Description", line.Description),
                Text(Cbc + "Name", line.Name),
                Group(Cac + "BuyersItemIdentification", Text(Cbc + "ID", line.BuyersId)),
                Group(Cac + "SellersItemIdentification", Text(Cbc + "ID", line.SellersId)),
                Group(
                    Cac + "StandardItemIdentification",
                    Text(Cbc + "ID", line.StandardId?.Value, With("schemeID", line.StandardId?.Scheme))
                ),
                Group(Cac + "OriginCountry", Text(Cbc + "IdentificationCode", line.Origin)),
                line.Classes.Select(c =>
                    Group(
                        Cac + "CommodityClassification",
                        Text(Cbc + "ItemClassificationCode", c.Value, With("listID", c.Scheme))
                    )
                ),
                TaxOf("ClassifiedTaxCategory", line.Tax),
                line.Traits.Select(a =>
                    Group(Cac + "AdditionalItemProperty", Text(Cbc + "Name", a.Name), Text(Cbc + "Value", a.Value))
                )
            ),
            Group(
                Cac + "Price",
                Text(Cbc + "PriceAmount", Short(line.Price), new XAttribute("currencyID", invoice.Currency)),
                Text(Cbc + "BaseQuantity", Short(line.PriceBase), With("unitCode", line.Unit)),
                line.GrossPrice is { } gross
                    ? Group(
                        Cac + "AllowanceCharge",
                        Text(Cbc + "ChargeIndicator", "false"),
                        Text(Cbc + "Amount", Short(gross - line.Price), new XAttribute("currencyID", invoice.Currency)),
                        Text(Cbc + "BaseAmount", Short(gross), new XAttribute("currencyID", invoice.Currency))
                    )
                    : null
            )
        );
}
