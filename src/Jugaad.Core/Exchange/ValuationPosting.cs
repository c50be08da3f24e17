using Jugaad.Core.Amounts;

namespace Jugaad.Core.Exchange;

/// <summary>A part of a valuation as it was posted.</summary>
/// <param name="What">The number of what is open, or of the money account.</param>
/// <param name="Amount">Minor units of <paramref name="Currency"/>; below zero where we owe it.</param>
/// <param name="Rate">As it was quoted.</param>
/// <param name="Home">Minor units of home: what it is worth on the day.</param>
/// <param name="Kept">What the books keep it at.</param>
public sealed record ValuedPart(string What, string Currency, long Amount, QuotedRate Rate, long Home, long Kept);

/// <summary>
/// What exchange rates gained or lost up to the end of a period and is not realised, posted on its last day and taken
/// back on the next, so that what is realised later counts in full then.
/// </summary>
public sealed class ValuationPosting
{
    private ValuationPosting() { }

    /// <exception cref="RefusalException">When there is nothing to post.</exception>
    public ValuationPosting(DateOnly day, IReadOnlyList<ValuedPart> parts, int accountId, int bookingId)
    {
        (Day, Parts, AccountId, BookingId) = (day, parts, accountId, bookingId);
        if (Difference == 0)
            throw new RefusalException(
                "on",
                "What is open in other currencies is worth on that day what it is kept at; there is nothing to post."
            );
    }

    public int Id { get; private set; }

    public DateOnly Day { get; private set; }

    public IReadOnlyList<ValuedPart> Parts { get; private set; } = [];

    /// <summary>The account beside receivables on which it stands for that day.</summary>
    public int AccountId { get; private set; }

    public int BookingId { get; private set; }

    /// <summary>Minor units of home; above zero for a gain.</summary>
    public long Difference => Parts.Sum(p => p.Home - p.Kept);

    /// <summary>Whether each part is worth what its rate says.</summary>
    public bool AddsUp(Currency home) =>
        Parts.All(p => HomeAmount.Of(p.Amount, Currency.Of(p.Currency), p.Rate, home) == p.Home);
}
