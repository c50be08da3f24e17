using System.Xml.Linq;
using Jugaad.Core.EInvoicing;
using static Jugaad.Formats.EInvoices.UblNames;

namespace Jugaad.Formats.EInvoices;

/// <summary>Reads UBL 2.1 invoices and credit notes of anybody.</summary>
internal sealed class UblReader(XElement root)
{
    private readonly bool _credit = root.Name.LocalName == "CreditNote";

    internal EInvoice Read()
    {
        var currency = root.TextAt(Cbc + "DocumentCurrencyCode");
        var taxCurrency = root.TextAt(Cbc + "TaxCurrencyCode");
        var totals = root.Elements(Cac + "TaxTotal").ToList();
        var own =
            totals.Find(t => t.Element(Cac + "TaxSubtotal") is not null)
            ?? totals.Find(t => t.Element(Cbc + "TaxAmount").Marked("currencyID") == currency);
        var other = totals.Find(t => t != own && t.Element(Cbc + "TaxAmount").Marked("currencyID") == taxCurrency);
        var money = root.Element(Cac + "LegalMonetaryTotal");
        var files = root.Elements(Cac + "AdditionalDocumentReference").ToList();
        return new EInvoice
        {
            Number = root.TextAt(Cbc + "ID"),
            Issued = On("IssueDate"),
            TypeCode = root.TextAt(Cbc + (_credit ? "CreditNoteTypeCode" : "InvoiceTypeCode")),
            Currency = currency,
            TaxCurrency = taxCurrency,
            TaxPoint = On("TaxPointDate"),
            TaxPointCode = root.TextAt(Cac + "InvoicePeriod", Cbc + "DescriptionCode"),
            Due = On("DueDate") ?? XmlParts.DayOf(root.At(Cac + "PaymentMeans", Cbc + "PaymentDueDate"), Day),
            BuyerReference = root.TextAt(Cbc + "BuyerReference"),
            Project = _credit
                ? files.Find(f => f.TextAt(Cbc + "DocumentTypeCode") == "50").TextAt(Cbc + "ID")
                : root.TextAt(Cac + "ProjectReference", Cbc + "ID"),
            Contract = root.TextAt(Cac + "ContractDocumentReference", Cbc + "ID"),
            PurchaseOrder = root.TextAt(Cac + "OrderReference", Cbc + "ID") is var order && order == "NA" ? "" : order,
            SalesOrder = root.TextAt(Cac + "OrderReference", Cbc + "SalesOrderID"),
            ReceivingAdvice = root.TextAt(Cac + "ReceiptDocumentReference", Cbc + "ID"),
            DespatchAdvice = root.TextAt(Cac + "DespatchDocumentReference", Cbc + "ID"),
            Tender = root.TextAt(Cac + "OriginatorDocumentReference", Cbc + "ID"),
            Object = files.Find(f => f.TextAt(Cbc + "DocumentTypeCode") == "130").IdAt("schemeID", Cbc + "ID"),
            BuyerAccounting = root.TextAt(Cbc + "AccountingCost"),
            Terms = root.TextAt(Cac + "PaymentTerms", Cbc + "Note"),
            Notes = [.. root.Elements(Cbc + "Note").Select(n => n.Value.Trim())],
            Process = root.TextAt(Cbc + "ProfileID"),
            Specification = root.TextAt(Cbc + "CustomizationID"),
            Preceding =
            [
                .. root.Elements(Cac + "BillingReference")
                    .Select(b => b.Element(Cac + "InvoiceDocumentReference"))
                    .Select(b => new PrecedingInvoice(
                        b.TextAt(Cbc + "ID"),
                        XmlParts.DayOf(b.At(Cbc + "IssueDate"), Day)
                    )),
            ],
            Seller = PartyOf(root.At(Cac + "AccountingSupplierParty", Cac + "Party")),
            Buyer = PartyOf(root.At(Cac + "AccountingCustomerParty", Cac + "Party")),
            Payee = root.Element(Cac + "PayeeParty") is { } payee
                ? PartyOf(payee) with
                {
                    Name = payee.TextAt(Cac + "PartyName", Cbc + "Name"),
                    TradingName = "",
                }
                : null,
            Representative = root.Element(Cac + "TaxRepresentativeParty") is { } representative
                ? PartyOf(representative) with
                {
                    Name = representative.TextAt(Cac + "PartyName", Cbc + "Name"),
                    TradingName = "",
                }
                : null,
            Delivery = DeliveryOf(root.Element(Cac + "Delivery")),
            Period = PeriodOf(root.Element(Cac + "InvoicePeriod")),
            Payment = PaymentOf([.. root.Elements(Cac + "PaymentMeans")]),
            Allowances = Adjustments(root, false),
            Charges = Adjustments(root, true),
            Totals = new DocumentTotals
            {
                Lines = money.FigureAt(Cbc + "LineExtensionAmount"),
                Allowances = money.FigureAt(Cbc + "AllowanceTotalAmount"),
                Charges = money.FigureAt(Cbc + "ChargeTotalAmount"),
                WithoutTax = money.FigureAt(Cbc + "TaxExclusiveAmount"),
                Tax = own.FigureAt(Cbc + "TaxAmount"),
                TaxInTaxCurrency = other.FigureAt(Cbc + "TaxAmount"),
                WithTax = money.FigureAt(Cbc + "TaxInclusiveAmount"),
                Paid = money.FigureAt(Cbc + "PrepaidAmount"),
                Rounding = money.FigureAt(Cbc + "PayableRoundingAmount"),
                Payable = money.FigureAt(Cbc + "PayableAmount"),
            },
            Taxes =
            [
                .. own.All(Cac + "TaxSubtotal")
                    .Select(t => new TaxBreakdown
                    {
                        Taxable = t.FigureAt(Cbc + "TaxableAmount"),
                        Tax = t.FigureAt(Cbc + "TaxAmount"),
                        Category = t.TextAt(Cac + "TaxCategory", Cbc + "ID"),
                        Rate = t.FigureAt(Cac + "TaxCategory", Cbc + "Percent"),
                        Reason = t.TextAt(Cac + "TaxCategory", Cbc + "TaxExemptionReason"),
                        ReasonCode = t.TextAt(Cac + "TaxCategory", Cbc + "TaxExemptionReasonCode"),
                    }),
            ],
            Documents = [.. files.Where(f => f.TextAt(Cbc + "DocumentTypeCode") is not ("50" or "130")).Select(FileOf)],
            Lines = [.. root.Elements(Cac + (_credit ? "CreditNoteLine" : "InvoiceLine")).Select(LineOf)],
        };
    }

