using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>A line's computed amounts in minor units, in the price mode of the document.</summary>
/// <param name="Extension">Quantity × unit price, rounded.</param>
/// <param name="Discount">The line's own discount.</param>
/// <param name="Amount">Extension less discount.</param>
public sealed record LineTotals(long Extension, long Discount, long Amount);

/// <summary>One component's tax on a treatment, in minor units.</summary>
public sealed record ComponentTax(TreatmentPart Part, long Tax);

/// <summary>What one treatment comes to.</summary>
/// <param name="Net">The taxable amount: lines and charges less the share of the discount, without tax. Minor
/// units.</param>
/// <param name="Taxes">In the order of the components; empty where the treatment has none.</param>
public sealed record TreatmentTotals(Treatment Treatment, long Net, IReadOnlyList<ComponentTax> Taxes)
{
    public long Tax => Taxes.Sum(t => t.Tax);

    /// <summary>
    /// A row for each tax with what it is on: a compound one is also on the taxes before it. One row without a tax
    /// where the treatment has none.
    /// </summary>
    public IReadOnlyList<TaxRow> Rows()
    {
        if (Taxes.Count == 0)
            return [new TaxRow(null, Net, 0)];
        var rows = new List<TaxRow>(Taxes.Count);
        var before = 0L;
        foreach (var tax in Taxes)
        {
            rows.Add(new TaxRow(tax.Part, tax.Part.Compound ? Net + before : Net, tax.Tax));
            before += tax.Tax;
        }

        return rows;
    }
}

/// <summary>One tax of a treatment with what it is on, in minor units.</summary>
/// <param name="Part">Null where there is no tax.</param>
public readonly record struct TaxRow(TreatmentPart? Part, long Taxable, long Tax);

/// <summary>Lines and charges that were taxed together, by their places. Minor units.</summary>
/// <param name="Base">Lines and charges less the share of the discount, in the price mode of the document.</param>
public sealed record TaxedGroup(
    IReadOnlyList<int> Lines,
    IReadOnlyList<int> Charges,
    long Base,
    TreatmentTotals Totals,
    TakenBack? TakesBack
);

/// <summary>A document's totals in minor units of its currency.</summary>
/// <param name="Lines">One for each line.</param>
/// <param name="LineNets">Each line's share of <see cref="Net"/>, for posting to its ledger account.</param>
/// <param name="ChargeNets">Each charge's share of <see cref="Net"/>.</param>
/// <param name="Subtotal">Sum of the line amounts.</param>
/// <param name="Discount">The document's discount.</param>
/// <param name="Charges">Sum of the charges, in the price mode of the document.</param>
/// <param name="Treatments">In the order in which they first appear.</param>
/// <param name="Net">Total without tax.</param>
/// <param name="Rounding">What cash rounding adds; no tax is due on it.</param>
/// <param name="Payable">Total plus rounding.</param>
public sealed record Totals(
    Currency Currency,
    IReadOnlyList<LineTotals> Lines,
    IReadOnlyList<long> LineNets,
    IReadOnlyList<long> ChargeNets,
    long Subtotal,
    long Discount,
    long Charges,
    IReadOnlyList<TreatmentTotals> Treatments,
    long Net,
    long Tax,
    long Rounding,
    long Payable
)
{
    /// <summary>What was taxed together, in its order.</summary>
    public IReadOnlyList<TaxedGroup> Groups { get; init; } = [];

    /// <summary>
    /// Each line's amount less its share of the document's discount, in the price mode of the document; 0 for what does
    /// not count.
    /// </summary>
    public IReadOnlyList<long> LineBases { get; init; } = [];

    /// <summary>Net plus tax.</summary>
    public long Total => Net + Tax;
}
