using Jugaad.Core.Amounts;

namespace Jugaad.Core.Documents;

/// <summary>Turns what was typed in one currency, or with tax, into another currency, or without tax.</summary>
public static class DraftConversion
{
    /// <summary>
    /// Prices, discounts in money and charges in another currency: prices rounded half away from zero to that
    /// currency's decimals (at least 2), amounts to its minor unit.
    /// </summary>
    /// <param name="factor">Units of <paramref name="to"/> for one of <paramref name="from"/>.</param>
    public static DraftContent Into(this DraftContent content, Currency from, Currency to, decimal factor)
    {
        if (from.Equals(to))
            return content;
        long Amount(long minor) => Minor((decimal)minor / from.MinorPerUnit * factor * to.MinorPerUnit);
        return content with
        {
            DiscountAmount = content.DiscountAmount is { } discount ? Amount(discount) : null,
            WantedTotal = content.WantedTotal is { } wanted ? Amount(wanted) : null,
            Lines =
            [
                .. content.Lines.Select(l =>
                    l with
                    {
                        UnitPrice = Math.Round(
                            l.UnitPrice * factor,
                            Math.Max(2, to.Decimals),
                            MidpointRounding.AwayFromZero
                        ),
                        DiscountAmount = l.DiscountAmount is { } off ? Amount(off) : null,
                    }
                ),
            ],
            Charges = [.. content.Charges.Select(c => c with { Amount = Amount(c.Amount) })],
        };
    }

    /// <summary>
    /// Prices with tax instead of without, or the other way round, each by its own factor; amounts go with them, and
    /// the discount of the whole in proportion.
    /// </summary>
    /// <param name="price">The new price of a line, by its place.</param>
    /// <param name="lineFactor">What an amount of a line is multiplied by; 1 where it is not taxed.</param>
    public static DraftContent Switched(
        this DraftContent content,
        bool withTax,
        Func<int, decimal> price,
        Func<int, decimal> lineFactor,
        Func<int, decimal> chargeFactor
    )
    {
        var lines = content
            .Lines.Select(
                (l, i) =>
                    l.Role.HasFigures()
                        ? l with
                        {
                            UnitPrice = price(i),
                            DiscountAmount = l.DiscountAmount is { } off ? Minor(off * lineFactor(i)) : null,
                        }
                        : l
            )
            .ToList();
        var (before, after) = (Sum(content.Lines), Sum(lines));
        return content with
        {
            PricesIncludeTax = withTax,
            DiscountAmount = content.DiscountAmount is { } discount
                ? before == 0
                    ? discount
                    : Minor(discount * after / before)
                : null,
            Lines = lines,
            Charges = [.. content.Charges.Select((c, i) => c with { Amount = Minor(c.Amount * chargeFactor(i)) })],
        };
    }

    /// <summary>
    /// A price multiplied by what tax makes of it, rounded to 6 decimals, or to 2 where it comes to that but for a
    /// millionth.
    /// </summary>
    public static decimal PriceBy(decimal price, decimal factor)
    {
        var (exact, plain) = (
            Math.Round(price * factor, Limits.FigureDecimals, MidpointRounding.AwayFromZero),
            Math.Round(price * factor, 2, MidpointRounding.AwayFromZero)
        );
        return Math.Abs(exact - plain) <= 0.000001m ? plain : exact;
    }

    private static decimal Sum(IEnumerable<DraftLine> lines) =>
        lines.Where(l => l.Counts).Sum(l => l.Quantity * l.UnitPrice);

    private static long Minor(decimal exact) => (long)Math.Round(exact, 0, MidpointRounding.AwayFromZero);
}
