using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>What a thing that was posted adds to an account of tax on a day; minor units, a credit above zero.</summary>
public sealed record TaxPlace(DateOnly Day, int AccountId, long Amount);

/// <summary>
/// Says which account of which authority a tax belongs on, day by day: on what is owed to the authority once it counts,
/// and until then, where the authority is told by payment, on what is not due yet.
/// </summary>
public static class TaxPlacing
{
    /// <summary>Whether a figure waits for its payment.</summary>
    /// <param name="payable">What is on the account for it, in minor units; 0 where nothing is.</param>
    public static bool Waits(TaxFigure figure, long payable, CountingRule rule) =>
        payable != 0 && rule.IsByPayment(figure.Date, figure.Category, figure.Place);

    /// <summary>The account on which a figure is posted at first.</summary>
    /// <exception cref="InvalidOperationException">When the authority has no such account yet.</exception>
    public static int AccountAtFirst(TaxFigure figure, long payable, TaxAuthority authority) =>
        (Waits(figure, payable, CountingRule.Of(authority)) ? authority.NotDueAccountId : authority.OwedAccountId)
        ?? throw new InvalidOperationException($"{authority.Name} has no account for its tax.");

    /// <summary>All that the figures of one thing put on accounts of tax, from the day on which it was posted.</summary>
    /// <param name="figures">Those of one thing for one authority.</param>
    /// <param name="posted">The day of its journal entry: nothing is moved before it.</param>
    /// <param name="sets">All that was ever set against it.</param>
    public static IReadOnlyList<TaxPlace> Of(
        IReadOnlyCollection<TaxFigure> figures,
        DateOnly posted,
        long payable,
        IReadOnlyCollection<SetOn> sets,
        TaxAuthority authority
    )
    {
        var rule = CountingRule.Of(authority);
        var places = figures.Select(f => new TaxPlace(posted, AccountAtFirst(f, payable, authority), f.Tax)).ToList();
        var waiting = figures.Where(f => Waits(f, payable, rule)).Select(f => f.Id).ToHashSet();
        if (waiting.Count > 0)
            foreach (
                var counted in TaxCounting.Of(
                    [.. figures.Select(f => new FigureToCount(f.Id, f.Date, f.Key, f.Taxable, f.Tax))],
                    payable,
                    sets,
                    rule
                )
            )
                if (waiting.Contains(counted.Figure))
                {
                    var day = counted.Day < posted ? posted : counted.Day;
                    places.Add(new TaxPlace(day, authority.NotDueAccountId!.Value, -counted.Tax));
                    places.Add(new TaxPlace(day, authority.OwedAccountId!.Value, counted.Tax));
                }

        return
        [
            .. places
                .GroupBy(p => (p.Day, p.AccountId))
                .Select(g => new TaxPlace(g.Key.Day, g.Key.AccountId, g.Sum(p => p.Amount)))
                .Where(p => p.Amount != 0),
        ];
    }
}
