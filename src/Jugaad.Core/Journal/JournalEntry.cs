using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Journal;

/// <summary>What a journal entry was made for.</summary>
public enum JournalEvent
{
    Document,
    Receipt,
    ExchangeDifference,
    ExchangeDifferenceTakenBack,

    /// <summary>What a customer owed, or had as credit, when the business moved in.</summary>
    OpeningItem,
    OpeningBalance,

    /// <summary>An early-payment discount, a small difference, or a debt given up or paid after all.</summary>
    Settlement,
    Refund,

    /// <summary>A receipt that the bank took back.</summary>
    Returned,

    /// <summary>A receipt moved from one customer's account to another's.</summary>
    Transfer,
    OtherMoney,

    /// <summary>A tax from one account of tax to another, such as from what is not due yet to what is owed.</summary>
    TaxMoved,

    /// <summary>What filing a return changes of what is owed: what was typed in, and rounding.</summary>
    TaxFiled,

    /// <summary>What an authority charges besides what a return tells.</summary>
    TaxCharged,

    /// <summary>Money moved between two own accounts, one or both in other currencies.</summary>
    Conversion,

    /// <summary>What was left at home of an account in another currency when it came to nothing.</summary>
    AccountEmptied,

    /// <summary>What was not realised at a period's end.</summary>
    Valuation,

    /// <summary>The same the other way round on the next day.</summary>
    ValuationReversed,

    /// <summary>The same entry the other way round, as what it was made for was undone.</summary>
    Undone,
}

/// <summary>What a line is in its own currency, where that is not home.</summary>
/// <param name="Amount">Minor units; above zero for a debit.</param>
/// <param name="Rate">At which it was brought home.</param>
public sealed record Original(Currency Currency, long Amount, QuotedRate Rate)
{
    /// <summary>Null for home, whose lines have no other currency.</summary>
    public static Original? Of(Currency currency, long amount, QuotedRate rate, Currency home) =>
        currency.Equals(home) ? null : new(currency, amount, rate);

    public Original Negated => this with { Amount = -Amount };
}

/// <summary>
/// One side of an entry, in minor units of the home currency; one of the two is zero, and both where a small amount of
/// another currency is worth nothing at home.
/// </summary>
public sealed class JournalLine
{
    private JournalLine() { }

    internal JournalLine(int accountId, long debit, long credit, Original? original)
    {
        (AccountId, Debit, Credit) = (accountId, debit, credit);
        Keep(original);
    }

    public int Id { get; private set; }

    public int EntryId { get; private set; }

    public int AccountId { get; private set; }

    public long Debit { get; private set; }

    public long Credit { get; private set; }

    /// <summary>The currency that it was made in; null for home.</summary>
    public Currency? Currency { get; private set; }

    /// <summary>Minor units of <see cref="Currency"/>; above zero for a debit.</summary>
    public long? OriginalAmount { get; private set; }

    public QuotedRate? Rate { get; private set; }

    public Original? Original =>
        Currency is not null && OriginalAmount is { } amount && Rate is { } rate ? new(Currency, amount, rate) : null;

    /// <summary>Notes what it is in its own currency.</summary>
    public void Keep(Original? original) =>
        (Currency, OriginalAmount, Rate) = (original?.Currency, original?.Amount, original?.Rate);
}

/// <summary>
/// A double entry: its debits equal its credits. Entries are only ever added; a correction is another entry.
/// </summary>
public sealed class JournalEntry
{
    private readonly List<JournalLine> _lines = [];

    private JournalEntry() => Text = "";

    internal JournalEntry(JournalEvent @event, DateOnly date, string text, int customerId) =>
        (Event, Date, Text, CustomerId) = (@event, date, text, customerId);

    public int Id { get; private set; }

    public JournalEvent Event { get; private set; }

    public DateOnly Date { get; private set; }

    public string Text { get; private set; }

    /// <summary>0 where it is about no customer.</summary>
    public int CustomerId { get; private set; }

    public int? DocumentId { get; set; }

    public int? ReceiptId { get; set; }

