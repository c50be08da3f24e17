using Jugaad.Core.Amounts;

namespace Jugaad.Core.Accounts;

/// <summary>
/// Something posted on a customer's account: an amount that raises the balance or lowers it. Balances, ageing,
/// statements and reminders look at these and at allocations only, never at the document behind. Amounts are minor
/// units, not below zero; home amounts are minor units of the home currency.
/// </summary>
public sealed class AccountItem
{
    private readonly List<Allocation> _allocations = [];

    private AccountItem() => (Number, Currency) = ("", null!);

    /// <param name="due">The due day; the date itself for what lowers the balance.</param>
    /// <param name="exchangeRate">As it was quoted.</param>
    /// <exception cref="RefusalException">When the amount is below zero, or the due day before the date.</exception>
    public AccountItem(
        AccountItemKind kind,
        int customerId,
        string number,
        DateOnly date,
        DateOnly due,
        Currency currency,
        long amount,
        Exchange.QuotedRate exchangeRate,
        Currency home
    )
    {
        if (amount < 0)
            throw new RefusalException("amount", "An amount on an account cannot be below zero.");
        if (due < date)
            throw new RefusalException("dueDate", "The due day is before the date. Choose that day or a later one.");
        (Kind, CustomerId, Number, Date, Due, Currency) = (kind, customerId, number, date, due, currency);
        (Sign, Amount, Open) = (kind.Raises() ? 1 : -1, amount, amount);
        HomeAmount = HomeOpen = Exchange.HomeAmount.Of(amount, currency, exchangeRate, home);
    }

    /// <summary>An item whose worth at home follows from what moved on a money account.</summary>
    /// <param name="homeAmount">Minor units of home.</param>
    /// <inheritdoc cref="AccountItem(AccountItemKind, int, string, DateOnly, DateOnly, Currency, long, Exchange.QuotedRate, Currency)"/>
    public AccountItem(
        AccountItemKind kind,
        int customerId,
        string number,
        DateOnly date,
        Currency currency,
        long amount,
        long homeAmount
    )
        : this(kind, customerId, number, date, date, currency, amount, Exchange.QuotedRate.One, currency) =>
        HomeAmount = HomeOpen = homeAmount;

    public int Id { get; private set; }

    public AccountItemKind Kind { get; private set; }

    public int CustomerId { get; private set; }

    public int? DocumentId { get; set; }

    public int? ReceiptId { get; set; }

    /// <summary>What put it on the account; null where that was a document.</summary>
    public int? BookingId { get; private set; }

    /// <summary>The booking itself, where it is loaded.</summary>
    public Booking? Booking { get; private set; }

    public string Number { get; private set; }

    public DateOnly Date { get; private set; }

    public DateOnly Due { get; private set; }

    public Currency Currency { get; private set; }

    public long Amount { get; private set; }

    public long HomeAmount { get; private set; }

    /// <summary>What is open now: the amount less all allocations. Kept for speed; it follows from them.</summary>
    public long Open { get; private set; }

    /// <summary>What of <see cref="HomeAmount"/> is open now.</summary>
    public long HomeOpen { get; private set; }

    /// <summary>The allocations on this item, where they are loaded.</summary>
    public IReadOnlyList<Allocation> Allocations => _allocations;

    /// <summary>Whether it raises the balance; otherwise it lowers it.</summary>
    public bool Raises => Sign > 0;

    /// <summary>1 where it raises the balance, −1 where it lowers it. Kept, so that balances are plain sums.</summary>
    public int Sign { get; private set; }

    /// <summary>
    /// What was open at the end of a day, by the allocations dated up to it; 0 before the item's own date.
    /// </summary>
    public long OpenOn(DateOnly day) =>
        Date > day ? 0 : Amount - _allocations.Where(a => a.CountsOn(day)).Sum(a => a.Amount);

    /// <summary>Puts right what was taken over from other books; nothing may be set against it.</summary>
    /// <inheritdoc cref="AccountItem(AccountItemKind, int, string, DateOnly, DateOnly, Currency, long, Exchange.QuotedRate, Currency)"/>
    public void PutRight(
        string number,
        DateOnly date,
        DateOnly due,
        long amount,
        Exchange.QuotedRate exchangeRate,
        Currency home
    )
    {
        if (DocumentId is not null || ReceiptId is not null || BookingId is not null)
            throw new RefusalException(
                "",
                $"{Number} was not taken over from other books. Correct it where it was made."
            );
        if (Open != Amount)
            throw new RefusalException(
                "",
                $"Something is set against {Number}. Take that away first, then put it right."
            );
        if (amount <= 0)
            throw new RefusalException("amount", "Give what was open, above zero; or take it out.");
        if (due < date)
            throw new RefusalException("due", "The due day is before the date. Choose that day or a later one.");
        (Number, Date, Due, Amount, Open) = (number, date, due, amount, amount);
        HomeAmount = HomeOpen = Exchange.HomeAmount.Of(amount, Currency, exchangeRate, home);
    }

    /// <summary>Notes which booking put it on the account.</summary>
    public void Belong(Booking booking) => (Booking, BookingId) = (booking, booking.Id);

    internal void Tie(Allocation allocation, long home)
    {
        if (!_allocations.Contains(allocation))
            _allocations.Add(allocation);
        Open -= allocation.Amount;
        HomeOpen -= home;
    }

    internal void Untie(Allocation allocation, long home, bool forget)
    {
        if (forget)
            _allocations.Remove(allocation);
        Open += allocation.Amount;
        HomeOpen += home;
    }

    /// <summary>
    /// Whether a part of the open amount can take that much of the home amount: all of it with the last, and never
    /// more.
    /// </summary>
    internal bool CanTake(long amount, long home) => amount == Open ? home == HomeOpen : home <= HomeOpen;

    /// <summary>
    /// The part of the home amount that goes with a part of the open amount. The last part takes all that is left, so
    /// that nothing remains in home currency once nothing is open.
    /// </summary>
    public long HomeFor(long amount) => amount == Open ? HomeOpen : Rounding.Share(HomeOpen, amount, Open);
}
