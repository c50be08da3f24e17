using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Sales at the counter told together, each once; and one that is invoiced by name later.</summary>
public sealed class SalesSummariesTests : IAsyncLifetime
{
    private Loft _loft = null!;
    private int _cash;
    private int _card;

    private static DateOnly First => new(Loft.Today.Year, Loft.Today.Month, 1);

    public async Task InitializeAsync()
    {
        _loft = await Loft.OpenAsync();
        await _loft.BeTheDemoAsync();
        await _loft.ExecuteAsync(
            "UPDATE Businesses SET TaxNumber = 'EE101188342', CashStep = 5, Electronic_Scheme = '0191', Electronic_Value = '14730926'"
        );
        (_cash, _card) = await _loft.WithAsync<BooksContext, (int, int)>(async db =>
            (
                (await db.LedgerAccounts.SingleAsync(a => a.Code == "1010")).Id,
                (await db.LedgerAccounts.SingleAsync(a => a.Code == "1020")).Id
            )
        );
    }

    public async Task DisposeAsync() => await _loft.DisposeAsync();

    private async Task<Document> SellAsync(decimal price, params CounterPart[] parts) =>
        await _loft.DocumentAsync(
            await _loft.WithAsync<CounterSales, int>(c =>
                c.SellAsync(
                    new CounterSale(
                        null,
                        new DraftContent
                        {
                            Date = Loft.Today,
                            PricesIncludeTax = true,
                            Lines =
                            [
                                new DraftLine(null, "Shackle", 1, "H87", price, null, null, _loft.Std, _loft.Sales),
                            ],
                        },
                        parts.Length > 0 ? parts : [new CounterPart(_cash, null)],
                        null,
                        false
                    )
                )
            )
        );

    private async Task TakeBackAsync(Document sale)
    {
        var line = await _loft.WithAsync<BooksContext, int>(db =>
            db.Set<DocumentLine>().Where(l => l.DocumentId == sale.Id).Select(l => l.Id).SingleAsync()
        );
        await _loft.WithAsync<CounterReturns, int>(r =>
            r.TakeBackAsync(
                new CounterReturn(sale.Id, new Dictionary<int, decimal> { [line] = 1 }, "Bent", false, _cash)
            )
        );
    }

    private Task DayAsync(DateOnly day) => _loft.ExecuteAsync($"UPDATE Businesses SET PinnedDay = '{day:yyyy-MM-dd}'");

    private Task<int> GatherAsync(SummaryPeriod period = SummaryPeriod.Month, string? key = null) =>
        _loft.WithAsync<SalesSummaries, int>(s => s.GatherAsync(First, Loft.Today, period, key));

    private Task<SummaryPlan> PlanAsync() =>
        _loft.WithAsync<SalesSummaries, SummaryPlan>(s => s.PlanAsync(First, Loft.Today, SummaryPeriod.Month));

    private Task<EInvoice> ToldAsync(string number) =>
        _loft.WithAsync<EInvoices, EInvoice>(async e => (await e.OfAsync(number)).Invoice);

    private Task ReachedAsync() =>
        _loft.ExecuteAsync(
            "UPDATE Customers SET Electronic_Scheme = '0191', Electronic_Value = '10118834', Takes = 'EInvoice' WHERE Code = 'COUNTER'"
        );

    private Task<int> SendAsync(int id, string? key = null) =>
        _loft.WithAsync<SalesSummaries, int>(s => s.SendAsync(id, key));

    private async Task HealthyAsync() => (await _loft.CheckAsync()).Differences.ShouldBeEmpty();

    private static async Task<string> RefusedAsync(Func<Task> work) =>
        (await Should.ThrowAsync<RefusalException>(work)).Message;