    private DateOnly? On(string name) => XmlParts.DayOf(root.Element(Cbc + name), Day);

    private static Party PartyOf(XElement? party)
    {
        string Number(Func<string, bool> of) =>
            party
                .All(Cac + "PartyTaxScheme")
                .FirstOrDefault(s => of(s.TextAt(Cac + "TaxScheme", Cbc + "ID")))
                .TextAt(Cbc + "CompanyID");
        var legal = party.At(Cac + "PartyLegalEntity");
        return new Party
        {
            Name = legal.TextAt(Cbc + "RegistrationName"),
            TradingName = party.TextAt(Cac + "PartyName", Cbc + "Name"),
            Ids =
            [
                .. party
                    .All(Cac + "PartyIdentification")
                    .Select(i => i.IdAt("schemeID", Cbc + "ID"))
                    .OfType<Identifier>()
                    .Where(i => i.Scheme != CreditorScheme),
            ],
            Registration = legal.IdAt("schemeID", Cbc + "CompanyID"),
            TaxId = Number(s => s == "VAT"),
            TaxRegistration = Number(s => s != "VAT"),
            LegalForm = legal.TextAt(Cbc + "CompanyLegalForm"),
            Electronic = party.IdAt("schemeID", Cbc + "EndpointID"),
            Address = AddressOf(party.At(Cac + "PostalAddress")),
            Contact = party.TextAt(Cac + "Contact", Cbc + "Name"),
            Phone = party.TextAt(Cac + "Contact", Cbc + "Telephone"),
            Email = party.TextAt(Cac + "Contact", Cbc + "ElectronicMail"),
        };
    }

