using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Journal;

/// <summary>The accounts that posting needs to find by their role.</summary>
public sealed record PostingAccounts(
    int Receivables,
    int TaxOwed,
    int ExchangeDifferences,
    int RoundingDifferences,
    int DiscountsGiven,
    int BadDebts
);

/// <summary>One rule for each kind of event, each giving a balanced entry in home currency.</summary>
public static partial class PostingRules
{
    /// <summary>
    /// A document on the account: receivables against sales by account, tax owed, and what cash rounding adds.
    /// A credit note is the same the other way round.
    /// </summary>
    public static JournalEntry ForDocument(Document document, PostingAccounts accounts, Currency home)
    {
        // Nets by account, then each tax by itself: what a tax is in home currency is what the paper says that it is.
        var taxes = document.Taxes.OrderBy(t => t.Position).ToList();
        var nets = document
            .Lines.Select(l => (Account: l.LedgerAccountId, Amount: l.Net))
            .Concat(document.Charges.Select(c => (Account: c.LedgerAccountId, Amount: c.Net)))
            .GroupBy(s => s.Account, (account, same) => (Account: account, Amount: same.Sum(s => s.Amount)))
            .Where(s => s.Amount != 0)
            .ToList();
        var sides = nets.Select(n => (n.Account, n.Amount, Tax: (DocumentTax?)null))
            .Concat(taxes.Select(t => (Account: accounts.TaxOwed, Amount: t.Tax, Tax: (DocumentTax?)t)))
            .Append((Account: accounts.RoundingDifferences, Amount: document.Payable - document.Total, Tax: null))
            .Where(s => s.Amount != 0)
            .ToList();
        var amounts = HomeAmount.Parts(
            document.Payable,
            sides.ConvertAll(s => s.Amount),
            document.Currency,
            document.ExchangeRate,
            home,
            i => i < nets.Count
        );
        var entry = new JournalEntry(
            JournalEvent.Document,
            document.Date,
            $"{document.Policy.Title} {document.Number}",
            document.CustomerId
        );
        var sign = document.Policy.Raises;
        entry.Side(
            accounts.Receivables,
            sign * HomeAmount.Of(document.Payable, document.Currency, document.ExchangeRate, home),
            InTheirs(sign * document.Payable)
        );
        foreach (
            var (account, rate, amount, original) in sides
                .Zip(
                    amounts,
                    (s, a) =>
                        (
                            s.Account,
                            Rate: s.Tax?.ToldRate ?? document.ExchangeRate,
                            Amount: Told(s.Tax) ?? a,
                            Original: s.Amount
                        )
                )
                .GroupBy(
                    s => (s.Account, s.Rate),
                    (k, same) => (k.Account, k.Rate, same.Sum(s => s.Amount), same.Sum(s => s.Original))
                )
        )
            entry.Side(account, -sign * amount, Original.Of(document.Currency, -sign * original, rate, home));
        // What a tax is more or less at its authority's rate than at the document's.
        entry.Side(accounts.ExchangeDifferences, sign * sides.Zip(amounts, (s, a) => (Told(s.Tax) ?? a) - a).Sum());
        return entry.Balanced();

        long? Told(DocumentTax? tax) => tax is { ToldRate: not null } ? tax.HomeTax(document, home) : null;

        Original? InTheirs(long amount) => Original.Of(document.Currency, amount, document.ExchangeRate, home);
    }

    /// <summary>Money from a customer: the money account against receivables.</summary>
    public static JournalEntry ForReceipt(Receipt receipt, PostingAccounts accounts, Currency home)
    {
        var entry = new JournalEntry(
            JournalEvent.Receipt,
            receipt.Date,
            $"Receipt {receipt.Number}",
            receipt.CustomerId
        );
        return Received(entry, receipt, 1, accounts, home);
    }

    /// <summary>
    /// What arrived and what banks kept against what the payer gave; the other way round where the sign is −1.
    /// </summary>
    private static JournalEntry Received(
        JournalEntry entry,
        Receipt receipt,
        int sign,
        PostingAccounts accounts,
        Currency home
    )
    {
        var money = receipt.Money;
        var worth = money.HomeWithCharge(home);
        var arrived = HomeAmount.Of(money.Amount, money.Currency, money.Rate, home);
        entry.Side(
            receipt.MoneyAccountId,
            sign * arrived,
            Original.Of(money.Currency, sign * money.Amount, money.Rate, home)
        );
        if (money.ChargeAccountId is { } bears)
            entry.Side(
                bears,
                sign * (worth - arrived),
                Original.Of(money.Currency, sign * money.Charge, money.Rate, home)
            );
        return entry
            .Side(
                accounts.Receivables,
                -sign * worth,
                Original.Of(
                    receipt.Currency,
                    -sign * receipt.Amount,
                    RateOf(receipt.Amount, receipt.Currency, worth, money, home),
                    home
                )
            )
            .Balanced();
    }

