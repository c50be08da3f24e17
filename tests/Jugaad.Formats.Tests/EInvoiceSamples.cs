using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;

namespace Jugaad.Formats.Tests;

/// <summary>E-invoices that keep every rule, and documents as they may come.</summary>
internal static class EInvoiceSamples
{
    internal static readonly Currency Eur = Currency.Of("EUR");
    private static readonly DateOnly Day = new(2025, 9, 17);

    private static readonly Sender From = new(
        "Tern Loft OÜ",
        "Kai 7\n93815 Nasva",
        "14730926",
        "EE101188342",
        "",
        "Sadama Pank",
        "EE409922001234567903",
        "SADMEE2X",
        ""
    )
    {
        Parts = new PartyParts(
            "Tern Loft OÜ",
            "Tern",
            new Address("Kai 7", "93815", "Nasva", "EE"),
            "",
            "1",
            "a@tern.example"
        ),
    };

    private static readonly Addressee To = new("Yard Oy", "Satama 2", "FI", "FI29134571", "2913457-1", "b@yard.example")
    {
        Parts = new PartyParts(
            "Yard Oy",
            "",
            new Address("Satama 2\nDoor B", "10900", "Hanko", "FI"),
            "Sanna",
            "2",
            "b@yard.example"
        ),
    };

