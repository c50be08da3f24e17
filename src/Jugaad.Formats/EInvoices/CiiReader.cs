using System.Xml.Linq;
using Jugaad.Core.EInvoicing;
using static Jugaad.Formats.EInvoices.CiiNames;

namespace Jugaad.Formats.EInvoices;

/// <summary>Reads cross industry invoices of anybody.</summary>
internal sealed class CiiReader(XElement root)
{
    internal EInvoice Read()
    {
        var (context, head, trade) = (
            root.Element(Rsm + "ExchangedDocumentContext"),
            root.Element(Rsm + "ExchangedDocument"),
            root.Element(Rsm + "SupplyChainTradeTransaction")
        );
        var (agreed, delivered, settled) = (
            trade.At(Ram + "ApplicableHeaderTradeAgreement"),
            trade.At(Ram + "ApplicableHeaderTradeDelivery"),
            trade.At(Ram + "ApplicableHeaderTradeSettlement")
        );
        var (currency, taxCurrency) = (
            settled.TextAt(Ram + "InvoiceCurrencyCode"),
            settled.TextAt(Ram + "TaxCurrencyCode")
        );
        var money = settled.At(Ram + "SpecifiedTradeSettlementHeaderMonetarySummation");
        var totals = money.All(Ram + "TaxTotalAmount").ToList();
        var own =
            totals.Find(t => t.Marked("currencyID") is var c && (c == currency || c.Length == 0))
            ?? totals.FirstOrDefault();
        var taxes = settled.All(Ram + "ApplicableTradeTax").ToList();
        var ship = delivered.At(Ram + "ShipToTradeParty");
        return new EInvoice
        {
            Number = head.TextAt(Ram + "ID"),
            Issued = On(head.At(Ram + "IssueDateTime")),
            TypeCode = head.TextAt(Ram + "TypeCode"),
            Currency = currency,
            TaxCurrency = taxCurrency,
            TaxPoint = taxes
                .Select(t => XmlParts.DayOf(t.At(Ram + "TaxPointDate", Udt + "DateString"), Day))
                .FirstOrDefault(d => d is not null),
            TaxPointCode = taxes.Select(t => t.TextAt(Ram + "DueDateTypeCode")).FirstOrDefault(c => c.Length > 0) ?? "",
            Due = On(settled.At(Ram + "SpecifiedTradePaymentTerms", Ram + "DueDateDateTime")),
            BuyerReference = agreed.TextAt(Ram + "BuyerReference"),
            Project = agreed.TextAt(Ram + "SpecifiedProcuringProject", Ram + "ID"),
            Contract = agreed.TextAt(Ram + "ContractReferencedDocument", Ram + "IssuerAssignedID"),
            PurchaseOrder = agreed.TextAt(Ram + "BuyerOrderReferencedDocument", Ram + "IssuerAssignedID"),
            SalesOrder = agreed.TextAt(Ram + "SellerOrderReferencedDocument", Ram + "IssuerAssignedID"),
            ReceivingAdvice = delivered.TextAt(Ram + "ReceivingAdviceReferencedDocument", Ram + "IssuerAssignedID"),
            DespatchAdvice = delivered.TextAt(Ram + "DespatchAdviceReferencedDocument", Ram + "IssuerAssignedID"),
            Tender = Typed(agreed, "50").TextAt(Ram + "IssuerAssignedID"),
            Object = ObjectOf(agreed),
            BuyerAccounting = settled.TextAt(Ram + "ReceivableSpecifiedTradeAccountingAccount", Ram + "ID"),
            Terms = settled.TextAt(Ram + "SpecifiedTradePaymentTerms", Ram + "Description"),
            Notes = [.. head.All(Ram + "IncludedNote").Select(n => n.TextAt(Ram + "Content"))],
            Process = context.TextAt(Ram + "BusinessProcessSpecifiedDocumentContextParameter", Ram + "ID"),
            Specification = context.TextAt(Ram + "GuidelineSpecifiedDocumentContextParameter", Ram + "ID"),
            Preceding =
            [
                .. settled
                    .All(Ram + "InvoiceReferencedDocument")
                    .Select(p => new PrecedingInvoice(
                        p.TextAt(Ram + "IssuerAssignedID"),
                        XmlParts.DayOf(p.At(Ram + "FormattedIssueDateTime", Qdt + "DateTimeString"), Day)
                    )),
            ],
            Seller = PartyOf(agreed.At(Ram + "SellerTradeParty")),
            Buyer = PartyOf(agreed.At(Ram + "BuyerTradeParty")),
            Payee = settled.At(Ram + "PayeeTradeParty") is { } payee ? PartyOf(payee) : null,
            Representative = agreed.At(Ram + "SellerTaxRepresentativeTradeParty") is { } representative
                ? PartyOf(representative)
                : null,
            Delivery = new Delivery
            {
                Name = ship.TextAt(Ram + "Name"),
                Location = ship.IdAt("schemeID", Ram + "GlobalID") ?? ship.IdAt("schemeID", Ram + "ID"),
                On = On(delivered.At(Ram + "ActualDeliverySupplyChainEvent", Ram + "OccurrenceDateTime")),
                Address = AddressOf(ship.At(Ram + "PostalTradeAddress")),
            },
            Period = PeriodOf(settled),
            Payment = PaymentOf(settled),
            Allowances = Adjustments(settled, false),
            Charges = Adjustments(settled, true),
            Totals = new DocumentTotals
            {
                Lines = money.FigureAt(Ram + "LineTotalAmount"),
                Allowances = money.FigureAt(Ram + "AllowanceTotalAmount"),
                Charges = money.FigureAt(Ram + "ChargeTotalAmount"),
                WithoutTax = money.FigureAt(Ram + "TaxBasisTotalAmount"),
                Tax = own.FigureAt(),
                TaxInTaxCurrency = totals.Find(t => t != own && t.Marked("currencyID") == taxCurrency).FigureAt(),
                WithTax = money.FigureAt(Ram + "GrandTotalAmount"),
                Paid = money.FigureAt(Ram + "TotalPrepaidAmount"),
                Rounding = money.FigureAt(Ram + "RoundingAmount"),
                Payable = money.FigureAt(Ram + "DuePayableAmount"),
            },
            Taxes =
            [
                .. taxes.Select(t => new TaxBreakdown
                {
                    Taxable = t.FigureAt(Ram + "BasisAmount"),
                    Tax = t.FigureAt(Ram + "CalculatedAmount"),
                    Category = t.TextAt(Ram + "CategoryCode"),
                    Rate = t.FigureAt(Ram + "RateApplicablePercent"),
                    Reason = t.TextAt(Ram + "ExemptionReason"),
                    ReasonCode = t.TextAt(Ram + "ExemptionReasonCode"),
                }),
            ],
            Documents =
            [
                .. agreed
                    .All(Ram + "AdditionalReferencedDocument")
                    .Where(d => d.TextAt(Ram + "TypeCode") == "916")
                    .Select(d => new Supporting
                    {
                        Reference = d.TextAt(Ram + "IssuerAssignedID"),
                        Description = d.TextAt(Ram + "Name"),
                        Location = d.TextAt(Ram + "URIID"),
                        Content = EInvoiceFiles.Bytes(d.Element(Ram + "AttachmentBinaryObject")),
                        Kind = d.At(Ram + "AttachmentBinaryObject").Marked("mimeCode"),
                        FileName = d.At(Ram + "AttachmentBinaryObject").Marked("filename"),
                    }),
            ],
            Lines = [.. trade.All(Ram + "IncludedSupplyChainTradeLineItem").Select(LineOf)],
        };
    }

