using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Receiving;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Counter;

/// <summary>
/// Invoices a sale at the counter by name, once its buyer wants that: the sale is credited as a whole, and an invoice of
/// the same goods at the same figures is issued to the customer. Its money goes along, out and in by the way in which it
/// was paid.
/// </summary>
public sealed class SalesByName(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Credits credits,
    Drafts drafts,
    IssuingDesk issuing,
    Receipts receipts,
    Refunds refunds
)
{
    /// <summary>The sale of an id.</summary>
    /// <exception cref="RefusalException">When it is no sale to nobody in particular, or something of it came back.</exception>
    public async Task<Document> FindAsync(int id, CancellationToken stop = default)
    {
        var counter = (await head.BusinessAsync(stop)).CounterCustomerId;
        var sale =
            await db.Documents.AsNoTracking().SingleOrDefaultAsync(d => d.Id == id, stop)
            ?? throw new RefusalException("", $"There is no document {id}. Look for it under Sell.");
        if (!IsNameless(sale, counter))
            throw new RefusalException(
                "",
                $"{sale.Title} is no sale at the counter to nobody in particular. Make a copy for another customer instead."
            );
        if (
            sale.State == DocumentState.Cancelled
            || await db.Documents.AnyAsync(
                d => d.FromDocumentId == id && d.Kind == DocumentKind.CreditNote && d.State != DocumentState.Cancelled,
                stop
            )
        )
            throw new RefusalException(
                "",
                $"Something of {sale.Number} came back already. Invoice what is left by hand, and credit it here."
            );
        return sale;
    }

    /// <summary>Whether a document is a sale that was paid at the counter by nobody in particular.</summary>
    /// <param name="counterCustomerId">Who stands for all without a name.</param>
    public static bool IsNameless(Document document, int? counterCustomerId) =>
        document.Kind == DocumentKind.Invoice
        && document.Number is not null
        && document.PaidWords.Length > 0
        && document.CustomerId == counterCustomerId;

    /// <returns>The id of the invoice to the customer.</returns>
    /// <exception cref="RefusalException">When the invoice would not come to what was paid, or the money cannot go
    /// along; nothing is done then.</exception>
    public Task<int> NameAsync(int saleId, int customerId, Once once = default) =>
        writer.WriteAsync(
            Right.Issue,
            once,
            async stop =>
            {
                writer.Must(Right.Money);
                var found = await FindAsync(saleId, stop);
                var customer = await CustomerAsync(customerId, found, stop);
                var paid = await PaidAsync(found, stop);
                await credits.CancelAsync(saleId, $"Invoiced by name to {customer.Name}", stop);
                var today = await head.TodayAsync(stop);
                foreach (var (item, account, amount) in paid)
                    await refunds.PayAsync(new RefundToPay(item, amount, account, today, null, found.Number!), stop);
                var made = await InvoiceAsync(await drafts.LoadAsync(saleId, stop), customer, today, stop);
                var owed = await db.AccountItems.SingleAsync(i => i.DocumentId == made.Id, stop);
                foreach (var (_, account, amount) in paid)
                    await receipts.PostAsync(
                        new ReceiptToPost(customer.Id, today, account, amount, found.Number!, [(owed.Id, amount)]),
                        stop
                    );
                await writer.TrailAsync($"Invoiced by name to {customer.Name} as {made.Number}", null, saleId);
                return made.Id;
            }
        );

    private async Task<Customer> CustomerAsync(int id, Document sale, CancellationToken stop)
    {
        var customer =
            await db.Customers.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, stop)
            ?? throw new RefusalException("customer", "Choose the customer who wants the invoice.");
        if (customer.Id == sale.CustomerId)
            throw new RefusalException("customer", "This stands for all without a name. Choose who wants the invoice.");
        if (!customer.Currency.Equals(sale.Currency))
            throw new RefusalException(
                "customer",
                $"{customer.Name} is billed in {customer.Currency}, and the sale was in {sale.Currency}. Credit it, and bill it by hand."
            );
        return customer;
    }

    /// <summary>The receipts that paid it, each with its way.</summary>
    private async Task<List<(int ItemId, int AccountId, long Amount)>> PaidAsync(Document sale, CancellationToken stop)
    {
        var paid = await (
            from allocation in db.Allocations
            where allocation.Raising.DocumentId == sale.Id
            join receipt in db.Receipts on allocation.Lowering.ReceiptId equals receipt.Id
            join account in db.LedgerAccounts on receipt.MoneyAccountId equals account.Id
            orderby allocation.Id
            select new
            {
                Item = allocation.LoweringId,
                Account = account.Id,
                account.Kind,
                account.Name,
                allocation.Amount,
            }
        ).ToListAsync(stop);
        if (paid.Sum(p => p.Amount) != sale.Payable)
            throw new RefusalException(
                "",
                $"{new Money(paid.Sum(p => p.Amount), sale.Currency)} of the {new Money(sale.Payable, sale.Currency)} of {sale.Number} is still paid by what was taken at the counter. Credit it, and bill it by hand."
            );
        if (paid.Find(p => p.Kind == MoneyKind.Bank) is { } bank)
            throw new RefusalException(
                "",
                $"It was paid into {bank.Name}, from where money goes back to an account only. Credit it, and bill it by hand."
            );
        return paid.ConvertAll(p => (p.Item, p.Account, p.Amount));
    }

    private async Task<Document> InvoiceAsync(Document sale, Customer customer, DateOnly today, CancellationToken stop)
    {
        var made = await drafts.MakeAsync(
            DocumentKind.Invoice,
            Copies.Free(sale.Content()) with
            {
                CustomerId = customer.Id,
                Date = today,
                TaxDate = null,
                DueDate = today,
                ValidUntil = null,
                SeriesId = null,
                PlaceId = 0,
                CashStep = sale.CashStep,
                PaidExactly = sale.PaidExactly,
                Particulars = sale.Particulars with { DeliveredFrom = sale.Date, DeliveredUntil = null },
            },
            null,
            $"Made of {sale.Title}, sold at the counter",
            stop
        );
        if ((made.Net, made.Tax, made.Payable) != (sale.Net, sale.Tax, sale.Payable))
            throw new RefusalException(
                "customer",
                $"For {customer.Name} it would come to {new Money(made.Payable, made.Currency)} with {new Money(made.Tax, made.Currency)} of tax, and {new Money(sale.Payable, sale.Currency)} with {new Money(sale.Tax, sale.Currency)} was paid. Credit it, and bill it by hand."
            );
        made.PaidAtCounter(sale.PaidWords);
        await issuing.IssueAsync(made.Id, made.Version, null, stop);
        return made;
    }
}
