using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Desk.Books;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Counter;

/// <summary>Goods that come back over the counter.</summary>
/// <param name="InvoiceId">The sale that they were part of.</param>
/// <param name="Back">How many come back, by the id of the invoice's line.</param>
/// <param name="GoodsStay">Whether they are not put on the shelf again.</param>
/// <param name="MoneyAccountId">The cash box or the card terminal that pays it back.</param>
public sealed record CounterReturn(
    int InvoiceId,
    IReadOnlyDictionary<int, decimal> Back,
    string Reason,
    bool GoodsStay,
    int MoneyAccountId,
    string? FormKey = null
);

/// <summary>What a return comes to. Amounts are minor units.</summary>
/// <param name="Against">What goes off what is still owed on the invoice.</param>
/// <param name="PaidBack">What goes back in money.</param>
public sealed record ReturnBill(Document Credit, long Against, long PaidBack);

/// <summary>A sale of which something may come back.</summary>
/// <param name="Left">By the id of the line: how many can come back.</param>
public sealed record SaleToReturn(Document Invoice, string Customer, IReadOnlyDictionary<int, decimal> Left, long Open);

/// <summary>
/// Takes goods back over the counter: a credit note on the sale, and the money back, in one transaction.
/// </summary>
public sealed class CounterReturns(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    LineUses uses,
    Credits credits,
    IssuingDesk issuing,
    Refunds refunds
)
{
    /// <summary>The sale of a number, as it stands on its slip.</summary>
    /// <exception cref="RefusalException">When there is none, or nothing of it can come back here.</exception>
    public async Task<SaleToReturn> FindAsync(string number, CancellationToken stop = default)
    {
        var typed = number.Trim();
        if (typed.Length == 0)
            throw new RefusalException("number", "Give the number on the slip or the invoice.");
        var invoice =
            await db
                .Documents.AsNoTracking()
                .Include(d => d.Lines)
                .Include(d => d.Customer)
                .SingleOrDefaultAsync(d => d.Kind == DocumentKind.Invoice && d.Number == typed, stop)
            ?? throw new RefusalException(
                "number",
                $"There is no invoice {typed}. Look at the slip again; without one, make a credit note of its own under Sell."
            );
        var home = (await head.BusinessAsync(stop)).HomeCurrency;
        if (invoice.State == DocumentState.Cancelled)
            throw new RefusalException("number", $"{typed} is cancelled already.");
        if (!invoice.Currency.Equals(home))
            throw new RefusalException(
                "number",
                $"{typed} is in {invoice.Currency}, and the counter pays {home}. Credit it on its page."
            );
        var found = await uses.OfAsync([.. invoice.Lines.Where(l => l.Counts).Select(l => l.Id)], null, stop);
        var open = await db.AccountItems.Where(i => i.DocumentId == invoice.Id).SumAsync(i => i.Open, stop);
        return new SaleToReturn(
            invoice,
            invoice.Customer!.Name,
            found.ToDictionary(f => f.Key, f => f.Value.Left.LeftToCredit),
            open
        );
    }

    /// <summary>What it would come to, without doing it.</summary>
    /// <exception cref="RefusalException">With what cannot be, each by its field.</exception>
    public async Task<ReturnBill> ReckonAsync(CounterReturn back, CancellationToken stop = default)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        try
        {
            return await CreditAsync(back with { Reason = back.Reason.Trim().Length == 0 ? "?" : back.Reason }, stop);
        }
        finally
        {
            await transaction.RollbackAsync(CancellationToken.None);
            db.ChangeTracker.Clear();
            head.Forget();
        }
    }

    /// <returns>The credit note's id.</returns>
    /// <exception cref="RefusalException">When more would come back than was sold, or no reason is given.</exception>
    public Task<int> TakeBackAsync(CounterReturn back, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Issue,
            new Once(back.FormKey, stop),
            async () =>
            {
                writer.Must(Right.Money);
                if (back.Reason.Trim().Length == 0)
                    throw new RefusalException("reason", "Say why it comes back; it is printed.");
                var (credit, _, paidBack) = await CreditAsync(back, stop);
                await issuing.IssueAsync(credit.Id, credit.Version, null, stop);
                await credits.SetAgainstAsync(credit, stop);
                if (paidBack == 0)
                    return credit.Id;
                var item = await db.AccountItems.SingleAsync(i => i.DocumentId == credit.Id, stop);
                await refunds.PayAsync(
                    new RefundToPay(item.Id, null, back.MoneyAccountId, credit.Date, null, "at the counter"),
                    stop
                );
                return credit.Id;
            }
        );

    private async Task<ReturnBill> CreditAsync(CounterReturn back, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var open = await db.AccountItems.Where(i => i.DocumentId == back.InvoiceId).SumAsync(i => i.Open, stop);
        var way = await db.LedgerAccounts.SingleOrDefaultAsync(
            a => a.Id == back.MoneyAccountId && a.Role == AccountRole.Money && !a.Retired,
            stop
        );
        if (way is null || way.Kind == MoneyKind.Bank)
            throw new RefusalException("back.way", "Choose the cash box or the card that the money goes back by.");
        // What only lowers a debt is no cash, and so is not rounded.
        var step = way.Kind == MoneyKind.Cash && open == 0 ? business.CashStep : null;
        var credit = await credits.PartAsync(back.InvoiceId, back.Back, back.Reason, back.GoodsStay, step, stop);
        if (!credit.Currency.Equals(business.HomeCurrency))
            throw new RefusalException(
                "number",
                $"The invoice is in {credit.Currency}, and the counter pays {business.HomeCurrency}. Credit it on its page."
            );
        var against = Math.Min(open, credit.Payable);
        return new ReturnBill(credit, against, credit.Payable - against);
    }
}
