using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Journal;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Setup;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Counter;

/// <summary>A part of a counter sale's money.</summary>
/// <param name="AccountId">Where it came in: the cash box, the card terminal, another way.</param>
/// <param name="Amount">Minor units; null for all that is left.</param>
public sealed record CounterPart(int AccountId, long? Amount);

/// <summary>A sale at the counter.</summary>
/// <param name="CustomerId">Null for nobody in particular.</param>
/// <param name="Content">The lines; date, terms and customer are set by the counter.</param>
/// <param name="Parts">One or two ways of paying; none only where a known customer takes it on account.</param>
/// <param name="Given">What was handed over in cash, in minor units; null for exactly what is due.</param>
public sealed record CounterSale(
    int? CustomerId,
    DraftContent Content,
    IReadOnlyList<CounterPart> Parts,
    long? Given,
    bool OnAccount,
    string? FormKey = null
)
{
    /// <summary>What stands in the customer's field where nobody was chosen.</summary>
    public string Typed { get; init; } = "";
}

/// <summary>What a counter sale comes to. Amounts are minor units.</summary>
/// <param name="Cash">What is due in cash.</param>
/// <param name="Left">What no way of paying covers yet.</param>
public sealed record CounterBill(
    Document Document,
    IReadOnlyList<(int AccountId, long Amount)> Paid,
    long Cash,
    long? Change,
    long Left
)
{
    /// <summary>What is worth a second look.</summary>
    public IReadOnlyList<Refusal> Warnings { get; init; } = [];
}