    /// <summary>The money's own rate where it is of one currency with what it pays; else the one between the two.</summary>
    internal static QuotedRate RateOf(long amount, Currency currency, long worth, MoneySide money, Currency home) =>
        currency.Equals(money.Currency) || amount == 0 || worth == 0
            ? money.Rate
            : QuotedRate.Between(amount, currency, worth, home);

    /// <summary>
    /// What is taken over on a customer's account: receivables against opening balances, and against tax what of it is
    /// still to be told to an authority.
    /// </summary>
    /// <param name="taxOwed">The account on which its tax is posted.</param>
    /// <param name="tax">Minor units of the home currency, of the item's sign.</param>
    public static JournalEntry ForOpeningItem(
        AccountItem item,
        int receivables,
        int opening,
        Currency home,
        int taxOwed = 0,
        long tax = 0
    ) =>
        new JournalEntry(JournalEvent.OpeningItem, item.Date, $"Taken over: {item.Number}", item.CustomerId)
            .Side(receivables, item.Sign * item.HomeAmount, OfItem(item, item.Sign, home))
            .Side(opening, tax - (item.Sign * item.HomeAmount))
            .Side(taxOwed, -tax)
            .Balanced()
            .Of(item);

    /// <summary>What is taken over on a ledger account.</summary>
    /// <param name="amount">Minor units of the account's currency; above zero for a debit.</param>
    /// <param name="rate">Of the account's currency on the day; 1 for home.</param>
    public static JournalEntry ForOpeningBalance(
        LedgerAccount account,
        DateOnly date,
        long amount,
        QuotedRate rate,
        Currency home,
        int opening
    )
    {
        var currency = account.Currency ?? home;
        var worth = HomeAmount.Of(amount, currency, rate, home);
        return new JournalEntry(
            JournalEvent.OpeningBalance,
            date,
            $"Opening balance of {account.Code} {account.Name}",
            0
        )
            .Side(account.Id, worth, Original.Of(currency, amount, rate, home))
            .Side(opening, -worth, Original.Of(currency, -amount, rate, home))
            .Balanced();
    }

    /// <summary>What an item is in its own currency, at the rate that its two amounts give; null for home.</summary>
    private static Original? OfItem(AccountItem item, int sign, Currency home) =>
        item.Currency.Equals(home)
            ? null
            : new(
                item.Currency,
                sign * item.Amount,
                item.Amount == 0 || item.HomeAmount == 0
                    ? QuotedRate.One
                    : QuotedRate.Between(item.Amount, item.Currency, item.HomeAmount, home)
            );

    /// <summary>The exchange gain or loss that an allocation brings; null where there is none.</summary>
    /// <param name="takenBack">True where the allocation is taken away again.</param>
    public static JournalEntry? ForAllocation(
        Allocation allocation,
        PostingAccounts accounts,
        DateOnly date,
        bool takenBack = false
    ) =>
        ForExchange(
            allocation,
            takenBack ? -allocation.ExchangeGain : allocation.ExchangeGain,
            accounts,
            date,
            takenBack
        );

    /// <summary>An exchange gain, or a loss where it is below zero; null where it is zero.</summary>
    public static JournalEntry? ForExchange(
        Allocation allocation,
        long gain,
        PostingAccounts accounts,
        DateOnly date,
        bool takenBack = false
    )
    {
        if (gain == 0)
            return null;
        return new JournalEntry(
            takenBack ? JournalEvent.ExchangeDifferenceTakenBack : JournalEvent.ExchangeDifference,
            date,
            $"Exchange difference, {allocation.Lowering.Number} against {allocation.Raising.Number}{(takenBack ? ", taken back" : "")}",
            allocation.Raising.CustomerId
        )
            .Side(accounts.Receivables, gain)
            .Side(accounts.ExchangeDifferences, -gain)
            .Balanced();
    }
}
