using Jugaad.Core.EInvoicing;
using Jugaad.Formats.EInvoices;

namespace Jugaad.Formats.Tests;

/// <summary>
/// For each rule of the standard a file that keeps it and one that breaks it, and nothing but it where one thing can be
/// wrong alone.
/// </summary>
public sealed class EInvoiceRuleTests
{
    private static readonly string[] Categories = ["S", "Z", "E", "AE", "K", "G", "O"];

    private static string MarkOf(string category) => category == "K" ? "IC" : category;

    /// <param name="Rule">That is broken.</param>
    /// <param name="Break">What is done to a good invoice.</param>
    /// <param name="Also">What cannot but break with it.</param>
    private sealed record Case(string Rule, Func<EInvoice, EInvoice> Break, params string[] Also)
    {
        public string Category { get; init; } = "S";
    }

    private static Party Without(Party party) => party with { TaxId = "", TaxRegistration = "" };

    private static Func<EInvoice, EInvoice> Line(Func<InvoiceLine, InvoiceLine> change) =>
        i => i with { Lines = [change(i.Lines[0])] };

    private static Func<EInvoice, EInvoice> Off(Func<Adjustment, Adjustment> change) =>
        i => i with { Allowances = [change(i.Allowances[0])] };

    private static Func<EInvoice, EInvoice> On(Func<Adjustment, Adjustment> change) =>
        i => i with { Charges = [change(i.Charges[0])] };

    private static Func<EInvoice, EInvoice> Tax(Func<TaxBreakdown, TaxBreakdown> change) =>
        i => i with { Taxes = [change(i.Taxes[0])] };

    private static Func<EInvoice, EInvoice> Sums(Func<DocumentTotals, DocumentTotals> change) =>
        i => i with { Totals = change(i.Totals) };

    private static Func<EInvoice, EInvoice> Seller(Func<Party, Party> change) =>
        i => i with { Seller = change(i.Seller) };

    private static Func<EInvoice, EInvoice> Buyer(Func<Party, Party> change) => i => i with { Buyer = change(i.Buyer) };

    private static Func<EInvoice, EInvoice> Pay(Func<PaymentInstructions, PaymentInstructions> change) =>
        i => i with { Payment = change(i.Payment!) };

    private static Func<EInvoice, EInvoice> Agent(Party party) => i => i with { Representative = party };

    private static readonly Party AnAgent = new()
    {
        Name = "Agent",
        TaxId = "DE1",
        Address = new PostalAddress(Country: "DE"),
    };

