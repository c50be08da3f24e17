using System.Text;
using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Layouts;
using Jugaad.Core.Returns;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>
/// An authority that wants tax at a rate of its own. By hand: 1000.00 SEK and 240.00 of tax at the document's 0.0901 are
/// 111.72, of which 21.62 tax; at the authority's 0.0850 the tax is 20.40 on 85.00, and 1.22 is a gain.
/// </summary>
public sealed class AuthorityRatesTests : IAsyncLifetime
{
    private static readonly DateOnly First = new(2025, 9, 1);
    private static readonly QuotedRate Own = new(0.0850m, false);
    private Loft _loft = null!;
    private int _authority;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _authority = await _loft.WithAsync<BooksContext, int>(db => db.TaxAuthorities.Select(a => a.Id).FirstAsync());
        await SetAsync(true);
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private Task SetAsync(bool own, int? days = null) =>
        _loft.WithAsync<TaxDesk>(async desk =>
        {
            var now = await _loft.WithAsync<BooksContext, TaxAuthority>(db =>
                db.TaxAuthorities.SingleAsync(a => a.Id == _authority)
            );
            await desk.SaveAuthorityAsync(_authority, now.Details() with { HasOwnRates = own, OwnRateDays = days });
        });

    private Task<int> RateAsync(QuotedRate rate, DateOnly? from = null, bool evenIfOff = true) =>
        _loft.WithAsync<AuthorityRatesDesk, int>(d => d.EnterAsync(_authority, "SEK", from ?? First, rate, evenIfOff));

    private Task<Document> InvoiceAsync() => _loft.IssuedAsync(_loft.Content(10, 100, _loft.Swede));

    private Task<int> IssueAsync(int draft) => _loft.WithAsync<IssuingDesk, int>(i => i.IssueAsync(draft, 1));

    /// <summary>What the journal comes to by role; of one document, or of all.</summary>
    private async Task<IReadOnlyDictionary<string, long>> BookedAsync(int? document = null) =>
        (
            await _loft.WithAsync<BooksContext, List<(string Code, long Amount)>>(async db =>
                [
                    .. (
                        await db
                            .Journal.Where(e => document == null || e.DocumentId == document)
                            .SelectMany(e => e.Lines)
                            .Join(
                                db.LedgerAccounts,
                                l => l.AccountId,
                                a => a.Id,
                                (l, a) => new { a.Role, Amount = l.Debit - l.Credit }
                            )
                            .ToListAsync()
                    ).Select(l => ($"{l.Role}", l.Amount)),
                ]
            )
        )
            .GroupBy(l => l.Code)
            .ToDictionary(g => g.Key, g => g.Sum(l => l.Amount));

