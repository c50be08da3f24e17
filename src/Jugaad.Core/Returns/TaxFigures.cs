using Jugaad.Core.Accounts;
using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Exchange;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>Makes the figures of what is posted, in home currency, as its journal entry has them.</summary>
public static class TaxFigures
{
    /// <summary>Those of an invoice, a credit note or a debit note.</summary>
    /// <param name="item">What is on the account for it.</param>
    /// <param name="place">Where it is supplied, seen from the business.</param>
    /// <param name="isGoods">Whether a line sells goods; whatever has no item is a service.</param>
    /// <param name="authorityOf">Whom a tax is told to; null for nobody.</param>
    public static IReadOnlyList<TaxFigure> Of(
        Document document,
        AccountItem item,
        Currency home,
        Place place,
        Func<DocumentLine, bool> isGoods,
        Func<DocumentTax, int?> authorityOf
    )
    {
        var sign = document.Policy.Raises;
        var taxes = document.Taxes.OrderBy(t => t.Position).ToList();
        var treatments = taxes.Select(t => t.Treatment).Distinct().ToList();
        // As posted: each tax is what the paper says that it is, and a net bears what rounding leaves.
        var nets = treatments.ConvertAll(t => NetOf(document, t, _ => true));
        var parts = HomeAmount.Parts(
            document.Payable,
            [.. nets, .. taxes.Select(t => t.Tax), document.Payable - document.Total],
            document.Currency,
            document.ExchangeRate,
            home,
            i => i < nets.Count && nets[i] != 0
        );
        var figures = new List<TaxFigure>();
        for (var t = 0; t < treatments.Count; t++)
        {
            var treatment = treatments[t];
            var goods = Math.Max(0, NetOf(document, treatment, isGoods));
            var services = Math.Max(0, nets[t] - NetOf(document, treatment, isGoods));
            long[] weights = goods == 0 && services == 0 ? [0, 1] : [goods, services];
            var before = 0L;
            foreach (var (tax, i) in taxes.Select((tax, i) => (tax, i)).Where(x => x.tax.Treatment == treatment))
            {
                var homeTax = tax.ToldRate is null ? parts[nets.Count + i] : tax.HomeTax(document, home);
                // At an authority's own rate, what the tax is on is told at that rate as well.
                var homeTaxable = tax.ToldRate is { } told
                    ? HomeAmount.Of(tax.Taxable, document.Currency, told, home)
                    : parts[t] + (tax.IsCompound ? before : 0);
                if (authorityOf(tax) is { } authority)
                    figures.AddRange(
                        Split(homeTaxable, homeTax, weights)
                            .Select(s => new TaxFigure(
                                authority,
                                document.Number!,
                                document.TaxDate ?? document.Date,
                                tax.Position,
                                new TaxKey(tax.Category, tax.Component, tax.Percent, place, s.Supply),
                                tax.ComponentId,
                                sign * s.Taxable,
                                sign * s.Tax
                            )
                            {
                                Item = item,
                                DocumentId = document.Id,
                            })
                    );
                before += homeTax;
            }
        }

        return figures;
    }

    /// <summary>Whether what is taken off an invoice is told: not where its tax stays owed as it was.</summary>
    /// <param name="billed">The figures of the invoice.</param>
    public static bool AreTold(Settlement settlement, IReadOnlyCollection<TaxFigure> billed) =>
        settlement.Taxes.Any(t => billed.Any(f => f.Position == t.Position))
        && (settlement.Tax != 0 || billed.All(f => f.Tax == 0));

    /// <summary>Those of what is taken off an invoice, or comes back of that, as the invoice's own are told.</summary>
    /// <param name="item">What is on the account for it.</param>
    /// <param name="billed">The figures of the invoice.</param>
    public static IReadOnlyList<TaxFigure> Of(
        Settlement settlement,
        AccountItem item,
        Currency home,
        IReadOnlyCollection<TaxFigure> billed
    )
    {
        if (!AreTold(settlement, billed))
            return [];
        var taxes = settlement.Taxes.OrderBy(t => t.Position).ToList();
        var posted = HomeAmount.Parts(
            settlement.Amount,
            [settlement.Net, settlement.Tax],
            settlement.Currency,
            settlement.ExchangeRate,
            home
        );
        var homeTaxes = settlement.HomeTaxes(home);
        // A compound tax's taxable amount has the taxes before it in it; what is left is the net of the treatment.
        var nets = taxes
            .GroupBy(t => t.Treatment)
            .ToDictionary(g => g.Key, g => g.OrderBy(t => t.Position).First().Taxable);
        var homeNets = nets
            .Keys.Zip(Apportion.Spread(item.HomeAmount - posted[1], [.. nets.Values]))
            .ToDictionary(n => n.First, n => n.Second);
        var figures = new List<TaxFigure>();
        for (var i = 0; i < taxes.Count; i++)
        {
            var tax = taxes[i];
            var own = billed.Where(f => f.Position == tax.Position).ToList();
            if (own.Count == 0)
                continue;
            var before =
                tax.Taxable - nets[tax.Treatment] == 0
                    ? 0
                    : taxes.Take(i).Index().Where(t => t.Item.Treatment == tax.Treatment).Sum(t => homeTaxes[t.Index]);
            var homeTaxable = tax.ToldRate is { } told
                ? HomeAmount.Of(tax.Taxable, settlement.Currency, told, home)
                : homeNets[tax.Treatment] + before;
            long Weight(Supply supply) => own.Where(f => f.Supply == supply).Sum(f => Math.Abs(f.Taxable));
            long[] weights = [Weight(Supply.Goods), Weight(Supply.Services)];
            figures.AddRange(
                Split(homeTaxable, homeTaxes[i], weights.Sum() == 0 ? [0, 1] : weights)
                    .Select(s => new TaxFigure(
                        own[0].AuthorityId,
                        item.Number,
                        settlement.Date,
                        tax.Position,
                        new TaxKey(tax.Category, tax.Component, tax.Percent, own[0].Place, s.Supply),
                        tax.ComponentId,
                        item.Sign * s.Taxable,
                        item.Sign * s.Tax
                    )
                    {
                        Item = item,
                        SettlementId = settlement.Id,
                        BookingId = settlement.BookingId,
                    })
            );
        }

        return figures;
    }

