using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>What can be said of a document's figures before anything is computed.</summary>
internal static class FiguresCheck
{
    /// <exception cref="RefusalException">With every figure that cannot be.</exception>
    internal static void Throw(DocumentFigures document)
    {
        var refusals = new Refusals();
        if (document.Lines.Count == 0)
            refusals.Add("lines", "The document has no line. Add one first.");
        if (document.Lines.Count > Limits.Lines)
            refusals.Add("lines", $"A document has at most {Limits.Lines} lines. Split it up.");
        if (document.Charges.Count > Limits.Lines)
            refusals.Add("charges", $"A document has at most {Limits.Lines} charges. Split it up.");
        for (var i = 0; i < document.Lines.Count; i++)
        {
            var line = document.Lines[i];
            var at = $"lines[{i}]";
            Figure(refusals, $"{at}.quantity", line.Quantity);
            Figure(refusals, $"{at}.unitPrice", line.UnitPrice);
            Discount(refusals, at + ".", line.DiscountPercent, line.DiscountAmount);
            Components(refusals, $"{at}.taxCode", line.Treatment);
        }

        for (var i = 0; i < document.Charges.Count; i++)
        {
            if (Math.Abs(document.Charges[i].Amount) > Limits.AmountMinor)
                refusals.Add($"charges[{i}].amount", "The charge is more than an amount can be.");
            Components(refusals, $"charges[{i}].taxCode", document.Charges[i].Treatment);
        }

        Discount(refusals, "", document.DiscountPercent, document.DiscountAmount);
        if (document.CashStep is { } step && (step <= 0 || step > 100_000 * document.Currency.MinorPerUnit))
            refusals.Add("cashRounding", "The step of cash rounding must be above zero, such as 0.05.");
        refusals.ThrowIfAny();
    }

    private static void Components(Refusals refusals, string field, Treatment treatment)
    {
        if (treatment.Parts.Count > Limits.Components)
            refusals.Add(
                field,
                $"This tax code has {treatment.Parts.Count} components; at most {Limits.Components} can be. Choose another code."
            );
    }

    private static void Figure(Refusals refusals, string field, decimal value)
    {
        if (Math.Abs(value) > Limits.Figure)
            refusals.Add(field, $"{value} is too large; the most is {Limits.Figure}.");
        else if (PlainDecimal.DecimalsOf(value) > Limits.FigureDecimals)
            refusals.Add(
                field,
                $"{value} has more than {Limits.FigureDecimals} decimals. Leave the rest out, or round it yourself."
            );
    }

    private static void Discount(Refusals refusals, string at, decimal? percent, long? amount)
    {
        if (percent is not null && amount is not null)
            refusals.Add($"{at}discountAmount", "There is a discount in percent and one in money. Keep one of them.");
        if (percent is < 0 or > 100)
            refusals.Add($"{at}discountPercent", $"A discount of {percent.Value} % cannot be. Give 0 to 100.");
        else if (percent is { } p && PlainDecimal.DecimalsOf(p) > Limits.PercentDecimals)
            refusals.Add(
                $"{at}discountPercent",
                $"{p} has more than {Limits.PercentDecimals} decimals. Leave the rest out, or round it yourself."
            );
        if (amount is { } a && Math.Abs(a) > Limits.AmountMinor)
            refusals.Add($"{at}discountAmount", "The discount is more than an amount can be.");
    }
}