    [Fact]
    public async Task A_month_is_one_e_invoice_each_sale_is_in_it_once_and_nothing_is_posted()
    {
        var first = await SellAsync(12.37m);
        var second = await SellAsync(30.02m, new CounterPart(_card, 2_000), new CounterPart(_cash, null));
        var named = await _loft.IssuedAsync();
        var journal = await _loft.NumberAsync("SELECT COUNT(*) FROM JournalLines");
        (await GatherAsync(key: "form")).ShouldBe(1);
        (await GatherAsync(key: "form")).ShouldBe(1);
        (await RefusedAsync(() => GatherAsync())).ShouldContain("No sale");
        (await _loft.NumberAsync("SELECT COUNT(*) FROM JournalLines")).ShouldBe(journal);

        var told = await ToldAsync("SUM-2025-0001");
        (told.TypeCode, told.Totals.WithTax, told.Totals.Paid, told.Totals.Rounding, told.Totals.Payable).ShouldBe(
            ("380", 42.39m, 42.35m, -0.04m, 0m)
        );
        told.Lines.Select(l => l.Name).ShouldBe([first.Number!, second.Number!]);
        told.Lines.ShouldNotContain(l => l.Name == named.Number);
        told.Period.ShouldBe(new Period(First, First.AddMonths(1).AddDays(-1)));
        EInvoiceCheck.Of(told).ShouldBeEmpty();
        await HealthyAsync();

        // Sold later in the month, it goes into another.
        await SellAsync(5);
        (await GatherAsync()).ShouldBe(1);
        (await ToldAsync("SUM-2025-0002")).Totals.WithTax.ShouldBe(5);
        await HealthyAsync();
    }

    [Fact]
    public async Task By_day_there_is_one_for_each()
    {
        await DayAsync(Loft.Today.AddDays(-2));
        await SellAsync(7);
        await DayAsync(Loft.Today);
        await SellAsync(8);
        await SellAsync(9);
        (await GatherAsync(SummaryPeriod.Day)).ShouldBe(2);
        (await ToldAsync("SUM-2025-0001")).Period!.From.ShouldBe(Loft.Today.AddDays(-2));
        (await ToldAsync("SUM-2025-0002")).Totals.WithTax.ShouldBe(17);
        (
            await RefusedAsync(() =>
                _loft.WithAsync<SalesSummaries, int>(s =>
                    s.GatherAsync(First, Loft.Today.AddDays(1), SummaryPeriod.Day)
                )
            )
        ).ShouldContain("days to come");
        await HealthyAsync();
    }

