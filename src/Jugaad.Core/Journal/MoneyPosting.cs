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
        var tax = settlement.HomeTaxes(home).Sum();
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
            .Side(to, sign * parts[0], InTheirs(sign * settlement.Net))
            .Side(accounts.TaxOwed, sign * tax, InTheirs(sign * settlement.Tax))
            .Side(accounts.ExchangeDifferences, sign * (parts[1] - tax))
            .Side(accounts.Receivables, -sign * homeAmount, InTheirs(-sign * settlement.Amount))
            .Balanced();

        Original? InTheirs(long amount) => Original.Of(settlement.Currency, amount, settlement.ExchangeRate, home);
    }

    /// <summary>A small rest of credit that is kept: off receivables to rounding differences.</summary>
    public static JournalEntry ForSmallGain(AccountItem item, string number, PostingAccounts accounts, Currency home) =>
        new JournalEntry(JournalEvent.Settlement, item.Date, $"Small difference kept, {number}", item.CustomerId)
            .Side(accounts.Receivables, item.HomeAmount, OfItem(item, 1, home))
            .Side(accounts.RoundingDifferences, -item.HomeAmount, OfItem(item, -1, home))
            .Balanced();

    /// <summary>Money paid back: receivables, and what banks kept of it, against the money account.</summary>
    public static JournalEntry ForRefund(Refund refund, PostingAccounts accounts, Currency home)
    {
        var money = refund.Money;
        var worth = money.HomeLessCharge(home);
        var given = HomeAmount.Of(money.Amount, money.Currency, money.Rate, home);
        var entry = new JournalEntry(
            JournalEvent.Refund,
            refund.Date,
            $"Refund {refund.Number}",
            refund.CustomerId
        ).Side(
            accounts.Receivables,
            worth,
            Original.Of(
                refund.Currency,
                refund.Amount,
                RateOf(refund.Amount, refund.Currency, worth, money, home),
                home
            )
        );
        if (money.ChargeAccountId is { } bears)
            entry.Side(bears, given - worth, Original.Of(money.Currency, money.Charge, money.Rate, home));
        return entry
            .Side(refund.MoneyAccountId, -given, Original.Of(money.Currency, -money.Amount, money.Rate, home))
            .Balanced();
    }

    /// <summary>
    /// Money between two own accounts: what the one gave against what the other got and what the bank kept, each in its
    /// own currency and at home.
    /// </summary>
    public static JournalEntry ForConversion(Conversion conversion, Currency home)
    {
        var worth = conversion.AtHome(home);
        var entry = new JournalEntry(JournalEvent.Conversion, conversion.Date, conversion.Text, 0).Side(
            conversion.ToAccountId,
            worth.Got,
            In(conversion.ToCurrency, conversion.Got, worth.Got)
        );
        if (conversion.ChargeAccountId is { } bears)
        {
            var currency = conversion.ChargeOnTo ? conversion.ToCurrency : conversion.FromCurrency;
            entry.Side(bears, worth.Charge, In(currency, conversion.Charge, worth.Charge));
        }

        return entry
            .Side(
                conversion.FromAccountId,
                -worth.Given,
                In(conversion.FromCurrency, conversion.Given, worth.Given)?.Negated
            )
            .Balanced();

        Original? In(Currency currency, long amount, long atHome) =>
            currency.Equals(home)
                ? null
                : new(
                    currency,
                    amount,
                    amount == 0 || atHome == 0 ? conversion.Rate : QuotedRate.Between(amount, currency, atHome, home)
                );
    }

    /// <summary>
    /// What is left at home of an account in another currency that came to nothing: off it, to exchange differences.
    /// </summary>
    /// <param name="left">Minor units of home; above zero where the account still stands for something.</param>
    public static JournalEntry ForAccountEmptied(
        int accountId,
        string name,
        DateOnly date,
        long left,
        int exchangeDifferences
    ) =>
        new JournalEntry(JournalEvent.AccountEmptied, date, $"Exchange difference, {name} came to nothing", 0)
            .Side(exchangeDifferences, left)
            .Side(accountId, -left)
            .Balanced();

    /// <summary>
    /// A receipt that the bank took back: what it posted, the other way round, on the day on which it was taken back.
    /// </summary>
    public static JournalEntry ForReturn(Receipt receipt, DateOnly date, PostingAccounts accounts, Currency home)
    {
        var entry = new JournalEntry(
            JournalEvent.Returned,
            date,
            $"Receipt {receipt.Number} returned by the bank",
            receipt.CustomerId
        )
        {
            ReceiptId = receipt.Id,
        };
        return Received(entry, receipt, -1, accounts, home);
    }

    /// <summary>A receipt, or what is left of it, moved between two customers: both sides are receivables.</summary>
    public static JournalEntry ForTransfer(
        AccountItem movedOut,
        PostingAccounts accounts,
        int receiptId,
        Currency home
    ) =>
        new JournalEntry(
            JournalEvent.Transfer,
            movedOut.Date,
            $"Receipt {movedOut.Number} moved to another customer",
            movedOut.CustomerId
        )
        {
            ReceiptId = receiptId,
        }
            .Side(accounts.Receivables, movedOut.HomeAmount, OfItem(movedOut, 1, home))
            .Side(accounts.Receivables, -movedOut.HomeAmount, OfItem(movedOut, -1, home))
            .Balanced();

    /// <summary>Money that belongs to no customer: the money account against what it was for, and tax owed.</summary>
    public static JournalEntry ForOtherMoney(OtherMoney money, PostingAccounts accounts, Currency home)
    {
        var (currency, rate) = (money.Money.Currency, money.Money.Rate);
        var whole = money.Amount < 0 ? -money.Money.Amount : money.Money.Amount;
        var tax = money.Tax == 0 ? 0 : Rounding.Share(whole, money.Tax, money.Amount);
        return new JournalEntry(JournalEvent.OtherMoney, money.Date, money.Text, 0)
            .Side(money.MoneyAccountId, money.Amount, Original.Of(currency, whole, rate, home))
            .Side(money.LedgerAccountId, -money.Net, Original.Of(currency, tax - whole, rate, home))
            .Side(accounts.TaxOwed, -money.Tax, Original.Of(currency, -tax, rate, home))
            .Balanced();
    }

    /// <summary>
    /// What is not realised, against exchange differences, on the day of the valuation; and the same the other way round
    /// on the next.
    /// </summary>
    public static IReadOnlyList<JournalEntry> ForValuation(ValuationPosting posting, int exchangeDifferences) =>
        [
            new JournalEntry(
                JournalEvent.Valuation,
                posting.Day,
                $"Valuation of other currencies on {posting.Day:yyyy-MM-dd}",
                0
            )
                .Side(posting.AccountId, posting.Difference)
                .Side(exchangeDifferences, -posting.Difference)
                .Balanced(),
            new JournalEntry(
                JournalEvent.ValuationReversed,
                posting.Day.AddDays(1),
                $"Valuation of other currencies on {posting.Day:yyyy-MM-dd}, taken back",
                0
            )
                .Side(exchangeDifferences, posting.Difference)
                .Side(posting.AccountId, -posting.Difference)
                .Balanced(),
        ];

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
