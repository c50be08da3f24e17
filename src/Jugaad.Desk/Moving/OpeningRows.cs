using Jugaad.Core;
using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Journal;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Moving;

/// <summary>
/// Takes what customers owed, or had as credit, when the business moved in. Each stands on the customer's account with
/// its own number, date and due day, and in the journal against opening balances. A number that a customer has already
/// is not taken twice. Where an authority is told by payment, its tax is still to be told as it is paid, so that it comes
/// along.
/// </summary>
/// <param name="today">The day on which it is taken over.</param>
internal sealed class OpenItemRows(BooksContext db, Business business, DateOnly today) : RowTaker(db)
{
    private Dictionary<string, Customer> _byCode = [];
    private Dictionary<string, Customer> _byName = [];
    private Dictionary<string, IReadOnlyList<Customer>> _namesakes = [];
    private Dictionary<(int, string), AccountItem> _items = [];
    private HashSet<(AccountItemKind, string)> _numbers = [];
    private ILookup<Currency, ExchangeRate> _rates = null!;
    private int _receivables;
    private int _opening;
    private OpeningTaxes _taxes = null!;

    internal override async Task PrepareAsync(CancellationToken stop)
    {
        _taxes = await OpeningTaxes.ReadAsync(Db, business, today, stop);
        var customers = await Db
            .Customers.AsNoTracking()
            .Include(c => c.Terms)
            .Where(c => c.MergedIntoId == null)
            .OrderBy(c => c.Id)
            .ToListAsync(stop);
        (_byCode, _byName, _namesakes) = (
            ByName(customers, c => c.Code),
            ByName(customers, c => c.Name),
            Namesakes(customers)
        );
        _items = (await Db.AccountItems.AsNoTracking().Where(i => i.Kind != AccountItemKind.Receipt).ToListAsync(stop))
            .GroupBy(i => (i.CustomerId, i.Number))
            .ToDictionary(g => g.Key, g => g.First());
        // An invoice's number is one of its kind in the books, whoever it was to; so is that of a credit note that was
        // issued here.
        _numbers = (
            await Db
                .AccountItems.AsNoTracking()
                .Where(i => i.DocumentId != null || i.Kind == AccountItemKind.Invoice)
                .Select(i => new { i.Kind, i.Number })
                .ToListAsync(stop)
        )
            .Select(i => (i.Kind, i.Number))
            .ToHashSet();
        _rates = (await Db.ExchangeRates.AsNoTracking().ToListAsync(stop)).ToLookup(r => r.Currency);
        _receivables = await OfAsync(AccountRole.Receivables, stop);
        _opening = await OfAsync(AccountRole.OpeningBalances, stop);
    }

    internal override RowFate Take(RowCells row)
    {
        if (
            !_byCode.TryGetValue(row.Text("customer"), out var customer)
            && _namesakes.TryGetValue(row.Text("customer"), out var several)
        )
            throw new RefusalException("customer", WhichOf(several));
        customer ??= _byName.GetValueOrDefault(row.Text("customer"));
        if (row.Text("customer").Length == 0)
            row.Refused.Add("customer", "Give the customer's code or name.");
        else if (customer is null)
            row.Refused.Add(
                "customer",
                $"There is no customer “{row.Text("customer")}” in the books. Move the customers in first, or correct the cell."
            );
        Texts.Required(row.Refused, "number", row.Text("number"), 40, "Give the number of the invoice or credit.");
        if (row.Text("date").Length == 0)
            row.Refused.Add("date", "Give the date.");
        if (row.Text("open").Length == 0)
            row.Refused.Add("open", "Give the amount that is open.");
        var (date, due) = (row.Date("date"), row.Date("due"));
        if (date is { Year: < 1990 or > 2199 })
            row.Refused.Add("date", "Give a date between 1990 and 2199.");
        Closed(row, date, business);
        var credit = row.Choice(
            "kind",
            false,
            (
                false,
                [
                    "invoice",
                    "inv",
                    "debit note",
                    "debit",
                    "rechnung",
                    "facture",
                    "factura",
                    "fattura",
                    "fatura",
                    "factuur",
                    "faktura",
                    "arve",
                    "lasku",
                ]
            ),
            (
                true,
                [
                    "credit",
                    "credit note",
                    "crn",
                    "payment",
                    "deposit",
                    "prepayment",
                    "gutschrift",
                    "avoir",
                    "abono",
                    "nota di credito",
                    "nota de crédito",
                    "creditnota",
                    "korekta",
                    "kreeditarve",
                    "hyvityslasku",
                    "kreditfaktura",
                ]
            )
        );
        var rate = row.Figure("exchange rate", 10);
        row.Refused.ThrowIfAny();
        var currency = customer!.Currency;
        row.Refused.Try(() => currency = customer.BilledIn(row.Text("currency").ToUpperInvariant()));
        var code = _taxes.CodeOf(row);
        var open = row.Amount("open", currency) ?? 0;
        row.Refused.ThrowIfAny();
        if (open == 0)
            throw new RefusalException("open", "Nothing is open, so there is nothing to take over. Leave the row out.");
        return Post(
            customer,
            currency,
            credit || open < 0,
            Math.Abs(open),
            row.Text("number"),
            date!.Value,
            due,
            rate,
            code
        );
    }