    private static IEnumerable<Case> Cases()
    {
        yield return new("BR-1", i => i with { Specification = "" });
        yield return new("BR-2", i => i with { Number = "" });
        yield return new("BR-3", i => i with { Issued = null });
        yield return new("BR-4", i => i with { TypeCode = "" });
        yield return new("BR-5", i => i with { Currency = "" });
        yield return new("BR-6", Seller(p => p with { Name = "" }));
        yield return new("BR-7", Buyer(p => p with { Name = "" }));
        yield return new("BR-8", Seller(p => p with { Address = null }), "BR-9");
        yield return new("BR-9", Seller(p => p with { Address = p.Address! with { Country = "" } }));
        yield return new("BR-10", Buyer(p => p with { Address = null }), "BR-11");
        yield return new("BR-11", Buyer(p => p with { Address = p.Address! with { Country = "" } }));
        yield return new("BR-12", Sums(t => t with { Lines = null }), "BR-CO-13");
        yield return new("BR-13", Sums(t => t with { WithoutTax = null }), "BR-CO-15");
        yield return new("BR-14", Sums(t => t with { WithTax = null }), "BR-CO-16");
        yield return new("BR-15", Sums(t => t with { Payable = null }));
        yield return new("BR-16", i => i with { Lines = [] }, "BR-CO-10", "BR-S-8");
        yield return new("BR-18", Agent(AnAgent with { Name = "" }));
        yield return new("BR-19", Agent(AnAgent with { Address = null }), "BR-20");
        yield return new("BR-20", Agent(AnAgent with { Address = new PostalAddress() }));
        yield return new("BR-21", Line(l => l with { Id = "" }));
        yield return new("BR-22", Line(l => l with { Quantity = null }));
        yield return new("BR-23", Line(l => l with { Unit = "" }));
        yield return new("BR-24", Line(l => l with { Net = null }), "BR-CO-10", "BR-S-8");
        yield return new("BR-25", Line(l => l with { Name = "" }));
        yield return new("BR-26", Line(l => l with { Price = null }));
        yield return new("BR-27", Line(l => l with { Price = -1 }));
        yield return new("BR-28", Line(l => l with { GrossPrice = -1 }));
        yield return new("BR-29", i => i with { Period = new Period(i.Issued, i.Issued!.Value.AddDays(-1)) });
        yield return new(
            "BR-30",
            Line(l => l with { Period = new Period(new DateOnly(2025, 1, 2), new DateOnly(2025, 1, 1)) })
        );
        yield return new("BR-31", Off(a => a with { Amount = null }), "BR-CO-11", "BR-S-8");
        yield return new("BR-32", Off(a => a with { Tax = null }), "BR-S-8");
        yield return new("BR-33", Off(a => a with { Reason = "", ReasonCode = "" }));
        yield return new("BR-36", On(a => a with { Amount = null }), "BR-CO-12", "BR-S-8");
        yield return new("BR-37", On(a => a with { Tax = null }), "BR-S-8");
        yield return new("BR-38", On(a => a with { Reason = "", ReasonCode = "" }));
        yield return new("BR-41", Line(l => l with { Allowances = [new Adjustment { Reason = "x" }] }));
        yield return new("BR-42", Line(l => l with { Allowances = [new Adjustment { Amount = 1 }] }));
        yield return new("BR-43", Line(l => l with { Charges = [new Adjustment { Reason = "x" }] }));
        yield return new("BR-44", Line(l => l with { Charges = [new Adjustment { Amount = 1 }] }));
        yield return new("BR-45", Tax(t => t with { Taxable = null }));
        yield return new("BR-46", Tax(t => t with { Tax = null }), "BR-CO-14");
        yield return new("BR-47", Tax(t => t with { Category = "" }), "BR-S-1");
        yield return new("BR-48", Tax(t => t with { Rate = null }), "BR-CO-17", "BR-S-9");
        yield return new("BR-49", Pay(p => p with { Means = "" }));
        yield return new("BR-50", Pay(p => p with { Transfers = [new CreditTransfer("")] }));
        yield return new("BR-17", i => i with { Payee = new Party { Ids = [new Identifier("F-1")] } });
        yield return new("BR-51", Pay(p => p with { Card = new PaymentCard("4111111111111111") }));
        yield return new("BR-54", Line(l => l with { Traits = [new ItemTrait("Colour", "")] }));
        yield return new("BR-52", i => i with { Documents = [new Supporting { Location = "x" }] });
        yield return new("BR-53", i => i with { TaxCurrency = "SEK" });
        yield return new("BR-55", i => i with { Preceding = [new PrecedingInvoice("")] });
        yield return new("BR-56", Agent(AnAgent with { TaxId = "" }));
        yield return new("BR-57", i => i with { Delivery = i.Delivery with { Address = new PostalAddress("x") } });
        yield return new("BR-61", Pay(p => p with { Transfers = [] }));
        yield return new("BR-62", Seller(p => p with { Electronic = new Identifier("x") }));
        yield return new("BR-63", Buyer(p => p with { Electronic = new Identifier("x") }));
        yield return new("BR-64", Line(l => l with { StandardId = new Identifier("4006381333931") }));
        yield return new("BR-65", Line(l => l with { Classes = [new Identifier("1")] }));
        yield return new("BR-CO-3", i => i with { TaxPoint = i.Issued, TaxPointCode = "35" });
        yield return new("BR-CO-4", Line(l => l with { Tax = null }), "BR-S-8");
        yield return new("BR-CO-9", Buyer(p => p with { TaxId = "99134571" }));
        yield return new("BR-CO-10", Sums(t => t with { Lines = 101 }), "BR-CO-13");
        yield return new("BR-CO-11", Sums(t => t with { Allowances = 11 }), "BR-CO-13");
        yield return new("BR-CO-12", Sums(t => t with { Charges = 6 }), "BR-CO-13");
        yield return new("BR-CO-13", Sums(t => t with { WithoutTax = 95.01m }), "BR-CO-15");
        yield return new("BR-CO-14", Sums(t => t with { Tax = 22.81m }), "BR-CO-15");
        yield return new("BR-CO-15", Sums(t => t with { WithTax = 117.81m }), "BR-CO-16");
        yield return new("BR-CO-16", Sums(t => t with { Payable = 97.83m }));
        yield return new("BR-CO-17", Tax(t => t with { Tax = 22.90m }), "BR-CO-14", "BR-S-9");
        yield return new("BR-CO-18", i => i with { Taxes = [] }, "BR-CO-14", "BR-S-1");
        yield return new("BR-CO-19", i => i with { Period = new Period(null, null) });
        yield return new("BR-CO-20", Line(l => l with { Period = new Period(null, null) }));
        yield return new("BR-CO-25", i => i with { Due = null, Terms = "" });
        yield return new(
            "BR-CO-26",
            i => i with { Seller = Without(i.Seller) with { Ids = [], Registration = null } },
            "BR-S-2",
            "BR-S-3",
            "BR-S-4"
        );
        yield return new("BR-IC-11", i => i with { Delivery = i.Delivery with { On = null }, Period = null })
        {
            Category = "K",
        };
        yield return new("BR-IC-12", i => i with { Delivery = i.Delivery with { Address = null } }) { Category = "K" };
        var other = new LineTax("E", 0);
        yield return new(
            "BR-O-11",
            i =>
                i with
                {
                    Taxes =
                    [
                        .. i.Taxes,
                        new TaxBreakdown
                        {
                            Taxable = 0,
                            Tax = 0,
                            Category = "E",
                            Rate = 0,
                            Reason = "x",
                        },
                    ],
                },
            "BR-E-1"
        )
        {
            Category = "O",
        };
        yield return new("BR-O-12", Line(l => l with { Tax = other }), "BR-E-1", "BR-E-2", "BR-O-8") { Category = "O" };
        yield return new("BR-O-13", Off(a => a with { Tax = other }), "BR-E-1", "BR-E-3", "BR-O-8") { Category = "O" };
        yield return new("BR-O-14", On(a => a with { Tax = other }), "BR-E-1", "BR-E-4", "BR-O-8") { Category = "O" };
        foreach (var (rule, change) in Decimals())
            yield return change(rule);
        yield return new("BR-CL-1", i => i with { TypeCode = "999" });
        yield return new("BR-CL-4", i => i with { Currency = "XYX" });
        yield return new(
            "BR-CL-5",
            i => i with { TaxCurrency = "XYX", Totals = i.Totals with { TaxInTaxCurrency = 1 } }
        );
        yield return new("BR-CL-10", Seller(p => p with { Ids = [new Identifier("77", "GLN")] }));
        yield return new("BR-CL-11", Buyer(p => p with { Registration = new Identifier("2913457-1", "FI") }));
        yield return new("BR-CL-13", Line(l => l with { Classes = [new Identifier("1", "cpv")] }));
        yield return new("BR-CL-21", Line(l => l with { StandardId = new Identifier("4006381333931", "EAN") }));
        yield return new("BR-CL-14", Buyer(p => p with { Address = p.Address! with { Country = "ZZ" } }));
        yield return new("BR-CL-16", Pay(p => p with { Means = "999" }));
        yield return new("BR-CL-17", Tax(t => t with { Category = "X" }), "BR-S-1");
        yield return new("BR-CL-18", Line(l => l with { Tax = new LineTax("X", 24) }), "BR-S-8");
        yield return new("BR-CL-22", Tax(t => t with { ReasonCode = "VATEX-99" })) { Category = "E" };
        yield return new("BR-CL-23", Line(l => l with { Unit = "hour" }));
        yield return new("BR-CL-24", i => i with { Documents = [i.Documents[0] with { Kind = "text/html" }] });
        yield return new("BR-CL-25", Buyer(p => p with { Electronic = new Identifier("x", "0000") }));
        foreach (var category in Categories)
        foreach (var one in OfCategory(category))
            yield return one with
            {
                Category = category,
            };
    }

