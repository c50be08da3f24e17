using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Tests;

public sealed class CalculatorTests
{
    private static readonly Currency Eur = Currency.Of("EUR");

    private static Treatment Vat(decimal percent) =>
        new(TaxCategory.Standard, [new TreatmentPart(1, "VAT", percent, false)]);

    private static LineFigures Line(
        decimal quantity,
        decimal price,
        Treatment? tax = null,
        decimal? percent = null,
        long? amount = null
    ) => new(quantity, price, tax ?? Vat(24), percent, amount);

    private static Refusal Refused(DocumentFigures document) =>
        Should.Throw<RefusalException>(() => Calculator.Compute(document)).Refusals[0];

    [Fact]
    public void Lines_and_charges_less_the_discount_add_up_to_the_total() =>
        Generators
            .Documents(negative: false)
            .Sample(document =>
            {
                var totals = Calculator.Compute(document);
                totals.Subtotal.ShouldBe(totals.Lines.Sum(l => l.Amount));
                totals.Net.ShouldBe(totals.Treatments.Sum(t => t.Net));
                totals.Tax.ShouldBe(totals.Treatments.Sum(t => t.Tax));
                var priced = totals.Subtotal - totals.Discount + totals.Charges;
                (document.PricesIncludeTax ? totals.Total : totals.Net).ShouldBe(priced);
            });

    [Fact]
    public void What_lines_and_charges_post_adds_up_to_the_net() =>
        Generators
            .Documents(negative: false)
            .Sample(document =>
            {
                var totals = Calculator.Compute(document);
                (totals.LineNets.Sum() + totals.ChargeNets.Sum()).ShouldBe(totals.Net);
                totals.LineNets.ShouldAllBe(n => n >= 0);
            });

    [Fact]
    public void Return_lines_keep_the_sums_too() =>
        Generators
            .Documents(negative: true)
            .Sample(document =>
            {
                var totals = Calculator.Compute(document);
                (totals.LineNets.Sum() + totals.ChargeNets.Sum()).ShouldBe(totals.Net);
                (document.PricesIncludeTax ? totals.Total : totals.Net).ShouldBe(totals.Subtotal + totals.Charges);
            });

    [Fact]
    public void Each_tax_is_within_half_a_unit_of_its_exact_value_where_tax_comes_on_top() =>
        Generators
            .Documents(negative: false)
            .Sample(document =>
            {
                if (document.PricesIncludeTax || document.TaxRounding == TaxRounding.Line)
                    return;
                foreach (var treatment in Calculator.Compute(document).Treatments)
                {
                    long before = 0;
                    foreach (var (part, tax) in treatment.Taxes)
                    {
                        var exact = (part.Compound ? treatment.Net + before : treatment.Net) * part.Percent / 100m;
                        Math.Abs(tax - exact).ShouldBeLessThanOrEqualTo(0.5m);
                        before += tax;
                    }
                }
            });

    [Fact]
    public void A_price_tag_with_tax_is_exactly_what_is_paid() =>
        (from price in Gen.Long[1, 9_999_999] from percent in Gen.Int[0, 990_000] select (price, percent)).Sample(x =>
        {
            var totals = Calculator.Compute(
                new DocumentFigures(Eur, [Line(1, x.price / 100m, Vat(x.percent / 10_000m))])
                {
                    PricesIncludeTax = true,
                }
            );
            totals.Total.ShouldBe(x.price);
            var exactNet = x.price / (1 + (x.percent / 1_000_000m));
            Math.Abs(totals.Net - exactNet).ShouldBeLessThanOrEqualTo(0.5m);
        });

    [Theory]
    [InlineData("0.125", 13)]
    [InlineData("0.135", 14)]
    [InlineData("-0.125", -13)]
    [InlineData("0.124999", 12)]
    public void Halves_round_away_from_zero(string price, long expected) =>
        Calculator
            .Compute(
                new DocumentFigures(Eur, [Line(1, 100), Line(price[0] == '-' ? -1 : 1, Math.Abs(decimal.Parse(price)))])
            )
            .Lines[1]
            .Extension.ShouldBe(expected);

    [Fact]
    public void Two_codes_of_one_treatment_are_rounded_together()
    {
        var together = Calculator.Compute(
            new DocumentFigures(Eur, [Line(1, 10.02m, Vat(24)), Line(1, 10.02m, Vat(24))])
        );
        together.Treatments.Count.ShouldBe(1);
        together.Tax.ShouldBe(481);
        Calculator
            .Compute(new DocumentFigures(Eur, [Line(1, 10.02m), Line(1, 10.02m)]) { TaxRounding = TaxRounding.Line })
            .Tax.ShouldBe(480);
    }

    [Fact]
    public void A_compound_tax_also_taxes_the_rounded_tax_before_it()
    {
        var stacked = new Treatment(
            TaxCategory.Standard,
            [new TreatmentPart(1, "Federal", 5, false), new TreatmentPart(2, "Island", 10, true)]
        );
        var taxes = Calculator.Compute(new DocumentFigures(Eur, [Line(1, 99.99m, stacked)])).Treatments[0].Taxes;
        taxes.Select(t => t.Tax).ShouldBe([500, 1050]);
    }