    private RowFate Post(
        Customer customer,
        Currency currency,
        bool credit,
        long amount,
        string number,
        DateOnly date,
        DateOnly? due,
        decimal typedRate,
        TaxCode? code
    )
    {
        if (_items.TryGetValue((customer.Id, number), out var there))
        {
            if (there.DocumentId is null && there.Amount == amount && there.Raises != credit && there.Date == date)
                return RowFate.Same;
            throw new RefusalException(
                "number",
                $"{customer.Name} has {number} already, of {there.Date:yyyy-MM-dd} and {new Money(there.Amount, there.Currency)} {there.Currency}. Correct the row, or leave it out."
            );
        }

        var kind = credit ? AccountItemKind.CreditNote : AccountItemKind.Invoice;
        if (_numbers.Contains((kind, number)))
            throw new RefusalException(
                "number",
                $"There is {kind.Word()} {number} in the books already. Correct the row, or leave it out."
            );
        if (!credit)
            _numbers.Add((kind, number));
        var rate =
            currency.Equals(business.HomeCurrency) ? 1
            : typedRate > 0 ? typedRate
            : _rates[currency].Where(r => r.From <= date).MaxBy(r => r.From)?.Rate
                ?? throw new RefusalException(
                    "exchange rate",
                    $"There is no exchange rate for {currency} on {date:yyyy-MM-dd}. Enter one under Setup, or give it in a column."
                );
        var item = new AccountItem(
            kind,
            customer.Id,
            number,
            date,
            credit ? date : due ?? customer.Terms?.DueOn(date) ?? date,
            currency,
            amount,
            rate,
            business.HomeCurrency
        );
        Db.AccountItems.Add(item);
        var taxes = _taxes.Of(item, code, customer.Address);
        Db.TaxFigures.AddRange(taxes);
        var entry = _taxes.Placed(
            PostingRules.ForOpeningItem(
                item,
                _receivables,
                _opening,
                business.HomeCurrency,
                _taxes.Usual,
                taxes.Sum(t => t.Tax)
            ),
            item,
            taxes
        );
        Db.Journal.Add(entry);
        Note(EffectOn.OpenItem, item, null, () => (item.Id, entry.Id));
        _items[(customer.Id, number)] = item;
        return RowFate.New;
    }

    private async Task<int> OfAsync(AccountRole role, CancellationToken stop) =>
        await Db
            .LedgerAccounts.Where(a => a.Role == role)
            .OrderBy(a => a.Id)
            .Select(a => (int?)a.Id)
            .FirstOrDefaultAsync(stop)
        ?? throw new RefusalException(
            "",
            $"The chart of accounts lacks one for {LedgerAccount.Words(role)}. Add it under Setup first."
        );
}

