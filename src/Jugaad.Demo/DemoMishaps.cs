using Jugaad.Core.Accounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Demo;

/// <summary>
/// What goes otherwise with the demo's money: paid early, paid too much, paid by the wrong customer, taken back, paid
/// back, given up.
/// </summary>
internal sealed class DemoMishaps(DemoHistory history, DemoBank bank, int bankAccount)
{
    internal void Plan()
    {
        foreach (
            var (month, day, customer) in new[]
            {
                (3, 24, "KORALL"),
                (5, 14, "KORALL"),
                (6, 23, "PIIRI"),
                (7, 30, "KORALL"),
            }
        )
            At(month, day, () => PaidEarlyAsync(customer));
        At(4, 23, () => OverpaidAsync("TAMBRG", 20_00, null));
        At(5, 21, () => OverpaidAsync("SKERRY", 150_00, PaidBackByBankAsync));
        At(6, 18, () => OverpaidAsync("PIIRI", 12_40, PaidBackInCashAsync));
        At(6, 12, WrongCustomerAsync);
        At(7, 9, TakenBackAsync);
        At(6, 27, () => SmallRestAsync("NORTHP"));
        At(8, 19, GivenUpAsync);
        At(8, 29, GivenUpInPartAsync);
        At(9, 10, CreditPaidBackAsync);
    }

    private void At(int month, int day, Func<Task> work) => history.At(new DateOnly(2025, month, day), work);

    private Task<AccountItem?> NewestUnpaidAsync(string code, int atLeast = 0) =>
        history.WithAsync<BooksContext, AccountItem?>(db =>
            db.AccountItems.AsNoTracking()
                .Where(i =>
                    i.CustomerId == history.CustomerId(code)
                    && i.Kind == AccountItemKind.Invoice
                    && i.Open == i.Amount
                    && i.Open > atLeast
                )
                .OrderByDescending(i => i.Id)
                .FirstOrDefaultAsync()
        );

    private async Task<int> ReceiveAsync(AccountItem item, long amount, ReceiptToPost? how = null)
    {
        var typed =
            how
            ?? new ReceiptToPost(
                item.CustomerId,
                history.Day,
                bankAccount,
                amount,
                item.Number,
                [(item.Id, Math.Min(amount, item.Open))]
            );
        var receipt = await history.WithAsync<Receipts, int>(r => r.PostAsync(typed with { Way = "Bank transfer" }));
        bank.Came(history.Day, await CustomerAsync(item.CustomerId), item.Number, amount, receipt);
        return receipt;
    }

    private Task<Customer> CustomerAsync(int id) =>
        history.WithAsync<BooksContext, Customer>(db => db.Customers.AsNoTracking().SingleAsync(c => c.Id == id));

    /// <summary>Within the days of the terms, less the discount.</summary>
    private async Task PaidEarlyAsync(string code)
    {
        if (
            await history.WithAsync<BooksContext, AccountItem?>(db =>
                db.AccountItems.AsNoTracking()
                    .Where(i =>
                        i.CustomerId == history.CustomerId(code)
                        && i.Kind == AccountItemKind.Invoice
                        && i.Open == i.Amount
                        && db.Documents.Any(d =>
                            d.Id == i.DocumentId && d.EarlyPercent > 0 && d.EarlyUntil >= history.Day
                        )
                    )
                    .OrderByDescending(i => i.Id)
                    .FirstOrDefaultAsync()
            )
            is not { } item
        )
            return;
        var offer = await history.WithAsync<Settlements, EarlyOffer>(s => s.OfferAsync(item, history.Day));
        var amount = item.Open - offer.Amount;
        await ReceiveAsync(
            item,
            amount,
            new ReceiptToPost(item.CustomerId, history.Day, bankAccount, amount, item.Number, [(item.Id, amount)])
            {
                Early = [(item.Id, "")],
            }
        );
    }

