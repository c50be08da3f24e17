using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;

namespace Jugaad.Core.EInvoicing;

/// <summary>
/// Cuts small sales into summaries: each day or month by itself, sales apart from what came back, and what is outside the
/// scope of tax apart from the rest (BR-O-11). One is ended early where rounding each sale by itself would take a tax
/// further off its rate than readers bear.
/// </summary>
public static class SummaryCut
{
    /// <summary>What of a document cannot be told in a summary; null where all of it can.</summary>
    public static Phrase? ProblemOf(Document document)
    {
        var refusals = new Refusals();
        EInvoiceLimits.Check(refusals, document);
        if (refusals.First is { } refused)
            return refused.Phrase;
        return OffBy(document.Taxes.Select(t => (t.Treatment, t.Taxable, t.Tax)), document.Currency, 1)
            ? (Phrase)$"{document.Number} is taxed line by line, and comes further off the rate than an e-invoice may."
            : null;
    }

    /// <param name="documents">Each can be told by itself.</param>
    /// <returns>Oldest first; each document is in one of them.</returns>
    public static IReadOnlyList<SummaryToMake> Of(IEnumerable<Document> documents, SummaryPeriod period)
    {
        var cut = new List<SummaryToMake>();
        foreach (
            var same in documents
                .OrderBy(d => d.Date)
                .ThenBy(d => d.Id)
                .GroupBy(d => (First: FirstOf(d.Date, period), Kind: KindOf(d), Outside: IsOutside(d)))
                .OrderBy(g => g.Key.First)
                .ThenBy(g => g.Key.Kind)
                .ThenBy(g => g.Key.Outside)
        )
        {
            var (first, kind, _) = same.Key;
            var last = period == SummaryPeriod.Day ? first : first.AddMonths(1).AddDays(-1);
            cut.AddRange(Cut(same).Select(some => new SummaryToMake(kind, first, last, some)));
        }

        return cut;
    }

    internal static SummaryKind KindOf(Document document) =>
        document.Kind == DocumentKind.CreditNote ? SummaryKind.Returns : SummaryKind.Sales;

    private static bool IsOutside(Document document) =>
        document.Taxes.Count > 0 && document.Taxes.All(t => EInvoiceTaxes.Of(t.Treatment).Category == "O");

    private static DateOnly FirstOf(DateOnly day, SummaryPeriod period) =>
        period == SummaryPeriod.Day ? day : new DateOnly(day.Year, day.Month, 1);

    private static IEnumerable<List<Document>> Cut(IEnumerable<Document> documents)
    {
        var some = new List<Document>();
        foreach (var next in documents)
        {
            if (
                some.Count > 0
                && OffBy(
                    some.Append(next).SelectMany(d => d.Taxes).Select(t => (t.Treatment, t.Taxable, t.Tax)),
                    next.Currency,
                    some.Count + 1
                )
            )
            {
                yield return some;
                some = [];
            }

            some.Add(next);
        }

        if (some.Count > 0)
            yield return some;
    }

    /// <summary>
    /// Whether a tax is further off its rate than half of the least coin for each sale and one for the sum, or than one
    /// whole unit, which is as much as the standard's own checkers let pass.
    /// </summary>
    private static bool OffBy(
        IEnumerable<(string Treatment, long Taxable, long Tax)> taxes,
        Currency currency,
        int sales
    ) =>
        taxes
            .GroupBy(t => EInvoiceTaxes.Of(t.Treatment))
            .Any(same =>
            {
                var off = Math.Abs(same.Sum(t => t.Tax) - (same.Sum(t => t.Taxable) * (same.Key.Rate ?? 0) / 100));
                var least = currency.MinorPerUnit > 100 ? currency.MinorPerUnit / 100m : 1;
                return off > Math.Min(least + (least / 2 * sales), currency.MinorPerUnit);
            });
}
