using Jugaad.Core.Amounts;

namespace Jugaad.Core.Accounts;

/// <summary>What an invoice's early-payment discount comes to, and whether it is offered.</summary>
/// <param name="Amount">Minor units; 0 where the terms give none.</param>
/// <param name="NotOffered">Why it is not offered; null where it is.</param>
public sealed record EarlyOffer(long Amount, string? NotOffered)
{
    public static EarlyOffer None { get; } = new(0, "Its terms give no early-payment discount.");

    public bool IsOffered => NotOffered is null && Amount > 0;
}

/// <summary>
/// The early-payment discount: so many percent of what is asked for when the money comes within so many days of the
/// date and nothing has been paid before. It is given once for an invoice, and a credit note is no payment.
/// </summary>
public static class EarlyPayment
{
    /// <param name="asked">What the invoice asked for less what was credited of it, in minor units; the discount is a
    /// percentage of it, rounded half away from zero.</param>
    /// <param name="until">The last day on which it is offered; null where the terms give none.</param>
    /// <param name="paid">What was paid on the invoice already; credit notes do not count.</param>
    /// <param name="given">Whether it was given before.</param>
    /// <param name="day">The day on which the money came.</param>
    public static EarlyOffer Of(long asked, decimal percent, DateOnly? until, long paid, bool given, DateOnly day)
    {
        if (percent <= 0 || until is not { } last)
            return EarlyOffer.None;
        if (given)
            return new EarlyOffer(0, "Its early-payment discount was given already.");
        var amount = Rounding.Percent(asked, percent);
        if (amount <= 0)
            return new EarlyOffer(0, "It is too small for a discount of a whole minor unit.");
        if (day > last)
            return new EarlyOffer(
                amount,
                $"It was offered until {last:yyyy-MM-dd}, and the money came on {day:yyyy-MM-dd}."
            );
        return paid > 0
            ? new EarlyOffer(amount, "Something has been paid on it already.")
            : new EarlyOffer(amount, null);
    }

    /// <summary>
    /// What of the discount a payment earns: all of it where both together settle what is open, else the part that goes
    /// with what is paid.
    /// </summary>
    /// <param name="offer">The whole discount, in minor units.</param>
    /// <param name="percent">Above 0 and below 100.</param>
    /// <param name="open">What is open before the payment.</param>
    /// <param name="paid">The payment.</param>
    public static long EarnedBy(long offer, decimal percent, long open, long paid)
    {
        if (paid <= 0)
            return 0;
        if (paid + offer >= open)
            return Math.Max(0, Math.Min(offer, open - paid));
        var share = Rounding.Divide(
            (Int128)paid * Rounding.Scaled(percent, Limits.PercentDecimals),
            Rounding.Scaled(100 - percent, Limits.PercentDecimals)
        );
        return Math.Min(offer, (long)share);
    }
}