    private async Task OverpaidAsync(string code, long more, Func<int, Task>? then)
    {
        if (await NewestUnpaidAsync(code) is not { } item)
            return;
        var receipt = await ReceiveAsync(item, item.Open + more);
        var credit = await history.WithAsync<BooksContext, int>(db =>
            db.AccountItems.Where(i => i.ReceiptId == receipt).Select(i => i.Id).SingleAsync()
        );
        if (then is not null)
            history.At(history.Day.AddDays(6), () => then(credit));
    }

    private async Task PaidBackByBankAsync(int credit)
    {
        var item = await ItemAsync(credit);
        var customer = await CustomerAsync(item.CustomerId);
        var refund = await history.WithAsync<Refunds, int>(r =>
            r.PayAsync(
                new RefundToPay(
                    credit,
                    null,
                    bankAccount,
                    history.Day,
                    new Payee(customer.Name, Outside.BankStandIn.AccountOf(customer.Id)),
                    "Paid twice, with thanks"
                )
            )
        );
        await history.WithAsync<PaymentFiles>(f => f.MakeAsync([refund], history.Day.AddDays(1)));
        var (number, booking) = await history.WithAsync<BooksContext, (string, int)>(async db =>
            (
                await db.Refunds.Where(r => r.Id == refund).Select(r => r.Number).SingleAsync(),
                await db.Refunds.Where(r => r.Id == refund).Select(r => r.BookingId).SingleAsync()
            )
        );
        bank.Went(history.Day.AddDays(1), customer, number, item.Open, booking);
    }

    private async Task PaidBackInCashAsync(int credit)
    {
        var cash = await history.WithAsync<BooksContext, int>(db =>
            db.LedgerAccounts.Where(a => a.Kind == MoneyKind.Cash && a.Role == AccountRole.Money)
                .Select(a => a.Id)
                .SingleAsync()
        );
        await history.WithAsync<Refunds>(r => r.PayAsync(new RefundToPay(credit, null, cash, history.Day, null, "")));
    }

    /// <summary>Booked to a skipper who rows as well, and moved to the club a day later.</summary>
    private async Task WrongCustomerAsync()
    {
        if (await NewestUnpaidAsync("OARLCK") is not { } item)
            return;
        var receipt = await history.WithAsync<Receipts, int>(r =>
            r.PostAsync(
                new ReceiptToPost(
                    history.CustomerId("LAINE"),
                    history.Day,
                    bankAccount,
                    item.Open / 2,
                    "for the club",
                    []
                )
                {
                    Way = "Bank transfer",
                }
            )
        );
        bank.Came(history.Day, await CustomerAsync(item.CustomerId), item.Number, item.Open / 2, receipt);
        history.At(
            history.Day.AddDays(1),
            async () =>
            {
                var moved = await history.WithAsync<Transfers, int>(t => t.MoveAsync(receipt, item.CustomerId));
                if ((await ItemAsync(item.Id)).Open > 0)
                    await history.WithAsync<Receipts>(r => r.PlaceOldestFirstAsync(moved));
            }
        );
    }

    /// <summary>A direct debit that the customer's bank took back two days later, with its charge billed on.</summary>
    private async Task TakenBackAsync()
    {
        if (await NewestUnpaidAsync("SKERRY") is not { } item)
            return;
        var receipt = await ReceiveAsync(item, item.Open);
        history.At(
            history.Day.AddDays(2),
            async () =>
            {
                var returned = await history.WithAsync<Returns, Returned>(r =>
                    r.ReturnAsync(receipt, history.Day, "No cover on the account", 9.50m)
                );
                bank.Went(
                    history.Day,
                    await CustomerAsync(item.CustomerId),
                    item.Number,
                    item.Amount,
                    returned.BookingId
                );
                if (returned.ChargeDraftId is { } charge)
                    await history.IssueAsync(charge, true);
            }
        );
    }

