using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Checking;

/// <summary>
/// What stands on customers' accounts follows from its document, receipt or booking, and what is open from the
/// allocations.
/// </summary>
internal sealed class AccountsProof(BooksContext db) : IProof
{
    public async Task RunAsync(Findings findings, CancellationToken stop)
    {
        var raised = await db
            .Allocations.GroupBy(a => a.RaisingId)
            .Select(g => new
            {
                g.Key,
                Sum = g.Sum(a => a.Amount),
                Home = g.Sum(a => a.HomeRaising),
            })
            .ToDictionaryAsync(g => g.Key, stop);
        var lowered = await db
            .Allocations.GroupBy(a => a.LoweringId)
            .Select(g => new
            {
                g.Key,
                Sum = g.Sum(a => a.Amount),
                Home = g.Sum(a => a.HomeLowering),
            })
            .ToDictionaryAsync(g => g.Key, stop);
        long items = 0;
        await foreach (var item in db.AccountItems.AsAsyncEnumerable().WithCancellation(stop))
        {
            items++;
            var taken = (item.Raises ? raised : lowered).GetValueOrDefault(item.Id);
            var open = item.Amount - (taken?.Sum ?? 0);
            if (open != item.Open)
                findings.Add(
                    $"{item.Number}: open {Findings.Text(item.Open, item.Currency)} is kept, {Findings.Text(open, item.Currency)} follows from the allocations"
                );
            if (item.HomeAmount - (taken?.Home ?? 0) != item.HomeOpen)
                findings.Add($"{item.Number}: the open home amount does not follow from the allocations");
            if (open < 0)
                findings.Add($"{item.Number}: {Findings.Text(-open, item.Currency)} more is allocated than there is");
            if ((item.Raises ? lowered : raised).ContainsKey(item.Id))
                findings.Add($"{item.Number}: stands on the wrong side of an allocation");
            findings.Unless(
                item.Sign == (item.Kind.Raises() ? 1 : -1),
                $"{item.Number}: has the sign of another kind than {item.Kind.Word()}"
            );
            findings.Unless(item.Due >= item.Date, $"{item.Number}: is due before its date");
        }

        var elsewhere = await (
            from item in db.AccountItems
            join customer in db.Customers on item.CustomerId equals customer.Id
            where item.Currency != customer.Currency
            select new
            {
                item.Number,
                item.Currency,
                customer.AlsoIn,
            }
        ).ToListAsync(stop);
        var documents = await (
            from document in db.Documents
            join customer in db.Customers on document.CustomerId equals customer.Id
            where document.Currency != customer.Currency
            select new
            {
                Number = document.Number ?? $"Draft {document.Id}",
                document.Currency,
                customer.AlsoIn,
            }
        ).ToListAsync(stop);
        findings.AddRange(
            elsewhere
                .Concat(documents)
                .Distinct()
                .Where(i => !i.AlsoIn.Split(' ').Contains(i.Currency.Code))
                .Select(i => $"{i.Number}: is in a currency that its customer is not billed in")
        );
        findings.AddRange(
            (
                await db
                    .AccountItems.Where(i =>
                        i.DocumentId == null
                        && i.ReceiptId == null
                        && i.BookingId == null
                        && i.Kind != AccountItemKind.Invoice
                        && i.Kind != AccountItemKind.CreditNote
                    )
                    .Select(i => i.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: stands on the account, and nothing put it there")
        );
        findings.Count("account items", items);
        findings.Count("allocations", await db.Allocations.LongCountAsync(stop));
        await AllocationsAsync(findings, stop);
        await DocumentsAsync(findings, stop);
        await ReceiptsAsync(findings, stop);
    }

    private async Task AllocationsAsync(Findings findings, CancellationToken stop)
    {
        var all = db.Allocations.IgnoreQueryFilters();
        findings.AddRange(
            (
                await all.Where(a => a.Date < a.Raising.Date || a.Date < a.Lowering.Date)
                    .Select(a => a.Raising.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: an allocation is dated before one of its items")
        );
        findings.AddRange(
            (
                await all.Where(a =>
                        a.Raising.CustomerId != a.Lowering.CustomerId || a.Raising.Currency != a.Lowering.Currency
                    )
                    .Select(a => a.Raising.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: allocated from another customer's account")
        );
        findings.AddRange(
            (
                await all.Where(a => (a.Until == null) != (a.EndedById == null) || a.Until < a.Date || a.Amount <= 0)
                    .Select(a => a.Raising.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: an allocation does not say rightly how long it counts")
        );
        findings.AddRange(
            (
                await all.Where(a =>
                        a.Booking != null
                        && a.Booking.CustomerId != null
                        && a.Booking.CustomerId != a.Raising.CustomerId
                    )
                    .Select(a => a.Raising.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: was set against something by another customer's booking")
        );
        findings.AddRange(
            (
                await all.Where(a =>
                        a.EndedBy != null && a.Until != (a.EndedBy.Date < a.Date ? a.Date : a.EndedBy.Date)
                    )
                    .Select(a => a.Raising.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: an allocation ends on another day than what took it apart")
        );
        // What set two against each other is dated by its day, or by the later of the two where that is after it.
        findings.AddRange(
            (
                await all.Where(a => a.Booking != null && a.Date < a.Booking.Date)
                    .Select(a => a.Raising.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: an allocation is dated before what made it")
        );
        findings.AddRange(
            (
                await all.Where(a =>
                        a.Booking != null
                        && a.Until == null
                        && a.Date > a.Booking.Date
                        && a.Date > a.Raising.Date
                        && a.Date > a.Lowering.Date
                        && !all.Any(e =>
                            e.Until == a.Date && (e.RaisingId == a.RaisingId || e.LoweringId == a.LoweringId)
                        )
                    )
                    .Select(a => a.Raising.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: an allocation is dated after what made it")
        );
    }

    private async Task DocumentsAsync(Findings findings, CancellationToken stop)
    {
        var home = await db.Businesses.Select(b => b.HomeCurrency).FirstOrDefaultAsync(stop);
        var items = await (
            from item in db.AccountItems
            join document in db.Documents on item.DocumentId equals document.Id
            select new
            {
                item,
                document.Kind,
                document.Number,
                document.Date,
                document.DueDate,
                document.CustomerId,
                document.Currency,
                document.Payable,
                document.ExchangeRate,
                document.State,
            }
        ).ToListAsync(stop);
        foreach (var row in items)
        {
            var item = row.item;
            var kind = row.Kind switch
            {
                DocumentKind.CreditNote => AccountItemKind.CreditNote,
                DocumentKind.DebitNote => AccountItemKind.DebitNote,
                _ => AccountItemKind.Invoice,
            };
            findings.Unless(
                item.Amount == row.Payable,
                $"{row.Number}: is not on the customer's account with its amount"
            );
            findings.Unless(
                (item.Kind, item.Number, item.Date, item.Due, item.CustomerId)
                    == (kind, row.Number, row.Date, row.DueDate ?? row.Date, row.CustomerId)
                    && item.Currency.Equals(row.Currency),
                $"{row.Number}: is not on the customer's account as it was issued"
            );
            if (home is not null)
                findings.Unless(
                    item.HomeAmount == HomeAmount.Of(row.Payable, row.Currency, row.ExchangeRate, home),
                    $"{row.Number}: its home amount does not follow from its rate"
                );
            findings.Unless(
                item.ReceiptId is null && item.BookingId is null,
                $"{row.Number}: stands on the account for something else too"
            );
            findings.Unless(
                (item.Open == 0) == (row.State is DocumentState.Settled or DocumentState.Cancelled),
                $"{row.Number}: its state is {row.State}, with {Findings.Text(item.Open, row.Currency)} open"
            );
        }

        findings.AddRange(
            items
                .GroupBy(i => i.item.DocumentId)
                .Where(g => g.Count() > 1)
                .Select(g => $"{g.First().Number}: stands on the account {g.Count()} times")
        );
        var without = await db
            .Documents.Where(d =>
                d.Number != null
                && d.State != DocumentState.Draft
                && (
                    d.Kind == DocumentKind.Invoice
                    || d.Kind == DocumentKind.CreditNote
                    || d.Kind == DocumentKind.DebitNote
                )
                && !db.AccountItems.Any(i => i.DocumentId == d.Id)
            )
            .Select(d => d.Number)
            .ToListAsync(stop);
        findings.AddRange(without.Select(n => $"{n}: is not on the customer's account with its amount"));
    }

    /// <summary>
    /// What moved on a money account is in its currency, at a rate of it; of one currency with what it pays, it is that
    /// with the charge.
    /// </summary>
    private static void MoneyIs(
        Findings findings,
        string number,
        MoneySide money,
        long adds,
        Currency currency,
        long amount
    )
    {
        findings.Unless(
            money.Amount >= 0 && money.Charge >= 0 && (money.Charge > 0) == (money.ChargeAccountId is not null),
            $"{number}: what moved on the money account, or its charge, cannot be"
        );
        if (currency.Equals(money.Currency))
            findings.Unless(
                money.Amount - adds == amount,
                $"{number}: what moved on the money account is not what was given"
            );
    }

    private async Task ReceiptsAsync(Findings findings, CancellationToken stop)
    {
        var home = await db.Businesses.Select(b => b.HomeCurrency).FirstOrDefaultAsync(stop);
        var receipts = await db.Receipts.Where(r => !r.IsUndone).ToListAsync(stop);
        var items = (await db.AccountItems.Where(i => i.ReceiptId != null).ToListAsync(stop)).ToLookup(i =>
            i.ReceiptId!.Value
        );
        foreach (var receipt in receipts)
        {
            if (items[receipt.Id].ToList() is not [var item])
            {
                findings.Add($"{receipt.Number}: is not on the customer's account once with its amount");
                continue;
            }

            findings.Unless(
                item.Amount == receipt.Amount,
                $"{receipt.Number}: is not on the customer's account with its amount"
            );
            findings.Unless(
                (item.Kind, item.Number, item.Date, item.CustomerId, item.BookingId)
                    == (AccountItemKind.Receipt, receipt.Number, receipt.Date, receipt.CustomerId, receipt.BookingId)
                    && item.Currency.Equals(receipt.Currency),
                $"{receipt.Number}: is not on the customer's account as it was posted"
            );
            if (home is not null)
                findings.Unless(
                    item.HomeAmount == receipt.Money.HomeWithCharge(home),
                    $"{receipt.Number}: its home amount does not follow from what arrived"
                );
            MoneyIs(findings, receipt.Number, receipt.Money, -receipt.Money.Charge, receipt.Currency, receipt.Amount);
            findings.Unless(
                receipt.CameOn is null || receipt.CameOn < receipt.Date,
                $"{receipt.Number}: came after the day on which it counts"
            );
        }

        findings.Count("receipts", receipts.Count);
        findings.AddRange(
            (
                await db
                    .Receipts.Where(r => r.IsUndone && r.Booking != null && r.Booking.UndoneOn == null)
                    .Select(r => r.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: is undone, and its booking is not")
        );
        findings.AddRange(
            (
                await db
                    .Receipts.Where(r => !r.IsUndone && r.Booking != null && r.Booking.UndoneOn != null)
                    .Select(r => r.Number)
                    .ToListAsync(stop)
            ).Select(n => $"{n}: its booking is undone, and it is not")
        );
    }
}