/// <summary>Sells at the counter: an invoice that is paid on the spot, in one transaction with its money.</summary>
public sealed class CounterSales(
    BooksContext db,
    BookWriter writer,
    BooksHead head,
    Drafts drafts,
    IssuingDesk issuing,
    Receipts receipts,
    CustomersDesk customers,
    DraftWarnings warnings
)
{
    /// <summary>What the sale would come to, without making it.</summary>
    /// <exception cref="RefusalException">With what cannot be, each by its field.</exception>
    public async Task<CounterBill> ReckonAsync(CounterSale sale, CancellationToken stop = default)
    {
        if (sale.CustomerId is not null || (await head.BusinessAsync(stop)).CounterCustomerId is not null)
            return await TryOutAsync(sale, stop);
        // The very first sale without a name is reckoned with a customer who is not kept: only a sale itself writes.
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        try
        {
            return await TryOutAsync(sale, stop);
        }
        finally
        {
            await transaction.RollbackAsync(CancellationToken.None);
            db.ChangeTracker.Clear();
            head.Forget();
        }
    }

    private async Task<CounterBill> TryOutAsync(CounterSale sale, CancellationToken stop)
    {
        var content = await ContentAsync(sale, await CustomerAsync(sale.CustomerId, stop), stop);
        var document = await drafts.TryOutAsync(DocumentKind.Invoice, content, null, stop);
        // Who pays on the spot owes nothing by it.
        var said = (await warnings.OfAsync(document, null, stop))
            .Where(w => sale.OnAccount || w.Field != "customer")
            .ToList();
        return await BillAsync(document, sale, stop) with { Warnings = said };
    }

    /// <returns>The invoice's id.</returns>
    /// <exception cref="RefusalException">When the money does not cover it, or nobody known would owe it.</exception>
    public Task<int> SellAsync(CounterSale sale, CancellationToken stop = default) =>
        writer.WriteAsync(
            Right.Issue,
            new Once(sale.FormKey, stop),
            async () =>
            {
                if (!sale.OnAccount)
                    writer.Must(Right.Money);
                if (sale.CustomerId is null && sale.Typed.Trim().Length > 0)
                    throw new RefusalException(
                        "customer",
                        $"“{sale.Typed.Trim()}” was typed and no customer is chosen. Choose one from the list, or empty the field for nobody in particular."
                    );
                var customer = await CustomerAsync(sale.CustomerId, stop);
                var made = await drafts.MakeAsync(
                    DocumentKind.Invoice,
                    await ContentAsync(sale, customer, stop),
                    null,
                    "Sold at the counter",
                    stop
                );
                var bill = await BillAsync(made, sale, stop);
                if (sale.OnAccount)
                {
                    if (sale.CustomerId is null)
                        throw new RefusalException(
                            "customer",
                            "Only a known customer can take it on account. Choose one, or take the money now."
                        );
                    if (customer.NoMoreOnAccount)
                        throw new RefusalException(
                            "customer",
                            $"{customer.Name} gets nothing more on account{(customer.NoMoreReason.Length > 0 ? $" ({customer.NoMoreReason})" : "")}. Take the money now."
                        );
                }
                else if (bill.Left != 0)
                    throw new RefusalException(
                        "parts",
                        $"{new Money(bill.Left, made.Currency)} is not paid yet. Take it, choose a second way, or let a known customer take it on account."
                    );
                if (bill.Change < 0)
                    throw new RefusalException(
                        "given",
                        $"{new Money(sale.Given ?? 0, made.Currency)} is {new Money(-bill.Change.Value, made.Currency)} less than the {new Money(bill.Cash, made.Currency)} due in cash."
                    );
                made.PaidAtCounter(await WordsAsync(bill, made.Currency, stop));
                await issuing.IssueAsync(made.Id, made.Version, null, stop);
                var item = await db.AccountItems.SingleAsync(i => i.DocumentId == made.Id, stop);
                foreach (var (account, amount) in bill.Paid.Where(p => p.Amount > 0))
                    await receipts.PostAsync(
                        new ReceiptToPost(
                            customer.Id,
                            made.Date,
                            account,
                            amount,
                            "at the counter",
                            [(item.Id, amount)]
                        ),
                        stop
                    );
                return made.Id;
            }
        );

    private async Task<DraftContent> ContentAsync(CounterSale sale, Customer customer, CancellationToken stop)
    {
        var business = await head.BusinessAsync(stop);
        var today = await head.TodayAsync(stop);
        if (!sale.OnAccount && !customer.Currency.Equals(business.HomeCurrency))
            throw new RefusalException(
                "customer",
                $"{customer.Name} is billed in {customer.Currency}, and the counter takes {business.HomeCurrency}. Let it go on account, or sell it to nobody in particular."
            );
        var (step, exactly) = sale.OnAccount
            ? (null, 0)
            : await CashAsync(sale, business.CashStep, business.HomeCurrency, stop);
        return sale.Content with
        {
            CustomerId = customer.Id,
            Date = today,
            TaxDate = null,
            // What is paid on the spot is due on the spot.
            DueDate = sale.OnAccount ? null : today,
            ValidUntil = null,
            // Handed over here, so the rate of this place applies, whoever buys.
            PlaceId = 0,
            CashStep = step,
            PaidExactly = exactly,
        };
    }

    /// <summary>Only what is paid in cash is rounded; a card takes every cent.</summary>
    private async Task<(long? Step, long Exactly)> CashAsync(
        CounterSale sale,
        long? step,
        Currency currency,
        CancellationToken stop
    )
    {
        var boxes = await db.LedgerAccounts.Where(a => a.Kind == MoneyKind.Cash).Select(a => a.Id).ToListAsync(stop);
        if (step is not { } least || !sale.Parts.Any(p => boxes.Contains(p.AccountId)))
            return (null, 0);
        foreach (var part in sale.Parts.Where(p => boxes.Contains(p.AccountId) && p.Amount % least is not (null or 0)))
            throw new RefusalException(
                "parts",
                $"Cash is paid in steps of {new Money(least, currency)}, so {new Money(part.Amount!.Value, currency)} cannot be. Give a multiple of that."
            );
        // Where the other way takes the rest, it takes every cent of it.
        return sale.Parts.Any(p => !boxes.Contains(p.AccountId) && p.Amount is null)
            ? (null, 0)
            : (step, sale.Parts.Where(p => !boxes.Contains(p.AccountId)).Sum(p => p.Amount ?? 0));
    }

    /// <summary>
    /// Shares what is to be paid out over the ways: those with an amount first, the one without takes the rest.
    /// </summary>
    private async Task<CounterBill> BillAsync(Document document, CounterSale sale, CancellationToken stop)
    {
        if (sale.OnAccount)
            return new CounterBill(document, [], 0, null, document.Payable);
        if (sale.Parts.Count > 2)
            throw new RefusalException("parts", "A sale is paid in at most two ways.");
        if (sale.Parts.Any(p => p.Amount < 0))
            throw new RefusalException("parts", "An amount cannot be below zero.");
        if (sale.Parts.Count == 2 && sale.Parts[0].AccountId == sale.Parts[1].AccountId)
            throw new RefusalException("parts", "Choose two different ways, or only one.");
        var left = document.Payable - sale.Parts.Sum(p => p.Amount ?? 0);
        if (left < 0)
            throw new RefusalException(
                "parts",
                $"That is {new Money(-left, document.Currency)} more than the {new Money(document.Payable, document.Currency)} due. Lower a part; change is given on cash only."
            );
        var paid = new List<(int, long)>();
        foreach (var part in sale.Parts)
        {
            var amount = part.Amount ?? left;
            if (part.Amount is null)
                left = 0;
            paid.Add((part.AccountId, amount));
        }

        var boxes = await db.LedgerAccounts.Where(a => a.Kind == MoneyKind.Cash).Select(a => a.Id).ToListAsync(stop);
        var cash = paid.Where(p => boxes.Contains(p.Item1)).Sum(p => p.Item2);
        return new CounterBill(document, paid, cash, sale.Given is { } given && cash > 0 ? given - cash : null, left);
    }

    private async Task<string> WordsAsync(CounterBill bill, Currency currency, CancellationToken stop)
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var names = await db.LedgerAccounts.ToDictionaryAsync(
            a => a.Id,
            a =>
                a.Kind == MoneyKind.Cash ? "Cash"
                : a.Kind == MoneyKind.CardClearing ? "Card"
                : a.Name,
            stop
        );
        var parts = bill
            .Paid.Where(p => p.Amount > 0)
            .Select(p => $"{names[p.AccountId]} {format.Amount(p.Amount, currency)}")
            .ToList();
        if (bill.Change > 0)
            parts.Add(
                $"given {format.Amount(bill.Cash + bill.Change.Value, currency)}, change {format.Amount(bill.Change.Value, currency)}"
            );
        return string.Join(" · ", parts);
    }

    /// <summary>The customer that was chosen, or the one who stands for all without a name.</summary>
    private async Task<Customer> CustomerAsync(int? id, CancellationToken stop)
    {
        if (id is { } known)
            return await db.Customers.SingleOrDefaultAsync(c => c.Id == known, stop)
                ?? throw new RefusalException("customer", "Choose a customer, or leave it empty.");
        var business = await head.BusinessAsync(stop);
        if (business.CounterCustomerId is { } there)
            return await db.Customers.SingleAsync(c => c.Id == there, stop);
        var made = 0;
        await writer.WriteAsync(
            Right.Issue,
            stop,
            async () =>
            {
                made = await customers.SaveAsync(
                    null,
                    0,
                    new CustomerDetails
                    {
                        Code = "COUNTER",
                        Name = "Counter",
                        Kind = CustomerKind.Consumer,
                        Currency = business.HomeCurrency.Code,
                        Address = new Address("", "", "", business.Address.Country),
                        TermsId = business.DefaultTermsId,
                    },
                    stop
                );
                (await head.BusinessAsync(stop)).SetCounterCustomer(made);
                return made;
            }
        );
        return await db.Customers.SingleAsync(c => c.Id == made, stop);
    }
}
