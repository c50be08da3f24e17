using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Tests;

/// <summary>Selling over the counter: cash with rounding and change, card, two ways, and on account.</summary>
public sealed class CounterTests
{
    private static async Task<(int Cash, int Card)> WaysAsync(Loft loft)
    {
        await loft.WithAsync<BusinessDesk>(b =>
            b.DescribeAsync(
                new BusinessDetails
                {
                    Name = "Little Loft",
                    Address = new Core.Trade.Address("Quay 1", "1", "Harbour", "EE"),
                    CashStep = 0.05m,
                }
            )
        );
        return await loft.WithAsync<BooksContext, (int, int)>(async db =>
            (
                (await db.LedgerAccounts.SingleAsync(a => a.Code == "1010")).Id,
                (await db.LedgerAccounts.SingleAsync(a => a.Code == "1020")).Id
            )
        );
    }

    private static CounterSale Sale(Loft loft, decimal price, params CounterPart[] parts) =>
        new(
            null,
            new DraftContent
            {
                Date = Loft.Today,
                PricesIncludeTax = true,
                Lines = [new DraftLine(null, "Shackle", 1, "H87", price, null, null, loft.Std, loft.Sales)],
            },
            parts,
            null,
            false
        );

    private static async Task<Document> SellAsync(Loft loft, CounterSale sale) =>
        await loft.DocumentAsync(await loft.WithAsync<CounterSales, int>(c => c.SellAsync(sale)));