    private static IEnumerable<Case> OfCategory(string c)
    {
        string Rule(int n) => $"BR-{MarkOf(c)}-{n}";
        string[] numbers = [Rule(2), Rule(3), Rule(4)];
        yield return new(Rule(1), i => i with { Taxes = [] }, "BR-CO-18", "BR-CO-14");
        foreach (var n in numbers)
            yield return c == "O"
                ? new(n, i => i with { Buyer = i.Buyer with { TaxId = "FI29134571" } }, numbers)
                : new(n, i => i with { Seller = Without(i.Seller) }, numbers);
        var wrong = c == "S" ? 0m : 5m;
        yield return new(Rule(5), Line(l => l with { Tax = new LineTax(c, wrong) }), "BR-S-8");
        yield return new(Rule(6), Off(a => a with { Tax = new LineTax(c, wrong) }), "BR-S-8");
        yield return new(Rule(7), On(a => a with { Tax = new LineTax(c, wrong) }), "BR-S-8");
        yield return new(Rule(8), Tax(t => t with { Taxable = 95.02m }));
        yield return c == "S"
            ? new(Rule(9), Tax(t => t with { Tax = 22.90m }), "BR-CO-14", "BR-CO-17")
            : new(Rule(9), Tax(t => t with { Tax = 0.01m }), "BR-CO-14");
        yield return c is "S" or "Z"
            ? new(Rule(10), Tax(t => t with { Reason = "none" }))
            : new(Rule(10), Tax(t => t with { Reason = "", ReasonCode = "" }));
    }

