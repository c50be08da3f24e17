using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Matching;

/// <summary>
/// Recognises money that went out as a refund, or a returned payment, that was entered by hand. It is sure where the
/// account or the number says so too and nothing else fits the amount.
/// </summary>
public static class OutgoingMatcher
{
    private const int MostDays = 10;

    /// <param name="money">With what went out as an amount above zero; its payer is whoever got it.</param>
    public static IReadOnlyList<Proposal> Propose(
        IncomingMoney money,
        IReadOnlyList<GoneOut> gone,
        DisplayFormat format
    )
    {
        var account = StructuredReference.Plain(money.PayerAccount);
        var text = StructuredReference.Plain($"{money.Reference} {money.Text}");
        bool Said(GoneOut one) =>
            (account.Length > 0 && StructuredReference.Plain(one.Account) == account)
            || (
                one.Number.Length > 0 && text.Contains(StructuredReference.Plain(one.Number), StringComparison.Ordinal)
            );
        var same = gone.Where(g =>
                g.Amount == money.Amount && Math.Abs(g.Date.DayNumber - money.Date.DayNumber) <= MostDays
            )
            .OrderByDescending(Said)
            .ThenBy(g => Math.Abs(g.Date.DayNumber - money.Date.DayNumber))
            .ThenBy(g => g.BookingId)
            .Take(3)
            .ToList();
        var said = same.Count(Said);
        return same.ConvertAll(g => new Proposal(
            Said(g) && said == 1 ? Certainty.Sure : Certainty.Likely,
            g.CustomerId,
            [],
            0,
            null,
            $"{g.What} {g.Number} of {format.Date(g.Date)}, entered by hand, is the same amount{(Said(g) ? account.Length > 0 && StructuredReference.Plain(g.Account) == account ? " to the same account" : " and its number is in the text" : "")}: the same money"
        )
        {
            JoinsBookingId = g.BookingId,
        });
    }
}
