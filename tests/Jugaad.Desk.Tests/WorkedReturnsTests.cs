using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Twenty papers of three months with their money, worked out by hand: VAT of 24 %, 30 % from September, told to the
/// board; a levy of 5 %, in the code BOTH on top of net and VAT, told to the harbour office by payment.
/// </summary>
public sealed class WorkedReturnsTests : IAsyncLifetime
{
    private readonly Dictionary<string, AccountItem> _items = [];
    private Loft _loft = null!;
    private int _both;
    private int _levy;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.ExecuteAsync("UPDATE Customers SET CreditLimit = NULL");
        var office = await _loft.WithAsync<TaxDesk, int>(t =>
            t.SaveAuthorityAsync(null, new AuthorityDetails { Name = "Office", Basis = TaxBasis.ByPayment })
        );
        await _loft.WithAsync<TaxDesk>(async t =>
        {
            await t.SaveComponentAsync(null, "Levy", office);
            await t.AddRateAsync("Levy", new DateOnly(2020, 1, 1), 5);
            await t.AddRateAsync("VAT", new DateOnly(2025, 9, 1), 30);
            _levy = await t.AddCodeAsync(new("LEVY", "Levy", TaxCategory.Standard, "", [("Levy", false)]));
            _both = await t.AddCodeAsync(
                new("BOTH", "VAT and levy", TaxCategory.Standard, "", [("VAT", false), ("Levy", true)])
            );
        });
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private async Task PaperAsync(
        string name,
        DateOnly day,
        decimal net,
        int code,
        long payable,
        DocumentKind kind = DocumentKind.Invoice,
        DateOnly? taxDate = null
    )
    {
        var content = _loft.Content(1, net, date: day);
        var paper = await _loft.IssuedAsync(
            content with
            {
                TaxDate = taxDate,
                Lines = [content.Lines[0] with { TaxCodeId = code }],
                Particulars = kind == DocumentKind.Invoice ? Particulars.None : new Particulars { Reason = "agreed" },
            },
            kind
        );
        paper.Payable.ShouldBe(payable, name);
        _items[name] = await _loft.ItemOfAsync(paper.Id);
    }

