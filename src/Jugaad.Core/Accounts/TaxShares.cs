using System.Numerics;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Core.Accounts;

/// <summary>
/// A part of what is taken off an invoice afterwards: the net of one treatment, or one tax of it. Minor units.
/// </summary>
/// <param name="Position">The place of the tax among the document's taxes; the first one's where it is the net.</param>
public sealed record TaxShare(int Position, bool IsTax, long Amount);

/// <summary>
/// Splits what is taken off an invoice afterwards over its nets and taxes, so that the tax goes down with it.
/// </summary>
public static class TaxShares
{
    /// <summary>
    /// Apportions an amount over the document's net and taxes, by treatment, by largest remainder. The shares add up to
    /// the amount.
    /// </summary>
    /// <param name="taxes">The document's own, in their order.</param>
    /// <param name="amount">Minor units of the document's currency.</param>
    /// <param name="lowersTax">False where the business leaves the tax as it was: then all of it is net.</param>
    /// <param name="before">What was taken off with its tax before; all parts together lower each tax to the
    /// cent.</param>
    public static IReadOnlyList<TaxShare> Of(
        IReadOnlyList<DocumentTax> taxes,
        long amount,
        bool lowersTax,
        IReadOnlyList<TaxShare>? before = null
    )
    {
        // A treatment with several taxes stands once for each of them, with the same net.
        var wholes = new List<TaxShare>();
        foreach (var tax in taxes.OrderBy(t => t.Position))
        {
            if (!wholes.Exists(w => !w.IsTax && taxes.Single(t => t.Position == w.Position).Treatment == tax.Treatment))
                wholes.Add(new TaxShare(tax.Position, false, tax.Taxable));
            if (tax.Tax != 0 && lowersTax)
                wholes.Add(new TaxShare(tax.Position, true, tax.Tax));
        }

        var total = wholes.Sum(w => w.Amount);
        if (total <= 0)
            return amount == 0 ? [] : [new TaxShare(0, false, amount)];
        var gone = wholes.ConvertAll(w =>
            before?.Where(b => b.Position == w.Position && b.IsTax == w.IsTax).Sum(b => b.Amount) ?? 0
        );
        // Up to and with this one, less the ones before.
        var upTo = gone.Sum() + amount;
        var shares = Apportion.ByExactShares(upTo, wholes.ConvertAll(w => new BigInteger(w.Amount) * upTo), total);
        return [.. wholes.Select((w, i) => w with { Amount = shares[i] - gone[i] }).Where(w => w.Amount != 0)];
    }

    /// <summary>What settlements took off a document with its tax, less what came back of it.</summary>
    /// <param name="settlements">Of one document, with their taxes; those that were undone are left out by whoever
    /// asks.</param>
    public static IReadOnlyList<TaxShare> TakenOff(IEnumerable<Settlement> settlements)
    {
        var shares = new List<TaxShare>();
        foreach (
            var settlement in settlements.Where(s =>
                s.Kind != SettlementKind.SmallDifference && (s.Tax != 0 || s.Kind == SettlementKind.BadDebt)
            )
        )
        {
            var sign = settlement.Kind is SettlementKind.Recovery or SettlementKind.EarlyTakenBack ? -1 : 1;
            foreach (var treatment in settlement.Taxes.GroupBy(t => t.Treatment))
            {
                // The net stands with the first tax of its treatment; that of a compound one has others in it.
                var first = treatment.MinBy(t => t.Position)!;
                shares.Add(new TaxShare(first.Position, false, sign * first.Taxable));
                shares.AddRange(
                    treatment.Where(t => t.Tax != 0).Select(t => new TaxShare(t.Position, true, sign * t.Tax))
                );
            }
        }

        return shares;
    }
}
