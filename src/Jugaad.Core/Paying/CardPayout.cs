namespace Jugaad.Core.Paying;

/// <summary>
/// What the card service paid out to the bank at once: payments less what was paid back and less its fees. Minor units
/// of the home currency.
/// </summary>
public sealed class CardPayout
{
    private readonly List<CardPayoutPart> _parts = [];

    private CardPayout() { }

    /// <param name="reference">That stands on the bank's line.</param>
    /// <exception cref="RefusalException">When there is nothing in it, or a fee is below zero.</exception>
    public CardPayout(string reference, DateOnly day, IReadOnlyList<CardPayoutPart> parts)
    {
        if (parts.Count == 0 || parts.Any(p => p.Fee < 0))
            throw new RefusalException("", $"The payout {reference} has no payments, or a fee below zero.");
        (Reference, Day) = (reference, day);
        _parts.AddRange(parts);
        (Gross, Fees) = (parts.Sum(p => p.Amount), parts.Sum(p => p.Fee));
    }

    public int Id { get; private set; }

    public string Reference { get; private set; } = "";

    public DateOnly Day { get; private set; }

    /// <summary>What leaves card clearing.</summary>
    public long Gross { get; private set; }

    public long Fees { get; private set; }

    /// <summary>What arrives at the bank.</summary>
    public long Net => Gross - Fees;

    /// <summary>The transfer that it was booked as; it has arrived while that is not undone.</summary>
    public int? BookingId { get; private set; }

    public IReadOnlyList<CardPayoutPart> Parts => _parts;

    public void Arrive(int bookingId) => BookingId = bookingId;
}

/// <summary>One payment of a payout, or what was paid back of one.</summary>
/// <param name="Position">From 1, in the service's order.</param>
/// <param name="Amount">Above zero for a payment, below for what was paid back.</param>
/// <param name="Fee">What the service keeps of it, not below zero.</param>
public sealed record CardPayoutPart(int Position, int RequestId, long Amount, long Fee)
{
    public int PayoutId { get; init; }
}