    private static DateOnly? On(XElement? moment) => XmlParts.DayOf(moment.At(Udt + "DateTimeString"), Day);

    private static XElement? Typed(XElement? at, string type) =>
        at.All(Ram + "AdditionalReferencedDocument").FirstOrDefault(d => d.TextAt(Ram + "TypeCode") == type);

    private static Identifier? ObjectOf(XElement? at) =>
        Typed(at, "130") is { } what
            ? new Identifier(what.TextAt(Ram + "IssuerAssignedID"), what.TextAt(Ram + "ReferenceTypeCode"))
            : null;

    private static Party PartyOf(XElement? party)
    {
        var (legal, contact) = (party.At(Ram + "SpecifiedLegalOrganization"), party.At(Ram + "DefinedTradeContact"));
        string Number(string scheme) =>
            party
                .All(Ram + "SpecifiedTaxRegistration")
                .Select(r => r.Element(Ram + "ID"))
                .FirstOrDefault(i => i.Marked("schemeID") == scheme)
                ?.Value.Trim()
            ?? "";
        return new Party
        {
            Name = party.TextAt(Ram + "Name"),
            TradingName = legal.TextAt(Ram + "TradingBusinessName"),
            Ids =
            [
                .. party
                    .All(Ram + "ID")
                    .Concat(party.All(Ram + "GlobalID"))
                    .Select(i => i.IdAt("schemeID"))
                    .OfType<Identifier>(),
            ],
            Registration = legal.IdAt("schemeID", Ram + "ID"),
            TaxId = Number("VA"),
            TaxRegistration = Number("FC"),
            LegalForm = party.TextAt(Ram + "Description"),
            Electronic = party.IdAt("schemeID", Ram + "URIUniversalCommunication", Ram + "URIID"),
            Address = AddressOf(party.At(Ram + "PostalTradeAddress")),
            Contact = contact.TextAt(Ram + "PersonName"),
            Phone = contact.TextAt(Ram + "TelephoneUniversalCommunication", Ram + "CompleteNumber"),
            Email = contact.TextAt(Ram + "EmailURIUniversalCommunication", Ram + "URIID"),
        };
    }

