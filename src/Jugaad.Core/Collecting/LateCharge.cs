namespace Jugaad.Core.Collecting;

/// <summary>What is charged because something was paid late.</summary>
public enum LateChargeKind
{
    Interest,

    /// <summary>A fixed compensation, once for each bill.</summary>
    Compensation,

    /// <summary>The fee of a step, once for its letter.</summary>
    Fee,
}

/// <summary>
/// Something charged on a debit note because an item was paid late; minor units of the item's currency, before tax.
/// </summary>
public sealed class LateCharge
{
    private LateCharge() { }

    /// <param name="upTo">The last day that the interest is for.</param>
    public LateCharge(int noteId, int itemId, LateChargeKind kind, long amount, DateOnly upTo) =>
        (NoteId, ItemId, Kind, Amount, UpTo) = (noteId, itemId, kind, amount, upTo);

    public int Id { get; private set; }

    /// <summary>The debit note.</summary>
    public int NoteId { get; private set; }

    public int ItemId { get; private set; }

    public LateChargeKind Kind { get; private set; }

    public long Amount { get; private set; }

    public DateOnly UpTo { get; private set; }

    /// <summary>
    /// What the interest was reckoned from, as it stood then: what is entered later for an earlier day changes it no
    /// more. Empty for what is no interest, and for what was charged before this was kept.
    /// </summary>
    public IReadOnlyList<InterestStretch> Basis { get; private set; } = [];

    /// <summary>What of the interest of <see cref="Basis"/> had been charged before; minor units.</summary>
    public long Before { get; private set; }

    /// <summary>The charge with what it was reckoned from.</summary>
    public LateCharge ReckonedFrom(IReadOnlyList<InterestStretch> basis, long before)
    {
        (Basis, Before) = (basis, before);
        return this;
    }
}

/// <summary>A yearly rate of interest on what is late, from a day on.</summary>
public sealed class LateRate
{
    private LateRate() { }

    /// <param name="percent">With at most 4 decimals.</param>
    public LateRate(DateOnly from, decimal percent) => (From, Percent) = (from, percent);

    public int Id { get; private set; }

    public DateOnly From { get; private set; }

    public decimal Percent { get; private set; }
}