    /// <summary>One with a line, an allowance and a charge of one category, and all that may be told besides.</summary>
    /// <param name="adjusted">Whether it has the allowance and the charge.</param>
    internal static EInvoice Of(string category, bool adjusted = true)
    {
        decimal? rate = category switch
        {
            "S" => 24,
            "O" => null,
            _ => 0,
        };
        var (tax, taxable) = (new LineTax(category, rate), adjusted ? 95m : 100m);
        var sum = category == "S" ? Math.Round(taxable * 0.24m, 2) : 0;
        var outside = category == "O";
        return new EInvoice
        {
            Number = "INV-7",
            Issued = Day,
            TypeCode = "380",
            Currency = "EUR",
            Due = Day.AddDays(14),
            BuyerReference = "Cost centre 12",
            Project = "Regatta",
            Contract = "C-1",
            PurchaseOrder = "PO-9",
            SalesOrder = "SO-3",
            BuyerAccounting = "4000",
            ReceivingAdvice = "REC-2",
            DespatchAdvice = "DES-1",
            Tender = "TEN-5",
            Object = new Identifier("METER-9", "AVE"),
            Terms = "14 days",
            Notes = ["Thank you.", "See you <again> & again"],
            Process = "P1",
            Specification = EInvoice.CoreSpecification,
            Preceding = [new PrecedingInvoice("INV-1", Day.AddDays(-9))],
            Seller = new Party
            {
                Name = "Tern Loft OÜ",
                TradingName = "Tern",
                Ids = [new Identifier("77"), new Identifier("5790000436101", "0088")],
                Registration = new Identifier("14730926"),
                TaxId = outside ? "" : "EE101188342",
                TaxRegistration = outside ? "" : "L-1",
                LegalForm = "private limited company",
                Electronic = new Identifier("a@tern.example", "EM"),
                Address = new PostalAddress("Kai 7", "Hall 2", "Gate 3", "Nasva", "93815", "Saare", "EE"),
                Contact = "Maarja",
                Phone = "1",
                Email = "a@tern.example",
            },
            Buyer = new Party
            {
                Name = "Yard Oy",
                TradingName = "Yard",
                Ids = [new Identifier("Y-4")],
                Registration = new Identifier("2913457-1", "0213"),
                TaxId = outside ? "" : "FI29134571",
                Electronic = new Identifier("003729134571", "0216"),
                Address = new PostalAddress("Satama 2", City: "Hanko", PostalCode: "10900", Country: "FI"),
                Contact = "Sanna",
            },
            Payee = new Party
            {
                Name = "Factor AS",
                Ids = [new Identifier("F-1")],
                Registration = new Identifier("12345678", "0191"),
            },
            Delivery = new Delivery
            {
                Name = "Yard, hall 2",
                Location = new Identifier("L1", "0088"),
                On = Day,
                Address = new PostalAddress("Satama 3", City: "Hanko", Country: "FI"),
            },
            Period = new Period(Day.AddDays(-5), Day),
            Payment = new PaymentInstructions
            {
                Means = "58",
                Text = "Transfer",
                Remittance = "RF31INV7",
                Card = new PaymentCard("4321", "S. Sailor"),
                Mandate = "MAN-8",
                Creditor = "EE12ZZZ333",
                Debited = "FI2112345600000785",
                Transfers = [new CreditTransfer("EE409922001234567903", "Tern", "SADMEE2X"), new CreditTransfer("FI1")],
            },
            Allowances = adjusted
                ?
                [
                    new Adjustment
                    {
                        Amount = 10,
                        Base = 100,
                        Percent = 10,
                        Tax = tax,
                        Reason = "Discount",
                        ReasonCode = "95",
                    },
                ]
                : [],
            Charges = adjusted
                ?
                [
                    new Adjustment
                    {
                        Amount = 5,
                        Tax = tax,
                        Reason = "Freight",
                        ReasonCode = "FC",
                    },
                ]
                : [],
            Totals = new DocumentTotals
            {
                Lines = 100,
                Allowances = adjusted ? 10 : null,
                Charges = adjusted ? 5 : null,
                WithoutTax = taxable,
                Tax = sum,
                WithTax = taxable + sum,
                Paid = 20,
                Rounding = 0.02m,
                Payable = taxable + sum - 20 + 0.02m,
            },
            Taxes =
            [
                new TaxBreakdown
                {
                    Taxable = taxable,
                    Tax = sum,
                    Category = category,
                    Rate = rate,
                    Reason = category is "S" or "Z" ? "" : "for a reason",
                    ReasonCode = category == "AE" ? "VATEX-EU-AE" : "",
                },
            ],
            Documents =
            [
                new Supporting
                {
                    Reference = "hours.csv",
                    Description = "Hours",
                    Content = [1, 2, 3],
                    Kind = "text/csv",
                    FileName = "hours.csv",
                },
                new Supporting { Reference = "more", Location = "https://tern.example/more" },
            ],
            Lines =
            [
                new InvoiceLine
                {
                    Id = "1",
                    Note = "In two parts",
                    Quantity = 2,
                    Unit = "HUR",
                    Net = 100,
                    OrderLine = "3",
                    Object = new Identifier("SAIL-4", "AVE"),
                    BuyerAccounting = "4010",
                    Traits = [new ItemTrait("Colour", "tan"), new ItemTrait("Cloth", "4 oz")],
                    Period = new Period(Day, Day),
                    Allowances =
                    [
                        new Adjustment
                        {
                            Amount = 7,
                            Base = 105,
                            Reason = "Friend",
                        },
                    ],
                    Charges =
                    [
                        new Adjustment
                        {
                            Amount = 2,
                            Reason = "Hurry",
                            ReasonCode = "FC",
                        },
                    ],
                    Price = 52.5m,
                    PriceBase = 1,
                    Tax = tax,
                    Name = "Work",
                    Description = "on sails",
                    SellersId = "W",
                    BuyersId = "X",
                    StandardId = new Identifier("4006381333931", "0160"),
                    Classes = [new Identifier("50241000", "STI")],
                    Origin = "EE",
                },
            ],
        };
    }

    private static readonly Dictionary<int, TaxCode> Codes = new()
    {
        [1] = Code(TaxCategory.Standard, 24),
        [2] = Code(TaxCategory.Standard, 9),
        [3] = Code(TaxCategory.Exempt, 0),
        [4] = Code(TaxCategory.Zero, 0),
        [5] = Code(TaxCategory.ReverseCharge, null),
        [6] = Code(TaxCategory.IntraUnion, null),
        [7] = Code(TaxCategory.OutOfScope, null),
    };