    private static PostalAddress? AddressOf(XElement? address) =>
        address is null
            ? null
            : new PostalAddress(
                address.TextAt(Cbc + "StreetName"),
                address.TextAt(Cbc + "AdditionalStreetName"),
                address.TextAt(Cac + "AddressLine", Cbc + "Line"),
                address.TextAt(Cbc + "CityName"),
                address.TextAt(Cbc + "PostalZone"),
                address.TextAt(Cbc + "CountrySubentity"),
                address.TextAt(Cac + "Country", Cbc + "IdentificationCode")
            );

    private static Delivery DeliveryOf(XElement? delivery) =>
        new()
        {
            Name = delivery.TextAt(Cac + "DeliveryParty", Cac + "PartyName", Cbc + "Name"),
            Location = delivery.IdAt("schemeID", Cac + "DeliveryLocation", Cbc + "ID"),
            On = XmlParts.DayOf(delivery.At(Cbc + "ActualDeliveryDate"), Day),
            Address = AddressOf(delivery.At(Cac + "DeliveryLocation", Cac + "Address")),
        };

    private static Period? PeriodOf(XElement? period)
    {
        if (period is null)
            return null;
        var (from, until) = (
            XmlParts.DayOf(period.Element(Cbc + "StartDate"), Day),
            XmlParts.DayOf(period.Element(Cbc + "EndDate"), Day)
        );
        return from is null && until is null && period.Element(Cbc + "DescriptionCode") is not null
            ? null
            : new Period(from, until);
    }

    private PaymentInstructions? PaymentOf(IReadOnlyList<XElement> means)
    {
        // One that only says until when is no instruction.
        var told = means
            .Where(m =>
                m.Elements().Any(e => e.Name != Cbc + "PaymentDueDate" && e.Name != Cbc + "PaymentMeansCode")
                || m.TextAt(Cbc + "PaymentMeansCode") != "1"
            )
            .ToList();
        return told.Count == 0
            ? null
            : new PaymentInstructions
            {
                Means = told[0].TextAt(Cbc + "PaymentMeansCode"),
                Text = told[0].At(Cbc + "PaymentMeansCode").Marked("name"),
                Remittance = told[0].TextAt(Cbc + "PaymentID"),
                Transfers =
                [
                    .. told.Select(m => m.Element(Cac + "PayeeFinancialAccount"))
                        .OfType<XElement>()
                        .Select(a => new CreditTransfer(
                            a.TextAt(Cbc + "ID"),
                            a.TextAt(Cbc + "Name"),
                            a.TextAt(Cac + "FinancialInstitutionBranch", Cbc + "ID")
                        )),
                ],
                Card = told.Select(m => m.Element(Cac + "CardAccount")).OfType<XElement>().FirstOrDefault() is { } card
                    ? new PaymentCard(card.TextAt(Cbc + "PrimaryAccountNumberID"), card.TextAt(Cbc + "HolderName"))
                    : null,
                Mandate = told[0].TextAt(Cac + "PaymentMandate", Cbc + "ID"),
                Creditor =
                    new[] { root.Element(Cac + "PayeeParty"), root.At(Cac + "AccountingSupplierParty", Cac + "Party") }
                        .SelectMany(p => p.All(Cac + "PartyIdentification"))
                        .Select(i => i.IdAt("schemeID", Cbc + "ID"))
                        .FirstOrDefault(i => i?.Scheme == CreditorScheme)
                        ?.Value
                    ?? "",
                Debited = told[0].TextAt(Cac + "PaymentMandate", Cac + "PayerFinancialAccount", Cbc + "ID"),
            };
    }