    [Fact]
    public async Task Cash_is_rounded_and_the_change_is_given()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var sold = await SellAsync(loft, Sale(loft, 12.37m, new CounterPart(cash, null)) with { Given = 2_000 });
        (sold.Total, sold.Payable, sold.State, sold.DueDate).ShouldBe(
            (1_237, 1_235, DocumentState.Settled, Loft.Today)
        );
        sold.PaidWords.ShouldBe("Cash 12.35 · given 20.00, change 7.65");
        (
            await loft.WithAsync<BooksContext, string>(db =>
                db.Customers.Where(c => c.Id == sold.CustomerId).Select(c => c.Code).SingleAsync()
            )
        ).ShouldBe("COUNTER");
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
        (
            await loft.WithAsync<BooksContext, List<long>>(db =>
                db.Receipts.OrderBy(r => r.Id).Select(r => r.Amount).ToListAsync()
            )
        ).ShouldBe([2_000, 1_000]);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task Nothing_is_left_owing_but_by_a_known_customer()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, card) = await WaysAsync(loft);
        async Task<string> RefusedAsync(CounterSale sale) =>
            (await Should.ThrowAsync<RefusalException>(() => SellAsync(loft, sale))).Refusals[0].Field;
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
        (
            await SellAsync(loft, Sale(loft, 10, new CounterPart(card, null)) with { CustomerId = loft.Yard })
        ).State.ShouldBe(DocumentState.Settled);
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
    public async Task Only_what_is_paid_in_cash_is_rounded()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, card) = await WaysAsync(loft);
        // 20.01 by card leaves 10.02 for the cash box, which pays in steps of 0.05.
        var sold = await SellAsync(
            loft,
            Sale(loft, 30.03m, new CounterPart(card, 2_001), new CounterPart(cash, null)) with
            {
                Given = 1_000,
            }
        );
        (sold.Total, sold.Payable, sold.State, sold.PaidExactly).ShouldBe((3_003, 3_001, DocumentState.Settled, 2_001));
        (
            await loft.WithAsync<BooksContext, List<long>>(db =>
                db.Receipts.OrderBy(r => r.Id).Select(r => r.Amount).ToListAsync()
            )
        ).ShouldBe([2_001, 1_000]);
        // Cash first and the card for the rest: every cent is paid.
        (
            await SellAsync(loft, Sale(loft, 30.03m, new CounterPart(cash, 1_000), new CounterPart(card, null)))
        ).Payable.ShouldBe(3_003);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                SellAsync(loft, Sale(loft, 30.03m, new CounterPart(cash, 1_001), new CounterPart(card, null)))
            )
        ).Message.ShouldContain("steps of 0.05");
        // Cancelling takes back exactly what was paid.
        var credit = await loft.DocumentAsync(
            await loft.WithAsync<Credits, int>(c => c.CancelAsync(sold.Id, "wrong size"))
        );
        credit.Payable.ShouldBe(3_001);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_customer_of_another_currency_does_not_pay_here()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                SellAsync(loft, Sale(loft, 10, new CounterPart(cash, null)) with { CustomerId = loft.Swede })
            )
        ).Message.ShouldContain("billed in SEK");
        (
            await SellAsync(loft, Sale(loft, 10) with { CustomerId = loft.Swede, OnAccount = true })
        ).Currency.Code.ShouldBe("SEK");
        var back = await loft.WithAsync<CustomerChange, ChangedCustomer>(c =>
            c.ApplyAsync(Sale(loft, 111).Content with { CustomerId = 0 }, loft.Swede)
        );
        back.Content.Lines[0].UnitPrice.ShouldBe(10, "nobody in particular buys in the home currency");
    }

    [Fact]
    public async Task A_name_that_was_typed_and_not_chosen_is_asked_about()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var refused = await Should.ThrowAsync<RefusalException>(() =>
            SellAsync(loft, Sale(loft, 10, new CounterPart(cash, null)) with { Typed = "Yar" })
        );
        (refused.Refusals[0].Field, refused.Message.Contains("“Yar”")).ShouldBe(("customer", true));
        (
            await SellAsync(
                loft,
                Sale(loft, 10, new CounterPart(cash, null)) with
                {
                    Typed = "Yard",
                    CustomerId = loft.Yard,
                }
            )
        ).CustomerId.ShouldBe(loft.Yard);
    }

    [Fact]
    public async Task Stock_and_limit_warn_and_the_limit_only_where_something_is_owed()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var item = await loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "R",
                    Name = "Rope",
                    Unit = "MTR",
                    Price = 900,
                    IsGoods = true,
                    KeepsCount = true,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        async Task<string> WarnedAsync(CounterSale sale) =>
            string.Join(
                " ",
                (await loft.WithAsync<CounterSales, CounterBill>(c => c.ReckonAsync(sale))).Warnings.Select(w =>
                    w.Message
                )
            );
        var sale = Sale(loft, 1_200, new CounterPart(cash, null)) with { CustomerId = loft.Yard };
        sale = sale with { Content = sale.Content with { Lines = [sale.Content.Lines[0] with { ItemId = item }] } };
        (await WarnedAsync(sale)).ShouldBe(
            "1 of Rope would go, and 0 are on hand. Order more, or correct the count on its page."
        );
        (await WarnedAsync(sale with { Parts = [], OnAccount = true })).ShouldContain("over the limit");
        // The same thing sold twice a day to nobody in particular is no duplicate.
        await SellAsync(loft, Sale(loft, 3, new CounterPart(cash, null)));
        (await WarnedAsync(Sale(loft, 3, new CounterPart(cash, null)))).ShouldBe("");
    }

    private static CounterReturn Back(Document sold, decimal quantity, int way, bool stay = false) =>
        new(sold.Id, new Dictionary<int, decimal> { [sold.Lines[0].Id] = quantity }, "wrong size", stay, way);

    [Fact]
    public async Task Goods_come_back_and_the_money_goes_back()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, card) = await WaysAsync(loft);
        var item = await loft.WithAsync<ItemsDesk, int>(d =>
            d.SaveAsync(
                null,
                0,
                new ItemDetails
                {
                    Code = "R",
                    Name = "Rope",
                    Unit = "MTR",
                    Price = 4.12m,
                    PriceIncludesTax = true,
                    IsGoods = true,
                    KeepsCount = true,
                    TaxCodeId = loft.Std,
                    LedgerAccountId = loft.Sales,
                }
            )
        );
        var sale = Sale(loft, 4.12m, new CounterPart(cash, null));
        var sold = await SellAsync(
            loft,
            sale with
            {
                Content = sale.Content with { Lines = [sale.Content.Lines[0] with { ItemId = item, Quantity = 3 }] },
            }
        );
        (sold.Payable, await OnHandAsync(loft, item)).ShouldBe((1_235, -3));
        var found = await loft.WithAsync<CounterReturns, SaleToReturn>(r => r.FindAsync(sold.Number!));
        (found.Left.Values.Single(), found.Open).ShouldBe((3, 0));
        var bill = await loft.WithAsync<CounterReturns, ReturnBill>(r =>
            r.ReckonAsync(Back(sold, 1, cash) with { Reason = "" })
        );
        (bill.Credit.Payable, bill.Against, bill.PaidBack).ShouldBe((410, 0, 410));
        (await loft.WithAsync<BooksContext, int>(db => db.Documents.CountAsync())).ShouldBe(
            1,
            "a reckoning keeps nothing"
        );
        var credit = await loft.DocumentAsync(
            await loft.WithAsync<CounterReturns, int>(r => r.TakeBackAsync(Back(sold, 1, cash)))
        );
        (credit.Kind, credit.Total, credit.Payable, credit.State, credit.Particulars.Corrects).ShouldBe(
            (DocumentKind.CreditNote, 412, 410, DocumentState.Settled, sold.Number)
        );
        // By card to the cent, and these do not go back on the shelf.
        (
            await loft.DocumentAsync(
                await loft.WithAsync<CounterReturns, int>(r => r.TakeBackAsync(Back(sold, 1, card, stay: true)))
            )
        ).Payable.ShouldBe(412);
        (await OnHandAsync(loft, item)).ShouldBe(-2);
        (await loft.WithAsync<Jugaad.Desk.Counter.Tills, long>(t => t.ExpectedAsync(cash))).ShouldBe(1_235 - 410);
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CounterReturns>(r => r.TakeBackAsync(Back(sold, 2, cash)))
            )
        )
            .Refusals[0]
            .Field.ShouldBe($"back[{sold.Lines[0].Id}]");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CounterReturns>(r => r.TakeBackAsync(Back(sold, 1, cash) with { Reason = " " }))
            )
        )
            .Refusals[0]
            .Field.ShouldBe("reason");
        (
            await Should.ThrowAsync<RefusalException>(() =>
                loft.WithAsync<CounterReturns>(r => r.TakeBackAsync(Back(sold, 1, loft.Bank)))
            )
        ).Message.ShouldContain("cash box or the card");
        (await Should.ThrowAsync<RefusalException>(() => loft.WithAsync<CounterReturns>(r => r.FindAsync("INV-0000"))))
            .Refusals[0]
            .Field.ShouldBe("number");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_still_owed_is_credited_before_money_goes_back()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var owed = await SellAsync(loft, Sale(loft, 10.03m) with { OnAccount = true, CustomerId = loft.Yard });
        var item = await loft.ItemOfAsync(owed.Id);
        await loft.ReceiveAsync(400, (item.Id, 400));
        var credit = await loft.DocumentAsync(
            await loft.WithAsync<CounterReturns, int>(r => r.TakeBackAsync(Back(owed, 1, cash)))
        );
        credit.Payable.ShouldBe(1_003);
        (await loft.WithAsync<BooksContext, long>(db => db.Refunds.SumAsync(r => r.Amount))).ShouldBe(400);
        (await loft.ItemOfAsync(owed.Id)).Open.ShouldBe(0);
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
    }

    private static Task<decimal> OnHandAsync(Loft loft, int item) =>
        loft.WithAsync<BooksContext, decimal>(db =>
            db.Items.Where(i => i.Id == item).Select(i => i.OnHand).SingleAsync()
        );

    [Fact]
    public async Task The_till_is_counted_and_the_difference_booked_with_its_reason()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        await SellAsync(loft, Sale(loft, 12.35m, new CounterPart(cash, null)));
        Jugaad.Desk.Counter.TillToCount Count(long counted, long expected, string reason = "") =>
            new(cash, counted, expected, reason, null);
        Task<int> CountAsync(Jugaad.Desk.Counter.TillToCount count) =>
            loft.WithAsync<Jugaad.Desk.Counter.Tills, int>(t => t.CountAsync(count));
        await CountAsync(Count(1_235, 1_235));
        (await Should.ThrowAsync<RefusalException>(() => CountAsync(Count(1_200, 1_235))))
            .Refusals[0]
            .Field.ShouldBe("reason");
        (await Should.ThrowAsync<RefusalException>(() => CountAsync(Count(1_200, 900, "?")))).Message.ShouldContain(
            "booked since"
        );
        (await Should.ThrowAsync<RefusalException>(() => CountAsync(Count(-1, 1_235, "?"))))
            .Refusals[0]
            .Field.ShouldBe("counted");
        await CountAsync(Count(1_200, 1_235, "a coin was given too much"));
        (await loft.WithAsync<Jugaad.Desk.Counter.Tills, long>(t => t.ExpectedAsync(cash))).ShouldBe(1_200);
        var counts = await loft.WithAsync<BooksContext, List<Core.Accounts.TillCount>>(db =>
            db.TillCounts.Include(c => c.Booking).OrderBy(c => c.Id).ToListAsync()
        );
        counts
            .Select(c => (c.Expected, c.Counted, c.Difference, c.Reason))
            .ShouldBe([(1_235, 1_235, 0, ""), (1_235, 1_200, -35, "a coin was given too much")]);
        counts[1].Booking!.Words.ShouldContain("Till counted: a coin was given too much");
        (await loft.CheckAsync()).Differences.ShouldBeEmpty();
        foreach (
            var damage in new[]
            {
                "UPDATE TillCounts SET Expected = Expected + 1",
                "UPDATE TillCounts SET Counted = Counted + 5 WHERE BookingId IS NOT NULL",
                "UPDATE TillCounts SET BookingId = NULL WHERE BookingId IS NOT NULL",
            }
        )
        {
            await loft.ExecuteAsync(damage);
            (await loft.CheckAsync()).Differences.ShouldContain(
                d => d.Contains("till", StringComparison.OrdinalIgnoreCase),
                damage
            );
            await loft.ExecuteAsync(
                $"UPDATE TillCounts SET Expected = 1235, Counted = CASE Id WHEN 1 THEN 1235 ELSE 1200 END, BookingId = CASE Id WHEN 1 THEN NULL ELSE {counts[1].BookingId} END"
            );
        }
    }

    [Fact]
    public async Task A_reckoning_keeps_nothing()
    {
        await using var loft = await Loft.OpenAsync();
        var (cash, _) = await WaysAsync(loft);
        var bill = await loft.WithAsync<CounterSales, CounterBill>(c =>
            c.ReckonAsync(Sale(loft, 12.37m, new CounterPart(cash, null)) with { Given = 1_500 })
        );
        (bill.Cash, bill.Change, bill.Left).ShouldBe((1_235, 265, 0));
        await loft.WithAsync<BooksContext>(async db =>
            (
                await db.Documents.CountAsync(),
                await db.Customers.CountAsync(c => c.Code == "COUNTER"),
                await db.Businesses.Select(b => b.CounterCustomerId).SingleAsync()
            ).ShouldBe((0, 0, null))
        );
    }
}