    private Task PayAsync(DateOnly day, string name, long amount) =>
        _loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, day, _loft.Bank, amount, "", [(_items[name].Id, amount)]))
        );

    private async Task TradeAsync()
    {
        static DateOnly July(int day) => new(2025, 7, day);
        static DateOnly August(int day) => new(2025, 8, day);
        static DateOnly September(int day) => new(2025, 9, day);
        var vat = _loft.Std;
        await PaperAsync("1", July(1), 100, vat, 124_00);
        await PaperAsync("2", July(2), 50, vat, 62_00);
        // 200 + 48.00 VAT; the levy is 5 % of 248.00.
        await PaperAsync("3", July(3), 200, _both, 260_40);
        await PaperAsync("4", July(5), 80, _levy, 84_00);
        await PaperAsync("5", July(10), 30, vat, 37_20, DocumentKind.CreditNote);
        await PayAsync(July(15), "1", 62_00);
        await PaperAsync("6", July(20), 10, vat, 12_40);
        await PayAsync(July(25), "3", 130_20);
        await PaperAsync("7", August(1), 300, vat, 372_00);
        // 40 + 9.60; 5 % of 49.60.
        await PaperAsync("8", August(4), 40, _both, 52_08);
        await PaperAsync("9", August(5), 60, _levy, 63_00);
        await PayAsync(August(10), "1", 62_00);
        await PaperAsync("10", August(12), 25, vat, 31_00);
        await PaperAsync("11", August(15), 20, _levy, 21_00, DocumentKind.CreditNote);
        await PayAsync(August(20), "4", 84_00);
        await PayAsync(August(20), "7", 124_00);
        await PaperAsync("12", August(28), 70, vat, 86_80);
        await PaperAsync("13", September(1), 100, vat, 130_00);
        // Delivered in August: at August's rate, and told in August.
        await PaperAsync("14", September(2), 100, vat, 124_00, taxDate: August(30));
        // 40 + 12.00; 5 % of 52.00.
        await PaperAsync("15", September(3), 40, _both, 54_60);
        await PaperAsync("16", September(5), 10, vat, 13_00, DocumentKind.CreditNote);
        await PaperAsync("17", September(8), 20, _levy, 21_00);
        // 30 % of 33.33 is 9.999.
        await PaperAsync("18", September(10), 33.33m, vat, 43_33);
        await PayAsync(September(10), "9", 63_00);
        await PayAsync(September(10), "13", 130_00);
        await PaperAsync("19", September(12), 15, vat, 19_50, DocumentKind.DebitNote);
        await PaperAsync("20", September(15), 5, _levy, 5_25);
        // Both on the 17th: one with its tax taken back, one whose tax stays owed.
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(_items["10"].Id, null, "gone"));
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(_items["6"].Id, null, "gone", lowersTax: false));
    }

    private async Task<string> FiledAsync(string authority, int month)
    {
        var whom = await _loft.WithAsync<TaxReturns, TaxAuthority>(r => r.AuthorityAsync(authority));
        var first = new DateOnly(2025, month, 1);
        var last = first.AddMonths(1).AddDays(-1);
        var then = await _loft.WithAsync<TaxReturns, ReturnThen>(r => r.ComputeAsync(whom, first, last));
        if (month < 9)
            await _loft.WithAsync<ReturnFiling>(f => f.FileAsync(new ReturnToFile(whom.Id, first, last, then.Tax, "")));
        return string.Join(
            ", ",
            then.Summary.Select(s =>
                $"{Core.Amounts.PlainDecimal.Text(s.Percent)}: {new Core.Amounts.Money(s.Taxable, then.Home)} + {new Core.Amounts.Money(s.Tax, then.Home)}"
            )
        );
    }

    private Task<Dictionary<string, long>> StandAsync() =>
        _loft.WithAsync<BooksContext, Dictionary<string, long>>(db =>
            (
                from line in db.Set<JournalLine>()
                join account in db.LedgerAccounts on line.AccountId equals account.Id
                where account.Role == AccountRole.TaxOwed || account.Role == AccountRole.TaxNotDue
                group line by account.Name into one
                select new { one.Key, Amount = one.Sum(l => l.Credit - l.Debit) }
            ).ToDictionaryAsync(a => a.Key, a => a.Amount)
        );

    /// <summary>
    /// July: 100 + 50 + 200 − 30 + 10 = 330; 24.00 + 12.00 + 48.00 − 7.20 + 2.40 = 79.20.
    /// August: 300 + 40 + 25 + 70 + 100 (paper 14) = 535; 72.00 + 9.60 + 6.00 + 16.80 + 24.00 = 128.40.
    /// September at 30 %: 100 + 40 − 10 + 33.33 + 15 = 178.33; 30.00 + 12.00 − 3.00 + 10.00 + 4.50 = 53.50; at 24 % paper
    /// 10 is given up: −25 and −6.00.
    /// The levy: July half of paper 3 (124.00 of 248.00, 6.20 of 12.40); August paper 4; September paper 9.
    /// Not due: 12.40 + 4.00 + 2.48 + 3.00 − 1.00 + 2.60 + 1.00 + 0.25 = 24.73, less 13.20 that counted: 11.53.
    /// </summary>
    [Fact]
    public async Task By_invoice_and_the_levy_by_payment()
    {
        await TradeAsync();
        (await FiledAsync("Tax office", 7)).ShouldBe("24: 330.00 + 79.20");
        (await FiledAsync("Tax office", 8)).ShouldBe("24: 535.00 + 128.40");
        (await FiledAsync("Tax office", 9)).ShouldBe("30: 178.33 + 53.50, 24: -25.00 + -6.00");
        (await FiledAsync("Office", 7)).ShouldBe("5: 124.00 + 6.20");
        (await FiledAsync("Office", 8)).ShouldBe("5: 80.00 + 4.00");
        (await FiledAsync("Office", 9)).ShouldBe("5: 60.00 + 3.00");
        var stand = await StandAsync();
        stand["Tax owed"].ShouldBe(255_10);
        stand["Tax owed, Office"].ShouldBe(13_20);
        stand["Tax not due yet, Office"].ShouldBe(11_53);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    /// <summary>
    /// July: half of paper 1 (50 and 12.00), half of paper 3 (100 and 24.00).
    /// August: the rest of paper 1 (50 and 12.00), a third of paper 7 (100 and 24.00).
    /// September at 30 %: paper 13. At 24 %: paper 10 counts with what is taken off it, which is nothing; paper 6 counts,
    /// as its tax stays owed: 10 and 2.40.
    /// All VAT: 79.20 + 128.40 + 53.50 − 6.00 = 255.10, of which 36.00 + 36.00 + 32.40 = 104.40 counted.
    /// </summary>
    [Fact]
    public async Task By_payment_to_both()
    {
        var board = await _loft.WithAsync<TaxReturns, TaxAuthority>(r => r.AuthorityAsync("Tax office"));
        await _loft.WithAsync<TaxDesk>(t =>
            t.SaveAuthorityAsync(board.Id, board.Details() with { Basis = TaxBasis.ByPayment })
        );
        await TradeAsync();
        (await FiledAsync("Tax office", 7)).ShouldBe("24: 150.00 + 36.00");
        (await FiledAsync("Tax office", 8)).ShouldBe("24: 150.00 + 36.00");
        (await FiledAsync("Tax office", 9)).ShouldBe("30: 100.00 + 30.00, 24: 10.00 + 2.40");
        (await FiledAsync("Office", 7)).ShouldBe("5: 124.00 + 6.20");
        var stand = await StandAsync();
        stand["Tax owed"].ShouldBe(104_40);
        stand["Tax not due yet, Tax office"].ShouldBe(150_70);
        stand["Tax owed, Office"].ShouldBe(13_20);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    /// <summary>
    /// Net 100, VAT 24.00, the levy 5 % of 124.00 = 6.20: 130.20. 2 % of that is 2.60, of which VAT 24.00/130.20 = 0.48,
    /// the levy 6.20/130.20 = 0.12, and net 2.00. Told: VAT on 98.00 = 23.52; the levy on 124.00 − 2.48 = 121.52, 6.08.
    /// The second one is paid late and in full: 200.00 and 48.00.
    /// </summary>
    [Fact]
    public async Task A_discount_for_paying_early_takes_its_taxes_off_both_returns()
    {
        var terms = await _loft.WithAsync<BooksContext, int>(async db =>
        {
            var early = new PaymentTerms("30 days, 2 % in 10", DueRule.DaysAfter, 30, earlyPercent: 2, earlyDays: 10);
            db.Terms.Add(early);
            await db.SaveChangesAsync();
            return early.Id;
        });
        async Task<AccountItem> BillAsync(decimal net, int code)
        {
            var content = _loft.Content(1, net, date: new DateOnly(2025, 7, 1));
            var paper = await _loft.IssuedAsync(
                content with
                {
                    TermsId = terms,
                    Lines = [content.Lines[0] with { TaxCodeId = code }],
                }
            );
            return await _loft.ItemOfAsync(paper.Id);
        }

        var (first, second) = (await BillAsync(100, _both), await BillAsync(200, _loft.Std));
        await _loft.WithAsync<Receipts>(r =>
            r.PostAsync(
                new ReceiptToPost(_loft.Yard, new(2025, 7, 8), _loft.Bank, 127_60, "", [(first.Id, 127_60)])
                {
                    Early = [(first.Id, "")],
                }
            )
        );
        await _loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, new(2025, 8, 5), _loft.Bank, 248_00, "", [(second.Id, 248_00)]))
        );
        (await FiledAsync("Tax office", 7)).ShouldBe("24: 298.00 + 71.52");
        (await FiledAsync("Office", 7)).ShouldBe("5: 121.52 + 6.08");
        (await FiledAsync("Tax office", 8)).ShouldBe("");
        (await _loft.ItemOfAsync(first.DocumentId!.Value)).Open.ShouldBe(0);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }
}
