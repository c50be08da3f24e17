using Jugaad.Core.Documents;

namespace Jugaad.Core.Layouts;

/// <summary>What a row of a table is, by which it looks.</summary>
internal enum RowRole
{
    Plain,

    /// <summary>Words over the whole width.</summary>
    Words,
    Section,
    Subtotal,

    /// <summary>What the table comes to.</summary>
    Sum,
}

/// <summary>A row of a table: what stands in each of its columns.</summary>
/// <param name="Running">What the rows come to up to this one, in minor units.</param>
internal sealed record TableRow(
    IReadOnlyDictionary<string, string> Cells,
    RowRole Role = RowRole.Plain,
    long Running = 0
)
{
    internal string this[string key] => Cells.GetValueOrDefault(key, "");
}

/// <summary>The rows of the tables of a bill, and the heads of their columns.</summary>
internal static class TableRows
{
    internal static IReadOnlyList<TableRow> Of(PaperContent content, TableOf table) =>
        table switch
        {
            TableOf.Lines => Lines(content),
            TableOf.Taxes => content.ShowsPrices ? Taxes(content) : [],
            TableOf.Totals => content.ShowsPrices ? Totals(content) : [],
            _ => [],
        };

    /// <summary>The word that the paper's language has for a column.</summary>
    internal static string Head(PaperContent content, TableOf table, string key)
    {
        var words = content.Words;
        return (table, key) switch
        {
            (TableOf.Lines, "Text") => words[PaperWord.What],
            (TableOf.Lines, "TheirNumber") => words[PaperWord.TheirNumber],
            (TableOf.Lines, "Quantity") => words[PaperWord.Quantity],
            (TableOf.Lines, "Price") => words[PaperWord.Price],
            (TableOf.Lines, "Discount") => words[PaperWord.Discount],
            (TableOf.Lines, "Tax") => words[PaperWord.Tax],
            (TableOf.Lines, "Amount") => $"{words[PaperWord.Amount]} {content.CurrencyCode}",
            (TableOf.Taxes, "Label") => words[PaperWord.TaxByRate],
            (TableOf.Taxes, "Taxable") => words[PaperWord.On],
            (TableOf.Taxes, "Tax") => words[PaperWord.Tax],
            (TableOf.Taxes, "Home") => $"{words[PaperWord.Tax]} {content.HomeCode}",
            _ => "",
        };
    }

    /// <summary>Whether a column has a place on the paper at all.</summary>
    internal static bool HasPlace(PaperContent content, TableOf table, string key) =>
        table != TableOf.Lines || content.ShowsPrices || key is not ("Price" or "Discount" or "Tax" or "Amount");

    private static List<TableRow> Lines(PaperContent content)
    {
        var (rows, number) = (new List<TableRow>(), 0);
        foreach (var line in content.Lines)
        {
            if (line.Role == LineRole.Subtotal && !content.ShowsPrices)
                continue;
            var role = line.Role switch
            {
                LineRole.Text => RowRole.Words,
                LineRole.Section => RowRole.Section,
                LineRole.Subtotal => RowRole.Subtotal,
                _ => RowRole.Plain,
            };
            rows.Add(
                new TableRow(
                    new Dictionary<string, string>
                    {
                        ["No"] = role == RowRole.Plain ? $"{++number}" : "",
                        ["Text"] = line.Text,
                        ["TheirNumber"] = line.TheirNumber,
                        ["Quantity"] = line.Quantity,
                        ["Unit"] = line.Unit,
                        ["Price"] = line.Price,
                        ["Discount"] = line.Discount,
                        ["Tax"] = content.ShowsTax ? line.Tax : "",
                        ["Amount"] = line.Amount,
                    },
                    role,
                    line.Running
                )
            );
        }

        return rows;
    }

    private static IReadOnlyList<TableRow> Taxes(PaperContent content) =>
        [
            .. content.Taxes.Select(t => new TableRow(
                new Dictionary<string, string>
                {
                    ["Label"] = t.Label,
                    ["Taxable"] = t.Taxable,
                    ["Tax"] = t.Tax,
                    ["Home"] = t.Home,
                }
            )),
        ];

    private static IReadOnlyList<TableRow> Totals(PaperContent content) =>
        [
            .. content.Totals.Select(t => new TableRow(
                new Dictionary<string, string> { ["Label"] = t.Label, ["Amount"] = t.Amount },
                t.Strong ? RowRole.Sum : RowRole.Plain
            )),
        ];
}