    [Fact]
    public async Task Two_at_once_gather_each_sale_once()
    {
        for (var i = 1; i <= 5; i++)
            await SellAsync(i);
        var made = await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(async _ =>
                {
                    try
                    {
                        return await Task.Run(() => GatherAsync());
                    }
                    catch (RefusalException)
                    {
                        return 0;
                    }
                })
        );
        made.Sum().ShouldBe(1);
        (await _loft.NumberAsync("SELECT COUNT(*) FROM SummarySales")).ShouldBe(5);
        await HealthyAsync();
    }

    [Fact]
    public async Task What_came_back_is_told_after_its_sale_and_names_it()
    {
        var sale = await SellAsync(10);
        await GatherAsync();
        await TakeBackAsync(sale);
        (await GatherAsync()).ShouldBe(1);
        var told = await ToldAsync("SUM-2025-0002");
        (told.TypeCode, told.Totals.WithTax, told.Preceding.Single().Number).ShouldBe(("381", 10, "SUM-2025-0001"));
        (
            await RefusedAsync(() => _loft.WithAsync<SalesSummaries, int>(s => s.DissolveAsync(1, "wrong")))
        ).ShouldContain("SUM-2025-0002");
        await HealthyAsync();
    }

    [Fact]
    public async Task A_sale_and_its_return_of_one_month_go_in_the_same_go()
    {
        var sale = await SellAsync(10);
        await TakeBackAsync(sale);
        (await GatherAsync()).ShouldBe(2);
        (await ToldAsync("SUM-2025-0002")).Preceding.Single().Number.ShouldBe("SUM-2025-0001");
        await HealthyAsync();
    }

    [Fact]
    public async Task Invoiced_by_name_it_comes_out_by_a_credit_and_the_money_goes_along()
    {
        var sale = await SellAsync(30.02m, new CounterPart(_card, 2_000), new CounterPart(_cash, null));
        await GatherAsync();
        var before = await _loft.NumberAsync("SELECT SUM(Debit - Credit) FROM JournalLines WHERE AccountId = " + _cash);
        var yard = (await _loft.IssuedAsync()).CustomerId;
        var id = await _loft.WithAsync<SalesByName, int>(s => s.NameAsync(sale.Id, yard, "form"));
        (await _loft.WithAsync<SalesByName, int>(s => s.NameAsync(sale.Id, yard, "form"))).ShouldBe(id);
        var named = await _loft.DocumentAsync(id);
        (named.CustomerId, named.Payable, named.State, named.PaidWords).ShouldBe(
            (yard, 3_000, DocumentState.Settled, sale.PaidWords)
        );
        (await _loft.NumberAsync("SELECT SUM(Debit - Credit) FROM JournalLines WHERE AccountId = " + _cash)).ShouldBe(
            before
        );
        (await _loft.DocumentAsync(sale.Id)).State.ShouldBe(DocumentState.Cancelled);
        (await RefusedAsync(() => _loft.WithAsync<SalesByName, int>(s => s.NameAsync(sale.Id, yard)))).ShouldContain(
            "came back"
        );

        (await GatherAsync()).ShouldBe(1);
        var told = await ToldAsync("SUM-2025-0002");
        (told.TypeCode, told.Preceding.Single().Number, told.Totals.WithTax).ShouldBe(("381", "SUM-2025-0001", 30.02m));
        (await ToldAsync(named.Number!)).Delivery.On.ShouldBe(sale.Date);
        await HealthyAsync();
    }

    [Fact]
    public async Task What_cannot_be_named_is_refused_and_nothing_is_done()
    {
        var sale = await SellAsync(10);
        var yard = await _loft.IssuedAsync();
        Task<int> NameAsync(int document, int customer) =>
            _loft.WithAsync<SalesByName, int>(s => s.NameAsync(document, customer));
        (await RefusedAsync(() => NameAsync(yard.Id, yard.CustomerId))).ShouldContain("no sale at the counter");
        (await RefusedAsync(() => NameAsync(sale.Id, sale.CustomerId))).ShouldContain("all without a name");
        await _loft.ExecuteAsync($"UPDATE Customers SET Currency = 'SEK' WHERE Id = {yard.CustomerId}");
        (await RefusedAsync(() => NameAsync(sale.Id, yard.CustomerId))).ShouldContain("SEK");
        await _loft.ExecuteAsync($"UPDATE Customers SET Currency = 'EUR' WHERE Id = {yard.CustomerId}");
        // The rate went up since, so the invoice would not come to what was paid.
        await DayAsync(Loft.Today.AddDays(1));
        await _loft.WithAsync<TaxDesk>(t => t.AddRateAsync("VAT", Loft.Today.AddDays(1), 25));
        (await RefusedAsync(() => NameAsync(sale.Id, yard.CustomerId))).ShouldContain("was paid");
        (await _loft.DocumentAsync(sale.Id)).State.ShouldBe(DocumentState.Settled);
        (await _loft.NumberAsync("SELECT COUNT(*) FROM Refunds")).ShouldBe(0);
    }

    [Fact]
    public async Task It_goes_through_the_network_once_and_a_refused_one_is_taken_back_and_gathered_anew()
    {
        var sale = await SellAsync(10);
        await GatherAsync();
        (await RefusedAsync(() => SendAsync(1))).ShouldContain("no electronic address");
        await ReachedAsync();
        await SendAsync(1, "form");
        await SendAsync(1, "form");
        (await RefusedAsync(() => SendAsync(1))).ShouldContain("already");
        (await RefusedAsync(() => _loft.WithAsync<EInvoiceSending, int>(s => s.SendAsync(sale.Id)))).ShouldContain(
            "told in SUM-2025-0001"
        );
        (
            await RefusedAsync(() => _loft.WithAsync<SalesSummaries, int>(s => s.DissolveAsync(1, "wrong")))
        ).ShouldContain("on its way");
        await _loft.WithAsync<PostCarrying>(p => p.CarryAsync());
        await _loft.WithAsync<NetworkAnswers, int>(a => a.TakeAsync());
        var fate = (
            await _loft.WithAsync<EInvoiceScreens, IReadOnlyList<EInvoiceRow>>(s => s.RowsAsync(null))
        ).Single();
        (fate.Fate, fate.Number, fate.Href).ShouldBe((EInvoiceFate.Taken, "SUM-2025-0001", "/post/summaries/1"));
        (await RefusedAsync(() => _loft.WithAsync<SalesSummaries, int>(s => s.DissolveAsync(1, "x")))).ShouldContain(
            "with its receiver"
        );
        await HealthyAsync();

        await _loft.ExecuteAsync("UPDATE NetworkAnswers SET Kind = 'Refused', Reason = 'Not for us'");
        await _loft.WithAsync<SalesSummaries, int>(s => s.DissolveAsync(1, "refused"));
        (await GatherAsync()).ShouldBe(1);
        (await ToldAsync("SUM-2025-0002")).Lines.Single().Name.ShouldBe(sale.Number);
        await SendAsync(2);
        await HealthyAsync();
    }

    [Fact]
    public async Task One_that_went_by_itself_is_in_no_summary_and_the_list_of_those_to_send_has_none_of_the_counter()
    {
        var alone = await SellAsync(10);
        var other = await SellAsync(11);
        await ReachedAsync();
        (
            await _loft.WithAsync<EInvoiceScreens, IReadOnlyList<EInvoiceToSend>>(s => s.ToSendAsync(First, Loft.Today))
        ).ShouldBeEmpty();
        await _loft.WithAsync<EInvoiceSending, int>(s => s.SendAsync(alone.Id));
        await GatherAsync();
        (await ToldAsync("SUM-2025-0001")).Lines.Single().Name.ShouldBe(other.Number);
        (await PlanAsync()).Sales.ShouldBe(0);
        await HealthyAsync();
    }

    [Theory]
    [InlineData("UPDATE SalesSummaries SET Tax = Tax + 1, Total = Total + 1", "comes to")]
    [InlineData("UPDATE SalesSummaries SET Payable = Payable - 1", "comes to")]
    [InlineData("UPDATE SalesSummaries SET Net = Net - 1", "comes to")]
    [InlineData("UPDATE SalesSummaries SET [Until] = '2025-09-02'", "no such sale of its days")]
    [InlineData("UPDATE SalesSummaries SET [From] = '2025-09-20'", "no such sale of its days")]
    [InlineData("UPDATE SalesSummaries SET Kind = 'Returns'", "no such sale of its days")]
    [InlineData("UPDATE SalesSummaries SET Currency = 'SEK'", "no such sale of its days")]
    [InlineData("UPDATE SalesSummaries SET DissolvedOn = '2025-09-17'", "taken back")]
    [InlineData("UPDATE SalesSummaries SET DissolvedBecause = 'so'", "taken back")]
    [InlineData("UPDATE SalesSummaries SET Number = 'SUM-2025-0007'", "missing from the series")]
    [InlineData("UPDATE SummarySales SET Counts = 0", "taken back")]
    [InlineData("UPDATE SummarySales SET Position = 4", "not all there")]
    [InlineData("DELETE FROM SummarySales", "not all there")]
    [InlineData(
        "UPDATE SummarySales SET DocumentId = (SELECT MIN(Id) FROM Documents WHERE PaidWords = '')",
        "no such sale"
    )]
    [InlineData("UPDATE Post SET SummaryId = NULL", "of one issued paper")]
    [InlineData("UPDATE SalesSummaries SET SeriesId = (SELECT MIN(Id) FROM Series)", "is for others")]
    public async Task Tampering_is_found(string damage, string found)
    {
        await _loft.IssuedAsync();
        await SellAsync(10);
        await GatherAsync();
        await ReachedAsync();
        await SendAsync(1);
        await HealthyAsync();
        await _loft.ExecuteAsync("PRAGMA foreign_keys = OFF; " + damage);
        (await _loft.CheckAsync()).Differences.ShouldContain(d => d.Contains(found));
    }
}
