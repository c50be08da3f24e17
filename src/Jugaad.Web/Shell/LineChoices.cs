using Jugaad.Core.Documents;

namespace Jugaad.Web.Shell;

/// <summary>
/// The lines of a quote that are to be chosen from, as fields of a form: options by one name, alternatives that stand
/// together by one of their own.
/// </summary>
public static class LineChoices
{
    public static IReadOnlyList<DocumentLine> Of(Document quote) =>
        [.. quote.Lines.Where(l => l.Choice != LineChoice.Firm).OrderBy(l => l.Position)];

    /// <summary>Alternatives that stand together have one name, so that one of them is chosen.</summary>
    public static string NameOf(Document quote, DocumentLine line)
    {
        if (line.Choice == LineChoice.Optional)
            return "chosen";
        var first = line.Position;
        while (quote.Lines.Any(l => l.Position == first - 1 && l.Choice == LineChoice.Alternative))
            first--;
        return $"either-{first}";
    }

    public static HashSet<int> Read(IFormCollection form) =>
        [
            .. form.Where(f => f.Key == "chosen" || f.Key.StartsWith("either-", StringComparison.Ordinal))
                .SelectMany(f => f.Value)
                .Select(v => int.TryParse(v, out var id) ? id : 0)
                .Where(id => id > 0),
        ];
}