    private static PostalAddress? AddressOf(XElement? address) =>
        address is null
            ? null
            : new PostalAddress(
                address.TextAt(Ram + "LineOne"),
                address.TextAt(Ram + "LineTwo"),
                address.TextAt(Ram + "LineThree"),
                address.TextAt(Ram + "CityName"),
                address.TextAt(Ram + "PostcodeCode"),
                address.TextAt(Ram + "CountrySubDivisionName"),
                address.TextAt(Ram + "CountryID")
            );

    private static Period? PeriodOf(XElement? at) =>
        at.At(Ram + "BillingSpecifiedPeriod") is { } period
            ? new Period(On(period.Element(Ram + "StartDateTime")), On(period.Element(Ram + "EndDateTime")))
            : null;

    private static PaymentInstructions? PaymentOf(XElement? settled)
    {
        var means = settled.All(Ram + "SpecifiedTradeSettlementPaymentMeans").ToList();
        return means.Count == 0
            ? null
            : new PaymentInstructions
            {
                Means = means[0].TextAt(Ram + "TypeCode"),
                Text = means[0].TextAt(Ram + "Information"),
                Remittance = settled.TextAt(Ram + "PaymentReference"),
                Transfers =
                [
                    .. means
                        .Where(m => m.Element(Ram + "PayeePartyCreditorFinancialAccount") is not null)
                        .Select(m =>
                        {
                            var account = m.Element(Ram + "PayeePartyCreditorFinancialAccount");
                            var iban = account.TextAt(Ram + "IBANID");
                            return new CreditTransfer(
                                iban.Length > 0 ? iban : account.TextAt(Ram + "ProprietaryID"),
                                account.TextAt(Ram + "AccountName"),
                                m.TextAt(Ram + "PayeeSpecifiedCreditorFinancialInstitution", Ram + "BICID")
                            );
                        }),
                ],
                Card = means
                    .Select(m => m.Element(Ram + "ApplicableTradeSettlementFinancialCard"))
                    .OfType<XElement>()
                    .FirstOrDefault()
                    is { } card
                    ? new PaymentCard(card.TextAt(Ram + "ID"), card.TextAt(Ram + "CardholderName"))
                    : null,
                Mandate = settled.TextAt(Ram + "SpecifiedTradePaymentTerms", Ram + "DirectDebitMandateID"),
                Creditor = settled.TextAt(Ram + "CreditorReferenceID"),
                Debited = means[0].TextAt(Ram + "PayerPartyDebtorFinancialAccount", Ram + "IBANID"),
            };
    }

