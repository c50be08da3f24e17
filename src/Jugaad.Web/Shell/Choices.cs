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

    public static IEnumerable<(string Value, string Text)> PaperForms =>
        [
            (nameof(PaperForm.Pdf), "by mail, as PDF"),
            (nameof(PaperForm.HybridPdf), "by mail, PDF with the e-invoice inside"),
            (nameof(PaperForm.EInvoice), "as e-invoices, by the network"),
            (nameof(PaperForm.Print), "printed"),
        ];

    /// <summary>The usual schemes of electronic addresses, and the one that is there already.</summary>
    public static IEnumerable<(string Value, string Text)> ElectronicSchemes(string? there) =>
        WithWhatIsThere(ElectronicAddress.Usual, there);

    /// <summary>The usual lists of classifications, and the one that is there already.</summary>
    public static IEnumerable<(string Value, string Text)> Classifications(string? there) =>
        WithWhatIsThere(CodeLists.Classifications, there);

    private static IEnumerable<(string Value, string Text)> WithWhatIsThere(
        IReadOnlyList<(string Code, string Name)> usual,
        string? there
    ) =>
        usual
            .Select(u => (u.Code, $"{u.Code} {u.Name}"))
            .Prepend(("", "none"))
            .Concat(there is { Length: > 0 } && usual.All(u => u.Code != there) ? [(there, there)] : []);

    public static IEnumerable<(string, string)> CustomerKinds =>
        [
            (nameof(CustomerKind.Business), "Business"),
            (nameof(CustomerKind.Consumer), "Consumer"),
            (nameof(CustomerKind.PublicBody), "Public body"),
        ];
}
