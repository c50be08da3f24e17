using System.Numerics;
using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>
/// Computes a document's totals. Every step is exact in whole numbers; rounding is half away from zero, once, at the
/// points that are named here: the extension, percentage discounts, each component's tax (or the net where prices
/// include tax), and cash rounding.
/// </summary>
public static class Calculator
{
    /// <exception cref="RefusalException">With all that is wrong, each by its field, such as
    /// <c>lines[0].discountAmount</c>.</exception>
    public static Totals Compute(DocumentFigures document)
    {
        FiguresCheck.Throw(document);
        var lines = LineAmounts(document);
        // Before anything is added up, so that no sum below can run over.
        if (
            Counted(document, lines).Sum(l => Math.Abs(l.Amount)) > Limits.AmountMinor
            || document.Charges.Sum(c => Math.Abs(c.Amount)) > Limits.AmountMinor
        )
            throw new RefusalException(
                "lines",
                "The document's lines come to more than an amount can be. Split it up."
            );
        long subtotal = Counted(document, lines).Sum(l => l.Amount);
        long discount = DocumentDiscount(document, subtotal);

        var groups =
            document.TaxRounding == TaxRounding.Line
                ? GroupsByLine(document, lines, discount)
                : GroupsByTreatment(document, lines, discount);

        var lineNets = new long[lines.Length];
        var chargeNets = new long[document.Charges.Count];
        var lineBases = new long[lines.Length];
        var byTreatment = new List<TreatmentTotals>();
        var taxed = new List<TaxedGroup>();
        foreach (var group in groups)
        {
            var totals = Tax(group, document.PricesIncludeTax);
            taxed.Add(new TaxedGroup(group.Lines, group.Charges, group.Base, totals, group.TakesBack));
            Spread(group, totals, lines, document, lineNets, chargeNets, lineBases);
            AddUp(byTreatment, totals);
        }

        long net = byTreatment.Sum(t => t.Net);
        long tax = byTreatment.Sum(t => t.Tax);
        long total = net + tax;
        if (Math.Abs(total) > Limits.AmountMinor)
            throw new RefusalException("lines", "The document's total is more than an amount can be. Split it up.");
        long payable = document.CashStep is { } step
            ? document.PaidExactly + Rounding.ToStep(total - document.PaidExactly, step)
            : total;
        return new Totals(
            document.Currency,
            lines,
            lineNets,
            chargeNets,
            subtotal,
            discount,
            document.Charges.Sum(c => c.Amount),
            byTreatment,
            net,
            tax,
            payable - total,
            payable
        )
        {
            LineBases = lineBases,
            Groups = taxed,
        };
    }

    /// <summary>Quantity × unit price, rounded to minor units.</summary>
    /// <param name="quantity">At most 6 decimals.</param>
    /// <param name="unitPrice">At most 6 decimals, in units of the currency.</param>
    /// <exception cref="ArgumentException">When either has more decimals.</exception>
    public static long Extension(decimal quantity, decimal unitPrice, Currency currency) =>
        checked((long)ExactExtension(quantity, unitPrice, currency));

    /// <summary>
    /// The tax that is in an amount with tax, rounded half away from zero so that net and tax add up to it.
    /// </summary>
    /// <param name="amount">Minor units.</param>
    public static long TaxIn(Treatment treatment, long amount) => TaxWithin(treatment, amount).Tax;

    private static Int128 ExactExtension(decimal quantity, decimal unitPrice, Currency currency)
    {
        // Quantity and price are whole millionths, so their product is whole 10^-12 of a unit.
        var product =
            Rounding.Scaled(quantity, Limits.FigureDecimals) * Rounding.Scaled(unitPrice, Limits.FigureDecimals);
        return Rounding.Divide(product, (Int128)1_000_000_000_000 / currency.MinorPerUnit);
    }

    private static IEnumerable<LineTotals> Counted(DocumentFigures document, LineTotals[] lines) =>
        lines.Where((_, i) => document.Lines[i].Counts);