    private static LineTax? TaxOf(XElement? tax) =>
        tax is null ? null : new LineTax(tax.TextAt(Cbc + "ID"), tax.FigureAt(Cbc + "Percent"));

    private static List<Adjustment> Adjustments(XElement at, bool charges) =>
        [
            .. at.Elements(Cac + "AllowanceCharge")
                .Where(a => a.TextAt(Cbc + "ChargeIndicator") == "true" == charges)
                .Select(a => new Adjustment
                {
                    Amount = a.FigureAt(Cbc + "Amount"),
                    Base = a.FigureAt(Cbc + "BaseAmount"),
                    Percent = a.FigureAt(Cbc + "MultiplierFactorNumeric"),
                    Tax = TaxOf(a.Element(Cac + "TaxCategory")),
                    Reason = a.TextAt(Cbc + "AllowanceChargeReason"),
                    ReasonCode = a.TextAt(Cbc + "AllowanceChargeReasonCode"),
                }),
        ];

    private static Supporting FileOf(XElement file)
    {
        var content = file.At(Cac + "Attachment", Cbc + "EmbeddedDocumentBinaryObject");
        return new Supporting
        {
            Reference = file.TextAt(Cbc + "ID"),
            Description = file.TextAt(Cbc + "DocumentDescription"),
            Location = file.TextAt(Cac + "Attachment", Cac + "ExternalReference", Cbc + "URI"),
            Content = EInvoiceFiles.Bytes(content),
            Kind = content.Marked("mimeCode"),
            FileName = content.Marked("filename"),
        };
    }

    private InvoiceLine LineOf(XElement line)
    {
        var quantity = line.Element(Cbc + (_credit ? "CreditedQuantity" : "InvoicedQuantity"));
        var (item, price) = (line.Element(Cac + "Item"), line.Element(Cac + "Price"));
        return new InvoiceLine
        {
            Id = line.TextAt(Cbc + "ID"),
            Note = line.TextAt(Cbc + "Note"),
            Quantity = quantity.FigureAt(),
            Unit = quantity.Marked("unitCode"),
            Net = line.FigureAt(Cbc + "LineExtensionAmount"),
            OrderLine = line.TextAt(Cac + "OrderLineReference", Cbc + "LineID"),
            Object = line.All(Cac + "DocumentReference")
                .FirstOrDefault(d => d.TextAt(Cbc + "DocumentTypeCode") is "130" or "")
                .IdAt("schemeID", Cbc + "ID"),
            BuyerAccounting = line.TextAt(Cbc + "AccountingCost"),
            Period = PeriodOf(line.Element(Cac + "InvoicePeriod")),
            Allowances = Adjustments(line, false),
            Charges = Adjustments(line, true),
            Price = price.FigureAt(Cbc + "PriceAmount"),
            GrossPrice = price.FigureAt(Cac + "AllowanceCharge", Cbc + "BaseAmount"),
            PriceBase = price.FigureAt(Cbc + "BaseQuantity"),
            Tax = TaxOf(item.At(Cac + "ClassifiedTaxCategory")),
            Name = item.TextAt(Cbc + "Name"),
            Description = item.TextAt(Cbc + "Description"),
            SellersId = item.TextAt(Cac + "SellersItemIdentification", Cbc + "ID"),
            BuyersId = item.TextAt(Cac + "BuyersItemIdentification", Cbc + "ID"),
            StandardId = item.IdAt("schemeID", Cac + "StandardItemIdentification", Cbc + "ID"),
            Classes =
            [
                .. item.All(Cac + "CommodityClassification")
                    .Select(c => c.IdAt("listID", Cbc + "ItemClassificationCode"))
                    .OfType<Identifier>(),
            ],
            Origin = item.TextAt(Cac + "OriginCountry", Cbc + "IdentificationCode"),
            Traits =
            [
                .. item.All(Cac + "AdditionalItemProperty")
                    .Select(a => new ItemTrait(a.TextAt(Cbc + "Name"), a.TextAt(Cbc + "Value"))),
            ],
        };
    }
}
