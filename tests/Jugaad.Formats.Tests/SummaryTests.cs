using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Formats.EInvoices;

namespace Jugaad.Formats.Tests;

/// <summary>Many small sales in one e-invoice.</summary>
public sealed class SummaryTests
{
    private static SalesSummary Made(SummaryToMake one) =>
        new(1, "SUM-2025-0001", one.Until, one, one.Documents[0].Sender!, one.Documents[0].Addressee!);

    internal static EInvoice Told(SummaryToMake one) => SummaryMaker.Of(Made(one), one.Documents, []);

    private static List<Document> Sales(Random random, int count)
    {
        var sales = new List<Document>();
        while (sales.Count < count)
        {
            Document document;
            try
            {
                document = EInvoiceSamples.Random(random, new DateOnly(2025, random.Next(7, 9), random.Next(1, 5)));
            }
            catch (Core.RefusalException)
            {
                continue;
            }

            if (
                document.Kind != DocumentKind.DebitNote
                && document.Currency.Equals(EInvoiceSamples.Eur)
                && SummaryCut.ProblemOf(document) is null
                // Nobody in particular has no tax number to leave the tax to.
                && document.Taxes.All(t => t.Tax != 0 || t.Treatment.StartsWith('S'))
            )
                sales.Add(document);
        }

        return sales;
    }

    [Fact]
    public void Of_any_sales_each_is_told_once_it_adds_up_and_no_rule_is_broken()
    {
        var random = new Random(11);
        var cuts = 0;
        for (var n = 0; n < 60; n++)
        {
            var sales = Sales(random, random.Next(1, 60));
            var cut = SummaryCut.Of(sales, random.Next(2) == 0 ? SummaryPeriod.Day : SummaryPeriod.Month);
            cut.SelectMany(c => c.Documents).ShouldBe(sales, ignoreOrder: true);
            (cut.Sum(c => c.Net), cut.Sum(c => c.Tax), cut.Sum(c => c.Payable)).ShouldBe(
                (sales.Sum(s => s.Net), sales.Sum(s => s.Tax), sales.Sum(s => s.Payable))
            );
            foreach (var one in cut)
            {
                cuts++;
                one.Documents.ShouldAllBe(d => d.Date >= one.From && d.Date <= one.Until);
                one.Documents.ShouldAllBe(d =>
                    (d.Kind == DocumentKind.CreditNote) == (one.Kind == SummaryKind.Returns)
                );
                var told = Told(one);
                EInvoiceCheck.Of(told).ShouldBeEmpty();
                told.Totals.WithTax.ShouldBe(new Money(one.Total, EInvoiceSamples.Eur).Units);
                told.Totals.Paid.ShouldBe(new Money(one.Payable, EInvoiceSamples.Eur).Units);
                told.Totals.Payable.ShouldBe(0);
                foreach (var syntax in Enum.GetValues<EInvoiceSyntax>())
                {
                    var read = EInvoiceFiles.Read(EInvoiceFiles.Write(told, syntax)).Invoice;
                    EInvoiceCheck.Of(read).ShouldBeEmpty();
                    read.Lines.Select(l => l.Net).ShouldBe(told.Lines.Select(l => l.Net));
                }
            }
        }

        cuts.ShouldBeGreaterThan(80);
    }

    [Fact]
    public void Sales_that_all_round_the_same_way_are_cut_before_the_tax_is_a_whole_unit_off()
    {
        // 0.99 with 24 % of tax in it: 0.80 without it, so 0.19 of tax where the rate gives 0.192.
        var sales = Enumerable.Range(0, 1_200).Select(_ => EInvoiceSamples.Sale(0.99m)).ToList();
        sales.ShouldAllBe(s => s.Tax == 19 && s.Net == 80);
        var cut = SummaryCut.Of(sales, SummaryPeriod.Month);
        cut.Select(c => c.Documents.Count).ShouldBe([500, 500, 200]);
        cut.ShouldAllBe(c => !EInvoiceCheck.Of(Told(c)).Any());
    }

    [Fact]
    public void A_returned_lot_is_a_credit_note_that_names_what_it_is_on()
    {
        var random = new Random(3);
        var back = Sales(random, 40).Where(d => d.Kind == DocumentKind.CreditNote).ToList();
        var one = SummaryCut.Of(back, SummaryPeriod.Month)[0];
        var told = SummaryMaker.Of(Made(one), one.Documents, [new PrecedingInvoice("SUM-2025-0001", one.From)]);
        (told.TypeCode, told.Preceding[0].Number).ShouldBe(("381", "SUM-2025-0001"));
        EInvoiceCheck.Of(told).ShouldBeEmpty();
    }

    [Fact]
    public void It_is_taken_back_once_and_with_a_reason()
    {
        var made = Made(SummaryCut.Of([EInvoiceSamples.Sale(5)], SummaryPeriod.Day)[0]);
        Should.Throw<Core.RefusalException>(() => made.Dissolve(made.Date, " ")).Refusals[0].Field.ShouldBe("reason");
        made.Stands.ShouldBeTrue();
        made.Dissolve(made.Date, "wrong days");
        (made.Stands, made.Sales[0].Counts).ShouldBe((false, false));
        Should.Throw<Core.RefusalException>(() => made.Dissolve(made.Date, "again"));
    }
}
