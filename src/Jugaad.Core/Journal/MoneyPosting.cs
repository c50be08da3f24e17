using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;
using Jugaad.Core.Returns;

namespace Jugaad.Core.Journal;

/// <summary>The rules for what happens to money and debts after an invoice was issued and a receipt posted.</summary>
public static partial class PostingRules
{
    /// <summary>
    /// What is taken off an invoice: its net to what it is taken off for, its taxes to tax owed, the whole off
    /// receivables. A debt paid after all is the same the other way round.
    /// </summary>
    /// <param name="homeAmount">What the account item of the settlement comes to in home currency.</param>
    public static JournalEntry ForSettlement(
        Settlement settlement,
        long homeAmount,
        string number,
        PostingAccounts accounts,
        Currency home
    )
    {
        var to = settlement.Kind switch
        {
            SettlementKind.EarlyPayment or SettlementKind.EarlyTakenBack => accounts.DiscountsGiven,
            SettlementKind.SmallDifference => accounts.RoundingDifferences,
            _ => accounts.BadDebts,
        };
        var parts = HomeAmount.Parts(
            settlement.Amount,
            [settlement.Net, settlement.Tax],
            settlement.Currency,
            settlement.ExchangeRate,
            home
        );
        // The item's own home amount leads, so that receivables and account agree.
        parts[0] += homeAmount - parts.Sum();
        var sign = settlement.Kind is SettlementKind.Recovery or SettlementKind.EarlyTakenBack ? -1 : 1;
        return new JournalEntry(
            JournalEvent.Settlement,
            settlement.Date,
            $"{Words(settlement.Kind)}, {number}",
            settlement.CustomerId
        )
        {
            DocumentId = settlement.DocumentId,
        }
            .Side(to, sign * parts[0])
            .Side(accounts.TaxOwed, sign * parts[1])
            .Side(accounts.Receivables, -sign * homeAmount)
            .Balanced();
    }

    /// <summary>A small rest of credit that is kept: off receivables to rounding differences.</summary>
    public static JournalEntry ForSmallGain(AccountItem item, string number, PostingAccounts accounts) =>
        new JournalEntry(JournalEvent.Settlement, item.Date, $"Small difference kept, {number}", item.CustomerId)
            .Side(accounts.Receivables, item.HomeAmount)
            .Side(accounts.RoundingDifferences, -item.HomeAmount)
            .Balanced();

    /// <summary>Money paid back: receivables against the money account.</summary>
    public static JournalEntry ForRefund(Refund refund, PostingAccounts accounts, Currency home)
    {
        var amount = HomeAmount.Of(refund.Amount, refund.Currency, refund.ExchangeRate, home);
        return new JournalEntry(JournalEvent.Refund, refund.Date, $"Refund {refund.Number}", refund.CustomerId)
            .Side(accounts.Receivables, amount)
            .Side(refund.MoneyAccountId, -amount)
            .Balanced();
    }

    /// <summary>
    /// A receipt that the bank took back: what it posted, the other way round, on the day on which it was taken back.
    /// </summary>
    public static JournalEntry ForReturn(Receipt receipt, DateOnly date, PostingAccounts accounts, Currency home)
    {
        var amount = HomeAmount.Of(receipt.Amount, receipt.Currency, receipt.ExchangeRate, home);
        return new JournalEntry(
            JournalEvent.Returned,
            date,
            $"Receipt {receipt.Number} returned by the bank",
            receipt.CustomerId
        )
        {
            ReceiptId = receipt.Id,
        }
            .Side(accounts.Receivables, amount)
            .Side(receipt.MoneyAccountId, -amount)
            .Balanced();
    }

    /// <summary>A receipt, or what is left of it, moved between two customers: both sides are receivables.</summary>
    public static JournalEntry ForTransfer(AccountItem movedOut, PostingAccounts accounts, int receiptId) =>
        new JournalEntry(
            JournalEvent.Transfer,
            movedOut.Date,
            $"Receipt {movedOut.Number} moved to another customer",
            movedOut.CustomerId
        )
        {
            ReceiptId = receiptId,
        }
            .Side(accounts.Receivables, movedOut.HomeAmount)
            .Side(accounts.Receivables, -movedOut.HomeAmount)
            .Balanced();

    /// <summary>Money that belongs to no customer: the money account against what it was for, and tax owed.</summary>
    public static JournalEntry ForOtherMoney(OtherMoney money, PostingAccounts accounts) =>
        new JournalEntry(JournalEvent.OtherMoney, money.Date, money.Text, 0)
            .Side(money.MoneyAccountId, money.Amount)
            .Side(money.LedgerAccountId, -money.Net)
            .Side(accounts.TaxOwed, -money.Tax)
            .Balanced();

    /// <summary>A tax from one account of tax to others: by account, a credit above zero; null where nothing moves.</summary>
    /// <param name="of">What it is the tax of.</param>
    public static JournalEntry? ForTaxMoved(
        IEnumerable<(int Account, long Amount)> moves,
        DateOnly date,
        string of,
        int customerId
    )
    {
        var entry = new JournalEntry(JournalEvent.TaxMoved, date, $"Tax of {of} moved", customerId);
        foreach (var (account, amount) in moves)
            entry.Side(account, -amount);
        return entry.Lines.Count == 0 ? null : entry.Balanced();
    }

    /// <summary>
    /// What filing a return changes of what is owed to its authority: each typed box against the account that it names,
    /// and what rounding in the boxes adds; null where that is nothing.
    /// </summary>
    /// <param name="adds">By account, what it adds to what is owed, in minor units; below zero for what it takes
    /// off.</param>
    public static JournalEntry? ForFiling(
        string title,
        DateOnly date,
        int owedAccountId,
        IEnumerable<(int Account, long Adds)> adds,
        long rounding,
        PostingAccounts accounts
    )
    {
        var entry = new JournalEntry(JournalEvent.TaxFiled, date, title, 0);
        foreach (var (account, add) in adds.Append((accounts.RoundingDifferences, rounding)))
            entry.Side(owedAccountId, -add).Side(account, add);
        return entry.Lines.Count == 0 ? null : entry.Balanced();
    }

    /// <summary>What an authority charges besides a return: owed to it, against the account that bears it.</summary>
    /// <param name="charge">Minor units of the home currency.</param>
    public static JournalEntry ForCharge(TaxCharge charge, int owedAccountId)
    {
        var entry = new JournalEntry(
            JournalEvent.TaxCharged,
            charge.Date,
            $"Charge of an authority, {TaxCharge.Words(charge.Kind)}{(charge.Text.Length > 0 ? $": {charge.Text}" : "")}",
            0
        )
        {
            ReturnId = charge.ReturnId,
        };
        return entry.Side(owedAccountId, -charge.Amount).Side(charge.AccountId, charge.Amount).Balanced();
    }

    private static string Words(SettlementKind kind) =>
        kind switch
        {
            SettlementKind.EarlyPayment => "Early-payment discount",
            SettlementKind.SmallDifference => "Small difference given up",
            SettlementKind.BadDebt => "Debt written off",
            SettlementKind.EarlyTakenBack => "Early-payment discount taken back",
            _ => "Written off, owed after all",
        };
}