    private static IEnumerable<(string, Func<string, Case>)> Decimals()
    {
        const decimal Bit = 0.001m;
        yield return ("BR-DEC-1", r => new(r, Off(a => a with { Amount = 10 + Bit }), "BR-CO-11", "BR-S-8"));
        yield return ("BR-DEC-2", r => new(r, Off(a => a with { Base = Bit })));
        yield return ("BR-DEC-5", r => new(r, On(a => a with { Amount = 5 + Bit }), "BR-CO-12", "BR-S-8"));
        yield return ("BR-DEC-6", r => new(r, On(a => a with { Base = Bit })));
        yield return ("BR-DEC-9", r => new(r, Sums(t => t with { Lines = 100 + Bit }), "BR-CO-10", "BR-CO-13"));
        yield return ("BR-DEC-10", r => new(r, Sums(t => t with { Allowances = 10 + Bit }), "BR-CO-11", "BR-CO-13"));
        yield return ("BR-DEC-11", r => new(r, Sums(t => t with { Charges = 5 + Bit }), "BR-CO-12", "BR-CO-13"));
        yield return ("BR-DEC-12", r => new(r, Sums(t => t with { WithoutTax = 95 + Bit }), "BR-CO-13", "BR-CO-15"));
        yield return ("BR-DEC-13", r => new(r, Sums(t => t with { Tax = 22.80m + Bit }), "BR-CO-14", "BR-CO-15"));
        yield return ("BR-DEC-14", r => new(r, Sums(t => t with { WithTax = 117.80m + Bit }), "BR-CO-15", "BR-CO-16"));
        yield return (
            "BR-DEC-15",
            r => new(r, i => i with { TaxCurrency = "SEK", Totals = i.Totals with { TaxInTaxCurrency = Bit } })
        );
        yield return ("BR-DEC-16", r => new(r, Sums(t => t with { Paid = 20 + Bit }), "BR-CO-16"));
        yield return ("BR-DEC-17", r => new(r, Sums(t => t with { Rounding = 0.02m + Bit }), "BR-CO-16"));
        yield return ("BR-DEC-18", r => new(r, Sums(t => t with { Payable = 97.82m + Bit }), "BR-CO-16"));
        yield return ("BR-DEC-19", r => new(r, Tax(t => t with { Taxable = 95 + Bit }), "BR-S-8"));
        yield return ("BR-DEC-20", r => new(r, Tax(t => t with { Tax = 22.80m + Bit }), "BR-CO-14"));
        yield return ("BR-DEC-23", r => new(r, Line(l => l with { Net = 100 + Bit }), "BR-CO-10", "BR-S-8"));
        yield return (
            "BR-DEC-24",
            r => new(r, Line(l => l with { Allowances = [new Adjustment { Amount = Bit, Reason = "x" }] }))
        );
        yield return (
            "BR-DEC-25",
            r =>
                new(
                    r,
                    Line(l =>
                        l with
                        {
                            Allowances =
                            [
                                new Adjustment
                                {
                                    Amount = 1,
                                    Base = Bit,
                                    Reason = "x",
                                },
                            ],
                        }
                    )
                )
        );
        yield return (
            "BR-DEC-27",
            r => new(r, Line(l => l with { Charges = [new Adjustment { Amount = Bit, Reason = "x" }] }))
        );
        yield return (
            "BR-DEC-28",
            r =>
                new(
                    r,
                    Line(l =>
                        l with
                        {
                            Charges =
                            [
                                new Adjustment
                                {
                                    Amount = 1,
                                    Base = Bit,
                                    Reason = "x",
                                },
                            ],
                        }
                    )
                )
        );
    }

