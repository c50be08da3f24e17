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
        var nets = document
            .Lines.Select(l => (Account: l.LedgerAccountId, Amount: l.Net))
            .Concat(document.Charges.Select(c => (Account: c.LedgerAccountId, Amount: c.Net)))
            .GroupBy(s => s.Account, (account, same) => (Account: account, Amount: same.Sum(s => s.Amount)))
            .Where(s => s.Amount != 0)
            .ToList();
        var sides = nets.Concat(
                document.Taxes.OrderBy(t => t.Position).Select(t => (Account: accounts.TaxOwed, Amount: t.Tax))
            )
            .Append((Account: accounts.RoundingDifferences, Amount: document.Payable - document.Total))
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
            sign * HomeAmount.Of(document.Payable, document.Currency, document.ExchangeRate, home)
        );
        foreach (
            var (account, amount) in sides
                .Zip(amounts, (s, a) => (s.Account, Amount: a))
                .GroupBy(s => s.Account, (a, same) => (a, same.Sum(s => s.Amount)))
        )
            entry.Side(account, -sign * amount);
        return entry.Balanced();
    }

    /// <summary>Money from a customer: the money account against receivables.</summary>
    public static JournalEntry ForReceipt(Receipt receipt, PostingAccounts accounts, Currency home)
    {
        var amount = HomeAmount.Of(receipt.Amount, receipt.Currency, receipt.ExchangeRate, home);
        return new JournalEntry(JournalEvent.Receipt, receipt.Date, $"Receipt {receipt.Number}", receipt.CustomerId)
            .Side(receipt.MoneyAccountId, amount)
            .Side(accounts.Receivables, -amount)
            .Balanced();
    }

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
        int taxOwed = 0,
        long tax = 0
    ) =>
        new JournalEntry(JournalEvent.OpeningItem, item.Date, $"Taken over: {item.Number}", item.CustomerId)
            .Side(receivables, item.Sign * item.HomeAmount)
            .Side(opening, tax - (item.Sign * item.HomeAmount))
            .Side(taxOwed, -tax)
            .Balanced()
            .Of(item);

    /// <summary>What is taken over on a ledger account.</summary>
    /// <param name="amount">Minor units of the home currency; above zero for a debit.</param>
    public static JournalEntry ForOpeningBalance(LedgerAccount account, DateOnly date, long amount, int opening) =>
        new JournalEntry(JournalEvent.OpeningBalance, date, $"Opening balance of {account.Code} {account.Name}", 0)
            .Side(account.Id, amount)
            .Side(opening, -amount)
            .Balanced();

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