    /// <summary>The tax return that filing posted it for.</summary>
    public int? ReturnId { get; set; }

    /// <summary>What was taken over on a customer's account, where it is the entry of that.</summary>
    public int? ItemId { get; private set; }

    public Accounts.AccountItem? Item { get; private set; }

    public JournalEntry Of(Accounts.AccountItem item)
    {
        (Item, ItemId) = (item, item.Id == 0 ? null : item.Id);
        return this;
    }

    /// <summary>What it was made for, where that can be undone as one.</summary>
    public int? BookingId { get; private set; }

    public Accounts.Booking? Booking { get; private set; }

    /// <summary>Whether an entry the other way round was made of it, or it is that entry.</summary>
    public bool IsMirrored { get; private set; }

    public void Belong(Accounts.Booking booking) => (Booking, BookingId) = (booking, booking.Id);

    /// <summary>The entry that takes this one back, on the same day; the two stay in the journal together.</summary>
    public JournalEntry Mirror()
    {
        var mirror = new JournalEntry(JournalEvent.Undone, Date, $"{Text}, undone", CustomerId)
        {
            DocumentId = DocumentId,
            ReceiptId = ReceiptId,
            ReturnId = ReturnId,
            Booking = Booking,
            BookingId = BookingId,
            IsMirrored = true,
        };
        mirror._lines.AddRange(
            _lines.Select(l => new JournalLine(l.AccountId, l.Credit, l.Debit, l.Original?.Negated))
        );
        IsMirrored = true;
        (Item, ItemId) = (null, null);
        return mirror;
    }

    public IReadOnlyList<JournalLine> Lines => _lines;

    /// <summary>
    /// Adds a side: a debit where the amount is above zero, a credit where it is below. Sides of one account in one
    /// currency add up.
    /// </summary>
    internal JournalEntry Side(int accountId, long amount, Original? original = null)
    {
        var isDebit = amount != 0 ? amount > 0 : original is { Amount: > 0 };
        var before = _lines.Find(l =>
            l.AccountId == accountId && isDebit == IsDebit(l) && Equals(l.Currency, original?.Currency)
        );
        if (before is not null)
        {
            _lines.Remove(before);
            amount += before.Debit - before.Credit;
            if (original is not null)
                original = original with { Amount = original.Amount + before.OriginalAmount!.Value };
        }

        if (amount != 0 || original is { Amount: not 0 })
            _lines.Add(new JournalLine(accountId, Math.Max(amount, 0), Math.Max(-amount, 0), original));
        return this;
    }

    private static bool IsDebit(JournalLine line) => line.Debit > 0 || (line.Credit == 0 && line.OriginalAmount > 0);

    /// <summary>Puts a part of what stands on one account onto another instead.</summary>
    /// <param name="credit">Minor units; a debit where it is below zero.</param>
    public void Put(int from, int onto, long credit)
    {
        if (from == onto || credit == 0)
            return;
        var lines = _lines.Where(l => l.AccountId == from).ToList();
        var before = lines.Sum(l => l.Debit - l.Credit);
        _lines.RemoveAll(l => l.AccountId == from);
        // What moves is the same share in the currency that it was made in; all of it with the last.
        var original = lines.Select(l => l.Original).OfType<Original>().FirstOrDefault();
        if (original is null || before == 0)
        {
            Side(from, before + credit).Side(onto, -credit);
            return;
        }

        var whole = lines.Sum(l => l.OriginalAmount ?? 0);
        var moved = Rounding.Share(whole, -credit, before);
        Side(from, before + credit, original with { Amount = whole - moved })
            .Side(onto, -credit, original with { Amount = moved });
    }

    /// <exception cref="InvalidOperationException">When debits and credits differ: a posting rule is wrong.</exception>
    internal JournalEntry Balanced()
    {
        var difference = _lines.Sum(l => l.Debit) - _lines.Sum(l => l.Credit);
        return difference == 0
            ? this
            : throw new InvalidOperationException($"The entry “{Text}” is out of balance by {difference}.");
    }
}
