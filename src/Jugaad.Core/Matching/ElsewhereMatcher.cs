using Jugaad.Core.Amounts;

namespace Jugaad.Core.Matching;

/// <summary>
/// What is owed in other currencies than the account that money comes into: what its amount may be is known within a
/// range only, so such a proposal is never sure.
/// </summary>
/// <param name="owed">In other currencies.</param>
/// <param name="worth">What an open amount comes to in the currency of the money at the rates of a day, in minor units;
/// null where there is no rate.</param>
public sealed class ElsewhereMatcher(
    IReadOnlyList<Owed> owed,
    Func<Owed, long, DateOnly, long?> worth,
    DisplayFormat format
)
{
    /// <summary>In percent of what the rates of the day say, up and down: what a bank may take or give.</summary>
    private const int Around = 4;

    private readonly NumberIndex _numbers = new(owed);
    private readonly ILookup<int, Owed> _byCustomer = owed.OrderBy(o => o.Due).ToLookup(o => o.CustomerId);

    /// <summary>Adds what fits, the best first.</summary>
    internal void Propose(
        IncomingMoney money,
        IReadOnlyList<(Payer Payer, PayerKnown How)> payers,
        List<Proposal> proposals
    )
    {
        var named = _numbers.ByReference(money.Reference, money.Text).ToList();
        if (named.Count == 0)
            named = [.. _numbers.ByNumber(money.Text).Whole];
        if (named.DistinctBy(o => o.CustomerId).Count() > 1)
            named = named.FindAll(o => payers.Any(p => p.Payer.CustomerId == o.CustomerId));
        if (named.Count > 0)
        {
            if (named.DistinctBy(o => (o.CustomerId, o.Currency)).Count() == 1)
                Named(money, named, proposals);
            return;
        }

        foreach (var (payer, how) in payers)
        {
            var who =
                how == PayerKnown.ByLikeName ? $"the payer's name is like {payer.Name}" : $"the payer is {payer.Name}";
            var fitting = _byCustomer[payer.CustomerId].Where(o => Fits(money, o, o.Open) is not null).ToList();
            foreach (var one in fitting.Take(2))
                proposals.Add(
                    Whole(
                        how == PayerKnown.ByAccount && fitting.Count == 1 && payers.Count == 1
                            ? Certainty.Likely
                            : Certainty.Possible,
                        money,
                        [one],
                        $"{who}, and {one.Number} is open with"
                    )
                );
        }
    }

    private void Named(IncomingMoney money, List<Owed> named, List<Proposal> proposals)
    {
        var (first, open) = (named[0], named.Sum(o => o.Open));
        var numbers = string.Join(" and ", named.Select(o => o.Number));
        if (Fits(money, first, open) is not null)
        {
            proposals.Add(Whole(Certainty.Likely, money, named, $"{numbers} in the text, open with"));
            return;
        }

        // Far from it, it is a part at most, at the rates of the day.
        if (Given(money, first) is not null || worth(first, open, money.Date) is not { } all || money.Amount >= all)
            return;
        var left = Rounding.Share(open, money.Amount, all);
        var parts = new List<ProposedPart>();
        foreach (var one in named)
        {
            var part = Math.Min(left, one.Open);
            if (part > 0)
                parts.Add(new ProposedPart(one.Id, one.Number, part, false));
            left -= part;
        }

        proposals.Add(
            new Proposal(
                Certainty.Possible,
                first.CustomerId,
                parts,
                0,
                null,
                $"{numbers} in the text; at the rate of the day it is a part of the {format.WithCode(open, first.Currency)} that are open"
            )
            {
                TheirAmount = parts.Sum(p => p.Amount),
                TheirCurrency = first.Currency,
            }
        );
    }

    private Proposal Whole(Certainty certainty, IncomingMoney money, List<Owed> owed, string why)
    {
        var (currency, open) = (owed[0].Currency, owed.Sum(o => o.Open));
        return new Proposal(
            certainty,
            owed[0].CustomerId,
            owed.ConvertAll(o => new ProposedPart(o.Id, o.Number, o.Open, false)),
            0,
            null,
            $"{why} {format.WithCode(open, currency)}, {Fits(money, owed[0], open)}"
        )
        {
            TheirAmount = open,
            TheirCurrency = currency,
        };
    }

    /// <summary>Why an open amount may be what the money pays, in words; null where it is not.</summary>
    private string? Fits(IncomingMoney money, Owed one, long open)
    {
        if (Given(money, one) is { } given)
            return given == open ? "exactly what the bank says that the payer gave" : null;
        if (worth(one, open, money.Date) is not { } about)
            return null;
        var (least, most) = (Rounding.Share(about, 100 - Around, 100), Rounding.Share(about, 100 + Around, 100));
        return money.Amount >= least && money.Amount <= most
            ? $"which at likely rates is {format.Amount(least, money.Currency)} to {format.WithCode(most, money.Currency)}"
            : null;
    }

    private static long? Given(IncomingMoney money, Owed one) =>
        one.Currency.Equals(money.GivenIn) ? money.Given : null;
}