    /// <summary>Those of money that belongs to no customer.</summary>
    /// <param name="treatment">How it is taxed on its day.</param>
    public static IReadOnlyList<TaxFigure> Of(
        OtherMoney money,
        Currency home,
        Treatment treatment,
        Func<int?, int?> authorityOf
    )
    {
        var rows = Calculator
            .Compute(
                new DocumentFigures(home, [new LineFigures(1, new Money(money.Amount, home).Units, treatment)])
                {
                    PricesIncludeTax = true,
                }
            )
            .Treatments.SelectMany(t => t.Rows())
            .ToList();
        return
        [
            .. rows.Select(
                    (row, i) =>
                        authorityOf(row.Part?.ComponentId) is { } authority
                            ? new TaxFigure(
                                authority,
                                money.Text,
                                money.Date,
                                i,
                                new TaxKey(
                                    treatment.Category,
                                    row.Part?.Name ?? "",
                                    row.Part?.Percent ?? 0,
                                    Place.Home,
                                    Supply.Services
                                ),
                                row.Part?.ComponentId,
                                row.Taxable,
                                row.Tax
                            )
                            {
                                OtherMoneyId = money.Id,
                                BookingId = money.BookingId,
                            }
                            : null
                )
                .OfType<TaxFigure>(),
        ];
    }

    /// <summary>
    /// Those of what is taken over on a customer's account: its open amount, with the taxes of one code in it.
    /// </summary>
    /// <param name="authorityOf">Whom a tax is still to be told to; null for nobody.</param>
    public static IReadOnlyList<TaxFigure> Of(
        AccountItem opening,
        Currency home,
        Treatment treatment,
        Place place,
        Func<TreatmentPart?, int?> authorityOf
    ) =>
        [
            .. Calculator
                .Compute(
                    new DocumentFigures(
                        home,
                        [new LineFigures(1, new Money(opening.HomeAmount, home).Units, treatment)]
                    )
                    {
                        PricesIncludeTax = true,
                    }
                )
                .Treatments.SelectMany(t => t.Rows())
                .Select(
                    (row, i) =>
                        authorityOf(row.Part) is { } authority
                            ? new TaxFigure(
                                authority,
                                opening.Number,
                                opening.Date,
                                i,
                                new TaxKey(
                                    treatment.Category,
                                    row.Part?.Name ?? "",
                                    row.Part?.Percent ?? 0,
                                    place,
                                    Supply.Services
                                ),
                                row.Part?.ComponentId,
                                opening.Sign * row.Taxable,
                                opening.Sign * row.Tax
                            )
                            {
                                Item = opening,
                            }
                            : null
                )
                .OfType<TaxFigure>(),
        ];

    /// <summary>The same figures of what was taken over, once its number or day is put right.</summary>
    public static IReadOnlyList<TaxFigure> Again(IReadOnlyCollection<TaxFigure> figures, AccountItem opening) =>
        [
            .. figures.Select(f => new TaxFigure(
                f.AuthorityId,
                opening.Number,
                opening.Date,
                f.Position,
                f.Key,
                f.ComponentId,
                f.Taxable,
                f.Tax
            )
            {
                Item = opening,
            }),
        ];

    private static long NetOf(Document document, string treatment, Func<DocumentLine, bool> which)
    {
        var lines = document.Lines.Where(l => l.Counts && l.Treatment == treatment).ToList();
        // A charge, such as freight, goes with the goods where there are any.
        var withGoods = lines.Exists(l => which(l));
        return lines.Where(which).Sum(l => l.Net)
            + (
                withGoods || lines.Count == 0
                    ? document.Charges.Where(c => c.Treatment == treatment).Sum(c => c.Net)
                    : 0
            );
    }

    private static IEnumerable<(Supply Supply, long Taxable, long Tax)> Split(long taxable, long tax, long[] weights)
    {
        var taxables = Apportion.ByWeight(taxable, weights);
        var taxes = Apportion.ByWeight(tax, weights);
        for (var i = 0; i < 2; i++)
            if (weights[i] != 0)
                yield return (i == 0 ? Supply.Goods : Supply.Services, taxables[i], taxes[i]);
    }
}
