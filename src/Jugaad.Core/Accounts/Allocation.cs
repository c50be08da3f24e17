using Jugaad.Core.Amounts;

namespace Jugaad.Core.Accounts;

/// <summary>
/// Ties an item that lowers a customer's balance to one that raises it, with an amount and a date. Never is more
/// allocated than either side has open. Amounts are minor units; home amounts are minor units of the home currency.
/// </summary>
public sealed class Allocation
{
    private Allocation() { }

    public int Id { get; private set; }

    public int RaisingId { get; private set; }

    public AccountItem Raising { get; private set; } = null!;

    public int LoweringId { get; private set; }

    public AccountItem Lowering { get; private set; } = null!;

    public long Amount { get; private set; }

    public DateOnly Date { get; private set; }

    /// <summary>
    /// The first day on which it counts no more; null while it counts. What it counted before stays true of those days.
    /// </summary>
    public DateOnly? Until { get; private set; }

    /// <summary>What set the two against each other; null where nothing can undo it.</summary>
    public int? BookingId { get; private set; }

    public Booking? Booking { get; private set; }

    /// <summary>What took them apart.</summary>
    public int? EndedById { get; private set; }

    public Booking? EndedBy { get; private set; }

    /// <summary>Whether it counts at the end of a day.</summary>
    public bool CountsOn(DateOnly day) => Date <= day && (Until is null || day < Until);

    /// <summary>What of the raising item's home amount this takes.</summary>
    public long HomeRaising { get; private set; }

    /// <summary>What of the lowering item's home amount this takes.</summary>
    public long HomeLowering { get; private set; }

    /// <summary>
    /// The exchange gain (above zero) or loss (below) in home currency that comes with this allocation.
    /// </summary>
    public long ExchangeGain => HomeLowering - HomeRaising;

    /// <summary>Sets an amount of one item against the other.</summary>
    /// <param name="date">Moved to the later of the two items' dates where it is earlier than that, as neither was
    /// there before.</param>
    /// <exception cref="RefusalException">When it cannot be; both items are as before then.</exception>
    public static Allocation Make(
        AccountItem raising,
        AccountItem lowering,
        long amount,
        DateOnly date,
        string field = "amount"
    )
    {
        if (!raising.Raises || lowering.Raises)
            throw new RefusalException(
                field,
                $"{lowering.Number} cannot be set against {raising.Number}: a receipt or credit is set against an invoice or debit note."
            );
        if (raising.CustomerId != lowering.CustomerId)
            throw new RefusalException(
                field,
                $"{raising.Number} and {lowering.Number} belong to different customers. Choose items of one customer."
            );
        if (!raising.Currency.Equals(lowering.Currency))
            throw new RefusalException(
                field,
                $"{raising.Number} is in {raising.Currency} and {lowering.Number} in {lowering.Currency}. Choose items of one currency."
            );
        if (amount <= 0)
            throw new RefusalException(field, $"Give an amount above zero to set against {raising.Number}.");
        if (amount > raising.Open)
            throw new RefusalException(
                field,
                $"{new Money(amount, raising.Currency)} is {new Money(amount - raising.Open, raising.Currency)} more than is open on {raising.Number}. Set at most {new Money(raising.Open, raising.Currency)} against it; the rest can stay on account or go against another invoice."
            );
        if (amount > lowering.Open)
            throw new RefusalException(
                field,
                $"{new Money(amount, raising.Currency)} is {new Money(amount - lowering.Open, raising.Currency)} more than is left of {lowering.Number}. Lower what you set against {raising.Number}."
            );

        var latest = raising.Date > lowering.Date ? raising.Date : lowering.Date;
        var made = new Allocation
        {
            Raising = raising,
            Lowering = lowering,
            RaisingId = raising.Id,
            LoweringId = lowering.Id,
            Amount = amount,
            Date = date < latest ? latest : date,
            HomeRaising = raising.HomeFor(amount),
            HomeLowering = lowering.HomeFor(amount),
        };
        raising.Tie(made, made.HomeRaising);
        lowering.Tie(made, made.HomeLowering);
        return made;
    }

    /// <summary>Notes which booking set the two against each other.</summary>
    public void Belong(Booking booking) => (Booking, BookingId) = (booking, booking.Id);

    /// <summary>Takes the two apart from a day on; both have open again what it took.</summary>
    /// <param name="day">Moved to the allocation's own date where it is before that: then it counts on no day.</param>
    /// <exception cref="RefusalException">When they were taken apart before.</exception>
    public void End(Booking booking, DateOnly day)
    {
        if (Until is not null)
            throw new RefusalException("", "This allocation was taken away already.");
        (Until, EndedBy, EndedById) = (day < Date ? Date : day, booking, booking.Id);
        Raising.Untie(this, HomeRaising, forget: false);
        Lowering.Untie(this, HomeLowering, forget: false);
    }

    /// <summary>
    /// Sets the two against each other again as they were, from its own date on. What it takes in home currency is what
    /// it took, unless something else took of that since and nothing would be open with a home amount left.
    /// </summary>
    /// <exception cref="RefusalException">When either has not enough open any more; nothing is changed
    /// then.</exception>
    public void Revive()
    {
        if (Until is null)
            return;
        if (Amount > Raising.Open || Amount > Lowering.Open)
            throw new RefusalException(
                "",
                $"{(Amount > Raising.Open ? $"{Raising.Number} was paid" : $"{Lowering.Number} was used")} otherwise since, so {Lowering.Number} cannot be set against {Raising.Number} again. Take that away first."
            );
        if (!Raising.CanTake(Amount, HomeRaising))
            HomeRaising = Raising.HomeFor(Amount);
        if (!Lowering.CanTake(Amount, HomeLowering))
            HomeLowering = Lowering.HomeFor(Amount);
        (Until, EndedBy, EndedById) = (null, null, null);
        Raising.Tie(this, HomeRaising);
        Lowering.Tie(this, HomeLowering);
    }

    /// <summary>Makes it as if the two had never been set against each other.</summary>
    public void Forget()
    {
        if (Until is not null)
            return;
        Raising.Untie(this, HomeRaising, forget: true);
        Lowering.Untie(this, HomeLowering, forget: true);
    }
}
