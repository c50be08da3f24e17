using System.Globalization;
using CsCheck;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Tests;

/// <summary>When tax counts, and what of it each return tells. Spring 2026; each case is worked in its comment.</summary>
public sealed class TaxReturnTests
{
    private static readonly CountingRule ByInvoice = Rule(TaxBasis.ByInvoice);
    private static readonly CountingRule ByPayment = Rule(TaxBasis.ByPayment);

    private static CountingRule Rule(TaxBasis basis) =>
        new([new BasisSince(DateOnly.MinValue, basis)], CountingRule.Usual);

    private static DateOnly Day(int month, int day) => new(2026, month, day);

    private static (TaxKey, long, long) Tax(
        long taxable,
        long tax,
        decimal percent = 22,
        TaxCategory category = TaxCategory.Standard,
        string component = "VAT",
        Place place = Place.Home
    ) => (new TaxKey(category, component, percent, place, Supply.Services), taxable, tax);

    /// <summary>What one authority is told, month by month, as the books stood when each return was filed.</summary>
    private sealed class Teller(CountingRule rule)
    {
        private sealed record Posted(
            int First,
            string Number,
            int Sign,
            DateOnly Date,
            DateOnly On,
            long Payable,
            (TaxKey Key, long Taxable, long Tax)[] Taxes
        );

        private readonly List<Posted> _posted = [];
        private readonly List<(string A, string B, SetOn Set)> _sets = [];
        private readonly List<ToldBefore> _told = [];

        internal Teller Bill(string number, DateOnly date, long payable, params (TaxKey, long, long)[] taxes) =>
            Post(number, 1, date, date, payable, taxes);

        internal Teller Less(string number, DateOnly date, long payable, params (TaxKey, long, long)[] taxes) =>
            Post(number, -1, date, date, payable, taxes);

        internal Teller Post(
            string number,
            int sign,
            DateOnly date,
            DateOnly on,
            long payable,
            (TaxKey, long, long)[] taxes
        )
        {
            _posted.Add(new Posted(_posted.Sum(p => p.Taxes.Length) + 1, number, sign, date, on, payable, taxes));
            return this;
        }

        internal Teller Set(string a, string b, DateOnly from, long amount, DateOnly? until = null)
        {
            _sets.Add((a, b, new SetOn(from, until, amount)));
            return this;
        }

        internal IReadOnlyList<Counted> Counts(DateOnly asOf) =>
            [
                .. _posted
                    .Where(p => p.On <= asOf)
                    .SelectMany(p =>
                        TaxCounting.Of(
                            [
                                .. p.Taxes.Select(
                                    (t, i) =>
                                        new FigureToCount(
                                            p.First + i,
                                            p.Date,
                                            t.Key,
                                            p.Sign * t.Taxable,
                                            p.Sign * t.Tax
                                        )
                                ),
                            ],
                            p.Payable,
                            [.. _sets.Where(s => s.A == p.Number || s.B == p.Number).Select(s => s.Set)],
                            rule
                        )
                    ),
            ];

        /// <summary>Files the return of a month on the 20th of the next one, or on a day of one's own.</summary>
        /// <returns>Such as <c>S VAT 22: 100.00 + 22.00</c>, with what is late of it after a bar.</returns>
        internal string File(int month, DateOnly? on = null)
        {
            var known = _posted
                .SelectMany(p => p.Taxes.Select((t, i) => (Id: p.First + i, p.Number, p.Date, t.Key)))
                .ToDictionary(f => f.Id, f => (f.Number, f.Date, f.Key, RowOrigin.Sales));
            var first = Day(month, 1);
            var rows = ReturnRows.Of(
                Counts(on ?? Day(month + 1, 20)),
                known,
                _told,
                first,
                first.AddMonths(1).AddDays(-1)
            );
            _told.AddRange(
                rows.Select(r => new ToldBefore(r.Figure, r.Day, r.Key, r.Number, r.Date, r.Taxable, r.Tax))
            );
            var late = Words(rows.Where(r => r.IsLate));
            return late.Length == 0 ? Words(rows) : $"{Words(rows)} | {late}";
        }

