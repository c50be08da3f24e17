namespace Jugaad.Core.Accounts;

/// <summary>
/// Money in or out that belongs to no customer, such as interest or a bank's charge. Minor units of the home currency.
/// </summary>
public sealed class OtherMoney
{
    private OtherMoney() => Money = null!;

    /// <param name="money">What moved on the account, in its own currency.</param>
    /// <param name="amount">What that is at home, with tax; above zero for money that came in.</param>
    /// <param name="taxes">What of it is tax; empty for none. They add up with the net to
    /// <paramref name="amount"/>.</param>
    /// <exception cref="RefusalException">When the amount is zero, or there is no text.</exception>
    public OtherMoney(
        DateOnly date,
        int moneyAccountId,
        int ledgerAccountId,
        MoneySide money,
        long amount,
        int? taxCodeId,
        long net,
        string text,
        Booking booking
    )
        : this()
    {
        var refusals = new Refusals();
        if (amount == 0)
            refusals.Add("amount", "Give the amount, above zero for money that came in.");
        Texts.Required(refusals, "text", text, 200, "Say in a few words what the money is for.");
        refusals.ThrowIfAny();
        (Date, MoneyAccountId, LedgerAccountId, Amount, TaxCodeId, Net, Text) = (
            date,
            moneyAccountId,
            ledgerAccountId,
            amount,
            taxCodeId,
            net,
            text.Trim()
        );
        (Money, Booking, BookingId) = (money, booking, booking.Id);
    }

    public int Id { get; private set; }

    public DateOnly Date { get; private set; }

    public int MoneyAccountId { get; private set; }

    /// <summary>What it was for.</summary>
    public int LedgerAccountId { get; private set; }

    /// <summary>What moved on the account, in its currency.</summary>
    public MoneySide Money { get; private set; }

    /// <summary>With tax, at home; below zero for money that went out.</summary>
    public long Amount { get; private set; }

    public int? TaxCodeId { get; private set; }

    public long Net { get; private set; }

    public long Tax => Amount - Net;

    public string Text { get; private set; } = "";

    public int BookingId { get; private set; }

    public Booking? Booking { get; private set; }
}