    private async Task SmallRestAsync(string code)
    {
        if (await NewestUnpaidAsync(code, 100) is not { } item)
            return;
        await ReceiveAsync(
            item,
            item.Open - 40,
            new ReceiptToPost(
                item.CustomerId,
                history.Day,
                bankAccount,
                item.Open - 40,
                item.Number,
                [(item.Id, item.Open - 40)]
            )
            {
                GiveUp = [item.Id],
            }
        );
    }

    private async Task GivenUpAsync()
    {
        var oldest = await OldestLateAsync("LAINE");
        if (oldest is not null)
            await history.WithAsync<Settlements>(s =>
                s.WriteOffAsync(oldest.Id, null, "Moved away, letters come back")
            );
    }

    /// <summary>A part is given up after an argument; some of that is paid after all.</summary>
    private async Task GivenUpInPartAsync()
    {
        if (await OldestLateAsync("OARLCK") is not { } item)
            return;
        var booking = await history.WithAsync<Settlements, int>(s =>
            s.WriteOffAsync(item.Id, item.Open / 4, "An hour that they say was not worked")
        );
        history.At(
            history.Day.AddDays(5),
            async () =>
            {
                var settlement = await history.WithAsync<BooksContext, Settlement>(db =>
                    db.Settlements.SingleAsync(s => s.BookingId == booking)
                );
                await history.WithAsync<Settlements>(s => s.RecoverAsync(settlement.Id, settlement.Amount / 2));
            }
        );
    }

    private Task<AccountItem?> OldestLateAsync(string code) =>
        history.WithAsync<BooksContext, AccountItem?>(db =>
            db.AccountItems.AsNoTracking()
                .Where(i =>
                    i.CustomerId == history.CustomerId(code)
                    && i.Kind == AccountItemKind.Invoice
                    && i.Open > 0
                    && i.Due < history.Day
                )
                .OrderBy(i => i.Due)
                .FirstOrDefaultAsync()
        );

    /// <summary>
    /// A paid invoice is credited in part, and the credit paid back by bank: it waits for the next payment file.
    /// </summary>
    private async Task CreditPaidBackAsync()
    {
        var paid = await history.WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Where(d =>
                    d.CustomerId == history.CustomerId("PIIRI")
                    && d.Kind == DocumentKind.Invoice
                    && d.State == DocumentState.Settled
                    && d.Lines.All(l => l.Role == LineRole.Item && l.FromLineId == null)
                )
                .OrderByDescending(d => d.Id)
                .FirstAsync()
        );
        var credit = await history.WithAsync<Credits, int>(c => c.DraftAsync(paid.Id, "Goods came back"));
        var draft = await history.WithAsync<BooksContext, Document>(db =>
            db.Documents.AsNoTracking().Include(d => d.Lines).Include(d => d.Charges).SingleAsync(d => d.Id == credit)
        );
        await history.WithAsync<Drafts>(d =>
            d.SaveAsync(
                new DraftToSave(
                    credit,
                    DocumentKind.CreditNote,
                    draft.Version,
                    draft.Content() with
                    {
                        Lines = [draft.Content().Lines.First(l => l.Role == LineRole.Item)],
                        Charges = [],
                        DiscountPercent = null,
                        DiscountAmount = null,
                    },
                    paid.Id
                )
            )
        );
        await history.IssueAsync(credit, true);
        var item = await history.WithAsync<BooksContext, AccountItem>(db =>
            db.AccountItems.AsNoTracking().SingleAsync(i => i.DocumentId == credit)
        );
        var customer = await CustomerAsync(paid.CustomerId);
        await history.WithAsync<Refunds>(r =>
            r.PayAsync(
                new RefundToPay(
                    item.Id,
                    null,
                    bankAccount,
                    history.Day,
                    new Payee(customer.Name, Outside.BankStandIn.AccountOf(customer.Id)),
                    $"Credit note {item.Number}"
                )
            )
        );
    }

    private Task<AccountItem> ItemAsync(int id) =>
        history.WithAsync<BooksContext, AccountItem>(db => db.AccountItems.AsNoTracking().SingleAsync(i => i.Id == id));
}
