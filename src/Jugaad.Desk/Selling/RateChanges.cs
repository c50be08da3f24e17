using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Desk.Selling;

/// <summary>Says where a document that was made from another is taxed otherwise, as it is computed on its own date.</summary>
internal static class RateChanges
{
    /// <summary>A sentence to go on with, or nothing.</summary>
    internal static string Between(IEnumerable<DocumentLine> sources, Document made)
    {
        var before = sources.Select(l => (l.TaxCode, l.Treatment)).Distinct().ToList();
        var changes = made.Lines.Where(l => l.Role.HasFigures()).Select(l => (l.TaxCode, l.Treatment)).Distinct()
            .SelectMany(now => before.Where(was => was.TaxCode == now.TaxCode && was.Treatment != now.Treatment)
                .Select(was => $"{now.TaxCode} from {Percents(was.Treatment)} to {Percents(now.Treatment)}")).Distinct().ToList();
        return changes.Count == 0 ? "" : $". The tax rate is another on {made.Date:yyyy-MM-dd}: {string.Join(", ", changes)}";
    }

    private static string Percents(string treatment) =>
        string.Join(" + ", Treatment.Parse(treatment).Parts.Select(p => PlainDecimal.Text(p.Percent) + " %"));
}