    private Task<Document> WholeAsync(int id) =>
        _loft.WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking().Include(d => d.Lines).Include(d => d.Taxes).SingleAsync(d => d.Id == id)
        );

    private async Task<QuotedRate?> ToldAsync(int document) => (await WholeAsync(document)).Taxes.Single().ToldRate;

    private Task<List<TaxFigure>> FiguresAsync() =>
        _loft.WithAsync<BooksContext, List<TaxFigure>>(db => db.TaxFigures.OrderBy(f => f.Id).ToListAsync());

    [Fact]
    public async Task The_tax_is_told_and_posted_at_it_and_the_difference_is_a_gain()
    {
        await RateAsync(Own);
        var invoice = await InvoiceAsync();
        (await ToldAsync(invoice.Id)).ShouldBe(Own);
        var booked = await BookedAsync(invoice.Id);
        booked["Receivables"].ShouldBe(111_72);
        booked["TaxOwed"].ShouldBe(-20_40);
        booked["ExchangeDifferences"].ShouldBe(-1_22);
        booked.Values.Sum().ShouldBe(0);
        var told = (await FiguresAsync()).Single();
        (told.Taxable, told.Tax).ShouldBe((85_00, 20_40));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        var report = await _loft.WithAsync<ExchangeReports, Report>(r => r.DifferencesAsync(First, Loft.Today));
        var row = report.Rows.Single().Cells;
        (row[4], row[5]).ShouldBe(((object)"SEK", (object)"tax at the authority's rate"));
        ((Money)row[7]!).Minor.ShouldBe(1_22);
    }

    [Fact]
    public async Task The_paper_tells_the_tax_at_home_and_at_which_rate()
    {
        await RateAsync(Own);
        var invoice = await InvoiceAsync();
        var text = string.Join(
            '\n',
            (await _loft.WithAsync<PaperRoom, DisplayList>(p => p.ComposeAsync(invoice.Id)))
                .Pages.SelectMany(p => p.Marks)
                .OfType<TextMark>()
                .Select(t => t.Text)
        );
        text.ShouldContain("20.40");
        text.ShouldContain("0.085");
        text.ShouldNotContain("21.62");
    }

    [Fact]
    public async Task What_corrects_it_takes_the_rate_of_what_it_corrects()
    {
        await RateAsync(Own);
        var invoice = await InvoiceAsync();
        await RateAsync(new QuotedRate(0.0990m, false), Loft.Today);
        var note = await _loft.DocumentAsync(
            await _loft.WithAsync<Credits, int>(c => c.CancelAsync(invoice.Id, "wrong"))
        );
        (await ToldAsync(note.Id)).ShouldBe(Own);
        (await BookedAsync()).Values.ShouldAllBe(v => v == 0);
        (await FiguresAsync()).Sum(f => f.Tax).ShouldBe(0);
        (await FiguresAsync()).Sum(f => f.Taxable).ShouldBe(0);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_debt_given_up_takes_its_tax_away_at_it_and_what_comes_back_brings_it_back()
    {
        await RateAsync(Own);
        var item = await _loft.ItemOfAsync((await InvoiceAsync()).Id);
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, 620_00, "gone"));
        (await FiguresAsync()).Sum(f => f.Tax).ShouldBe(10_20);
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
        await _loft.WithAsync<Settlements>(s => s.WriteOffAsync(item.Id, null, "gone"));
        var all = await BookedAsync();
        (all["TaxOwed"], all["ExchangeDifferences"], all["Receivables"]).ShouldBe((0, 0, 0));
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Without_a_rate_that_holds_nothing_is_issued_and_the_draft_is_warned()
    {
        var draft = await _loft.DraftAsync(_loft.Content(10, 100, _loft.Swede));
        var document = await WholeAsync(draft);
        (await _loft.WithAsync<DraftWarnings, IReadOnlyList<Refusal>>(w => w.OfAsync(document, draft)))
            .Select(w => w.Message)
            .ShouldContain(m => m.Contains("wants tax at its own rate", StringComparison.Ordinal));
        var refused = await _loft.RefusedAsync(() => IssueAsync(draft));
        refused.Message.ShouldContain("there is none for SEK on 2025-09-17");
        await RateAsync(Own);
        await SetAsync(true, 10);
        (await _loft.RefusedAsync(() => IssueAsync(draft))).Message.ShouldContain("no older than 10 days");
        await SetAsync(true, 16);
        (await ToldAsync((await InvoiceAsync()).Id)).ShouldBe(Own);
    }

    [Fact]
    public async Task A_rate_that_changed_since_the_draft_was_saved_is_not_issued_unseen()
    {
        await RateAsync(Own);
        var draft = await _loft.DraftAsync(_loft.Content(10, 100, _loft.Swede));
        (await ToldAsync(draft)).ShouldBe(Own);
        await RateAsync(new QuotedRate(0.0860m, false));
        (await _loft.RefusedAsync(() => IssueAsync(draft))).Message.ShouldContain("changed since this draft was saved");
    }

    [Fact]
    public async Task A_document_at_home_and_one_of_before_are_told_as_ever()
    {
        await SetAsync(false);
        var before = await InvoiceAsync();
        (await ToldAsync(before.Id)).ShouldBeNull();
        await SetAsync(true);
        await RateAsync(Own);
        (await ToldAsync((await _loft.IssuedAsync()).Id)).ShouldBeNull();
        // Its correction is told as it was.
        var note = await _loft.DocumentAsync(
            await _loft.WithAsync<Credits, int>(c => c.CancelAsync(before.Id, "wrong"))
        );
        (await ToldAsync(note.Id)).ShouldBeNull();
        (await _loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_rate_far_off_is_asked_and_one_that_was_typed_stays_when_a_file_comes()
    {
        await RateAsync(Own);
        (
            await _loft.RefusedAsync(() => RateAsync(new QuotedRate(0.85m, false), Loft.Today, evenIfOff: false))
        ).Field.ShouldBe("evenIfOff");
        var count = await _loft.WithAsync<AuthorityRatesDesk, int>(d =>
            d.TakeAsync(
                _authority,
                Encoding.UTF8.GetBytes("day,currency,rate\n2025-09-01,SEK,0.0999\n2025-08-01,SEK,0.0877\n"),
                "august.csv"
            )
        );
        count.ShouldBe(1);
        var rates = await _loft.WithAsync<AuthorityRatesDesk, IReadOnlyList<AuthorityRate>>(d => d.OfAsync(_authority));
        rates
            .Select(r => (r.From, r.Rate.Figure, r.Source))
            .ShouldBe([(First, 0.0850m, ""), (new(2025, 8, 1), 0.0877m, "august.csv")]);
        await _loft.WithAsync<AuthorityRatesDesk, int>(d => d.RemoveAsync(rates[0].Id));
        (await _loft.RefusedAsync(() => RateAsync(new QuotedRate(0, false)))).Field.ShouldBe("rate");
        (
            await _loft.RefusedAsync(() =>
                _loft.WithAsync<AuthorityRatesDesk, int>(d => d.EnterAsync(_authority, "EUR", First, Own))
            )
        ).Field.ShouldBe("currency");
    }

    [Fact]
    public async Task Check_finds_a_tax_that_is_told_at_another_rate_than_it_was_posted()
    {
        await RateAsync(Own);
        var invoice = await InvoiceAsync();
        await _loft.ExecuteAsync($"UPDATE DocumentTax SET ToldRate = '0.0990' WHERE DocumentId = {invoice.Id}");
        (await _loft.CheckAsync()).Differences.ShouldContain(d =>
            d.Contains(invoice.Number!, StringComparison.Ordinal)
        );
        await _loft.ExecuteAsync($"UPDATE DocumentTax SET ToldRate = NULL WHERE DocumentId = {invoice.Id}");
        (await _loft.CheckAsync()).Differences.ShouldContain(d =>
            d.Contains(invoice.Number!, StringComparison.Ordinal)
        );
    }
}
