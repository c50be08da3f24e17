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

    /// <summary>The same entry the other way round, as what it was made for was undone.</summary>
    Undone,
}

/// <summary>One side of an entry, in minor units of the home currency; one of the two is zero.</summary>
public sealed class JournalLine
{
    private JournalLine() { }

    internal JournalLine(int accountId, long debit, long credit) =>
        (AccountId, Debit, Credit) = (accountId, debit, credit);

    public int Id { get; private set; }

    public int EntryId { get; private set; }

    public int AccountId { get; private set; }

    public long Debit { get; private set; }

    public long Credit { get; private set; }
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
        mirror._lines.AddRange(_lines.Select(l => new JournalLine(l.AccountId, l.Credit, l.Debit)));
        IsMirrored = true;
        (Item, ItemId) = (null, null);
        return mirror;
    }

    public IReadOnlyList<JournalLine> Lines => _lines;

    /// <summary>
    /// Adds a side: a debit where the amount is above zero, a credit where it is below. Sides of one account add up.
    /// </summary>
    internal JournalEntry Side(int accountId, long amount)
    {
        var before = _lines.Find(l => l.AccountId == accountId && (amount > 0) == (l.Debit > 0));
        if (before is not null)
        {
            _lines.Remove(before);
            amount += before.Debit - before.Credit;
        }

        if (amount != 0)
            _lines.Add(new JournalLine(accountId, Math.Max(amount, 0), Math.Max(-amount, 0)));
        return this;
    }

    /// <summary>Puts a part of what stands on one account onto another instead.</summary>
    /// <param name="credit">Minor units; a debit where it is below zero.</param>
    public void Put(int from, int onto, long credit)
    {
        if (from == onto || credit == 0)
            return;
        var rest = _lines.Where(l => l.AccountId == from).Sum(l => l.Debit - l.Credit) + credit;
        _lines.RemoveAll(l => l.AccountId == from);
        Side(from, rest).Side(onto, -credit);
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
