using System.Text;
using System.Text.RegularExpressions;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokens;
using static Jugaad.Formats.Tests.SampleContent;

namespace Jugaad.Formats.Tests;

/// <summary>
/// The form of the files: what ISO 19005-2 (PDF/A-2b) asks for and forbids, and what readers that speak need.
/// </summary>
public sealed partial class PdfFormTests
{
    internal static byte[] Pdf(string language, int lines = 3) =>
        PdfPainter.Paint(
            [
                Composer.Compose(
                    ShippedLayouts.Plain,
                    Invoice(lines) with
                    {
                        Words = PaperWords.Of(language),
                        TransferCode = "BCD\n002\n1\nSCT",
                    },
                    PaperFonts.Shared
                ),
            ],
            new PaperPictures(null, null),
            new DateOnly(2025, 9, 17),
            "Loft & Söhne"
        );

    [Theory]
    [InlineData("en")]
    [InlineData("sv")]
    [InlineData("lt")]
    public void It_says_its_language_and_shows_its_title(string language)
    {
        var pdf = Pdf(language);
        using var read = PdfDocument.Open(pdf);
        var catalog = read.Structure.Catalog.CatalogDictionary;
        ((StringToken)catalog.Data["Lang"]).Data.ShouldBe(language);
        ((DictionaryToken)catalog.Data["ViewerPreferences"])
            .Data["DisplayDocTitle"]
            .ToString()
            .ShouldBe("true", StringCompareShould.IgnoreCase);
        read.Information.Title!.ShouldContain("INV");
        read.Information.Author.ShouldBe("Loft & Söhne");
        Pdf(language).ShouldBe(pdf, "the same bytes for the same paper");
    }

    [GeneratedRegex(@"startxref\s+(\d+)\s+%%EOF")]
    private static partial Regex Starts();

    [Fact]
    public void Its_tables_lead_where_they_say()
    {
        var pdf = Pdf("sv", 60);
        var text = Encoding.Latin1.GetString(pdf);
        var starts = Starts().Matches(text);
        starts.Count.ShouldBe(2, "the file as painted, and what is said of it");
        foreach (Match start in starts)
            text[int.Parse(start.Groups[1].Value)..].ShouldStartWith("xref\n");
        // Every entry of each table is an object of its number at its place.
        foreach (Match table in Tables().Matches(text))
        {
            var first = int.Parse(table.Groups[1].Value);
            var entries = table.Groups[3].Value.Split('\n', StringSplitOptions.RemoveEmptyEntries);
            entries.Length.ShouldBe(int.Parse(table.Groups[2].Value));
            for (var i = 0; i < entries.Length; i++)
                if (entries[i].Contains('n', StringComparison.Ordinal))
                    text[int.Parse(entries[i][..10])..].ShouldStartWith($"{first + i} 0 obj");
        }

        text.ShouldContain("/Prev ");
        using var read = PdfDocument.Open(pdf);
        read.NumberOfPages.ShouldBeGreaterThan(1);
    }

    [GeneratedRegex(@"xref\n(\d+) (\d+)\n((?:\d{10} \d{5} [nf] ?\n)+)")]
    private static partial Regex Tables();

    [Fact]
    public void It_is_an_archive_file_of_part_two_level_b()
    {
        var pdf = Pdf("en");
        var text = Encoding.Latin1.GetString(pdf);
        text.ShouldStartWith("%PDF-1.");
        text.ShouldContain("<pdfaid:part>2</pdfaid:part>");
        text.ShouldContain("<pdfaid:conformance>B</pdfaid:conformance>");
        text.ShouldContain("/S /GTS_PDFA1");
        text.ShouldContain("/DestOutputProfile");
        text.ShouldContain("/ID [<");
        foreach (
            var forbidden in new[]
            {
                "/Encrypt",
                "/JavaScript",
                "/JS ",
                "/Launch",
                "/EmbeddedFiles",
                "/LZWDecode",
                "/AA ",
            }
        )
            text.ShouldNotContain(forbidden);
        using var read = PdfDocument.Open(pdf);
        // Each typeface is embedded as a part of itself, with letters to read it by.
        foreach (var font in Fonts().Matches(text).Select(m => m.Groups[1].Value).Distinct())
            font.ShouldMatch("^[A-Z]{6}\\+");
        text.ShouldContain("/ToUnicode");
        text.ShouldContain("/FontFile2");
        read.GetPage(1).Text.ShouldContain("INV");
    }

    [GeneratedRegex(@"/FontName /(\S+)")]
    private static partial Regex Fonts();

    [Fact]
    public void However_often_it_is_painted_it_is_the_same()
    {
        var paper = Composer.Compose(ShippedLayouts.Plain, Invoice(3), PaperFonts.Shared);
        byte[] Paint() => PdfPainter.Paint([paper], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Loft");
        var first = Paint();
        // The name that chance draws is written in one of two ways; the rarer comes once in some dozens.
        for (var i = 0; i < 300; i++)
            Paint().AsSpan().SequenceEqual(first).ShouldBeTrue();
    }

    [Fact]
    public void What_is_no_such_file_stays_as_it_is()
    {
        byte[] other = [.. "%PDF-1.4\nstartxref\n0\n%%EOF"u8];
        PdfLanguage.Said(other, "sv").ShouldBe(other);
        PdfLanguage.Said([], "sv").ShouldBeEmpty();
    }
}