    private static LineTax? TaxOf(XElement? tax) =>
        tax is null ? null : new LineTax(tax.TextAt(Ram + "CategoryCode"), tax.FigureAt(Ram + "RateApplicablePercent"));

    private static List<Adjustment> Adjustments(XElement? at, bool charges) =>
        [
            .. at.All(Ram + "SpecifiedTradeAllowanceCharge")
                .Where(a => a.TextAt(Ram + "ChargeIndicator", Udt + "Indicator") == "true" == charges)
                .Select(a => new Adjustment
                {
                    Amount = a.FigureAt(Ram + "ActualAmount"),
                    Base = a.FigureAt(Ram + "BasisAmount"),
                    Percent = a.FigureAt(Ram + "CalculationPercent"),
                    Tax = TaxOf(a.Element(Ram + "CategoryTradeTax")),
                    Reason = a.TextAt(Ram + "Reason"),
                    ReasonCode = a.TextAt(Ram + "ReasonCode"),
                }),
        ];

    private static InvoiceLine LineOf(XElement line)
    {
        var (document, product, agreed, settled) = (
            line.Element(Ram + "AssociatedDocumentLineDocument"),
            line.Element(Ram + "SpecifiedTradeProduct"),
            line.Element(Ram + "SpecifiedLineTradeAgreement"),
            line.Element(Ram + "SpecifiedLineTradeSettlement")
        );
        var quantity = line.At(Ram + "SpecifiedLineTradeDelivery", Ram + "BilledQuantity");
        return new InvoiceLine
        {
            Id = document.TextAt(Ram + "LineID"),
            Note = document.TextAt(Ram + "IncludedNote", Ram + "Content"),
            Quantity = quantity.FigureAt(),
            Unit = quantity.Marked("unitCode"),
            Net = settled.FigureAt(Ram + "SpecifiedTradeSettlementLineMonetarySummation", Ram + "LineTotalAmount"),
            OrderLine = agreed.TextAt(Ram + "BuyerOrderReferencedDocument", Ram + "LineID"),
            Object = ObjectOf(settled),
            BuyerAccounting = settled.TextAt(Ram + "ReceivableSpecifiedTradeAccountingAccount", Ram + "ID"),
            Period = PeriodOf(settled),
            Allowances = Adjustments(settled, false),
            Charges = Adjustments(settled, true),
            Price = agreed.FigureAt(Ram + "NetPriceProductTradePrice", Ram + "ChargeAmount"),
            GrossPrice = agreed.FigureAt(Ram + "GrossPriceProductTradePrice", Ram + "ChargeAmount"),
            PriceBase = agreed.FigureAt(Ram + "NetPriceProductTradePrice", Ram + "BasisQuantity"),
            Tax = TaxOf(settled.At(Ram + "ApplicableTradeTax")),
            Name = product.TextAt(Ram + "Name"),
            Description = product.TextAt(Ram + "Description"),
            SellersId = product.TextAt(Ram + "SellerAssignedID"),
            BuyersId = product.TextAt(Ram + "BuyerAssignedID"),
            StandardId = product.IdAt("schemeID", Ram + "GlobalID"),
            Classes =
            [
                .. product
                    .All(Ram + "DesignatedProductClassification")
                    .Select(c => c.IdAt("listID", Ram + "ClassCode"))
                    .OfType<Identifier>(),
            ],
            Origin = product.TextAt(Ram + "OriginTradeCountry", Ram + "ID"),
            Traits =
            [
                .. product
                    .All(Ram + "ApplicableProductCharacteristic")
                    .Select(a => new ItemTrait(a.TextAt(Ram + "Description"), a.TextAt(Ram + "Value"))),
            ],
        };
    }
}