    [Fact]
    public void Each_rule_is_broken_by_a_file_of_its_own_and_by_no_other_than_must()
    {
        var tried = new HashSet<string>();
        foreach (var one in Cases())
        {
            tried.Add(one.Rule);
            foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
            {
                // Through a file, as anybody's comes. What a file cannot say at all is looked at as it is.
                var broken = one.Break(EInvoiceSamples.Of(one.Category));
                var found = EInvoiceCheck.Of(broken);
                found.Select(b => b.Rule).ShouldContain(one.Rule, $"{one.Rule} of {one.Category}");
                found
                    .Select(b => b.Rule)
                    .Where(r => r != one.Rule && !one.Also.Contains(r))
                    .ShouldBeEmpty($"{one.Rule} of {one.Category}");
                found.ShouldAllBe(b => b.Place.Length > 0 && b.Problem.Length > 0);
                var read = EInvoiceFiles.Read(EInvoiceFiles.Write(broken, syntax)).Invoice;
                if (
                    one.Rule
                    is not (
                        "BR-CO-19"
                        or "BR-CO-20"
                        or "BR-50"
                        or "BR-52"
                        or "BR-55"
                        or "BR-65"
                        or "BR-CO-3"
                        or "BR-19"
                    )
                )
                    EInvoiceCheck
                        .Of(read)
                        .Select(b => b.Rule)
                        .ShouldContain(one.Rule, $"{one.Rule} of {one.Category} in {syntax}");
            }
        }

        EInvoiceCheck.Rules.Select(r => r.Number).Except(tried).ShouldBeEmpty();
    }

    [Fact]
    public void Each_rule_has_its_own_number_and_words()
    {
        EInvoiceCheck.Rules.Select(r => r.Number).ShouldBeUnique();
        EInvoiceCheck.Rules.ShouldAllBe(r => r.Words.EndsWith('.'));
    }

    [Fact]
    public void A_good_one_of_each_category_keeps_them_all()
    {
        foreach (var category in Categories)
        {
            EInvoiceCheck.Of(EInvoiceSamples.Of(category)).ShouldBeEmpty(category);
            EInvoiceCheck.Of(EInvoiceSamples.Of(category, adjusted: false)).ShouldBeEmpty(category);
        }
    }
}
