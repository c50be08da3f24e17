using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Returns;
using Jugaad.Desk.Books;
using Jugaad.Desk.Reference;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Something taken over on a customer's account, as it should have been. Amounts are minor units of its currency.
/// </summary>
/// <param name="Rate">Home currency for one unit; null to keep that at which it was taken over.</param>
public sealed record OpeningItemToPutRight(
    int ItemId,
    string Number,
    DateOnly Date,
    DateOnly? Due,
    long Amount,
    decimal? Rate,
    string Reason,
    string? FormKey = null
);

/// <summary>Something taken over, to be looked at.</summary>
public sealed record OpeningItemRow(AccountItem Item, string Customer);

/// <summary>A balance taken over on a ledger account.</summary>
/// <param name="Amount">Minor units of the home currency; above zero for a debit.</param>
public sealed record OpeningBalanceRow(int EntryId, string Account, DateOnly Date, long Amount);

/// <summary>
/// Puts right, or takes out, what was taken over from other books: the entry that took it over is taken back by one the
/// other way round, and another is made. What was closed since stays closed.
/// </summary>
public sealed class OpeningDesk(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    SpokenOf spoken,
    TaxPlaces places,
    RateBook rates
)
{
    /// <summary>What was taken over on customers' accounts, by customer.</summary>
    public async Task<IReadOnlyList<OpeningItemRow>> ItemsAsync(
        string search,
        int most,
        CancellationToken stop = default
    )
    {
        var rows =
            from item in db.AccountItems.AsNoTracking()
            where item.DocumentId == null && item.ReceiptId == null && item.BookingId == null
            join customer in db.Customers on item.CustomerId equals customer.Id
            select new { item, customer.Name };
        if (search.Trim().Length > 0)
        {
            var pattern = SearchText.Anywhere(search);
            rows = rows.Where(r =>
                EF.Functions.Like(r.item.Number, pattern, "\\") || EF.Functions.Like(r.Name, pattern, "\\")
            );
        }

        return (
            await rows.OrderBy(r => r.Name).ThenBy(r => r.item.Date).ThenBy(r => r.item.Id).Take(most).ToListAsync(stop)
        ).ConvertAll(r => new OpeningItemRow(r.item, r.Name));
    }

    /// <summary>What was taken over on ledger accounts.</summary>
    public async Task<IReadOnlyList<OpeningBalanceRow>> BalancesAsync(CancellationToken stop = default)
    {
        var opening = await OpeningAsync(stop);
        return (
            await (
                from entry in db.Journal.AsNoTracking()
                where entry.Event == JournalEvent.OpeningBalance && !entry.IsMirrored
                from line in entry.Lines
                where line.AccountId != opening
                join account in db.LedgerAccounts on line.AccountId equals account.Id
                orderby account.Code
                select new
                {
                    entry.Id,
                    Account = account.Code + " " + account.Name,
                    entry.Date,
                    Amount = line.Debit - line.Credit,
                }
            ).ToListAsync(stop)
        ).ConvertAll(b => new OpeningBalanceRow(b.Id, b.Account, b.Date, b.Amount));
    }

    /// <exception cref="RefusalException">When something is set against it, its number is used, or its day is
    /// closed.</exception>
    public Task<int> PutItemRightAsync(OpeningItemToPutRight typed, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Money,
            new Once(typed.FormKey, stop),
            async () =>
            {
                var item = await ItemAsync(typed.ItemId, stop);
                var (business, number) = (await head.BusinessAsync(stop), typed.Number.Trim());
                var refusals = new Refusals();
                Texts.Required(refusals, "number", number, 40, "Give the number of the invoice or credit.");
                Texts.Required(refusals, "reason", typed.Reason, 200, "Say why it is put right; the trail keeps it.");
                if (typed.Date.Year is < 1990 or > 2199)
                    refusals.Add("date", "Give a date between 1990 and 2199.");
                if (typed.Rate is <= 0 or > 1_000_000)
                    refusals.Add("rate", "Give a rate above zero, at most 1000000.");
                if (
                    await db.AccountItems.AnyAsync(
                        i =>
                            i.Id != item.Id
                            && i.Kind == item.Kind
                            && i.Number == number
                            && (
                                i.CustomerId == item.CustomerId
                                || i.DocumentId != null
                                || i.Kind == AccountItemKind.Invoice
                            ),
                        stop
                    )
                )
                    refusals.Add(
                        "number",
                        $"There is {item.Kind.Word()} {number} in the books already. Give another number."
                    );
                refusals.ThrowIfAny();
                Phrase was =
                    $"{item.Number} of {item.Date:yyyy-MM-dd}, {new Money(item.Amount, item.Currency)} {item.Currency}";
                var rate =
                    typed.Rate
                    ?? (
                        item.Currency.Equals(business.HomeCurrency) || item.Amount == 0
                            ? 1
                            : Math.Round(
                                new Money(item.HomeAmount, business.HomeCurrency).Units
                                    / new Money(item.Amount, item.Currency).Units,
                                10
                            )
                    );
                var before = item.HomeAmount;
                var taxes = await db.TaxFigures.Where(f => f.ItemId == item.Id).ToListAsync(stop);
                var address = await db
                    .Customers.AsNoTracking()
                    .Where(c => c.Id == item.CustomerId)
                    .Select(c => c.Address)
                    .SingleAsync(stop);
                var opening = await OpeningTaxes.ReadAsync(db, business, await head.TodayAsync(stop), stop);
                var code = opening.CodeBehind(item, taxes, address);
                await TakeBackAsync(item, stop);
                item.PutRight(number, typed.Date, typed.Due ?? typed.Date, typed.Amount, rate, business.HomeCurrency);
                if (taxes.Count > 0 && code is null && item.HomeAmount != before)
                    throw new RefusalException(
                        "amount",
                        "Its tax cannot be worked out anew, since no tax code gives what it has. Take it out, and move it in again with its code."
                    );
                var again = code is null ? TaxFigures.Again(taxes, item) : opening.Of(item, code, address);
                db.TaxFigures.RemoveRange(taxes);
                db.TaxFigures.AddRange(again);
                db.Journal.Add(
                    PostingRules.ForOpeningItem(
                        item,
                        await OfAsync(AccountRole.Receivables, stop),
                        await OpeningAsync(stop),
                        business.HomeCurrency,
                        await OfAsync(AccountRole.TaxOwed, stop),
                        again.Sum(f => f.Tax)
                    )
                );
                await writer.SaveAsync(stop);
                await places.PlaceAsync(db.TaxFigures.Where(f => f.ItemId == item.Id), stop);
                if (business.ClosedUpTo is { } closed && item.Date <= closed)
                    throw new RefusalException(
                        "date",
                        $"The books are closed up to {closed:yyyy-MM-dd}. Give a later date, or open them again under Setup."
                    );
                await writer.TrailAsync(
                    $"Taken over, put right: {was} → {item.Number} of {item.Date:yyyy-MM-dd}, {new Money(item.Amount, item.Currency)} {item.Currency}: {typed.Reason.Trim()}",
                    item.CustomerId
                );
                return item.Id;
            }
        );

    /// <summary>Takes it off the account, as if it had not been taken over.</summary>
    /// <exception cref="RefusalException">When something was set against it, or its day is closed.</exception>
    public Task<int> TakeItemOutAsync(int itemId, string reason, Once once = default) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var item = await ItemAsync(itemId, stop);
                if (reason.Trim().Length is 0 or > 200)
                    throw new RefusalException("reason", "Say in a few words why it is taken out; the trail keeps it.");
                if (
                    await db
                        .Allocations.IgnoreQueryFilters()
                        .AnyAsync(a => a.RaisingId == itemId || a.LoweringId == itemId, stop)
                )
                    throw new RefusalException(
                        "",
                        $"Something is, or was, set against {item.Number}, so it stays in the books. Put its amount right, or write it off."
                    );
                if ((await spoken.AmongAsync([itemId], stop)).Count > 0)
                    throw new RefusalException(
                        "",
                        $"{item.Number} {SpokenOf.Why}, so it stays in the books. Put its amount right, or write it off."
                    );
                await TakeBackAsync(item, stop);
                db.AccountItems.Remove(item);
                await writer.TrailAsync(
                    $"Taken over and taken out again: {item.Number} of {item.Date:yyyy-MM-dd}, {new Money(item.Amount, item.Currency)} {item.Currency}: {reason.Trim()}",
                    item.CustomerId
                );
                return itemId;
            }
        );

    /// <summary>Puts the opening balance of a ledger account right; an amount of zero takes it out.</summary>
    /// <param name="amount">Minor units of the account's currency; above zero for a debit.</param>
    /// <returns>The id of the entry that was taken back.</returns>
    /// <exception cref="RefusalException">When it is not there any more, or a day is closed.</exception>
    public Task<int> PutBalanceRightAsync(
        int entryId,
        DateOnly date,
        long amount,
        string reason,
        Once once = default
    ) =>
        writer.WriteAsync(
            Right.Money,
            once,
            async stop =>
            {
                var opening = await OpeningAsync(stop);
                var entry =
                    await db
                        .Journal.Include(e => e.Lines)
                        .SingleOrDefaultAsync(
                            e => e.Id == entryId && e.Event == JournalEvent.OpeningBalance && !e.IsMirrored,
                            stop
                        )
                    ?? throw new RefusalException(
                        "",
                        "This opening balance was put right already. Load the page again."
                    );
                var refusals = new Refusals();
                if (date.Year is < 1990 or > 2199)
                    refusals.Add("date", "Give a date between 1990 and 2199.");
                Texts.Required(refusals, "reason", reason, 200, "Say why it is put right; the trail keeps it.");
                refusals.ThrowIfAny();
                var line = entry.Lines.Single(l => l.AccountId != opening);
                var account = await db.LedgerAccounts.SingleAsync(a => a.Id == line.AccountId, stop);
                await TakeBackAsync(entry, stop);
                var home = (await head.BusinessAsync(stop)).HomeCurrency;
                var currency = account.Currency ?? home;
                if (amount != 0)
                    db.Journal.Add(
                        PostingRules.ForOpeningBalance(
                            account,
                            date,
                            amount,
                            await rates.OfAsync(currency, date, RateUse.Money, stop),
                            home,
                            opening
                        )
                    );
                await writer.TrailAsync(
                    $"Opening balance of {account.Code} {account.Name} {(amount == 0 ? "taken out" : "put right")}: {new Money(line.OriginalAmount ?? line.Debit - line.Credit, currency)} on {entry.Date:yyyy-MM-dd}{(amount == 0 ? "" : (Phrase)$" → {new Money(amount, currency)} on {date:yyyy-MM-dd}")}: {reason.Trim()}"
                );
                return entryId;
            }
        );

    private async Task TakeBackAsync(JournalEntry entry, CancellationToken stop)
    {
        db.Journal.Add(entry.Mirror());
        await writer.SaveAsync(stop);
    }

    private async Task<AccountItem> ItemAsync(int id, CancellationToken stop) =>
        await db.AccountItems.SingleOrDefaultAsync(
            i => i.Id == id && i.DocumentId == null && i.ReceiptId == null && i.BookingId == null,
            stop
        ) ?? throw new RefusalException("", "This is not there any more, or was not taken over from other books.");

    /// <summary>Takes back what took an item over, and what moved its tax since.</summary>
    private async Task TakeBackAsync(AccountItem item, CancellationToken stop)
    {
        foreach (
            var entry in await db
                .Journal.Include(e => e.Lines)
                .Where(e => e.ItemId == item.Id && !e.IsMirrored)
                .OrderBy(e => e.Id)
                .ToListAsync(stop)
        )
            db.Journal.Add(entry.Mirror());
        await writer.SaveAsync(stop);
    }

    private Task<int> OpeningAsync(CancellationToken stop) => OfAsync(AccountRole.OpeningBalances, stop);

    private Task<int> OfAsync(AccountRole role, CancellationToken stop) =>
        db.LedgerAccounts.Where(a => a.Role == role).OrderBy(a => a.Id).Select(a => a.Id).FirstAsync(stop);
}
