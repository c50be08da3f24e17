using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Selling;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Selling over the counter: cash with rounding and change, card, two ways, and on account.</summary>
public sealed class CounterTests
{
    private static async Task<(int Cash, int Card)> WaysAsync(Loft loft)
    {
        await loft.WithAsync<BusinessDesk>(b => b.DescribeAsync(new BusinessDetails { Name = "Little Loft", Address = new Core.Trade.Address("Quay 1", "1", "Harbour", "EE"), CashStep = 0.05m }));
        return await loft.WithAsync<BooksContext, (int, int)>(async db => ((await db.LedgerAccounts.SingleAsync(a => a.Code == "1010")).Id, (await db.LedgerAccounts.SingleAsync(a => a.Code == "1020")).Id));
    }

    private static CounterSale Sale(Loft loft, decimal price, params CounterPart[] parts) =>
        new(null, new DraftContent { Date = Loft.Today, PricesIncludeTax = true, Lines = [new DraftLine(null, "Shackle", 1, "H87", price, null, null, loft.Std, loft.Sales)] }, parts, null, false);

    private static async Task<Document> SellAsync(Loft loft, CounterSale sale) => await loft.DocumentAsync(await loft.WithAsync<CounterSales, int>(c => c.SellAsync(sale)));

    [Fact]
    public async Task Cash_is_rounded_and_the_change_is_given()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var sold = await SellAsync(loft, Sale(loft, 12.37m, new CounterPart(cash, null)) with { Given = 2_000 });
        (sold.Total, sold.Payable, sold.State, sold.DueDate).ShouldBe((1_237, 1_235, DocumentState.Settled, Loft.Today));
        sold.PaidWords.ShouldBe("Cash 12.35 · given 20.00, change 7.65");
        (await loft.WithAsync<BooksContext, string>(db => db.Customers.Where(c => c.Id == sold.CustomerId).Select(c => c.Code).SingleAsync())).ShouldBe("COUNTER");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_card_is_charged_to_the_cent_and_the_counters_customer_is_made_once()
    {
        await using var loft = await Loft.OpenAsync();
        var (_, card) = await WaysAsync(loft);
        (await SellAsync(loft, Sale(loft, 12.37m, new CounterPart(card, null)))).Payable.ShouldBe(1_237);
        await SellAsync(loft, Sale(loft, 5, new CounterPart(card, null)));
        (await loft.WithAsync<BooksContext, int>(db => db.Customers.CountAsync(c => c.Code == "COUNTER"))).ShouldBe(1);
    }

    [Fact]
    public async Task Two_ways_share_what_is_due()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, card) = await WaysAsync(loft);
        var sold = await SellAsync(loft, Sale(loft, 30.02m, new CounterPart(card, 2_000), new CounterPart(cash, null)));
        (sold.Payable, sold.State).ShouldBe((3_000, DocumentState.Settled));
        (await loft.WithAsync<BooksContext, List<long>>(db => db.Receipts.OrderBy(r => r.Id).Select(r => r.Amount).ToListAsync())).ShouldBe([2_000, 1_000]);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_is_left_owing_but_by_a_known_customer()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, card) = await WaysAsync(loft);
        async Task<string> RefusedAsync(CounterSale sale) => (await Should.ThrowAsync<RefusalException>(() => SellAsync(loft, sale))).Refusals[0].Field;
        (await RefusedAsync(Sale(loft, 10))).ShouldBe("parts");
        (await RefusedAsync(Sale(loft, 10, new CounterPart(cash, 900)))).ShouldBe("parts");
        (await RefusedAsync(Sale(loft, 10, new CounterPart(cash, 1_100)))).ShouldBe("parts");
        (await RefusedAsync(Sale(loft, 10, new CounterPart(cash, null)) with { Given = 900 })).ShouldBe("given");
        (await RefusedAsync(Sale(loft, 10, new CounterPart(cash, 500), new CounterPart(cash, null)))).ShouldBe("parts");
        (await RefusedAsync(Sale(loft, 10) with { OnAccount = true })).ShouldBe("customer");
        (await RefusedAsync(Sale(loft, 10, new CounterPart(loft.Sales, null)))).ShouldBe("moneyAccountId");
        (await loft.WithAsync<BooksContext, int>(db => db.Documents.CountAsync())).ShouldBe(0);
        var owed = await SellAsync(loft, Sale(loft, 10) with { OnAccount = true, CustomerId = loft.Yard });
        (owed.State, owed.DueDate, owed.PaidWords).ShouldBe((DocumentState.Issued, Loft.Today.AddDays(14), ""));
        (await SellAsync(loft, Sale(loft, 10, new CounterPart(card, null)) with { CustomerId = loft.Yard })).State.ShouldBe(DocumentState.Settled);
    }

    [Fact]
    public async Task The_same_sale_sent_twice_is_one()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var sale = Sale(loft, 10, new CounterPart(cash, null)) with { FormKey = "once" };
        (await SellAsync(loft, sale)).Id.ShouldBe((await SellAsync(loft, sale)).Id);
        (await loft.WithAsync<BooksContext, int>(db => db.Receipts.CountAsync())).ShouldBe(1);
    }

    [Fact]
    public async Task A_reckoning_keeps_nothing()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var bill = await loft.WithAsync<CounterSales, CounterBill>(c => c.ReckonAsync(Sale(loft, 12.37m, new CounterPart(cash, null)) with { Given = 1_500 }));
        (bill.Cash, bill.Change, bill.Left).ShouldBe((1_235, 265, 0));
        await loft.WithAsync<BooksContext>(async db => (await db.Documents.CountAsync(), await db.Customers.CountAsync(c => c.Code == "COUNTER"), await db.Businesses.Select(b => b.CounterCustomerId).SingleAsync()).ShouldBe((0, 0, null)));
    }
}
