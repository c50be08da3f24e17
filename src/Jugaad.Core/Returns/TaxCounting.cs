using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>From a day on, an authority is told by invoice or by payment.</summary>
public sealed record BasisSince(DateOnly Since, TaxBasis Basis);

/// <summary>When what is owed to an authority counts.</summary>
/// <param name="Bases">In the order of their days; the first holds for all days before the second.</param>
/// <param name="ByPayment">The categories that may be told by payment; all others are told by invoice.</param>
/// <param name="MostMonths">After so many months from its tax date what is not paid counts; null for never.</param>
/// <param name="Ends">The last day of the registration, on which all that is not paid counts; null while it goes
/// on.</param>
public sealed record CountingRule(
    IReadOnlyList<BasisSince> Bases,
    IReadOnlySet<TaxCategory> ByPayment,
    int? MostMonths = null,
    DateOnly? Ends = null
)
{
    /// <summary>The categories that are usually told by payment.</summary>
    public static IReadOnlySet<TaxCategory> Usual { get; } =
        new HashSet<TaxCategory> { TaxCategory.Standard, TaxCategory.Zero, TaxCategory.Exempt };

    /// <summary>That of an authority, as it is told now.</summary>
    public static CountingRule Of(TaxAuthority authority) =>
        new(
            [
                new BasisSince(DateOnly.MinValue, authority.Basis),
                .. authority.Changes.Select(c => new BasisSince(c.Since, c.Basis)),
            ],
            authority.PaidCategories.Count == 0 ? Usual : authority.PaidCategories.ToHashSet(),
            authority.MostMonths,
            authority.RegisteredTo
        );

    /// <summary>Whether anything was, is or will be told by payment.</summary>
    public bool HasPayment => Bases.Any(b => b.Basis == TaxBasis.ByPayment);

    public TaxBasis On(DateOnly day) => Bases.LastOrDefault(b => b.Since <= day)?.Basis ?? Bases[0].Basis;

    /// <summary>
    /// Whether a figure counts as it is paid. Goods to the union, exports, and what its buyer in another country
    /// accounts for are always told by invoice.
    /// </summary>
    public bool IsByPayment(DateOnly taxDate, TaxCategory category, Place place) =>
        On(taxDate) == TaxBasis.ByPayment
        && ByPayment.Contains(category)
        && category is not (TaxCategory.IntraUnion or TaxCategory.Export)
        && (category != TaxCategory.ReverseCharge || place is not (Place.Union or Place.Abroad));

    /// <summary>The day on which all that is not paid of a figure counts; null where it waits for money.</summary>
    public DateOnly? EndOf(DateOnly taxDate)
    {
        var change = Bases
            .Where(b => b.Since > taxDate && b.Basis == TaxBasis.ByInvoice)
            .Select(b => (DateOnly?)b.Since)
            .FirstOrDefault();
        DateOnly? limit = MostMonths is { } months ? taxDate.AddMonths(months) : null;
        // What is dated after the registration counts at once.
        var ends = Ends is { } last && last < taxDate ? taxDate : Ends;
        return new[] { change, limit, ends }.Min();
    }
}

/// <summary>What was set against an item: from its day until the day on which it was taken apart.</summary>
/// <param name="Amount">Minor units of the item's currency.</param>
public sealed record SetOn(DateOnly From, DateOnly? Until, long Amount);

/// <summary>A figure about to be counted.</summary>
/// <param name="Id">Whatever tells it apart from all others.</param>
/// <param name="Date">The tax date.</param>
public sealed record FigureToCount(int Id, DateOnly Date, TaxKey Key, long Taxable, long Tax);

/// <summary>What counts of a figure on a day; minor units of the home currency.</summary>
public sealed record Counted(int Figure, DateOnly Day, long Taxable, long Tax);

/// <summary>
/// Works out on which days the figures of one posted thing count. Whatever the days and parts, all that counts of a
/// figure comes to the figure itself once it is paid, and to nothing once all of that is taken apart.
/// </summary>
public static class TaxCounting
{
    /// <param name="figures">Those of one thing for one authority.</param>
    /// <param name="payable">What of it is on the account, in minor units of its currency; 0 where nothing is.</param>
    /// <param name="sets">All that was ever set against it.</param>
    public static IReadOnlyList<Counted> Of(
        IReadOnlyCollection<FigureToCount> figures,
        long payable,
        IReadOnlyCollection<SetOn> sets,
        CountingRule rule
    )
    {
        var counted = new List<Counted>();
        // Goods and services of one tax are rounded as one, as the tax itself was.
        foreach (
            var same in figures.GroupBy(f => (f.Date, f.Key.Category, f.Key.Component, f.Key.Percent, f.Key.Place))
        )
        {
            var (date, category, _, _, place) = same.Key;
            if (payable == 0 || !rule.IsByPayment(date, category, place))
                counted.AddRange(same.Select(f => new Counted(f.Id, date, f.Taxable, f.Tax)));
            else
                counted.AddRange(AsPaid([.. same], date, payable, sets, rule.EndOf(date)));
        }

        return [.. counted.Where(c => c.Taxable != 0 || c.Tax != 0)];
    }

    private static IEnumerable<Counted> AsPaid(
        IReadOnlyList<FigureToCount> figures,
        DateOnly date,
        long payable,
        IReadOnlyCollection<SetOn> sets,
        DateOnly? end
    )
    {
        var days = sets.Select(s => s.From)
            .Concat(sets.Select(s => s.Until).OfType<DateOnly>())
            .Where(d => end is null || d < end)
            .Distinct()
            .Order();
        var before = new (long Taxable, long Tax)[figures.Count];
        foreach (var day in end is { } last ? days.Append(last) : days)
        {
            var paid =
                day == end
                    ? payable
                    : sets.Where(s => s.From <= day && (s.Until is null || day < s.Until)).Sum(s => s.Amount);
            var taxable = Shared([.. figures.Select(f => f.Taxable)], paid, payable);
            var tax = Shared([.. figures.Select(f => f.Tax)], paid, payable);
            for (var i = 0; i < figures.Count; i++)
            {
                yield return new Counted(figures[i].Id, day, taxable[i] - before[i].Taxable, tax[i] - before[i].Tax);
                before[i] = (taxable[i], tax[i]);
            }
        }
    }

    /// <summary>The share of the sum, rounded once, with what rounding the parts leaves on the largest.</summary>
    private static long[] Shared(long[] parts, long paid, long payable)
    {
        var shares = parts.Select(p => Rounding.Share(p, paid, payable)).ToArray();
        var largest = Array.IndexOf(parts, parts.MaxBy(Math.Abs));
        shares[largest] += Rounding.Share(parts.Sum(), paid, payable) - shares.Sum();
        return shares;
    }
}
