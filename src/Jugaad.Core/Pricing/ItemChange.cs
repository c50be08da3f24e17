using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Pricing;

/// <summary>What is to become of many items at once; what is null stays.</summary>
public sealed record ItemChange
{
    public int? TaxCodeId { get; init; }

    public int? LedgerAccountId { get; init; }

    public string? Classification { get; init; }

    /// <summary>Of which list the classification is; changes with it, and stays where it is null.</summary>
    public string? ClassificationList { get; init; }

    /// <summary>By how much prices move: −100 to 1000, at most 4 decimals.</summary>
    public decimal? Percent { get; init; }

    /// <summary>The list whose prices move; null for the items' own prices.</summary>
    public int? PriceListId { get; init; }

    /// <summary>Moved prices are rounded to the nearest multiple of it.</summary>
    public decimal Step { get; init; } = 0.01m;

    /// <exception cref="RefusalException">With every field that is wrong, or when nothing would change.</exception>
    public void Check()
    {
        var refusals = new Refusals();
        if (TaxCodeId is null && LedgerAccountId is null && Classification is null && Percent is null)
            refusals.Add("", "Say what to change: a tax, an account, a classification or the prices.");
        if (Percent is < -100 or > 1000 || Percent is { } p && PlainDecimal.DecimalsOf(p) > Limits.PercentDecimals)
            refusals.Add("percent", "Move prices by −100 to 1000 percent, with at most 4 decimals.");
        if (Percent == 0)
            refusals.Add(
                "percent",
                "Moving by 0 percent changes nothing. Give a percentage, with a minus to lower prices."
            );
        if (Step is <= 0 or > 1000 || PlainDecimal.DecimalsOf(Step) > Limits.FigureDecimals)
            refusals.Add("step", "Round to a step above zero, such as 0.01, 0.05 or 1.");
        if (Classification is { } classification)
            Texts.Short(refusals, "classification", classification, 40);
        if (ClassificationList is { Length: > 0 } list && !CodeLists.IsClassificationList(list))
            refusals.Add("classificationList", $"“{list}” is no list of classifications. Choose one of the list.");
        if (ClassificationList is not null && Classification is null)
            refusals.Add("classification", "A list alone classifies nothing. Give the code too.");
        refusals.ThrowIfAny();
    }

    /// <summary>The item's details after the change.</summary>
    public ItemDetails Apply(ItemDetails before)
    {
        var after = before with
        {
            TaxCodeId = TaxCodeId ?? before.TaxCodeId,
            LedgerAccountId = LedgerAccountId ?? before.LedgerAccountId,
            Classification = Classification ?? before.Classification,
            ClassificationList = ClassificationList ?? before.ClassificationList,
        };
        if (Percent is not { } percent)
            return after;
        if (PriceListId is null)
            return after with { Price = PriceMove.Apply(before.Price, percent, Step) };
        return before.Prices.TryGetValue(PriceListId.Value, out var listed)
            ? after with
            {
                Prices = new Dictionary<int, decimal>(before.Prices)
                {
                    [PriceListId.Value] = PriceMove.Apply(listed, percent, Step),
                },
            }
            : after;
    }
}