    /// <summary>Lines and charges that are taxed together.</summary>
    private sealed class Group(Treatment treatment, TakenBack? takesBack = null, bool takesOff = false)
    {
        public Treatment Treatment { get; } = treatment;

        public TakenBack? TakesBack { get; } = takesBack;

        public bool TakesOff { get; } = takesOff;

        public List<int> Lines { get; } = [];

        public List<int> Charges { get; } = [];

        public long LineSum { get; set; }

        public long ChargeSum { get; set; }

        public long Discount { get; set; }

        /// <summary>What earlier stages billed, as far as the lines go on from any.</summary>
        public List<BilledBefore> Before { get; } = [];

        public long Base => LineSum + ChargeSum - Discount;
    }

    private static LineTotals[] LineAmounts(DocumentFigures document)
    {
        var lines = new LineTotals[document.Lines.Count];
        var refusals = new Refusals();
        for (var i = 0; i < lines.Length; i++)
        {
            var line = document.Lines[i];
            var exact = ExactExtension(line.Quantity, line.UnitPrice, document.Currency);
            if (Int128.Abs(exact) > Limits.AmountMinor)
            {
                refusals.Add(
                    $"lines[{i}].quantity",
                    "Quantity × unit price is more than an amount can be. Lower one of them."
                );
                lines[i] = new LineTotals(0, 0, 0);
                continue;
            }

            var extension = (long)exact;
            if (line.Share is { } share)
            {
                // A part may be a cent more than its price; what it is a share of has been checked.
                lines[i] = new LineTotals(extension, extension - share, share);
                continue;
            }

            var discount = line.DiscountPercent is { } percent
                ? Rounding.Percent(extension, percent)
                : line.DiscountAmount ?? 0;
            if (
                Math.Abs(discount) > Math.Abs(extension)
                || (discount != 0 && Math.Sign(discount) != Math.Sign(extension))
            )
            {
                refusals.Add(
                    $"lines[{i}].discountAmount",
                    discount < 0 && extension >= 0
                        ? "A discount cannot be below zero. To ask for more, raise the price or add a charge."
                        : (Phrase)
                            $"The discount of {new Money(discount, document.Currency)} is more than the line's {new Money(extension, document.Currency)}. Give at most that."
                );
            }

            lines[i] = new LineTotals(extension, discount, extension - discount);
        }

        refusals.ThrowIfAny();
        return lines;
    }

    private static long DocumentDiscount(DocumentFigures document, long subtotal)
    {
        var discount = document.DiscountPercent is { } percent
            ? Rounding.Percent(subtotal, percent)
            : document.DiscountAmount ?? 0;
        var field = document.DiscountPercent is null ? "discountAmount" : "discountPercent";
        if (discount < 0)
            throw new RefusalException(
                field,
                "The document's discount cannot be below zero. Leave it out, or add a charge."
            );
        if (discount > Math.Max(subtotal, 0))
            throw new RefusalException(
                field,
                $"The discount of {new Money(discount, document.Currency)} is more than the subtotal of {new Money(subtotal, document.Currency)}. Give at most that."
            );
        return discount;
    }

    private static List<Group> GroupsByTreatment(DocumentFigures document, LineTotals[] lines, long discount)
    {
        var groups = new List<Group>();
        for (var i = 0; i < lines.Length; i++)
        {
            var line = document.Lines[i];
            if (!line.Counts)
                continue;
            var group = GroupOf(groups, line.Treatment, line.TakesBack, line.TakesOff);
            group.Lines.Add(i);
            group.LineSum += lines[i].Amount;
            if (!line.Before.IsNothing)
                group.Before.Add(line.Before);
        }

        for (var i = 0; i < document.Charges.Count; i++)
        {
            var group = GroupOf(groups, document.Charges[i].Treatment, document.Charges[i].TakesBack);
            group.Charges.Add(i);
            group.ChargeSum += document.Charges[i].Amount;
        }

        ShareDiscount(groups, discount);
        return groups;
    }

