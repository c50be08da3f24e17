using Jugaad.Core.Amounts;
using Jugaad.Core.Trade;

namespace Jugaad.Web.Shell;

/// <summary>Lists to choose from that are the same on several pages.</summary>
public static class Choices
{
    public static IEnumerable<(string, string)> Countries => Core.Trade.Countries.All.Select(c => (c.Code, c.Name));

    public static IEnumerable<(string, string)> Currencies => Currency.All.Select(c => (c.Code, $"{c.Code} {c.Name}"));

    public static IEnumerable<(string, string)> Units => Core.Trade.Units.All.Select(u => (u.Code, u.Name));

    public static IEnumerable<(string, string)> DecimalMarks => [(".", "1 234.50"), (",", "1 234,50")];

    public static IEnumerable<(string, string)> DatePatterns =>
        DisplayFormat.DatePatterns.Select(p => (p, new DateOnly(2025, 9, 17).ToString(p)));

    public static IEnumerable<(string, string)> Months =>
        Enumerable
            .Range(1, 12)
            .Select(m =>
                (
                    m.ToString(),
                    new DateOnly(2025, m, 1).ToString("MMMM", System.Globalization.CultureInfo.InvariantCulture)
                )
            );

    public static IEnumerable<(string, string)> TaxRoundings =>
        [
            (nameof(Core.Amounts.TaxRounding.Document), "once for each rate of a document"),
            (nameof(Core.Amounts.TaxRounding.Line), "line by line"),
        ];

    public static IEnumerable<(string, string)> CustomerKinds =>
        [
            (nameof(CustomerKind.Business), "Business"),
            (nameof(CustomerKind.Consumer), "Consumer"),
            (nameof(CustomerKind.PublicBody), "Public body"),
        ];
}
