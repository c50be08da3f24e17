namespace Jugaad.Core.Documents;

/// <summary>Finds the discount with which a document comes to a wanted total.</summary>
public static class WantedTotal
{
    /// <summary>
    /// The document's discount, in minor units, with which its total comes nearest to the wanted one. With tax on top
    /// not every total can be met, as one cent of discount moves the total by more than one.
    /// </summary>
    /// <param name="wanted">Minor units.</param>
    /// <exception cref="RefusalException">When the total without a discount is below the wanted one, or a full discount
    /// is above it.</exception>
    public static long DiscountFor(DocumentFigures figures, long wanted)
    {
        long TotalAt(long discount) =>
            Calculator.Compute(figures with { DiscountPercent = null, DiscountAmount = discount }).Total;
        var whole = Calculator.Compute(figures with { DiscountPercent = null, DiscountAmount = null });
        var currency = figures.Currency;
        if (wanted > whole.Total)
            throw new RefusalException(
                "discountAmount",
                $"{new Amounts.Money(wanted, currency)} is more than the {new Amounts.Money(whole.Total, currency)} without a discount. Ask for at most that, or raise a price."
            );
        var (least, most) = (0L, Math.Max(whole.Subtotal, 0));
        if (wanted < TotalAt(most))
            throw new RefusalException(
                "discountAmount",
                $"The charges alone come to {new Amounts.Money(TotalAt(most), currency)}. Ask for at least that."
            );
        // The total never rises with the discount, so the first discount that is enough is found by halving.
        while (least < most)
        {
            var middle = least + ((most - least) / 2);
            if (TotalAt(middle) <= wanted)
                most = middle;
            else
                least = middle + 1;
        }

        return least > 0 && TotalAt(least - 1) - wanted < wanted - TotalAt(least) ? least - 1 : least;
    }
}