    private static TaxCode Code(TaxCategory category, decimal? rate) =>
        new(
            category.Letters() + rate,
            "Tax",
            category,
            category is TaxCategory.Standard or TaxCategory.Zero ? null : $"Reason of {category}",
            rate is { } percent
                ?
                [
                    new TaxCodePart(
                        0,
                        new TaxComponent($"VAT {percent}", null, [new TaxRate(new DateOnly(2024, 1, 1), percent)]),
                        false
                    ),
                ]
                : []
        );

    /// <summary>A random invoice, credit note or debit note that could be real.</summary>
    internal static Document Random(Random random, DateOnly? on = null)
    {
        var currency = random.Next(4) switch
        {
            0 => "SEK",
            1 => "JPY",
            _ => "EUR",
        };
        int[] codes = random.Next(8) switch
        {
            0 => [7],
            1 => [6],
            2 => [5, 1],
            _ => [1, 2, 3, 4],
        };
        int Pick() => codes[random.Next(codes.Length)];
        var kind = (DocumentKind[])
            [DocumentKind.Invoice, DocumentKind.Invoice, DocumentKind.CreditNote, DocumentKind.DebitNote];
        var document = new Document(kind[random.Next(4)], "me");
        var lines = Enumerable
            .Range(1, random.Next(1, 7))
            .Select(i =>
                random.Next(9) == 0 && i > 1
                    ? new DraftLine(null, $"Words {i}", 0, "", 0, null, null, 1, 7) { Role = LineRole.Text }
                    : new DraftLine(
                        null,
                        $"Thing {i}\nin detail",
                        random.Next(1, 4_000_000) / (decimal)Math.Pow(10, random.Next(0, 7)),
                        "H87",
                        random.Next(0, 9) == 0 ? 0 : random.Next(1, 100_000) / 100m,
                        random.Next(4) == 0 ? random.Next(1, 1000) / 10m : null,
                        null,
                        Pick(),
                        7
                    )
            )
            .ToList();
        if (random.Next(4) == 0)
            lines.Add(
                new DraftLine(
                    null,
                    "Taken back",
                    -random.Next(1, 9),
                    "H87",
                    random.Next(1, 900) / 100m,
                    null,
                    null,
                    Pick(),
                    7
                )
            );
        document.Rewrite(
            new DraftContent
            {
                Date = on ?? Day,
                ExchangeRate = currency == "EUR" ? QuotedRate.One : new QuotedRate(0.0901m, false),
                Lines = lines,
                Charges = random.Next(3) == 0 ? [new DraftCharge("Freight", random.Next(1, 5000), Pick(), 7)] : [],
                DiscountPercent = random.Next(3) == 0 ? random.Next(1, 500) / 10m : null,
                PricesIncludeTax = random.Next(2) == 0,
                PurchaseOrder = random.Next(2) == 0 ? "PO-1" : "",
                Note = "A note",
                Particulars = new Particulars
                {
                    Reason = "wrong",
                    Corrects = "INV-1",
                    Project = random.Next(2) == 0 ? "Regatta" : "",
                },
            },
            Masters(currency, random.Next(2) == 0 ? TaxRounding.Document : TaxRounding.Line)
        );
        document.Issue(1, "INV-2025-0007", From, To, "en");
        return document;
    }

    private static DraftMasters Masters(string currency, TaxRounding rounding) =>
        new(
            new Customer(
                new CustomerDetails
                {
                    Code = "Y",
                    Name = "Yard Oy",
                    Currency = currency,
                    Kind = CustomerKind.Business,
                }
            ),
            new PaymentTerms("14 days", DueRule.DaysAfter, 14),
            Codes,
            rounding,
            TaxStanding.Always
        );

    /// <summary>One thing sold at the counter, at the usual rate.</summary>
    internal static Document Sale(decimal priceWithTax)
    {
        var sale = new Document(DocumentKind.Invoice, "me");
        sale.Rewrite(
            new DraftContent
            {
                Date = Day,
                PricesIncludeTax = true,
                Lines = [new DraftLine(null, "Shackle", 1, "H87", priceWithTax, null, null, 1, 7)],
            },
            Masters("EUR", TaxRounding.Document)
        );
        sale.PaidAtCounter("Cash");
        sale.Issue(1, "INV-2025-0007", From, To, "en");
        return sale;
    }
}
