using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>What a line counts with.</summary>
/// <param name="Quantity">At most 6 decimals; negative for a return.</param>
/// <param name="UnitPrice">At most 6 decimals, in units of the currency.</param>
/// <param name="DiscountPercent">0 to 100, at most 4 decimals; not together with an amount.</param>
/// <param name="DiscountAmount">Minor units; of the sign of the extension and never more than it.</param>
public sealed record LineFigures(
    decimal Quantity,
    decimal UnitPrice,
    Treatment Treatment,
    decimal? DiscountPercent = null,
    long? DiscountAmount = null
)
{
    /// <summary>False for what is shown and not charged, such as an option that nobody chose.</summary>
    public bool Counts { get; init; } = true;

    /// <summary>
    /// What was billed of the same thing in earlier stages. Tax is then what all stages together come to, less what the
    /// earlier ones charged, so that the stages add up to the whole to the cent.
    /// </summary>
    public BilledBefore Before { get; init; }

    /// <summary>
    /// What the line takes back, taxed apart from all others as its share of that; null for what is sold.
    /// </summary>
    public TakenBack? TakesBack { get; init; }

    /// <summary>Whether it takes off within a bill, with an amount below zero, rather than as a credit.</summary>
    public bool TakesOff { get; init; }

    /// <summary>
    /// What the line comes to as a part of another, in minor units; its price and discount are only shown then.
    /// </summary>
    public long? Share { get; init; }
}

/// <summary>
/// A charge such as freight: an amount with a tax treatment of its own, to which no discount applies.
/// </summary>
/// <param name="Amount">Minor units.</param>
/// <param name="TakesBack">As in <see cref="LineFigures.TakesBack"/>.</param>
public sealed record ChargeFigures(long Amount, Treatment Treatment, TakenBack? TakesBack = null);

/// <summary>All that a document's totals are computed from.</summary>
public sealed record DocumentFigures(Currency Currency, IReadOnlyList<LineFigures> Lines)
{
    public IReadOnlyList<ChargeFigures> Charges { get; init; } = [];

    /// <summary>0 to 100 with at most 4 decimals, of the subtotal; not together with an amount.</summary>
    public decimal? DiscountPercent { get; init; }

    /// <summary>Minor units; from 0 to the subtotal.</summary>
    public long? DiscountAmount { get; init; }

    public bool PricesIncludeTax { get; init; }

    public TaxRounding TaxRounding { get; init; }

    /// <summary>The step of cash rounding in minor units; null where the total is paid exactly.</summary>
    public long? CashStep { get; init; }

    /// <summary>
    /// What of the total is paid otherwise than in cash, and so to the minor unit; only the rest is rounded to the
    /// step.
    /// </summary>
    public long PaidExactly { get; init; }
}
