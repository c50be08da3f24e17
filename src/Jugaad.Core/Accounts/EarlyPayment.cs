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
/// The early-payment discount: so many percent of the whole when the money comes within so many days of the date and
/// nothing has been paid before.
/// </summary>
public static class EarlyPayment
{
    /// <param name="payable">What the invoice asked for, in minor units; the discount is a percentage of it, rounded half away from zero.</param>
    /// <param name="until">The last day on which it is offered; null where the terms give none.</param>
    /// <param name="paid">What has been set against the invoice already.</param>
    /// <param name="day">The day on which the money came.</param>
    public static EarlyOffer Of(long payable, decimal percent, DateOnly? until, long paid, DateOnly day)
    {
        if (percent <= 0 || until is not { } last) return EarlyOffer.None;
        var amount = Rounding.Percent(payable, percent);
        if (amount <= 0) return new EarlyOffer(0, "It is too small for a discount of a whole minor unit.");
        if (day > last) return new EarlyOffer(amount, $"It was offered until {last:yyyy-MM-dd}, and the money came on {day:yyyy-MM-dd}.");
        return paid > 0 ? new EarlyOffer(amount, "Something has been paid on it already.") : new EarlyOffer(amount, null);
    }
}