/// <summary>
/// Takes the opening balances of ledger accounts, each against opening balances. What customers owe comes with the open
/// invoices, so that account is refused here; an account that has its opening balance already is not given another.
/// </summary>
internal sealed class BalanceRows(BooksContext db, Business business) : RowTaker(db)
{
    private Dictionary<string, LedgerAccount> _accounts = [];
    private Dictionary<int, (DateOnly Date, long Amount)> _there = [];
    private ILookup<Currency, ExchangeRate> _rates = null!;
    private int _opening;

    internal override async Task PrepareAsync(CancellationToken stop)
    {
        _accounts = ByName(await Db.LedgerAccounts.AsNoTracking().ToListAsync(stop), a => a.Code);
        _opening =
            _accounts.Values.FirstOrDefault(a => a.Role == AccountRole.OpeningBalances)?.Id
            ?? throw new RefusalException(
                "",
                "The chart of accounts lacks one for opening balances. Add it under Setup first."
            );
        var entries = await Db
            .Journal.AsNoTracking()
            .Include(e => e.Lines)
            .Where(e => e.Event == JournalEvent.OpeningBalance && !e.IsMirrored)
            .ToListAsync(stop);
        _there = entries
            .SelectMany(e =>
                e.Lines.Where(l => l.AccountId != _opening)
                    .Select(l => (l.AccountId, e.Date, Amount: l.OriginalAmount ?? l.Debit - l.Credit))
            )
            .GroupBy(l => l.AccountId)
            .ToDictionary(g => g.Key, g => (g.First().Date, g.Sum(l => l.Amount)));
        _rates = (await Db.ExchangeRates.AsNoTracking().ToListAsync(stop)).ToLookup(r => r.Currency);
    }

    internal override RowFate Take(RowCells row)
    {
        var account = Pointed(row, "account", _accounts, "is no ledger account");
        if (row.Text("account").Length == 0)
            row.Refused.Add("account", "Give the account's number.");
        if (row.Text("date").Length == 0)
            row.Refused.Add("date", "Give the date of the balance.");
        var date = row.Date("date");
        if (date is { Year: < 1990 or > 2199 })
            row.Refused.Add("date", "Give a date between 1990 and 2199.");
        Closed(row, date, business);
        // A balance in another currency comes home at the rate of its day.
        var currency = account?.Currency ?? business.HomeCurrency;
        var amount = (row.Amount("debit", currency) ?? 0) - (row.Amount("credit", currency) ?? 0);
        row.Refused.ThrowIfAny();
        if (account!.Role == AccountRole.Receivables)
            throw new RefusalException(
                "account",
                "What customers owe comes with the open invoices and credits. Move those in, and leave this row out."
            );
        if (account.Id == _opening)
            throw new RefusalException(
                "account",
                "The account of opening balances is the other side of every row. Leave this row out."
            );
        if (amount == 0)
            throw new RefusalException(
                "debit",
                "The balance is zero, so there is nothing to take over. Leave the row out."
            );
        if (_there.TryGetValue(account.Id, out var before))
        {
            if (before == (date!.Value, amount))
                return RowFate.Same;
            throw new RefusalException(
                "account",
                $"{account.Code} {account.Name} has an opening balance of {new Money(before.Amount, currency)} on {before.Date:yyyy-MM-dd} already."
            );
        }

        var rate = account.Currency is null
            ? QuotedRate.One
            : _rates[currency].Where(r => r.From <= date).MaxBy(r => r.From)?.Rate
                ?? throw new RefusalException(
                    "account",
                    $"The account is in {currency}, and there is no exchange rate for it on {date:yyyy-MM-dd}. Enter one under Setup."
                );
        var entry = PostingRules.ForOpeningBalance(account, date!.Value, amount, rate, business.HomeCurrency, _opening);
        Db.Journal.Add(entry);
        Note(EffectOn.Balance, entry, null, () => (entry.Id, 0));
        _there[account.Id] = (date.Value, amount);
        return RowFate.New;
    }
}
