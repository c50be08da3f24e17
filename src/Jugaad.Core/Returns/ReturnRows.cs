using Jugaad.Core.Taxes;

namespace Jugaad.Core.Returns;

/// <summary>What was told of a figure on a day in a return that is filed.</summary>
public sealed record ToldBefore(
    int Figure,
    DateOnly Day,
    TaxKey Key,
    string Number,
    DateOnly Date,
    long Taxable,
    long Tax,
    RowOrigin Origin = RowOrigin.Sales
);

/// <summary>A row of a return: what counts of a figure on a day. Minor units of the home currency.</summary>
/// <param name="Date">The tax date of what it came from.</param>
/// <param name="Day">The day on which it counts.</param>
/// <param name="IsLate">Whether that day is before the period: it was not told when it should have been.</param>
public sealed record ReturnRow(
    int Figure,
    string Number,
    DateOnly Date,
    DateOnly Day,
    TaxKey Key,
    long Taxable,
    long Tax,
    bool IsLate,
    RowOrigin Origin = RowOrigin.Sales
);

/// <summary>All rows of one tax at one rate; minor units of the home currency.</summary>
public sealed record ReturnSum(TaxCategory Category, string Component, decimal Percent, long Taxable, long Tax);

/// <summary>
/// The rows of a return: all that counts up to its last day, less what was told in returns that are filed. So nothing is
/// told twice and nothing is lost, whatever was posted, undone or put right since.
/// </summary>
public static class ReturnRows
{
    /// <param name="known">By figure, its number, tax date and where it comes from.</param>
    /// <param name="told">All that earlier returns told.</param>
    public static IReadOnlyList<ReturnRow> Of(
        IEnumerable<Counted> counted,
        IReadOnlyDictionary<int, (string Number, DateOnly Date, TaxKey Key, RowOrigin Origin)> known,
        IEnumerable<ToldBefore> told,
        DateOnly from,
        DateOnly to
    )
    {
        var rows = new Dictionary<(int Figure, DateOnly Day), ReturnRow>();
        foreach (var c in counted.Where(c => c.Day <= to))
            Add(c.Figure, c.Day, known[c.Figure], c.Taxable, c.Tax);
        // Also of figures that are gone since: what was told of them is taken back.
        foreach (var t in told)
            Add(t.Figure, t.Day, (t.Number, t.Date, t.Key, t.Origin), -t.Taxable, -t.Tax);
        return
        [
            .. rows
                .Values.Where(r => r.Taxable != 0 || r.Tax != 0)
                .OrderBy(r => r.IsLate ? 0 : 1)
                .ThenBy(r => r.Day)
                .ThenBy(r => r.Number, StringComparer.Ordinal)
                .ThenBy(r => r.Figure),
        ];

        void Add(
            int figure,
            DateOnly day,
            (string Number, DateOnly Date, TaxKey Key, RowOrigin Origin) of,
            long taxable,
            long tax
        )
        {
            var row =
                rows.GetValueOrDefault((figure, day))
                ?? new ReturnRow(figure, of.Number, of.Date, day, of.Key, 0, 0, day < from, of.Origin);
            rows[(figure, day)] = row with { Taxable = row.Taxable + taxable, Tax = row.Tax + tax };
        }
    }

    /// <summary>By category, component and rate; sums of nothing are left out.</summary>
    public static IReadOnlyList<ReturnSum> Summary(IEnumerable<ReturnRow> rows) =>
        [
            .. rows.GroupBy(r => (r.Key.Category, r.Key.Component, r.Key.Percent))
                .Select(g => new ReturnSum(
                    g.Key.Category,
                    g.Key.Component,
                    g.Key.Percent,
                    g.Sum(r => r.Taxable),
                    g.Sum(r => r.Tax)
                ))
                .Where(s => s.Taxable != 0 || s.Tax != 0)
                .OrderBy(s => s.Category)
                .ThenBy(s => s.Component, StringComparer.Ordinal)
                .ThenByDescending(s => s.Percent),
        ];
}
