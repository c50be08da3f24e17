using Jugaad.Core.Documents;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Making;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;

namespace Jugaad.Desk.Tests;

/// <summary>What the screens read, on books with one of everything.</summary>
public sealed class ScreenTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private Document _late = null!;
    private Document _open = null!;
    private Document _settled = null!;
    private Document _waiting = null!;
    private Document _accepted = null!;
    private int _draft;

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        _late = await _loft.IssuedAsync(_loft.Content(1, 10, date: Loft.Today.AddDays(-40)));
        _open = await _loft.IssuedAsync(_loft.Content(2, 10) with { PurchaseOrder = "50%_off" });
        _settled = await _loft.IssuedAsync(_loft.Content(3, 10));
        var item = await _loft.ItemOfAsync(_settled.Id);
        await _loft.ReceiveAsync(item.Amount + 700, (item.Id, item.Amount));
        _waiting = await _loft.IssuedAsync(
            _loft.Content(4, 10) with
            {
                ValidUntil = Loft.Today.AddDays(9),
            },
            DocumentKind.Quote
        );
        _accepted = await _loft.IssuedAsync(_loft.Content(5, 10), DocumentKind.Quote);
        await _loft.WithAsync<Quotes>(q => q.AnswerAsync(_accepted.Id, true));
        await _loft.IssuedAsync(_loft.Content(6, 100, _loft.Swede));
        _draft = await _loft.DraftAsync(_loft.Content(7, 10));
        await _loft.WithAsync<Drafts>(async d => await d.DiscardAsync(await _loft.DraftAsync(_loft.Content(8, 10))));
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private async Task<(
        List<string?> Numbers,
        IReadOnlyList<(Core.Amounts.Currency Currency, long Payable, long Open)> Sums
    )> ListAsync(DocumentKind? kind = null, string show = "", string search = "", string sort = "")
    {
        var filter = new DocumentFilter(kind, show, search, sort);
        var page = await _loft.WithAsync<SellScreens, Stretch<DocumentRow>>(s => s.ListAsync(filter, ListPlace.Start));
        var totals = await _loft.WithAsync<SellScreens, ListTotals>(s => s.TotalsAsync(filter));
        totals.Count.ShouldBe(page.Rows.Count);
        return (
            page.Rows.Select(r => r.Number).ToList(),
            [.. totals.Sums.Select(s => (s.Currency, s.Amounts["amount"], s.Amounts["open"]))]
        );
    }

    [Fact]
    public async Task The_list_shows_what_its_filter_says()
    {
        (await ListAsync()).Numbers.Count.ShouldBe(7);
        (await ListAsync(show: "drafts")).Numbers.ShouldBe([null]);
        (await ListAsync(DocumentKind.Quote)).Numbers.ShouldBe(["QUO-2025-0002", "QUO-2025-0001"]);
        (await ListAsync(DocumentKind.Quote, "waiting")).Numbers.ShouldBe([_waiting.Number]);
        (await ListAsync(DocumentKind.Quote, "accepted")).Numbers.ShouldBe([_accepted.Number]);
        (await ListAsync(DocumentKind.Invoice, "late")).Numbers.ShouldBe([_late.Number]);
        (await ListAsync(DocumentKind.Invoice, "settled")).Numbers.ShouldBe([_settled.Number]);
        (await ListAsync(DocumentKind.Invoice, "open")).Numbers.Count.ShouldBe(3);
    }

    [Theory]
    [InlineData("yard", 6)]
    [InlineData("varv", 1)]
    [InlineData("0002", 2)]
    [InlineData("50%_off", 1)]
    [InlineData("0%_", 1)]
    [InlineData("%_o", 1)]
    [InlineData("%", 0)]
    [InlineData("_", 0)]
    [InlineData("'; DROP TABLE Documents; --", 0)]
    public async Task A_search_is_taken_literally(string text, int found) =>
        (await ListAsync(search: text)).Numbers.Count.ShouldBe(found);

    [Theory]
    [InlineData("number")]
    [InlineData("customer")]
    [InlineData("date")]
    [InlineData("due")]
    [InlineData("amount")]
    public async Task A_sort_turned_round_is_the_other_way(string sort)
    {
        var up = (await ListAsync(DocumentKind.Invoice, "open", sort: sort)).Numbers;
        var down = (await ListAsync(DocumentKind.Invoice, "open", sort: "-" + sort)).Numbers;
        down.AsEnumerable().Reverse().ShouldBe(up);
    }

    [Fact]
    public async Task Sums_are_by_currency_and_of_all_that_is_shown()
    {
        var sums = (await ListAsync(DocumentKind.Invoice, "open")).Sums;
        sums.Select(s => (s.Currency.Code, s.Payable, s.Open))
            .ShouldBe([("EUR", 3_720, 3_720), ("SEK", 74_400, 74_400)]);
    }

    [Fact]
    public async Task The_day_sheet_puts_everything_in_its_turn()
    {
        var day = await _loft.WithAsync<DayScreens, DayView>(d => d.DayAsync());
        day.Accepted.Single().Id.ShouldBe(_accepted.Id);
        day.Waiting.Single().Id.ShouldBe(_waiting.Id);
        day.Drafts.Single().Id.ShouldBe(_draft);
        day.Unplaced.Single().Open.ShouldBe(700);
        day.Late.Single().Number.ShouldBe(_late.Number);
        await _loft.WithAsync<MakingDesk>(q => q.InvoiceAsync(_accepted.Id));
        (await _loft.WithAsync<DayScreens, DayView>(d => d.DayAsync())).Accepted.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_tally_counts_in_home_currency()
    {
        var tally = await _loft.WithAsync<DayScreens, Tally>(d => d.TallyAsync());
        (tally.Drafts, tally.CreditHome, tally.OverdueHome, tally.OverdueCount, tally.CalendarMoves).ShouldBe(
            (1, 700, 1_240, 1, false)
        );
        _loft.Clock.Advance(TimeSpan.FromDays(15));
        tally = await _loft.WithAsync<DayScreens, Tally>(d => d.TallyAsync());
        // 12.40 and 24.80, and 744.00 SEK at 0.0901.
        (tally.OverdueHome, tally.OverdueCount).ShouldBe((1_240 + 2_480 + 6_703, 3));
    }

    [Theory]
    [InlineData("yar", "customer", "Yard")]
    [InlineData("INV-2025-0002", "invoice", "INV-2025-0002")]
    [InlineData("24.80", "invoice", "INV-2025-0002")]
    [InlineData("RCT", "receipt", "RCT-2025-0001")]
    [InlineData("44.20", "receipt", "RCT-2025-0001")]
    public async Task The_jump_box_finds_by_name_number_and_amount(string text, string kind, string title) =>
        (await _loft.WithAsync<DayScreens, IReadOnlyList<JumpTarget>>(d => d.JumpAsync(text))).ShouldContain(t =>
            t.Kind == kind && t.Title == title
        );

    [Fact]
    public async Task The_margin_tells_where_a_document_came_from_what_paid_it_and_how_it_was_booked()
    {
        var invoice = await _loft.WithAsync<MakingDesk, int>(q => q.InvoiceAsync(_accepted.Id));
        var quote = (await _loft.WithAsync<SellScreens, MarginView?>(s => s.MarginAsync(_accepted.Id)))!;
        quote.Into.Single().Id.ShouldBe(invoice);
        quote.Booked.ShouldBeEmpty();
        var paid = (await _loft.WithAsync<SellScreens, MarginView?>(s => s.MarginAsync(_settled.Id)))!;
        (paid.PaidBy.Single().Number, paid.PaidBy.Single().Amount, paid.Item!.Open, paid.CustomerCredit).ShouldBe(
            ("RCT-2025-0001", 3_720, 0, 700)
        );
        paid.Booked.Select(b => (b.Account, b.Debit, b.Credit))
            .ShouldBe([("1200 Receivables", 3_720, 0), ("3000 Sales", 0, 3_000), ("2200 Tax owed", 0, 720)]);
        paid.Thread.Select(t => t.Text).ShouldContain("Invoice INV-2025-0003 issued");
        (await _loft.WithAsync<SellScreens, MarginView?>(s => s.MarginAsync(999))).ShouldBeNull();
    }

    [Fact]
    public async Task Customers_are_listed_with_what_they_owe_and_what_of_it_is_late()
    {
        var rows = (
            await _loft.WithAsync<AccountScreens, Stretch<CustomerRow>>(a =>
                a.CustomersAsync("", "-balance", ListPlace.Start)
            )
        ).Rows;
        rows.Select(r => (r.Name, r.Balance, r.Late)).ShouldBe([("Varv", 74_400, 0), ("Yard", 3_020, 1_240)]);
        (
            await _loft.WithAsync<AccountScreens, Stretch<CustomerRow>>(a =>
                a.CustomersAsync("slip.example", "name", ListPlace.Start)
            )
        ).Rows.Count.ShouldBe(2);
    }

    [Fact]
    public async Task Movement_runs_to_the_balance_over_pages()
    {
        for (var i = 0; i < 45; i++)
            await _loft.ReceiveAsync(100 + i);
        var first = (await _loft.WithAsync<AccountScreens, AccountView?>(a => a.AccountAsync(_loft.Yard, 1)))!;
        var second = (await _loft.WithAsync<AccountScreens, AccountView?>(a => a.AccountAsync(_loft.Yard, 2)))!;
        first.Movement.Rows[0].Running.ShouldBe(first.Balance);
        var last = first.Movement.Rows[^1];
        second.Movement.Rows[0].Running.ShouldBe(last.Running - (last.Raises ? last.Amount : -last.Amount));
        second.Movement.Rows[^1].Running.ShouldBe(second.Movement.Rows[^1].Amount);
        (first.Movement.Total, first.Movement.Last).ShouldBe((49, 2));
    }

    [Fact]
    public async Task Receipts_are_found_by_what_the_payer_wrote()
    {
        await _loft.WithAsync<Receipts>(r =>
            r.PostAsync(new ReceiptToPost(_loft.Yard, Loft.Today, _loft.Bank, 5, "for the boat", []))
        );
        async Task<int> Found(bool unplaced, string search) =>
            (
                await _loft.WithAsync<ReceiveScreens, ListTotals>(r =>
                    r.TotalsAsync(new ReceiptFilter(unplaced, search, ""))
                )
            ).Count;
        (await Found(false, "boat")).ShouldBe(1);
        (await Found(true, "")).ShouldBe(2);
        (await Found(false, "nothing")).ShouldBe(0);
    }

    [Fact]
    public async Task Items_are_found_by_barcode_and_listed_with_their_account()
    {
        await _loft.WithAsync<ItemsDesk>(i =>
            i.SaveAsync(
                null,
                0,
                new Core.Trade.ItemDetails
                {
                    Code = "N",
                    Name = "Needle",
                    Barcode = "4740010000015",
                    Price = 3.5m,
                    TaxCodeId = _loft.Std,
                    LedgerAccountId = _loft.Sales,
                }
            )
        );
        var row = (
            await _loft.WithAsync<ItemScreens, Stretch<ItemRow>>(i => i.ListAsync("4740010000015", "", ListPlace.Start))
        ).Rows.Single();
        (row.Name, row.Account, row.TaxCode, row.Price).ShouldBe(("Needle", "3000 Sales", "STD", 3.5m));
    }
}
