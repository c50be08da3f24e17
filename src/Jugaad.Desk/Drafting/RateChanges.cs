using Jugaad.Core;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;

namespace Jugaad.Desk.Drafting;

/// <summary>
/// Says where a document that was made from another is taxed otherwise, as it is computed on its own date.
/// </summary>
internal static class RateChanges
{
    /// <summary>A sentence to go on with, or nothing.</summary>
    internal static Phrase Between(IEnumerable<DocumentLine> sources, Document made)
    {
        var changes = Of(sources, made);
        return changes.Count == 0
            ? ""
            : (Phrase)$". The tax is another on {made.Date:yyyy-MM-dd}: {Phrase.Join(", ", changes)}";
    }

    /// <summary>
    /// From what to what, in code and in rate, such as <c>STD 22 % → RC no tax</c>; each change once.
    /// </summary>
    internal static IReadOnlyList<Phrase> Of(IEnumerable<DocumentLine> sources, Document made)
    {
        var before = sources.ToDictionary(l => l.Id);
        return (
            from line in made.Lines.OrderBy(l => l.Position)
            where line.Role.HasFigures() && line.FromLineId is { } source && before.ContainsKey(source)
            let was = before[line.FromLineId!.Value]
            where was.Treatment != line.Treatment || was.TaxCode != line.TaxCode
            select (Phrase)$"{was.TaxCode} {Percents(was.Treatment)} → {line.TaxCode} {Percents(line.Treatment)}"
        )
            .Distinct()
            .ToList();
    }

    private static Phrase Percents(string treatment) => Treatment.Parse(treatment).Rates;
}