    private static List<Group> GroupsByLine(DocumentFigures document, LineTotals[] lines, long discount)
    {
        var groups = new List<Group>(lines.Length + document.Charges.Count);
        for (var i = 0; i < lines.Length; i++)
        {
            if (document.Lines[i] is not { Counts: true } line)
                continue;
            // What goes back goes back as it was taxed, and so together where it was taxed together.
            var group = line.TakesBack is null
                ? new Group(line.Treatment) { Before = { line.Before } }
                : GroupOf(groups, line.Treatment, line.TakesBack, line.TakesOff);
            if (line.TakesBack is null)
                groups.Add(group);
            group.Lines.Add(i);
            group.LineSum += lines[i].Amount;
        }

        ShareDiscount(groups, discount);
        for (var i = 0; i < document.Charges.Count; i++)
        {
            var charge = document.Charges[i];
            var group = charge.TakesBack is null
                ? new Group(charge.Treatment)
                : GroupOf(groups, charge.Treatment, charge.TakesBack);
            if (charge.TakesBack is null)
                groups.Add(group);
            group.Charges.Add(i);
            group.ChargeSum += charge.Amount;
        }

        return groups;
    }

    private static Group GroupOf(List<Group> groups, Treatment treatment, TakenBack? takesBack, bool takesOff = false)
    {
        var group = groups.Find(g =>
            g.TakesOff == takesOff && g.TakesBack?.Group == takesBack?.Group && g.Treatment.Equals(treatment)
        );
        if (group is null)
            groups.Add(group = new Group(treatment, takesBack, takesOff));
        return group;
    }

    private static void ShareDiscount(List<Group> groups, long discount)
    {
        if (discount == 0)
            return;
        var shares = Apportion.ByWeight(discount, groups.ConvertAll(g => Math.Max(g.LineSum, 0)));
        for (var i = 0; i < shares.Length; i++)
            groups[i].Discount = shares[i];
    }

    private static TreatmentTotals Tax(Group group, bool includesTax)
    {
        if (group.TakesBack is { } back)
            return TaxBack(group, back, includesTax);
        var before = group.Before.Sum(b => b.Amount);
        var whole = TaxOn(group.Treatment, group.Base + before, includesTax);
        if (group.Before.TrueForAll(b => b.IsNothing))
            return whole;
        var charged = group.Before.ConvertAll(b => b.Charged(group.Treatment, includesTax));
        return With(group, [.. whole.Taxes.Select((t, i) => t.Tax - charged.Sum(c => c[i]))], includesTax);
    }

    /// <summary>What goes back bears its share of the tax that the whole bore.</summary>
    private static TreatmentTotals TaxBack(Group group, TakenBack back, bool includesTax)
    {
        var sign = group.TakesOff ? -1 : 1;
        return With(
            group,
            [.. back.TaxesOf(sign * group.Base, group.Treatment, includesTax).Select(t => sign * t)],
            includesTax
        );
    }

    private static TreatmentTotals With(Group group, IReadOnlyList<long> taxes, bool includesTax) =>
        new(
            group.Treatment,
            includesTax ? group.Base - taxes.Sum() : group.Base,
            [.. group.Treatment.Parts.Zip(taxes, (p, t) => new ComponentTax(p, t))]
        );

    /// <summary>What each component of a treatment comes to on an amount, each rounded half away from zero.</summary>
    /// <param name="amount">Minor units.</param>
    /// <param name="includesTax">Whether the tax is within the amount rather than on top of it.</param>
    public static IReadOnlyList<long> TaxesOn(Treatment treatment, long amount, bool includesTax) =>
        [.. TaxOn(treatment, amount, includesTax).Taxes.Select(t => t.Tax)];

    private static TreatmentTotals TaxOn(Treatment treatment, long amount, bool includesTax) =>
        includesTax ? TaxWithin(treatment, amount) : TaxOnTop(treatment, amount);

    private static TreatmentTotals TaxOnTop(Treatment treatment, long amount)
    {
        var parts = treatment.Parts;
        var taxes = new List<ComponentTax>(parts.Count);
        long before = 0;
        foreach (var part in parts)
        {
            var tax = Rounding.Percent(part.Compound ? amount + before : amount, part.Percent);
            taxes.Add(new ComponentTax(part, tax));
            before += tax;
        }

        return new TreatmentTotals(treatment, amount, taxes);
    }

