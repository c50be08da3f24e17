namespace Jugaad.Core.Accounts;

/// <summary>A cash box that was counted. Amounts are minor units of the home currency.</summary>
public sealed class TillCount
{
    private TillCount() { }

    /// <param name="expected">What the books said that is in it.</param>
    /// <param name="upToEntry">The last journal entry that this counts in.</param>
    /// <param name="booking">By which the difference was booked; null where there was none.</param>
    /// <exception cref="RefusalException">When there is less than nothing in it, or a difference without a
    /// reason.</exception>
    public TillCount(
        int accountId,
        DateOnly date,
        long expected,
        long counted,
        string reason,
        int upToEntry,
        string by,
        Booking? booking
    )
    {
        var refusals = new Refusals();
        if (counted < 0)
            refusals.Add("counted", "There cannot be less than nothing in it. Count again.");
        if (counted != expected)
            Texts.Required(
                refusals,
                "reason",
                reason,
                120,
                "Say in a few words how the difference came about, as far as it is known."
            );
        refusals.ThrowIfAny();
        (AccountId, Date, Expected, Counted, Reason, UpToEntry, By) = (
            accountId,
            date,
            expected,
            counted,
            counted == expected ? "" : reason.Trim(),
            upToEntry,
            by
        );
        (Booking, BookingId) = (booking, booking?.Id);
    }

    public int Id { get; private set; }

    public int AccountId { get; private set; }

    public DateOnly Date { get; private set; }

    public long Expected { get; private set; }

    public long Counted { get; private set; }

    /// <summary>Above zero where more was in it than expected.</summary>
    public long Difference => Counted - Expected;

    public string Reason { get; private set; } = "";

    public int UpToEntry { get; private set; }

    public string By { get; private set; } = "";

    public int? BookingId { get; private set; }

    public Booking? Booking { get; private set; }
}
