using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Matching;

/// <summary>A filed tax return of which something is left, as matching sees it.</summary>
/// <param name="Signs">What names it or its authority in a bank's text.</param>
/// <param name="Left">Minor units of the home currency; below zero for what is to come back.</param>
public sealed record TaxLeft(int ReturnId, string Words, IReadOnlyList<string> Signs, long Left);

/// <summary>
/// Recognises what was paid to a tax authority, or came back from it. It is sure where the whole amount of one return
/// alone is meant and the text names it; a part is proposed only where the text does.
/// </summary>
public static class TaxMatcher
{
    /// <param name="money">With an amount above zero.</param>
    /// <param name="isOut">Whether it went out.</param>
    public static IReadOnlyList<Proposal> Propose(
        IncomingMoney money,
        bool isOut,
        IReadOnlyList<TaxLeft> returns,
        DisplayFormat format
    )
    {
        var text = StructuredReference.Plain($"{money.Reference} {money.Text} {money.PayerName}");
        bool Named(TaxLeft one) =>
            one
                .Signs.Select(StructuredReference.Plain)
                .Any(s => s.Length >= 4 && text.Contains(s, StringComparison.OrdinalIgnoreCase));
        var fit = returns
            .Where(r => r.Left > 0 == isOut && Math.Abs(r.Left) >= money.Amount)
            .Select(r => (Return: r, Whole: Math.Abs(r.Left) == money.Amount, Named: Named(r)))
            .Where(r => r.Whole || (isOut && r.Named))
            .OrderByDescending(r => r.Whole)
            .ThenByDescending(r => r.Named)
            .Take(3)
            .ToList();
        return
        [
            .. fit.Select(f => new Proposal(
                f.Whole && f.Named && fit.Count(o => o.Whole) == 1 ? Certainty.Sure
                    : f.Whole ? Certainty.Likely
                    : Certainty.Possible,
                0,
                [],
                0,
                null,
                $"{(f.Whole ? "all" : "a part")} of the {format.Amount(Math.Abs(f.Return.Left), money.Currency)} that {(isOut ? "is left to pay" : "is to come back")} of the {f.Return.Words}{(f.Named ? ", which the text names" : "")}"
            )
            {
                PaysReturnId = f.Return.ReturnId,
            }),
        ];
    }
}