    private static TreatmentTotals TaxWithin(Treatment treatment, long amount)
    {
        var parts = treatment.Parts;
        var (exact, sum, unit) = ExactTaxesOnOne(parts);
        var factor = unit + sum;
        var net = (long)Rounding.Divide(amount * unit, factor);
        var tax = amount - net;
        // Each exact tax is base × share ÷ factor; their sum rounds to the tax up to a tie, which the shares absorb.
        var sign = tax < 0 ? -1 : 1;
        var shares = sum.IsZero
            ? new long[parts.Count]
            : Apportion.ByExactShares(Math.Abs(tax), exact.Select(e => e * Math.Abs(tax)).ToList(), sum);
        return new TreatmentTotals(
            treatment,
            net,
            parts.Select((p, i) => new ComponentTax(p, sign * shares[i])).ToList()
        );
    }

    /// <summary>The exact tax of each component on 1, over a common unit, with their sum.</summary>
    private static (List<BigInteger> Exact, BigInteger Sum, BigInteger Unit) ExactTaxesOnOne(
        IReadOnlyList<TreatmentPart> parts
    )
    {
        var unit = BigInteger.One;
        var sum = BigInteger.Zero;
        var exact = new List<BigInteger>(parts.Count);
        foreach (var part in parts)
        {
            var percent = (BigInteger)Rounding.Scaled(part.Percent, Limits.PercentDecimals);
            var onWhat = part.Compound ? unit + sum : unit;
            for (var i = 0; i < exact.Count; i++)
                exact[i] *= 1_000_000;
            sum *= 1_000_000;
            unit *= 1_000_000;
            exact.Add(onWhat * percent);
            sum += onWhat * percent;
        }

        return (exact, sum, unit);
    }

    /// <summary>
    /// Shares a group's net out over its lines and charges, so that what is posted adds up to the cent.
    /// </summary>
    private static void Spread(
        Group group,
        TreatmentTotals totals,
        LineTotals[] lines,
        DocumentFigures document,
        long[] lineNets,
        long[] chargeNets,
        long[] lineBases
    )
    {
        // A line's exact part of the base is its amount less its part of the discount; of the net, that times net ÷
        // base.
        var discounted =
            group.Discount == 0
                ? null
                : Apportion.ByWeight(group.Discount, group.Lines.ConvertAll(i => Math.Max(lines[i].Amount, 0)));
        var parts = group
            .Lines.Select((i, k) => lines[i].Amount - (discounted?[k] ?? 0))
            .Concat(group.Charges.Select(i => document.Charges[i].Amount))
            .ToList();
        var shares = group.Base == totals.Net ? parts.ToArray() : Scale(parts, totals.Net, group.Base);
        for (var k = 0; k < group.Lines.Count; k++)
            (lineNets[group.Lines[k]], lineBases[group.Lines[k]]) = (shares[k], parts[k]);
        for (var k = 0; k < group.Charges.Count; k++)
            chargeNets[group.Charges[k]] = shares[group.Lines.Count + k];
    }

    private static long[] Scale(List<long> parts, long net, long whole)
    {
        var sign = whole < 0 ? -1 : 1;
        return Apportion.ByExactShares(
            net,
            parts.ConvertAll(p => new BigInteger(p) * net * sign),
            new BigInteger(whole) * sign
        );
    }

    private static void AddUp(List<TreatmentTotals> all, TreatmentTotals one)
    {
        var at = all.FindIndex(t => t.Treatment.Equals(one.Treatment));
        if (at < 0)
        {
            all.Add(one);
            return;
        }

        var sum = all[at];
        all[at] = new TreatmentTotals(
            sum.Treatment,
            sum.Net + one.Net,
            sum.Taxes.Select((t, i) => t with { Tax = t.Tax + one.Taxes[i].Tax }).ToList()
        );
    }
}