        internal (long Taxable, long Tax) Told => (_told.Sum(t => t.Taxable), _told.Sum(t => t.Tax));

        private static string Words(IEnumerable<ReturnRow> rows) =>
            string.Join(
                "; ",
                ReturnRows
                    .Summary(rows)
                    .Select(s =>
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{s.Category.Letters()} {s.Component} {s.Percent}: {s.Taxable / 100m:0.00} + {s.Tax / 100m:0.00}"
                        )
                    )
            );
    }

    [Fact]
    public void By_invoice_a_bill_and_what_is_credited_of_it_count_on_their_own_tax_dates()
    {
        var told = new Teller(ByInvoice)
            .Bill("A", Day(3, 5), 244_00, Tax(200_00, 44_00))
            .Less("C", Day(4, 9), 61_00, Tax(50_00, 11_00))
            .Set("A", "C", Day(4, 9), 61_00);
        told.File(3).ShouldBe("S VAT 22: 200.00 + 44.00");
        told.File(4).ShouldBe("S VAT 22: -50.00 + -11.00");
        told.File(5).ShouldBe("");
    }

    /// <summary>
    /// 81.97 + 18.03 = 100.00. Of 33.33: 27.3206 and 6.0094. Of 66.66 in all: 54.6412 and 12.0188, less those before.
    /// </summary>
    [Fact]
    public void By_payment_uneven_parts_come_to_the_whole()
    {
        var told = new Teller(ByPayment)
            .Bill("A", Day(3, 5), 100_00, Tax(81_97, 18_03))
            .Set("A", "R1", Day(3, 20), 33_33)
            .Set("A", "R2", Day(4, 2), 33_33)
            .Set("A", "R3", Day(5, 9), 33_34);
        told.File(3).ShouldBe("S VAT 22: 27.32 + 6.01");
        told.File(4).ShouldBe("S VAT 22: 27.32 + 6.01");
        told.File(5).ShouldBe("S VAT 22: 27.33 + 6.01");
    }

    /// <summary>200 + 44 and 50 + 5 = 299. Of 100: 66.889, 14.716, 16.722 and 1.672.</summary>
    [Fact]
    public void By_payment_each_rate_counts_its_own_share()
    {
        var told = new Teller(ByPayment)
            .Bill("A", Day(3, 5), 299_00, Tax(200_00, 44_00), Tax(50_00, 5_00, 10))
            .Set("A", "R1", Day(3, 20), 100_00)
            .Set("A", "R2", Day(5, 20), 199_00);
        told.File(3).ShouldBe("S VAT 22: 66.89 + 14.72; S VAT 10: 16.72 + 1.67");
        told.File(4).ShouldBe("");
        told.File(5).ShouldBe("S VAT 22: 133.11 + 29.28; S VAT 10: 33.28 + 3.33");
    }

    /// <summary>The credit of half counts on both sides in April, which is nothing; the other half is paid in May.</summary>
    [Fact]
    public void By_payment_a_credit_note_counts_on_both_sides()
    {
        var told = new Teller(ByPayment)
            .Bill("A", Day(3, 5), 122_00, Tax(100_00, 22_00))
            .Less("C", Day(4, 9), 61_00, Tax(50_00, 11_00))
            .Set("A", "C", Day(4, 9), 61_00)
            .Set("A", "R", Day(5, 9), 61_00);
        told.File(3).ShouldBe("");
        told.File(4).ShouldBe("");
        told.File(5).ShouldBe("S VAT 22: 50.00 + 11.00");
    }

    /// <summary>3 % of 1 220.00 is 36.60: 30.00 and 6.60 of tax.</summary>
    [Theory]
    [InlineData(TaxBasis.ByPayment, "", "S VAT 22: 970.00 + 213.40")]
    [InlineData(TaxBasis.ByInvoice, "S VAT 22: 1000.00 + 220.00", "S VAT 22: -30.00 + -6.60")]
    public void A_discount_for_early_payment_takes_its_tax_away(TaxBasis basis, string march, string april)
    {
        var told = new Teller(Rule(basis))
            .Bill("A", Day(3, 28), 1220_00, Tax(1000_00, 220_00))
            .Less("E", Day(4, 3), 36_60, Tax(30_00, 6_60))
            .Set("A", "R", Day(4, 3), 1183_40)
            .Set("A", "E", Day(4, 3), 36_60);
        told.File(3).ShouldBe(march);
        told.File(4).ShouldBe(april);
        told.File(5).ShouldBe("");
    }

    [Fact]
    public void By_payment_what_is_given_up_never_counts()
    {
        var told = new Teller(ByPayment)
            .Bill("A", Day(3, 5), 366_00, Tax(300_00, 66_00))
            .Set("A", "R", Day(3, 30), 122_00)
            .Less("W", Day(5, 15), 244_00, Tax(200_00, 44_00))
            .Set("A", "W", Day(5, 15), 244_00);
        told.File(3).ShouldBe("S VAT 22: 100.00 + 22.00");
        told.File(4).ShouldBe("");
        told.File(5).ShouldBe("");
    }

    [Fact]
    public void By_payment_a_receipt_that_the_bank_takes_back_counts_back_on_that_day()
    {
        var told = new Teller(ByPayment)
            .Bill("A", Day(3, 5), 122_00, Tax(100_00, 22_00))
            .Set("A", "R", Day(3, 30), 122_00, Day(4, 11));
        told.File(3).ShouldBe("S VAT 22: 100.00 + 22.00");
        told.File(4).ShouldBe("S VAT 22: -100.00 + -22.00");
    }

    [Fact]
    public void What_is_posted_into_a_filed_month_is_late_in_the_next_return()
    {
        var told = new Teller(ByInvoice)
            .Bill("A", Day(3, 5), 122_00, Tax(100_00, 22_00))
            .Post("B", 1, Day(3, 30), Day(4, 25), 61_00, [Tax(50_00, 11_00)])
            .Bill("D", Day(4, 2), 12_20, Tax(10_00, 2_20));
        told.File(3).ShouldBe("S VAT 22: 100.00 + 22.00");
        told.File(4).ShouldBe("S VAT 22: 60.00 + 13.20 | S VAT 22: 50.00 + 11.00");
        told.File(5).ShouldBe("");
    }

    /// <summary>5 % of 127.47 is 6.37; 10 % of 127.47 + 6.37 is 13.38. Each authority is told its own.</summary>
    [Fact]
    public void A_compound_tax_tells_what_it_is_on_with_the_taxes_before_it()
    {
        var nation = new Teller(ByInvoice).Bill("A", Day(3, 5), 147_22, Tax(127_47, 6_37, 5, component: "National"));
        var region = new Teller(ByInvoice).Bill("A", Day(3, 5), 147_22, Tax(133_84, 13_38, 10, component: "Regional"));
        nation.File(3).ShouldBe("S National 5: 127.47 + 6.37");
        region.File(3).ShouldBe("S Regional 10: 133.84 + 13.38");
    }

    [Fact]
    public void What_bears_no_tax_is_told_with_its_taxable_amount_and_abroad_never_by_payment()
    {
        (TaxKey, long, long)[] taxes =
        [
            Tax(70_00, 0, 0, TaxCategory.Zero),
            Tax(60_00, 0, 0, TaxCategory.ReverseCharge, "", Place.Union),
            Tax(50_00, 0, 0, TaxCategory.Export, "", Place.Abroad),
        ];
        new Teller(ByInvoice)
            .Bill("A", Day(3, 5), 180_00, taxes)
            .File(3)
            .ShouldBe("Z VAT 0: 70.00 + 0.00; AE  0: 60.00 + 0.00; G  0: 50.00 + 0.00");
        var paid = new Teller(ByPayment).Bill("A", Day(3, 5), 180_00, taxes).Set("A", "R", Day(4, 5), 180_00);
        paid.File(3).ShouldBe("AE  0: 60.00 + 0.00; G  0: 50.00 + 0.00");
        paid.File(4).ShouldBe("Z VAT 0: 70.00 + 0.00");
    }

    [Fact]
    public void From_by_payment_to_by_invoice_what_is_not_counted_yet_counts_on_the_first_day()
    {
        var rule = ByPayment with
        {
            Bases = [new(DateOnly.MinValue, TaxBasis.ByPayment), new(Day(4, 1), TaxBasis.ByInvoice)],
        };
        var told = new Teller(rule)
            .Bill("A", Day(3, 5), 244_00, Tax(200_00, 44_00))
            .Set("A", "R1", Day(3, 30), 61_00)
            .Bill("B", Day(4, 8), 12_20, Tax(10_00, 2_20))
            .Set("A", "R2", Day(5, 1), 183_00);
        told.File(3).ShouldBe("S VAT 22: 50.00 + 11.00");
        told.File(4).ShouldBe("S VAT 22: 160.00 + 35.20");
        told.File(5).ShouldBe("");
    }

    [Fact]
    public void From_by_invoice_to_by_payment_nothing_counts_again()
    {
        var rule = ByPayment with
        {
            Bases = [new(DateOnly.MinValue, TaxBasis.ByInvoice), new(Day(4, 1), TaxBasis.ByPayment)],
        };
        var told = new Teller(rule)
            .Bill("A", Day(3, 5), 244_00, Tax(200_00, 44_00))
            .Bill("B", Day(4, 8), 12_20, Tax(10_00, 2_20))
            .Set("A", "R", Day(5, 1), 244_00)
            .Set("B", "R", Day(5, 1), 12_20);
        told.File(3).ShouldBe("S VAT 22: 200.00 + 44.00");
        told.File(4).ShouldBe("");
        told.File(5).ShouldBe("S VAT 22: 10.00 + 2.20");
    }

    /// <summary>16.39 + 3.61 = 20.00 after cash rounding of 19.99: half of what is payable is half of the figures.</summary>
    [Fact]
    public void With_cash_rounding_what_is_payable_counts()
    {
        var told = new Teller(ByPayment)
            .Bill("A", Day(3, 5), 20_00, Tax(16_39, 3_60))
            .Set("A", "R1", Day(3, 5), 10_00)
            .Set("A", "R2", Day(4, 5), 10_00);
        told.File(3).ShouldBe("S VAT 22: 8.20 + 1.80");
        told.File(4).ShouldBe("S VAT 22: 8.19 + 1.80");
    }

    [Fact]
    public void What_is_not_paid_after_the_months_that_an_authority_allows_counts_then()
    {
        var told = new Teller(ByPayment with { MostMonths = 2 })
            .Bill("A", Day(3, 5), 122_00, Tax(100_00, 22_00))
            .Set("A", "R1", Day(3, 9), 61_00)
            .Set("A", "R2", Day(6, 1), 61_00);
        told.File(3).ShouldBe("S VAT 22: 50.00 + 11.00");
        told.File(4).ShouldBe("");
        told.File(5).ShouldBe("S VAT 22: 50.00 + 11.00");
        told.File(6).ShouldBe("");
    }

    [Fact]
    public void What_was_paid_as_deposit_altogether_counts_whole_on_its_tax_date() =>
        new Teller(ByPayment).Bill("A", Day(3, 5), 0, Tax(10_00, 2_20)).File(3).ShouldBe("S VAT 22: 10.00 + 2.20");

    [Fact]
    public void What_was_told_of_a_figure_that_is_gone_is_taken_back()
    {
        var key = Tax(0, 0).Item1;
        var rows = ReturnRows.Of(
            [],
            new Dictionary<int, (string, DateOnly, TaxKey, RowOrigin)>(),
            [new(7, Day(3, 5), key, "E", Day(3, 5), -30_00, -6_60)],
            Day(4, 1),
            Day(4, 30)
        );
        rows.ShouldBe([new(7, "E", Day(3, 5), Day(3, 5), key, 30_00, 6_60, true)]);
    }

    /// <summary>Whatever is paid and taken apart: a paid item has counted its figures, one that is not has counted nothing.</summary>
    [Fact]
    public void A_paid_item_has_counted_exactly_its_figures()
    {
        var figure = Gen.Select(Gen.Long[-900_00, 900_00], Gen.Long[-200_00, 200_00], Gen.Enum<Supply>());
        var part = Gen.Select(Gen.Long[1, 300_00], Gen.Int[0, 90], Gen.Int[0, 60]);
        Gen.Select(figure.Array[1, 4], part.Array[1, 6])
            .Sample(
                (figures, parts) =>
                {
                    var start = Day(3, 1);
                    var payable = parts.Sum(p => p.Item1);
                    var sets = parts
                        .SelectMany(p =>
                            new[]
                            {
                                // Set, taken apart again, and set for good.
                                new SetOn(start.AddDays(p.Item2), start.AddDays(p.Item2 + p.Item3), p.Item1),
                                new SetOn(start.AddDays(p.Item2 + p.Item3), null, p.Item1),
                            }
                        )
                        .ToList();
                    var toCount = figures
                        .Select(
                            (f, i) =>
                                new FigureToCount(
                                    i,
                                    start,
                                    new TaxKey(TaxCategory.Standard, "VAT", 22, Place.Home, f.Item3),
                                    f.Item1,
                                    f.Item2
                                )
                        )
                        .ToList();
                    foreach (var half in new[] { sets, [.. sets.Where(s => s.Until is not null)] })
                    {
                        var counted = TaxCounting.Of(toCount, payable, half, ByPayment);
                        foreach (var f in toCount)
                        {
                            var own = counted.Where(c => c.Figure == f.Id).ToList();
                            (own.Sum(c => c.Taxable), own.Sum(c => c.Tax)).ShouldBe(
                                half == sets ? (f.Taxable, f.Tax) : (0, 0)
                            );
                        }
                    }
                }
            );
    }

    /// <summary>In whatever order things are posted and months are filed, nothing is lost and nothing told twice.</summary>
    [Fact]
    public void All_returns_together_tell_all_that_counted()
    {
        var bill = Gen.Select(Gen.Int[0, 120], Gen.Int[0, 60], Gen.Long[1, 999_99], Gen.Bool, Gen.Int[0, 90]);
        Gen.Select(bill.Array[1, 12], Gen.Enum<TaxBasis>())
            .Sample(
                (bills, basis) =>
                {
                    var teller = new Teller(Rule(basis));
                    for (var i = 0; i < bills.Length; i++)
                    {
                        var (day, later, net, credit, paid) = bills[i];
                        var (date, tax) = (Day(3, 1).AddDays(day), net * 22 / 100);
                        teller.Post($"{i}", credit ? -1 : 1, date, date.AddDays(later), net + tax, [Tax(net, tax)]);
                        if (paid > 0)
                            teller.Set($"{i}", "R", date.AddDays(paid), net + tax);
                    }

                    for (var month = 3; month <= 11; month++)
                        teller.File(month);
                    var all = teller.Counts(Day(12, 31)).Where(c => c.Day <= Day(11, 30)).ToList();
                    teller.Told.ShouldBe((all.Sum(c => c.Taxable), all.Sum(c => c.Tax)));
                }
            );
    }
}
