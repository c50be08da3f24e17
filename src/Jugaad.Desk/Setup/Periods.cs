using Jugaad.Core;
using Jugaad.Desk.Books;

namespace Jugaad.Desk.Setup;

/// <summary>Closes the books up to a day and opens them again, and says how rests are dealt with.</summary>
public sealed class Periods(BookWriter writer, BooksHead head)
{
    /// <param name="day">The last day that is closed; null for none.</param>
    /// <exception cref="RefusalException">When the day is today or later.</exception>
    public Task<int> CloseUpToAsync(DateOnly? day, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var business = await head.BusinessAsync(stop);
        var before = business.ClosedUpTo;
        business.CloseUpTo(day, await head.TodayAsync(stop));
        if (before != day) await writer.TrailAsync(day is { } to ? $"Books closed up to {to:yyyy-MM-dd}{(before > to ? $", opened again from {before:yyyy-MM-dd}" : "")}" : $"Books opened again; they were closed up to {before:yyyy-MM-dd}");
        return business.Id;
    }, stop);

    /// <summary>How small a rest may be given up, and whether paying early lowers the tax.</summary>
    /// <param name="smallDifference">Minor units.</param>
    public Task<int> SettleAsync(bool earlyPaymentLeavesTax, long smallDifference, string? formKey = null, CancellationToken stop = default) => writer.WriteAsync(Right.Setup, formKey, async () =>
    {
        var business = await head.BusinessAsync(stop);
        business.Settle(earlyPaymentLeavesTax, smallDifference);
        await writer.TrailAsync($"A rest of up to {new Core.Amounts.Money(smallDifference, business.HomeCurrency)} {business.HomeCurrency} counts as small; an early-payment discount {(earlyPaymentLeavesTax ? "leaves the tax as it was" : "lowers the tax")}");
        return business.Id;
    }, stop);
}
