using Jugaad.Core.Amounts;
using Jugaad.Core.Exchange;

namespace Jugaad.Core.Accounts;

/// <summary>Money that came in from a customer. Amounts are minor units of <see cref="Currency"/>.</summary>
public sealed class Receipt
{
    private Receipt() => (Number, Currency, Money) = ("", null!, null!);

    /// <param name="amount">What the payer gave, in the currency of what it pays.</param>
    /// <param name="money">What arrived.</param>
    /// <exception cref="RefusalException">When the amount is not above zero, or a text too long.</exception>
    public Receipt(
        int seriesId,
        string number,
        int customerId,
        DateOnly date,
        int moneyAccountId,
        Currency currency,
        long amount,
        MoneySide money,
        string reference,
        string createdBy
    )
    {
        var refusals = new Refusals();
        if (amount <= 0)
            refusals.Add("amount", "Give the amount that came in, above zero.");
        money.Check(refusals, given: false);
        Texts.Short(refusals, "reference", reference, 200);
        refusals.ThrowIfAny();
        (SeriesId, Number, CustomerId, Date, MoneyAccountId) = (seriesId, number, customerId, date, moneyAccountId);
        (Currency, Amount, Money, Reference, CreatedBy) = (currency, amount, money, reference.Trim(), createdBy);
    }

    public int Id { get; private set; }

    public int SeriesId { get; private set; }

    public string Number { get; private set; }

    public int CustomerId { get; private set; }

    public DateOnly Date { get; private set; }

    /// <summary>The ledger account that the money came into: bank, cash box, card clearing.</summary>
    public int MoneyAccountId { get; private set; }

    public Currency Currency { get; private set; }

    /// <summary>What the payer gave, in the currency of what it pays.</summary>
    public long Amount { get; private set; }

    /// <summary>What arrived, in the currency of the account that it came into; what both are worth at home follows
    /// from it.</summary>
    public MoneySide Money { get; private set; }

    /// <summary>What the payer wrote.</summary>
    public string Reference { get; private set; } = "";

    public string CreatedBy { get; private set; } = "";

    /// <summary>The way of payment by its name, as the business calls it; empty where none was said.</summary>
    public string Way { get; private set; } = "";

    /// <summary>
    /// The day on which the money came, where the books were closed by then and it counts on a later one.
    /// </summary>
    public DateOnly? CameOn { get; private set; }

    /// <summary>What posted it; null for what was posted before bookings were kept.</summary>
    public int? BookingId { get; private set; }

    public Booking? Booking { get; private set; }

    /// <summary>Whether it was undone. Its number stays, so that none is missing.</summary>
    public bool IsUndone { get; private set; }

    public void Came(string way, DateOnly on, Booking booking)
    {
        (Way, CameOn) = (way.Trim(), on == Date ? null : on);
        (Booking, BookingId) = (booking, booking.Id);
    }

    public void Undo() => IsUndone = true;
}