    [Fact]
    public void A_documents_discount_does_not_touch_charges()
    {
        var totals = Calculator.Compute(
            new DocumentFigures(Eur, [Line(1, 100)])
            {
                DiscountPercent = 100,
                Charges = [new ChargeFigures(1500, Vat(24))],
            }
        );
        totals.Net.ShouldBe(1500);
        totals.ChargeNets.ShouldBe([1500L]);
        totals.LineNets.ShouldBe([0L]);
    }

    [Theory]
    [InlineData(1239, 5, 1, 1240)]
    [InlineData(1237, 5, -2, 1235)]
    [InlineData(1250, 100, 50, 1300)]
    public void Cash_rounding_goes_to_the_nearest_step_and_bears_no_tax(
        long total,
        long step,
        long rounding,
        long payable
    )
    {
        var totals = Calculator.Compute(new DocumentFigures(Eur, [Line(1, total / 100m, Vat(0))]) { CashStep = step });
        (totals.Rounding, totals.Payable, totals.Tax).ShouldBe((rounding, payable, 0));
    }

    [Fact]
    public void A_treatment_without_components_has_a_net_and_no_tax()
    {
        var exempt = Calculator.Compute(new DocumentFigures(Eur, [Line(2, 10, new Treatment(TaxCategory.Exempt, []))]));
        exempt.Treatments.Single().Net.ShouldBe(2000);
        exempt.Treatments.Single().Tax.ShouldBe(0);
    }

    public static TheoryData<string, DocumentFigures> Wrong =>
        new()
        {
            { "lines", new DocumentFigures(Eur, []) },
            { "lines[0].quantity", new DocumentFigures(Eur, [Line(1_000_000_000, 1)]) },
            { "lines[0].quantity", new DocumentFigures(Eur, [Line(1.1234567m, 1)]) },
            { "lines[0].unitPrice", new DocumentFigures(Eur, [Line(1, 0.1234567m)]) },
            { "lines[0].quantity", new DocumentFigures(Eur, [Line(999_999_999, 999_999_999)]) },
            { "lines[0].discountAmount", new DocumentFigures(Eur, [Line(1, 10, amount: 1001)]) },
            { "lines[0].discountAmount", new DocumentFigures(Eur, [Line(1, 10, amount: -1)]) },
            { "lines[0].discountAmount", new DocumentFigures(Eur, [Line(-1, 10, amount: 100)]) },
            { "lines[0].discountAmount", new DocumentFigures(Eur, [Line(1, 10, percent: 5, amount: 1)]) },
            { "lines[0].discountPercent", new DocumentFigures(Eur, [Line(1, 10, percent: 100.1m)]) },
            { "lines[0].discountPercent", new DocumentFigures(Eur, [Line(1, 10, percent: 1.23456m)]) },
            {
                "discountAmount",
                new DocumentFigures(Eur, [Line(1, 10)]) { DiscountAmount = 1001 }
            },
            {
                "discountAmount",
                new DocumentFigures(Eur, [Line(1, 10)]) { DiscountAmount = -1 }
            },
            {
                "discountPercent",
                new DocumentFigures(Eur, [Line(1, 10)]) { DiscountPercent = -1 }
            },
            {
                "discountAmount",
                new DocumentFigures(Eur, [Line(1, 10)]) { DiscountPercent = 1, DiscountAmount = 1 }
            },
            {
                "discountPercent",
                new DocumentFigures(Eur, [Line(-1, 10)]) { DiscountPercent = 10 }
            },
            { "lines", new DocumentFigures(Eur, Enumerable.Repeat(Line(9_999_999, 999_999), 300).ToList()) },
            {
                "lines",
                new DocumentFigures(Eur, [Line(1, 1)])
                {
                    Charges = Enumerable.Repeat(new ChargeFigures(Limits.AmountMinor, Vat(24)), 1_999).ToList(),
                }
            },
            {
                "charges",
                new DocumentFigures(Eur, [Line(1, 1)])
                {
                    Charges = Enumerable.Repeat(new ChargeFigures(1, Vat(24)), 2_001).ToList(),
                }
            },
            {
                "lines[0].taxCode",
                new DocumentFigures(
                    Eur,
                    [
                        Line(
                            1,
                            1,
                            new Treatment(
                                TaxCategory.Standard,
                                Enumerable.Range(0, 70).Select(i => new TreatmentPart(i, $"T{i}", 100, true)).ToList()
                            )
                        ),
                    ]
                )
            },
            {
                "cashRounding",
                new DocumentFigures(Eur, [Line(1, 10)]) { CashStep = 0 }
            },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_cannot_be_is_refused_by_its_place(string field, DocumentFigures document)
    {
        var refusal = Refused(document);
        refusal.Field.ShouldBe(field);
        refusal.Message.ShouldNotBeNullOrWhiteSpace();
    }

    [Fact]
    public void All_that_is_wrong_is_said_at_once() =>
        Should
            .Throw<RefusalException>(() =>
                Calculator.Compute(new DocumentFigures(Eur, [Line(2_000_000_000, 1), Line(1, 1, percent: 200)]))
            )
            .Refusals.Count.ShouldBe(2);
}
